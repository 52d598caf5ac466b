"""The dust finder: small dark soft spots that a sensor's dust leaves, at one place of the sensor in
all frames of a roll.

A speck's shadow is a disc that is the larger, the wider the lens is open: its radius falls with the
f-number, its depth with the square of its radius (the cone of light above the sensor). A place
is likely when a disc is darker than a ring about it by much more than the ring varies, when it has
the shape of such a shadow, and when other frames show it too.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

F32 = NDArray[np.float32]
U16 = NDArray[np.uint16]
Floats = NDArray[np.float64]

WORK_SIDE = 2400  # long side at which specks are looked for
RADII = (4.0, 5.04, 6.35)  # pixels at that size, and at sizes half and a quarter of it
OCTAVES = 3
SMALLEST = 3.0  # radius, at that size, of which the shape still tells something
LEAST_DEPTH, MOST_DEPTH = 0.03, 1.0  # stops
LEAST_SCORE = 1.5  # of a disc against the variation of its ring, to be looked at closely
LEAST_SHAPE = 0.7  # correlation with a speck's shape
MOST_LOOKED_AT, MOST_SPECKS = 800, 200
FLOOR = 64.0
NOISE = 0.02  # stops that a ring is taken to vary by at least
BUSY = 0.15  # stops a ring varies by where a speck is no longer seen
FITTED = (0.8, 0.9, 1.0, 1.1, 1.25)  # × the radius looked for, of those that are tried
EDGE = 0.12  # of a speck's radius: how soft its edge is
OTHERS = 4.0  # how much another frame that shows a speck counts beside its own
SHOWN = 0.3  # likelihood from which another frame is said to show one
SHIFT = 2  # pixels by which a speck may lie off between frames
COLOURED = 0.25  # by what part the depths in the channels may differ; dust is grey
_TURNS = {3: 2, 4: 2, 5: 1, 6: 3, 7: 3, 8: 1}  # quarters against the clock, by Exif orientation


@dataclass(frozen=True)
class SensorFrame:
    """A frame of a roll as it lay on the sensor: linear light (H, W, 3) at any size, and the
    f-number, where it is known."""

    light: U16
    f_number: float | None = None


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


def _disc_and_ring(radius: float) -> tuple[F32, F32]:
    """Kernels of a disc and of the ring about it, each of sum 1."""
    half = int(np.ceil(2.2 * radius))
    y, x = np.mgrid[-half : half + 1, -half : half + 1]
    away = np.hypot(x, y)
    disc = np.clip(0.75 * radius - away + 0.5, 0.0, 1.0)
    ring = np.clip(away - 1.25 * radius + 0.5, 0, 1) * np.clip(2.1 * radius - away + 0.5, 0, 1)
    return (disc / disc.sum()).astype(np.float32), (ring / ring.sum()).astype(np.float32)


def _contrast(grey: F32, radius: float) -> tuple[F32, F32]:
    """(H, W) by how many stops discs are darker than their rings, and by how many those vary."""
    disc, ring = _disc_and_ring(radius)
    about = cv2.filter2D(grey, -1, ring, borderType=cv2.BORDER_REFLECT_101)
    inside = cv2.filter2D(grey, -1, disc, borderType=cv2.BORDER_REFLECT_101)
    square = cv2.filter2D(grey * grey, -1, ring, borderType=cv2.BORDER_REFLECT_101)
    varies = np.sqrt(np.maximum(square - about * about, 0.0)) + np.float32(NOISE)
    return np.asarray(about - inside, np.float32), np.asarray(varies, np.float32)


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


def _fitted(logs: F32, x: int, y: int, radius: float) -> tuple[float, float, float]:
    """Correlation with a speck's shadow, its depth, and by what part that differs between the
    channels; none at the border."""
    here, shape, basis = _shadow(round(radius, 1))
    half = here.shape[0] // 2
    height, width = logs.shape[:2]
    if not (half <= y < height - half and half <= x < width - half):
        return 0.0, 0.0, 0.0
    part = logs[y - half : y + half + 1, x - half : x + half + 1][here].astype(np.float64)
    light = part - basis @ (basis.T @ part)
    grey = light.mean(axis=1)
    alike = float(shape @ grey / (np.linalg.norm(shape) * np.linalg.norm(grey) + 1e-9))
    depths = shape @ light / (shape @ shape)
    depth = float(depths.mean())
    return alike, depth, float(np.ptp(depths) / max(depth, 1e-6))


def _judged(logs: F32, x: int, y: int, radius: float, score: float, quiet: float) -> _Found | None:
    """What is at a place, with the radius that fits best."""
    shape, depth, coloured, own = max(
        (*_fitted(logs, x, y, radius * times), radius * times) for times in FITTED
    )
    if shape < LEAST_SHAPE or not LEAST_DEPTH <= depth <= MOST_DEPTH:
        return None
    likely = shape**2 * (1.0 - np.exp(-score / 3.0)) * quiet
    likely *= np.exp(-((coloured / COLOURED) ** 2))
    return _Found(x, y, own, depth, float(likely))


def _candidates(logs: F32) -> list[_Found]:
    """Probable specks of one frame, likeliest first."""
    grey = np.ascontiguousarray(logs.mean(axis=2))
    peaks: list[tuple[float, float, int, int, float]] = []
    for octave in range(OCTAVES):
        for radius in RADII:
            depth, varies = _contrast(grey, radius)
            score = depth / varies
            near = cv2.dilate(score, np.ones((int(1.5 * radius) | 1,) * 2, np.uint8))
            found = (score >= near) & (score > LEAST_SCORE) & (varies < 2.0 * BUSY)
            found &= (depth > LEAST_DEPTH) & (depth < MOST_DEPTH)
            times = 2**octave
            for y, x in np.argwhere(found):
                quiet = float(np.exp(-((varies[y, x] / BUSY) ** 2)))
                place = int((x + 0.5) * times), int((y + 0.5) * times)
                peaks.append((float(score[y, x]) * quiet, quiet, *place, radius * times))
        size = max(1, grey.shape[1] // 2), max(1, grey.shape[0] // 2)
        grey = np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_AREA), np.float32)
    peaks.sort(reverse=True)
    judged = [
        _judged(logs, x, y, radius, score, quiet)
        for score, quiet, x, y, radius in peaks[:MOST_LOOKED_AT]
    ]
    return _apart(sorted((f for f in judged if f), key=lambda f: -f.likely))


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
            shape, depth, coloured = _fitted(part, half + dx, half + dy, radius)
            # a cone of light more open spreads the same shadow over a larger disc
            if shape > 0 and 0.4 < depth * times**2 / found.depth < 2.5:
                best = max(best, shape**2 * float(np.exp(-((coloured / COLOURED) ** 2))))
    return best


def find_specks(own: SensorFrame, others: Sequence[SensorFrame] = ()) -> list[Speck]:
    """Probable specks of a frame, likeliest first; other frames of the same sensor tell of each
    whether it is there too. Places are those of the frame's own light."""
    logs, pitch = _logs(own.light)
    looked = [(_alike(_logs(other.light)[0], logs), other.f_number) for other in others]
    specks = []
    for found in _candidates(logs):
        shown = []
        for theirs, f_number in looked:
            times = own.f_number / f_number if own.f_number and f_number else 1.0
            shown.append(_shown(theirs, found, times))
        missing = 1.0 - found.likely
        for likely in shown:
            missing *= 1.0 - min(OTHERS * found.likely * likely, 0.9)
        x, y = (found.x + 0.5) * pitch, (found.y + 0.5) * pitch
        specks.append(
            Speck(
                x, y, found.radius * pitch, found.depth, 1.0 - missing,
                sum(likely > SHOWN for likely in shown),
            )
        )  # fmt: skip
    return sorted(specks, key=lambda s: -s.likely)


def _alike(logs: F32, wanted: F32) -> F32:
    """Logs of light at the size of others."""
    height, width = wanted.shape[:2]
    if logs.shape == wanted.shape:
        return logs
    return np.asarray(cv2.resize(logs, (width, height), interpolation=cv2.INTER_AREA), np.float32)


def from_sensor(places: Floats, size: tuple[int, int], orientation: int) -> Floats:
    """Places (N, 2) of a sensor of a size (width, height) where they lie on the upright picture, by
    its Exif orientation; pixels from the left and top edges."""
    x, y = np.asarray(places, np.float64).T
    width, height = size
    if orientation in (2, 4, 5, 7):
        x = width - x
    for _ in range(_TURNS.get(orientation, 0)):
        x, y = y, width - x
        width, height = height, width
    return np.stack([x, y], axis=-1)


def to_sensor(places: Floats, size: tuple[int, int], orientation: int) -> Floats:
    """Places (N, 2) of the upright picture where they lie on a sensor of a size (width, height);
    inverse of `from_sensor`."""
    x, y = np.asarray(places, np.float64).T
    width, height = size
    turns = _TURNS.get(orientation, 0)
    if turns % 2:
        width, height = height, width
    for _ in range(turns):
        x, y = height - y, x
        width, height = height, width
    if orientation in (2, 4, 5, 7):
        x = size[0] - x
    return np.stack([x, y], axis=-1)


def on_sensor(light: U16, orientation: int) -> U16:
    """Upright light (H, W, 3) as it lay on the sensor."""
    light = np.rot90(light, -_TURNS.get(orientation, 0))
    return light[:, ::-1] if orientation in (2, 4, 5, 7) else light
