"""What the toner does at the places of a plate."""

from collections.abc import Callable

import numpy as np

from ..enlarger.shapes import TONER_EFFECTS
from ..enlarger.working import Worked
from ..light_path import LightPath
from ..plate import Plate
from ..toner.places import COLOURLESS, NOWHERE, ByPlace, ToningByPlace
from .coding import F32


def by_place(
    path: LightPath, by_hand: Worked, plate: Plate, coded: Callable[[], F32]
) -> ByPlace | None:
    """How the toner acts on a plate; None where it acts alike at all places."""
    effects = by_hand.effects
    changed = any(name in effects for name in TONER_EFFECTS)
    if not (changed or path[ToningByPlace].lets_colour):
        return None
    maps = NOWHERE
    if changed:
        maps = np.zeros((len(TONER_EFFECTS), *plate.pixels.shape[:2]), np.float32)
        for i, name in enumerate(TONER_EFFECTS):
            if name in effects:
                maps[i] = plate.over(effects[name])
    lets = "colour" in effects or path[ToningByPlace].lets_colour
    return ByPlace(maps, np.ascontiguousarray(coded()) if lets else COLOURLESS)
