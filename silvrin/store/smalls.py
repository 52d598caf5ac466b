"""Small pictures of captures and prints, made again when they are missing."""

from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from ..errors import DiskFull
from ..files.thumbnails import half_as_large
from ..files.whole import whole_or_nothing


class Smalls:
    """The small pictures of a library, JPEGs in a folder; `edition` tells that of the shelf."""

    def __init__(self, folder: Path, edition: Callable[[], int]) -> None:
        self._folder, self._edition = folder, edition

    def of(self, name: str) -> Path:
        """Where the small picture of a capture is kept."""
        return self._folder / name[:2] / f"{name}.jpg"

    def of_print(self, sha256: str, head: int) -> Path:
        """Where the small picture of a print at a change is kept."""
        return self.of(f"{sha256[:24]}-{head}-{self._edition()}")

    def found(self, sha256: str) -> Path | None:
        """The small picture in colour of a capture; None when it has to be made."""
        path = self.of(sha256)
        return path if path.exists() else None

    def keep(self, path: Path, data: bytes) -> None:
        """Write a small picture, and it half as large; raises DiskFull."""
        path.parent.mkdir(parents=True, exist_ok=True)
        for to, written in ((path, data), (_half(path), half_as_large(data))):
            with whole_or_nothing(to) as file:
                file.write(written)

    def read(self, path: Path, half: bool) -> bytes:
        """A small picture that is kept, or it half as large."""
        if not half:
            return path.read_bytes()
        if _half(path).exists():
            return _half(path).read_bytes()
        made = half_as_large(path.read_bytes())
        with (
            suppress(DiskFull),
            whole_or_nothing(_half(path)) as file,
        ):  # it can be seen all the same
            file.write(made)
        return made

    def forget(self, sha256: str) -> None:
        """Remove all of a capture."""
        for small in self._folder.glob(f"*/{sha256[:24]}*.jpg"):
            small.unlink(missing_ok=True)


def _half(path: Path) -> Path:
    return path.with_stem(f"{path.stem}-half")
