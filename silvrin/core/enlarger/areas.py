"""Areas of the printing map: how far places of a capture belong to them.

Source of the terms: cards and discs on a wire are what printers dodge and burn with; their soft
edge is their movement (common practice).
"""

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from ..colour import smooth_step
from ..places import CapturePlaces
from .settings import Card, Disc

Floats = NDArray[np.float64]


def covered(shapes: Iterable[Disc | Card], places: CapturePlaces) -> Floats:
    """(N,) 0 to 1 of places (N, 2): the first shape, with what each further one adds, takes away,
    or keeps."""
    amount = np.zeros(len(places))
    for number, shape in enumerate(shapes):
        own = _disc(shape, places) if isinstance(shape, Disc) else _card(shape, places)
        if shape.how == "take":
            amount = amount * (1.0 - own) if number else 1.0 - own
        elif shape.how == "keep" and number:
            amount = amount * own
        else:
            amount = 1.0 - (1.0 - amount) * (1.0 - own)
    return amount


def _disc(disc: Disc, places: CapturePlaces) -> Floats:
    """An ellipse: full inside its soft edge, which lies half within and half without."""
    x, y = (places - np.array([disc.x, disc.y])).T
    turn = np.radians(disc.angle)
    along, across = x * np.cos(turn) + y * np.sin(turn), y * np.cos(turn) - x * np.sin(turn)
    away = np.hypot(along / disc.width, across / disc.height)
    return 1.0 - smooth_step((away - 1.0) / disc.soft + 0.5)


def _card(card: Card, places: CapturePlaces) -> Floats:
    """A straight edge: full up to its first line, and from there to the second less and less."""
    run = np.array([card.to_x - card.x, card.to_y - card.y])
    part = (places - np.array([card.x, card.y])) @ run / max(float(run @ run), 1e-9)
    return 1.0 - smooth_step(part)
