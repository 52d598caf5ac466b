"""A densitometer that is none: it stands in for one, with a real one's noise and drift, so that
measuring can be learned and tried. Its wedges are computed from the shelf's own things."""

from collections.abc import Sequence
from functools import cache

import numpy as np
from numpy.typing import NDArray

from ..core.colour import SRGB_LUMINANCE
from ..core.film.curve import characteristic_curve
from ..core.paper.curve import paper_curve
from ..core.recipe import Bath, TonerSettings
from ..core.toner.colours import lab_of
from ..core.toner.toning import toned
from ..errors import InstrumentError
from ..shelf import shipped
from .contact_frame import ContactFrame
from .densitometer import Densitometer, Reading, Wedge

Floats = NDArray[np.float64]

NOISE = 0.006  # density, one deviation
DRIFT = 0.0006  # density a reading since it was zeroed
COLOUR_NOISE = 0.25  # of L*, a*, b*
FILM, PAPER, TONER = "larch-100", "semi-matt-fibre-warm", "glossy-fibre-neutral"

WEDGES = (
    Wedge("film-n", "Film, developed to N", "film", 21, 0.15),
    Wedge("film-plus", "Film, developed to N+1", "film", 21, 0.15),
    Wedge("paper-soft", "Paper, grade 1", "paper", 31, 0.1, 1.0),
    Wedge("paper-2", "Paper, grade 2", "paper", 31, 0.1, 2.0),
    Wedge("paper-hard", "Paper, grade 4", "paper", 31, 0.1, 4.0),
    Wedge("toner", "Paper, untoned and toned in copper", "toner", 11, 0.15),
    Wedge("contact-21", "Contact target of 21 steps", "contact", 21, 0.0),
    Wedge("contact-31", "Contact target of 31 steps", "contact", 31, 0.0),
)


class SimulatedDensitometer(Densitometer):
    """A stand-in."""

    id = "simulated"
    name = "Stand-in (simulated)"
    about = "No device: computed wedges, read with noise, and a zero that drifts a little."

    def __init__(self, seed: int | None = None) -> None:
        self._rng = np.random.default_rng(seed)
        self._base: float | None = None
        self._since = 0
        self._inks: tuple[float, ...] = ()

    def wedges(self) -> tuple[Wedge, ...]:
        """Those that can be laid under its head."""
        return WEDGES

    def lay(self, inks: Sequence[float]) -> None:
        """A contact target, printed by the stand-in for a process."""
        self._inks = tuple(inks)

    def _patches(self, wedge: str | None) -> tuple[Floats, Floats | None]:
        if not any(each.id == wedge and each.what == "contact" for each in WEDGES):
            return _patches(wedge)
        frame = ContactFrame()
        return np.r_[frame.base, frame.printed(np.array(self._inks))], None

    def zero(self, wedge: str | None, patch: int) -> Reading:
        """Take the base for 0."""
        density, lab = self._patches(wedge)
        self._since = 0
        self._base = float(density[_at(patch, density)] + self._rng.normal(0.0, NOISE))
        return Reading(self._base, self._seen(lab, patch))

    def read(self, wedge: str | None, patch: int) -> Reading:
        """Read a patch."""
        if self._base is None:
            raise InstrumentError(
                "The densitometer is not zeroed yet. Lay the base under its head and press Zero."
            )
        density, lab = self._patches(wedge)
        at = _at(patch, density)
        self._since += 1
        off = self._rng.normal(0.0, NOISE) + DRIFT * self._since
        return Reading(float(density[at] + off - self._base), self._seen(lab, patch))

    def _seen(self, lab: Floats | None, patch: int) -> tuple[float, float, float] | None:
        if lab is None:
            return None
        lightness, a, b = lab[_at(patch, lab)] + self._rng.normal(0.0, COLOUR_NOISE, 3)
        return float(np.clip(lightness, 0.0, 100.0)), float(a), float(b)


def _at(patch: int, of: Floats) -> int:
    """The row of a patch from 1; patch 0 is the base."""
    if not 0 <= patch < len(of):
        raise InstrumentError(
            f"There is no patch {patch} on this wedge; it has {len(of) - 1}, and the base as 0."
        )
    return patch


@cache
def _patches(wedge: str | None) -> tuple[Floats, Floats | None]:
    """Densities (N + 1,) of the base and the patches of a wedge, and CIELAB (N + 1, 3) where they
    have colour; of a toner's the untoned patches come first, then the toned ones."""
    found = next((each for each in WEDGES if each.id == wedge), None)
    if found is None:
        raise InstrumentError(
            f"There is no wedge {wedge!r}; there is {', '.join(each.id for each in WEDGES)}."
        )
    at = found.step * np.arange(found.steps)
    if found.what == "film":
        stock = shipped().stock(FILM)
        curve = characteristic_curve(stock.curve, 1.0 if found.id == "film-plus" else 0.0)
        density = curve.density(at - 1.9)
        return np.r_[curve.density(-9.0), density], None
    if found.what == "paper":
        paper = shipped().papers[PAPER]
        net = paper_curve(paper, found.grade or 0.0).density(at - 1.8)
        return paper.base_density + np.r_[0.0, net], None
    most = shipped().papers[TONER].net_density
    black = 10.0**-most
    light = np.r_[1.0, np.linspace(0.97, 0.0, found.steps) ** 2]
    grey = np.repeat(light[:, None], 3, axis=1)
    copper = toned(light[1:], most, TonerSettings(baths=(Bath(kind="copper", time=1.0),)))
    shown = np.concatenate([grey, copper]) * (1.0 - black) + black
    return -np.log10(shown @ SRGB_LUMINANCE), lab_of(shown)
