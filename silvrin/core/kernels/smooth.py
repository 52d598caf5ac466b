"""What is smooth about a map, and local contrast from it."""

import numpy as np
from numba import njit

from .run import OPTIONS

_MAP = "f4[:,::1]"


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4,b1,f4[:,::1],f4[:,::1])", **OPTIONS)
def part_smooth(first, last, mean, square, epsilon, steep, a, b):
    """Of windows' means and mean squares, what is smooth as a line a h + b; `square` becomes the
    variance."""
    for y in range(first, last):
        for x in range(mean.shape[1]):
            level = mean[y, x]
            variance = max(square[y, x] - level * level, np.float32(0.0))
            share = variance / (variance + epsilon)
            if steep:
                part = variance * variance
                share = part / (part + epsilon * epsilon)
            a[y, x] = share
            b[y, x] = level - share * level
            square[y, x] = variance


@njit(f"void(i8,i8,{','.join([_MAP] * 6)},f4[::1],f4,f4[:,:,::1])", **OPTIONS)
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


@njit("f4[:,::1](f4[:,:,::1],f4[:,::1])", **OPTIONS)
def by_place_and_level(grid, levels):
    """What a grid (h, w, n) over place and level has at every place of a map (H, W) of levels,
    counted in its own; linear between."""
    height, width = levels.shape
    one, zero, end = np.uint32(1), np.float32(0.0), np.float32(grid.shape[2] - 1)
    last = np.uint32(grid.shape[2] - 2)
    out = np.empty_like(levels)
    for y in range(height):
        at = min(max((y + 0.5) * grid.shape[0] / height - 0.5, 0.0), grid.shape[0] - 1.0)
        top = np.uint32(min(at, grid.shape[0] - 2.0))
        down = np.float32(at - top)
        for x in range(width):
            across = min(max((x + 0.5) * grid.shape[1] / width - 0.5, 0.0), grid.shape[1] - 1.0)
            left = np.uint32(min(across, grid.shape[1] - 2.0))
            part = np.float32(across - left)
            level = min(max(levels[y, x], zero), end)
            k = min(np.uint32(level), last)
            up = level - np.float32(k)
            value = zero
            for i in range(2):
                for j in range(2):
                    share = (down if i else np.float32(1.0) - down) * (
                        part if j else np.float32(1.0) - part
                    )
                    line = grid[top + i, left + j]
                    value += share * (line[k] + up * (line[k + one] - line[k]))
            out[y, x] = value
    return out


@njit(
    ["void(i8,i8,u1[:,::1],i8,f4,f4[:,::1])", "void(i8,i8,u2[:,::1],i8,f4,f4[:,::1])"],
    **OPTIONS,
)
def grey_rows(first, last, numbers, height, scale, rows):
    """Rows `first` to `last` of a picture of one or three channels as greys, times a scale, each
    into row y % N of rows (N, W); beyond the picture its last row goes on."""
    width, many = rows.shape[1], rows.shape[0]
    r, g = np.float32(0.2126) * scale, np.float32(0.7152) * scale
    b = np.float32(0.0722) * scale
    for y in range(first, last):
        given, target = numbers[min(max(y, 0), height - 1)], rows[(y + many) % many]
        if given.shape[0] == width:
            for x in range(width):
                target[x] = scale * np.float32(given[x])
        else:
            for x in range(width):
                i = 3 * x
                target[x] = (
                    r * np.float32(given[i])
                    + g * np.float32(given[i + 1])
                    + b * np.float32(given[i + 2])
                )


@njit("void(i8,f4[:,::1],f4[::1],f4[::1],f4[::1])", **OPTIONS)
def blurred_row(y, rows, weights, wide, out):
    """Row y of a picture, whose greys lie in row y % N of rows (N, W), smoothed by weights (R + 1,)
    to both sides, R even, its ends continued; `wide` (W + 2 R,) is to work in. One more value at
    each end of out (W + 2,). Two neighbours to each side at a time: what adds up is fetched half as
    often."""
    many, width = rows.shape
    reach = weights.shape[0] - 1
    row, column, inner = rows[(y + many) % many], wide[reach : reach + width], out[1 : width + 1]
    for k in range(1, reach, 2):
        above, below = rows[(y - k + many) % many], rows[(y + k + many) % many]
        over, under = rows[(y - k - 1 + many) % many], rows[(y + k + 1 + many) % many]
        m, w, v = weights[0], weights[k], weights[k + 1]
        if k == 1:
            for x in range(width):
                column[x] = m * row[x] + w * (above[x] + below[x]) + v * (over[x] + under[x])
        else:
            for x in range(width):
                column[x] += w * (above[x] + below[x]) + v * (over[x] + under[x])
    for x in range(reach):
        wide[x] = column[0]
        wide[reach + width + x] = column[width - 1]
    for k in range(1, reach, 2):
        left, right = wide[reach - k : reach - k + width], wide[reach + k : reach + k + width]
        near, far = wide[reach - k - 1 :], wide[reach + k + 1 :]
        m, w, v = weights[0], weights[k], weights[k + 1]
        if k == 1:
            for x in range(width):
                inner[x] = m * column[x] + w * (left[x] + right[x]) + v * (near[x] + far[x])
        else:
            for x in range(width):
                inner[x] += w * (left[x] + right[x]) + v * (near[x] + far[x])
    out[0], out[width + 1] = out[1], out[width]


@njit(
    [
        f"void(i8,i8,{kind}[:,::1],i8,f4[::1],f4,f4,f4,f4,f4,f4,f4,{kind}[:,::1])"
        for kind in ("u1", "u2")
    ],
    **OPTIONS,
)
def sharpen(first, last, numbers, width, weights, top, amount, least, kept, low, span, slope, out):
    """Numbers (H, W) or (H, 3 W), 0 to `top`, sharpened: their difference from the smoothed
    picture, beyond `least`, is given again times `amount`; times 1 - kept + kept * how far a place
    is an edge, which begins where the smoothed picture rises by `low` and is one 1 / span further.
    `slope` is times its gradient. Differences are in parts of `top`."""
    height = numbers.shape[0]
    reach = weights.shape[0] - 1
    many = 2 * reach + 3
    rows = np.empty((many, width), np.float32)
    wide = np.empty(width + 2 * reach, np.float32)
    soft = np.empty((3, width + 2), np.float32)
    added = np.empty(width, np.float32)
    zero, whole, half = np.float32(0.0), np.float32(1.0), np.float32(0.5)
    two, three = np.float32(2.0), np.float32(3.0)
    scale = whole / top
    grey_rows(first - 1 - reach, first + 1 + reach, numbers, height, scale, rows)
    blurred_row(first - 1, rows, weights, wide, soft[0])
    blurred_row(first, rows, weights, wide, soft[1])
    at = 0
    for y in range(first, last):
        grey_rows(y + 1 + reach, y + 2 + reach, numbers, height, scale, rows)
        blurred_row(y + 1, rows, weights, wide, soft[(at + 2) % 3])
        up, here, down = soft[at], soft[(at + 1) % 3], soft[(at + 2) % 3]
        source = rows[y % many]
        for x in range(width):
            more = source[x] - here[x + 1]
            more -= min(max(more, -least), least)
            across, along = here[x + 2] - here[x], down[x + 1] - up[x + 1]
            rise = slope * np.sqrt(across * across + along * along)
            part = min(max((rise - low) * span, zero), whole)
            part = part * part * (three - two * part)
            added[x] = amount * more * (whole - kept + kept * part) + half
        given, target = numbers[y], out[y]
        if given.shape[0] == width:
            for x in range(width):
                target[x] = np.int32(min(max(np.float32(given[x]) + added[x], zero), top))
        else:
            for x in range(width):
                a, i = added[x], 3 * x
                target[i] = np.int32(min(max(np.float32(given[i]) + a, zero), top))
                target[i + 1] = np.int32(min(max(np.float32(given[i + 1]) + a, zero), top))
                target[i + 2] = np.int32(min(max(np.float32(given[i + 2]) + a, zero), top))
        at = (at + 1) % 3
