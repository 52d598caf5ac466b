"""What goes in and out at the live socket."""

from typing import Literal

from pydantic import BaseModel, Field

from ...core.enlarger.test_strip import TestStrip
from ...core.render.shown import Side
from ...files.delivery.output import Intent
from ..inputs import Input, UnderRecipe
from .curves import Curves

MOST_VIEW = 8192

Show = Literal["print", "colour", "proof", "plate", "clipped", "projected", "mounted", "press"]


class LiveView(Input):
    """A region of the finished picture in its pixels, and the size it is wanted at."""

    left: int = Field(ge=0)
    top: int = Field(ge=0)
    width: int = Field(ge=1)
    height: int = Field(ge=1)
    out_width: int = Field(ge=1, le=MOST_VIEW)
    out_height: int = Field(ge=1, le=MOST_VIEW)


class HeldZones(Input):
    """Zones that stand in the picture while the rest sinks back."""

    side: Side = "scene"
    first: int = Field(ge=0, le=10)
    last: int = Field(ge=0, le=10)


class PressWish(Input):
    """A profile of the shelf, and how the print goes through it."""

    profile: str = Field(max_length=64)
    intent: Intent = "relative"
    black_point: bool = True
    paper: bool = Field(False, description="With the white and the black of its paper.")
    outside: bool = Field(False, description="Stripes over what falls outside of the profile.")


class LiveRequest(UnderRecipe):
    """What the window wants to see."""

    seq: int
    show: Show = "print"
    plate: Side = "scene"
    exposed: float | None = Field(
        None, ge=0, le=2000, description="Seconds the paper has had so far; empty is all of them."
    )
    strip: TestStrip | None = None
    held: HeldZones | None = None
    only: Literal["breaking", "unsure", "piled", "edges"] | None = Field(
        None,
        description="Only that stands: what breaks up, what colour alone does not tell, where "
        "passes pile up; or what sharpening takes for edges, white.",
    )
    hatched: int | Literal["all"] | None = Field(
        None, description="The area of a pass, by its number from 0, or of all, under lines."
    )
    press: PressWish | None = Field(None, description="Of the print as a press gives it back.")
    heat: bool = Field(False, description="What the printing map gives, in stops, as colours.")
    wants: Literal["all", "picture", "reading"] = Field(
        "all", description="Picture and reading, or one of them: a reading takes as long as a "
        "picture, which somebody waits for who draws or drags.",
    )  # fmt: skip
    view: LiveView


class SpotState(BaseModel):
    """A metered spot and what became of its light."""

    letter: str
    x: int  # pixels of the finished picture
    y: int
    radius: int
    ev: float | None  # exposure value at ISO 100, where the file says how it was exposed
    placed: float | None
    zone: float  # of the scene
    unsure: float  # stops that it may be off by, since colour alone tells no spectrum
    negative: float  # density, base and fog included
    density: float  # of the print, above the paper base
    number: int  # output number, 0-255
    clipped: bool  # the capture is clipped there: the zone is "at least" this


class Reading(BaseModel):
    """What the meter says of the whole picture; shares are parts of 1."""

    scene_zones: list[float]
    negative_zones: list[float]
    print_values: list[float]
    zone_tones: list[str]  # colour that each scene zone prints as, #rrggbb
    negative_tones: list[str]  # ... each zone of the negative
    print_tones: list[str]  # ... and each print value
    histogram: list[int]  # of the print's output numbers, 256
    exposure_histogram: list[int]  # over log2 H, -8 to +8 stops about Zone V, 64
    paper_black: float
    paper_white: float
    capture_clipped: float
    piled: float  # where passes of the printing map add up to more than a stop
    breaking: float  # where noise of colour becomes noise of tone that is seen
    unsure: float  # whose exposure colour alone tells no better than within 1/3 stop
    looks_infrared: bool  # nearly all of it has the cast of an infrared-converted camera
    channels: list[list[int]]  # red, green, blue over stops below their limit: 80 from 10 to 0
    headroom: list[float]  # stops from each channel's brightest thousandth to its limit
    hues: list[float]  # coloured share of the picture over hue, 72 of 5 degrees, largest 1
    spots: list[SpotState]
    placement: float  # stops, under which the spots were read


class Step(BaseModel):
    """What is done under the enlarger from when to when, in seconds."""

    what: Literal["base", "soft", "hard", "dodge", "burn"]
    begins: float
    ends: float
    number: int | None  # of the pass


class Facts(BaseModel):
    """What the stations say of themselves under a recipe; their curves come apart."""

    filter_factor: float
    blind: bool  # behind that glass the film sees as good as nothing
    zone_index: float  # exposure index at which a metered grey lies on Zone V
    standard_time: float  # s
    time: float  # s
    split: bool  # two exposures add up to the grade
    any_grade: bool  # the paper prints on any grade, by the filter it is exposed through
    grade: float  # that prints, -1 (00) to 5: of a split grade the equivalent
    callier: float  # by which the head multiplies the negative's densities
    index_here: float  # the same in this development
    contrast_index: float | None
    n: float  # of the development, as far as the stock stands it
    halation: float  # share of the exposure that the base returns
    negative_range: tuple[float, float]  # densities of Zones I and VIII
    sequence: list[Step]  # exposures in the order they are given; dodges lie within the first


class StripFacts(BaseModel):
    """The test strip that is shown."""

    over: Literal["time", "grade"]
    values: list[float]  # s or grades, in order, row by row
    columns: int
    rows: int


class Shape(BaseModel):
    """What the window needs to turn places of the capture into places of the finished picture, as
    `core.capture.geometry` does: lengths are in parts of half the capture's diagonal."""

    width: int  # of the capture, pixels
    height: int
    quarter_turns: int
    flip: bool
    straighten: float  # degrees
    keystone_vertical: float
    keystone_horizontal: float
    frame: tuple[int, int]  # of the picture before it is cropped, pixels
    window: tuple[int, int, int, int]  # the crop in it: left, top, width, height
    radius: float  # to which the next two reach, from 0, in even steps
    recorded: list[float]  # recorded radius in parts of the ideal one, at ideal radii; empty is 1
    ideal: list[float]  # ideal radius in parts of the recorded one, at recorded radii


class Mounted(BaseModel):
    """Sizes of the mounted print: width and height."""

    picture: tuple[float, float]  # mm
    paper: tuple[float, float]  # mm, the picture with its border
    whole: tuple[float, float]  # mm
    full: tuple[int, int]  # pixels of a file at full size
    at_size: tuple[int, int]  # pixels of a file at print size and resolution
    alone_at_size: tuple[int, int]  # of the picture alone
    enough: bool  # the picture has the pixels that this resolution asks for
    changes: bool  # a mounted file is more than the picture
    coloured: bool  # the mounted file has colour
    alone_coloured: bool  # the picture has


class LiveReading(BaseModel):
    """A reading alone."""

    seq: int
    reading: Reading


class LiveFrame(BaseModel):
    """Header of a picture."""

    seq: int
    show: Show
    width: int
    height: int
    channels: Literal[1, 3]
    view: LiveView
    picture_width: int  # of the finished picture, in pixels of the capture's pitch
    picture_height: int
    mounted: Mounted
    shape: Shape
    strip: StripFacts | None
    outside: float | None = Field(description="Share that a press cannot give back.")
    reading: Reading | None = Field(description="Empty where it was not asked for.")
    facts: Facts
    curves: Curves
