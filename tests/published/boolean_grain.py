"""Power spectrum of film grain as a Boolean model: Newson, Delon, Galerne 2017, "A stochastic film
grain model for resolution-independent rendering" (from memory); covariance of a Boolean model by
Chiu, Stoyan, Kendall, Mecke 2013.

Grains are discs thrown at random, of one radius or of log-normal ones; a place is dark where one
covers it. With a share u covered and v(h) the mean area two discs shifted by h share, the
covariance is (1 - u)² (exp(-ln(1 - u) v(h) / v(0)) - 1).
"""

import numpy as np
from numpy.typing import NDArray
from scipy.special import j0

Floats = NDArray[np.float64]


def spectrum(radius: float, spread: float, covered: float, frequencies: Floats) -> Floats:
    """Power at frequencies (N,) in cycles a unit of length, largest 1; `spread` is the standard
    deviation of the radii over their mean."""
    sigma = np.sqrt(np.log1p(spread**2))
    normal = np.linspace(-3.0, 3.0, 61) if spread else np.zeros(1)
    weights = np.exp(-0.5 * normal**2)
    radii = radius / np.sqrt(1.0 + spread**2) * np.exp(sigma * normal)
    h = np.linspace(0.0, 2.0 * radii.max(), 6001)
    shared = np.zeros_like(h)
    for r, weight in zip(radii, weights / weights.sum(), strict=True):
        part = np.clip(h / (2.0 * r), 0.0, 1.0)
        shared += weight * 2.0 * r * r * (np.arccos(part) - part * np.sqrt(1.0 - part * part))
    covariance = (1.0 - covered) ** 2 * np.expm1(-np.log1p(-covered) * shared / shared[0])

    def power(frequency: float) -> float:
        return float(np.trapezoid(2 * np.pi * h * covariance * j0(2 * np.pi * frequency * h), h))

    return np.array([power(f) for f in frequencies]) / power(0.0)
