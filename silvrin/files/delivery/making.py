"""A finished print as a file: whole, or not at all."""

from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextvars import copy_context
from dataclasses import dataclass, replace
from itertools import chain
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ...core.contact.negative import ContactNegative
from ...core.contact.process import ContactProcess
from ...core.render import Sitting, densities, mounted_strips, strips, with_mount_off
from ...core.render.mounting import INCH
from ..thumbnails import thumbnail
from ..whole import whole_or_nothing
from .about import About, sidecar
from .colours import colours_of
from .form import Form
from .output import Output
from .sizes import Sized, sized
from .writing import WRITERS

LOSSLESS = 100  # a quality
SIDECAR = ".silvrin.json"
PREVIEW = 256  # pixels of the small picture inside
Progress = Callable[[float], None]
Wanted = Callable[[], bool]
Numbers = NDArray[Any]


@dataclass(frozen=True)
class Made:
    """A file that was written."""

    width: int  # pixels
    height: int
    ppi: float
    limited: bool  # the capture has less than was asked for
    small: bytes | None  # the picture, as a small JPEG


def deliver(
    sitting: Sitting,
    target: Path,
    output: Output,
    about: About | None = None,
    own: bytes | None = None,
    process: ContactProcess | None = None,
    progress: Progress = lambda share: None,
    wanted: Wanted = lambda: True,
) -> Made:
    """Write a print to `target` as an output says; `about` is what the file says of itself and
    `own` and `process` are the profile and the contact process of the shelf that the output names.

    The file appears under its name only when it is complete, after its sidecar. Raises DiskFull,
    Dropped when no longer wanted, SilvrinError when the folder cannot be written or the print
    cannot be made so.
    """
    about = about or About()
    negative = output.holds == "negative"
    at = sized_for(sitting, output)
    width, height = at.lay.whole.width, at.lay.whole.height
    contact = contact_of(output, at.ppi, process)
    if contact:
        output = output.model_copy(update={"space": "srgb", "quality": LOSSLESS})
    depth = 16 if contact else output.depth
    rows = _ahead(_densities(at, wanted) if negative else _printed(at, depth, wanted))
    first = next(rows)
    small = Small(width, height)
    colours = colours_of(output, first.ndim == 3, own)
    numbers: Iterator[Numbers] = chain((first,), rows)
    if contact:
        numbers = contact.strips(numbers, width, height)
        width, height = contact.size(width, height)
        small = Small(width, height)
    inside = about if output.recipe else replace(about, carried=None)
    form = Form(
        output, width, height, colours.channels, at.ppi, colours.profile, inside, small.jpeg
    )
    if not negative:
        numbers = (colours.work(strip) for strip in small.seeing(numbers))
    with whole_or_nothing(target) as file:
        WRITERS[output.format](file, _counting(numbers, height, progress), form)
        if output.sidecar and about.carried:
            with whole_or_nothing(target.with_suffix(SIDECAR)) as beside:
                beside.write(sidecar(about.carried).encode())
    return Made(width, height, at.ppi, at.limited, small.jpeg())


def contact_of(
    output: Output, ppi: float, process: ContactProcess | None = None
) -> ContactNegative | None:
    """How an output becomes a negative for contact printing; None where it does not."""
    if output.holds != "contact":
        return None
    given = output.contact
    return ContactNegative(ppi / INCH, process, given.colour, given.mirrored, given.marked)


def sized_for(sitting: Sitting, output: Output) -> Sized:
    """A print at the size of an output's file, with its mount or without."""
    if not output.mounted or output.holds == "negative":
        sitting = with_mount_off(sitting)
    return sized(sitting, output.size)


def _printed(at: Sized, bits: int, wanted: Wanted) -> Iterator[Numbers]:
    if at.sitting.path.recipe.mount.changes_picture:
        return mounted_strips(at.sitting, at.long_side, bits, wanted)
    return strips(at.sitting, (at.lay.whole.width, at.lay.whole.height), bits, wanted)


def _densities(at: Sized, wanted: Wanted) -> Iterator[Numbers]:
    return densities(at.sitting, (at.lay.whole.width, at.lay.whole.height), wanted)


def _ahead(rows: Iterator[Numbers]) -> Iterator[Numbers]:
    """The same strips, each printed while the one before it is written."""
    with ThreadPoolExecutor(1, thread_name_prefix="strips") as printing:

        def following() -> Numbers | None:
            return next(rows, None)

        def begun() -> Future[Numbers | None]:  # it works behind others where this does
            return printing.submit(copy_context().run, following)

        coming = begun()
        while (strip := coming.result()) is not None:
            coming = begun()
            yield strip


def _counting(rows: Iterator[Numbers], height: int, progress: Progress) -> Iterator[Numbers]:
    done = 0
    for strip in rows:
        yield strip
        done += len(strip)
        progress(done / height)


class Small:
    """A small picture, put together as strips go by."""

    def __init__(self, width: int, height: int) -> None:
        self._scale = min(1.0, PREVIEW / max(width, height))
        self._width = max(1, round(width * self._scale))
        self._parts: list[Numbers] = []

    def seeing(self, strips: Iterator[Numbers]) -> Iterator[Numbers]:
        """The same strips."""
        done = 0
        for strip in strips:
            rows = round((done + len(strip)) * self._scale) - round(done * self._scale)
            done += len(strip)
            if rows:
                part = cv2.resize(strip, (self._width, rows), interpolation=cv2.INTER_AREA)
                self._parts.append(part if part.dtype == np.uint8 else part // 256)
            yield strip

    def jpeg(self) -> bytes | None:
        """As a JPEG in sRGB's colours; None where nothing went by."""
        return thumbnail(np.concatenate(self._parts).astype(np.uint8)) if self._parts else None
