"""What is ordered of the drying line, and what it says."""

import json
from pathlib import Path
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..files.delivery import Output
from ..files.names import named, of_camera
from ..store import deliveries as kept
from ..store.rolls import Frame
from .inputs import Input
from .jobs import Job

MOST = 20_000  # files of one order
MOST_TOGETHER = 200  # prints in one file


class DeliveryOrder(Input):
    """What to make of some prints."""

    prints: list[int] = Field([], max_length=5_000)
    frames: list[int] = Field(
        [], max_length=5_000,
        description="Of each the print that the sheet shows; those without one are left out.",
    )  # fmt: skip
    outputs: tuple[Output, ...] = Field(min_length=1, max_length=20)
    clashes: Literal["number", "replace"] | None = Field(
        None, description="What was answered where an output asks about files of its name."
    )

    @model_validator(mode="after")
    def _not_too_many(self) -> "DeliveryOrder":
        if not self.prints and not self.frames:
            raise ValueError("no print and no frame is named; name at least one")
        many = (len(self.prints) + len(self.frames)) * len(self.outputs)
        if many > MOST:
            raise ValueError(f"{many} files; one order takes up to {MOST}")
        together = len(self.prints) + len(self.frames)
        if any(output.gathers for output in self.outputs) and together > MOST_TOGETHER:
            raise ValueError(f"{together} prints in one file; it takes up to {MOST_TOGETHER}")
        return self


class Delivery(Job):
    """A delivery as it stands."""

    print_id: int
    title: str  # of frame and print
    output: Output
    prints: int = 1  # in its file
    file: str | None = None
    width: int | None = None
    height: int | None = None
    bytes: int | None = None
    limited: bool = False  # the capture had less than was asked for
    there: bool = True  # its file, where it was finished
    finished_at: str | None = None


class DryingLine(BaseModel):
    """How things stand on the line, in short."""

    version: int  # another when something changed
    waiting: int
    running: int
    failed: int
    finished: int  # of this run of the server
    progress: float  # 0 to 1, of what was ordered since the line was last empty
    current: float  # 0 to 1, of the one that runs
    seconds_left: float | None


class LineView(BaseModel):
    """The drying line."""

    line: DryingLine
    open: list[Delivery]  # that run, wait or failed
    finished: list[Delivery]  # newest first


class FileSize(BaseModel):
    """Of a file that an order would write."""

    width: int  # pixels
    height: int
    ppi: float
    coloured: bool  # the print has colour
    limited: bool  # the capture has less than is asked for


class Plan(BaseModel):
    """What an order would write."""

    files: int
    without: int  # frames that have no print
    example: list[str]  # the name of the first print's file, an output each
    sizes: list[FileSize | None]  # of it, where the print's capture is developed
    folders: list[str]
    clashes: list[str]  # files that are there already, where an output asks
    wrong: list[str] = []  # why the first print cannot be made so


class Ordered(BaseModel):
    """An order as it is kept: of the state that the print had then."""

    model_config = ConfigDict(extra="forbid")
    print_id: int
    change: int
    title: str = ""
    batch: str = ""  # what was ordered together
    output: Output
    more: tuple[tuple[int, int], ...] = ()  # prints and their changes that go into the same file

    @model_validator(mode="before")
    @classmethod
    def _upgraded(cls, given: Any) -> Any:
        """Orders of a Silvrin that knew TIFF and JPEG alone."""
        if not isinstance(given, dict) or "output" in given:
            return given
        long_side = given.get("long_side")
        size: dict[str, Any] = {"by": "print"} if given.get("print_size") else {}
        if long_side and not size:
            size = {"by": "long", "value": long_side}
        space = given.get("space", "srgb")
        output = {
            "format": given.get("format", "tiff"), "size": size,
            "space": "own" if space == "srgb" else space, "mounted": given.get("mounted", True),
        }  # fmt: skip
        return {"print_id": given["print_id"], "change": given["change"], "output": output}


def beside(name: str, others: list[str]) -> str:
    """A name, numbered where the order has it already."""
    stem, suffix = Path(name).stem, Path(name).suffix
    number = 2
    while name in others:
        name, number = f"{stem} {number}{suffix}", number + 1
    return name


def title_of(frame: Frame, name: str) -> str:
    return f"{frame.roll_name}, frame {frame.number}, {frame.title}: {name}"


def stem_of(frame: Frame, name: str, stock: str, output: Output) -> str:
    """The name of a file without its suffix."""
    return named(
        output.template,
        {
            "roll": frame.roll_name, "number": f"{frame.number:02d}", "title": frame.title,
            "print": name, "output": output.name, "capture": Path(frame.file_name).stem,
            "film": stock, **of_camera(frame.metadata),
        },
    )  # fmt: skip


def ordered_of(made: kept.Delivered) -> Ordered:
    body = made.body or json.dumps({"print_id": made.print_id, "change": 0})
    return Ordered.model_validate_json(body)


def delivered_as(made: kept.Delivered) -> Delivery:
    """A finished delivery of the line."""
    what = ordered_of(made)
    return Delivery(
        id=made.id, state="done", progress=1.0, title=what.title or Path(made.file).stem,
        output=what.output, prints=1 + len(what.more), there=Path(made.file).exists(),
        finished_at=made.finished_at,
        **made.model_dump(include=set(kept.Finished.model_fields)),
    )  # fmt: skip
