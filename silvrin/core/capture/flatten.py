"""Flattening before the film: shadows opened and highlights reined in, without crossing edges."""

import numpy as np
from numpy.typing import NDArray

from ..guided import guided
from ..recipe import CaptureSettings

F32 = NDArray[np.float32]

RADIUS, EDGE = 0.02, 0.5  # of the long side; stops
ZONES = np.linspace(-3.0, 13.0, 2049)


def is_plain(settings: CaptureSettings) -> bool:
    """Whether nothing of it is asked for."""
    return not (settings.open_shadows or settings.rein_highlights)


def smooth_maps(exposure: F32) -> F32:
    """(2, H, W) maps a, b: what is smooth about an exposure in log2 H (H, W) is a · h + b."""
    radius = max(1, round(RADIUS * max(exposure.shape)))
    return np.stack(guided(exposure, exposure, radius, EDGE**2, 2)[:2])


def flattening(settings: CaptureSettings) -> F32:
    """(2049,) stops given to Zones -3 to 13, so that they keep their order: what is opened is full
    at Zone I and gone at VI, what is reined in begins at V and is full at X."""

    def step(start: float, stop: float) -> NDArray[np.float64]:
        x = np.clip((ZONES - start) / (stop - start), 0.0, 1.0)
        return np.asarray(x * x * (3.0 - 2.0 * x))

    line = settings.open_shadows * (1.0 - step(1.0, 6.5)) - settings.rein_highlights * step(
        4.5, 10.5
    )
    return np.asarray(np.maximum.accumulate(ZONES + line) - ZONES, np.float32)
