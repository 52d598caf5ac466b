"""What the meter says: of the whole picture, and of a spot."""

from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..film.curve import characteristic_curve
from ..film.zones import LOG10_STOP
from ..light.hue_bands import TO_XYZ, coloured, hue_of, shares
from ..light_path import F32, MIDDLE_GREY, LightPath, encode_srgb
from ..picture import LinearPicture, View
from ..spectra.chromaticity import SIZE, grid_hues
from ..underlay import Grid
from .breaking import Palette
from .stations import Under, code, developed, film_exposure, print_out

READING_SIZE = 768  # long side of the whole picture that readings are taken from
STOPS = 10  # below a channel's limit that its readings tell of
HUES = np.arange(2.5, 360.0, 5.0)
METER_RADIUS = 4  # pixels about a spot that the meter takes in


@dataclass(frozen=True)
class Readings:
    """What the meter says of the whole picture; shares are parts of 1."""

    scene_zones: list[float]  # (11,) by exposure of the film
    negative_zones: list[float]  # (11,) by the zone that normal development gives a density
    print_values: list[float]  # (11,) by lightness of the print, L*/10
    histogram: list[int]  # (256,) of the print's output numbers
    exposure_histogram: list[int]  # (64,) over log2 H from -8 to +8 stops about Zone V
    paper_black: float  # share at the paper's maximum density
    paper_white: float  # share at the paper base
    capture_clipped: float  # share with a channel at the capture's limit
    breaking: float  # share where noise of colour becomes noise of tone that is seen
    channels: list[list[int]]  # (3, 80) red, green, blue over stops below their limit, 10 to 0
    headroom: list[float]  # (3,) stops from a channel's brightest thousandth to its limit
    hues: list[float]  # (72,) coloured share of the picture over hue, 5 degrees each, largest 1
    looks_infrared: bool  # nearly all of it has the cast of an infrared-converted camera


def _coloured_hues(palette: Palette) -> NDArray[np.float64]:
    """(72,) how much of a picture has each hue, weighed by saturation, largest 1."""
    hue, saturation = (v[palette.green * SIZE + palette.red] for v in grid_hues())
    found, _ = np.histogram(hue, 72, (0.0, 360.0), weights=palette.counts * saturation)
    return np.asarray(found / max(found.max(), 1e-9))


@dataclass(frozen=True)
class ChannelReadings:
    """How the capture's light lies below the limits of its channels."""

    clipped: float
    counts: list[list[int]]
    headroom: list[float]

    @property
    def nbytes(self) -> int:
        """What it holds, for the cache's sake."""
        return 4096


def channels_of(light: NDArray[np.uint16], limits: tuple[float, float, float]) -> ChannelReadings:
    """Readings of the light of a whole picture (H, W, 3)."""
    counts, headroom = [], []
    edges = np.concatenate([[-1.0], np.exp2(np.linspace(-STOPS, 0.0, 8 * STOPS + 1)[1:-1]), [9e9]])
    for channel, limit in enumerate(limits):
        part = np.bincount(light[..., channel].ravel(), minlength=65536)
        found = np.add.reduceat(part, np.clip(np.ceil(edges[:-1] * limit), 0, 65535).astype(int))
        counts.append([int(v) for v in found])
        above = np.cumsum(part[::-1])  # from the brightest down
        bright = 65535 - int(np.searchsorted(above, 0.001 * above[-1]))
        headroom.append(max(float(np.log2(limit / max(bright, 1))), 0.0))
    clipped = float((light >= np.array(limits)).any(axis=2).mean())
    return ChannelReadings(clipped, counts, headroom)


def readings_of(
    path: LightPath,
    exposure: F32,
    density: F32,
    numbers: NDArray[np.uint8],
    channels: ChannelReadings,
    palette: Palette,
    breaking: float,
) -> Readings:
    """Readings of a whole picture: its log2 H, density and output numbers (H, W), how its
    channels lie, its colours and the share of it that breaks up."""
    hues = _coloured_hues(palette)
    zones, exposures, densities, histogram = (np.zeros(n, np.int64) for n in (11, 64, 400, 256))
    kernels.count(exposure, density, numbers, zones, exposures, densities, histogram)
    return Readings(
        scene_zones=[float(v) for v in zones / numbers.size],
        negative_zones=_negative_zones(densities, path),
        print_values=_print_values(histogram),
        histogram=[int(v) for v in histogram],
        exposure_histogram=[int(v) for v in exposures],
        paper_black=float(histogram[0]) / numbers.size,
        paper_white=float(histogram[255]) / numbers.size,
        capture_clipped=channels.clipped,
        breaking=breaking,
        channels=channels.counts,
        headroom=channels.headroom,
        hues=[float(v) for v in hues],
        looks_infrared=bool(hues[(HUES > 290) | (HUES < 40)].sum() > 0.98 * hues.sum() > 0),
    )


def lightness(number: NDArray[Any]) -> NDArray[np.float64]:
    """L* of output numbers 0-255. Sources: IEC 61966-2-1, CIE 15."""
    v = np.asarray(number, dtype=np.float64) / 255.0
    y = np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)
    return np.asarray(np.where(y > 216 / 24389, 116.0 * np.cbrt(y) - 16.0, y * 24389 / 27))


PRINT_VALUE = np.rint(lightness(np.arange(256)) / 10.0).astype(int)  # of each output number
VALUE_TONES = np.array(
    [np.abs(lightness(np.arange(256)) - 10.0 * value).argmin() for value in range(11)], np.uint8
)
# What is not held: near the surround's grey, or, about dark zones, in a light haze
SUNK = (44 + 0.16 * np.arange(256)).astype(np.uint8)
HAZED = (138 + 0.16 * np.arange(256)).astype(np.uint8)


def _print_values(histogram: NDArray[np.integer]) -> list[float]:
    counts = np.bincount(PRINT_VALUE, weights=histogram, minlength=11)
    return [float(c) for c in counts / histogram.sum()]


def _negative_zones(densities: NDArray[np.integer], path: LightPath) -> list[float]:
    """Shares by zone of densities (400 hundredths): the zone that gives each in normal
    development of the stock."""
    zones = np.linspace(-2.0, 12.0, 281)
    normal = characteristic_curve(path.stock.curve).density((zones - 5.0) * LOG10_STOP)
    place = np.interp(np.arange(0.005, 4.0, 0.01), normal, zones)
    steps = np.clip(np.rint(place), 0, 10).astype(int)
    counts = np.bincount(steps, weights=densities, minlength=11)
    return [float(c) for c in counts / densities.sum()]


def held(numbers: NDArray[np.uint8], inside: NDArray[np.bool_]) -> NDArray[np.uint8]:
    """A print (H, W) in which only a part stands and the rest sinks back."""
    darks = inside.any() and np.median(numbers[inside][::16]) < 100
    return np.where(inside, numbers, (HAZED if darks else SUNK)[numbers])


def held_zones(
    numbers: NDArray[np.uint8],
    exposure: F32,
    first: int,
    last: int,
    side: Literal["scene", "print"],
) -> NDArray[np.uint8]:
    """A print (H, W) in which only some zones stand: zones `first` to `last` of the scene by
    exposure (log2 H), or of the print by its lightness."""
    if side == "scene":
        inside = (exposure >= first - 5.5) if first > 0 else np.ones(numbers.shape, bool)
        if last < 10:
            inside &= exposure < last - 4.5
    else:
        inside = ((first <= PRINT_VALUE) & (last >= PRINT_VALUE))[numbers]
    return held(numbers, inside)


@dataclass(frozen=True)
class Spot:
    """What light became at one place of the picture, station by station."""

    stops: float  # of the light itself, from middle grey: for the exposure value
    zone: float  # of the scene, by the film's exposure
    negative: float  # density, base and fog included
    density: float  # of the print, above the paper base
    value: float  # print value, L*/10
    number: int  # output number, 0-255
    clipped: bool  # a channel of the capture is at its limit: the zone is "at least" this
    bands: list[float]  # by how much each hue band moves it
    colour: tuple[float, float, float]  # shares of red, green and blue in its light


def read_spot(
    picture: LinearPicture, path: LightPath, under: Under, place: tuple[int, int], radius: int
) -> Spot:
    """The mean light of a square of 2 * radius + 1 pixels about a place (x, y)."""
    x, y = place
    left, top = max(0, x - radius), max(0, y - radius)
    right, bottom = min(picture.width, x + radius + 1), min(picture.height, y + radius + 1)
    size = (right - left, bottom - top)
    light = picture.cut(View(left, top, *size, *size))
    mean = np.rint(light.mean(axis=(0, 1))).astype(np.uint16)[None, None]
    grid = Grid(x, y, 1.0, 1.0, 0, picture.width, picture.height)
    exposure = film_exposure(code(mean, picture.scale, picture.gains), path, under, grid, 0.0)
    negative = developed(exposure, path, under, grid)
    number = int(print_out(negative, path)[0, 0])
    hue, saturation = hue_of(np.maximum(mean[0, 0].astype(np.float64), 1e-6))
    moved = shares(path.recipe.light.hue_bands, hue) * coloured(saturation)
    luminance = float(mean[0, 0].astype(np.float64) @ TO_XYZ[1]) * picture.scale
    return Spot(
        stops=float(np.log2(max(luminance, 1e-6) / MIDDLE_GREY)),
        zone=float(exposure[0, 0]) + 5.0,
        negative=float(negative[0, 0]),
        density=float(path.print_density(negative)[0, 0]),
        value=float(lightness(np.array(number))) / 10.0,
        number=number,
        clipped=bool((light >= np.array(picture.limits)).any()),
        bands=[float(v) for v in moved],
        colour=_shares(mean[0, 0]),
    )


def _shares(rgb: NDArray[Any]) -> tuple[float, float, float]:
    """Of the sum; none is less than a thousandth."""
    colour = np.maximum(rgb.astype(np.float64), 1.0)
    red, green, blue = np.maximum(colour / colour.sum(), 0.001)
    return float(red), float(green), float(blue)


def zone_plate(
    numbers: NDArray[np.uint8], exposure: F32, path: LightPath, side: Literal["scene", "print"]
) -> NDArray[np.uint8]:
    """A print (H, W) in eleven flat tones: zones of the scene in the tone each prints as, or print
    values in their own."""
    if side == "print":
        return np.asarray(VALUE_TONES[PRINT_VALUE[numbers]])
    zones = np.clip(exposure + np.float32(5.5), 0, 10.5).astype(np.intp)
    return np.asarray(np.array(zone_tones(path), np.uint8)[zones])


def clipped_parts(numbers: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """A print (H, W) in which what is full black or bare paper stands, the rest sinks to greys."""
    light = np.arange(256) * 0.35 + 96
    light[[0, 255]] = 0, 255
    return light.astype(np.uint8)[numbers]


def proof(numbers: NDArray[np.uint8], path: LightPath) -> NDArray[np.uint8]:
    """The print (H, W) as it is seen on its paper, 8-bit sRGB (H, W, 3): the base's tint, and a
    black that is as deep as the paper's, not as the screen's."""
    paper = path.paper
    tint = np.array([int(paper.tint[i : i + 2], 16) for i in (1, 3, 5)]) / 255.0
    base = np.where(tint <= 0.04045, tint / 12.92, ((tint + 0.055) / 1.055) ** 2.4)
    number = np.arange(256) / 255.0
    y = np.where(number <= 0.04045, number / 12.92, ((number + 0.055) / 1.055) ** 2.4)
    black = 10.0**-paper.net_density
    light = (y * (1.0 - black) + black)[:, None] * base
    return np.rint(encode_srgb(light) * 255).astype(np.uint8)[numbers]


def zone_tones(path: LightPath) -> list[int]:
    """Output number (0-255) that each zone of the scene prints as, (11,)."""
    exposures = np.arange(-5, 6) * LOG10_STOP
    density = path.negative_density(exposures).astype(np.float32)[None]
    return [int(v) for v in print_out(density, path)[0]]
