"""A library is worked by one program at a time."""

from pathlib import Path

from filelock import FileLock, Timeout

from ..errors import SilvrinError
from ..files.whole import disk_error

NAME = "in-use.lock"


def lock(home: Path) -> FileLock:
    """Hold a library for this program until it ends, however that is. Raises SilvrinError when
    another one holds it."""
    held = FileLock(home / NAME, timeout=0)
    try:
        home.mkdir(parents=True, exist_ok=True)
        held.acquire()
    except Timeout as error:
        raise SilvrinError(
            f"{home}: this library is open in another Silvrin that is running. Use that one, stop "
            "it first, or choose another folder with --home."
        ) from error
    except OSError as error:
        raise disk_error(error, home / NAME) from error
    return held
