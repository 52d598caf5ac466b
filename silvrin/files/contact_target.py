"""The target of a contact process as a picture to print on film: patches of rising ink."""

import io

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from .. import shelf
from ..core.contact.negative import ContactNegative
from ..core.contact.process import ContactProcess, target_inks
from ..core.contact.target import CELLS, Target, mark
from .papers import INCH

PPI = 300
NUMBER, BELOW = 2.0, 3.0  # mm: height of a patch's number, and how far it is above its lower edge


def target_png(
    steps: int, ink: tuple[int, int, int] = (0, 0, 0), process: ContactProcess | None = None
) -> bytes:
    """A PNG at 300 pixels an inch, the first patch without ink at the upper left, and all between
    the patches in full ink, so that it prints as paper white; mirrored, as negatives are, so that
    it reads right on the print. Linearised where a process is given."""

    def px(mm: float) -> int:
        return round(mm / INCH * PPI)

    inks, target = target_inks(steps, process), Target(steps)
    width, height = (px(side) for side in target.size)
    page = np.ones((height, width), np.float32)
    for (left, top, side), amount in zip(target.patches, inks, strict=True):
        page[px(top) : px(top + side), px(left) : px(left + side)] = amount
    for number, (left, top, side) in enumerate(target.marks):
        cells = mark(number)
        for row, column in zip(*np.nonzero(~cells), strict=True):
            y, x = (top + row * side / CELLS, left + column * side / CELLS)
            cell = side / CELLS
            page[px(y) : px(y + cell), px(x) : px(x + cell)] = 0.0
    inked = ContactNegative(PPI / INCH, ink=ink)
    picture = Image.fromarray(inked.inked(page))
    draw = ImageDraw.Draw(picture)
    font = ImageFont.truetype(io.BytesIO(shelf.fonts()["sans"][0]), px(NUMBER))
    for k, ((left, top, side), amount) in enumerate(zip(target.patches, inks, strict=True)):
        place = px(left + 0.5), px(top + side - BELOW)
        draw.text(place, str(k + 1), ink if amount < 0.5 else (255, 255, 255), font)
    picture = picture.transpose(Image.Transpose.FLIP_LEFT_RIGHT)
    out = io.BytesIO()
    picture.save(out, "PNG", dpi=(PPI, PPI))
    return out.getvalue()
