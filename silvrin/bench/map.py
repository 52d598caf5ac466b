"""A printing map as a print has that was worked for an hour, to measure by."""

from collections.abc import Callable
from itertools import count

import numpy as np

from ..core.enlarger.shapes import Alike, Brush, Card, Disc, Foliage, Pass, Sample, Sky, Stroke
from ..core.recipe.drawings import Drawings

STROKES, POINTS = 200, 20


def a_worked_map(width: int, height: int) -> tuple[Drawings, Callable[[], Drawings]]:
    """24 passes on a capture of that size: 12 of shapes, 6 brushes of 200 strokes with 20 points,
    4 alike, sky and foliage; and a function that gives them at other places each time."""
    chance = np.random.default_rng(14)
    size = max(width, height)

    def stroke() -> Stroke:
        begin = chance.uniform([0, 0], [width, height])
        way = np.cumsum(chance.normal(0, 0.006 * size, (POINTS, 2)), axis=0)
        points = tuple((round(x, 1), round(y, 1)) for x, y in begin + way)
        return Stroke(points=points, radius=round(float(chance.uniform(0.005, 0.02)) * size, 1))

    strokes = {f"{k:032x}": tuple(stroke() for _ in range(STROKES)) for k in range(6)}

    def at(by: float) -> Drawings:
        shapes = [
            Disc(x=0.06 * k * width + by, y=0.05 * k * height, width=0.1 * size, height=0.06 * size)
            if k % 2
            else Card(x=0.05 * k * width + by, y=0, to_x=0.06 * k * width + 0.1 * size, to_y=300)
            for k in range(12)
        ]
        brushes = [Brush(strokes=(name,), most=1.0 + 0.001 * by) for name in strokes]
        alike = [
            Alike(
                samples=(Sample(points=((0.2 * k * width + by, 0.5 * height),), reach=0.3 * size),)
            )
            for k in range(1, 5)
        ]
        passes = [
            Pass(stops=0.3 if k % 3 else -0.4, soften=0.001 * (by % 1000), shapes=(shape,))
            for k, shape in enumerate((*shapes, *brushes, *alike, Sky(), Foliage()))
        ]
        return Drawings(passes=tuple(passes), strokes=strokes)

    moved = count(1)
    return at(0.0), lambda: at(float(next(moved)))
