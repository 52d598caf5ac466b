"""Rolls and their frames."""

import json
import sqlite3
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, TypeAdapter

from ..errors import NotFound
from ..files.metadata import Metadata
from .captures import capture
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
    bytes: int
    place: str | None  # of a capture that is referred to in place
    lost: bool  # it is not found at its place
    binned: bool
    metadata: Metadata
    edition: int  # of the shelf that its prints were made with: a part of their addresses
    prints: list[PrintSummary]  # in their order
    chosen: int | None  # the print that the sheet shows, of those

    @property
    def shown(self) -> PrintSummary | None:
        """The print that stands for the frame."""
        return next((p for p in self.prints if p.id == self.chosen), None)


# Of a frame `f`: its chosen print, or the last, of those that are not in the bin
_CHOSEN = """
    coalesce(
        (SELECT p.id FROM prints p WHERE p.id = f.chosen AND p.binned_at IS NULL),
        (SELECT p.id FROM prints p WHERE p.frame_id = f.id AND p.binned_at IS NULL
         ORDER BY p.position DESC, p.id DESC LIMIT 1)
    )
"""
FRAMES = TypeAdapter(list[Frame])

_FRAME = f"""
    SELECT f.id, f.roll_id, r.name AS roll_name, f.number, f.title, f.mark, f.sha256,
           c.file_name, c.kind, c.width, c.height, c.bytes, c.place,
           c.lost_at IS NOT NULL AS lost, f.binned_at IS NOT NULL AS binned, c.metadata,
           edition.value AS edition, {_CHOSEN} AS chosen
    FROM frames f JOIN captures c USING (sha256) JOIN rolls r ON r.id = f.roll_id
         JOIN counters edition ON edition.name = 'shelf edition'
"""

# The same as JSON, made by the database: a roll of ten thousand frames takes a tenth of a second
_FRAMES_AS_JSON = """
    WITH shown AS (
        SELECT f.id, f.number, json_object(
            'id', f.id, 'roll_id', f.roll_id, 'roll_name', r.name, 'number', f.number,
            'title', f.title, 'mark', f.mark, 'sha256', f.sha256, 'file_name', c.file_name,
            'kind', c.kind, 'width', c.width, 'height', c.height, 'bytes', c.bytes,
            'place', c.place, 'lost', json(iif(c.lost_at IS NULL, 'false', 'true')),
            'binned', json(iif(f.binned_at IS NULL, 'false', 'true')),
            'metadata', json(c.metadata), 'edition', edition.value,
            'chosen', {chosen},
            'prints', json(coalesce((
                SELECT json_group_array(json_object('id', p.id, 'name', p.name, 'head', p.head))
                FROM (SELECT id, name, head FROM prints
                      WHERE frame_id = f.id AND binned_at IS NULL ORDER BY position, id) p
            ), '[]'))
        ) AS text
        FROM frames f JOIN captures c USING (sha256) JOIN rolls r ON r.id = f.roll_id
             JOIN counters edition ON edition.name = 'shelf edition'
        WHERE {where} ORDER BY {order}
    )
    SELECT '[' || coalesce(group_concat(text, ','), '') || ']' AS frames FROM shown
"""


def all_rolls(connection: sqlite3.Connection) -> list[Roll]:
    """Every roll, oldest first."""
    rows = connection.execute(
        """
        SELECT r.id, r.name, count(f.id) AS frames, coalesce(sum(f.mark = 'ring'), 0) AS ringed
        FROM rolls r LEFT JOIN frames f ON f.roll_id = r.id AND f.binned_at IS NULL
        WHERE r.binned_at IS NULL GROUP BY r.id ORDER BY r.id
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


def bin_if_empty(connection: sqlite3.Connection, roll_id: int) -> None:
    """Take a roll away that never had a frame."""
    connection.execute(
        """
        UPDATE rolls SET binned_at = :at
        WHERE id = :id AND NOT EXISTS (SELECT 1 FROM frames WHERE roll_id = :id)
        """,
        {"id": roll_id, "at": now()},
    )


def rename_roll(connection: sqlite3.Connection, roll_id: int, name: str) -> None:
    """Give a roll another name; raises NotFound."""
    changed = connection.execute("UPDATE rolls SET name = ? WHERE id = ?", (name, roll_id))
    if changed.rowcount == 0:
        raise NotFound(f"There is no roll {roll_id}.")


def check_roll(connection: sqlite3.Connection, roll_id: int) -> None:
    """Raises NotFound when there is no such roll."""
    if not connection.execute("SELECT 1 FROM rolls WHERE id = ?", (roll_id,)).fetchone():
        raise NotFound(f"There is no roll {roll_id}.")


def frames_json(connection: sqlite3.Connection, roll_id: int) -> str:
    """The frames of a roll in their order as JSON, each as `Frame` has it."""
    check_roll(connection, roll_id)
    text = _FRAMES_AS_JSON.format(
        chosen=_CHOSEN, where="f.roll_id = :roll AND f.binned_at IS NULL", order="f.number"
    )
    return str(connection.execute(text, {"roll": roll_id}).fetchone()["frames"])


def some_frames_json(connection: sqlite3.Connection, ids: list[int]) -> str:
    """Frames by id as JSON, each as `Frame` has it; those that are not there are left out."""
    text = _FRAMES_AS_JSON.format(
        chosen=_CHOSEN, where="f.id IN (SELECT value FROM json_each(:ids))", order="f.number"
    )
    return str(connection.execute(text, {"ids": json.dumps(ids)}).fetchone()["frames"])


def binned_json(connection: sqlite3.Connection) -> str:
    """The frames in the bin as JSON, last put there first."""
    text = _FRAMES_AS_JSON.format(
        chosen=_CHOSEN,
        where="f.binned_at IS NOT NULL",
        order="f.binned_at DESC, f.roll_id, f.number",
    )
    return str(connection.execute(text).fetchone()["frames"])


def frames_of(connection: sqlite3.Connection, roll_id: int) -> list[Frame]:
    """The frames of a roll in their order."""
    return FRAMES.validate_json(frames_json(connection, roll_id))


def frame(connection: sqlite3.Connection, frame_id: int) -> Frame:
    """One frame; raises NotFound."""
    row = connection.execute(f"{_FRAME} WHERE f.id = :id", {"id": frame_id}).fetchone()
    if row is None:
        raise NotFound(f"There is no frame {frame_id}.")
    prints = connection.execute(
        """
        SELECT id, name, head FROM prints WHERE frame_id = :id AND binned_at IS NULL
        ORDER BY position, id
        """,
        {"id": frame_id},
    )
    return _frame(row, [PrintSummary(**dict(p)) for p in prints])


def add_frame(connection: sqlite3.Connection, roll_id: int, sha256: str, title: str) -> int:
    """The next frame of a roll; a capture already on the roll keeps its frame, also out of the
    bin."""
    known = connection.execute(
        "SELECT id FROM frames WHERE roll_id = :roll AND sha256 = :sha256",
        {"roll": roll_id, "sha256": sha256},
    ).fetchone()
    if known:
        restore_frames(connection, [known["id"]])
        return int(known["id"])
    row = connection.execute(
        """
        INSERT INTO frames (roll_id, number, sha256, title, words, taken, exposed)
        VALUES (
            :roll, 1 + coalesce((SELECT max(number) FROM frames WHERE roll_id = :roll), 0),
            :sha256, :title, :words, :taken, :exposed
        ) RETURNING id
        """,
        {"roll": roll_id, "title": title, **_sought_by(connection, sha256, title)},
    ).fetchone()
    return int(row["id"])


def _sought_by(connection: sqlite3.Connection, sha256: str, title: str) -> dict[str, Any]:
    """What a frame that shows a capture is found and ordered by."""
    shown = capture(connection, sha256)
    metadata = Metadata.model_validate_json(shown.metadata)
    words = (shown.file_name, title, metadata.camera, metadata.lens, metadata.taken)
    return {
        "sha256": sha256,
        "words": "\n".join(word for word in words if word).casefold(),
        "taken": metadata.taken,
        "exposed": metadata.exposure_value,
    }


@dataclass(frozen=True)
class Sighting:
    """A frame on a sheet that shows a capture."""

    frame: int
    roll: int


def where_known(connection: sqlite3.Connection, sha256: str) -> list[Sighting]:
    """Frames on the sheets that show a capture."""
    rows = connection.execute(
        """
        SELECT id AS frame, roll_id AS roll FROM frames
        WHERE sha256 = :sha256 AND binned_at IS NULL ORDER BY id
        """,
        {"sha256": sha256},
    )
    return [Sighting(**dict(row)) for row in rows]


def move_frames(connection: sqlite3.Connection, frame_ids: list[int], roll_id: int) -> list[int]:
    """Put frames at the end of another roll, in the order given, with their prints. One whose
    capture is there already stays where it is; these are given. Raises NotFound."""
    check_roll(connection, roll_id)
    staying = []
    for frame_id in frame_ids:
        here = frame(connection, frame_id)
        there = connection.execute(
            "SELECT 1 FROM frames WHERE roll_id = ? AND sha256 = ?", (roll_id, here.sha256)
        ).fetchone()
        if here.roll_id == roll_id:
            continue
        if there:
            staying.append(frame_id)
            continue
        connection.execute(
            """
            UPDATE frames SET roll_id = :roll, number =
                (SELECT coalesce(max(number), 0) + 1 FROM frames WHERE roll_id = :roll)
            WHERE id = :id
            """,
            {"roll": roll_id, "id": frame_id},
        )
    return staying


def show_capture(connection: sqlite3.Connection, frame_id: int, sha256: str) -> None:
    """A frame shows another capture from now on, with its prints."""
    title = frame(connection, frame_id).title
    connection.execute(
        """
        UPDATE frames SET sha256 = :sha256, words = :words, taken = :taken, exposed = :exposed
        WHERE id = :id
        """,
        {"id": frame_id, **_sought_by(connection, sha256, title)},
    )


def bin_frames(connection: sqlite3.Connection, frame_ids: list[int]) -> None:
    """Take frames off the sheet; they can be put back."""
    connection.executemany(
        "UPDATE frames SET binned_at = ? WHERE id = ?", [(now(), id) for id in frame_ids]
    )


def restore_frames(connection: sqlite3.Connection, frame_ids: list[int]) -> None:
    """Put frames back on their rolls, which come back too."""
    connection.executemany(
        "UPDATE frames SET binned_at = NULL WHERE id = ?", [(id,) for id in frame_ids]
    )
    connection.executemany(
        """
        UPDATE rolls SET binned_at = NULL WHERE id = (SELECT roll_id FROM frames WHERE id = ?)
        """,
        [(id,) for id in frame_ids],
    )


def bin_roll(connection: sqlite3.Connection, roll_id: int) -> None:
    """Take a roll and its frames off the sheet; raises NotFound."""
    check_roll(connection, roll_id)
    values = {"at": now(), "roll": roll_id}
    connection.execute(
        "UPDATE frames SET binned_at = :at WHERE roll_id = :roll AND binned_at IS NULL", values
    )
    connection.execute("UPDATE rolls SET binned_at = :at WHERE id = :roll", values)


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
