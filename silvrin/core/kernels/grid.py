"""Pixels with maps of the whole picture laid over them."""

import numpy as np
from numba import njit

from .maths import exp2_of, log2_of
from .run import OPTIONS


@njit(**OPTIONS)
def _places(x0, dx, count, length):
    """For every pixel of a row, the map's entry before it and the part beyond that."""
    before, part = np.empty(count, np.uint32), np.empty(count, np.float32)
    for x in range(count):
        at = min(max(x0 + x * dx, 0.0), length - 1.0)
        whole = min(np.floor(at), length - 2.0)
        before[x], part[x] = np.uint32(whole), np.float32(at - whole)
    return before, part


@njit(**OPTIONS)
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


@njit(**OPTIONS)
def _room(channels, width):
    """What `_lay` works in: widened map rows, which they are, and the rows it lays."""
    wide = np.empty((2, channels, width), np.float32)
    return wide, np.full(2, -1), np.empty((channels, width), np.float32)


_ON_GRID = "f4[:,:,::1],f8,f8,f8,f8,i8"  # maps (4, H, W), first x and y, steps, rows above


@njit(f"void(i8,i8,f4[:,:,::1],{_ON_GRID},f4,f4,f4[:,:,::1])", **OPTIONS)
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


@njit(f"void(i8,i8,f4[:,::1],f4[:,:,::1],{_ON_GRID},f4)", **OPTIONS)
def scatter(first, last, exposure, coded, maps, x0, y0, dx, dy, above, air):
    """Takes haze off log2 H or lays it over, keeps a share of the light and adds some; in place.
    Maps are share and light, and with haze the line of what the air lets through, and where haze
    is taken off (above 0) rather than laid over."""
    width = exposure.shape[1]
    before, part = _places(x0, dx, width, maps.shape[2])
    wide, kept, rows = _room(maps.shape[0], width)
    lit = np.empty(width, np.float32)
    full, least, tenth = np.float32(1.0), np.float32(1e-6), np.float32(0.1)
    for y in range(first, last):
        _lay(maps, y0 + (above + y) * dy, before, part, wide, kept, rows)
        for x in range(width):
            lit[x] = exp2_of(exposure[y, x])
        if maps.shape[0] > 2:
            for x in range(width):
                through = min(max(rows[2, x] * coded[y, x, 2] + rows[3, x], tenth), full)
                behind = air * (full - through)
                if rows[4, x] > np.float32(0.0):
                    lit[x] = max(lit[x] - behind, least) / through
                else:
                    lit[x] = lit[x] * through + behind
        for x in range(width):
            exposure[y, x] = log2_of(max(rows[0, x] * lit[x] + rows[1, x], least))


@njit(f"void(i8,i8,f4[:,::1],{_ON_GRID},f4[::1])", **OPTIONS)
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


@njit(f"void(i8,i8,f4[:,::1],f4[::1],f4,f4,{_ON_GRID},f4[:,::1],f4[:,::1])", **OPTIONS)
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


@njit(f"void(i8,i8,f4[:,::1],f4[:,:,::1],{_ON_GRID},f4,f4[:,:,::1])", **OPTIONS)
def lighten(first, last, density, coded, maps, x0, y0, dx, dy, above, by, out):
    """Density less so much for every stop: of a map (1, H, W), or of a line in log2 of the light's
    sum that is held between two more (4, H, W); with eight also the grade, in out[1]."""
    width = density.shape[1]
    before, part = _places(x0, dx, width, maps.shape[2])
    wide, kept, rows = _room(maps.shape[0], width)
    for y in range(first, last):
        _lay(maps, y0 + (above + y) * dy, before, part, wide, kept, rows)
        if maps.shape[0] == 1:
            for x in range(width):
                out[0, y, x] = density[y, x] - by * rows[0, x]
            continue
        for x in range(width):
            line = rows[0, x] * coded[y, x, 2] + rows[1, x]
            out[0, y, x] = density[y, x] - by * min(max(line, rows[2, x]), rows[3, x])
        if maps.shape[0] > 4:
            for x in range(width):
                line = rows[4, x] * coded[y, x, 2] + rows[5, x]
                out[1, y, x] = min(max(line, rows[6, x]), rows[7, x])


@njit(f"void(i8,i8,f4[:,:,::1],{_ON_GRID},f4[:,::1])", **OPTIONS)
def lay(first, last, coded, maps, x0, y0, dx, dy, above, out):
    """A map (1, H, W), or a line in log2 of the light's sum held between two more (4, H, W), at
    every pixel."""
    width = out.shape[1]
    before, part = _places(x0, dx, width, maps.shape[2])
    wide, kept, rows = _room(maps.shape[0], width)
    for y in range(first, last):
        _lay(maps, y0 + (above + y) * dy, before, part, wide, kept, rows)
        for x in range(width):
            if maps.shape[0] == 1:
                out[y, x] = rows[0, x]
            else:
                line = rows[0, x] * coded[y, x, 2] + rows[1, x]
                out[y, x] = min(max(line, rows[2, x]), rows[3, x])


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4[:,::1],f4,f4,f4,f4,f4[:,::1])", **OPTIONS)
def through_grades(
    first, last, values, grades, tables, start, inverse_step, softest, per_grade, out
):
    """What tables (grades, points) give values, between two grades as between two points."""
    zero, one = np.float32(0.0), np.uint32(1)
    last_point, top = np.float32(tables.shape[1] - 1), np.uint32(tables.shape[1] - 2)
    last_grade, hardest = np.float32(tables.shape[0] - 1), np.uint32(tables.shape[0] - 2)
    for y in range(first, last):
        for x in range(values.shape[1]):
            t = min(max((values[y, x] - start) * inverse_step, zero), last_point)
            g = min(max((grades[y, x] - softest) * per_grade, zero), last_grade)
            k, j = min(np.uint32(t), top), min(np.uint32(g), hardest)
            ft, fg = t - np.float32(k), g - np.float32(j)
            low = tables[j, k] + ft * (tables[j, k + one] - tables[j, k])
            high = tables[j + one, k] + ft * (tables[j + one, k + one] - tables[j + one, k])
            out[y, x] = low + fg * (high - low)
