"""Logarithm and power, in operations that a processor does side by side."""

import numpy as np
from numba import njit

from .run import OPTIONS


@njit(inline="always", **OPTIONS)
def log2_of(x):
    """log2 of a positive float32 within 1.1e-6, in operations a processor does side by side:
    the exponent, and of the mantissa the series 2 / ln 2 * artanh((m - 1) / (m + 1))."""
    bits = np.float32(x).view(np.int32)
    exponent = (bits - np.int32(0x3F3504F3)) >> np.int32(23)
    mantissa = np.int32(bits - (exponent << np.int32(23))).view(np.float32)
    s = (mantissa - np.float32(1.0)) / (mantissa + np.float32(1.0))
    q = s * s
    series = np.float32(0.577078016) + q * np.float32(0.412198583)
    series = np.float32(2.885390082) + q * (np.float32(0.961796694) + q * series)
    return np.float32(exponent) + s * series


@njit(inline="always", **OPTIONS)
def exp2_of(x):
    """2 to the power of a float32 from -126 to 127 within 1e-7 of it: exponent and series."""
    whole = np.floor(x + np.float32(0.5))
    f = x - whole
    series = np.float32(0.00133335581) + f * np.float32(0.000154035304)
    series = np.float32(0.0555041087) + f * (np.float32(0.00961812911) + f * series)
    series = np.float32(0.693147181) + f * (np.float32(0.240226507) + f * series)
    power = np.int32((np.int32(whole) + np.int32(127)) << np.int32(23)).view(np.float32)
    return power * (np.float32(1.0) + f * series)
