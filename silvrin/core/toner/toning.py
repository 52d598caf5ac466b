"""Toning: which part of the silver a bath changes, and the colour it takes.

A print's density is silver. A bath changes a part of what silver is left, by density: sepia's
bleach eats a layer of silver, so that highlights are changed first; selenium takes the dense parts
first; gold, copper and iron blue work throughout, and gold turns what is sepia orange-red
(handbooks of toning, from memory). So the order of baths matters, and split tones come by
themselves. What is changed keeps its lightness but for what a toner is known for: selenium deepens
black, sepia loses a little. Colours are ratios of the densities in red, green and blue light
(common practice, no source).

Tonal stops are colours at places of the scale, joined smoothly in CIELAB; nothing is lighter than
the last of them.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..colour import (
    BT2020_TO_SRGB,
    SRGB_LUMINANCE,
    decode_srgb,
    encode_srgb,
    lightness_of,
    smooth_step,
    xyz_of,
)
from ..colour import lab_of as lab_of_xyz
from ..later import interpolate
from ..light.hue_bands import colour_of_hue
from ..paper.paper import Paper
from ..paper.printing import Finish
from ..station import ToneStation
from .measured import MeasuredToner
from .settings import Bath, TonalStop, TonerSettings

Floats = NDArray[np.float64]

SRGB_TO_XYZ = np.array(
    [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]
)  # IEC 61966-2-1
WHITE = SRGB_TO_XYZ.sum(axis=1)

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
WARM_BASE, COLD_BASE = (0xFF, 0xF4, 0xE6), (0xF3, 0xF7, 0xFF)
DYE_ON_BASE, DYE_ON_SILVER = 0.10, 0.35  # density of a dye on bare paper, for each of silver
FADES = 1.6  # density at which a toned image has half its colour
WASH_CHROMA, WASH_RUN = 32.0, 32.0  # of a whole wash, CIELAB; L* over which two give way
WARM_HUE = 75.0  # degrees in CIELAB
MIDDLE_TONE = 50.0  # L*
STEPS = 2049  # of the print's scale, evenly over its output numbers
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


def is_plain(settings: TonerSettings) -> bool:
    """Whether the print stays as the paper gives it."""
    s = settings
    return not (
        s.warmth or s.stops or s.shadow_wash or s.light_wash or any(b.time for b in s.baths)
    )


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


def toned(
    light: Floats,
    most: float,
    settings: TonerSettings,
    own: OwnTone = NEUTRAL,
    toners: Toners = NO_TONERS,
) -> Floats:
    """Linear sRGB (N, 3) of the light (N,), 0 to 1, that a print sends back; `most` is its paper's
    greatest density, `own` its colour, `toners` those of the shelf by their ids. Its base keeps to
    1 or below, and the deepest it can be is black."""
    black = 10.0**-most
    density = -np.log10(np.clip(light, 0.0, 1.0) * (1.0 - black) + black)
    shown, _ = _bathed(density, most, settings, own, toners)
    warmth = settings.warmth
    base = decode_srgb(np.array(WARM_BASE if warmth > 0 else COLD_BASE) / 255.0)
    # a bath that deepens black gives a longer scale: what was told apart stays so
    deepest = min(black, 10.0 ** -greatest_density(most, settings, toners))
    shown = np.clip((shown - deepest) / (1.0 - deepest), 0.0, 1.0)
    shown = shown * (1.0 + abs(warmth) * (base - 1.0)) * own.base
    if settings.stops:
        shown = through_stops(shown @ SRGB_LUMINANCE, settings.stops)
    return _washed(shown, settings)


def greatest_density(most: float, settings: TonerSettings, toners: Toners = NO_TONERS) -> float:
    """The density above the base that a paper of that greatest density has when it is toned."""
    return float(_bathed(np.array([most]), most, settings, NEUTRAL, toners)[1][0])


def _bathed(
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


def _washed(rgb: Floats, settings: TonerSettings) -> Floats:
    """Linear sRGB (N, 3) with colours washed over its dark and its light tones, and with warmth
    taken out of it; lightness stays."""
    if not (settings.shadow_wash or settings.light_wash or settings.warmth_out):
        return rgb
    lab = lab_of(rgb)
    meets = settings.wash_meets
    light = smooth_step(lab[:, 0], meets - WASH_RUN, meets + WASH_RUN)
    for strength, hue, over in (
        (settings.shadow_wash, settings.shadow_hue, 1.0 - light),
        (settings.light_wash, settings.light_hue, light),
    ):
        lab[:, 1:] += strength * WASH_CHROMA * over[:, None] * _direction(hue)
    if settings.warmth_out:
        warm = np.radians(WARM_HUE)
        along = (lab[:, 1] * np.cos(warm) + lab[:, 2] * np.sin(warm)) / np.maximum(
            np.hypot(lab[:, 1], lab[:, 2]), 1e-9
        )
        lab[:, 1:] *= 1.0 - settings.warmth_out * smooth_step(along, 0.0, 0.7)[:, None]
    return within(srgb_of(lab))


def _direction(hue: float) -> Floats:
    """(2,) of a*, b*, of length 1, of a hue told by its angle of CIE u', v'."""
    colour = np.clip(colour_of_hue(hue, 0.02) @ BT2020_TO_SRGB.T, 0.0, None)
    ab = lab_of(0.5 * colour[None])[0, 1:]
    return np.asarray(ab / np.hypot(*ab))


def within(rgb: Floats) -> Floats:
    """Linear sRGB (N, 3) taken towards the grey as light as it is until sRGB holds it."""
    grey = np.clip(rgb @ SRGB_LUMINANCE, 0.0, 1.0)[:, None]
    over = (1.0 - grey) / np.maximum(rgb.max(axis=1, keepdims=True) - grey, 1e-9)
    under = grey / np.maximum(grey - rgb.min(axis=1, keepdims=True), 1e-9)
    keep = np.minimum(1.0, np.minimum(over, under))
    return np.asarray(np.clip(grey + keep * (rgb - grey), 0.0, 1.0))


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


def through_stops(luminance: Floats, stops: tuple[TonalStop, ...]) -> Floats:
    """Linear sRGB (N, 3) of tonal stops at the lightness of luminances (N,)."""
    place = lightness_of(np.clip(luminance, 0.0, 1.0))
    at = np.array([stop.place for stop in stops])
    colours = [[int(stop.colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5)] for stop in stops]
    lab = lab_of(decode_srgb(np.array(colours)))
    if at[0] > 0.0:  # black stays black
        at, lab = np.r_[0.0, at], np.r_[[[0.0, 0.0, 0.0]], lab]
    line = interpolate.PchipInterpolator(at, lab)
    return np.clip(srgb_of(line(np.clip(place, at[0], at[-1]))), 0.0, 1.0)


def lab_of(rgb: Floats) -> Floats:
    """CIELAB (N, 3) of linear sRGB (N, 3), to its white."""
    return lab_of_xyz(rgb @ SRGB_TO_XYZ.T / WHITE)


def srgb_of(lab: Floats) -> Floats:
    """Linear sRGB (N, 3) of CIELAB; inverse of `lab_of`."""
    return np.asarray(xyz_of(lab) * WHITE @ np.linalg.inv(SRGB_TO_XYZ).T)


def hex_of(rgb: Floats) -> list[str]:
    """Linear sRGB (N, 3) as #rrggbb."""
    numbers = np.rint(255.0 * encode_srgb(np.clip(rgb, 0.0, 1.0))).astype(int)
    return [f"#{r:02x}{g:02x}{b:02x}" for r, g, b in numbers]


class Toning(ToneStation):
    """Light of the print to its colour; where nothing tones it, it stays grey."""

    reads = ("toner", "paper.paper")
    builds_on = (Finish,)

    @property
    def is_plain(self) -> bool:
        """Whether nothing tones, and the paper shows no colour of its own."""
        return is_plain(self.recipe.toner) and not self._share

    @property
    def _share(self) -> float:
        """How much of the paper's own colour is seen."""
        wanted, paper = self.recipe.toner.paper_tone, self.things.paper
        return (1.0 if paper.process else 0.0) if wanted is None else wanted

    def at(self, values: Floats) -> Floats:
        """Light (…), or linear sRGB (…, 3)."""
        if self.is_plain:
            return values
        paper = self.things.paper
        own = own_tone(paper, self._share)
        settings, toners = self.recipe.toner, self.things.toners
        found = toned(np.ravel(values), paper.net_density, settings, own, toners)
        return np.asarray(found.reshape(*np.shape(values), 3))

    @cached_property
    def encoded_scale(self) -> Floats:
        """(STEPS, 3) encoded sRGB over encoded light, in even steps."""
        return encode_srgb(self.at(decode_srgb(np.linspace(0.0, 1.0, STEPS))))

    def encoded(self, light: Floats) -> Floats:
        """Encoded sRGB (N, 3) of encoded light (N,); only where something tones."""
        steps = np.linspace(0.0, 1.0, STEPS)
        return np.stack([np.interp(light, steps, c) for c in self.encoded_scale.T], axis=-1)
