"""Light and colour: codes, exposure, reducing, showing, camera to working colours."""

import numpy as np
from numba import njit

from .maths import exp2_of, log2_of
from .run import BLACK_GREY, DARKEST, OPTIONS


@njit("void(i8,i8,u2[:,:,::1],f4,f4,f4,f4,f4,f4[:,:,::1])", **OPTIONS)
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
            out[y, x, 2] = log2_of(max(total * scale, DARKEST))


@njit("void(i8,i8,f4[:,:,::1],f4[:,::1],f4,f4[:,::1])", **OPTIONS)
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


@njit("void(i8,i8,u2[:,:,::1],u2[:,:,::1])", **OPTIONS)
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


@njit("void(i8,i8,u2[:,:,::1],f4[:,::1],f4[::1],u1[:,:,::1])", **OPTIONS)
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


@njit("void(i8,i8,u2[:,:,::1],f4[:,::1],f4[::1],f4[:,:,::1],u2[:,:,::1])", **OPTIONS)
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
                    light = v[c] * exp2_of(-believed * log_ratio[c])  # as green would read
                    told += (one - clipped[c]) * light
                    weight += one - clipped[c]
                    least = max(least, clipped[c] * light)
                grey = max(told / weight, least)
                for c in range(3):
                    should = max(v[c], grey * exp2_of(believed * log_ratio[c]))
                    v[c] += clipped[c] * (should - v[c])
            for c in range(3):
                w = matrix[c, 0] * v[0] + matrix[c, 1] * v[1] + matrix[c, 2] * v[2]
                out[y, x, c] = np.uint16(min(max(w + np.float32(0.5), zero), top))


@njit(
    "void(i8,i8,f4[:,::1],f4[:,:,::1],f4[:,:,::1],f4[:,::1],f4[:,::1],f4[:,::1],f4[::1],"
    "f4[:,:,::1])",
    **OPTIONS,
)
def tone_places(first, last, light, coded, maps, scale, shares, matrix, curve, out):
    """Encoded light of a print to encoded sRGB, toned place by place.

    `scale` (N, 7) over the light: toned colour, luminance untoned, what warming adds, linear.
    `maps` (3, H, W): toner kept off, warmer, the capture's colour; `shares` (M, M) how much colour
    each chromaticity of `coded` (H, W, 3) has let back; `matrix` its colours to sRGB's. Maps and
    coded light of one pixel stand for none. `curve` encodes, over the root of linear light.
    """
    end = np.float32(scale.shape[0] - 1)
    one, top = np.uint32(1), np.uint32(scale.shape[0] - 2)
    cells, cell = np.float32(shares.shape[0] - 1), np.uint32(shares.shape[0] - 2)
    by_pass, colours = maps.shape[1] == out.shape[0], coded.shape[0] == out.shape[0]
    by_pass = by_pass and maps.shape[2] == out.shape[1]
    colours = colours and coded.shape[1] == out.shape[1]
    zero, whole, tiny = np.float32(0.0), np.float32(1.0), np.float32(1e-6)
    lr, lg, lb = np.float32(0.2126), np.float32(0.7152), np.float32(0.0722)
    per_cell = whole / cells
    codes, last_code = np.float32(curve.shape[0] - 1), np.uint32(curve.shape[0] - 2)
    for y in range(first, last):
        for x in range(light.shape[1]):
            t = min(max(light[y, x] * end, zero), end)
            i = min(np.uint32(t), top)
            f = t - np.float32(i)
            r = scale[i, 0] + f * (scale[i + one, 0] - scale[i, 0])
            g = scale[i, 1] + f * (scale[i + one, 1] - scale[i, 1])
            b = scale[i, 2] + f * (scale[i + one, 2] - scale[i, 2])
            back = zero
            if by_pass:
                off, warm, back = maps[0, y, x], maps[1, y, x], maps[2, y, x]
                grey = scale[i, 3] + f * (scale[i + one, 3] - scale[i, 3])
                r += off * (grey - r) + warm * (scale[i, 4] + f * (scale[i + one, 4] - scale[i, 4]))
                g += off * (grey - g) + warm * (scale[i, 5] + f * (scale[i + one, 5] - scale[i, 5]))
                b += off * (grey - b) + warm * (scale[i, 6] + f * (scale[i + one, 6] - scale[i, 6]))
            luminance = lr * r + lg * g + lb * b
            if colours:
                u, v = coded[y, x, 0], coded[y, x, 1]
                k, j = min(np.uint32(u), cell), min(np.uint32(v), cell)
                fu, fv = u - np.float32(k), v - np.float32(j)
                low = shares[j, k] + fu * (shares[j, k + one] - shares[j, k])
                high = shares[j + one, k] + fu * (shares[j + one, k + one] - shares[j + one, k])
                back = min(back + low + fv * (high - low), whole)
                cr, cg = u * per_cell, v * per_cell
                cb = max(whole - cr - cg, zero)
                sr = matrix[0, 0] * cr + matrix[0, 1] * cg + matrix[0, 2] * cb
                sg = matrix[1, 0] * cr + matrix[1, 1] * cg + matrix[1, 2] * cb
                sb = matrix[2, 0] * cr + matrix[2, 1] * cg + matrix[2, 2] * cb
                times = luminance / max(lr * sr + lg * sg + lb * sb, np.float32(1e-4))
                r += back * (sr * times - r)
                g += back * (sg * times - g)
                b += back * (sb * times - b)
            # towards the grey as light as it is, until sRGB holds it
            over = max(r, max(g, b)) - luminance
            under = luminance - min(r, min(g, b))
            keep = whole
            if over > whole - luminance:
                keep = max(whole - luminance, zero) / max(over, tiny)
            if under * keep > luminance:
                keep = max(luminance, zero) / max(under, tiny)
            s = np.sqrt(min(max(luminance + keep * (r - luminance), zero), whole)) * codes
            n = min(np.uint32(s), last_code)
            out[y, x, 0] = curve[n] + (s - np.float32(n)) * (curve[n + one] - curve[n])
            s = np.sqrt(min(max(luminance + keep * (g - luminance), zero), whole)) * codes
            n = min(np.uint32(s), last_code)
            out[y, x, 1] = curve[n] + (s - np.float32(n)) * (curve[n + one] - curve[n])
            s = np.sqrt(min(max(luminance + keep * (b - luminance), zero), whole)) * codes
            n = min(np.uint32(s), last_code)
            out[y, x, 2] = curve[n] + (s - np.float32(n)) * (curve[n + one] - curve[n])
