"""A plate: a piece of the picture between stations, and where it lies."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from . import kernels
from .picture import LinearPicture, View

F32 = NDArray[np.float32]


@dataclass(frozen=True)
class Grid:
    """Where the pixels of a piece lie on the picture, in its full-size pixels."""

    left: float
    top: float
    pitch_x: float  # full-size pixels a pixel of the piece
    pitch_y: float
    first_row: int  # rows of the same grid that lie above the piece
    width: int  # of the picture
    height: int
    film_side: int | None = None  # long side of the film it is cropped from; None: not cropped
    first_column: int = 0

    @classmethod
    def of(cls, view: View, picture: LinearPicture) -> "Grid":
        """The grid of a view of a picture."""
        return cls(
            view.left,
            view.top,
            view.width / view.out_width,
            view.height / view.out_height,
            0,
            picture.width,
            picture.height,
            picture.film_side,
        )

    def on(self, maps: F32) -> tuple[float, float, float, float, int]:
        """Place of the first pixel on maps (4, H, W), x and y, the step to the next ones, and the
        rows above."""
        x, y = maps.shape[2] / self.width, maps.shape[1] / self.height
        return (
            (self.left + (self.first_column + 0.5) * self.pitch_x) * x - 0.5,
            (self.top + 0.5 * self.pitch_y) * y - 0.5,
            self.pitch_x * x,
            self.pitch_y * y,
            self.first_row,
        )

    def places(self, height: int, width: int) -> tuple[F32, F32]:
        """Where the middles of a piece's pixels lie, across and down, in parts of the picture's
        width and height: (width,) and (height,)."""
        across = (
            self.left + (self.first_column + np.arange(width) + 0.5) * self.pitch_x
        ) / self.width
        down = (self.top + (self.first_row + np.arange(height) + 0.5) * self.pitch_y) / self.height
        return across.astype(np.float32), down.astype(np.float32)


@dataclass(frozen=True)
class Plate:
    """Pixels (H, W) or (H, W, 3) and where they lie; of density, also the grades (H, W) that it is
    printed on where passes go through others."""

    pixels: NDArray[Any]
    grid: Grid
    grades: F32 | None = None

    def holding(self, pixels: NDArray[Any]) -> "Plate":
        """Other pixels at the same place."""
        return Plate(pixels, self.grid)

    def over(self, values: F32, coded: F32 | None = None) -> F32:
        """A map of the whole picture at the plate's pixels: (H, W), or (4, H, W) a line in log2 of
        light, of the coded light (H, W, 3) there, held between a least and a most."""
        maps = np.ascontiguousarray(values[None] if values.ndim == 2 else values, np.float32)
        out = np.empty(self.pixels.shape[:2], np.float32)
        light = np.empty((1, 1, 3), np.float32) if coded is None else coded
        kernels.by_rows(kernels.lay, len(out), light, maps, *self.grid.on(maps), out)
        return out

    def part(self, rows: slice, columns: slice) -> "Plate":
        """A piece of it, without steps."""
        top, left = rows.indices(len(self.pixels))[0], columns.indices(self.pixels.shape[1])[0]
        grid = replace(
            self.grid,
            first_row=self.grid.first_row + top,
            first_column=self.grid.first_column + left,
        )
        return Plate(np.ascontiguousarray(self.pixels[rows, columns]), grid)
