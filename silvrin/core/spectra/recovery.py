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
spectra), Burns 2020 (smoothness of the logarithm).

Two kinds of things are known by more than their colour, and colours like theirs are taken to be
them, by as much as Bayes' rule gives: foliage, whose spectrum rises steeply beyond 700 nm
(PROSPECT and 4SAIL), and the open sky with all that is grey in its light, which fall with a power
of the wavelength (Rayleigh 1871: -4 for clean air, less with haze) on into the infrared. Of all
else the value at 780 nm is held beyond, raised half way to the brightest it is anywhere, since most
colouring matter stops absorbing there (common practice, no source). A green paint with the very
colour of a leaf is taken for one; that is the false part of infrared from a colour capture.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..colour import smooth_step
from .grid import WAVELENGTHS, extend
from .illuminants import rgb_responses
from .tables import (
    FOLIAGE_CHROMATICITY,
    FOLIAGE_SHAPES,
    FOLIAGE_SPREAD,
    NATURAL_MEAN,
    NATURAL_SHAPES,
)

SMOOTH_NM = 60.0  # correlation length of the smoothness prior
SMOOTH_SHARE = 0.2  # its share beside the natural shapes
SMOOTH_DEVIATION = 0.3  # least deviation of ln R it allows at any wavelength
MEAN_SHARE = 0.5  # of the natural mean shape, at full saturation
SATURATED = 0.3  # distance from grey, in log ratios, at which that share is well reached
LEVEL_DEVIATION = 4.0  # of a common factor: free
STEPS = 60  # Newton steps; natural colours settle in under ten
FOLIAGE_SHARE, SKY_SHARE = 0.4, 0.45  # of what is photographed, before its colour is seen
CAST = 0.1  # deviation of ln r/g and ln b/g that light and camera add to foliage
FOLIAGE_SEEN = 0.2  # how far its shape is trusted where the colour tells enough
RED_EDGE, EDGE_WIDTH = 720.0, 5.0  # nm; beyond it colour tells nothing and known kinds count
SKY_POWER, SKY_POWER_DEVIATION = 2.0, 2.0  # of the wavelength; 0 is a grey in the sun
WARMEST = -2.5  # power by which warm greys (wood, clay, skin) rise on into the infrared
SKY_CAST = 0.06  # deviation of ln r/g and ln b/g aside from that law
SKY_FROM, SKY_SURE = 1.0, 3.0  # powers of the wavelength between hazy grey and blue sky
SKY_ASIDE = 0.25  # of colour, aside from the law, at which it is hardly sky any more
BODY = 0.5  # how far, beyond the red edge, a colouring matter lets the body under it be seen
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


@lru_cache(maxsize=1)
def _sky_step() -> NDArray[np.float64]:
    """(2,) by how much ln r/g and ln b/g change with the power of the wavelength."""
    red, green, blue = rgb_responses() @ (WAVELENGTHS / 560.0) ** -SKY_POWER
    return np.log([red / green, blue / green]) / SKY_POWER


def _density(
    colour: NDArray[np.float64], mean: NDArray[np.float64], spread: NDArray[np.float64]
) -> NDArray[np.float64]:
    """(N,) normal density of colours (N, 2)."""
    off = colour - mean
    distance = np.einsum("ni,ij,nj->n", off, np.linalg.inv(spread), off)
    return np.asarray(np.exp(-0.5 * distance) / np.sqrt(np.linalg.det(spread)))


def _target(colours: NDArray[np.floating]) -> NDArray[np.float64]:
    """Colours (N, 3) of one sum, in which no component is less than a thousandth."""
    rgb = np.asarray(colours, dtype=np.float64)
    target = np.maximum(rgb / rgb.sum(axis=1, keepdims=True), LEAST)
    return np.asarray(target * 1.5 / target.sum(axis=1, keepdims=True))


def _saturation(target: NDArray[np.float64]) -> NDArray[np.float64]:
    ratios = np.log(target)
    ratios -= ratios.mean(axis=1, keepdims=True)
    return np.asarray(1.0 - np.exp(-(ratios**2).sum(axis=1) / SATURATED**2))


def _kinds(target: NDArray[np.float64]) -> NDArray[np.float64]:
    """(3, N): how probable it is that a colour is anything else, foliage, or the open sky with
    what is grey in its light; by Bayes' rule, they sum to 1."""
    _, covariance = _prior()
    ratios = np.log(target)
    colour = ratios[:, [0, 2]] - ratios[:, 1:2]
    responses = rgb_responses()
    contrast = responses[[0, 2]] - responses[1]
    step = _sky_step()
    skylight, cast = np.outer(step, step), np.eye(2)
    sky_spread = SKY_POWER_DEVIATION**2 * skylight + SKY_CAST**2 * cast
    kinds = [
        (1.0 - FOLIAGE_SHARE - SKY_SHARE)
        * _density(colour, np.zeros(2), contrast @ covariance @ contrast.T),
        # whatever its density, grey is no leaf
        FOLIAGE_SHARE
        * _saturation(target)
        * _density(colour, FOLIAGE_CHROMATICITY, FOLIAGE_SPREAD + CAST**2 * cast),
        SKY_SHARE * _density(colour, SKY_POWER * step, sky_spread),
    ]
    return np.asarray(np.stack(kinds) / np.sum(kinds, axis=0))


def known_kinds(colours: NDArray[np.floating]) -> NDArray[np.float64]:
    """(2, N): how far linear BT.2020 colours (N, 3) are taken for foliage and for the open sky,
    0 to 1. Unlike in recovery greys are no sky: there they only share its law."""
    target = _target(colours)
    ratios, step = np.log(target), _sky_step()
    colour = ratios[:, [0, 2]] - ratios[:, 1:2]
    power = colour @ step / (step @ step)
    aside = np.linalg.norm(colour - power[:, None] * step, axis=1)
    sky = smooth_step(power, SKY_FROM, SKY_SURE) * np.exp(-0.5 * (aside / SKY_ASIDE) ** 2)
    return np.stack([_kinds(target)[1], sky])


def beyond_red() -> NDArray[np.float64]:
    """(53,) 0 where a colour tells the spectrum, 1 beyond the red edge, where it does not."""
    return np.asarray(1.0 / (1.0 + np.exp((RED_EDGE - WAVELENGTHS) / EDGE_WIDTH)))


@dataclass(frozen=True)
class _Expected:
    """What colours (N, 3) let expect."""

    centre: NDArray[np.float64]  # (N, 53) ln R up to a factor before they are met exactly
    shares: NDArray[np.float64]  # (3, N, 1) how probably each is anything else, foliage, sky
    leaf: NDArray[np.float64]  # (N, 53) ln R beside green, were it foliage
    air: NDArray[np.float64]  # ... and sky


def _expected(target: NDArray[np.float64]) -> _Expected:
    mean, _ = _prior()
    ratios = np.log(target)
    colour = ratios[:, [0, 2]] - ratios[:, 1:2]
    step = _sky_step()
    shares = _kinds(target)[..., None]
    rest, foliage, sky = shares

    blue = -np.log(WAVELENGTHS / 560.0)
    air = np.clip(colour @ step / (step @ step), WARMEST, 6.0)[:, None] * blue
    leaf = FOLIAGE_SHAPES[0] + (colour - FOLIAGE_CHROMATICITY) @ FOLIAGE_SHAPES[1:]
    natural = MEAN_SHARE * _saturation(target)[:, None] * mean
    green = natural + FOLIAGE_SEEN * (leaf - natural)
    centre = rest * natural + foliage * green + sky * air
    return _Expected(centre, shares, leaf, air)


@dataclass(frozen=True)
class Recovered:
    """Spectra of colours, and what else they may be."""

    spectra: NDArray[np.float64]  # (N, 53) the most probable
    kinds: NDArray[np.float64]  # (3, N, 53) as anything else, as foliage, as sky
    shares: NDArray[np.float64]  # (3, N) how probable each of these is


def recover(rgb: NDArray[np.floating]) -> NDArray[np.float64]:
    """Reflectance-like spectra (N, 53) of linear BT.2020 colours (N, 3).

    Spectra scale with the colour: twice the colour, twice the spectrum. Values may pass 1,
    since a capture is lit unevenly. Components below a thousandth of their sum are raised
    to that. Raises ValueError for a colour that is not positive in sum.
    """
    return recover_kinds(rgb).spectra


def recover_kinds(rgb: NDArray[np.floating]) -> Recovered:
    """The same with the spectra that colours would have as each kind of thing, which differ beyond
    the red edge."""
    colour = np.asarray(rgb, dtype=np.float64)
    total = colour.sum(axis=1, keepdims=True)
    if not np.all(total > 0):
        raise ValueError("recover: each colour needs a positive sum of its three components")
    target = _target(colour)

    responses = rgb_responses()
    covariance = _prior()[1]
    expected = _expected(target)
    centre = expected.centre

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
    edge = beyond_red()
    body = np.maximum(logs.max(axis=1, keepdims=True) - logs, 0.0)
    green = np.log(target[:, 1:2])
    as_kinds = np.stack([logs + BODY * body, expected.leaf + green, expected.air + green])
    logs_by_kind = logs + edge * (as_kinds - logs)
    rest, *known = expected.shares
    logs += edge * rest * BODY * body
    logs += edge * sum(p * (a - logs) for p, a in zip(known, as_kinds[1:], strict=True))
    reached = (np.exp(logs) @ responses.T).sum(axis=1, keepdims=True)
    scale = total / reached
    return Recovered(np.exp(logs) * scale, np.exp(logs_by_kind) * scale, expected.shares[..., 0])


def spread_of(spectra: NDArray[np.float64]) -> NDArray[np.float64]:
    """(N, 53, 3) what a colour's three numbers take from the spread of ln R at these spectra:
    its covariance is `prior_covariance` less this times its transpose."""
    covariance = prior_covariance()
    slope = rgb_responses()[None] * spectra[:, None, :]
    taken = slope @ covariance  # (N, 3, 53)
    gain = taken @ slope.transpose(0, 2, 1)
    gain = gain + 1e-12 * np.trace(gain, axis1=1, axis2=2)[:, None, None] * np.eye(3)
    return np.asarray(np.linalg.solve(np.linalg.cholesky(gain), taken).transpose(0, 2, 1))


def prior_covariance() -> NDArray[np.float64]:
    """(53, 53) covariance of ln R before a colour is known."""
    return _prior()[1]
