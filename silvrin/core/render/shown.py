"""The print as it is shown: on its paper, in flat zones, or with only a part of it standing.

A print is output numbers (H, W) of greys, or (H, W, 3) where it has colour.
"""

from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from ..colour import SRGB_LUMINANCE, decode_srgb, encode_srgb, lightness_of
from ..development.negative import Developing
from ..enlarger.projection import Projection
from ..film.zones import LOG10_STOP
from ..light_path import LightPath
from ..mount.mounting import Mounting
from ..picture import View
from ..plate import Plate
from ..toner.baths import greatest_density
from ..toner.toning import Toning
from .coding import F32
from .mixing import mixture

U8 = NDArray[np.uint8]
Side = Literal["scene", "negative", "print"]


def lightness(number: NDArray[Any]) -> NDArray[np.float64]:
    """L* of output numbers 0-255."""
    return lightness_of(decode_srgb(np.asarray(number, np.float64) / 255.0))


PRINT_VALUE = np.rint(lightness(np.arange(256)) / 10.0).astype(int)  # of each output number
VALUE_TONES = np.array(
    [np.abs(lightness(np.arange(256)) - 10.0 * value).argmin() for value in range(11)], np.uint8
)
# What is not held: near the surround's grey, or, about dark zones, in a light haze
SUNK = (44 + 0.16 * np.arange(256)).astype(np.uint8)
HAZED = (138 + 0.16 * np.arange(256)).astype(np.uint8)


def grey_of(numbers: U8) -> U8:
    """The greys (H, W) that are as light as a print."""
    if numbers.ndim == 2:
        return numbers
    light = decode_srgb(np.arange(256) / 255.0).astype(np.float32)
    luminance = light[numbers] @ SRGB_LUMINANCE.astype(np.float32)
    return (encode_srgb(np.clip(luminance, 0.0, 1.0)) * 255 + 0.5).astype(np.uint8)


def held(numbers: U8, inside: NDArray[np.bool_]) -> U8:
    """A print of which only a part (H, W) stands and the rest sinks back."""
    greys = grey_of(numbers)
    darks = inside.any() and np.median(greys[inside][::16]) < 100
    sunk = (HAZED if darks else SUNK)[greys]
    if numbers.ndim == 3:
        return np.where(inside[..., None], numbers, sunk[..., None])
    return np.where(inside, numbers, sunk)


def zones_of(
    side: Side, path: LightPath, numbers: U8, exposure: F32, density: F32
) -> NDArray[np.intp]:
    """Zones 0 to 10 (H, W): of the scene by exposure (log2 H, (H, W)), of the negative by the zone
    that normal development gives its density (H, W), or of the print by its lightness."""
    if side == "scene":
        return np.asarray(np.clip(exposure + np.float32(5.5), 0, 10.5), np.intp)
    if side == "negative":
        return np.asarray(np.searchsorted(zone_edges(path), density, side="right"))
    return np.asarray(PRINT_VALUE[grey_of(numbers)])


def zone_edges(path: LightPath) -> NDArray[np.float32]:
    """(10,) densities between zones, as normal development in the same developer gives them."""
    between = (np.arange(0.5, 10.0) - 5.0) * LOG10_STOP
    return path[Developing].normal.density(between).astype(np.float32)


def held_zones(numbers: U8, zones: NDArray[np.intp], first: int, last: int) -> U8:
    """A print of which only what lies in zones `first` to `last` of some side stands."""
    return held(numbers, (zones >= first) & (zones <= last))


HATCHED = np.array([232, 162, 74], np.float32)  # of the lines that show an area
PITCH, LINE = 9, 4.2  # pixels from one such line to the next, and its greatest width
HEAT = 1.5  # stops at which the heat picture is at its ends
COLD, HOT = (70.0, 128.0, 196.0), (226.0, 112.0, 40.0)  # dodged, burned


def hatched(numbers: U8, amount: F32, view: View) -> U8:
    """A view of a print with slanting amber lines, (H, W, 3), over an area (H, W): the more of it,
    the wider. They move with the picture."""
    height, width = amount.shape
    across = np.arange(width, dtype=np.float32) + view.left * width // view.width
    down = (np.arange(height, dtype=np.float32) + view.top * height // view.height)[:, None]
    away = np.abs((across + down) % np.float32(PITCH) - np.float32(PITCH / 2))
    wide = np.float32(LINE / 2) * np.sqrt(np.clip(np.abs(amount), 0.0, 1.0))
    drawn = np.clip(wide - away + np.float32(0.5), 0.0, 1.0) * np.clip(wide, 0.0, 0.8)
    greys = _in_three(numbers)
    return np.asarray(greys + (HATCHED - greys) * drawn[..., None] + 0.5, np.uint8)


def heat(numbers: U8, stops: F32) -> U8:
    """What a printing map gives (H, W), in stops, over the print sunk to a quarter: blue where it
    is dodged, red where burned."""
    part = np.clip(stops / np.float32(HEAT), -1.0, 1.0)[..., None]
    ground = 40.0 + 0.3 * _in_three(numbers)
    tone = np.where(part < 0, np.array(COLD, np.float32), np.array(HOT, np.float32))
    return np.asarray(ground + (tone - ground) * 0.85 * np.sqrt(np.abs(part)) + 0.5, np.uint8)


def _in_three(numbers: U8) -> F32:
    three = numbers if numbers.ndim == 3 else np.repeat(numbers[..., None], 3, axis=2)
    return three.astype(np.float32)


def zone_plate(zones: NDArray[np.intp], path: LightPath, side: Side) -> U8:
    """A print in eleven flat tones: zones in the tone each prints as, print values in their own."""
    return np.asarray(plate_tones(path, side)[zones])


def plate_tones(path: LightPath, side: Side) -> U8:
    """Output numbers of the zones of a side, or of print values: (11,), or (11, 3) with colour."""
    if side != "print":
        return zone_fields(path, side)
    if path[Toning].is_plain:
        return VALUE_TONES
    shown = path[Toning].at(decode_srgb(VALUE_TONES / 255.0))
    return np.asarray(np.rint(encode_srgb(shown) * 255), np.uint8)


def hex_tones(path: LightPath, side: Side) -> list[str]:
    """The same as #rrggbb."""
    found = plate_tones(path, side)
    three = found if found.ndim == 2 else np.repeat(found[:, None], 3, axis=1)
    return [f"#{r:02x}{g:02x}{b:02x}" for r, g, b in three]


def clipped_parts(numbers: U8) -> U8:
    """A print (H, W) in which what is full black or bare paper stands, the rest sinks to greys."""
    light = np.arange(256) * 0.35 + 96
    light[[0, 255]] = 0, 255
    return light.astype(np.uint8)[grey_of(numbers)]


def proof(numbers: U8, path: LightPath) -> U8:
    """The print as it is seen on its paper, 8-bit sRGB (H, W, 3): the base's tint, and a black that
    is as deep as the paper's, not as the screen's."""
    paper = path.things.paper
    base = decode_srgb(np.array([int(paper.tint[i : i + 2], 16) for i in (1, 3, 5)]) / 255.0)
    black = 10.0 ** -greatest_density(paper.net_density, path.recipe.toner, path.things.toners)
    light = decode_srgb(np.arange(256) / 255.0) * (1.0 - black) + black
    shown = np.rint(encode_srgb(light[:, None] * base) * 255).astype(np.uint8)  # (256, 3)
    if numbers.ndim == 2:
        return shown[numbers]
    return np.stack([shown[numbers[..., c], c] for c in range(3)], axis=-1)


def paper_seen(path: LightPath) -> NDArray[np.float64]:
    """Black and base of the print as `proof` shows them, encoded (2, 3)."""
    ends = np.rint(path[Mounting].paper * 255).astype(np.uint8)
    return np.asarray(proof(ends[None], path)[0] / 255.0)


def projected(negative: Plate, path: LightPath) -> U8:
    """The negative as the enlarger throws it on its board, output numbers (H, W): light in sRGB,
    clear film being white."""
    clear = path[Developing].density(np.array([-np.inf]))
    densities = np.linspace(
        float(clear[0]), float(max(negative.pixels.max(), clear[0] + 0.1)), 4096
    )
    exposures = path[Projection].at(densities)
    light = encode_srgb(10.0 ** (exposures - exposures[0]))
    curve = np.rint(np.clip(light, 0.0, 1.0) * 255).astype(np.uint8)
    step = (negative.pixels - densities[0]) * (4095 / (densities[-1] - densities[0]))
    return np.asarray(curve[np.clip(step + 0.5, 0, 4095).astype(np.intp)])


def zone_fields(path: LightPath, side: Side = "scene") -> U8:
    """Output numbers that even fields of Zones 0 to X print as, of the scene or of the negative:
    (11,), or (11, 3) with colour."""
    developing, exposures = path[Developing], np.arange(-5, 6) * LOG10_STOP
    developed = developing.normal if side == "negative" else developing
    fields = path.print_even(developed.density(exposures))
    if path.mixed is None:
        return fields
    before, strength = path.mixed
    return np.asarray(mixture(zone_fields(before, side)[None], fields[None], strength)[0])
