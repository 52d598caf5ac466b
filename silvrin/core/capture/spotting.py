"""Spotting: dust and blemishes repaired from around, in linear light before the film.

A mend takes texture from a place beside it and fits its light to the rim of the hole: the
difference between rim and source is carried inwards smoothly, as a membrane would (after Perez
2003; here by normalised convolution), so neither an edge nor a step of tone is left. Grain is added
later, with the film, and lies over mends as over all else.
"""

import threading
from collections import OrderedDict
from copy import copy
from itertools import pairwise

import cv2
import numpy as np
from numpy.typing import NDArray

from ..picture import U16, LinearPicture, reduced
from ..recipe import Mend

F32 = NDArray[np.float32]

RIM = 1.6  # × the radius, to where light is fitted
FEATHER = 1.25  # × the radius, over which a mend runs out
DISTANCES, DIRECTIONS = (2.9, 3.8, 5.2), 16  # × the radius; where a source is looked for
FLOOR = np.float32(24.0)  # code that counts as no light
KEPT = 2  # mended pictures kept

_kept: OrderedDict[tuple[int, tuple[Mend, ...]], tuple[LinearPicture, LinearPicture]] = (
    OrderedDict()
)
_lock = threading.Lock()


def _box(light: U16, x: float, y: float, half: int) -> tuple[slice, slice] | None:
    """Rows and columns of a square about a place, None where it leaves the picture."""
    left, top = round(x) - half, round(y) - half
    if left < 0 or top < 0 or left + 2 * half + 1 > light.shape[1]:
        return None
    if top + 2 * half + 1 > light.shape[0]:
        return None
    return slice(top, top + 2 * half + 1), slice(left, left + 2 * half + 1)


def _logs(light: U16) -> F32:
    return np.asarray(np.log2(light.astype(np.float32) + FLOOR), np.float32)


def _rings(half: int, radius: float) -> tuple[F32, NDArray[np.bool_]]:
    """Share of a mend at every place of its square, and where its rim lies."""
    y, x = np.mgrid[-half : half + 1, -half : half + 1]
    away = np.hypot(x, y)
    share = np.clip((FEATHER * radius - away) / ((FEATHER - 1.0) * radius + 1e-6), 0.0, 1.0)
    rim = (away > FEATHER * radius) & (away <= RIM * radius + 1.0)
    return share.astype(np.float32), rim


def source_for(light: U16, mend: Mend) -> tuple[int, int] | None:
    """Where a mend's texture is best taken from: of places around, the one whose rim differs from
    the mend's most evenly and whose texture is like it; None in a picture too small."""
    half = int(np.ceil(RIM * mend.radius)) + 2
    own = _box(light, mend.x, mend.y, half)
    if own is None:
        return None
    share, rim = _rings(half, mend.radius)
    target, inside = _logs(light[own]), share > 0.5
    texture = float(target[rim].std())
    best: tuple[float, tuple[int, int]] | None = None
    for distance in DISTANCES:
        for turn in np.arange(DIRECTIONS) * 2.0 * np.pi / DIRECTIONS:
            x = round(mend.x + distance * mend.radius * np.cos(turn))
            y = round(mend.y + distance * mend.radius * np.sin(turn))
            box = _box(light, x, y, half)
            if box is None:
                continue
            source = _logs(light[box])
            off = target[rim] - source[rim]
            cost = float(off.std()) + 0.5 * abs(float(source[inside].std()) - texture)
            cost += 0.02 * distance
            if best is None or cost < best[0]:
                best = cost, (x, y)
    return None if best is None else best[1]


def patch(light: U16, mend: Mend) -> tuple[tuple[slice, slice], U16] | None:
    """A mended square of light (H, W, 3) and where it lies; None at the border of the picture, or
    where there is no source."""
    half = int(np.ceil(RIM * mend.radius)) + 2
    own = _box(light, mend.x, mend.y, half)
    if mend.from_x is not None and mend.from_y is not None:
        place: tuple[int, int] | None = (mend.from_x, mend.from_y)
    else:
        place = source_for(light, mend)
    other = None if place is None else _box(light, *place, half)
    if own is None or other is None:
        return None
    share, rim = _rings(half, mend.radius)
    target, source = _logs(light[own]), _logs(light[other])
    known = rim.astype(np.float32)
    sigma = max(1.0, 0.6 * mend.radius)
    weight = cv2.GaussianBlur(known, (0, 0), sigma) + np.float32(1e-4)
    off = (target - source) * known[..., None]
    carried = np.stack(
        [cv2.GaussianBlur(np.ascontiguousarray(off[..., c]), (0, 0), sigma) / weight
         for c in range(3)], axis=-1,
    )  # fmt: skip
    mended = target + share[..., None] * (source + carried - target)
    codes = np.clip(np.exp2(mended) - FLOOR + 0.5, 0, 65535)
    return own, codes.astype(np.uint16)


def mended(capture: LinearPicture, mends: tuple[Mend, ...]) -> LinearPicture:
    """A capture with its mends, on all levels; the capture itself is not changed."""
    if not mends:
        return capture
    key = (id(capture), mends)
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key][1]
    if not capture.levels[0].size:  # only a rough one is there yet
        return capture
    levels = [np.array(level) for level in capture.levels]
    for mend in mends:
        found = patch(levels[0], mend)
        if found is None:
            continue
        (rows, columns), codes = found
        levels[0][rows, columns] = codes
        top, bottom, left, right = rows.start, rows.stop, columns.start, columns.stop
        for finer, level in pairwise(levels):
            top, left = top // 2, left // 2
            bottom = min(level.shape[0], -(-bottom // 2))
            right = min(level.shape[1], -(-right // 2))
            part = finer[2 * top : 2 * bottom, 2 * left : 2 * right]
            level[top:bottom, left:right] = reduced(part, right - left, bottom - top)
    made = copy(capture)
    made.levels = levels
    with _lock:
        _kept[key] = (capture, made)  # the capture is held, so that its id stays its own
        while len(_kept) > KEPT:
            _kept.popitem(last=False)
    return made
