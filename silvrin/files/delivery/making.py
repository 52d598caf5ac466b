"""A finished print as a file: whole, or not at all."""

from collections.abc import Callable, Iterable, Iterator
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
from ...core.render import (
    Sitting,
    densities,
    mounted_size,
    mounted_strips,
    strips,
    with_mount_off,
)
from ...core.render.mounting import INCH
from ..thumbnails import thumbnail
from ..whole import whole_or_nothing
from .about import About, sidecar
from .colours import colours_of
from .form import Form
from .output import Output, Size
from .pages import Book
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
    ready = _ready(sitting, output, about or About(), own, process, wanted)
    with whole_or_nothing(target) as file:
        WRITERS[output.format](file, ready.rows(progress), ready.form)
        if output.sidecar and about and about.carried:
            with whole_or_nothing(target.with_suffix(SIDECAR)) as beside:
                beside.write(sidecar(about.carried).encode())
    return ready.made()


def deliver_together(
    prints: Iterable[tuple[Sitting, About]],
    many: int,
    target: Path,
    output: Output,
    about: About | None = None,
    own: bytes | None = None,
    process: ContactProcess | None = None,
    progress: Progress = lambda share: None,
    wanted: Wanted = lambda: True,
) -> Made:
    """Write prints, so many, to the pages of one PDF, as `deliver` does one; `about` is what the
    file says of itself. Each print's recipe goes inside. What is given back is of the first print.

    Raises as `deliver` does; then there is no file.
    """
    done: list[Made] = []

    def so_far(share: float) -> None:
        progress((len(done) + share) / many)

    with whole_or_nothing(target) as file:
        book = Book(file, output, about or About())
        for sitting, of in prints:
            ready = _ready(sitting, output, of, own, process, wanted)
            book.add(ready.rows(so_far), ready.form)
            done.append(ready.made())
        book.end()
    return replace(done[0], limited=any(made.limited for made in done))


@dataclass(frozen=True)
class _Ready:
    """A print that is about to be written."""

    form: Form
    limited: bool
    small: "Small"
    numbers: Iterator[Numbers]

    def rows(self, progress: Progress) -> Iterator[Numbers]:
        return _counting(self.numbers, self.form.height, progress)

    def made(self) -> Made:
        form = self.form
        return Made(form.width, form.height, form.ppi, self.limited, self.small.jpeg())


def _ready(
    sitting: Sitting,
    output: Output,
    about: About,
    own: bytes | None,
    process: ContactProcess | None,
    wanted: Wanted,
) -> _Ready:
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
    return _Ready(form, at.limited, small, numbers)


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
    return sized(sitting, _in_cell(sitting, output))


def _in_cell(sitting: Sitting, output: Output) -> Size:
    """The size that is asked for, or that a cell of a page has."""
    page, size = output.page, output.size
    if output.format != "pdf" or page.columns is None:
        return size
    whole = mounted_size(sitting).whole
    share = min(side / of for side, of in zip(page.cell, (whole.width, whole.height), strict=True))
    value = share * max(whole.width, whole.height)
    return Size(by="mm", value=value, ppi=size.ppi, upscale=size.upscale)


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
        self._jpeg: bytes | None = None

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
        if self._jpeg is None and self._parts:
            self._jpeg = thumbnail(np.concatenate(self._parts).astype(np.uint8))
        return self._jpeg
