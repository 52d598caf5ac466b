"""The negative itself, as it is printed on film: what the print has of density decides the ink; it
is mirrored, so that emulsion lies on emulsion, and has marks to lay it by and a wedge to read.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..colour import SRGB_LUMINANCE, decode_srgb, encode_srgb
from .process import ContactProcess

Numbers = NDArray[Any]
U8 = NDArray[np.uint8]

MARGIN, MARK, HAIR = 12.0, 6.0, 0.2  # mm: about the picture, a mark's arms, their width
WEDGE, STEPS = 6.0, 21  # mm high; steps
DEEPEST = 2.2  # density of a print's output that counts as black


@dataclass(frozen=True)
class ContactNegative:
    """How a print becomes a negative."""

    pitch: float  # pixels a millimetre
    process: ContactProcess | None = None
    ink: tuple[int, int, int] = (0, 0, 0)  # colour of full ink
    mirrored: bool = True
    marked: bool = True  # marks and wedge about it

    @cached_property
    def table(self) -> NDArray[np.float32]:
        """(65536,) ink over the print's output numbers of 16 bits."""
        light = decode_srgb(np.linspace(0.0, 1.0, 65536))
        density = -np.log10(np.maximum(light, 10.0**-DEEPEST))
        share = density / DEEPEST
        ink = 1.0 - share if self.process is None else self.process.ink_for(share)
        return np.asarray(ink, np.float32)

    def pixels(self, mm: float) -> int:
        """Millimetres in whole pixels."""
        return max(1, round(mm * self.pitch))

    @property
    def margins(self) -> tuple[int, int]:
        """Pixels about the picture on each side, and below it in all."""
        if not self.marked:
            return 0, 0
        side = self.pixels(MARGIN)
        return side, side + self.pixels(WEDGE + MARGIN / 3)

    def size(self, width: int, height: int) -> tuple[int, int]:
        """Of the negative of a print of so many pixels."""
        side, below = self.margins
        return width + 2 * side, height + side + below

    def strips(self, printed: Iterator[Numbers], width: int, height: int) -> Iterator[U8]:
        """The negative from top to bottom, (rows, W, 3), of a print that comes in strips of
        uint16."""
        side, below = self.margins
        whole = self.size(width, height)
        if side:
            yield self._blank(side, whole[0], top=True)
        for strip in printed:
            ink = self.table[_grey(strip)]
            rows = np.full((len(ink), whole[0]), 0.0, np.float32)
            rows[:, side : side + width] = ink[:, ::-1] if self.mirrored else ink
            yield self.inked(rows)
        if below:
            yield self._blank(below, whole[0], top=False)

    def inked(self, ink: NDArray[np.float32]) -> U8:
        """Inks (H, W) as colours (H, W, 3)."""
        full = np.array(self.ink, np.float32)
        return np.rint(255.0 - ink[..., None] * (255.0 - full)).astype(np.uint8)

    def _blank(self, rows: int, width: int, top: bool) -> U8:
        """Above or below the picture: film without ink, marks at its corners, a wedge below."""
        ink = np.zeros((rows, width), np.float32)
        side, arm = self.margins[0], self.pixels(MARK)
        hair = max(1, self.pixels(HAIR))
        middle = side // 2
        y = middle if top else rows - middle
        for x in (middle, width - middle):
            ink[max(0, y - arm // 2) : y + arm // 2, x : x + hair] = 1.0
            ink[y : y + hair, max(0, x - arm // 2) : x + arm // 2] = 1.0
        if not top:
            first = self.pixels(MARGIN / 3)
            steps = self.wedge_inks()
            edges = np.linspace(side, width - side, STEPS + 1).round().astype(int)
            for k, step in enumerate(steps):
                ink[first : first + self.pixels(WEDGE), edges[k] : edges[k + 1]] = step
            if self.mirrored:
                ink = ink[:, ::-1]
        return self.inked(ink)

    def wedge_inks(self) -> NDArray[np.float64]:
        """Of the wedge's steps, from the print's black to its base."""
        shares = np.linspace(1.0, 0.0, STEPS)
        return 1.0 - shares if self.process is None else self.process.ink_for(shares)


def _grey(strip: Numbers) -> NDArray[np.uint16]:
    """Encoded greys of 16 bits of a strip with colour or without."""
    if strip.ndim == 2:
        return strip
    light = decode_srgb(strip / 65535.0) @ SRGB_LUMINANCE
    return np.asarray(np.rint(encode_srgb(light) * 65535), np.uint16)
