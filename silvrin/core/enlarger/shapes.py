"""Shapes that areas of the printing map are made of, as settings.

Places and lengths are in pixels of the capture; only what belongs to the paper's edges (`Sides`,
`Oval`, `FallOff`) is in parts of the finished picture, so that it follows the crop.
"""

from typing import Annotated, Literal

from pydantic import Field, SerializerFunctionWrapHandler, model_serializer, model_validator

from ..settings import MOST_PLACE, Settings, SheetName, amount

How = Literal["add", "take", "keep"]
Beside = Annotated[float, Field(ge=-MOST_PLACE, le=2 * MOST_PLACE)]  # also outside the capture
Length = Annotated[float, Field(ge=1, le=2 * MOST_PLACE)]
Point = tuple[Beside, Beside]
MOST_POINTS = 500  # of a stroke
MOST_CORNERS = 200  # of an outline
MOST_STROKES = 2000  # of a print


class _Shape(Settings):
    how: How = Field("add", description="Added to the area, taken from it, or what is kept of it.")

    # not annotated: so its schema stays that of the fields
    @model_serializer(mode="wrap")
    def _with_kind(self, fields: SerializerFunctionWrapHandler):  # type: ignore[no-untyped-def]
        """Its kind is written even where defaults are left out."""
        return {"kind": getattr(self, "kind", None), **fields(self)}


class Disc(_Shape):
    """A soft ellipse."""

    kind: Literal["disc"] = "disc"
    x: Beside = Field(description="Its middle, from the left.")
    y: Beside = Field(description="Its middle, from the top.")
    width: Length = Field(description="From its middle to its edge, along.")
    height: Length = Field(description="From its middle to its edge, across.")
    angle: float = amount("Turned", "By how much it is turned.", 0.0, -180, 180, 1, "°")
    soft: float = amount(
        "Softness", "How much of the way to its edge the run takes, half of it outside.",
        0.6, 0.05, 2, 0.05,
    )  # fmt: skip


class Card(_Shape):
    """A straight edge with a soft run."""

    kind: Literal["card"] = "card"
    x: Beside = Field(description="Where it is still full, from the left.")
    y: Beside = Field(description="Where it is still full, from the top.")
    to_x: Beside = Field(description="Where nothing of it is left, from the left.")
    to_y: Beside = Field(description="Where nothing of it is left, from the top.")


class Stroke(Settings):
    """One stroke of a brush; strokes lie on sheets."""

    points: tuple[Point, ...] = Field(
        min_length=1, max_length=MOST_POINTS, description="Where it went, in order."
    )
    radius: Length = Field(description="From its middle to its edge.")
    soft: float = Field(
        0.6, ge=0.05, le=2, description="How much of the way to its edge its run takes."
    )
    flow: float = Field(1.0, ge=0.01, le=2, description="What going over a place once leaves.")
    take: bool = Field(False, description="Taken away and not added.")
    pressure: tuple[Annotated[float, Field(ge=0, le=1)], ...] = Field(
        (), max_length=MOST_POINTS, description="Of the pen at each point; empty is full."
    )

    @model_validator(mode="after")
    def _pressure_at_each_point(self) -> "Stroke":
        if self.pressure and len(self.pressure) != len(self.points):
            raise ValueError(
                f"a stroke of {len(self.points)} points has {len(self.pressure)} pressures; "
                "give one for each point, or none"
            )
        return self


class Brush(_Shape):
    """What strokes leave: a place that is passed again gets more, up to a limit."""

    kind: Literal["brush"] = "brush"
    most: float = amount(
        "Most", "How many times one stroke's effect a place can reach.", 1.0, 0.05, 24, 0.05, "×"
    )
    dx: Beside = Field(0.0, description="Moved to the right, all strokes.")
    dy: Beside = Field(0.0, description="Moved down.")
    strokes: tuple[SheetName, ...] = Field(
        min_length=1, max_length=64, description="The sheets that its strokes are drawn on."
    )


class Polygon(_Shape):
    """A closed outline; where it crosses itself, all that it goes round belongs to it."""

    kind: Literal["outline"] = "outline"
    points: tuple[Point, ...] = Field(
        min_length=3, max_length=MOST_CORNERS, description="Its corners, in order."
    )
    feather: float = amount(
        "Feather", "Over how many pixels it runs from full to nothing, half of them outside.",
        40.0, 0, 4000, 2, "px",
    )  # fmt: skip


class Sample(Settings):
    """A touched place, or a short stroke over places, that an area is like."""

    points: tuple[Point, ...] = Field(min_length=1, max_length=60, description="What was touched.")
    reach: Length = Field(description="How far from there likeness counts.")
    strictness: float = amount(
        "Strictness", "From all that is somewhat like it (0) to only the very same (1).",
        0.5, 0, 1, 0.02,
    )  # fmt: skip


class Alike(_Shape):
    """All that has the tone, colour and texture of a sample, within its reach."""

    kind: Literal["alike"] = "alike"
    samples: tuple[Sample, ...] = Field(
        min_length=1, max_length=24, description="What is like one of them belongs to the area."
    )


Moment = tuple[Beside, Beside, Annotated[float, Field(ge=0, le=1000)]]


class Moved(_Shape):
    """A disc or a card that was held in the light and moved: each place belongs to it for the part
    of the time in which it was covered."""

    kind: Literal["moved"] = "moved"
    held: Annotated[Disc | Card, Field(discriminator="kind")]
    path: tuple[Moment, ...] = Field(
        min_length=1,
        max_length=MOST_POINTS,
        description="By how much it was moved, right and down, and when, in seconds.",
    )

    @model_validator(mode="after")
    def _in_time(self) -> "Moved":
        if any(b[2] < a[2] for a, b in zip(self.path, self.path[1:], strict=False)):
            raise ValueError("the moments of a movement come in order; give them so")
        return self


class Sky(_Shape):
    """The sky, with its clouds."""

    kind: Literal["sky"] = "sky"


class Foliage(_Shape):
    """Leaves and grass, as known by the spectrum of their colour."""

    kind: Literal["foliage"] = "foliage"


class Whole(_Shape):
    """The whole picture."""

    kind: Literal["whole"] = "whole"


Part = Annotated[float, Field(ge=0, le=1)]


class Sides(_Shape):
    """The edges of the paper, side by side."""

    kind: Literal["sides"] = "sides"
    left: Part = Field(1.0, description="What the left edge gets of the pass.")
    right: Part = Field(1.0, description="What the right edge gets.")
    top: Part = Field(1.0, description="What the top edge gets.")
    bottom: Part = Field(1.0, description="What the bottom edge gets.")
    width: float = amount(
        "Width", "Of the short side, how far in from the edge.", 16.0, 1, 60, 0.5, "%"
    )
    feather: float = amount("Feather", "How much of that width is run.", 100.0, 5, 100, 5, "%")


class Oval(_Shape):
    """All that lies outside an oval in the picture; its middle can be lightened in one."""

    kind: Literal["oval"] = "oval"
    x: Annotated[float, Field(ge=-1, le=2)] = Field(0.5, description="Its middle, of the width.")
    y: Annotated[float, Field(ge=-1, le=2)] = Field(0.5, description="Its middle, of the height.")
    size: float = amount("Size", "Of half the picture's diagonal.", 70.0, 10, 150, 1, "%")
    roundness: float = amount(
        "Roundness", "From the picture's own shape (0) to a circle (1).", 0.5, 0, 1, 0.05
    )
    feather: float = amount("Feather", "How much of its size is run.", 80.0, 5, 200, 5, "%")
    middle: float = amount("Middle", "How much of the opposite the middle gets.", 0.0, 0, 1, 0.05)


class FallOff(_Shape):
    """A lens's fall-off of light: with the fourth power of the cosine of the angle from its axis
    (textbook); full at the corner that is farthest from it."""

    kind: Literal["fall-off"] = "fall-off"
    x: Annotated[float, Field(ge=-1, le=2)] = Field(0.5, description="Its axis, of the width.")
    y: Annotated[float, Field(ge=-1, le=2)] = Field(0.5, description="Its axis, of the height.")
    angle: float = amount(
        "Half angle", "Of the lens, from its axis to that corner.", 35.0, 5, 65, 1, "°"
    )


Shape = Annotated[
    Disc | Card | Brush | Polygon | Moved | Alike | Sky | Foliage | Whole | Sides | Oval | FallOff,
    Field(discriminator="kind"),
]


class ZoneLimit(Settings):
    """A range of the scene's zones that an area is limited to."""

    first: float = amount("From", "The darkest zone.", 0.0, 0, 10, 0.1)
    last: float = amount("To", "The lightest zone.", 10.0, 0, 10, 0.1)
    soft: float = amount("Soft", "Zones over which it ends.", 1.0, 0.1, 4, 0.1)

    @model_validator(mode="after")
    def _in_order(self) -> "ZoneLimit":
        if self.first > self.last:
            raise ValueError(
                f"the range of zones runs from {self.first:g} to {self.last:g}; the first is not "
                "above the last"
            )
        return self


class HueLimit(Settings):
    """A range of hues that an area is limited to; greys are in none."""

    hue: float = amount("Hue", "In its middle.", 30.0, 0, 360, 1, "°")
    width: float = amount("Width", "From end to end.", 60.0, 5, 180, 1, "°")
    soft: float = amount("Soft", "How much of half the width is run.", 0.5, 0.05, 1, 0.05)


class Pass(Settings):
    """A dodge, a burn or another local change over an area of the print; passes lie on sheets."""

    name: str = Field("", max_length=80, description="Empty is what it is: its letter and seconds.")
    on: bool = Field(True, title="On")
    stops: float = amount(
        "Exposure", "Beside the base exposure: above 0 burned, below dodged.",
        0.25, -6, 6, 1 / 12, "stops",
    )  # fmt: skip
    grade: float | None = Field(
        None, ge=-1, le=5, title="Through",
        description="Grade of the filter it is given through; empty is the print's own.",
        json_schema_extra={"step": 0.25},
    )  # fmt: skip
    fine: float = amount("Fine contrast", "Of textures.", 0.0, -1, 2, 0.05)
    mid_scale: float = amount("Middle contrast", "Of things.", 0.0, -1, 2, 0.05)
    broad: float = amount("Broad contrast", "Of whole parts.", 0.0, -1, 2, 0.05)
    shadows: float = amount("Shadows", "Lifted, or below 0 held down.", 0.0, -2, 2, 0.05, "stops")
    highlights: float = amount("Highlights", "Lifted, or held.", 0.0, -2, 2, 0.05, "stops")
    haze: float = amount("Haze", "Laid over; below 0 taken off.", 0.0, -1, 1, 0.02)
    soft_focus: float = amount("Soft focus", "Share of the light that is spread.", 0.0, 0, 1, 0.02)
    sharpness: float = amount("Sharpness", "Below 0 softer.", 0.0, -1, 2, 0.05)
    noise: float = amount("Noise", "How much of it is smoothed away.", 0.0, 0, 1, 0.05)
    untoned: float = amount("Toner kept off", "How much of it does not act.", 0.0, 0, 1, 0.05)
    warm: float = amount("Tone", "Warmer above 0, colder below.", 0.0, -1, 1, 0.05)
    colour: float = amount("Capture's colour", "How much of it is let back.", 0.0, 0, 1, 0.05)
    strength: float = amount("Strength", "How far it acts.", 1.0, 0, 1.5, 0.05, "×")
    group: int = Field(
        0,
        ge=0,
        le=9,
        title="Group",
        description="Of passes in one group the strongest counts at each place; 0 is none.",
    )
    opposite: bool = Field(False, title="Opposite", description="All but the area.")
    soften: float = amount("Soften", "Of the long side, how far the area is softened.",
        0.0, 0, 5, 0.05, "%",
    )  # fmt: skip
    held: float = amount("Held to edges", "How far the area stops at edges.", 0.0, 0, 1, 0.05)
    zones: ZoneLimit | None = Field(None, title="Only zones")
    hues: HueLimit | None = Field(None, title="Only hues")
    shapes: tuple[Shape, ...] = Field(min_length=1, max_length=20)


# What a pass changes besides exposure, by its field: of earlier stations, and of the toner
NEGATIVE_EFFECTS = (
    "fine", "mid_scale", "broad", "shadows", "highlights", "haze", "soft_focus", "sharpness",
    "noise",
)  # fmt: skip
TONER_EFFECTS = ("untoned", "warm", "colour")
EFFECTS = NEGATIVE_EFFECTS + TONER_EFFECTS
