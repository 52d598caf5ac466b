"""A toner measured from two wedges on one paper: untoned, and toned to the end.

Of each step the visual density and the densities in red, green and blue light follow from CIELAB
(CIE 15), above the paper's base. What the toner does at a density is their change.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ...errors import BadItem
from ..colour import SRGB_LUMINANCE

Floats = NDArray[np.float64]
Takes = Literal["lights", "shadows", "throughout"]

LEAST_STEPS = 5
LEAST_DENSITY = 0.6  # net, of the untoned wedge's darkest step
FAINT = 0.08  # net density below which a step tells no colour
LEAST_LIGHT = 1e-4  # of a channel, that a densitometer tells
TIMES, RATIO = (0.2, 2.0), (0.0, 4.0)  # bounds of what is believed


@dataclass(frozen=True)
class MeasuredToner:
    """What a toner makes of silver, by its density above the base: how dense the toned image is
    beside it, and its density in red, green and blue light beside that visual one."""

    id: str
    name: str
    takes: Takes  # which densities go first
    density: tuple[float, ...]  # rising
    times: tuple[float, ...]
    ratios: tuple[tuple[float, float, float], ...]

    def times_at(self, density: Floats) -> Floats:
        """(N,) for densities (N,)."""
        return np.interp(density, self.density, self.times)

    def ratios_at(self, density: Floats) -> Floats:
        """(N, 3) for densities (N,)."""
        rows = np.array(self.ratios).T
        return np.stack([np.interp(density, self.density, row) for row in rows], axis=-1)


@dataclass(frozen=True)
class TonerRows:
    """Rows of a toner, as `MeasuredToner` has them."""

    density: tuple[float, ...]
    times: tuple[float, ...]
    ratios: tuple[tuple[float, float, float], ...]


def rows_of(untoned: Floats, toned: Floats) -> TonerRows:
    """The rows that two wedges give: linear sRGB (N, 3) of the same steps, the first or the
    lightest being the base. Raises BadItem."""
    if len(untoned) != len(toned):
        raise BadItem(
            f"The untoned wedge has {len(untoned)} steps and the toned one {len(toned)}; measure "
            "the same steps of both."
        )
    if len(untoned) < LEAST_STEPS:
        raise BadItem(f"{len(untoned)} steps; a toner needs at least {LEAST_STEPS}.")
    before = _visual(untoned)
    order = np.argsort(before, kind="stable")
    untoned, toned, before = untoned[order], toned[order], before[order]
    base = before[0]
    net = before - base
    if net[-1] < LEAST_DENSITY:
        raise BadItem(
            f"The untoned wedge reaches {net[-1]:.2f} above its base; at least {LEAST_DENSITY:g} "
            "is needed, and better its black."
        )
    after = np.maximum(_visual(toned) - base, 1e-6)
    channels = -np.log10(np.maximum(toned, LEAST_LIGHT) / np.maximum(untoned[0], LEAST_LIGHT))
    steps = (net >= FAINT) & np.r_[True, np.diff(net) > 1e-3]
    if steps.sum() < LEAST_STEPS - 1:
        raise BadItem(
            f"Only {int(steps.sum())} steps lie {FAINT:g} or more above the base, each denser than "
            "the one before; measure more of them."
        )
    times = np.clip(after / np.maximum(net, 1e-6), *TIMES)
    ratios = np.clip(channels / after[:, None], *RATIO)
    return TonerRows(
        tuple(round(float(v), 4) for v in net[steps]),
        tuple(round(float(v), 4) for v in times[steps]),
        tuple(
            (round(float(r), 4), round(float(g), 4), round(float(b), 4))
            for r, g, b in ratios[steps]
        ),
    )


def _visual(rgb: Floats) -> Floats:
    """Visual density (N,) of linear sRGB (N, 3)."""
    return np.asarray(-np.log10(np.maximum(rgb @ SRGB_LUMINANCE, LEAST_LIGHT)))
