"""Zones: eleven steps of a stop each, Zone V is H = 1, middle grey."""

import numpy as np
from numpy.typing import NDArray

NAMES = ("0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X")
LOG10_STOP = float(np.log10(2.0))


def zone_log_exposure(zone: float) -> float:
    """log10 H of a zone; Zone V is 0."""
    return (zone - 5.0) * LOG10_STOP


def shares(zones: NDArray[np.floating]) -> list[float]:
    """Share of the picture by zone (11,), summing to 1: each value counts for the nearest zone,
    those below 0 for Zone 0, those above X for Zone X."""
    steps = np.clip(np.rint(zones), 0, 10).astype(np.int64).ravel()
    counts = np.bincount(steps, minlength=11)
    return [float(c) / steps.size for c in counts]
