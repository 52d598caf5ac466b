"""Larger things taken out of a picture: what lay behind is put together from its surroundings.

At the coarsest size the hole is closed from its rim inwards, patch by patch (Criminisi, Perez,
Toyama 2004). From there to full size every place of it looks for the patch around that is most like
its own, and is made what those patches say (Wexler, Shechtman, Irani 2007; patches found by the
random search of Barnes and others 2009). At last the likeliest
patches speak nearly alone, so that texture stays.
"""

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels

F32 = NDArray[np.float32]
Bool = NDArray[np.bool_]

SMALLEST = 8  # pixels of a hole's reach at the coarsest size
SOURCES = 120  # pixels a side that the coarsest size has at most
ROUNDS = (8, 5, 4, 3, 2)  # of looking and saying, from the coarsest on; the last for all finer
SURER = np.float32(1.3)  # than a place a pixel further into the hole, how much a place is
TEXTURE = np.float32(3.0)  # how much it counts beside tone
SEED = 2463534242
MANY = 60_000  # places of a hole, from where a size looks only nearby
UNSURE = np.float32(1e-3)


def spread(values: F32, known: F32, sigma: float) -> F32:
    """What is known of values (H, W, C) carried to where nothing is, smoothly (normalised
    convolution: Knutsson, Westin 1993); `known` is 0 or 1."""
    height, width = known.shape
    smaller = max(1, int(sigma // 4))
    size = max(1, width // smaller), max(1, height // smaller)

    def smooth(layer: F32) -> F32:
        if smaller > 1:
            layer = np.asarray(cv2.resize(layer, size, interpolation=cv2.INTER_AREA), np.float32)
        return np.asarray(cv2.GaussianBlur(layer, (0, 0), sigma / smaller), np.float32)

    total = smooth(known) + np.float32(1e-4)
    carried = smooth(values * known[..., None]).reshape(*total.shape, -1) / total[..., None]
    if smaller > 1:
        carried = cv2.resize(carried, (width, height), interpolation=cv2.INTER_LINEAR)
    return np.asarray(carried, np.float32).reshape(values.shape)


def filled(image: F32, hole: Bool, allowed: Bool, ignored: Bool, reach: float) -> F32:
    """An image of logs (H, W, 3) whose hole is filled; patches are taken where it is `allowed`, and
    what is `ignored` tells nothing.

    `reach` is how many pixels the hole's middle lies from its edge. Where no patch fits, what is
    around is spread into the hole.
    """
    known = (~(hole | ignored)).astype(np.float32)
    image = np.concatenate([image, _texture(image, known)], axis=2)
    image[hole] = spread(image, known, max(2.0, reach))[hole]
    levels = [(image, hole, allowed, ignored)]
    while (reach > SMALLEST and min(image.shape[:2]) > 48) or max(image.shape[:2]) > 8 * SOURCES:
        image, hole, allowed, ignored = _halved(image, hole, allowed, ignored)
        levels.append((image, hole, allowed, ignored))
        reach /= 2.0
    field: NDArray[np.int32] | None = None
    for number, level in enumerate(reversed(levels)):
        field = _filled_level(*level, field, number, number == len(levels) - 1)
        if field is None:
            break
    return levels[0][0][..., :3]


def _texture(image: F32, known: F32) -> F32:
    """(H, W, 1) how strong fine detail is: it tells grass from gravel at sizes where both look
    alike (Newson and others 2014)."""
    green = np.ascontiguousarray(image[..., 1])
    slopes = [cv2.Sobel(green, cv2.CV_32F, *of, scale=0.25) for of in ((1, 0), (0, 1))]
    sure = np.asarray(cv2.erode(known, np.ones((3, 3), np.uint8)), np.float32)
    return TEXTURE * spread(np.hypot(*slopes)[..., None], sure, 4.0)


def _halved(image: F32, hole: Bool, allowed: Bool, ignored: Bool) -> tuple[F32, Bool, Bool, Bool]:
    height, width = hole.shape
    size = max(1, width // 2), max(1, height // 2)
    small = cv2.resize(image, size, interpolation=cv2.INTER_AREA)
    parts = [
        cv2.resize(mask.astype(np.float32), size, interpolation=cv2.INTER_AREA)
        for mask in (hole, allowed, ignored)
    ]
    return np.asarray(small, np.float32), parts[0] > 0.0, parts[1] >= 1.0, parts[2] > 0.0


def _filled_level(
    image: F32,
    hole: Bool,
    allowed: Bool,
    ignored: Bool,
    coarser: NDArray[np.int32] | None,
    number: int,
    last: bool,
) -> NDArray[np.int32] | None:
    """Fill one size in place; gives where every place was found, None when there is no source."""
    height, width = hole.shape
    side = 2 * kernels.PATCH + 1
    box = np.ones((side, side), np.uint8)
    whole = (allowed & ~hole).astype(np.uint8)
    sources = np.asarray(cv2.erode(whole, box, borderValue=0), np.uint8)
    border = kernels.PATCH
    sources[:border] = sources[-border:] = 0
    sources[:, :border] = sources[:, -border:] = 0
    places = np.argwhere(sources)
    if not len(places):
        return None
    marked = hole.astype(np.uint8)
    targets = np.ascontiguousarray(np.argwhere(cv2.dilate(marked, box)), np.int32)
    away = cv2.distanceTransform(marked, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    sure = np.maximum(SURER**-away, UNSURE)
    sure[ignored & ~hole] = UNSURE
    rng = np.random.default_rng(number)
    field = np.zeros((height, width, 2), np.int32)
    field[targets[:, 0], targets[:, 1]] = places[rng.integers(0, len(places), len(targets))]
    if coarser is not None:
        y, x = targets.T
        rows = np.minimum(y // 2, coarser.shape[0] - 1)
        columns = np.minimum(x // 2, coarser.shape[1] - 1)
        found = 2 * coarser[rows, columns] + np.stack([y % 2, x % 2], axis=-1)
        found = np.clip(found, 0, [height - 1, width - 1])
        fits = sources[found[:, 0], found[:, 1]] > 0
        field[y[fits], x[fits]] = found[fits]
    cost = np.full((height, width), -1.0, np.float32)
    cost[targets[:, 0], targets[:, 1]] = 1e9
    if coarser is None:
        kernels.close_hole(
            image, (~(hole | ignored)).astype(np.float32),
            np.ascontiguousarray(np.argwhere(hole), np.int32),
            np.ascontiguousarray(places, np.int32),
        )  # fmt: skip
    else:  # what the coarser size found stands first
        cost[targets[:, 0], targets[:, 1]] = 1.0
        kernels.by_rows(kernels.vote_patches, height, image, sure, marked, field, cost, np.uint8(0))
    rounds, passes, wide = ROUNDS[min(number, len(ROUNDS) - 1)], 2, max(height, width)
    if len(targets) > MANY:  # the coarser sizes have found what there is
        rounds, passes, wide = 1, 1, 2
    for turn in range(rounds):
        seed = np.uint32(SEED + 97 * turn + number)
        kernels.match_patches(image, sure, targets, sources, field, cost, passes, wide, seed)
        strict = np.uint8(last and turn == rounds - 1)
        kernels.by_rows(kernels.vote_patches, height, image, sure, marked, field, cost, strict)
    return field
