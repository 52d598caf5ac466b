"""Files that appear when they are whole, or not at all."""

import errno
import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from ..errors import DiskFull, SilvrinError
from .names import fit_name

PART = ".part"


@contextmanager
def whole_or_nothing(target: Path) -> Iterator[IO[bytes]]:
    """A file beside `target` that takes its name when all went well, and is removed otherwise."""
    try:
        handle, name = tempfile.mkstemp(prefix=_part(target), suffix=PART, dir=target.parent)
        os.close(handle)
        part = Path(name)
    except OSError as error:
        raise disk_error(error, target) from error
    try:
        with part.open("w+b") as file:
            yield file
            file.flush()
            os.fsync(file.fileno())
        part.chmod(0o644)
        part.replace(target)
    except OSError as error:
        raise disk_error(error, target) from error
    finally:
        part.unlink(missing_ok=True)


def clear_parts(*targets: Path) -> None:
    """Remove what a crash left of files that were being written."""
    begun: dict[Path, tuple[str, ...]] = {}
    for target in targets:
        begun[target.parent] = (*begun.get(target.parent, ()), _part(target))
    for folder, names in begun.items():
        for left in folder.glob(f".*{PART}"):
            if left.name.startswith(names):
                left.unlink(missing_ok=True)


def _part(target: Path) -> str:
    return f".{fit_name(target.stem[:40])}."


def disk_error(error: OSError, target: Path) -> SilvrinError:
    """What an error of the file system means, in words."""
    # numpy gives no number when less was written than it asked for
    if error.errno in (errno.ENOSPC, errno.EDQUOT, errno.EFBIG, None):
        return DiskFull(
            f"{target}: the disk is full; nothing was written. Make room or choose another folder."
        )
    return SilvrinError(f"{target}: cannot be written ({error.strerror or error}).")
