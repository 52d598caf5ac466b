"""Curves as tables, and taking pixels through them."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from . import kernels


@dataclass(frozen=True)
class Curve:
    """Evenly spaced points of a curve over [start, stop], for the kernels: (N,), or (N, 3) of one
    that leads to colours. Whole numbers of 8 bits lie so finely that the nearest point serves."""

    points: NDArray[Any]
    start: float
    stop: float

    @property
    def inverse_step(self) -> np.float32:
        """Points for a unit of the argument."""
        return np.float32((len(self.points) - 1) / (self.stop - self.start))


def through(values: NDArray[np.float32], curve: Curve, kind: Any = np.float32) -> NDArray[Any]:
    """Values (H, W) through a curve: (H, W) or (H, W, 3) of float32, uint16 or, of a curve of whole
    numbers, uint8."""
    colours = curve.points.ndim == 2
    kernel = {
        np.float32: kernels.through_colours if colours else kernels.through_curve,
        np.uint16: kernels.through_colours_u16 if colours else kernels.through_curve_u16,
        np.uint8: kernels.through_colours_u8 if colours else kernels.through_curve_u8,
    }[kind]
    out = np.empty((*values.shape, 3) if colours else values.shape, kind)
    start, points = np.float32(curve.start), np.ascontiguousarray(curve.points)
    kernels.by_rows(kernel, len(values), values, points, start, curve.inverse_step, out)
    return out
