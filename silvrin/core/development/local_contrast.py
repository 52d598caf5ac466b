"""Local contrast at three scales, zone lift and zone contrast, as maps of the whole picture.

At each scale the exposure (in stops) has something that is smooth about it, without crossing edges
(`guided`; the broad scale: `broad`). What one scale still holds and the next one does not is what
is raised: the fine scale against the exposure itself, the middle against the fine, the broad
against the middle. All are lines in the place's own exposure with smooth coefficients, and so is
their sum: density gains

    p · h + q  (local and zone contrast)  and  lift(zone a · h + b)  (zone lift),

in stops, times the slope that the characteristic curve has there. Where differences are smaller
than the threshold they are taken for noise and not raised (as a Wiener filter would).
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..colour import smooth_step
from ..film.curve import CharacteristicCurve
from ..film.zones import LOG10_STOP
from ..guided import guided
from ..later import interpolate
from ..light.scatter import Effects, added_by
from .broad import LEVELS, broad_grid, broad_lines
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


FINE, MIDDLE = Scale(0.002, 0.3, 1), Scale(0.016, 0.4, 2)
ZONES = np.linspace(-3.0, 13.0, 257)
FINELY = np.linspace(-3.0, 13.0, 2049)
SHADOWS, HIGHLIGHTS = (2.0, 4.5), (5.5, 8.0)  # zones between which they end and begin
LEAST_SLOPE = 0.35  # of the steepest: where the curve is flat, differences are still raised


def acts_locally(settings: DevelopmentSettings) -> bool:
    """Whether local or zone contrast is asked for."""
    scales = (settings.fine, settings.mid_scale, settings.broad)
    return any(s.strength for s in scales) or any(settings.zone_contrast)


def by_tone(contrast: LocalContrast, zone: Floats | F32) -> Floats:
    """How strongly local contrast acts on zones, by its shares of shadows and highlights."""
    shadows, highlights = 1.0 - smooth_step(zone, *SHADOWS), smooth_step(zone, *HIGHLIGHTS)
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


def local_maps(exposure: F32, settings: DevelopmentSettings, effects: Effects) -> F32:
    """(2, H, W) maps p, q, and where zones are lifted (4, H, W) also a, b: the smooth exposure of
    the middle scale is a · h + b. Of an exposure of the whole picture in log2 H (H, W), with what
    passes of the printing map add."""
    maps = np.zeros((4 if settings.zone_lift else 2, *exposure.shape), np.float32)
    fine, middle = (by_tone(c, ZONES) for c in (settings.fine, settings.mid_scale))
    every = _over_zones(settings.zone_contrast)
    wants_fine, wants_middle = (
        line.any() or name in effects for name, line in (("fine", fine), ("mid_scale", middle))
    )
    wants_broad = settings.broad.strength != 0 or "broad" in effects

    def smooth(scale: Scale) -> tuple[F32, F32, F32]:
        radius = max(1, round(scale.radius * max(exposure.shape)))
        return guided(exposure, exposure, radius, scale.edge**2, scale.by, steep=True)

    broad = by_tone(settings.broad, LEVELS + np.float32(5.0)).astype(np.float32)
    full = np.ones_like(broad)
    # the middle scale tells the zone of a place; it is raised against the fine one
    about_middle, about_fine, grid, full_grid = kernels.at_once(
        lambda: smooth(MIDDLE),
        lambda: smooth(FINE) if wants_fine or wants_middle else None,
        lambda: broad_grid(exposure, broad, settings.threshold) if broad.any() else None,
        lambda: broad_grid(exposure, full, settings.threshold) if "broad" in effects else None,
    )
    a, b = about_middle[:2]
    level = a * exposure + b
    if settings.zone_lift:
        maps[2], maps[3] = a, b
    zone, threshold = level + np.float32(5.0), np.float32(settings.threshold**2 + 1e-8)

    def add(line: Floats, near: tuple[F32, F32], about: tuple[F32, F32, F32], to: F32) -> None:
        own = line.astype(np.float32)
        kernels.by_rows(kernels.add_scale, len(zone), zone, *near, *about, own, threshold, to)

    def add_passes(name: str, near: tuple[F32, F32], about: tuple[F32, F32, F32]) -> None:
        if name in effects:
            own = np.zeros_like(maps[:2])
            add(np.ones_like(ZONES), near, about, own)
            maps[:2] += own * added_by(effects, name, exposure)

    itself = np.ones_like(level), np.zeros_like(level)
    if wants_fine:
        add(fine, itself, about_fine, maps)
        add_passes("fine", itself, about_fine)
    if wants_middle:
        add(middle, about_fine[:2], about_middle, maps)
        add_passes("mid_scale", about_fine[:2], about_middle)
    if every.any():
        add(every, itself, about_middle, maps)
    if wants_broad:
        more = added_by(effects, "broad", exposure)
        for lines, share in ((grid, np.float32(1.0)), (full_grid, more)):
            if lines is not None:
                rise, rest = broad_lines(lines, level)
                maps[0] += share * rise * a
                maps[1] += share * (rise * b + rest)
    if "shadows" in effects:
        dark = np.asarray(1.0 - smooth_step(zone, *SHADOWS), np.float32)
        maps[1] += added_by(effects, "shadows", exposure) * dark
    if "highlights" in effects:
        bright = np.asarray(smooth_step(zone, *HIGHLIGHTS), np.float32)
        maps[1] += added_by(effects, "highlights", exposure) * bright
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
