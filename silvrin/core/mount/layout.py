"""Where everything of a mounted print lies, in pixels.

From the inside out: picture, edge (rebate or filed), white paper, bevel, under mat, bevel, mat,
ground. Every width is its millimetres times the pixels a millimetre, rounded, so that it is right
to the pixel at any size of output.
"""

from dataclasses import dataclass
from functools import lru_cache
from math import floor, sqrt

from .settings import MountSettings

MOST_SIDE, MOST_PIXELS = 60_000, 400_000_000  # of a mounted print
SPARE = 1.001  # for what rounding makes larger
TRIES = 12  # half pixels about a size that is asked for


@dataclass(frozen=True)
class Rect:
    """From left and top to right and bottom, which are the first pixels outside."""

    left: int
    top: int
    right: int
    bottom: int

    @property
    def width(self) -> int:
        return self.right - self.left

    @property
    def height(self) -> int:
        return self.bottom - self.top

    def grown(self, left: int, top: int, right: int, bottom: int) -> "Rect":
        """With so much more at each side."""
        return Rect(self.left - left, self.top - top, self.right + right, self.bottom + bottom)

    def common(self, other: "Rect") -> "Rect | None":
        """What lies in both; None where nothing does."""
        left, top = max(self.left, other.left), max(self.top, other.top)
        right, bottom = min(self.right, other.right), min(self.bottom, other.bottom)
        return Rect(left, top, right, bottom) if left < right and top < bottom else None

    def moved(self, right: int, down: int) -> "Rect":
        """The same elsewhere."""
        return Rect(self.left + right, self.top + down, self.right + right, self.bottom + down)


@dataclass(frozen=True)
class Layout:
    """A mounted print; its whole begins at 0, 0."""

    pitch: float  # pixels a millimetre
    picture: Rect
    block: Rect  # the picture with its edge
    line: Rect  # the outer side of the key line
    paper: Rect
    window: Rect  # of the under mat, beyond its bevel
    lip: Rect  # as far as the under mat is seen
    opening: Rect  # of the mat, beyond its bevel
    mat: Rect
    whole: Rect

    def pixels(self, mm: float) -> int:
        """Millimetres in whole pixels."""
        return in_pixels(mm, self.pitch)


def in_pixels(mm: float, pitch: float) -> int:
    """Millimetres in whole pixels."""
    return floor(mm * pitch + 0.5)


def layout(mount: MountSettings, width: int, height: int, pitch: float) -> Layout:
    """Of a picture of so many pixels, so many a millimetre."""

    def px(mm: float) -> int:
        return in_pixels(mm, pitch)

    picture = Rect(0, 0, width, height)
    band = px(mount.edge_width) if mount.edge != "clean" else 0
    block = picture.grown(band, band, band, band)
    line = block
    if mount.key_line:
        away = px(mount.key_gap) + max(1, px(mount.key_line))
        line = block.grown(away, away, away, away)
    paper = block.grown(*(px(side) for side in mount.borders))
    line = Rect(
        max(line.left, paper.left), max(line.top, paper.top), min(line.right, paper.right),
        min(line.bottom, paper.bottom),
    )  # fmt: skip
    matted = mount.mat != "none"
    bevel = px(mount.bevel) if matted else 0
    seen = px(mount.undermat) if matted else 0
    inner = bevel if mount.undermat else 0
    window = paper.grown(inner, inner, inner, inner)
    lip = window.grown(seen, seen, seen, seen)
    opening = lip.grown(bevel, bevel, bevel, bevel)
    mat = opening.grown(*(px(side) for side in mount.mats))
    ground = px(mount.ground)
    whole = mat.grown(ground, ground, ground, ground)
    rects = (picture, block, line, paper, window, lip, opening, mat, whole)
    return Layout(pitch, *(rect.moved(-whole.left, -whole.top) for rect in rects))


@lru_cache(maxsize=64)
def largest(mount: MountSettings, width: int, height: int) -> Layout:
    """The mounted print with its picture at full size, or as large as a file takes: then its
    picture is smaller."""
    pitch = max(width, height) / mount.size
    found = layout(mount, width, height, pitch)
    over = max(
        max(found.whole.width, found.whole.height) / MOST_SIDE,
        sqrt(found.whole.width * found.whole.height / MOST_PIXELS),
    )
    if over <= 1.0:
        return found
    over *= SPARE
    return layout(mount, max(1, floor(width / over)), max(1, floor(height / over)), pitch / over)


@lru_cache(maxsize=64)
def fitted(mount: MountSettings, width: int, height: int, long_side: int) -> Layout:
    """The mounted print of a picture of those proportions whose long side is no longer than so many
    pixels; never larger than at full size."""
    full = largest(mount, width, height)
    scale = long_side / max(full.whole.width, full.whole.height)
    if scale >= 1.0:
        return full
    best, reached = None, 0
    # from nearest on, a little smaller and a little larger: all is rounded
    for tries in sorted(range(-2 * TRIES, TRIES), key=abs):
        near = scale * (1.0 + tries / (2.0 * long_side))
        wide, tall = (
            max(1, round(side * near)) for side in (full.picture.width, full.picture.height)
        )
        found = layout(mount, wide, tall, full.pitch * near)
        longest = max(found.whole.width, found.whole.height)
        if best is None or reached < longest <= long_side:
            best, reached = found, longest if longest <= long_side else 0
    assert best is not None
    return best
