"""Noise of a capture: measured, and smoothed away in light and in colour.

Light is brought to a scale on which its noise is even everywhere (generalised Anscombe transform:
Starck, Murtagh, Bijaoui 1998), split into the mean of the channels and two differences of colour,
and each of these into scales (isotropic undecimated wavelets with the B3 spline: Starck, Fadili,
Murtagh 2007). What of a scale is not larger than the noise measured there is taken away (firm
shrinkage by the non-negative garrote: Gao 1998). A view that is reduced begins with the scale its
pixels have, so it shows what the full size will.
"""

import threading
import weakref
from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..picture import U16, LinearPicture

F32 = NDArray[np.float32]

LIGHT_SCALES, COLOUR_SCALES = 4, 6  # octaves from the capture's own pixels on
LIGHT_TIMES, COLOUR_TIMES = 3.5, 6.0  # × the noise that a full setting takes away
TILES, SIDE = 4, 192  # places at which noise is measured, and their size
MAD = 1.4826  # median absolute deviation to standard deviation, of normal noise
QUIET = 20.0  # percentile of the blocks that show noise and nothing else
BLOCK = 16
FRINGE = 3.0  # pixels of the capture that a rim is wide


@dataclass(frozen=True)
class NoiseProfile:
    """Noise of a capture: its variance in codes is `floor` + `slope` × code, for red, green, blue;
    and what is left of it after the transform, in every octave of the mean and the two differences
    (3, octaves), from the capture's own pixels on."""

    floor: tuple[float, float, float]
    slope: tuple[float, float, float]
    octaves: F32


_profiles: "weakref.WeakKeyDictionary[LinearPicture, NoiseProfile]" = weakref.WeakKeyDictionary()
_lock = threading.Lock()


def noise_profile(capture: LinearPicture) -> NoiseProfile:
    """The noise of a capture, measured once."""
    with _lock:
        found = _profiles.get(capture)
    if found is None:
        found = _measured(capture)
        with _lock:
            _profiles[capture] = found
    return found


def _tiles(level: U16) -> list[U16]:
    height, width = level.shape[:2]
    side = min(SIDE, height, width)
    return [
        np.ascontiguousarray(level[top : top + side, left : left + side])
        for top in {(height - side) * i // max(TILES - 1, 1) for i in range(TILES)}
        for left in {(width - side) * i // max(TILES - 1, 1) for i in range(TILES)}
    ]


def _measured(capture: LinearPicture) -> NoiseProfile:
    full = capture.level_for(1.0)
    floors, slopes = [], []
    tiles = _tiles(full)
    for channel in range(3):
        floor, slope = _variance([t[..., channel].astype(np.float32) for t in tiles])
        floors.append(floor)
        slopes.append(slope)
    floor3, slope3 = (floors[0], floors[1], floors[2]), (slopes[0], slopes[1], slopes[2])
    blank = NoiseProfile(floor3, slope3, np.zeros((3, COLOUR_SCALES), np.float32))
    found: list[list[list[float]]] = [[[] for _ in range(COLOUR_SCALES)] for _ in range(3)]
    for tile in tiles:
        for plane, values in enumerate(_planes(tile, blank)):
            rest = values
            for octave in range(COLOUR_SCALES):
                smooth = _smoothed(rest, octave)
                found[plane][octave] += _quiet_blocks(rest - smooth, max(BLOCK, 2 << octave))
                rest = smooth
    octaves = [[float(np.percentile(values, QUIET)) for values in plane] for plane in found]
    return NoiseProfile(floor3, slope3, np.array(octaves, np.float32))


def _variance(tiles: list[F32]) -> tuple[float, float]:
    """Floor and slope of the variance over the code, by second differences in quiet blocks."""
    levels, variances = [], []
    for tile in tiles:
        rough = tile[:, 1:-1] - 0.5 * (tile[:, :-2] + tile[:, 2:])
        height, width = rough.shape[0] // BLOCK * BLOCK, rough.shape[1] // BLOCK * BLOCK
        if not height or not width:
            continue

        def blocks(v: F32, h: int = height, w: int = width) -> F32:
            parts = v[:h, :w].reshape(h // BLOCK, BLOCK, w // BLOCK, BLOCK)
            return np.asarray(parts.transpose(0, 2, 1, 3).reshape(-1, BLOCK * BLOCK))

        levels.append(np.median(blocks(tile[:, 1:-1]), axis=1))
        variances.append((MAD * np.median(np.abs(blocks(rough)), axis=1)) ** 2 / 1.5)
    if not levels:
        return 1.0, 0.0
    level, variance = np.concatenate(levels), np.concatenate(variances)
    edges = np.quantile(level, np.linspace(0, 1, 9))
    known, least = [], []
    for low, high in pairwise(edges):
        here = (level >= low) & (level <= high)
        if here.sum() >= 8:
            known.append(float(np.median(level[here])))
            least.append(float(np.percentile(variance[here], QUIET)))
    if len(known) < 2 or known[-1] - known[0] < 1.0:
        return max(1.0, float(np.percentile(variance, QUIET))), 0.0
    # relative errors count: dark and bright parts matter alike
    weight = 1.0 / (np.array(least) + 1.0)
    parts = np.stack([np.ones(len(known)), np.array(known)], axis=1) * weight[:, None]
    floor, slope = np.linalg.lstsq(parts, np.array(least) * weight, rcond=None)[0]
    return max(1.0, float(floor)), max(0.0, float(slope))


def _quiet_blocks(detail: F32, block: int) -> list[float]:
    """Deviation of a detail in every block."""
    height, width = detail.shape[0] // block * block, detail.shape[1] // block * block
    if not height or not width:
        return [0.0]
    parts = np.abs(detail[:height, :width]).reshape(height // block, block, width // block, block)
    return [float(v) for v in (MAD * np.median(parts, axis=(1, 3))).ravel()]


def _curve(profile: NoiseProfile) -> F32:
    """(3, 65536) what codes become so that their noise is 1 everywhere."""
    codes = np.arange(65536, dtype=np.float64)
    rows = []
    for floor, slope in zip(profile.floor, profile.slope, strict=True):
        if slope < 1e-6:
            rows.append(codes / np.sqrt(floor))
        else:
            rows.append(2.0 / slope * np.sqrt(slope * codes + 0.375 * slope**2 + floor))
    return np.array(rows, np.float32)


def _planes(light: U16, profile: NoiseProfile) -> list[F32]:
    """Mean, red less green, and blue less green, each (H, W), on the scale of even noise."""
    curve = _curve(profile)
    red, green, blue = (curve[c][light[..., c]] for c in range(3))
    return [0.25 * red + 0.5 * green + 0.25 * blue, red - green, blue - green]


def _smoothed(plane: F32, octave: int) -> F32:
    """A plane through the B3 spline with holes of an octave."""
    step = 1 << octave
    out = np.empty_like(plane)
    rows = np.empty_like(plane)
    plane = np.ascontiguousarray(plane)
    kernels.by_rows(kernels.spline_across, len(plane), plane, step, rows)
    kernels.by_rows(kernels.spline_down, len(plane), rows, step, out)
    return out


def quieted(
    light: U16, profile: NoiseProfile, pitch: float, in_light: float, in_colour: float
) -> U16:
    """Light (H, W, 3) with its noise smoothed; `pitch` is how many of the capture's pixels
    one of its own spans, `in_light` and `in_colour` are from 0 to 1."""
    curve = _curve(profile)
    planes = _planes(light, profile)
    begins = float(np.log2(max(pitch, 1.0)))
    for plane, scales, times in (
        (0, LIGHT_SCALES, LIGHT_TIMES * in_light),
        (1, COLOUR_SCALES, COLOUR_TIMES * in_colour),
        (2, COLOUR_SCALES, COLOUR_TIMES * in_colour),
    ):
        if times <= 0.0:
            continue
        rest = np.ascontiguousarray(planes[plane])
        kept = np.zeros_like(rest)
        for octave in range(scales):
            if octave + begins > scales - 1 + 0.5:
                break
            smooth = _smoothed(rest, octave)
            at = np.arange(COLOUR_SCALES)
            # averaged as it is reduced, noise is what the octave of the capture itself has
            noise = float(np.interp(octave + begins, at, profile.octaves[plane]))
            threshold = np.float32(times * noise)
            kernels.by_rows(kernels.shrink, len(rest), rest, smooth, threshold, kept)
            rest = smooth
        planes[plane] = kept + rest
    mean, red, blue = planes
    green = mean - 0.25 * (red + blue)
    out = np.empty_like(light)
    for channel, values in enumerate((red + green, green, blue + green)):
        out[..., channel] = _back(values, profile, channel, curve)
    return out


def _back(values: F32, profile: NoiseProfile, channel: int, curve: F32) -> NDArray[np.uint16]:
    floor, slope = profile.floor[channel], profile.slope[channel]
    if slope < 1e-6:
        codes = values * np.float32(np.sqrt(floor))
    else:
        half = np.maximum(values, curve[channel][0]) * np.float32(slope / 2.0)
        codes = (half * half - np.float32(0.375 * slope**2 + floor)) / np.float32(slope)
    return np.asarray(np.clip(codes + np.float32(0.5), 0, 65535).astype(np.uint16))


def reach(pitch: float) -> int:
    """How far, in pixels of a view, its smoothing looks."""
    octaves = max(1, int(np.ceil(COLOUR_SCALES - np.log2(max(pitch, 1.0)))))
    return int(2 * ((1 << octaves) - 1))


def defringed(light: U16, amount: float, pitch: float) -> U16:
    """Light (H, W, 3) without purple and green rims at strong edges: there, what of the two colours
    is more than beside the edge is taken from red and blue, or from green."""
    roots = np.sqrt(light.astype(np.float32))
    red, green, blue = (np.ascontiguousarray(roots[..., c]) for c in range(3))
    mean = 0.25 * red + 0.5 * green + 0.25 * blue
    width = max(1.0, FRINGE / pitch)
    side = 2 * int(np.ceil(width)) + 1
    kernel = np.ones((side, side), np.uint8)
    rise = cv2.dilate(mean, kernel) / np.maximum(cv2.erode(mean, kernel), 1.0)
    edge: F32 = np.clip((rise - 1.35) / 0.5, 0.0, 1.0)  # roots of light: from 0.9 stops on
    edge = np.asarray(cv2.GaussianBlur(edge, (0, 0), width), np.float32)
    one, other = (red - green) / mean.clip(1.0), (blue - green) / mean.clip(1.0)
    purple = np.clip(np.minimum(one, other), 0.0, None)
    leafy = np.clip(-np.maximum(one, other), 0.0, None)
    beside = 1.0 - edge
    weight = cv2.GaussianBlur(beside, (0, 0), 4 * width) + np.float32(1e-3)
    for colour, sign in ((purple, 1.0), (leafy, -1.0)):
        around = cv2.GaussianBlur(colour * beside, (0, 0), 4 * width) / weight
        excess = np.clip(colour - around, 0.0, None) * edge * np.float32(amount)
        one, other = one - np.float32(sign) * excess, other - np.float32(sign) * excess
    green = mean * (1.0 - 0.25 * (one + other))
    back = np.stack([green + one * mean, green, green + other * mean], axis=-1)
    return np.asarray(np.clip(back * back + np.float32(0.5), 0, 65535).astype(np.uint16))
