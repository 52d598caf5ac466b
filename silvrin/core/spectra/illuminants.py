"""Spectral power of the light on the subject."""

from functools import lru_cache

import numpy as np

from .grid import WAVELENGTHS, Spectrum, extend
from .tables import COLOUR_MATCHING, DAYLIGHT_COMPONENTS

PLANCK_C2 = 1.4388e-2  # m K, as CIE 15 uses it
DAYLIGHT_C2_RATIO = 1.4388 / 1.4380  # D series temperatures were named under the older c2

_S0, _S1, _S2 = (extend(row) for row in DAYLIGHT_COMPONENTS)


def planck(temperature: float) -> Spectrum:
    """Black body radiation, relative power (53,), 1 at 560 nm. Source: CIE 15."""

    def power(nm: Spectrum | float) -> Spectrum:
        metres = np.asarray(nm) * 1e-9
        return metres**-5.0 / np.expm1(PLANCK_C2 / (metres * temperature))

    return power(WAVELENGTHS) / power(560.0)


def daylight(temperature: float) -> Spectrum:
    """CIE daylight of 4000-25000 K, relative power (53,), 1 at 560 nm. Source: CIE 15.

    Beyond 830 nm, where the tables of the series end, their last value is held.
    """
    t = temperature
    if t <= 7000:
        x = -4.6070e9 / t**3 + 2.9678e6 / t**2 + 0.09911e3 / t + 0.244063
    else:
        x = -2.0064e9 / t**3 + 1.9018e6 / t**2 + 0.24748e3 / t + 0.237040
    y = -3.0 * x * x + 2.870 * x - 0.275
    m = 0.0241 + 0.2562 * x - 0.7341 * y
    m1 = (-1.3515 - 1.7703 * x + 5.9114 * y) / m
    m2 = (0.0300 - 31.4424 * x + 30.0717 * y) / m
    return (_S0 + m1 * _S1 + m2 * _S2) / 100.0


def light(temperature: float) -> Spectrum:
    """Lamp light or daylight of a temperature in K, relative power (53,), luminance 1.

    A black body up to 4000 K, CIE daylight from 5000 K, and between them a proportional
    mixture of equal luminance: the family of reference illuminants of CIE 224:2017.
    """
    share = float(np.clip((temperature - 4000.0) / 1000.0, 0.0, 1.0))
    power = np.zeros_like(WAVELENGTHS)
    if share < 1.0:
        power += (1.0 - share) * _unit_luminance(planck(temperature))
    if share > 0.0:
        power += share * _unit_luminance(daylight(temperature))
    return power


def _unit_luminance(power: Spectrum) -> Spectrum:
    visible = COLOUR_MATCHING[1]
    return np.asarray(power / (power[: len(visible)] @ visible))


@lru_cache(maxsize=1)
def rgb_responses() -> np.ndarray:
    """(3, 53): linear BT.2020 of a reflectance R seen under D65 is this matrix times R.

    Rows sum to one, so a perfect white reads (1, 1, 1). Source: CIE 15, ITU-R BT.2020.
    """
    primaries = np.array([[0.708, 0.292], [0.170, 0.797], [0.131, 0.046]])
    xyz = np.stack([[x / y, 1.0, (1.0 - x - y) / y] for x, y in primaries], axis=1)
    matching = np.zeros((3, len(WAVELENGTHS)))
    matching[:, : COLOUR_MATCHING.shape[1]] = COLOUR_MATCHING
    weighted = matching * daylight(6500.0 * DAYLIGHT_C2_RATIO)
    responses = np.linalg.inv(xyz) @ weighted
    return np.asarray(responses / responses.sum(axis=1, keepdims=True))
