"""The schema, as steps in order. A step that has shipped is never changed; add another.

Each step is committed together with its row in the ledger.
"""

import sqlite3

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
)


def migrate(connection: sqlite3.Connection) -> None:
    """Bring a database up to date, each step with its ledger row or not at all."""
    connection.execute(
        "CREATE TABLE IF NOT EXISTS ledger (step TEXT PRIMARY KEY, applied_at TEXT NOT NULL) STRICT"
    )
    applied = {row[0] for row in connection.execute("SELECT step FROM ledger")}
    for name, sql in STEPS:
        if name in applied:
            continue
        stamp = "INSERT INTO ledger (step, applied_at) VALUES ('{}', datetime('now'));"
        try:
            connection.executescript(f"BEGIN IMMEDIATE; {sql} {stamp.format(name)} COMMIT;")
        except sqlite3.Error:
            if connection.in_transaction:
                connection.rollback()
            raise
