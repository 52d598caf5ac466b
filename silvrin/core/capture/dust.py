"""The dust finder: small dark soft spots that a sensor's dust leaves, at one place of the sensor in
all frames of a roll.

A speck's shadow is a disc that is the larger, the wider the lens is open: its radius falls with the
f-number, its depth with the square of its radius (the cone of light above the sensor). What looks
like one (`specks.py`) is the likelier when other frames show it too, of another subject: what a
bracket shows at one place in all its frames is what was before the lens. Once a frame is known to
have been taken with dust that others show, it has the other's specks as well, where its own subject
hides them.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from .specks import NOISE, SECTORS, SMALLEST, Found, Seen, fitted, logs_of, octave_of, steps

F32 = NDArray[np.float32]
U16 = NDArray[np.uint16]

OTHERS = 4.0  # how much another frame that shows a speck counts beside its own
SHOWN = 0.3  # likelihood from which another frame is said to show one
SHIFT = 2  # pixels by which a speck may lie off between frames
MOVED = 8  # pixels of an octave by which a subject may lie off between two frames of it
SAME_SUBJECT = 0.6  # correlation of what is about a place from which it is the same subject
SURE = 0.6  # likelihood of a speck that is there on other frames of the same dust too
DUSTY = 2  # sure specks, seen on others too, from which a frame is known to have dust
SURELY_SEEN = 25.0  # t with which a speck cannot be overlooked
HIDDEN = 0.8  # × its likelihood, where this frame does not show it


@dataclass(frozen=True)
class SensorFrame:
    """A frame of a roll as it lay on the sensor: linear light (H, W, 3) at any size, and the
    f-number, where it is known."""

    light: U16
    f_number: float | None = None

    @cached_property
    def seen(self) -> Seen:
        """What is seen of it at the size worked at."""
        return Seen(logs_of(self.light))

    @property
    def pitch(self) -> float:
        """Pixels of the light to one of that size."""
        return float(self.light.shape[1] / self.seen.logs.shape[1])


@dataclass(frozen=True)
class Speck:
    """A probable speck, in pixels of the sensor."""

    x: float
    y: float
    radius: float
    depth: float  # stops
    likely: float  # 0 to 1
    elsewhere: int  # other frames that show it


def _shown(own: Seen, other: Seen, found: Found, times: float) -> float:
    """How likely another frame shows a speck at the same place, `times` as large; not at all where
    it shows the same subject."""
    radius = found.radius * times
    if radius < SMALLEST or _same_subject(own, other, found):
        return 0.0
    octave = octave_of(radius)
    pixel, best = 2**octave, 0.0
    x, y = int(found.x / pixel), int(found.y / pixel)
    far = -(-SHIFT // pixel)
    for dy in range(-far, far + 1):
        for dx in range(-far, far + 1):
            shape, depth = fitted(other.smooth[octave], x + dx, y + dy, radius / pixel)
            # a cone of light more open spreads the same shadow over a larger disc
            if shape > 0 and 0.4 < depth * times**2 / found.depth < 2.5:
                best = max(best, shape**2)
    return best


def _same_subject(own: Seen, other: Seen, found: Found) -> bool:
    """Whether about a speck another frame shows the same, perhaps moved a little."""
    octave = octave_of(found.radius)
    mine, theirs, pixel = own.smooth[octave], other.smooth[octave], 2**octave
    radius = found.radius / pixel
    half = int(np.ceil(4.0 * radius))
    x, y = int(found.x / pixel), int(found.y / pixel)
    height, width = mine.shape
    if not (half <= y < height - half and half <= x < width - half):
        return False
    v, u = np.mgrid[-half : half + 1, -half : half + 1]
    about = (np.hypot(u, v) > 1.4 * radius).astype(np.float32)
    part = mine[y - half : y + half + 1, x - half : x + half + 1]
    top, left = max(0, y - half - MOVED), max(0, x - half - MOVED)
    field = theirs[top : y + half + MOVED + 1, left : x + half + MOVED + 1]
    alike = cv2.matchTemplate(_level(field), _level(part), cv2.TM_CCOEFF_NORMED, mask=about)
    return bool(np.nan_to_num(alike, posinf=0.0).max() > SAME_SUBJECT)


def _level(part: F32) -> F32:
    """Without its plane."""
    height, width = part.shape
    v, u = np.mgrid[0:height, 0:width]
    plane = np.stack([np.ones(part.size), u.ravel(), v.ravel()], axis=-1)
    fit, *_ = np.linalg.lstsq(plane, part.ravel(), rcond=None)
    return np.asarray(part - (plane @ fit).reshape(part.shape), np.float32)


def find_specks(
    own: SensorFrame,
    others: Sequence[SensorFrame] = (),
    mended: Sequence[tuple[float, float]] = (),
) -> list[Speck]:
    """Probable specks of a frame, likeliest first; other frames of the same sensor tell of each
    whether it is there too, and what was `mended` on this one is taken to have been dust. Places
    are those of the frame's own light."""
    pitch = own.pitch
    looked = [_Looked.at(frame, own) for frame in others]
    sums: list[tuple[Found, float, int]] = []
    for found in own.seen.candidates:
        shown = [_shown(own.seen, other.seen, found, other.times) for other in looked]
        missing = 1.0 - found.likely
        for likely in shown:
            missing *= 1.0 - min(OTHERS * found.likely * likely, 0.9)
        sums.append((found, 1.0 - missing, sum(likely > SHOWN for likely in shown)))
    dusty = sum(likely >= SURE for _, likely, where in sums if where) >= DUSTY
    for other in looked:
        mine = other.seen.candidates
        shared = dusty or any(_is_same(found, mine, other.times) for found, _, at in sums if at)
        if not shared and not any(_is_there(x / pitch, y / pitch, mine) for x, y in mended):
            continue
        for theirs in mine:
            placed = Found(
                theirs.x, theirs.y, theirs.radius / other.times,
                theirs.depth * other.times**2, HIDDEN * theirs.likely,
            )  # fmt: skip
            seen = any(_near(placed, found) for found, likely, _ in sums if likely >= SHOWN)
            if theirs.likely >= SURE and not seen and not _would_show(own.seen, placed):
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

    seen: Seen
    times: float

    @classmethod
    def at(cls, frame: SensorFrame, own: SensorFrame) -> "_Looked":
        f, theirs = own.f_number, frame.f_number
        return cls(_alike(frame.seen, own.seen), f / theirs if f and theirs else 1.0)


def _would_show(seen: Seen, found: Found) -> bool:
    """Whether a speck at a place would surely be seen there, as nothing hides it."""
    octave = octave_of(found.radius)
    grey, pixel = seen.octaves[octave], 2**octave
    x, y, radius = int(found.x / pixel), int(found.y / pixel), found.radius / pixel
    half = int(np.ceil(1.5 * radius)) + 1
    part = grey[max(y - half, 0) : y + half + 1, max(x - half, 0) : x + half + 1]
    if part.shape != (2 * half + 1, 2 * half + 1):
        return False
    scatter = np.std([step[half, half] for step in steps(part, radius)]) + NOISE
    return bool(found.depth * np.sqrt(SECTORS - 1) / scatter > SURELY_SEEN)


def _near(a: Found, b: Found) -> bool:
    return bool(np.hypot(a.x - b.x, a.y - b.y) <= max(a.radius, b.radius))


def _is_there(x: float, y: float, found: list[Found]) -> bool:
    """Whether a frame surely shows a speck at a place."""
    return any(
        f.likely >= SURE and np.hypot(f.x - x, f.y - y) <= max(f.radius, SMALLEST) for f in found
    )


def _is_same(found: Found, theirs: list[Found], times: float) -> bool:
    """Whether another frame surely shows that speck, as its aperture makes it."""
    return any(
        t.likely >= SURE
        and found.likely >= SHOWN
        and np.hypot(t.x - found.x, t.y - found.y) <= 2 * SHIFT
        and 0.7 < t.radius / times / found.radius < 1.4
        for t in theirs
    )


def _alike(seen: Seen, wanted: Seen) -> Seen:
    """A frame at the size of another."""
    height, width = wanted.logs.shape[:2]
    if seen.logs.shape == wanted.logs.shape:
        return seen
    smaller = cv2.resize(seen.logs, (width, height), interpolation=cv2.INTER_AREA)
    return Seen(np.asarray(smaller, np.float32))
