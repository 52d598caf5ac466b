"""Names of files and folders of this computer, as they are given, kept and shown.

A name of a file is bytes, and need not be UTF-8. Python has the bytes that are none as lone
surrogates, which neither JSON nor SQLite takes: where a name is kept or shown they are characters
of a private area, one for one.
"""

import os
import re
from collections.abc import Iterator
from pathlib import Path

from ..errors import BadCapture

_TO_TEXT = {0xDC00 + byte: 0xF700 + byte for byte in range(0x80, 0x100)}
_TO_NAME = {there: here for here, there in _TO_TEXT.items()}


def text_of(path: Path | str) -> str:
    """A path as text that can be kept and shown."""
    return str(path).translate(_TO_TEXT)


def path_of(text: str) -> Path:
    """The path that a kept text stands for."""
    return Path(text.translate(_TO_NAME))


def folder_of(text: str) -> Path:
    """The folder of this computer that a user names; `~` is their own. Raises BadCapture for what
    is no whole path of a folder."""
    try:
        folder = path_of(text).expanduser()
        there = folder.is_dir()
    except (RuntimeError, ValueError, OSError) as error:  # no such user, a null, too long a name
        raise BadCapture(f"{text[:200]!r} names no folder of this computer ({error}).") from error
    if not folder.is_absolute():
        raise BadCapture(f"{text[:200]}: give the whole path, from the root of the disk.")
    if not there:
        said = "is a file" if folder.exists() else "is not there"
        raise BadCapture(f"{text[:200]} {said}; give a folder of this computer.")
    return folder


def files_below(folder: Path, subfolders: bool) -> Iterator[Path]:
    """Files of a folder in the order of their names, numbers by value; hidden ones are left out,
    and links to folders are not followed."""

    def natural(name: str) -> list[object]:
        return [(0, int(p), "") if p.isdecimal() else (1, 0, p) for p in re.split(r"(\d+)", name)]

    for top, below, names in os.walk(folder):
        below[:] = sorted((n for n in below if not n.startswith(".")), key=natural)
        if not subfolders:
            below.clear()
        for name in sorted((n for n in names if not n.startswith(".")), key=natural):
            yield Path(top) / name
