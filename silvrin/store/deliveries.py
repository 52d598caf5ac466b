"""Finished files."""

import sqlite3

from pydantic import BaseModel

from .database import now


class Finished(BaseModel):
    """A print that was delivered."""

    print_id: int
    file: str  # full path
    width: int  # pixels
    height: int
    bytes: int


def add_delivery(
    connection: sqlite3.Connection, order_id: int, change_id: int, form: str, made: Finished
) -> None:
    """Remember a finished file, the order it came of and the state of the print that it shows."""
    connection.execute(
        """
        INSERT INTO deliveries
            (order_id, print_id, change_id, file, format, width, height, bytes, finished_at)
        VALUES (:order_id, :print_id, :change_id, :file, :format, :width, :height, :bytes, :at)
        """,
        {
            **made.model_dump(),
            "order_id": order_id,
            "change_id": change_id,
            "format": form,
            "at": now(),
        },
    )


def finished(connection: sqlite3.Connection, order_id: int) -> Finished | None:
    """What came of an order, None as long as it is not finished."""
    row = connection.execute(
        "SELECT print_id, file, width, height, bytes FROM deliveries WHERE order_id = ?",
        (order_id,),
    ).fetchone()
    return Finished(**dict(row)) if row else None
