"""The chromaticity table: for one light, filter and stock, how colour becomes exposure.

Exposure divided by r + g + b depends on chromaticity alone (see `recovery`), so the whole
of "colour becomes grey" is a square table over (r, g) / (r + g + b), looked up once a pixel.
"""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..light.lens_filter import filter_factor
from .grid import Spectrum
from .recovery import recover

SIZE = 65


@lru_cache(maxsize=1)
def grid_spectra() -> NDArray[np.float64]:
    """(65 * 65, 53): the spectrum of every table entry, for r + g + b = 3 (a white's sum).

    Entries beyond the line r + g = 1 take the nearest colour on it.
    """
    axis = np.linspace(0.0, 1.0, SIZE)
    green, red = np.meshgrid(axis, axis, indexing="ij")
    beyond = np.maximum(red + green - 1.0, 0.0) / 2.0
    red, green = np.clip(red - beyond, 0.0, 1.0), np.clip(green - beyond, 0.0, 1.0)
    rgb = np.stack([red, green, 1.0 - red - green], axis=-1).reshape(-1, 3)
    colours, place = np.unique(np.maximum(rgb, 0.0).round(9), axis=0, return_inverse=True)
    return np.asarray(recover(3.0 * colours)[place.ravel()])


def chromaticity_table(
    light: Spectrum, transmittance: Spectrum, sensitivity: Spectrum, compensate: bool
) -> NDArray[np.float32]:
    """(65, 65) log2 of H per (r + g + b); rows are green, columns red.

    H = sum L T S R / sum L S, times the filter factor sum L S / sum L T S if `compensate`,
    so that an unfiltered (or compensated) white of r = g = b = 1 gives H = 1.
    """
    seen = light * sensitivity / (light @ sensitivity)
    factor = filter_factor(light, transmittance, sensitivity) if compensate else 1.0
    exposure = grid_spectra() @ (seen * transmittance * factor) / 3.0
    table = np.log2(np.maximum(exposure, 2.0**-30)).reshape(SIZE, SIZE)
    return np.asarray(table, dtype=np.float32)
