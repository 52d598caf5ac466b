"""The bin: frames that were taken off the sheet, until they are put back or it is emptied."""

import sqlite3
from dataclasses import dataclass

from .merging import MergeFile


@dataclass(frozen=True)
class Orphan:
    """A capture that no frame shows any more."""

    sha256: str
    suffix: str
    file_name: str
    bytes: int
    place: str | None


def empty(connection: sqlite3.Connection, merged_from: dict[str, MergeFile]) -> list[Orphan]:
    """Forget the frames in the bin with their prints, prints in the bin, and rolls that are empty
    then; gives the captures that no frame shows any more, which are forgotten too.

    `merged_from` holds the merge files of the library by their hash: what they are made from stays.
    """
    binned = "SELECT id FROM frames WHERE binned_at IS NOT NULL"
    prints = f"SELECT id FROM prints WHERE frame_id IN ({binned}) OR binned_at IS NOT NULL"
    connection.execute(f"UPDATE frames SET chosen = NULL WHERE chosen IN ({prints})")
    connection.execute(f"DELETE FROM deliveries WHERE print_id IN ({prints})")
    connection.execute(f"UPDATE prints SET head = NULL WHERE id IN ({prints})")
    connection.execute(f"UPDATE changes SET parent = NULL WHERE print_id IN ({prints})")
    connection.execute(f"DELETE FROM changes WHERE print_id IN ({prints})")
    connection.execute(f"DELETE FROM prints WHERE id IN ({prints})")
    connection.execute("DELETE FROM frames WHERE binned_at IS NOT NULL")
    connection.execute(
        """
        DELETE FROM sheets WHERE name NOT IN (
            SELECT s.value FROM changes c, json_each(c.recipe, '$.of_frame.capture.mends') s
            UNION
            SELECT s.value FROM changes c, json_each(c.recipe, '$.of_frame.capture.protected') s
            UNION
            SELECT s.value FROM changes c, json_each(c.recipe, '$.of_frame.enlarger.passes') s
            UNION
            SELECT n.value FROM changes c, json_each(c.recipe, '$.of_frame.enlarger.passes') s
                JOIN sheets p ON p.name = s.value, json_each(p.document, '$.passes') e,
                json_each(e.value, '$.shapes') f, json_each(f.value, '$.strokes') n
        )
        """
    )
    connection.execute("DELETE FROM recipes WHERE binned_at IS NOT NULL")
    left = {row["sha256"] for row in connection.execute("SELECT DISTINCT sha256 FROM frames")}
    needed = left | {
        source.sha256
        for sha256, merge in merged_from.items()
        if sha256 in left
        for source in merge.sources
    }
    orphans = [
        Orphan(**dict(row))
        for row in connection.execute(
            "SELECT sha256, suffix, file_name, bytes, place FROM captures"
        ).fetchall()
        if row["sha256"] not in needed
    ]
    connection.executemany(
        "DELETE FROM captures WHERE sha256 = ?", [(orphan.sha256,) for orphan in orphans]
    )
    gone = """
        SELECT id FROM rolls WHERE binned_at IS NOT NULL
        AND NOT EXISTS (SELECT 1 FROM frames WHERE roll_id = rolls.id)
    """
    connection.execute(f"DELETE FROM dust_maps WHERE roll_id IN ({gone})")
    connection.execute(
        "DELETE FROM import_files WHERE import_id IN "
        f"(SELECT id FROM imports WHERE roll_id IN ({gone}))"
    )
    connection.execute(f"DELETE FROM imports WHERE roll_id IN ({gone})")
    connection.execute(f"DELETE FROM rolls WHERE id IN ({gone})")
    return orphans
