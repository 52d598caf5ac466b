"""The recipe: the settings of a print, one frozen model a station, in the order of the light path.

Ranges, units, steps and descriptions stand with the stations and nowhere else; validation, the API
document, the types of the interface and its controls are made from them.
"""

from typing import Any

from pydantic import (
    ConfigDict,
    Field,
    GetJsonSchemaHandler,
    SerializerFunctionWrapHandler,
    field_validator,
    model_serializer,
    model_validator,
)
from pydantic_core import CoreSchema

from ..capture.settings import CaptureSettings, LensProfile, Mend, Outline
from ..development.settings import DeveloperKind, DevelopmentSettings, LocalContrast
from ..enlarger.settings import EnlargerSettings, Head
from ..enlarger.shapes import Brush, Card, Disc, Pass, Polygon, Stroke
from ..film.settings import FilmFormat, FilmSettings, MeteredSpot
from ..light.settings import FocusShape, HueBand, LightSettings, SoftOn
from ..mount.settings import Ink, Inscription, MountSettings
from ..paper.settings import PaperSettings
from ..settings import ItemId, Settings
from ..stations import Stations
from ..toner.settings import Bath, ColourBand, TonalStop, TonerSettings
from .mixture import Mixture, in_before
from .parts import PART_OF, document_model, joined, parted
from .switches import PARTS, SWITCHES, Switch, fields_of, home_of

__all__ = [
    "Bath",
    "Brush",
    "CaptureSettings",
    "Card",
    "ColourBand",
    "DeveloperKind",
    "DevelopmentSettings",
    "Disc",
    "EnlargerSettings",
    "FilmFormat",
    "FilmSettings",
    "FocusShape",
    "Head",
    "HueBand",
    "Ink",
    "Inscription",
    "ItemId",
    "LensProfile",
    "LightSettings",
    "LocalContrast",
    "Mend",
    "MeteredSpot",
    "Mixture",
    "MountSettings",
    "Outline",
    "PaperSettings",
    "Pass",
    "Polygon",
    "Recipe",
    "SoftOn",
    "Stroke",
    "TonalStop",
    "TonerSettings",
]


class Recipe(Stations):
    """The settings of a print, by station; written down in two parts (`parts`)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    mixture: Mixture | None = None
    off: tuple[Switch, ...] = Field(
        (), description="Stations and parts of stations that are switched off."
    )

    @field_validator("off")
    @classmethod
    def _are_switches(cls, off: tuple[str, ...]) -> tuple[str, ...]:
        for name in off:
            if name not in SWITCHES:
                raise ValueError(
                    f"{name} is not a station or a part of one; those are {', '.join(SWITCHES)}"
                )
        return tuple(name for name in SWITCHES if name in off)

    @property
    def in_force(self) -> "Recipe":
        """The recipe with what is switched off as it is to begin with."""
        if not self.off:
            return self
        made, mixture = {name: getattr(self, name) for name in PARTS}, self.mixture
        for station, fields in map(fields_of, self.off):
            home = home_of(station, fields)
            made[station] = made[station].model_copy(update=home)
            if mixture is not None:
                before = getattr(mixture.before, station).model_copy(update=home)
                mixture = mixture.model_copy(
                    update={"before": mixture.before.model_copy(update={station: before})}
                )
        return self.model_copy(update={**made, "mixture": mixture, "off": ()})

    @property
    def before(self) -> "Recipe":
        """The print that this one was mixed with, with what is of the frame as it is now; itself
        where it is not mixed."""
        if self.mixture is None:
            return self
        stations = {
            station: getattr(self.mixture.before, station).model_copy(
                update={
                    name: getattr(getattr(self, station), name)
                    for name in fields
                    if not in_before(station, name)
                }
            )
            for station, fields in PART_OF.items()
        }
        return self.model_copy(update={**stations, "mixture": None})

    @model_validator(mode="before")
    @classmethod
    def _from_two_parts(cls, given: Any) -> Any:
        by_station = isinstance(given, dict) and all(
            value is None or isinstance(value, Settings | tuple) for value in given.values()
        )
        return joined(given) if isinstance(given, dict) and not by_station else given

    @model_serializer(mode="wrap")
    def _in_two_parts(self, stations: SerializerFunctionWrapHandler) -> dict[str, Any]:
        return parted(stations(self))

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return handler(_DOCUMENT.__pydantic_core_schema__)


_DOCUMENT = document_model(
    "WrittenRecipe",
    "The settings of a print, in two parts, by station.",
    mixture=(Mixture | None, None),
    off=(tuple[Switch, ...], ()),
)
