"""Settings of the Light station: what the film was lit by, and what lies before it."""

from typing import Literal

from pydantic import Field

from ..settings import OF_FRAME, ItemId, Settings, amount

SoftOn = Literal["all", "highlights"]
FocusShape = Literal["oval", "band"]


MOST_BANDS = 12
MOST_STOPS = 4.0  # that a band prints lighter or darker


class HueBand(Settings):
    """A hue band: what it covers and how bright it prints."""

    stops: float = amount(
        "Brightness",
        "How much lighter or darker the hue prints.",
        0.0, -MOST_STOPS, MOST_STOPS, 1 / 12, "stops",
    )  # fmt: skip
    centre: float = amount(
        "Centre",
        "Hue at the middle of the band: the angle of CIE u', v' about white.",
        0.0, 0, 360, 1, "°",
    )  # fmt: skip
    width: float = amount(
        "Width",
        "From where the band counts half to where it counts half again.",
        45.0, 6, 180, 1, "°",
    )  # fmt: skip
    softness: float = amount(
        "Softness", "How gradually the band begins and ends.", 1.0, 0.05, 1, 0.05
    )


class LightSettings(Settings):
    """Light: what the film was lit by, and the glass before it."""

    source: ItemId = Field(
        "by-temperature",
        title="Light",
        description="A light from the shelf, or one by its temperature.",
    )
    temperature: float = amount(
        "Temperature",
        "Colour of the light on the film: a black body up to 4000 K, "
        "CIE daylight from 5000 K, a mixture between.",
        5500.0, 2000, 12000, 50, "K",
    )  # fmt: skip
    lens_filter: ItemId = Field(
        "none", title="Lens filter", description="Coloured glass in front of the lens."
    )
    strength: float = amount(
        "Density", "How thick the filter's glass is beside the real one's.", 1.0, 0, 3, 0.05, "×"
    )
    second_filter: ItemId = Field(
        "none", title="Second filter", description="A further filter, before or behind the first."
    )
    second_strength: float = amount(
        "Second density",
        "How thick the second filter's glass is beside the real one's.",
        1.0, 0, 3, 0.05, "×",
    )  # fmt: skip
    filter_hue: float = amount(
        "Hue",
        "Of a filter of any hue: the hue that it lets through, as the angle of CIE u', v'.",
        30.0, 0, 360, 1, "°",
    )  # fmt: skip
    compensate: bool = Field(
        True,
        title="Factor made up for",
        description="The exposure is multiplied by the filter factor.",
    )
    hue_bands: tuple[HueBand, ...] = Field(
        (),
        max_length=MOST_BANDS,
        title="Hue bands",
        description="How bright hues print; each band lies where the picture has a hue.",
    )
    green_magenta: float = amount(
        "Green–magenta",
        "Spreads colours along green and magenta before the film sees them; below 0 it brings "
        "them together.",
        0.0, -1, 3, 0.05,
    )  # fmt: skip
    blue_yellow: float = amount(
        "Blue–yellow",
        "Spreads colours along blue and yellow before the film sees them; below 0 it brings them "
        "together.",
        0.0, -1, 3, 0.05,
    )  # fmt: skip
    hue_shift: float = amount(
        "Hue shift",
        "Turns all hues of the capture before they meet glass and film.",
        0.0, -180, 180, 1, "°",
    )  # fmt: skip
    chroma_smoothing: float = amount(
        "Smoothing",
        "Evens out small differences of colour before they become grey; edges stay.",
        0.0, 0, 1, 0.05,
    )  # fmt: skip
    haze: float = amount(
        "Haze",
        "Below 0 the veil of the air is taken from what lies far; above, more is laid over it.",
        0.0, -1, 1, 0.02,
    )  # fmt: skip
    soft_focus: float = amount(
        "Soft focus", "Share of the light that a soft lens spreads.", 0.0, 0, 1, 0.02
    )
    soft_size: float = amount(
        "Its reach", "Over how much of the long side it spreads.", 1.0, 0.2, 6, 0.1, "%"
    )
    soft_on: SoftOn = Field(
        "all",
        title="What glows",
        description="All light is spread, or only that of the highlights, from Zone VII.",
    )
    focus_blur: float = amount(
        "Out of focus",
        "How far things outside the focus are blurred, in parts of the long side.",
        0.0, 0, 3, 0.05, "%",
    )  # fmt: skip
    focus_shape: FocusShape = Field(
        "oval",
        title="What is sharp",
        description="An oval about the centre, or a band through it.",
        json_schema_extra=OF_FRAME,
    )
    focus_x: float = amount(
        "Across",
        "Centre of the focus from the left.",
        0.5,
        0,
        1,
        0.01,
        of_frame=True,
    )
    focus_y: float = amount(
        "Down",
        "Centre of the focus from the top.",
        0.5,
        0,
        1,
        0.01,
        of_frame=True,
    )
    focus_size: float = amount(
        "Sharp part",
        "From its centre to its edge, in parts of the long side.",
        0.25,
        0.02,
        1,
        0.01,
        of_frame=True,
    )
    focus_aspect: float = amount(
        "Roundness",
        "Height of the oval beside its width.",
        1.0,
        0.2,
        5,
        0.05,
        of_frame=True,
    )
    focus_angle: float = amount(
        "Turned",
        "By how much it is turned.",
        0.0,
        -90,
        90,
        1,
        "°",
        of_frame=True,
    )
    focus_transition: float = amount(
        "Transition", "From sharp to fully blurred, in parts of the long side.", 0.25, 0.02, 1, 0.01
    )
