"""Takes folders in, in the background: two files at a time, in their order on the roll, and goes on
where it was when the server is started again."""

import logging
import sqlite3
import threading
import time
from collections import deque
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import cast

from ..errors import BadCapture, DiskFull, NotAnImage, SilvrinError
from ..files.kinds import check_file
from . import imports, rolls
from .captures import Capture
from .folders import files_below, folder_of, path_of, text_of
from .imports import FolderImport
from .library import Keep, Library
from .reception import hash_of

LOG = logging.getLogger(__name__)
AT_ONCE = 2
MOST_FILES = 100_000


@dataclass(frozen=True)
class _Elsewhere:
    """A capture that another roll has."""

    said: str
    frame: int


class TakingIn:
    """The folders that a library takes in."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._queue = ThreadPoolExecutor(1, thread_name_prefix="imports")
        self._pool = ThreadPoolExecutor(AT_ONCE, thread_name_prefix="import")
        self._lock = threading.Lock()
        self._rates: dict[int, tuple[float, int]] = {}  # when it began here, and with how many done
        self._at: dict[int, str] = {}
        self._stopping = threading.Event()

    def stop(self) -> None:
        """Finish the files that are being read and begin nothing more; the rest waits for
        `go_on`."""
        self._stopping.set()
        self._queue.shutdown(wait=False, cancel_futures=True)

    def settle(self) -> None:
        """After `stop`: until the files that are being read are taken in."""
        self._queue.shutdown(wait=True)
        self._pool.shutdown(wait=True)

    def go_on(self) -> None:
        """Take up what was not finished when the server ended."""
        for import_id in imports.running(self._library.database.read):
            self._queue.submit(self._run, import_id)

    def order(
        self, given: str, roll_id: int | None, keep: Keep, subfolders: bool, again: bool
    ) -> FolderImport:
        """Take a folder in; without a roll a new one is named after it. Raises BadCapture when
        there is nothing to take in."""
        folder, shown = folder_of(given), text_of(given)
        if folder.resolve().is_relative_to(self._library.home.resolve()):
            raise BadCapture(f"{shown} is Silvrin's own library; give the folder of a job.")
        paths = []
        for path in files_below(folder, subfolders):
            paths.append(text_of(path.relative_to(folder)))
            if len(paths) > MOST_FILES:
                raise BadCapture(
                    f"{shown} holds more than {MOST_FILES} files; take its subfolders in by "
                    "themselves."
                )
        if not paths:
            where = "no file" if subfolders else "no file (its subfolders are left out)"
            raise BadCapture(f"{shown} holds {where}; there is nothing to take in.")
        with self._library.database.write() as connection:
            if roll_id is None:
                roll_id = rolls.add_roll(connection, text_of(folder.name or folder))
            rolls.check_roll(connection, roll_id)
            number = imports.add_import(connection, roll_id, text_of(folder), keep, again, paths)
        self._queue.submit(self._run, number)
        return self.get(number)

    def get(self, import_id: int) -> FolderImport:
        """An import as it stands, with its time left; raises NotFound."""
        found = imports.get_import(self._library.database.read, import_id)
        with self._lock:
            began, done_before = self._rates.get(import_id, (0.0, 0))
            found.now = self._at.get(import_id)
        done = found.total - found.waiting - done_before
        if found.state == "running" and done > 0:
            found.seconds_left = (time.monotonic() - began) / done * found.waiting
        return found

    def recent(self) -> list[FolderImport]:
        """Those that run or stopped, and those that ended and were not put away."""
        return [self.get(item.id) for item in imports.recent(self._library.database.read)]

    def cancel(self, import_id: int) -> FolderImport:
        """Stop after the files that are being read; what was taken in stays. One that has ended is
        put away."""
        open_ = self.get(import_id).state in ("running", "stopped")
        with self._library.database.write() as connection:
            if open_:
                imports.set_state(connection, import_id, "cancelled")
            else:
                imports.put_away(connection, import_id)
        return self.get(import_id)

    def resume(self, import_id: int) -> FolderImport:
        """Go on with one that stopped."""
        if self.get(import_id).state == "stopped":
            with self._library.database.write() as connection:
                imports.set_state(connection, import_id, "running")
            self._queue.submit(self._run, import_id)
        return self.get(import_id)

    def wait(self) -> None:
        """Until everything ordered so far is done."""
        self._queue.submit(lambda: None).result()

    def _run(self, import_id: int) -> None:
        read = self._library.database.read
        what = imports.get_import(read, import_id)
        with self._lock:
            self._rates[import_id] = (time.monotonic(), what.total - what.waiting)
        waiting = imports.waiting_files(read, import_id)
        reading: deque[tuple[int, str, Future[Capture | _Elsewhere]]] = deque()
        try:
            for number, path in waiting:
                if len(reading) > AT_ONCE:
                    self._add(what, *reading.popleft())
                if self._stopping.is_set() or self._state(import_id) != "running":
                    break
                reading.append((number, path, self._pool.submit(self._read, what, path)))
            while reading:
                self._add(what, *reading.popleft())
            with self._library.database.write() as connection:
                now = imports.get_import(connection, import_id)
                if now.state == "running" and not now.waiting:
                    imports.set_state(connection, import_id, "done")
                    # of a folder that was all known no empty roll is left
                    rolls.bin_if_empty(connection, now.roll_id)
        except Exception as error:
            said = str(error) if isinstance(error, SilvrinError) else repr(error)
            with self._library.database.write() as connection:
                imports.set_state(connection, import_id, "stopped", said)
        finally:
            for _, _, work in reading:
                work.exception()
            with self._lock:
                self._at.pop(import_id, None)

    def _state(self, import_id: int) -> imports.State:
        row = self._library.database.read.execute(
            "SELECT state FROM imports WHERE id = ?", (import_id,)
        ).fetchone()
        return cast(imports.State, row["state"])

    def _read(self, what: FolderImport, path: str) -> "Capture | _Elsewhere":
        source = path_of(what.folder) / path_of(path)
        with self._lock:
            self._at[what.id] = path
        check_file(source)
        known = None if what.again else self._elsewhere(source, what.roll_id)
        return known or self._library.prepare(source, what.keep)

    def _add(
        self, what: FolderImport, number: int, path: str, work: "Future[Capture | _Elsewhere]"
    ) -> None:
        """Add what was read, in its turn, and write down what became of it."""
        library, folder = self._library, path_of(what.folder)
        outcome: imports.Outcome
        reason, frame = None, None
        try:
            read = work.result()
            if isinstance(read, _Elsewhere):
                outcome, reason, frame = "known", read.said, read.frame
            else:
                taken = library.add(read, what.roll_id)
                outcome, frame = ("known" if taken.known else "taken"), taken.frame
                if taken.known:
                    reason = self._said(frame)
        except DiskFull:
            raise
        except NotAnImage as error:
            outcome, reason = "left", _without(path, error)
        except SilvrinError as error:
            if not folder.is_dir():
                raise BadCapture(
                    f"The folder {what.folder} is not there any more. Connect its disk or put it "
                    "back, then go on; what was taken in stays."
                ) from error
            outcome, reason = "refused", _without(path, error)
        except sqlite3.Error:
            raise  # it is the library that fails, not the file
        except Exception as error:  # whatever is odd about one file, the others go on
            LOG.exception("%s was not taken in", path)
            outcome, reason = "refused", f"it could not be taken in ({error!r})."
        with library.database.write() as connection:
            imports.set_outcome(connection, what.id, number, outcome, reason, frame)

    def _elsewhere(self, source: Path, roll_id: int) -> "_Elsewhere | None":
        """A frame of another roll that shows the same capture, and where it is."""
        same_size = self._library.database.read.execute(
            "SELECT 1 FROM captures WHERE bytes = ?", (_size(source),)
        ).fetchone()
        if same_size is None:
            return None
        found = rolls.where_known(self._library.database.read, hash_of(source))
        if not found or any(f.roll == roll_id for f in found):
            return None
        return _Elsewhere(self._said(found[0].frame), found[0].frame)

    def _said(self, frame_id: int) -> str:
        frame = rolls.frame(self._library.database.read, frame_id)
        return f"the same as frame {frame.number} of {frame.roll_name}"


def _size(source: Path) -> int:
    try:
        return source.stat().st_size
    except OSError:
        return -1


def _without(path: str, error: SilvrinError) -> str:
    """What is wrong with a file, without its name in front."""
    text = str(error)
    for name in (path, Path(path).name):
        text = text.removeprefix(f"{name}: ")
    return text.split(f"/{Path(path).name}: ")[-1]
