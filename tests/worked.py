"""Light paths with a printing map, for tests."""

from dataclasses import replace

from silvrin import shelf
from silvrin.core.light_path import LightPath
from silvrin.core.recipe import Pass, Recipe, Stroke
from silvrin.core.recipe.drawings import Drawings


def worked_path(recipe: Recipe, *passes: Pass, **strokes: tuple[Stroke, ...]) -> LightPath:
    """The path of a recipe under these passes, whose brushes name their strokes' sheets."""
    return shelf.light_path(recipe, Drawings(passes=passes, strokes=strokes))


def also(path: LightPath, *passes: Pass) -> LightPath:
    """The path with other passes."""
    drawings = replace(path.things.drawings, passes=passes)
    return replace(path, things=replace(path.things, drawings=drawings))
