"""The dust finder: small dark soft spots that a sensor's dust leaves, at one place of the sensor in
all frames of a roll.

A speck's shadow is a disc that is the larger, the wider the lens is open: its radius falls with the
f-number, its depth with the square of its radius (the cone of light above the sensor). Textures
have dark places too, but not ones that are darker by as much all round: the steps over the edge of
a disc in eight directions are compared, as Student's t compares a mean with its own scatter. A
place is likely when that is high, when it has the shape of such a shadow and no colour, and when
other frames show it too. Once a frame is known to have been taken with the dust that another shows,
it has the other's specks as well, where its own subject hides them.
"""

from collections.abc import Iterator, Sequence
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
NOISE = 0.01  # stops by which they are taken to scatter at least
LEAST_T, HALF_T = 7.0, 14.5  # t of a mean step from which it is looked at, and that is half likely
PROMISING = 0.5  # correlation from which a place is looked at closely
LEAST_SHAPE, WHOLE_SHAPE = 0.68, 0.85  # correlation with a speck's shape: at least, and no doubt
SHARPLY = 4.0  # power with which likelihood falls with either
MOST_LOOKED_AT, MOST_SPECKS = 800, 200
FLOOR = 64.0
# × the radius looked for, of those that are tried: t is highest a little beyond the edge
FITTED = (0.72, 0.78, 0.85, 0.92, 1.0, 1.08, 1.17)
EDGE = 0.12  # of a speck's radius: how soft its edge is
OTHERS = 4.0  # how much another frame that shows a speck counts beside its own
SHOWN = 0.3  # likelihood from which another frame is said to show one
SHIFT = 2  # pixels by which a speck may lie off between frames
COLOURED = 0.09  # by what part the depths in the channels may differ; dust is grey
SURE = 0.6  # likelihood of a speck that is there on other frames of the same dust too
HIDDEN = 0.8  # × its likelihood, where this frame does not show it


@dataclass(frozen=True)
class SensorFrame:
    """A frame of a roll as it lay on the sensor: linear light (H, W, 3) at any size, and the
    f-number, where it is known."""

    light: U16
    f_number: float | None = None

    @cached_property
    def logs(self) -> tuple[F32, float]:
        """log2 of the light at the size worked at, and pixels of the light to one of it."""
        return _logs(self.light)

    @cached_property
    def candidates(self) -> "list[_Found]":
        """Its probable specks, likeliest first."""
        return _candidates(self.logs[0])


@dataclass(frozen=True)
class Speck:
    """A probable speck, in pixels of the sensor."""

    x: float
    y: float
    radius: float
    depth: float  # stops
    likely: float  # 0 to 1
    elsewhere: int  # other frames that show it


@dataclass(frozen=True)
class _Found:
    """One in a frame, at the size worked at."""

    x: float
    y: float
    radius: float
    depth: float
    likely: float


def _logs(light: U16) -> tuple[F32, float]:
    """log2 of light (H, W, 3) at the size worked at, and pixels of the capture to one of it."""
    height, width = light.shape[:2]
    times = max(1.0, max(height, width) / WORK_SIDE)
    size = round(width / times), round(height / times)
    small = cv2.resize(light, size, interpolation=cv2.INTER_AREA) if times > 1.0 else light
    return np.log2(small.astype(np.float32) + np.float32(FLOOR)), width / size[0]


@lru_cache(maxsize=256)
def _sides(radius: float) -> tuple[int, list[tuple[int, int, int, int]]]:
    """Side of a square that is half as wide as a disc's radius, and by how many pixels it lies from
    the middle in each direction: outside the edge, y and x, and inside."""
    turns = 2.0 * np.pi * np.arange(SECTORS) / SECTORS
    way = np.stack([np.sin(turns), np.cos(turns)], axis=-1)
    out, in_ = (np.rint(far * radius * way).astype(int) for far in (OUTSIDE, INSIDE))
    return max(1, round(0.5 * radius)) | 1, [(*o, *i) for o, i in zip(out, in_, strict=True)]


def _steps(grey: F32, radius: float) -> Iterator[F32]:
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
    for step in _steps(grey, radius):
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
    steps = np.array(
        [s[half, half] for s in _steps(np.ascontiguousarray(part[..., 2] - part[..., 0]), radius)]
    )
    error = steps.std() / np.sqrt(SECTORS - 1)
    return float(max(abs(steps.mean()) - 2.0 * error, 0.0) / max(depth, 1e-6))


@lru_cache(maxsize=256)
def _shadow(radius: float) -> tuple[NDArray[np.bool_], Floats, Floats]:
    """Where a speck's shadow acts, its shape there, and a plane: the light about it may run evenly
    across, which is taken out of the shape."""
    half = int(np.ceil(2.1 * radius))
    v, u = np.mgrid[-half : half + 1, -half : half + 1]
    away = np.hypot(u, v)
    here = away < 2.1 * radius
    plane = np.stack([np.ones(here.sum()), u[here], v[here]], axis=-1)
    basis, _ = np.linalg.qr(plane)
    shape = -1.0 / (1.0 + np.exp(np.minimum((away[here] - radius) / (EDGE * radius), 50.0)))
    return here, shape - basis @ (basis.T @ shape), basis


def _fitted(logs: F32, x: int, y: int, radius: float) -> tuple[float, float]:
    """Correlation with a speck's shadow, and its depth; none at the border."""
    here, shape, basis = _shadow(round(radius, 1))
    half = here.shape[0] // 2
    height, width = logs.shape[:2]
    if not (half <= y < height - half and half <= x < width - half):
        return 0.0, 0.0
    grey = logs[y - half : y + half + 1, x - half : x + half + 1][here].mean(axis=1, dtype=float)
    grey -= basis @ (basis.T @ grey)
    alike = float(shape @ grey / (np.linalg.norm(shape) * np.linalg.norm(grey) + 1e-9))
    return alike, float(shape @ grey / (shape @ shape))


def _judged(logs: F32, x: int, y: int, radius: float, t: float) -> _Found | None:
    """What is about a place, where and with the radius that fit best."""
    alike, times = max((_fitted(logs, x, y, radius * times)[0], times) for times in FITTED)
    if alike < PROMISING:
        return None
    own, by = radius * times, max(1, round(radius / 9.0))
    shape, depth, x, y = max(
        (*_fitted(logs, x + dx, y + dy, own), x + dx, y + dy)
        for dx in (-by, 0, by)
        for dy in (-by, 0, by)
    )
    if shape < LEAST_SHAPE or own < SMALLEST or not LEAST_DEPTH <= depth <= MOST_DEPTH:
        return None
    likely = min(shape / WHOLE_SHAPE, 1.0) ** SHARPLY / (1.0 + (HALF_T / t) ** SHARPLY)
    likely *= np.exp(-((_colour(logs, x, y, own, depth) / COLOURED) ** 2))
    return _Found(x, y, own, depth, float(likely))


def _peaks(logs: F32) -> list[tuple[float, int, int, float]]:
    """t, place and radius of the places at which it is highest, highest first."""
    grey = np.ascontiguousarray(logs.mean(axis=2))
    peaks: list[tuple[float, int, int, float]] = []
    for octave in range(OCTAVES):
        best, own = np.zeros_like(grey), np.zeros_like(grey)
        found = kernels.at_once(*(partial(_edges, grey, radius) for radius in RADII))
        for radius, (mean, t) in zip(RADII, found, strict=True):
            higher = (t > best) & (mean > LEAST_DEPTH) & (mean < MOST_DEPTH)
            best[higher], own[higher] = t[higher], radius
        near = cv2.dilate(best, np.ones((11, 11), np.uint8))
        for y, x in np.argwhere((best >= near) & (best > LEAST_T)):
            times = 2**octave
            place = int((x + 0.5) * times), int((y + 0.5) * times)
            peaks.append((float(best[y, x]), *place, float(own[y, x]) * times))
        size = max(1, grey.shape[1] // 2), max(1, grey.shape[0] // 2)
        grey = np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_AREA), np.float32)
    return sorted(peaks, reverse=True)[:MOST_LOOKED_AT]


def _candidates(logs: F32) -> list[_Found]:
    """Probable specks of one frame, likeliest first."""
    found = [_judged(logs, x, y, radius, t) for t, x, y, radius in _peaks(logs)]
    return _apart(sorted((f for f in found if f), key=lambda f: -f.likely))


def _apart(found: list[_Found]) -> list[_Found]:
    """The first of those that lie on each other."""
    kept: list[_Found] = []
    for one in found:
        if all(np.hypot(one.x - k.x, one.y - k.y) > max(one.radius, k.radius) for k in kept):
            kept.append(one)
        if len(kept) >= MOST_SPECKS:
            break
    return kept


def _shown(logs: F32, found: _Found, times: float) -> float:
    """How likely another frame shows a speck at the same place, `times` as large."""
    best = 0.0
    radius = found.radius * times
    half = int(np.ceil(2.2 * radius)) + SHIFT
    x, y = round(found.x), round(found.y)
    part = logs[max(0, y - half) : y + half + 1, max(0, x - half) : x + half + 1]
    if radius < SMALLEST or part.shape[:2] != (2 * half + 1, 2 * half + 1):
        return 0.0
    for dy in range(-SHIFT, SHIFT + 1):
        for dx in range(-SHIFT, SHIFT + 1):
            shape, depth = _fitted(part, half + dx, half + dy, radius)
            # a cone of light more open spreads the same shadow over a larger disc
            if shape > 0 and 0.4 < depth * times**2 / found.depth < 2.5:
                best = max(best, shape**2)
    return best


def find_specks(
    own: SensorFrame,
    others: Sequence[SensorFrame] = (),
    mended: Sequence[tuple[float, float]] = (),
) -> list[Speck]:
    """Probable specks of a frame, likeliest first; other frames of the same sensor tell of each
    whether it is there too, and what was `mended` on this one is taken to have been dust. Places
    are those of the frame's own light."""
    logs, pitch = own.logs
    looked = [_Looked.at(frame, own, logs) for frame in others]
    sums: list[tuple[_Found, float, int]] = []
    for found in own.candidates:
        shown = [_shown(other.logs, found, other.times) for other in looked]
        missing = 1.0 - found.likely
        for likely in shown:
            missing *= 1.0 - min(OTHERS * found.likely * likely, 0.9)
        sums.append((found, 1.0 - missing, sum(likely > SHOWN for likely in shown)))
    for other in looked:
        mine = other.candidates
        shared = any(_is_same(found, mine, other.times) for found, _, where in sums if where)
        if not shared and not any(_is_there(x / pitch, y / pitch, mine) for x, y in mended):
            continue
        for theirs in mine:
            placed = _Found(
                theirs.x, theirs.y, theirs.radius / other.times,
                theirs.depth * other.times**2, HIDDEN * theirs.likely,
            )  # fmt: skip
            seen = any(_near(placed, found) for found, likely, _ in sums if likely >= SHOWN)
            if theirs.likely >= SURE and not seen:
                sums.append((placed, placed.likely, 1))
    specks = [
        Speck(
            (f.x + 0.5) * pitch, (f.y + 0.5) * pitch, f.radius * pitch, f.depth, likely, elsewhere
        )
        for f, likely, elsewhere in sums
    ]
    return sorted(specks, key=lambda s: -s.likely)


@dataclass(frozen=True)
class _Looked:
    """Another frame, at the size worked at, and × the own radius that a speck has there."""

    logs: F32
    times: float
    frame: SensorFrame

    @classmethod
    def at(cls, frame: SensorFrame, own: SensorFrame, logs: F32) -> "_Looked":
        f, theirs = own.f_number, frame.f_number
        times = f / theirs if f and theirs else 1.0
        return cls(_alike(frame.logs[0], logs), times, frame)

    @property
    def candidates(self) -> list[_Found]:
        return self.frame.candidates if self.logs is self.frame.logs[0] else _candidates(self.logs)


def _near(a: _Found, b: _Found) -> bool:
    return bool(np.hypot(a.x - b.x, a.y - b.y) <= max(a.radius, b.radius))


def _is_there(x: float, y: float, found: list[_Found]) -> bool:
    """Whether a frame surely shows a speck at a place."""
    return any(
        f.likely >= SURE and np.hypot(f.x - x, f.y - y) <= max(f.radius, SMALLEST) for f in found
    )


def _is_same(found: _Found, theirs: list[_Found], times: float) -> bool:
    """Whether another frame surely shows that speck, as its aperture makes it."""
    return any(
        t.likely >= SURE
        and found.likely >= SHOWN
        and np.hypot(t.x - found.x, t.y - found.y) <= 2 * SHIFT
        and 0.7 < t.radius / times / found.radius < 1.4
        for t in theirs
    )


def _alike(logs: F32, wanted: F32) -> F32:
    """Logs of light at the size of others."""
    height, width = wanted.shape[:2]
    if logs.shape == wanted.shape:
        return logs
    return np.asarray(cv2.resize(logs, (width, height), interpolation=cv2.INTER_AREA), np.float32)
