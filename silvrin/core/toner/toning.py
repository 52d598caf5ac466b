"""Toning: what the baths make of the silver, tonal stops, washes.

Tonal stops are colours at places of the scale, joined smoothly in CIELAB; nothing is lighter than
the last of them. Washes, and warmth taken out, come last and keep lightness.
"""

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
)
from ..later import interpolate
from ..light.hue_bands import colour_of_hue
from ..paper.printing import Finish
from ..station import ToneStation
from .baths import (
    NEUTRAL,
    NO_TONERS,
    OwnTone,
    Toners,
    bathed,
    greatest_density,
    own_tone,
)
from .colours import lab_of, srgb_of, within
from .settings import TonalStop, TonerSettings

Floats = NDArray[np.float64]

WARM_BASE, COLD_BASE = (0xFF, 0xF4, 0xE6), (0xF3, 0xF7, 0xFF)
WASH_CHROMA, WASH_RUN = 32.0, 32.0  # of a whole wash, CIELAB; L* over which two give way
WARM_HUE = 75.0  # degrees in CIELAB
STEPS = 2049  # of the print's scale, evenly over its output numbers


def is_plain(settings: TonerSettings) -> bool:
    """Whether the print stays as the paper gives it."""
    s = settings
    return not (
        s.warmth or s.stops or s.shadow_wash or s.light_wash or any(b.time for b in s.baths)
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
    shown, _ = bathed(density, most, settings, own, toners)
    warmth = settings.warmth
    base = decode_srgb(np.array(WARM_BASE if warmth > 0 else COLD_BASE) / 255.0)
    # a bath that deepens black gives a longer scale: what was told apart stays so
    deepest = min(black, 10.0 ** -greatest_density(most, settings, toners))
    shown = np.clip((shown - deepest) / (1.0 - deepest), 0.0, 1.0)
    shown = shown * (1.0 + abs(warmth) * (base - 1.0)) * own.base
    if settings.stops:
        shown = through_stops(shown @ SRGB_LUMINANCE, settings.stops)
    return _washed(shown, settings)


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
