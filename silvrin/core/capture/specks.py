"""Discs that look like a dust speck's shadow, in one frame.

Textures have dark places too, but not ones that are darker by as much all round: the steps over the
edge of a disc in eight directions are compared, as Student's t compares a mean with its own
scatter. A place is likely when that is high, when it has the shape of such a shadow, with an edge
that is rather sharp, and no colour.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache, partial

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels

F32 = NDArray[np.float32]
U16 = NDArray[np.uint16]
Floats = NDArray[np.float64]

WORK_SIDE = 2400  # long side at which specks are looked for
RADII = (5.0, 5.8, 6.7, 7.7, 8.9)  # pixels at that size, and at sizes half and a quarter of it
OCTAVES = 3
SMALLEST = 5.0  # radius, at that size, of which the shape still tells something
LEAST_DEPTH, MOST_DEPTH = 0.03, 0.62  # stops
OUTSIDE, INSIDE = 1.25, 0.7  # × the radius, where the two sides of the edge are looked at
SECTORS = 8  # directions in which the steps at an edge are compared
NOISE = 0.005  # stops by which they are taken to scatter at least
LEAST_T, HALF_T = 7.0, 12.5  # t of a mean step from which it is looked at, and that is half likely
PROMISING = 0.5  # correlation from which a place is looked at closely
LEAST_SHAPE, WHOLE_SHAPE = 0.75, 0.92  # correlation with a speck's shape: at least, and no doubt
BY_T, BY_SHAPE = 4.0, 8.0  # powers with which likelihood falls with either
MOST_LOOKED_AT, MOST_SPECKS = 800, 200
FLOOR = 64.0
# × the radius looked for, of those that are tried: t is highest a little beyond the edge
FITTED = (0.72, 0.78, 0.85, 0.92, 1.0, 1.08, 1.17)
EDGE, BLURRED = 0.12, 0.45  # of the radius: how soft a speck's edge is, and a cloud's
# How much less a speck's edge may correlate than a cloud's, and how sharply that counts
SOFTER, BY_EDGE = 0.008, 0.004
SMOOTH = 0.8  # pixels of an octave, by which noise is smoothed before shapes are compared
COLOURED = 0.09  # by what part the depths in the channels may differ; dust is grey


@dataclass(frozen=True)
class Found:
    """One in a frame, at the size worked at."""

    x: float
    y: float
    radius: float
    depth: float
    likely: float


class Seen:
    """log2 of a frame's light (H, W, 3) at the size worked at, and what is made of it."""

    def __init__(self, logs: F32) -> None:
        self.logs = logs

    @cached_property
    def octaves(self) -> list[F32]:
        """Their mean over the channels, and it at half and a quarter of the size."""
        greys = [np.ascontiguousarray(self.logs.mean(axis=2))]
        for _ in range(1, OCTAVES):
            height, width = greys[-1].shape
            size = max(1, width // 2), max(1, height // 2)
            half = cv2.resize(greys[-1], size, interpolation=cv2.INTER_AREA)
            greys.append(np.asarray(half, np.float32))
        return greys

    @cached_property
    def smooth(self) -> list[F32]:
        """The same without most of the noise."""
        return [np.asarray(cv2.GaussianBlur(g, (0, 0), SMOOTH), np.float32) for g in self.octaves]

    @cached_property
    def candidates(self) -> list[Found]:
        """Its probable specks, likeliest first."""
        return _candidates(self)


def logs_of(light: U16) -> F32:
    """log2 of light (H, W, 3) at the size worked at."""
    height, width = light.shape[:2]
    times = max(1.0, max(height, width) / WORK_SIDE)
    size = round(width / times), round(height / times)
    small = cv2.resize(light, size, interpolation=cv2.INTER_AREA) if times > 1.0 else light
    return np.asarray(np.log2(small.astype(np.float32) + np.float32(FLOOR)), np.float32)


@lru_cache(maxsize=256)
def _sides(radius: float) -> tuple[int, list[tuple[int, int, int, int]]]:
    """Side of a square that is half as wide as a disc's radius, and by how many pixels it lies from
    the middle in each direction: outside the edge, y and x, and inside."""
    turns = 2.0 * np.pi * np.arange(SECTORS) / SECTORS
    way = np.stack([np.sin(turns), np.cos(turns)], axis=-1)
    out, in_ = (np.rint(far * radius * way).astype(int) for far in (OUTSIDE, INSIDE))
    return max(1, round(0.5 * radius)) | 1, [(*o, *i) for o, i in zip(out, in_, strict=True)]


def steps(grey: F32, radius: float) -> Iterator[F32]:
    """In each direction, by how much it is lighter outside the edge of a disc about each place
    (H, W) than inside."""
    side, sides = _sides(round(radius, 1))
    edge = int(np.ceil(OUTSIDE * radius)) + 1
    height, width = grey.shape
    mean = cv2.blur(grey, (side, side), borderType=cv2.BORDER_REFLECT_101)
    mean = cv2.copyMakeBorder(mean, edge, edge, edge, edge, cv2.BORDER_REFLECT_101)
    for oy, ox, iy, ix in sides:
        outer = mean[edge + oy : edge + oy + height, edge + ox : edge + ox + width]
        yield outer - mean[edge + iy : edge + iy + height, edge + ix : edge + ix + width]


def _edges(grey: F32, radius: float) -> tuple[F32, F32]:
    """(H, W) mean step over the edge of a disc about each place, stops, and its t."""
    total, squares = np.zeros_like(grey), np.zeros_like(grey)
    for step in steps(grey, radius):
        total += step
        squares += step * step
    mean = total / np.float32(SECTORS)
    scatter = np.maximum(squares / np.float32(SECTORS) - mean * mean, 0.0) + np.float32(NOISE**2)
    return mean, mean * np.sqrt(np.float32(SECTORS - 1) / scatter)


def _colour(logs: F32, x: int, y: int, radius: float, depth: float) -> float:
    """By what part a shadow's depths in red and blue differ, beyond what may be noise."""
    half = int(np.ceil(1.5 * radius)) + 1
    part = logs[max(y - half, 0) : y + half + 1, max(x - half, 0) : x + half + 1]
    if part.shape[:2] != (2 * half + 1, 2 * half + 1):
        return 0.0
    difference = np.ascontiguousarray(part[..., 2] - part[..., 0])
    found = np.array([step[half, half] for step in steps(difference, radius)])
    error = found.std() / np.sqrt(SECTORS - 1)
    return float(max(abs(found.mean()) - 2.0 * error, 0.0) / max(depth, 1e-6))


@lru_cache(maxsize=512)
def _shadow(radius: float, edge: float) -> tuple[NDArray[np.bool_], Floats, Floats]:
    """Where a shadow of an edge so soft acts, its shape there, smoothed as pictures are, and a
    plane: the light about it may run evenly across, which is taken out of the shape."""
    half = int(np.ceil(2.1 * radius))
    beyond = half + 6
    v, u = np.mgrid[-beyond : beyond + 1, -beyond : beyond + 1]
    away = np.hypot(u, v)
    shape = -1.0 / (1.0 + np.exp(np.minimum((away - radius) / (edge * radius), 50.0)))
    inner = slice(6, -6), slice(6, -6)
    shape, away, u, v = (
        part[inner] for part in (cv2.GaussianBlur(shape, (0, 0), SMOOTH), away, u, v)
    )
    here = away < 2.1 * radius
    plane = np.stack([np.ones(here.sum()), u[here], v[here]], axis=-1)
    basis, _ = np.linalg.qr(plane)
    return here, shape[here] - basis @ (basis.T @ shape[here]), basis


def octave_of(radius: float) -> int:
    """In which a radius is looked at."""
    return min(max(int(np.log2(radius / RADII[0])), 0), OCTAVES - 1)


def fitted(grey: F32, x: int, y: int, radius: float, edge: float = EDGE) -> tuple[float, float]:
    """Correlation of a smoothed octave with a shadow, and its depth; none at the border."""
    here, shape, basis = _shadow(round(radius, 1), edge)
    half = here.shape[0] // 2
    height, width = grey.shape
    if not (half <= y < height - half and half <= x < width - half):
        return 0.0, 0.0
    part = grey[y - half : y + half + 1, x - half : x + half + 1][here].astype(np.float64)
    part -= basis @ (basis.T @ part)
    alike = float(shape @ part / (np.linalg.norm(shape) * np.linalg.norm(part) + 1e-9))
    return alike, float(shape @ part / (shape @ shape))


def _judged(seen: Seen, x: int, y: int, octave: int, radius: float, t: float) -> Found | None:
    """What is about a place of an octave, where and with the radius that fit best."""
    grey, near = seen.smooth[octave], (-1, 0, 1)
    alike, times = max((fitted(grey, x, y, radius * times)[0], times) for times in FITTED)
    if alike < PROMISING:
        return None
    own = radius * times
    shape, depth, x, y = max(
        (*fitted(grey, x + dx, y + dy, own), x + dx, y + dy) for dx in near for dy in near
    )
    pixel = 2**octave
    if shape < LEAST_SHAPE or own * pixel < SMALLEST or not LEAST_DEPTH <= depth <= MOST_DEPTH:
        return None
    blurred = max(fitted(grey, x, y, radius * times, BLURRED)[0] for times in FITTED)
    likely = min(shape / WHOLE_SHAPE, 1.0) ** BY_SHAPE / (1.0 + (HALF_T / t) ** BY_T)
    likely /= 1.0 + np.exp((blurred - shape - SOFTER) / BY_EDGE)
    place = int((x + 0.5) * pixel), int((y + 0.5) * pixel)
    colour = _colour(seen.logs, *place, own * pixel, depth)
    likely *= np.exp(-((colour / COLOURED) ** 2))
    return Found(*place, own * pixel, depth, float(likely))


def _peaks(seen: Seen) -> list[tuple[float, int, int, int, float]]:
    """t, place, octave and radius of the places at which it is highest, highest first."""
    peaks: list[tuple[float, int, int, int, float]] = []
    for octave, grey in enumerate(seen.octaves):
        best, own = np.zeros_like(grey), np.zeros_like(grey)
        found = kernels.at_once(*(partial(_edges, grey, radius) for radius in RADII))
        for radius, (mean, t) in zip(RADII, found, strict=True):
            higher = (t > best) & (mean > LEAST_DEPTH) & (mean < MOST_DEPTH)
            best[higher], own[higher] = t[higher], radius
        near = cv2.dilate(best, np.ones((11, 11), np.uint8))
        for y, x in np.argwhere((best >= near) & (best > LEAST_T)):
            peaks.append((float(best[y, x]), int(x), int(y), octave, float(own[y, x])))
    return sorted(peaks, reverse=True)[:MOST_LOOKED_AT]


def _candidates(seen: Seen) -> list[Found]:
    """Probable specks of one frame, likeliest first."""
    found = [_judged(seen, x, y, octave, radius, t) for t, x, y, octave, radius in _peaks(seen)]
    return _apart(sorted((f for f in found if f), key=lambda f: -f.likely))


def _apart(found: list[Found]) -> list[Found]:
    """The first of those that lie on each other."""
    kept: list[Found] = []
    for one in found:
        if all(np.hypot(one.x - k.x, one.y - k.y) > max(one.radius, k.radius) for k in kept):
            kept.append(one)
        if len(kept) >= MOST_SPECKS:
            break
    return kept
