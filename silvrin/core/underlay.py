"""The underlay: what stations do over distances, as maps of the whole picture at a reduced size.

Haze, soft and selective focus, halation and local contrast are all, at each place, a line in the
place's own light whose coefficients change slowly over the picture. So the coefficients are made
once at this size and every view, strip and reading takes them from there: what is seen at any
size is the same picture, a strip needs no margin, and memory does not grow with the picture.
"""

import numpy as np
from numpy.typing import NDArray

from .guided import guided

F32 = NDArray[np.float32]

SIZE = 1024  # long side, where colours draw edges
COARSE = 512  # of flattening and local contrast
CHROMA_RADIUS, CHROMA_EDGE = 0.004, 0.5  # of the long side; stops


def chroma_maps(coded: F32) -> F32:
    """(4, H, W) maps a, b of red and of green: the smooth colour (in cells of the chromaticity
    table) as a · log2 sum + b, of a coded picture (H, W, 3)."""
    guide = np.ascontiguousarray(coded[..., 2])
    radius = max(1, round(CHROMA_RADIUS * max(guide.shape)))
    maps: list[F32] = []
    for channel in (0, 1):
        signal = np.ascontiguousarray(coded[..., channel])
        maps += guided(guide, signal, radius, CHROMA_EDGE**2)[:2]
    return np.stack(maps)
