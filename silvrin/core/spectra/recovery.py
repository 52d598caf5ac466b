"""Spectra recovered from colour.

A capture holds three numbers a pixel; film sees a spectrum. Of all spectra with the
pixel's colour the most probable one is taken, in the logarithm of reflectance, where

- a factor on the whole spectrum costs nothing, so that the shape depends on chromaticity
  only and one two-dimensional table serves every brightness;
- shapes are probable as they occur in nature and in dyed and painted things (mean and
  principal shapes of the 99 samples of CIE 224:2017), blended with a smoothness prior,
  so that colours those samples lack get the smoothest spectrum instead of an odd one;
- the mean shape, which mostly rises towards the red end, counts by how saturated a
  colour is: greys are taken as flat.

Family of methods: Meng 2015 (smoothest spectrum), Otsu 2018 (statistics of measured
spectra), Burns 2020 (smoothness of the logarithm). Beyond 780 nm the value there is held.
"""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from .grid import WAVELENGTHS, extend
from .illuminants import rgb_responses
from .tables import NATURAL_MEAN, NATURAL_SHAPES

SMOOTH_NM = 60.0  # correlation length of the smoothness prior
SMOOTH_SHARE = 0.2  # its share beside the natural shapes
SMOOTH_DEVIATION = 0.3  # least deviation of ln R it allows at any wavelength
MEAN_SHARE = 0.5  # of the natural mean shape, at full saturation
SATURATED = 0.3  # distance from grey, in log ratios, at which that share is well reached
LEVEL_DEVIATION = 4.0  # of a common factor: free
STEPS = 60  # Newton steps; natural colours settle in under ten
LEAST = 1e-3  # share of a primary below which chromaticities are not told apart


@lru_cache(maxsize=1)
def _prior() -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Mean (53,) and covariance (53, 53) of ln R."""
    mean = extend(NATURAL_MEAN)
    shapes = np.stack([extend(row) for row in NATURAL_SHAPES])
    natural = shapes.T @ shapes
    deviation = np.maximum(np.sqrt(np.diag(natural)), SMOOTH_DEVIATION)
    distance = (WAVELENGTHS[:, None] - WAVELENGTHS[None, :]) / SMOOTH_NM
    smooth = deviation[:, None] * deviation[None, :] * np.exp(-0.5 * distance**2)
    covariance = (1.0 - SMOOTH_SHARE) * natural + SMOOTH_SHARE * smooth
    covariance += 1e-4 * np.eye(len(WAVELENGTHS)) + LEVEL_DEVIATION**2
    return mean, covariance


def recover(rgb: NDArray[np.floating]) -> NDArray[np.float64]:
    """Reflectance-like spectra (N, 53) of linear BT.2020 colours (N, 3).

    Spectra scale with the colour: twice the colour, twice the spectrum. Values may pass 1,
    since a capture is lit unevenly. Components below a thousandth of their sum are raised
    to that. Raises ValueError for a colour that is not positive in sum.
    """
    colour = np.asarray(rgb, dtype=np.float64)
    total = colour.sum(axis=1, keepdims=True)
    if not np.all(total > 0):
        raise ValueError("recover: each colour needs a positive sum of its three components")
    target = np.maximum(colour / total, LEAST)
    target *= 1.5 / target.sum(axis=1, keepdims=True)

    responses = rgb_responses()
    mean, covariance = _prior()
    ratios = np.log(target)
    ratios -= ratios.mean(axis=1, keepdims=True)
    saturation = 1.0 - np.exp(-(ratios**2).sum(axis=1, keepdims=True) / SATURATED**2)
    centre = MEAN_SHARE * saturation * mean

    logs = centre + np.log(0.5)
    for _ in range(STEPS):
        spectra = np.exp(logs)
        slope = responses[None] * spectra[:, None, :]  # (N, 3, 53)
        wanted = target - slope.sum(axis=2) + np.einsum("nci,ni->nc", slope, logs - centre)
        spread = slope @ covariance  # (N, 3, 53)
        gain = spread @ slope.transpose(0, 2, 1) + 1e-8 * np.eye(3)
        weights = np.linalg.solve(gain, wanted[..., None])[..., 0]
        step = centre + np.einsum("nci,nc->ni", spread, weights) - logs
        largest = np.abs(step).max(axis=1, keepdims=True)
        logs += step * np.minimum(1.0, 1.0 / np.maximum(largest, 1e-12))
        if largest.max() < 1e-5:
            break
    spectra = np.exp(logs)
    reached = (spectra @ responses.T).sum(axis=1, keepdims=True)
    return np.asarray(spectra * (total / reached))
