"""Colour arithmetic that several stations need.

Arrays are of any shape; where they hold colours, the last axis is red, green, blue.
"""

from typing import Any

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

# Linear BT.2020 to XYZ, D65: ITU-R BT.2020
BT2020_TO_XYZ = np.array(
    [[0.636958, 0.144617, 0.168881], [0.262700, 0.677998, 0.059302], [0.0, 0.028073, 1.060985]]
)
# Linear BT.2020 to linear sRGB, both D65: ITU-R BT.2087
BT2020_TO_SRGB = np.array(
    [[1.6605, -0.5876, -0.0728], [-0.1246, 1.1329, -0.0083], [-0.0182, -0.1006, 1.1187]]
)
SRGB_LUMINANCE = np.array([0.2126, 0.7152, 0.0722])  # of linear sRGB: IEC 61966-2-1


def encode_srgb(linear: Floats) -> Floats:
    """Display value 0-1 of linear light 0-1. Source: IEC 61966-2-1."""
    low = linear <= 0.0031308
    return np.asarray(
        np.where(low, 12.92 * linear, 1.055 * np.maximum(linear, 1e-9) ** (1 / 2.4) - 0.055)
    )


def decode_srgb(shown: Floats) -> Floats:
    """Linear light 0-1 of display values 0-1; inverse of `encode_srgb`."""
    return np.asarray(np.where(shown <= 0.04045, shown / 12.92, ((shown + 0.055) / 1.055) ** 2.4))


def lightness_of(luminance: Floats) -> Floats:
    """L* 0-100 of relative luminance 0-1. Source: CIE 15."""
    y = np.asarray(luminance)
    return np.asarray(np.where(y > 216 / 24389, 116.0 * np.cbrt(y) - 16.0, y * 24389 / 27))


def luminance_of(lightness: Floats) -> Floats:
    """Relative luminance 0-1 of L* 0-100; inverse of `lightness_of`."""
    found = np.asarray(lightness)
    return np.asarray(np.where(found > 8.0, ((found + 16.0) / 116.0) ** 3, found * 27 / 24389))


def lab_of(xyz: Floats) -> Floats:
    """CIELAB (..., 3) of XYZ in parts of the white's. Source: CIE 15."""
    f = (lightness_of(np.maximum(xyz, 0.0)) + 16.0) / 116.0
    x, y, z = np.moveaxis(f, -1, 0)
    return np.stack([116.0 * y - 16.0, 500.0 * (x - y), 200.0 * (y - z)], axis=-1)


def xyz_of(lab: Floats) -> Floats:
    """XYZ in parts of the white's, (..., 3); inverse of `lab_of`."""
    lightness, a, b = np.moveaxis(np.asarray(lab), -1, 0)
    y = (lightness + 16.0) / 116.0
    f = np.stack([y + a / 500.0, y, y - b / 200.0], axis=-1)
    return luminance_of(116.0 * f - 16.0)


def smooth_step(values: NDArray[Any] | float, start: float = 0.0, stop: float = 1.0) -> Floats:
    """0 before `start`, 1 past `stop`, level at both: 3 x² - 2 x³ between; single precision stays
    what it is."""
    given = np.asarray(values)
    given = given if given.dtype == np.float32 else given.astype(np.float64)
    x = np.clip((given - float(start)) * (1.0 / float(stop - start)), 0.0, 1.0)
    return np.asarray(x * x * (3.0 - 2.0 * x))
