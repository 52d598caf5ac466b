"""Broad local contrast: how far a place stands out of its wide surroundings.

Of these, only what is of about the same tone counts, so that nothing reaches across a strong edge
and no ring forms beside it. That is a bilateral mean; it is kept as a grid over place and tone
(Chen, Paris, Durand 2007), from which every place takes what belongs to the tone that is smooth
about it, as the line between the least and the greatest tone close by: at an edge both its sides
get what is theirs.
"""

from functools import partial

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..guided import box_mean

F32 = NDArray[np.float32]

STEP = np.float32(2.0 / 3.0)  # stops between levels of the grid
LEVELS = (-10.0 + STEP * np.arange(28)).astype(np.float32)  # log2 H
ALIKE = 0.7  # stops: standard deviation of what counts as of about the same tone
SIZE = 48  # long side of the grid
AROUND = 0.12  # reach of the surroundings, of the long side
EDGE = 0.7  # stops between neighbours from which a pixel is taken to lie on an edge
LEAST_SPAN = 0.2  # stops between the two tones that a line is laid through
BESIDE = np.ones((3, 3), np.uint8)
FEW = 1e-3  # share of like tones below which nothing stands out


def _spread(length: int, longest: int) -> NDArray[np.intp]:
    """Pixels of a side that stand for the cells of the grid: the middle ones."""
    count = max(min(length, 8), round(length * min(1.0, SIZE / longest)))
    return np.asarray((np.arange(count) + 0.5) * length / count, np.intp)


def broad_lines(grid: F32, level: F32) -> tuple[F32, F32]:
    """Maps (H, W) r and s: by r · level + s stops a place is to be raised, of what is smooth about
    it (H, W), log2 H."""
    low, high = cv2.erode(level, BESIDE), cv2.dilate(level, BESIDE)
    more = np.maximum(np.float32(0.5 * LEAST_SPAN) - 0.5 * (high - low), 0.0)
    low, high = low - more, high + more
    at_low, at_high = kernels.at_once(
        *(partial(kernels.by_place_and_level, grid, (v - LEVELS[0]) / STEP) for v in (low, high))
    )
    rise = (at_high - at_low) / (high - low)
    return rise, at_low - rise * low


def broad_grid(exposure: F32, strength: F32, threshold: float) -> F32:
    """(h, w, 28) stops by which a place is to be raised at each level, of an exposure in log2 H
    (H, W); `strength` is that of the levels (28,). Differences below `threshold` are left."""
    # single pixels, not means of several: a tone that lies on both sides of an edge is on neither
    rows, columns = (_spread(length, max(exposure.shape)) for length in exposure.shape)
    edges = cv2.dilate(exposure, BESIDE) - cv2.erode(exposure, BESIDE)
    small, edge = (v[np.ix_(rows, columns)][..., None] for v in (exposure, edges))
    weight = np.exp(-0.5 * ((small - LEVELS) / np.float32(ALIKE)) ** 2)
    weight /= 1.0 + (edge / np.float32(EDGE)) ** 4
    radius = max(1, round(AROUND * max(small.shape) / np.sqrt(2.0)))
    # two boxes in a row, as wide as one of that reach
    amount, sums, squares = (
        box_mean(box_mean(s, radius), radius)
        for s in (weight, weight * small, weight * small * small)
    )
    around = (sums + FEW * LEVELS) / (amount + FEW)
    variance = np.maximum((squares + FEW * LEVELS**2) / (amount + FEW) - around**2, 0.0)
    seen = variance / (variance + np.float32(threshold**2 + 1e-8))
    return np.ascontiguousarray(seen * (LEVELS - around) * strength)
