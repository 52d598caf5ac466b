"""Prints and every change that was ever made to them."""

import sqlite3

from pydantic import BaseModel

from ..core.recipe import Recipe
from ..errors import Conflict, NotFound
from .database import now


class Print(BaseModel):
    """A print as it stands."""

    id: int
    frame_id: int
    name: str
    head: int  # the change that is shown; give it back when changing the print
    label: str  # what the last change was
    undo: str | None  # what undo would take back
    redo: str | None  # what redo would bring back
    recipe: Recipe


def get_print(connection: sqlite3.Connection, print_id: int) -> Print:
    """A print; raises NotFound."""
    row = connection.execute(
        """
        SELECT p.id, p.frame_id, p.name, p.head, c.label, c.parent, c.recipe,
               (SELECT n.label FROM changes n WHERE n.parent = c.id
                ORDER BY n.id DESC LIMIT 1) AS redo
        FROM prints p JOIN changes c ON c.id = p.head WHERE p.id = :id
        """,
        {"id": print_id},
    ).fetchone()
    if row is None:
        raise NotFound(f"There is no print {print_id}.")
    return Print(
        id=row["id"],
        frame_id=row["frame_id"],
        name=row["name"],
        head=row["head"],
        label=row["label"],
        undo=row["label"] if row["parent"] is not None else None,
        redo=row["redo"],
        recipe=Recipe.model_validate_json(row["recipe"]),
    )


def recipe_of(connection: sqlite3.Connection, change_id: int) -> Recipe:
    """The state of a print after a change; raises NotFound."""
    row = connection.execute("SELECT recipe FROM changes WHERE id = ?", (change_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no change {change_id}; its frame was taken out of the bin.")
    return Recipe.model_validate_json(row["recipe"])


def add_print(connection: sqlite3.Connection, frame_id: int, name: str, recipe: Recipe) -> Print:
    """A new print of a frame."""
    if not connection.execute("SELECT 1 FROM frames WHERE id = ?", (frame_id,)).fetchone():
        raise NotFound(f"There is no frame {frame_id}.")
    row = connection.execute(
        "INSERT INTO prints (frame_id, name) VALUES (:frame, :name) RETURNING id",
        {"frame": frame_id, "name": name},
    ).fetchone()
    _add_change(connection, int(row["id"]), None, recipe, "New print")
    return get_print(connection, int(row["id"]))


def change_print(
    connection: sqlite3.Connection, print_id: int, base: int, recipe: Recipe, label: str
) -> Print:
    """Add a change on top of `base`; raises Conflict when the print has moved on meanwhile."""
    _check_base(connection, print_id, base)
    _add_change(connection, print_id, base, recipe, label)
    return get_print(connection, print_id)


def undo(connection: sqlite3.Connection, print_id: int, base: int) -> Print:
    """Back to the change before; at the first one nothing happens."""
    _check_base(connection, print_id, base)
    connection.execute(
        """
        UPDATE prints SET head = coalesce((SELECT parent FROM changes WHERE id = :base), head)
        WHERE id = :id
        """,
        {"id": print_id, "base": base},
    )
    return get_print(connection, print_id)


def redo(connection: sqlite3.Connection, print_id: int, base: int) -> Print:
    """Forward to the newest change made on this one; at the last one nothing happens."""
    _check_base(connection, print_id, base)
    connection.execute(
        """
        UPDATE prints SET head = coalesce((SELECT max(id) FROM changes WHERE parent = :base), head)
        WHERE id = :id
        """,
        {"id": print_id, "base": base},
    )
    return get_print(connection, print_id)


def _check_base(connection: sqlite3.Connection, print_id: int, base: int) -> None:
    head = get_print(connection, print_id).head
    if head != base:
        raise Conflict(
            f"This print was changed elsewhere (it is at change {head}, this window at {base}). "
            "Nothing was overwritten; go on from the state it has now."
        )


def _add_change(
    connection: sqlite3.Connection, print_id: int, parent: int | None, recipe: Recipe, label: str
) -> None:
    row = connection.execute(
        """
        INSERT INTO changes (print_id, parent, label, recipe, made_at)
        VALUES (:print_id, :parent, :label, :recipe, :at) RETURNING id
        """,
        {
            "print_id": print_id,
            "parent": parent,
            "label": label,
            "recipe": recipe.model_dump_json(),
            "at": now(),
        },
    ).fetchone()
    connection.execute(
        "UPDATE prints SET head = :head WHERE id = :id", {"head": row["id"], "id": print_id}
    )
