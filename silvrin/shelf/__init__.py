"""The shelf: stocks, lens filters, lights, papers and toning sets as data files, and what a library
adds."""

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from importlib.resources import files
from typing import Any, TypeVar

from ..core.film.speed import zone_part
from ..core.film.stock import Stock
from ..core.light.lens_filter import ANY_HUE, LensFilter, hue_filter
from ..core.light.shelf_light import ShelfLight
from ..core.light_path import LightPath, Things
from ..core.paper.paper import Paper
from ..core.recipe import Recipe
from ..core.recipe.drawings import PLAIN, Drawings
from ..core.spectra.illuminants import light
from ..core.starting import StartingPrint
from ..errors import BadRecipe
from .items import FilterItem, Item, LightItem, PaperItem, StockItem, TonerItem, ToningItem

BY_TEMPERATURE = "by-temperature"
PLAIN_FILM = Recipe().film.stock
Thing = TypeVar("Thing")


def _read(name: str) -> list[dict[str, Any]]:
    text = files(__package__).joinpath(f"{name}.json").read_text(encoding="utf-8")
    return list(json.loads(text)[name])


@dataclass(frozen=True)
class Shelf:
    """What there is to choose from; own items lie after the shipped ones."""

    stocks: Mapping[str, StockItem]
    filters: Mapping[str, FilterItem]
    lights: Mapping[str, LightItem]
    paper_items: Mapping[str, PaperItem]
    tonings: Mapping[str, ToningItem]
    toners: Mapping[str, TonerItem] = field(default_factory=dict)
    edition: int = 0  # rises whenever own items change

    @lru_cache(maxsize=256)  # noqa: B019 - shelves are few and live long
    def _stock(self, name: str) -> Stock:
        return self.stocks[name].made()

    @lru_cache(maxsize=256)  # noqa: B019
    def _filter(self, name: str) -> LensFilter:
        return self.filters[name].made()

    @lru_cache(maxsize=256)  # noqa: B019
    def _light(self, name: str) -> ShelfLight:
        return self.lights[name].made()

    @cached_property
    def papers(self) -> Mapping[str, Paper]:
        """The papers as the light path wants them."""
        return {name: item.made() for name, item in self.paper_items.items()}

    def __hash__(self) -> int:
        return id(self)

    def stock(self, name: str) -> Stock:
        """A stock; raises BadRecipe when there is none of that id."""
        _on_shelf("film.stock", self.stocks, name)
        return self._stock(name)

    def zone_part(self, name: str) -> float:
        """Of a stock's speed, its zone index; the plain film's for one that is not there."""
        return zone_part(self.stock(name if name in self.stocks else PLAIN_FILM).curve)

    def lens_filter(self, field: str, name: str, hue: float) -> LensFilter:
        """A lens filter, or the one of any hue; raises BadRecipe when there is none of that id."""
        if name == ANY_HUE:
            return hue_filter(hue)
        _on_shelf(field, self.filters, name)
        return self._filter(name)

    def light_path(self, recipe: Recipe, drawings: Drawings = PLAIN) -> LightPath:
        """The light path of a recipe, with what is on the sheets it names; raises BadRecipe when it
        names what is not on the shelf."""
        recipe = recipe.in_force
        settings = recipe.light
        if settings.source == BY_TEMPERATURE:
            power = light(settings.temperature)
        else:
            _on_shelf("light.source", self.lights, settings.source)
            power = self._light(settings.source).power
        things = Things(
            power,
            self.lens_filter("light.lens_filter", settings.lens_filter, settings.filter_hue),
            self.lens_filter("light.second_filter", settings.second_filter, settings.filter_hue),
            self.stock(recipe.film.stock),
            _on_shelf("paper.paper", self.papers, recipe.paper.paper),
            drawings,
            {
                name: _on_shelf("toner.baths", self.toners, name).made()
                for name in {bath.toner for bath in recipe.toner.baths if bath.toner}
            },
            fonts(),
        )
        before = None if recipe.mixture is None else self.light_path(recipe.before, drawings)
        return LightPath(recipe, things, self, before=before)

    def with_own(self, items: Iterable[Item], edition: int) -> "Shelf":
        """This shelf with further items on it."""
        stocks, filters, lights = dict(self.stocks), dict(self.filters), dict(self.lights)
        papers, tonings = dict(self.paper_items), dict(self.tonings)
        toners = dict(self.toners)
        for item in items:
            if isinstance(item, StockItem):
                stocks[item.id] = item
            elif isinstance(item, FilterItem):
                filters[item.id] = item
            elif isinstance(item, LightItem):
                lights[item.id] = item
            elif isinstance(item, PaperItem):
                papers[item.id] = item
            elif isinstance(item, TonerItem):
                toners[item.id] = item
            else:
                tonings[item.id] = item
        return Shelf(stocks, filters, lights, papers, tonings, toners, edition)


def _on_shelf(field: str, found: Mapping[str, Thing], name: str) -> Thing:
    if name not in found:
        raise BadRecipe(
            f"{field}: {name!r} is not on the shelf; there is {', '.join(sorted(found))}."
        )
    return found[name]


# Files of each lettering, the more usual letters first
LETTERINGS = {
    "sans": ("archivo-latin-400-normal", "archivo-latin-ext-400-normal"),
    "serif": ("eb-garamond-latin-400-italic", "eb-garamond-latin-ext-400-italic"),
    "hand": ("caveat-latin-400-normal", "caveat-latin-ext-400-normal"),
}


@lru_cache(maxsize=1)
def fonts() -> dict[str, tuple[bytes, ...]]:
    """The letterings that come with Silvrin."""
    folder = files(__package__).joinpath("fonts")
    return {
        name: tuple(folder.joinpath(f"{file}.woff2").read_bytes() for file in found)
        for name, found in LETTERINGS.items()
    }


@lru_cache(maxsize=1)
def shipped() -> Shelf:
    """The shelf that comes with Silvrin."""
    return Shelf(
        {row["id"]: StockItem.model_validate(row) for row in _read("stocks")},
        {row["id"]: FilterItem.model_validate(row) for row in _read("filters")},
        {row["id"]: LightItem.model_validate(row) for row in _read("lights")},
        {row["id"]: PaperItem.model_validate(row) for row in _read("papers")},
        {row["id"]: ToningItem.model_validate(row) for row in _read("tonings")},
    )


@lru_cache(maxsize=1)
def starting_prints() -> dict[str, StartingPrint]:
    """The looks that a print can begin with, by id."""
    return {row["id"]: StartingPrint.model_validate(row) for row in _read("starting")}


def light_path(recipe: Recipe, drawings: Drawings = PLAIN) -> LightPath:
    """The light path of a recipe by the shelf that comes with Silvrin."""
    return shipped().light_path(recipe, drawings)


def stocks() -> dict[str, Stock]:
    """The stocks that come with Silvrin, by id."""
    return {name: shipped().stock(name) for name in shipped().stocks}


def filters() -> dict[str, LensFilter]:
    """The lens filters that come with Silvrin, by id."""
    return {name: shipped().lens_filter("filter", name, 0.0) for name in shipped().filters}


def papers() -> dict[str, Paper]:
    """The papers that come with Silvrin, by id."""
    return dict(shipped().papers)
