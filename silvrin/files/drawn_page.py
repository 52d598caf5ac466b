"""Pages of figures and words, as PDF and SVG."""

from pathlib import Path
from typing import Literal

import reportlab
from reportlab.graphics import renderPDF, renderSVG
from reportlab.graphics.shapes import Drawing, Rect, String
from reportlab.lib.colors import Color, black, white
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

Kind = Literal["pdf", "svg"]
KINDS: dict[Kind, str] = {"pdf": "application/pdf", "svg": "image/svg+xml"}

PAGE = (595.28, 841.89)  # points: A4
MARGIN = 40.0
FONTS = {"Vera": "Vera.ttf", "VeraBd": "VeraBd.ttf"}
SANS = "Bitstream Vera Sans, DejaVu Sans, Helvetica, Arial, sans-serif"
GREY = Color(0.4, 0.4, 0.4)


def begin(title: str, kind_of_page: str) -> Drawing:
    """An empty page with its title."""
    for name, file in FONTS.items():
        if name not in pdfmetrics.getRegisteredFontNames():
            there = Path(reportlab.__file__).parent / "fonts" / file
            pdfmetrics.registerFont(TTFont(name, str(there)))
    drawing = Drawing(*PAGE)
    drawing.add(Rect(0, 0, *PAGE, fillColor=white, strokeColor=None))
    top = PAGE[1] - MARGIN - 12
    say(drawing, MARGIN, top, shortened(title, PAGE[0] - 2 * MARGIN, 13, bold=True), 13, bold=True)
    say(drawing, MARGIN, top - 16, kind_of_page, 8, GREY)
    return drawing


def written(drawing: Drawing, title: str, kind: Kind) -> bytes:
    """A page as a file."""
    if kind == "pdf":
        return bytes(renderPDF.drawToString(drawing, title, showBoundary=False))
    text = str(renderSVG.drawToString(drawing))
    for name, weight in (("VeraBd", "bold"), ("Vera", "normal")):  # not inside an SVG
        other = f"font-family: {SANS}; font-weight: {weight};"
        text = text.replace(f"font-family: {name};", other)
    return text.encode()


def say(
    drawing: Drawing,
    x: float,
    y: float,
    text: str,
    size: float,
    colour: Color = black,
    bold: bool = False,
    end: bool = False,
) -> None:
    """Write a line."""
    drawing.add(
        String(
            x, y, text, fontName="VeraBd" if bold else "Vera", fontSize=size, fillColor=colour,
            textAnchor="end" if end else "start",
        )
    )  # fmt: skip


def shortened(text: str, most: float, size: float, bold: bool = False) -> str:
    """Text within a width in points."""
    font = "VeraBd" if bold else "Vera"
    if pdfmetrics.stringWidth(text, font, size) <= most:
        return text
    while text and pdfmetrics.stringWidth(text + "…", font, size) > most:
        text = text[:-1]
    return text.rstrip() + "…"
