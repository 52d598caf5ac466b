"""A library: one folder that holds the database, the originals and what can be made again.

library.sqlite   what the user did
originals/       captures by content hash, never changed
kept/            originals whose frames were given up while their file was to be kept
cache/           developed light and small pictures, made again when missing
delivered/       finished prints
"""

import shutil
from collections.abc import Iterable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Literal

import platformdirs
from filelock import FileLock

from ..core.light_path import LightPath
from ..core.mount.mounting import Caption
from ..core.picture import LinearPicture
from ..core.recipe import Recipe
from ..core.render import Sitting
from ..errors import NotFound, SilvrinError
from ..files.capture import need_of, read_capture
from ..files.first_look import embedded_preview, first_look
from ..files.kinds import MEMORY, check_file, is_rendered
from ..files.metadata import Metadata
from ..files.raw import decode_raw, measure_raw, raw_scale
from ..files.room import READING
from ..files.whole import disk_error
from ..shelf import Shelf, shipped
from . import bin, captures, rolls, shelf_items
from .captures import Capture
from .database import Database
from .folders import path_of, text_of
from .lock import lock
from .merger import Merger
from .merging import MergeFile
from .pictures import Pictures
from .reception import Incoming, hash_of, plain_name, receive, receive_file
from .references import References
from .rolls import Frame
from .sheets import SheetRoom
from .smalls import Smalls

MERGE_MEMORY = 30.0  # bytes a pixel
Keep = Literal["copy", "refer"]


def caption_of(frame: Frame) -> Caption:
    """What the mount of a frame's prints says of it."""
    return Caption(frame.number, int(frame.sha256[:8], 16))


def standard_home() -> Path:
    """Where the platform keeps the data of a user."""
    return Path(platformdirs.user_data_dir("silvrin", appauthor=False))


@dataclass(frozen=True)
class TakenIn:
    """What became of a file that was to be taken in."""

    frame: int
    known: bool  # the roll had it already


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
        self.pictures = Pictures(home / "cache", self._developed, self._need)
        self.sheets = SheetRoom()
        self.references = References(home / "cache" / "references")
        self.smalls = Smalls(home / "cache" / "small", lambda: self.shelf.edition)
        self.merger = Merger(self)
        self.lock: FileLock | None = None
        self._shelf = shipped()

    def close(self) -> None:
        """Let go of the library's files."""
        self.pictures.settle()
        self.database.close()
        if self.lock is not None:
            self.lock.release()

    @property
    def shelf(self) -> Shelf:
        """The shelf with this library's own items on it."""
        read = self.database.read
        edition = shelf_items.edition(read)
        if edition != self._shelf.edition:
            self._shelf = shipped().with_own(shelf_items.own_items(read), edition)
        return self._shelf

    def light_path(self, recipe: Recipe) -> LightPath:
        """The light path of a recipe; raises BadRecipe when it names what is not there."""
        recipe = recipe.in_force
        return self.shelf.light_path(recipe, self.sheets.drawings(self.database.read, recipe))

    def sitting(self, frame: Frame, recipe: Recipe) -> Sitting:
        """A frame under a recipe; raises BadRecipe when it names what is not there, NotFound for
        a capture that is lost."""
        picture, path = self.picture(frame.sha256), self.light_path(recipe)
        return Sitting(frame.sha256, picture, path, caption_of(frame))

    def sit(self, frame_id: int, recipe: Recipe, drawn: Iterable[str]) -> tuple[Frame, Sitting]:
        """A frame and its sitting under a recipe, with the sheets that came with it; raises
        NotFound too."""
        frame = rolls.frame(self.database.read, frame_id)
        self.sheets.take(drawn)
        return frame, self.sitting(frame, recipe)

    def metered(self, frame: Frame, recipe: Recipe) -> Sitting:
        """The same, to be metered: a raw that is not developed yet need not be."""
        rough = self.rough(frame.sha256)
        if rough is None:
            rendered = self._is_rendered(frame.sha256)
            return replace(self.sitting(frame, recipe), rendered=rendered)
        path = self.light_path(recipe)
        return Sitting((frame.sha256, "rough"), rough, path, caption_of(frame))

    def _is_rendered(self, sha256: str) -> bool:
        capture = captures.capture(self.database.read, sha256)
        try:
            return is_rendered(self.original(sha256), capture.kind)
        except NotFound:  # what is developed can be looked at without it
            return False

    def clear_left(self) -> None:
        """Remove what a crash left half received or half delivered, and what is of no use in the
        cache."""
        for left in (*self.incoming.iterdir(), *self.delivered.glob(".*.part")):
            left.unlink(missing_ok=True)
        self.pictures.clear_old()

    @property
    def incoming(self) -> Path:
        """Where files are received."""
        return self.home / "incoming"

    @property
    def delivered(self) -> Path:
        """Where finished prints are written."""
        return self.home / "delivered"

    def receive(self, chunks: Iterable[bytes]) -> Incoming:
        """Write what arrives to a file of its own; removed when anything fails."""
        return receive(self.incoming, chunks)

    def take_in(self, incoming: Incoming, name: str, roll_id: int) -> TakenIn:
        """Make a received file a frame of a roll.

        It is looked over first, so that only what can be read is kept. A capture that is known
        already is not stored twice. Raises BadCapture, DiskFull or NotFound.
        """
        try:
            rolls.check_roll(self.database.read, roll_id)
        except NotFound:
            incoming.path.unlink(missing_ok=True)
            raise
        return self.add(self._kept(incoming, name), roll_id)

    def _kept(self, incoming: Incoming, name: str) -> Capture:
        """The capture in a received file, looked over and stored; the file itself is gone then."""
        try:
            file_name = plain_name(name)
            known = captures.find_capture(self.database.read, incoming.sha256)
            if known is None:
                look = first_look(incoming.path, file_name)
                known = captures.row_of(incoming.sha256, file_name, incoming.bytes, look)
                self.smalls.keep(self.smalls.of(known.sha256), look.small)
                self.keep_original(incoming, known.suffix)
            elif known.place is not None or self._is_gone(known):
                self.keep_original(incoming, known.suffix)  # from now on the library has its own
                with self.database.write() as connection:
                    captures.clear_place(connection, known.sha256)
            return known
        finally:
            incoming.path.unlink(missing_ok=True)

    def take_in_file(self, source: Path, roll_id: int, keep: Keep = "copy") -> TakenIn:
        """Take in a file of this machine: copied, or referred to where it lies. Raises BadCapture,
        also when it changes while it is read."""
        rolls.check_roll(self.database.read, roll_id)
        return self.add(self.prepare(source, keep), roll_id)

    def prepare(self, source: Path, keep: Keep) -> Capture:
        """A capture of this machine looked over, and stored where it is copied; `add` makes it a
        frame. Raises BadCapture, NotAnImage or DiskFull."""
        check_file(source)
        name = text_of(source.name)
        if keep == "copy":
            return self._kept(receive_file(self.incoming, source), name)
        file_name = plain_name(name)
        sha256, found = hash_of(source), source.stat()
        known = captures.find_capture(self.database.read, sha256)
        if known is None:
            look = first_look(source, file_name)
            lies = {"place": text_of(source.absolute()), "place_time": found.st_mtime_ns}
            known = captures.row_of(sha256, file_name, found.st_size, look).model_copy(update=lies)
            self.smalls.keep(self.smalls.of(sha256), look.small)
        elif known.lost_at is not None or self._is_gone(known):
            place = text_of(source.absolute())
            with self.database.write() as connection:
                captures.set_place(connection, sha256, place, found.st_mtime_ns)
        return known

    def add(self, capture: Capture, roll_id: int) -> TakenIn:
        """Make a capture that was prepared a frame of a roll."""
        with self.database.write() as connection:
            there = [f for f in rolls.where_known(connection, capture.sha256) if f.roll == roll_id]
            captures.add_capture(connection, capture)
            title = captures.title_of(capture.file_name)
            frame = rolls.add_frame(connection, roll_id, capture.sha256, title)
            return TakenIn(frame, bool(there))

    def _is_gone(self, capture: Capture) -> bool:
        """Whether the library's own copy was taken away from it."""
        own = self.own_original(capture.sha256, capture.suffix)
        return capture.place is None and not own.exists()

    def keep_original(self, incoming: Incoming, suffix: str) -> None:
        """Move a received file to the originals. Raises DiskFull or SilvrinError."""
        original = self.own_original(incoming.sha256, suffix)
        try:
            original.parent.mkdir(parents=True, exist_ok=True)
            incoming.path.replace(original)
            original.chmod(0o444)
        except OSError as error:
            raise disk_error(error, self.home) from error

    def original(self, sha256: str) -> Path:
        """The original file of a capture; raises NotFound when it is not where it was."""
        capture = captures.capture(self.database.read, sha256)
        if capture.place is not None:
            place = path_of(capture.place)
            if not place.exists():
                raise NotFound(
                    f"The original {place.name} is not in {place.parent} any more. Connect its "
                    "disk or put it back, or find it again from the contact sheet; what was done "
                    "to it is kept."
                )
            return place
        original = self.own_original(sha256, capture.suffix)
        if not original.exists():
            raise NotFound(f"The original {original.name} is gone from {original.parent}.")
        return original

    def own_original(self, sha256: str, suffix: str) -> Path:
        """Where the library's own copy of a capture lies."""
        return self.home / "originals" / sha256[:2] / f"{sha256}{suffix}"

    def picture(self, sha256: str) -> LinearPicture:
        """The linear light of a capture, from the cache, developed again when it is gone."""
        return self.pictures.get(sha256)

    def rough(self, sha256: str) -> LinearPicture | None:
        """A camera raw at half its size, to be shown while the picture itself is developed; None
        where that is ready, or is developed as quickly."""
        if self.pictures.ready(sha256):
            return None
        capture = captures.capture(self.database.read, sha256)
        if capture.kind != "raw":
            return None
        original = self.original(sha256)
        with READING.of(measure_raw(original, half=True)):
            raw = decode_raw(original, half=True)
        scale = raw_scale(Metadata.model_validate_json(capture.metadata)) * raw.scale
        rough = LinearPicture.enlarged(raw.light, scale, (capture.width, capture.height))
        rough.limits = raw.limits
        return rough

    def _need(self, sha256: str) -> float:
        """Bytes that developing a capture takes."""
        capture = captures.capture(self.database.read, sha256)
        if capture.kind == "merged":
            return min(MEMORY, capture.width * capture.height * MERGE_MEMORY)
        return need_of(self.original(sha256))

    def _developed(self, sha256: str) -> LinearPicture:
        original = self.original(sha256)
        if captures.capture(self.database.read, sha256).kind == "merged":
            file = MergeFile.model_validate_json(original.read_text())
            return self.merger.made(file, lambda share: None, lambda: True)
        return read_capture(original).picture()

    def preview(self, sha256: str, long_side: int = 1400) -> bytes | None:
        """What can be shown of a capture at once, as a JPEG: the picture in its file, or the small
        one."""
        capture = captures.capture(self.database.read, sha256)
        metadata = Metadata.model_validate_json(capture.metadata)
        found = None
        if capture.kind in ("raw", "jpeg"):
            found = embedded_preview(self.original(sha256), metadata.orientation, long_side)
        small = self.smalls.found(sha256)
        return found or (small.read_bytes() if small else None)

    def empty_bin(self, with_originals: bool) -> None:
        """Forget what is in the bin. The library's own copies of captures that no frame shows any
        more are deleted with it only when that is said; they are put into kept/ otherwise. Files
        outside the library are never touched."""
        read = self.database.read
        merges = {
            row["sha256"]: self.own_original(row["sha256"], ".json")
            for row in read.execute("SELECT sha256 FROM captures WHERE kind = 'merged'").fetchall()
        }
        files = {
            sha256: MergeFile.model_validate_json(path.read_text())
            for sha256, path in merges.items()
            if path.exists()
        }
        with self.database.write() as connection:
            orphans = bin.empty(connection, files)
        for orphan in orphans:
            self.pictures.forget(orphan.sha256)
            self.smalls.forget(orphan.sha256)
            original = self.own_original(orphan.sha256, orphan.suffix)
            if orphan.place is not None or not original.exists():
                continue
            if with_originals or orphan.suffix == ".json":
                original.chmod(0o644)
                original.unlink()
            else:
                self._put_aside(original, orphan.file_name)

    def _put_aside(self, original: Path, name: str) -> None:
        folder = self.home / "kept"
        folder.mkdir(exist_ok=True)
        target, number = folder / name, 2
        while target.exists():
            target = folder / f"{Path(name).stem} {number}{Path(name).suffix}"
            number += 1
        shutil.move(original, target)


def open_library(home: Path | None) -> Library:
    """The library in `home`, or in the user's standard folder, held for this program alone."""
    chosen = home or standard_home()
    if chosen.exists() and not chosen.is_dir():
        raise SilvrinError(f"{chosen} is a file; --home needs a folder.")
    held = lock(chosen)  # first: what is opened may be brought up to date
    library = Library(chosen)
    library.lock = held
    return library
