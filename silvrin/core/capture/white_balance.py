"""White balance: what the colour of the light is taken to be, on top of the camera's own."""

from copy import copy
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from ..colour import BT2020_TO_XYZ
from ..picture import LinearPicture
from ..spectra.illuminants import light, rgb_responses
from ..station import Station
from .settings import CaptureSettings

AS_SHOT = 6500.0  # K: the white that a capture's neutral is mapped to
TINT = 0.25  # of green, at full tint


def gains(settings: CaptureSettings) -> tuple[float, float, float]:
    """What red, green and blue of a capture are multiplied by; their mean over a grey stays 1.

    Warmth is a shift in mired (10⁶ / K) from daylight of 6500 K, along the lights of CIE 224; to
    cool is the inverse. Tint goes across it. A picked area becomes neutral, whatever warmth says.
    """
    if settings.infrared:
        return 1.0, 1.0, 1.0
    if settings.balance is not None:
        wanted = 1.0 / np.array(settings.balance)
    elif settings.warmth or settings.tint:
        kelvin = 1e6 / (1e6 / AS_SHOT + abs(settings.warmth))
        warmed = rgb_responses_of(kelvin) / rgb_responses_of(AS_SHOT)
        wanted = warmed if settings.warmth >= 0 else 1.0 / warmed
        wanted = wanted * np.array([1.0, 1.0 - TINT * settings.tint, 1.0])
    else:
        return 1.0, 1.0, 1.0
    red, green, blue = wanted / wanted.mean()
    return float(red), float(green), float(blue)


class Balancing(Station):
    """The capture under another white balance."""

    reads = ("capture.infrared", "capture.balance", "capture.warmth", "capture.tint")

    @cached_property
    def gains(self) -> tuple[float, float, float]:
        """What red, green and blue are multiplied by."""
        return gains(self.recipe.capture)

    @property
    def is_plain(self) -> bool:
        """Whether the balance stays as shot."""
        return self.gains == (1.0, 1.0, 1.0)

    def over(self, picture: LinearPicture) -> LinearPicture:
        """A picture with that balance."""
        found = copy(picture)
        found.gains = self.gains
        return found


def rgb_responses_of(kelvin: float) -> np.ndarray:
    """(3,) linear BT.2020 of a white in light of a temperature, seen by an eye used to D65."""
    daylight = light(AS_SHOT)
    return np.asarray(rgb_responses() @ (light(kelvin) / np.maximum(daylight, 1e-9)))


MIREDS = np.arange(80.0, 520.0, 2.0)  # 12500 K to 1930 K


def temperature_of(rgb: NDArray[np.float64]) -> float | None:
    """Correlated colour temperature (K) of a light by its linear BT.2020, relative to D65: of the
    lights of CIE 224 the one nearest in the CIE 1960 diagram (CIE 15). None when it is too far from
    all of them to have one (0.05 in u, v)."""
    place = _uv(np.maximum(np.asarray(rgb, np.float64), 1e-9)[None])[0]
    away = np.hypot(*(_locus() - place).T)
    index = int(np.argmin(away))
    if away[index] > 0.05:
        return None
    if not 0 < index < len(MIREDS) - 1:
        return float(1e6 / MIREDS[index])
    before, here, after = away[index - 1 : index + 2] ** 2
    shift = 0.5 * (before - after) / (before - 2.0 * here + after)
    return float(1e6 / (MIREDS[index] + shift * (MIREDS[1] - MIREDS[0])))


@lru_cache(maxsize=1)
def _locus() -> NDArray[np.float64]:
    return _uv(np.stack([rgb_responses_of(1e6 / mired) for mired in MIREDS]))


def _uv(rgb: NDArray[np.float64]) -> NDArray[np.float64]:
    """(N, 2) CIE 1960 u, v of linear BT.2020 (N, 3)."""
    x, y, z = (rgb @ BT2020_TO_XYZ.T).T
    total = x + 15.0 * y + 3.0 * z
    return np.stack([4.0 * x / total, 6.0 * y / total], axis=-1)
