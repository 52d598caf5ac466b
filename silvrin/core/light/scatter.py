"""What becomes of light between scene and emulsion: haze, selective and soft focus, a hot spot,
halation. At each place it is a line in the place's own light whose coefficients change slowly."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..capture.flatten import Flattening
from ..film.format import pitch_of
from ..film.halation import RED_FROM, halation_reach, halation_share
from ..guided import grown
from ..picture import LinearPicture
from ..plate import Grid
from ..station import Station
from .conversion import Conversion, Glass
from .focus import GLOW_FROM, blurred, defocused, out_of_focus
from .haze import Veil, lines_of_transmission

F32 = NDArray[np.float32]

Effects = Mapping[str, F32]  # what passes of the printing map add, (H, W) by setting

SIZE = 1024  # long side of the maps, where focus and haze draw edges
COARSE = 512  # of what only glows
LEAST_HALATION = 5e-4  # share of the light that is seen


@dataclass(frozen=True)
class Scatter:
    """What becomes of exposure H between scene and emulsion: with t = a · log2 sum + b held from
    0.1 to 1, H is parted from the air's light (or laid under it), then times `sharp`, plus
    `added`."""

    maps: F32  # (2, H, W) sharp, added; with haze (5, H, W) also a, b, and 1 where it is taken off
    air: float  # exposure the light of the air gives

    @property
    def nbytes(self) -> int:
        return int(self.maps.nbytes)


def added_by(effects: Effects, name: str, like: F32) -> F32:
    """What passes add to a setting, at the size of a map; nothing where there are none."""
    if name not in effects:
        return np.zeros_like(like)
    return grown(effects[name], like) if effects[name].shape != like.shape else effects[name]


class Scattering(Station):
    """Light on its way is spread."""

    reads = (
        "capture.infrared", "capture.hot_spot", "capture.hot_spot_size", "light.haze",
        "light.soft_focus", "light.soft_size", "light.soft_on", "light.focus_blur",
        "light.focus_shape", "light.focus_x", "light.focus_y", "light.focus_size",
        "light.focus_aspect", "light.focus_angle", "light.focus_transition", "film.stock",
        "film.halation", "film.film_format",
    )  # fmt: skip
    builds_on = (Glass, Conversion, Flattening)

    @cached_property
    def halation(self) -> float:
        """Share of the exposure that the film's base returns."""
        seen = self.of(Glass).seen_from(RED_FROM)
        return halation_share(self.things.stock.halation, seen) * self.recipe.film.halation

    def is_hazy(self, effects: Effects) -> bool:
        """Whether haze is taken away or laid over, also by a pass of the printing map."""
        return self.recipe.light.haze != 0.0 or "haze" in effects

    def size(self, effects: Effects) -> int:
        """Long side at which light is spread; 0 where nothing spreads it."""
        light, capture = self.recipe.light, self.recipe.capture
        if self.is_hazy(effects) or light.focus_blur or "soft_focus" in effects:
            return SIZE
        spot = capture.infrared and capture.hot_spot
        return COARSE if light.soft_focus or spot or self.halation > LEAST_HALATION else 0

    def hot_spot(self, height: int, width: int, axis: tuple[float, float, float]) -> F32 | None:
        """(height, width) what is left of the light where a hot spot is taken from an infrared
        capture; None without one. `axis` is where the lens pointed, x and y, and half the
        capture's diagonal, in parts of the picture's long side."""
        capture = self.recipe.capture
        if not (capture.infrared and capture.hot_spot):
            return None
        y, x = np.mgrid[0:height, 0:width] + 0.5
        across, down, half = np.array(axis) * max(height, width)
        away = ((y - down) ** 2 + (x - across) ** 2) / (half * capture.hot_spot_size) ** 2
        return np.asarray(np.exp2(-capture.hot_spot * np.exp(-away)), np.float32)

    def maps(
        self,
        exposure: F32,
        logs: F32,
        veil: Veil | None,
        air: float,
        picture: LinearPicture,
        effects: Effects,
    ) -> Scatter:
        """The maps for an exposure of the whole picture (H, W), log2 H before anything spread it,
        and log2 of the light's sum (H, W); with what passes of the printing map add."""
        settings, (height, width) = self.recipe.light, exposure.shape
        long = max(height, width)
        lit = np.exp2(exposure)
        maps = np.zeros((2 if veil is None else 5, *lit.shape), np.float32)
        if veil is not None:
            haze = np.clip(settings.haze + added_by(effects, "haze", exposure), -1.0, 1.0)
            c0, c1 = lines_of_transmission(haze)
            maps[2], maps[3], maps[4] = c1 * veil.a, c0 + c1 * veil.b, np.where(haze < 0, 1, -1)
            through = np.clip(maps[2] * logs + maps[3], 0.1, 1.0)
            behind = np.float32(air) * (1.0 - through)
            cleared = np.maximum(lit - behind, 1e-6) / through
            lit = np.where(haze < 0, cleared, lit * through + behind).astype(np.float32)
        sharp, added = maps[:2]
        sharp[:] = 1.0
        if (cut := self.hot_spot(height, width, picture.axis)) is not None:
            sharp *= cut
            lit *= cut
        if settings.focus_blur:
            amount = out_of_focus(settings, lit.shape[1], lit.shape[0])
            own, blur = defocused(lit, amount, settings.focus_blur / 100.0 * long)
            sharp *= own
            added += blur
            lit = own * lit + blur
        share = settings.soft_focus + added_by(effects, "soft_focus", exposure)
        share = np.clip(share, 0.0, 1.0).astype(np.float32)
        if share.any():
            reach = settings.soft_size / 100.0 * long
            if settings.soft_on == "highlights":
                glow = share * blurred(np.maximum(lit - np.float32(GLOW_FROM), 0.0), reach)
                kept = np.ones_like(share)
            else:
                glow, kept = share * blurred(lit, reach), 1 - share
            maps[:2] *= kept
            added += glow
            lit = lit * kept + glow
        if (halation := np.float32(self.halation)) > 0.0:
            pitch = pitch_of(self.recipe.film.film_format, picture, long)
            added += halation * blurred(lit, max(halation_reach() / pitch, 0.5))
            # an even field keeps its exposure: a stock's speed is measured with its halation
            maps[:2] /= 1 + halation
        return Scatter(maps, air)


def spread(exposure: F32, coded: F32, found: Scatter, grid: Grid) -> None:
    """Spreads the light of a piece, log2 H (H, W), in place; with its coded picture (H, W, 3)."""
    kernels.by_rows(
        kernels.scatter,
        len(exposure),
        exposure,
        coded,
        found.maps,
        *grid.on(found.maps),
        np.float32(found.air),
    )
