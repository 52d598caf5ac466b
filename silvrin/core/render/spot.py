"""What the meter says of a spot."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..colour import BT2020_TO_XYZ, decode_srgb
from ..development.negative import Negative
from ..enlarger.projection import Projection
from ..enlarger.working import Worked
from ..film.exposure import Exposure, Under
from ..light.conversion import MIDDLE_GREY
from ..light.hue_bands import coloured, hue_of, shares
from ..light.laying import band_at, band_for
from ..light.settings import HueBand
from ..light.sureness import Sureness
from ..light_path import LightPath
from ..paper.printing import Finish
from ..picture import LinearPicture, View
from ..places import PicturePixel
from ..plate import Grid, Plate
from ..toner.colours import lab_of
from .coding import code
from .mixing import mixture
from .shown import grey_of, lightness
from .sitting import Sitting
from .toning import by_place

METER_RADIUS = 4  # pixels about a spot that the meter takes in


@dataclass(frozen=True)
class Spot:
    """What light became at one place of the picture, station by station."""

    stops: float  # of the light itself, from middle grey: for the exposure value
    zone: float  # of the scene, by the film's exposure
    negative: float  # density, base and fog included
    density: float  # of the print, above the paper base
    value: float  # print value, L*/10
    number: int  # output number, 0-255
    lab: tuple[float, float, float] | None  # CIELAB of the print where it has a colour
    clipped: bool  # a channel of the capture is at its limit: the zone is "at least" this
    unsure: float  # stops that the zone may be off by, since colour alone tells no spectrum
    hue: float  # degrees
    coloured: float  # 0 for a grey to 1: how far hue bands act on it
    band: int | None  # the hue band, from 0, that covers its hue
    band_share: float  # of that band's stops, that it gets
    new_band: HueBand | None  # that would be made about its hue
    colour: tuple[float, float, float]  # shares of red, green and blue in its light


def read_spot(
    sitting: Sitting, under: Under, by_hand: Worked, place: PicturePixel, radius: int
) -> Spot:
    """The mean light of a circle about a place: of the pixels whose middles lie no farther than
    half a pixel beyond `radius` from its own."""
    picture, path = sitting.picture, sitting.path
    light = light_about(picture, place, radius)
    mean = np.rint(light.mean(axis=0)).astype(np.uint16)[None, None]
    grid = Grid(*place, 1.0, 1.0, 0, picture.width, picture.height)
    coded = Plate(code(mean, picture.scale, picture.gains), grid)
    exposure = path[Exposure].over(coded, under, 0.0)
    negative = path[Negative].developed(exposure, under)
    worked = path[Projection].worked(negative, by_hand, coded.pixels)
    shown = path.print_out(worked, toned=by_place(path, by_hand, negative, lambda: coded.pixels))
    number = int(grey_of(shown)[0, 0])
    net = path.net_density(worked).astype(np.float64)
    angle, saturation = hue_of(np.maximum(mean[0, 0].astype(np.float64), 1e-6))
    hue, bands, strength = float(angle), path.recipe.light.hue_bands, float(coloured(saturation))
    covering = band_for(bands, hue)
    luminance = float(mean[0, 0].astype(np.float64) @ BT2020_TO_XYZ[1]) * picture.scale
    return Spot(
        stops=float(np.log2(max(luminance, 1e-6) / MIDDLE_GREY)),
        zone=float(exposure.pixels[0, 0]) + 5.0,
        negative=float(negative.pixels[0, 0]),
        density=float(path[Finish].density(net)[0, 0]),
        value=float(lightness(np.array(number))) / 10.0,
        number=number,
        lab=None if shown.ndim == 2 else _lab(shown[0, 0]),
        clipped=bool((light >= np.array(picture.limits)).any()),
        unsure=float(path[Sureness].of_few(coded.pixels[0])[0]),
        hue=hue,
        coloured=strength,
        band=covering,
        band_share=0.0
        if covering is None
        else strength * float(shares(bands, np.array(hue))[covering]),
        new_band=band_at(bands, hue),
        colour=_shares(mean[0, 0]),
    )


def light_about(picture: LinearPicture, place: PicturePixel, radius: int) -> NDArray[np.uint16]:
    """The light (N, 3) of a circle about a place."""
    x, y = place
    left, top = max(0, x - radius), max(0, y - radius)
    right, bottom = min(picture.width, x + radius + 1), min(picture.height, y + radius + 1)
    size = (right - left, bottom - top)
    light = picture.cut(View(left, top, *size, *size))
    rows, columns = np.ogrid[top:bottom, left:right]
    return np.asarray(light[(rows - y) ** 2 + (columns - x) ** 2 <= (radius + 0.5) ** 2])


def between(before: Spot, after: Spot, strength: float, path: LightPath) -> Spot:
    """A spot of a print that is a mixture of two: of the second, printed between them."""
    one, other = (np.array([[spot.number]], np.uint8) for spot in (before, after))
    number = int(mixture(one, other, strength)[0, 0])
    black = 10.0**-path.things.paper.net_density
    light = float(decode_srgb(np.array(number / 255.0)))
    return replace(
        after,
        number=number,
        value=float(lightness(np.array(number))) / 10.0,
        density=-float(np.log10(light * (1.0 - black) + black)),
    )


def _lab(numbers: NDArray[Any]) -> tuple[float, float, float]:
    lightness, a, b = lab_of(decode_srgb(numbers[None] / 255.0))[0]
    return float(lightness), float(a), float(b)


def _shares(rgb: NDArray[Any]) -> tuple[float, float, float]:
    """Of the sum; none is less than a thousandth."""
    colour = np.maximum(rgb.astype(np.float64), 1.0)
    red, green, blue = np.maximum(colour / colour.sum(), 0.001)
    return float(red), float(green), float(blue)
