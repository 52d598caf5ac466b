"""The chromaticity table: for one light, filter and stock, how colour becomes exposure.

Exposure divided by r + g + b depends on chromaticity alone (see `recovery`), so the whole
of "colour becomes grey" is a square table over (r, g) / (r + g + b), looked up once a pixel.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..light.hue_bands import coloured, hue_of, moved, stops_by_hue
from ..light.lens_filter import filter_factor
from ..light.settings import HueBand
from .grid import Spectrum
from .recovery import (
    Recovered,
    beyond_red,
    known_kinds,
    prior_covariance,
    recover_kinds,
    spread_of,
)

SIZE = 65
SURENESS = 0.75  # of the deviation that the prior has: see docs/accuracy.md
FINE_HUES = np.linspace(0.0, 360.0, 721)


@lru_cache(maxsize=1)
def grid_colours() -> NDArray[np.float64]:
    """(65 * 65, 3): the colour of every table entry, r + g + b = 1.

    Entries beyond the line r + g = 1 take the nearest colour on it.
    """
    axis = np.linspace(0.0, 1.0, SIZE)
    green, red = np.meshgrid(axis, axis, indexing="ij")
    beyond = np.maximum(red + green - 1.0, 0.0) / 2.0
    red, green = np.clip(red - beyond, 0.0, 1.0), np.clip(green - beyond, 0.0, 1.0)
    rgb = np.stack([red, green, 1.0 - red - green], axis=-1).reshape(-1, 3)
    return np.maximum(rgb, 0.0).round(9)


@lru_cache(maxsize=1)
def _grid_recovered() -> tuple[Recovered, NDArray[np.intp]]:
    """What the different colours of the table are, for r + g + b = 3 (a white's sum), and which of
    them every entry has."""
    colours, place = np.unique(grid_colours(), axis=0, return_inverse=True)
    return recover_kinds(3.0 * colours), place.ravel()


@lru_cache(maxsize=1)
def grid_spectra() -> NDArray[np.float64]:
    """(65 * 65, 53): the spectrum of every table entry, for r + g + b = 3."""
    found, place = _grid_recovered()
    return np.asarray(found.spectra[place])


@lru_cache(maxsize=1)
def _grid_spread() -> NDArray[np.float64]:
    return spread_of(_grid_recovered()[0].spectra)


def spread_table(seen: Spectrum) -> NDArray[np.float64]:
    """(65, 65) stops, one standard deviation, by which the exposure of a colour may differ since
    its spectrum cannot be told from it: of what is `seen` = L T S (53,).

    The prior's own spread, given the colour, in first order of ln H about the recovered spectrum;
    and beside it the spread between the kinds of things that it may be. Times SURENESS, by which
    spectra that were not used for recovery lie within one deviation two times in three.
    """
    place = _grid_recovered()[1]
    return np.asarray(_deviations(seen, slice(None))[place].reshape(SIZE, SIZE))


def spread_at(
    seen: Spectrum, hues: "HueSettings", entries: NDArray[np.intp]
) -> NDArray[np.float64]:
    """The same for some entries of the table (N,), counted row by row, under what moves them."""
    place = _grid_recovered()[1]
    if not any(hues.movement):
        return _deviations(seen, place[entries])
    places, weights, _ = _moved(hues.movement)
    four = _deviations(seen, place[places[:, entries]].ravel()).reshape(4, len(entries))
    return np.asarray((four * weights[:, entries]).sum(axis=0))


def _deviations(seen: Spectrum, which: slice | NDArray[np.intp]) -> NDArray[np.float64]:
    """Stops, one deviation, of some of the different colours of the table."""
    found = _grid_recovered()[0]
    parts = found.spectra[which] * seen
    parts = parts / np.maximum(parts.sum(axis=1, keepdims=True), 1e-300)
    taken = np.einsum("nw,nwc->nc", parts, _grid_spread()[which])
    within = ((parts @ prior_covariance()) * parts).sum(axis=1) - (taken**2).sum(axis=1)
    shares = found.shares[:, which]
    logs = np.log(np.maximum(found.kinds[:, which] @ seen, 1e-300))
    middle = (shares * logs).sum(axis=0)
    between = (shares * (logs - middle) ** 2).sum(axis=0)
    deviation = np.sqrt(np.maximum(within, 0.0) + between) / np.log(2.0)
    return np.asarray(SURENESS * deviation)


@lru_cache(maxsize=1)
def _grid_kinds() -> NDArray[np.float64]:
    """(2, 65 * 65): how far every entry is known to be foliage, and open sky."""
    return known_kinds(grid_colours())


def chromaticity_table(
    light: Spectrum,
    transmittance: Spectrum,
    sensitivity: Spectrum,
    compensate: bool,
    foliage: float = 0.0,
    sky: float = 0.0,
) -> NDArray[np.float32]:
    """(65, 65) log2 of H per (r + g + b); rows are green, columns red.

    H = sum L T S R / sum L S, times the filter factor sum L S / sum L T S if `compensate`,
    so that an unfiltered (or compensated) white of r = g = b = 1 gives H = 1. `foliage` and `sky`
    are stops that these send more beyond the red edge than their colour let conclude.
    """
    seen = light * sensitivity / (light @ sensitivity)
    factor = filter_factor(light, transmittance, sensitivity) if compensate else 1.0
    weights = seen * transmittance * factor / 3.0
    exposure = grid_spectra() @ weights
    if foliage or sky:
        more = 2.0 ** (foliage * _grid_kinds()[0] + sky * _grid_kinds()[1])
        exposure = exposure + (more - 1.0) * (grid_spectra() @ (weights * beyond_red()))
    table = np.log2(np.maximum(exposure, 2.0**-30)).reshape(SIZE, SIZE)
    return np.asarray(table, dtype=np.float32)


@lru_cache(maxsize=1)
def grid_hues() -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """(65 * 65,) hue in degrees and saturation of every table entry."""
    return hue_of(grid_colours())


@lru_cache(maxsize=1)
def _grid_coloured() -> NDArray[np.float64]:
    """(65 * 65,) how far bands act on every table entry."""
    return coloured(grid_hues()[1])


@dataclass(frozen=True)
class HueSettings:
    """What the Light station does to hues."""

    bands: tuple[HueBand, ...] = ()
    shift: float = 0.0  # degrees
    green_magenta: float = 0.0
    blue_yellow: float = 0.0

    @property
    def movement(self) -> tuple[float, float, float]:
        """How colours move before the film sees them; all 0 where they stay."""
        return self.shift, self.green_magenta, self.blue_yellow


@lru_cache(maxsize=16)
def _moved(
    movement: tuple[float, float, float],
) -> tuple[NDArray[np.intp], NDArray[np.float64], NDArray[np.float64]]:
    """For every entry, where its colour lies when it is moved: four entries about it (4, N),
    their weights (4, N), and log2 of the sum of the moved colour (N,)."""
    colours = moved(grid_colours(), *movement)
    total = colours.sum(axis=1)
    place = colours[:, 1::-1] / total[:, None] * (SIZE - 1)  # row, column
    low = np.clip(place.astype(np.intp), 0, SIZE - 2)
    (fy, fx), corner = (place - low).T, low[:, 0] * SIZE + low[:, 1]
    weights = [(1 - fy) * (1 - fx), (1 - fy) * fx, fy * (1 - fx), fy * fx]
    return corner + np.array([[0], [1], [SIZE], [SIZE + 1]]), np.stack(weights), np.log2(total)


def with_moved(values: NDArray[np.floating], hues: HueSettings) -> NDArray[np.float64]:
    """Values of colours (65, 65) at the colours that these move to."""
    if not any(hues.movement):
        return values.astype(np.float64)
    places, weights, _ = _moved(hues.movement)
    return np.asarray((values.ravel()[places] * weights).sum(axis=0).reshape(SIZE, SIZE))


def with_hues(table: NDArray[np.float32], hues: HueSettings) -> NDArray[np.float32]:
    """The table with hue bands and moved colours in it, (65, 65)."""
    stops, bands = with_moved(table, hues).ravel(), hues.bands
    if any(hues.movement):
        stops = stops + _moved(hues.movement)[2]
    if any(band.stops for band in bands):
        given = np.interp(grid_hues()[0], FINE_HUES, stops_by_hue(bands, FINE_HUES))
        stops = stops + given * _grid_coloured()
    return stops.reshape(SIZE, SIZE).astype(np.float32)


def infrared_table(
    neutral: tuple[float, float, float] | None,
    weights: tuple[float, float, float],
    spread: tuple[float, float] = (0.0, 0.0),
) -> NDArray[np.float32]:
    """(65, 65) log2 of H per (r + g + b) of a capture from an infrared-converted camera.

    Each channel is divided by what it has in `neutral`, colours are spread about that along green
    and magenta and along blue and yellow, then channels are averaged by their weights (evenly when
    all are 0). The neutral colour itself keeps its sum: H is a third of r + g + b.
    """
    parts = np.array(neutral or (1.0, 1.0, 1.0))
    share = np.array(weights) if any(weights) else np.ones(3)
    colours = grid_colours() / parts * parts.mean()
    if any(spread):
        colours = moved(colours, 0.0, *spread)
    mixed = colours @ (share / share.sum())
    table = np.log2(np.maximum(mixed, 2.0**-30)).reshape(SIZE, SIZE)
    return np.asarray(table, dtype=np.float32)
