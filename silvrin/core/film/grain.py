"""Grain: fluctuation of density in the negative, sized in micrometres on the film.

Density fluctuates about its mean as a Gaussian field. Its strength follows from the stock's rms
granularity (1000 times the standard deviation at density 1.0 above base through a circular
aperture of 48 µm: ISO 10505), by Selwyn's law (1935): standard deviation times the root of the
aperture's area is constant. It grows as the root of the density (Nutting 1913: density is the
number of grains times their area; numbers fluctuate as their root).

Cubic grains differ in size and clump, tabular ones lie more evenly: a part of the field, by its
power, has twice the spread and the rest so much less that the mean stays (textbook; the shares
are common practice, no source).

The field is one tile of noise at the capture's own pixels, laid edge to edge and fixed by a seed.
A smaller view takes the tile averaged over the areas its pixels cover, so that a preview has the
grain of the reduced print.
"""

from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels

F32 = NDArray[np.float32]

APERTURE = 48.0  # µm, diameter
SIDE = 2048  # pixels of the tile
SMALLEST = 64  # side to which it is reduced at most
SEED = 1839
CLUMP = 2.0  # × the mean spread
CLUMPED = {"cubic": 0.25, "tabular": 0.05}  # share of the field's power in clumps
MOST_CLUMPED = 0.8
SOFTEST = 2.0  # × by which softness widens a grain


@dataclass(frozen=True)
class Grain:
    """Grains of a stock: two spreads, µm or pixels, and the share of power in the wider one."""

    fine: float
    clump: float
    clumped: float

    def in_pixels(self, size: float) -> "Grain":
        """With spreads so many times as large."""
        return Grain(self.fine * size, self.clump * size, self.clumped)


def grain_of(spread: float, kind: str, evenness: float = 0.0) -> Grain:
    """Of a stock with that mean spread and kind, made more (1) or less (-1) even by hand."""
    own = CLUMPED[kind]
    fine = spread * (1.0 - CLUMP * own) / (1.0 - own)
    share = own * (1.0 - evenness) if evenness >= 0 else own + (MOST_CLUMPED - own) * -evenness
    return Grain(fine, CLUMP * spread, share)


def strength(granularity: float, grain: Grain, pitch: float) -> float:
    """Standard deviation of density at 1.0 above base over square pixels of this pitch, µm, of
    the white noise that reads as this rms granularity once grains, µm, blur it.

    What a Gaussian blur leaves of a reading through the aperture is the mean of its overlap with
    itself, shifted as two such blurs shift it.
    """
    white = granularity / 1000.0 * np.sqrt(np.pi / 4.0) * APERTURE / pitch
    left = (1.0 - grain.clumped) * _left(grain.fine) + grain.clumped * _left(grain.clump)
    return float(white / np.sqrt(left))


@lru_cache(maxsize=64)
def _left(grain: float) -> float:
    """Share of white noise's variance that an aperture still reads after a Gaussian blur."""
    shift = np.linspace(0.0, APERTURE, 2001)
    part = shift / APERTURE
    overlap = 2.0 / np.pi * (np.arccos(part) - part * np.sqrt(1.0 - part * part))
    wide = max(2.0 * grain * grain, 1e-9)  # variance of the shift along each axis
    weight = shift / wide * np.exp(-(shift**2) / (2.0 * wide))
    return float(np.trapezoid(overlap * weight, shift))


@lru_cache(maxsize=1)
def _white() -> list[F32]:
    """Two tiles of noise that know nothing of each other: for grains, and for their clumps."""

    def drawn(seed: int) -> F32:
        return np.random.default_rng(seed).standard_normal((SIDE, SIDE), np.float32)

    return kernels.at_once(lambda: drawn(SEED), lambda: drawn(SEED + 1))


def _blurred(noise: F32, spread: float) -> F32:
    if spread <= 0.2:
        return noise
    edge = min(int(np.ceil(4 * spread)) + 1, SIDE - 1)
    around = np.pad(noise, edge, mode="wrap")
    soft = cv2.GaussianBlur(around, (0, 0), spread)
    return np.asarray(soft[edge:-edge, edge:-edge], np.float32)


@lru_cache(maxsize=4)  # up to 16 MB each
def tile(grain: Grain, reduction: float) -> F32:
    """(n, n) noise of mean power 1 a pixel at full size, blurred by grains (in full-size pixels),
    averaged over reduction × reduction pixels."""
    grains, clumps = _white()
    noise = _blurred(grains, grain.fine)
    if grain.clumped > 0.0:
        own, clumped = np.sqrt([1.0 - grain.clumped, grain.clumped]).astype(np.float32)
        noise = own * noise + clumped * _blurred(clumps, grain.clump)
    side = max(SMALLEST, int(SIDE / reduction))
    if side < SIDE:
        covered = min(SIDE, round(side * reduction))
        part = noise[:covered, :covered]
        noise = np.asarray(cv2.resize(part, (side, side), interpolation=cv2.INTER_AREA))
    return np.ascontiguousarray(noise)
