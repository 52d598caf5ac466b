"""The shelf: stocks, lens filters and papers as data files, and their loader."""

import json
from functools import lru_cache
from importlib.resources import files
from typing import Any

import numpy as np

from ..core.film.stock import CurveShape, Stock
from ..core.light.lens_filter import LensFilter
from ..core.light_path import LightPath
from ..core.paper.paper import Paper
from ..core.recipe import Recipe
from ..core.spectra.grid import WAVELENGTHS, Spectrum, extend
from ..errors import BadRecipe


def _read(name: str) -> list[dict[str, Any]]:
    text = files(__package__).joinpath(f"{name}.json").read_text(encoding="utf-8")
    return list(json.loads(text)[name])


def _sensitivity(table: dict[str, Any]) -> Spectrum:
    """Relative sensitivity; nothing beyond the end of the table."""
    values = 10.0 ** np.array(table["log10"])
    return np.concatenate([values, np.zeros(len(WAVELENGTHS) - len(values))])


@lru_cache(maxsize=1)
def stocks() -> dict[str, Stock]:
    """All film stocks by id."""
    return {
        row["id"]: Stock(
            **{
                **row,
                "sensitivity": _sensitivity(row["sensitivity"]),
                "curve": CurveShape(**row["curve"]),
            }
        )
        for row in _read("stocks")
    }


@lru_cache(maxsize=1)
def filters() -> dict[str, LensFilter]:
    """All lens filters by id."""
    rows = _read("filters")
    return {
        row["id"]: LensFilter(
            **{k: v for k, v in row.items() if k != "spectrum"},
            transmittance=extend(row["spectrum"]["transmittance"]),
        )
        for row in rows
    }


@lru_cache(maxsize=1)
def papers() -> dict[str, Paper]:
    """All papers by id."""
    return {row["id"]: Paper(**row) for row in _read("papers")}


def light_path(recipe: Recipe) -> LightPath:
    """The light path of a recipe; raises BadRecipe when it names what is not on the shelf."""

    def take(kind: str, found: dict[str, Any], name: str) -> Any:
        if name not in found:
            raise BadRecipe(
                f"{kind}: {name!r} is not on the shelf; there is {', '.join(sorted(found))}."
            )
        return found[name]

    return LightPath(
        recipe,
        take("light.lens_filter", filters(), recipe.light.lens_filter),
        take("light.second_filter", filters(), recipe.light.second_filter),
        take("film.stock", stocks(), recipe.film.stock),
        take("paper.paper", papers(), recipe.paper.paper),
    )
