"""Areas of the printing map, and what passes add up to."""

import numpy as np
from numba import njit

from .maths import exp2_of, log2_of
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


@njit("void(i8,i8,f4[:,:,::1],f4[::1],i8[::1],f4[:,::1])", **OPTIONS)
def disc(first, last, places, figures, box, out):
    """An ellipse over places (H, W, 2); its figures are its middle, one over its radii along and
    across, cosine and sine of its turn, and one over its softness. It is drawn from the box's left
    to its right (its first two figures), in rows that count from its top (the third)."""
    x0, y0, along, across, cosine, sine, soft = figures
    half, one = np.float32(0.5), np.float32(1.0)
    left, right, top = box
    for y in range(first + top, last + top):
        row, drawn = places[y, left:right], out[y, left:right]
        for x in range(right - left):
            dx, dy = row[x, 0] - x0, row[x, 1] - y0
            u = (dx * cosine + dy * sine) * along
            v = (dy * cosine - dx * sine) * across
            away = np.sqrt(u * u + v * v)
            drawn[x] = _run((away - one) * soft + half)


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


LONG_RUN = np.float32(8.0)  # pixels from full to nothing
ABREAST = 8  # places of a row that are worked on together: none are left over
SAME_VISIT = np.float32(0.8)  # of its height, to which a profile falls that has not left a place


@njit(**OPTIONS)
def _joined(one, other, apart):
    """What two visits of a brush leave: of the weaker as far as it was another one."""
    return max(one, other) + apart * min(one, other)


@njit(**OPTIONS)
def _visits(points, radius, soft, before, height, fallen, apart):
    """A stroke's points (N, 3), places and pressure, on a window (H, W + ABREAST): of each place
    what former visits left, the last one's height, how far it fell since, and how far it is another
    visit than the one before."""
    half, one, zero = np.float32(0.5), np.float32(1.0), np.float32(0.0)
    tiny = np.float32(1e-30)
    reach, per, run = radius * (one + half * soft), one / radius, one / soft
    rows, columns = height.shape[0], height.shape[1] - ABREAST
    for i in range(max(points.shape[0] - 1, 1)):
        j = min(i + 1, points.shape[0] - 1)
        ax, ay, aw = points[i, 0], points[i, 1], points[i, 2]
        bx, by, bw = points[j, 0], points[j, 1], points[j, 2]
        dx, dy, more = bx - ax, by - ay, bw - aw
        long = dx * dx + dy * dy
        share = one / long if long > zero else zero
        y0 = max(np.int64(np.floor(min(ay, by) - reach)), np.int64(0))
        y1 = min(np.int64(np.ceil(max(ay, by) + reach)) + 1, rows)
        for y in range(y0, y1):
            ey = np.float32(y) - ay
            off = max(max(min(ay, by) - np.float32(y), np.float32(y) - max(ay, by)), zero)
            half_row = np.sqrt(max(reach * reach - off * off, zero))
            x0 = max(np.int64(np.floor(min(ax, bx) - half_row)), np.int64(0))
            x1 = min(np.int64(np.ceil(max(ax, bx) + half_row)) + 1, columns)
            if x1 <= x0:
                continue
            x1 = x0 + (x1 - x0 + ABREAST - 1) // ABREAST * ABREAST
            before_, height_ = before[y, x0:x1], height[y, x0:x1]
            fallen_, apart_ = fallen[y, x0:x1], apart[y, x0:x1]
            from_a = np.float32(x0) - ax
            for n in range(x1 - x0):  # without a branch: places are worked on abreast
                # the profile at the nearest point, and at the last one
                ex = from_a + np.float32(n)
                part = min(max((ex * dx + ey * dy) * share, zero), one)
                nx, ny = ex - part * dx, ey - part * dy
                fx, fy = ex - dx, ey - dy
                near, far = np.sqrt(nx * nx + ny * ny), np.sqrt(fx * fx + fy * fy)
                p = _run((near * per - one) * run + half) * (aw + part * more)
                at_last = _run((far * per - one) * run + half) * bw
                low, high, one_off = fallen_[n], height_[n], apart_[n]
                back = p > low and low < SAME_VISIT * high
                joined = _joined(before_[n], high, one_off)
                parted = _run(low / max(SAME_VISIT * high, tiny))
                before_[n] = joined if back else before_[n]
                apart_[n] = parted if back else one_off
                height_[n] = p if back else max(p, high)
                fallen_[n] = min(p, at_last) if p > zero else low


@njit(**OPTIONS)
def _lay_cells(cells, top, left, y0, y1, x0, x1, most, out):
    """Adds what cells of two by two say (the first at row `top`, column `left` of cells) to pixels:
    three quarters of the cell they lie in and a quarter of the next, down and across."""
    quarter, rest, zero = np.float32(0.25), np.float32(0.75), np.float32(0.0)
    count = cells.shape[1]
    level = np.empty(count, np.float32)
    even, odd = np.empty(count, np.float32), np.empty(count, np.float32)
    for y in range(y0, y1):
        v = y // 2 - top
        own = cells[v]
        other = cells[min(max(v + (1 if y % 2 else -1), 0), cells.shape[0] - 1)]
        for u in range(count):
            level[u] = rest * own[u] + quarter * other[u]
        even[0], odd[count - 1] = level[0], level[count - 1]
        for u in range(count - 1):
            even[u + 1] = rest * level[u + 1] + quarter * level[u]
        for u in range(count - 1):
            odd[u] = rest * level[u] + quarter * level[u + 1]
        row = out[y]
        for x in range(x0, x1):
            u = x // 2 - left
            given = odd[u] if x % 2 else even[u]
            row[x] = min(max(row[x] + given, zero), most)


@njit("void(i8,i8,f4[:,::1],i8[::1],f4[:,::1],f4,f4[:,::1])", **OPTIONS)
def brush(first, last, points, begins, strokes, most, out):
    """Strokes one after the other, in place. Points (N, 3) are places on the amounts and pressure;
    stroke k has those from begins[k] on and (radius, softness, flow), flow below 0 taken away.

    A stroke leaves its profile at its nearest; and once more each time it comes back to a place,
    as far as it had left it. One with a long run is found in cells of two by two, and laid between
    their middles.
    """
    half, one, zero = np.float32(0.5), np.float32(1.0), np.float32(0.0)
    for k in range(strokes.shape[0]):
        radius, soft, flow = strokes[k]
        highest, lowest = np.float32(last), np.float32(first)
        for i in range(begins[k], begins[k + 1]):
            highest = min(highest, points[i, 1])
            lowest = max(lowest, points[i, 1])
        reach = radius * (one + half * soft) + np.float32(2.0)
        if highest - reach > np.float32(last) or lowest + reach < np.float32(first):
            continue  # it is none of these rows
        cell = 2 if radius * soft >= LONG_RUN else 1
        per_cell = one / np.float32(cell)
        own = points[begins[k] : begins[k + 1]].copy()
        for i in range(own.shape[0]):
            own[i, 0] = (own[i, 0] + half) * per_cell - half
            own[i, 1] = (own[i, 1] + half) * per_cell - half
        radius *= per_cell
        # the cells that it reaches of these rows, and one more about them to lie between
        reach = radius * (one + half * soft) + one
        left = max(np.int64(np.floor(own[:, 0].min() - reach)), np.int64(-1))
        right = min(np.int64(np.ceil(own[:, 0].max() + reach)) + 1, out.shape[1] // cell + 2)
        top = max(np.int64(np.floor(own[:, 1].min() - reach)), first // cell - 1)
        bottom = min(np.int64(np.ceil(own[:, 1].max() + reach)) + 1, (last - 1) // cell + 2)
        if left >= right or top >= bottom:
            continue
        for i in range(own.shape[0]):
            own[i, 0] -= np.float32(left)
            own[i, 1] -= np.float32(top)
        size = (bottom - top, right - left + ABREAST)
        before, height = np.zeros(size, np.float32), np.zeros(size, np.float32)
        fallen, apart = np.zeros(size, np.float32), np.zeros(size, np.float32)
        _visits(own, radius, soft, before, height, fallen, apart)
        for r in range(size[0]):
            before_, height_, apart_ = before[r], height[r], apart[r]
            for c in range(size[1]):
                height_[c] = flow * _joined(before_[c], height_[c], apart_[c])
        y0, y1 = max(top * cell, first), min(bottom * cell, last)
        x0, x1 = max(left * cell, np.int64(0)), min(right * cell, out.shape[1])
        if cell == 1:
            for y in range(y0, y1):
                row, given = out[y, x0:x1], height[y - top, x0 - left :]
                for n in range(x1 - x0):
                    row[n] = min(max(row[n] + given[n], zero), most)
        else:
            _lay_cells(height, top, left, y0, y1, x0, x1, most, out)


@njit("void(i8,i8,f4[:,:,::1],f4,b1,i4,f4,f4,i4[:,:,::1],u1[:,::1])", **OPTIONS)
def add_pass(first, last, amount, value, opposite, count, parts, touches, sums, touched):
    """Adds what a pass gives so often to whole numbers of parts, and counts where it is felt.

    Amounts (2, H, W) are a level and its slope by the light, or (1, H, W) a level alone; sums
    (2, H, W) are the same of all.
    """
    given = -value if opposite else value
    base = value if opposite else np.float32(0.0)
    felt = np.uint8(count)
    for y in range(first, last):
        own, into, there = amount[0, y], sums[0, y], touched[y]
        for x in range(own.shape[0]):
            level = base + given * own[x]
            into[x] += count * np.int32(np.rint(level * parts))
            there[x] += felt * np.uint8(abs(level) > touches)
        if amount.shape[0] > 1:
            own, into = amount[1, y], sums[1, y]
            for x in range(own.shape[0]):
                into[x] += count * np.int32(np.rint(given * own[x] * parts))


@njit("void(i8,i8,f4[:,:,::1],f4,b1,f4[:,:,::1])", **OPTIONS)
def let_stronger(first, last, amount, value, opposite, out):
    """Lets what a pass gives stand where it is stronger, in out (2, H, W); as in `add_pass`."""
    one, zero = np.float32(1.0), np.float32(0.0)
    lines = amount.shape[0] > 1
    for y in range(first, last):
        for x in range(amount.shape[2]):
            level = amount[0, y, x]
            given = value * (one - level if opposite else level)
            slope = amount[1, y, x] if lines else zero
            stronger = abs(given) > abs(out[0, y, x])
            out[0, y, x] = given if stronger else out[0, y, x]
            out[1, y, x] = value * (-slope if opposite else slope) if stronger else out[1, y, x]


@njit(**OPTIONS)
def _sum_of_five(values, wide):
    """Across; two more at either end are reflected."""
    width = values.shape[0] - 4
    for k in range(2):
        values[k], values[width + 3 - k] = values[4 - k], values[width - 1 + k]
    for x in range(width):
        wide[x] = values[x] + values[x + 1] + values[x + 2] + values[x + 3] + values[x + 4]


@njit(**OPTIONS)
def _mirrored(y, height):
    return min(max(abs(y), 0), height - 1) if y < height else max(2 * height - 2 - y, 0)


@njit("void(i8,i8,f4[:,::1],f4[:,::1],f4[:,::1],f4[:,::1],f4[:,:,::1])", **OPTIONS)
def follow(first, last, guide, level, mean, part, out):
    """Level and slope (2, H, W) of the line by the guide that is nearest to a level within two
    places (`guided`), as the mean of those within two places: of the guide in these windows are
    given its mean and `part`, one over its variance and an edge's."""
    height, width = level.shape
    share = np.float32(1.0 / 25.0)
    one_sum, other_sum = np.empty(width + 4, np.float32), np.empty(width + 4, np.float32)
    one, other = np.empty(width, np.float32), np.empty(width, np.float32)
    slopes, bases = np.empty((5, width), np.float32), np.empty((5, width), np.float32)
    done = max(first - 2, np.int64(0))
    for y in range(first, last):
        for w in range(done, min(y + 3, height)):  # lines of the rows that are not yet at hand
            one_sum[:], other_sum[:] = np.float32(0.0), np.float32(0.0)
            for v in range(w - 2, w + 3):
                row, by = level[_mirrored(v, height)], guide[_mirrored(v, height)]
                for x in range(width):
                    one_sum[x + 2] += row[x]
                    other_sum[x + 2] += row[x] * by[x]
            _sum_of_five(one_sum, one)
            _sum_of_five(other_sum, other)
            slope, base, mean_, part_ = slopes[w % 5], bases[w % 5], mean[w], part[w]
            for x in range(width):
                near = one[x] * share
                slope[x] = (other[x] * share - mean_[x] * near) * part_[x]
                base[x] = near - slope[x] * mean_[x]
        done = min(y + 3, height)
        one_sum[:], other_sum[:] = np.float32(0.0), np.float32(0.0)
        for v in range(y - 2, y + 3):
            slope, base = slopes[_mirrored(v, height) % 5], bases[_mirrored(v, height) % 5]
            for x in range(width):
                one_sum[x + 2] += slope[x]
                other_sum[x + 2] += base[x]
        _sum_of_five(one_sum, one)
        _sum_of_five(other_sum, other)
        for x in range(width):
            slope_here = one[x] * share
            out[0, y, x] = slope_here * guide[y, x] + other[x] * share
            out[1, y, x] = slope_here


@njit(
    "void(i8,i8,i4[:,:,::1],f4,i4[:,:,::1],i4[:,:,::1],f4,f4,f4,f4[:,:,::1],f4[:,:,::1])", **OPTIONS
)
def with_grades(
    first, last, base, part, added, harder, part_of_exposure, grade, least, stops, grades
):
    """Stops and grade, each level and slope by the light (2, H, W), of a sum in stops and of
    exposures of other grades, as they are and times what is harder in them, all in parts: the
    exposures add up, at least to so much, and slopes follow by the chain rule."""
    ln2 = np.float32(np.log(2.0))
    for y in range(first, last):
        for x in range(base.shape[2]):
            own = exp2_of(np.float32(base[0, y, x]) * part)
            more = np.float32(added[0, y, x]) * part_of_exposure
            total = max(own + more, least)
            slope = own * np.float32(base[1, y, x]) * part * ln2
            slope += np.float32(added[1, y, x]) * part_of_exposure
            beside = np.float32(harder[0, y, x]) * part_of_exposure / total
            stops[0, y, x] = log2_of(total)
            stops[1, y, x] = slope / (total * ln2)
            grades[0, y, x] = grade + beside
            harder_slope = np.float32(harder[1, y, x]) * part_of_exposure
            grades[1, y, x] = (harder_slope - beside * slope) / total


_HOLD = "void(i8,i8,{}[:,:,::1],f4,f4[:,::1],f4,f4,f4[:,:,::1])"


@njit([_HOLD.format("f4"), _HOLD.format("i4")], **OPTIONS)
def hold_lines(first, last, sums, part, light, least, most, out):
    """Of level and slope (2, H, W), in parts: the line a · light + b, and the least and the most of
    the level within two places, at most so far (4, H, W)."""
    height, width = sums.shape[1], sums.shape[2]
    low, high = np.empty(width + 4, np.float32), np.empty(width + 4, np.float32)
    level = np.empty((5, width), np.float32)  # of the rows about
    done = max(first - 2, np.int64(0))
    for y in range(first, last):
        for v in range(done, min(y + 3, height)):
            own, there = sums[0, v], level[v % 5]
            for x in range(width):
                there[x] = np.float32(own[x]) * part
        done = min(y + 3, height)
        here, slope, light_ = level[y % 5], sums[1, y], light[y]
        a, b = out[0, y], out[1, y]
        for x in range(width):
            a[x] = np.float32(slope[x]) * part
            b[x] = here[x] - a[x] * light_[x]
        for x in range(width):
            low[x + 2] = here[x]
            high[x + 2] = here[x]
        for v in range(max(y - 2, 0), min(y + 3, height)):
            there = level[v % 5]
            for x in range(width):
                low[x + 2] = min(low[x + 2], there[x])
            for x in range(width):
                high[x + 2] = max(high[x + 2], there[x])
        for u in range(2):
            low[u], high[u] = low[2], high[2]
            low[width + 2 + u], high[width + 2 + u] = low[width + 1], high[width + 1]
        lowest, highest = out[2, y], out[3, y]
        for x in range(width):
            ends = min(min(low[x], low[x + 1]), min(low[x + 3], low[x + 4]))
            lowest[x] = max(min(ends, low[x + 2]), least)
        for x in range(width):
            ends = max(max(high[x], high[x + 1]), max(high[x + 3], high[x + 4]))
            highest[x] = min(max(ends, high[x + 2]), most)


@njit("void(i8,i8,f4[:,:,::1],f4[:,::1],f4[:,::1],f4[:,::1],f4,f4[:,::1])", **OPTIONS)
def alike(first, last, features, middles, spreads, away, reach, out):
    """How like one of several sorts (K, 4: their middles, and one over the spreads at which
    likeness is half gone) features (4, H, W) are, within reach of what was touched, `away` pixels
    from it."""
    far = np.float32(1e30)
    begins, length = np.float32(0.7), np.float32(1.0 / 0.6)
    for y in range(first, last):
        for x in range(out.shape[1]):
            beside = away[y, x] / reach
            if beside >= np.float32(1.3):
                out[y, x] = np.float32(0.0)
                continue
            least = far
            for k in range(middles.shape[0]):
                off = np.float32(0.0)
                for c in range(4):
                    d = (features[c, y, x] - middles[k, c]) * spreads[k, c]
                    off += d * d
                least = min(least, off)
            like = _run((np.sqrt(least) - begins) * length)
            out[y, x] = like * _run((beside - begins) * length)
