"""Figures for choosing between frames: sharpness by region, clipping and headroom by channel."""

from dataclasses import dataclass

import cv2
import numpy as np

from ..picture import U16

MOST = 2000  # pixels a side of a region that sharpness is read from


@dataclass(frozen=True)
class Figures:
    """Of a region of a capture; red, green and blue."""

    sharpness: float  # hundredths of a stop: deviation of the Laplacian of log light
    clipped: tuple[float, float, float]  # share at the limit
    headroom: tuple[float, float, float]  # stops from its brightest thousandth to the limit


def figures(light: U16, limits: tuple[float, float, float]) -> Figures:
    """Figures of linear light (H, W, 3), of which channels are clipped from `limits` on.

    Sharpness is the deviation of the Laplacian (Pech-Pacheco 2000) of log2 of green, so that
    neither exposure nor contrast of the light counts for it; compare it between frames of one
    subject only.
    """
    height, width = light.shape[:2]
    top, left = max(0, (height - MOST) // 2), max(0, (width - MOST) // 2)
    part = light[top : top + MOST, left : left + MOST, 1].astype(np.float32)
    log = np.log2(part + np.float32(64.0))
    edges = cv2.Laplacian(cv2.GaussianBlur(log, (0, 0), 0.7), cv2.CV_32F)
    step = max(1, int(np.sqrt(height * width / 1e6)))
    sample = light[::step, ::step].reshape(-1, 3)
    bright = np.maximum(np.percentile(sample, 99.9, axis=0), 1.0)
    clipped = (sample >= np.array(limits)).mean(axis=0)
    headroom = np.maximum(np.log2(np.array(limits) / bright), 0.0)
    return Figures(
        float(100.0 * edges.std()),
        (float(clipped[0]), float(clipped[1]), float(clipped[2])),
        (float(headroom[0]), float(headroom[1]), float(headroom[2])),
    )
