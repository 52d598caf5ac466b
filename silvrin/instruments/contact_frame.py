"""A stand-in for printer, film, process and reading, so that a contact negative can be linearised
without them.

Dots gain on the film, ink holds back the light of the process by its own density (Murray and
Davies, from memory), the process answers with an S-shaped curve, and the densitometer has noise.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..core.contact.process import Reading

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class ContactFrame:
    """A printer, an ink, a process."""

    gain: float = 0.18  # of a middle dot
    ink_density: float = 2.1  # of full ink, in the light of the process
    speed: float = 0.75  # log exposure beyond the foot of the curve, through clear film
    contrast: float = 1.9
    base: float = 0.06
    black: float = 1.52
    noise: float = 0.006  # D, one deviation

    def printed(self, ink: Floats) -> Floats:
        """Density that inks, 0 to 1, give on the paper, without noise."""
        dots = ink + 4.0 * self.gain * ink * (1.0 - ink)
        held = -np.log10(1.0 - dots * (1.0 - 10.0**-self.ink_density))
        exposure = self.speed - held
        share = 1.0 / (1.0 + np.exp(-2.3 * self.contrast * (exposure + 0.45)))
        full = 1.0 / (1.0 + np.exp(-2.3 * self.contrast * (self.speed + 0.45)))
        return np.asarray(self.base + (self.black - self.base) * share / full)

    def read(self, ink: Floats, seed: int = 0) -> tuple[Reading, ...]:
        """Readings of a target."""
        rng = np.random.default_rng(seed)
        found = self.printed(ink) + rng.normal(0.0, self.noise, len(ink))
        return tuple(Reading(float(i), float(d)) for i, d in zip(ink, found, strict=True))
