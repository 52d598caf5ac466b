"""Time and grade by which a negative prints well: time for the highlights, grade for the shadows
(common practice)."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..colour import encode_srgb
from .curve import paper_curve
from .finish import value_of
from .paper import HARDEST, SOFTEST, Paper

Floats = NDArray[np.float64]

GRADES = np.arange(0.5, 4.01, 0.25)
HIGHLIGHT = 9.0  # print value of the textured highlight
SHADOW = (0.5, 1.5)  # print values between which the textured shadow is to lie
MIDDLE = (3.0, 6.3)  # ... and the middle of the picture
KEYED = (1.2, 7.2)  # beyond these, in the plain print, a picture is dark or pale by itself ...
KEY_KEPT = 0.75  # ... and its middle moves by no more print values
KEYS = 0.6, 8.2  # print values between which the middle is brought where another key is wanted
NO_MORE_WHITE, NO_MORE_BLACK, SOME_BLACK = 0.003, 0.045, 0.004  # shares of the picture
LOG_EXPOSURES = np.linspace(-4.5, 4.5, 1801)  # at the paper, about its speed point


@dataclass(frozen=True)
class NegativeTones:
    """Densities of a negative: of its textured shadow, middle and textured highlight, and of the
    places that are the first to print black and white."""

    shadow: float
    middle: float
    highlight: float
    blackest: Floats  # (2,) thinner than these are the shares SOME_BLACK and NO_MORE_BLACK
    whitest: float  # denser than this is the share NO_MORE_WHITE


@dataclass(frozen=True)
class Timed:
    """A grade and the exposure that goes with it, and what they print."""

    grade: float
    exposure: float  # log10 of the light through a clear negative, 0 at the paper's speed point
    shadow: float  # print values
    middle: float
    highlight: float
    black_at: float  # black point under which some of the picture is full black


@dataclass(frozen=True)
class Wanted:
    """What a print is timed for beside what serves any: nothing, unless asked for."""

    key: float = 0.0  # print values by which the middle is to lie higher
    contrast: float = 0.0  # grades by which it is to be harder
    grade: float | None = None  # that is given
    exposure: float | None = None  # that is given


def timed(
    paper: Paper, tones: NegativeTones, callier: float, plain: float, wanted: Wanted = Wanted()
) -> Timed:
    """The best of all grades, each timed so that the highlight prints at value 9 as far as the
    middle stays in its range, and no more than a little is bare paper or full black. Of two that
    serve it is the harder one: a strong print has some black. A picture whose middle is dark or
    pale in its plain print keeps its key, though more be black. `plain` is the print value
    of the middle in its plain print. Where another key or contrast is wanted, it is beside these;
    a grade or an exposure that is given stays.
    """
    grades = sorted({paper.grade(float(g)) for g in GRADES})
    if wanted.grade is not None:
        grades = [wanted.grade]
    keeps_key = not KEYED[0] <= plain <= KEYED[1]
    middle = (plain - KEY_KEPT, plain + KEY_KEPT) if keeps_key else MIDDLE
    found = [
        _on_grade(paper, grade, tones, callier, middle, keeps_key, wanted.exposure)
        for grade in grades
    ]
    best = min(found, key=lambda each: each[0])[1]
    if not wanted.key and not wanted.contrast:
        return best
    low, high = KEYS
    grade = paper.grade(float(np.clip(best.grade + wanted.contrast, SOFTEST, HARDEST)))
    key = float(np.clip(best.middle + wanted.key, low, max(high, best.middle)))
    return _on_grade(paper, grade, tones, callier, (key, key), keeps_key)[1]


def _on_grade(
    paper: Paper,
    grade: float,
    tones: NegativeTones,
    callier: float,
    middle: tuple[float, float],
    keeps_key: bool,
    given: float | None = None,
) -> tuple[float, Timed]:
    """How far a grade misses what is wanted, and what it gives. The middle lies in its range of
    print values as far as not too much is black or white; or, where the key is kept, though. An
    exposure that is given stays, whatever it misses."""
    most = paper.net_density
    net = paper_curve(paper, grade).density(LOG_EXPOSURES)
    black = 10.0**-most
    numbers = encode_srgb(np.clip((10.0**-net - black) / (1.0 - black), 0.0, 1.0)) * 255.0 + 0.5
    values = value_of(net, most)

    def exposed_to(value: float) -> float:
        return float(np.interp(-value, -values, LOG_EXPOSURES))

    def prints(exposure: float, density: float) -> float:
        return float(np.interp(exposure - callier * density, LOG_EXPOSURES, values))

    full_black = float(LOG_EXPOSURES[min(int((numbers >= 1.0).sum()), len(numbers) - 1)])
    bare = float(LOG_EXPOSURES[max(int((numbers >= 255.0).sum()) - 1, 0)])
    some_black, no_more_black = full_black + callier * tones.blackest
    wanted = exposed_to(HIGHLIGHT) + callier * tones.highlight
    dark, light = middle
    within = [
        np.array([exposed_to(light), exposed_to(dark)]) + callier * tones.middle,
        np.array([bare + callier * tones.whitest, no_more_black]),
    ]
    if keeps_key:
        within.reverse()
    exposure = wanted
    for least, most_of_it in within:  # where not all can be kept it is the last
        exposure = float(np.clip(exposure, min(least, most_of_it), most_of_it))
    apart = max(within[0][0] - within[1][1], within[1][0] - within[0][1], 0.0)
    if given is not None:
        exposure = given
        apart = max(within[1][0] - given, given - within[1][1], 0.0)
    shadow, half, high = (
        prints(exposure, d) for d in (tones.shadow, tones.middle, tones.highlight)
    )
    missed = (
        (0.0 if keeps_key else 100.0 * apart)
        + 1.5 * abs(high - HIGHLIGHT)
        + 2.0 * max(SHADOW[0] - shadow, 0.0)
        + max(shadow - SHADOW[1], 0.0)
        - 0.05 * grade
    )
    darkest = float(np.interp(exposure - callier * tones.blackest[0], LOG_EXPOSURES, net)) / most
    black_at = 1.0 if exposure >= some_black else float(np.clip(darkest, 0.5, 1.0))
    return missed, Timed(grade, exposure, shadow, half, high, black_at)
