"""Zones: eleven steps of a stop each, Zone V is H = 1, middle grey."""

import numpy as np

LOG10_STOP = float(np.log10(2.0))


def zone_log_exposure(zone: float) -> float:
    """log10 H of a zone; Zone V is 0."""
    return (zone - 5.0) * LOG10_STOP
