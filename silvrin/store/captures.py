"""Captures: original files by content hash."""

import re
import sqlite3
from dataclasses import dataclass
from pathlib import Path

from pydantic import BaseModel

from ..errors import NotFound
from ..files.first_look import FirstLook


class Capture(BaseModel):
    """An original file as the library knows it."""

    sha256: str
    file_name: str
    suffix: str
    kind: str
    bytes: int
    width: int
    height: int
    scale: float
    metadata: str
    place: str | None = None  # of a capture that is referred to in place
    place_time: int | None = None
    lost_at: str | None = None


# A number of one or two digits before words is the file's in its folder; years, days and what is a
# size or a length belong to the title
_COUNTED = re.compile(
    r"^\d{1,2}[ _-]+(?=[^\W\d_]{2})(?!(?:mm|cm|min|sec|stops?|st|nd|rd|th)\b)", re.I
)


def title_of(file_name: str) -> str:
    """What a frame is called at first, from the name of its file."""
    stem = Path(file_name).stem
    title = _COUNTED.sub("", stem) or file_name
    return title[:1].upper() + title[1:]


def row_of(sha256: str, file_name: str, size: int, look: FirstLook) -> Capture:
    """A capture as its first look found it."""
    return Capture(
        sha256=sha256,
        file_name=file_name,
        suffix=Path(file_name).suffix.lower(),
        kind=look.kind,
        bytes=size,
        width=look.width,
        height=look.height,
        scale=look.scale,
        metadata=look.metadata.model_dump_json(),
    )


def find_capture(connection: sqlite3.Connection, sha256: str) -> Capture | None:
    """A capture by its hash, None when it was never taken in."""
    row = connection.execute(
        """
        SELECT sha256, file_name, suffix, kind, bytes, width, height, scale, metadata, place,
               place_time, lost_at
        FROM captures WHERE sha256 = :sha256
        """,
        {"sha256": sha256},
    ).fetchone()
    return Capture(**dict(row)) if row else None


def capture(connection: sqlite3.Connection, sha256: str) -> Capture:
    """A capture by its hash; raises NotFound."""
    found = find_capture(connection, sha256)
    if found is None:
        raise NotFound(f"There is no capture {sha256[:12]}.")
    return found


def add_capture(connection: sqlite3.Connection, new: Capture) -> None:
    """Keep a capture; a row that is there already stays as it is."""
    connection.execute(
        """
        INSERT INTO captures
            (sha256, file_name, suffix, kind, bytes, width, height, scale, metadata, place,
             place_time)
        VALUES (:sha256, :file_name, :suffix, :kind, :bytes, :width, :height, :scale, :metadata,
                :place, :place_time)
        ON CONFLICT (sha256) DO NOTHING
        """,
        new.model_dump(),
    )


@dataclass(frozen=True)
class Referred:
    """A capture that lies outside the library."""

    sha256: str
    place: str
    bytes: int
    place_time: int | None
    lost_at: str | None  # since when it is not found there


def referred(connection: sqlite3.Connection) -> list[Referred]:
    """Captures that lie outside the library."""
    rows = connection.execute(
        """
        SELECT sha256, place, bytes, place_time, lost_at FROM captures
        WHERE place IS NOT NULL ORDER BY place
        """
    )
    return [Referred(**dict(row)) for row in rows]


def set_place(connection: sqlite3.Connection, sha256: str, place: str, time: int) -> None:
    """A capture lies at a place (again)."""
    connection.execute(
        """
        UPDATE captures SET place = :place, place_time = :time, lost_at = NULL
        WHERE sha256 = :sha256
        """,
        {"sha256": sha256, "place": place, "time": time},
    )


def clear_place(connection: sqlite3.Connection, sha256: str) -> None:
    """A capture lies in the library from now on."""
    connection.execute(
        """
        UPDATE captures SET place = NULL, place_time = NULL, lost_at = NULL WHERE sha256 = ?
        """,
        (sha256,),
    )


def set_lost(connection: sqlite3.Connection, sha256: str, at: str | None) -> None:
    """A capture is not found at its place since then; None: it is."""
    connection.execute(
        "UPDATE captures SET lost_at = :at WHERE sha256 = :sha256", {"sha256": sha256, "at": at}
    )
