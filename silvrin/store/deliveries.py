"""Finished files."""

import sqlite3
from pathlib import Path

from .database import now


def add_delivery(
    connection: sqlite3.Connection,
    print_id: int,
    change_id: int,
    file: Path,
    form: str,
    size: tuple[int, int],
) -> None:
    """Remember a finished file."""
    connection.execute(
        """
        INSERT INTO deliveries
            (print_id, change_id, file, format, width, height, bytes, finished_at)
        VALUES (:print_id, :change_id, :file, :format, :width, :height, :bytes, :at)
        """,
        {
            "print_id": print_id,
            "change_id": change_id,
            "file": str(file),
            "format": form,
            "width": size[0],
            "height": size[1],
            "bytes": file.stat().st_size,
            "at": now(),
        },
    )
