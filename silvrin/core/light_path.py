"""The light path of a recipe: its stations, each made when it is asked for.

What two recipes agree in they share: stations are kept by their keys.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import count
from typing import Any, Literal, TypeVar, cast

import numpy as np
from numpy.typing import NDArray

from . import kernels
from .colour import encode_srgb
from .film.stock import Stock
from .light.lens_filter import LensFilter
from .mount.lettering import Fonts
from .mount.settings import Ink
from .paper.paper import HARDEST, SOFTEST, Paper
from .paper.printing import Finish, Print
from .plate import Plate
from .recipe import Recipe
from .recipe.drawings import PLAIN, Drawings
from .settings import Settings
from .spectra.grid import Spectrum
from .station import Narrow, Station, ToneStation, values_read
from .stations import TONES
from .tables import Curve, through
from .toner.baths import Toners
from .toner.places import ByPlace, ToningByPlace
from .toner.toning import Toning

F32 = NDArray[np.float32]
S = TypeVar("S", bound=Station)
T = TypeVar("T")

KEPT = 1024  # stations and tables
LEAST_DENSITY, MOST_DENSITY = -2.5, 4.5  # of the negative, less what is burned and dodged


@dataclass(frozen=True, eq=False)
class Things:
    """What a recipe names: taken off the shelf, and its drawings."""

    light: Spectrum  # power of the light on the film, relative, (53,)
    lens_filter: LensFilter
    second_filter: LensFilter
    stock: Stock
    paper: Paper
    drawings: Drawings = PLAIN
    toners: Toners = field(default_factory=dict)  # own ones that its baths name
    fonts: Fonts = field(default_factory=dict)  # files of each lettering

    @property
    def inks(self) -> Mapping[str, Ink]:
        """What its inscriptions are drawn with, by their sheets."""
        return self.drawings.inks


# Fields that a thing depends on: a station may use it when it reads all of them or builds on a
# station that does
_NAMED_BY = {
    "light": ("light.source", "light.temperature"),
    "lens_filter": ("light.lens_filter", "light.filter_hue"),
    "second_filter": ("light.second_filter", "light.filter_hue"),
    "stock": ("film.stock",),
    "paper": ("paper.paper",),
    "drawings": ("capture.mends", "capture.protected"),
    "toners": ("toner.baths",),
    "fonts": ("mount.inscriptions",),
    "inks": ("mount.inscriptions",),
}

# Grades that tables are made for where a print has several
GRADES = np.linspace(SOFTEST, HARDEST, 49)
GRADED_POINTS = 3585

_kept: OrderedDict[Hashable, Any] = OrderedDict()
_lock = threading.Lock()
_numbers = count(1)


def _shared(key: Hashable, make: Callable[[], T]) -> T:
    """What was made under a key, or is made now."""
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return cast(T, _kept[key])
    made = make()
    with _lock:
        _kept[key] = made
        while len(_kept) > KEPT:
            _kept.popitem(last=False)
    return made


def _through_grades(density: Plate, tables: F32) -> F32:
    """A plate of density through tables by grade (GRADES, GRADED_POINTS)."""
    out = np.empty(density.pixels.shape, np.float32)
    assert density.grades is not None
    kernels.by_rows(
        kernels.through_grades,
        len(out),
        density.pixels,
        density.grades,
        tables,
        np.float32(LEAST_DENSITY),
        np.float32((GRADED_POINTS - 1) / (MOST_DENSITY - LEAST_DENSITY)),
        np.float32(SOFTEST),
        np.float32((len(GRADES) - 1) / (HARDEST - SOFTEST)),
        out,
    )
    return out


def forget_stations() -> None:
    """Forget what stations worked out; they are made anew."""
    with _lock:
        _kept.clear()


@dataclass(frozen=True, eq=False)
class LightPath:
    """A recipe with what it names; `path[Exposure]` is that station under it."""

    recipe: Recipe
    things: Things
    shelf: Hashable = None  # they are from; what another one gave does not count
    tones: tuple[type[ToneStation], ...] = TONES
    before: "LightPath | None" = None  # of the print that this one is mixed with

    @property
    def mixed(self) -> tuple["LightPath", float] | None:
        """The path that the print is mixed with, and how far it went from there to this one; None
        where it is this one's alone."""
        mixture = self.recipe.mixture
        if self.before is None or mixture is None or mixture.strength == 1.0:
            return None
        return self.before, mixture.strength

    def __getitem__(self, station: type[S]) -> S:
        if station not in self._made:
            self._made[station] = self._make(station)
        return cast(S, self._made[station])

    @cached_property
    def _made(self) -> dict[type[Station], Station]:
        return {}

    def _make(self, kind: type[Station]) -> Station:
        earlier = {other: self[other] for other in kind.builds_on}
        values = values_read(self.recipe, kind.reads)
        read = {f"{station}.{name}" for station, fields in values.items() for name in fields}
        key = (
            kind,
            self.shelf,
            *(value for fields in values.values() for value in fields.values()),
            *(other.key for other in earlier.values()),
        )

        def make() -> Station:
            recipe = Narrow(
                "recipe", {name: Narrow(name, fields) for name, fields in values.items()}
            )
            things = {
                n: getattr(self.things, n) for n, by in _NAMED_BY.items() if read.issuperset(by)
            }
            return kind(
                next(_numbers),
                cast(Recipe, recipe),
                cast(Things, Narrow("things", things)),
                earlier,
            )

        return _shared(key, make)

    def with_settings(self, **stations: Settings) -> "LightPath":
        """The same path with the settings of some stations in place of its own."""
        return replace(self, recipe=self.recipe.model_copy(update=stations))

    # From the density of the negative to the finished print -------------------------------

    def print_out(
        self, density: Plate, bits: int = 8, toned: ByPlace | None = None
    ) -> NDArray[Any]:
        """Output numbers of the print of a plate of density (H, W): (H, W), or (H, W, 3) where a
        station gives colour; uint8 or uint16, encoded with the sRGB curve. `toned` says what the
        toner does at each place where that is not alike."""
        levels, kind = (256, np.uint8) if bits == 8 else (65536, np.uint16)
        row = [self[kind_of] for kind_of in self.tones]
        by_place = any(station.by_place for station in row)
        if toned is not None:
            light = self._through_row(density, self.tones[: self.tones.index(Toning)], "light")
            found = self[ToningByPlace].toned(light, toned)
            return (found * np.float32(levels - 1) + np.float32(0.5)).astype(kind)
        if density.grades is not None and not by_place:
            return self._on_grades(density, levels, kind)
        if not by_place:
            return through(density.pixels, self._table(levels), kind)
        plate = density
        for station in row:
            plate = station.over(plate)
        shown = encode_srgb(plate.pixels.astype(np.float64)) * (levels - 1)
        return (shown + 0.5).astype(kind)

    def _through_row(
        self, density: Plate, kinds: tuple[type[ToneStation], ...], to: Literal["light", "values"]
    ) -> F32:
        """A plate of density through some stations of the row: (H, W) of what they give, or of that
        light encoded."""
        row = [self[kind] for kind in kinds]

        def last(values: NDArray[Any]) -> F32:
            shown = encode_srgb(values.astype(np.float64)) if to == "light" else values
            return np.asarray(shown, np.float32)

        if density.grades is not None:

            def by_grade() -> F32:
                tables = []
                for grade in GRADES:
                    values = np.linspace(LEAST_DENSITY, MOST_DENSITY, GRADED_POINTS)
                    for station in row:
                        values = station.on_grade(values, float(grade))
                    tables.append(last(values))
                return np.stack(tables)

            return _through_grades(
                density, _shared(("by grade", to, *(s.key for s in row)), by_grade)
            )
        if any(station.by_place for station in row):
            plate = density
            for station in row:
                plate = station.over(plate)
            return last(plate.pixels)

        def table() -> Curve:
            steps = np.linspace(LEAST_DENSITY, MOST_DENSITY, 8193)
            for station in row:
                steps = station.at(steps)
            return Curve(last(steps), LEAST_DENSITY, MOST_DENSITY)

        return through(density.pixels, _shared(("row", to, *(s.key for s in row)), table))

    def _on_grades(self, density: Plate, levels: int, kind: Any) -> NDArray[Any]:
        """Output numbers where each place has its own grade."""

        def make() -> F32:
            steps = np.linspace(LEAST_DENSITY, MOST_DENSITY, GRADED_POINTS)
            shown = np.stack([self._encoded(steps, float(grade)) for grade in GRADES])
            return np.asarray(shown * (levels - 1), np.float32)

        key = (levels, "grades", *(self[kind_of].key for kind_of in self.tones))
        tables = _shared(key, make)
        if tables.ndim == 2:
            found = _through_grades(density, tables)
        else:
            planes = [np.ascontiguousarray(tables[..., channel]) for channel in range(3)]
            found = np.stack([_through_grades(density, plane) for plane in planes], axis=-1)
        return (found + np.float32(0.5)).astype(kind)

    def print_even(self, density: NDArray[np.float64]) -> NDArray[np.uint8]:
        """Output numbers 0-255 that even fields of these densities print as, by the base exposure
        alone: (…) or (…, 3)."""
        return (encode_srgb(self._light(density)) * 255 + 0.5).astype(np.uint8)

    def net_density(self, density: Plate) -> F32:
        """Density above the base (H, W) that the paper gives a plate of density of the negative,
        before choices in the print."""
        return self._through_row(density, self.tones[: self.tones.index(Print) + 1], "values")

    def print_density(self, density: NDArray[np.floating] | float) -> NDArray[np.float64]:
        """Net density of the finished print, by the base exposure alone, from density of the
        negative."""
        values = np.asarray(density, np.float64)
        for kind in self.tones[: self.tones.index(Print) + 1]:
            values = self[kind].at(values)
        return self[Finish].density(values)

    def _encoded(self, density: NDArray[np.float64], grade: float | None = None) -> Any:
        """Encoded print for densities of the negative: (N,) or (N, 3)."""
        if self.tones[-1] is not Toning or self[Toning].is_plain:
            return encode_srgb(self._light(density, grade))
        values = density
        for kind in self.tones[:-1]:
            station = self[kind]
            values = station.at(values) if grade is None else station.on_grade(values, grade)
        return self[Toning].encoded(encode_srgb(values))

    def _light(
        self, density: NDArray[np.float64], grade: float | None = None
    ) -> NDArray[np.float64]:
        """Light 0 to 1 of the finished print for densities of the negative, on its own grade or
        another."""
        values = np.asarray(density, np.float64)
        for kind in self.tones:
            station = self[kind]
            values = station.at(values) if grade is None else station.on_grade(values, grade)
        return values

    def _table(self, levels: int) -> Curve:
        """Output numbers over density of the negative."""

        def make() -> Curve:
            density = np.linspace(LEAST_DENSITY, MOST_DENSITY, 28673 if levels == 256 else 7169)
            numbers = self._encoded(density) * (levels - 1)
            if levels == 256:
                return Curve((numbers + 0.5).astype(np.uint8), LEAST_DENSITY, MOST_DENSITY)
            return Curve(numbers.astype(np.float32), LEAST_DENSITY, MOST_DENSITY)

        return _shared((levels, *(self[kind].key for kind in self.tones)), make)
