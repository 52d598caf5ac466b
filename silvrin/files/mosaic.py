"""A mosaic of two by two cells developed by LibRaw strip by strip: the same pixels as in one piece,
without the four channels of the whole beside it (8 bytes a pixel)."""

import io
from typing import Any

import numpy as np
import rawpy
import tifffile
from numpy.typing import NDArray

from .profiles import SRGB_TO_XYZ

U16 = NDArray[np.uint16]

PIXELS = 4_000_000  # of a strip
MARGIN = 16  # rows beyond a strip that are developed with it; LibRaw looks 6 rows away at most
LARGE = 60_000_000  # pixels from which a mosaic is developed so
_CFA, _PATTERN_SIZE, _PATTERN, _VERSION, _MODEL = 32803, 33421, 33422, 50706, 50708
_BLACK_SIZE, _BLACK, _WHITE, _MATRIX, _LIGHT = 50713, 50714, 50717, 50721, 50778
_PARTS = 2**24  # of a rational: as fine as the numbers that LibRaw holds


def is_plain(raw: Any) -> bool:
    """Whether an opened raw is a mosaic of two by two cells of red, green and blue, square ones."""
    return bool(
        raw.raw_type == rawpy.RawType.Flat
        and raw.num_colors == 3
        and raw.raw_pattern is not None
        and raw.raw_pattern.shape == (2, 2)
        and bytes(raw.color_desc) == b"RGBG"
        and raw.sizes.pixel_aspect == 1.0
        and _of_xyz(raw).any()
        and raw.raw_image_visible.shape == (raw.sizes.height, raw.sizes.width)
    )


def develop(raw: Any, pixels: int = PIXELS, **how: Any) -> U16:
    """(H, W, 3) what `raw.postprocess(**how)` gives of such a raw, upright."""
    mosaic = raw.raw_image_visible
    height, width = mosaic.shape
    flip = raw.sizes.flip
    sides = (width, height) if flip in (5, 6) else (height, width)
    out = np.empty((*sides, 3), np.uint16)
    lying = _lying(out, flip)
    rows = max(2, pixels // width // 2 * 2)
    for top in range(0, height, rows):
        end = min(height, top + rows)
        first, last = max(0, top - MARGIN), min(height, end + MARGIN)
        with rawpy.imread(_file(raw, mosaic[first:last])) as strip:
            lying[top:end] = strip.postprocess(**how)[top - first : end - first]
    return out


def _lying(out: U16, flip: int) -> U16:
    """A view of an upright picture as the sensor lay, by LibRaw's code of how it was turned."""
    turns = {3: 2, 5: -1, 6: 1}.get(flip, 0)
    return np.rot90(out, turns)


def _of_xyz(raw: Any) -> NDArray[np.float64]:
    """(3, 3) the camera's response to XYZ, by what LibRaw knows of it."""
    to_srgb = np.array(raw.color_matrix, np.float64)[:, :3]
    if to_srgb[0, 0] > 0.125:  # LibRaw's own rule
        return np.asarray(np.linalg.inv(SRGB_TO_XYZ @ to_srgb), np.float64)
    return np.array(raw.rgb_xyz_matrix, np.float64)[:3]


def _file(raw: Any, rows: U16) -> io.BytesIO:
    """A DNG of some rows of a mosaic, the first an even one, with its blacks, white and colours, by
    which LibRaw chooses directions."""
    pattern = raw.raw_pattern
    colours = bytes(1 if c == 3 else int(c) for c in pattern.ravel())
    blacks = [int(raw.black_level_per_channel[c]) for c in pattern.ravel()]
    matrix = np.rint(_of_xyz(raw).ravel() * _PARTS).astype(int)
    tags = [
        (_PATTERN_SIZE, "H", 2, (2, 2), True),
        (_PATTERN, "B", 4, colours, True),
        (_VERSION, "B", 4, bytes([1, 4, 0, 0]), True),
        (_MODEL, "s", 0, "Strip", True),
        (_BLACK_SIZE, "H", 2, (2, 2), True),
        (_BLACK, "I", 4, blacks, True),
        (_WHITE, "I", 1, int(raw.white_level), True),
        (_MATRIX, "2i", 9, [n for v in matrix.tolist() for n in (v, _PARTS)], True),
        (_LIGHT, "H", 1, 21, True),  # daylight of 6500 K; without one the matrix is not read
    ]
    file = io.BytesIO()
    tifffile.imwrite(
        file, np.ascontiguousarray(rows), photometric=_CFA, extratags=tags, metadata=None,
        software=None, rowsperstrip=len(rows),
    )  # fmt: skip
    file.seek(0)
    return file
