"""Spotting: dust and blemishes repaired from around, in linear light before the film.

A mend takes texture from a place beside it and fits its light to the rim of the hole: the
difference between rim and source is carried inwards smoothly, as a membrane would (after Perez
2003; here by normalised convolution), so neither an edge nor a step of tone is left. Larger things
are filled from all around (`filling`). What is protected is neither changed nor taken. Grain is
added later, with the film, and lies over mends as over all else.
"""

import threading
from collections.abc import Iterator
from copy import copy
from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np
from numpy.typing import NDArray

from ..picture import U16, LinearPicture, reduced
from ..station import Station
from .filling import filled, spread
from .settings import Mend, Outline

F32 = NDArray[np.float32]
Bool = NDArray[np.bool_]
Places = NDArray[np.intp]
Box = tuple[slice, slice]

RIM = 1.6  # × the radius, to where light is fitted
FEATHER = 1.25  # × the radius, over which a mend runs out
DISTANCES, DIRECTIONS = (2.9, 3.8, 5.2), 16  # × the radius; where a source is looked for
AROUND = 1.2  # × the size of a thing to be filled: how far around it is looked
FLOOR = np.float32(24.0)  # code that counts as no light
PIECE, LEAST_PIECE = 12.0, 120.0  # × the radius, pixels: as long as a stroke is mended at once
THING, PROTECTED = 1, 2
MOST_COMPARED = 3000  # places of a rim that sources are judged by
KEPT = 2  # mended pictures kept


@dataclass(frozen=True, eq=False)
class _Kept:
    """A mended picture."""

    capture: LinearPicture
    mends: tuple[Mend, ...]
    protected: tuple[Outline, ...]
    made: LinearPicture


_kept: list[_Kept] = []  # the newest last
_lock = threading.Lock()


@dataclass(frozen=True)
class _Hole:
    """Where a mend acts: a box of the capture and, in it, its share, and its rim by which light is
    fitted."""

    left: int
    top: int
    share: F32
    rim: Bool

    @property
    def box(self) -> Box:
        height, width = self.share.shape
        return slice(self.top, self.top + height), slice(self.left, self.left + width)


class _Barred:
    """What a mend may not take from: what is protected, and the thing itself as far as it is still
    there."""

    def __init__(self, shape: tuple[int, ...], mend: Mend, protected: tuple[Outline, ...]) -> None:
        self._map: NDArray[np.uint8] | None = None
        if not mend.path and not protected:
            return
        self._map = np.zeros(shape[:2], np.uint8)
        line = np.array([(mend.x, mend.y), *mend.path], np.int32)
        width = 2 * int(np.ceil(FEATHER * mend.radius)) + 1
        cv2.polylines(self._map, [_drawable(line)], False, (THING,), width)
        for outline in protected:
            cv2.fillPoly(self._map, [np.array(outline.points, np.int32)], (PROTECTED,))

    def at(self, box: Box) -> NDArray[np.uint8]:
        """(H, W) 0, THING or PROTECTED."""
        if self._map is not None:
            return self._map[box]
        return np.zeros((box[0].stop - box[0].start, box[1].stop - box[1].start), np.uint8)

    def among(self, rows: Places, columns: Places) -> bool:
        """Whether any of these places is barred."""
        return self._map is not None and bool(self._map[rows, columns].any())

    def mended(self, hole: _Hole) -> None:
        """A part of the thing is gone."""
        if self._map is not None:
            part = self._map[hole.box]
            part[(part == THING) & (hole.share > 0)] = 0


def _drawable(line: NDArray[np.int32]) -> NDArray[np.int32]:
    """A line that has at least two ends, though they be the same."""
    return line if len(line) > 1 else np.repeat(line, 2, axis=0)


def _hole(shape: tuple[int, ...], mend: Mend, barred: _Barred, around: float = RIM) -> _Hole | None:
    """The hole of a mend in a picture of that shape; None where it lies outside."""
    places = np.array([(mend.x, mend.y), *mend.path])
    margin = int(np.ceil(around * mend.radius)) + 2
    left, top = np.maximum(places.min(axis=0) - margin, 0)
    right, bottom = np.minimum(places.max(axis=0) + margin + 1, [shape[1], shape[0]])
    if left >= right or top >= bottom:
        return None
    # what of the line lies outside of the box still counts
    canvas = np.ones((bottom - top + 2 * margin, right - left + 2 * margin), np.uint8)
    line = (places - [left - margin, top - margin]).astype(np.int32)
    cv2.polylines(canvas, [_drawable(line)], False, (0,))
    away = cv2.distanceTransform(canvas, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    away = away[margin : away.shape[0] - margin, margin : away.shape[1] - margin]
    mark = barred.at((slice(top, bottom), slice(left, right)))
    share = np.clip(
        (FEATHER * mend.radius - away) / ((FEATHER - 1.0) * mend.radius + 1e-6), 0.0, 1.0
    ) * (mark != PROTECTED)
    rim = (away > FEATHER * mend.radius) & (away <= RIM * mend.radius + 1.0) & (mark == 0)
    return _Hole(int(left), int(top), share.astype(np.float32), rim)


def _pieces(mend: Mend) -> list[Mend]:
    """A long stroke as short ones that follow each other, so that each finds its own source."""
    most = max(PIECE * mend.radius, LEAST_PIECE)
    pieces: list[list[tuple[int, int]]] = [[(mend.x, mend.y)]]
    length = 0.0
    for place in mend.path:
        x, y = pieces[-1][-1]
        way = float(np.hypot(place[0] - x, place[1] - y))
        steps = max(1, int(np.ceil(way / most)))
        for step in range(1, steps + 1):
            share = step / steps
            part = round(x + share * (place[0] - x)), round(y + share * (place[1] - y))
            if length + way / steps > most and len(pieces[-1]) > 1:
                pieces.append([pieces[-1][-1]])
                length = 0.0
            pieces[-1].append(part)
            length += way / steps
    moved = None
    if mend.from_x is not None and mend.from_y is not None:
        moved = mend.from_x - mend.x, mend.from_y - mend.y
    found = []
    for (px, py), *path in pieces:
        source = {"from_x": max(px + moved[0], 0), "from_y": max(py + moved[1], 0)} if moved else {}
        found.append(mend.model_copy(update={"x": px, "y": py, "path": tuple(path), **source}))
    return found


def _logs(light: U16) -> F32:
    return np.asarray(np.log2(light.astype(np.float32) + FLOOR), np.float32)


def _some(mask: Bool) -> tuple[Places, Places]:
    """Rows and columns of a mask, thinned out where they are many."""
    rows, columns = np.nonzero(mask)
    step = max(1, len(rows) // MOST_COMPARED)
    return rows[::step], columns[::step]


def source_for(
    light: U16, mend: Mend, protected: tuple[Outline, ...] = ()
) -> tuple[int, int] | None:
    """Where a mend's texture is best taken from: of places around, the one whose rim differs from
    the mend's most evenly and whose texture is like it; None where no place fits."""
    barred = _Barred(light.shape, mend, protected)
    hole = _hole(light.shape, mend, barred)
    return None if hole is None else _source(light, mend, hole, barred)


def _source(light: U16, mend: Mend, hole: _Hole, barred: _Barred) -> tuple[int, int] | None:
    rows, columns = _some(hole.rim)
    inner, across = _some(hole.share > 0.5)
    if not len(rows) or not len(inner):
        return None
    target = _logs(light[hole.top + rows, hole.left + columns])
    texture = float(target.std())
    best: tuple[float, tuple[int, int]] | None = None
    for distance in DISTANCES:
        for turn in np.arange(DIRECTIONS) * 2.0 * np.pi / DIRECTIONS:
            dx = round(distance * mend.radius * np.cos(turn))
            dy = round(distance * mend.radius * np.sin(turn))
            v, u = hole.top + inner + dy, hole.left + across + dx
            if not _fits(light.shape, hole, dx, dy) or barred.among(v, u):
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


def _repairs(light: U16, mend: Mend, protected: tuple[Outline, ...]) -> Iterator[tuple[Box, U16]]:
    """Mended boxes of light (H, W, 3) and where they lie, one after the other: each must be put in
    its place before the next is asked for. None outside of the picture, or without a source."""
    barred = _Barred(light.shape, mend, protected)
    for piece in _pieces(mend):
        around = FEATHER + AROUND + 24.0 / mend.radius if mend.fill else RIM
        hole = _hole(light.shape, piece, barred, around)
        if hole is None or not hole.rim.any():
            continue
        found = (_filling if mend.fill else _patch)(light, piece, hole, barred)
        if found is not None:
            yield hole.box, found
        barred.mended(hole)


def _patch(light: U16, mend: Mend, hole: _Hole, barred: _Barred) -> U16 | None:
    """A hole's box with texture from its source, fitted to its rim."""
    if mend.from_x is not None and mend.from_y is not None:
        place: tuple[int, int] | None = (mend.from_x, mend.from_y)
    else:
        place = _source(light, mend, hole, barred)
    if place is None or not _fits(light.shape, hole, place[0] - mend.x, place[1] - mend.y):
        return None
    dx, dy = place[0] - mend.x, place[1] - mend.y
    rows, columns = hole.box
    target = _logs(light[rows, columns])
    source = _logs(light[rows.start + dy : rows.stop + dy, columns.start + dx : columns.stop + dx])
    known = hole.rim.astype(np.float32)
    carried = spread(target - source, known, max(1.0, 0.6 * mend.radius))
    return _codes(target + hole.share[..., None] * (source + carried - target))


def _filling(light: U16, mend: Mend, hole: _Hole, barred: _Barred) -> U16:
    """A hole's box filled from all around."""
    target, mark = _logs(light[hole.box]), barred.at(hole.box)
    inside = hole.share > 0
    found = filled(target, inside, mark == 0, (mark == THING) & ~inside, FEATHER * mend.radius)
    return _codes(target + hole.share[..., None] * (found - target))


def _codes(logs: F32) -> U16:
    return np.asarray(np.clip(np.exp2(logs) - FLOOR + 0.5, 0, 65535), np.uint16)


def mended(
    capture: LinearPicture, mends: tuple[Mend, ...], protected: tuple[Outline, ...] = ()
) -> LinearPicture:
    """A capture with its mends, on all levels; the capture itself is not changed."""
    if not mends or not capture.levels[0].size:  # only a rough one is there yet
        return capture
    base, done = capture, 0
    with _lock:
        for kept in reversed(_kept):
            if kept.capture is not capture or kept.protected != protected:
                continue
            if kept.mends == mends:
                _kept.remove(kept)
                _kept.append(kept)
                return kept.made
            many = len(kept.mends)  # only what was added is to be mended
            if done < many < len(mends) and mends[:many] == kept.mends:
                base, done = kept.made, many
    levels = [np.array(level) for level in base.levels]
    for mend in mends[done:]:
        for (rows, columns), codes in _repairs(levels[0], mend, protected):
            levels[0][rows, columns] = codes
            _carry_down(levels, rows, columns)
    made = copy(capture)
    made.levels = levels
    with _lock:
        _kept.append(_Kept(capture, mends, protected, made))
        del _kept[:-KEPT]
    return made


class Mending(Station):
    """The capture with its blemishes repaired."""

    reads = ("capture.mends", "capture.protected")

    @property
    def is_plain(self) -> bool:
        """Whether there is no mend."""
        return not self.recipe.capture.mends

    def over(self, capture: LinearPicture) -> LinearPicture:
        """A capture with its mends."""
        drawings = self.things.drawings
        return mended(capture, drawings.mends, drawings.protected)


def _carry_down(levels: list[U16], rows: slice, columns: slice) -> None:
    """Bring what changed at full size to the smaller levels."""
    top, bottom, left, right = rows.start, rows.stop, columns.start, columns.stop
    for finer, level in pairwise(levels):
        top, left = top // 2, left // 2
        bottom = min(level.shape[0], -(-bottom // 2))
        right = min(level.shape[1], -(-right // 2))
        part = finer[2 * top : 2 * bottom, 2 * left : 2 * right]
        level[top:bottom, left:right] = reduced(part, right - left, bottom - top)
