"""Film speed: what ISO 6 measures of a stock, and the index that suits the zone system.

A stock's label is its ISO speed S: 0.80 lx·s over the exposure at 0.10 above base and fog, of a
development in which density rises by 0.80 over the next 1.30 (ISO 6:1993, from memory). A meter set
to an index EI gives a middle grey 10 / EI lx·s (ISO 2721, from memory): at EI = S it lies 3.64
stops above the speed point. The zone system has four there, and N develops a little less than ISO 6
does; so Zone I comes to lie at 0.10 only at an index some two thirds of a stop lower, as zone
workers find (common practice).
"""

from dataclasses import dataclass
from functools import lru_cache

from ..roots import root
from .curve import SPEED_DENSITY, CharacteristicCurve, characteristic_curve
from .sensitometry import ISO_CONSTANT, ISO_RISE, ISO_STEP, exposure_at
from .stock import CurveShape, Stock
from .zones import zone_log_exposure

METERED = 10.0  # lx·s × the index: what a meter gives middle grey


@dataclass(frozen=True)
class IsoDevelopment:
    """The development that ISO 6 asks for."""

    n: float
    log_exposure: float  # log10 H of its speed point, 0 at Zone V


@lru_cache(maxsize=256)
def iso_development(shape: CurveShape) -> IsoDevelopment:
    """Of a stock in the general developer; the nearest one where none rises as ISO 6 asks."""

    def beyond(n: float) -> float:
        curve = characteristic_curve(shape, n)
        further = float(curve.density(exposure_at(curve, SPEED_DENSITY) + ISO_STEP))
        return further - shape.base_fog - SPEED_DENSITY - ISO_RISE

    n = root(beyond, -2.0, 2.0)
    return IsoDevelopment(n, exposure_at(characteristic_curve(shape, n), SPEED_DENSITY))


def zone_part(shape: CurveShape) -> float:
    """Of a stock's ISO speed, the index at which Zone I lies 0.10 above base and fog with N."""
    return float(10.0 ** iso_development(shape).log_exposure * METERED / ISO_CONSTANT)


def zone_index(stock: Stock) -> float:
    """The exposure index at which a metered middle grey lies on Zone V, and Zone I at 0.10."""
    return stock.speed * zone_part(stock.curve)


def iso_speed(shape: CurveShape, zone_v: float) -> float:
    """What ISO 6 measures of a stock that has Zone V at so many lx·s."""
    return METERED / zone_v / zone_part(shape)


def index_in(stock: Stock, curve: CharacteristicCurve) -> float:
    """The exposure index at which Zone I lies at 0.10 in another development of the stock."""
    return float(
        zone_index(stock) * 10.0 ** (zone_log_exposure(1.0) - exposure_at(curve, SPEED_DENSITY))
    )
