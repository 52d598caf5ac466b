"""What all passes of a printing map add up to.

Passes add in stops; of those in one group the strongest counts at each place. An exposure through
another grade adds as an exposure: with E times the base exposure of grade g, and R more of grade
h, the paper gets E + R of the grade (E · g + R · h) / (E + R), as two exposures of a split grade do
(`paper.split_grade`).
"""

from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from functools import partial
from threading import Lock
from weakref import ref

import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..paper.paper import HARDEST, SOFTEST
from .shapes import EFFECTS, Pass

F32 = NDArray[np.float32]
Sums = NDArray[np.float32] | NDArray[np.int32]

NO_AMOUNT = np.empty((1, 0, 0), np.float32)
TOUCHES = 0.05  # stops from which a pass is said to act at a place
PILED = 1.0  # stops from which passes that lie on each other are said to pile up
MOST_STOPS = 12.0  # either way, whatever passes add up to
LEAST_EXPOSURE = 2.0**-8  # of the base exposure, left where all is held back
ROWS, FEW_CHANGES = 24, 3  # that passes are added up in at a time; as many changes are done whole
PARTS = 2**18  # of a stop that passes are added up in
PARTS_OF_EXPOSURE = 2**12  # of the base exposure: through another grade it may be a thousand times
LIMITS = {  # of what passes add up to
    "fine": (-1.0, 2.0), "mid_scale": (-1.0, 2.0), "broad": (-1.0, 2.0), "shadows": (-3.0, 3.0),
    "highlights": (-3.0, 3.0), "haze": (-1.0, 1.0), "soft_focus": (0.0, 1.0),
    "sharpness": (-1.0, 3.0), "noise": (0.0, 1.0), "untoned": (0.0, 1.0), "warm": (-1.0, 1.0),
    "colour": (0.0, 1.0),
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


@dataclass(frozen=True)
class Given:
    """What a pass, or of the passes of a group the strongest, gives."""

    amount: F32  # level (1, H, W), with its slope by the light (2, H, W)
    value: float
    opposite: bool = False
    made: bool = False  # for this sum alone: nobody else holds the amount

    @property
    def key(self) -> tuple[int, float, bool]:
        """Names it while its amount is held."""
        return id(self.amount), self.value, self.opposite


class Total:
    """A running total over a ground. It is exact, in whole numbers of parts: what is put in and
    taken out again leaves nothing behind, so that the seconds of one pass cost no more than that
    pass, and no sum shows by which way it was come by."""

    def __init__(self, shape: tuple[int, ...], parts: int) -> None:
        self._shape, self._parts = shape, parts
        self._sums = np.empty((2, *shape), np.int32)
        self._felt = np.empty(shape, np.uint8)
        self._holds: list[tuple[Callable[[], F32 | None], Given]] | None = None

    @property
    def nbytes(self) -> int:
        """What it holds of its own."""
        return self._sums.nbytes + self._felt.nbytes

    def of(self, given: list[Given]) -> tuple[NDArray[np.int32], NDArray[np.uint8]]:
        """(2, H, W) level and slope by the light of the sum, in parts; and how many are felt at a
        place. Until it is asked again."""
        before = self._before()
        out, into = _apart(before or [], given)
        if before is None or len(out) + len(into) >= len(given):
            out, into = [], given
            self._sums[:], self._felt[:] = 0, 0
        self._holds = None  # until all is done
        changes = [(each, -1) for each in out] + [(each, 1) for each in into]
        kernels.by_rows(self._add, self._shape[0], changes)
        # areas belong to who keeps them: one that is let go is not held for the sum's sake
        self._holds = [
            (partial(_same, g.amount) if g.made else ref(g.amount), replace(g, amount=NO_AMOUNT))
            for g in given
        ]
        return self._sums, self._felt

    def _before(self) -> list[Given] | None:
        """What it holds; None where that is not at hand any more."""
        found = []
        for amount, each in self._holds or []:
            there = amount()
            if there is None:
                return None
            found.append(replace(each, amount=there))
        return None if self._holds is None else found

    def _add(self, first: int, last: int, changes: list[tuple[Given, int]]) -> None:
        """To some rows, of many a few rows at a time: their sums stay at hand."""
        rows = ROWS if len(changes) > FEW_CHANGES else last - first
        for row in range(first, last, rows):
            for each, count in changes:
                kernels.add_pass(
                    row, min(row + rows, last), each.amount, np.float32(each.value), each.opposite,
                    np.int32(count), np.float32(self._parts), np.float32(TOUCHES), self._sums,
                    self._felt,
                )  # fmt: skip


def _same(amount: F32) -> F32:
    return amount


def _apart(before: list[Given], now: list[Given]) -> tuple[list[Given], list[Given]]:
    """What is in the one and not in the other, and the other way; twice counts twice."""

    def without(these: list[Given], those: list[Given]) -> list[Given]:
        left = Counter(each.key for each in those)
        found = []
        for each in these:
            if left[each.key]:
                left[each.key] -= 1
            else:
                found.append(each)
        return found

    return without(before, now), without(now, before)


class Totals:
    """The running totals of the printing map of a picture; for one at a time."""

    def __init__(self, shape: tuple[int, ...]) -> None:
        self.lock = Lock()
        self.stops = Total(shape, PARTS)
        self.other = Total(shape, PARTS_OF_EXPOSURE)
        self.harder = Total(shape, PARTS_OF_EXPOSURE)

    @property
    def nbytes(self) -> int:
        """What they hold, for the cache's sake."""
        return self.stops.nbytes + self.other.nbytes + self.harder.nbytes


def worked(
    passes: Sequence[Pass],
    areas: Sequence[F32],
    grade: float,
    any_grade: bool,
    guide: Callable[[], F32] | None = None,
    totals: Totals | None = None,
) -> Worked:
    """What passes give by their areas (`areas.area`) beside a base exposure of that grade; a paper
    of fixed grades knows no other. `guide` is log2 of light (H, W), which areas may follow. With
    the totals of former passes only what is other is added."""
    shape = areas[0].shape[1:]
    totals = totals or Totals(shape)
    having = list(zip(passes, areas, strict=True))

    def through(each: Pass) -> bool:
        return any_grade and each.grade is not None and each.grade != grade

    def exposure(each: Pass) -> float:
        return each.stops * each.strength

    def other(each: Pass) -> float:
        return float(2.0 ** exposure(each) - 1.0)

    own = [(p, a) for p, a in having if p.stops and not through(p)]
    graded = [(p, a) for p, a in having if p.stops and through(p)]
    lines = any(len(a) > 1 for _, a in (*own, *graded))
    light = guide() if lines and guide else np.zeros(shape, np.float32)
    with totals.lock:
        sums, touched = totals.stops.of(_given(own, exposure))
        stops: Sums = sums
        part = 1.0 / PARTS
        if graded:
            added, felt = totals.other.of(_given(graded, other))
            harder, _ = totals.harder.of(
                _given(graded, lambda p: other(p) * (float(p.grade or 0.0) - grade))
            )
            stops, grades = _with_grades(sums, added, harder, grade)
            touched, part = touched + felt, 1.0
            maps = np.empty((8, *shape), np.float32)
            _hold_line(stops, part, light, (-MOST_STOPS, MOST_STOPS), maps[:4])
            _hold_line(grades, part, light, (SOFTEST, HARDEST), maps[4:])
        elif lines:
            maps = np.empty((4, *shape), np.float32)
            _hold_line(stops, part, light, (-MOST_STOPS, MOST_STOPS), maps)
        else:
            maps = _numbers(sums[:1], PARTS)
        piled = (touched > 1) & (np.abs(stops[0]) > PILED / part)
    effects = {}
    for name in EFFECTS:
        acting_so = [(p, a) for p, a in having if getattr(p, name)]
        if acting_so:
            sums, _ = Total(shape, PARTS).of(_given(acting_so, _change_of(name)))
            effects[name] = np.clip(_numbers(sums[0], PARTS), *LIMITS[name])
    return Worked(maps if own or graded else None, bool(graded), piled, effects)


def _numbers(sums: NDArray[np.int32], parts: int) -> F32:
    return sums.astype(np.float32) * np.float32(1.0 / parts)


def _change_of(effect: str) -> Callable[[Pass], float]:
    return lambda each: getattr(each, effect) * each.strength


def _given(having: Sequence[tuple[Pass, F32]], value: Callable[[Pass], float]) -> list[Given]:
    """What passes give by their areas: each, or of those in one group the strongest."""
    found = [Given(a, value(p), p.opposite) for p, a in having if not p.group]
    for number in sorted({p.group for p, _ in having} - {0}):
        strongest = np.zeros((2, *having[0][1].shape[1:]), np.float32)
        for each, area in having:
            if each.group == number:
                kernels.by_rows(
                    kernels.let_stronger, area.shape[1], area, np.float32(value(each)),
                    each.opposite, strongest,
                )  # fmt: skip
        found.append(Given(strongest, 1.0, made=True))
    return found


def _with_grades(
    base: NDArray[np.int32], added: NDArray[np.int32], harder: NDArray[np.int32], grade: float
) -> tuple[F32, F32]:
    """Stops and grade, each level and slope by the light (2, H, W), of a sum in stops with
    exposures of other grades, in parts."""
    stops, grades = np.empty(base.shape, np.float32), np.empty(base.shape, np.float32)
    kernels.by_rows(
        kernels.with_grades, base.shape[1], base, np.float32(1.0 / PARTS), added, harder,
        np.float32(1.0 / PARTS_OF_EXPOSURE), np.float32(grade), np.float32(LEAST_EXPOSURE),
        stops, grades,
    )  # fmt: skip
    return stops, grades


def held_line(area: F32, light: F32) -> F32:
    """(4, H, W) an area (2, H, W) that follows the light as it is laid over a view."""
    out = np.empty((4, *light.shape), np.float32)
    _hold_line(area, 1.0, light, (-MOST_STOPS, MOST_STOPS), out)
    return out


def _hold_line(sums: Sums, part: float, light: F32, within: tuple[float, float], out: F32) -> None:
    """Into out (4, H, W): the line in the light of level and slope (2, H, W), in parts, and between
    what it stays: the least and the most of the level close by. The light (H, W) is what they were
    found in."""
    least, most = (np.float32(v) for v in within)
    kernels.by_rows(
        kernels.hold_lines, sums.shape[1], sums, np.float32(part), light, least, most, out
    )
