"""Edges of the picture as a negative carrier prints them: filed by hand, or with the film's
rebate. Both are drawn by rules of our own, the same at any size."""

from functools import lru_cache

import numpy as np
import scipy  # its parts are read when they are asked for
from numpy.typing import NDArray

from .layout import Layout, Rect

F32 = NDArray[np.float32]
Floats = NDArray[np.float64]
STEP = 0.1  # mm along the edge
SCALES = ((20.0, 0.6), (5.0, 0.32), (0.7, 0.08))  # mm, share: how a file wanders
LEAST, MOST = 0.45, 1.0  # of the edge's width, that a filed one keeps


@lru_cache(maxsize=8)
def filed_line(length: int, seed: int) -> Floats:
    """How wide a filed edge is along its way round, of `length` steps: 0 to 1. It closes."""
    rng = np.random.default_rng(seed)
    line = np.zeros(length)
    for scale, share in SCALES:
        noise = scipy.ndimage.gaussian_filter1d(
            rng.standard_normal(length), scale / STEP / 2.0, mode="wrap"
        )
        line += share * noise / max(float(noise.std()), 1e-9)
    return 0.5 + 0.5 * np.tanh(0.8 * line)


def filed(lay: Layout, part: Rect, width_mm: float, seed: int) -> F32:
    """Coverage 0 to 1 of a filed edge over a part of the block."""
    picture, pitch = lay.picture, lay.pitch
    x = np.arange(part.left, part.right, dtype=np.float64)[None, :] + 0.5
    y = np.arange(part.top, part.bottom, dtype=np.float64)[:, None] + 0.5
    dx = np.maximum(np.maximum(picture.left - x, x - picture.right), 0.0)
    dy = np.maximum(np.maximum(picture.top - y, y - picture.bottom), 0.0)
    away = np.hypot(dx, dy)
    # the way round, clockwise from the upper left corner, in mm
    wide, tall = picture.width / pitch, picture.height / pitch
    across = np.clip((x - picture.left) / pitch, 0.0, wide)
    down = np.clip((y - picture.top) / pitch, 0.0, tall)
    above, right, below = y < picture.top, x >= picture.right, y >= picture.bottom
    along = np.where(
        above,
        across,
        np.where(right, wide + down, np.where(below, 2 * wide + tall - across,
                                             2 * (wide + tall) - down)),
    )  # fmt: skip
    line = filed_line(max(8, round(2 * (wide + tall) / STEP)), seed)
    at = along / (2 * (wide + tall)) * len(line)
    width = np.interp(at, np.arange(len(line) + 1), np.append(line, line[0]))
    reach = (LEAST + (MOST - LEAST) * width) * width_mm * pitch
    return np.asarray(np.clip(reach - away + 0.5, 0.0, 1.0), np.float32)


def rounded(rect: Rect, part: Rect, radius: float) -> F32:
    """Coverage 0 to 1 of a rectangle with round corners over a part of it."""
    x = np.arange(part.left - rect.left, part.right - rect.left, dtype=np.float32)[None, :] + 0.5
    y = np.arange(part.top - rect.top, part.bottom - rect.top, dtype=np.float32)[:, None] + 0.5
    dx = np.maximum(np.maximum(radius - x, x - (rect.width - radius)), 0.0)
    dy = np.maximum(np.maximum(radius - y, y - (rect.height - radius)), 0.0)
    return np.asarray(np.clip(radius - np.hypot(dx, dy) + 0.5, 0.0, 1.0), np.float32)
