"""Showing a file in the desktop's own window of its folder."""

import os
import subprocess
import sys
from pathlib import Path

from ..errors import NotFound, SilvrinError


def has_screen() -> bool:
    """Whether there is a desktop on which windows can open."""
    if sys.platform in ("darwin", "win32"):
        return True
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def reveal(file: Path) -> None:
    """Open the folder of a file. Raises NotFound for one that is not there, SilvrinError where
    there is no desktop."""
    if not file.exists():
        raise NotFound(f"{file.name} is not in {file.parent} any more; it was moved or deleted.")
    if sys.platform == "darwin":
        command = ["open", "-R", str(file)]
    elif sys.platform == "win32":
        command = ["explorer", f"/select,{file}"]
    else:
        command = ["xdg-open", str(file.parent)]
    try:
        if not has_screen():
            raise FileNotFoundError
        subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    except OSError as error:
        raise SilvrinError(
            f"There is no desktop here that opens folders. The file lies in {file.parent}."
        ) from error
