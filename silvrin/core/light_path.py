"""The light path: the stations in their order, each a pure function of its settings.

`LightPath` turns a recipe and the things it names into the few tables the pixels are taken
through. What two recipes share up to a station they share in the cache: `key_of_exposure` names
everything up to the film's exposure, `key_of_negative` everything up to its density.
"""

from collections.abc import Hashable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .development.brightness import brightened
from .development.developer import DEVELOPERS, Developer, developed_shape
from .enlarger.exposure import CALLIER, lamp, split_grade, standard_time
from .film.curve import CharacteristicCurve, characteristic_curve
from .film.grain import FORMATS, SOFTEST, Grain, grain_of, strength
from .film.halation import RED_FROM, halation_share, sharpness
from .film.stock import Stock
from .film.zones import zone_log_exposure
from .light.lens_filter import LensFilter, filter_factor
from .paper.curve import PaperCurve, paper_curve
from .paper.finish import finished
from .paper.paper import Paper
from .recipe import Recipe, Station
from .spectra.chromaticity import chromaticity_table, infrared_table, with_hues
from .spectra.grid import WAVELENGTHS, Spectrum

F32 = NDArray[np.float32]

MIDDLE_GREY = 0.18  # a capture's value that H = 1 stands for


@dataclass(frozen=True)
class Curve:
    """Evenly spaced points of a curve over [start, stop], for the kernels."""

    points: NDArray[Any]
    start: float
    stop: float

    @property
    def inverse_step(self) -> np.float32:
        """Points for a unit of the argument."""
        return np.float32((len(self.points) - 1) / (self.stop - self.start))


def encode_srgb(linear: NDArray[np.float64]) -> NDArray[np.float64]:
    """Display value 0-1 of linear light 0-1. Source: IEC 61966-2-1."""
    low = linear <= 0.0031308
    return np.asarray(
        np.where(low, 12.92 * linear, 1.055 * np.maximum(linear, 1e-9) ** (1 / 2.4) - 0.055)
    )


@dataclass(frozen=True, eq=False)
class LightPath:
    """A recipe with its stock, filters and paper taken off the shelf."""

    recipe: Recipe
    light: Spectrum  # power of the light on the film, relative, (53,)
    lens_filter: LensFilter
    second_filter: LensFilter
    stock: Stock
    paper: Paper
    edition: int = 0  # of the shelf they are from; what is kept of another one does not count

    # Light and Film -----------------------------------------------------------------------

    @cached_property
    def transmittance(self) -> Spectrum:
        """Of all glass in front of the lens, (53,)."""
        settings = self.recipe.light
        first = self.lens_filter.at(settings.strength)
        return first * self.second_filter.at(settings.second_strength)

    @cached_property
    def table(self) -> F32:
        """(65, 65) log2 of exposure per (r + g + b)."""
        capture, settings = self.recipe.capture, self.recipe.light
        if capture.infrared:
            return infrared_table(capture.neutral, (capture.red, capture.green, capture.blue))
        table = chromaticity_table(
            self.light,
            self.transmittance,
            self.stock.sensitivity,
            settings.compensate,
            self.recipe.film.foliage,
            self.recipe.film.sky,
        )
        return with_hues(table, settings.hue_bands, settings.hue_shift)

    @property
    def filter_factor(self) -> float:
        """Filter factor of the glass in front of the lens for this light and stock."""
        return filter_factor(self.light, self.transmittance, self.stock.sensitivity)

    @property
    def placement(self) -> float:
        """Stops that are added to log2 (table x sum) to give log2 H, H = 1 at Zone V."""
        index = self.recipe.film.exposure_index or self.stock.speed
        rating = np.log2(self.stock.speed / index)
        given = self.recipe.capture.exposure + self.recipe.film.placement + rating
        return float(given - np.log2(MIDDLE_GREY))

    @property
    def key_of_exposure(self) -> Hashable:
        """Names the stations up to the exposure of the film."""
        film = self.recipe.film  # of it what exposure depends on
        exposed = (film.stock, film.exposure_index, film.placement)
        spread = (film.halation, film.film_format, film.foliage, film.sky)
        return (self.edition, self.recipe.capture, self.recipe.light, exposed, spread)

    @cached_property
    def halation(self) -> float:
        """Share of the exposure that the film's base returns."""
        if self.recipe.capture.infrared:
            seen = self.stock.sensitivity * (WAVELENGTHS > RED_FROM)
        else:
            seen = self.light * self.transmittance * self.stock.sensitivity
        return halation_share(self.stock.halation, seen) * self.recipe.film.halation

    def hot_spot(self, height: int, width: int, axis: tuple[float, float, float]) -> F32 | None:
        """(height, width) what is left of the light where a hot spot is taken from an infrared
        capture; None without one. `axis` is where the lens pointed, x and y, and half the
        capture's diagonal, in parts of the picture's long side."""
        capture = self.recipe.capture
        if not (capture.infrared and capture.hot_spot):
            return None
        y, x = np.mgrid[0:height, 0:width] + 0.5
        across, down, half = np.array(axis) * max(height, width)
        away = ((y - down) ** 2 + (x - across) ** 2) / (half * capture.hot_spot_size) ** 2
        return np.asarray(np.exp2(-capture.hot_spot * np.exp(-away)), np.float32)

    def film_blur(self, long_side: int) -> float:
        """Standard deviation of the film's own blur, in pixels of a capture of that long side."""
        pitch = 1000.0 * FORMATS[self.recipe.film.film_format] / long_side
        return sharpness(self.stock.resolving_power) / pitch

    # Development --------------------------------------------------------------------------

    @property
    def developer(self) -> Developer:
        """The developer."""
        return DEVELOPERS[self.recipe.development.developer]

    @cached_property
    def negative(self) -> CharacteristicCurve:
        """The characteristic curve of the stock as developed."""
        shape = developed_shape(self.stock.curve, self.developer)
        return characteristic_curve(shape, self.recipe.development.n, self.developer.speed)

    def grain(self, long_side: int) -> tuple[float, Grain]:
        """Of a capture with that long side in pixels: standard deviation of density at 1.0 above
        base, for a full-size pixel before grains blur it; and the grains in such pixels."""
        film = self.recipe.film
        pitch = 1000.0 * FORMATS[film.film_format] / long_side
        spread = self.stock.grain * self.developer.grain
        grains = grain_of(spread, self.stock.grain_kind, film.grain_evenness)
        granularity = self.stock.granularity * self.developer.granularity
        deviation = strength(granularity, grains, pitch) * film.grain * film.grain_size
        wider = film.grain_size * (1.0 + (SOFTEST - 1.0) * film.grain_softness)
        return deviation, grains.in_pixels(wider / pitch)

    def negative_density(self, log_exposure: NDArray[np.floating] | float) -> NDArray[np.float64]:
        """Density of the negative over log10 H, its brightness moved."""
        density = self.negative.density(log_exposure)
        brightness = self.recipe.development.brightness
        if not brightness:
            return density
        top = float(self.negative.density(zone_log_exposure(10.0)))
        return brightened(density, self.negative.shape.base_fog, top, brightness)

    @cached_property
    def negative_curve(self) -> Curve:
        """Density of the negative over log2 H."""
        stops = np.linspace(-16.0, 16.0, 2049)
        density = self.negative_density(stops * np.log10(2.0))
        return Curve(density.astype(np.float32), -16.0, 16.0)

    @property
    def key_of_local(self) -> Hashable:
        """Names what of development is done over distances; its density curve is not."""
        asked = self.recipe.development
        scales = (asked.fine, asked.mid_scale, asked.broad, asked.threshold, asked.zone_contrast)
        return (asked.developer, scales, any(asked.zone_lift))

    @property
    def key_of_negative(self) -> Hashable:
        """Names the stations up to the density of the negative."""
        film = self.recipe.film
        shape = (film.grain_size, film.grain_softness, film.grain_evenness)
        grain = (film.film_format, film.grain, shape)
        return (self.key_of_exposure, self.recipe.development, grain)

    # Enlarger and Paper -------------------------------------------------------------------

    @property
    def split(self) -> bool:
        """Whether two exposures add up to the grade."""
        return self.recipe.paper.split and self.paper.kind == "variable contrast"

    @property
    def grade(self) -> float:
        """The grade that prints, -1 (00) to 5."""
        if self.split:
            enlarger = self.recipe.enlarger
            return split_grade(enlarger.soft_time, enlarger.hard_time)
        return self.paper.grade(self.recipe.paper.grade)

    @cached_property
    def paper_curve(self) -> PaperCurve:
        """The paper's curve at the grade."""
        return paper_curve(self.paper, self.grade)

    @cached_property
    def standard_time(self) -> float:
        """Seconds that print Zone V as middle grey."""
        head = self.recipe.enlarger.head
        zone_v = CALLIER[head] * float(self.negative.density(0.0))
        return standard_time(self.paper_curve, lamp(self.paper, head), zone_v)

    @property
    def time(self) -> float:
        """Base exposure in seconds; of a split grade both exposures together."""
        enlarger = self.recipe.enlarger
        if self.split:
            return max(enlarger.soft_time + enlarger.hard_time, 1e-3)
        return enlarger.time or self.standard_time

    def under(self, seconds: float) -> "LightPath":
        """The same path with that base exposure; a split grade keeps its proportion."""
        enlarger = self.recipe.enlarger
        share = seconds / self.time
        changed = {
            "time": seconds,
            "soft_time": enlarger.soft_time * share,
            "hard_time": enlarger.hard_time * share,
        }
        return self._with(enlarger=enlarger.model_copy(update=changed))

    def after(self, seconds: float) -> "LightPath":
        """The same path when the paper has been exposed so long: of a split grade the soft
        exposure comes first."""
        if not self.split:
            return self.under(max(seconds, 1e-3))
        enlarger = self.recipe.enlarger
        soft = min(seconds, enlarger.soft_time)
        hard = min(max(seconds - enlarger.soft_time, 0.0), enlarger.hard_time)
        changed = {"soft_time": max(soft, 1e-3), "hard_time": hard}
        return self._with(enlarger=enlarger.model_copy(update=changed))

    def on_grade(self, grade: float) -> "LightPath":
        """The same path on that grade of paper; where no time is set, for its standard time."""
        paper = self.recipe.paper.model_copy(update={"grade": grade, "split": False})
        return self._with(paper=paper)

    def _with(self, **stations: Station) -> "LightPath":
        return replace(self, recipe=self.recipe.model_copy(update=stations))

    def paper_density(self, density: NDArray[np.floating] | float) -> NDArray[np.float64]:
        """Net density the paper gives for density of the negative, before choices in the print."""
        head = self.recipe.enlarger.head
        light = np.log10(self.time) + lamp(self.paper, head)
        return self.paper_curve.density(light - CALLIER[head] * np.asarray(density))

    def print_density(self, density: NDArray[np.floating] | float) -> NDArray[np.float64]:
        """Net density of the finished print from density of the negative."""
        net = self.paper_density(density)
        return finished(net, self.paper.net_density, self.recipe.paper)

    def print_curve(self, levels: int) -> Curve:
        """Output number 0 to levels - 1 over density of the negative; for 256 whole numbers, so
        finely that the nearest point serves.

        Paper white becomes full scale and the paper's black becomes 0 (black point
        compensation, ISO 18619), encoded with the sRGB curve.
        """
        if levels not in self._print_curves:
            self._print_curves[levels] = self._print_curve(levels)
        return self._print_curves[levels]

    @cached_property
    def _print_curves(self) -> dict[int, Curve]:
        return {}

    def _print_curve(self, levels: int) -> Curve:
        density = np.linspace(0.0, 4.0, 16385 if levels == 256 else 4097)
        reflectance = 10.0 ** -self.print_density(density)
        black = 10.0**-self.paper.net_density
        shown = encode_srgb(np.clip((reflectance - black) / (1.0 - black), 0.0, 1.0))
        numbers = shown * (levels - 1)
        if levels == 256:
            return Curve((numbers + 0.5).astype(np.uint8), 0.0, 4.0)
        return Curve(numbers.astype(np.float32), 0.0, 4.0)
