"""The wavelength grid every spectrum of Silvrin lives on: 380-900 nm in steps of 10 nm."""

import numpy as np
from numpy.typing import NDArray

FIRST, LAST, STEP = 380, 900, 10
WAVELENGTHS: NDArray[np.float64] = np.arange(FIRST, LAST + 1, STEP, dtype=np.float64)

Spectrum = NDArray[np.float64]  # (53,)


def extend(values: NDArray[np.float64] | list[float]) -> Spectrum:
    """A table that starts at 380 nm in steps of 10 nm, its last value held up to 900 nm."""
    table = np.asarray(values, dtype=np.float64)
    return np.concatenate([table, np.full(len(WAVELENGTHS) - len(table), table[-1])])
