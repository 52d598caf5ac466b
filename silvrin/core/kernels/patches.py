"""Fillings put together from patches (`capture.filling`)."""

import numpy as np
from numba import njit

from .run import OPTIONS, PATCH

SEAMLESS = np.float32(1.1)  # by what part a seamless patch may be less like its place


@njit("u4(u4)", inline="always", **OPTIONS)
def _shuffled(state):
    """The next of a run of numbers without order (xorshift: Marsaglia 2003)."""
    state ^= (state << np.uint32(13)) & np.uint32(0xFFFFFFFF)
    state ^= state >> np.uint32(17)
    state ^= (state << np.uint32(5)) & np.uint32(0xFFFFFFFF)
    return state


@njit("f4(f4[:,:,::1],f4[:,::1],i8,i8,i8,i8,f4)", **OPTIONS)
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


@njit("void(f4[:,:,::1],f4[:,::1],i4[:,::1],u1[:,::1],i4[:,:,::1],f4[:,::1],i8,i8,u4)", **OPTIONS)
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


@njit("void(f4[:,:,::1],f4[:,::1],i4[:,::1],i4[:,::1])", **OPTIONS)
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


@njit("void(i8,i8,f4[:,:,::1],f4[:,::1],u1[:,::1],i4[:,:,::1],f4[:,::1],u1)", **OPTIONS)
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
