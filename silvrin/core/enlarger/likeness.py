"""What is alike: places with the tone, colour and texture of a sample, within its reach."""

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..guided import grown, guided
from .ground import Ground
from .shapes import Alike, Sample

F32 = NDArray[np.float32]

# Differences of tone (stops), of colour (cells of the chromaticity table) and of texture (stops of
# its strength) at which likeness is half gone, at a strictness of one half
TONE, COLOUR, TEXTURE = 0.8, 2.2, 1.2
MOST_SORTS = 4  # of things that one stroke can be like
TOUCH = 0.004  # of the long side: radius of a touch
SMOOTH, SMOOTH_EDGE = 0.004, 0.25  # of the long side; stops


def likeness(shape: Alike, ground: Ground) -> F32:
    """(H, W) 0 to 1: how far places are like one of the samples."""
    small = ground.small_guide
    found = np.zeros_like(small)
    for sample in shape.samples:
        np.maximum(found, _like(sample, ground), out=found)
    radius = max(1, round(SMOOTH * max(small.shape)))
    a, b, _ = guided(small, found, radius, SMOOTH_EDGE**2)
    out = grown(a, ground.guide)
    out *= ground.guide
    out += grown(b, ground.guide)
    return np.clip(out, 0.0, 1.0, out=out)


def _like(sample: Sample, ground: Ground) -> F32:
    """(h, w) of the small guide."""
    features = ground.features
    height, width = features.shape[1:]
    by = np.array([width / ground.shape[1], height / ground.shape[0]])
    points = ground.to_ground(np.array(sample.points, np.float64)) * by - 0.5
    radius = max(1, round(TOUCH * max(width, height)))
    touched = np.zeros((height, width), np.uint8)
    for x, y in np.rint(points).astype(int):
        cv2.circle(touched, (int(x), int(y)), radius, 1, -1)
    if not touched.any():  # wholly outside the picture
        return np.zeros((height, width), np.float32)
    wide = 4.0 ** (0.5 - sample.strictness) * np.array([TONE, COLOUR, COLOUR, TEXTURE])
    here = features[:, touched > 0] / wide[:, None].astype(np.float32)  # (4, N)
    sorts = _sorts(np.ascontiguousarray(here.T))
    middles = np.array([np.median(own, axis=0) * wide for own in sorts], np.float32)
    spreads = np.array([1.0 / (np.hypot(1.0, own.std(axis=0)) * wide) for own in sorts], np.float32)
    spot = np.ones((height, width), np.uint8)
    line = np.rint(points).astype(np.int32).reshape(-1, 1, 2)
    cv2.polylines(spot, [line], False, 0, 1)
    if len(line) == 1 and 0 <= line[0, 0, 0] < width and 0 <= line[0, 0, 1] < height:
        spot[line[0, 0, 1], line[0, 0, 0]] = 0
    away = np.asarray(cv2.distanceTransform(spot, cv2.DIST_L2, 5), np.float32)
    out = np.empty((height, width), np.float32)
    kernels.by_rows(
        kernels.alike, height, features, middles, spreads, away,
        np.float32(sample.reach / ground.pitch * by.mean()), out,
    )  # fmt: skip
    return out


def _sorts(features: F32) -> list[F32]:
    """What was touched (N, 4), parted where it is of several sorts: a stroke over two things is
    like both, not like their mean."""
    if len(features) <= MOST_SORTS or features.std(axis=0).max() < 0.7:
        return [features]
    ends = cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_COUNT, 20, 0.05
    cv2.setRNGSeed(1)
    _, labels, _ = cv2.kmeans(features, MOST_SORTS, None, ends, 2, cv2.KMEANS_PP_CENTERS)  # type: ignore[call-overload]
    return [own for k in range(MOST_SORTS) if len(own := features[labels[:, 0] == k])]
