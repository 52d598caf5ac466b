"""Flattening before the film: shadows opened and highlights reined in, without crossing edges."""

from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..colour import smooth_step
from ..guided import guided
from ..light.conversion import Conversion
from ..plate import Grid
from ..station import Station
from .settings import CaptureSettings

F32 = NDArray[np.float32]

RADIUS, EDGE = 0.02, 0.5  # of the long side; stops
ZONES = np.linspace(-3.0, 13.0, 2049)


def smooth_maps(exposure: F32) -> F32:
    """(2, H, W) maps a, b: what is smooth about an exposure in log2 H (H, W) is a · h + b."""
    radius = max(1, round(RADIUS * max(exposure.shape)))
    return np.stack(guided(exposure, exposure, radius, EDGE**2, 2)[:2])


def flattening(settings: CaptureSettings) -> F32:
    """(2049,) stops given to Zones -3 to 13, so that they keep their order: what is opened is full
    at Zone I and gone at VI, what is reined in begins at V and is full at X."""
    line = settings.open_shadows * (1.0 - smooth_step(ZONES, 1.0, 6.5))
    line -= settings.rein_highlights * smooth_step(ZONES, 4.5, 10.5)
    return np.asarray(np.maximum.accumulate(ZONES + line) - ZONES, np.float32)


class Flattening(Station):
    """Shadows opened and highlights reined in, of the light as the film meets it."""

    reads = ("capture.open_shadows", "capture.rein_highlights")
    builds_on = (Conversion,)

    @property
    def is_plain(self) -> bool:
        """Whether nothing of it is asked for."""
        capture = self.recipe.capture
        return not (capture.open_shadows or capture.rein_highlights)

    @cached_property
    def line(self) -> F32:
        """(2049,) stops given to Zones -3 to 13."""
        return flattening(self.recipe.capture)

    def flatten(self, exposure: F32, maps: F32, grid: Grid) -> None:
        """A piece, log2 H (H, W), in place; by the maps of `smooth_maps`."""
        kernels.by_rows(kernels.flatten, len(exposure), exposure, maps, *grid.on(maps), self.line)
