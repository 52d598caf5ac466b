"""Settings of the Enlarger station: the negative is projected."""

from typing import Annotated, Literal

from pydantic import Field

from ..settings import MOST_PLACE, OF_FRAME, Settings, amount

Head = Literal["diffuse", "condenser"]


How = Literal["add", "take", "keep"]
Beside = Annotated[float, Field(ge=-MOST_PLACE, le=2 * MOST_PLACE)]  # also outside the capture
Length = Annotated[float, Field(ge=1, le=2 * MOST_PLACE)]


class Disc(Settings):
    """A soft ellipse; places and lengths are in pixels of the capture."""

    kind: Literal["disc"] = "disc"
    how: How = Field("add", description="Added to the area, taken from it, or what is kept of it.")
    x: Beside = Field(description="Its middle, from the left.")
    y: Beside = Field(description="Its middle, from the top.")
    width: Length = Field(description="From its middle to its edge, along.")
    height: Length = Field(description="From its middle to its edge, across.")
    angle: float = amount("Turned", "By how much it is turned.", 0.0, -180, 180, 1, "°")
    soft: float = amount(
        "Softness", "How much of the way to its edge the run takes, half of it outside.",
        0.6, 0.05, 2, 0.05,
    )  # fmt: skip


class Card(Settings):
    """A straight edge with a soft run; places are in pixels of the capture."""

    kind: Literal["card"] = "card"
    how: How = Field("add", description="Added to the area, taken from it, or what is kept of it.")
    x: Beside = Field(description="Where it is still full, from the left.")
    y: Beside = Field(description="Where it is still full, from the top.")
    to_x: Beside = Field(description="Where nothing of it is left, from the left.")
    to_y: Beside = Field(description="Where nothing of it is left, from the top.")


Shape = Annotated[Disc | Card, Field(discriminator="kind")]


class Pass(Settings):
    """A dodge or burn over an area of the print."""

    name: str = Field("", max_length=80, description="Empty is what it is: its letter and seconds.")
    on: bool = Field(True, title="On")
    stops: float = amount(
        "Exposure", "Beside the base exposure: above 0 burned, below dodged.",
        0.25, -6, 6, 1 / 12, "stops",
    )  # fmt: skip
    strength: float = amount("Strength", "How far it acts.", 1.0, 0, 1.5, 0.05, "×")
    group: int = Field(
        0,
        ge=0,
        le=9,
        title="Group",
        description="Of passes in one group the strongest counts at each place; 0 is none.",
    )
    opposite: bool = Field(False, title="Opposite", description="All but the area.")
    shapes: tuple[Shape, ...] = Field(min_length=1, max_length=20)


class EnlargerSettings(Settings):
    """Enlarger: the negative is projected on the paper."""

    head: Head = Field(
        "diffuse",
        title="Head",
        description="A condenser's directed light is scattered by silver, which hardens the print "
        "by about a grade.",
    )
    time: float | None = Field(
        None,
        ge=0.2,
        le=1000,
        title="Base exposure",
        description="Seconds under the enlarger; empty is the standard printing time, "
        "which prints Zone V as middle grey.",
        json_schema_extra={"unit": "s"},
    )
    soft_time: float = amount(
        "Through 00", "Of a split grade: seconds through the softest filter.", 6.0, 0, 500, 0.1, "s"
    )
    hard_time: float = amount(
        "Through 5", "Of a split grade: seconds through the hardest filter.", 6.0, 0, 500, 0.1, "s"
    )
    passes: tuple[Pass, ...] = Field(
        (),
        max_length=200,
        title="Printing map",
        description="What is dodged and burned, in order.",
        json_schema_extra=OF_FRAME,
    )
