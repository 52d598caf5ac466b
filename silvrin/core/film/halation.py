"""Halation and the film's own sharpness, sized in micrometres on the negative.

Halation: light that went through the emulsion is returned by the back of the base, about the
place where it came in. Past the critical angle all of it returns, so it forms a ring of radius
2 · thickness · tan(angle) with a tail within and without; a Gaussian of that radius stands for
it. Red light passes emulsion and dyes more easily than blue (textbook, from memory).

Resolving power R is where a pattern's contrast has fallen to about a tenth: a Gaussian of standard
deviation sqrt(ln 10 / 2) / (pi R) leaves a tenth there (common practice, no source).
"""

import numpy as np

from ..spectra.grid import WAVELENGTHS, Spectrum

BASE = 130.0  # µm, thickness of the base
REFRACTION = 1.5
RED_FROM = 580.0  # nm
BLUE_PART = 0.35  # of halation that short waves make, beside long ones


def halation_reach() -> float:
    """Standard deviation of the returned light, µm: the radius of the ring of total reflection."""
    critical = np.arcsin(1.0 / REFRACTION)
    return float(2.0 * BASE * np.tan(critical))


def halation_share(strength: float, seen: Spectrum) -> float:
    """Share of the exposure that returns, of a stock of that strength in red light, when what the
    film sees is distributed over wavelengths like `seen` (53,)."""
    red = float(seen[WAVELENGTHS >= RED_FROM].sum() / max(seen.sum(), 1e-30))
    return strength * (BLUE_PART + (1.0 - BLUE_PART) * red)


def sharpness(resolving_power: float) -> float:
    """Standard deviation in µm of the film's blur, of a resolving power in lines per mm."""
    return float(1000.0 * np.sqrt(np.log(10.0) / 2.0) / (np.pi * resolving_power))
