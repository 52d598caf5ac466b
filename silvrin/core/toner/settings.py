"""Settings of the Toner station: the silver changes colour."""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..settings import ItemId, Settings, amount

BathKind = Literal["sepia", "selenium", "gold", "copper", "iron-blue", "dye", "own"]
Colour = Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")]
MOST_BATHS, MOST_STOPS, MOST_COLOURS = 6, 6, 6


class Bath(Settings):
    """A toning bath; baths act one after another."""

    kind: BathKind = Field("selenium", title="Bath", description="Which toner it is.")
    time: float = amount("Time", "How long the print lies in it: 1 is to the end.", 0.5, 0, 1, 0.02)
    tone: float = amount(
        "Tone",
        "Of sepia: from brown to yellow-brown, by the alkali of its second bath.",
        0.5, 0, 1, 0.05,
    )  # fmt: skip
    hue: float = amount(
        "Hue", "Of a dye: its hue as the angle of CIE u', v'.", 30.0, 0, 360, 1, "°"
    )
    toner: ItemId | None = Field(None, description="Of an own one: the toner of the shelf.")

    @model_validator(mode="after")
    def _own_is_named(self) -> "Bath":
        if self.kind == "own" and self.toner is None:
            raise ValueError("a bath of an own toner names it; those of the shelf have ids")
        return self


class TonalStop(Settings):
    """A colour at a place of the print's scale."""

    place: float = amount("Place", "Of the scale from black (0) to the base.", 50.0, 0, 100, 1, "%")
    colour: Colour = Field("#808080", title="Colour", description="In sRGB.")


class ColourBand(Settings):
    """A band of hues whose colour in the capture is let back."""

    back: float = amount("Let back", "How much of the colour.", 1.0, 0, 1, 0.02)
    centre: float = amount(
        "Centre", "Hue at its middle: the angle of CIE u', v' about white.", 0.0, 0, 360, 1, "°"
    )
    width: float = amount(
        "Width", "From where it counts half to where it counts half again.", 45.0, 6, 180, 1, "°"
    )
    softness: float = amount("Softness", "How gradually it begins and ends.", 0.6, 0.05, 1, 0.05)


class TonerSettings(Settings):
    """Toner: the silver changes colour."""

    baths: tuple[Bath, ...] = Field(
        (),
        max_length=MOST_BATHS,
        title="Baths",
        description="Toning baths in their order: each acts on the silver that is left.",
    )
    stops: tuple[TonalStop, ...] = Field(
        (),
        max_length=MOST_STOPS,
        title="Tonal stops",
        description="Colours at places of the print's scale, joined in CIELAB; two or more, or "
        "none. They take the place of what the baths give.",
    )
    warmth: float = amount(
        "Warmth",
        "Tone of paper and silver: warm above 0, cold below.",
        0.0, -1, 1, 0.02,
    )  # fmt: skip

    shadow_wash: float = amount(
        "Wash over shadows", "A colour over the dark tones; lightness stays.", 0.0, 0, 1, 0.02
    )
    shadow_hue: float = amount(
        "Hue over shadows", "Of the wash over shadows.", 250.0, 0, 360, 1, "°"
    )
    light_wash: float = amount(
        "Wash over lights", "A colour over the light tones; bare paper stays.", 0.0, 0, 1, 0.02
    )
    light_hue: float = amount("Hue over lights", "Of the wash over lights.", 55.0, 0, 360, 1, "°")
    wash_meets: float = amount(
        "Washes meet", "Where on the print's scale one ends and the other begins.",
        50.0, 10, 90, 1, "%",
    )  # fmt: skip
    warmth_out: float = amount(
        "Warmth out", "How much of what is warm by now is taken out.", 0.0, 0, 1, 0.02
    )
    capture_colour: float = amount(
        "Capture's colour", "How much of the capture's colour is let back over all.",
        0.0, 0, 1, 0.02,
    )  # fmt: skip
    colour_bands: tuple[ColourBand, ...] = Field(
        (),
        max_length=MOST_COLOURS,
        title="By hue",
        description="Hues whose colour in the capture is let back.",
    )

    paper_tone: float | None = Field(
        None,
        ge=0,
        le=1,
        title="Paper's own tone",
        description="How much is seen in the print of the colour of the paper's base and image; "
        "empty is all of a historic process and nothing of others.",
        json_schema_extra={"step": 0.02},
    )

    @model_validator(mode="after")
    def _stops_rise(self) -> "TonerSettings":
        if len(self.stops) == 1:
            raise ValueError("one tonal stop is no scale; give two or more, or none")
        places = [stop.place for stop in self.stops]
        for before, after in pairwise(places):
            if after - before < 1.0:
                raise ValueError(
                    f"tonal stops at {before:g} and {after:g} %; each lies at least 1 % beyond the "
                    "one before"
                )
        return self
