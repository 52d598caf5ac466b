"""Geometry of the picture: turned, straightened, freed of distortion and converging lines, cropped.

Everything is one map from a place in the finished picture to the place of the capture its light is
taken from, so that light is resampled once. Lengths are in parts of half the capture's diagonal,
about its middle. In the order in which light is taken back from the finished picture:

- crop and zoom: what is left of the frame; the zoom is the least that leaves no empty corner;
- turn by `straighten`;
- keystone: (x, y) / (1 - v y + h x), a homography whose vanishing line is tilted;
- flip and quarter turns;
- distortion: an ideal radius r (1 + k r²) of the recorded one r (third order: textbook), and that
  of the lens's profile;
- lateral colour: red and blue from a slightly larger or smaller radius.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline

from ..recipe import CaptureSettings
from ..recipe.capture import LENS_RADII

Floats = NDArray[np.float64]
MOST_ZOOM = 6.0


@dataclass(frozen=True)
class Geometry:
    """What is done to the shape of a picture of that size, in pixels."""

    width: int
    height: int
    settings: CaptureSettings

    @property
    def is_plain(self) -> bool:
        """Whether the picture stays as the capture has it."""
        s = self.settings
        return not (
            s.quarter_turns or s.flip or s.straighten or s.keystone_vertical
            or s.keystone_horizontal or s.distortion or s.lateral_red or s.lateral_blue
            or s.crop is not None or (s.lens and (s.lens.distortion or s.lens.red))
        )  # fmt: skip

    @property
    def key(self) -> tuple[object, ...]:
        """Names it in caches."""
        s = self.settings
        return (
            s.quarter_turns, s.flip, s.straighten, s.keystone_vertical, s.keystone_horizontal,
            s.distortion, s.lateral_red, s.lateral_blue, s.crop, s.lens,
        )  # fmt: skip

    @property
    def _half(self) -> float:
        return 0.5 * float(np.hypot(self.width, self.height))

    @property
    def _turned(self) -> tuple[int, int]:
        """Size after quarter turns."""
        if self.settings.quarter_turns % 2:
            return self.height, self.width
        return self.width, self.height

    @cached_property
    def zoom(self) -> float:
        """By how much the frame is enlarged so that no corner is empty, 1 or more."""
        low, high = 1.0, MOST_ZOOM
        if self._covered(low):
            return low
        for _ in range(40):
            middle = 0.5 * (low + high)
            low, high = (low, middle) if self._covered(middle) else (middle, high)
        return high

    def _covered(self, zoom: float) -> bool:
        width, height = self._turned
        along = np.linspace(-1.0, 1.0, 33)
        edge = np.concatenate([
            np.stack([along, np.full(33, s)], -1) for s in (-1.0, 1.0)
        ] + [np.stack([np.full(33, s), along], -1) for s in (-1.0, 1.0)])  # fmt: skip
        frame = edge * np.array([width, height]) / (2.0 * zoom * self._half)
        x, y = self._to_capture(frame).T * self._half
        # light lies half a pixel inside
        return bool(
            (np.abs(x) <= self.width / 2 + 1e-6).all()
            and (np.abs(y) <= self.height / 2 + 1e-6).all()
        )

    @property
    def frame(self) -> tuple[int, int]:
        """Size of the picture before it is cropped, in pixels of the capture's own pitch."""
        width, height = self._turned
        return max(1, int(width / self.zoom + 1e-6)), max(1, int(height / self.zoom + 1e-6))

    @cached_property
    def window(self) -> tuple[int, int, int, int]:
        """The crop in pixels of the frame: left, top, width, height."""
        width, height = self.frame
        left, top, right, bottom = self.settings.crop or (0.0, 0.0, 1.0, 1.0)
        x0, y0 = round(left * width), round(top * height)
        return x0, y0, max(16, round(right * width) - x0), max(16, round(bottom * height) - y0)

    def _to_capture(self, place: Floats) -> Floats:
        """Ideal places of the frame (N, 2) to recorded ones of the capture."""
        s = self.settings
        x, y = place.T
        turn = np.radians(s.straighten)
        x, y = x * np.cos(turn) - y * np.sin(turn), x * np.sin(turn) + y * np.cos(turn)
        below = np.maximum(1.0 - s.keystone_vertical * y + s.keystone_horizontal * x, 0.1)
        x, y = x / below, y / below
        if s.flip:
            x = -x
        for _ in range(s.quarter_turns % 4):
            x, y = y, -x
        if s.distortion:
            ideal = np.hypot(x, y)
            r = ideal / (1.0 + s.distortion * ideal**2)
            for _ in range(6):
                off = r * (1.0 + s.distortion * r * r) - ideal
                r = r - off / np.maximum(1.0 + 3.0 * s.distortion * r * r, 0.05)
            share = np.where(ideal > 1e-9, r / np.maximum(ideal, 1e-9), 1.0)
            x, y = x * share, y * share
        if s.lens and s.lens.distortion:
            share = sampled(s.lens.distortion, np.hypot(x, y))
            x, y = x * share, y * share
        return np.stack([x, y], axis=-1)

    def fringe(self, places: Floats, channel: int) -> Floats | float:
        """By how much farther from the middle than green's, red's (0) and blue's (2) light lies,
        at places of the capture (..., 2)."""
        s = self.settings
        by_hand = 1.0 + (s.lateral_red, 0.0, s.lateral_blue)[channel]
        samples = (s.lens.red, (), s.lens.blue)[channel] if s.lens else ()
        if not samples:
            return by_hand
        middle = np.array([self.width, self.height]) / 2.0
        radius = np.hypot(*np.moveaxis(places - middle, -1, 0)) / self._half
        return np.asarray(by_hand * sampled(samples, radius))[..., None]

    def to_capture(self, places: Floats) -> Floats:
        """Places of the finished picture (N, 2), pixels from its left and top, to those of the
        capture."""
        left, top, _, _ = self.window
        width, height = self.frame
        middle = np.array([width, height]) / 2.0
        ideal = (np.asarray(places, np.float64) + np.array([left, top]) - middle) / self._half
        return self._to_capture(ideal) * self._half + np.array([self.width, self.height]) / 2.0

    def from_capture(self, places: Floats) -> Floats:
        """Places of the capture (N, 2) to those of the finished picture; inverse of
        `to_capture`. They may lie outside of it."""
        s = self.settings
        middle = np.array([self.width, self.height]) / 2.0
        x, y = ((np.asarray(places, np.float64) - middle) / self._half).T
        if s.lens and s.lens.distortion:
            recorded = np.hypot(x, y)
            ideal = recorded.copy()
            for _ in range(8):
                ideal = recorded / sampled(s.lens.distortion, ideal)
            share = np.where(recorded > 1e-9, ideal / np.maximum(recorded, 1e-9), 1.0)
            x, y = x * share, y * share
        if s.distortion:
            share = 1.0 + s.distortion * (x * x + y * y)
            x, y = x * share, y * share
        for _ in range(s.quarter_turns % 4):
            x, y = -y, x
        if s.flip:
            x = -x
        below = 1.0 / np.maximum(1.0 + s.keystone_vertical * y - s.keystone_horizontal * x, 0.1)
        x, y = x * below, y * below
        turn = np.radians(s.straighten)
        x, y = x * np.cos(turn) + y * np.sin(turn), y * np.cos(turn) - x * np.sin(turn)
        left, top, _, _ = self.window
        frame = np.array(self.frame) / 2.0
        places = np.stack([x, y], axis=-1) * self._half + frame - np.array([left, top])
        return np.asarray(places)


def sampled(samples: tuple[float, ...], radius: Floats) -> Floats:
    """What a lens profile says at radii (in parts of half the diagonal), between its samples by a
    cubic spline, beyond them their last."""
    return np.asarray(_spline(samples)(np.clip(radius, 0.0, LENS_RADII[-1])))


@lru_cache(maxsize=64)
def _spline(samples: tuple[float, ...]) -> CubicSpline:
    return CubicSpline(LENS_RADII, samples)


@lru_cache(maxsize=64)
def geometry_of(width: int, height: int, settings: CaptureSettings) -> Geometry:
    """The geometry of settings for a picture of that size; its zoom is found once."""
    return Geometry(width, height, settings)


def places_of(geometry: Geometry, places: Sequence[tuple[int, int]]) -> list[tuple[int, int]]:
    """The pixels of the finished picture where pixels of the capture lie; may be outside of it."""
    if geometry.is_plain:
        return list(places)
    found = geometry.from_capture(np.array(places, np.float64) + 0.5)
    return [(int(x), int(y)) for x, y in np.floor(found)]


def place_of(geometry: Geometry, x: int, y: int) -> tuple[int, int]:
    """The pixel of the finished picture where one of the capture lies."""
    return places_of(geometry, [(x, y)])[0]
