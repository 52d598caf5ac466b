"""SQLite in WAL mode: one writer, many readers."""

import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

from ..errors import DiskFull, SilvrinError
from .migrations import migrate


def now() -> str:
    """This moment, UTC, ISO 8601."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


class Database:
    """A database file. Writes take turns and are on disk when `write` ends; reads never wait."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._lock = threading.RLock()
        self._local = threading.local()
        try:
            self._writer = self._connect()
            self._writer.execute("PRAGMA journal_mode = WAL")
            migrate(self._writer)
        except sqlite3.DatabaseError as error:
            raise SilvrinError(
                f"{path}: the library cannot be opened ({error}). "
                "Choose another folder with --home, or put back a copy of this file."
            ) from error

    def _connect(self) -> sqlite3.Connection:
        connection = sqlite3.connect(
            self._path, timeout=10, isolation_level=None, check_same_thread=False
        )
        connection.row_factory = sqlite3.Row
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("PRAGMA synchronous = FULL")
        return connection

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """A transaction: all of it is kept, or none."""
        with self._lock:
            try:
                self._writer.execute("BEGIN IMMEDIATE")
                yield self._writer
                self._writer.execute("COMMIT")
            except BaseException as error:
                if self._writer.in_transaction:
                    self._writer.execute("ROLLBACK")
                if getattr(error, "sqlite_errorcode", None) == sqlite3.SQLITE_FULL:
                    raise DiskFull(
                        f"{self._path.parent}: the disk is full; the last change was not kept. "
                        "Make room, then repeat it."
                    ) from error
                raise

    @property
    def read(self) -> sqlite3.Connection:
        """This thread's connection for reading."""
        connection: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if connection is None:
            connection = self._connect()
            connection.execute("PRAGMA query_only = ON")
            self._local.connection = connection
        return connection
