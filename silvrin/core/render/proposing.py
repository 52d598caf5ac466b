"""The print that is proposed for a sitting."""

import numpy as np

from ..proposing import Aims, Proposed, propose
from .darkroom import Darkroom
from .readings import READING_SIZE
from .sitting import Sitting

LEAST = 2.0**-11.5  # of a channel's limit, less is no light: the first step of eight bits


def proposed(darkroom: Darkroom, sitting: Sitting, aims: Aims = Aims()) -> Proposed:
    """A recipe whose exposure is metered, placed, developed, timed and graded for this capture;
    all else is the sitting's. `aims` tells what it is to be beside serving any picture."""
    picture, path = sitting.picture, sitting.path
    view = picture.whole(READING_SIZE)
    unplaced = path.with_settings(film=path.recipe.film.model_copy(update={"placement": 0.0}))
    exposure = darkroom.exposure(sitting.under(unplaced), view).pixels
    light, limits = picture.cut(view), np.array(picture.limits)
    lost = np.asarray((light >= limits).any(axis=2) | (light < LEAST * limits).all(axis=2))
    return propose(
        path,
        exposure,
        lost,
        lambda under: darkroom.negative(sitting.under(under), view).pixels,
        aims,
    )
