"""Files on their way into the library."""

import contextlib
import hashlib
import os
import tempfile
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

from ..errors import BadCapture
from ..files.whole import disk_error

CHUNK = 1 << 20


@dataclass(frozen=True)
class Incoming:
    """A received file that is not taken in yet."""

    path: Path
    sha256: str
    bytes: int


class Reception:
    """A file being received: written, hashed and counted as it comes."""

    def __init__(self, folder: Path) -> None:
        try:
            handle, name = tempfile.mkstemp(dir=folder)
        except OSError as error:
            raise disk_error(error, folder) from error
        self._file = os.fdopen(handle, "wb")
        self._path = Path(name)
        self._hash = hashlib.sha256()
        self.bytes = 0

    def write(self, chunk: bytes) -> None:
        """Take the next part; raises DiskFull."""
        try:
            self._file.write(chunk)
        except OSError as error:
            raise disk_error(error, self._path.parent) from error
        self._hash.update(chunk)
        self.bytes += len(chunk)

    def done(self) -> Incoming:
        """All is there and on the disk."""
        try:
            self._file.flush()
            os.fsync(self._file.fileno())
            self._file.close()
        except OSError as error:
            raise disk_error(error, self._path.parent) from error
        return Incoming(self._path, self._hash.hexdigest(), self.bytes)

    def discard(self) -> None:
        """Leave nothing behind."""
        with contextlib.suppress(OSError):
            self._file.close()
        self._path.unlink(missing_ok=True)


def receive(folder: Path, chunks: Iterable[bytes]) -> Incoming:
    """Write what arrives to a file of its own; removed when anything fails."""
    reception = Reception(folder)
    try:
        for chunk in chunks:
            reception.write(chunk)
        return reception.done()
    except BaseException:
        reception.discard()
        raise


def receive_file(folder: Path, source: Path) -> Incoming:
    """A copy of a file of this machine; raises BadCapture when it changes while it is read."""
    try:
        before = source.stat()
        with source.open("rb") as file:
            incoming = receive(folder, iter(lambda: file.read(CHUNK), b""))
        after = source.stat()
    except OSError as error:
        raise BadCapture(f"{source}: cannot be read ({error.strerror or error}).") from error
    if (before.st_size, before.st_mtime_ns) != (after.st_size, after.st_mtime_ns):
        incoming.path.unlink(missing_ok=True)
        raise BadCapture(f"{source}: it changed while it was read; wait until it is complete.")
    return incoming


def hash_of(source: Path) -> str:
    """The content hash of a file; raises BadCapture when it cannot be read."""
    try:
        with source.open("rb") as file:
            return hashlib.file_digest(file, "sha256").hexdigest()
    except OSError as error:
        raise BadCapture(f"{source}: cannot be read ({error.strerror or error}).") from error


def plain_name(name: str) -> str:
    """The last part of a file name, fit to be shown and used; raises BadCapture for none."""
    if "\0" in name or "/" in name or "\\" in name or name in ("", ".", ".."):
        raise BadCapture(f"{name[:80]!r} is not a file name; give the name alone, without folders.")
    if len(name.encode()) > 200:
        raise BadCapture(f"{name[:40]}…: the name is longer than 200 bytes; shorten it.")
    return name
