"""Pixels through the light path: live views, cached between stations; full size in strips."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from ..errors import Dropped
from . import kernels
from .enlarger.test_strip import TestStrip, edges, lie_for
from .film.grain import tile
from .film.zones import LOG10_STOP
from .light.hue_bands import coloured, hue_of, shares
from .light_path import F32, Curve, LightPath, encode_srgb
from .picture import U16, LinearPicture, View
from .spectra.chromaticity import SIZE, grid_hues

READING_SIZE = 768  # long side of the whole picture that readings are taken from
STRIP_PIXELS = 1 << 21
HUES = np.arange(2.5, 360.0, 5.0)
METER_RADIUS = 4  # pixels about a spot that the meter takes in
CLIPPED = 65500  # code from which a channel counts as at its limit

# Linear BT.2020 to linear sRGB, both D65: ITU-R BT.2087
TO_SRGB = np.array(
    [[1.6605, -0.5876, -0.0728], [-0.1246, 1.1329, -0.0083], [-0.0182, -0.1006, 1.1187]]
)


class StationCache:
    """Results of stations, newest kept, bounded in bytes; safe to share between threads.

    A view of eight million pixels and its results take about 170 MB.
    """

    def __init__(self, limit: int = 320 << 20) -> None:
        self._limit = limit
        self._bytes = 0
        self._kept: OrderedDict[Hashable, NDArray[Any]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], NDArray[Any]]) -> NDArray[Any]:
        """The result under a key, made when it is not there."""
        with self._lock:
            found = self._kept.get(key)
            if found is not None:
                self._kept.move_to_end(key)
                return found
        made = make()
        with self._lock:
            if key not in self._kept:
                self._kept[key] = made
                self._bytes += made.nbytes
            while self._bytes > self._limit and len(self._kept) > 1:
                self._bytes -= self._kept.popitem(last=False)[1].nbytes
        return made


@dataclass(frozen=True)
class Readings:
    """What the meter says of the whole picture; shares are parts of 1."""

    scene_zones: list[float]  # (11,) by exposure of the film
    print_values: list[float]  # (11,) by lightness of the print, L*/10
    histogram: list[int]  # (256,) of the print's output numbers
    exposure_histogram: list[int]  # (64,) over log2 H from -8 to +8 stops about Zone V
    paper_black: float  # share at the paper's maximum density
    paper_white: float  # share at the paper base
    capture_clipped: float  # share with a channel at the capture's limit
    hues: list[float]  # (72,) coloured share of the picture over hue, 5 degrees each, largest 1
    looks_infrared: bool  # nearly all of it has the cast of an infrared-converted camera


def code(light: U16, scale: float) -> F32:
    """Linear light (H, W, 3) as chromaticity cells and log2 of the sum, for `expose`."""
    out = np.empty(light.shape, np.float32)
    cells = np.float32(SIZE - 1)
    kernels.by_rows(
        kernels.code_colour, len(light), np.ascontiguousarray(light), np.float32(scale), cells, out
    )
    return out


def expose(coded: F32, path: LightPath) -> F32:
    """log2 H of the film, (H, W)."""
    out = np.empty(coded.shape[:2], np.float32)
    shift = np.float32(path.placement)
    kernels.by_rows(kernels.expose, len(coded), coded, path.table, shift, out)
    return out


def develop(exposure: F32, path: LightPath) -> F32:
    """Density of the negative, (H, W)."""
    return _through(kernels.through_curve, exposure, path.negative_curve, np.float32)


def with_grain(density: F32, path: LightPath, picture: LinearPicture, view: View) -> F32:
    """Density of a view's negative, (rows, columns), with its grain."""
    deviation, spread = path.grain(max(picture.width, picture.height))
    if deviation == 0.0:
        return density
    reduction = max(1.0, view.width / view.out_width)
    noise = tile(spread, reduction)
    out = np.empty_like(density)
    kernels.by_rows(
        kernels.add_grain,
        len(density),
        density,
        noise,
        np.uint32(round(view.top / reduction)),
        np.uint32(round(view.left / reduction)),
        np.float32(path.stock.curve.base_fog),
        np.float32(deviation),
        out,
    )
    return out


def print_out(density: F32, path: LightPath, bits: int = 8) -> NDArray[Any]:
    """Output numbers of the print, (H, W), uint8 or uint16."""
    if bits == 8:
        return _through(kernels.through_curve_u8, density, path.print_curve(256), np.uint8)
    return _through(kernels.through_curve_u16, density, path.print_curve(65536), np.uint16)


def _through(kernel: Any, values: F32, curve: Curve, kind: Any) -> NDArray[Any]:
    out = np.empty(values.shape, kind)
    start = np.float32(curve.start)
    kernels.by_rows(kernel, len(values), values, curve.points, start, curve.inverse_step, out)
    return out


class Darkroom:
    """Renders views of pictures, keeping what stations gave so that a change re-runs only from
    its own station on."""

    def __init__(self, cache: StationCache | None = None) -> None:
        self.cache = cache or StationCache()

    def view(
        self,
        name: Hashable,
        picture: LinearPicture,
        path: LightPath,
        view: View,
        wanted: Callable[[], bool] = lambda: True,
    ) -> NDArray[np.uint8]:
        """The print as 8-bit numbers, (out_height, out_width).

        Raises Dropped when no longer wanted.
        """
        return print_out(self.negative(name, picture, path, view, wanted), path)

    def negative(
        self,
        name: Hashable,
        picture: LinearPicture,
        path: LightPath,
        view: View,
        wanted: Callable[[], bool] = lambda: True,
    ) -> F32:
        """Density of the negative of a view."""

        def make() -> F32:
            exposure = self.exposure(name, picture, path, view)
            if not wanted():
                raise Dropped("a newer picture is wanted")
            return with_grain(develop(exposure, path), path, picture, view)

        return self.cache.get((name, view, path.key_of_negative), make)

    def exposure(self, name: Hashable, picture: LinearPicture, path: LightPath, view: View) -> F32:
        """log2 H of a view."""

        def make() -> F32:
            return expose(self._coded(name, picture, view), path)

        return self.cache.get((name, view, path.key_of_exposure), make)

    def colour(
        self, name: Hashable, picture: LinearPicture, view: View, trim: float = 0.0
    ) -> NDArray[np.uint8]:
        """The capture in colour as 8-bit sRGB, (out_height, out_width, 3)."""
        light = self.cache.get((name, view, "light"), lambda: picture.cut(view))
        out = np.empty(light.shape, np.uint8)
        matrix = (TO_SRGB * picture.scale * 2.0**trim).astype(np.float32)
        curve = (encode_srgb(np.linspace(0.0, 1.0, 4096)) * 255 + 0.5).astype(np.float32)
        kernels.by_rows(kernels.show_colour, len(light), light, matrix, curve, out)
        return out

    def readings(
        self,
        name: Hashable,
        picture: LinearPicture,
        path: LightPath,
        shown: View | None = None,
    ) -> Readings:
        """Shares and histograms of the whole picture; taken from `shown` when that shows it all
        in enough detail."""
        view = picture.whole(READING_SIZE)
        if (
            shown is not None
            and (shown.width, shown.height) == (picture.width, picture.height)
            and view.out_width // 2 <= shown.out_width <= view.out_width * 2
        ):
            view = shown
        exposure = self.exposure(name, picture, path, view)
        density = self.negative(name, picture, path, view)
        numbers = print_out(density, path)
        zones, exposures, histogram = (np.zeros(n, np.int64) for n in (11, 64, 256))
        kernels.count(exposure, numbers, zones, exposures, histogram)
        light = self.cache.get((name, view, "light"), lambda: picture.cut(view))
        clipped = self.cache.get(
            (name, "clipped"), lambda: np.array([float((light.max(axis=2) >= CLIPPED).mean())])
        )
        hues = self._hues(name, picture, view)
        return Readings(
            scene_zones=[float(v) for v in zones / numbers.size],
            print_values=_print_values(histogram),
            histogram=[int(v) for v in histogram],
            exposure_histogram=[int(v) for v in exposures],
            paper_black=float(histogram[0]) / numbers.size,
            paper_white=float(histogram[255]) / numbers.size,
            capture_clipped=float(clipped[0]),
            hues=[float(v) for v in hues],
            looks_infrared=bool(hues[(HUES > 290) | (HUES < 40)].sum() > 0.98 * hues.sum() > 0),
        )

    def _coded(self, name: Hashable, picture: LinearPicture, view: View) -> NDArray[Any]:
        return self.cache.get((name, view, "coded"), lambda: code(picture.cut(view), picture.scale))

    def _hues(self, name: Hashable, picture: LinearPicture, view: View) -> NDArray[Any]:
        def make() -> NDArray[Any]:
            cells = np.rint(self._coded(name, picture, view)[..., :2]).astype(np.intp)
            number = cells[..., 1] * SIZE + cells[..., 0]
            counts = np.bincount(number.ravel(), minlength=SIZE * SIZE)[: SIZE * SIZE]
            hue, saturation = grid_hues()
            found, _ = np.histogram(hue, 72, (0.0, 360.0), weights=counts * saturation)
            return np.asarray(found / max(found.max(), 1e-9))

        return self.cache.get((name, "hues"), make)


def lightness(number: NDArray[Any]) -> NDArray[np.float64]:
    """L* of output numbers 0-255. Sources: IEC 61966-2-1, CIE 15."""
    v = np.asarray(number, dtype=np.float64) / 255.0
    y = np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)
    return np.asarray(np.where(y > 216 / 24389, 116.0 * np.cbrt(y) - 16.0, y * 24389 / 27))


PRINT_VALUE = np.rint(lightness(np.arange(256)) / 10.0).astype(int)  # of each output number
# What is not held: near the surround's grey, or, about dark zones, in a light haze
SUNK = (44 + 0.16 * np.arange(256)).astype(np.uint8)
HAZED = (138 + 0.16 * np.arange(256)).astype(np.uint8)


def _print_values(histogram: NDArray[np.integer]) -> list[float]:
    counts = np.bincount(PRINT_VALUE, weights=histogram, minlength=11)
    return [float(c) for c in counts / histogram.sum()]


def held_zones(
    numbers: NDArray[np.uint8],
    exposure: F32,
    first: int,
    last: int,
    side: Literal["scene", "print"],
) -> NDArray[np.uint8]:
    """A print (H, W) in which only some zones stand and the rest sinks back: zones `first` to
    `last` of the scene by exposure (log2 H), or of the print by its lightness."""
    if side == "scene":
        inside = (exposure >= first - 5.5) if first > 0 else np.ones(numbers.shape, bool)
        if last < 10:
            inside &= exposure < last - 4.5
    else:
        inside = ((first <= PRINT_VALUE) & (last >= PRINT_VALUE))[numbers]
    darks = inside.any() and np.median(numbers[inside][::16]) < 100
    return np.where(inside, numbers, (HAZED if darks else SUNK)[numbers])


@dataclass(frozen=True)
class PrintedStrip:
    """A test strip: output numbers (H, W), the strips' seconds or grades in order, and how they
    lie."""

    numbers: NDArray[np.uint8]
    values: list[float]
    lie: Literal["upright", "level"]


def print_strip(density: F32, path: LightPath, strip: TestStrip) -> PrintedStrip:
    """A negative printed under the times of a test strip, or on its grades."""
    lie = strip.lie or lie_for(density[::8, ::8])
    values = strip.values(path.time)
    out = np.empty(density.shape, np.uint8)
    bounds = edges(density.shape[1 if lie == "upright" else 0], strip.count)
    for value, (start, stop) in zip(values, pairwise(bounds), strict=True):
        here = path.under(value) if strip.over == "time" else path.on_grade(value)
        part = np.s_[:, start:stop] if lie == "upright" else np.s_[start:stop]
        out[part] = print_out(np.ascontiguousarray(density[part]), here)
    return PrintedStrip(out, values, lie)


@dataclass(frozen=True)
class Spot:
    """What light became at one place of the picture, station by station."""

    zone: float  # of the scene, by the film's exposure
    negative: float  # density, base and fog included
    density: float  # of the print, above the paper base
    value: float  # print value, L*/10
    number: int  # output number, 0-255
    clipped: bool  # a channel of the capture is at its limit: the zone is "at least" this
    bands: list[float]  # by how much each hue band moves it
    colour: tuple[float, float, float]  # shares of red, green and blue in its light


def spot(picture: LinearPicture, path: LightPath, x: int, y: int, radius: int) -> Spot:
    """The mean light of a square of 2 * radius + 1 pixels about (x, y), taken down the path.

    Raises ValueError when (x, y) is outside the picture.
    """
    if not (0 <= x < picture.width and 0 <= y < picture.height):
        raise ValueError(f"({x}, {y}) is outside the picture of {picture.width} x {picture.height}")
    left, top = max(0, x - radius), max(0, y - radius)
    right, bottom = min(picture.width, x + radius + 1), min(picture.height, y + radius + 1)
    light = picture.levels[0][top:bottom, left:right]
    mean = np.rint(light.mean(axis=(0, 1))).astype(np.uint16)[None, None]
    exposure = expose(code(mean, picture.scale), path)
    negative = develop(exposure, path)
    number = int(print_out(negative, path)[0, 0])
    hue, saturation = hue_of(np.maximum(mean[0, 0].astype(np.float64), 1e-6))
    moved = shares(path.recipe.light.hue_bands, hue) * coloured(saturation)
    return Spot(
        zone=float(exposure[0, 0]) + 5.0,
        negative=float(negative[0, 0]),
        density=float(path.print_density(negative)[0, 0]),
        value=float(lightness(np.array(number))) / 10.0,
        number=number,
        clipped=bool(light.max() >= CLIPPED),
        bands=[float(v) for v in moved],
        colour=_shares(mean[0, 0]),
    )


def _shares(rgb: NDArray[Any]) -> tuple[float, float, float]:
    """Of the sum; none is less than a thousandth."""
    colour = np.maximum(rgb.astype(np.float64), 1.0)
    red, green, blue = np.maximum(colour / colour.sum(), 0.001)
    return float(red), float(green), float(blue)


def zone_tones(path: LightPath) -> list[int]:
    """Output number (0-255) that each zone of the scene prints as, (11,)."""
    exposures = np.arange(-5, 6) * LOG10_STOP
    density = path.negative.density(exposures).astype(np.float32)[None]
    return [int(v) for v in print_out(density, path)[0]]


def strips(
    picture: LinearPicture,
    path: LightPath,
    long_side: int | None = None,
    bits: int = 16,
    wanted: Callable[[], bool] = lambda: True,
) -> Iterator[NDArray[Any]]:
    """The finished print from top to bottom, in strips (rows, width) of uint8 or uint16.

    `long_side` reduces the light before it meets the film; None is full size. Raises Dropped
    when it is no longer wanted.
    """
    view = picture.whole(long_side or max(picture.width, picture.height))
    light = picture.cut(view) if view.out_width < picture.width else picture.levels[0]
    rows = max(16, STRIP_PIXELS // light.shape[1])
    for top in range(0, len(light), rows):
        if not wanted():
            raise Dropped("the delivery was cancelled")
        exposure = expose(code(light[top : top + rows], picture.scale), path)
        strip = replace(view, top=round(top * view.width / view.out_width))
        yield print_out(with_grain(develop(exposure, path), path, picture, strip), path, bits)
