"""Short ways to sit down with a picture."""

import numpy as np

from silvrin import shelf
from silvrin.core.capture.seen import seen
from silvrin.core.picture import LinearPicture
from silvrin.core.plate import Grid, Plate
from silvrin.core.recipe import CaptureSettings, Recipe
from silvrin.core.recipe.drawings import PLAIN, Drawings
from silvrin.core.render import Sitting


def sitting(
    picture: LinearPicture, recipe: Recipe = Recipe(), drawings: Drawings = PLAIN
) -> Sitting:
    """A picture under a recipe."""
    return Sitting(picture, picture, shelf.light_path(recipe, drawings))


def seen_under(picture: LinearPicture, settings: CaptureSettings) -> LinearPicture:
    """A capture under the settings of its station."""
    return seen(picture, shelf.light_path(Recipe(capture=settings)))


def plate(pixels: np.ndarray) -> Plate:
    """Pixels at full size that are a whole picture."""
    height, width = pixels.shape[:2]
    return Plate(np.ascontiguousarray(pixels), Grid(0, 0, 1.0, 1.0, 0, width, height))
