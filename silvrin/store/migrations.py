"""The schema, as steps in order. A step that has shipped is never changed; add another.

Each step is committed together with its row in the ledger: its SQL, and what is done to rows.
"""

import json
import sqlite3
from collections.abc import Callable

from ..core.recipe.drawings import Sheets
from ..core.recipe.files import in_two_parts, own_bands, passes_apart, rated_by_zones
from ..errors import SilvrinError
from ..files.metadata import Metadata
from ..shelf import shipped
from ..shelf.items import read_item


def _recipes_in_two_parts(connection: sqlite3.Connection) -> None:
    """Recipes of version 1 become version 2, and their drawings go on sheets."""
    sheets = Sheets()
    rows = connection.execute("SELECT id, recipe FROM changes").fetchall()
    for row in rows:
        recipe = json.loads(row["recipe"])
        if "of_frame" not in recipe:
            text = json.dumps(in_two_parts(recipe, sheets), ensure_ascii=False)
            connection.execute("UPDATE changes SET recipe = ? WHERE id = ?", (text, row["id"]))
    _keep(connection, sheets)


def _keep(connection: sqlite3.Connection, sheets: Sheets) -> None:
    connection.executemany(
        "INSERT INTO sheets (name, document) VALUES (?, ?) ON CONFLICT DO NOTHING",
        sheets.texts.items(),
    )


def _frames_sought_by(connection: sqlite3.Connection) -> None:
    """Frames get what they are found and ordered by."""
    rows = connection.execute(
        "SELECT f.id, f.title, c.file_name, c.metadata FROM frames f JOIN captures c USING (sha256)"
    ).fetchall()
    for row in rows:
        facts = Metadata.model_validate_json(row["metadata"])
        words = (row["file_name"], row["title"], facts.camera, facts.lens, facts.taken)
        connection.execute(
            "UPDATE frames SET words = ?, taken = ?, exposed = ? WHERE id = ?",
            (
                "\n".join(word for word in words if word).casefold(),
                facts.taken, facts.exposure_value, row["id"],
            ),
        )  # fmt: skip


OWN_ITEMS = "SELECT document FROM shelf_items"


def _indexes_by_zones(connection: sqlite3.Connection) -> None:
    """Recipes of version 2 become version 3: exposure indexes beside the stock's zone index."""
    own = [read_item(row["document"]) for row in connection.execute(OWN_ITEMS)]
    shelf = shipped().with_own(own, 0)
    for row in connection.execute("SELECT id, recipe FROM changes").fetchall():
        recipe = rated_by_zones(json.loads(row["recipe"]), shelf.zone_part)
        text = json.dumps(recipe, ensure_ascii=False)
        connection.execute("UPDATE changes SET recipe = ? WHERE id = ?", (text, row["id"]))


def _passes_apart(connection: sqlite3.Connection) -> None:
    """Recipes of version 3 become version 4: their passes go on sheets."""
    sheets = Sheets()
    for row in connection.execute("SELECT id, recipe FROM changes").fetchall():
        recipe = passes_apart(json.loads(row["recipe"]), sheets)
        text = json.dumps(recipe, ensure_ascii=False)
        connection.execute("UPDATE changes SET recipe = ? WHERE id = ?", (text, row["id"]))
    _keep(connection, sheets)


def _own_bands(connection: sqlite3.Connection) -> None:
    """Recipes of versions 4 and 5 become version 6: hue bands that did nothing are none."""
    for row in connection.execute("SELECT id, recipe FROM changes").fetchall():
        recipe = {**own_bands(json.loads(row["recipe"])), "format": "silvrin-recipe-6"}
        text = json.dumps(recipe, ensure_ascii=False)
        connection.execute("UPDATE changes SET recipe = ? WHERE id = ?", (text, row["id"]))
    for row in connection.execute("SELECT id, document FROM recipes").fetchall():
        text = json.dumps(own_bands(json.loads(row["document"])), ensure_ascii=False)
        connection.execute("UPDATE recipes SET document = ? WHERE id = ?", (text, row["id"]))


# What a step does to rows, after its SQL
ROWS: dict[str, Callable[[sqlite3.Connection], None]] = {
    "004 drawings apart": _recipes_in_two_parts,
    "005 frames in sight": _frames_sought_by,
    "007 indexes by zones": _indexes_by_zones,
    "008 passes apart": _passes_apart,
    "010 own hue bands": _own_bands,
}

STEPS: tuple[tuple[str, str], ...] = (
    (
        "001 first light",
        """
        -- a set of captures, one per import or job
        CREATE TABLE rolls (
            id INTEGER PRIMARY KEY,
            name TEXT NOT NULL,
            created_at TEXT NOT NULL          -- UTC, ISO 8601
        ) STRICT;

        -- an original file, kept unchanged under its content hash
        CREATE TABLE captures (
            sha256 TEXT PRIMARY KEY,
            file_name TEXT NOT NULL,          -- as it was given
            suffix TEXT NOT NULL,             -- of the copy in originals/
            kind TEXT NOT NULL,               -- raw, tiff, png, jpeg
            bytes INTEGER NOT NULL,
            width INTEGER NOT NULL,           -- upright, pixels
            height INTEGER NOT NULL,
            scale REAL NOT NULL,              -- linear value of a code of the developed light
            metadata TEXT NOT NULL            -- JSON
        ) STRICT;

        -- a place on a roll that shows a capture
        CREATE TABLE frames (
            id INTEGER PRIMARY KEY,
            roll_id INTEGER NOT NULL REFERENCES rolls (id),
            number INTEGER NOT NULL,
            sha256 TEXT NOT NULL REFERENCES captures (sha256),
            title TEXT NOT NULL,
            mark TEXT NOT NULL DEFAULT 'none' CHECK (mark IN ('none', 'ring', 'dot', 'cross')),
            UNIQUE (roll_id, number)
        ) STRICT;

        -- one interpretation of a frame; head is the change that is shown
        CREATE TABLE prints (
            id INTEGER PRIMARY KEY,
            frame_id INTEGER NOT NULL REFERENCES frames (id),
            name TEXT NOT NULL,
            head INTEGER REFERENCES changes (id)
        ) STRICT;
        CREATE INDEX prints_by_frame ON prints (frame_id);

        -- every state a print ever had; undo moves the head, nothing is deleted
        CREATE TABLE changes (
            id INTEGER PRIMARY KEY,
            print_id INTEGER NOT NULL REFERENCES prints (id),
            parent INTEGER REFERENCES changes (id),
            label TEXT NOT NULL,
            recipe TEXT NOT NULL,             -- JSON, silvrin-recipe-1
            made_at TEXT NOT NULL
        ) STRICT;
        CREATE INDEX changes_by_parent ON changes (parent);

        -- finished files
        CREATE TABLE deliveries (
            id INTEGER PRIMARY KEY,
            print_id INTEGER NOT NULL REFERENCES prints (id),
            change_id INTEGER NOT NULL REFERENCES changes (id),
            file TEXT NOT NULL,
            format TEXT NOT NULL,
            width INTEGER NOT NULL,
            height INTEGER NOT NULL,
            bytes INTEGER NOT NULL,
            finished_at TEXT NOT NULL
        ) STRICT;
        """,
    ),
    (
        "002 own shelf",
        """
        -- stocks, filters and lights that were measured or copied
        CREATE TABLE shelf_items (
            id TEXT PRIMARY KEY,
            kind TEXT NOT NULL CHECK (kind IN ('stock', 'filter', 'light')),
            document TEXT NOT NULL,           -- JSON, silvrin-shelf-1
            made_at TEXT NOT NULL
        ) STRICT;

        -- numbers that only rise
        CREATE TABLE counters (
            name TEXT PRIMARY KEY,
            value INTEGER NOT NULL
        ) STRICT;
        INSERT INTO counters (name, value) VALUES ('shelf edition', 0);
        """,
    ),
    (
        "003 taking in",
        """
        -- a capture that is referred to in place lies outside the library
        ALTER TABLE captures ADD COLUMN place TEXT;       -- full path; NULL: in originals/
        ALTER TABLE captures ADD COLUMN place_time INTEGER;  -- its modification time, ns
        ALTER TABLE captures ADD COLUMN lost_at TEXT;     -- since when it is not found there

        -- what was taken off the sheet and can be put back
        ALTER TABLE frames ADD COLUMN binned_at TEXT;
        ALTER TABLE rolls ADD COLUMN binned_at TEXT;
        CREATE INDEX frames_by_capture ON frames (sha256);

        -- folders being taken in; they go on when the server is started again
        CREATE TABLE imports (
            id INTEGER PRIMARY KEY,
            roll_id INTEGER NOT NULL REFERENCES rolls (id),
            folder TEXT NOT NULL,
            keep TEXT NOT NULL CHECK (keep IN ('copy', 'refer')),
            again INTEGER NOT NULL,           -- 1: also what other rolls have
            state TEXT NOT NULL DEFAULT 'running'
                CHECK (state IN ('running', 'done', 'cancelled', 'stopped')),
            error TEXT,                       -- why it stopped
            made_at TEXT NOT NULL
        ) STRICT;
        CREATE TABLE import_files (
            import_id INTEGER NOT NULL REFERENCES imports (id),
            number INTEGER NOT NULL,
            path TEXT NOT NULL,               -- below the folder
            outcome TEXT NOT NULL DEFAULT 'waiting'
                CHECK (outcome IN ('waiting', 'taken', 'known', 'refused', 'left')),
            reason TEXT,
            frame_id INTEGER REFERENCES frames (id) ON DELETE SET NULL,
            PRIMARY KEY (import_id, number)
        ) STRICT, WITHOUT ROWID;

        -- merges that are not finished; they begin anew when the server is started again
        CREATE TABLE pending_merges (
            id INTEGER PRIMARY KEY,
            merge_order TEXT NOT NULL         -- JSON
        ) STRICT;

        -- specks that were found on one frame of a roll and lie on the others too
        CREATE TABLE dust_maps (
            roll_id INTEGER NOT NULL REFERENCES rolls (id),
            camera TEXT NOT NULL,
            width INTEGER NOT NULL,           -- of the sensor, pixels
            height INTEGER NOT NULL,
            specks TEXT NOT NULL,             -- JSON
            PRIMARY KEY (roll_id, camera, width, height)
        ) STRICT;
        """,
    ),
    (
        "004 drawings apart",
        """
        -- what is drawn on pictures, named by its content; recipes name these
        CREATE TABLE sheets (
            name TEXT PRIMARY KEY,            -- 32 hexadecimal digits of SHA-256
            document TEXT NOT NULL            -- JSON
        ) STRICT, WITHOUT ROWID;

        -- every foreign key can be looked up
        CREATE INDEX changes_by_print ON changes (print_id);
        CREATE INDEX prints_by_head ON prints (head);
        CREATE INDEX deliveries_by_print ON deliveries (print_id);
        CREATE INDEX deliveries_by_change ON deliveries (change_id);
        CREATE INDEX import_files_by_frame ON import_files (frame_id);
        CREATE INDEX imports_by_roll ON imports (roll_id);
        DROP INDEX frames_by_capture;         -- on a large roll the other one was taken
        CREATE INDEX frames_by_capture ON frames (sha256, roll_id);
        CREATE INDEX captures_by_bytes ON captures (bytes);
        CREATE INDEX captures_referred_to ON captures (place) WHERE place IS NOT NULL;
        """,
    ),
    (
        "005 frames in sight",
        """
        -- what a sheet is searched and ordered by, of the capture that a frame shows
        ALTER TABLE frames ADD COLUMN words TEXT NOT NULL DEFAULT '';  -- its file's name first
        ALTER TABLE frames ADD COLUMN taken TEXT;         -- ISO 8601
        ALTER TABLE frames ADD COLUMN exposed REAL;       -- EV at ISO 100
        CREATE INDEX frames_on_sheets ON frames (roll_id, number, binned_at, mark, words);
        CREATE INDEX captures_lost ON captures (sha256) WHERE lost_at IS NOT NULL;
        CREATE INDEX captures_merged ON captures (sha256) WHERE kind = 'merged';
        """,
    ),
    (
        "006 orders",
        """
        -- what was ordered and is not finished; it goes on when the server is started again
        CREATE TABLE orders (
            id INTEGER PRIMARY KEY AUTOINCREMENT,  -- windows ask for it: never given twice
            kind TEXT NOT NULL CHECK (kind IN ('merge', 'delivery')),
            body TEXT NOT NULL,               -- JSON
            error TEXT,                       -- why it failed
            ordered_at TEXT NOT NULL          -- UTC, ISO 8601
        ) STRICT;
        INSERT INTO orders (kind, body, ordered_at)
            SELECT 'merge', merge_order, strftime('%Y-%m-%dT%H:%M:%f+00:00')
            FROM pending_merges ORDER BY id;
        DROP TABLE pending_merges;
        ALTER TABLE deliveries ADD COLUMN order_id INTEGER;  -- that it came of
        CREATE UNIQUE INDEX deliveries_by_order ON deliveries (order_id);

        -- frames that look like a bracket and are none to their user
        CREATE TABLE brackets_left (
            first_frame INTEGER NOT NULL PRIMARY KEY REFERENCES frames (id) ON DELETE CASCADE,
            frames TEXT NOT NULL              -- JSON, their ids in order
        ) STRICT, WITHOUT ROWID;

        -- the report of an import stays until it is put away
        ALTER TABLE imports ADD COLUMN put_away INTEGER NOT NULL DEFAULT 0;
        UPDATE imports SET put_away = 1 WHERE state IN ('done', 'cancelled');

        -- what every page counts first
        CREATE INDEX frames_binned ON frames (binned_at) WHERE binned_at IS NOT NULL;
        CREATE INDEX frames_counted ON frames (roll_id, mark) WHERE binned_at IS NULL;
        """,
    ),
    ("007 indexes by zones", ""),
    ("008 passes apart", ""),
    (
        "009 several prints",
        """
        ALTER TABLE prints ADD COLUMN position INTEGER NOT NULL DEFAULT 0;  -- among its frame's
        UPDATE prints SET position = id;
        ALTER TABLE prints ADD COLUMN binned_at TEXT;     -- UTC, ISO 8601
        -- the print that the contact sheet shows; without one it is the last
        ALTER TABLE frames ADD COLUMN chosen INTEGER REFERENCES prints (id);
        CREATE INDEX frames_by_chosen ON frames (chosen) WHERE chosen IS NOT NULL;
        ALTER TABLE changes ADD COLUMN proof TEXT;        -- the name of a state that is kept

        -- settings that are kept to be put on other prints
        CREATE TABLE recipes (
            id INTEGER PRIMARY KEY,
            name TEXT NOT NULL COLLATE NOCASE,
            note TEXT NOT NULL,
            grouped TEXT NOT NULL,            -- under what it is listed
            document TEXT NOT NULL,           -- JSON: fields by station
            made_at TEXT NOT NULL,            -- UTC, ISO 8601
            binned_at TEXT
        ) STRICT;
        CREATE UNIQUE INDEX recipes_by_name ON recipes (name) WHERE binned_at IS NULL;

        -- starting prints and recipes that are ringed, to be at hand
        CREATE TABLE ringed (name TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;

        -- settings that were put on many prints at once, to be taken back at once
        CREATE TABLE applications (
            id INTEGER PRIMARY KEY AUTOINCREMENT,
            label TEXT NOT NULL,
            made_at TEXT NOT NULL             -- UTC, ISO 8601
        ) STRICT;
        ALTER TABLE changes ADD COLUMN application INTEGER REFERENCES applications (id);
        ALTER TABLE prints ADD COLUMN application INTEGER REFERENCES applications (id);  -- made by
        CREATE INDEX changes_by_application ON changes (application) WHERE application IS NOT NULL;
        CREATE INDEX prints_by_application ON prints (application) WHERE application IS NOT NULL;
        """,
    ),
    ("010 own hue bands", ""),
    (
        "011 shelf of all kinds",
        """
        -- kinds are those of the shelf's models, which look every item over
        CREATE TABLE items (
            id TEXT PRIMARY KEY,
            kind TEXT NOT NULL,
            document TEXT NOT NULL,           -- JSON, silvrin-shelf-1
            made_at TEXT NOT NULL
        ) STRICT;
        INSERT INTO items (id, kind, document, made_at)
        SELECT id, kind, document, made_at FROM shelf_items;
        DROP TABLE shelf_items;
        ALTER TABLE items RENAME TO shelf_items;
        """,
    ),
    (
        "012 drying line",
        """
        ALTER TABLE orders ADD COLUMN target TEXT;    -- the file it writes, from when it began
        ALTER TABLE deliveries ADD COLUMN body TEXT;  -- JSON of the order; none of older ones
        ALTER TABLE deliveries ADD COLUMN limited INTEGER NOT NULL DEFAULT 0
            CHECK (limited IN (0, 1));                -- the capture had less than was asked for
        CREATE TABLE output_sets (
            id INTEGER PRIMARY KEY AUTOINCREMENT,
            name TEXT NOT NULL UNIQUE,
            outputs TEXT NOT NULL,                    -- JSON
            made_at TEXT NOT NULL                     -- UTC, ISO 8601
        ) STRICT;
        CREATE TABLE profiles (
            id TEXT PRIMARY KEY,                      -- SHA-256 of the content
            name TEXT NOT NULL,
            colours TEXT NOT NULL,                    -- GRAY, RGB or CMYK
            content BLOB NOT NULL,                    -- ICC
            added_at TEXT NOT NULL
        ) STRICT, WITHOUT ROWID;
        CREATE TABLE contact_processes (
            id INTEGER PRIMARY KEY AUTOINCREMENT,
            name TEXT NOT NULL UNIQUE,
            rounds INTEGER NOT NULL,
            readings TEXT NOT NULL,                   -- JSON: pairs of ink and density
            made_at TEXT NOT NULL
        ) STRICT;
        """,
    ),
)


def migrate(connection: sqlite3.Connection) -> None:
    """Bring a database up to date, each step with its ledger row or not at all. Raises SilvrinError
    for one that a newer Silvrin has written."""
    connection.execute(
        "CREATE TABLE IF NOT EXISTS ledger (step TEXT PRIMARY KEY, applied_at TEXT NOT NULL) STRICT"
    )
    applied = {row["step"] for row in connection.execute("SELECT step FROM ledger")}
    if newer := sorted(applied - {name for name, _ in STEPS}):
        raise SilvrinError(
            f"This library was last opened by a newer Silvrin ({newer[-1]!r} is not known here). "
            "Nothing was changed. Start that version, or choose another folder with --home."
        )
    for name, sql in STEPS:
        if name in applied:
            continue
        connection.execute("BEGIN IMMEDIATE")
        try:
            for statement in _statements(sql):
                connection.execute(statement)
            if name in ROWS:
                ROWS[name](connection)
            connection.execute(
                "INSERT INTO ledger (step, applied_at) VALUES (?, datetime('now'))", (name,)
            )
            connection.execute("COMMIT")
        except BaseException:
            connection.execute("ROLLBACK")
            raise


def _statements(sql: str) -> list[str]:
    """The statements of a text, each whole."""
    found, begun = [], ""
    for line in sql.splitlines(keepends=True):
        begun += line
        if sqlite3.complete_statement(begun):
            found.append(begun)
            begun = ""
    return found
