"""The guided filter as maps: what is smooth about a picture, without crossing its edges.

He, Sun, Tang 2010: within a window a signal is taken as a line a · guide + b through the guide;
where the guide has an edge a nears 1 and the edge stays, where it is even a nears 0 and the mean
is left. Windows are averaged. The maps a and b are smooth, so they are made at a reduced size and
used at any (He, Sun 2015).
"""

import cv2
import numpy as np
from numpy.typing import NDArray

from . import kernels

F32 = NDArray[np.float32]


def box_mean(values: F32, radius: int) -> F32:
    """Mean over a square of 2 · radius + 1, reflected at the borders."""
    side = 2 * radius + 1
    return np.asarray(cv2.blur(values, (side, side), borderType=cv2.BORDER_REFLECT_101), np.float32)


def shrunk(values: F32, by: int) -> F32:
    """A map (H, W) at a size so many times smaller, at least 8 pixels a side where it has them."""
    height, width = values.shape[:2]
    size = (max(min(width, 8), width // by), max(min(height, 8), height // by))
    return np.asarray(cv2.resize(values, size, interpolation=cv2.INTER_AREA), np.float32)


def grown(values: F32, like: F32) -> F32:
    """A map at the size of another."""
    size = (like.shape[1], like.shape[0])
    return np.asarray(cv2.resize(values, size, interpolation=cv2.INTER_LINEAR), np.float32)


def guided(
    guide: F32, signal: F32, radius: int, epsilon: float, by: int = 1, steep: bool = False
) -> tuple[F32, F32, F32]:
    """Maps a and b (H, W) that give the smooth signal as a · guide + b, and the variance of the
    guide in the windows; differences well below the root of epsilon count as even.

    `by` makes them at a size so many times smaller. `steep` tells even from edges more sharply
    where the guide is its own signal: a is v² / (v² + epsilon²) and not v / (v + epsilon).
    """
    small = shrunk(guide, by) if by > 1 else guide
    within = max(1, round(radius / by))
    mean, square = box_mean(small, within), box_mean(small * small, within)
    a, b = np.empty_like(mean), np.empty_like(mean)
    kernels.part_smooth(0, len(mean), mean, square, np.float32(epsilon), steep, a, b)
    if signal is not guide:
        other = shrunk(signal, by) if by > 1 else signal
        level = box_mean(other, within)
        a = (box_mean(small * other, within) - mean * level) / (square + np.float32(epsilon))
        b = level - a * mean
    maps = box_mean(a, within), box_mean(b, within), square
    if by > 1:
        return grown(maps[0], guide), grown(maps[1], guide), grown(maps[2], guide)
    return maps
