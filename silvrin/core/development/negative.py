"""The negative: exposure becomes density, by the characteristic curve, with local contrast, edge
effects and grain.

Edge effects: fresh developer diffuses from a thin part into the dense one beside it and works on
there, spent developer goes the other way: along an edge the dense side rises and the thin one
falls, within about 100 µm and by hardly more than 0.1 in density (handbooks, from memory). Density
gains a part of its difference from the density about it, up to a limit.
"""

from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..film.curve import CharacteristicCurve, characteristic_curve
from ..film.exposure import LEAST_BLUR, Exposure, Under
from ..film.format import FORMATS
from ..film.grain import SOFTEST, Grain, grain_of, strength, tile
from ..film.zones import zone_log_exposure
from ..guided import guided
from ..light.scatter import Effects
from ..plate import Grid, Plate
from ..station import Station
from ..tables import Curve, through
from .brightness import brightened
from .developer import DEVELOPERS, EDGE_MOST, EDGE_REACH, Developer, developed_shape
from .local_contrast import acts_locally, local_lines, local_maps

F32 = NDArray[np.float32]

LOCAL_EFFECTS = ("fine", "mid_scale", "broad", "shadows", "highlights")  # of passes
SHARPENS = 6e-4  # of the long side: standard deviation of what a pass's sharpness compares with
SMOOTHS = 8e-4  # of the long side: radius within which a pass smooths noise ...
NOISE = 0.06  # ... of about this deviation of density


class Developing(Station):
    """The characteristic curve of the stock as developed."""

    reads = (
        "film.stock", "development.developer", "development.n", "development.brightness",
    )  # fmt: skip

    @property
    def developer(self) -> Developer:
        """The developer."""
        return DEVELOPERS[self.recipe.development.developer]

    @property
    def n(self) -> float:
        """N of the development, as far as the stock stands it."""
        stock = self.things.stock
        return min(max(self.recipe.development.n, stock.least_n), stock.most_n)

    @cached_property
    def negative(self) -> CharacteristicCurve:
        """The characteristic curve, before mid tones are moved."""
        return self._curve(self.n)

    @cached_property
    def normal(self) -> CharacteristicCurve:
        """The same in normal development, by which zones of the negative are told."""
        return self._curve(0.0)

    def _curve(self, n: float) -> CharacteristicCurve:
        shape = developed_shape(self.things.stock.curve, self.developer)
        return characteristic_curve(shape, n, self.developer.speed)

    def density(self, log_exposure: NDArray[np.floating] | float) -> NDArray[np.float64]:
        """Density of the negative over log10 H, its brightness moved."""
        density = self.negative.density(log_exposure)
        brightness = self.recipe.development.brightness
        if not brightness:
            return density
        top = float(self.negative.density(zone_log_exposure(10.0)))
        return brightened(density, self.negative.shape.base_fog, top, brightness)

    @cached_property
    def curve(self) -> Curve:
        """Density of the negative over log2 H."""
        stops = np.linspace(-16.0, 16.0, 2049)
        return Curve(self.density(stops * np.log10(2.0)).astype(np.float32), -16.0, 16.0)


class LocalMaps(Station):
    """What development does over distances."""

    reads = (
        "development.fine", "development.mid_scale", "development.broad",
        "development.threshold", "development.zone_contrast", ("development.zone_lift", any),
    )  # fmt: skip
    builds_on = (Exposure,)

    def is_plain(self, effects: Effects) -> bool:
        """Whether nothing of it is asked for, nor by a pass of the printing map."""
        asked = self.recipe.development
        by_passes = any(name in effects for name in LOCAL_EFFECTS)
        return not (acts_locally(asked) or asked.zone_lift or by_passes)

    def maps(self, exposure: F32, effects: Effects) -> F32:
        """The maps of local contrast for an exposure of the whole picture (H, W), log2 H."""
        return local_maps(exposure, self.recipe.development, effects)


class Negative(Station):
    """Density of the negative."""

    reads = (
        "film.stock", "film.film_format", "film.grain", "film.grain_size", "film.grain_softness",
        "film.grain_evenness", "development.zone_lift", "development.hold_highlights",
        "development.hold_shadows",
    )  # fmt: skip
    builds_on = (Exposure, LocalMaps, Developing)

    def reach(self, grid: Grid, effects: Effects) -> float:
        """Standard deviation of the widest blur that the negative looks over, in pixels of a plate,
        also by passes of the printing map; 0 where there is none to be seen."""
        long = max(grid.width, grid.height) / grid.pitch_x
        wide = [self._edge_reach(grid)]
        wide += [SHARPENS * long] * ("sharpness" in effects)
        wide += [SMOOTHS * long] * ("noise" in effects)  # two boxes: twice the radius and more
        return max(wide) if max(wide) > LEAST_BLUR else 0.0

    def _edge_reach(self, grid: Grid) -> float:
        if not self.of(Developing).developer.edge:
            return 0.0
        long_side = grid.film_side or max(grid.width, grid.height)
        pitch = 1000.0 * FORMATS[self.recipe.film.film_format] / long_side
        reach = EDGE_REACH / (pitch * grid.pitch_x)
        return reach if reach > LEAST_BLUR else 0.0

    def developed(self, exposure: Plate, under: Under) -> Plate:
        """Density of a plate of log2 H (H, W), before its grain."""
        if under.local is None:
            density = through(exposure.pixels, self.of(Developing).curve)
        else:
            density = self._with_local(exposure, under.local)
        reach = self._edge_reach(exposure.grid)
        if reach:
            about = cv2.GaussianBlur(density, (0, 0), reach, borderType=cv2.BORDER_REPLICATE)
            drawn = np.float32(self.of(Developing).developer.edge / EDGE_MOST) * (density - about)
            density += np.float32(EDGE_MOST) * np.tanh(drawn)
        return self._touched(exposure.holding(density), under.effects)

    def _touched(self, density: Plate, effects: Effects) -> Plate:
        """A plate with what passes smooth and sharpen on the pixels."""
        pixels, grid = density.pixels, density.grid
        long = max(grid.width, grid.height) / grid.pitch_x
        if "noise" in effects and (radius := round(SMOOTHS * long)):
            a, b, _ = guided(pixels, pixels, radius, NOISE**2)
            pixels = pixels + density.over(effects["noise"]) * (a * pixels + b - pixels)
        if "sharpness" in effects and (blur := SHARPENS * long) > LEAST_BLUR:
            about = cv2.GaussianBlur(pixels, (0, 0), blur, borderType=cv2.BORDER_REPLICATE)
            pixels = pixels + density.over(effects["sharpness"]) * (pixels - about)
        return density.holding(np.ascontiguousarray(pixels, np.float32))

    @cached_property
    def _lines(self) -> F32:
        developing = self.of(Developing)
        return local_lines(self.recipe.development, developing.negative)

    def _with_local(self, exposure: Plate, maps: F32) -> F32:
        pixels, curve = exposure.pixels, self.of(Developing).curve
        out = np.empty_like(pixels)
        kernels.by_rows(
            kernels.develop_local,
            len(pixels),
            pixels,
            curve.points,
            np.float32(curve.start),
            curve.inverse_step,
            maps,
            *exposure.grid.on(maps),
            self._lines,
            out,
        )
        return out

    def grain(self, long_side: int) -> tuple[float, Grain]:
        """Of a capture with that long side in pixels: standard deviation of density at 1.0 above
        base, for a full-size pixel before grains blur it; and the grains in such pixels."""
        film, stock = self.recipe.film, self.things.stock
        developer = self.of(Developing).developer
        pitch = 1000.0 * FORMATS[film.film_format] / long_side
        grains = grain_of(stock.grain * developer.grain, stock.grain_kind, film.grain_evenness)
        granularity = stock.granularity * developer.granularity
        deviation = strength(granularity, grains, pitch) * film.grain * film.grain_size
        wider = film.grain_size * (1.0 + (SOFTEST - 1.0) * film.grain_softness)
        return deviation, grains.in_pixels(wider / pitch)

    def with_grain(self, density: Plate) -> Plate:
        """A plate of density with its grain, which is added in place."""
        grid, pixels = density.grid, density.pixels
        deviation, grains = self.grain(grid.film_side or max(grid.width, grid.height))
        if deviation == 0.0:
            return density
        reduction = max(1.0, grid.pitch_x)
        noise = tile(grains, reduction)
        top, left = (round(v / reduction) for v in (grid.top, grid.left))
        kernels.by_rows(
            kernels.add_grain,
            len(pixels),
            pixels,
            noise,
            np.uint32(top + grid.first_row),
            np.uint32(left + grid.first_column),
            np.float32(self.of(Developing).negative.shape.base_fog),
            np.float32(deviation),
        )
        return density
