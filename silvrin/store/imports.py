"""Folders being taken in, kept so that they go on when the server is started again."""

import sqlite3
from typing import Literal

from pydantic import BaseModel

from ..errors import NotFound
from .database import now

Outcome = Literal["waiting", "taken", "known", "refused", "left"]
State = Literal["running", "done", "cancelled", "stopped"]


class ImportFile(BaseModel):
    """A file of an import and what became of it."""

    number: int
    path: str  # below the folder
    outcome: Outcome
    reason: str | None
    frame_id: int | None


class FolderImport(BaseModel):
    """A folder being taken in, as it stands."""

    id: int
    roll_id: int
    folder: str
    keep: Literal["copy", "refer"]
    again: bool
    state: State
    error: str | None
    total: int
    taken: int
    known: int
    refused: int
    left: int
    waiting: int
    seconds_left: float | None = None
    now: str | None = None  # the file that is worked on


_IMPORT = """
    SELECT i.id, i.roll_id, i.folder, i.keep, i.again, i.state, i.error, count(f.number) AS total,
           coalesce(sum(f.outcome = 'taken'), 0) AS taken,
           coalesce(sum(f.outcome = 'known'), 0) AS known,
           coalesce(sum(f.outcome = 'refused'), 0) AS refused,
           coalesce(sum(f.outcome = 'left'), 0) AS left,
           coalesce(sum(f.outcome = 'waiting'), 0) AS waiting
    FROM imports i LEFT JOIN import_files f ON f.import_id = i.id
"""


def add_import(
    connection: sqlite3.Connection,
    roll_id: int,
    folder: str,
    keep: str,
    again: bool,
    paths: list[str],
) -> int:
    """Remember a folder that is to be taken in, with its files in their order; gives its id."""
    row = connection.execute(
        """
        INSERT INTO imports (roll_id, folder, keep, again, made_at)
        VALUES (:roll, :folder, :keep, :again, :at) RETURNING id
        """,
        {"roll": roll_id, "folder": folder, "keep": keep, "again": int(again), "at": now()},
    ).fetchone()
    connection.executemany(
        "INSERT INTO import_files (import_id, number, path) VALUES (?, ?, ?)",
        [(row["id"], number, path) for number, path in enumerate(paths)],
    )
    return int(row["id"])


def get_import(connection: sqlite3.Connection, import_id: int) -> FolderImport:
    """An import; raises NotFound."""
    row = connection.execute(f"{_IMPORT} WHERE i.id = ? GROUP BY i.id", (import_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no import {import_id}.")
    return FolderImport(**dict(row))


def running(connection: sqlite3.Connection) -> list[int]:
    """Imports that are not finished."""
    rows = connection.execute("SELECT id FROM imports WHERE state = 'running' ORDER BY id")
    return [int(row["id"]) for row in rows]


def recent(connection: sqlite3.Connection) -> list[FolderImport]:
    """Those that run or wait, and those that ended and were not put away, newest first."""
    rows = connection.execute(
        f"""
        {_IMPORT} WHERE i.put_away = 0 GROUP BY i.id
        ORDER BY i.state IN ('running', 'stopped') DESC, i.id DESC
        """
    )
    return [FolderImport(**dict(row)) for row in rows]


def put_away(connection: sqlite3.Connection, import_id: int) -> None:
    """The report of an import was read."""
    connection.execute("UPDATE imports SET put_away = 1 WHERE id = ?", (import_id,))


def files_of(connection: sqlite3.Connection, import_id: int) -> list[ImportFile]:
    """The files of an import in their order."""
    rows = connection.execute(
        """
        SELECT number, path, outcome, reason, frame_id FROM import_files
        WHERE import_id = ? ORDER BY number
        """,
        (import_id,),
    )
    return [ImportFile(**dict(row)) for row in rows]


def waiting_files(connection: sqlite3.Connection, import_id: int) -> list[tuple[int, str]]:
    """Files that nothing was done with yet: number and path."""
    rows = connection.execute(
        """
        SELECT number, path FROM import_files WHERE import_id = ? AND outcome = 'waiting'
        ORDER BY number
        """,
        (import_id,),
    )
    return [(int(row["number"]), str(row["path"])) for row in rows]


def set_outcome(
    connection: sqlite3.Connection,
    import_id: int,
    number: int,
    outcome: Outcome,
    reason: str | None = None,
    frame_id: int | None = None,
) -> None:
    """What became of a file."""
    connection.execute(
        """
        UPDATE import_files SET outcome = :outcome, reason = :reason, frame_id = :frame
        WHERE import_id = :id AND number = :number
        """,
        {"outcome": outcome, "reason": reason, "frame": frame_id, "id": import_id,
         "number": number},
    )  # fmt: skip


def set_state(
    connection: sqlite3.Connection, import_id: int, state: State, error: str | None = None
) -> None:
    """How an import stands; `error` says why it stopped."""
    connection.execute(
        "UPDATE imports SET state = ?, error = ? WHERE id = ?", (state, error, import_id)
    )
