"""Contact processes that were measured."""

import json
import sqlite3

from pydantic import BaseModel

from ..core.contact.process import ContactProcess, Reading
from ..errors import Conflict, NotFound
from .database import now


class KeptProcess(BaseModel):
    """A process of the shelf."""

    id: int
    name: str
    rounds: int
    base: float  # density
    black: float


def processes(connection: sqlite3.Connection) -> list[KeptProcess]:
    """All, by name."""
    rows = connection.execute(
        "SELECT id, name, rounds, readings FROM contact_processes ORDER BY name"
    )
    return [_kept(row) for row in rows]


def process(connection: sqlite3.Connection, process_id: int) -> ContactProcess:
    """One as it is computed with; raises NotFound."""
    row = connection.execute(
        "SELECT name, rounds, readings FROM contact_processes WHERE id = ?", (process_id,)
    ).fetchone()
    if row is None:
        raise NotFound(f"There is no contact process {process_id} on the shelf any more.")
    return _made(row)


def keep(
    connection: sqlite3.Connection, made: ContactProcess, process_id: int | None
) -> KeptProcess:
    """A new process, or a further round of one; raises NotFound, and Conflict for a name that is
    taken."""
    values = {
        "id": process_id, "name": made.name, "rounds": made.rounds, "at": now(),
        "readings": json.dumps([[r.ink, r.density] for r in made.readings]),
    }  # fmt: skip
    if process_id is None:
        statement = """
            INSERT INTO contact_processes (name, rounds, readings, made_at)
            VALUES (:name, :rounds, :readings, :at) RETURNING id, name, rounds, readings
        """
    else:
        statement = """
            UPDATE contact_processes SET name = :name, rounds = :rounds, readings = :readings
            WHERE id = :id RETURNING id, name, rounds, readings
        """
    try:
        row = connection.execute(statement, values).fetchone()
    except sqlite3.IntegrityError as error:
        raise Conflict(f"There is a process {made.name!r} already; take another name.") from error
    if row is None:
        raise NotFound(f"There is no contact process {process_id} on the shelf any more.")
    return _kept(row)


def remove(connection: sqlite3.Connection, process_id: int) -> None:
    """Raises NotFound."""
    if not connection.execute("DELETE FROM contact_processes WHERE id = ?", (process_id,)).rowcount:
        raise NotFound(f"There is no contact process {process_id} on the shelf any more.")


def _made(row: sqlite3.Row) -> ContactProcess:
    readings = tuple(Reading(ink, density) for ink, density in json.loads(row["readings"]))
    return ContactProcess(readings, row["rounds"], row["name"])


def _kept(row: sqlite3.Row) -> KeptProcess:
    made = _made(row)
    return KeptProcess(
        id=row["id"], name=made.name, rounds=made.rounds, base=made.base, black=made.black
    )
