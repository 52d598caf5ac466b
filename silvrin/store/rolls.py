"""Rolls and their frames."""

import sqlite3
from typing import Literal

from pydantic import BaseModel

from ..errors import NotFound
from ..files.metadata import Metadata
from .database import now

Mark = Literal["none", "ring", "dot", "cross"]


class Roll(BaseModel):
    """A set of captures."""

    id: int
    name: str
    frames: int
    ringed: int


class PrintSummary(BaseModel):
    """A print as the contact sheet shows it."""

    id: int
    name: str
    head: int


class Frame(BaseModel):
    """A capture on a roll."""

    id: int
    roll_id: int
    roll_name: str
    number: int
    title: str
    mark: Mark
    sha256: str
    file_name: str
    kind: str
    width: int
    height: int
    metadata: Metadata
    prints: list[PrintSummary]


_FRAME = """
    SELECT f.id, f.roll_id, r.name AS roll_name, f.number, f.title, f.mark, f.sha256,
           c.file_name, c.kind, c.width, c.height, c.metadata
    FROM frames f JOIN captures c USING (sha256) JOIN rolls r ON r.id = f.roll_id
"""


def all_rolls(connection: sqlite3.Connection) -> list[Roll]:
    """Every roll, oldest first."""
    rows = connection.execute(
        """
        SELECT r.id, r.name, count(f.id) AS frames, coalesce(sum(f.mark = 'ring'), 0) AS ringed
        FROM rolls r LEFT JOIN frames f ON f.roll_id = r.id GROUP BY r.id ORDER BY r.id
        """
    )
    return [Roll(**dict(row)) for row in rows]


def add_roll(connection: sqlite3.Connection, name: str) -> int:
    """A new roll; gives its id."""
    row = connection.execute(
        "INSERT INTO rolls (name, created_at) VALUES (:name, :at) RETURNING id",
        {"name": name, "at": now()},
    ).fetchone()
    return int(row["id"])


def frames_of(connection: sqlite3.Connection, roll_id: int) -> list[Frame]:
    """The frames of a roll in their order."""
    if not connection.execute("SELECT 1 FROM rolls WHERE id = ?", (roll_id,)).fetchone():
        raise NotFound(f"There is no roll {roll_id}.")
    rows = connection.execute(
        f"{_FRAME} WHERE f.roll_id = :roll ORDER BY f.number", {"roll": roll_id}
    ).fetchall()
    prints: dict[int, list[PrintSummary]] = {}
    for row in connection.execute(
        """
        SELECT p.id, p.name, p.head, p.frame_id FROM prints p JOIN frames f ON f.id = p.frame_id
        WHERE f.roll_id = :roll ORDER BY p.id
        """,
        {"roll": roll_id},
    ):
        prints.setdefault(row["frame_id"], []).append(
            PrintSummary(id=row["id"], name=row["name"], head=row["head"])
        )
    return [_frame(row, prints.get(row["id"], [])) for row in rows]


def frame(connection: sqlite3.Connection, frame_id: int) -> Frame:
    """One frame; raises NotFound."""
    row = connection.execute(f"{_FRAME} WHERE f.id = :id", {"id": frame_id}).fetchone()
    if row is None:
        raise NotFound(f"There is no frame {frame_id}.")
    prints = connection.execute(
        "SELECT id, name, head FROM prints WHERE frame_id = :id ORDER BY id", {"id": frame_id}
    )
    return _frame(row, [PrintSummary(**dict(p)) for p in prints])


def add_frame(connection: sqlite3.Connection, roll_id: int, sha256: str, title: str) -> int:
    """The next frame of a roll; a capture already on the roll keeps its frame."""
    known = connection.execute(
        "SELECT id FROM frames WHERE roll_id = :roll AND sha256 = :sha256",
        {"roll": roll_id, "sha256": sha256},
    ).fetchone()
    if known:
        return int(known["id"])
    row = connection.execute(
        """
        INSERT INTO frames (roll_id, number, sha256, title)
        SELECT :roll, coalesce(max(number), 0) + 1, :sha256, :title
        FROM frames WHERE roll_id = :roll RETURNING id
        """,
        {"roll": roll_id, "sha256": sha256, "title": title},
    ).fetchone()
    return int(row["id"])


def mark_frame(connection: sqlite3.Connection, frame_id: int, mark: Mark) -> None:
    """Set the grease pencil mark of a frame."""
    changed = connection.execute(
        "UPDATE frames SET mark = :mark WHERE id = :id", {"mark": mark, "id": frame_id}
    )
    if changed.rowcount == 0:
        raise NotFound(f"There is no frame {frame_id}.")


def _frame(row: sqlite3.Row, prints: list[PrintSummary]) -> Frame:
    values = dict(row)
    values["metadata"] = Metadata.model_validate_json(values["metadata"])
    return Frame(**values, prints=prints)
