"""What a file that leaves is made like: form, size, colours, what it says of itself, its name."""

from typing import Annotated, Literal

from pydantic import (
    BaseModel,
    ConfigDict,
    Field,
    StringConstraints,
    field_validator,
    model_validator,
)

from ...core.settings import range_of
from ..names import check_folder, check_template
from ..papers import PAPERS, Paper

Format = Literal["tiff", "png", "jpeg", "jxl", "avif", "pdf", "exr"]
Space = Literal["own", "grey", "srgb", "display-p3", "romm", "profile"]
SizeBy = Literal["full", "print", "long", "short", "box", "megapixels", "mm", "enlargement"]
Intent = Literal["perceptual", "relative", "saturation", "absolute"]
Clash = Literal["number", "ask", "replace"]

SUFFIX: dict[Format, str] = {
    "tiff": ".tif", "png": ".png", "jpeg": ".jpg", "jxl": ".jxl", "avif": ".avif", "pdf": ".pdf",
    "exr": ".exr",
}  # fmt: skip
DEPTHS: dict[Format, tuple[int, ...]] = {
    "tiff": (16, 8), "png": (16, 8), "jpeg": (8,), "jxl": (16, 8), "avif": (8,), "pdf": (8,),
    "exr": (16,),
}  # fmt: skip
CONTACT: tuple[Format, ...] = ("tiff", "png", "pdf")  # without loss, at their true size
PLAIN_ONLY: tuple[Format, ...] = ("jxl", "exr")  # say by themselves whose colours they hold
SPACES: tuple[Space, ...] = ("own", "grey", "srgb")
# Least and most of what a size is asked by
VALUES: dict[SizeBy, tuple[float, float]] = {
    "long": (64, 65_000), "short": (64, 65_000), "box": (64, 65_000), "megapixels": (0.01, 400),
    "mm": (5, 10_000), "enlargement": (0.1, 100),
}  # fmt: skip
LEAST_CELL = 20  # mm
UNITS: dict[SizeBy, str] = {
    "long": "pixels", "short": "pixels", "box": "pixels", "megapixels": "megapixels", "mm": "mm",
    "enlargement": "times the negative",
}  # fmt: skip
TEMPLATE = "{roll} {number} {title} - {print}"
Words = Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)]
_CONFIG = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Size(BaseModel):
    """How large a file is. It is never larger than the capture gives unless `upscale` says so."""

    model_config = _CONFIG
    by: SizeBy = "full"
    value: float | None = Field(
        None, description="Pixels of a side, megapixels, mm of the long side, or how many times "
        "larger than the negative the picture is; none at full size and at the print's own size.",
    )  # fmt: skip
    height: int | None = Field(None, ge=64, le=65_000, description="Of a box, in pixels.")
    ppi: float = Field(300, ge=10, le=4800, description="Pixels an inch, of a size in mm.")
    upscale: bool = Field(False, description="Print larger than the capture, where that is asked.")

    @model_validator(mode="after")
    def _holds(self) -> "Size":
        if self.by in VALUES:
            low, high = VALUES[self.by]
            if self.value is None or not low <= self.value <= high:
                raise ValueError(
                    f"a size by {self.by} is {low:g} to {high:g} {UNITS[self.by]}, not {self.value}"
                )
        elif self.value is not None:
            raise ValueError(f"a size by {self.by} has no value")
        if (self.by == "box") != (self.height is not None):
            raise ValueError("a box has a width and a height, in pixels; other sizes have none")
        return self


class Contact(BaseModel):
    """How a print becomes a negative for contact printing."""

    model_config = _CONFIG
    process: int | None = Field(None, description="Of the shelf, that linearises it.")
    ink: Annotated[str, StringConstraints(pattern="^#[0-9a-fA-F]{6}$")] = "#000000"
    mirrored: bool = True
    marked: bool = Field(True, description="Marks to lay it by, and a step wedge, about it.")

    @property
    def colour(self) -> tuple[int, int, int]:
        """Of full ink, red, green and blue."""
        red, green, blue = (int(self.ink[i : i + 2], 16) for i in (1, 3, 5))
        return red, green, blue


class Page(BaseModel):
    """What a PDF's pages are, and how prints lie on them."""

    model_config = _CONFIG
    paper: Literal["print"] | Paper = Field("print", description="print: as large as the print.")
    lying: bool = Field(False, description="The paper's long side goes across.")
    margin: float = Field(12, ge=0, le=100, description="mm at each side.")
    gap: float = Field(6, ge=0, le=100, description="mm between prints.")
    columns: int | None = Field(
        None, ge=1, le=10, description="Prints fill so many columns and rows; without them, each "
        "has the size that is asked for, and as many lie on a page as have room.",
    )  # fmt: skip
    rows: int | None = Field(None, ge=1, le=10)
    together: bool = Field(False, description="All prints of an order in one file.")

    @model_validator(mode="after")
    def _holds(self) -> "Page":
        if (self.columns is None) != (self.rows is None):
            raise ValueError("columns and rows go together")
        if self.columns is not None and self.paper == "print":
            raise ValueError("columns and rows are of a paper; a page as large as a print has none")
        if self.paper != "print" and min(self.cell) < LEAST_CELL:
            raise ValueError(
                f"margins and gaps leave {min(self.cell):.0f} mm a print; it needs {LEAST_CELL}"
            )
        return self

    @property
    def size(self) -> tuple[float, float]:
        """Width and height in mm; of a paper."""
        assert self.paper != "print"
        width, height = PAPERS[self.paper]
        return (height, width) if self.lying else (width, height)

    @property
    def room(self) -> tuple[float, float]:
        """Width and height in mm within the margins; of a paper."""
        width, height = self.size
        return width - 2 * self.margin, height - 2 * self.margin

    @property
    def cell(self) -> tuple[float, float]:
        """Width and height in mm that a print may have; of a paper."""
        (width, height), columns, rows = self.room, self.columns or 1, self.rows or 1
        return (width - (columns - 1) * self.gap) / columns, (height - (rows - 1) * self.gap) / rows


class Output(BaseModel):
    """One kind of file that a print is delivered as."""

    model_config = _CONFIG
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)] = (
        "File"
    )
    format: Format = "tiff"
    bits: Literal[8, 16] | None = Field(None, description="A channel; none is as many as it takes.")
    compression: Literal["none", "deflate"] = Field(
        "none", description="Of TIFF and OpenEXR, without loss."
    )
    pyramid: bool = Field(False, description="TIFF in tiles, with smaller pictures beside it.")
    quality: int = Field(95, ge=1, le=100, description="Of JPEG, JPEG XL, AVIF and PDF.")
    chroma: Literal["full", "half"] = Field("full", description="Colour at full or half size.")
    size: Size = Size()
    space: Space = Field("own", description="own: grey where a print has no colour, else sRGB.")
    profile: str | None = Field(None, max_length=64, description="Which profile of the shelf.")
    intent: Intent = "relative"
    black_point: bool = Field(True, description="Black point compensation (ISO 18619).")
    holds: Literal["print", "negative", "contact"] = Field(
        "print", description="The print; in OpenEXR its linear light, or density of the film's "
        "negative; a negative for contact printing.",
    )  # fmt: skip
    contact: Contact = Contact()
    mounted: bool = Field(True, description="As the print is mounted, or the picture alone.")
    bleed: float = Field(0, ge=0, le=50, description="PDF: mm of the picture beyond the trim.")
    marks: bool = Field(False, description="PDF: crop marks.")
    page: Page = Field(Page(), description="PDF: what its pages are.")
    template: str = Field(TEMPLATE, max_length=300)
    clash: Clash = "number"
    folder: str | None = Field(None, description="Where it goes; none is the library's own.")
    creator: Words = ""
    rights: Words = ""
    keywords: tuple[Words, ...] = Field((), max_length=100)
    camera: bool = Field(True, description="What the camera wrote goes along.")
    location: bool = Field(False, description="Where it was taken goes along too.")
    recipe: bool = Field(True, description="The recipe goes along inside.")
    sidecar: bool = Field(False, description="The recipe also as a file beside it.")

    @field_validator("template")
    @classmethod
    def _names(cls, template: str) -> str:
        return check_template(template)

    @field_validator("folder")
    @classmethod
    def _lies(cls, folder: str | None) -> str | None:
        return None if folder is None else check_folder(folder)

    @model_validator(mode="after")
    def _goes_together(self) -> "Output":
        if self.bits is not None and self.bits not in DEPTHS[self.format]:
            raise ValueError(f"{self.format} has {_either(DEPTHS[self.format])} bits a channel")
        if self.format in PLAIN_ONLY and self.space not in SPACES:
            raise ValueError(f"{self.format} is written in grey or sRGB's colours only")
        if (self.space == "profile") != (self.profile is not None):
            raise ValueError("a profile of the shelf goes with the space 'profile', and no other")
        if self.holds == "negative" and self.format != "exr":
            raise ValueError("the density of a negative is written as exr")
        if self.holds == "contact" and self.format not in CONTACT:
            raise ValueError(f"a contact negative is written as {', '.join(CONTACT)}")
        if self.holds == "contact" and self.space not in ("own", "srgb"):
            raise ValueError("a contact negative is written in sRGB's numbers, as its ink is given")
        if self.holds == "contact" and self.page.columns is not None:
            raise ValueError("a contact negative has its own size, not that of columns and rows")
        return self

    @property
    def gathers(self) -> bool:
        """Whether all prints of an order are one file."""
        return self.format == "pdf" and self.page.together

    @property
    def depth(self) -> int:
        """Bits a channel."""
        return self.bits or DEPTHS[self.format][0]

    @property
    def suffix(self) -> str:
        """Of its files' names."""
        return SUFFIX[self.format]


def _either(depths: tuple[int, ...]) -> str:
    return " or ".join(str(depth) for depth in sorted(depths))


# Least and most of every number of an output, by where it is; of sizes by what they are asked by
RANGES: dict[str, tuple[float, float]] = {
    **{name: range_of(Output, name) for name in ("quality", "bleed")},
    **{f"page.{name}": range_of(Page, name) for name in ("margin", "gap")},
    **{f"size.{name}": range_of(Size, name) for name in ("ppi", "height")},
    **{f"size.{by}": between for by, between in VALUES.items()},
}
