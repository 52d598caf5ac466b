"""A print matched to a finished black and white picture: placement, development, time, grade,
points and print curve under which a frame's tones are distributed as the picture's are.

A picture of another scene tells nothing of film and filter, so these stay. What it tells is how
often each tone stands in it (histogram specification: Gonzalez & Woods, Digital Image Processing),
how it is grained, and the tint of its paper. Of the many settings that give one distribution those
nearest to the proposed print are taken; what they leave open the print curve does.
"""

from dataclasses import dataclass

import numpy as np
import scipy  # its parts are read when they are asked for
from numpy.typing import NDArray

from ..colour import decode_srgb, encode_srgb, lightness_of
from ..development.negative import Developing
from ..development.settings import DevelopmentSettings
from ..enlarger.exposure import CALLIER, lamp
from ..film.settings import FilmSettings
from ..film.zones import LOG10_STOP
from ..light_path import LightPath
from ..paper.curve import paper_curve
from ..paper.finish import finished
from ..paper.paper import HARDEST, SOFTEST
from ..paper.settings import PaperSettings
from ..recipe import Recipe
from ..settings import range_of
from ..wording import development_name, grade_name

Floats = NDArray[np.float64]

CURVE_AT = (0.7, 1.5, 2.5, 3.5, 4.5, 5.5, 6.5, 7.5, 8.5, 9.3)  # print values of its points
WORTH_A_CURVE = 0.6  # of 255, that tones are off on average
PULL = 12.0  # numbers that a step of STEPS off the proposed print counts as
STEPS = np.array([1.0, 1.0, 2.0, 1.0, 0.05, 0.05])  # of placement, N, grade, stops, black, white
USUAL_TIME = 12.0 * 250.0  # s, times the speed of the paper
MIDDLES = 64.0, 192.0  # output numbers between which the slope is told


@dataclass(frozen=True)
class Matched:
    """A recipe whose print is near a reference, and how near."""

    recipe: Recipe
    apart: float  # mean difference of tones, of 255
    slope: float  # of mid tones, in parts of the reference's

    @property
    def says(self) -> str:
        """What was set."""
        made = self.recipe
        paper = made.paper
        points = [
            f"black from {paper.black_at:.0%}" if paper.black_at < 1.0 else "",
            f"white to {paper.white_at:.0%}" if paper.white_at else "",
            f"a curve of {len(paper.curve)} points" if paper.curve else "",
        ]
        return ", ".join(
            part
            for part in (
                f"placement {made.film.placement:+.2g}".replace("-", "−"),
                development_name(made.development.n),
                f"{made.enlarger.time:g} s",
                f"grade {grade_name(paper.grade)}",
                *points,
                f"grain × {made.film.grain:g}" if made.film.grain else "no grain",
            )
            if part
        )


@dataclass(frozen=True)
class _Setting:
    """Settings that are fitted."""

    placement: float
    n: float
    grade: float
    time: float  # s
    black_at: float
    white_at: float

    @classmethod
    def of(cls, values: Floats) -> "_Setting":
        placement, n, grade, stops, black, white = (float(v) for v in values)
        return cls(placement, n, grade, 2.0**stops, black, white)


class _Fitting:
    """Tones of a frame's print under settings that are tried."""

    def __init__(self, path: LightPath, exposures: Floats) -> None:
        self._path, self._exposures = path, exposures
        self._lamp = lamp(path.things.paper, path.recipe.enlarger.head)
        self._callier = CALLIER[path.recipe.enlarger.head]

    def net(self, setting: _Setting) -> Floats:
        """Net density of the paper before choices in the print."""
        developed = self._path.with_settings(
            development=self._path.recipe.development.model_copy(update={"n": round(setting.n, 2)})
        )[Developing]
        density = developed.density((self._exposures + setting.placement) * LOG10_STOP)
        # between steps of N, so that it can be followed
        exposure = np.log10(setting.time) + self._lamp - self._callier * density
        return paper_curve(self._path.things.paper, round(setting.grade, 3)).density(exposure)

    def numbers(self, setting: _Setting) -> Floats:
        """Output numbers, 0 to 255, of LEVELS of the picture."""
        most = self._path.things.paper.net_density
        points = PaperSettings(black_at=setting.black_at, white_at=setting.white_at)
        return numbers_of(finished(self.net(setting), most, points), most)


def numbers_of(net: Floats, most: float) -> Floats:
    """Output numbers, 0 to 255, of net density of a paper; not rounded."""
    black = 10.0**-most
    light = np.clip((10.0**-net - black) / (1.0 - black), 0.0, 1.0)
    return np.asarray(255.0 * encode_srgb(light))


def fit(path: LightPath, exposures: Floats, proposed: Recipe, wanted: Floats) -> Recipe:
    """The recipe of a light path with its exposure, development, time, grade and points such that
    tones of the picture are near those wanted: (256,) output numbers at LEVELS. `exposures` are
    log2 H (256,) at LEVELS with no placement, falling as they get darker; `proposed` is where the
    search begins and what it keeps to."""
    fitting, times = _Fitting(path, exposures), range_of_times(path)
    n = range_of(DevelopmentSettings, "n")
    placements = range_of(FilmSettings, "placement")
    stock = path.things.stock
    low = np.array([placements[0], max(stock.least_n, n[0]), SOFTEST, times[0], 0.5, 0.0])
    high = np.array([placements[1], min(stock.most_n, n[1]), HARDEST, times[1], 1.0, 0.28])
    start = np.array([
        proposed.film.placement, proposed.development.n, proposed.paper.grade,
        np.log2(proposed.enlarger.time or 12.0), proposed.paper.black_at, proposed.paper.white_at,
    ])  # fmt: skip

    def search(begin: Floats, free: NDArray[np.bool_]) -> tuple[float, Floats]:
        """What some settings cost, and they: those that are not free stay."""

        def off(steps: Floats) -> Floats:
            values = begin.copy()
            values[free] = start[free] + (steps - 10.0) * STEPS[free]  # never 0, for its slopes
            differ = fitting.numbers(_Setting.of(values)) - wanted
            return np.concatenate([differ / 16.0, PULL / 16.0 * (values - start) / STEPS])

        def steps_of(values: Floats) -> Floats:
            return np.asarray(10.0 + ((values - start) / STEPS)[free])

        room = steps_of(low), steps_of(high)
        first = np.clip(steps_of(begin), room[0] + 1e-3, room[1] - 1e-3)
        found = scipy.optimize.least_squares(off, first, bounds=room, diff_step=0.003, max_nfev=30)
        values = begin.copy()
        values[free] = start[free] + (found.x - 10.0) * STEPS[free]
        return float(found.cost), values

    every = np.ones(6, bool)
    begins = [start + np.array([0.0, 0.0, grade, 0.0, 0.0, 0.0]) for grade in (0.0, 1.5, -1.5)]
    best = min((search(np.clip(b, low, high), every) for b in begins), key=lambda f: f[0])[1]
    # first what has steps of its own, then the rest beside it
    best[:3] = np.round(best[:3] * (12.0, 6.0, 4.0)) / (12.0, 6.0, 4.0)
    best[:3] = np.clip(best[:3], low[:3], high[:3])
    made = _Setting.of(search(best, np.arange(6) > 2)[1])
    recipe = path.recipe
    return recipe.model_copy(
        update={
            "film": recipe.film.model_copy(update={"placement": made.placement}),
            "development": recipe.development.model_copy(update={"n": made.n}),
            "enlarger": recipe.enlarger.model_copy(update={"time": round(made.time, 1)}),
            "paper": PaperSettings(
                paper=recipe.paper.paper,
                grade=made.grade,
                black_at=round(made.black_at, 3) if made.black_at < 0.995 else 1.0,
                white_at=round(made.white_at, 3) if made.white_at > 0.005 else 0.0,
            ),
        }
    )


def curve_for(values: Floats, wanted: Floats) -> tuple[tuple[float, float], ...]:
    """Points of a print curve that brings print values (N,), rising, to those wanted; both ends of
    the scale stay where they are."""
    order = np.argsort(values, kind="stable")
    x, y = values[order], np.maximum.accumulate(wanted[order])
    at = [v for v in CURVE_AT if x[0] + 0.1 <= v <= x[-1] - 0.1]
    points, last = [], 0.0
    for value in at:
        near = (x > value - 0.25) & (x < value + 0.25)
        to = (
            float(np.median(y[near] - x[near])) + value
            if near.any()
            else float(np.interp(value, x, y))
        )
        last = max(round(float(np.clip(to, 0.0, 10.0)), 2), last)
        points.append((value, last))
    return tuple(points)


def range_of_times(path: LightPath) -> tuple[float, float]:
    """log2 of the seconds that may be found: three stops about a usual time on the paper."""
    middle = float(np.log2(USUAL_TIME / path.things.paper.speed))
    return middle - 3.0, middle + 3.0


def nearness(numbers: Floats, wanted: Floats) -> tuple[float, float]:
    """How far tones (256,) are apart on average, and the slope of mid tones in parts of the wanted
    one's."""
    middle = (wanted > MIDDLES[0]) & (wanted < MIDDLES[1])
    slope = 1.0
    if middle.sum() >= 8 and np.ptp(wanted[middle]) > 10.0:
        slope = float(np.polyfit(wanted[middle], numbers[middle], 1)[0])
    return float(np.abs(numbers - wanted).mean()), slope


def values_of(numbers: Floats) -> Floats:
    """Print values, L*/10, of output numbers."""
    return lightness_of(decode_srgb(np.asarray(numbers, np.float64) / 255.0)) / 10.0
