"""The ground that areas are drawn on: the whole picture at the underlay's size."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from ..colour import encode_srgb
from ..guided import box_mean, shrunk
from ..spectra.recovery import known_kinds
from .shapes import Stroke

F32 = NDArray[np.float32]
U8 = NDArray[np.uint8]

TABLE = 65  # chromaticities a side at which known kinds are looked up
TEXTURE_RADIUS = 0.005  # of the long side
LEAST_TEXTURE = 0.03  # stops
SMALLER = 2  # than the ground is what likeness is told at: what it feels is wider than a pixel


def _nothing() -> F32:
    raise LookupError("nothing is known of the light on this ground")


@dataclass(eq=False)
class Ground:
    """Where the pixels of the ground lie, and what is known of the light there."""

    places: F32  # (H, W, 2) on the capture
    to_ground: Callable[[NDArray[np.float64]], NDArray[np.float64]]  # (N, 2), from the capture
    side: tuple[int, int]  # width and height of the finished picture
    strokes: Mapping[str, tuple[Stroke, ...]] = field(default_factory=dict)
    see: Callable[[], F32] = _nothing  # (H, W, 3) coded light
    meter: Callable[[], F32] = _nothing  # (H, W) zones of the scene
    # what was made under a name, or is made now
    keep: Callable[[str, Callable[[], F32]], F32] = lambda _, make: make()

    @property
    def shape(self) -> tuple[int, int]:
        """Height and width."""
        return self.places.shape[0], self.places.shape[1]

    @property
    def long(self) -> int:
        """Its long side."""
        return max(self.shape)

    @property
    def pitch(self) -> float:
        """Pixels of the finished picture to one of the ground."""
        return max(self.side) / self.long

    @cached_property
    def coded(self) -> F32:
        """(H, W, 3) cells of red and green, log2 of the light's sum."""
        return self.see()

    @cached_property
    def guide(self) -> F32:
        """(H, W) log2 of the light's sum."""
        return self.keep("guide", lambda: np.ascontiguousarray(self.coded[..., 2]))

    @cached_property
    def zones(self) -> F32:
        """(H, W) zones of the scene."""
        return self.meter()

    @cached_property
    def colours(self) -> F32:
        """(H, W, 3) linear colours with a sum of 1."""
        red, green = self.coded[..., 0] / (TABLE - 1), self.coded[..., 1] / (TABLE - 1)
        return np.stack([red, green, np.maximum(1.0 - red - green, 0.0)], axis=-1)

    @cached_property
    def seen(self) -> U8:
        """(H, W, 3) the picture in colour, as eyes see it."""
        light = self.colours * np.exp2(self.coded[..., 2:3])
        light = light / max(float(np.quantile(light, 0.98)), 1e-6)
        return np.asarray(encode_srgb(np.clip(light, 0.0, 1.0)) * 255 + 0.5, np.uint8)

    def told_apart(self, piece: tuple[slice, slice], marks: U8, rounds: int) -> NDArray[np.bool_]:
        """What of a piece of the picture is marked or found to be a thing: marks (h, w), of
        cv2.GC_…, say what is known and what is likely, by which GrabCut (Rother, Kolmogorov,
        Blake 2004) learns the colours of both."""
        size = marks.shape[1], marks.shape[0]
        seen = np.asarray(
            cv2.resize(self.seen[piece], size, interpolation=cv2.INTER_AREA), np.uint8
        )
        models = np.zeros((1, 65)), np.zeros((1, 65))
        cv2.setRNGSeed(1)
        found, *_ = cv2.grabCut(seen, marks, (0, 0, 1, 1), *models, rounds, cv2.GC_INIT_WITH_MASK)
        return np.asarray((found == cv2.GC_FGD) | (found == cv2.GC_PR_FGD))

    @cached_property
    def kinds(self) -> F32:
        """(2, H, W) how far colours are taken for foliage and for the open sky, 0 to 1."""
        return self.keep("kinds", self._kinds)

    def _kinds(self) -> F32:
        axis = np.linspace(0.0, 1.0, TABLE)
        red, green = np.meshgrid(axis, axis)
        table = np.stack([red, green, np.maximum(1.0 - red - green, 0.0)], axis=-1)
        found = known_kinds(table.reshape(-1, 3)).reshape(2, TABLE, TABLE).astype(np.float32)
        across, down = (np.ascontiguousarray(self.coded[..., c]) for c in (0, 1))
        return np.stack([cv2.remap(k, across, down, cv2.INTER_LINEAR) for k in found])

    @cached_property
    def small_guide(self) -> F32:
        """The guide at the size that likeness is told at, `SMALLER` times smaller."""
        return self.keep("small guide", lambda: shrunk(self.guide, SMALLER))

    @cached_property
    def features(self) -> F32:
        """(4, h, w) of the surroundings of each place of the small guide: log2 of light, red and
        green cells, and log2 of the texture (deviation of log2 of light)."""
        return self.keep("features", self._features)

    def _features(self) -> F32:
        radius = max(1, round(TEXTURE_RADIUS * self.long / SMALLER))
        square = shrunk(self.guide * self.guide, SMALLER)
        variance = np.maximum(
            box_mean(square, radius) - box_mean(self.small_guide, radius) ** 2, 0.0
        )
        texture = np.log2(np.sqrt(variance) + np.float32(LEAST_TEXTURE))
        cells = shrunk(self.coded, SMALLER)
        near = (np.ascontiguousarray(cells[..., c]) for c in range(2))
        tone, *colour = (box_mean(v, max(1, radius // 2)) for v in (self.small_guide, *near))
        return np.stack([tone, *colour, texture])


def even_ground(width: int, height: int, by: float = 1.0) -> Ground:
    """A ground of that size over a capture `by` times as large, of whose light nothing is known."""
    x, y = np.meshgrid((np.arange(width) + 0.5) * by, (np.arange(height) + 0.5) * by)
    return Ground(
        np.ascontiguousarray(np.stack([x, y], axis=-1), np.float32),
        lambda places: places / by,
        (round(width * by), round(height * by)),
    )
