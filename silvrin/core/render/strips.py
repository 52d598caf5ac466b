"""The whole print from top to bottom, and a test strip."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from ...errors import Dropped
from ..enlarger.test_strip import TestStrip, edges, lie_for
from ..light_path import F32, LightPath
from ..picture import LinearPicture
from ..underlay import Grid
from .darkroom import FILM_MARGINS, Darkroom
from .stations import LEAST_BLUR, code, developed, film_exposure, print_out, with_grain

STRIP_PIXELS = 1 << 21


def strips(
    picture: LinearPicture,
    path: LightPath,
    long_side: int | None = None,
    bits: int = 16,
    wanted: Callable[[], bool] = lambda: True,
) -> Iterator[NDArray[Any]]:
    """The finished print from top to bottom, in strips (rows, width) of uint8 or uint16.

    `long_side` reduces the light before it meets the film; None is full size. Raises Dropped
    when it is no longer wanted.
    """
    view = picture.whole(long_side or max(picture.width, picture.height))
    whole_light = picture.cut(view) if view.out_width < picture.width else None
    under = Darkroom().under("strips", picture, path)
    whole = Grid.of(view, picture)
    blur = path.film_blur(picture.film_side) / whole.pitch_x
    margin = int(np.ceil(FILM_MARGINS * blur)) if blur > LEAST_BLUR else 0
    rows = max(16, STRIP_PIXELS // view.out_width)
    for top in range(0, view.out_height, rows):
        if not wanted():
            raise Dropped("the delivery was cancelled")
        first, last = max(0, top - margin), min(view.out_height, top + rows + margin)
        if whole_light is not None:
            light = whole_light[first:last]
        else:
            part = replace(view, top=first, height=last - first, out_height=last - first)
            light = picture.cut(part)
        wide = replace(whole, first_row=first)
        coded = code(light, picture.scale, picture.gains)
        exposure = film_exposure(coded, path, under, wide, blur)
        exposure = np.ascontiguousarray(exposure[top - first : top - first + rows])
        grid = replace(whole, first_row=top)
        density = developed(exposure, path, under, grid)
        yield print_out(with_grain(density, path, grid), path, bits)


@dataclass(frozen=True)
class PrintedStrip:
    """A test strip: output numbers (H, W), the strips' seconds or grades in order, and how they
    lie."""

    numbers: NDArray[np.uint8]
    values: list[float]
    lie: Literal["upright", "level"]


def print_strip(density: F32, path: LightPath, strip: TestStrip) -> PrintedStrip:
    """A negative printed under the times of a test strip, or on its grades."""
    lie = strip.lie or lie_for(density[::8, ::8])
    values = strip.values(path.time)
    out = np.empty(density.shape, np.uint8)
    bounds = edges(density.shape[1 if lie == "upright" else 0], strip.count)
    for value, (start, stop) in zip(values, pairwise(bounds), strict=True):
        here = path.under(value) if strip.over == "time" else path.on_grade(value)
        part = np.s_[:, start:stop] if lie == "upright" else np.s_[start:stop]
        source = density[part] if strip.patch is None else _patch(density, strip.patch, part, lie)
        out[part] = print_out(np.ascontiguousarray(source), here)
    return PrintedStrip(out, values, lie)


def _patch(
    density: F32,
    middle: tuple[float, float],
    part: tuple[slice, ...] | slice,
    lie: Literal["upright", "level"],
) -> F32:
    """The one patch of a negative that fills every strip, kept inside the picture."""
    axis = 1 if lie == "upright" else 0
    size, whole = density[part].shape[axis], density.shape[axis]
    place = middle[0] if axis == 1 else middle[1]
    first = min(max(round(place * whole - size / 2), 0), whole - size)
    cut = slice(first, first + size)
    return density[:, cut] if axis == 1 else density[cut]
