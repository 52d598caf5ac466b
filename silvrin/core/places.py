"""Places, by what they are counted in. A conversion is named after both ends.

A place of the *capture* is in pixels of its developed light, upright, from its left and top; one of
the *picture* in pixels of the finished picture, after geometry and crop; one of the *window* in
pixels of the view that a window shows. Pixel n reaches from n to n + 1: its middle is n + 0.5.
"""

from collections.abc import Iterable
from typing import NamedTuple, NewType

import numpy as np
from numpy.typing import NDArray

# (N, 2) places, x and y
CapturePlaces = NewType("CapturePlaces", NDArray[np.float64])
PicturePlaces = NewType("PicturePlaces", NDArray[np.float64])
WindowPlaces = NewType("WindowPlaces", NDArray[np.float64])


class CapturePixel(NamedTuple):
    """A pixel of the capture."""

    x: int
    y: int


class PicturePixel(NamedTuple):
    """A pixel of the finished picture."""

    x: int
    y: int


def capture_places(pixels: Iterable[tuple[int, int]]) -> CapturePlaces:
    """The middles of pixels of the capture."""
    return CapturePlaces(np.array([*pixels], np.float64).reshape(-1, 2) + 0.5)


def picture_places(pixels: Iterable[tuple[int, int]]) -> PicturePlaces:
    """The middles of pixels of the finished picture."""
    return PicturePlaces(np.array([*pixels], np.float64).reshape(-1, 2) + 0.5)


def picture_pixels(places: PicturePlaces) -> list[PicturePixel]:
    """The pixels of the finished picture that places lie in; they may be outside of it."""
    return [PicturePixel(int(x), int(y)) for x, y in np.floor(places)]


def capture_pixels(places: CapturePlaces, width: int, height: int) -> list[CapturePixel]:
    """The pixels of a capture of that size that places lie in, or the nearest to them."""
    inside = np.clip(np.floor(places), 0, [width - 1, height - 1])
    return [CapturePixel(int(x), int(y)) for x, y in inside]
