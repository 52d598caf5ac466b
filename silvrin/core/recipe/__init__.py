"""The recipe: the settings of a print, one frozen model a station, in the order of the light path.

Ranges, units, steps and descriptions stand here and nowhere else; validation, the API document,
the types of the interface and its controls are made from them.
"""

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, ValidationError

from ...errors import BadRecipe
from .capture import CaptureSettings, Mend, Outline
from .development import DeveloperKind, DevelopmentSettings, LocalContrast
from .film import FilmFormat, FilmSettings, MeteredSpot
from .light import HUE_BANDS, FocusShape, HueBand, LightSettings, SoftOn
from .printing import EnlargerSettings, Head, PaperSettings
from .station import ItemId, Station

__all__ = [
    "HUE_BANDS",
    "CaptureSettings",
    "DeveloperKind",
    "DevelopmentSettings",
    "EnlargerSettings",
    "FilmFormat",
    "FilmSettings",
    "FocusShape",
    "Head",
    "HueBand",
    "ItemId",
    "LightSettings",
    "LocalContrast",
    "Mend",
    "MeteredSpot",
    "Outline",
    "PaperSettings",
    "Recipe",
    "SoftOn",
    "Station",
    "explain",
    "read_recipe",
    "sentence",
]


class Recipe(BaseModel):
    """The settings of a print, by station."""

    model_config = ConfigDict(
        frozen=True, extra="forbid", json_schema_extra={"$id": "silvrin-recipe-1"}
    )

    format: Literal["silvrin-recipe-1"] = "silvrin-recipe-1"
    capture: CaptureSettings = CaptureSettings()
    light: LightSettings = LightSettings()
    film: FilmSettings = FilmSettings()
    development: DevelopmentSettings = DevelopmentSettings()
    enlarger: EnlargerSettings = EnlargerSettings()
    paper: PaperSettings = PaperSettings()


def read_recipe(text: str | bytes, name: str = "recipe") -> Recipe:
    """A recipe from JSON text; raises BadRecipe naming each field that does not hold."""
    try:
        return Recipe.model_validate_json(text)
    except ValidationError as error:
        raise BadRecipe(f"{name}: {'; '.join(explain(error))}.") from error


def explain(error: ValidationError) -> list[str]:
    """A sentence for each field of a failed validation: where, what is allowed, what was given."""
    return [sentence(dict(item)) for item in error.errors(include_url=False)]


def sentence(item: dict[str, Any]) -> str:
    """One failed field in words, from an item of pydantic's list of errors."""
    where = ".".join(str(part) for part in item["loc"]) or "the file"
    given = repr(item.get("input"))
    given = given if len(given) <= 60 else given[:57] + "..."
    if item["type"] == "extra_forbidden":
        return f"{where} is not a field Silvrin knows (given {given}); remove it"
    if item["type"] == "json_invalid":
        return f"{where} is not JSON: {item['msg'].removeprefix('Invalid JSON: ')}"
    message = item["msg"][0].lower() + item["msg"][1:]
    return f"{where}: {message}, given {given}"
