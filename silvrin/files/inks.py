"""Pictures of signatures become inks."""

import base64
import io

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from ..core.mount.settings import MOST_INK, Ink
from ..errors import BadInk

MOST_BYTES = 8 << 20
MOST_PIXELS = 40_000_000
FIRST_SIDE = 1600  # pixels that the longer side is reduced to, and less until it fits
LEAST_COVER = 8  # of 255, below which there is no ink

U8 = NDArray[np.uint8]


def ink_of(data: bytes, name: str) -> Ink:
    """The ink of a PNG: what of it is not transparent, or where nothing is, what is dark; without
    the empty margin. Raises BadInk."""
    cover = _cover(data, name)
    inked = cover >= LEAST_COVER
    rows, columns = np.flatnonzero(inked.any(axis=1)), np.flatnonzero(inked.any(axis=0))
    if not len(rows):
        raise BadInk(f"{name} is empty: all of it is transparent or white. Choose another file.")
    cover = cover[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1]
    tall, wide = cover.shape
    if not 0.05 <= wide / tall <= 20.0:
        raise BadInk(
            f"{name} is {wide} × {tall} pixels without its margin; a signature is at most twenty "
            "times as long as it is high, or as high as it is long."
        )
    side = FIRST_SIDE
    while True:
        ratio = min(1.0, side / max(tall, wide))
        size = max(1, round(wide * ratio)), max(1, round(tall * ratio))
        small = cv2.resize(cover, size, interpolation=cv2.INTER_AREA) if ratio < 1.0 else cover
        text = base64.b64encode(cv2.imencode(".png", small)[1].tobytes()).decode()
        if len(text) <= MOST_INK:
            return Ink(width=round(wide / tall, 4), picture=text)
        side = side * 3 // 4


def _cover(data: bytes, name: str) -> U8:
    if len(data) > MOST_BYTES:
        raise BadInk(
            f"{name} has {len(data) / 2**20:.0f} MB; a signature has at most "
            f"{MOST_BYTES >> 20} MB. Make the picture smaller."
        )
    try:
        with Image.open(io.BytesIO(data), formats=("PNG",)) as opened:
            wide, tall = opened.size
            if wide * tall > MOST_PIXELS:
                raise BadInk(
                    f"{name} is {wide} × {tall} pixels; a signature has at most "
                    f"{MOST_PIXELS // 10**6} million. Make the picture smaller."
                )
            rgba = np.asarray(opened.convert("RGBA"), np.uint8)
    except BadInk:
        raise
    except Exception as error:  # whatever a decoder finds wrong with it
        raise BadInk(f"{name} is no PNG that can be read ({error}). Give a PNG.") from error
    alpha = rgba[..., 3]
    if alpha.min() < 255:
        return alpha
    return np.asarray(255 - cv2.cvtColor(rgba[..., :3], cv2.COLOR_RGB2GRAY), np.uint8)
