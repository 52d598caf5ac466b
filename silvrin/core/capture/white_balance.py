"""White balance: what the colour of the light is taken to be, on top of the camera's own."""

import numpy as np

from ..recipe import CaptureSettings
from ..spectra.illuminants import light, rgb_responses

AS_SHOT = 6500.0  # K: the white that a capture's neutral is mapped to
TINT = 0.25  # of green, at full tint


def gains(settings: CaptureSettings) -> tuple[float, float, float]:
    """What red, green and blue of a capture are multiplied by; their mean over a grey stays 1.

    Warmth is a shift in mired (10⁶ / K) from daylight of 6500 K, along the lights of CIE 224; tint
    goes across it. A picked area becomes neutral, whatever warmth says.
    """
    if settings.infrared:
        return 1.0, 1.0, 1.0
    if settings.balance is not None:
        wanted = 1.0 / np.array(settings.balance)
    elif settings.warmth or settings.tint:
        kelvin = 1e6 / (1e6 / AS_SHOT + settings.warmth)
        wanted = (rgb_responses_of(kelvin) / rgb_responses_of(AS_SHOT)) * np.array(
            [1.0, 1.0 - TINT * settings.tint, 1.0]
        )
    else:
        return 1.0, 1.0, 1.0
    red, green, blue = wanted / wanted.mean()
    return float(red), float(green), float(blue)


def rgb_responses_of(kelvin: float) -> np.ndarray:
    """(3,) linear BT.2020 of a white in light of a temperature, seen by an eye used to D65."""
    daylight = light(AS_SHOT)
    return np.asarray(rgb_responses() @ (light(kelvin) / np.maximum(daylight, 1e-9)))
