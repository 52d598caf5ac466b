"""Areas of the printing map: how far places of a capture belong to them.

Source of the terms: cards and discs on a wire are what printers dodge and burn with; their soft
edge is their movement (common practice).
"""

from collections.abc import Iterable, Sequence

import numpy as np
from numpy.typing import NDArray

from ..colour import smooth_step
from ..places import CapturePlaces
from .settings import Card, Disc, Pass

F32 = NDArray[np.float32]
Floats = NDArray[np.float64]

TOUCHES = 0.05  # stops from which a pass is said to act at a place
PILED = 1.0  # stops from which passes that lie on each other are said to pile up


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


def acting(passes: Iterable[Pass]) -> list[Pass]:
    """Passes that do something."""
    return [each for each in passes if each.on and each.stops and each.strength]


def printed(passes: Sequence[Pass], amounts: Sequence[F32]) -> tuple[F32, NDArray[np.bool_]]:
    """Stops (H, W) that passes give by how far places belong to their areas, (H, W) each, and where
    passes of no common group lie on each other and add up to more than a stop.

    Passes add; of those in one group the strongest counts at each place.
    """
    sums = np.zeros_like(amounts[0])
    touched = np.zeros(sums.shape, np.uint8)
    groups: dict[int, F32] = {}
    for each, amount in zip(passes, amounts, strict=True):
        stops = np.float32(each.stops * each.strength) * (1 - amount if each.opposite else amount)
        if each.group:
            strongest = groups.setdefault(each.group, np.zeros_like(stops))
            np.copyto(strongest, stops, where=np.abs(stops) > np.abs(strongest))
        else:
            sums += stops
            touched += np.abs(stops) > TOUCHES
    for strongest in groups.values():
        sums += strongest
        touched += np.abs(strongest) > TOUCHES
    return sums, (touched > 1) & (np.abs(sums) > PILED)
