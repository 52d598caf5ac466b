"""The two parts of a recipe as it is written down: what belongs to the frame, and the look.

In Silvrin's own hands a recipe is by station. Written down, every field lies in the part it is
marked for, below its station: `of_frame.capture.crop`, `look.film.stock`. What is of the frame
stays when a look is put on hundreds of frames.
"""

from collections.abc import Mapping
from itertools import pairwise
from typing import Any

from pydantic import BaseModel, ConfigDict, create_model
from pydantic_core import PydanticCustomError

from ..settings import OF_FRAME, Settings
from ..stations import SETTINGS

PARTS = ("of_frame", "look")
BESIDE = ("mixture", "off")  # what a recipe has beside its stations
FORMAT = "silvrin-recipe-6"


def _part(extra: Any) -> str:
    return "of_frame" if isinstance(extra, dict) and extra.items() >= OF_FRAME.items() else "look"


# Of each field of each station, in which part it lies
PART_OF: dict[str, dict[str, str]] = {
    station: {name: _part(field.json_schema_extra) for name, field in settings.model_fields.items()}
    for station, settings in SETTINGS.items()
}


def joined(document: Mapping[str, Any]) -> dict[str, Any]:
    """By station what was written down in two parts."""
    found: dict[str, dict[str, Any]] = {}
    for part in document:
        if part not in (*PARTS, "format", *BESIDE):
            raise _misplaced(f"{part} is not a part of a recipe; those are of_frame and look")
    for part in PARTS:
        stations = document.get(part, {})
        if not isinstance(stations, Mapping):
            raise _misplaced(f"{part} holds fields by station")
        for station, fields in stations.items():
            if station not in PART_OF:
                raise _misplaced(
                    f"{part}.{station} is not a station; those are {', '.join(PART_OF)}"
                )
            if not isinstance(fields, Mapping):
                raise _misplaced(f"{part}.{station} holds fields by name")
            for name in fields:
                home = PART_OF[station].get(name, part)
                if home != part:
                    raise _misplaced(f"{part}.{station}.{name} belongs to {home}.{station}")
            found.setdefault(station, {}).update(fields)
    return {**found, **{name: document[name] for name in BESIDE if document.get(name)}}


def parted(recipe: Mapping[str, Any]) -> dict[str, Any]:
    """In two parts what is by station."""
    document: dict[str, Any] = {"format": FORMAT, "of_frame": {}, "look": {}}
    for station in PART_OF:
        for name, value in recipe[station].items():
            document[PART_OF[station][name]].setdefault(station, {})[name] = value
    return document | {name: recipe[name] for name in BESIDE if recipe[name]}


def placed(location: tuple[Any, ...]) -> tuple[Any, ...]:
    """Where a field that is at (…, station, name, …) by station stands in a written recipe."""
    for i, (station, name) in enumerate(pairwise(location)):
        if station in PART_OF:
            return (*location[:i], PART_OF[station].get(name, "look"), *location[i:])
    return location


def _misplaced(message: str) -> PydanticCustomError:
    return PydanticCustomError("recipe", "{message}", {"message": message})


def _model_of(part: str) -> type[BaseModel]:
    stations: dict[str, Any] = {}
    for station, settings in SETTINGS.items():
        fields: dict[str, Any] = {
            name: (field.annotation, field)
            for name, field in settings.model_fields.items()
            if PART_OF[station][name] == part
        }
        if fields:
            kind = create_model(
                f"{station.capitalize()}{'OfFrame' if part == 'of_frame' else 'Look'}",
                __base__=Settings,
                __doc__=settings.__doc__,
                **fields,
            )
            stations[station] = (kind, kind())
    name = "OfFrame" if part == "of_frame" else "Look"
    return create_model(name, __base__=Settings, __doc__=_ABOUT[part], **stations)


_ABOUT = {
    "of_frame": "What belongs to the frame: its shape, mends, neutral, spots and placement.",
    "look": "What can be put on any frame.",
}


def document_model(title: str, about: str, **more: Any) -> type[BaseModel]:
    """A model of a written recipe, for its schema."""
    of_frame, look = (_model_of(part) for part in PARTS)
    given: dict[str, Any] = {
        "format": (str, FORMAT),
        "of_frame": (of_frame, of_frame()),
        "look": (look, look()),
        **more,
    }
    config = ConfigDict(extra="forbid", json_schema_extra={"$id": FORMAT})
    return create_model(title, __config__=config, __doc__=about, **given)
