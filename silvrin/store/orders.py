"""What was ordered and is not finished: merges and deliveries, kept so that neither a stop nor a
crash loses one."""

import sqlite3
from typing import Literal

from pydantic import BaseModel

from .database import now

Kind = Literal["merge", "delivery"]


class Order(BaseModel):
    """An order as it was given."""

    id: int
    body: str  # JSON
    error: str | None  # why it failed; it stays until it is put away
    target: str | None = None  # the file it writes, from when it began


def add(connection: sqlite3.Connection, kind: Kind, body: str) -> Order:
    """Remember an order."""
    row = connection.execute(
        """
        INSERT INTO orders (kind, body, ordered_at) VALUES (:kind, :body, :at)
        RETURNING id, body, error, target
        """,
        {"kind": kind, "body": body, "at": now()},
    ).fetchone()
    return Order(**dict(row))


def of_kind(connection: sqlite3.Connection, kind: Kind) -> list[Order]:
    """Orders that are not finished, in the order in which they came."""
    rows = connection.execute(
        "SELECT id, body, error, target FROM orders WHERE kind = ? ORDER BY id", (kind,)
    )
    return [Order(**dict(row)) for row in rows]


def fail(connection: sqlite3.Connection, order_id: int, error: str) -> None:
    """Say why an order could not be carried out."""
    connection.execute("UPDATE orders SET error = ? WHERE id = ?", (error, order_id))


def again(connection: sqlite3.Connection, order_id: int) -> None:
    """An order that failed is to be tried once more."""
    connection.execute("UPDATE orders SET error = NULL WHERE id = ?", (order_id,))


def aim(connection: sqlite3.Connection, order_id: int, target: str) -> None:
    """Say which file an order writes, before it does: cut off, it writes the same one anew."""
    connection.execute("UPDATE orders SET target = ? WHERE id = ?", (target, order_id))


def remove(connection: sqlite3.Connection, order_id: int) -> None:
    """An order is finished, cancelled or put away."""
    connection.execute("DELETE FROM orders WHERE id = ?", (order_id,))
