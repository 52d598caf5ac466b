"""The contact sheet of a roll: which frames it shows and in what order, without what they are.

A window asks for all of a roll's frames by number, and for the frames themselves only where they
are in sight. What a sheet is searched and ordered by lies with the frames.
"""

import sqlite3
from typing import Literal

from pydantic import BaseModel

from .rolls import check_roll

Order = Literal["number", "time", "name", "exposure"]

# What has no time or exposure comes last
_ORDERS: dict[Order, str] = {
    "number": "number",
    "time": "taken IS NULL, taken, number",
    "name": "words, number",
    "exposure": "exposed IS NULL, exposed, number",
}


class ContactSheet(BaseModel):
    """Frames of a roll in an order."""

    frames: list[int]  # their ids
    marks: list[int]  # of each: 0 none, 1 ring, 2 dot, 3 cross
    lost: int  # frames of the roll whose originals are not where they were
    lost_place: str | None  # where one of them was


def contact_sheet_json(
    connection: sqlite3.Connection, roll_id: int, search: str, order: Order
) -> str:
    """A `ContactSheet` as JSON: frames that have all the words of a search, in an order. Raises
    NotFound."""
    check_roll(connection, roll_id)
    words = {f"word{i}": word for i, word in enumerate(search.casefold().split())}
    having = "".join(f" AND instr(words, :{name})" for name in words)
    row = connection.execute(
        f"""
        WITH shown AS (
            SELECT id, CASE mark WHEN 'none' THEN 0 WHEN 'ring' THEN 1 WHEN 'dot' THEN 2 ELSE 3 END
                AS mark
            FROM frames
            WHERE roll_id = :roll AND binned_at IS NULL{having} ORDER BY {_ORDERS[order]}
        ), lost AS (  -- crossed: from the few captures that are lost, not from every frame
            SELECT count(*) AS frames, min(c.place) AS place
            FROM captures c CROSS JOIN frames f USING (sha256)
            WHERE c.lost_at IS NOT NULL AND f.roll_id = :roll AND f.binned_at IS NULL
        )
        SELECT json_object(
            'frames', json_group_array(id), 'marks', json_group_array(mark),
            'lost', (SELECT frames FROM lost), 'lost_place', (SELECT place FROM lost)
        ) AS sheet FROM shown
        """,
        {"roll": roll_id, **words},
    ).fetchone()
    return str(row["sheet"])
