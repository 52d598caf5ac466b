"""The print that is proposed for a sitting."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ..capture.camera_curve import TYPICAL
from ..light_path import LightPath
from ..proposing import Aims, Proposed, propose, scene_tones
from .darkroom import Darkroom
from .readings import READING_SIZE
from .sitting import Sitting

SMOOTHINGS = (0.0, 0.25, 0.5, 0.75, 1.0)
MOST_BREAKING = 0.01  # share of the picture in which noise of colour may be seen as noise of tone
LEAST = 2.0**-11.5  # of a channel's limit, less is no light: the first step of eight bits


def proposed(
    darkroom: Darkroom, sitting: Sitting, aims: Aims = Aims(), only: str | None = None
) -> Proposed:
    """A recipe whose exposure is metered, placed, developed, timed and graded for this capture, and
    whose noise of colour is smoothed as far as needed; all else is the sitting's. Of a rendered
    file a typical camera's curve is taken back first, unless it is by now. `aims` tells what it is
    to be beside serving any picture; `only` is the station that is proposed, the others stay.
    """
    capture = sitting.path.recipe.capture
    if sitting.rendered and not capture.camera_curve and only in (None, "capture"):
        capture = capture.model_copy(update={"camera_curve": TYPICAL})
    given = sitting.path.recipe.light.chroma_smoothing
    light = sitting.path.recipe.light.model_copy(update={"chroma_smoothing": 0.0})
    path = sitting.path.with_settings(capture=capture, light=light)
    # what is lost, and how pale or dark a picture is by itself, the file tells as it is
    as_filed = sitting.under(
        path.with_settings(capture=capture.model_copy(update={"camera_curve": 0.0}))
    )
    view, limits = as_filed.picture.whole(READING_SIZE), np.array(as_filed.picture.limits)
    seen, exposure = as_filed.picture.cut(view), _unplaced(darkroom, as_filed)
    lost = np.asarray((seen >= limits).any(axis=2) | (seen < LEAST * limits).all(axis=2))
    sitting, middle = sitting.under(path), None
    if capture.camera_curve:
        middle = scene_tones(exposure, lost).middle
        exposure = _unplaced(darkroom, sitting)
    found = propose(
        path,
        exposure,
        lost,
        lambda under: darkroom.negative(sitting.under(under), view).pixels,
        aims,
        only,
        middle,
    )
    smoothing = given
    if only in (None, "light"):
        smoothing = smoothing_for(darkroom, sitting, path.with_settings(film=found.recipe.film))
    light = light.model_copy(update={"chroma_smoothing": smoothing})
    return replace(found, recipe=found.recipe.model_copy(update={"light": light}))


def _unplaced(darkroom: Darkroom, sitting: Sitting) -> NDArray[np.float32]:
    """log2 H of the whole picture with no placement."""
    film = sitting.path.recipe.film.model_copy(update={"placement": 0.0})
    under = sitting.under(sitting.path.with_settings(film=film))
    return darkroom.exposure(under, sitting.picture.whole(READING_SIZE)).pixels


def smoothing_for(darkroom: Darkroom, sitting: Sitting, path: LightPath) -> float:
    """As much smoothing of colour noise as light, glass and film need, so that hardly anything
    breaks up."""
    for amount in SMOOTHINGS:
        light = path.recipe.light.model_copy(update={"chroma_smoothing": amount})
        if darkroom.share_breaking(sitting.under(path.with_settings(light=light))) <= MOST_BREAKING:
            break
    return amount
