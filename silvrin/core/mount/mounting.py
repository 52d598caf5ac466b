"""Mounting: the picture becomes a new, larger one, with paper, mat and ground about it."""

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..colour import encode_srgb, luminance_of
from ..station import Station
from ..toner.toning import Toning
from .edges import filed, rounded
from .layout import Layout, Rect
from .lettering import U8, drawn, letters
from .settings import Inscription, MountSettings

Floats = NDArray[np.float64]
F32 = NDArray[np.float32]

CORE = 0.97  # encoded: the white core of a board
LIT = {"top": 0.80, "left": 0.87, "right": 0.95, "bottom": 1.0}  # of it, by light from above left
CORNER = 0.6  # mm, of a rebate's round corners
REBATE_LETTERS = 0.42  # of the rebate's width, that its letters are high
LEAST_REBATE = 8  # pixels, from which it is lettered
INSET = 1.0  # of its own height, that an inscription keeps from a side
CAPITALS = 0.66  # of a lettering's size, that capital letters are high


@dataclass(frozen=True)
class Placed:
    """Coverage that is painted at a place in a colour."""

    mask: U8
    left: int
    top: int
    colour: Floats


@dataclass(frozen=True)
class Caption:
    """What a rebate and a filed edge know of the frame."""

    number: int = 1
    seed: int = 0  # tells frames apart


NO_CAPTION = Caption()


@dataclass(frozen=True)
class Piece:
    """A piece of the mounted print that is painted: output numbers (H, W, C) of one or three
    channels, uint8 or uint16, and where they lie."""

    numbers: NDArray[Any]
    rect: Rect

    def _at(self, rect: Rect) -> tuple[slice, slice]:
        return (
            slice(rect.top - self.rect.top, rect.bottom - self.rect.top),
            slice(rect.left - self.rect.left, rect.right - self.rect.left),
        )

    def _number_of(self, colour: Floats) -> Floats:
        return colour[: self.numbers.shape[2]] * np.iinfo(self.numbers.dtype).max

    def fill(self, rect: Rect, colour: Floats) -> None:
        """A rectangle in an encoded colour (3,)."""
        if part := self.rect.common(rect):
            row = np.empty((part.width, self.numbers.shape[2]), self.numbers.dtype)
            row[:] = np.rint(self._number_of(colour))
            self.numbers[self._at(part)] = row  # rows are copied, not colours

    def blend(self, cover: F32, left: int, top: int, colour: Floats) -> None:
        """A colour as far as it covers (H, W), 0 to 1, from a place on."""
        whole = Rect(left, top, left + cover.shape[1], top + cover.shape[0])
        part = self.rect.common(whole)
        if part is None:
            return
        share = cover[part.top - top : part.bottom - top, part.left - left : part.right - left]
        under = self.numbers[self._at(part)]
        tone = self._number_of(colour).astype(np.float32)
        found = under + share[..., None] * (tone - under)
        self.numbers[self._at(part)] = found + np.float32(0.5)

    def paint(self, each: Placed) -> None:
        """What is placed, as far as it falls on the piece."""
        tall, wide = each.mask.shape
        part = self.rect.common(Rect(each.left, each.top, each.left + wide, each.top + tall))
        if part is not None:
            rows = slice(part.top - each.top, part.bottom - each.top)
            columns = slice(part.left - each.left, part.right - each.left)
            cover = each.mask[rows, columns].astype(np.float32) * np.float32(1.0 / 255.0)
            self.blend(cover, part.left, part.top, each.colour)


class Mounting(Station):
    """What lies about the picture."""

    reads = ("mount", "film.stock")
    builds_on = (Toning,)

    @property
    def settings(self) -> MountSettings:
        """As the recipe has them."""
        return MountSettings.model_construct(
            **{name: getattr(self.recipe.mount, name) for name in MountSettings.model_fields}
        )

    @cached_property
    def paper(self) -> Floats:
        """(2, 3) black and base of the print, encoded."""
        light = self.of(Toning).at(np.array([0.0, 1.0]))
        return encode_srgb(light if light.ndim == 2 else np.repeat(light[:, None], 3, axis=1))

    @cached_property
    def coloured(self) -> bool:
        """Whether anything of it is not grey."""
        mount = self.settings
        found = [*self.paper]
        if mount.mat != "none":
            found.append(of_hex(mount.board))
            if mount.undermat:
                found.append(of_hex(mount.undermat_colour))
        return any(float(np.ptp(colour)) > 1e-6 for colour in found)

    def placed(self, lay: Layout) -> list[Placed]:
        """Its inscriptions."""
        found = []
        for each in self.settings.inscriptions:
            mask = self._mask(each, lay.pitch)
            if mask is None:
                continue
            left, top = _place(each, mask, lay)
            found.append(Placed(mask, left, top, np.full(3, grey_of(each.tone))))
        return found

    def _mask(self, each: Inscription, pitch: float) -> U8 | None:
        height = each.height * pitch
        if each.what == "ink":
            ink = self.things.inks.get(each.ink or "")
            return None if ink is None else drawn(ink, height, each.pen * pitch)
        text = edition(self.settings) if each.what == "edition" else each.text
        files = self.things.fonts.get(each.font, ())
        return letters(text, files, height / CAPITALS) if text and files else None

    def about(
        self, lay: Layout, caption: Caption, piece: Piece, paper: Floats | None = None
    ) -> None:
        """Paints what lies about the picture into a piece of the whole; on paper whose black and
        base look otherwise, (2, 3) encoded."""
        mount = self.settings
        black, base = self.paper if paper is None else paper
        if mount.ground:
            piece.fill(lay.whole, np.full(3, grey_of(mount.ground_tone)))
        if mount.mat != "none":
            piece.fill(lay.mat, of_hex(mount.board))
            _cut(piece, lay.opening, lay.lip)
            if mount.undermat:
                piece.fill(lay.lip, of_hex(mount.undermat_colour))
                _cut(piece, lay.window, lay.paper)
        piece.fill(lay.paper, base)
        if mount.key_line:
            piece.fill(lay.line, np.full(3, grey_of(mount.key_tone)))
            thick = max(1, lay.pixels(mount.key_line))
            piece.fill(lay.line.grown(-thick, -thick, -thick, -thick), base)
        part = piece.rect.common(lay.block)
        if mount.edge == "clean" or part is None:
            return
        if mount.edge == "filed":
            seed = caption.seed * 10007 + mount.edge_seed
            cover = filed(lay, part, mount.edge_width, seed)
        else:
            cover = rounded(lay.block, part, CORNER * lay.pitch)
        piece.blend(cover, part.left, part.top, black)
        if mount.edge == "rebate":
            for each in self._rebate(lay, caption, base):
                piece.paint(each)

    def _rebate(self, lay: Layout, caption: Caption, tone: Floats) -> list[Placed]:
        """The rebate's letters: the stock's name and the frame's number above, the number and its
        half frame below."""
        width = lay.pixels(self.settings.edge_width)
        height = REBATE_LETTERS * width
        files = self.things.fonts.get("sans", ())
        if width < LEAST_REBATE or not files:
            return []
        found = []
        for text, at, above in (
            (self.things.stock.name.upper(), 0.08, True),
            (str(caption.number), 0.62, True),
            (str(caption.number), 0.22, False),
            (f"{caption.number}A", 0.74, False),
        ):
            mask = letters(text, files, height / CAPITALS)
            left = lay.block.left + round(at * lay.block.width)
            middle = (
                0.5 * (lay.block.top + lay.picture.top)
                if above
                else 0.5 * (lay.block.bottom + lay.picture.bottom)
            )
            if left + mask.shape[1] < lay.block.right - width:
                found.append(Placed(mask, left, round(middle - 0.5 * len(mask)), tone))
        side = max(2, round(height))
        arrow = np.zeros((side, side), np.uint8)
        cv2.fillPoly(
            arrow, [np.array([[0, 0], [side - 1, side // 2], [0, side - 1]])], 255, cv2.LINE_AA
        )
        left = lay.block.left + round(0.74 * lay.block.width) - 2 * side
        middle = 0.5 * (lay.block.bottom + lay.picture.bottom)
        found.append(Placed(arrow, left, round(middle - 0.5 * side), tone))
        return found


def edition(mount: MountSettings) -> str:
    """The number of a print in its edition: 3/12."""
    if not mount.edition_number:
        return ""
    return (
        f"{mount.edition_number}/{mount.edition_of}"
        if mount.edition_of
        else str(mount.edition_number)
    )


def of_hex(colour: str) -> Floats:
    """(3,) encoded of #rrggbb."""
    return np.array([int(colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5)])


def grey_of(lightness: float) -> float:
    """Encoded grey of L*."""
    return float(encode_srgb(luminance_of(np.array(lightness, np.float64))))


def _place(each: Inscription, mask: U8, lay: Layout) -> tuple[int, int]:
    """Left and top of an inscription."""
    tall, wide = mask.shape
    inset = round(INSET * each.height * lay.pitch)
    if each.on == "picture":
        rect = lay.picture.grown(-inset, 0, -inset, 0)
        top = lay.picture.bottom - inset - tall
    elif each.on == "mat" and lay.mat.bottom > lay.opening.bottom:
        rect = lay.opening
        top = lay.opening.bottom + inset
    else:  # in the middle of the white below the picture
        rect = lay.block
        top = round(0.5 * (lay.line.bottom + lay.paper.bottom) - 0.5 * tall)
    left = {
        "left": rect.left,
        "middle": round(0.5 * (rect.left + rect.right) - 0.5 * wide),
        "right": rect.right - wide,
    }[each.at]
    return left + round(each.dx * lay.pitch), top + round(each.dy * lay.pitch)


def _cut(piece: Piece, outer: Rect, inner: Rect) -> None:
    """The bevel of a board, from where it is cut to where it ends, lit from above and the left."""
    for k in range(inner.left - outer.left):
        left, top, right, bottom = (
            outer.left + k, outer.top + k, outer.right - k, outer.bottom - k,
        )  # fmt: skip
        for side, rect in (
            ("left", Rect(left, top, left + 1, bottom)),
            ("right", Rect(right - 1, top, right, bottom)),
            ("top", Rect(left + 1, top, right - 1, top + 1)),
            ("bottom", Rect(left + 1, bottom - 1, right - 1, bottom)),
        ):
            piece.fill(rect, np.full(3, CORE * LIT[side]))
