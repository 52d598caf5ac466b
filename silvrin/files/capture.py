"""A file becomes linear light."""

import logging
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..core.picture import CLIPPED, LinearPicture
from ..errors import BadCapture
from .kinds import damaged, sniff
from .metadata import Metadata, read_metadata
from .raster import READERS
from .raw import Limits, decode_raw, measure_raw, raw_scale
from .room import READING

LOG = logging.getLogger(__name__)


@dataclass(frozen=True)
class Developed:
    """A capture's linear light, (H, W, 3) uint16 in BT.2020; linear value = code * scale. `limits`
    are the codes from which red, green and blue are clipped."""

    light: NDArray[np.uint16]
    scale: float
    kind: str
    metadata: Metadata
    limits: Limits = (CLIPPED, CLIPPED, CLIPPED)

    def picture(self, pyramid: bool = True) -> LinearPicture:
        """To look at with its pyramid, or to be printed at full size alone."""
        if pyramid:
            picture = LinearPicture.with_pyramid(self.light, self.scale)
        else:
            picture = LinearPicture([self.light], self.scale)
        picture.limits = self.limits
        return picture


def read_capture(path: Path, name: str | None = None) -> Developed:
    """Linear light of an image file, upright. Raises BadCapture naming the file and the reason."""
    with reading(path, name or path.name), READING.of(need_of(path)):
        kind = sniff(path)
        metadata = read_metadata(path)
        if kind == "raw":
            raw = decode_raw(path)
            scale = raw_scale(metadata) * raw.scale
            return Developed(raw.light, scale, kind, metadata, raw.limits)
        coded = READERS[kind].read(path)
        turned = 1 if coded.is_upright else metadata.orientation
        light, scale = coded.light()
        del coded  # before it is turned: there is not room for all three
        light = np.ascontiguousarray(upright(light, turned))
        return Developed(light, scale, kind, metadata)


def need_of(path: Path) -> float:
    """Bytes that reading a file takes; raises BadCapture, also for one too large."""
    kind = sniff(path)
    return measure_raw(path) if kind == "raw" else READERS[kind].measure(path)


@contextmanager
def reading(path: Path, name: str) -> Iterator[None]:
    """What goes wrong while a file is read becomes BadCapture naming it, also when it
    changes."""
    try:
        before = path.stat()
        yield
        after = path.stat()
        if (before.st_size, before.st_mtime_ns) != (after.st_size, after.st_mtime_ns):
            raise BadCapture("it changed while it was read; wait until it is complete.")
    except OSError as error:
        raise BadCapture(f"{name}: cannot be read ({error.strerror or error}).") from error
    except BadCapture as error:
        if str(error).startswith(f"{name}: "):
            raise
        raise type(error)(f"{name}: {error}") from error
    except MemoryError as error:
        raise BadCapture(f"{name}: there is not enough memory to open it.") from error
    except Exception as error:  # of some library, about some file that nobody has seen before
        LOG.exception("%s cannot be read", name)
        raise BadCapture(f"{name}: {damaged('picture', repr(error))}") from error


def upright(light: NDArray[Any], orientation: int) -> NDArray[Any]:
    """Turned as its Exif orientation asks."""
    if orientation in (2, 4, 5, 7):
        light = light[:, ::-1]
    turns = {3: 2, 4: 2, 5: 1, 6: 3, 7: 3, 8: 1}.get(orientation, 0)
    return np.rot90(light, turns)
