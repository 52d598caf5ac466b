"""Views of sittings, keeping what stations gave so that a change re-runs only from its own station
on. What is kept is named by the sitting's picture, the view and the station's key."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ...errors import Dropped
from .. import kernels
from ..capture.flatten import Flattening, smooth_maps
from ..colour import BT2020_TO_SRGB, encode_srgb
from ..development.negative import LocalMaps, Negative
from ..enlarger.projection import Projection
from ..enlarger.shapes import NEGATIVE_EFFECTS, TONER_EFFECTS, Pass
from ..enlarger.working import Worked
from ..film.exposure import LEAST_BLUR, Exposure, Under
from ..light.conversion import Conversion
from ..light.haze import Veil, find_veil
from ..light.scatter import Effects, Scatter, Scattering, spread
from ..light.sureness import Sureness
from ..mount.sharpening import edges, grey_part, margin_of, radius_of, sharpened
from ..paper.finish import points_for
from ..picture import U16, LinearPicture, View
from ..places import PicturePixel
from ..plate import Grid, Plate
from ..toner.places import ByPlace, ToningByPlace
from ..toner.toning import Toning
from ..underlay import COARSE, SIZE, chroma_maps
from .breaking import (
    ChromaNoise,
    Palette,
    chroma_noise,
    noise_of,
    palette_of,
    share_breaking,
    share_unsure,
)
from .cache import StationCache
from .coding import F32, code
from .mixing import mixture
from .printing import effects_key, line_of, printing_of
from .readings import READING_SIZE, Readings, channels_of, readings_of
from .shown import U8, Side, zones_of
from .sitting import Sitting
from .spot import Spot, between, read_spot
from .toning import by_place

SPREAD_EFFECTS = ("haze", "soft_focus")  # of passes, that act before the film
BLUR_MARGINS = 4.0  # standard deviations of a blur that a piece is cut wider: where OpenCV ends it


class _Veil(Veil):
    @property
    def nbytes(self) -> int:
        return int(self.a.nbytes + self.b.nbytes)


class Darkroom:
    """Renders views of sittings."""

    def __init__(self, cache: StationCache | None = None) -> None:
        self.cache = cache or StationCache()

    def view(
        self, sitting: Sitting, view: View, wanted: Callable[[], bool] = lambda: True
    ) -> NDArray[np.uint8]:
        """The print as 8-bit numbers, (out_height, out_width), or with colour (…, 3), sharpened as
        its mount says.

        Raises Dropped when no longer wanted.
        """
        mount, picture = sitting.path.recipe.mount, sitting.picture
        radius = radius_of(mount, sitting.pitch * view.out_width / view.width)
        wide, rows, columns = _widened(view, picture, margin_of(radius))
        numbers = sharpened(self.printed(sitting, wide, wanted), mount, radius)
        if radius:
            numbers = np.ascontiguousarray(numbers[rows, columns])
        if sitting.mixed is not None:
            before, strength = sitting.mixed
            numbers = mixture(self.view(before, view, wanted), numbers, strength)
        return numbers

    def edges(self, sitting: Sitting, view: View) -> F32:
        """What presentation sharpening takes for edges, 0 to 1, at the pixels of a view."""
        radius = radius_of(sitting.path.recipe.mount, sitting.pitch * view.out_width / view.width)
        wide, rows, columns = _widened(view, sitting.picture, margin_of(radius or 1.0))
        numbers = self.printed(sitting, wide)
        return edges(grey_part(numbers), radius or 1.0)[rows, columns]

    def printed(
        self, sitting: Sitting, view: View, wanted: Callable[[], bool] = lambda: True
    ) -> NDArray[np.uint8]:
        """The same before it is sharpened or mixed with another print."""
        worked = self.worked(sitting, view, wanted)
        return sitting.path.print_out(worked, toned=self.toned(sitting, worked, view))

    def worked(
        self, sitting: Sitting, view: View, wanted: Callable[[], bool] = lambda: True
    ) -> Plate:
        """Density of the negative of a view as it prints under the printing map."""
        negative, by_hand = self.negative(sitting, view, wanted), self.printing(sitting)
        coded = self.coded(sitting, view) if by_hand.follows_light else None
        return sitting.path[Projection].worked(negative, by_hand, coded)

    def is_coloured(self, sitting: Sitting) -> bool:
        """Whether the print has colour."""
        toned = not sitting.path[Toning].is_plain
        by_hand = set(self.printing(sitting).effects).intersection(TONER_EFFECTS)
        own = toned or bool(by_hand) or sitting.path[ToningByPlace].lets_colour
        return own or (sitting.mixed is not None and self.is_coloured(sitting.mixed[0]))

    def toned(self, sitting: Sitting, plate: Plate, view: View) -> ByPlace | None:
        """How the toner acts at the places of a view, None where all are alike."""
        return by_place(
            sitting.path, self.printing(sitting), plate, lambda: self.coded(sitting, view)
        )

    def printing(self, sitting: Sitting) -> Worked:
        """What the printing map gives over the whole picture."""
        return printing_of(sitting, self.cache, *self._light_of(sitting))

    def area(self, sitting: Sitting, each: Pass, view: View) -> F32:
        """How far the places of a view (H, W) belong to the area of a pass."""
        amount = self._over(
            sitting, view, line_of(each, sitting, self.cache, *self._light_of(sitting))
        )
        return 1.0 - amount if each.opposite else amount

    def stops(self, sitting: Sitting, view: View) -> F32:
        """Stops that the printing map gives the places of a view (H, W)."""
        maps = self.printing(sitting).stops
        if maps is None:
            return np.zeros((view.out_height, view.out_width), np.float32)
        return self._over(sitting, view, np.ascontiguousarray(maps[:4]))

    def _over(self, sitting: Sitting, view: View, maps: F32) -> F32:
        """Values over a view of maps (1, H, W), or (4, H, W) where they follow the light."""
        size = view.out_height, view.out_width, 0
        plate = Plate(np.empty(size, np.float32), Grid.of(view, sitting.picture))
        return plate.over(maps, self.coded(sitting, view) if len(maps) > 1 else None)

    def _light_of(self, sitting: Sitting) -> tuple[Callable[[], F32], Callable[[], F32]]:
        """The coded light, and the scene's zones, of the whole picture at the underlay's size."""
        return (
            lambda: self.coded(sitting, sitting.picture.whole(SIZE)),
            lambda: self._small(sitting, SIZE)[0] + np.float32(5.0),
        )

    def negative(
        self, sitting: Sitting, view: View, wanted: Callable[[], bool] = lambda: True
    ) -> Plate:
        """Density of the negative of a view."""
        station = sitting.path[Negative]

        picture = sitting.picture

        def make() -> F32:
            under = self.under(sitting)
            reach = station.reach(Grid.of(view, picture), under.effects)
            wide, rows, columns = _widened(view, picture, blur_margin(reach))
            exposure = self.exposure(sitting, wide)
            if not wanted():
                raise Dropped("a newer picture is wanted")
            whole = station.developed(exposure, under)
            return station.with_grain(whole.part(rows, columns)).pixels

        key = sitting.key, view, station.key, effects_key(sitting, NEGATIVE_EFFECTS)
        return Plate(self.cache.get(key, make), Grid.of(view, picture))

    def exposure(self, sitting: Sitting, view: View) -> Plate:
        """log2 H of a view."""
        picture, station = sitting.picture, sitting.path[Exposure]

        def make() -> F32:
            blur = station.blur(picture.film_side) * view.out_width / view.width
            wide, rows, columns = _widened(view, picture, blur_margin(blur))
            coded = Plate(self.coded(sitting, wide), Grid.of(wide, picture))
            whole = station.over(coded, self.under(sitting, local=False), blur)
            return np.ascontiguousarray(whole.pixels[rows, columns])

        key = sitting.key, view, station.key, effects_key(sitting, SPREAD_EFFECTS)
        return Plate(self.cache.get(key, make), Grid.of(view, picture))

    def under(self, sitting: Sitting, local: bool = True) -> Under:
        """What of the underlay a recipe asks for; without `local`, up to the exposure."""
        path = sitting.path
        effects = self.printing(sitting).effects
        return Under(
            self._chroma(sitting) if path[Conversion].smoothing else None,
            self._scatter(sitting, effects) if path[Scattering].size(effects) else None,
            None if path[Flattening].is_plain else self._flatten(sitting),
            self._local(sitting, effects)
            if local and not path[LocalMaps].is_plain(effects)
            else None,
            effects,
        )

    def _chroma(self, sitting: Sitting) -> F32:
        small = sitting.picture.whole(SIZE)
        return self.cache.get(
            (sitting.key, "chroma"), lambda: chroma_maps(self.coded(sitting, small))
        )

    def _small(self, sitting: Sitting, size: int, flattened: bool = True) -> tuple[F32, F32, Grid]:
        """The whole picture at a reduced size: its log2 H before anything spread light, and coded;
        and its grid."""
        view = sitting.picture.whole(size)
        grid = Grid.of(view, sitting.picture)
        conversion, flattening = sitting.path[Conversion], sitting.path[Flattening]
        flattened = flattened and not flattening.is_plain
        coded = self.coded(sitting, view)
        if conversion.smoothing:
            coded = conversion.smoothed(coded, self._chroma(sitting), grid)

        def make() -> F32:
            exposure = conversion.expose(coded)
            if flattened:
                flattening.flatten(exposure, self._flatten(sitting), grid)
            return exposure

        station = flattening if flattened else conversion
        return self.cache.get((sitting.key, "small", size, station.key), make), coded, grid

    def _flatten(self, sitting: Sitting) -> F32:
        def make() -> F32:
            small, _, _ = self._small(sitting, COARSE, flattened=False)
            return smooth_maps(small)

        return self.cache.get((sitting.key, "flatten", sitting.path[Conversion].key), make)

    def _scatter(self, sitting: Sitting, effects: Effects) -> Scatter:
        station, conversion = sitting.path[Scattering], sitting.path[Conversion]
        picture = sitting.picture

        def make() -> Scatter:
            exposure, coded, _ = self._small(sitting, station.size(effects))
            logs = np.ascontiguousarray(coded[..., 2])
            veil, air = None, 0.0
            if station.is_hazy(effects):
                veil = self.cache.get((sitting.key, "veil"), lambda: _veil(picture, logs))
                light = np.maximum(veil.air / picture.scale, 1).astype(np.uint16)
                coded_air = code(light[None, None], picture.scale, picture.gains)
                air = float(np.exp2(conversion.expose(coded_air)[0, 0]))
            return station.maps(exposure, logs, veil, air, picture, effects)

        key = sitting.key, "scatter", station.key, effects_key(sitting, SPREAD_EFFECTS)
        return self.cache.get(key, make)

    def _local(self, sitting: Sitting, effects: Effects) -> F32:
        station = sitting.path[LocalMaps]

        def make() -> F32:
            exposure, coded, grid = self._small(sitting, COARSE)
            if sitting.path[Scattering].size(effects):
                exposure = exposure.copy()
                spread(exposure, coded, self._scatter(sitting, effects), grid)
            return station.maps(exposure, effects)

        return self.cache.get(
            (sitting.key, "local", station.key, effects_key(sitting, NEGATIVE_EFFECTS)), make
        )

    def colour(self, sitting: Sitting, view: View) -> NDArray[np.uint8]:
        """The capture in colour as 8-bit sRGB, (out_height, out_width, 3)."""
        picture = sitting.picture
        scale = picture.scale * 2.0**sitting.path.recipe.capture.exposure
        return in_colour(self._light(sitting, view), scale, picture.gains)

    def _light(self, sitting: Sitting, view: View) -> U16:
        return self.cache.get((sitting.key, view, "light"), lambda: sitting.picture.cut(view))

    def coded(self, sitting: Sitting, view: View) -> F32:
        """The light of a view as `Conversion.expose` wants it."""
        picture = sitting.picture
        return self.cache.get(
            (sitting.key, view, "coded"),
            lambda: code(picture.cut(view), picture.scale, picture.gains),
        )

    def breaking(self, sitting: Sitting, view: View) -> F32:
        """Noise in stops that light, glass and hue bands make of the capture's noise of colour, at
        full size, for every pixel of a view."""
        return noise_of(self.coded(sitting, view), sitting.path[Conversion], self._noise(sitting))

    def _noise(self, sitting: Sitting) -> ChromaNoise:
        return self.cache.get((sitting.key, "noise"), lambda: chroma_noise(sitting.picture))

    def share_breaking(self, sitting: Sitting) -> float:
        """Share of the picture, 0 to 1, in which noise of colour is seen as noise of tone."""
        palette, noise = self._palette(sitting), self._noise(sitting)
        return share_breaking(palette, sitting.path[Conversion], noise)

    def unsure(self, sitting: Sitting, view: View) -> F32:
        """Stops, one deviation, that the exposure of every pixel of a view may be off by, since
        colour alone does not tell the spectrum."""
        return sitting.path[Sureness].of_colours(self.coded(sitting, view))

    def _palette(self, sitting: Sitting) -> Palette:
        view = sitting.picture.whole(READING_SIZE)
        return self.cache.get(
            (sitting.key, "palette"), lambda: palette_of(self.coded(sitting, view))
        )

    def readings(self, sitting: Sitting) -> Readings:
        """Shares and histograms of the whole picture, always at one size, so that a share reads the
        same in every window and is the one that points are made for."""
        picture, path = sitting.picture, sitting.path
        view = picture.whole(READING_SIZE)
        light, palette = self._light(sitting, view), self._palette(sitting)
        density = self.negative(sitting, view)
        return readings_of(
            path,
            self.exposure(sitting, view).pixels,
            density.pixels,
            self.view(sitting, view),
            self.cache.get((sitting.key, "channels"), lambda: channels_of(light, picture.limits)),
            palette,
            self.share_breaking(sitting),
            share_unsure(palette, path[Conversion], path[Sureness]),
            self.printing(sitting).share_piled,
        )

    def points(self, sitting: Sitting, black: float, white: float) -> tuple[float, float]:
        """White and black point under which those shares of the picture become bare paper and full
        black."""
        most = sitting.path.things.paper.net_density
        worked = self.worked(sitting, sitting.picture.whole(READING_SIZE))
        net = sitting.path.net_density(worked)
        counts, edges = np.histogram(net, 4000, (0.0, most))
        return points_for(counts, 0.5 * (edges[1:] + edges[:-1]), most, black, white)

    def time_for_black(self, sitting: Sitting, share: float) -> float | None:
        """Base exposure in seconds under which that share of the picture becomes full black where
        its black point leaves the paper as it is; None where no part of the scale is full black."""
        path = sitting.path
        density = self.worked(sitting, sitting.picture.whole(READING_SIZE)).pixels
        steps = np.linspace(0.0, float(density.max()) + 1.0, 8193)
        numbers = path.print_even(steps)
        full = steps[(numbers if numbers.ndim == 1 else numbers.max(axis=1)) == 0]
        if not len(full):
            return None
        # of the thinnest part of the negative that is to be black, as much light as now that has
        thinnest = float(np.quantile(density, share))
        more = path[Projection].at(np.array([full[-1], thinnest]))
        return float(path[Projection].time * 10.0 ** (more[0] - more[1]))

    def zones(self, sitting: Sitting, view: View, numbers: U8, side: Side) -> NDArray[np.intp]:
        """Zones 0 to 10 of every pixel of a view and its print's output numbers, by one side."""
        exposure, density = self.exposure(sitting, view), self.negative(sitting, view)
        return zones_of(side, sitting.path, numbers, exposure.pixels, density.pixels)

    def spot(self, sitting: Sitting, place: PicturePixel, radius: int) -> Spot:
        """The mean light of a square of 2 * radius + 1 pixels about a place, taken down the path.

        Raises ValueError when the place is outside the picture.
        """
        picture = sitting.picture
        if not (0 <= place.x < picture.width and 0 <= place.y < picture.height):
            raise ValueError(f"{place} is outside the picture of {picture.width}×{picture.height}")
        found = read_spot(sitting, self.under(sitting), self.printing(sitting), place, radius)
        if sitting.mixed is None:
            return found
        before, strength = sitting.mixed
        return between(self.spot(before, place, radius), found, strength, sitting.path)


def _veil(picture: LinearPicture, logs: F32) -> _Veil:
    light = picture.cut(picture.whole(SIZE)).astype(np.float32)
    return _Veil(**vars(find_veil(light * np.float32(picture.scale), logs)))


def in_colour(
    light: U16, scale: float, gains: tuple[float, float, float] = (1.0, 1.0, 1.0)
) -> NDArray[np.uint8]:
    """Linear BT.2020 light (H, W, 3) as 8-bit sRGB."""
    out = np.empty(light.shape, np.uint8)
    matrix = (BT2020_TO_SRGB * np.array(gains) * scale).astype(np.float32)
    curve = (encode_srgb(np.linspace(0.0, 1.0, 4096)) * 255 + 0.5).astype(np.float32)
    kernels.by_rows(kernels.show_colour, len(light), light, matrix, curve, out)
    return out


def blur_margin(blur: float) -> int:
    """Pixels by which a piece is cut wider for a blur of that standard deviation."""
    return int(np.ceil(BLUR_MARGINS * blur)) if blur > LEAST_BLUR else 0


def _widened(view: View, picture: LinearPicture, margin: int) -> tuple[View, slice, slice]:
    """A view at 100 % with a margin, and where the view lies in it."""
    if not margin or (view.width, view.height) != (view.out_width, view.out_height):
        return view, slice(view.out_height), slice(view.out_width)
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
