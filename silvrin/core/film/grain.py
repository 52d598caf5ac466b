"""Grain: fluctuation of density in the negative, sized in micrometres on the film.

Density fluctuates about its mean as a Gaussian field. Its strength follows from the stock's rms
granularity (1000 times the standard deviation at density 1.0 above base through a circular
aperture of 48 µm: ISO 10505), by Selwyn's law (1935): standard deviation times the root of the
aperture's area is constant. It grows as the root of the density (Nutting 1913: density is the
number of grains times their area; numbers fluctuate as their root).

The field is one tile of noise at the capture's own pixels, laid edge to edge and fixed by a seed.
A smaller view takes the tile averaged over the areas its pixels cover, so that a preview has the
grain of the reduced print.
"""

from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from ..recipe import FilmFormat

F32 = NDArray[np.float32]

APERTURE = 48.0  # µm, diameter
SIDE = 2048  # pixels of the tile
SMALLEST = 64  # side to which it is reduced at most
SEED = 1839

# Long side of the picture area, mm: ISO 1007 and trade sizes, from memory
FORMATS: dict[FilmFormat, float] = {
    "half frame": 24.0,
    "35 mm": 36.0,
    "6 × 6 cm": 56.0,
    "6 × 7 cm": 70.0,
    "4 × 5 in": 121.0,
    "8 × 10 in": 244.0,
}


def strength(granularity: float, grain: float, pitch: float) -> float:
    """Standard deviation of density at 1.0 above base over square pixels of this pitch, µm, of
    the white noise that reads as this rms granularity once grains of that spread, µm, blur it.

    What the blur takes from a reading through the aperture is found to the first order in their
    ratio, from the overlap of two discs.
    """
    white = granularity / 1000.0 * np.sqrt(np.pi / 4.0) * APERTURE / pitch
    left = 1.0 - 4.0 * grain / (np.sqrt(np.pi) * APERTURE)
    return float(white / np.sqrt(left))


@lru_cache(maxsize=1)
def _white() -> F32:
    return np.random.default_rng(SEED).standard_normal((SIDE, SIDE), np.float32)


@lru_cache(maxsize=4)  # up to 16 MB each
def tile(spread: float, reduction: float) -> F32:
    """(n, n) noise of mean power 1 a pixel at full size, blurred by grains of that spread
    (standard deviation in full-size pixels), averaged over reduction × reduction pixels."""
    noise = _white()
    if spread > 0.2:
        edge = int(np.ceil(4 * spread)) + 1
        around = np.pad(noise, edge, mode="wrap")
        soft = cv2.GaussianBlur(around, (0, 0), spread)
        noise = np.asarray(soft[edge:-edge, edge:-edge], np.float32)
    side = max(SMALLEST, int(SIDE / reduction))
    if side < SIDE:
        covered = min(SIDE, round(side * reduction))
        part = noise[:covered, :covered]
        noise = np.asarray(cv2.resize(part, (side, side), interpolation=cv2.INTER_AREA))
    return np.ascontiguousarray(noise)
