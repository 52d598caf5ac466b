"""Where exposure must lie for a metered spot to read a zone."""

from dataclasses import dataclass

from ..film.settings import FilmSettings
from ..places import PicturePixel
from ..roots import root
from ..settings import range_of
from .darkroom import Darkroom
from .sitting import Sitting

CLOSE = 0.004  # zones; what a recipe keeps of a placement is coarser
TRIES = 8


@dataclass(frozen=True)
class Placing:
    """A placement of the exposure, and the zone that the spot then reads."""

    placement: float  # stops
    zone: float


def placing_for(
    darkroom: Darkroom, sitting: Sitting, place: PicturePixel, radius: int, zone: float
) -> Placing:
    """The placement under which a spot reads `zone`, or the end of its range that comes nearest.

    As long as all before the film is in proportion to light, a stop moves a spot by a zone; where
    shadows are opened, highlights reined in, or only highlights glow, it is found by trying.
    """
    low, high = range_of(FilmSettings, "placement")
    read: dict[float, float] = {}

    def off(placement: float) -> float:
        if placement not in read:
            film = sitting.path.recipe.film.model_copy(update={"placement": placement})
            path = sitting.path.with_settings(film=film)
            read[placement] = darkroom.spot(sitting.under(path), place, radius).zone - zone
        return read[placement]

    at = sitting.path.recipe.film.placement
    for _ in range(TRIES):
        if abs(off(at)) < CLOSE:
            break
        at = min(max(at - off(at), low), high)
    else:
        at = root(off, low, high)
    return Placing(at, off(at) + zone)
