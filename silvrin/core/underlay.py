"""The underlay: what stations do over distances, as maps of the whole picture at a reduced size.

Haze, soft and selective focus, halation and local contrast are all, at each place, a line in the
place's own light whose coefficients change slowly over the picture. So the coefficients are made
once at this size and every view, strip and reading takes them from there: what is seen at any
size is the same picture, a strip needs no margin, and memory does not grow with the picture.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from . import kernels
from .capture.flatten import flattening
from .development.developer import EDGE_REACH
from .development.local_contrast import is_plain, local_lines, local_maps
from .film.grain import FORMATS
from .film.halation import halation_reach
from .guided import guided
from .light.focus import GLOW_FROM, blurred, defocused, out_of_focus
from .light.haze import Veil, line_of_transmission
from .light_path import LightPath
from .picture import LinearPicture, View

F32 = NDArray[np.float32]

SIZE = 1024  # long side, where focus and haze draw edges
COARSE = 512  # of what only glows, and of local contrast
CHROMA_RADIUS, CHROMA_EDGE = 0.004, 0.5  # of the long side; stops
CHROMA_NOISE = 1.2  # cells of the chromaticity table by which a colour is taken for another one


@dataclass(frozen=True)
class Grid:
    """Where the pixels of a piece lie on the picture, in its full-size pixels."""

    left: float
    top: float
    pitch_x: float  # full-size pixels a pixel of the piece
    pitch_y: float
    first_row: int  # rows of the same grid that lie above the piece
    width: int  # of the picture
    height: int
    film_side: int | None = None  # long side of the film it is cropped from; None: not cropped

    @classmethod
    def of(cls, view: View, picture: LinearPicture) -> "Grid":
        """The grid of a view of a picture."""
        return cls(
            view.left,
            view.top,
            view.width / view.out_width,
            view.height / view.out_height,
            0,
            picture.width,
            picture.height,
            picture.film_side,
        )

    def on(self, maps: F32) -> tuple[float, float, float, float, int]:
        """Place of the first pixel on maps (4, H, W), x and y, the step to the next ones, and the
        rows above."""
        x, y = maps.shape[2] / self.width, maps.shape[1] / self.height
        return (
            (self.left + 0.5 * self.pitch_x) * x - 0.5,
            (self.top + 0.5 * self.pitch_y) * y - 0.5,
            self.pitch_x * x,
            self.pitch_y * y,
            self.first_row,
        )


def chroma_maps(coded: F32) -> F32:
    """(4, H, W) maps a, b of red and of green: the smooth colour (in cells of the chromaticity
    table) as a · log2 sum + b, of a coded picture (H, W, 3)."""
    guide = np.ascontiguousarray(coded[..., 2])
    radius = max(1, round(CHROMA_RADIUS * max(guide.shape)))
    maps: list[F32] = []
    for channel in (0, 1):
        signal = np.ascontiguousarray(coded[..., channel])
        maps += guided(guide, signal, radius, CHROMA_EDGE**2)[:2]
    return np.stack(maps)


def smoothed(coded: F32, maps: F32, amount: float, grid: Grid) -> F32:
    """A coded picture (H, W, 3) with small differences of colour evened out."""
    out = np.empty_like(coded)
    kernels.by_rows(
        kernels.smooth_chroma,
        len(coded),
        coded,
        maps,
        *grid.on(maps),
        np.float32(amount),
        np.float32(CHROMA_NOISE),
        out,
    )
    return out


@dataclass(frozen=True)
class Scatter:
    """What becomes of exposure H between scene and emulsion: with t = c0 + c1 · (a · log2 sum + b)
    held from 0.1 to 1, H is parted from the air's light (or laid under it), then times `sharp`,
    plus `added`."""

    maps: F32  # sharp and added, with haze also a and b: (2 or 4, H, W)
    c0: float
    c1: float
    clears: bool  # haze is taken away rather than laid over
    air: float  # exposure the light of the air gives

    @property
    def nbytes(self) -> int:
        return int(self.maps.nbytes)


def scatter_size(path: LightPath) -> int:
    """Long side at which light is spread; 0 where nothing spreads it under a recipe."""
    light, capture = path.recipe.light, path.recipe.capture
    if light.haze or light.focus_blur:
        return SIZE
    spreads = light.soft_focus or (capture.infrared and capture.hot_spot) or path.halation > 5e-4
    return COARSE if spreads else 0


def scatter(
    exposure: F32,
    logs: F32,
    veil: Veil | None,
    air: float,
    path: LightPath,
    picture: LinearPicture,
) -> Scatter:
    """The maps for an exposure of the whole picture (H, W), log2 H before anything spread it, and
    log2 of the light's sum (H, W)."""
    settings, (height, width) = path.recipe.light, exposure.shape
    long = max(height, width)
    lit = np.exp2(exposure)
    c0, c1, clears = 1.0, 0.0, False
    hazy = veil is not None and settings.haze != 0.0
    maps = np.zeros((4 if hazy else 2, *lit.shape), np.float32)
    if veil is not None and hazy:
        c0, c1 = line_of_transmission(settings.haze)
        clears = settings.haze < 0
        maps[2], maps[3] = veil.a, veil.b
        through = np.clip(c0 + c1 * (veil.a * logs + veil.b), 0.1, 1.0).astype(np.float32)
        behind = np.float32(air) * (1.0 - through)
        lit = np.maximum(lit - behind, 1e-6) / through if clears else lit * through + behind
        lit = np.asarray(lit, np.float32)
    sharp, added = maps[:2]
    sharp[:] = 1.0
    if (cut := path.hot_spot(height, width, picture.axis)) is not None:
        sharp *= cut
        lit *= cut
    if settings.focus_blur:
        amount = out_of_focus(settings, lit.shape[1], lit.shape[0])
        own, blur = defocused(lit, amount, settings.focus_blur / 100.0 * long)
        sharp *= own
        added += blur
        lit = own * lit + blur
    if share := np.float32(settings.soft_focus):
        reach = settings.soft_size / 100.0 * long
        if settings.soft_on == "highlights":
            glow = share * blurred(np.maximum(lit - np.float32(GLOW_FROM), 0.0), reach)
            kept = np.float32(1.0)
        else:
            glow, kept = share * blurred(lit, reach), 1 - share
        maps[:2] *= kept
        added += glow
        lit = lit * kept + glow
    if (halation := np.float32(path.halation)) > 0.0:
        pitch = _film(path, picture) / long
        added += halation * blurred(lit, max(halation_reach() / pitch, 0.5))
        # an even field keeps its exposure: a stock's speed is measured with its halation
        maps[:2] /= 1 + halation
    return Scatter(maps, c0, c1, clears, air)


def spread(exposure: F32, coded: F32, found: Scatter, grid: Grid) -> None:
    """Spreads the light of a piece, log2 H (H, W), in place; with its coded picture (H, W, 3)."""
    kernels.by_rows(
        kernels.scatter,
        len(exposure),
        exposure,
        coded,
        found.maps,
        *grid.on(found.maps),
        np.float32(found.c0),
        np.float32(found.c1),
        found.clears,
        np.float32(found.air),
    )


def flatten(exposure: F32, maps: F32, path: LightPath, grid: Grid) -> None:
    """Opens shadows and reins highlights of a piece in, log2 H (H, W), in place."""
    line = flattening(path.recipe.capture)
    kernels.by_rows(kernels.flatten, len(exposure), exposure, maps, *grid.on(maps), line)


def needs_local(path: LightPath) -> bool:
    """Whether development does anything over distances under a recipe."""
    return not is_plain(path.recipe.development) or path.developer.edge > 0.0


def _film(path: LightPath, picture: LinearPicture) -> float:
    """Long side of a picture on the film it is cropped from, µm."""
    part = max(picture.width, picture.height) / picture.film_side
    return 1000.0 * FORMATS[path.recipe.film.film_format] * part


def local(exposure: F32, path: LightPath, picture: LinearPicture) -> F32:
    """The maps of local contrast for an exposure of the whole picture (H, W), log2 H."""
    pitch = _film(path, picture) / max(exposure.shape)
    return local_maps(exposure, path.recipe.development, path.developer.edge, EDGE_REACH / pitch)


def develop_local(exposure: F32, maps: F32, path: LightPath, grid: Grid) -> F32:
    """Density of a piece (H, W) with its local contrast, of its log2 H."""
    out = np.empty_like(exposure)
    lines, curve = local_lines(path.recipe.development, path.negative), path.negative_curve
    kernels.by_rows(
        kernels.develop_local,
        len(exposure),
        exposure,
        curve.points,
        np.float32(curve.start),
        curve.inverse_step,
        maps,
        *grid.on(maps),
        lines,
        out,
    )
    return out
