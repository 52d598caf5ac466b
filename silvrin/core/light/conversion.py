"""Colour becomes exposure: light × glass × what the film sees, as a table over chromaticity."""

from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..film.speed import zone_index
from ..plate import Grid
from ..spectra.chromaticity import (
    HueSettings,
    chromaticity_table,
    infrared_table,
    with_hues,
)
from ..spectra.grid import WAVELENGTHS, Spectrum
from ..station import Station
from .lens_filter import MOST_FACTOR, filter_factor

F32 = NDArray[np.float32]

MIDDLE_GREY = 0.18  # a capture's value that H = 1 stands for
CHROMA_NOISE = 1.2  # cells of the chromaticity table by which a colour is taken for another one


class Glass(Station):
    """The light on the film and the glass before it."""

    reads = (
        "capture.infrared", "light.source", "light.temperature", "light.lens_filter",
        "light.strength", "light.second_filter", "light.second_strength", "light.filter_hue",
        "film.stock",
    )  # fmt: skip

    @cached_property
    def transmittance(self) -> Spectrum:
        """Of all glass in front of the lens, (53,)."""
        settings, things = self.recipe.light, self.things
        first = things.lens_filter.at(settings.strength)
        return first * things.second_filter.at(settings.second_strength)

    @cached_property
    def filter_factor(self) -> float:
        """Filter factor of the glass in front of the lens for this light and stock."""
        things = self.things
        return filter_factor(things.light, self.transmittance, things.stock.sensitivity)

    @property
    def blind(self) -> bool:
        """Whether the film sees as good as nothing behind it."""
        return not self.recipe.capture.infrared and self.filter_factor >= MOST_FACTOR

    def seen_from(self, red: float) -> Spectrum:
        """How what the film sees is distributed over wavelengths, (53,); of an infrared capture
        from that wavelength (nm) on."""
        sensitivity = self.things.stock.sensitivity
        if self.recipe.capture.infrared:
            return sensitivity * (red < WAVELENGTHS)
        return self.things.light * self.transmittance * sensitivity


class Conversion(Station):
    """Light becomes exposure of the film, before anything spreads it."""

    reads = (
        "capture.infrared", "capture.neutral", "capture.red", "capture.green", "capture.blue",
        "capture.exposure", "light.source", "light.temperature", "light.compensate",
        "light.hue_bands", "light.hue_shift", "light.green_magenta", "light.blue_yellow",
        "light.chroma_smoothing", "film.stock", "film.exposure_index", "film.placement",
        "film.foliage", "film.sky",
    )  # fmt: skip
    builds_on = (Glass,)

    @cached_property
    def table(self) -> F32:
        """(65, 65) log2 of exposure per (r + g + b)."""
        capture, settings, film = self.recipe.capture, self.recipe.light, self.recipe.film
        if capture.infrared:
            return infrared_table(
                capture.neutral,
                (capture.red, capture.green, capture.blue),
                (settings.green_magenta, settings.blue_yellow),
            )
        table = chromaticity_table(
            self.things.light,
            self.of(Glass).transmittance,
            self.things.stock.sensitivity,
            settings.compensate,
            film.foliage,
            film.sky,
        )
        moved = HueSettings(
            settings.hue_bands, settings.hue_shift, settings.green_magenta, settings.blue_yellow
        )
        return with_hues(table, moved)

    @property
    def placement(self) -> float:
        """Stops that are added to log2 (table x sum) to give log2 H, H = 1 at Zone V."""
        index, film = zone_index(self.things.stock), self.recipe.film
        rating = np.log2(index / (film.exposure_index or index))
        given = self.recipe.capture.exposure + film.placement + rating
        return float(given - np.log2(MIDDLE_GREY))

    def expose(self, coded: F32) -> F32:
        """log2 H of the film (H, W) of a coded picture (H, W, 3)."""
        out = np.empty(coded.shape[:2], np.float32)
        shift = np.float32(self.placement)
        kernels.by_rows(kernels.expose, len(coded), coded, self.table, shift, out)
        return out

    @property
    def smoothing(self) -> float:
        """How far small differences of colour are evened out, 0 to 1."""
        return self.recipe.light.chroma_smoothing

    def smoothed(self, coded: F32, maps: F32, grid: Grid) -> F32:
        """A coded picture (H, W, 3) with small differences of colour evened out, by the maps of
        `underlay.chroma_maps`."""
        out = np.empty_like(coded)
        kernels.by_rows(
            kernels.smooth_chroma,
            len(coded),
            coded,
            maps,
            *grid.on(maps),
            np.float32(self.smoothing),
            np.float32(CHROMA_NOISE),
            out,
        )
        return out
