"""Held to edges: an area that stops where what it was drawn over ends.

The middle of the area is sure to be the thing that was meant, all outside is sure not to be;
between them colours tell (`Ground.told_apart`), in a piece of the picture about it.
"""

import cv2
import numpy as np
from numpy.typing import NDArray

from ..guided import guided
from .ground import Ground

F32 = NDArray[np.float32]
U8 = NDArray[np.uint8]

CUT = 384  # long side of the piece in which things are told apart
NOTHING = 0.02  # of the most: outside
ROUNDS = 3
SURE = 0.45  # of the way in from the edge of an area: its middle
SMOOTH_EDGE = 0.15  # stops


def matte(level: F32, ground: Ground) -> F32:
    """(H, W) 0 to 1: how far places belong to the thing that an area was drawn over."""
    inside = (level > NOTHING * max(float(level.max()), 1e-6)).astype(np.uint8)
    out = np.ones_like(level)
    if not inside.any() or inside.all():
        return out
    for piece in _pieces(inside):
        out[piece] = np.minimum(out[piece], _cut(inside[piece], piece, ground))
    a, b, _ = guided(ground.guide, out, 2, SMOOTH_EDGE**2)
    return np.asarray(np.clip(a * ground.guide + b, 0.0, 1.0), np.float32)


def _pieces(inside: U8) -> list[tuple[slice, slice]]:
    """Parts of the picture about each connected part of an area, a third wider."""
    count, _, figures, _ = cv2.connectedComponentsWithStats(inside)
    if count > 12:  # many small ones are cut at once
        figures = np.array([[0, 0, 0, 0, 0], [0, 0, inside.shape[1], inside.shape[0], 0]])
    pieces = []
    for left, top, width, height, _ in figures[1:]:
        more = max(8, (width + height) // 6)
        pieces.append(
            (
                slice(max(0, top - more), min(inside.shape[0], top + height + more)),
                slice(max(0, left - more), min(inside.shape[1], left + width + more)),
            )
        )
    return pieces


def _cut(inside: U8, piece: tuple[slice, slice], ground: Ground) -> F32:
    height, width = inside.shape
    scale = min(1.0, CUT / max(height, width))
    size = max(4, round(width * scale)), max(4, round(height * scale))
    here = np.asarray(cv2.resize(inside, size, interpolation=cv2.INTER_NEAREST), np.uint8)
    framed = cv2.copyMakeBorder(here, 1, 1, 1, 1, cv2.BORDER_REPLICATE)
    depth = np.asarray(cv2.distanceTransform(framed, cv2.DIST_L2, 5)[1:-1, 1:-1], np.float32)
    # where the area is widest its middle is surest
    about = cv2.dilate(depth, np.ones((2 * round(float(depth.max())) + 1,) * 2, np.uint8))
    marks = np.where(here > 0, cv2.GC_PR_FGD, cv2.GC_BGD).astype(np.uint8)
    marks[(here > 0) & (depth >= SURE * about)] = cv2.GC_FGD
    if not (marks == cv2.GC_BGD).any() or not (marks == cv2.GC_FGD).any():
        return np.ones(inside.shape, np.float32)
    cut = ground.told_apart(piece, marks, ROUNDS).astype(np.float32)
    return np.asarray(cv2.resize(cut, (width, height), interpolation=cv2.INTER_LINEAR), np.float32)
