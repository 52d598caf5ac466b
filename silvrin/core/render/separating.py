"""Two places kept apart: by how many zones films behind filters part them. That is the figure by
which a filter is chosen."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..light.conversion import Conversion, Glass
from ..light.hue_bands import coloured, hue_of
from ..light.laying import band_for, parted_bands
from ..light.settings import HueBand, LightSettings
from ..light.sureness import Sureness
from ..light_path import LightPath
from .coding import code
from .darkroom import Darkroom
from .sitting import Sitting

LEAST_COLOURED = 0.2  # of what a band gives, that a place of hardly any colour gets at least


@dataclass(frozen=True)
class Separation:
    """What a film behind a filter makes of two places."""

    zones: float  # that the second place lies above the first
    unsure: float  # zones by which that may be off, since colour alone tells no spectrum
    factor: float  # stops that the filter costs
    blind: bool  # behind it the film sees as good as nothing
    breaking: float  # share of the picture in which noise of colour is seen as noise of tone


def separation(
    darkroom: Darkroom, sitting: Sitting, lights: NDArray[np.uint16], paths: Iterable[LightPath]
) -> list[Separation]:
    """Of two lights of the picture (2, 3) under each of some light paths."""
    picture = sitting.picture
    coded = code(lights[None], picture.scale, picture.gains)
    found = []
    for path in paths:
        first, second = path[Conversion].expose(coded)[0]
        unsure = np.hypot(*path[Sureness].of_few(coded[0]))
        factor = path[Glass].filter_factor
        found.append(
            Separation(
                zones=float(second - first),
                unsure=float(unsure),
                factor=float(np.log2(factor)),
                blind=path[Glass].blind,
                breaking=darkroom.share_breaking(sitting.under(path)),
            )
        )
    return found


@dataclass(frozen=True)
class Hues:
    """How two places lie by hue."""

    common: int | None  # the hue band, from 0, that covers both
    parted: tuple[HueBand, ...] | None  # bands of which each has its own; None where none can be


def hues_apart(settings: LightSettings, lights: NDArray[np.uint16]) -> Hues:
    """Of two lights (2, 3) under some hue bands."""
    hues, saturations = hue_of(np.maximum(lights.astype(np.float64), 1e-6))
    if coloured(saturations).min() < LEAST_COLOURED:
        return Hues(None, None)
    (one, other), bands = (float(h) for h in hues), settings.hue_bands
    first, second = band_for(bands, one), band_for(bands, other)
    common = first if first == second else None
    if first is not None and second is not None and common is None:
        return Hues(None, None)  # they are parted by now
    return Hues(common, parted_bands(bands, (one, other)))
