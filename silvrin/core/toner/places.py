"""What the toner does at one place and not at another: passes of the printing map that keep it off,
warm or cool, and the capture's own colour let back.

All of it leaves lightness as it is: colours are mixed in linear light at the luminance of the
print, and one that sRGB does not hold is taken towards the grey as light as it is.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..colour import BT2020_TO_SRGB, SRGB_LUMINANCE, decode_srgb, encode_srgb
from ..enlarger.shapes import TONER_EFFECTS
from ..light.hue_bands import hue_of, weight
from ..spectra.chromaticity import SIZE
from ..station import Station
from .colours import lab_of, srgb_of
from .toning import STEPS, Toning

F32 = NDArray[np.float32]
WARM = np.array([2.0, 14.0])  # a*, b* that a pass adds to a middle tone, at most
ENCODING = encode_srgb(np.linspace(0.0, 1.0, 4097) ** 2).astype(np.float32)  # over roots of light
NOWHERE = np.zeros((len(TONER_EFFECTS), 1, 1), np.float32)
COLOURLESS = np.zeros((1, 1, 3), np.float32)


class ToningByPlace(Station):
    """Tables for toning places apart."""

    reads = ("toner.capture_colour", "toner.colour_bands")
    builds_on = (Toning,)

    @property
    def lets_colour(self) -> bool:
        """Whether the capture's colour is let back, over all or by hue."""
        toner = self.recipe.toner
        return bool(toner.capture_colour or any(band.back for band in toner.colour_bands))

    @cached_property
    def scale(self) -> F32:
        """(STEPS, 7) over the print's encoded light: linear sRGB as toned, the luminance as it is
        untoned, and what a pass that warms adds to red, green and blue."""
        light = decode_srgb(np.linspace(0.0, 1.0, STEPS))
        toned = self.of(Toning).at(light)
        if toned.ndim == 1:
            toned = np.repeat(toned[:, None], 3, axis=1)
        lab = lab_of(toned)
        middle = 4.0 * lab[:, 0] / 100.0 * (1.0 - lab[:, 0] / 100.0)
        warmer = lab.copy()
        warmer[:, 1:] += np.clip(middle, 0.0, 1.0)[:, None] * WARM
        added = srgb_of(warmer) - toned
        added -= (added @ SRGB_LUMINANCE)[:, None]
        return np.concatenate([toned, light[:, None], added], axis=1).astype(np.float32)

    @cached_property
    def shares(self) -> F32:
        """(SIZE, SIZE) how much of its colour a chromaticity of the capture has let back."""
        toner = self.recipe.toner
        red, green = np.meshgrid(*2 * (np.linspace(0.0, 1.0, SIZE),))
        rgb = np.stack([red, green, np.maximum(1.0 - red - green, 0.0)], axis=-1)
        hue, _ = hue_of(np.maximum(rgb, 1e-6))
        shares = toner.capture_colour + sum(
            (band.back * weight(band, hue) for band in toner.colour_bands), np.zeros_like(hue)
        )
        return np.asarray(np.clip(shares, 0.0, 1.0), np.float32)

    def toned(self, light: F32, by_place: "ByPlace") -> F32:
        """Encoded light (H, W), 0 to 1, of the print before it is toned, as encoded sRGB
        (H, W, 3)."""
        out = np.empty((*light.shape, 3), np.float32)
        kernels.by_rows(
            kernels.tone_places, len(light), light, by_place.coded, by_place.maps, self.scale,
            self.shares, BT2020_TO_SRGB.astype(np.float32), ENCODING, out,
        )  # fmt: skip
        return out


@dataclass(frozen=True)
class ByPlace:
    """What is other at the places of a plate: what passes change of the toner (3, H, W) by
    TONER_EFFECTS, and the capture's coded light (H, W, 3); of one pixel where there is none."""

    maps: F32
    coded: F32

    def part(self, rows: slice, columns: slice) -> "ByPlace":
        """The same of a part of the plate."""
        maps = self.maps if self.maps is NOWHERE else self.maps[:, rows, columns]
        coded = self.coded if self.coded is COLOURLESS else self.coded[rows, columns]
        return ByPlace(np.ascontiguousarray(maps), np.ascontiguousarray(coded))
