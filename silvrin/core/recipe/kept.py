"""Settings that are kept under a name, to be put on other prints: a print's look, or some of it.

As a file it is a recipe of which only some fields are given, with its name:

    {"format": "silvrin-recipe-6", "name": "Quiet", "note": "", "group": "", "look": {…}}
"""

import json
from collections.abc import Callable, Collection
from typing import Any

from pydantic import Field, ValidationError, model_validator

from ...errors import BadRecipe
from ..settings import Settings
from . import Recipe
from .files import upgraded
from .mixture import Mixture, in_before
from .parts import BESIDE, FORMAT, PART_OF, PARTS
from .switches import fields_of
from .wording import explain

DRAWN = (("capture", "mends"), ("capture", "protected"), ("enlarger", "passes"))
ON_ONE_FRAME = (*DRAWN, ("film", "spots"))
EXPOSURE = (("enlarger", "time"), ("enlarger", "soft_time"), ("enlarger", "hard_time"))
Fields = dict[str, dict[str, Any]]


class KeptRecipe(Settings):
    """Some fields by station, under a name."""

    name: str = Field(min_length=1, max_length=60)
    note: str = Field("", max_length=2000)
    group: str = Field("", max_length=40)
    fields: Fields
    mixture: Mixture | None = Field(
        None, description="Of a print that lies between two looks: the other one."
    )

    @model_validator(mode="after")
    def _holds(self) -> "KeptRecipe":
        if not any(self.fields.values()):
            raise ValueError("a recipe holds one setting at least")
        for station, name in DRAWN:
            if name in self.fields.get(station, {}):
                raise ValueError(f"{station}.{name} is drawn on one frame; a recipe does without")
        Recipe.model_validate(_document(self.fields))
        return self

    def on(self, recipe: Recipe) -> Recipe:
        """A recipe with these fields in place of its own. What it holds in itself may not go
        together with what stays: raises ValidationError."""
        made = with_fields(recipe, self.fields)
        return made.model_copy(update={"mixture": self.mixture}) if self.mixture else made

    def among(self, fields: Collection[str]) -> "KeptRecipe":
        """Only some of its fields, named as `station.field`; raises BadRecipe where none is left.
        The other look of a mixture goes with all that is usual."""
        some = {
            station: {name: v for name, v in own.items() if f"{station}.{name}" in fields}
            for station, own in self.fields.items()
        }
        if not any(some.values()):
            raise BadRecipe("None of its settings is chosen; choose one at least.")
        whole = set(usual(self)) <= set(fields)
        return self.model_copy(update={"fields": some, "mixture": self.mixture if whole else None})


def settings_of(recipe: Recipe, name: str) -> KeptRecipe:
    """All settings of a recipe that could be put on another frame."""
    written = json.loads(recipe.model_dump_json())
    fields: Fields = {}
    for part in PARTS:
        for station, own in written[part].items():
            for field, value in own.items():
                if (station, field) not in ON_ONE_FRAME:
                    fields.setdefault(station, {})[field] = value
    strength = 1.0 if recipe.mixture is None else recipe.mixture.strength
    return KeptRecipe(name=name, fields=fields, mixture=recipe.mixture if strength != 1.0 else None)


def usual(of: KeptRecipe) -> list[str]:
    """What of its settings is put on other frames unless asked otherwise, named as
    `station.field`: the look without its exposure, which differs for every frame."""
    return [
        f"{station}.{name}"
        for station, own in of.fields.items()
        for name in own
        if PART_OF[station][name] == "look" and (station, name) not in EXPOSURE
    ]


def with_fields(recipe: Recipe, fields: Fields) -> Recipe:
    """A recipe with fields of its stations set. What is set holds however far a print went to its
    starting print: the print before gets it too; and it is in force, whatever was switched off.
    Raises ValidationError."""
    changed = Recipe.model_validate(_document(fields))
    stations = {
        station: getattr(recipe, station).model_copy(
            update={name: getattr(getattr(changed, station), name) for name in own}
        )
        for station, own in fields.items()
    }
    mixture = recipe.mixture
    if mixture is not None:
        before = {
            station: getattr(mixture.before, station).model_copy(
                update={
                    name: getattr(getattr(changed, station), name)
                    for name in own
                    if in_before(station, name)
                }
            )
            for station, own in fields.items()
        }
        mixture = mixture.model_copy(update={"before": mixture.before.model_copy(update=before)})
    off = tuple(name for name in recipe.off if not _touches(fields, name))
    made = recipe.model_copy(update={**stations, "mixture": mixture, "off": off})
    return Recipe.model_validate_json(made.model_dump_json())


def _touches(fields: Fields, switch: str) -> bool:
    station, names = fields_of(switch)
    return any(name in names for name in fields.get(station, {}))


def _document(fields: Fields) -> dict[str, Any]:
    """A written recipe of which only these fields are given."""
    document: dict[str, Any] = {part: {} for part in PARTS}
    for station, own in fields.items():
        parts = PART_OF.get(station, {})
        for name, value in own.items():
            document[parts.get(name, "look")].setdefault(station, {})[name] = value
    return document


def write_kept(kept: KeptRecipe, shelf: list[dict[str, Any]]) -> str:
    """A kept recipe as the text of a file, with the own items of the shelf that it needs."""
    document = {
        "format": FORMAT,
        "name": kept.name,
        "note": kept.note,
        "group": kept.group,
        **{part: fields for part, fields in _document(kept.fields).items() if fields},
    }
    if kept.mixture is not None:
        document["mixture"] = json.loads(kept.mixture.model_dump_json())
    if shelf:
        document["shelf"] = shelf
    return json.dumps(document, indent=1, ensure_ascii=False)


def read_kept(
    text: str | bytes, zone_part: Callable[[str], float], name: str
) -> tuple[KeptRecipe, list[Any]]:
    """A kept recipe, and the items of the shelf that travelled with it, from JSON text of any
    version; raises BadRecipe. What is drawn is left out. `name` is what it is called where the text
    does not tell."""
    given, _ = upgraded(text, zone_part, name)
    fields: Fields = {}
    try:
        shelf = given.pop("shelf", [])
        for part in PARTS:
            for station, own in given.get(part, {}).items():
                for field, value in own.items():
                    if (station, field) not in DRAWN:
                        fields.setdefault(station, {})[field] = value
        Recipe.model_validate(
            {key: value for key, value in given.items() if key in (*PARTS, *BESIDE)}
        )
        kept = KeptRecipe(
            name=given.get("name", name[:60] or "recipe"),
            note=given.get("note", ""),
            group=given.get("group", ""),
            fields=fields,
            mixture=given.get("mixture"),
        )
    except ValidationError as error:
        raise BadRecipe(f"{name}: {'; '.join(explain(error))}.") from error
    except AttributeError as error:
        raise BadRecipe(f"{name}: of_frame and look hold fields by station.") from error
    unknown = given.keys() - {
        "format", "name", "note", "group", "sheets", *PARTS, *BESIDE
    }  # fmt: skip
    if unknown:
        raise BadRecipe(f"{name}: {', '.join(sorted(unknown))} is not a part of a recipe.")
    if not isinstance(shelf, list):
        raise BadRecipe(f"{name}: shelf is a list of items.")
    return kept, shelf
