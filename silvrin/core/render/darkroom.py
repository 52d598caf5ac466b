"""Views of pictures, keeping what stations gave so that a change re-runs only from its own
station on."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import replace
from typing import Any, Protocol, TypeVar

import numpy as np
from numpy.typing import NDArray

from ...errors import Dropped
from .. import kernels, underlay
from ..capture.flatten import is_plain, smooth_maps
from ..light.haze import Veil, find_veil
from ..light_path import F32, LightPath, encode_srgb
from ..paper.finish import points_for
from ..picture import U16, LinearPicture, View
from ..underlay import Grid, Scatter
from .breaking import ChromaNoise, chroma_noise, noise_of, palette_of, share_breaking
from .readings import READING_SIZE, Readings, Spot, channels_of, read_spot, readings_of
from .stations import (
    LEAST_BLUR,
    Under,
    code,
    developed,
    expose,
    film_exposure,
    print_out,
    with_grain,
)

# Linear BT.2020 to linear sRGB, both D65: ITU-R BT.2087
TO_SRGB = np.array(
    [[1.6605, -0.5876, -0.0728], [-0.1246, 1.1329, -0.0083], [-0.0182, -0.1006, 1.1187]]
)
FILM_MARGINS = 3.5  # standard deviations of the film's blur that a piece is cut wider


class Sized(Protocol):
    """Something of which the size in memory is known."""

    @property
    def nbytes(self) -> int: ...


T = TypeVar("T", bound=Sized)


class StationCache:
    """Results of stations, newest kept, bounded in bytes; safe to share between threads.

    A view of eight million pixels and its results take about 170 MB.
    """

    def __init__(self, limit: int = 320 << 20) -> None:
        self._limit = limit
        self._bytes = 0
        self._kept: OrderedDict[Hashable, Any] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The result under a key, made when it is not there."""
        with self._lock:
            found: T | None = self._kept.get(key)
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


class _Veil(Veil):
    @property
    def nbytes(self) -> int:
        return int(self.a.nbytes + self.b.nbytes)


class Darkroom:
    """Renders views of pictures; `name` tells pictures apart in the cache."""

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
            grid = Grid.of(view, picture)
            under = self.under(name, picture, path)
            return with_grain(developed(exposure, path, under, grid), path, grid)

        return self.cache.get((name, view, path.key_of_negative), make)

    def exposure(self, name: Hashable, picture: LinearPicture, path: LightPath, view: View) -> F32:
        """log2 H of a view."""

        def make() -> F32:
            blur = path.film_blur(picture.film_side)
            blur *= view.out_width / view.width
            wide, rows, columns = _widened(view, picture, blur)
            grid = Grid.of(wide, picture)
            under = self.under(name, picture, path, local=False)
            coded = self.coded(name, picture, wide)
            whole = film_exposure(coded, path, under, grid, blur)
            return np.ascontiguousarray(whole[rows, columns])

        return self.cache.get((name, view, path.key_of_exposure), make)

    def under(
        self, name: Hashable, picture: LinearPicture, path: LightPath, local: bool = True
    ) -> Under:
        """What of the underlay a recipe asks for; without `local`, up to the exposure."""
        return Under(
            self._chroma(name, picture) if path.recipe.light.chroma_smoothing else None,
            self._scatter(name, picture, path) if underlay.scatter_size(path) else None,
            None if is_plain(path.recipe.capture) else self._flatten(name, picture, path),
            self._local(name, picture, path) if local and underlay.needs_local(path) else None,
        )

    def _chroma(self, name: Hashable, picture: LinearPicture) -> F32:
        small = picture.whole(underlay.SIZE)
        return self.cache.get(
            (name, "chroma"), lambda: underlay.chroma_maps(self.coded(name, picture, small))
        )

    def _small(
        self,
        name: Hashable,
        picture: LinearPicture,
        path: LightPath,
        size: int,
        flattened: bool = True,
    ) -> tuple[F32, F32, Grid]:
        """The whole picture at a reduced size: its log2 H before anything spread light, and coded;
        and its grid."""
        view = picture.whole(size)
        grid = Grid.of(view, picture)
        coded = self.coded(name, picture, view)
        if amount := path.recipe.light.chroma_smoothing:
            coded = underlay.smoothed(coded, self._chroma(name, picture), amount, grid)

        def make() -> F32:
            exposure = expose(coded, path)
            if flattened and not is_plain(path.recipe.capture):
                underlay.flatten(exposure, self._flatten(name, picture, path), path, grid)
            return exposure

        key = (name, "small", size, flattened, path.key_of_exposure)
        return self.cache.get(key, make), coded, grid

    def _flatten(self, name: Hashable, picture: LinearPicture, path: LightPath) -> F32:
        def make() -> F32:
            small, _, _ = self._small(name, picture, path, underlay.COARSE, flattened=False)
            return smooth_maps(small)

        return self.cache.get((name, "flatten", path.key_of_exposure), make)

    def _scatter(self, name: Hashable, picture: LinearPicture, path: LightPath) -> Scatter:
        def make() -> Scatter:
            exposure, coded, _ = self._small(name, picture, path, underlay.scatter_size(path))
            logs = np.ascontiguousarray(coded[..., 2])
            veil, air = None, 0.0
            if path.recipe.light.haze:
                veil = self.cache.get((name, "veil"), lambda: self._veil(name, picture, logs))
                light = np.maximum(veil.air / picture.scale, 1).astype(np.uint16)
                coded_air = code(light[None, None], picture.scale, picture.gains)
                air = float(np.exp2(expose(coded_air, path)[0, 0]))
            return underlay.scatter(exposure, logs, veil, air, path, picture)

        return self.cache.get((name, "scatter", path.key_of_exposure), make)

    def _veil(self, name: Hashable, picture: LinearPicture, logs: F32) -> "_Veil":
        light = picture.cut(picture.whole(underlay.SIZE)).astype(np.float32)
        return _Veil(**vars(find_veil(light * np.float32(picture.scale), logs)))

    def _local(self, name: Hashable, picture: LinearPicture, path: LightPath) -> F32:
        def make() -> F32:
            exposure, coded, grid = self._small(name, picture, path, underlay.COARSE)
            if underlay.scatter_size(path):
                exposure = exposure.copy()
                underlay.spread(exposure, coded, self._scatter(name, picture, path), grid)
            return underlay.local(exposure, path, picture)

        key = (name, "local", path.key_of_exposure, path.key_of_local)
        return self.cache.get(key, make)

    def colour(
        self, name: Hashable, picture: LinearPicture, view: View, trim: float = 0.0
    ) -> NDArray[np.uint8]:
        """The capture in colour as 8-bit sRGB, (out_height, out_width, 3)."""
        light = self.cache.get((name, view, "light"), lambda: picture.cut(view))
        return in_colour(light, picture.scale * 2.0**trim, picture.gains)

    def coded(self, name: Hashable, picture: LinearPicture, view: View) -> F32:
        """The light of a view as `expose` wants it."""
        return self.cache.get(
            (name, view, "coded"), lambda: code(picture.cut(view), picture.scale, picture.gains)
        )

    def breaking(self, name: Hashable, picture: LinearPicture, path: LightPath, view: View) -> F32:
        """Noise in stops that light, glass and hue bands make of the capture's noise of colour, at
        full size, for every pixel of a view."""
        return noise_of(self.coded(name, picture, view), path, self._noise(name, picture))

    def _noise(self, name: Hashable, picture: LinearPicture) -> ChromaNoise:
        return self.cache.get((name, "noise"), lambda: chroma_noise(picture))

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
        light = self.cache.get((name, view, "light"), lambda: picture.cut(view))
        palette = self.cache.get(
            (name, "palette"), lambda: palette_of(self.coded(name, picture, view))
        )
        density = self.negative(name, picture, path, view)
        return readings_of(
            path,
            self.exposure(name, picture, path, view),
            density,
            print_out(density, path),
            self.cache.get((name, "channels"), lambda: channels_of(light, picture.limits)),
            palette,
            share_breaking(palette, path, self._noise(name, picture)),
        )

    def points(
        self,
        name: Hashable,
        picture: LinearPicture,
        path: LightPath,
        black: float,
        white: float,
    ) -> tuple[float, float]:
        """White and black point under which those shares of the picture become bare paper and full
        black."""
        negative = self.negative(name, picture, path, picture.whole(READING_SIZE))
        steps = np.linspace(4.0, 0.0, 1601)  # of the negative, so that the print darkens
        counts, _ = np.histogram(negative, np.linspace(0.0, 4.0, 1602))
        net = path.paper_density(steps)
        return points_for(counts[::-1], net, path.paper.net_density, black, white)

    def spot(
        self,
        name: Hashable,
        picture: LinearPicture,
        path: LightPath,
        place: tuple[int, int],
        radius: int,
    ) -> Spot:
        """The mean light of a square of 2 * radius + 1 pixels about (x, y), taken down the path.

        Raises ValueError when the place is outside the picture.
        """
        x, y = place
        if not (0 <= x < picture.width and 0 <= y < picture.height):
            raise ValueError(f"{place} is outside the picture of {picture.width}×{picture.height}")
        return read_spot(picture, path, self.under(name, picture, path), place, radius)


def in_colour(
    light: U16, scale: float, gains: tuple[float, float, float] = (1.0, 1.0, 1.0)
) -> NDArray[np.uint8]:
    """Linear BT.2020 light (H, W, 3) as 8-bit sRGB."""
    out = np.empty(light.shape, np.uint8)
    matrix = (TO_SRGB * np.array(gains) * scale).astype(np.float32)
    curve = (encode_srgb(np.linspace(0.0, 1.0, 4096)) * 255 + 0.5).astype(np.float32)
    kernels.by_rows(kernels.show_colour, len(light), light, matrix, curve, out)
    return out


def _widened(view: View, picture: LinearPicture, blur: float) -> tuple[View, slice, slice]:
    """A view at 100 % with the margin that a blur needs, and where the view lies in it."""
    everything = slice(None)
    if blur <= LEAST_BLUR or (view.width, view.height) != (view.out_width, view.out_height):
        return view, everything, everything
    margin = int(np.ceil(FILM_MARGINS * blur))
    left, top = max(0, view.left - margin), max(0, view.top - margin)
    right = min(picture.width, view.left + view.width + margin)
    bottom = min(picture.height, view.top + view.height + margin)
    wide = replace(
        view,
        left=left,
        top=top,
        width=right - left,
        height=bottom - top,
        out_width=right - left,
        out_height=bottom - top,
    )
    rows = slice(view.top - top, view.top - top + view.height)
    return wide, rows, slice(view.left - left, view.left - left + view.width)
