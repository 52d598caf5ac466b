"""Sky, foliage and held to edges against what the demo's scenes are built of (`demo.scenes.masks`:
masks by material at 1000 px, rendered from the scenes)."""

import unittest
from functools import cache
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from silvrin.core.enlarger.areas import area
from silvrin.core.enlarger.ground import Ground
from silvrin.core.enlarger.shapes import Brush, Foliage, Sky, Stroke
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import Pass, Recipe
from silvrin.core.render import Darkroom, Sitting
from silvrin.core.render.printing import ground_of
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture
from tests.worked import worked_path

MASKS = Path(__file__).parents[3] / "demo" / "truth" / "masks"
Floats = NDArray[np.float32]


@cache
def picture_of(title: str) -> LinearPicture:
    developed = read_capture(demo_capture(title))
    return LinearPicture.with_pyramid(developed.light, developed.scale)


def ground(title: str, **strokes: tuple[Stroke, ...]) -> Ground:
    sitting = Sitting(title, picture_of(title), worked_path(Recipe(), **strokes))
    room = Darkroom()
    return ground_of(sitting, room.cache, *room._light_of(sitting))


def mask(title: str, what: str) -> Floats:
    found = cv2.imread(str(MASKS / f"{title}, {what}.png"), cv2.IMREAD_GRAYSCALE)
    return np.asarray(found, np.float32) / 255.0


def resized(level: Floats, like: Floats) -> Floats:
    size = like.shape[::-1]
    return np.clip(np.asarray(cv2.resize(level, size, interpolation=cv2.INTER_AREA)), 0.0, 1.0)


def overlap(level: Floats, truth: Floats) -> float:
    """Intersection over union."""
    found, wanted = resized(level, truth) > 0.5, truth > 0.5
    return float((found & wanted).sum() / (found | wanted).sum())


class KnownTest(unittest.TestCase):
    def test_sky_is_the_scenes_sky_with_its_clouds(self) -> None:
        for title in ("bottle kiln", "kiln chimney", "clay pond"):
            level = area(Pass(shapes=(Sky(),)), ground(title))[0]
            self.assertGreaterEqual(overlap(level, mask(title, "sky")), 0.95, title)

    def test_foliage_is_what_reflects_as_leaves_do(self) -> None:
        for title in ("bottle kiln", "kiln chimney", "clay pond"):  # whose water shows leaves
            level = area(Pass(shapes=(Foliage(),)), ground(title))[0]
            self.assertGreaterEqual(overlap(level, mask(title, "foliage")), 0.80, title)

    def test_where_there_is_no_sky_there_is_none(self) -> None:
        for title in ("black raku", "drying loft"):
            level = area(Pass(shapes=(Sky(),)), ground(title))[0]
            self.assertLess(float((level > 0.5).mean()), 0.01, title)

    def test_a_rough_stroke_over_the_head_stops_at_its_outline(self) -> None:
        title, name = "terracotta head, eye", "a" * 32
        truth = mask(title, "head")
        by = picture_of(title).width / truth.shape[1]
        rows = np.nonzero((truth > 0.5).any(axis=1))[0]
        points: list[tuple[float, float]] = []
        for k, row in enumerate(np.linspace(rows[0] + 45, rows[-1] - 45, 7).astype(int)):
            inside = np.nonzero(truth[row] > 0.5)[0]
            ends = (inside[0] + 35, inside[-1] - 35)  # 60 px about these: 25 px over the outline
            points += [(float(x * by), float(row * by)) for x in ends[:: 1 if k % 2 else -1]]
        stroke = Stroke(points=tuple(points), radius=60 * by, soft=0.5)
        there = ground(title, **{name: (stroke,)})
        shapes = (Brush(strokes=(name,)),)
        loose, held = (
            resized(area(Pass(shapes=shapes, held=amount), there)[0], truth)
            for amount in (0.0, 1.0)
        )
        outside = cv2.dilate((truth > 0.5).astype(np.uint8), np.ones((13, 13), np.uint8)) == 0
        self.assertGreater(loose[outside].sum() / loose.sum(), 0.10)
        self.assertLess(held[outside].sum() / held.sum(), 0.02)
        inside = truth > 0.9
        self.assertGreater(held[inside].sum(), 0.95 * loose[inside].sum())


if __name__ == "__main__":
    unittest.main()
