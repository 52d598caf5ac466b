"""A picture printed larger than it was taken.

Light is interpolated before it meets the film (Lanczos over eight places, in square roots of light,
which keeps its ringing even to the eye), so that grain, blur and edges of the film are those of the
larger print, not enlarged pixels.
"""

import cv2
import numpy as np

from .picture import U16, Layer, LinearPicture, View

REACH = 5  # pixels of the smaller picture that a place looks at


class Enlarged(Layer):
    """A picture at more pixels than it has."""

    def __init__(self, picture: LinearPicture, width: int, height: int) -> None:
        super().__init__(picture, picture.scale)
        self.gains = picture.gains
        self._size = width, height

    @property
    def width(self) -> int:
        return self._size[0]

    @property
    def height(self) -> int:
        return self._size[1]

    @property
    def film_side(self) -> int:
        own = max(self._picture.width, self._picture.height)
        return round(self._picture.film_side * max(self._size) / own)

    def cut(self, view: View) -> U16:
        across, down = self._picture.width / self.width, self._picture.height / self.height
        if view.width * across >= view.out_width and view.height * down >= view.out_height:
            left, top = int(view.left * across), int(view.top * down)
            return self._picture.cut(
                View(
                    left, top, max(1, round((view.left + view.width) * across) - left),
                    max(1, round((view.top + view.height) * down) - top),
                    view.out_width, view.out_height,
                )
            )  # fmt: skip
        return self._interpolated(view, across * view.width / view.out_width,
                                  down * view.height / view.out_height)  # fmt: skip

    def _interpolated(self, view: View, x_step: float, y_step: float) -> U16:
        across, down = self._picture.width / self.width, self._picture.height / self.height
        x = (np.arange(view.out_width) + 0.5) * x_step + view.left * across - 0.5
        y = (np.arange(view.out_height) + 0.5) * y_step + view.top * down - 0.5
        left, top = max(0, int(x[0]) - REACH), max(0, int(y[0]) - REACH)
        right = min(self._picture.width, int(x[-1]) + REACH + 1)
        bottom = min(self._picture.height, int(y[-1]) + REACH + 1)
        width, height = right - left, bottom - top
        light = self._picture.cut(View(left, top, width, height, width, height))
        roots = np.sqrt(light.astype(np.float32))
        wide = np.meshgrid((x - left).astype(np.float32), (y - top).astype(np.float32))
        found = cv2.remap(
            roots, *wide, interpolation=cv2.INTER_LANCZOS4, borderMode=cv2.BORDER_REPLICATE
        )
        np.clip(found, 0.0, np.sqrt(np.float32(65535.0)), out=found)
        return np.asarray(found * found + np.float32(0.5), np.uint16)
