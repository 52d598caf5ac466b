"""Finished files."""

import sqlite3

from pydantic import BaseModel

from ..errors import NotFound
from .database import now


class Finished(BaseModel):
    """A print that was delivered."""

    print_id: int
    file: str  # full path
    width: int  # pixels
    height: int
    bytes: int
    limited: bool = False  # the capture had less than was asked for


class Delivered(Finished):
    """A finished delivery of the drying line."""

    id: int  # of its order
    body: str | None  # of its order, JSON
    finished_at: str  # UTC, ISO 8601


_COLUMNS = "order_id AS id, print_id, file, width, height, bytes, limited, body, finished_at"


def add_delivery(
    connection: sqlite3.Connection,
    order_id: int,
    change_id: int,
    form: str,
    body: str,
    made: Finished,
) -> None:
    """Remember a finished file, the order it came of and the state of the print that it shows."""
    connection.execute(
        """
        INSERT INTO deliveries (order_id, print_id, change_id, file, format, width, height, bytes,
            limited, body, finished_at)
        VALUES (:order_id, :print_id, :change_id, :file, :format, :width, :height, :bytes,
            :limited, :body, :at)
        """,
        {
            **made.model_dump(),
            "order_id": order_id,
            "change_id": change_id,
            "format": form,
            "body": body,
            "at": now(),
        },
    )


def finished(connection: sqlite3.Connection, order_id: int) -> Delivered | None:
    """What came of an order, None as long as it is not finished."""
    row = connection.execute(
        f"SELECT {_COLUMNS} FROM deliveries WHERE order_id = ?", (order_id,)
    ).fetchone()
    return Delivered.model_validate(dict(row)) if row else None


def latest(connection: sqlite3.Connection, before: int | None, count: int) -> list[Delivered]:
    """The deliveries that were finished last, newest first; those before an order."""
    rows = connection.execute(
        f"""
        SELECT {_COLUMNS} FROM deliveries
        WHERE order_id IS NOT NULL AND (:before IS NULL OR order_id < :before)
        ORDER BY order_id DESC LIMIT :count
        """,
        {"before": before, "count": count},
    )
    return [Delivered.model_validate(dict(row)) for row in rows]


def is_of(connection: sqlite3.Connection, file: str, batch: str) -> bool:
    """Whether a file was delivered by an order of some batch."""
    row = connection.execute(
        """
        SELECT 1 FROM deliveries
        WHERE file = :file AND json_extract(body, '$.batch') = :batch LIMIT 1
        """,
        {"file": file, "batch": batch},
    ).fetchone()
    return row is not None


def put_away(connection: sqlite3.Connection, order_ids: list[int] | None = None) -> None:
    """Take finished deliveries off the line, all or some; their files stay. Raises NotFound."""
    if order_ids is None:
        connection.execute("DELETE FROM deliveries")
        return
    for order_id in order_ids:
        if not connection.execute(
            "DELETE FROM deliveries WHERE order_id = ?", (order_id,)
        ).rowcount:
            raise NotFound(f"There is no finished delivery {order_id}.")
