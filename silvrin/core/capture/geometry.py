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

from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray

from ..later import interpolate
from ..places import CapturePlaces, PicturePlaces
from ..roots import root
from ..station import Station
from .settings import LENS_RADII, CaptureSettings

Floats = NDArray[np.float64]
MOST_ZOOM = 6.0
LEAST_RISE = 0.05  # of an ideal radius with the recorded one


@dataclass(frozen=True)
class Geometry:
    """What is done to the shape of a picture of that size, in pixels."""

    width: int
    height: int
    settings: CaptureSettings
    RADIAL_REACH: ClassVar[float] = 1.5  # of tables over the radius

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
        if self._overhang(1.0) <= 1e-6:
            return 1.0
        return root(self._overhang, 1.0, MOST_ZOOM)

    def _overhang(self, zoom: float) -> float:
        """By how many pixels the frame's edge reaches beyond the capture, at most."""
        width, height = self._turned
        along = np.linspace(-1.0, 1.0, 33)
        edge = np.concatenate([
            np.stack([along, np.full(33, s)], -1) for s in (-1.0, 1.0)
        ] + [np.stack([np.full(33, s), along], -1) for s in (-1.0, 1.0)])  # fmt: skip
        frame = edge * np.array([width, height]) / (2.0 * zoom * self._half)
        x, y = self._to_capture(frame).T * self._half
        # light lies half a pixel inside
        return float(max(np.abs(x).max() - self.width / 2, np.abs(y).max() - self.height / 2))

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
        share = self._recorded(np.hypot(x, y))
        return np.stack([x * share, y * share], axis=-1)

    def _recorded(self, ideal: Floats) -> Floats:
        """Recorded radii in parts of ideal ones."""
        s, share = self.settings, np.ones_like(ideal)
        if s.distortion:
            r = undistorted(ideal, s.distortion)
            share = np.where(ideal > 1e-9, r / np.maximum(ideal, 1e-9), 1.0)
        if s.lens and s.lens.distortion:
            share = share * sampled(s.lens.distortion, share * ideal)
        return share

    def _ideal(self, recorded: Floats) -> Floats:
        """Ideal radii in parts of recorded ones; inverse of `_recorded`."""
        s, ideal = self.settings, recorded
        if s.lens and s.lens.distortion:
            for _ in range(8):
                ideal = recorded / sampled(s.lens.distortion, ideal)
        if s.distortion:
            ideal = distorted(ideal, s.distortion)
        return np.where(recorded > 1e-9, ideal / np.maximum(recorded, 1e-9), 1.0)

    def radial_tables(self) -> tuple[Floats, Floats]:
        """Recorded radii in parts of ideal ones, and ideal ones in parts of recorded, over even
        steps from 0 to RADIAL_REACH; both empty where nothing is distorted."""
        s = self.settings
        if not (s.distortion or (s.lens and s.lens.distortion)):
            return np.empty(0), np.empty(0)
        radii = np.linspace(0.0, self.RADIAL_REACH, 301)
        return self._recorded(radii), self._ideal(radii)

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

    def picture_to_capture(self, places: PicturePlaces) -> CapturePlaces:
        """Where the light of places of the finished picture (N, 2) lies on the capture."""
        left, top, _, _ = self.window
        width, height = self.frame
        middle = np.array([width, height]) / 2.0
        ideal = (np.asarray(places, np.float64) + np.array([left, top]) - middle) / self._half
        middle = np.array([self.width, self.height]) / 2.0
        return CapturePlaces(self._to_capture(ideal) * self._half + middle)

    def capture_to_picture(self, places: CapturePlaces) -> PicturePlaces:
        """Where places of the capture (N, 2) lie on the finished picture, maybe outside of it;
        inverse of `picture_to_capture`."""
        s = self.settings
        middle = np.array([self.width, self.height]) / 2.0
        x, y = ((np.asarray(places, np.float64) - middle) / self._half).T
        share = self._ideal(np.hypot(x, y))
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
        found = np.stack([x, y], axis=-1) * self._half + frame - np.array([left, top])
        return PicturePlaces(found)


def distorted(recorded: Floats, k: float) -> Floats:
    """Ideal radii of recorded ones: r (1 + k r²) as far as that rises by `LEAST_RISE` or more, then
    on along its tangent, so that every radius has one to go with."""
    turn = _last(k)
    r = np.minimum(recorded, turn)
    return np.asarray(r * (1.0 + k * r * r) + LEAST_RISE * (recorded - r))


def undistorted(ideal: Floats, k: float) -> Floats:
    """Recorded radii of ideal ones; inverse of `distorted`, by the cubic's roots (Cardano, in the
    trigonometric and hyperbolic form)."""
    turn = _last(k)
    last = turn * (1.0 + k * turn * turn) if np.isfinite(turn) else np.inf
    within = np.minimum(ideal, last)
    scale = np.sqrt(3.0 * abs(k))
    if k > 0.0:
        r = 2.0 / scale * np.sinh(np.arcsinh(1.5 * scale * within) / 3.0)
    else:
        r = 2.0 / scale * np.sin(np.arcsin(np.minimum(1.5 * scale * within, 1.0)) / 3.0)
    return np.asarray(r + (ideal - within) / LEAST_RISE)


def _last(k: float) -> float:
    """The recorded radius from which an ideal one rises by no more than `LEAST_RISE`."""
    return float(np.sqrt((1.0 - LEAST_RISE) / (-3.0 * k))) if k < 0.0 else np.inf


def sampled(samples: tuple[float, ...], radius: Floats) -> Floats:
    """What a lens profile says at radii (in parts of half the diagonal), between its samples by a
    cubic spline, beyond them their last."""
    return np.asarray(_spline(samples)(np.clip(radius, 0.0, LENS_RADII[-1])))


@lru_cache(maxsize=64)
def _spline(samples: tuple[float, ...]) -> Any:
    return interpolate.CubicSpline(LENS_RADII, samples)


class Shaping(Station):
    """The picture turned, straightened, freed of distortion and converging lines, cropped."""

    reads = (
        "capture.quarter_turns", "capture.flip", "capture.straighten",
        "capture.keystone_vertical", "capture.keystone_horizontal", "capture.distortion",
        "capture.lateral_red", "capture.lateral_blue", "capture.lens", "capture.crop",
    )  # fmt: skip

    def geometry(self, width: int, height: int) -> Geometry:
        """What it does to a capture of that size."""
        if (width, height) not in self._made:
            settings = self.recipe.capture
            self._made[width, height] = Geometry(width, height, settings)
        return self._made[width, height]

    @cached_property
    def _made(self) -> dict[tuple[int, int], Geometry]:
        return {}

    @property
    def is_plain(self) -> bool:
        """Whether the picture stays as the capture has it."""
        return self.geometry(1, 1).is_plain
