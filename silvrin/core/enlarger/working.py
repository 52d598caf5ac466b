"""What all passes of a printing map add up to.

Passes add in stops; of those in one group the strongest counts at each place. An exposure through
another grade adds as an exposure: with E times the base exposure of grade g, and R more of grade
h, the paper gets E + R of the grade (E · g + R · h) / (E + R), as two exposures of a split grade do
(`paper.split_grade`).
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..paper.paper import HARDEST, SOFTEST
from .shapes import EFFECTS, Pass

F32 = NDArray[np.float32]

TOUCHES = 0.05  # stops from which a pass is said to act at a place
PILED = 1.0  # stops from which passes that lie on each other are said to pile up
LEAST_EXPOSURE = 2.0**-8  # of the base exposure, left where all is held back
ROWS = 24  # that passes are added up in at a time
LIMITS = {  # of what passes add up to
    "fine": (-1.0, 2.0), "mid_scale": (-1.0, 2.0), "broad": (-1.0, 2.0), "shadows": (-3.0, 3.0),
    "highlights": (-3.0, 3.0), "haze": (-1.0, 1.0), "soft_focus": (0.0, 1.0),
    "sharpness": (-1.0, 3.0), "noise": (0.0, 1.0),
}  # fmt: skip


@dataclass(frozen=True)
class Worked:
    """Maps over the ground of what all passes give.

    `stops` is (1, H, W), or where areas follow the light (4, H, W): the line a · log2 light + b,
    and the least and the most it may give. With other grades four more: those of the grade.
    """

    stops: F32 | None = None
    graded: bool = False
    piled: NDArray[np.bool_] | None = None
    effects: dict[str, F32] = field(default_factory=dict)  # (H, W) each, by field

    @property
    def follows_light(self) -> bool:
        """Whether the light of a place says what it gets."""
        return self.stops is not None and len(self.stops) > 1

    @property
    def share_piled(self) -> float:
        """Part of the picture in which passes pile up."""
        return 0.0 if self.piled is None else float(self.piled.mean())

    @property
    def nbytes(self) -> int:
        """What it holds, for the cache's sake."""
        held = (self.stops, self.piled, *self.effects.values())
        return sum(int(v.nbytes) for v in held if v is not None)


NOTHING = Worked()


def effects_of(each: Pass) -> dict[str, float]:
    """What a pass changes besides exposure."""
    return {name: value for name in EFFECTS if (value := getattr(each, name))}


def acting(passes: Iterable[Pass]) -> list[Pass]:
    """Passes that do something."""
    return [p for p in passes if p.on and p.strength and (p.stops or effects_of(p))]


def worked(
    passes: Sequence[Pass],
    areas: Sequence[F32],
    grade: float,
    any_grade: bool,
    guide: Callable[[], F32] | None = None,
) -> Worked:
    """What passes give by their areas (`areas.area`) beside a base exposure of that grade; a paper
    of fixed grades knows no other. `guide` is log2 of light (H, W), which areas may follow."""
    shape = areas[0].shape[1:]
    touched = np.zeros(shape, np.uint8)

    def through(each: Pass) -> float | None:
        return each.grade if any_grade and each.grade != grade else None

    def exposure(each: Pass) -> float:
        return each.stops * each.strength

    def other(each: Pass) -> float:
        return float(2.0 ** exposure(each) - 1.0)

    own = [(p, a) for p, a in zip(passes, areas, strict=True) if p.stops and through(p) is None]
    graded = [
        (p, a) for p, a in zip(passes, areas, strict=True) if p.stops and through(p) is not None
    ]
    sums = _sum(own, exposure, shape, touched)
    lines = any(len(a) > 1 for _, a in (*own, *graded))
    light = guide() if lines and guide else np.zeros(shape, np.float32)
    if graded:
        added = _sum(graded, other, shape, touched)
        harder = _sum(graded, lambda p: other(p) * (float(p.grade or 0.0) - grade), shape, None)
        stops, grades = _with_grades(sums, added, harder, grade, light)
        maps = np.concatenate([held_line(stops), held_line(grades, SOFTEST, HARDEST)])
    else:
        stops = sums
        maps = held_line(stops) if lines else np.ascontiguousarray(sums[:1])
    piled = (touched > 1) & (np.abs(stops[0]) > PILED)
    effects = {}
    for name in EFFECTS:
        having = [(p, a) for p, a in zip(passes, areas, strict=True) if getattr(p, name)]
        if having:
            effects[name] = np.clip(_sum(having, _given(name), shape, None)[0], *LIMITS[name])
    return Worked(maps if own or graded else None, bool(graded), piled, effects)


def _given(effect: str) -> Callable[[Pass], float]:
    return lambda each: getattr(each, effect) * each.strength


def _sum(
    having: Sequence[tuple[Pass, F32]],
    value: Callable[[Pass], float],
    shape: tuple[int, ...],
    touched: NDArray[np.uint8] | None,
) -> F32:
    """(3, H, W) level, a and b of the sum; counts where it is felt."""
    sums = np.zeros((3, *shape), np.float32)
    felt = np.zeros(shape, np.uint8) if touched is None else touched
    for number in sorted({p.group for p, _ in having}):
        into = np.zeros_like(sums) if number else sums
        here = np.zeros(shape, np.uint8) if number else felt
        given = [
            (amount, np.float32(value(each)), each.opposite)
            for each, amount in having
            if each.group == number
        ]
        kernels.by_rows(_add, shape[0], given, number > 0, into, here)
        if number:
            sums += into
            felt += here > 0
    return sums


def _add(
    first: int,
    last: int,
    given: Sequence[tuple[F32, np.float32, bool]],
    strongest: bool,
    sums: F32,
    felt: NDArray[np.uint8],
) -> None:
    """All that passes give to some rows, a few rows at a time: their sums stay at hand."""
    for row in range(first, last, ROWS):
        end = min(row + ROWS, last)
        for amount, value, opposite in given:
            kernels.add_pass(
                row, end, amount, value, opposite, strongest, np.float32(TOUCHES), sums, felt
            )


def _with_grades(base: F32, added: F32, harder: F32, grade: float, light: F32) -> tuple[F32, F32]:
    """Stops and grade, each level, a and b, of a sum in stops with exposures of other grades; the
    lines follow by the chain rule."""
    own = np.exp2(base[0])
    total = np.maximum(own + added[0], LEAST_EXPOSURE)
    ln2 = np.float32(np.log(2.0))
    slope = own * base[1] * ln2 + added[1]
    stops = np.log2(total)
    beside = harder[0] / total
    stops_a = slope / (total * ln2)
    beside_a = (harder[1] - beside * slope) / total
    return (
        np.stack([stops, stops_a, stops - stops_a * light]),
        np.stack([grade + beside, beside_a, grade + beside - beside_a * light]),
    )


def held_line(sums: F32, least: float = -12.0, most: float = 12.0) -> F32:
    """(4, H, W) the line in the light of level, a and b (3, H, W), and between what it stays: the
    least and the most of the level close by."""
    out = np.empty((4, *sums.shape[1:]), np.float32)
    kernels.by_rows(
        kernels.hold_lines, sums.shape[1], sums, np.float32(least), np.float32(most), out
    )
    return out
