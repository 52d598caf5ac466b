"""Placing exposure and choosing development: what the zone system asks of a negative."""

from dataclasses import dataclass

from ..roots import root
from .curve import SPEED_SHIFT, characteristic_curve
from .stock import CurveShape, Stock
from .zones import zone_log_exposure

CLOSE = 0.02  # zones


@dataclass(frozen=True)
class Proposal:
    """A development, and the zone's density in normal development that it gives a spot."""

    n: float
    lands_on: float  # zone
    reached: bool  # whether that is the zone asked for; N is limited
    speed: float  # stops of speed it brings (more development) or costs


def development_for(stock: Stock, zone: float, target: float) -> Proposal:
    """The development that gives a spot on `zone` the density normal development gives `target`.

    Source: the definition of N numbers in zone-system handbooks. N is limited to what the stock
    stands.
    """
    shape, left, right = stock.curve, stock.least_n, stock.most_n
    wanted = _density(shape, target, 0.0)
    n = root(lambda n: _density(shape, zone, n) - wanted, left, right)
    lands_on = _normal_zone(shape, _density(shape, zone, n))
    return Proposal(n, lands_on, abs(lands_on - target) < CLOSE, SPEED_SHIFT * n)


def _density(shape: CurveShape, zone: float, n: float) -> float:
    return float(characteristic_curve(shape, n).density(zone_log_exposure(zone)))


def _normal_zone(shape: CurveShape, density: float) -> float:
    """The zone that normal development gives a density."""
    return root(lambda zone: _density(shape, zone, 0.0) - density, -6.0, 16.0)
