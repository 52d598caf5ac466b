"""Spotting: dust and blemishes repaired from around, in linear light before the film.

A mend takes texture from a place beside it and fits its light to the rim of the hole: the
difference between rim and source is carried inwards smoothly, as a membrane would (after Perez
2003; here by normalised convolution), so neither an edge nor a step of tone is left. Larger things
are filled from all around (`filling`). What is protected is neither changed nor taken. Grain is
added later, with the film, and lies over mends as over all else.
"""

import threading
from collections import OrderedDict
from copy import copy
from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np
from numpy.typing import NDArray

from ..picture import U16, LinearPicture, reduced
from ..recipe import Mend, Outline
from .filling import filled, spread

F32 = NDArray[np.float32]
Bool = NDArray[np.bool_]
Box = tuple[slice, slice]

RIM = 1.6  # × the radius, to where light is fitted
FEATHER = 1.25  # × the radius, over which a mend runs out
DISTANCES, DIRECTIONS = (2.9, 3.8, 5.2), 16  # × the radius; where a source is looked for
AROUND = 1.2  # × the size of a thing to be filled: how far around it is looked
FLOOR = np.float32(24.0)  # code that counts as no light
MOST_COMPARED = 3000  # places of a rim that sources are judged by
KEPT = 2  # mended pictures kept

Key = tuple[int, tuple[Mend, ...], tuple[Outline, ...]]
_kept: OrderedDict[Key, tuple[LinearPicture, LinearPicture]] = OrderedDict()
_lock = threading.Lock()


@dataclass(frozen=True)
class _Hole:
    """Where a mend acts: a box of the capture and, in it, its share, its rim and what is
    protected."""

    left: int
    top: int
    share: F32
    rim: Bool
    protected: Bool

    @property
    def box(self) -> Box:
        height, width = self.share.shape
        return slice(self.top, self.top + height), slice(self.left, self.left + width)


def _hole(
    shape: tuple[int, ...], mend: Mend, protected: tuple[Outline, ...], around: float = RIM
) -> _Hole | None:
    """The hole of a mend in a picture of that shape; None where it lies outside."""
    places = np.array([(mend.x, mend.y), *mend.path])
    margin = int(np.ceil(around * mend.radius)) + 2
    left, top = np.maximum(places.min(axis=0) - margin, 0)
    right, bottom = np.minimum(places.max(axis=0) + margin + 1, [shape[1], shape[0]])
    if left >= right or top >= bottom:
        return None
    origin = np.array([left, top])
    # far from everything, but for the line; what lies outside of the box still counts
    pad = margin
    canvas = np.ones((bottom - top + 2 * pad, right - left + 2 * pad), np.uint8)
    line = (places - origin + pad).astype(np.int32)
    cv2.polylines(canvas, [line if len(line) > 1 else np.repeat(line, 2, axis=0)], False, (0,))
    away = cv2.distanceTransform(canvas, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    away = away[pad : away.shape[0] - pad, pad : away.shape[1] - pad]
    held = np.zeros(away.shape, np.uint8)
    for outline in protected:
        cv2.fillPoly(held, [(np.array(outline.points) - origin).astype(np.int32)], (1,))
    free = held == 0
    share = np.clip(
        (FEATHER * mend.radius - away) / ((FEATHER - 1.0) * mend.radius + 1e-6), 0.0, 1.0
    )
    rim = (away > FEATHER * mend.radius) & (away <= RIM * mend.radius + 1.0) & free
    return _Hole(int(left), int(top), (share * free).astype(np.float32), rim, ~free)


def _logs(light: U16) -> F32:
    return np.asarray(np.log2(light.astype(np.float32) + FLOOR), np.float32)


def _some(mask: Bool) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Rows and columns of a mask, thinned out where they are many."""
    rows, columns = np.nonzero(mask)
    step = max(1, len(rows) // MOST_COMPARED)
    return rows[::step], columns[::step]


def source_for(
    light: U16, mend: Mend, protected: tuple[Outline, ...] = ()
) -> tuple[int, int] | None:
    """Where a mend's texture is best taken from: of places around, the one whose rim differs from
    the mend's most evenly and whose texture is like it; None where no place fits."""
    hole = _hole(light.shape, mend, protected)
    if hole is None:
        return None
    rows, columns = _some(hole.rim)
    inner, across = _some(hole.share > 0.5)
    if not len(rows) or not len(inner):
        return None
    held = np.zeros(light.shape[:2] if protected else (0, 0), np.uint8)
    for outline in protected:
        cv2.fillPoly(held, [np.array(outline.points, np.int32)], (1,))
    target = _logs(light[hole.top + rows, hole.left + columns])
    texture = float(target.std())
    best: tuple[float, tuple[int, int]] | None = None
    for distance in DISTANCES:
        for turn in np.arange(DIRECTIONS) * 2.0 * np.pi / DIRECTIONS:
            dx = round(distance * mend.radius * np.cos(turn))
            dy = round(distance * mend.radius * np.sin(turn))
            if not _fits(light.shape, hole, dx, dy):
                continue
            v, u = hole.top + inner + dy, hole.left + across + dx
            # not from the hole itself, which a stroke may run beside, nor from what is protected
            near = np.clip(inner + dy, 0, hole.share.shape[0] - 1)
            beside = np.clip(across + dx, 0, hole.share.shape[1] - 1)
            inside = (near == inner + dy) & (beside == across + dx)
            if (hole.share[near, beside][inside] > 0).any() or (protected and held[v, u].any()):
                continue
            source = _logs(light[hole.top + rows + dy, hole.left + columns + dx])
            cost = float((target - source).std())
            cost += 0.5 * abs(float(_logs(light[v, u]).std()) - texture) + 0.02 * distance
            if best is None or cost < best[0]:
                best = cost, (mend.x + dx, mend.y + dy)
    return None if best is None else best[1]


def _fits(shape: tuple[int, ...], hole: _Hole, dx: int, dy: int) -> bool:
    """Whether a hole's box lies in the picture when it is moved."""
    left, top = hole.left + dx, hole.top + dy
    height, width = hole.share.shape
    return left >= 0 and top >= 0 and left + width <= shape[1] and top + height <= shape[0]


def patch(light: U16, mend: Mend, protected: tuple[Outline, ...] = ()) -> tuple[Box, U16] | None:
    """A mended box of light (H, W, 3) and where it lies; None outside of the picture, or where
    there is no source."""
    if mend.fill:
        return _filling(light, mend, protected)
    hole = _hole(light.shape, mend, protected)
    if mend.from_x is not None and mend.from_y is not None:
        place: tuple[int, int] | None = (mend.from_x, mend.from_y)
    else:
        place = source_for(light, mend, protected)
    if hole is None or place is None or not hole.rim.any():
        return None
    dx, dy = place[0] - mend.x, place[1] - mend.y
    if not _fits(light.shape, hole, dx, dy):
        return None
    rows, columns = hole.box
    target = _logs(light[rows, columns])
    source = _logs(light[rows.start + dy : rows.stop + dy, columns.start + dx : columns.stop + dx])
    known = hole.rim.astype(np.float32)
    carried = spread(target - source, known, max(1.0, 0.6 * mend.radius))
    return hole.box, _codes(target + hole.share[..., None] * (source + carried - target))


def _filling(light: U16, mend: Mend, protected: tuple[Outline, ...]) -> tuple[Box, U16] | None:
    """A box whose hole is filled from all around."""
    places = np.array([(mend.x, mend.y), *mend.path])
    extent = float(np.ptp(places, axis=0).max()) / 2.0
    around = FEATHER + AROUND * (1.0 + min(extent, 400.0) / mend.radius) + 24.0 / mend.radius
    hole = _hole(light.shape, mend, protected, around)
    if hole is None or not hole.rim.any():
        return None
    target = _logs(light[hole.box])
    found = filled(target, hole.share > 0, ~hole.protected, FEATHER * mend.radius)
    return hole.box, _codes(target + hole.share[..., None] * (found - target))


def _codes(logs: F32) -> U16:
    return np.asarray(np.clip(np.exp2(logs) - FLOOR + 0.5, 0, 65535), np.uint16)


def mended(
    capture: LinearPicture, mends: tuple[Mend, ...], protected: tuple[Outline, ...] = ()
) -> LinearPicture:
    """A capture with its mends, on all levels; the capture itself is not changed."""
    if not mends:
        return capture
    key = (id(capture), mends, protected)
    base, done = capture, 0
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key][1]
        for (owner, known, held), (_, made) in _kept.items():
            fits = owner == id(capture) and held == protected and done < len(known) < len(mends)
            if fits and mends[: len(known)] == known:  # only what was added is to be mended
                base, done = made, len(known)
    if not capture.levels[0].size:  # only a rough one is there yet
        return capture
    levels = [np.array(level) for level in base.levels]
    for mend in mends[done:]:
        found = patch(levels[0], mend, protected)
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
