"""CIELAB of linear sRGB, and colours that it holds."""

import numpy as np
from numpy.typing import NDArray

from ..colour import SRGB_LUMINANCE, encode_srgb, xyz_of
from ..colour import lab_of as lab_of_xyz

Floats = NDArray[np.float64]

SRGB_TO_XYZ = np.array(
    [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]
)  # IEC 61966-2-1
WHITE = SRGB_TO_XYZ.sum(axis=1)


def lab_of(rgb: Floats) -> Floats:
    """CIELAB (N, 3) of linear sRGB (N, 3), to its white."""
    return lab_of_xyz(rgb @ SRGB_TO_XYZ.T / WHITE)


def srgb_of(lab: Floats) -> Floats:
    """Linear sRGB (N, 3) of CIELAB; inverse of `lab_of`."""
    return np.asarray(xyz_of(lab) * WHITE @ np.linalg.inv(SRGB_TO_XYZ).T)


def within(rgb: Floats) -> Floats:
    """Linear sRGB (N, 3) taken towards the grey as light as it is until sRGB holds it."""
    grey = np.clip(rgb @ SRGB_LUMINANCE, 0.0, 1.0)[:, None]
    over = (1.0 - grey) / np.maximum(rgb.max(axis=1, keepdims=True) - grey, 1e-9)
    under = grey / np.maximum(grey - rgb.min(axis=1, keepdims=True), 1e-9)
    keep = np.minimum(1.0, np.minimum(over, under))
    return np.asarray(np.clip(grey + keep * (rgb - grey), 0.0, 1.0))


def hex_of(rgb: Floats) -> list[str]:
    """Linear sRGB (N, 3) as #rrggbb."""
    numbers = np.rint(255.0 * encode_srgb(np.clip(rgb, 0.0, 1.0))).astype(int)
    return [f"#{r:02x}{g:02x}{b:02x}" for r, g, b in numbers]
