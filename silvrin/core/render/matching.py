"""A sitting's print matched to a reference."""

from dataclasses import replace
from functools import partial

import numpy as np

from ..development.settings import DevelopmentSettings
from ..film.settings import FilmSettings
from ..matching.fitting import WORTH_A_CURVE, Matched, curve_for, fit, nearness, values_of
from ..matching.reference import LEVELS, Reference, noise_of
from ..paper.settings import PaperSettings
from ..recipe import Recipe
from ..settings import range_of
from .darkroom import Darkroom
from .proposing import proposed
from .readings import READING_SIZE
from .shown import grey_of
from .sitting import Sitting

ROUNDS = 2  # of the curve, each on what the one before left
LEAST_GRAIN = 0.05


def matched(darkroom: Darkroom, sitting: Sitting, reference: Reference) -> Matched:
    """The recipe under which a sitting's tones and grain are as near a reference's as they come:
    placement, development, time, grade, points, print curve and grain; all else is the sitting's.
    """
    plain = sitting.path.with_settings(
        film=sitting.path.recipe.film.model_copy(update={"placement": 0.0}),
        paper=PaperSettings(paper=sitting.path.recipe.paper.paper),
        development=sitting.path.recipe.development.model_copy(
            update={"n": DevelopmentSettings().n, "brightness": 0.0}
        ),
    )
    under = sitting.under(replace(plain, before=None))
    view = sitting.picture.whole(READING_SIZE)
    exposure = darkroom.exposure(under, view).pixels
    # what is darker prints darker: tones are those of exposures in their order
    exposures = np.quantile(exposure.astype(np.float64), LEVELS)
    found = fit(under.path, exposures, proposed(darkroom, under).recipe, reference.tones)
    found = found.model_copy(update={"mixture": None})
    tones = partial(_tones, darkroom, under)
    numbers = tones(found)
    for _ in range(ROUNDS):
        apart, _ = nearness(numbers, reference.tones)
        if apart < WORTH_A_CURVE:
            break
        curve = curve_for(
            values_of(_tones(darkroom, under, _with_curve(found, ()))), values_of(reference.tones)
        )
        trial = _with_curve(found, curve)
        tried = tones(trial)
        if nearness(tried, reference.tones)[0] >= apart:
            break
        found, numbers = trial, tried
    if reference.noise is not None:
        grain = _grain(darkroom, under, found, reference)
        found = found.model_copy(update={"film": found.film.model_copy(update={"grain": grain})})
    return Matched(found, *nearness(tones(found), reference.tones))


def _with_curve(recipe: Recipe, curve: tuple[tuple[float, float], ...]) -> Recipe:
    return recipe.model_copy(update={"paper": recipe.paper.model_copy(update={"curve": curve})})


def _tones(darkroom: Darkroom, sitting: Sitting, recipe: Recipe) -> np.ndarray:
    """Output numbers at LEVELS of a print, as it is rendered."""
    path = replace(sitting.path, recipe=recipe)
    numbers = darkroom.view(sitting.under(path), sitting.picture.whole(READING_SIZE))
    return np.quantile(grey_of(numbers).astype(np.float64), LEVELS)


def _grain(darkroom: Darkroom, sitting: Sitting, recipe: Recipe, reference: Reference) -> float:
    """How strong the stock's grain is to be, so that the print at the reference's size is as
    grained as that."""
    view = sitting.picture.whole(reference.long_side)
    own = recipe.film.grain

    def noise(grain: float) -> float:
        film = recipe.film.model_copy(update={"grain": grain})
        path = replace(sitting.path, recipe=recipe.model_copy(update={"film": film}))
        return noise_of(grey_of(darkroom.view(sitting.under(path), view)).astype(np.float64))

    without, full = noise(0.0), noise(1.0)
    if full <= without + 1e-6 or max(view.out_width, view.out_height) < reference.long_side / 2:
        return own  # at this size none is to be seen
    wanted = max((reference.noise or 0.0) ** 2 - without**2, 0.0)
    grain = float(np.sqrt(wanted / (full**2 - without**2)))
    low, high = range_of(FilmSettings, "grain")
    grain = float(np.clip(grain, low, high))
    return round(grain, 2) if grain >= LEAST_GRAIN else 0.0
