"""How sure the exposure of a colour is: colour alone does not tell the spectrum that film sees."""

from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..spectra.chromaticity import SIZE, HueSettings, spread_at, spread_table, with_moved
from ..spectra.grid import Spectrum
from ..station import Station
from .conversion import Glass

F32 = NDArray[np.float32]


class Sureness(Station):
    """By how many stops, one standard deviation, what `Conversion` gives may be off; 0 where
    channels are weighed directly. Neither placement nor hue bands change it."""

    reads = (
        "capture.infrared", "light.source", "light.temperature", "light.hue_shift",
        "light.green_magenta", "light.blue_yellow", "film.stock",
    )  # fmt: skip
    builds_on = (Glass,)

    @cached_property
    def table(self) -> F32:
        """(65, 65) stops, as the table of exposures is laid out."""
        if self.recipe.capture.infrared:
            return np.zeros((SIZE, SIZE), np.float32)
        return np.asarray(with_moved(spread_table(self._seen), self._movement), np.float32)

    def of_colours(self, coded: F32) -> F32:
        """(H, W) stops of a coded picture (H, W, 3)."""
        row, column = _cells(coded)
        return self.table[row, column]

    def of_few(self, coded: F32) -> NDArray[np.float64]:
        """The same for a few colours (N, 3), without the table."""
        if self.recipe.capture.infrared:
            return np.zeros(len(coded))
        row, column = _cells(coded)
        return spread_at(self._seen, self._movement, row * SIZE + column)

    @property
    def _seen(self) -> Spectrum:
        return self.things.light * self.of(Glass).transmittance * self.things.stock.sensitivity

    @property
    def _movement(self) -> HueSettings:
        light = self.recipe.light
        return HueSettings((), light.hue_shift, light.green_magenta, light.blue_yellow)


def _cells(coded: F32) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Row and column in the table of coded colours (…, 3)."""
    cells = np.clip(np.rint(coded[..., :2]), 0, SIZE - 1).astype(np.intp)
    return cells[..., 1], cells[..., 0]
