"""Sky and foliage: areas that are known by the spectrum of their colour, made whole.

Sky: colours of clear sky, and bright greys that hang together with the top edge, are sure to be
sky; foliage, and what is dark, are sure to be ground. What lies between is told by the colours of
both (`Ground.told_apart`).
"""

import cv2
import numpy as np
from numpy.typing import NDArray

from ..colour import smooth_step
from ..guided import box_mean, grown, guided
from .ground import SMALLER, Ground

F32 = NDArray[np.float32]

CUT = 512  # long side at which sky and ground are told apart
SKY, LEAF = 0.5, 0.6  # how far a colour is taken for either to be sure of it
BRIGHT = 1.5  # stops that a cloud can lie below the brightest sky
ROUNDS = 4
GAPS = 0.05  # of the long side: how far into trees gaps are looked for
# What is sky among leaves, as likelihood for each stop and share of colour (by a logistic
# regression on leaves before three rendered skies)
LIGHTER, COOLER, LESS_GREEN, GREEN = 2.9, 2.2, 34.0, 0.345
# What is a leaf among what has a leaf's colour, likewise on three rendered scenes, one with a pond:
# for each stop of green over red, and of texture about the place
GREENER, TEXTURED, SURE = 10.3, 1.14, 3.0
ABOUT = 0.03  # of the long side
LEAST_CELL = 0.05  # of the chromaticity table
SOME = (0.01, 0.05)  # share of leaves from which a place is among them
AMONG = 0.008  # of the long side, how far about a gap leaves are looked for
FEW = 0.002  # of the picture, less is no sky
GREY = 0.08  # deviation of a grey cloud's colour from white, of the sum
WARMER = 0.03  # red less blue, of the sum, by which things differ from the warmest cloud


def foliage(ground: Ground) -> F32:
    """(H, W) 0 to 1: leaves and grass, with the small dark gaps between leaves. Water that shows
    leaves has their colour too: it is less green and smoother."""
    leaf = ground.kinds[0]
    radius = max(1, round(0.004 * ground.long))
    a, b, _ = guided(ground.guide, leaf, radius, 0.1, 2)
    like = smooth_step(a * ground.guide + b, 0.06, 0.55)
    red, green = (np.maximum(ground.coded[..., c], LEAST_CELL) for c in (0, 1))
    about = box_mean(ground.features[3], max(1, round(ABOUT * ground.long / SMALLER)))
    chance = GREENER * box_mean(np.log2(green / red), 1) + TEXTURED * grown(about, ground.guide)
    return np.asarray(like * smooth_step(chance, 0.0, SURE), np.float32)


def sky(ground: Ground) -> F32:
    """(H, W) 0 to 1: the sky with its clouds; nothing where nothing is blue or bright at the top. A
    plain bright wall there cannot be told from clouds."""
    height, width = ground.shape
    scale = min(1.0, CUT / ground.long)
    size = max(8, round(width * scale)), max(8, round(height * scale))

    def small(values: F32) -> F32:
        return np.asarray(cv2.resize(values, size, interpolation=cv2.INTER_AREA), np.float32)

    leaf, blue = small(ground.kinds[0]), small(ground.kinds[1])
    light, colours = small(ground.guide), small(ground.colours)
    clear = blue > SKY
    if clear.mean() < FEW:
        top = light[: max(2, size[1] // 20)]
        level = float(np.quantile(top, 0.75))
    else:
        level = float(np.quantile(light[clear], 0.5))
    grey = np.abs(colours - 1.0 / 3.0).max(axis=2) < GREY
    could = (clear | grey) & (light > level - BRIGHT) & (leaf < LEAF)
    sure = _touching_top(could)
    if sure.mean() < FEW:
        return np.zeros(ground.shape, np.float32)
    # the sky is bluer than what it lights: bright stone is no cloud
    warmth = colours[..., 0] - colours[..., 2]
    warm = float(np.quantile(warmth[sure], 0.99)) + WARMER
    marks = np.full(sure.shape, cv2.GC_PR_BGD, np.uint8)
    marks[could] = cv2.GC_PR_FGD
    inner = cv2.erode(sure.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    marks[sure] = cv2.GC_PR_FGD
    marks[inner & (clear | (light > level - 0.5))] = cv2.GC_FGD
    lowest = int(np.nonzero(sure.any(axis=1))[0].max())
    marks[min(lowest + size[1] // 10, size[1]) :] = cv2.GC_BGD
    marks[(leaf > LEAF) | (light < level - 3.0) | (warmth > warm)] = cv2.GC_BGD
    if not (marks == cv2.GC_BGD).any():
        return np.ones(ground.shape, np.float32)
    cut = ground.told_apart((slice(None), slice(None)), marks, ROUNDS)
    cut = _touching_top(cut) | (cut & clear)
    whole = np.asarray(
        cv2.resize(cut.astype(np.float32), (width, height), interpolation=cv2.INTER_LINEAR),
        np.float32,
    )
    dark = smooth_step(ground.guide, level - 2.5, level - 1.5)
    cool = 1.0 - smooth_step(ground.colours[..., 0] - ground.colours[..., 2], warm, warm + WARMER)
    among = smooth_step(box_mean(ground.kinds[0], max(2, round(AMONG * ground.long))), *SOME)
    gaps = _gaps(whole, level, ground)
    return np.asarray(whole * dark * cool * (1.0 - among) + gaps * among, np.float32)


def _gaps(whole: F32, level: float, ground: Ground) -> F32:
    """Among leaves, place by place: what is light and not green is sky seen through them."""
    reach = 2 * round(GAPS * ground.long) + 1
    near = np.asarray(cv2.dilate(whole, np.ones((reach, reach), np.uint8)), np.float32)
    darker = np.minimum(ground.guide - np.float32(level), 0.0)
    red, green, blue = (ground.colours[..., c] for c in range(3))
    chance = LIGHTER * darker + COOLER * (blue - red) + LESS_GREEN * (GREEN - green)
    return np.asarray(near * smooth_step(chance, -1.0, 1.0), np.float32)


def _touching_top(mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """What of a mask hangs together with the top edge."""
    _, labels = cv2.connectedComponents(mask.astype(np.uint8), connectivity=4)
    above = np.unique(labels[: max(1, len(labels) // 50)][mask[: max(1, len(labels) // 50)]])
    return np.isin(labels, above[above > 0])
