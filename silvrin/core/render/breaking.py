"""Breaking up: noise of colour that a steep conversion turns into noise of tone.

Two neighbours of slightly different colour become different greys where the chromaticity table is
steep: behind a deep filter, under a narrow or strongly moved hue band. The capture's own noise of
colour is measured between neighbours; times the table's slope it is the noise to expect in stops.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..light.conversion import Conversion
from ..light.sureness import Sureness
from ..picture import LinearPicture
from ..spectra.chromaticity import SIZE
from .coding import F32, code

TILES, SIDE = 6, 96  # places a side of the picture at which noise is measured, and their size
LEVELS = np.arange(-13.0, 3.0, 1.0)  # log2 of the light's sum at which it is known
UNSURE = 1.0 / 3.0  # stops of deviation from which an exposure counts as unsure
BREAKS = 0.16  # stops of noise that are seen as breaking up, at 100 %
DARKEST = -6.0  # stops from Zone V: below Zone -1 nothing is seen
SMOOTHED_AWAY = 0.8  # share of the noise that full chroma smoothing takes
MAD = 1.4826  # standard deviation of a normal distribution by its median deviation


@dataclass(frozen=True)
class ChromaNoise:
    """Standard deviation of both chromaticity cells over LEVELS, (2, levels)."""

    deviation: NDArray[np.float64]

    @property
    def nbytes(self) -> int:
        return int(self.deviation.nbytes)


def chroma_noise(picture: LinearPicture) -> ChromaNoise:
    """Of a picture at full size: by the median difference of pixels two apart, which edges and
    textures hardly move, in every step of brightness that it has enough of."""
    full, found = picture.level_for(1.0), []
    for j in range(TILES):
        for i in range(TILES):
            top = (2 * j + 1) * full.shape[0] // (2 * TILES)
            left = (2 * i + 1) * full.shape[1] // (2 * TILES)
            coded = code(picture.patch(left, top, SIDE), picture.scale, picture.gains)
            if coded.shape[1] > 2:
                apart = coded[:, 2:] - coded[:, :-2]
                level = 0.5 * (coded[:, 2:, 2] + coded[:, :-2, 2])
                found.append(np.stack([*np.moveaxis(apart[..., :2], -1, 0), level]).reshape(3, -1))
    if not found:
        return ChromaNoise(np.zeros((2, len(LEVELS))))
    red, green, level = np.concatenate(found, axis=1)
    known, deviation = [], []
    for stop in LEVELS:
        here = np.abs(level - stop) < 0.5
        if here.sum() >= 200:
            known.append(stop)
            deviation.append(
                [MAD / np.sqrt(2.0) * np.median(np.abs(v[here])) for v in (red, green)]
            )
    if not known:
        return ChromaNoise(np.zeros((2, len(LEVELS))))
    lines = np.array(deviation).T
    return ChromaNoise(np.stack([np.interp(LEVELS, known, line) for line in lines]))


@dataclass(frozen=True)
class Palette:
    """Which colours a picture holds: chromaticity cells (red, green), log2 of the sum, and how many
    pixels have them, (N,) each."""

    red: NDArray[np.intp]
    green: NDArray[np.intp]
    logs: NDArray[np.float64]
    counts: NDArray[np.int64]

    @property
    def nbytes(self) -> int:
        return int(4 * self.counts.nbytes)


def palette_of(coded: F32) -> Palette:
    """Of a coded picture (H, W, 3); brightness in steps of a stop."""
    cells = np.clip(np.rint(coded[..., :2]), 0, SIZE - 1).astype(np.int32)
    steps = np.clip(np.rint(coded[..., 2] - LEVELS[0]), 0, len(LEVELS) - 1).astype(np.int32)
    number = (steps * SIZE + cells[..., 1]) * SIZE + cells[..., 0]
    counts = np.bincount(number.ravel())
    held = np.flatnonzero(counts)
    rest, red = np.divmod(held, SIZE)
    step, green = np.divmod(rest, SIZE)
    return Palette(red, green, LEVELS[step], counts[held])


def share_breaking(palette: Palette, conversion: Conversion, noise: ChromaNoise) -> float:
    """Share of the picture, 0 to 1, in which the noise of colour is seen as noise of tone."""
    expected = _expected(palette.red, palette.green, palette.logs, conversion, noise)
    return float(palette.counts[expected > BREAKS].sum() / palette.counts.sum())


def share_unsure(palette: Palette, conversion: Conversion, sureness: Sureness) -> float:
    """Share of the picture, 0 to 1, whose exposure may be off by more than a third of a stop, since
    colour alone does not tell the spectrum."""
    unsure = sureness.table[palette.green, palette.red] > UNSURE
    seen = conversion.table[palette.green, palette.red] + palette.logs
    unsure &= seen + conversion.placement > DARKEST
    return float(palette.counts[unsure].sum() / palette.counts.sum())


def noise_of(coded: F32, conversion: Conversion, noise: ChromaNoise) -> F32:
    """(H, W) stops of noise to expect at full size of a coded picture (H, W, 3)."""
    cells = np.clip(np.rint(coded[..., :2]), 0, SIZE - 1).astype(np.intp)
    return _expected(cells[..., 0], cells[..., 1], coded[..., 2], conversion, noise).astype(
        np.float32
    )


def _expected(
    red: NDArray[np.intp],
    green: NDArray[np.intp],
    logs: NDArray[np.floating],
    conversion: Conversion,
    noise: ChromaNoise,
) -> NDArray[np.float64]:
    by_green, by_red = (np.gradient(conversion.table, axis=axis) for axis in (0, 1))
    step = np.clip(np.rint(logs - LEVELS[0]), 0, len(LEVELS) - 1).astype(np.intp)
    out = np.hypot(
        by_red[green, red] * noise.deviation[0][step],
        by_green[green, red] * noise.deviation[1][step],
    )
    left = 1.0 - SMOOTHED_AWAY * conversion.smoothing
    seen = conversion.table[green, red] + logs + conversion.placement > DARKEST
    return np.where(seen, out * left, 0.0)
