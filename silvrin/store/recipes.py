"""Kept recipes."""

import json
import sqlite3

from pydantic import BaseModel

from ..core.recipe.kept import KeptRecipe
from ..errors import Conflict, NotFound
from .database import now


class RecipeEntry(BaseModel):
    """A kept recipe, and what it holds."""

    id: int
    name: str
    note: str
    group: str
    binned: bool
    holds: dict[str, list[str]]  # fields by station


def _entry(row: sqlite3.Row) -> RecipeEntry:
    fields = json.loads(row["document"])["fields"]
    return RecipeEntry(
        id=row["id"],
        name=row["name"],
        note=row["note"],
        group=row["grouped"],
        binned=row["binned_at"] is not None,
        holds={station: list(own) for station, own in fields.items() if own},
    )


def recipes(connection: sqlite3.Connection) -> list[RecipeEntry]:
    """All of them by group and name, also those in the bin."""
    rows = connection.execute("SELECT * FROM recipes ORDER BY grouped, name, id")
    return [_entry(row) for row in rows]


def entry(connection: sqlite3.Connection, recipe_id: int) -> RecipeEntry:
    """One of them; raises NotFound."""
    return _entry(_row(connection, recipe_id))


def kept(connection: sqlite3.Connection, recipe_id: int) -> KeptRecipe:
    """A kept recipe with its fields; raises NotFound."""
    row = _row(connection, recipe_id)
    document = json.loads(row["document"])
    return KeptRecipe(name=row["name"], note=row["note"], group=row["grouped"], **document)


def _row(connection: sqlite3.Connection, recipe_id: int) -> sqlite3.Row:
    row: sqlite3.Row | None = connection.execute(
        "SELECT * FROM recipes WHERE id = ?", (recipe_id,)
    ).fetchone()
    if row is None:
        raise NotFound(f"There is no recipe {recipe_id}.")
    return row


def add_recipe(connection: sqlite3.Connection, of: KeptRecipe) -> RecipeEntry:
    """Keep a recipe; raises Conflict when there is one of its name."""
    _check_name(connection, of.name, None)
    row = connection.execute(
        """
        INSERT INTO recipes (name, note, grouped, document, made_at)
        VALUES (:name, :note, :grouped, :document, :at) RETURNING id
        """,
        {**_values(of), "at": now()},
    ).fetchone()
    return entry(connection, row["id"])


def change_recipe(connection: sqlite3.Connection, recipe_id: int, to: KeptRecipe) -> RecipeEntry:
    """Put a recipe in the place of another one; raises NotFound, and Conflict when there is a
    further one of its name."""
    _row(connection, recipe_id)
    _check_name(connection, to.name, recipe_id)
    connection.execute(
        """
        UPDATE recipes SET name = :name, note = :note, grouped = :grouped, document = :document
        WHERE id = :id
        """,
        {**_values(to), "id": recipe_id},
    )
    return entry(connection, recipe_id)


def bin_recipe(connection: sqlite3.Connection, recipe_id: int) -> None:
    """Put a recipe in the bin; raises NotFound."""
    _row(connection, recipe_id)
    connection.execute("UPDATE recipes SET binned_at = ? WHERE id = ?", (now(), recipe_id))


def restore_recipe(connection: sqlite3.Connection, recipe_id: int) -> None:
    """Take a recipe out of the bin; raises NotFound, and Conflict when there is another one of its
    name by now."""
    _check_name(connection, _row(connection, recipe_id)["name"], recipe_id)
    connection.execute("UPDATE recipes SET binned_at = NULL WHERE id = ?", (recipe_id,))


def ringed(connection: sqlite3.Connection) -> list[str]:
    """The starting prints and recipes that are ringed, by name."""
    return [row["name"] for row in connection.execute("SELECT name FROM ringed ORDER BY name")]


def ring(connection: sqlite3.Connection, name: str, on: bool) -> None:
    """Ring a starting print or a recipe, or no longer."""
    if on:
        connection.execute("INSERT OR IGNORE INTO ringed (name) VALUES (?)", (name,))
    else:
        connection.execute("DELETE FROM ringed WHERE name = ?", (name,))


def _values(of: KeptRecipe) -> dict[str, str]:
    document = of.model_dump(mode="json", include={"fields", "mixture"})
    return {
        "name": of.name,
        "note": of.note,
        "grouped": of.group,
        "document": json.dumps(document, ensure_ascii=False),
    }


def _check_name(connection: sqlite3.Connection, name: str, own: int | None) -> None:
    taken = connection.execute(
        "SELECT 1 FROM recipes WHERE name = :name AND binned_at IS NULL AND id IS NOT :own",
        {"name": name, "own": own},
    ).fetchone()
    if taken:
        raise Conflict(
            f"There is a recipe called {name!r} already. Choose another name, or update that one."
        )
