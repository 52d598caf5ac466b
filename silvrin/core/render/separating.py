"""Two places kept apart: by how many zones films behind filters part them. That is the figure by
which a filter is chosen."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..light.conversion import Conversion, Glass
from ..light.hue_bands import coloured, hue_of, shares
from ..light.lens_filter import MOST_FACTOR
from ..light.settings import LightSettings
from ..light_path import LightPath
from .coding import code
from .darkroom import Darkroom
from .sitting import Sitting

MOSTLY = 0.5  # of a place's hue that lies in a band


@dataclass(frozen=True)
class Separation:
    """What a film behind a filter makes of two places."""

    zones: float  # that the second place lies above the first
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
        factor = path[Glass].filter_factor
        found.append(
            Separation(
                zones=float(second - first),
                factor=float(np.log2(factor)),
                blind=factor >= MOST_FACTOR,
                breaking=darkroom.share_breaking(sitting.under(path)),
            )
        )
    return found


def common_band(settings: LightSettings, lights: NDArray[np.uint16]) -> int | None:
    """The hue band, by number, in which two lights (2, 3) both lie for the most part; None where
    there is none, and bands part them."""
    hues, saturations = hue_of(np.maximum(lights.astype(np.float64), 1e-6))
    in_bands = [
        shares(settings.hue_bands, hue) * coloured(saturation)
        for hue, saturation in zip(hues, saturations, strict=True)
    ]
    first, second = (int(np.argmax(each)) for each in in_bands)
    if first != second or min(float(each.max()) for each in in_bands) < MOSTLY:
        return None
    return first
