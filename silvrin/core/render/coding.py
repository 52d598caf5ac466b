"""Light as the stations want it."""

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..picture import U16
from ..spectra.chromaticity import SIZE

F32 = NDArray[np.float32]


def code(light: U16, scale: float, gains: tuple[float, float, float] = (1.0, 1.0, 1.0)) -> F32:
    """Linear light (H, W, 3), times the gains of its white balance, as chromaticity cells and log2
    of the sum, for `Conversion.expose`."""
    out = np.empty(light.shape, np.float32)
    kernels.by_rows(
        kernels.code_colour,
        len(light),
        np.ascontiguousarray(light),
        *np.array([*gains, scale, SIZE - 1], np.float32),
        out,
    )
    return out
