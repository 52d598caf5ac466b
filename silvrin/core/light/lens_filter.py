"""Coloured glass in front of the lens, and what it costs in exposure."""

from dataclasses import dataclass

import numpy as np

from ..spectra.grid import Spectrum

TWO_SURFACES = 0.92  # passed by two surfaces of glass of index 1.5 (Fresnel)


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


def filter_factor(light: Spectrum, transmittance: Spectrum, sensitivity: Spectrum) -> float:
    """By how much the exposure is multiplied to make up for the filter: sum L S / sum L T S.

    At most MOST_FACTOR: a film that would need more is blind behind that glass.
    """
    seen = light * sensitivity
    through = float((seen * transmittance).sum())
    return float(min(seen.sum() / max(through, 1e-30), MOST_FACTOR))
