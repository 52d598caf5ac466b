"""Pixels through curves; grain; counting."""

import numpy as np
from numba import njit

from .run import OPTIONS


@njit("void(i8,i8,f4[:,::1],f4[:,::1],u4,u4,f4,f4)", **OPTIONS)
def add_grain(first, last, density, tile, top, left, base, strength):
    """Adds grain to density: noise of a tile laid from (top, left), as the root of density."""
    side, least = np.uint32(tile.shape[0]), np.float32(0.02)
    for y in range(first, last):
        row = (np.uint32(y) + top) % side
        column = left % side
        for x in range(density.shape[1]):
            net = max(density[y, x] - base, least)
            density[y, x] += strength * np.sqrt(net) * tile[row, column]
            column += np.uint32(1)
            if column == side:
                column = np.uint32(0)


@njit("void(i8,i8,f4[:,::1],f4[::1],f4,f4,f4[:,::1])", **OPTIONS)
def through_curve(first, last, values, curve, start, inverse_step, out):
    """A curve given as evenly spaced points, linear between, held at its ends."""
    end = np.float32(curve.shape[0] - 1)
    one, top = np.uint32(1), np.uint32(curve.shape[0] - 2)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = min(max((values[y, x] - start) * inverse_step, np.float32(0.0)), end)
            i = min(np.uint32(t), top)
            out[y, x] = curve[i] + (t - np.float32(i)) * (curve[i + one] - curve[i])


@njit("void(i8,i8,f4[:,::1],f4[::1],f4,f4,u2[:,::1])", **OPTIONS)
def through_curve_u16(first, last, values, curve, start, inverse_step, out):
    """A curve as in `through_curve`, to whole numbers."""
    end, half = np.float32(curve.shape[0] - 1), np.float32(0.5)
    one, top = np.uint32(1), np.uint32(curve.shape[0] - 2)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = min(max((values[y, x] - start) * inverse_step, np.float32(0.0)), end)
            i = min(np.uint32(t), top)
            value = curve[i] + (t - np.float32(i)) * (curve[i + one] - curve[i])
            out[y, x] = np.uint16(np.uint32(value + half))


@njit("void(i8,i8,f4[:,::1],u1[::1],f4,f4,u1[:,::1])", **OPTIONS)
def through_curve_u8(first, last, values, curve, start, inverse_step, out):
    """A curve of whole numbers, given so finely that the nearest point serves."""
    end, half = np.float32(curve.shape[0] - 1), np.float32(0.5)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = (values[y, x] - start) * inverse_step + half
            out[y, x] = curve[np.uint32(min(max(t, np.float32(0.0)), end))]


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4,f4,f4[:,:,::1])", **OPTIONS)
def through_colours(first, last, values, curve, start, inverse_step, out):
    """A curve (N, 3) as in `through_curve`, to three values a pixel."""
    end = np.float32(curve.shape[0] - 1)
    one, top = np.uint32(1), np.uint32(curve.shape[0] - 2)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = min(max((values[y, x] - start) * inverse_step, np.float32(0.0)), end)
            i = min(np.uint32(t), top)
            f = t - np.float32(i)
            for c in range(3):
                out[y, x, c] = curve[i, c] + f * (curve[i + one, c] - curve[i, c])


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4,f4,u2[:,:,::1])", **OPTIONS)
def through_colours_u16(first, last, values, curve, start, inverse_step, out):
    """The same, to whole numbers."""
    end, half = np.float32(curve.shape[0] - 1), np.float32(0.5)
    one, top = np.uint32(1), np.uint32(curve.shape[0] - 2)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = min(max((values[y, x] - start) * inverse_step, np.float32(0.0)), end)
            i = min(np.uint32(t), top)
            f = t - np.float32(i)
            for c in range(3):
                value = curve[i, c] + f * (curve[i + one, c] - curve[i, c])
                out[y, x, c] = np.uint16(np.uint32(value + half))


@njit("void(i8,i8,f4[:,::1],u1[:,::1],f4,f4,u1[:,:,::1])", **OPTIONS)
def through_colours_u8(first, last, values, curve, start, inverse_step, out):
    """A curve (N, 3) of whole numbers, given so finely that the nearest point serves."""
    end, half = np.float32(curve.shape[0] - 1), np.float32(0.5)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = (values[y, x] - start) * inverse_step + half
            i = np.uint32(min(max(t, np.float32(0.0)), end))
            out[y, x, 0] = curve[i, 0]
            out[y, x, 1] = curve[i, 1]
            out[y, x, 2] = curve[i, 2]


@njit("void(f4[:,::1],f4[:,::1],u1[:,::1],i8[::1],i8[::1],i8[::1],i8[::1])", **OPTIONS)
def count(exposure, density, numbers, zones, exposures, densities, histogram):
    """Count pixels by zone (11), by quarter stop from Zone -3 (64), by thousandth of the negative's
    density (4000) and by output number (256)."""
    for y in range(exposure.shape[0]):
        for x in range(exposure.shape[1]):
            stops = exposure[y, x]
            zone = min(max(stops + np.float32(5.5), np.float32(0.0)), np.float32(10.5))
            zones[np.uint32(zone)] += 1
            quarter = (stops + np.float32(8.0)) * np.float32(4.0)
            exposures[np.uint32(min(max(quarter, np.float32(0.0)), np.float32(63.5)))] += 1
            thousandth = density[y, x] * np.float32(1000.0)
            densities[np.uint32(min(max(thousandth, np.float32(0.0)), np.float32(3999.0)))] += 1
            histogram[numbers[y, x]] += 1
