"""The recipe: the settings of a print, one frozen model a station, in the order of the light path.

Ranges, units, steps and descriptions stand here and nowhere else; validation, the API document,
the types of the interface and its controls are made from them.
"""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ..errors import BadRecipe

FilmFormat = Literal["half frame", "35 mm", "6 × 6 cm", "6 × 7 cm", "4 × 5 in", "8 × 10 in"]
Share = Annotated[float, Field(ge=0.001, le=1)]
ItemId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]


class Station(BaseModel):
    """Settings of one station."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


def _channel(name: str) -> Any:
    return Field(
        1.0,
        ge=0,
        le=1,
        title=name,
        description=f"Share of the {name.lower()} channel in an infrared capture.",
        json_schema_extra={"unit": "", "step": 0.05},
    )


class CaptureSettings(Station):
    """Capture: the file becomes linear light."""

    infrared: bool = Field(
        False,
        title="Infrared capture",
        description="Taken by a camera converted to infrared: its channels are weighed directly, "
        "whatever the light, the glass and the film's sensitivity are.",
    )
    neutral: tuple[Share, Share, Share] | None = Field(
        None,
        title="Neutral",
        description="Of an infrared capture: shares of red, green and blue that become neutral.",
    )
    red: float = _channel("Red")
    green: float = _channel("Green")
    blue: float = _channel("Blue")
    exposure: float = Field(
        0.0,
        ge=-5,
        le=5,
        title="Exposure trim",
        description="More or less light than the capture holds.",
        json_schema_extra={"unit": "stops", "step": 1 / 12},
    )


class HueBand(Station):
    """One of the eight hue bands: what it covers and how bright it prints."""

    stops: float = Field(
        0.0,
        ge=-4,
        le=4,
        title="Brightness",
        description="How much lighter or darker the hue prints.",
        json_schema_extra={"unit": "stops", "step": 1 / 12},
    )
    centre: float = Field(
        0.0,
        ge=0,
        le=360,
        title="Centre",
        description="Hue at the middle of the band: the angle of CIE u', v' about white.",
        json_schema_extra={"unit": "°", "step": 1},
    )
    width: float = Field(
        45.0,
        ge=6,
        le=180,
        title="Width",
        description="From where the band counts half to where it counts half again.",
        json_schema_extra={"unit": "°", "step": 1},
    )
    softness: float = Field(
        1.0,
        ge=0.05,
        le=1,
        title="Softness",
        description="How gradually the band begins and ends.",
        json_schema_extra={"unit": "", "step": 0.05},
    )


# Centre and width: red, orange, yellow, green, blue-green, blue, violet, purple
HUE_BANDS = tuple(
    HueBand(centre=centre, width=width)
    for centre, width in (
        (12, 44), (45, 37), (85, 43), (130, 52), (190, 55), (240, 41), (272, 42), (325, 50),
    )
)  # fmt: skip


class LightSettings(Station):
    """Light: what the film was lit by, and the glass before it."""

    temperature: float = Field(
        5500.0,
        ge=2000,
        le=12000,
        title="Temperature",
        description="Colour of the light on the film: a black body up to 4000 K, "
        "CIE daylight from 5000 K, a mixture between.",
        json_schema_extra={"unit": "K", "step": 50},
    )
    lens_filter: ItemId = Field(
        "none", title="Lens filter", description="Coloured glass in front of the lens."
    )
    strength: float = Field(
        1.0,
        ge=0,
        le=3,
        title="Density",
        description="How thick the filter's glass is beside the real one's.",
        json_schema_extra={"unit": "×", "step": 0.05},
    )
    second_filter: ItemId = Field(
        "none", title="Second filter", description="A further filter, before or behind the first."
    )
    second_strength: float = Field(
        1.0,
        ge=0,
        le=3,
        title="Second density",
        description="How thick the second filter's glass is beside the real one's.",
        json_schema_extra={"unit": "×", "step": 0.05},
    )
    compensate: bool = Field(
        True,
        title="Factor made up for",
        description="The exposure is multiplied by the filter factor.",
    )
    hue_bands: tuple[HueBand, ...] = Field(
        HUE_BANDS,
        min_length=8,
        max_length=8,
        title="Hue bands",
        description="How bright each hue prints, from red round to purple.",
    )
    hue_shift: float = Field(
        0.0,
        ge=-180,
        le=180,
        title="Hue shift",
        description="Turns all hues of the capture before they meet glass and film.",
        json_schema_extra={"unit": "°", "step": 1},
    )


class MeteredSpot(Station):
    """A spot that was metered: its letter, where it lies, and the zone it was placed on."""

    letter: str = Field(pattern=r"^[A-Z]$", description="Its tag.")
    x: int = Field(ge=0, description="Pixels of the capture from the left.")
    y: int = Field(ge=0, description="Pixels of the capture from the top.")
    placed: float | None = Field(
        None, ge=-1, le=11, description="Zone it was placed on; empty when it falls where it falls."
    )


class FilmSettings(Station):
    """Film: light becomes exposure, exposure becomes silver."""

    stock: ItemId = Field("larch-100", title="Stock", description="The film.")
    exposure_index: float | None = Field(
        None,
        ge=3,
        le=6400,
        title="Exposure index",
        description="The speed the film was metered at; empty is its own speed. "
        "Half the speed gives one stop more exposure.",
        json_schema_extra={"unit": "EI"},
    )
    film_format: FilmFormat = Field(
        "35 mm",
        title="Format",
        description="Size of the negative: the larger it is, the finer its grain in the print.",
    )
    grain: float = Field(
        1.0,
        ge=0,
        le=3,
        title="Grain",
        description="How much of it, beside what the stock has.",
        json_schema_extra={"unit": "×", "step": 0.05},
    )
    grain_size: float = Field(
        1.0,
        ge=0.5,
        le=4,
        title="Grain size",
        description="How coarse, beside the stock's own.",
        json_schema_extra={"unit": "×", "step": 0.05},
    )
    placement: float = Field(
        0.0,
        ge=-12,
        le=12,
        title="Placement",
        description="Exposure given to place a metered spot on its zone.",
        json_schema_extra={"unit": "stops", "step": 1 / 12},
    )
    spots: tuple[MeteredSpot, ...] = Field(
        (), max_length=26, title="Spots", description="Metered spots, by their letters."
    )


class DevelopmentSettings(Station):
    """Development: the contrast of the negative."""

    n: float = Field(
        0.0,
        ge=-2,
        le=2,
        title="Development",
        description="N+1 spreads six stops over the range of seven, N-1 fits eight into it.",
        json_schema_extra={"unit": "N", "step": 1 / 6},
    )


class EnlargerSettings(Station):
    """Enlarger: the negative is projected on the paper."""

    time: float | None = Field(
        None,
        ge=0.2,
        le=1000,
        title="Base exposure",
        description="Seconds under the enlarger; empty is the standard printing time, "
        "which prints Zone V as middle grey.",
        json_schema_extra={"unit": "s"},
    )


class PaperSettings(Station):
    """Paper: exposure becomes a picture."""

    paper: ItemId = Field("glossy-fibre-neutral", title="Paper", description="The paper.")
    grade: float = Field(
        2.0,
        ge=0,
        le=5,
        title="Grade",
        description="Contrast of the paper: 0 is soft, 5 is hard.",
        json_schema_extra={"unit": "", "step": 0.25},
    )


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
