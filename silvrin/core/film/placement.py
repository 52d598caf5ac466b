"""Placing exposure and choosing development: what the zone system asks of a negative."""

from dataclasses import dataclass

from ..development.developer import DEVELOPERS, Developer, developed_shape
from ..roots import root
from .curve import SPEED_SHIFT, characteristic_curve
from .stock import Stock
from .zones import zone_log_exposure

CLOSE = 0.02  # zones


@dataclass(frozen=True)
class Proposal:
    """A development, and the zone's density in normal development that it gives a spot."""

    n: float
    lands_on: float  # zone
    reached: bool  # whether that is the zone asked for; N is limited
    speed: float  # stops of speed it brings (more development) or costs


def development_for(
    stock: Stock, zone: float, target: float, developer: Developer = DEVELOPERS["general"]
) -> Proposal:
    """The development that gives a spot on `zone` the density that normal development in the same
    developer gives `target`.

    Source: the definition of N numbers in zone-system handbooks. N is limited to what the stock
    stands.
    """
    shape, left, right = developed_shape(stock.curve, developer), stock.least_n, stock.most_n

    def density(of_zone: float, n: float) -> float:
        curve = characteristic_curve(shape, n, developer.speed)
        return float(curve.density(zone_log_exposure(of_zone)))

    wanted = density(target, 0.0)
    n = root(lambda n: density(zone, n) - wanted, left, right)
    reached = density(zone, n)
    lands_on = root(lambda of_zone: density(of_zone, 0.0) - reached, -6.0, 16.0)
    return Proposal(n, lands_on, abs(lands_on - target) < CLOSE, SPEED_SHIFT * n)
