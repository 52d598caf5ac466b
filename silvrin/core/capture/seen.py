"""The picture as the stations after Capture see it: through its geometry."""

import cv2
import numpy as np

from ..picture import U16, LinearPicture, View, reduced
from ..recipe import CaptureSettings
from .clean import cleaned, is_clean, key_of_clean, with_gains
from .geometry import Geometry, geometry_of
from .spotting import mended
from .white_balance import gains

TILE_ROWS = 256  # rows whose maps are made at a time


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
        x, y = self.geometry.from_capture(capture[None] / 2.0)[0]
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
        light = np.empty((size[1], size[0], 3), np.uint16)
        for first in range(0, size[1], TILE_ROWS):
            rows = np.arange(first, min(first + TILE_ROWS, size[1]))
            y, x = np.meshgrid(
                top + (rows + 0.5) * height / size[1],
                left + (np.arange(size[0]) + 0.5) * width / size[0],
                indexing="ij",
            )
            light[rows] = self._taken(level, x, y, pitch)
        if (size[0], size[1]) == (out_width, out_height):
            return light
        return reduced(light, out_width, out_height)

    def _taken(self, level: U16, x: np.ndarray, y: np.ndarray, pitch: float) -> U16:
        """Light of a level at places of the finished picture (H, W)."""
        places = np.stack([x.ravel(), y.ravel()], axis=-1)
        found = self.geometry.to_capture(places).reshape(*x.shape, 2)
        settings = self.geometry.settings
        middle = np.array([self.geometry.width, self.geometry.height]) / 2.0

        def sampled(source: U16, times: np.ndarray | float) -> U16:
            at = ((found - middle) * times + middle) / pitch - 0.5
            maps = at.astype(np.float32)
            return np.asarray(
                cv2.remap(
                    source, maps[..., 0], maps[..., 1], cv2.INTER_LANCZOS4,
                    borderMode=cv2.BORDER_REFLECT_101,
                )
            )  # fmt: skip

        lens = settings.lens
        if not (settings.lateral_red or settings.lateral_blue or (lens and lens.red)):
            return sampled(level, 1.0)
        return np.stack(
            [
                sampled(np.ascontiguousarray(level[..., c]), self.geometry.fringe(found, c))
                for c in range(3)
            ],
            axis=-1,
        )


def seen(capture: LinearPicture, settings: CaptureSettings) -> LinearPicture:
    """A capture under the settings of its station: mends, geometry, cleaning and white balance."""
    whole = mended(capture, settings.mends, settings.protected)
    geometry = geometry_of(capture.width, capture.height, settings)
    found: LinearPicture = whole if geometry.is_plain else SeenPicture(whole, geometry)
    found = cleaned(found, capture, geometry, settings)
    balance = gains(settings)
    return found if balance == (1.0, 1.0, 1.0) else with_gains(found, balance)


def key_of_seen(settings: CaptureSettings) -> object:
    """Names in caches what of the Capture station changes the light itself."""
    plain = Geometry(1, 1, settings)
    return (
        None if plain.is_plain else plain.key,
        None if is_clean(settings) else key_of_clean(settings),
        gains(settings),
        settings.mends,
        settings.protected if settings.mends else (),
    )
