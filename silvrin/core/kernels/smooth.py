"""What is smooth about a map, and local contrast from it."""

import numpy as np
from numba import njit

from .run import OPTIONS

_MAP = "f4[:,::1]"


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4,f4[:,::1],f4[:,::1])", **OPTIONS)
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
