"""The data sheet of a print on one page: the print, its curves, and what every station did."""

from collections.abc import Callable, Sequence

import numpy as np
from PIL import Image
from reportlab.graphics.shapes import Drawing, Line, PolyLine, Rect
from reportlab.graphics.shapes import Image as Picture
from reportlab.lib.colors import Color, black

from ..core.render.data_sheet import DataSheet, Row, Section
from ..core.wording import ROMAN
from .drawn_page import GREY, MARGIN, PAGE, Kind, begin, say, shortened, written
from .metadata import Metadata

PICTURE = 300.0  # points that it takes in height at most
PLOT = (158.0, 104.0)
BETWEEN = 20.0
COLUMNS = 3
ROW, LEAST_ROW = 12.0, 6.5
LABEL = 0.44  # of a column's width
At = Callable[[float, float], tuple[float, float]]
FAINT = Color(0.8, 0.8, 0.8)
SECONDS_OF = 0.4  # s, from which times are not said as parts


def data_page(
    sheet: DataSheet, title: str, metadata: Metadata, file_name: str, kind: Kind
) -> bytes:
    """The sheet as a file of that kind."""
    drawing = begin(title, "Data sheet")
    below = _picture(drawing, sheet, PAGE[1] - MARGIN - 42)
    below = _plots(drawing, sheet, below - 26)
    capture = Section("Capture", tuple(_capture(metadata, file_name)))
    first, *others = sheet.sections
    if first.title == capture.title:
        capture = Section(capture.title, (*capture.rows, *first.rows))
    else:
        others = [first, *others]
    _sections(drawing, [capture, *others], below - 22)
    return written(drawing, title, kind)


def _capture(said: Metadata, file_name: str) -> list[Row]:
    rows = [("File", file_name)]
    if said.camera:
        rows.append(("Camera", said.camera))
    if said.lens:
        rows.append(("Lens", said.lens))
    exposure = [
        _time(said.shutter) if said.shutter else "",
        f"f/{said.aperture:g}" if said.aperture else "",
        f"ISO {said.sensitivity}" if said.sensitivity else "",
    ]
    if any(exposure):
        rows.append(("Exposure", ", ".join(filter(None, exposure))))
    if said.focal_length:
        rows.append(("Focal length", f"{said.focal_length:g} mm"))
    if said.taken:
        rows.append(("Taken", said.taken.replace("T", " ")[:16]))
    return rows


def _time(seconds: float) -> str:
    return f"{seconds:.3g} s" if seconds >= SECONDS_OF else f"1/{round(1 / seconds)} s"


def _picture(drawing: Drawing, sheet: DataSheet, top: float) -> float:
    height, width = sheet.numbers.shape[:2]
    scale = min((PAGE[0] - 2 * MARGIN) / width, PICTURE / height)
    wide, high = width * scale, height * scale
    left, bottom = (PAGE[0] - wide) / 2, top - high
    drawing.add(Picture(left, bottom, wide, high, Image.fromarray(sheet.numbers)))
    edge = Rect(left, bottom, wide, high, fillColor=None, strokeColor=FAINT, strokeWidth=0.4)
    drawing.add(edge)
    return float(bottom)


def _plots(drawing: Drawing, sheet: DataSheet, top: float) -> float:
    bottom = top - PLOT[1]
    lefts = [MARGIN + k * (PLOT[0] + BETWEEN) for k in range(3)]
    log_h, density = sheet.film
    at = _axes(drawing, lefts[0], bottom, "Negative: density over log H", log_h, density, 0.6)
    for zone, value in enumerate(sheet.zones):
        x, y = at((zone - 5) * np.log10(2.0), float(value))
        drawing.add(Line(x, bottom, x, y, strokeColor=FAINT, strokeWidth=0.4))
        say(drawing, x - 2.5, bottom - 7, ROMAN[zone], 4.5, GREY)
    _curve(drawing, at, log_h, density)
    log_e, printed = sheet.paper
    at = _axes(drawing, lefts[1], bottom, "Print: density over log E", log_e, printed, 0.5)
    _curve(drawing, at, log_e, printed)
    _tones(drawing, sheet.print_values, lefts[2], bottom)
    return bottom


def _axes(
    drawing: Drawing,
    left: float,
    bottom: float,
    title: str,
    x: np.ndarray,
    y: np.ndarray,
    step: float,
) -> At:
    """Draw a frame with lines of density; gives where a point of the plot lies on the page."""
    most = float(np.ceil(y.max() / step) * step)

    def at(across: float, up: float) -> tuple[float, float]:
        share = (across - float(x[0])) / float(x[-1] - x[0])
        return left + share * PLOT[0], bottom + up / most * PLOT[1]

    say(drawing, left, bottom + PLOT[1] + 5, title, 6.5, GREY)
    for value in np.arange(0.0, most + 0.01, step):
        height = at(0.0, float(value))[1]
        line = Line(left, height, left + PLOT[0], height, strokeColor=FAINT, strokeWidth=0.4)
        drawing.add(line)
        say(drawing, left - 3, height - 2, f"{value:.1f}", 5, GREY, end=True)
    return at


def _curve(drawing: Drawing, at: At, x: np.ndarray, y: np.ndarray) -> None:
    points = [v for a, b in zip(x, y, strict=True) for v in at(float(a), float(b))]
    drawing.add(PolyLine(points, strokeColor=black, strokeWidth=0.9))


def _tones(drawing: Drawing, shares: Sequence[float], left: float, bottom: float) -> None:
    """How much of the print has each value."""
    say(drawing, left, bottom + PLOT[1] + 5, "Print values: share of the print", 6.5, GREY)
    most, wide = max(*shares, 0.01), PLOT[0] / len(shares)
    for value, share in enumerate(shares):
        tone = value / (len(shares) - 1)
        high = share / most * (PLOT[1] - 10)
        bar = Rect(
            left + value * wide + 0.6, bottom, wide - 1.2, max(high, 0.3),
            fillColor=Color(tone, tone, tone), strokeColor=GREY, strokeWidth=0.3,
        )  # fmt: skip
        drawing.add(bar)
        x = left + value * wide + 1.5
        say(drawing, x, bottom - 7, ROMAN[value], 4.5, GREY)
        if share >= 0.005:
            say(drawing, x, bottom + high + 2, f"{100 * share:.0f}", 4.5, GREY)


def _sections(drawing: Drawing, sections: Sequence[Section], top: float) -> None:
    """In columns, each section in one of them; as large as lets all have room."""
    wide = (PAGE[0] - 2 * MARGIN - (COLUMNS - 1) * BETWEEN) / COLUMNS
    row = ROW
    places = _places(sections, int((top - MARGIN) / row))
    while row > LEAST_ROW and places[-1][0] >= COLUMNS:
        row -= 0.25
        places = _places(sections, int((top - MARGIN) / row))
    size, lines = min(7.0, 0.6 * row), int((top - MARGIN) / row)
    for section, (column, line) in zip(sections, places, strict=True):
        if column >= COLUMNS:
            break
        left, y = MARGIN + column * (wide + BETWEEN), top - line * row
        say(drawing, left, y, section.title, size, bold=True)
        for k, (label, value) in enumerate(section.rows[: lines - line - 1], 1):
            say(drawing, left, y - k * row, shortened(label, LABEL * wide - 4, size), size, GREY)
            room = (1 - LABEL) * wide
            say(drawing, left + LABEL * wide, y - k * row, shortened(value, room, size), size)


def _places(sections: Sequence[Section], lines: int) -> list[tuple[int, int]]:
    """Column and line where each section begins, in columns of so many lines."""
    column, line = 0, 0
    places = []
    for section in sections:
        if line and line + len(section.rows) + 1 > lines:
            column, line = column + 1, 0
        places.append((column, line))
        line += len(section.rows) + 2
    return places
