"""How many pixels a file has, and how many of them lie on an inch."""

from dataclasses import dataclass, replace
from math import sqrt

from ...core.film.format import FORMATS
from ...core.mount.layout import MOST_PIXELS, MOST_SIDE, Layout, largest
from ...core.render import Sitting, layout_for, mounted_size, print_side
from ...core.render.mounting import INCH
from ...errors import SilvrinError
from .output import Size

NEAR = 3  # pixels about a picture's side, tried for the one whose mount comes out as asked


@dataclass(frozen=True)
class Sized:
    """A print at the size of a file."""

    sitting: Sitting
    lay: Layout
    long_side: int | None  # as `strips` and `mounted_strips` want it
    ppi: float
    limited: bool  # the capture has less than was asked for


def sized(sitting: Sitting, size: Size) -> Sized:
    """A print at a size; raises SilvrinError where a file would be larger than any can be."""
    full = mounted_size(sitting)
    long_side = max(full.whole.width, full.whole.height)
    wanted = _scale(sitting, full, size)
    if wanted > 1.0 and size.upscale:
        return _enlarged(sitting, size, round(long_side * wanted))
    reduced = None if wanted >= 1.0 else max(1, round(long_side * wanted))
    lay = layout_for(sitting, reduced)
    return Sized(sitting, lay, reduced, _ppi(sitting, lay, size), wanted > 1.001)


def _scale(sitting: Sitting, full: Layout, size: Size) -> float:
    """How much larger than at full size a print is asked for."""
    width, height, value = full.whole.width, full.whole.height, size.value or 0.0
    long_side, short = max(width, height), min(width, height)
    if size.by == "full":
        return 1.0
    if size.by == "print":
        return print_side(sitting) / long_side
    if size.by == "long":
        return value / long_side
    if size.by == "short":
        return value / short
    if size.by == "box":
        return min(value / width, (size.height or 0) / height)
    if size.by == "megapixels":
        return sqrt(value * 1e6 / (width * height))
    if size.by == "mm":
        return value / INCH * size.ppi / long_side
    picture = max(full.picture.width, full.picture.height)
    return _enlargement(sitting, value) / INCH * size.ppi / picture


def _enlargement(sitting: Sitting, times: float) -> float:
    """Long side of the picture in mm, so many times larger than it is on the negative."""
    picture = sitting.picture
    part = max(picture.width, picture.height) / picture.film_side
    return times * FORMATS[sitting.path.recipe.film.film_format] * part


def _ppi(sitting: Sitting, lay: Layout, size: Size) -> float:
    """Pixels an inch, so that the print has the mm that were asked for, however many pixels it has;
    else those of the print's own size."""
    if size.by == "mm":
        return max(lay.whole.width, lay.whole.height) / ((size.value or 1.0) / INCH)
    if size.by == "enlargement":
        long_side = max(lay.picture.width, lay.picture.height)
        return long_side / (_enlargement(sitting, size.value or 1.0) / INCH)
    return lay.pitch * INCH


def _enlarged(sitting: Sitting, size: Size, wanted: int) -> Sized:
    """A print larger than the capture."""
    picture, mount = sitting.picture, sitting.path.recipe.mount
    full = mounted_size(sitting)
    scale = wanted / max(full.whole.width, full.whole.height)
    pixels = full.whole.width * full.whole.height * scale * scale
    if wanted > MOST_SIDE or pixels > MOST_PIXELS:
        raise SilvrinError(
            f"This size comes to {wanted} pixels on the long side and {pixels / 1e6:.0f} "
            f"megapixels; up to {MOST_SIDE} pixels and {MOST_PIXELS // 1_000_000} megapixels can "
            "be printed. Ask for fewer pixels an inch, or a smaller print."
        )

    def near(add: int) -> tuple[int, int]:
        longer = round(max(picture.width, picture.height) * scale) + add
        share = longer / max(picture.width, picture.height)
        return round(picture.width * share), round(picture.height * share)

    sides = sorted(range(-NEAR, NEAR + 1), key=abs)
    wholes = {
        add: max(lay.whole.width, lay.whole.height)
        for add in sides
        for lay in [largest(mount, *near(add))]
    }
    best = min(sides, key=lambda add: abs(wholes[add] - wanted))
    larger = replace(sitting, larger=near(best))
    lay = mounted_size(larger)
    return Sized(larger, lay, None, _ppi(larger, lay, size), False)
