"""Curves of the stations; a window is sent those that changed since it was sent them last."""

from collections.abc import Callable
from typing import TypeVar

import numpy as np
from pydantic import BaseModel

from ...core.colour import luminance_of
from ...core.development.negative import Developing, Negative
from ...core.film.curve import SPEED_DENSITY
from ...core.film.sensitometry import exposure_at, straight_part
from ...core.film.zones import LOG10_STOP
from ...core.light.conversion import Conversion, Glass
from ...core.light.hue_bands import stops_by_hue
from ...core.light_path import LightPath
from ...core.paper.finish import VALUES, value_line
from ...core.paper.grading import Grading
from ...core.paper.printing import Finish
from ...core.spectra.grid import WAVELENGTHS
from ...core.station import Station
from ...core.toner.baths import greatest_density
from ...core.toner.colours import hex_of, lab_of
from ...core.toner.toning import Toning


class Plot(BaseModel):
    """A curve: x and y in the units the axis names."""

    x: list[float]
    y: list[float]


class GlassCurves(BaseModel):
    """What light and glass are."""

    light: Plot  # nm, relative power, largest 1
    through: Plot  # nm, light x filter, on the same scale
    sensitivity: Plot  # nm, relative, largest 1
    filter: Plot  # nm, transmittance of all glass


class HueCurves(BaseModel):
    """What hue bands do."""

    hue_stops: list[float]  # what the hue bands give each hue, 72 of 5 degrees


class NegativeCurves(BaseModel):
    """What film and developer are."""

    negative: Plot  # log10 H, density
    speed_point: tuple[float, float]  # log10 H, density 0.10 above base and fog
    straight: tuple[float, float]  # log10 H between which the curve has nearly its full slope
    base_fog: float


class GrainCurves(BaseModel):
    """How strong grain is."""

    grain: Plot  # density above base, 1000 × its deviation through 48 µm, in this developer


class PaperCurves(BaseModel):
    """What paper and choices in the print are."""

    paper: Plot  # log10 E from the speed point, density above the base
    values: Plot  # print value before and after mid point, print curve and lifts by value


class TonerCurves(BaseModel):
    """What the scale of the print looks like."""

    print_scale: list[str]  # colours from black to the base, 41 in even steps of print value
    print_a: Plot  # print value, a* of CIELAB
    print_b: Plot
    print_most: float  # density above the base of its deepest black


class Curves(BaseModel):
    """Curves by the stations they are of; empty ones are as they were."""

    glass: GlassCurves | None = None
    hues: HueCurves | None = None
    negative: NegativeCurves | None = None
    grain: GrainCurves | None = None
    paper: PaperCurves | None = None
    toner: TonerCurves | None = None


C = TypeVar("C", bound=BaseModel)
HUES = np.arange(0.0, 360.0, 5.0)
LOG_H = np.linspace(-10, 10, 81) * LOG10_STOP
LOG_E = np.linspace(-1.4, 1.8, 81)
NET = np.linspace(0.0, 2.0, 21)


class CurvesSent:
    """Which curves a window has."""

    def __init__(self) -> None:
        self._sent: dict[str, tuple[int, ...]] = {}

    def of(self, path: LightPath) -> Curves:
        """The curves of a light path that the window has not."""
        return Curves(
            glass=self._fresh("glass", (path[Glass],), lambda: _glass(path)),
            hues=self._fresh("hues", (path[Conversion],), lambda: _hues(path)),
            negative=self._fresh("negative", (path[Developing],), lambda: _negative(path)),
            grain=self._fresh("grain", (path[Negative],), lambda: _grain(path)),
            paper=self._fresh("paper", (path[Grading], path[Finish]), lambda: _paper(path)),
            toner=self._fresh("toner", (path[Toning],), lambda: _toner(path)),
        )

    def _fresh(self, name: str, stations: tuple[Station, ...], make: Callable[[], C]) -> C | None:
        keys = tuple(station.key for station in stations)
        if self._sent.get(name) == keys:
            return None
        self._sent[name] = keys
        return make()


def _plot(x: np.ndarray, y: np.ndarray) -> Plot:
    return Plot(x=np.round(x, 4).tolist(), y=np.round(y, 4).tolist())


def _toner(path: LightPath) -> TonerCurves:
    values = np.linspace(0.0, 10.0, 41)
    shown = path[Toning].at(luminance_of(10.0 * values))
    if shown.ndim == 1:
        shown = np.repeat(shown[:, None], 3, axis=1)
    lab = lab_of(shown)
    return TonerCurves(
        print_scale=hex_of(shown),
        print_a=_plot(values, lab[:, 1]),
        print_b=_plot(values, lab[:, 2]),
        print_most=round(
            greatest_density(path.things.paper.net_density, path.recipe.toner, path.things.toners),
            2,
        ),
    )


def _glass(path: LightPath) -> GlassCurves:
    power = path.things.light / path.things.light.max()
    transmittance = path[Glass].transmittance
    return GlassCurves(
        light=_plot(WAVELENGTHS, power),
        through=_plot(WAVELENGTHS, power * transmittance),
        sensitivity=_plot(WAVELENGTHS, path.things.stock.sensitivity),
        filter=_plot(WAVELENGTHS, transmittance),
    )


def _hues(path: LightPath) -> HueCurves:
    stops = stops_by_hue(path.recipe.light.hue_bands, HUES)
    return HueCurves(hue_stops=[round(float(v), 3) for v in stops])


def _negative(path: LightPath) -> NegativeCurves:
    developing = path[Developing]
    base = developing.negative.shape.base_fog
    point = exposure_at(developing.negative, SPEED_DENSITY)
    return NegativeCurves(
        negative=_plot(LOG_H, developing.density(LOG_H)),
        speed_point=(round(point, 3), round(base + SPEED_DENSITY, 3)),
        straight=straight_part(developing.negative),
        base_fog=round(base, 3),
    )


def _grain(path: LightPath) -> GrainCurves:
    granularity = path.things.stock.granularity * path[Developing].developer.granularity
    return GrainCurves(grain=_plot(NET, granularity * path.recipe.film.grain * np.sqrt(NET)))


def _paper(path: LightPath) -> PaperCurves:
    return PaperCurves(
        paper=_plot(LOG_E, path[Finish].density(path[Grading].curve.density(LOG_E))),
        values=_plot(VALUES[::25], value_line(path.recipe.paper)[::25]),
    )
