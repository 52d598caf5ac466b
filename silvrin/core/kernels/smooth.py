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
