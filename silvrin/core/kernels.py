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


def at_once(*works: Callable[[], Any]) -> list[Any]:
    """What works give that run side by side; they may not use `by_rows`."""
    jobs = [_pool.submit(work) for work in works[1:]]
    return [works[0](), *(job.result() for job in jobs)]


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


@njit("void(i8,i8,u2[:,:,::1],f4,f4,f4,f4,f4,f4[:,:,::1])", **_OPTIONS)
def code_colour(first, last, rgb, red, green, blue, scale, cells, out):
    """Linear RGB times gains to (red cell, green cell, log2 of the sum); cells 0 to `cells`."""
    for y in range(first, last):
        for x in range(rgb.shape[1]):
            r, g, b = np.float32(rgb[y, x, 0]), np.float32(rgb[y, x, 1]), np.float32(rgb[y, x, 2])
            # a hair of grey light gives black a colour, and a division that always holds
            r, g, b = red * r + BLACK_GREY, green * g + BLACK_GREY, blue * b + BLACK_GREY
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


@njit(inline="always", **_OPTIONS)
def _exp2(x):
    """2 to the power of a float32 from -126 to 127 within 1e-7 of it: exponent and series."""
    whole = np.floor(x + np.float32(0.5))
    f = x - whole
    series = np.float32(0.00133335581) + f * np.float32(0.000154035304)
    series = np.float32(0.0555041087) + f * (np.float32(0.00961812911) + f * series)
    series = np.float32(0.693147181) + f * (np.float32(0.240226507) + f * series)
    power = np.int32((np.int32(whole) + np.int32(127)) << np.int32(23)).view(np.float32)
    return power * (np.float32(1.0) + f * series)


@njit(**_OPTIONS)
def _places(x0, dx, count, length):
    """For every pixel of a row, the map's entry before it and the part beyond that."""
    before, part = np.empty(count, np.uint32), np.empty(count, np.float32)
    for x in range(count):
        at = min(max(x0 + x * dx, 0.0), length - 1.0)
        whole = min(np.floor(at), length - 2.0)
        before[x], part[x] = np.uint32(whole), np.float32(at - whole)
    return before, part


@njit(**_OPTIONS)
def _lay(maps, at, before, part, wide, kept, rows):
    """The rows of maps (C, H, W) that lie at a place between two of theirs, at every pixel.

    Map rows are widened to the pixels first; two are kept from row to row in `wide` (2, C, pixels),
    their numbers in `kept`, since several rows of pixels lie between the same two.
    """
    inside = min(max(at, 0.0), maps.shape[1] - 1.0)
    top = np.int64(min(np.floor(inside), maps.shape[1] - 2.0))
    f, one = np.float32(inside - top), np.uint32(1)
    for row in (top, top + 1):
        slot = row & 1
        if kept[slot] != row:
            kept[slot] = row
            for c in range(maps.shape[0]):
                for x in range(before.shape[0]):
                    low = maps[c, row, before[x]]
                    wide[slot, c, x] = low + part[x] * (maps[c, row, before[x] + one] - low)
    low, high = wide[top & 1], wide[(top + 1) & 1]
    for c in range(maps.shape[0]):
        for x in range(before.shape[0]):
            rows[c, x] = low[c, x] + f * (high[c, x] - low[c, x])


@njit(**_OPTIONS)
def _room(channels, width):
    """What `_lay` works in: widened map rows, which they are, and the rows it lays."""
    wide = np.empty((2, channels, width), np.float32)
    return wide, np.full(2, -1), np.empty((channels, width), np.float32)


_ON_GRID = "f4[:,:,::1],f8,f8,f8,f8,i8"  # maps (4, H, W), first x and y, steps, rows above


@njit(f"void(i8,i8,f4[:,:,::1],{_ON_GRID},f4,f4,f4[:,:,::1])", **_OPTIONS)
def smooth_chroma(first, last, coded, maps, x0, y0, dx, dy, above, amount, noise, out):
    """Colours drawn to the smooth one of their place, less the more they differ from it."""
    before, part = _places(x0, dx, coded.shape[1], maps.shape[2])
    wide, kept, rows = _room(4, coded.shape[1])
    for y in range(first, last):
        _lay(maps, y0 + (above + y) * dy, before, part, wide, kept, rows)
        for x in range(coded.shape[1]):
            log = coded[y, x, 2]
            red = rows[0, x] * log + rows[1, x] - coded[y, x, 0]
            green = rows[2, x] * log + rows[3, x] - coded[y, x, 1]
            off = (red * red + green * green) / (noise * noise)
            share = amount / (np.float32(1.0) + off * off)
            out[y, x, 0] = coded[y, x, 0] + share * red
            out[y, x, 1] = coded[y, x, 1] + share * green
            out[y, x, 2] = log


@njit(f"void(i8,i8,f4[:,::1],f4[:,:,::1],{_ON_GRID},f4,f4,b1,f4)", **_OPTIONS)
def scatter(first, last, exposure, coded, maps, x0, y0, dx, dy, above, c0, c1, clears, air):
    """Takes haze off log2 H or lays it over, keeps a share of the light and adds some; in place.
    Maps are share and light, and with haze the veil's line."""
    width = exposure.shape[1]
    before, part = _places(x0, dx, width, maps.shape[2])
    wide, kept, rows = _room(maps.shape[0], width)
    lit = np.empty(width, np.float32)
    full, least, tenth = np.float32(1.0), np.float32(1e-6), np.float32(0.1)
    for y in range(first, last):
        _lay(maps, y0 + (above + y) * dy, before, part, wide, kept, rows)
        for x in range(width):
            lit[x] = _exp2(exposure[y, x])
        if maps.shape[0] > 2:
            for x in range(width):
                veil = rows[2, x] * coded[y, x, 2] + rows[3, x]
                through = min(max(c0 + c1 * veil, tenth), full)
                behind = air * (full - through)
                if clears:
                    lit[x] = max(lit[x] - behind, least) / through
                else:
                    lit[x] = lit[x] * through + behind
        for x in range(width):
            exposure[y, x] = _log2(max(rows[0, x] * lit[x] + rows[1, x], least))


@njit(f"void(i8,i8,f4[:,::1],{_ON_GRID},f4[::1])", **_OPTIONS)
def flatten(first, last, exposure, maps, x0, y0, dx, dy, above, line):
    """Adds to log2 H, in place, a line over the zones -3 to 13 of what is smooth about it."""
    width = exposure.shape[1]
    before, part = _places(x0, dx, width, maps.shape[2])
    wide, kept, rows = _room(2, width)
    zero, end = np.float32(0.0), np.float32(line.shape[0] - 1)
    a_zone, half, lowest = end / np.float32(16.0), np.float32(0.5), np.float32(8.0)
    for y in range(first, last):
        _lay(maps, y0 + (above + y) * dy, before, part, wide, kept, rows)
        for x in range(width):
            zone = rows[0, x] * exposure[y, x] + rows[1, x] + lowest
            exposure[y, x] += line[np.uint32(min(max(zone * a_zone + half, zero), end))]


@njit(f"void(i8,i8,f4[:,::1],f4[::1],f4,f4,{_ON_GRID},f4[:,::1],f4[:,::1])", **_OPTIONS)
def develop_local(
    first, last, exposure, curve, start, inverse_step, maps, x0, y0, dx, dy, above, lines, out
):
    """A curve as in `through_curve`, and added to it local contrast p h + q, held by the zone of h;
    with two further maps, zone lift by the zone a h + b that is smooth about h."""
    width = exposure.shape[1]
    before, part = _places(x0, dx, width, maps.shape[2])
    wide, kept, rows = _room(maps.shape[0], width)
    gains, places = np.empty(width, np.float32), np.empty(width, np.uint32)
    zero, end = np.float32(0.0), np.float32(lines.shape[1] - 1)
    a_zone, half, lowest = end / np.float32(16.0), np.float32(0.5), np.float32(8.0)
    last_point = np.float32(curve.shape[0] - 1)
    one, top = np.uint32(1), np.uint32(curve.shape[0] - 2)
    held, losing = lines[:2].copy().reshape(-1), np.uint32(lines.shape[1])
    for y in range(first, last):
        # in several loops: with few arrays in each the processor works side by side
        _lay(maps, y0 + (above + y) * dy, before, part, wide, kept, rows)
        for x in range(width):
            h = exposure[y, x]
            places[x] = np.uint32(min(max((h + lowest) * a_zone + half, zero), end))
            gains[x] = rows[0, x] * h + rows[1, x]
        for x in range(width):
            t = min(max((exposure[y, x] - start) * inverse_step, zero), last_point)
            k = min(np.uint32(t), top)
            j = places[x] + (losing if gains[x] < zero else np.uint32(0))
            density = curve[k] + (t - np.float32(k)) * (curve[k + one] - curve[k])
            out[y, x] = density + gains[x] * held[j]
        if maps.shape[0] > 2:
            for x in range(width):
                zone = rows[2, x] * exposure[y, x] + rows[3, x] + lowest
                out[y, x] += lines[2, np.uint32(min(max(zone * a_zone + half, zero), end))]


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4,f4[:,::1],f4[:,::1])", **_OPTIONS)
def part_smooth(first, last, mean, square, epsilon, a, b):
    """Of windows' means and mean squares, what is smooth as a line a h + b; `square` becomes the
    variance."""
    for y in range(first, last):
        for x in range(mean.shape[1]):
            level = mean[y, x]
            variance = max(square[y, x] - level * level, np.float32(0.0))
            share = variance / (variance + epsilon)
            a[y, x] = share
            b[y, x] = level - share * level
            square[y, x] = variance


_MAP = "f4[:,::1]"


@njit(f"void(i8,i8,{','.join([_MAP] * 6)},f4[::1],f4,f4[:,:,::1])", **_OPTIONS)
def add_scale(first, last, zone, near_a, near_b, a, b, variance, line, threshold, maps):
    """Adds to maps p and q the differences a scale raises: what is smooth at the finer one, near,
    less what is at this one; by a line over zones, and less where they vary little."""
    zero, end, top, one = np.float32(0.0), np.float32(256.0), np.uint32(255), np.uint32(1)
    strength = np.full(zone.shape[1], line[0])
    same = line.min() == line.max()
    for y in range(first, last):
        if not same:
            for x in range(zone.shape[1]):
                place = min(max((zone[y, x] + np.float32(3.0)) * np.float32(16.0), zero), end)
                j = min(np.uint32(place), top)
                strength[x] = line[j] + (place - np.float32(j)) * (line[j + one] - line[j])
        for x in range(zone.shape[1]):
            seen = strength[x] * variance[y, x] / (variance[y, x] + threshold)
            maps[0, y, x] += seen * (near_a[y, x] - a[y, x])
            maps[1, y, x] += seen * (near_b[y, x] - b[y, x])


@njit("void(i8,i8,f4[:,::1],f4[:,::1],u4,u4,f4,f4)", **_OPTIONS)
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


@njit("void(i8,i8,f4[:,::1],f4[::1],f4,f4,u2[:,::1])", **_OPTIONS)
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


@njit("void(i8,i8,f4[:,::1],u1[::1],f4,f4,u1[:,::1])", **_OPTIONS)
def through_curve_u8(first, last, values, curve, start, inverse_step, out):
    """A curve of whole numbers, given so finely that the nearest point serves."""
    end, half = np.float32(curve.shape[0] - 1), np.float32(0.5)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = (values[y, x] - start) * inverse_step + half
            out[y, x] = curve[np.uint32(min(max(t, np.float32(0.0)), end))]


@njit("void(i8,i8,u2[:,:,::1],u2[:,:,::1])", **_OPTIONS)
def reduce_size(first, last, light, out):
    """The mean light of the area each smaller pixel covers, taken over square roots.

    A print follows light about as its square root does, so this is how the finished print would
    be reduced; a mean of light itself would let every glint spread.
    """
    tall, wide = light.shape[0] / out.shape[0], light.shape[1] / out.shape[1]
    size = light.shape[1] * 3
    rows = light.reshape(light.shape[0], size)
    column = np.empty(size, np.float32)
    half = np.float32(0.5)
    for y in range(first, last):
        top, bottom = y * tall, min((y + 1) * tall, float(light.shape[0]))
        for i in range(size):
            column[i] = np.float32(0.0)
        for j in range(int(top), int(np.ceil(bottom))):
            high = np.float32(min(bottom, j + 1.0) - max(top, float(j)))
            for i in range(size):
                column[i] += high * np.sqrt(np.float32(rows[j, i]))
        for x in range(out.shape[1]):
            left, right = x * wide, min((x + 1) * wide, float(light.shape[1]))
            r, g, b = np.float32(0.0), np.float32(0.0), np.float32(0.0)
            for i in range(int(left), int(np.ceil(right))):
                part = np.float32(min(right, i + 1.0) - max(left, float(i)))
                r += part * column[3 * i]
                g += part * column[3 * i + 1]
                b += part * column[3 * i + 2]
            area = np.float32((bottom - top) * (right - left))
            scale = np.float32(1.0) / (area * area)
            out[y, x, 0] = np.uint16(np.uint32(r * r * scale + half))
            out[y, x, 1] = np.uint16(np.uint32(g * g * scale + half))
            out[y, x, 2] = np.uint16(np.uint32(b * b * scale + half))


@njit("void(f4[:,::1],f4[:,::1],u1[:,::1],i8[::1],i8[::1],i8[::1],i8[::1])", **_OPTIONS)
def count(exposure, density, numbers, zones, exposures, densities, histogram):
    """Count pixels by zone (11), by quarter stop from Zone -3 (64), by hundredth of the negative's
    density (400) and by output number (256)."""
    for y in range(exposure.shape[0]):
        for x in range(exposure.shape[1]):
            stops = exposure[y, x]
            zone = min(max(stops + np.float32(5.5), np.float32(0.0)), np.float32(10.5))
            zones[np.uint32(zone)] += 1
            quarter = (stops + np.float32(8.0)) * np.float32(4.0)
            exposures[np.uint32(min(max(quarter, np.float32(0.0)), np.float32(63.5)))] += 1
            hundredth = density[y, x] * np.float32(100.0)
            densities[np.uint32(min(max(hundredth, np.float32(0.0)), np.float32(399.0)))] += 1
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


@njit("void(i8,i8,u2[:,:,::1],f4[:,::1],f4[::1],f4[:,:,::1],u2[:,:,::1])", **_OPTIONS)
def to_working(first, last, camera, matrix, limits, ratios, out):
    """Camera channels (H, W, 3) to working colours; clipped ones are taken from the unclipped by
    the colour around: `ratios` (h, w, 2), log2 of red and blue over green, of a smaller picture."""
    top, one, zero = np.float32(65535.0), np.float32(1.0), np.float32(0.0)
    high = np.empty(3, np.float32)
    log_ratio = np.zeros(3, np.float32)
    # from 0.94 of its limit a channel begins to count as clipped, from 0.98 it does
    for c in range(3):
        high[c] = limits[c] * np.float32(0.94)
    width = np.float32(1.0 / 0.04)
    v = np.empty(3, np.float32)
    clipped = np.empty(3, np.float32)
    rows, columns = ratios.shape[0], ratios.shape[1]
    for y in range(first, last):
        ry = min(y * rows // camera.shape[0], rows - 1)
        for x in range(camera.shape[1]):
            for c in range(3):
                v[c] = np.float32(camera[y, x, c])
            if v[0] > high[0] or v[1] > high[1] or v[2] > high[2]:
                rx = min(x * columns // camera.shape[1], columns - 1)
                log_ratio[0], log_ratio[2] = ratios[ry, rx, 0], ratios[ry, rx, 1]
                many = zero
                for c in range(3):
                    part = (v[c] - high[c]) / limits[c] * width
                    clipped[c] = min(max(part, zero), one)
                    many += clipped[c]
                believed = one - np.float32(0.5) * max(many - one, zero)
                told, weight, least = zero, np.float32(1e-6), zero
                for c in range(3):
                    light = v[c] * _exp2(-believed * log_ratio[c])  # as green would read
                    told += (one - clipped[c]) * light
                    weight += one - clipped[c]
                    least = max(least, clipped[c] * light)
                grey = max(told / weight, least)
                for c in range(3):
                    should = max(v[c], grey * _exp2(believed * log_ratio[c]))
                    v[c] += clipped[c] * (should - v[c])
            for c in range(3):
                w = matrix[c, 0] * v[0] + matrix[c, 1] * v[1] + matrix[c, 2] * v[2]
                out[y, x, c] = np.uint16(min(max(w + np.float32(0.5), zero), top))


@njit("void(i8,i8,f4[:,::1],i8,f4[:,::1])", **_OPTIONS)
def spline_across(first, last, plane, step, out):
    """Rows through the B3 spline (1 4 6 4 1) / 16 with taps `step` apart; mirrored at the ends."""
    a, b, c = np.float32(1 / 16), np.float32(1 / 4), np.float32(3 / 8)
    width = plane.shape[1]
    end = width - 1
    for y in range(first, last):
        row, to = plane[y], out[y]
        for x in range(width):
            if 2 * step <= x < width - 2 * step:
                u = np.uint64(x)
                s = np.uint64(step)
                to[u] = (
                    c * row[u]
                    + b * (row[u - s] + row[u + s])
                    + a * (row[u - s - s] + row[u + s + s])
                )
            else:
                l1, l2 = min(abs(x - step), end), min(abs(x - 2 * step), end)
                r1, r2 = x + step, x + 2 * step
                r1 = max(2 * end - r1, 0) if r1 > end else r1
                r2 = max(2 * end - r2, 0) if r2 > end else r2
                to[x] = c * row[x] + b * (row[l1] + row[r1]) + a * (row[l2] + row[r2])


@njit("void(i8,i8,f4[:,::1],i8,f4[:,::1])", **_OPTIONS)
def spline_down(first, last, plane, step, out):
    """The same down the columns."""
    a, b, c = np.float32(1 / 16), np.float32(1 / 4), np.float32(3 / 8)
    end = plane.shape[0] - 1
    for y in range(first, last):
        u1, u2 = min(abs(y - step), end), min(abs(y - 2 * step), end)
        d1, d2 = y + step, y + 2 * step
        d1 = max(2 * end - d1, 0) if d1 > end else d1
        d2 = max(2 * end - d2, 0) if d2 > end else d2
        m, p, q, r, s, to = plane[y], plane[u1], plane[d1], plane[u2], plane[d2], out[y]
        for x in range(plane.shape[1]):
            to[x] = c * m[x] + b * (p[x] + q[x]) + a * (r[x] + s[x])


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4,f4[:,::1])", **_OPTIONS)
def shrink(first, last, plane, smooth, threshold, kept):
    """Adds to `kept` what of a detail (plane - smooth) is more than a threshold: garrote."""
    square, zero = threshold * threshold, np.float32(0.0)
    for y in range(first, last):
        for x in range(plane.shape[1]):
            d = plane[y, x] - smooth[y, x]
            dd = d * d
            kept[y, x] += d - d * square / dd if dd > square else zero


SEAMLESS = np.float32(1.1)  # by what part a seamless patch may be less like its place
PATCH = 3  # pixels about the middle of a patch that fillings are put together from


@njit("u4(u4)", inline="always", **_OPTIONS)
def _shuffled(state):
    """The next of a run of numbers without order (xorshift: Marsaglia 2003)."""
    state ^= (state << np.uint32(13)) & np.uint32(0xFFFFFFFF)
    state ^= state >> np.uint32(17)
    state ^= (state << np.uint32(5)) & np.uint32(0xFFFFFFFF)
    return state


@njit("f4(f4[:,:,::1],f4[:,::1],i8,i8,i8,i8,f4)", **_OPTIONS)
def _unlike(image, sure, y, x, v, u, most):
    """How unlike the patches about (y, x) and (v, u) are, what is `sure` counting more; no further
    than `most`."""
    total = np.float32(0.0)
    for dy in range(-PATCH, PATCH + 1):
        if y + dy < 0 or y + dy >= image.shape[0]:
            continue
        for dx in range(-PATCH, PATCH + 1):
            if x + dx < 0 or x + dx >= image.shape[1]:
                continue
            apart = np.float32(0.0)
            for c in range(image.shape[2]):
                off = image[y + dy, x + dx, c] - image[v + dy, u + dx, c]
                apart += off * off
            total += sure[y + dy, x + dx] * apart
        if total >= most:
            return most
    return total


@njit("void(f4[:,:,::1],f4[:,::1],i4[:,::1],u1[:,::1],i4[:,:,::1],f4[:,::1],i8,i8,u4)", **_OPTIONS)
def match_patches(image, sure, targets, usable, field, cost, passes, reach, seed):
    """For each target (N, 2) the place whose patch is most like its own, into `field` (H, W, 2) and
    `cost`, from what stands there: neighbours' finds and ever nearer random ones are tried
    (Barnes and others 2009). `usable` are middles of patches that may be taken."""
    height, width = image.shape[0], image.shape[1]
    count = targets.shape[0]
    state = seed
    for i in range(count):
        y, x = targets[i, 0], targets[i, 1]
        cost[y, x] = _unlike(image, sure, y, x, field[y, x, 0], field[y, x, 1], np.float32(1e9))
    for turn in range(passes):
        step = 1 if turn % 2 == 0 else -1
        for index in range(count):
            i = index if step == 1 else count - 1 - index
            y, x = targets[i, 0], targets[i, 1]
            best, bv, bu = cost[y, x], field[y, x, 0], field[y, x, 1]
            for side in range(2):
                ny = y - step if side == 0 else y
                nx = x - step if side == 1 else x
                if ny < 0 or nx < 0 or ny >= height or nx >= width or cost[ny, nx] < 0:
                    continue
                v, u = field[ny, nx, 0] + y - ny, field[ny, nx, 1] + x - nx
                if v < 0 or u < 0 or v >= height or u >= width or usable[v, u] == 0:
                    continue
                # what goes on beside its neighbour leaves no seam, and may be a little less alike
                found = _unlike(image, sure, y, x, v, u, best * SEAMLESS)
                if found < best * SEAMLESS:
                    best, bv, bu = found, v, u
            away = reach
            while away >= 1:
                state = _shuffled(state)
                v = bv + np.int64(state % np.uint32(2 * away + 1)) - away
                state = _shuffled(state)
                u = bu + np.int64(state % np.uint32(2 * away + 1)) - away
                if 0 <= v < height and 0 <= u < width and usable[v, u] != 0:
                    found = _unlike(image, sure, y, x, v, u, best)
                    if found < best:
                        best, bv, bu = found, v, u
                away //= 2
            cost[y, x], field[y, x, 0], field[y, x, 1] = best, bv, bu
    for i in range(count):  # a place's mean
        y, x = targets[i, 0], targets[i, 1]
        told = np.float32(0.0)
        for v in range(max(0, y - PATCH), min(height, y + PATCH + 1)):
            for u in range(max(0, x - PATCH), min(width, x + PATCH + 1)):
                told += sure[v, u]
        cost[y, x] /= told


@njit("void(f4[:,:,::1],f4[:,::1],i4[:,::1],i4[:,::1])", **_OPTIONS)
def close_hole(image, known, hole, sources):
    """Fill the places of a hole (N, 2) from its rim inwards: the one that most is known about takes
    what is missing about it from the patch, of middles `sources` (M, 2), most like what is known.
    `known` (H, W), 0 or 1, is filled too."""
    height, width, layers = image.shape
    while True:
        most, at = np.float32(-1.0), -1
        for i in range(hole.shape[0]):
            if known[hole[i, 0], hole[i, 1]] > 0:
                continue
            about = np.float32(0.0)
            for v in range(max(0, hole[i, 0] - PATCH), min(height, hole[i, 0] + PATCH + 1)):
                for u in range(max(0, hole[i, 1] - PATCH), min(width, hole[i, 1] + PATCH + 1)):
                    about += known[v, u]
            if about > most:
                most, at = about, i
        if at < 0:
            return
        y, x = hole[at, 0], hole[at, 1]
        best, of = np.float32(1e9), 0
        for i in range(sources.shape[0]):
            found = _unlike(image, known, y, x, sources[i, 0], sources[i, 1], best)
            if found < best:
                best, of = found, i
        bv, bu = sources[of, 0], sources[of, 1]
        for dy in range(-PATCH, PATCH + 1):
            for dx in range(-PATCH, PATCH + 1):
                v, u = y + dy, x + dx
                if v < 0 or u < 0 or v >= height or u >= width or known[v, u] > 0:
                    continue
                for c in range(layers):
                    image[v, u, c] = image[bv + dy, bu + dx, c]
                known[v, u] = np.float32(1.0)


@njit("void(i8,i8,f4[:,:,::1],f4[:,::1],u1[:,::1],i4[:,:,::1],f4[:,::1],u1)", **_OPTIONS)
def vote_patches(first, last, image, sure, hole, field, cost, strict):
    """Every place of the hole becomes what the patches over it say: their mean, weighed by how like
    they are and how `sure` their middles; nearly that of the likeliest alone when `strict`, which
    keeps texture. What they say lies outside of it."""
    height, width, layers = image.shape
    said = np.empty(layers, np.float32)
    for y in range(first, last):
        for x in range(width):
            if hole[y, x] == 0:
                continue
            for c in range(layers):
                said[c] = np.float32(0.0)
            weight = np.float32(0.0)
            for dy in range(-PATCH, PATCH + 1):
                ty = y - dy
                if ty < 0 or ty >= height:
                    continue
                for dx in range(-PATCH, PATCH + 1):
                    tx = x - dx
                    if tx < 0 or tx >= width or cost[ty, tx] < 0:
                        continue
                    v, u = field[ty, tx, 0] + dy, field[ty, tx, 1] + dx
                    share = sure[ty, tx] / (cost[ty, tx] + np.float32(0.01)) ** 2
                    if strict != 0:
                        share = share * share * share
                    for c in range(layers):
                        said[c] += share * image[v, u, c]
                    weight += share
            if weight > 0:
                for c in range(layers):
                    image[y, x, c] = said[c] / weight
