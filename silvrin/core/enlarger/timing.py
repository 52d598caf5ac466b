"""The same light path with other seconds under the enlarger, or on another grade; and the order in
which a print's exposures are given."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..light_path import LightPath
from ..paper.grading import Grading
from .projection import LEAST_TIME, Projection
from .shapes import Moment, Moved, Pass

LEAST_STOPS = -6.0  # of a pass


def exposed_for(path: LightPath, seconds: float) -> LightPath:
    """The path with that base exposure; a split grade keeps its proportion."""
    enlarger = path.recipe.enlarger
    share = seconds / path[Projection].time
    changed = {
        "time": seconds,
        "soft_time": enlarger.soft_time * share,
        "hard_time": enlarger.hard_time * share,
    }
    return path.with_settings(enlarger=enlarger.model_copy(update=changed))


@dataclass(frozen=True)
class Step:
    """A part of the time under the enlarger: what is done from when to when, in seconds."""

    what: Literal["base", "soft", "hard", "dodge", "burn"]
    begins: float
    ends: float
    number: int | None = None  # of the pass


def sequence(path: LightPath) -> tuple[Step, ...]:
    """Base exposure, of a split grade both; dodges in the course of it, one after the other, or
    together where it is not long enough for that; then burns, in their order."""
    total = path[Projection].time
    enlarger = path.recipe.enlarger
    steps = [Step("base", 0.0, total)]
    if path[Grading].split:
        steps = [Step("soft", 0.0, enlarger.soft_time), Step("hard", enlarger.soft_time, total)]
    burns: list[Step] = []
    dodged, burned = 0.0, total
    for number, each in enumerate(path.things.drawings.passes):
        more = seconds_of(each, total) if each.on else 0.0
        if more < 0.0:
            begins = dodged if dodged - more <= total + 1e-9 else 0.0
            dodged = begins - more
            steps.append(Step("dodge", begins, dodged, number))
        elif more > 0.0:
            burns.append(Step("burn", burned, burned + more, number))
            burned += more
    return tuple(step for step in (*steps, *burns) if step.ends > step.begins)


def seconds_of(each: Pass, base: float) -> float:
    """Seconds that a pass adds to a base exposure; below 0 it is held back so long."""
    return float(base * (2.0 ** (each.stops * each.strength) - 1.0))


def exposed_so_far(path: LightPath, seconds: float) -> LightPath:
    """The path when the paper has been exposed so long: of a split grade the soft exposure comes
    first; what is dodged and burned, as far as that has come. Of a mixture it is the one print."""
    drawings = path.things.drawings
    passes = _so_far(drawings.passes, sequence(path), path[Projection].time, seconds)
    drawings = replace(drawings, passes=passes)
    path = replace(path, things=replace(path.things, drawings=drawings), before=None)
    seconds = min(seconds, path[Projection].time)
    if not path[Grading].split:
        return exposed_for(path, max(seconds, LEAST_TIME))
    enlarger = path.recipe.enlarger
    soft = min(seconds, enlarger.soft_time)
    hard = min(max(seconds - enlarger.soft_time, 0.0), enlarger.hard_time)
    changed = {"soft_time": max(soft, LEAST_TIME), "hard_time": hard}
    return path.with_settings(enlarger=enlarger.model_copy(update=changed))


def on_grade(path: LightPath, grade: float) -> LightPath:
    """The path on that grade of paper; where no time is set, for its standard time."""
    paper = path.recipe.paper.model_copy(update={"grade": grade, "split": False})
    return path.with_settings(paper=paper)


def _so_far(
    passes: Sequence[Pass], steps: Sequence[Step], base: float, seconds: float
) -> tuple[Pass, ...]:
    stops = [0.0] * len(passes)
    found = list(passes)
    for step in steps:
        if step.number is None:
            continue
        done = min(max(seconds - step.begins, 0.0), step.ends - step.begins)
        found[step.number] = _moved_so_far(found[step.number], done / (step.ends - step.begins))
        if step.what == "burn":
            stops[step.number] = float(np.log2((base + done) / base))
        elif done:
            given = min(seconds, base)
            least = 2.0**LEAST_STOPS
            stops[step.number] = float(np.log2(max((given - done) / given, least)))
    return tuple(
        each.model_copy(update={"stops": max(given / (each.strength or 1.0), LEAST_STOPS)})
        for each, given in zip(found, stops, strict=True)
    )


def _moved_so_far(each: Pass, part: float) -> Pass:
    """A pass of which what is held by hand has been moved for a part of its time."""
    if not 0.0 < part < 1.0 or not any(isinstance(shape, Moved) for shape in each.shapes):
        return each
    shapes = tuple(
        shape.model_copy(update={"path": _cut(shape.path, part)})
        if isinstance(shape, Moved)
        else shape
        for shape in each.shapes
    )
    return each.model_copy(update={"shapes": shapes})


def _cut(path: Sequence[Moment], part: float) -> tuple[Moment, ...]:
    """The first part of a movement."""
    x, y, moments = np.array(path, np.float64).T
    end = moments[0] + part * (moments[-1] - moments[0])
    last = (float(np.interp(end, moments, x)), float(np.interp(end, moments, y)), float(end))
    return (*(moment for moment in path if moment[2] < end), last)
