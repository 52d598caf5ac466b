"""Areas of the printing map: how far places of a capture belong to them.

Source of the terms: cards and discs on a wire are what printers dodge and burn with; their soft
edge is their movement (common practice).
"""

from collections.abc import Iterable, Sequence

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from .settings import Card, Disc, Pass

F32 = NDArray[np.float32]
Floats = NDArray[np.float64]

HOWS = ("add", "take", "keep")
TOUCHES = 0.05  # stops from which a pass is said to act at a place
PILED = 1.0  # stops from which passes that lie on each other are said to pile up


def covered(shapes: Iterable[Disc | Card], places: F32) -> F32:
    """(H, W) 0 to 1 of places of a capture (H, W, 2): the first shape, with what each further one
    adds, takes away, or keeps."""
    out: F32 | None = None
    for shape in shapes:
        if out is None:  # of nothing nothing is kept: what there is to take from is all
            out = np.full(places.shape[:2], 0.0 if shape.how == "add" else 1.0, np.float32)
        kernel = kernels.join_disc if isinstance(shape, Disc) else kernels.join_card
        figures = _disc(shape) if isinstance(shape, Disc) else _card(shape)
        how = HOWS.index(shape.how)
        kernels.by_rows(kernel, len(out), places, figures.astype(np.float32), how, out)
    return np.zeros(places.shape[:2], np.float32) if out is None else out


def _disc(disc: Disc) -> Floats:
    """An ellipse: full inside its soft edge, which lies half within and half without."""
    turn = np.radians(disc.angle)
    return np.array(
        [
            disc.x, disc.y, 1.0 / disc.width, 1.0 / disc.height, np.cos(turn), np.sin(turn),
            1.0 / disc.soft,
        ]
    )  # fmt: skip


def _card(card: Card) -> Floats:
    """A straight edge: full up to its first line, and from there to the second less and less."""
    run = np.array([card.to_x - card.x, card.to_y - card.y])
    return np.array([card.x, card.y, *(run / max(float(run @ run), 1e-9))])


def acting(passes: Iterable[Pass]) -> list[Pass]:
    """Passes that do something."""
    return [each for each in passes if each.on and each.stops and each.strength]


def printed(passes: Sequence[Pass], amounts: Sequence[F32]) -> tuple[F32, NDArray[np.bool_]]:
    """Stops (H, W) that passes give by how far places belong to their areas, (H, W) each, and where
    passes of no common group lie on each other and add up to more than a stop.

    Passes add; of those in one group the strongest counts at each place.
    """
    sums = np.zeros_like(amounts[0])
    touched, groups = np.zeros(sums.shape, np.uint8), {0: sums}
    for number in sorted({each.group for each in passes} - {0}):
        groups[number] = np.zeros_like(sums)
    for number, into in groups.items():
        here = touched if number == 0 else np.zeros_like(touched)
        for each, amount in zip(passes, amounts, strict=True):
            if each.group == number:
                stops = np.float32(each.stops * each.strength)
                kernels.by_rows(
                    kernels.add_pass, len(into), amount, stops, each.opposite, number > 0,
                    np.float32(TOUCHES), into, here,
                )  # fmt: skip
        if number:
            sums += into
            touched += here > 0
    return sums, (touched > 1) & (np.abs(sums) > PILED)
