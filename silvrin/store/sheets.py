"""Sheets of drawings, each kept once under its name (`core.recipe.drawings`)."""

import sqlite3
import threading
from collections import OrderedDict
from collections.abc import Iterable

from ..core.recipe import Recipe
from ..core.recipe.drawings import (
    PLAIN,
    Drawings,
    Sheet,
    Sheets,
    drawn,
    name_of,
    read_sheet,
    sheets_named,
    strokes_named,
    unknown,
)
from ..errors import NotFound

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
        named = sheets_named(recipe)
        if not named:
            return PLAIN
        known = {name: sheet for name, (_, sheet) in self._found(connection, named).items()}
        of_passes = [known[name] for name in recipe.enlarger.passes if name in known]
        strokes = strokes_named(each for sheet in of_passes for each in sheet.passes)
        known |= {name: sheet for name, (_, sheet) in self._found(connection, strokes).items()}
        return drawn(recipe, known)

    def keep(self, connection: sqlite3.Connection, recipe: Recipe) -> None:
        """Keep the sheets that a recipe names, and those that its passes do; raises BadRecipe when
        one is not known."""
        keep_sheets(connection, self.written(connection, recipe).texts.values())

    def written(self, connection: sqlite3.Connection, recipe: Recipe) -> Sheets:
        """The sheets that a recipe names, and those that its passes do; raises BadRecipe when one
        is not known."""
        found = self._found(connection, sheets_named(recipe))
        passes = [found[name][1].passes for name in recipe.enlarger.passes if name in found]
        strokes = strokes_named(each for own in passes for each in own)
        found |= self._found(connection, strokes)
        for name in (*sheets_named(recipe), *strokes):
            if name not in found:
                raise unknown(name)
        return Sheets({name: text for name, (text, _) in found.items()})

    def _found(
        self, connection: sqlite3.Connection, names: Iterable[str]
    ) -> dict[str, tuple[str, Sheet]]:
        """Texts and sheets of those names that are known."""
        known = {}
        for name in names:
            found = self._get(name)
            if found is None:
                try:
                    text = sheet_text(connection, name)
                except NotFound:
                    continue
                found = text, read_sheet(text)
                self._put(name, *found)
            known[name] = found
        return known

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
