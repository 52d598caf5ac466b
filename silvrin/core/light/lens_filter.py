"""Coloured glass in front of the lens, and what it costs in exposure."""

from dataclasses import dataclass

from ..spectra.grid import Spectrum


@dataclass(frozen=True, eq=False)
class LensFilter:
    """A lens filter; `transmittance` (53,) as a share of the light, 0 to 1."""

    id: str
    name: str
    colour: str
    transmittance: Spectrum
    about: str
    source: str


def filter_factor(light: Spectrum, transmittance: Spectrum, sensitivity: Spectrum) -> float:
    """By how much the exposure is multiplied to make up for the filter: sum L S / sum L T S."""
    seen = light * sensitivity
    return float(seen.sum() / (seen * transmittance).sum())
