"""Projection: density of the negative becomes exposure of the paper.

log E = log t + lamp - Q · D.
"""

from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..development.negative import Developing
from ..film.zones import LOG10_STOP
from ..paper.grading import Grading
from ..plate import Plate
from ..station import ToneStation
from .exposure import CALLIER, lamp, standard_time
from .working import Worked

F32 = NDArray[np.float32]

LEAST_TIME = 1e-3  # s, of a split grade whose exposures are both nothing


class Projection(ToneStation):
    """Density of the negative to log10 exposure of the paper."""

    reads = (
        "enlarger.head", "enlarger.time", "enlarger.soft_time", "enlarger.hard_time", "paper.paper",
    )  # fmt: skip
    builds_on = (Developing, Grading)

    @property
    def callier(self) -> float:
        """By how much the head multiplies the negative's densities."""
        return CALLIER[self.recipe.enlarger.head]

    @cached_property
    def standard_time(self) -> float:
        """Seconds that print Zone V as middle grey."""
        light = lamp(self.things.paper, self.recipe.enlarger.head)
        zone_v = self.callier * float(self.of(Developing).negative.density(0.0))
        return standard_time(self.of(Grading).curve, light, zone_v)

    @property
    def time(self) -> float:
        """Base exposure in seconds; of a split grade both exposures together."""
        enlarger = self.recipe.enlarger
        if self.of(Grading).split:
            return max(enlarger.soft_time + enlarger.hard_time, LEAST_TIME)
        return enlarger.time or self.standard_time

    def worked(self, density: Plate, by_hand: Worked, coded: F32 | None) -> Plate:
        """A plate of density as the printing map makes the base exposure see it: a stop more
        light on the paper is as so much less density, whatever comes after. `coded` is the light
        (H, W, 3) of the plate, needed where areas follow the light; other grades go with it."""
        maps = by_hand.stops
        if maps is None:
            return density
        out = np.empty((2 if by_hand.graded else 1, *density.pixels.shape), np.float32)
        kernels.by_rows(
            kernels.lighten,
            out.shape[1],
            density.pixels,
            np.empty((1, 1, 3), np.float32) if coded is None else coded,
            maps,
            *density.grid.on(maps),
            np.float32(LOG10_STOP / self.callier),
            out,
        )
        return Plate(out[0], density.grid, out[1] if by_hand.graded else None)

    def at(self, values: NDArray[np.float64]) -> NDArray[np.float64]:
        """log10 E of densities."""
        light = np.log10(self.time) + lamp(self.things.paper, self.recipe.enlarger.head)
        return np.asarray(light - self.callier * values)
