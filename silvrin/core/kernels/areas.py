"""Areas of the printing map, and what passes add up to."""

import numpy as np
from numba import njit

from .run import OPTIONS

ADD, TAKE, KEEP = 0, 1, 2


@njit(**OPTIONS)
def _run(part):
    """1 before 0, 0 past 1, smoothly between (as `colour.smooth_step`)."""
    x = min(max(part, np.float32(0.0)), np.float32(1.0))
    return np.float32(1.0) - x * x * (np.float32(3.0) - np.float32(2.0) * x)


@njit("void(i8,i8,f4[:,::1],i8,f4[:,::1])", **OPTIONS)
def join_shapes(first, last, own, how, out):
    """An amount with another shape's added, taken away, or kept of it."""
    one = np.float32(1.0)
    for y in range(first, last):
        for x in range(out.shape[1]):
            a, b = out[y, x], own[y, x]
            if how == ADD:
                out[y, x] = max(max(a, b), a + b - a * b)
            elif how == TAKE:
                out[y, x] = a * (one - min(b, one))
            else:
                out[y, x] = a * b


@njit("void(i8,i8,f4[:,:,::1],f4[::1],f4[:,::1])", **OPTIONS)
def disc(first, last, places, figures, out):
    """An ellipse over places (H, W, 2); its figures are its middle, one over its radii along and
    across, cosine and sine of its turn, and one over its softness."""
    x0, y0, along, across, cosine, sine, soft = figures
    half, one = np.float32(0.5), np.float32(1.0)
    for y in range(first, last):
        for x in range(places.shape[1]):
            dx, dy = places[y, x, 0] - x0, places[y, x, 1] - y0
            u = (dx * cosine + dy * sine) * along
            v = (dy * cosine - dx * sine) * across
            away = np.sqrt(u * u + v * v)
            out[y, x] = _run((away - one) * soft + half)


@njit("void(i8,i8,f4[:,:,::1],f4[::1],f4[:,::1])", **OPTIONS)
def card(first, last, places, figures, out):
    """A straight edge; its figures are where it is full, and its run over the square of that."""
    x0, y0, run_x, run_y = figures
    for y in range(first, last):
        for x in range(places.shape[1]):
            part = (places[y, x, 0] - x0) * run_x + (places[y, x, 1] - y0) * run_y
            out[y, x] = _run(part)


@njit(**OPTIONS)
def _to_line(px, py, ax, ay, bx, by):
    """Square of the distance to a line between two points, and the part along it."""
    dx, dy = bx - ax, by - ay
    long = dx * dx + dy * dy
    part = np.float32(0.0)
    if long > np.float32(0.0):
        part = ((px - ax) * dx + (py - ay) * dy) / long
        part = min(max(part, np.float32(0.0)), np.float32(1.0))
    ex, ey = px - ax - part * dx, py - ay - part * dy
    return ex * ex + ey * ey, part


@njit("void(i8,i8,f4[:,:,::1],f4[:,::1],f4,f4[::1],f4[:,::1])", **OPTIONS)
def polygon(first, last, places, corners, feather, box, out):
    """A closed outline with corners (N, 2); what it goes round is inside, however often. Outside
    its box (left, top, right, bottom, feather included) it is nothing."""
    half, far = np.float32(0.5), np.float32(1e30)
    count = corners.shape[0]
    for y in range(first, last):
        for x in range(places.shape[1]):
            px, py = places[y, x, 0], places[y, x, 1]
            if px < box[0] or px > box[2] or py < box[1] or py > box[3]:
                out[y, x] = np.float32(0.0)
                continue
            near, turns, before = far, 0, count - 1
            for k in range(count):
                ax, ay, bx, by = (
                    corners[before, 0],
                    corners[before, 1],
                    corners[k, 0],
                    corners[k, 1],
                )
                away, _ = _to_line(px, py, ax, ay, bx, by)
                near = min(near, away)
                if (ay <= py) != (by <= py):
                    side = (bx - ax) * (py - ay) - (px - ax) * (by - ay)
                    if by > ay and side > np.float32(0.0):
                        turns += 1
                    elif by <= ay and side < np.float32(0.0):
                        turns -= 1
                before = k
            away = np.sqrt(near)
            out[y, x] = _run((away if turns == 0 else -away) / feather + half)


@njit("void(i8,i8,f4[:,::1],i8[::1],f4[:,::1],f4,f4[:,::1])", **OPTIONS)
def brush(first, last, points, begins, strokes, most, out):
    """Strokes one after the other, in place. Points (N, 3) are places on the amounts and pressure;
    stroke k has those from begins[k] on and (radius, softness, flow), flow below 0 taken away.

    A stroke leaves what was over a place: the integral of its profile along its way, so that
    passing again leaves more, but nowhere less than its profile across.
    """
    half, one, zero = np.float32(0.5), np.float32(1.0), np.float32(0.0)
    width = out.shape[1]
    for k in range(strokes.shape[0]):
        radius, soft, flow = strokes[k]
        reach = radius * (one + half * soft)
        begin, end = begins[k], begins[k + 1]
        left, right = np.int64(width), np.int64(0)
        top, bottom = np.int64(last), np.int64(first)
        way = zero
        for i in range(begin, end):
            left = min(left, np.int64(np.floor(points[i, 0] - reach)))
            right = max(right, np.int64(np.ceil(points[i, 0] + reach)) + 1)
            top = min(top, np.int64(np.floor(points[i, 1] - reach)))
            bottom = max(bottom, np.int64(np.ceil(points[i, 1] + reach)) + 1)
            if i > begin:
                way += np.hypot(points[i, 0] - points[i - 1, 0], points[i, 1] - points[i - 1, 1])
        left, right = max(left, np.int64(0)), min(right, np.int64(width))
        top, bottom = max(top, np.int64(first)), min(bottom, np.int64(last))
        if left >= right or top >= bottom:
            continue
        across = np.zeros((bottom - top, right - left), np.float32)
        along = np.zeros_like(across)
        returns = way > np.float32(2.0) * radius  # a short one has not been anywhere twice
        for i in range(begin, end):
            j = min(i + 1, end - 1)
            if j == i and end - begin > 1:
                break
            ax, ay, aw = points[i]
            bx, by, bw = points[j]
            y0 = max(np.int64(np.floor(min(ay, by) - reach)), top)
            y1 = min(np.int64(np.ceil(max(ay, by) + reach)) + 1, bottom)
            x0 = max(np.int64(np.floor(min(ax, bx) - reach)), left)
            x1 = min(np.int64(np.ceil(max(ax, bx) + reach)) + 1, right)
            for y in range(y0, y1):
                for x in range(x0, x1):
                    away, part = _to_line(np.float32(x), np.float32(y), ax, ay, bx, by)
                    p = _run((np.sqrt(away) / radius - one) / soft + half)
                    p *= aw + part * (bw - aw)
                    across[y - top, x - left] = max(across[y - top, x - left], p)
            if not returns:
                continue
            long = np.hypot(bx - ax, by - ay)
            steps = np.int64(np.ceil(long / (radius * np.float32(0.35)))) + 1
            share = long / np.float32(steps) / (np.float32(2.0) * radius)
            for s in range(steps):
                part = (np.float32(s) + half) / np.float32(steps)
                cx, cy, cw = ax + part * (bx - ax), ay + part * (by - ay), aw + part * (bw - aw)
                y0, y1 = max(np.int64(cy - reach), top), min(np.int64(cy + reach) + 2, bottom)
                x0, x1 = max(np.int64(cx - reach), left), min(np.int64(cx + reach) + 2, right)
                for y in range(y0, y1):
                    for x in range(x0, x1):
                        dx, dy = np.float32(x) - cx, np.float32(y) - cy
                        away = np.sqrt(dx * dx + dy * dy)
                        p = _run((away / radius - one) / soft + half)
                        along[y - top, x - left] += cw * share * p
        for y in range(top, bottom):
            for x in range(left, right):
                left_there = max(across[y - top, x - left], along[y - top, x - left])
                out[y, x] = min(max(out[y, x] + flow * left_there, zero), most)


@njit("void(i8,i8,f4[:,:,::1],f4,b1,b1,f4,f4[:,:,::1],u1[:,::1])", **OPTIONS)
def add_pass(first, last, amount, value, opposite, strongest, touches, sums, touched):
    """Adds what a pass gives, or lets the stronger stand; counts where that is felt.

    Amounts (3, H, W) are a level and the line a · light + b about it, or (1, H, W) a level alone;
    sums (3, H, W) are the same of all.
    """
    one, zero = np.float32(1.0), np.float32(0.0)
    lines = amount.shape[0] > 1
    for y in range(first, last):
        for x in range(amount.shape[2]):
            level = amount[0, y, x]
            given = value * (one - level if opposite else level)
            slope = amount[1, y, x] if lines else zero
            base = amount[2, y, x] if lines else level
            slope = value * (-slope if opposite else slope)
            base = value * (one - base if opposite else base)
            if not strongest:
                sums[0, y, x] += given
                sums[1, y, x] += slope
                sums[2, y, x] += base
            elif abs(given) > abs(sums[0, y, x]):
                sums[0, y, x] = given
                sums[1, y, x] = slope
                sums[2, y, x] = base
            touched[y, x] += np.uint8(abs(given) > touches)
