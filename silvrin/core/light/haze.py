"""Haze: the veil that air lays over what is far, found in the picture and taken off or added.

Somewhere in every clear part of a picture one channel is nearly dark; where none is, air has put
light there (dark channel prior: He, Sun, Tang 2009). Light that reaches the film is then
J · t + A · (1 - t): J without air, A the light of the air, t what the air lets through.
A white thing that fills its surroundings is taken for haze as well.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ..guided import guided

F32 = NDArray[np.float32]
Floats = NDArray[np.floating]

PATCH = 0.012  # of the long side, within which one channel of something is dark
MOST_TAKEN = 0.92  # of the veil
MOST_ADDED = 0.85
EVEN_VEIL = 0.06  # share of added haze that lies over near things too


@dataclass(frozen=True)
class Veil:
    """How much of the light is the air's, as maps: veil = a · log2 sum + b, 0 to 1; and the colour
    of that air, linear (3,)."""

    a: F32
    b: F32
    air: NDArray[np.float64]


def find_veil(light: F32, guide: F32) -> Veil:
    """The veil over linear light (H, W, 3), its maps guided by log2 of the light's sum (H, W)."""
    side = max(3, round(PATCH * max(guide.shape)) | 1)
    kernel = np.ones((side, side), np.uint8)
    darkest = cv2.erode(light.min(axis=2), kernel)
    far = darkest >= np.quantile(darkest, 0.998)
    air = np.maximum(light[far].mean(axis=0).astype(np.float64), 1e-5)
    veil = cv2.erode((light / air.astype(np.float32)).min(axis=2), kernel)
    veil = np.clip(np.asarray(veil, np.float32), 0.0, 1.0)
    a, b, _ = guided(guide, np.asarray(veil, np.float32), 3 * side, 0.1, by=2)
    return Veil(a, b, air)


def lines_of_transmission(haze: Floats) -> tuple[Floats, Floats]:
    """(c0, c1): what the air lets through is c0 + c1 · veil, of haze -1 to 1."""
    taken, laid = np.minimum(haze, 0.0), np.maximum(haze, 0.0)
    c0 = 1.0 - MOST_ADDED * EVEN_VEIL * laid
    return c0, MOST_TAKEN * taken - MOST_ADDED * (1.0 - EVEN_VEIL) * laid
