"""How a print looks as a press or a printer gives it back: a soft proof.

Numbers go through the profile and back, by LittleCMS; what comes back other than it went lies
outside of what the profile can hold.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import imagecodecs
import numpy as np
from numpy.typing import NDArray

from ...core.colour import decode_srgb
from ...core.toner.colours import lab_of
from ..profiles import srgb
from .colours import BLACK_POINT, CHANNELS, EXACT, INTENTS, MODES, kind_of_profile
from .output import Intent

U8 = NDArray[np.uint8]
CELLS = 33  # of a table of colours, along a side
OUTSIDE = 3.0  # CIE 1976 difference from which it is seen
LOSS = np.array([0xF0, 0x70, 0x6A], np.uint8)
STRIPES = 8  # pixels of two


@dataclass(frozen=True)
class Press:
    """A profile, and how prints go through it."""

    profile: bytes
    intent: Intent = "relative"
    black_point: bool = True
    paper: bool = False  # the white and black of its paper are shown too

    def shown(self, numbers: U8, outside: bool = False) -> U8:
        """Output numbers of sRGB (H, W) or (H, W, 3) as they look when printed, (H, W, 3); with
        stripes over what falls outside."""
        grey = numbers.ndim == 2
        shown = _tables(self)[0].grey[numbers] if grey else _back(self, numbers)
        if outside:
            rows, columns = np.nonzero(self._outside(numbers))
            striped = (rows + columns) % STRIPES < STRIPES // 2
            shown = shown.copy()
            shown[rows[striped], columns[striped]] = LOSS
        return shown

    def share_outside(self, numbers: U8) -> float:
        """Part of a picture that falls outside."""
        return float(self._outside(numbers).mean())

    def _outside(self, numbers: U8) -> NDArray[np.bool_]:
        """(H, W) what falls outside."""
        _, lost = _tables(self)
        if numbers.ndim == 2:
            return np.asarray(lost.grey[numbers])
        place = (numbers.astype(np.uint16) * (CELLS - 1) + 127) // 255
        return np.asarray(lost.cube[place[..., 0], place[..., 1], place[..., 2]])


@dataclass(frozen=True)
class _Table:
    grey: NDArray[Any]  # over the 256 greys
    cube: NDArray[Any]  # over CELLS³ colours


def _back(press: Press, numbers: U8, flags: int = 0, paper: bool | None = None) -> U8:
    """Numbers (H, W, 3) through the profile and back."""
    channels = CHANNELS[kind_of_profile(press.profile, "profile")]
    over = flags | (BLACK_POINT if press.black_point else 0)
    out = imagecodecs.cms_transform(
        np.ascontiguousarray(numbers), srgb(), press.profile, colorspace="rgb",
        outcolorspace=MODES[channels], outdtype="uint8", intent=INTENTS[press.intent], flags=over,
    )  # fmt: skip
    as_paper = press.paper if paper is None else paper
    back = INTENTS["absolute" if as_paper else "relative"]
    return np.asarray(
        imagecodecs.cms_transform(
            out, press.profile, srgb(), colorspace=MODES[channels], outcolorspace="rgb",
            outdtype="uint8", intent=back, flags=flags | (0 if as_paper else over),
        ),
        np.uint8,
    )  # fmt: skip


@lru_cache(maxsize=8)
def _tables(press: Press) -> tuple[_Table, _Table]:
    """What greys become, and which greys and colours are lost."""
    greys = np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, axis=2)
    steps = np.rint(np.linspace(0, 255, CELLS)).astype(np.uint8)
    cube = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1)
    flat = cube.reshape(CELLS * CELLS, CELLS, 3)
    lost = [_away(given, _back(press, given, EXACT, paper=False)) for given in (greys, flat)]
    through = _Table(_back(press, greys, EXACT)[0], flat)
    return through, _Table(lost[0][0], lost[1].reshape(CELLS, CELLS, CELLS))


def _away(given: U8, found: U8) -> NDArray[np.bool_]:
    """Where colours (H, W, 3) come back as others."""
    labs = [lab_of(decode_srgb(each.reshape(-1, 3) / 255.0)) for each in (given, found)]
    away = np.linalg.norm(labs[0] - labs[1], axis=1).reshape(given.shape[:2])
    return np.asarray(away > OUTSIDE)
