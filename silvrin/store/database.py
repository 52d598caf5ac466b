"""SQLite in WAL mode: one writer, many readers."""

import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

from ..errors import DiskFull, SilvrinError
from .migrations import migrate

WAITS = 5  # s for another program that writes


def now() -> str:
    """This moment, UTC, ISO 8601."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


# What an error of SQLite means, and what to do
_REASONS = {
    sqlite3.SQLITE_FULL: "the disk is full. Make room, then try again.",
    sqlite3.SQLITE_READONLY: "it may only be read. Allow writing to this file and its folder, or "
    "choose another folder with --home.",
    sqlite3.SQLITE_BUSY: "another program holds it. Close that one, then try again.",
    sqlite3.SQLITE_CANTOPEN: "it cannot be opened. Allow reading and writing of its folder, or "
    "choose another one with --home.",
    sqlite3.SQLITE_IOERR: "its disk does not answer as it should. Look after the disk, then try "
    "again.",
    sqlite3.SQLITE_NOTADB: "it is no library of Silvrin. Choose another folder with --home, or put "
    "back a copy of this file.",
    sqlite3.SQLITE_CORRUPT: "it is damaged. Put back a copy of this file, or choose another folder "
    "with --home.",
}


def _code(error: sqlite3.Error) -> int:
    """The primary result code."""
    return int(getattr(error, "sqlite_errorcode", 0)) & 0xFF


def _said(path: Path, error: sqlite3.Error, about: str = "") -> SilvrinError:
    """An error of the database in words."""
    reason = _REASONS.get(_code(error), f"it cannot be used ({error}).")
    kind = DiskFull if _code(error) == sqlite3.SQLITE_FULL else SilvrinError
    return kind(f"{path}: {about}{reason[:1].upper() if about else reason[:1]}{reason[1:]}")


class Database:
    """A database file. Writes take turns and are on disk when `write` ends; reads never wait."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._lock = threading.RLock()
        self._local = threading.local()
        self._opened: list[sqlite3.Connection] = []
        self._looker: sqlite3.Connection | None = None
        try:
            self._writer = self._connect()
            self._writer.execute("PRAGMA journal_mode = WAL")
            migrate(self._writer)
        except sqlite3.Error as error:
            raise _said(path, error) from error

    def _connect(self) -> sqlite3.Connection:
        connection = sqlite3.connect(
            self._path, timeout=WAITS, isolation_level=None, check_same_thread=False
        )
        self._opened.append(connection)
        connection.row_factory = sqlite3.Row
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("PRAGMA synchronous = FULL")
        return connection

    def version(self) -> int:
        """A number that is another one after every change of the database."""
        with self._lock:
            # it tells of what other connections wrote: this one never writes
            if self._looker is None:
                self._looker = self._connect()
            return int(self._looker.execute("PRAGMA data_version").fetchone()[0])

    def close(self) -> None:
        """Let go of the file; nothing can be read or written any more."""
        while self._opened:
            self._opened.pop().close()

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
                if isinstance(error, sqlite3.Error) and _code(error) in _REASONS:
                    raise _said(self._path, error, "The last change was not kept. ") from error
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
