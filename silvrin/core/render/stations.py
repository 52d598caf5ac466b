"""Each station over the pixels of a piece of the picture."""

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..film.grain import tile
from ..light_path import F32, Curve, LightPath
from ..picture import U16
from ..spectra.chromaticity import SIZE
from ..underlay import Grid, Scatter, develop_local, flatten, smoothed, spread

LEAST_BLUR = 0.25  # pixels; less is not seen


@dataclass(frozen=True)
class Under:
    """What of the underlay a recipe asks for."""

    chroma: F32 | None = None
    scatter: Scatter | None = None
    flatten: F32 | None = None
    local: F32 | None = None


def code(light: U16, scale: float, gains: tuple[float, float, float] = (1.0, 1.0, 1.0)) -> F32:
    """Linear light (H, W, 3), times the gains of its white balance, as chromaticity cells and log2
    of the sum, for `expose`."""
    out = np.empty(light.shape, np.float32)
    kernels.by_rows(
        kernels.code_colour,
        len(light),
        np.ascontiguousarray(light),
        *np.array([*gains, scale, SIZE - 1], np.float32),
        out,
    )
    return out


def expose(coded: F32, path: LightPath) -> F32:
    """log2 H of the film, (H, W), before anything spreads light."""
    out = np.empty(coded.shape[:2], np.float32)
    shift = np.float32(path.placement)
    kernels.by_rows(kernels.expose, len(coded), coded, path.table, shift, out)
    return out


def film_exposure(coded: F32, path: LightPath, under: Under, grid: Grid, blur: float) -> F32:
    """log2 H of the film, (H, W), with all that happens between scene and emulsion; `blur` is the
    film's own in pixels."""
    if under.chroma is not None:
        amount = path.recipe.light.chroma_smoothing
        coded = smoothed(coded, under.chroma, amount, grid)
    exposure = expose(coded, path)
    if blur > LEAST_BLUR:
        lit = cv2.GaussianBlur(np.exp2(exposure), (0, 0), blur, borderType=cv2.BORDER_REPLICATE)
        exposure = np.log2(np.asarray(lit, np.float32))
    if under.flatten is not None:
        flatten(exposure, under.flatten, path, grid)
    if under.scatter is not None:
        spread(exposure, coded, under.scatter, grid)
    return exposure


def develop(exposure: F32, path: LightPath) -> F32:
    """Density of the negative, (H, W), by its characteristic curve alone."""
    return _through(kernels.through_curve, exposure, path.negative_curve, np.float32)


def developed(exposure: F32, path: LightPath, under: Under, grid: Grid) -> F32:
    """Density of the negative, (H, W), with its local contrast, before its grain."""
    if under.local is None:
        return develop(exposure, path)
    return develop_local(exposure, under.local, path, grid)


def with_grain(density: F32, path: LightPath, grid: Grid) -> F32:
    """The density of a piece of the negative with its grain, added in place."""
    deviation, grains = path.grain(grid.film_side or max(grid.width, grid.height))
    if deviation == 0.0:
        return density
    reduction = max(1.0, grid.pitch_x)
    noise = tile(grains, reduction)
    top, left = (round(v / reduction) for v in (grid.top, grid.left))
    kernels.by_rows(
        kernels.add_grain,
        len(density),
        density,
        noise,
        np.uint32(top + grid.first_row),
        np.uint32(left),
        np.float32(path.negative.shape.base_fog),
        np.float32(deviation),
    )
    return density


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
