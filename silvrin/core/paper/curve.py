"""Paper curves by grade.

A grade is a log exposure range: ISO range R = 100 (log Hs - log Ht), with t at 0.04 above
the base and s at 90 % of the net maximum density (ISO 6846, from memory). The curve has one
shape, stretched to the grade's range; its speed point is 0.60 above the base.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..roots import root
from .paper import Paper

# Middle of the log exposure range of grades 0 to 5: ANSI PH2.2 (from memory); before them that of
# 00 (common practice, no source)
GRADE_RANGES = (1.80, 1.55, 1.275, 1.05, 0.875, 0.725, 0.575)
TOE_DENSITY, SHOULDER_SHARE, SPEED_DENSITY = 0.04, 0.90, 0.60


def grade_range(grade: float) -> float:
    """log10 exposure range of a grade from 00 (-1) to 5, linear between whole grades."""
    return float(np.interp(grade, np.arange(-1, 6), GRADE_RANGES))


def range_on(paper: Paper, grade: float) -> float:
    """log10 exposure range of a paper on a grade: between grades that were measured as these say,
    beyond them as much off the grades' own as the nearest."""
    if not paper.ranges:
        return grade_range(grade)
    grades, ranges = (np.array(v) for v in zip(*paper.ranges, strict=True))
    off = ranges / np.array([grade_range(g) for g in grades])
    return float(grade_range(grade) * np.interp(grade, grades, off))


@dataclass(frozen=True)
class PaperCurve:
    """Net density (above the base) over log10 of exposure, 0 at the paper's speed point."""

    net: float
    stretch: float  # log10 exposure for a unit of the shape
    start: float
    toe: float
    shoulder: float

    def density(self, log_exposure: NDArray[np.floating] | float) -> NDArray[np.float64]:
        """Density above the paper base, 0 to the net maximum; any shape."""
        return self.shape(np.asarray(log_exposure, dtype=np.float64) / self.stretch + self.start)

    def log_exposure_at(self, density: float) -> float:
        """log10 exposure that gives a net density; inverse of `density`."""
        return (_inverse(self, density) - self.start) * self.stretch

    def shape(self, u: NDArray[np.float64]) -> NDArray[np.float64]:
        """Net density where the straight line would run from 0 to its maximum over 0 to 1."""
        rise = self.toe * np.logaddexp(0.0, u / self.toe)
        rise = rise - self.shoulder * np.logaddexp(0.0, (u - 1.0) / self.shoulder)
        return np.asarray(np.clip(self.net * rise, 0.0, self.net))


@lru_cache(maxsize=1024)
def _inverse(curve: PaperCurve, density: float) -> float:
    """Where the shape of a curve reaches a net density."""
    return root(lambda u: float(curve.shape(np.asarray(u))) - density, -8.0, 8.0)


@lru_cache(maxsize=256)
def paper_curve(paper: Paper, grade: float) -> PaperCurve:
    """The curve of a paper at a grade."""
    unit = PaperCurve(paper.net_density, 1.0, 0.0, paper.toe, paper.shoulder)
    range_of_shape = unit.log_exposure_at(SHOULDER_SHARE * paper.net_density)
    range_of_shape -= unit.log_exposure_at(TOE_DENSITY)
    return PaperCurve(
        paper.net_density,
        range_on(paper, grade) / range_of_shape,
        unit.log_exposure_at(SPEED_DENSITY),
        paper.toe,
        paper.shoulder,
    )
