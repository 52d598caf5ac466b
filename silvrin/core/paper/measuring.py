"""A paper measured from prints of a step wedge: fit, ISO range and speed, grade.

ISO 6846:1992 (from memory): R = 100 (log Hs - log Ht), with t at 0.04 above the base and s at 90 %
of the net maximum density; P = 1000 / Hm, with m at 0.60 above the base and H in lx s.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...errors import BadItem
from ..later import optimize
from .curve import (
    GRADE_RANGES,
    SHOULDER_SHARE,
    SPEED_DENSITY,
    TOE_DENSITY,
    PaperCurve,
)
from .paper import HARDEST, SOFTEST

Floats = NDArray[np.float64]
LEAST_STEPS = 7
LEAST_DENSITY = 0.8  # net, of a wedge that reaches black
NOISE = 0.01  # density, of a densitometer
USUAL, SPREAD = np.array([0.19, 0.09]), np.array([0.05, 0.03])  # toe and shoulder of papers
LOOSE = 0.02  # density, of residuals that a fit is expected to leave: what is farther weighs less


@dataclass(frozen=True)
class PaperFit:
    """A curve through one wedge: densities over log10 of exposure."""

    base: float  # density
    curve: PaperCurve  # net, over log10 of exposure beyond `speed_at`
    speed_at: float  # log10 of exposure that gives 0.60 above the base
    residuals: Floats  # density, measured less fitted, (N,)

    def density(self, log_exposure: NDArray[np.floating]) -> Floats:
        """Density, base included."""
        return self.base + self.curve.density(np.asarray(log_exposure) - self.speed_at)

    @property
    def log_range(self) -> float:
        """log10 exposure range between t and s."""
        return self.curve.log_exposure_at(
            SHOULDER_SHARE * self.curve.net
        ) - self.curve.log_exposure_at(TOE_DENSITY)

    @property
    def iso_range(self) -> int:
        """ISO R, to the next ten as the standard tells it."""
        return round(10.0 * self.log_range) * 10

    @property
    def iso_speed(self) -> float:
        """ISO P, where exposures are in lx s."""
        return float(1000.0 / 10.0**self.speed_at)

    @property
    def grade(self) -> float:
        """The grade from 00 (-1) to 5 that has this range."""
        return grade_of(self.log_range)

    @property
    def rms(self) -> float:
        """Of the residuals."""
        return float(np.sqrt(np.mean(self.residuals**2)))


def grade_of(log_range: float) -> float:
    """The grade of a log exposure range; held at 00 and 5."""
    ranges = np.array(GRADE_RANGES[::-1])
    return float(np.interp(log_range, ranges, np.arange(HARDEST, SOFTEST - 1, -1)))


def fit_paper(log_exposure: Floats, density: Floats) -> PaperFit:
    """The paper's curve that lies nearest to a wedge's densities (N,), exposure rising. Raises
    BadItem where it has too few steps or does not reach from base to black."""
    x, y = np.asarray(log_exposure, np.float64), np.asarray(density, np.float64)
    if len(x) < LEAST_STEPS:
        raise BadItem(
            f"The wedge has {len(x)} steps; a paper's curve needs at least {LEAST_STEPS}."
        )
    low, high = float(y.min()), float(y.max())
    if high - low < LEAST_DENSITY:
        raise BadItem(
            f"The densities run from {low:.2f} to {high:.2f}; a wedge that shows a paper's curve "
            f"reaches {LEAST_DENSITY:g} above its base. Print it longer, or use a longer wedge."
        )
    middle = float(np.interp(low + SPEED_DENSITY, np.maximum.accumulate(y), x))
    slope = max((high - low) / 0.9, 0.5)

    def made(p: Floats) -> tuple[float, PaperCurve, float]:
        base, net, stretch, at, toe, shoulder = p
        return base, PaperCurve(net, stretch, 0.0, toe, shoulder), at

    def away(p: Floats) -> Floats:
        base, curve, at = made(p)
        usual: Floats = (p[4:] - USUAL) / SPREAD * NOISE
        return np.concatenate([base + curve.density(x - at) - y, usual])

    best = None
    for toe in (0.08, 0.2):
        begin = [low, high - low + 0.02, (high - low) / slope, middle - 0.4, toe, 0.08]
        found = optimize.least_squares(
            away, begin, loss="soft_l1", f_scale=LOOSE,
            bounds=([0.0, 0.5, 0.2, x[0] - 3, 0.02, 0.01], [0.6, 3.0, 4.0, x[-1] + 1, 0.7, 0.4]),
        )  # fmt: skip
        if best is None or found.cost < best.cost:
            best = found
    assert best is not None
    base, raw, at = made(best.x)
    start = PaperCurve(raw.net, 1.0, 0.0, raw.toe, raw.shoulder).log_exposure_at(SPEED_DENSITY)
    curve = PaperCurve(raw.net, raw.stretch, start, raw.toe, raw.shoulder)
    return PaperFit(float(base), curve, at + start * raw.stretch, y - base - raw.density(x - at))
