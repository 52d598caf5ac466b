"""The characteristic curve: density of the negative over log10 of exposure.

D = base + slope * (toe-softplus - shoulder-softplus). The toe and the slope are solved so
that a stock's normal development obeys the zone system: Zone I lies 0.10 above base and fog
and Zone VIII 1.30 (handbooks, diffuse head; from memory: 1.25-1.35).

Development N-1 puts one more stop on that range, N+1 one fewer; with it the speed point
moves by 0.3 zone for each N (more development, more speed; common practice, no source).
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..roots import root
from .stock import CurveShape
from .zones import zone_log_exposure

SPEED_DENSITY = 0.10
NORMAL_RANGE = 1.30
SPEED_SHIFT = 0.3  # zones a step of N


def _softplus(x: NDArray[np.float64] | float, softness: float) -> NDArray[np.float64]:
    return np.asarray(softness * np.logaddexp(0.0, np.asarray(x) / softness))


@dataclass(frozen=True)
class CharacteristicCurve:
    """Density over log10 H for one stock and development."""

    shape: CurveShape
    toe: float  # log10 H at which the toe bends
    slope: float  # of the straight line, density per log10 H

    def density(self, log_exposure: NDArray[np.floating] | float) -> NDArray[np.float64]:
        """Diffuse density of the negative, base and fog included; any shape."""
        h = np.asarray(log_exposure, dtype=np.float64)
        rise = _softplus(h - self.toe, self.shape.toe)
        rise = rise - _softplus(h - self.shape.shoulder, self.shape.shoulder_softness)
        return np.asarray(self.shape.base_fog + self.slope * rise)


@lru_cache(maxsize=64)
def characteristic_curve(
    shape: CurveShape, n: float = 0.0, speed: float = 0.0
) -> CharacteristicCurve:
    """The curve of a stock developed to N + n, n from -2 to 2, by a developer that brings so many
    stops of speed."""
    low = zone_log_exposure(1.0 - SPEED_SHIFT * n - speed)
    high = zone_log_exposure(8.0 - n)

    def rises(toe: float) -> tuple[float, float]:
        unit = CharacteristicCurve(CurveShape(0.0, *_tail(shape)), toe, 1.0)
        return float(unit.density(low)), float(unit.density(high))

    def share(toe: float) -> float:
        """Of the range that lies below Zone I, too much of it; falls with the toe."""
        at_low, at_high = rises(toe)
        return at_low / at_high - SPEED_DENSITY / NORMAL_RANGE

    toe = root(share, -4.0, high)
    return CharacteristicCurve(shape, toe, NORMAL_RANGE / rises(toe)[1])


def _tail(shape: CurveShape) -> tuple[float, float, float]:
    return shape.toe, shape.shoulder, shape.shoulder_softness
