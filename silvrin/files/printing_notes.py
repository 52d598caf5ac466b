"""Printing notes on one page, as PDF and SVG."""

import numpy as np
from PIL import Image
from reportlab.graphics.shapes import Drawing, Line, PolyLine, Rect
from reportlab.graphics.shapes import Image as Picture
from reportlab.lib.colors import Color, white
from reportlab.pdfbase import pdfmetrics

from ..core.enlarger.projection import LEAST_TIME
from ..core.render.notes import NotedPass, PrintingNotes
from .drawn_page import GREY, MARGIN, PAGE, Kind, begin, say, shortened, written

PICTURE = 340.0  # the most it takes in height
ROW, LEAST_ROW = 15.0, 7.5
PENCIL = Color(0.82, 0.38, 0.1)
HEADS = {"diffuse": "diffuse head", "condenser": "condenser head"}
COLUMNS = (0.0, 26.0, 190.0, 268.0, 322.0, 372.0, 432.0)


def page(notes: PrintingNotes, title: str, kind: Kind, other_base: float | None = None) -> bytes:
    """The notes as a file of that kind; with another base time, what each pass takes there too."""
    drawing = begin(title, "Printing notes")
    below = _picture(drawing, notes, PAGE[1] - MARGIN - 42)
    below = _facts(drawing, notes, below - 18)
    _table(drawing, notes, below - 14, other_base)
    return written(drawing, title, kind)


def _picture(drawing: Drawing, notes: PrintingNotes, top: float) -> float:
    height, width = notes.numbers.shape[:2]
    scale = min((PAGE[0] - 2 * MARGIN) / width, PICTURE / height)
    wide, high = width * scale, height * scale
    left, bottom = (PAGE[0] - wide) / 2, float(top - high)
    image = Image.fromarray(_light(notes.numbers))
    drawing.add(Picture(left, bottom, wide, high, image))
    tags: list[tuple[float, float]] = []
    for each in notes.passes:
        for outline in each.outlines:
            at = np.column_stack([left + outline[:, 0] * wide, top - outline[:, 1] * high])
            points = [float(v) for v in np.vstack([at, at[:1]]).ravel()]
            drawing.add(PolyLine(points, strokeColor=PENCIL, strokeWidth=0.9))
        x, y = _tag_at(each, left, top, wide, high)
        while any(abs(x - a) < 46 and abs(y - b) < 10 for a, b in tags):
            y -= 10
        tags.append((x, y))
        text = f"{each.letter} {_seconds(each.seconds)}"
        length = pdfmetrics.stringWidth(text, "VeraBd", 8)
        drawing.add(Rect(x - 2, y - 2, length + 4, 10.5, fillColor=white, strokeColor=None))
        say(drawing, x, y, text, 8, PENCIL, bold=True)
    return bottom


def _light(numbers: np.ndarray) -> np.ndarray:
    """A print light enough to write on."""
    return np.asarray(70 + 0.72 * numbers.astype(np.float32), np.uint8)


def _tag_at(
    each: NotedPass, left: float, top: float, wide: float, high: float
) -> tuple[float, float]:
    if not each.outlines:
        return left + 4, top - high + 4
    x, y = (float(v) for v in each.outlines[0].mean(axis=0))
    return min(left + x * wide, left + wide - 48), max(top - y * high - 4, top - high + 4)


def _facts(drawing: Drawing, notes: PrintingNotes, y: float) -> float:
    if notes.split:
        soft, hard = (f"{v:.1f} s" for v in notes.split)
        base = f"{soft} through 00, then {hard} through 5 (as grade {_grade(notes.grade)})"
    else:
        base = f"{notes.base:.1f} s, grade {_grade(notes.grade)}"
    steps = ", ".join(f"{v:.1f}" for v in notes.strip)
    lines = (
        ("Base exposure", base),
        ("Test strip", f"{steps} s (thirds of a stop)"),
        ("Paper", f"{notes.paper}, {HEADS[notes.head]}"),
        ("Negative", f"{notes.stock}, {notes.developer} developer, {_development(notes.n)}"),
    )
    for k, (what, text) in enumerate(lines):
        say(drawing, MARGIN, y - 13 * k, what, 8, GREY)
        say(drawing, MARGIN + 84, y - 13 * k, text, 8)
    return y - 13 * len(lines)


def _table(drawing: Drawing, notes: PrintingNotes, top: float, other_base: float | None) -> None:
    room = top - MARGIN
    row = max(LEAST_ROW, min(ROW, room / (len(notes.passes) + 2)))
    size = min(8.0, 0.62 * row)
    most = int(room / row) - 2
    at = [MARGIN + c for c in COLUMNS]
    heads = ["", "What", "Where", "Seconds", "Stops", "Grade"]
    if other_base:
        heads.append(f"At {other_base:g} s")
    for x, text in zip(at, heads, strict=False):
        say(drawing, x, top, text, size, GREY)
    drawing.add(Line(MARGIN, top - 4, PAGE[0] - MARGIN, top - 4, strokeColor=GREY, strokeWidth=0.5))
    y = top - row
    for each in notes.passes[:most]:
        also = f" ({', '.join(each.also)})" if each.also else ""
        say(drawing, at[0], y, each.letter, size, bold=True)
        say(drawing, at[1], y, shortened(each.name + also, COLUMNS[2] - COLUMNS[1] - 6, size), size)
        say(drawing, at[2], y, each.where, size)
        say(drawing, at[3], y, _seconds(each.seconds), size, bold=True)
        say(drawing, at[4], y, f"{_signed(each.stops)}", size)
        say(drawing, at[5], y, "own" if each.through is None else _grade(each.through), size)
        if other_base:
            say(drawing, at[6], y, _seconds(other_base * (2.0**each.stops - 1.0)), size)
        y -= row
    left_out = len(notes.passes) - most
    if left_out > 0:
        say(drawing, at[1], y, f"and {left_out} more, as the list in the window says", size, GREY)
    if not notes.passes:
        say(drawing, at[1], y, "Nothing is dodged or burned.", size, GREY)


def _signed(value: float) -> str:
    return f"{'−' if value < 0 else '+'}{abs(value):.2f}"


def _seconds(value: float) -> str:
    return "tones" if abs(value) < LEAST_TIME else f"{'−' if value < 0 else '+'}{abs(value):.1f} s"


def _grade(grade: float) -> str:
    return "00" if grade <= -1 else f"{grade:.2f}".rstrip("0").rstrip(".")


def _development(n: float) -> str:
    return "N" if abs(n) < 0.05 else f"N{_signed(n)}"
