"""Small pictures of captures and prints, made again when they are missing."""

from collections.abc import Callable
from pathlib import Path

from ..files.deliver import whole_or_nothing


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
        """Write a small picture; raises DiskFull."""
        path.parent.mkdir(parents=True, exist_ok=True)
        with whole_or_nothing(path) as file:
            file.write(data)

    def forget(self, sha256: str) -> None:
        """Remove all of a capture."""
        for small in self._folder.glob(f"*/{sha256[:24]}*.jpg"):
            small.unlink(missing_ok=True)
