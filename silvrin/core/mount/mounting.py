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

    def rows(self, lay: Layout, rows: slice, caption: Caption) -> F32:
        """What lies about the picture, over rows of the whole, encoded: (rows, width, 3)."""
        mount = self.settings
        out = np.empty((rows.stop - rows.start, lay.whole.width, 3), np.float32)
        black, base = self.paper
        out[:] = grey_of(mount.ground_tone)
        if mount.mat != "none":
            _fill(out, rows, lay.mat, of_hex(mount.board))
            _cut(out, rows, lay.opening, lay.lip)
            if mount.undermat:
                _fill(out, rows, lay.lip, of_hex(mount.undermat_colour))
                _cut(out, rows, lay.window, lay.paper)
        _fill(out, rows, lay.paper, base)
        if mount.key_line:
            _fill(out, rows, lay.line, np.full(3, grey_of(mount.key_tone)))
            thick = max(1, lay.pixels(mount.key_line))
            _fill(out, rows, lay.line.grown(-thick, -thick, -thick, -thick), base)
        part = slice(max(rows.start, lay.block.top), min(rows.stop, lay.block.bottom))
        if mount.edge != "clean" and part.start < part.stop:
            if mount.edge == "filed":
                seed = caption.seed * 10007 + mount.edge_seed
                cover = filed(lay, part, mount.edge_width, seed)
            else:
                cover = rounded(lay.block, part, CORNER * lay.pitch)
            _blend(out, rows, cover, lay.block.left, part.start, black)
            if mount.edge == "rebate":
                for each in self._rebate(lay, caption, base):
                    paint(out, rows, each)
        return out

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


def _fill(out: F32, rows: slice, rect: Rect, colour: Floats) -> None:
    first, last = max(rect.top, rows.start), min(rect.bottom, rows.stop)
    if first < last:
        out[first - rows.start : last - rows.start, rect.left : rect.right] = colour


def _cut(out: F32, rows: slice, outer: Rect, inner: Rect) -> None:
    """The bevel of a board, from where it is cut to where it ends, lit from above and the left."""
    wide = inner.left - outer.left
    if wide <= 0:
        return
    for y in range(max(outer.top, rows.start), min(outer.bottom, rows.stop)):
        row = out[y - rows.start]
        from_top, from_bottom = y - outer.top, outer.bottom - 1 - y
        near = min(from_top, from_bottom, wide)
        row[outer.left : outer.left + near] = CORE * LIT["left"]
        row[outer.right - near : outer.right] = CORE * LIT["right"]
        if near < wide:
            side = "top" if from_top <= from_bottom else "bottom"
            row[outer.left + near : outer.right - near] = CORE * LIT[side]


def _blend(out: F32, rows: slice, cover: F32, left: int, top: int, colour: Floats) -> None:
    part = out[top - rows.start : top - rows.start + len(cover), left : left + cover.shape[1]]
    part += cover[..., None] * (colour.astype(np.float32) - part)


def paint(out: F32, rows: slice, each: Placed, columns: slice | None = None) -> None:
    """What is placed, as far as it falls on rows and columns of the whole."""
    across = columns or slice(0, out.shape[1])
    top, left = max(each.top, rows.start), max(each.left, across.start)
    bottom = min(each.top + each.mask.shape[0], rows.stop)
    right = min(each.left + each.mask.shape[1], across.stop)
    if top >= bottom or left >= right:
        return
    mask = each.mask[top - each.top : bottom - each.top, left - each.left : right - each.left]
    cover = mask.astype(np.float32)[..., None] * np.float32(1.0 / 255.0)
    part = out[top - rows.start : bottom - rows.start, left - across.start : right - across.start]
    part += cover * (each.colour.astype(np.float32) - part)


def as_numbers(encoded: NDArray[Any], levels: int, channels: int) -> NDArray[Any]:
    """Encoded (H, W, 3) as output numbers, (H, W) for one channel."""
    kind = np.uint8 if levels == 256 else np.uint16
    shown = encoded if channels == 3 else encoded[..., 0]
    return (shown * np.float32(levels - 1) + np.float32(0.5)).astype(kind)
