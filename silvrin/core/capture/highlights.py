"""Light beyond the limit of a sensor: where one or two channels are clipped, the others still tell.

A camera's channels do not clip together: in daylight green does first. Where some are clipped and
some are not, the colour around says how far apart they should be (after Masood, Zhu, Tappen 2009:
ratios of channels spread from unclipped neighbours); what is unclipped then gives the rest. Where
two are clipped the colour is half believed, where all are it is taken to be neutral. A recovered
channel is never less than the limit at which it was clipped.
"""

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels

F32 = NDArray[np.float32]
U16 = NDArray[np.uint16]

FULL = 65535.0
REDUCED = 8  # by which the picture is made smaller to see the colour around
CLEAR, BRIGHT = 0.85, 0.1  # parts of the limit: surely unclipped; bright enough to tell a colour
REACHES = (3.0, 12.0, 48.0)  # of the colour around, in reduced pixels; nearer counts more
NEARER = 50.0


def working_light(camera: U16, matrix: NDArray[np.float64], limits: tuple[float, ...]) -> U16:
    """Linear light of a camera's white-balanced channels (H, W, 3) in the working colours.

    `limits` are the codes at which red, green and blue are clipped; `matrix` (3, 3) leads from the
    camera's colours to the working ones. Codes keep their scale.
    """
    limit = np.array(limits, np.float32)
    out = np.empty_like(camera)
    small = _reduced(camera)
    if (small >= limit * np.float32(CLEAR)).any():
        ratios = _colour_around(small, limit)
    else:
        ratios = np.zeros((1, 1, 2), np.float32)
    kernels.by_rows(
        kernels.to_working, len(camera), camera, matrix.astype(np.float32), limit, ratios, out
    )
    return out


def _reduced(light: U16) -> F32:
    height, width = light.shape[:2]
    size = (max(1, width // REDUCED), max(1, height // REDUCED))
    return np.asarray(cv2.resize(light, size, interpolation=cv2.INTER_AREA), np.float32)


def _colour_around(small: F32, limit: F32) -> F32:
    """(h, w, 2) log2 of red and blue over green, spread from where nothing is clipped."""
    clear = ((small < limit * np.float32(CLEAR)) & (small > 1.0)).all(axis=2)
    clear &= (small > limit.min() * np.float32(BRIGHT)).any(axis=2)
    known = clear.astype(np.float32)
    logs = np.log2(np.maximum(small, 1.0))
    ratios = (logs[..., [0, 2]] - logs[..., [1]]) * known[..., None]
    total = np.zeros_like(ratios)
    weight = np.full(known.shape, 1e-7, np.float32)  # where nothing is known: neutral
    share = np.float32(1.0)
    for reach in REACHES:
        total += share * cv2.GaussianBlur(ratios, (0, 0), reach)
        weight += share * cv2.GaussianBlur(known, (0, 0), reach)
        share /= np.float32(NEARER)
    return np.ascontiguousarray(total / weight[..., None], np.float32)
