"""Recipes as files: a recipe in two parts, and with it the sheets of drawings that it names.

    {"format": "silvrin-recipe-6", "of_frame": {…}, "look": {…}, "sheets": {"NAME": {…}}}

Files of version 1, by station and with their drawings inside, of version 2, whose exposure index
was beside a stock's label and not beside its zone index, and of version 3, whose passes lay in the
recipe, are brought up to date. Those of version 4 could not be mixtures, and are as they were;
those of version 5 always had eight hue bands.
"""

import json
import re
from collections.abc import Callable
from typing import Any

from pydantic import ValidationError
from pydantic.json_schema import models_json_schema

from ...errors import BadRecipe
from . import FilmSettings, Recipe
from .drawings import Sheet, Sheets, sheets_named, strokes_named
from .parts import FORMAT, PART_OF
from .wording import explain

VERSION = re.compile(r"silvrin-recipe-(\d+)")
NEWEST = int(FORMAT.rsplit("-", 1)[1])


def read_recipe(
    text: str | bytes, zone_part: Callable[[str], float], name: str = "recipe"
) -> tuple[Recipe, Sheets]:
    """A recipe and the sheets it names, from JSON text of any version; raises BadRecipe naming each
    field that does not hold, and for a recipe of a newer Silvrin. `zone_part` tells of a stock's id
    which part of its speed its zone index is."""
    given, sheets = upgraded(text, zone_part, name)
    try:
        labels = _put_all(given.pop("sheets", {}), sheets)
        recipe = Recipe.model_validate_json(json.dumps(_renamed(given, labels)))
    except ValidationError as error:
        raise BadRecipe(f"{name}: {'; '.join(explain(error))}.") from error
    except (AttributeError, TypeError) as error:
        raise BadRecipe(f"{name}: sheets are named objects of what is drawn.") from error
    return recipe, sheets


def upgraded(
    text: str | bytes, zone_part: Callable[[str], float], name: str
) -> tuple[dict[str, Any], Sheets]:
    """A written recipe of any version as one of the newest, with what was drawn in it on sheets;
    its fields are not looked over. Raises BadRecipe."""
    try:
        given = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise BadRecipe(f"{name}: the file is not JSON: {error}.") from error
    if not isinstance(given, dict):
        raise BadRecipe(f"{name}: a recipe is an object with of_frame and look.")
    version = _version(given, name)
    sheets = Sheets()
    try:
        if version == 1:
            given = in_two_parts(given, sheets)
        if version <= 2:
            given = rated_by_zones(given, zone_part)
        if version <= 3:
            given = passes_apart(given, sheets)
        if version <= 5:
            given = {**own_bands(given), "format": FORMAT}
    except ValidationError as error:
        raise BadRecipe(f"{name}: {'; '.join(explain(error))}.") from error
    return given, sheets


def write_recipe(recipe: Recipe, sheets: Sheets) -> str:
    """A recipe with the sheets it names as the text of a file."""
    document = json.loads(recipe.model_dump_json())
    named = (*sheets_named(recipe), *strokes_named(sheets.of(recipe).passes))
    if named:
        document["sheets"] = {name: json.loads(sheets.texts[name]) for name in named}
    return json.dumps(document, indent=1, ensure_ascii=False)


def file_schema() -> dict[str, Any]:
    """JSON Schema of a recipe file."""
    _, schema = models_json_schema([(Recipe, "validation"), (Sheet, "validation")])
    written = schema["$defs"]["WrittenRecipe"]
    written["properties"]["sheets"] = {
        "type": "object",
        "title": "Sheets",
        "description": "What is drawn on the sheets that the recipe names, by their names.",
        "additionalProperties": {"$ref": "#/$defs/Sheet"},
        "default": {},
    }
    return {"$ref": "#/$defs/WrittenRecipe", **schema}


def _version(given: dict[str, Any], name: str) -> int:
    wanted = given.get("format")
    if wanted is None:
        return 1 if given.keys() & PART_OF.keys() else NEWEST
    found = VERSION.fullmatch(str(wanted))
    if found is None:
        raise BadRecipe(f"{name}: format {wanted!r} is no recipe of Silvrin; {FORMAT!r} is.")
    if not 1 <= int(found[1]) <= NEWEST:
        raise BadRecipe(
            f"{name}: this recipe is of version {found[1]}; this Silvrin reads versions 1 to "
            f"{NEWEST}. Open it with a newer Silvrin, or save it anew there for this one."
        )
    return int(found[1])


def in_two_parts(given: dict[str, Any], sheets: Sheets) -> dict[str, Any]:
    """A recipe of version 1 (by station, drawings inside) as one of version 2; its drawings are put
    on sheets. Raises ValidationError for drawings that do not hold."""
    document: dict[str, Any] = {"format": "silvrin-recipe-2", "of_frame": {}, "look": {}}
    for station, fields in given.items():
        if station == "format":
            continue
        if station not in PART_OF or not isinstance(fields, dict):
            document["look"][station] = fields  # is refused by name
            continue
        for name, value in fields.items():
            part = PART_OF[station].get(name, "look")
            document[part].setdefault(station, {})[name] = value
    capture = document["of_frame"].get("capture", {})
    if mends := capture.get("mends"):
        drawn = Sheet.model_validate({"mends": mends})
        capture["mends"] = list(sheets.mends(drawn.mends))
    if outlines := capture.get("protected"):
        drawn = Sheet.model_validate({"outlines": outlines})
        capture["protected"] = list(sheets.outlines(drawn.outlines))
    return document


def rated_by_zones(given: dict[str, Any], zone_part: Callable[[str], float]) -> dict[str, Any]:
    """A recipe of version 2 as one of version 3: the exposure that its index gave stays the same,
    and is now told by an index at which a metered grey lies on Zone V."""
    look = _object(given.get("look"))
    film = _object(look.get("film"))
    index = film.get("exposure_index")
    if isinstance(index, int | float) and not isinstance(index, bool):
        stock = str(film.get("stock", FilmSettings().stock))
        film = film | {"exposure_index": round(index * zone_part(stock), 3)}
        given = given | {"look": look | {"film": film}}
    return given | {"format": "silvrin-recipe-3"}


def passes_apart(given: dict[str, Any], sheets: Sheets) -> dict[str, Any]:
    """A recipe of version 3 as one of version 4: its passes are put on sheets. Raises
    ValidationError for passes that do not hold."""
    of_frame = _object(given.get("of_frame"))
    enlarger = _object(of_frame.get("enlarger"))
    if passes := enlarger.get("passes"):
        drawn = Sheet.model_validate({"passes": passes})
        enlarger = enlarger | {"passes": list(sheets.passes(drawn.passes))}
        given = given | {"of_frame": of_frame | {"enlarger": enlarger}}
    return given | {"format": "silvrin-recipe-4"}


def own_bands(given: Any) -> Any:
    """Settings of version 5, in whole or in part, as those of version 6: where none of the eight
    hue bands did anything there are none."""
    if isinstance(given, list):
        return [own_bands(each) for each in given]
    if not isinstance(given, dict):
        return given
    found = {name: own_bands(value) for name, value in given.items()}
    bands = found.get("hue_bands")
    if isinstance(bands, list) and not any(_object(band).get("stops", 0) for band in bands):
        found["hue_bands"] = []
    return found


def _object(value: Any) -> dict[str, Any]:
    return value if isinstance(value, dict) else {}


def _put_all(drawn: dict[str, Any], sheets: Sheets) -> dict[str, str]:
    """The names of the sheets of a file by what the file calls them: strokes first, since passes
    name these."""
    labels: dict[str, str] = {}
    for label, sheet in sorted(drawn.items(), key=lambda item: "passes" in item[1]):
        for each in sheet.get("passes", ()):
            for shape in _object(each).get("shapes", ()):
                if isinstance(_object(shape).get("strokes"), list):
                    shape["strokes"] = [labels.get(name, name) for name in shape["strokes"]]
        labels[label] = sheets.put(Sheet.model_validate(sheet))
    return labels


def _renamed(document: dict[str, Any], labels: dict[str, str]) -> dict[str, Any]:
    """A written recipe that names its sheets by their content, whatever the file called them."""
    of_frame = _object(document.get("of_frame"))
    for station, field in (("capture", "mends"), ("capture", "protected"), ("enlarger", "passes")):
        settings = _object(of_frame.get(station))
        if isinstance(settings.get(field), list):
            settings[field] = [labels.get(name, name) for name in settings[field]]
    return document
