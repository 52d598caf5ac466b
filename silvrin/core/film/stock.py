"""A film stock as data."""

from dataclasses import dataclass
from typing import Literal

from ..spectra.grid import Spectrum


@dataclass(frozen=True)
class CurveShape:
    """What makes a stock's characteristic curve its own, in log10 of exposure and density."""

    base_fog: float  # density of base and fog
    toe: float  # softness of the toe, in log10 H
    shoulder: float  # where the shoulder bends, in log10 H above middle grey
    shoulder_softness: float


@dataclass(frozen=True, eq=False)
class Stock:
    """A film; `sensitivity` (53,) is relative to energy, 1 at its peak; `speed` is ISO."""

    id: str
    name: str
    kind: str
    speed: int
    sensitivity: Spectrum
    curve: CurveShape
    granularity: float  # rms, 1000 × deviation of density at 1.0 through 48 µm
    grain: float  # µm, standard deviation of the spot a grain makes
    grain_kind: Literal["cubic", "tabular"]  # cubic grains differ in size and clump
    halation: float  # share of red exposure that the base returns
    resolving_power: int  # lines per mm, high contrast
    about: str
    source: str
    least_n: float = -2.0  # developments it stands
    most_n: float = 2.0
