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


class PrintEntry(BaseModel):
    """A print of a frame, among its others."""

    id: int
    name: str
    head: int
    binned: bool


class State(BaseModel):
    """A state that a print had."""

    id: int  # of the change that made it
    parent: int | None  # the state it was made of
    label: str
    made_at: str  # UTC, ISO 8601
    proof: str | None  # its name, where it is kept as a proof


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


def last_changed(connection: sqlite3.Connection) -> Print:
    """The print that was changed last, of those that are not in the bin; raises NotFound."""
    row = connection.execute(
        """
        SELECT p.id FROM changes c JOIN prints p ON p.id = c.print_id
            JOIN frames f ON f.id = p.frame_id
        WHERE p.binned_at IS NULL AND f.binned_at IS NULL ORDER BY c.id DESC LIMIT 1
        """
    ).fetchone()
    if row is None:
        raise NotFound("There is no print yet. Make one first.")
    return get_print(connection, int(row["id"]))


def recipe_of(connection: sqlite3.Connection, change_id: int) -> Recipe:
    """The state of a print after a change; raises NotFound."""
    row = connection.execute("SELECT recipe FROM changes WHERE id = ?", (change_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no change {change_id}; its frame was taken out of the bin.")
    return Recipe.model_validate_json(row["recipe"])


def add_print(connection: sqlite3.Connection, frame_id: int, name: str, recipe: Recipe) -> Print:
    """A new print of a frame."""
    _check_frame(connection, frame_id)
    made = _add(connection, frame_id, name)
    _add_change(connection, made, None, recipe, "New print")
    return get_print(connection, made)


def _add(connection: sqlite3.Connection, frame_id: int, name: str) -> int:
    """A print after the others of its frame, which shows it from now on; gives its id."""
    row = connection.execute(
        """
        INSERT INTO prints (frame_id, name, position) VALUES (
            :frame, :name, 1 + coalesce((SELECT max(position) FROM prints), 0)
        ) RETURNING id
        """,
        {"frame": frame_id, "name": name},
    ).fetchone()
    choose_print(connection, int(row["id"]))
    return int(row["id"])


def copy_print(connection: sqlite3.Connection, print_id: int, name: str) -> Print:
    """A further print of the same frame, that begins as another one is."""
    of = get_print(connection, print_id)
    made = _add(connection, of.frame_id, name)
    _add_change(connection, made, None, of.recipe, f"Copy of {of.name}"[:120])
    return get_print(connection, made)


def prints_of(connection: sqlite3.Connection, frame_id: int) -> list[PrintEntry]:
    """The prints of a frame in their order, also those in the bin; raises NotFound."""
    _check_frame(connection, frame_id)
    rows = connection.execute(
        """
        SELECT id, name, head, binned_at IS NOT NULL AS binned FROM prints
        WHERE frame_id = :id ORDER BY position, id
        """,
        {"id": frame_id},
    )
    return [PrintEntry(**dict(row)) for row in rows]


def rename_print(connection: sqlite3.Connection, print_id: int, name: str) -> None:
    """Give a print another name; raises NotFound."""
    _set(connection, print_id, "name", name)


def choose_print(connection: sqlite3.Connection, print_id: int) -> None:
    """Let the contact sheet show a print; raises NotFound."""
    changed = connection.execute(
        """
        UPDATE frames SET chosen = :id WHERE id = (SELECT frame_id FROM prints WHERE id = :id)
        """,
        {"id": print_id},
    )
    if changed.rowcount == 0:
        raise NotFound(f"There is no print {print_id}.")


def bin_print(connection: sqlite3.Connection, print_id: int) -> None:
    """Put a print in the bin, where it stays until that is emptied; raises NotFound."""
    _set(connection, print_id, "binned_at", now())


def restore_print(connection: sqlite3.Connection, print_id: int) -> None:
    """Take a print out of the bin; raises NotFound."""
    _set(connection, print_id, "binned_at", None)


def order_prints(connection: sqlite3.Connection, frame_id: int, ids: list[int]) -> None:
    """Put the prints of a frame in an order; raises NotFound for one that is not its, and Conflict
    when one is missing."""
    there = {entry.id for entry in prints_of(connection, frame_id)}
    for print_id in ids:
        if print_id not in there:
            raise NotFound(f"There is no print {print_id} of frame {frame_id}.")
    if len(set(ids)) != len(ids) or set(ids) != there:
        raise Conflict(
            f"Frame {frame_id} has the prints {sorted(there)}; an order names each of them once."
        )
    connection.executemany(
        "UPDATE prints SET position = ? WHERE id = ?", [(i + 1, id) for i, id in enumerate(ids)]
    )


def _set(connection: sqlite3.Connection, print_id: int, field: str, value: str | None) -> None:
    changed = connection.execute(
        f"UPDATE prints SET {field} = :value WHERE id = :id", {"value": value, "id": print_id}
    )
    if changed.rowcount == 0:
        raise NotFound(f"There is no print {print_id}.")


def _check_frame(connection: sqlite3.Connection, frame_id: int) -> None:
    if not connection.execute("SELECT 1 FROM frames WHERE id = ?", (frame_id,)).fetchone():
        raise NotFound(f"There is no frame {frame_id}.")


def history(connection: sqlite3.Connection, print_id: int) -> list[State]:
    """Every state that a print had, oldest first; raises NotFound."""
    get_print(connection, print_id)
    rows = connection.execute(
        "SELECT id, parent, label, made_at, proof FROM changes WHERE print_id = :id ORDER BY id",
        {"id": print_id},
    )
    return [State(**dict(row)) for row in rows]


def check_state(connection: sqlite3.Connection, print_id: int, state: int) -> None:
    """Raises NotFound where that is no state of a print."""
    row = connection.execute(
        "SELECT 1 FROM changes WHERE id = :state AND print_id = :id",
        {"state": state, "id": print_id},
    ).fetchone()
    if row is None:
        raise NotFound(f"There is no state {state} of print {print_id}.")


def go_to(connection: sqlite3.Connection, print_id: int, base: int, state: int) -> Print:
    """To any state that the print had; nothing is lost. Raises NotFound, and Conflict when the
    print has moved on meanwhile."""
    _check_base(connection, print_id, base)
    check_state(connection, print_id, state)
    connection.execute(
        "UPDATE prints SET head = :state WHERE id = :id", {"state": state, "id": print_id}
    )
    return get_print(connection, print_id)


def keep_proof(connection: sqlite3.Connection, print_id: int, state: int, name: str | None) -> None:
    """Keep a state as a proof under a name, or no longer; raises NotFound."""
    check_state(connection, print_id, state)
    connection.execute(
        "UPDATE changes SET proof = :name WHERE id = :id", {"name": name, "id": state}
    )


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
