"""Letters, and what a pen drew, as coverage: (H, W) of uint8, 255 where the ink is."""

import base64
import binascii
from collections.abc import Iterator, Mapping, Sequence
from functools import lru_cache
from io import BytesIO

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import ImageFont

from .settings import Ink

U8 = NDArray[np.uint8]
Fonts = Mapping[str, tuple[bytes, ...]]  # files of a lettering, of which each has other letters
LEAST_LETTERS = 2  # pixels
SUBPIXELS = 4  # bits of a place that OpenCV draws at


@lru_cache(maxsize=64)
def letters(text: str, files: tuple[bytes, ...], height: float) -> U8:
    """A line of text whose lower-case and upper-case letters take about `height` pixels; letters
    that no file has are left out. They are kept: every strip and frame asks for them."""
    size = max(LEAST_LETTERS, round(height))
    fonts = [ImageFont.truetype(BytesIO(file), size) for file in files]
    pieces = []
    for font, part in _runs(text, fonts):
        mask, (left, top) = font.getmask2(part, mode="L", anchor="ls")
        wide, tall = mask.size
        shape = np.array(mask, np.uint8).reshape(tall, wide)
        pieces.append((shape, int(left), int(top), round(font.getlength(part))))
    if not pieces:
        return np.zeros((1, 1), np.uint8)
    above = max(-top for _, _, top, _ in pieces)
    below = max(len(shape) + top for shape, _, top, _ in pieces)
    wide = sum(length for *_, length in pieces) + size
    out = np.zeros((max(above + below, 1), wide), np.uint8)
    x = size // 2
    for shape, left, top, length in pieces:
        begin = max(0, x + left)
        here = out[above + top : above + top + shape.shape[0], begin : begin + shape.shape[1]]
        np.maximum(here, shape[:, : here.shape[1]], out=here)
        x += length
    used = np.flatnonzero(out.any(axis=0))
    return out[:, used[0] : used[-1] + 1] if len(used) else out[:, :1]


def _runs(
    text: str, fonts: Sequence[ImageFont.FreeTypeFont]
) -> Iterator[tuple[ImageFont.FreeTypeFont, str]]:
    """Pieces of a text by the file that has their letters."""
    missing = [bytes(font.getmask("\uffff")) for font in fonts]
    run, last = "", None
    for letter in text:
        found = next(
            (f for f, none in zip(fonts, missing, strict=True)
             if letter == " " or bytes(f.getmask(letter)) != none),
            None,
        )  # fmt: skip
        if found is None:
            continue
        if found is not last and run and last is not None:
            yield last, run
            run = ""
        run, last = run + letter, found
    if run and last is not None:
        yield last, run


def drawn(ink: Ink, height: float, pen: float) -> U8:
    """An ink so many pixels high; strokes by a pen of so many pixels."""
    tall, wide = max(1, round(height)), max(1, round(height * ink.width))
    if ink.picture:
        fitted = cv2.resize(covering(ink.picture), (wide, tall), interpolation=cv2.INTER_AREA)
        return np.asarray(fitted, np.uint8)
    edge = int(np.ceil(pen)) + 1
    out = np.zeros((tall + 2 * edge, wide + 2 * edge), np.uint8)
    for stroke in ink.strokes:
        points = (np.array(stroke) * height + edge) * 2**SUBPIXELS
        cv2.polylines(
            out, [np.rint(points).astype(np.int32)], False, 255, max(1, round(pen)), cv2.LINE_AA,
            SUBPIXELS,
        )  # fmt: skip
    return out


def covering(picture: str) -> U8:
    """How far an ink's picture covers; raises ValueError."""
    try:
        raw = base64.b64decode(picture, validate=True)
    except binascii.Error as error:
        raise ValueError(f"the picture of an ink is no base64: {error}") from error
    found = cv2.imdecode(np.frombuffer(raw, np.uint8), cv2.IMREAD_GRAYSCALE) if raw else None
    if found is None:
        raise ValueError("the picture of an ink is no PNG")
    return np.asarray(found, np.uint8)
