"""What a printer takes along to a real enlarger to make the same print."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ..development.negative import Developing
from ..enlarger.naming import letter_of, name_of
from ..enlarger.projection import Projection
from ..enlarger.shapes import EFFECTS, Pass
from ..enlarger.timing import seconds_of
from ..paper.grading import Grading
from .coding import F32
from .darkroom import Darkroom
from .shown import U8, grey_of
from .sitting import Sitting

SIDE = 1000  # pixels of the small print
LEAST = 0.0004  # of the picture, smaller pieces of an area are not drawn round
ROUNDED = 0.004  # of the long side, finer things of an area are not drawn round
HOLLOW = 0.25  # of its most, less than which an area has in its middle that lies round it
SMOOTH = 0.0015  # of the long side, how far an outline may be from the area's edge
MOST_PIECES = 6
STRIP = 7  # exposures of the test strip, a third of a stop apart

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class NotedPass:
    """One pass, in the words and figures of a printer."""

    letter: str
    name: str
    where: str
    seconds: float  # beside the base exposure
    stops: float
    through: float | None  # grade, where it is not the print's own
    also: tuple[str, ...]  # what else it changes, which no enlarger does
    outlines: tuple[Floats, ...]  # (N, 2) corners, in parts of the picture


@dataclass(frozen=True)
class PrintingNotes:
    """All of it."""

    numbers: U8  # (H, W) the print, small
    passes: tuple[NotedPass, ...]
    base: float  # s
    split: tuple[float, float] | None  # s through the softest and the hardest filter
    grade: float
    head: str
    paper: str
    stock: str
    developer: str
    n: float
    strip: tuple[float, ...]  # s


def notes_of(darkroom: Darkroom, sitting: Sitting) -> PrintingNotes:
    """The notes of a sitting, of the passes that are on."""
    path, view = sitting.path, sitting.picture.whole(SIDE)
    base = path[Projection].time
    passes = []
    for number, each in enumerate(path.things.drawings.passes):
        if each.on:
            area = darkroom.area(sitting, each, view)
            passes.append(_noted(number, each, area, base, path[Grading].any_grade))
    enlarger, split = path.recipe.enlarger, path[Grading].split
    thirds = (np.arange(STRIP) - STRIP // 2) / 3.0
    return PrintingNotes(
        numbers=grey_of(darkroom.view(sitting, view)),
        passes=tuple(passes),
        base=base,
        split=(enlarger.soft_time, enlarger.hard_time) if split else None,
        grade=path[Grading].grade,
        head=enlarger.head,
        paper=path.things.paper.name,
        stock=path.things.stock.name,
        developer=path.recipe.development.developer,
        n=path[Developing].n,
        strip=tuple(float(v) for v in base * 2.0**thirds),
    )


def _noted(number: int, each: Pass, area: F32, base: float, any_grade: bool) -> NotedPass:
    also = tuple(
        str(Pass.model_fields[name].title).lower() for name in EFFECTS if getattr(each, name)
    )
    return NotedPass(
        letter=letter_of(number),
        name=name_of(each),
        where=where_of(area),
        seconds=seconds_of(each, base),
        stops=each.stops * each.strength,
        through=each.grade if any_grade else None,
        also=also,
        outlines=outlines_of(area),
    )


def where_of(area: F32) -> str:
    """Where in the picture an area (H, W) lies, in words."""
    amount = np.abs(area).astype(np.float64)
    total = amount.sum()
    if total <= 0.0:
        return "outside the picture"
    if (amount > 0.5 * amount.max()).mean() > 0.8:
        return "all over"
    height, width = area.shape
    x = float((amount.sum(axis=0) @ (np.arange(width) + 0.5)) / total / width)
    y = float((amount.sum(axis=1) @ (np.arange(height) + 0.5)) / total / height)
    if amount[int(y * height), int(x * width)] < HOLLOW * amount.max():
        return "round the edges"
    down = "top" if y < 0.36 else "bottom" if y > 0.64 else ""
    across = "left" if x < 0.36 else "right" if x > 0.64 else ""
    return " ".join(word for word in (down, across) if word) or "middle"


def outlines_of(area: F32) -> tuple[Floats, ...]:
    """Corners (N, 2), in parts of the picture, of the lines at which an area (H, W) has half of its
    most; the largest pieces."""
    amount = cv2.GaussianBlur(np.abs(area), (0, 0), ROUNDED * max(area.shape))
    inside = (amount > 0.5 * max(float(amount.max()), 1e-6)).astype(np.uint8)
    height, width = area.shape
    # a frame about it, so that what meets the picture's edge is closed there
    framed = cv2.copyMakeBorder(inside, 1, 1, 1, 1, cv2.BORDER_CONSTANT, value=0)
    found, _ = cv2.findContours(framed, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
    pieces = sorted(found, key=cv2.contourArea, reverse=True)[:MOST_PIECES]
    size = np.array([width, height])
    return tuple(
        np.clip(
            (cv2.approxPolyDP(piece, SMOOTH * max(area.shape), True)[:, 0] - 0.5) / size, 0.0, 1.0
        )
        for piece in pieces
        if cv2.contourArea(piece) > LEAST * width * height
    )
