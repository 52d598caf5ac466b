"""A printing paper as data."""

from dataclasses import dataclass
from typing import Literal

SOFTEST, HARDEST = -1.0, 5.0  # grade 00 and grade 5


@dataclass(frozen=True)
class Paper:
    """A paper; densities are reflection densities, toe and shoulder parts of the range."""

    id: str
    name: str
    surface: str
    support: Literal["fibre", "resin-coated"]
    kind: Literal["variable contrast", "fixed grades"]
    base_density: float
    net_density: float  # maximum density above the base
    toe: float
    shoulder: float
    speed: int  # ISO P: 1000 / H at 0.60 above the base
    tint: str  # of the base in viewing light, sRGB as #rrggbb, as light as it is
    about: str
    source: str
    grades: tuple[int, ...] = ()  # of fixed grades, those there are
    image: tuple[float, float] = (0.0, 0.0)  # a* and b* that its middle tones have beside the base
    ranges: tuple[
        tuple[float, float], ...
    ] = ()  # measured: grade, log exposure range; grade rising
    process: bool = False  # a historic one, whose own tone is what it is made for

    def grade(self, wanted: float) -> float:
        """The grade that prints: as wanted, or the nearest there is."""
        if self.kind == "variable contrast":
            return wanted
        return float(min(self.grades, key=lambda g: abs(g - wanted)))


def split_grade(soft: float, hard: float) -> float:
    """The grade that two exposures, through 00 and through 5, add up to: as many parts of the way
    from one to the other as the hard one has of both. Monotonic, and exact at both ends; what
    lies between is a model of our own."""
    total = soft + hard
    return SOFTEST + (HARDEST - SOFTEST) * (hard / total if total > 0 else 0.5)
