"""The same light path with other seconds under the enlarger, or on another grade."""

from dataclasses import replace

from ..light_path import LightPath
from ..paper.grading import Grading
from .projection import LEAST_TIME, Projection


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


def unworked(path: LightPath) -> LightPath:
    """The path without its printing map."""
    drawings = replace(path.things.drawings, passes=())
    return replace(path, things=replace(path.things, drawings=drawings))


def exposed_so_far(path: LightPath, seconds: float) -> LightPath:
    """The path when the paper has been exposed so long: of a split grade the soft exposure comes
    first. Nothing is dodged or burned yet."""
    path = unworked(path)
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
