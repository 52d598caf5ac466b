"""The target of a contact process as a picture to print on film: patches of rising ink."""

import io

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from .. import shelf
from ..core.contact.negative import ContactNegative
from ..core.contact.process import ContactProcess, target_inks

PPI, INCH = 300, 25.4
PATCH, GAP, COLUMNS = 12.0, 2.0, 7  # mm, mm, patches beside each other


def target_png(
    steps: int, ink: tuple[int, int, int] = (0, 0, 0), process: ContactProcess | None = None
) -> bytes:
    """A PNG at 300 pixels an inch, the first patch without ink at the upper left; mirrored, as
    negatives are, so that it reads right on the print. Linearised where a process is given."""

    def px(mm: float) -> int:
        return round(mm / INCH * PPI)

    inks = target_inks(steps, process)
    rows = -(-steps // COLUMNS)
    width, height = px(COLUMNS * (PATCH + GAP) + GAP), px(rows * (PATCH + GAP) + GAP)
    page = np.zeros((height, width), np.float32)
    for k, amount in enumerate(inks):
        row, column = divmod(k, COLUMNS)
        top, left = px(GAP + row * (PATCH + GAP)), px(GAP + column * (PATCH + GAP))
        page[top : top + px(PATCH), left : left + px(PATCH)] = amount
    inked = ContactNegative(PPI / INCH, ink=ink)
    picture = Image.fromarray(inked.inked(page))
    draw = ImageDraw.Draw(picture)
    font = ImageFont.truetype(io.BytesIO(shelf.fonts()["sans"][0]), px(2.0))
    for k, amount in enumerate(inks):
        row, column = divmod(k, COLUMNS)
        place = px(GAP + column * (PATCH + GAP)), px(GAP + row * (PATCH + GAP) + PATCH - 3.0)
        draw.text(place, str(k + 1), ink if amount < 0.5 else (255, 255, 255), font)
    picture = picture.transpose(Image.Transpose.FLIP_LEFT_RIGHT)
    out = io.BytesIO()
    picture.save(out, "PNG", dpi=(PPI, PPI))
    return out.getvalue()
