"""The mounted print: views of it, and the whole from top to bottom."""

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..mount.layout import Layout, Rect, fitted, largest
from ..mount.mounting import Mounting, Piece
from ..picture import View
from .sitting import Sitting
from .strips import STRIP_PIXELS, strips

Numbers = NDArray[Any]
Floats = NDArray[np.float64]
INCH = 25.4  # mm


def mounted_size(sitting: Sitting) -> Layout:
    """The mounted print at full size."""
    picture = sitting.picture
    return largest(sitting.path.recipe.mount, picture.width, picture.height)


def layout_for(sitting: Sitting, long_side: int | None) -> Layout:
    """The mounted print whose long side is no longer than so many pixels; None is full size."""
    picture, mount = sitting.picture, sitting.path.recipe.mount
    if long_side is None:
        return mounted_size(sitting)
    return fitted(mount, picture.width, picture.height, long_side)


def _painted(
    sitting: Sitting,
    lay: Layout,
    part: Rect,
    picture: Numbers | None,
    left: int,
    kind: Any,
    paper: Floats | None = None,
) -> Numbers:
    """A part of the mounted print, with what there is of the picture in it from a column on; (H, W)
    or (H, W, 3) of uint8 or uint16."""
    station = sitting.path[Mounting]
    toned = picture is not None and picture.ndim == 3
    channels = 3 if station.coloured or toned or paper is not None else 1
    out = np.empty((part.height, part.width, channels), kind)
    whole = Piece(out, part)
    inside = None if picture is None else Rect(
        left, max(part.top, lay.picture.top), left + picture.shape[1],
        min(part.bottom, lay.picture.bottom),
    )  # fmt: skip
    if inside is None:
        around = [part]
    else:  # not what the picture covers
        around = [
            Rect(part.left, part.top, part.right, inside.top),
            Rect(part.left, inside.bottom, part.right, part.bottom),
            Rect(part.left, inside.top, inside.left, inside.bottom),
            Rect(inside.right, inside.top, part.right, inside.bottom),
        ]
    for rect in around:
        if rect.width > 0 and rect.height > 0:
            view = out[
                rect.top - part.top : rect.bottom - part.top,
                rect.left - part.left : rect.right - part.left,
            ]
            station.about(lay, sitting.caption, Piece(view, rect), paper)
    if inside is not None and picture is not None:
        out[
            inside.top - part.top : inside.bottom - part.top,
            inside.left - part.left : inside.right - part.left,
        ] = picture if picture.ndim == 3 else picture[..., None]
    for each in station.placed(lay):
        whole.paint(each)
    return out if channels == 3 else out[..., 0]


def print_side(sitting: Sitting) -> int:
    """Long side in pixels of the mounted print at print size and resolution, or at full size where
    the picture has no more."""
    full, mount = mounted_size(sitting), sitting.path.recipe.mount
    share = min(1.0, mount.resolution / INCH / full.pitch)
    return max(1, round(max(full.whole.width, full.whole.height) * share))


def mounted_view(
    sitting: Sitting, view: View, shown: Callable[[View], Numbers], paper: Floats | None = None
) -> Numbers:
    """A view of the mounted print, in its own pixels: 8-bit numbers (H, W) or (H, W, 3). `shown`
    gives a view of the picture; `paper` is how its black and base look where they do otherwise."""
    full = mounted_size(sitting)
    if view.out_width >= view.width:
        lay, left, top = full, view.left, view.top
    else:
        scale = view.out_width / view.width
        longest = max(full.whole.width, full.whole.height)
        lay = layout_for(sitting, max(1, round(longest * scale)))
        left, top = round(view.left * scale), round(view.top * scale)
    rows = slice(min(top, lay.whole.height - 1), min(top + view.out_height, lay.whole.height))
    columns = slice(min(left, lay.whole.width - 1), min(left + view.out_width, lay.whole.width))
    if (view.width, view.height) == (full.whole.width, full.whole.height):
        rows, columns = slice(0, lay.whole.height), slice(0, lay.whole.width)
    inside = lay.picture
    first, last = max(rows.start, inside.top), min(rows.stop, inside.bottom)
    begin, end = max(columns.start, inside.left), min(columns.stop, inside.right)
    picture = None
    if first < last and begin < end:
        size = sitting.picture.width, sitting.picture.height
        across, down = size[0] / inside.width, size[1] / inside.height
        part = View(
            round((begin - inside.left) * across), round((first - inside.top) * down),
            max(1, round((end - begin) * across)), max(1, round((last - first) * down)),
            end - begin, last - first,
        )  # fmt: skip
        picture = shown(part)
    here = Rect(columns.start, rows.start, columns.stop, rows.stop)
    return _painted(sitting, lay, here, picture, begin, np.uint8, paper)


def mounted_strips(
    sitting: Sitting,
    long_side: int | None = None,
    bits: int = 16,
    wanted: Callable[[], bool] = lambda: True,
) -> Iterator[Numbers]:
    """The mounted print from top to bottom, in strips (rows, width) or (rows, width, 3) of uint8 or
    uint16; as `strips`."""
    lay, kind = layout_for(sitting, long_side), np.uint8 if bits == 8 else np.uint16
    inside = lay.picture
    coming = _Rows(strips(sitting, (inside.width, inside.height), bits, wanted))
    coloured = sitting.path[Mounting].coloured or coming.first.ndim == 3
    many = max(16, STRIP_PIXELS // lay.whole.width)
    for top in range(0, lay.whole.height, many):
        rows = slice(top, min(top + many, lay.whole.height))
        here = min(rows.stop, inside.bottom) - max(rows.start, inside.top)
        picture = coming.take(here) if here > 0 else None
        part = Rect(0, rows.start, lay.whole.width, rows.stop)
        painted = _painted(sitting, lay, part, picture, inside.left, kind)
        grey = painted.ndim == 2 and coloured
        yield np.repeat(painted[..., None], 3, axis=2) if grey else painted


class _Rows:
    """Rows of a picture that comes in strips, as many as are wanted."""

    def __init__(self, strips: Iterator[Numbers]) -> None:
        self._strips = strips
        self.first = next(strips)
        self._held = self.first

    def take(self, count: int) -> Numbers:
        """The next rows."""
        while len(self._held) < count:
            self._held = np.concatenate([self._held, next(self._strips)])
        taken, self._held = self._held[:count], self._held[count:]
        return taken


def with_mount_off(sitting: Sitting) -> Sitting:
    """The same print, without anything about its picture; sharpened as it is."""
    mount = sitting.path.recipe.mount
    bare = type(mount)().model_copy(
        update={
            name: getattr(mount, name)
            for name in type(mount).model_fields
            if name in ("size", "resolution") or name.startswith("sharpen")
        }
    )
    return sitting.under(replace(sitting.path.with_settings(mount=bare)))
