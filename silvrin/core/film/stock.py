"""A film stock as data."""

from dataclasses import dataclass

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
    about: str
    source: str
