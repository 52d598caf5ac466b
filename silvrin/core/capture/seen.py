"""The picture as the stations after Capture see it: through its geometry."""

from typing import TYPE_CHECKING

import cv2
import numpy as np
from numpy.typing import NDArray

from ..picture import U16, LinearPicture, View, reduced
from ..places import CapturePlaces, PicturePlaces
from .camera_curve import CameraCurve
from .clean import Cleaning
from .geometry import Geometry, Shaping
from .spotting import Mending
from .white_balance import Balancing

if TYPE_CHECKING:
    from ..light_path import LightPath

F32 = NDArray[np.float32]

TILE_ROWS = 256  # rows whose maps are made at a time
NO_MAP = np.empty((0, 0), np.float32)  # both coordinates are in the first
STEPS = np.float32(1 << cv2.INTER_BITS)  # to which a pixel is divided when it is resampled
GRID = 8  # pixels between places whose light is traced back: less than 0.02 pixels are lost


class SeenPicture(LinearPicture):
    """A capture through its geometry; cut like any picture, resampled once (Lanczos)."""

    def __init__(self, capture: LinearPicture, geometry: Geometry) -> None:
        super().__init__(capture.levels, capture.scale)
        self.capture, self.geometry = capture, geometry
        self.limits = capture.limits

    @property
    def width(self) -> int:
        return self.geometry.window[2]

    @property
    def height(self) -> int:
        return self.geometry.window[3]

    @property
    def film_side(self) -> int:
        return max(self.geometry.width, self.geometry.height)

    @property
    def axis(self) -> tuple[float, float, float]:
        capture = np.array([self.geometry.width, self.geometry.height], np.float64)
        x, y = self.geometry.capture_to_picture(CapturePlaces(capture[None] / 2.0))[0]
        long = max(self.width, self.height)
        return float(x) / long, float(y) / long, 0.5 * float(np.hypot(*capture)) / long

    def cut(self, view: View) -> U16:
        """The light of a view, (out_height, out_width, 3)."""
        left = min(max(view.left, 0), self.width - 1)
        top = min(max(view.top, 0), self.height - 1)
        width = min(max(view.width, 1), self.width - left)
        height = min(max(view.height, 1), self.height - top)
        out_width = min(max(view.out_width, 1), width)
        out_height = min(max(view.out_height, 1), height)
        reduction = min(width / out_width, height / out_height)
        level = self.capture.level_for(reduction)
        pitch = self.geometry.width / level.shape[1]
        size = (max(out_width, round(width / pitch)), max(out_height, round(height / pitch)))
        # counted from the picture's own corner, so that every view of it is taken alike
        shift = round(left * size[0] / width) % GRID, round(top * size[1] / height) % GRID
        channels = self._coarse_maps((left, top, width, height), size, shift, pitch)
        sources, corner = ([level], None) if len(channels) == 1 else _channels(level, channels)
        whole = (size[0], size[1]) == (out_width, out_height)
        # what is reduced afterwards needs no more than a cubic
        taken_by = cv2.INTER_LANCZOS4 if whole else cv2.INTER_CUBIC
        light = np.empty((size[1], size[0], 3), np.uint16)
        for first in range(0, size[1], TILE_ROWS):
            rows = slice(first, min(first + TILE_ROWS, size[1]))
            grid = slice(rows.start + shift[1], rows.stop + shift[1])
            columns = slice(shift[0], size[0] + shift[0])
            taken = [
                cv2.remap(
                    source, _enlarged(maps, grid, columns, corner), NO_MAP, taken_by,
                    borderMode=cv2.BORDER_REFLECT_101,
                )
                for source, maps in zip(sources, channels, strict=True)
            ]  # fmt: skip
            light[rows] = taken[0] if len(taken) == 1 else cv2.merge(taken)
        return light if whole else reduced(light, out_width, out_height)

    def _coarse_maps(
        self,
        window: tuple[int, int, int, int],
        size: tuple[int, int],
        shift: tuple[int, int],
        pitch: float,
    ) -> list[F32]:
        """Where the light of a window lies on a level, for every GRID-th pixel, and a row and
        column around, from `shift` before it: one map (h, w, 2), or, where the lens draws colours
        apart, one for each channel."""
        left, top, width, height = window
        across, down = (
            (np.arange(-1, -(-(side + before) // GRID) + 1) + 0.5) * GRID - before
            for side, before in zip(size, shift, strict=True)
        )
        y, x = np.meshgrid(
            top + down * height / size[1], left + across * width / size[0], indexing="ij"
        )
        places = PicturePlaces(np.stack([x.ravel(), y.ravel()], axis=-1))
        found = self.geometry.picture_to_capture(places).reshape(*x.shape, 2)
        middle = np.array([self.geometry.width, self.geometry.height]) / 2.0
        s = self.geometry.settings
        apart = bool(s.lateral_red or s.lateral_blue or (s.lens and s.lens.red))
        times = [self.geometry.fringe(found, c) for c in range(3)] if apart else [1.0]
        return [(((found - middle) * t + middle) / pitch - 0.5).astype(np.float32) for t in times]


def _channels(level: U16, maps: list[F32]) -> tuple[list[U16], F32]:
    """Red, green and blue of the part of a level that maps lead to, and its left top corner."""
    reach = 2 * GRID  # of the interpolation, and of maps beyond their last place
    least = np.floor(np.min([m.min(axis=(0, 1)) for m in maps], axis=0)).astype(int) - reach
    most = np.ceil(np.max([m.max(axis=(0, 1)) for m in maps], axis=0)).astype(int) + reach
    # there is always a pixel: what maps hold between the places of a small view may lie far outside
    left, top = np.clip(least, 0, (level.shape[1] - 1, level.shape[0] - 1))
    part = level[top : max(most[1], top + 1), left : max(most[0], left + 1)]
    channels = [np.asarray(channel, np.uint16) for channel in cv2.split(part)]
    return channels, np.array([left, top], np.float32)


def _enlarged(coarse: F32, rows: slice, columns: slice, corner: F32 | None) -> F32:
    """Rows and columns of a coarse map at every pixel, between its places by a plane; counted from
    a corner, in the steps that OpenCV resamples by, so that every corner leads to the same."""
    first, last = rows.start // GRID, -(-rows.stop // GRID)
    part = coarse[first : last + 2]
    size = part.shape[1] * GRID, part.shape[0] * GRID
    maps = cv2.resize(part, size, interpolation=cv2.INTER_LINEAR)
    top, left = rows.start - (first - 1) * GRID, columns.start + GRID
    height, width = rows.stop - rows.start, columns.stop - columns.start
    part = np.ascontiguousarray(maps[top : top + height, left : left + width])
    return part if corner is None else np.rint(part * STEPS) / STEPS - corner


def geometry_of(capture: LinearPicture, path: "LightPath") -> Geometry:
    """What the Capture station of a light path does to the shape of a capture."""
    return path[Shaping].geometry(capture.width, capture.height)


def seen(capture: LinearPicture, path: "LightPath") -> LinearPicture:
    """A capture under the Capture station of a light path: mends, geometry, cleaning, its
    camera's curve and white balance, each only where it is asked for."""
    found = capture if path[Mending].is_plain else path[Mending].over(capture)
    if not path[Shaping].is_plain:
        found = SeenPicture(found, geometry_of(capture, path))
    if not path[Cleaning].is_plain:
        found = path[Cleaning].over(found, capture)
    if not path[CameraCurve].is_plain:
        found = path[CameraCurve].over(found)
    return found if path[Balancing].is_plain else path[Balancing].over(found)


def key_of_seen(path: "LightPath") -> tuple[int | None, ...]:
    """Names in caches what `seen` makes of a capture."""
    layers = (path[Mending], path[Shaping], path[Cleaning], path[CameraCurve], path[Balancing])
    return tuple(None if layer.is_plain else layer.key for layer in layers)
