"""Settings of the Mount station: sizes in millimetres of the final print."""

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ..settings import OF_FRAME, Settings, SheetName, amount

Edge = Literal["clean", "rebate", "filed"]
Mat = Literal["none", "equal", "weighted", "own"]
Font = Literal["sans", "serif", "hand"]
What = Literal["typed", "edition", "ink"]
On = Literal["border", "picture", "mat"]
At = Literal["left", "middle", "right"]
Sharpen = Literal["paper", "screen"]
Colour = Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")]

EASEL = 6.35  # mm, a quarter of an inch: what an easel leaves (common practice)
WEIGHTED = 1.25  # times the sides, that a weighted mat has below (common practice, no source)
MOST_INSCRIPTIONS = 4
MOST_INK = 100_000  # characters of a picture
MOST_PEN_POINTS, MOST_PEN_STROKES = 400, 60
Part = Annotated[float, Field(ge=-1, le=21)]


class Ink(Settings):
    """A signature: drawn, or a picture of one; inks lie on sheets. Lengths are in parts of its
    height."""

    width: float = Field(ge=0.05, le=20, description="Of its height.")
    strokes: tuple[
        Annotated[tuple[tuple[Part, Part], ...], Field(min_length=1, max_length=MOST_PEN_POINTS)],
        ...,
    ] = Field((), max_length=MOST_PEN_STROKES, description="Where the pen went.")
    picture: str = Field(
        "", max_length=MOST_INK, description="How far it covers: an 8-bit grey PNG in base64."
    )

    @model_validator(mode="after")
    def _one_of_both(self) -> "Ink":
        if bool(self.strokes) == bool(self.picture):
            raise ValueError("an ink is drawn by strokes or is a picture, one of both")
        return self


class Inscription(Settings):
    """A signature, a title or the number of an edition, and where it stands."""

    what: What = Field("typed", title="Kind")
    text: str = Field("", max_length=120, title="Text")
    font: Font = Field("hand", title="Lettering")
    ink: SheetName | None = Field(None, description="The sheet of what is drawn.")
    height: float = amount("Height", "Of its letters, or of the whole of it.", 6, 1, 100, 0.5, "mm")
    pen: float = amount("Pen", "How wide its strokes are.", 0.4, 0.1, 4, 0.1, "mm")
    on: On = Field("border", title="On", description="What it stands on.")
    at: At = Field("right", title="At", description="Where it stands there, below.")
    dx: float = amount("Right", "Moved to the right.", 0, -1000, 1000, 1, "mm")
    dy: float = amount("Down", "Moved down.", 0, -1000, 1000, 1, "mm")
    tone: float = amount("Tone", "From black to white.", 25, 0, 100, 1, "L*")

    @model_validator(mode="after")
    def _has_ink(self) -> "Inscription":
        if self.what == "ink" and self.ink is None:
            raise ValueError("a drawn inscription names the sheet that it is drawn on")
        return self


def _millimetres(title: str, about: str, default: float, most: float, step: float = 0.5) -> Any:
    return amount(title, about, default, 0, most, step, "mm")


class MountSettings(Settings):
    """Mount: the finished thing, in millimetres."""

    size: float = amount(
        "Long side", "Of the picture as it is printed, without border and mat.", 300, 20, 3000, 1,
        "mm",
    )  # fmt: skip
    resolution: float = amount("Resolution", "Of a file at print size.", 360, 72, 1200, 1, "ppi")
    border_left: float = _millimetres("Border left", "White paper beside the picture.", 0, 500)
    border_right: float = _millimetres("Border right", "White paper beside the picture.", 0, 500)
    border_top: float = _millimetres("Border above", "White paper above the picture.", 0, 500)
    border_bottom: float = _millimetres("Border below", "White paper below the picture.", 0, 500)
    key_line: float = _millimetres("Key line", "A line round the picture.", 0, 10, 0.1)
    key_gap: float = _millimetres("Gap", "Between the picture and its line.", 0, 50, 0.5)
    key_tone: float = amount("Tone of the line", "From black to white.", 0, 0, 100, 1, "L*")
    edge: Edge = Field(
        "clean",
        title="Edge",
        description="Clean, with the film's rebate, or as a filed negative carrier prints it.",
    )
    edge_width: float = amount("Edge width", "Of rebate or filed edge.", 4, 0.5, 30, 0.5, "mm")
    edge_seed: int = Field(
        0, ge=0, le=9999, title="Another edge", description="Each frame has its own; and others.",
        json_schema_extra=OF_FRAME,
    )  # fmt: skip
    mat: Mat = Field("none", title="Mat", description="A mat about the print, with a window.")
    mat_sides: float = _millimetres(
        "Sides, top", "Of the mat; of an own one the sides.", 70, 600, 1
    )
    mat_top: float = _millimetres("Above", "Of an own mat.", 70, 600, 1)
    mat_below: float = _millimetres("Below", "Of an own mat.", 90, 600, 1)
    board: Colour = Field("#f6f3ea", title="Board", description="Colour of the mat.")
    undermat: float = _millimetres("Under mat", "How much of a second board is seen.", 0, 60, 0.5)
    undermat_colour: Colour = Field(
        "#20201f", title="Under mat's colour", description="Of the second board."
    )
    bevel: float = _millimetres("Bevel", "Of the cut edges of a mat.", 1.5, 8, 0.25)
    ground: float = _millimetres("Ground", "Even tone about it all.", 0, 600, 1)
    ground_tone: float = amount("Ground's tone", "From black to white.", 82, 0, 100, 1, "L*")
    inscriptions: tuple[Inscription, ...] = Field(
        (), max_length=MOST_INSCRIPTIONS, title="Signature", description="What is written on it."
    )
    edition_number: int = Field(
        0, ge=0, le=9999, title="Number", description="Of this print in its edition; 0 is none.",
        json_schema_extra=OF_FRAME,
    )  # fmt: skip
    edition_of: int = Field(
        0, ge=0, le=9999, title="Of", description="How many prints the edition has; 0 is open.",
        json_schema_extra=OF_FRAME,
    )  # fmt: skip
    sharpen: float = amount("Sharpening", "How strong edges are drawn.", 0, 0, 3, 0.05)
    sharpen_radius: float = amount(
        "Radius", "How far from an edge, on the print.", 0.1, 0.02, 2, 0.01, "mm"
    )
    sharpen_threshold: float = amount(
        "Threshold", "Differences up to which nothing is sharpened.", 0.5, 0, 10, 0.1, "L*"
    )
    sharpen_edges: float = amount("Only edges", "How far what is no edge stays.", 0.5, 0, 1, 0.05)
    sharpen_for: Sharpen = Field(
        "paper", title="For",
        description="Paper: the radius is as long on the print. Screens: as long at 96 pixels an "
        "inch, whatever the size.",
    )  # fmt: skip

    @property
    def borders(self) -> tuple[float, float, float, float]:
        """Of white paper, left, above, right and below, mm; with room for the key line."""
        least = self.key_gap + self.key_line if self.key_line else 0.0
        sides = self.border_left, self.border_top, self.border_right, self.border_bottom
        left, above, right, below = (max(side, least) for side in sides)
        return left, above, right, below

    @property
    def mats(self) -> tuple[float, float, float, float]:
        """Of the mat, left, above, right and below, mm."""
        if self.mat == "none":
            return 0.0, 0.0, 0.0, 0.0
        if self.mat == "own":
            return self.mat_sides, self.mat_top, self.mat_sides, self.mat_below
        below = self.mat_sides * (WEIGHTED if self.mat == "weighted" else 1.0)
        return self.mat_sides, self.mat_sides, self.mat_sides, below

    @property
    def changes_picture(self) -> bool:
        """Whether a delivered file is more than the picture."""
        return bool(
            any(self.borders)
            or self.edge != "clean"
            or self.mat != "none"
            or self.ground
            or self.inscriptions
        )

    @model_validator(mode="after")
    def _border_is_no_wider(self) -> "MountSettings":
        widest = max(self.borders)
        if widest > self.size:
            raise ValueError(
                f"a border of {widest:g} mm is wider than the print, whose long side is "
                f"{self.size:g} mm; make the border narrower or the print larger"
            )
        return self
