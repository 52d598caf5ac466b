"""Own items of the shelf."""

import re
import sqlite3

from ..errors import NotFound, SilvrinError, UsedBefore
from ..shelf.items import Item, item_text, kind_of, read_item
from .database import now


def own_items(connection: sqlite3.Connection) -> list[Item]:
    """All of them, oldest first."""
    rows = connection.execute("SELECT id, document FROM shelf_items ORDER BY made_at, id")
    return [read_item(row["document"], f"stored item {row['id']}") for row in rows]


def edition(connection: sqlite3.Connection) -> int:
    """A number that rises with every change of own items."""
    row = connection.execute("SELECT value FROM counters WHERE name = 'shelf edition'").fetchone()
    return int(row["value"])


def add_item(connection: sqlite3.Connection, item: Item, taken: set[str]) -> Item:
    """Keep an item under an id of its own, made from its name; `taken` are the shipped ones."""
    stem = re.sub(r"[^a-z0-9]+", "-", item.name.lower()).strip("-")[:50] or "item"
    used = taken | {row["id"] for row in connection.execute("SELECT id FROM shelf_items")}
    number, name = 2, f"own-{stem}"
    while name in used:
        name, number = f"own-{stem}-{number}", number + 1
    kept = item.model_copy(update={"id": name})
    put_item(connection, kept)
    return kept


def put_item(connection: sqlite3.Connection, item: Item) -> None:
    """Keep an item under the id it has, which must be free."""
    connection.execute(
        """
        INSERT INTO shelf_items (id, kind, document, made_at)
        VALUES (:id, :kind, :document, :at)
        """,
        {"id": item.id, "kind": kind_of(item), "document": item_text(item), "at": now()},
    )
    _rise(connection)


def change_item(connection: sqlite3.Connection, item: Item) -> Item:
    """Put an item in the place of the one with its id; raises NotFound."""
    found = connection.execute(
        "UPDATE shelf_items SET document = :document WHERE id = :id AND kind = :kind",
        {"id": item.id, "kind": kind_of(item), "document": item_text(item)},
    )
    if not found.rowcount:
        raise NotFound(f"There is no own {kind_of(item)} {item.id!r}; shipped ones can be copied.")
    _rise(connection)
    return item


def remove_item(connection: sqlite3.Connection, item_id: str, though_used_before: bool) -> None:
    """Take an item off the shelf; raises NotFound, SilvrinError while a print uses it, and
    UsedBefore when an earlier state of a print does, unless that is said to be known."""
    if not connection.execute("SELECT 1 FROM shelf_items WHERE id = ?", (item_id,)).fetchone():
        raise NotFound(f"There is no own item {item_id!r}; shipped ones stay on the shelf.")
    users = connection.execute(
        """
        WITH used AS (
            SELECT c.id, c.print_id FROM changes c
            WHERE EXISTS (
                SELECT 1 FROM json_each(json_extract(c.recipe, '$.look.toner.baths')) AS bath
                WHERE json_extract(bath.value, '$.toner') = :id
                UNION ALL
                SELECT 1
                FROM json_each(json_extract(c.recipe, '$.mixture.before.toner.baths')) AS bath
                WHERE json_extract(bath.value, '$.toner') = :id
            ) OR :id IN (
                json_extract(c.recipe, '$.look.film.stock'),
                json_extract(c.recipe, '$.look.light.source'),
                json_extract(c.recipe, '$.look.light.lens_filter'),
                json_extract(c.recipe, '$.look.light.second_filter'),
                json_extract(c.recipe, '$.look.paper.paper'),
                json_extract(c.recipe, '$.mixture.before.film.stock'),
                json_extract(c.recipe, '$.mixture.before.light.source'),
                json_extract(c.recipe, '$.mixture.before.light.lens_filter'),
                json_extract(c.recipe, '$.mixture.before.light.second_filter'),
                json_extract(c.recipe, '$.mixture.before.paper.paper')
            )
        )
        SELECT p.name, max(u.id = p.head) AS now FROM used u JOIN prints p ON p.id = u.print_id
        GROUP BY p.id ORDER BY now DESC, p.id
        """,
        {"id": item_id},
    ).fetchall()
    present = [row["name"] for row in users if row["now"]]
    if present:
        raise SilvrinError(
            f"It stays on the shelf: {_prints(present, 'uses', 'use')} it. "
            "Choose something else there first."
        )
    if users and not though_used_before:
        before = [row["name"] for row in users]
        words = _prints(before, "used", "used")
        before_words = words[0].upper() + words[1:]
        raise UsedBefore(
            f"{before_words} it in an earlier state: taken off, undo there would "
            "come to a state that cannot be shown."
        )
    connection.execute("DELETE FROM shelf_items WHERE id = :id", {"id": item_id})
    _rise(connection)


def _prints(names: list[str], verb: str, verbs: str) -> str:
    """Prints that do something, in words."""
    if len(names) == 1:
        return f"the print {names[0]!r} {verb}"
    return f"{len(names)} prints {verbs}, {names[0]!r} among them,"


def _rise(connection: sqlite3.Connection) -> None:
    connection.execute("UPDATE counters SET value = value + 1 WHERE name = 'shelf edition'")
