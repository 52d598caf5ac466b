"""Splines over planes, and shrinking what is noise between them."""

import numpy as np
from numba import njit

from .run import OPTIONS


@njit("void(i8,i8,f4[:,::1],i8,f4[:,::1])", **OPTIONS)
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


@njit("void(i8,i8,f4[:,::1],i8,f4[:,::1])", **OPTIONS)
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


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4,f4[:,::1])", **OPTIONS)
def shrink(first, last, plane, smooth, threshold, kept):
    """Adds to `kept` what of a detail (plane - smooth) is more than a threshold: garrote."""
    square, zero = threshold * threshold, np.float32(0.0)
    for y in range(first, last):
        for x in range(plane.shape[1]):
            d = plane[y, x] - smooth[y, x]
            dd = d * d
            kept[y, x] += d - d * square / dd if dd > square else zero
