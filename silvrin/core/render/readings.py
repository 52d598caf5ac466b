"""What the meter says of the whole picture."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..light_path import LightPath
from ..spectra.chromaticity import SIZE, grid_hues
from .breaking import Palette
from .coding import F32
from .shown import PRINT_VALUE, grey_of, zone_edges

READING_SIZE = 768  # long side of the whole picture that readings are taken from
LEAST_SEEN = 200  # pixels from which a cast is told
DARK_PART = 0.1  # of the picture, that is left out: there is noise
NO_COLOUR, ONE_COLOUR = 0.005, 0.15  # stops by which ratios of channels deviate, at most
INFRARED_RED, INFRARED_BLUE = 0.8, 0.35  # stops over green, at least
STOPS = 10  # below a channel's limit that its readings tell of


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
    unsure: float  # share whose exposure colour alone tells no better than within 1/3 stop
    channels: list[list[int]]  # (3, 80) red, green, blue over stops below their limit, 10 to 0
    headroom: list[float]  # (3,) stops from a channel's brightest thousandth to its limit
    hues: list[float]  # (72,) coloured share of the picture over hue, 5 degrees each, largest 1
    piled: float  # share where passes of the printing map add up to more than a stop
    one_colour: bool  # its colours differ hardly, as those of an infrared-converted camera do
    infrared_cast: bool  # and all have the cast that equal light in all channels has as shot


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
    one_colour: bool
    infrared_cast: bool

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
    return ChannelReadings(clipped, counts, headroom, *_cast(light, limits))


def _cast(light: NDArray[np.uint16], limits: tuple[float, float, float]) -> tuple[bool, bool]:
    """Whether colours differ hardly, and whether they have the cast of an infrared capture.

    Beyond 720 nm the three dyes of a sensor are nearly equally open: whatever the subject, its
    channels keep their ratios. As shot by daylight that is a deep magenta: red is multiplied most,
    blue more than green. Red things have as much green as blue, or more (common practice).
    """
    seen = light[(light.max(axis=2) < min(limits)) & (light.min(axis=2) > 0)].astype(np.float32)
    if len(seen) < LEAST_SEEN:
        return False, False
    seen = seen[seen.sum(axis=1) >= np.quantile(seen.sum(axis=1), DARK_PART)]
    over_green = np.log2(seen[:, [0, 2]] / seen[:, 1:2])
    red, blue = np.median(over_green, axis=0)
    spread = 0.5 * np.ptp(np.quantile(over_green, [0.16, 0.84], axis=0), axis=0)
    one = bool(NO_COLOUR < spread.max() < ONE_COLOUR)  # a sensor without colours has none at all
    return one, bool(red > INFRARED_RED and blue > INFRARED_BLUE)


def readings_of(
    path: LightPath,
    exposure: F32,
    density: F32,
    numbers: NDArray[np.uint8],
    channels: ChannelReadings,
    palette: Palette,
    breaking: float,
    unsure: float,
    piled: float,
) -> Readings:
    """Readings of a whole picture: its log2 H and density (H, W), output numbers (H, W) or
    (H, W, 3), how its channels lie, its colours, and the shares of it that break up,
    are unsure, and in which passes pile up."""
    hues = _coloured_hues(palette)
    zones, exposures, densities, histogram = (np.zeros(n, np.int64) for n in (11, 64, 4000, 256))
    tones = grey_of(numbers)
    kernels.count(exposure, density, tones, zones, exposures, densities, histogram)
    return Readings(
        scene_zones=[float(v) for v in zones / tones.size],
        negative_zones=_negative_zones(densities, path),
        print_values=_print_values(histogram),
        histogram=[int(v) for v in histogram],
        exposure_histogram=[int(v) for v in exposures],
        paper_black=float(histogram[0]) / tones.size,
        paper_white=float(histogram[255]) / tones.size,
        capture_clipped=channels.clipped,
        breaking=breaking,
        unsure=unsure,
        channels=channels.counts,
        headroom=channels.headroom,
        hues=[float(v) for v in hues],
        piled=piled,
        one_colour=channels.one_colour,
        infrared_cast=channels.one_colour and channels.infrared_cast,
    )


def _print_values(histogram: NDArray[np.integer]) -> list[float]:
    counts = np.bincount(PRINT_VALUE, weights=histogram, minlength=11)
    return [float(c) for c in counts / histogram.sum()]


def _negative_zones(densities: NDArray[np.integer], path: LightPath) -> list[float]:
    """Shares by zone of densities (4000 thousandths)."""
    zones = np.searchsorted(zone_edges(path), np.arange(0.0005, 4.0, 0.001), side="right")
    counts = np.bincount(zones, weights=densities, minlength=11)
    return [float(c) for c in counts / densities.sum()]
