"""The print that is proposed for a sitting."""

from dataclasses import replace

import numpy as np

from ..light_path import LightPath
from ..proposing import Aims, Proposed, propose
from .darkroom import Darkroom
from .readings import READING_SIZE
from .sitting import Sitting

SMOOTHINGS = (0.0, 0.25, 0.5, 0.75, 1.0)
MOST_BREAKING = 0.01  # share of the picture in which noise of colour may be seen as noise of tone
LEAST = 2.0**-11.5  # of a channel's limit, less is no light: the first step of eight bits


def proposed(darkroom: Darkroom, sitting: Sitting, aims: Aims = Aims()) -> Proposed:
    """A recipe whose exposure is metered, placed, developed, timed and graded for this capture, and
    whose noise of colour is smoothed as far as needed; all else is the sitting's. `aims` tells what
    it is to be beside serving any picture."""
    light = sitting.path.recipe.light.model_copy(update={"chroma_smoothing": 0.0})
    picture, path = sitting.picture, sitting.path.with_settings(light=light)
    view = picture.whole(READING_SIZE)
    unplaced = path.with_settings(film=path.recipe.film.model_copy(update={"placement": 0.0}))
    exposure = darkroom.exposure(sitting.under(unplaced), view).pixels
    seen, limits = picture.cut(view), np.array(picture.limits)
    lost = np.asarray((seen >= limits).any(axis=2) | (seen < LEAST * limits).all(axis=2))
    found = propose(
        path,
        exposure,
        lost,
        lambda under: darkroom.negative(sitting.under(under), view).pixels,
        aims,
    )
    smoothing = smoothing_for(darkroom, sitting, path.with_settings(film=found.recipe.film))
    light = light.model_copy(update={"chroma_smoothing": smoothing})
    return replace(found, recipe=found.recipe.model_copy(update={"light": light}))


def smoothing_for(darkroom: Darkroom, sitting: Sitting, path: LightPath) -> float:
    """As much smoothing of colour noise as light, glass and film need, so that hardly anything
    breaks up."""
    for amount in SMOOTHINGS:
        light = path.recipe.light.model_copy(update={"chroma_smoothing": amount})
        if darkroom.share_breaking(sitting.under(path.with_settings(light=light))) <= MOST_BREAKING:
            break
    return amount
