"""Brackets: frames of one scene at several exposures, aligned and merged in linear light.

Alignment: phase correlation, then the turn and shift of least difference of log light (Lucas,
Kanade 1981; Baker, Matthews 2004), robust to what moved (Tukey's weights), where both frames are
neither clipped nor dark. Merging: the mean of light, weighed by exposure, since shot noise falls
with it (Robertson 2003; Debevec, Malik 1997), and by how far from clipping it is. Where a frame
disagrees with the reference by more than its noise lets expect, something moved, and it counts
less there.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ...errors import BadCapture, Dropped
from ..picture import CLIPPED

F32 = NDArray[np.float32]
U16 = NDArray[np.uint16]
Floats = NDArray[np.float64]
Detail = tuple[F32, F32]

FULL = 65535.0
CLIP_FROM, CLIP_AT = 0.80, 0.97  # parts of full scale between which a value loses its weight
DARK = 0.003  # part of its limit below which a place tells nothing of the alignment
ALIGN_SIDE = 1600  # long side at which frames are aligned
GHOST_STOPS = 0.25  # disagreement beyond which something moved, at full ghost removal
COARSER, FINEST = 24.0, 1.0  # pixels at that size: structure that frames are aligned by
MOST_STEPS, STEP = 30, 0.004  # of the alignment; the last one, pixels at that size
MOST_PLACES = 200_000
LEAST_KNOWN = 0.02  # part of the picture that both frames must show
ROWS = 256
LEAST_APART = 0.3  # stops between the exposures of a bracket


@dataclass(frozen=True)
class BracketFrame:
    """One frame: linear light (H, W, 3), its scale, and its exposure beside the others' (times as
    much light reached the sensor)."""

    light: U16
    scale: float
    exposure: float
    limits: tuple[float, float, float] = (CLIPPED, CLIPPED, CLIPPED)


@dataclass(frozen=True)
class Merged:
    """The scene's light, linear value = code * scale as the reference reads it; and for every frame
    the affine map (2, 3) from places of the reference to its own."""

    light: U16
    scale: float
    maps: list[Floats]
    limits: tuple[float, float, float]  # codes from which the light is clipped
    moved: float  # share of the picture where something moved


def check_sizes(sizes: Sequence[tuple[int, ...]]) -> None:
    """Raises BadCapture when pictures (height, width) are of different sizes."""
    if len(set(sizes)) > 1:
        said = " and ".join(f"{w} x {h}" for w, h in sorted((w, h) for h, w in set(sizes)))
        raise BadCapture(f"the frames are of different sizes ({said}); a bracket is of one size.")


def check(frames: Sequence[BracketFrame]) -> None:
    """Raises BadCapture when the frames are no bracket."""
    if len(frames) < 2:
        raise BadCapture(f"{len(frames)} frame was given; a bracket has at least 2.")
    check_sizes([frame.light.shape[:2] for frame in frames])
    stops = sorted(np.log2([frame.exposure for frame in frames]))
    if stops[-1] - stops[0] < LEAST_APART:
        raise BadCapture(
            f"the exposures differ by {stops[-1] - stops[0]:.1f} stops; a bracket's lie at least "
            f"{LEAST_APART:g} apart."
        )


def _green(frame: BracketFrame, side: float) -> tuple[F32, NDArray[np.uint8]]:
    """Green light at a reduced size in parts of its limit, and where it is neither clipped nor
    dark."""
    height, width = frame.light.shape[:2]
    size = (max(16, round(width * side)), max(16, round(height * side)))
    small = cv2.resize(frame.light, size, interpolation=cv2.INTER_AREA).astype(np.float32)
    part = small / np.array(frame.limits, np.float32)
    green = np.ascontiguousarray(part[..., 1])
    told = (part.max(axis=2) < CLIP_FROM) & (green > DARK)
    return np.asarray(green, np.float32), told.astype(np.uint8)


def _details(first: BracketFrame, second: BracketFrame, side: float) -> tuple[Detail, Detail]:
    """Of both frames the fine detail of log2 of the light at a reduced size, and how much each
    place tells: the less the more noise it has, nothing where one of them is clipped or dark."""
    (one, seen), (other, too) = _green(first, side), _green(second, side)
    # the same places count in both, so that what is coarser is taken away alike
    usable = cv2.erode(seen & too, np.ones((9, 9), np.uint8))
    known = _coarse(usable.astype(np.float32)) + np.float32(1e-3)

    def detail(green: F32) -> Detail:
        log = np.log2(np.maximum(green, np.float32(1e-5)))
        log = np.asarray(cv2.GaussianBlur(log, (0, 0), FINEST) * usable, np.float32)
        fine = (log - _coarse(log) / known) * usable
        told = np.minimum(green, np.float32(0.2)) * usable
        return np.asarray(fine, np.float32), np.asarray(told, np.float32)

    return detail(one), detail(other)


def _quarter(detail: Detail) -> Detail:
    fine, told = (
        np.asarray(cv2.resize(v, None, fx=0.25, fy=0.25, interpolation=cv2.INTER_AREA), np.float32)
        for v in detail
    )
    return fine, told


def _coarse(values: F32) -> F32:
    """What is coarser than the structure that counts."""
    height, width = values.shape
    small = cv2.resize(values, (width // 4, height // 4), interpolation=cv2.INTER_AREA)
    small = cv2.GaussianBlur(small, (0, 0), COARSER / 4)
    return np.asarray(cv2.resize(small, (width, height), interpolation=cv2.INTER_LINEAR))


def _aligned(first: Detail, second: Detail, warp: Floats) -> Floats:
    """The turn and shift (x, y, turn; about the middle) that bring a detail onto another, from a
    first guess: Gauss-Newton steps, with what does not fit left out (Tukey's weights)."""
    (template, told), (other, others) = first, second
    height, width = template.shape
    gx = cv2.Scharr(template, cv2.CV_32F, 1, 0, scale=1 / 32)
    gy = cv2.Scharr(template, cv2.CV_32F, 0, 1, scale=1 / 32)
    # the places that tell most are enough
    tells = told * (gx * gx + gy * gy)
    known = np.flatnonzero(told)
    if known.size < LEAST_KNOWN * told.size:
        raise _TooLittle
    if known.size > MOST_PLACES:
        known = np.flatnonzero(tells > np.partition(tells.ravel(), -MOST_PLACES)[-MOST_PLACES])
    y, x = np.divmod(known, width)
    gx, gy = gx.ravel()[known], gy.ravel()[known]
    turning = (x - (width - 1) / 2) * gy - (y - (height - 1) / 2) * gx
    steps = np.stack([gx, gy, turning.astype(np.float32)])
    wanted, weight = template.ravel()[known], told.ravel()[known]
    before = np.zeros(3)
    for number in range(MOST_STEPS):
        matrix = _matrix(warp, (width, height))
        flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
        off = cv2.warpAffine(other, matrix, (width, height), flags=flags).ravel()[known] - wanted
        seen = cv2.warpAffine(others, matrix, (width, height), flags=flags).ravel()[known]
        root = np.sqrt(np.sqrt(weight * seen))  # normal noise falls with the root of the light
        size = np.abs(off) * root
        if np.count_nonzero(root) < 0.3 * root.size:
            raise _TooLittle
        reach = 4.685 * max(1.4826 * float(np.median(size[root > 0])), 1e-6)
        inside = np.clip(1.0 - (size / np.float32(reach)) ** 2, 0.0, None)
        weighted = steps * (root * inside) ** 2
        step = np.linalg.solve(
            np.asarray(weighted @ steps.T, np.float64) + 1e-9 * np.eye(3),
            np.asarray(weighted @ off, np.float64),
        )
        # noise makes steps too short by a constant part; every third goes as far as it should
        pixels = step * [1.0, 1.0, width / 3.0]
        short = float(before @ pixels / max(before @ before, 1e-12))
        farther = number % 3 == 2 and 0.0 < short < 0.9
        warp = warp - (step / (1.0 - short) if farther else step)
        before = pixels
        if np.abs(pixels).max() < STEP:
            break
    return warp


class _TooLittle(Exception):
    """Frames that have too little in common to be aligned."""


def _matrix(warp: Floats, size: tuple[int, int]) -> Floats:
    """(2, 3) the place of the other frame for a place, both counted at the middles of pixels."""
    x, y, turn = warp
    middle = (np.array(size) - 1) / 2.0
    about = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    return np.column_stack([about, middle - about @ middle + [x, y]])


def align(reference: BracketFrame, other: BracketFrame) -> Floats:
    """(2, 3) the place of `other` for a place of the reference: a small turn and a shift.

    Stays the identity where the frames have too little in common to tell.
    """
    height, width = reference.light.shape[:2]
    side = min(1.0, ALIGN_SIDE / max(height, width))
    one, two = _details(reference, other, side)
    small, small_two = _quarter(one), _quarter(two)
    try:
        window = cv2.createHanningWindow(small[0].shape[::-1], cv2.CV_32F)
        (x, y), _ = cv2.phaseCorrelate(small[0], small_two[0], window)
        start = _aligned(small, small_two, np.array([x, y, 0.0]))
        found = _aligned(one, two, start * [4.0, 4.0, 1.0])
    except _TooLittle:
        return np.eye(2, 3)
    return _matrix(found / [side, side, 1.0], (width, height))


def likeness(reference: BracketFrame, other: BracketFrame, found: Floats) -> float:
    """Correlation, −1 to 1, of the detail of two frames that were aligned by a map (2, 3)."""
    height, width = reference.light.shape[:2]
    side = min(1.0, ALIGN_SIDE / max(height, width))
    (one, told), (two, too) = _details(reference, other, side)
    matrix = np.column_stack([found[:, :2], found[:, 2] * side])
    size, flags = one.shape[::-1], cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    there = cv2.warpAffine(two, matrix, size, flags=flags)
    seen = (told > 0) & (cv2.warpAffine(too, matrix, size, flags=flags) > 0)
    if np.count_nonzero(seen) < LEAST_KNOWN * seen.size:
        return 0.0
    return float(np.corrcoef(one[seen], there[seen])[0, 1])


def merge(
    frames: Sequence[BracketFrame],
    reference: int,
    ghosts: float = 0.5,
    progress: Callable[[float], None] = lambda share: None,
    wanted: Callable[[], bool] = lambda: True,
) -> Merged:
    """The light of a bracket, as the frame `reference` reads it where it is neither clipped nor
    dark; `ghosts` from 0 (all frames count) to 1 (what moved comes from the reference alone).

    Raises BadCapture for no bracket, Dropped when it is no longer wanted.
    """
    check(frames)
    first = frames[reference]
    maps = []
    for index, frame in enumerate(frames):
        if not wanted():
            raise Dropped("the merge was cancelled")
        maps.append(np.eye(2, 3) if index == reference else align(first, frame))
        progress(0.6 * (index + 1) / (len(frames) + 1))
    height, width = first.light.shape[:2]
    # a value of the reference that every frame's own value is brought to
    gains = [first.exposure / f.exposure * f.scale / first.scale for f in frames]
    shortest = int(np.argmax(gains))
    most = gains[shortest]
    out = np.empty((height, width, 3), np.uint16)
    moved = 0
    for top in range(0, height, ROWS):
        if not wanted():
            raise Dropped("the merge was cancelled")
        rows = slice(top, min(top + ROWS, height))
        total = np.zeros((rows.stop - top, width, 3), np.float32)
        weights = np.zeros((rows.stop - top, width, 1), np.float32)
        taken = [
            _rows(frame, found, rows, width) for frame, found in zip(frames, maps, strict=True)
        ]
        own = taken[reference] * np.float32(gains[reference])
        own_clear = _clear(taken[reference], first)
        for index, part in enumerate(taken):
            value = part * np.float32(gains[index])
            clear = _clear(part, frames[index])
            weight = clear * np.float32(frames[index].exposure)
            if index != reference and ghosts > 0.0:
                agrees = _agreement(own, value, own_clear, clear, ghosts)
                moved += int(np.count_nonzero(agrees < 0.5))
                weight = weight * agrees
            total += weight * value
            weights += weight
        # where every frame is clipped, what the shortest exposure says stands
        fallback = taken[shortest] * np.float32(gains[shortest])
        merged = np.where(weights > 1e-4, total / np.maximum(weights, 1e-4), fallback)
        out[rows] = np.clip(merged / np.float32(most) + 0.5, 0, FULL).astype(np.uint16)
        progress(0.6 + 0.4 * rows.stop / height)
    others = max(len(frames) - 1, 1)
    return Merged(
        out, first.scale * most, maps, frames[shortest].limits, moved / (height * width * others)
    )


class Ghosts:
    """Where something moved in a bracket, to be looked at before it is merged: frames are aligned
    once, the strictness may change. Meant for frames at a reduced size."""

    def __init__(self, frames: Sequence[BracketFrame], reference: int) -> None:
        check(frames)
        first = frames[reference]
        height, width = first.light.shape[:2]
        whole = slice(0, height)
        gains = [first.exposure / f.exposure * f.scale / first.scale for f in frames]
        taken = [
            _rows(f, np.eye(2, 3) if f is first else align(first, f), whole, width) for f in frames
        ]
        self._own, self._own_clear = taken[reference], _clear(taken[reference], first)
        self._others = [
            (part * np.float32(gain), _clear(part, frame))
            for index, (part, gain, frame) in enumerate(zip(taken, gains, frames, strict=True))
            if index != reference
        ]
        self.light = first.light

    def where(self, ghosts: float) -> F32:
        """(H, W) how much is taken from the reference alone, 0 to 1."""
        if ghosts <= 0.0:
            return np.zeros(self._own.shape[:2], np.float32)
        alone = [
            1.0 - _agreement(self._own, value, self._own_clear, clear, ghosts)
            for value, clear in self._others
        ]
        return np.asarray(np.max(alone, axis=0)[..., 0], np.float32)


def _rows(frame: BracketFrame, found: Floats, rows: slice, width: int) -> F32:
    """Light of a frame at rows of the reference, (rows, width, 3) float codes."""
    if np.allclose(found, np.eye(2, 3)):
        return frame.light[rows].astype(np.float32)
    y, x = np.mgrid[rows, 0:width].astype(np.float64)
    maps = [(r[0] * x + r[1] * y + r[2]).astype(np.float32) for r in found]
    taken = cv2.remap(
        frame.light, maps[0], maps[1], cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE
    )
    return np.asarray(taken, np.float32)


def _clear(codes: F32, frame: BracketFrame) -> F32:
    """(H, W, 1) 1 where no channel is near clipping, falling to 0 where one is clipped."""
    most = (codes / np.array(frame.limits, np.float32)).max(axis=2, keepdims=True)
    return np.asarray(np.clip((CLIP_AT - most) / (CLIP_AT - CLIP_FROM), 0.0, 1.0), np.float32)


def _agreement(own: F32, value: F32, own_clear: F32, clear: F32, ghosts: float) -> F32:
    """(H, W, 1) 1 where a frame shows what the reference shows, falling to 0 where it does not.
    Where one of them is clipped or dark nothing can be said."""
    first = cv2.blur(own.sum(axis=2), (5, 5))
    second = cv2.blur(value.sum(axis=2), (5, 5))
    apart = np.abs(np.log2((first + 8.0) / (second + 8.0)))
    noise = 3.0 / np.sqrt(np.maximum(np.minimum(first, second), 1.0))  # darker is noisier
    limit = np.float32(GHOST_STOPS / max(ghosts, 0.05)) + noise
    agrees = np.clip(2.0 - apart / limit, 0.0, 1.0)[..., None]
    known = (own_clear > 0.5) & (clear > 0.05) & (first[..., None] > 3 * 120)
    return np.where(known, agrees, 1.0).astype(np.float32)
