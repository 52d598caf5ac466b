"""The tone curve that a camera lays on a picture as it renders a file, taken back.

A finished file holds what the camera made of the light for a screen: contrast raised about the
middle, highlights bent to fit. Film has a curve of its own and wants the light. Which curve a
camera laid is not written down; a typical one is taken back, by an amount: that of Naka and Rushton
(1966), display = M xⁿ / (xⁿ + kⁿ), that leaves middle grey where it is. Its two figures are common
practice, no source: middle tones steeper by a quarter, and nearly four stops from grey to white.
"""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..picture import U16, Layer, LinearPicture, View
from ..station import Station

GREY = 0.18
MOST = 1.1  # display light that no scene reaches
STEEPNESS = 1.5
TYPICAL = 0.6  # amount by which a proposed print takes it back

Floats = NDArray[np.float64]


def rendered(scene: Floats) -> Floats:
    """What a typical camera shows of scene light, both with middle grey at 0.18."""
    power = (np.asarray(scene, np.float64) / GREY) ** STEEPNESS
    return np.asarray(MOST * power / (power + MOST / GREY - 1.0))


def taken_back(shown: Floats, amount: float) -> Floats:
    """Scene light of what a camera shows, 0 to 1: as it is at 0, all of a typical curve taken back
    at 1, and in between by a part of the stops."""
    light = np.asarray(shown, np.float64)
    power = light * (MOST / GREY - 1.0) / (MOST - light)
    scene = GREY * power ** (1.0 / STEEPNESS)
    return np.asarray(light ** (1.0 - amount) * scene**amount)


@lru_cache(maxsize=4)
def _codes(scale: float, amount: float) -> tuple[U16, float]:
    """(65536,) codes of the light behind each code of a picture, and their scale."""
    codes = np.arange(65536)
    shown = np.minimum(codes * scale, 1.0)
    light = taken_back(shown, amount)
    # what is brighter than a screen's white keeps its stops beyond it
    light *= np.maximum(codes * scale, 1.0)
    out = float(light[-1] / 65535.0)
    return np.rint(light / out).astype(np.uint16), out


class StraightPicture(Layer):
    """A picture with its camera's curve taken back as it is cut."""

    def __init__(self, picture: LinearPicture, amount: float) -> None:
        self._codes, scale = _codes(picture.scale, amount)
        super().__init__(picture, scale)
        red, green, blue = (float(self._codes[min(int(c), 65535)]) for c in picture.limits)
        self.limits = red, green, blue

    def cut(self, view: View) -> U16:
        """The light of a view, (out_height, out_width, 3)."""
        return self._codes[self._picture.cut(view)]

    def patch(self, left: int, top: int, side: int) -> U16:
        """A square of the largest level."""
        return self._codes[self._picture.patch(left, top, side)]


class CameraCurve(Station):
    """The capture with what its camera laid over it taken back."""

    reads = ("capture.camera_curve",)

    @property
    def is_plain(self) -> bool:
        """Whether the file is taken as it is."""
        return not self.recipe.capture.camera_curve

    def over(self, picture: LinearPicture) -> LinearPicture:
        """A picture without that curve."""
        return StraightPicture(picture, self.recipe.capture.camera_curve)
