"""Which part of the silver a toning bath changes, and the colour it takes.

A print's density is silver. A bath changes a part of what silver is left, by density: sepia's
bleach eats a layer of silver, so that highlights are changed first; selenium takes the dense parts
first; gold, copper and iron blue work throughout, and gold turns what is sepia orange-red
(handbooks of toning, from memory). So the order of baths matters, and split tones come by
themselves. What is changed keeps its lightness but for what a toner is known for: selenium deepens
black, sepia loses a little. Colours are ratios of the densities in red, green and blue light
(common practice, no source).
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from ..colour import BT2020_TO_SRGB, SRGB_LUMINANCE, decode_srgb
from ..light.hue_bands import colour_of_hue
from ..paper.paper import Paper
from .colours import srgb_of
from .measured import MeasuredToner
from .settings import Bath, TonerSettings

Floats = NDArray[np.float64]

Toners = Mapping[str, MeasuredToner]
NO_TONERS: Toners = {}

# Density in red, green and blue light beside its visual density, and how dense it is beside silver
SILVER = np.array([1.0, 1.0, 1.0])
BROWN, YELLOW_BROWN = np.array([0.74, 1.02, 1.28]), np.array([0.62, 1.02, 1.62])
SEPIA_DENSITY = 0.94
SELENIUM, SELENIUM_DENSITY = np.array([0.95, 1.03, 0.97]), 1.06
GOLD, GOLD_DENSITY = np.array([1.10, 1.0, 0.88]), 1.0
GOLD_ON_SEPIA = np.array([0.50, 1.08, 1.30])
COPPER, COPPER_DENSITY = np.array([0.66, 1.06, 1.14]), 0.92
IRON_BLUE, IRON_BLUE_DENSITY = np.array([1.42, 1.0, 0.52]), 0.98
WARM_SILVER, COLD_SILVER = np.array([0.90, 1.01, 1.12]), np.array([1.06, 1.0, 0.95])
DYE_ON_BASE, DYE_ON_SILVER = 0.10, 0.35  # density of a dye on bare paper, for each of silver
FADES = 1.6  # density at which a toned image has half its colour
MIDDLE_TONE = 50.0  # L*
MOST = 12.0  # parts of a time constant that a bath lasts to its end


@dataclass
class _Part:
    """Silver that was changed: how much (N,), its density in red, green and blue light beside the
    visual one, how dense it is beside silver, and whether its colour fades as it gets dense."""

    silver: Floats
    ratios: Floats
    times: Floats | float
    fades: bool = True


@dataclass
class _Image:
    """What makes up the density of a print, by kind: each (N,)."""

    density: Floats  # of the silver that there was
    silver: Floats
    sepia: Floats
    parts: list["_Part"] = field(default_factory=list)
    dyes: list[Floats] = field(default_factory=list)  # density (N, 3)


@dataclass(frozen=True)
class OwnTone:
    """What colour a paper has by itself."""

    base: Floats  # linear sRGB (3,) of its base, 1 at most
    silver: Floats  # density of its image in red, green and blue light beside the visual one, (3,)


NEUTRAL = OwnTone(np.ones(3), SILVER)


def own_tone(paper: Paper, share: float) -> OwnTone:
    """So much of a paper's own colour."""
    tint = decode_srgb(np.array([int(paper.tint[i : i + 2], 16) / 255.0 for i in (1, 3, 5)]))
    middle = np.maximum(srgb_of(np.array([[MIDDLE_TONE, *paper.image]]))[0], 1e-3)
    black = 10.0**-paper.net_density
    middle = middle * (1.0 - black) + black  # before its black becomes the print's
    density = -np.log10(middle)
    ratios = density / -np.log10(middle @ SRGB_LUMINANCE)
    # colours fade with density: in a middle tone all of it is to be there
    fades = 1.0 + (float(-np.log10(middle @ SRGB_LUMINANCE)) / FADES) ** 2
    return OwnTone(
        1.0 + share * (tint / tint.max() - 1.0), SILVER + share * fades * (ratios - SILVER)
    )


def greatest_density(most: float, settings: TonerSettings, toners: Toners = NO_TONERS) -> float:
    """The density above the base that a paper of that greatest density has when it is toned."""
    return float(bathed(np.array([most]), most, settings, NEUTRAL, toners)[1][0])


def bathed(
    density: Floats, most: float, settings: TonerSettings, own: OwnTone, toners: Toners
) -> tuple[Floats, Floats]:
    """What silver of some densities (N,) becomes in the baths: light (N, 3) sent back, in linear
    sRGB, and visual density (N,)."""
    image, sepia_ratios = _Image(density, density.copy(), np.zeros_like(density)), BROWN
    for bath in settings.baths:
        if bath.kind == "sepia":
            sepia_ratios = BROWN + bath.tone * (YELLOW_BROWN - BROWN)
        _bathe(image, bath, most, toners)
    warmth = settings.warmth
    silver = own.silver + abs(warmth) * ((WARM_SILVER if warmth > 0 else COLD_SILVER) - SILVER)
    parts = [
        _Part(image.silver, silver, 1.0),
        _Part(image.sepia, sepia_ratios, SEPIA_DENSITY),
        *image.parts,
    ]
    visual = sum((part.silver * part.times for part in parts), np.zeros_like(density))
    # the denser, the nearer to black are the colours of all of them
    pure = 1.0 / (1.0 + (visual / FADES) ** 2)[:, None]
    found = sum(
        (
            (part.silver * part.times)[:, None]
            * (1.0 + (pure if part.fades else 1.0) * (part.ratios - 1.0))
            for part in parts
        ),
        np.zeros((1, 3)),
    )
    # a colour of that lightness
    shown = 10.0**-found
    shown *= (10.0**-visual / np.maximum(shown @ SRGB_LUMINANCE, 1e-9))[:, None]
    for dye in image.dyes:
        shown = shown * 10.0**-dye
    return shown, visual


def _from_lights(silver: Floats, lasts: float, most: float) -> Floats:
    """What a bath changes that eats a layer of silver, so that lights are changed first."""
    return np.asarray(silver * -np.expm1(-0.45 * lasts / np.maximum(silver, 1e-9)))


def _from_shadows(silver: Floats, lasts: float, most: float) -> Floats:
    """What a bath changes that takes dense parts first."""
    return np.asarray(silver * -np.expm1(-2.0 * lasts * (silver / most) ** 1.5))


def _throughout(silver: Floats, lasts: float, most: float) -> Floats:
    """What a bath changes that takes all densities alike."""
    return np.asarray(silver * -np.expm1(-1.2 * lasts))


def _bathe(image: _Image, bath: Bath, most: float, toners: Toners) -> None:
    """Let a bath act on an image."""
    time = bath.time
    if not time:
        return
    lasts = MOST if time >= 1.0 else min(time / (1.0 - time), MOST)
    silver = image.silver
    if bath.kind == "own":
        toner = toners[bath.toner or ""]
        changed = {"lights": _from_lights, "shadows": _from_shadows, "throughout": _throughout}[
            toner.takes
        ](silver, lasts, most)
        whole = image.density
        image.parts.append(_Part(changed, toner.ratios_at(whole), toner.times_at(whole), False))
    elif bath.kind == "sepia":
        changed = _from_lights(silver, lasts, most)
        image.sepia = image.sepia + changed
    elif bath.kind == "selenium":
        changed = _from_shadows(silver, lasts, most)
        image.parts.append(_Part(changed, SELENIUM, SELENIUM_DENSITY))
    elif bath.kind == "gold":
        share = -np.expm1(-1.2 * lasts)
        image.parts.append(_Part(image.sepia * share, GOLD_ON_SEPIA, SEPIA_DENSITY))
        image.sepia = image.sepia * (1.0 - share)
        changed = silver * share
        image.parts.append(_Part(changed, GOLD, GOLD_DENSITY))
    elif bath.kind == "dye":
        colour = np.clip(colour_of_hue(bath.hue) @ BT2020_TO_SRGB.T, 0.0, None)
        absorbs = 1.0 - colour / colour.max()
        on = DYE_ON_BASE + DYE_ON_SILVER * (silver + image.sepia)
        image.dyes.append(time * on[:, None] * absorbs)
        return
    else:
        ratios, times = {
            "copper": (COPPER, COPPER_DENSITY),
            "iron-blue": (IRON_BLUE, IRON_BLUE_DENSITY),
        }[bath.kind]
        changed = silver * time
        image.parts.append(_Part(changed, ratios, times))
    image.silver = silver - changed
