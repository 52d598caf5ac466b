"""The whole print from top to bottom, and a test strip."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ...errors import Dropped
from ..development.negative import Negative
from ..enlarger.projection import Projection
from ..enlarger.test_strip import TestStrip, edges, lie_for, patches
from ..enlarger.timing import exposed_for, on_grade
from ..film.exposure import Exposure
from ..light_path import LightPath
from ..mount.sharpening import margin_of, radius_of, sharpened, sharpened_strips
from ..picture import View
from ..plate import Grid, Plate
from ..toner.places import ByPlace
from .coding import F32, code
from .darkroom import Darkroom, blur_margin
from .mixing import mixture
from .sitting import Sitting
from .toning import by_place

STRIP_PIXELS = 1 << 21
EVERYTHING = slice(None)


def strips(
    sitting: Sitting,
    size: tuple[int, int] | None = None,
    bits: int = 16,
    wanted: Callable[[], bool] = lambda: True,
) -> Iterator[NDArray[Any]]:
    """The finished print from top to bottom, in strips (rows, width) or, with colour,
    (rows, width, 3) of uint8 or uint16.

    A smaller `size`, width and height, reduces the light before it meets the film; None is full
    size. Raises Dropped when it is no longer wanted.
    """
    printed = _sharp(sitting, size, bits, wanted)
    if sitting.mixed is None:
        return printed
    before, strength = sitting.mixed
    return (
        mixture(*both, strength)
        for both in zip(_sharp(before, size, bits, wanted), printed, strict=True)
    )


def _sharp(
    sitting: Sitting, size: tuple[int, int] | None, bits: int, wanted: Callable[[], bool]
) -> Iterator[NDArray[Any]]:
    mount = sitting.path.recipe.mount
    width = sitting.picture.width if size is None else size[0]
    radius = radius_of(mount, sitting.pitch * width / sitting.picture.width)
    printed = _strips(sitting, size, bits, wanted)
    return sharpened_strips(
        printed, margin_of(radius), lambda numbers: sharpened(numbers, mount, radius)
    )


def _same(pixels: F32) -> F32:
    return pixels


def _strips(
    sitting: Sitting, size: tuple[int, int] | None, bits: int, wanted: Callable[[], bool]
) -> Iterator[NDArray[Any]]:
    path, room = sitting.path, Darkroom()
    by_hand = room.printing(sitting)
    for negative, own in _negatives(sitting, room, size, wanted):
        toned = by_place(path, by_hand, negative, partial(_same, own))
        worked = path[Projection].worked(negative, by_hand, own)
        yield path.print_out(worked, bits, toned)


def densities(
    sitting: Sitting,
    size: tuple[int, int] | None = None,
    wanted: Callable[[], bool] = lambda: True,
) -> Iterator[F32]:
    """The negative from top to bottom, with its grain, in strips (rows, width) of density above
    base and fog; as `strips`."""
    for negative, _ in _negatives(sitting, Darkroom(), size, wanted):
        yield negative.pixels


def _negatives(
    sitting: Sitting, room: Darkroom, size: tuple[int, int] | None, wanted: Callable[[], bool]
) -> Iterator[tuple[Plate, F32]]:
    """Strips of the negative, and the coded light of each."""
    picture, path = sitting.picture, sitting.path
    whole_size = picture.width, picture.height
    view = View(0, 0, *whole_size, *(size or whole_size))
    whole_light = picture.cut(view) if view.out_width < picture.width else None
    under = room.under(sitting)
    whole = Grid.of(view, picture)
    blur = path[Exposure].blur(picture.film_side) / whole.pitch_x
    margin = blur_margin(blur) + blur_margin(path[Negative].reach(whole, under.effects))
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
        coded = Plate(code(light, picture.scale, picture.gains), replace(whole, first_row=first))
        exposure = path[Exposure].over(coded, under, blur)
        developed = path[Negative].developed(exposure, under)
        here = slice(top - first, top - first + rows)
        negative = path[Negative].with_grain(developed.part(here, EVERYTHING))
        yield negative, np.ascontiguousarray(coded.pixels[here])


@dataclass(frozen=True)
class PrintedStrip:
    """A test strip: output numbers (H, W) or (H, W, 3), the strips' seconds or grades in order, and
    in how many columns and rows they lie."""

    numbers: NDArray[np.uint8]
    values: list[float]
    columns: int
    rows: int


def print_strip(
    negative: Plate, path: LightPath, strip: TestStrip, toned: ByPlace | None = None
) -> PrintedStrip:
    """A negative printed under the times of a test strip, or on its grades, by the base exposure;
    `toned` is what the toner does by place. Where patches leave a place over, the paper is bare."""
    density = negative.pixels
    values = strip.values(path[Projection].time, path.things.paper.grades)
    if strip.patch is not None:
        columns, rows = patches(len(values))
    elif (strip.lie or lie_for(density[::8, ::8])) == "upright":
        columns, rows = len(values), 1
    else:
        columns, rows = 1, len(values)
    down, across = edges(density.shape[0], rows), edges(density.shape[1], columns)
    printed: list[tuple[tuple[slice, slice], NDArray[np.uint8]]] = []
    for k, value in enumerate(values):
        here = exposed_for(path, value) if strip.over == "time" else on_grade(path, value)
        row, column = divmod(k, columns)
        place = slice(down[row], down[row + 1]), slice(across[column], across[column + 1])
        part = place
        if strip.patch is not None:
            x, y = strip.patch
            part = _about(y, place[0], density.shape[0]), _about(x, place[1], density.shape[1])
        by_place = None if toned is None else toned.part(*part)
        printed.append((place, here.print_out(negative.part(*part), toned=by_place)))
    numbers = np.full((*density.shape, *printed[0][1].shape[2:]), 255, np.uint8)
    for place, tones in printed:
        numbers[place] = tones
    return PrintedStrip(numbers, values, columns, rows)


def _about(middle: float, place: slice, whole: int) -> slice:
    """As much as a place has, about a middle in parts of the whole, kept inside it."""
    size = place.stop - place.start
    first = min(max(round(middle * whole - size / 2), 0), whole - size)
    return slice(first, first + size)
