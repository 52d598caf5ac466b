"""Choices in the print: holds, black and white point, mid point, print curve, lifts by value.

They act on density above the base, from 0 to the paper's maximum, after the paper's own curve:
first the holds, then the points, then what is asked for in print values. A print value is L*/10
(CIE 15) of the print between its black and its base.
"""

import numpy as np
from numpy.typing import NDArray

from ..colour import lightness_of, luminance_of
from ..later import interpolate
from .settings import PaperSettings

Floats = NDArray[np.float64]
HOLD_LIGHT, HOLD_DARK = 0.45, 0.7  # net densities from the ends within which holds act
HOLD_POWER = 0.45  # by which the scale is bent there, at full hold
FINEST = 6  # decimals of what is drawn or lifted: steps of next to nothing have no slope
VALUES = np.linspace(0.0, 10.0, 1001)
MID_STRENGTH = 1.6  # stops of slope at the dark end, at full mid point


def is_plain(settings: PaperSettings) -> bool:
    """Whether nothing of it is asked for."""
    s = settings
    return (
        s.black_at >= 1.0
        and not (s.white_at or s.hold_highlights or s.hold_shadows)
        and not reshapes(s)
    )


def reshapes(settings: PaperSettings) -> bool:
    """Whether print values are moved."""
    return bool(settings.mid_point or settings.curve or any(settings.value_lift))


def value_of(net: Floats, most: float) -> Floats:
    """Print value 0 to 10 of net density; `most` is the paper's maximum."""
    black = 10.0**-most
    y = np.clip((10.0**-net - black) / (1.0 - black), 0.0, 1.0)
    return lightness_of(y) / 10.0


def net_of(value: Floats, most: float) -> Floats:
    """Net density of print values; inverse of `value_of`."""
    black = 10.0**-most
    y = luminance_of(10.0 * value)
    return np.asarray(-np.log10(np.clip(y, 0.0, 1.0) * (1.0 - black) + black))


def value_line(settings: PaperSettings) -> Floats:
    """(1001,) the value wanted for each of VALUES; never falling."""
    line = VALUES.copy()
    if settings.mid_point:
        k = 2.0 ** (MID_STRENGTH * settings.mid_point) - 1.0
        x = line / 10.0
        line = 10.0 * x * (1.0 + k) / (1.0 + k * x)
    if settings.curve:
        x, y = np.round(np.array(settings.curve).T, FINEST)
        x, first = np.unique(x, return_index=True)
        y = y[first]
        if x[0] > 0.0:
            x, y = np.r_[0.0, x], np.r_[min(0.0, y[0]), y]
        if x[-1] < 10.0:
            x, y = np.r_[x, 10.0], np.r_[y, max(10.0, y[-1])]
        line = np.asarray(interpolate.PchipInterpolator(x, y)(line))
    if any(settings.value_lift):
        lift = interpolate.PchipInterpolator(np.arange(11.0), np.round(settings.value_lift, FINEST))
        line = line + lift(line)
    return np.asarray(np.maximum.accumulate(np.clip(line, 0.0, 10.0)))


def finished(net: Floats, most: float, settings: PaperSettings) -> Floats:
    """Net density of the print with all choices, of the paper's own net density."""
    if is_plain(settings):
        return net
    net = np.clip(net, 0.0, most)
    if settings.hold_highlights:
        power = 1.0 - HOLD_POWER * settings.hold_highlights
        light = net < HOLD_LIGHT
        net = np.where(light, HOLD_LIGHT * (net / HOLD_LIGHT) ** power, net)
    if settings.hold_shadows:
        power = 1.0 - HOLD_POWER * settings.hold_shadows
        left = most - net
        net = np.where(left < HOLD_DARK, most - HOLD_DARK * (left / HOLD_DARK) ** power, net)
    if settings.white_at > 0.0 or settings.black_at < 1.0:
        span = settings.black_at - settings.white_at
        net = most * np.clip((net / most - settings.white_at) / span, 0.0, 1.0)
    if reshapes(settings):
        value = np.interp(value_of(net, most), VALUES, value_line(settings))
        net = net_of(value, most)
    return np.asarray(net)


def points_for(
    counts: Floats, densities: Floats, most: float, black: float, white: float
) -> tuple[float, float]:
    """White and black point that let those shares of the picture reach bare paper and full black:
    parts of the paper's density, of how often (N,) net densities (N,), rising, are printed."""
    share = np.cumsum(counts) / max(counts.sum(), 1)
    lightest = densities[min(int(np.searchsorted(share, white, side="right")), len(share) - 1)]
    darkest = densities[min(int(np.searchsorted(share, 1.0 - black)), len(share) - 1)]
    white_at = float(np.clip(lightest / most, 0.0, 0.4))
    black_at = float(np.clip(darkest / most, max(0.5, white_at + 0.2), 1.0))
    return white_at, black_at
