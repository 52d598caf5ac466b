"""A print as a careful printer would make it of a capture: "expose for the shadows, develop for the
highlights; time for the highlights, grade for the shadows" (zone-system handbooks; the figures are
common practice, no source)."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from .development.negative import Developing
from .development.settings import DevelopmentSettings
from .enlarger.exposure import CALLIER, lamp
from .enlarger.projection import Projection
from .enlarger.settings import EnlargerSettings
from .film.placement import development_for
from .film.zones import LOG10_STOP, zone_log_exposure
from .guided import box_mean
from .light_path import LightPath
from .paper.finish import value_of
from .paper.grading import Grading
from .paper.settings import PaperSettings
from .paper.timing import (
    NO_MORE_BLACK,
    NO_MORE_WHITE,
    SOME_BLACK,
    NegativeTones,
    Wanted,
    timed,
)
from .recipe import Recipe
from .settings import Settings, amount, range_of
from .wording import development_name, grade_name, zone_name

F32 = NDArray[np.float32]

PROPOSED = {  # settings that are, by station
    "capture": ("camera_curve",),
    "light": ("chroma_smoothing",),
    "film": ("placement",),
    "development": ("n",),
    "enlarger": ("time", "soft_time", "hard_time"),
    "paper": ("grade", "split", "black_at", "white_at"),
}
TEXTURE = 0.01  # of the long side, that tones are averaged over
SHADOW, HALF, HIGHLIGHT = 0.04, 0.5, 0.99  # shares of the picture that are darker
SHADOW_ZONE, HIGHEST_ZONE = 3.0, 9.5
PLACEMENTS = (-1.5, 2.0)  # stops
HIGHLIGHT_ZONES = (7.5, 8.0)
DEVELOPMENTS = (-1.5, 0.75)  # N


class Aims(Settings):
    """What a print aims at beside the one that serves any picture."""

    shadow: float = Field(SHADOW_ZONE, ge=0, le=5, description="Zone the shadow is placed on.")
    development: float = amount("Development", "More of it.", 0.0, -2, 2, 1 / 6, "N")
    key: float = amount(
        "Key", "Print values by which the middle is to lie higher.", 0.0, -4, 4, 0.1
    )
    contrast: float = amount("Contrast", "Grades harder.", 0.0, -3, 3, 0.25)
    most_black: float = Field(
        NO_MORE_BLACK, ge=0.0005, le=0.6, description="Share that may print full black."
    )
    most_white: float = Field(
        NO_MORE_WHITE, ge=0.0005, le=0.6, description="Share that may be bare paper."
    )


@dataclass(frozen=True)
class SceneTones:
    """Zones of a scene, as the film sees it with no placement."""

    shadow: float
    middle: float
    highlight: float


@dataclass(frozen=True)
class Proposed:
    """A recipe, and where it puts things."""

    recipe: Recipe
    shadow: float  # zone it is placed on
    highlight: float  # zone that it falls on
    lands_on: float  # zone of normal development that its density is then
    values: tuple[float, float, float]  # print values of shadow, middle and highlight

    seconds: float  # of all the base exposure
    only: str | None = None  # the station that it was proposed for; None is all

    @property
    def settings(self) -> dict[str, dict[str, Any]]:
        """What was proposed, by station."""
        return {
            name: {field: getattr(getattr(self.recipe, name), field) for field in fields}
            for name, fields in PROPOSED.items()
            if self.only in (None, name)
        }

    @property
    def says(self) -> str:
        """What was done and why, in one sentence."""
        made = self.recipe
        smoothing, curve = made.light.chroma_smoothing, made.capture.camera_curve
        fallen = f"highlights fall {_on(self.highlight)}"
        grade, time = f"grade {grade_name(made.paper.grade)}", f"{self.seconds:g} s"
        parts = {
            "capture": f"the camera's curve taken back by {curve:.0%}"
            if curve
            else "no camera's curve to take back",
            "light": f"colours smoothed {smoothing:g}" if smoothing else "nothing breaks up",
            "film": f"shadow {_on(self.shadow)}, {fallen}",
            "development": f"{fallen}: {development_name(made.development.n)}",
            "enlarger": f"highlights at value {self.values[2]:.1f}: {time}",
            "paper": f"shadow at value {self.values[0]:.1f}: {grade}",
        }
        if self.only is not None:
            return parts[self.only]
        return (
            f"{parts['film']}: {development_name(made.development.n)}, {grade}, {time}"
            + (f", smoothing {smoothing:g}" if smoothing else "")
            + (f", {parts['capture']}" if curve else "")
        )


def _on(zone: float) -> str:
    name = zone_name(zone)
    return name if name.startswith(("above", "below")) else f"on {name}"


def with_proposed(recipe: Recipe, found: Proposed) -> Recipe:
    """A recipe with the settings that were proposed."""
    return recipe.model_copy(
        update={
            name: getattr(recipe, name).model_copy(update=fields)
            for name, fields in found.settings.items()
        }
    )


def scene_tones(exposure: F32, lost: NDArray[np.bool_]) -> SceneTones:
    """Of log2 H (H, W), averaged over a hundredth of the long side, with what the capture has lost
    (H, W) left out; where all is lost, of all."""
    near = box_mean(exposure, max(1, round(TEXTURE * max(exposure.shape) / 2.0)))
    shadow, half, high = np.quantile(near[_seen(lost)], [SHADOW, HALF, HIGHLIGHT])
    return SceneTones(5.0 + float(shadow), 5.0 + float(half), 5.0 + float(high))


def _seen(lost: NDArray[np.bool_]) -> NDArray[np.bool_]:
    return np.ones_like(lost) if lost.all() else ~lost


def placement_for(tones: SceneTones, zone: float = SHADOW_ZONE) -> float:
    """Stops that put the textured shadow on a zone, as far as they do not lift the highlight
    above IX½; in twelfths."""
    wanted = float(np.clip(zone - tones.shadow, *PLACEMENTS))
    if wanted > 0.0:
        wanted = min(wanted, max(HIGHEST_ZONE - tones.highlight, 0.0))
    return round(wanted * 12.0) / 12.0


def propose(
    path: LightPath,
    exposure: F32,
    lost: NDArray[np.bool_],
    density: Callable[[LightPath], F32],
    aims: Aims = Aims(),
    only: str | None = None,
    plain_middle: float | None = None,
) -> Proposed:
    """A print of a picture: what a light path prescribes, with the exposure placed, developed,
    timed and graded anew, for what it aims at; or one of these only, by its station, with the
    others as they are.

    Of the whole picture (H, W) are given log2 H with no placement, where the capture has lost what
    was there, and a function for the density of its negative under a light path; and on which zone
    the middle lies in its plain print, where that is another one.
    """
    recipe, tones = path.recipe, scene_tones(exposure, lost)
    plain = path.with_settings(
        development=recipe.development.model_copy(update={"n": 0.0}),
        enlarger=recipe.enlarger.model_copy(update={"time": None}),
        paper=PaperSettings(paper=recipe.paper.paper),
    )
    placement, n = recipe.film.placement, recipe.development.n
    if only in (None, "film"):
        placement = placement_for(tones, aims.shadow)
    falls = tones.highlight + placement
    if only in (None, "development"):
        n = _development(path, falls, aims.development)
    exposed = path.with_settings(
        film=recipe.film.model_copy(update={"placement": placement}),
        development=recipe.development.model_copy(update={"n": n}),
    )
    negative = _negative(exposed, tones, placement, density(exposed)[_seen(lost)], aims)
    paper, head = path.things.paper, recipe.enlarger.head
    wanted = Wanted(
        aims.key,
        aims.contrast,
        grade=None if only in (None, "paper") else path[Grading].grade,
        exposure=float(np.log10(path[Projection].time)) + lamp(paper, head)
        if only == "paper"
        else None,
    )
    middle = _value_of(tones.middle if plain_middle is None else plain_middle, plain)
    found = timed(paper, negative, CALLIER[head], middle, wanted)
    low, high = range_of(EnlargerSettings, "time")
    seconds = float(np.clip(10.0 ** (found.exposure - lamp(paper, head)), low, high))
    enlarger, printed = recipe.enlarger, recipe.paper
    if only in (None, "enlarger"):
        enlarger = enlarger.model_copy(update={"time": round(seconds, 1)})
        if only is not None and path[Grading].split:  # both exposures by one factor
            factor = seconds / path[Projection].time
            both = {n: round(getattr(enlarger, n) * factor, 1) for n in ("soft_time", "hard_time")}
            enlarger = recipe.enlarger.model_copy(update=both)
    if only in (None, "paper"):
        points = {"white_at": 0.0, "black_at": round(found.black_at, 3)}
        printed = printed.model_copy(update={"grade": found.grade, "split": False, **points})
    made = exposed.with_settings(enlarger=enlarger, paper=printed)
    developing = exposed[Developing]
    zones = np.linspace(-2.0, 14.0, 641)
    normal = developing.normal.density((zones - 5.0) * LOG10_STOP)
    lands = float(np.interp(developing.density(zone_log_exposure(falls)), normal, zones))
    return Proposed(
        made.recipe,
        tones.shadow + placement,
        falls,
        lands,
        (found.shadow, found.middle, found.highlight),
        round(seconds, 1),
        only,
    )


def _development(path: LightPath, falls: float, more: float) -> float:
    """N, in sixths, that brings a highlight to Zone VII½ to VIII, and so much more."""
    target = float(np.clip(falls, *HIGHLIGHT_ZONES))
    wanted = 0.0
    if target != falls:
        wanted = development_for(path.things.stock, falls, target, path[Developing].developer).n
    least, most = range_of(DevelopmentSettings, "n")
    n = float(np.clip(float(np.clip(wanted, *DEVELOPMENTS)) + more, least, most))
    return round(n * 6.0) / 6.0


def _negative(
    path: LightPath, tones: SceneTones, placement: float, density: F32, aims: Aims
) -> NegativeTones:
    at = np.array([tones.shadow, tones.middle, tones.highlight]) + placement
    shadow, half, high = path[Developing].density((at - 5.0) * LOG10_STOP)
    blackest = np.quantile(
        density.astype(np.float64), [min(SOME_BLACK, aims.most_black), aims.most_black]
    )
    whitest = float(np.quantile(density, 1.0 - aims.most_white))
    return NegativeTones(float(shadow), float(half), float(high), blackest, whitest)


def _value_of(middle: float, plain: LightPath) -> float:
    """Print value of a zone of the scene in the plain print."""
    density = plain[Developing].density(zone_log_exposure(middle))
    return float(value_of(plain.print_density(density), plain.things.paper.net_density))
