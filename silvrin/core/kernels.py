"""The loops over pixels, compiled once: signatures are given, so importing this module compiles
or loads from the cache and nobody waits for it later.

Indices are unsigned: signed ones would be checked for counting from the end.

Every kernel writes rows `first` to `last` of its output and holds no lock; `by_rows` deals
bands of rows out to the processors.
"""

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise
from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray

F32 = NDArray[np.float32]

_OPTIONS: dict[str, Any] = {
    "nogil": True,
    "cache": True,
    "fastmath": {"nsz", "arcp", "contract", "afn", "reassoc"},
    "error_model": "numpy",
}

THREADS = max(1, min(os.cpu_count() or 1, 16))
_pool = ThreadPoolExecutor(THREADS, thread_name_prefix="kernel")
DARKEST = np.float32(2.0**-17)  # sum of linear r, g, b that counts as no light at all
BLACK_GREY = np.float32(1e-3)  # of a code of 16 bits


def by_rows(kernel: Callable[..., None], height: int, *arguments: Any) -> None:
    """Run kernel(first, last, *arguments) over all rows, a band for each processor."""
    bands = min(THREADS, max(1, height // 16))
    own, *others = pairwise(height * i // bands for i in range(bands + 1))
    jobs = [_pool.submit(kernel, *band, *arguments) for band in others]
    kernel(*own, *arguments)
    for job in jobs:
        job.result()


@njit(inline="always", **_OPTIONS)
def _log2(x):
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


@njit("void(i8,i8,u2[:,:,::1],f4,f4,f4[:,:,::1])", **_OPTIONS)
def code_colour(first, last, rgb, scale, cells, out):
    """Linear RGB to (red cell, green cell, log2 of the sum); cells run from 0 to `cells`."""
    for y in range(first, last):
        for x in range(rgb.shape[1]):
            r, g, b = np.float32(rgb[y, x, 0]), np.float32(rgb[y, x, 1]), np.float32(rgb[y, x, 2])
            # a hair of grey light gives black a colour, and a division that always holds
            r, g, b = r + BLACK_GREY, g + BLACK_GREY, b + BLACK_GREY
            total = r + g + b
            share = cells / total
            out[y, x, 0] = r * share
            out[y, x, 1] = g * share
            out[y, x, 2] = _log2(max(total * scale, DARKEST))


@njit("void(i8,i8,f4[:,:,::1],f4[:,::1],f4,f4[:,::1])", **_OPTIONS)
def expose(first, last, coded, table, shift, out):
    """log2 H of the film: the chromaticity table, bilinear, plus the light's sum and a shift."""
    one, top = np.uint32(1), np.uint32(table.shape[0] - 2)
    for y in range(first, last):
        for x in range(coded.shape[1]):
            u, v = coded[y, x, 0], coded[y, x, 1]
            i, j = min(np.uint32(u), top), min(np.uint32(v), top)
            fu, fv = u - np.float32(i), v - np.float32(j)
            low = table[j, i] + fu * (table[j, i + one] - table[j, i])
            high = table[j + one, i] + fu * (table[j + one, i + one] - table[j + one, i])
            out[y, x] = low + fv * (high - low) + coded[y, x, 2] + shift


@njit("void(i8,i8,f4[:,::1],f4[:,::1],u4,u4,f4,f4,f4[:,::1])", **_OPTIONS)
def add_grain(first, last, density, tile, top, left, base, strength, out):
    """Density with grain: noise of a tile laid from (top, left), growing as the root of density."""
    side, least = np.uint32(tile.shape[0]), np.float32(0.02)
    for y in range(first, last):
        row = (np.uint32(y) + top) % side
        column = left % side
        for x in range(density.shape[1]):
            d = density[y, x]
            out[y, x] = d + strength * np.sqrt(max(d - base, least)) * tile[row, column]
            column += np.uint32(1)
            if column == side:
                column = np.uint32(0)


@njit("void(i8,i8,f4[:,::1],f4[::1],f4,f4,f4[:,::1])", **_OPTIONS)
def through_curve(first, last, values, curve, start, inverse_step, out):
    """A curve given as evenly spaced points, linear between, held at its ends."""
    end = np.float32(curve.shape[0] - 1)
    one, top = np.uint32(1), np.uint32(curve.shape[0] - 2)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = min(max((values[y, x] - start) * inverse_step, np.float32(0.0)), end)
            i = min(np.uint32(t), top)
            out[y, x] = curve[i] + (t - np.float32(i)) * (curve[i + one] - curve[i])


def _rounding(kernel_type: str, whole: Any) -> Any:
    @njit(f"void(i8,i8,f4[:,::1],f4[::1],f4,f4,{kernel_type}[:,::1])", **_OPTIONS)
    def through_curve_rounded(first, last, values, curve, start, inverse_step, out):
        end = np.float32(curve.shape[0] - 1)
        half = np.float32(0.5)
        one, top = np.uint32(1), np.uint32(curve.shape[0] - 2)
        for y in range(first, last):
            for x in range(values.shape[1]):
                t = min(max((values[y, x] - start) * inverse_step, np.float32(0.0)), end)
                i = min(np.uint32(t), top)
                value = curve[i] + (t - np.float32(i)) * (curve[i + one] - curve[i])
                out[y, x] = whole(np.uint32(value + half))

    return through_curve_rounded


through_curve_u8 = _rounding("u1", np.uint8)
through_curve_u16 = _rounding("u2", np.uint16)


@njit("void(i8,i8,u2[:,:,:],u2[:,:,::1])", **_OPTIONS)
def reduce_size(first, last, light, out):
    """The mean light of the area each smaller pixel covers, taken over square roots.

    A print follows light about as its square root does, so this is how the finished print would
    be reduced; a mean of light itself would let every glint spread.
    """
    tall, wide = light.shape[0] / out.shape[0], light.shape[1] / out.shape[1]
    for y in range(first, last):
        top, bottom = y * tall, min((y + 1) * tall, float(light.shape[0]))
        for x in range(out.shape[1]):
            left, right = x * wide, min((x + 1) * wide, float(light.shape[1]))
            r, g, b, area = np.float32(0.0), np.float32(0.0), np.float32(0.0), np.float32(0.0)
            for j in range(int(top), int(np.ceil(bottom))):
                high = min(bottom, j + 1.0) - max(top, float(j))
                for i in range(int(left), int(np.ceil(right))):
                    part = np.float32(high * (min(right, i + 1.0) - max(left, float(i))))
                    r += part * np.sqrt(np.float32(light[j, i, 0]))
                    g += part * np.sqrt(np.float32(light[j, i, 1]))
                    b += part * np.sqrt(np.float32(light[j, i, 2]))
                    area += part
            scale = np.float32(1.0) / (area * area)
            half = np.float32(0.5)
            out[y, x, 0] = np.uint16(np.uint32(r * r * scale + half))
            out[y, x, 1] = np.uint16(np.uint32(g * g * scale + half))
            out[y, x, 2] = np.uint16(np.uint32(b * b * scale + half))


@njit("void(f4[:,::1],u1[:,::1],i8[::1],i8[::1],i8[::1])", **_OPTIONS)
def count(exposure, numbers, zones, exposures, histogram):
    """Count pixels by zone (11), by quarter stop from Zone -3 (64) and by output number (256)."""
    for y in range(exposure.shape[0]):
        for x in range(exposure.shape[1]):
            stops = exposure[y, x]
            zone = min(max(stops + np.float32(5.5), np.float32(0.0)), np.float32(10.5))
            zones[np.uint32(zone)] += 1
            quarter = (stops + np.float32(8.0)) * np.float32(4.0)
            exposures[np.uint32(min(max(quarter, np.float32(0.0)), np.float32(63.5)))] += 1
            histogram[numbers[y, x]] += 1


@njit("void(i8,i8,u2[:,:,::1],f4[:,::1],f4[::1],u1[:,:,::1])", **_OPTIONS)
def show_colour(first, last, rgb, matrix, curve, out):
    """Linear RGB to 8-bit display colour: a 3 x 3 matrix, then an encoding curve over 0 to 1."""
    end = np.float32(curve.shape[0] - 1)
    for y in range(first, last):
        for x in range(rgb.shape[1]):
            r, g, b = np.float32(rgb[y, x, 0]), np.float32(rgb[y, x, 1]), np.float32(rgb[y, x, 2])
            for c in range(3):
                v = matrix[c, 0] * r + matrix[c, 1] * g + matrix[c, 2] * b
                t = min(max(v, np.float32(0.0)), np.float32(1.0)) * end
                out[y, x, c] = np.uint8(curve[np.int32(t + np.float32(0.5))])
