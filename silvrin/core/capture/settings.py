"""Settings of the Capture station: the file becomes linear light."""

from typing import Annotated, Any

from pydantic import Field, model_validator

from ..settings import MOST_PLACE, MOST_SHEETS, OF_FRAME, Place, Settings, SheetName, amount

Share = Annotated[float, Field(ge=0.001, le=1)]


Edge = Annotated[float, Field(ge=0, le=1)]
LEAST_CROP = 0.02  # of a side
MOST_MENDS, MOST_OUTLINES = 1000, 100  # of a print


def _channel(name: str) -> Any:
    about = f"Share of the {name.lower()} channel in an infrared capture."
    return amount(name, about, 1.0, 0, 1, 0.05)


class Mend(Settings):
    """A blemish that is repaired from around; places in pixels of the capture."""

    x: int = Field(
        ge=0, le=MOST_PLACE, description="Its middle or its start, pixels from the left."
    )
    y: int = Field(ge=0, le=MOST_PLACE, description="Its middle or its start, pixels from the top.")
    radius: int = Field(ge=2, le=400, description="How far it reaches, pixels.")
    path: tuple[Place, ...] = Field(
        (), max_length=200, description="Further places of a stroke, in order."
    )
    fill: bool = Field(
        False,
        description="For larger things: put together from all around, not taken from one place.",
    )
    from_x: int | None = Field(
        None, ge=0, le=MOST_PLACE, description="Where texture is taken; empty is found."
    )
    from_y: int | None = Field(None, ge=0, le=MOST_PLACE, description="As from_x, from the top.")


class Outline(Settings):
    """An area that no mend changes or takes from; places in pixels of the capture."""

    points: tuple[Place, ...] = Field(min_length=3, max_length=200, description="Its corners.")


# Radii in parts of half the diagonal at which a lens profile is known
LENS_RADII = tuple(round(0.05 * i, 2) for i in range(25))
Samples = Annotated[tuple[float, ...], Field(max_length=len(LENS_RADII))]


class LensProfile(Settings):
    """What a lens does to the picture, as samples at radii 0, 0.05 … 1.2 of half the diagonal."""

    name: str = Field(max_length=200, description="Of the lens.")
    distortion: Samples = Field(
        (), description="Recorded radius in parts of the ideal one, at ideal radii; empty is none."
    )
    red: Samples = Field((), description="Radius of red in parts of green's, at recorded radii.")
    blue: Samples = Field((), description="Radius of blue in parts of green's.")
    fall_off: Samples = Field((), description="Stops that the light fell off by.")

    @model_validator(mode="after")
    def _samples_are_whole(self) -> "LensProfile":
        for name in ("distortion", "red", "blue", "fall_off"):
            values = getattr(self, name)
            least, most = (-8.0, 8.0) if name == "fall_off" else (0.2, 5.0)
            if values and len(values) != len(LENS_RADII):
                raise ValueError(
                    f"{name} has {len(values)} samples; a profile has {len(LENS_RADII)}, or none"
                )
            if any(not least <= value <= most for value in values):
                raise ValueError(f"the samples of {name} lie between {least:g} and {most:g}")
        return self


class CaptureSettings(Settings):
    """Capture: the file becomes linear light."""

    infrared: bool = Field(
        False,
        title="Infrared capture",
        description="Taken by a camera converted to infrared: its channels are weighed directly, "
        "whatever the light, the glass and the film's sensitivity are.",
        json_schema_extra=OF_FRAME,
    )
    neutral: tuple[Share, Share, Share] | None = Field(
        None,
        title="Neutral",
        description="Of an infrared capture: shares of red, green and blue that become neutral.",
        json_schema_extra=OF_FRAME,
    )
    red: float = _channel("Red")
    green: float = _channel("Green")
    blue: float = _channel("Blue")
    hot_spot: float = amount(
        "Hot spot",
        "By how much a lens brightens the middle of an infrared capture; it is taken away.",
        0.0, -1, 2, 1 / 12, "stops", of_frame=True,
    )  # fmt: skip
    hot_spot_size: float = amount(
        "Its size",
        "Where the hot spot has fallen to a third, in parts of half the diagonal.",
        0.35, 0.1, 1, 0.01, of_frame=True,
    )  # fmt: skip
    balance: tuple[Share, Share, Share] | None = Field(
        None,
        title="Neutral of a colour capture",
        description="Shares of red, green and blue that become neutral; empty is as shot.",
        json_schema_extra=OF_FRAME,
    )
    warmth: float = amount(
        "Warmth",
        "Colour of the capture beside as shot: warmer above 0, cooler below.",
        0.0, -300, 300, 1, "mired",
    )  # fmt: skip
    tint: float = amount("Tint", "From green (below 0) to magenta (above).", 0.0, -1, 1, 0.02)
    camera_curve: float = amount(
        "Camera's curve",
        "How much of the tone curve that a camera lays on a JPEG or another finished file is taken "
        "back.",
        0.0, 0, 1, 0.05, of_frame=True,
    )  # fmt: skip
    open_shadows: float = amount(
        "Open shadows", "Lifts what is dark before it meets the film; edges keep their shape.",
        0.0, 0, 3, 1 / 12, "stops",
    )  # fmt: skip
    rein_highlights: float = amount(
        "Rein highlights", "Lowers what is bright before it meets the film.",
        0.0, 0, 3, 1 / 12, "stops",
    )  # fmt: skip
    quarter_turns: int = Field(
        0,
        ge=0,
        le=3,
        title="Quarter turns",
        description="Clockwise, by 90 degrees each.",
        json_schema_extra=OF_FRAME,
    )
    flip: bool = Field(
        False,
        title="Flipped",
        description="Left and right changed over.",
        json_schema_extra=OF_FRAME,
    )
    straighten: float = amount(
        "Straighten",
        "Turned against the clock; the frame stays full.",
        0.0,
        -45,
        45,
        0.05,
        "°",
        of_frame=True,
    )
    keystone_vertical: float = amount(
        "Upright lines",
        "Above 0 lines that meet above are made parallel.",
        0.0,
        -0.8,
        0.8,
        0.005,
        of_frame=True,
    )
    keystone_horizontal: float = amount(
        "Level lines", "Above 0 lines that meet at the right are made parallel.",
        0.0, -0.8, 0.8, 0.005, of_frame=True,
    )  # fmt: skip
    distortion: float = amount(
        "Distortion", "Above 0 a barrel is made straight, below 0 a pincushion.",
        0.0, -0.3, 0.3, 0.001, of_frame=True,
    )  # fmt: skip
    lateral_red: float = amount(
        "Red fringe",
        "By how much larger the lens draws red.",
        0.0,
        -0.005,
        0.005,
        0.0001,
        of_frame=True,
    )
    lateral_blue: float = amount(
        "Blue fringe",
        "By how much larger the lens draws blue.",
        0.0,
        -0.005,
        0.005,
        0.0001,
        of_frame=True,
    )
    fall_off: float = amount(
        "Light fall-off", "By how much the lens darkens the corners; it is taken away.",
        0.0, -2, 3, 1 / 12, "stops", of_frame=True,
    )  # fmt: skip
    lens: LensProfile | None = Field(
        None,
        title="Lens profile",
        description="What is known of the lens; its distortion, fringes and fall-off are undone.",
        json_schema_extra=OF_FRAME,
    )
    recover_highlights: float = amount(
        "Recover highlights",
        "From as bright as the channel that clips first (0) to all that the other channels still "
        "tell (1).",
        1.0, 0, 1, 0.05,
    )  # fmt: skip
    luminance_noise: float = amount(
        "Noise of light", "How much of the capture's own grain is smoothed away; edges stay.",
        0.0, 0, 1, 0.05,
    )  # fmt: skip
    colour_noise: float = amount(
        "Noise of colour", "How much of the speckle in colour is smoothed away.", 0.0, 0, 1, 0.05
    )
    defringe: float = amount(
        "Defringe", "How much of the purple and green rims at strong edges is taken away.",
        0.0, 0, 1, 0.05,
    )  # fmt: skip
    swap: bool = Field(
        False, title="Channels swapped", description="Red and blue of the capture changed over."
    )
    crop: tuple[Edge, Edge, Edge, Edge] | None = Field(
        None,
        title="Crop",
        description="Left, top, right and bottom edge in parts of the frame; empty is all of it.",
        json_schema_extra=OF_FRAME,
    )
    mends: tuple[SheetName, ...] = Field(
        (),
        max_length=MOST_SHEETS,
        title="Spotting",
        description="Blemishes that are repaired, as the sheets they are drawn on.",
        json_schema_extra=OF_FRAME,
    )
    protected: tuple[SheetName, ...] = Field(
        (),
        max_length=MOST_SHEETS,
        title="Protection",
        description="Outlines of what mends leave as it is, as the sheets they are drawn on.",
        json_schema_extra=OF_FRAME,
    )
    exposure: float = amount(
        "Exposure trim",
        "More or less light than the capture holds.",
        0.0,
        -5,
        5,
        1 / 3,
        "stops",
        of_frame=True,
    )

    @model_validator(mode="after")
    def _crop_has_room(self) -> "CaptureSettings":
        if self.crop is not None:
            left, top, right, bottom = self.crop
            if right - left < LEAST_CROP or bottom - top < LEAST_CROP:
                raise ValueError(
                    f"the crop runs from {left:g} to {right:g} across and {top:g} to {bottom:g} "
                    f"down; each side keeps at least {LEAST_CROP:g} of the frame"
                )
        return self
