"""A roll as a contact sheet to print: frames side by side on black, with numbers and marks in
grease pencil, as pictures of pages and as PDF at its true size."""

import io
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from .. import shelf
from .delivery.about import SOFTWARE
from .papers import INCH, PAPERS, Paper
from .profiles import srgb

PPI = 300
MARGIN, HEAD, GAP, LINE = 12.0, 9.0, 2.5, 6.0  # mm; LINE is below a frame
SHAPE = 2 / 3  # of a frame's room, height beside width
BLACK, WAX, EDGE, INK = (12, 12, 12), (233, 228, 216), (201, 160, 99), (200, 200, 200)
QUALITY = 92
# In parts of a frame's width: about the frame by hand, and through it
RING = np.array(
    [(0.12, 0.08), (0.5, -0.02), (0.94, 0.14), (0.98, 0.38), (0.6, 0.68), (0.14, 0.6),
     (0.02, 0.34), (0.16, 0.06), (0.4, 0.03)]
)  # fmt: skip
CROSS = (np.array([(0.12, 0.08), (0.9, 0.6)]), np.array([(0.88, 0.06), (0.12, 0.61)]))


@dataclass(frozen=True)
class Entry:
    """A frame of the sheet."""

    picture: NDArray[np.uint8]  # (H, W) or (H, W, 3)
    number: int
    title: str
    mark: Literal["none", "ring", "dot", "cross"] = "none"


def rows_on(paper: Paper, columns: int) -> int:
    """How many rows of so many columns a page has."""
    width, height = PAPERS[paper]
    room = (width - 2 * MARGIN + GAP) / columns
    return max(1, int((height - 2 * MARGIN - HEAD) / ((room - GAP) * SHAPE + LINE + GAP)))


def pages(
    title: str, entries: Sequence[Callable[[], Entry]], paper: Paper = "a4", columns: int = 6
) -> Iterator[Image.Image]:
    """The pages at 300 pixels an inch; each frame is asked for when its place has come."""
    a_page = columns * rows_on(paper, columns)
    for number, first in enumerate(range(0, len(entries), a_page), 1):
        across, down = PAPERS[paper]
        page = Image.new("RGB", (_px(across), _px(down)), BLACK)
        draw = ImageDraw.Draw(page)
        name = _fitted(draw, title, _font(4.2), page.width - 2 * _px(MARGIN) - _px(12))
        draw.text((_px(MARGIN), _px(MARGIN)), name, INK, _font(4.2))
        right = page.width - _px(MARGIN)
        draw.text((right, _px(MARGIN)), str(number), EDGE, _font(3.2), anchor="ra")
        room = (across - 2 * MARGIN + GAP) / columns
        for i, entry in enumerate(entries[first : first + a_page]):
            row, column = divmod(i, columns)
            left = MARGIN + column * room
            top = MARGIN + HEAD + row * ((room - GAP) * SHAPE + LINE + GAP)
            _lay(page, draw, entry(), left, top, room - GAP)
        yield page


def as_pdf(title: str, made: Iterable[Image.Image], paper: Paper) -> bytes:
    """Pages as one PDF at their true size."""
    out = io.BytesIO()
    width, height = (side * mm for side in PAPERS[paper])
    canvas = Canvas(out, pagesize=(width, height), pageCompression=1, invariant=1)
    canvas.setTitle(title)
    canvas.setCreator(SOFTWARE)
    for page in made:
        coded = io.BytesIO(as_jpeg(page))
        canvas.drawImage(ImageReader(coded), 0, 0, width, height)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def as_jpeg(page: Image.Image) -> bytes:
    """A page as a picture."""
    out = io.BytesIO()
    page.save(out, "JPEG", quality=QUALITY, dpi=(PPI, PPI), icc_profile=srgb(), subsampling=0)
    return out.getvalue()


def _px(length: float) -> int:
    return round(length / INCH * PPI)


def _font(height: float) -> ImageFont.FreeTypeFont:
    """Letters of so many mm."""
    return ImageFont.truetype(io.BytesIO(shelf.fonts()["sans"][0]), _px(height))


def _fitted(
    draw: ImageDraw.ImageDraw, text: str, font: ImageFont.FreeTypeFont, width: float
) -> str:
    """A text cut so that it is no wider than that."""
    if draw.textlength(text, font) <= width:
        return text
    while text and draw.textlength(text + "…", font) > width:
        text = text[:-1]
    return text.rstrip() + "…"


def _lay(
    page: Image.Image, draw: ImageDraw.ImageDraw, entry: Entry, left: float, top: float, room: float
) -> None:
    """A frame in its room, whose upper left corner and width are in mm."""
    x, y, width, height = _px(left), _px(top), _px(room), _px(room * SHAPE)
    picture = Image.fromarray(entry.picture).convert("RGB")
    scale = min(width / picture.width, height / picture.height)
    size = max(1, round(picture.width * scale)), max(1, round(picture.height * scale))
    kind = Image.Resampling.LANCZOS
    page.paste(picture.resize(size, kind), (x + (width - size[0]) // 2, y + height - size[1]))
    font = _font(min(2.6, room / 12))
    number = str(entry.number)
    below = y + height + _px(1.0)
    draw.text((x, below), number, EDGE, font)
    indent = draw.textlength(number + "  ", font)
    title = _fitted(draw, entry.title, font, width - indent)
    draw.text((x + indent, below), title, INK, font)
    thick = max(2, _px(room / 55))
    if entry.mark == "dot":
        radius = _px(room / 22)
        middle = x + width - 3 * radius, y + 3 * radius
        draw.ellipse([middle[0] - radius, middle[1] - radius, middle[0] + radius,
                      middle[1] + radius], fill=WAX)  # fmt: skip
    for line in {"ring": (RING,), "cross": CROSS}.get(entry.mark, ()):
        points = _smooth(line) if entry.mark == "ring" else line
        draw.line([tuple(p) for p in points * width + (x, y)], WAX, thick, joint="curve")


def _smooth(points: NDArray[np.float64], steps: int = 12) -> NDArray[np.float64]:
    """A curve through points (Catmull–Rom)."""
    ends = np.vstack([2 * points[0] - points[1], points, 2 * points[-1] - points[-2]])
    t = np.linspace(0.0, 1.0, steps, endpoint=False)[:, None]
    parts = [
        0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t**2
               + (3 * b - a - 3 * c + d) * t**3)
        for a, b, c, d in zip(ends, ends[1:], ends[2:], ends[3:], strict=False)
    ]  # fmt: skip
    return np.vstack([*parts, points[-1:]])
