"""Merged brackets: a capture of its own that is kept as the list of its sources.

The original is a small JSON file that names the frames it is merged from and how; the light is made
from them whenever it is not in the cache, so nothing half-made can be kept and it can be merged
again.
"""

import json
import sqlite3
from collections.abc import Sequence
from datetime import datetime
from itertools import groupby
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from ..errors import BadCapture, NotFound
from ..files.metadata import Metadata

MOST_FRAMES = 15
MOST_SECONDS = 20.0  # between frames of a bracket
SIDE = 0.3  # stops by which neighbours in a bracket differ at least
AGAIN = 0.15  # stops within which an exposure is the same again
PAIR_STOPS, PAIR_SECONDS = 1.5, 4.0  # of two frames that are a bracket by themselves

_Facts = tuple[int, int, int, Metadata]  # id, width, height and what the file says


class Source(BaseModel):
    """A frame of a bracket."""

    model_config = ConfigDict(extra="forbid")
    sha256: str
    exposure: float = Field(gt=0, description="Beside the others': times as much light.")


class MergeFile(BaseModel):
    """What a merged capture is made from."""

    model_config = ConfigDict(extra="forbid")
    format: Literal["silvrin-merge-1"] = "silvrin-merge-1"
    sources: list[Source] = Field(min_length=2, max_length=MOST_FRAMES)
    reference: int = Field(ge=0)
    ghosts: float = Field(0.5, ge=0, le=1)


def exposure_of(metadata: Metadata, name: str) -> float:
    """How much light a frame got beside another one; raises BadCapture when its file does not
    say."""
    value = metadata.exposure_value
    if value is None or not metadata.sensitivity:
        raise BadCapture(
            f"{name}: the file does not say shutter time, f-number and ISO; a bracket needs them."
        )
    return float(2.0**-value)


def find_brackets(connection: sqlite3.Connection, roll_id: int) -> list[list[int]]:
    """Frames of a roll that look like brackets by what their files say, and are not merged yet."""
    merged = {
        str(row["title"])
        for row in connection.execute(
            """
            SELECT f.title FROM captures c CROSS JOIN frames f USING (sha256)
            WHERE c.kind = 'merged' AND f.roll_id = ? AND f.binned_at IS NULL
            """,
            (roll_id,),
        )
    }
    # by the database first, so that a large roll is not read whole
    near = connection.execute(
        """
        WITH sheet AS (
            SELECT id, title, sha256, row_number() OVER up AS place,
                abs(exposed - lag(exposed) OVER up) >= :side
                AND abs(julianday(taken) - julianday(lag(taken) OVER up)) * 86400 <= :seconds
                AS follows
            FROM frames WHERE roll_id = :roll AND binned_at IS NULL
                AND sha256 NOT IN (SELECT sha256 FROM captures WHERE kind = 'merged')
            WINDOW up AS (ORDER BY number)
        ), near AS (
            SELECT place FROM sheet WHERE follows UNION SELECT place - 1 FROM sheet WHERE follows
        )
        SELECT s.place, s.id, s.title, c.width, c.height, c.metadata
        FROM near JOIN sheet s USING (place) JOIN captures c USING (sha256) ORDER BY s.place
        """,
        {"roll": roll_id, "side": SIDE, "seconds": MOST_SECONDS + 1},
    ).fetchall()
    titles = {int(row["id"]): str(row["title"]) for row in near}
    found: list[list[int]] = []
    for _, run in groupby(enumerate(near), lambda item: item[1]["place"] - item[0]):
        found += brackets_of(
            [
                (r["id"], r["width"], r["height"], Metadata.model_validate_json(r["metadata"]))
                for _, r in run
            ]
        )
    left = {str(r["frames"]) for r in connection.execute("SELECT frames FROM brackets_left")}
    return [
        bracket
        for bracket in found
        if json.dumps(bracket) not in left
        and not any(f"{titles[frame]}, merged" in merged for frame in bracket)
    ]


def leave_bracket(connection: sqlite3.Connection, frames: list[int]) -> None:
    """Frames that look like a bracket are none; it is not offered again. Raises NotFound."""
    if not connection.execute("SELECT 1 FROM frames WHERE id = ?", (frames[0],)).fetchone():
        raise NotFound(f"There is no frame {frames[0]}.")
    connection.execute(
        """
        INSERT INTO brackets_left (first_frame, frames) VALUES (:first, :frames)
        ON CONFLICT (first_frame) DO UPDATE SET frames = :frames
        """,
        {"first": frames[0], "frames": json.dumps(frames)},
    )


def brackets_of(frames: Sequence[_Facts]) -> list[list[int]]:
    """Which frames (id, width, height, metadata), in their order, are brackets by what their files
    say: one after the other, of one camera and size, taken within seconds, each exposed
    differently. An exposure that comes again begins the next one. Two alone must lie far apart in
    light and be taken at once: a stop more a while later is a second try, not a bracket."""
    groups: list[list[_Facts]] = []
    for frame in frames:
        group = groups[-1] if groups else []
        again = any(abs(_value(frame) - _value(other)) < AGAIN for other in group)
        if group and not again and _belong(group[-1], frame):
            group.append(frame)
        else:
            groups.append([frame])
    return [[f[0] for f in group] for group in groups if _is_bracket(group)]


def _is_bracket(group: list[_Facts]) -> bool:
    if len(group) != 2:
        return 2 < len(group) <= MOST_FRAMES
    first, second = group
    apart = abs(_seconds(first[3].taken or "") - _seconds(second[3].taken or ""))
    return abs(_value(first) - _value(second)) >= PAIR_STOPS and apart <= PAIR_SECONDS


def _value(frame: _Facts) -> float:
    value = frame[3].exposure_value
    return float("nan") if value is None else value


def _belong(first: _Facts, second: _Facts) -> bool:
    one, other = first[3], second[3]
    values = one.exposure_value, other.exposure_value
    if first[1:3] != second[1:3] or one.camera != other.camera or None in values:
        return False
    if one.aperture != other.aperture or one.taken is None or other.taken is None:
        return False
    apart = abs(_seconds(other.taken) - _seconds(one.taken))
    stops = abs((values[0] or 0.0) - (values[1] or 0.0))
    return apart <= MOST_SECONDS and stops >= SIDE


def _seconds(taken: str) -> float:
    try:
        return datetime.fromisoformat(taken).timestamp()
    except ValueError:
        return float("nan")
