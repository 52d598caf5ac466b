"""A library: one folder that holds the database, the originals and what can be made again.

library.sqlite   what the user did
originals/       captures by content hash, never changed
cache/           developed light, made again when missing
delivered/       finished prints
"""

import contextlib
import hashlib
import json
import os
import re
import shutil
import tempfile
import threading
from collections import OrderedDict
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import platformdirs

from ..core.capture.brackets import BracketFrame, merge
from ..core.picture import LinearPicture
from ..errors import BadCapture, NotFound, SilvrinError
from ..files.capture import Developed, read_capture
from ..files.deliver import disk_error, whole_or_nothing
from ..shelf import Shelf, shipped
from . import captures, rolls, shelf_items
from .captures import Capture
from .database import Database
from .merging import MergeFile, Source, exposure_of

CACHE_VERSION = 1  # raise it when the developed light changes
OPEN_PICTURES = 8


def standard_home() -> Path:
    """Where the platform keeps the data of a user."""
    return Path(platformdirs.user_data_dir("silvrin", appauthor=False))


@dataclass(frozen=True)
class Incoming:
    """A received file that is not taken in yet."""

    path: Path
    sha256: str
    bytes: int


class Library:
    """The library in a folder, which is made when it is not there."""

    def __init__(self, home: Path) -> None:
        self.home = home
        try:
            for name in ("originals", "cache", "delivered", "incoming"):
                (home / name).mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise disk_error(error, home) from error
        self.database = Database(home / "library.sqlite")
        self._pictures: OrderedDict[str, LinearPicture] = OrderedDict()
        self._lock = threading.Lock()
        self._shelf = shipped()

    @property
    def shelf(self) -> Shelf:
        """The shelf with this library's own items on it."""
        read = self.database.read
        edition = shelf_items.edition(read)
        if edition != self._shelf.edition:
            self._shelf = shipped().with_own(shelf_items.own_items(read), edition)
        return self._shelf

    def clear_incoming(self) -> None:
        """Remove what a crash left half received."""
        for left in (self.home / "incoming").iterdir():
            left.unlink(missing_ok=True)

    def receive(self, chunks: Iterable[bytes]) -> Incoming:
        """Write what arrives to a file of its own; removed when anything fails."""
        reception = Reception(self.home / "incoming")
        try:
            for chunk in chunks:
                reception.write(chunk)
            return reception.done()
        except BaseException:
            reception.discard()
            raise

    def take_in(self, incoming: Incoming, name: str, roll_id: int) -> int:
        """Make a received file a frame of a roll; gives the frame's id.

        The capture is developed first, so that only what can be read is kept. A capture that is
        known already is not stored twice. Raises BadCapture, DiskFull or NotFound.
        """
        try:
            file_name = plain_name(name)
            rolls.frames_of(self.database.read, roll_id)
            known = captures.find_capture(self.database.read, incoming.sha256)
            if known is None:
                developed = read_capture(incoming.path, file_name)
                known = self._keep(incoming, file_name, developed)
            with self.database.write() as connection:
                captures.add_capture(connection, known)
                title = re.sub(r"^\d+[ _-]+", "", Path(file_name).stem) or file_name
                title = title[:1].upper() + title[1:]
                return rolls.add_frame(connection, roll_id, known.sha256, title)
        finally:
            incoming.path.unlink(missing_ok=True)

    def take_in_file(self, source: Path, roll_id: int) -> int:
        """Take in a file of this machine; raises BadCapture when it changes while it is read."""
        try:
            before = source.stat()
            with source.open("rb") as file:
                incoming = self.receive(iter(lambda: file.read(1 << 20), b""))
            after = source.stat()
        except OSError as error:
            raise BadCapture(f"{source}: cannot be read ({error.strerror or error}).") from error
        if (before.st_size, before.st_mtime_ns) != (after.st_size, after.st_mtime_ns):
            incoming.path.unlink(missing_ok=True)
            raise BadCapture(f"{source}: it changed while it was read; wait until it is complete.")
        return self.take_in(incoming, source.name, roll_id)

    def _keep(self, incoming: Incoming, file_name: str, developed: Developed) -> Capture:
        suffix = Path(file_name).suffix.lower()
        height, width = developed.light.shape[:2]
        picture = LinearPicture.with_pyramid(developed.light, developed.scale)
        original = self._original(incoming.sha256, suffix)
        self._write_cache(incoming.sha256, picture)
        try:
            original.parent.mkdir(parents=True, exist_ok=True)
            incoming.path.replace(original)
            original.chmod(0o444)
        except OSError as error:
            shutil.rmtree(self._cache_folder(incoming.sha256), ignore_errors=True)
            raise disk_error(error, self.home) from error
        return Capture(
            sha256=incoming.sha256,
            file_name=file_name,
            suffix=suffix,
            kind=developed.kind,
            bytes=incoming.bytes,
            width=width,
            height=height,
            scale=developed.scale,
            metadata=developed.metadata.model_dump_json(),
        )

    def original(self, sha256: str) -> Path:
        """The original file of a capture."""
        return self._original(sha256, captures.capture(self.database.read, sha256).suffix)

    def _original(self, sha256: str, suffix: str) -> Path:
        return self.home / "originals" / sha256[:2] / f"{sha256}{suffix}"

    def picture(self, sha256: str) -> LinearPicture:
        """The linear light of a capture, from the cache, developed again when it is gone."""
        with self._lock:
            if sha256 in self._pictures:
                self._pictures.move_to_end(sha256)
                return self._pictures[sha256]
        picture = self._read_cache(sha256)
        if picture is None:
            picture = self._developed_again(sha256)
            with contextlib.suppress(SilvrinError):  # a full disk is no reason not to show it
                self._write_cache(sha256, picture)
        with self._lock:
            self._pictures[sha256] = picture
            while len(self._pictures) > OPEN_PICTURES:
                self._pictures.popitem(last=False)
        return picture

    def _developed_again(self, sha256: str) -> LinearPicture:
        original = self.original(sha256)
        if not original.exists():
            raise NotFound(f"The original {original.name} is gone from {original.parent}.")
        if captures.capture(self.database.read, sha256).kind == "merged":
            file = MergeFile.model_validate_json(original.read_text())
            return self._merged(file, lambda share: None, lambda: True)
        developed = read_capture(original)
        return LinearPicture.with_pyramid(developed.light, developed.scale)

    def _merged(
        self, file: MergeFile, progress: Callable[[float], None], wanted: Callable[[], bool]
    ) -> LinearPicture:
        frames = []
        for source in file.sources:
            picture = self.picture(source.sha256)
            frames.append(BracketFrame(picture.levels[0], picture.scale, source.exposure))
        merged = merge(frames, file.reference, file.ghosts, progress, wanted)
        return LinearPicture.with_pyramid(merged.light, merged.scale)

    def merge(
        self,
        frame_ids: list[int],
        reference: int,
        ghosts: float,
        progress: Callable[[float], None] = lambda share: None,
        wanted: Callable[[], bool] = lambda: True,
    ) -> int:
        """Merge frames of a roll into a new frame; gives its id. `reference` is the id of the frame
        that things which moved are taken from.

        Nothing is kept until it is whole. Raises BadCapture for no bracket, Dropped when no longer
        wanted, NotFound and DiskFull.
        """
        found = [rolls.frame(self.database.read, frame_id) for frame_id in frame_ids]
        if reference not in frame_ids:
            raise BadCapture(f"The reference, frame {reference}, is not among the frames given.")
        first = found[frame_ids.index(reference)]
        sources = [
            Source(sha256=f.sha256, exposure=exposure_of(f.metadata, f.title)) for f in found
        ]
        file = MergeFile(sources=sources, reference=frame_ids.index(reference), ghosts=ghosts)
        text = file.model_dump_json(indent=1).encode()
        sha256 = hashlib.sha256(text).hexdigest()
        if captures.find_capture(self.database.read, sha256) is None:
            picture = self._merged(file, progress, wanted)
            self._write_cache(sha256, picture)
            original = self._original(sha256, ".json")
            original.parent.mkdir(parents=True, exist_ok=True)
            with whole_or_nothing(original) as target:
                target.write(text)
            known = Capture(
                sha256=sha256,
                file_name=f"{first.title}, merged.json",
                suffix=".json",
                kind="merged",
                bytes=len(text),
                width=picture.width,
                height=picture.height,
                scale=picture.scale,
                metadata=first.metadata.model_dump_json(),
            )
            with self.database.write() as connection:
                captures.add_capture(connection, known)
        with self.database.write() as connection:
            title = f"{first.title}, merged"
            return rolls.add_frame(connection, first.roll_id, sha256, title)

    def _cache_folder(self, sha256: str) -> Path:
        return self.home / "cache" / f"v{CACHE_VERSION}" / sha256

    def _write_cache(self, sha256: str, picture: LinearPicture) -> None:
        """All levels and then the facts that make them count, or nothing."""
        folder = self._cache_folder(sha256)
        facts = {"scale": picture.scale, "levels": len(picture.levels)}
        try:
            folder.mkdir(parents=True, exist_ok=True)
            for number, level in enumerate(picture.levels):
                with whole_or_nothing(folder / f"{number}.npy") as file:
                    np.save(file, level)
            with whole_or_nothing(folder / "picture.json") as file:
                file.write(json.dumps(facts).encode())
        except BaseException as error:
            shutil.rmtree(folder, ignore_errors=True)
            if isinstance(error, OSError):
                raise disk_error(error, self.home) from error
            raise

    def _read_cache(self, sha256: str) -> LinearPicture | None:
        folder = self._cache_folder(sha256)
        try:
            facts = json.loads((folder / "picture.json").read_text())
            # copy on write: the kernels want arrays that could be written
            levels = [
                np.load(folder / f"{number}.npy", mmap_mode="c")
                for number in range(facts["levels"])
            ]
        except (OSError, ValueError, KeyError):
            return None
        return LinearPicture([level.view(np.ndarray) for level in levels], facts["scale"])


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


def plain_name(name: str) -> str:
    """The last part of a file name, fit to be shown and used; raises BadCapture for none."""
    if "\0" in name or "/" in name or "\\" in name or name in ("", ".", ".."):
        raise BadCapture(f"{name[:80]!r} is not a file name; give the name alone, without folders.")
    if len(name.encode()) > 200:
        raise BadCapture(f"{name[:40]}…: the name is longer than 200 bytes; shorten it.")
    return name


def open_library(home: Path | None) -> Library:
    """The library in `home`, or in the user's standard folder."""
    chosen = home or standard_home()
    if chosen.exists() and not chosen.is_dir():
        raise SilvrinError(f"{chosen} is a file; --home needs a folder.")
    return Library(chosen)
