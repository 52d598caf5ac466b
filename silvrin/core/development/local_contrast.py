"""Local contrast at three scales, zone lift and zone contrast, as maps of the whole picture.

At each scale the exposure (in stops) has something that is smooth about it, without crossing edges
(`guided`). What one scale still holds and the next one does not is what is raised: the fine scale
against the exposure itself, the middle against the fine, the broad against the middle. All are
lines in the place's own exposure with smooth coefficients, and so is their sum: density gains

    p · h + q  (local and zone contrast)  and  lift(zone a · h + b)  (zone lift),

in stops, times the slope that the characteristic curve has there. Where differences are smaller
than the threshold they are taken for noise and not raised (as a Wiener filter would).
"""

from dataclasses import dataclass
from functools import partial

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..colour import smooth_step
from ..film.curve import CharacteristicCurve
from ..film.zones import LOG10_STOP
from ..guided import guided
from ..later import interpolate
from .settings import DevelopmentSettings, LocalContrast

F32 = NDArray[np.float32]
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Scale:
    """A scale: its window in parts of the long side, and the difference in stops above which it is
    an edge rather than a texture."""

    radius: float
    edge: float
    by: int  # how much smaller its maps are made


SCALES = Scale(0.002, 0.3, 1), Scale(0.016, 0.4, 2), Scale(0.12, 0.5, 8)  # fine, middle, broad
ZONES = np.linspace(-3.0, 13.0, 257)
FINELY = np.linspace(-3.0, 13.0, 2049)
LEAST_SLOPE = 0.35  # of the steepest: where the curve is flat, differences are still raised


def acts_locally(settings: DevelopmentSettings) -> bool:
    """Whether local or zone contrast is asked for."""
    scales = (settings.fine, settings.mid_scale, settings.broad)
    return any(s.strength for s in scales) or any(settings.zone_contrast)


def by_tone(contrast: LocalContrast, zone: Floats | F32) -> Floats:
    """How strongly local contrast acts on zones, by its shares of shadows and highlights."""
    shadows, highlights = 1.0 - smooth_step(zone, 2.0, 4.5), smooth_step(zone, 5.5, 8.0)
    middle = 1.0 - shadows - highlights
    return np.asarray(
        contrast.strength
        * (contrast.shadows * shadows + contrast.middle * middle + contrast.highlights * highlights)
    )


def _over_zones(handles: tuple[float, ...]) -> Floats:
    """Values at ZONES of a smooth line through the handles at Zones 0 to X, held beyond."""
    if not any(handles):
        return np.zeros_like(ZONES)
    line = interpolate.PchipInterpolator(np.arange(11.0), np.round(handles, 6))
    return np.asarray(line(np.clip(ZONES, 0.0, 10.0)))


def local_maps(exposure: F32, settings: DevelopmentSettings, lifts: bool) -> F32:
    """(2, H, W) maps p, q, and where zones are lifted (4, H, W) also a, b: the smooth exposure of
    the middle scale is a · h + b. Of an exposure in log2 H (H, W)."""
    maps = np.zeros((4 if lifts else 2, *exposure.shape), np.float32)
    lines = [by_tone(c, ZONES) for c in (settings.fine, settings.mid_scale, settings.broad)]
    every = _over_zones(settings.zone_contrast)
    # the middle scale tells the zone of a place; a scale's own needs the next finer one
    needed = [i for i in (0, 1, 2) if i == 1 or lines[i].any() or (i == 0 and lines[1].any())]

    def parted(index: int) -> tuple[F32, F32, F32]:
        scale = SCALES[index]
        radius = max(1, round(scale.radius * max(exposure.shape)))
        return guided(exposure, exposure, radius, scale.edge**2, scale.by)

    found = kernels.at_once(*(partial(parted, index) for index in needed))
    smooth = dict(zip(needed, found, strict=True))
    a, b = smooth[1][:2]
    zone = a * exposure + b + np.float32(5.0)
    if lifts:
        maps[2], maps[3] = a, b
    itself = np.ones_like(zone), np.zeros_like(zone)
    threshold = np.float32(settings.threshold**2 + 1e-8)
    for finer, index, line in ((None, 0, lines[0]), (0, 1, lines[1]), (1, 2, lines[2]),
                               (None, 1, every)):  # fmt: skip
        if line.any():
            near = itself if finer is None else smooth[finer][:2]
            kernels.by_rows(
                kernels.add_scale,
                len(exposure),
                zone,
                *near,
                *smooth[index],
                line.astype(np.float32),
                threshold,
                maps,
            )
    return maps


def local_lines(settings: DevelopmentSettings, curve: CharacteristicCurve) -> F32:
    """(3, 2049) over Zones -3 to 13: density for a stop more of local contrast, for a stop less,
    and the density that zone lift gives."""
    log_exposure = (ZONES - 5.0) * LOG10_STOP
    slope = np.gradient(curve.density(log_exposure), ZONES)
    slope = np.maximum(slope, LEAST_SLOPE * slope.max())
    up = slope * (1.0 - settings.hold_highlights * smooth_step(ZONES, 6.0, 9.0))
    down = slope * (1.0 - settings.hold_shadows * (1.0 - smooth_step(ZONES, 1.0, 4.0)))
    lines = (up, down, slope * _over_zones(settings.zone_lift))
    return np.stack([np.interp(FINELY, ZONES, line) for line in lines]).astype(np.float32)
