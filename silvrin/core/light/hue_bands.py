"""Hue bands: how bright each hue prints beside what light, glass and film make of it; and colours
moved before the film sees them.

Hue is the angle of CIE 1976 u', v' about white, saturation s_uv = 13 times the distance (CIE 15):
both depend on chromaticity alone, so bands, separation and shift go into the chromaticity table.
Greys have no hue and stay.

Colours are spread along the two axes that white balance is told by: blue and yellow lie along the
locus of daylight, green and magenta across it.
"""

from functools import lru_cache
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from ..colour import BT2020_TO_XYZ
from .settings import HueBand

D65, D55 = (0.19783, 0.46833), (0.20443, 0.48075)  # u', v' of CIE daylights (CIE 15)

COLOURED = 0.25  # saturation at which a colour is well on its way to being one
FROM_XYZ = np.linalg.inv(BT2020_TO_XYZ)

Floats = NDArray[np.float64]


def _uv(rgb: Floats) -> Floats:
    """u', v' (…, 2) of linear BT.2020 (…, 3)."""
    x, y, z = np.moveaxis(np.asarray(rgb, np.float64) @ BT2020_TO_XYZ.T, -1, 0)
    below = np.maximum(x + 15.0 * y + 3.0 * z, 1e-12)
    return np.stack([4.0 * x / below, 9.0 * y / below], axis=-1)


@lru_cache(maxsize=1)
def _white() -> Floats:
    return _uv(np.ones(3))


def hue_of(rgb: Floats) -> tuple[Floats, Floats]:
    """Hue in degrees from 0 to 360 and saturation s_uv of linear BT.2020 colours (…, 3)."""
    du, dv = np.moveaxis(_uv(rgb) - _white(), -1, 0)
    return np.degrees(np.arctan2(dv, du)) % 360.0, 13.0 * np.hypot(du, dv)


class Hues(Protocol):
    """A range of hues with soft ends."""

    @property
    def centre(self) -> float:
        """Degrees."""

    @property
    def width(self) -> float:
        """Degrees, from half to half."""

    @property
    def softness(self) -> float:
        """0 to 1."""


def weight(band: Hues, hue: Floats) -> Floats:
    """0 to 1: how far a hue belongs to a band. Half at half the width from its centre; the soft
    edge is a half wave of a cosine."""
    away = np.abs((np.asarray(hue) - band.centre + 180.0) % 360.0 - 180.0)
    half = band.width / 2.0
    along = (away - half * (1.0 - band.softness)) / (2.0 * half * band.softness)
    return np.asarray(0.5 + 0.5 * np.cos(np.pi * np.clip(along, 0.0, 1.0)))


def shares(bands: tuple[HueBand, ...], hue: Floats) -> Floats:
    """(bands, …) the part that each has in a hue; where they overlap by more than one whole,
    they share it."""
    if not bands:
        return np.zeros((0, *np.shape(hue)))
    weights = np.stack([weight(band, hue) for band in bands])
    return np.asarray(weights / np.maximum(weights.sum(axis=0), 1.0))


def stops_by_hue(bands: tuple[HueBand, ...], hue: Floats) -> Floats:
    """Stops that fully saturated colours of these hues gain."""
    return np.asarray(np.tensordot([band.stops for band in bands], shares(bands, hue), 1))


def coloured(saturation: Floats) -> Floats:
    """0 for greys to 1: how far bands act on a colour of this saturation."""
    return np.asarray(1.0 - np.exp(-((saturation / COLOURED) ** 2)))


def _turning(degrees: float) -> Floats:
    turn = np.radians(degrees)
    return np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])


def moved(
    rgb: Floats, degrees: float, green_magenta: float = 0.0, blue_yellow: float = 0.0
) -> Floats:
    """Colours (N, 3) of the same luminance, spread along two axes (0 leaves them as they are, 1 is
    twice as far from grey, -1 none), then with their hue turned; components that would be negative
    become none."""
    luminance = rgb @ BT2020_TO_XYZ[1]
    along = _turning(float(np.degrees(np.arctan2(D55[1] - D65[1], D55[0] - D65[0]))))
    spread = along @ np.diag([1.0 + blue_yellow, 1.0 + green_magenta]) @ along.T
    about = _turning(degrees) @ spread
    u, v = np.moveaxis((_uv(rgb) - _white()) @ about.T + _white(), -1, 0)
    v = np.maximum(v, 1e-3)
    x, z = 9.0 * u / (4.0 * v), (12.0 - 3.0 * u - 20.0 * v) / (4.0 * v)
    xyz = luminance[:, None] * np.stack([x, np.ones_like(x), z], axis=-1)
    return np.asarray(np.maximum(xyz @ FROM_XYZ.T, 0.0))


def colour_of_hue(degrees: float, away: float = 0.07) -> Floats:
    """(3,) linear BT.2020 of a colour of a hue, so far from white in u', v'; its luminance is 1."""
    turn = np.radians(degrees)
    u, v = _white() + away * np.array([np.cos(turn), np.sin(turn)])
    xyz = np.array([9.0 * u / (4.0 * v), 1.0, (12.0 - 3.0 * u - 20.0 * v) / (4.0 * v)])
    return np.asarray(np.maximum(xyz @ FROM_XYZ.T, 0.0))
