"""Sensitometry: speed, contrast index and the fit of a characteristic curve to a step wedge.

log exposure is log10 of lx·s where a wedge says so, else relative. Sources: ISO 6:1993 (from
memory): S = 0.80 / Hm, Hm the exposure at 0.10 above base and fog, developed so that 1.30 further
in log exposure density rises by 0.80. Contrast index: slope of the line through the points in
which two arcs about one point of the base-and-fog line, of radius 0.2 and 2.2, cut the curve
(ANSI PH2.34, from memory).
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ...errors import BadItem
from ..later import optimize
from .curve import NORMAL_RANGE, SPEED_DENSITY, SPEED_SHIFT, CharacteristicCurve
from .stock import CurveShape
from .zones import LOG10_STOP

Floats = NDArray[np.float64]
ISO_STEP, ISO_RISE = 1.30, 0.80
ISO_CONSTANT = 0.80  # lx·s
INNER_ARC, OUTER_ARC = 0.2, 2.2
LEAST_POINTS = 6


@dataclass(frozen=True)
class SpeedPoint:
    """What the ISO 6 procedure reads from a curve."""

    log_exposure: float  # at 0.10 above base and fog
    rise: float  # of density over the next 1.30; ISO speed wants 0.80

    @property
    def speed(self) -> float:
        """0.80 lx·s over the exposure of the speed point, of absolute exposures."""
        return float(ISO_CONSTANT / 10.0**self.log_exposure)


def speed_point(log_exposure: Floats, density: Floats) -> SpeedPoint:
    """From a wedge (N,), rising; base and fog is its least density.

    Raises BadItem when the wedge does not reach 0.10 above base and fog and 1.30 further.
    """
    base = float(density.min())
    above = np.flatnonzero(density >= base + SPEED_DENSITY)
    if not len(above) or above[0] == 0:
        raise BadItem(
            f"The densities run from {base:.2f} to {density.max():.2f}; a speed needs steps below "
            f"and above {base + SPEED_DENSITY:.2f}, 0.10 over base and fog."
        )
    i = int(above[0])
    part = (base + SPEED_DENSITY - density[i - 1]) / (density[i] - density[i - 1])
    at = float(log_exposure[i - 1] + part * (log_exposure[i] - log_exposure[i - 1]))
    if at + ISO_STEP > log_exposure[-1] + 1e-9:
        raise BadItem(
            f"The wedge ends {log_exposure[-1] - at:.2f} beyond the speed point; a speed needs "
            f"{ISO_STEP:.2f} more in log exposure."
        )
    reached = float(np.interp(at + ISO_STEP, log_exposure, density))
    return SpeedPoint(at, reached - base - SPEED_DENSITY)


def contrast_index(
    density: Callable[[float], float], base: float, start: float, stop: float
) -> float | None:
    """Of a curve over log10 exposure between `start` and `stop`; None where the arcs do not cut
    it."""

    def cut(centre: float, radius: float) -> float | None:
        def beyond(h: float) -> float:
            return float(np.hypot(h - centre, density(h) - base)) - radius

        if beyond(centre) >= 0.0:
            return None
        far = centre + radius
        return float(optimize.brentq(beyond, centre, far)) if beyond(far) > 0.0 else far

    def bend(centre: float) -> float | None:
        """How far the two points and the centre are from one line."""
        inner, outer = cut(centre, INNER_ARC), cut(centre, OUTER_ARC)
        if inner is None or outer is None:
            return None
        return (density(inner) - base) / (inner - centre) - (density(outer) - base) / (
            outer - centre
        )

    centres = np.linspace(start, stop, 241)
    last: tuple[float, float] | None = None
    for centre in centres:
        value = bend(float(centre))
        if value is None:
            continue
        if last is not None and last[1] < 0.0 <= value:
            found = optimize.brentq(lambda c: bend(c) or 0.0, last[0], float(centre))
            outer = cut(found, OUTER_ARC)
            return None if outer is None else (density(outer) - base) / (outer - found)
        last = (float(centre), value)
    return None


def exposure_at(curve: CharacteristicCurve, above: float) -> float:
    """log10 H that gives a stock's curve a density above base and fog."""
    wanted = curve.shape.base_fog + above
    return float(optimize.brentq(lambda h: float(curve.density(h)) - wanted, -6.0, 6.0))


STRAIGHT = 0.85  # of the steepest slope, below which toe and shoulder are said to begin


@lru_cache(maxsize=256)
def straight_part(curve: CharacteristicCurve) -> tuple[float, float]:
    """log10 H between toe and shoulder, where the slope is nearly the steepest."""
    h = np.linspace(curve.toe - 2.0, curve.shape.shoulder + 2.0, 801)
    slope = np.gradient(curve.density(h), h)
    steep = np.flatnonzero(slope >= STRAIGHT * slope.max())
    return round(float(h[steep[0]]), 3), round(float(h[steep[-1]]), 3)


@lru_cache(maxsize=256)
def index_of(curve: CharacteristicCurve) -> float | None:
    """Contrast index of a stock's curve."""
    return contrast_index(
        lambda h: float(curve.density(h)), curve.shape.base_fog, curve.toe - 1.5, curve.toe + 1.0
    )


@dataclass(frozen=True)
class WedgeFit:
    """A characteristic curve fitted to a wedge, in the wedge's own log exposure."""

    base_fog: float
    toe_at: float
    toe: float
    slope: float
    shoulder_at: float
    shoulder_softness: float
    residuals: Floats  # (N,) measured less fitted density

    def density(self, log_exposure: Floats | float) -> Floats:
        """Of the fitted curve; any shape."""
        return _curve(
            np.array([self.base_fog, self.toe_at, self.toe, self.slope, self.shoulder_at,
                      self.shoulder_softness]),
            np.asarray(log_exposure, np.float64),
        )  # fmt: skip

    @property
    def rms(self) -> float:
        """Root of the mean squared residual."""
        return float(np.sqrt(np.mean(self.residuals**2)))

    def exposure_at(self, above: float) -> float | None:
        """log exposure that gives a density above base and fog; None when it is not reached."""

        def off(h: float) -> float:
            return float(self.density(h)) - self.base_fog - above

        low, high = self.toe_at - 4.0, self.shoulder_at + 1.0
        return float(optimize.brentq(off, low, high)) if off(low) < 0.0 < off(high) else None


def _curve(parameters: Floats, h: Floats) -> Floats:
    base, toe_at, toe, slope, shoulder_at, softness = parameters
    rise = toe * np.logaddexp(0.0, (h - toe_at) / toe)
    rise = rise - softness * np.logaddexp(0.0, (h - shoulder_at) / softness)
    return np.asarray(base + slope * rise)


def fit_wedge(log_exposure: Floats, density: Floats) -> WedgeFit:
    """The characteristic curve (see `curve`) nearest to a wedge of at least six steps (N,).

    Where the wedge ends before a shoulder, the shoulder is put beyond it. Raises BadItem for too
    few steps, or for densities that hardly rise.
    """
    h, d = np.asarray(log_exposure, np.float64), np.asarray(density, np.float64)
    if len(h) < LEAST_POINTS:
        raise BadItem(
            f"{len(h)} steps were given; the curve needs at least {LEAST_POINTS}, and 11 or 21 "
            "are better."
        )
    if d.max() - d.min() < 0.3:
        raise BadItem(
            f"The densities run only from {d.min():.2f} to {d.max():.2f}; a characteristic curve "
            "needs a range of at least 0.30."
        )
    steepest = float(np.clip(np.max(np.diff(d) / np.maximum(np.diff(h), 1e-6)), 0.1, 4.0))
    middle = float(np.interp(0.5 * (d.min() + d.max()), d, h)) if np.all(np.diff(d) > 0) else (
        float(np.median(h))
    )  # fmt: skip
    start_toe = middle - 0.5 * (d.max() - d.min()) / steepest
    low = [0.0, h[0] - 1.5, 0.03, 0.05, middle, 0.05]
    high = [max(1.5, d.min() + 0.2), h[-1], 0.6, 5.0, h[-1] + 1.0, 0.6]
    best = None
    for shoulder in (h[-1] - 0.3, h[-1] + 0.6):
        start = [d.min(), start_toe, 0.15, steepest, shoulder, 0.25]
        start = list(np.clip(start, np.array(low) + 1e-6, np.array(high) - 1e-6))

        def off(p: Floats) -> Floats:
            # a hair of preference for plain shapes, where the wedge does not tell
            plain = [0.002 * (p[2] - 0.15), 0.002 * (p[5] - 0.3)]
            return np.concatenate([_curve(p, h) - d, plain])

        found = optimize.least_squares(off, start, bounds=(low, high))
        if best is None or found.cost < best.cost:
            best = found
    assert best is not None
    base, toe_at, toe, slope, shoulder_at, softness = (float(v) for v in best.x)
    residuals = d - _curve(best.x, h)
    return WedgeFit(base, toe_at, toe, slope, shoulder_at, softness, residuals)


@dataclass(frozen=True)
class WedgeStock:
    """What a wedge says of its film."""

    shape: CurveShape
    n: float  # the development the wedge had
    zone_v: float  # log exposure of Zone V


def stock_from(fit: WedgeFit) -> WedgeStock:
    """The shape of a stock's curves from one measured curve, and the N that measured one had.

    Raises BadItem when the curve does not reach the density of Zone VIII, 1.30 over base and fog.
    """
    speed, top = fit.exposure_at(SPEED_DENSITY), fit.exposure_at(NORMAL_RANGE)
    if speed is None or top is None:
        most = float(fit.density(fit.shoulder_at + 1.0)) - fit.base_fog
        raise BadItem(
            f"The curve reaches {most:.2f} over base and fog; a stock needs {NORMAL_RANGE:.2f}, "
            "the density of Zone VIII. Expose or develop the wedge more."
        )
    # Zone I lies at the speed point and moves with N; Zone VIII - n has the normal range
    stops = (top - speed) / LOG10_STOP
    n = (7.0 - stops) / (1.0 - SPEED_SHIFT)
    zone_v = speed + (4.0 + SPEED_SHIFT * n) * LOG10_STOP
    shape = CurveShape(
        round(fit.base_fog, 3),
        round(float(np.clip(fit.toe, 0.03, 0.6)), 3),
        round(float(np.clip(fit.shoulder_at - zone_v, 1.0, 6.0)), 3),
        round(float(np.clip(fit.shoulder_softness, 0.05, 1.0)), 3),
    )
    return WedgeStock(shape, n, zone_v)
