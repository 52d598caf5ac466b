"""Names of files that every file system takes, and templates for them."""

import re
import unicodedata
from collections.abc import Mapping
from datetime import datetime
from pathlib import Path

from .metadata import Metadata

MOST_NAME = 200  # bytes of a stem: file systems take 255, and a number and a suffix follow
TOKENS = (  # what a template may name
    "roll", "number", "title", "print", "output", "capture", "date", "year", "camera", "film",
)  # fmt: skip
OF_CAMERA = ("date", "year", "camera")  # those of them that the camera wrote
_TOKEN = re.compile(r"\{([^{}]*)\}")
_NOT_IN_NAMES = re.compile(r'[\\/:*?"<>|\x00-\x1f\x7f]+')


def fit_name(text: str) -> str:
    """A text as the stem of a file's name that every file system takes: what they do not allow is
    a dash, and at most 200 bytes of UTF-8 are left, cut between characters, not before an accent.
    """
    plain = unicodedata.normalize("NFC", text.encode("utf-8", "replace").decode())
    plain = _NOT_IN_NAMES.sub("-", plain).strip(" .")
    cut = ""
    while len(plain.encode()) > MOST_NAME or (cut and unicodedata.combining(cut)):
        plain, cut = plain[:-1], plain[-1]
    return plain.strip(" .") or "print"


def free_name(folder: Path, stem: str, suffix: str) -> Path:
    """A name in a folder that no file has yet."""
    target, number = folder / f"{stem}{suffix}", 2
    while target.exists():
        target, number = folder / f"{stem} {number}{suffix}", number + 1
    return target


def check_template(template: str) -> str:
    """A template for names, looked over; raises ValueError in words."""
    if not template.strip():
        raise ValueError("a template is text with names in braces, such as {title}")
    for name in _TOKEN.findall(template):
        if name not in TOKENS:
            raise ValueError(f"{{{name}}} is none of its names: {', '.join(TOKENS)}")
    plain = _TOKEN.sub("", template)
    if "{" in plain or "}" in plain:
        raise ValueError("a brace is open; names stand in braces, such as {title}")
    if _NOT_IN_NAMES.search(plain) or plain.strip().startswith("."):
        raise ValueError(
            'a template names a file, not a folder: without / \\ : * ? " < > | and not '
            "beginning with a dot"
        )
    return template


def named(template: str, values: Mapping[str, object]) -> str:
    """The stem of a name that a template gives."""
    return fit_name(_TOKEN.sub(lambda found: str(values.get(found[1], "")), template))


def names_of(template: str) -> set[str]:
    """The names that stand in a template."""
    return set(_TOKEN.findall(template))


def of_camera(metadata: Metadata) -> dict[str, str]:
    """What a template's names stand for that the camera wrote."""
    when = datetime.fromisoformat(metadata.taken) if metadata.taken else None
    return {
        "date": f"{when:%Y-%m-%d}" if when else "undated",
        "year": f"{when:%Y}" if when else "undated",
        "camera": metadata.camera or "camera",
    }


def check_folder(folder: str) -> str:
    """A folder of this computer, looked over; raises ValueError in words."""
    if "\0" in folder or not Path(folder).is_absolute():
        raise ValueError(f"{folder!r} is no folder of this computer, written from its root")
    return folder
