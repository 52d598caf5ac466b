"""Open pictures: the linear light of captures, from memory, from the cache, or developed anew.

The cache is made again when it is missing, is written beside the work that waits for a picture, and
is bounded: what was not looked at for longest goes first.
"""

import contextlib
import json
import os
import shutil
import threading
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

import numpy as np

from ..core.picture import LinearPicture
from ..errors import SilvrinError
from ..files.room import READING
from ..files.whole import disk_error, whole_or_nothing

CACHE_VERSION = 2  # raise it when the developed light changes
OPEN_PICTURES = 24  # mapped from the cache: the system can take their memory back
MOST_BYTES = 24 << 30  # of the cache on the disk


class Pictures:
    """The pictures of a library; `develop` makes one from its original, for which `need` says the
    memory that this takes."""

    def __init__(
        self, folder: Path, develop: Callable[[str], LinearPicture], need: Callable[[str], float]
    ) -> None:
        self._top = folder
        self._folder = folder / f"v{CACHE_VERSION}"
        self._develop, self._need = develop, need
        self._open: OrderedDict[str, LinearPicture] = OrderedDict()
        self._making: dict[str, Future[LinearPicture]] = {}
        self._lock = threading.Lock()
        self._writer = ThreadPoolExecutor(1, thread_name_prefix="cache")

    def clear_old(self) -> None:
        """Remove what former versions of the program cached, and what was not written whole."""
        for folder in self._top.iterdir():
            if folder.name.startswith("v") and folder != self._folder:
                shutil.rmtree(folder, ignore_errors=True)
        for folder in self._folder.iterdir() if self._folder.exists() else ():
            if not (folder / "picture.json").exists():
                shutil.rmtree(folder, ignore_errors=True)

    def ready(self, sha256: str) -> bool:
        """Whether a picture is there without being developed."""
        with self._lock:
            return sha256 in self._open or (self._of(sha256) / "picture.json").exists()

    def get(self, sha256: str) -> LinearPicture:
        """The picture of a capture; those who ask meanwhile wait for the same one."""
        with self._lock:
            if sha256 in self._open:
                self._open.move_to_end(sha256)
                return self._open[sha256]
            making = self._making.get(sha256)
            mine = making is None
            if making is None:
                making = self._making[sha256] = Future()
        if not mine:
            return making.result()
        try:
            picture = self._read(sha256)
            if picture is None:
                with READING.of(self._need(sha256)):
                    picture = self._develop(sha256)
                    self.keep(sha256, picture)
            else:
                self._put(sha256, picture)
            making.set_result(picture)
            return picture
        except BaseException as error:
            making.set_exception(error)
            raise
        finally:
            with self._lock:
                self._making.pop(sha256, None)

    def keep(self, sha256: str, picture: LinearPicture) -> None:
        """Hold a picture that was made, and write it to the cache meanwhile."""
        self._put(sha256, picture)
        release = READING.hold(sum(level.nbytes for level in picture.levels))
        self._writer.submit(self._write_and_swap, sha256, picture).add_done_callback(
            lambda _: release()
        )

    def forget(self, sha256: str) -> None:
        """Remove what is kept of a capture."""
        self.settle()
        with self._lock:
            self._open.pop(sha256, None)
        shutil.rmtree(self._of(sha256), ignore_errors=True)

    def settle(self) -> None:
        """Wait until everything is written."""
        self._writer.submit(lambda: None).result()

    def _put(self, sha256: str, picture: LinearPicture) -> None:
        with self._lock:
            self._open[sha256] = picture
            self._open.move_to_end(sha256)
            while len(self._open) > OPEN_PICTURES:
                self._open.popitem(last=False)

    def _of(self, sha256: str) -> Path:
        return self._folder / sha256

    def _write_and_swap(self, sha256: str, picture: LinearPicture) -> None:
        # a full disk is no reason not to show a picture
        with contextlib.suppress(SilvrinError):
            self._write(sha256, picture)
            mapped = self._read(sha256)
            with self._lock:
                if mapped is not None and self._open.get(sha256) is picture:
                    self._open[sha256] = mapped  # its memory can be taken back by the system
            self._bound()

    def _write(self, sha256: str, picture: LinearPicture) -> None:
        """All levels and then the facts that make them count, or nothing."""
        folder = self._of(sha256)
        facts = {
            "scale": picture.scale,
            "limits": picture.limits,
            "levels": len(picture.levels),
        }
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
                raise disk_error(error, self._folder) from error
            raise

    def _read(self, sha256: str) -> LinearPicture | None:
        folder = self._of(sha256)
        try:
            facts = json.loads((folder / "picture.json").read_text())
            # copy on write: the kernels want arrays that could be written
            levels = [
                np.load(folder / f"{number}.npy", mmap_mode="c")
                for number in range(facts["levels"])
            ]
            os.utime(folder / "picture.json")
            picture = LinearPicture([level.view(np.ndarray) for level in levels], facts["scale"])
            picture.limits = tuple(facts["limits"])
        except (OSError, ValueError, KeyError):
            return None
        return picture

    def _bound(self) -> None:
        """Keep the cache within its bound."""
        kept: list[tuple[float, int, Path]] = []
        for folder in self._folder.iterdir():
            try:
                seen = (folder / "picture.json").stat().st_mtime
                size = sum(file.stat().st_size for file in folder.iterdir())
            except OSError:
                continue
            kept.append((seen, size, folder))
        total = sum(size for _, size, _ in kept)
        for _, size, folder in sorted(kept)[:-1]:
            if total <= MOST_BYTES:
                return
            shutil.rmtree(folder, ignore_errors=True)
            total -= size
