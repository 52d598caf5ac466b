"""A capture as linear light, with its pyramid, and the views that are cut from it."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from . import kernels

U16 = NDArray[np.uint16]

CLIPPED = 65500.0  # code that counts as clipped where no other limit is known
SMALLEST_LEVEL = 640  # the pyramid ends when the long side is no longer than this


@dataclass(frozen=True)
class View:
    """A region of a picture, in its full-size pixels, and the size it is wanted at."""

    left: int
    top: int
    width: int
    height: int
    out_width: int
    out_height: int


def reduced(light: U16, width: int, height: int) -> U16:
    """Linear light (H, W, 3) at a smaller size, each pixel the mean of the area it covers."""
    out = np.empty((height, width, 3), np.uint16)
    kernels.by_rows(kernels.reduce_size, height, np.ascontiguousarray(light), out)
    return out


class LinearPicture:
    """Linear BT.2020 light, (H, W, 3) uint16, largest level first, each half the one before.

    Linear value = code * scale: an evenly lit 18 % grey reads 0.18.
    """

    def __init__(self, levels: Sequence[U16], scale: float) -> None:
        self.levels = list(levels)
        self.scale = scale
        self.gains = (1.0, 1.0, 1.0)  # white balance of red, green and blue
        self.limits = (CLIPPED, CLIPPED, CLIPPED)  # codes from which red, green, blue are clipped

    @classmethod
    def with_pyramid(cls, light: U16, scale: float) -> "LinearPicture":
        """A picture to look at: all levels are made."""
        levels = [light]
        while max(levels[-1].shape[:2]) > SMALLEST_LEVEL:
            height, width = levels[-1].shape[:2]
            levels.append(reduced(levels[-1], (width + 1) // 2, (height + 1) // 2))
        return cls(levels, scale)

    @classmethod
    def enlarged(cls, light: U16, scale: float, size: tuple[int, int]) -> "LinearPicture":
        """A picture of a size (width, height) of which only a smaller one is there yet."""
        return _Rough(cls.with_pyramid(light, scale).levels, scale, size)

    @property
    def width(self) -> int:
        return int(self.levels[0].shape[1])

    @property
    def height(self) -> int:
        return int(self.levels[0].shape[0])

    @property
    def film_side(self) -> int:
        """Long side, in pixels, of the film the picture is on, before it is cropped."""
        return max(self.width, self.height)

    @property
    def axis(self) -> tuple[float, float, float]:
        """Where the lens pointed, x and y, and half the capture's diagonal, in parts of the
        picture's long side."""
        long = max(self.width, self.height)
        half = 0.5 * float(np.hypot(self.width, self.height))
        return self.width / 2 / long, self.height / 2 / long, half / long

    def whole(self, long_side: int) -> View:
        """The whole picture with a long side of at most so many pixels, never enlarged."""
        ratio = min(1.0, long_side / max(self.width, self.height))
        return View(
            0,
            0,
            self.width,
            self.height,
            max(1, round(self.width * ratio)),
            max(1, round(self.height * ratio)),
        )

    def cut(self, view: View) -> U16:
        """The light of a view, (out_height, out_width, 3), averaged from a larger level.

        The region is kept inside the picture; a view larger than its region is not enlarged.
        """
        left = min(max(view.left, 0), self.width - 1)
        top = min(max(view.top, 0), self.height - 1)
        right = min(max(view.left + view.width, left + 1), self.width)
        bottom = min(max(view.top + view.height, top + 1), self.height)
        out_width = min(max(view.out_width, 1), right - left)
        out_height = min(max(view.out_height, 1), bottom - top)
        reduction = min((right - left) / out_width, (bottom - top) / out_height)
        level = self.level_for(reduction)
        x_ratio, y_ratio = level.shape[1] / self.width, level.shape[0] / self.height
        x0, y0 = int(left * x_ratio), int(top * y_ratio)
        x1 = max(x0 + 1, min(level.shape[1], round(right * x_ratio)))
        y1 = max(y0 + 1, min(level.shape[0], round(bottom * y_ratio)))
        region = level[y0:y1, x0:x1]
        if region.shape[:2] == (out_height, out_width):
            return np.ascontiguousarray(region)
        if region.shape[0] < out_height or region.shape[1] < out_width:
            size = (out_width, out_height)
            return np.asarray(cv2.resize(region, size, interpolation=cv2.INTER_CUBIC), np.uint16)
        return reduced(region, out_width, out_height)

    def patch(self, left: int, top: int, side: int) -> U16:
        """A square of the largest level, at most so large, (H, W, 3)."""
        return np.ascontiguousarray(self.level_for(1.0)[top : top + side, left : left + side])

    def _index(self, reduction: float) -> int:
        # a level of at least twice the size wanted: the mean is then nearly that of full size
        return min(max(int(np.log2(reduction) + 1e-6) - 1, 0), len(self.levels) - 1)

    def level_for(self, reduction: float) -> U16:
        """The level that a view reduced so many times is taken from."""
        return self.levels[self._index(reduction)]


class Layer(LinearPicture):
    """A picture that makes something of another one as it is cut."""

    def __init__(self, picture: LinearPicture, scale: float) -> None:
        super().__init__(picture.levels, scale)
        self._picture = picture
        self.limits = picture.limits

    @property
    def width(self) -> int:
        return self._picture.width

    @property
    def height(self) -> int:
        return self._picture.height

    @property
    def film_side(self) -> int:
        return self._picture.film_side

    @property
    def axis(self) -> tuple[float, float, float]:
        return self._picture.axis

    def level_for(self, reduction: float) -> U16:
        return self._picture.level_for(reduction)

    def patch(self, left: int, top: int, side: int) -> U16:
        return self._picture.patch(left, top, side)


class _Rough(LinearPicture):
    """A picture that stands for one of full size."""

    def __init__(self, levels: Sequence[U16], scale: float, size: tuple[int, int]) -> None:
        self._missing = max(1, round(float(np.log2(max(size) / max(levels[0].shape[:2])))))
        empty = np.empty((0, 0, 3), np.uint16)
        super().__init__([*[empty] * self._missing, *levels], scale)
        self._size = size

    @property
    def width(self) -> int:
        return self._size[0]

    @property
    def height(self) -> int:
        return self._size[1]

    def level_for(self, reduction: float) -> U16:
        return self.levels[max(self._missing, self._index(reduction))]
