"""Sheets of drawings, each kept once under its name (`core.recipe.drawings`)."""

import sqlite3
import threading
from collections import OrderedDict
from collections.abc import Iterable

from ..core.recipe import Recipe
from ..core.recipe.drawings import PLAIN, Drawings, Sheet, drawn, name_of, read_sheet
from ..errors import BadRecipe, NotFound

KEPT = 2000  # sheets in memory


def sheet_text(connection: sqlite3.Connection, name: str) -> str:
    """A sheet that is kept; raises NotFound."""
    row = connection.execute("SELECT document FROM sheets WHERE name = ?", (name,)).fetchone()
    if row is None:
        raise NotFound(f"There is no sheet of drawings {name}.")
    return str(row["document"])


def keep_sheets(connection: sqlite3.Connection, texts: Iterable[str]) -> None:
    """Keep sheets; those that are kept already stay."""
    connection.executemany(
        "INSERT INTO sheets (name, document) VALUES (:name, :document) ON CONFLICT DO NOTHING",
        [{"name": name_of(text), "document": text} for text in texts],
    )


def sheets_named(recipe: Recipe) -> tuple[str, ...]:
    """The names of the sheets of a recipe."""
    return (*recipe.capture.mends, *recipe.capture.protected)


class SheetRoom:
    """Sheets as they are worked with: those that were kept, and those that a window has sent with
    what it is doing just now."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, tuple[str, Sheet]] = OrderedDict()
        self._lock = threading.Lock()

    def take(self, texts: Iterable[str]) -> None:
        """Take sheets in; raises BadRecipe for one that does not hold."""
        for text in texts:
            name = name_of(text)
            if not self._get(name):
                self._put(name, text, read_sheet(text))

    def drawings(self, connection: sqlite3.Connection, recipe: Recipe) -> Drawings:
        """What is on the sheets of a recipe; raises BadRecipe when one is not known."""
        names = sheets_named(recipe)
        if not names:
            return PLAIN
        known = {}
        for name in names:
            found = self._get(name)
            if found is None:
                try:
                    text = sheet_text(connection, name)
                except NotFound:
                    continue  # `drawn` says so
                found = text, read_sheet(text)
                self._put(name, *found)
            known[name] = found[1]
        return drawn(recipe.capture.mends, recipe.capture.protected, known)

    def keep(self, connection: sqlite3.Connection, recipe: Recipe) -> None:
        """Keep the sheets that a recipe names; raises BadRecipe when one is not known."""
        missing = []
        for name in sheets_named(recipe):
            if connection.execute("SELECT 1 FROM sheets WHERE name = ?", (name,)).fetchone():
                continue
            found = self._get(name)
            if found is None:
                raise BadRecipe(
                    f"The recipe names a sheet of drawings {name} that is not known here. "
                    "Send the sheet with the recipe."
                )
            missing.append(found[0])
        keep_sheets(connection, missing)

    def _get(self, name: str) -> tuple[str, Sheet] | None:
        with self._lock:
            if name in self._known:
                self._known.move_to_end(name)
            return self._known.get(name)

    def _put(self, name: str, text: str, sheet: Sheet) -> None:
        with self._lock:
            self._known[name] = text, sheet
            while len(self._known) > KEPT:
                self._known.popitem(last=False)
