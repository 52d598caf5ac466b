"""Coloured glass in front of the lens, and what it costs in exposure."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..spectra.grid import WAVELENGTHS, Spectrum
from ..spectra.illuminants import rgb_responses
from .hue_bands import hue_of

TWO_SURFACES = 0.92  # passed by two surfaces of glass of index 1.5 (Fresnel)
ANY_HUE = "any-hue"  # the filter whose hue is dialled
HUE_DENSITY = 2.4  # of it, for light of the hue opposite
MOST_FACTOR = 2.0**12  # a film that would need more is as good as blind


@dataclass(frozen=True, eq=False)
class LensFilter:
    """A lens filter; `transmittance` (53,) as a share of the light, 0 to 1."""

    id: str
    name: str
    colour: str
    transmittance: Spectrum
    about: str
    source: str

    def at(self, strength: float) -> Spectrum:
        """Transmittance of glass so many times as thick, (53,).

        Bouguer's law for the glass; its two surfaces reflect the same whatever its thickness.
        No filter stays no filter.
        """
        if np.all(self.transmittance == 1.0):
            return self.transmittance
        glass = np.minimum(self.transmittance / TWO_SURFACES, 1.0)
        return np.asarray(TWO_SURFACES * glass**strength)


@lru_cache(maxsize=1)
def _spectral_hues() -> Spectrum:
    """Hue in degrees of light of each wavelength, (53,); held beyond 700 nm and below 410 nm,
    where it hardly changes and the eye hardly sees."""
    kept = np.clip(WAVELENGTHS, 410.0, 700.0)
    places = np.searchsorted(WAVELENGTHS, kept)
    return np.asarray(hue_of(rgb_responses().T[places])[0])


@lru_cache(maxsize=512)
def hue_filter(hue: float) -> LensFilter:
    """A filter of any hue, 0 to 360 degrees: its density for light of a wavelength grows with the
    angle between that light's own hue and the filter's, as (1 - cos) / 2. Our own."""
    density = HUE_DENSITY * (1.0 - np.cos(np.radians(_spectral_hues() - hue))) / 2.0
    return LensFilter(
        ANY_HUE,
        "Any hue",
        "hue dialled",
        TWO_SURFACES * 10.0 ** -(density - density.min()),
        "A filter of any hue, for those who search by eye. Red, yellow, green, blue and purple "
        "run into each other as the dial is turned.",
        "Our own: density by the angle between hues.",
    )


def filter_factor(light: Spectrum, transmittance: Spectrum, sensitivity: Spectrum) -> float:
    """By how much the exposure is multiplied to make up for the filter: sum L S / sum L T S.

    At most MOST_FACTOR: a film that would need more is blind behind that glass.
    """
    seen = light * sensitivity
    through = float((seen * transmittance).sum())
    return float(min(seen.sum() / max(through, 1e-30), MOST_FACTOR))
