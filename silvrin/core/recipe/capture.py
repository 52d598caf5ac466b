"""Settings of the Capture station: the file becomes linear light."""

from typing import Annotated, Any

from pydantic import Field, model_validator

from .station import Station, amount

Share = Annotated[float, Field(ge=0.001, le=1)]


Edge = Annotated[float, Field(ge=0, le=1)]
LEAST_CROP = 0.02  # of a side


def _channel(name: str) -> Any:
    about = f"Share of the {name.lower()} channel in an infrared capture."
    return amount(name, about, 1.0, 0, 1, 0.05)


class Mend(Station):
    """A blemish that is repaired from around; places in pixels of the capture."""

    x: int = Field(ge=0, description="Its middle, pixels from the left.")
    y: int = Field(ge=0, description="Its middle, pixels from the top.")
    radius: int = Field(ge=2, le=400, description="How far it reaches, pixels.")
    from_x: int | None = Field(None, ge=0, description="Where texture is taken; empty is found.")
    from_y: int | None = Field(None, ge=0, description="As from_x, from the top.")


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
    hot_spot: float = amount(
        "Hot spot",
        "By how much a lens brightens the middle of an infrared capture; it is taken away.",
        0.0, -1, 2, 1 / 12, "stops",
    )  # fmt: skip
    hot_spot_size: float = amount(
        "Its size",
        "Where the hot spot has fallen to a third, in parts of half the diagonal.",
        0.35, 0.1, 1, 0.01,
    )  # fmt: skip
    balance: tuple[Share, Share, Share] | None = Field(
        None,
        title="Neutral of a colour capture",
        description="Shares of red, green and blue that become neutral; empty is as shot.",
    )
    warmth: float = amount(
        "Warmth",
        "Colour of the capture beside as shot: warmer above 0, cooler below.",
        0.0, -150, 150, 1, "mired",
    )  # fmt: skip
    tint: float = amount("Tint", "From green (below 0) to magenta (above).", 0.0, -1, 1, 0.02)
    open_shadows: float = amount(
        "Open shadows", "Lifts what is dark before it meets the film; edges keep their shape.",
        0.0, 0, 3, 1 / 12, "stops",
    )  # fmt: skip
    rein_highlights: float = amount(
        "Rein highlights", "Lowers what is bright before it meets the film.",
        0.0, 0, 3, 1 / 12, "stops",
    )  # fmt: skip
    quarter_turns: int = Field(
        0, ge=0, le=3, title="Quarter turns", description="Clockwise, by 90 degrees each."
    )
    flip: bool = Field(False, title="Flipped", description="Left and right changed over.")
    straighten: float = amount(
        "Straighten", "Turned against the clock; the frame stays full.", 0.0, -45, 45, 0.05, "°"
    )
    keystone_vertical: float = amount(
        "Upright lines", "Above 0 lines that meet above are made parallel.", 0.0, -0.8, 0.8, 0.005
    )
    keystone_horizontal: float = amount(
        "Level lines", "Above 0 lines that meet at the right are made parallel.",
        0.0, -0.8, 0.8, 0.005,
    )  # fmt: skip
    distortion: float = amount(
        "Distortion", "Above 0 a barrel is made straight, below 0 a pincushion.",
        0.0, -0.3, 0.3, 0.001,
    )  # fmt: skip
    lateral_red: float = amount(
        "Red fringe", "By how much larger the lens draws red.", 0.0, -0.005, 0.005, 0.0001
    )
    lateral_blue: float = amount(
        "Blue fringe", "By how much larger the lens draws blue.", 0.0, -0.005, 0.005, 0.0001
    )
    crop: tuple[Edge, Edge, Edge, Edge] | None = Field(
        None,
        title="Crop",
        description="Left, top, right and bottom edge in parts of the frame; empty is all of it.",
    )
    mends: tuple[Mend, ...] = Field(
        (), max_length=400, title="Spotting", description="Blemishes that are repaired."
    )
    exposure: float = amount(
        "Exposure trim", "More or less light than the capture holds.", 0.0, -5, 5, 1 / 12, "stops"
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
