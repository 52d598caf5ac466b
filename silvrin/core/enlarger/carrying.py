"""Passes carried to another capture: the same areas where the subject lies there."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .shapes import Alike, Brush, Card, Disc, Moved, Pass, Polygon, Sample, Shape, Stroke

Floats = NDArray[np.float64]
Strokes = Mapping[str, tuple[Stroke, ...]]
Keep = Callable[[tuple[Stroke, ...]], tuple[str, ...]]


def as_they_lie(size: tuple[int, int], other: tuple[int, int]) -> Floats:
    """(2, 3) from places of a capture of one width and height to those of another: about the
    middle, by the mean of both sides' ratios."""
    by = float(np.sqrt(other[0] / size[0] * other[1] / size[1]))
    middle, there = np.array(size) / 2.0, np.array(other) / 2.0
    return np.column_stack([by * np.eye(2), there - by * middle])


@dataclass(frozen=True)
class Carrier:
    """Brings shapes along by an affine map (2, 3) that turns, shifts and enlarges; `keep` puts the
    strokes of a brush on sheets and gives their names."""

    matrix: Floats
    strokes: Strokes
    keep: Keep

    def carried(self, each: Pass) -> Pass:
        """A pass with its areas brought along."""
        return each.model_copy(update={"shapes": tuple(map(self._shape, each.shapes))})

    @property
    def _by(self) -> float:
        return float(np.sqrt(abs(np.linalg.det(self.matrix[:, :2]))))

    @property
    def _turn(self) -> float:
        return float(np.degrees(np.arctan2(self.matrix[1, 0], self.matrix[0, 0])))

    def _at(self, x: float, y: float) -> tuple[float, float]:
        found = self.matrix @ np.array([x, y, 1.0])
        return round(float(found[0]), 2), round(float(found[1]), 2)

    def _points(self, points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
        return tuple(self._at(x, y) for x, y in points)

    def _shape(self, shape: Shape) -> Shape:
        carry = _CARRY.get(type(shape))
        return carry(self, shape) if carry else shape

    def _disc(self, disc: Disc) -> Disc:
        x, y = self._at(disc.x, disc.y)
        angle = (disc.angle + self._turn + 180.0) % 360.0 - 180.0
        size = {"width": disc.width * self._by, "height": disc.height * self._by}
        return disc.model_copy(update={"x": x, "y": y, "angle": angle, **size})

    def _card(self, card: Card) -> Card:
        (x, y), (to_x, to_y) = self._at(card.x, card.y), self._at(card.to_x, card.to_y)
        return card.model_copy(update={"x": x, "y": y, "to_x": to_x, "to_y": to_y})

    def _brush(self, brush: Brush) -> Brush:
        strokes = tuple(
            stroke.model_copy(
                update={
                    "points": self._points(
                        tuple((x + brush.dx, y + brush.dy) for x, y in stroke.points)
                    ),
                    "radius": stroke.radius * self._by,
                }
            )
            for name in brush.strokes
            for stroke in self.strokes[name]
        )
        return brush.model_copy(update={"strokes": self.keep(strokes), "dx": 0.0, "dy": 0.0})

    def _polygon(self, outline: Polygon) -> Polygon:
        feather = min(outline.feather * self._by, 4000.0)
        return outline.model_copy(
            update={"points": self._points(outline.points), "feather": feather}
        )

    def _moved(self, moved: Moved) -> Moved:
        turn = self.matrix[:, :2]
        path = tuple(
            (*(round(float(v), 2) for v in turn @ np.array([dx, dy])), at)
            for dx, dy, at in moved.path
        )
        return moved.model_copy(update={"held": self._shape(moved.held), "path": path})

    def _alike(self, alike: Alike) -> Alike:
        samples = tuple(self._sample(each) for each in alike.samples)
        return alike.model_copy(update={"samples": samples})

    def _sample(self, sample: Sample) -> Sample:
        return sample.model_copy(
            update={"points": self._points(sample.points), "reach": sample.reach * self._by}
        )


_CARRY: dict[type, Callable[[Carrier, Any], Any]] = {
    Disc: Carrier._disc,
    Card: Carrier._card,
    Brush: Carrier._brush,
    Polygon: Carrier._polygon,
    Moved: Carrier._moved,
    Alike: Carrier._alike,
}
