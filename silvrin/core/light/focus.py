"""Selective focus and soft focus, sized in parts of the long side."""

import cv2
import numpy as np
from numpy.typing import NDArray

from ..colour import smooth_step
from .settings import LightSettings

F32 = NDArray[np.float32]

GLOW_FROM = 4.0  # exposure of Zone VII: what glows where only highlights do


def out_of_focus(settings: LightSettings, width: int, height: int) -> F32:
    """(height, width) 0 where the focus lies to 1 where it is wholly out of it."""
    long = max(width, height)
    y, x = np.mgrid[0:height, 0:width] + 0.5
    x, y = (x - settings.focus_x * width) / long, (y - settings.focus_y * height) / long
    turn = np.radians(settings.focus_angle)
    along, across = x * np.cos(turn) + y * np.sin(turn), y * np.cos(turn) - x * np.sin(turn)
    if settings.focus_shape == "band":
        away = np.abs(across)
    else:
        away = np.hypot(along, across / settings.focus_aspect)
    past = (away - settings.focus_size) / settings.focus_transition
    return smooth_step(past).astype(np.float32)


def blurred(exposure: F32, sigma: float) -> F32:
    """Exposure (H, W) blurred by a Gaussian of so many pixels; wide ones on a reduced map."""
    by = 1 if sigma < 2.0 else int(sigma // 1.5)
    if by == 1:
        return np.asarray(
            cv2.GaussianBlur(exposure, (0, 0), sigma, borderType=cv2.BORDER_REFLECT_101),
            np.float32,
        )
    height, width = exposure.shape
    size = (max(1, round(width / by)), max(1, round(height / by)))
    small = cv2.resize(exposure, size, interpolation=cv2.INTER_AREA)
    small = cv2.GaussianBlur(small, (0, 0), sigma / by, borderType=cv2.BORDER_REFLECT_101)
    return np.asarray(
        cv2.resize(small, (width, height), interpolation=cv2.INTER_LINEAR), np.float32
    )


def defocused(exposure: F32, amount: F32, most: float) -> tuple[F32, F32]:
    """What selective focus makes of an exposure (H, W): the share of each place's own light that
    stays sharp, and the light that is added to it. `most` is the blur in pixels where amount is 1.
    """
    blur = amount * np.float32(most)
    sharp = np.maximum(1.0 - blur, 0.0).astype(np.float32)
    sigmas = [1.0]
    while sigmas[-1] < most:
        sigmas.append(sigmas[-1] * 2.0)
    place = np.log2(np.maximum(blur, 1.0))
    added = np.zeros_like(exposure)
    for k, sigma in enumerate(sigmas):
        weight = np.maximum(1.0 - np.abs(place - k), 0.0)
        if weight.any():
            added += weight * blurred(exposure, min(sigma, most))
    return sharp, np.asarray((1.0 - sharp) * added, np.float32)
