"""Captures: original files by content hash."""

import sqlite3

from pydantic import BaseModel

from ..errors import NotFound


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


def find_capture(connection: sqlite3.Connection, sha256: str) -> Capture | None:
    """A capture by its hash, None when it was never taken in."""
    row = connection.execute(
        """
        SELECT sha256, file_name, suffix, kind, bytes, width, height, scale, metadata
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
            (sha256, file_name, suffix, kind, bytes, width, height, scale, metadata)
        VALUES (:sha256, :file_name, :suffix, :kind, :bytes, :width, :height, :scale, :metadata)
        ON CONFLICT (sha256) DO NOTHING
        """,
        new.model_dump(),
    )
