"""What is done to the capture's light itself before it meets the film: channels, highlights, noise,
rims and fall-off, worked out for the view that is asked for."""

from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import NDArray

from ..picture import U16, Layer, LinearPicture, View
from ..places import PicturePlaces
from ..station import Station
from .geometry import Geometry, Shaping, sampled
from .noise import NoiseProfile, defringed, noise_profile, quieted, reach
from .settings import CaptureSettings

FULL = 65535.0
CLIP = 0.985  # of the limit of a channel, from where it counts as clipped
FARTHEST = 1.5  # parts of half the diagonal
COARSE = 16  # pixels of a view between places at which fall-off is worked out


class CleanPicture(Layer):
    """A picture that is cleaned as it is cut."""

    def __init__(
        self,
        picture: LinearPicture,
        capture: LinearPicture,
        geometry: Geometry,
        settings: CaptureSettings,
    ) -> None:
        super().__init__(picture, picture.scale)
        self._geometry, self._settings = geometry, settings
        if settings.swap:
            red, green, blue = picture.limits
            self.limits = blue, green, red
        noisy = settings.luminance_noise or settings.colour_noise
        self._noise: NoiseProfile | None = noise_profile(capture) if noisy else None

    def cut(self, view: View) -> U16:
        """The light of a view, (out_height, out_width, 3)."""
        wide, rows, columns = self._widened(view)
        light = self._picture.cut(wide)
        s = self._settings
        pitch = wide.width / light.shape[1]
        if s.recover_highlights < 1.0:
            least, most = min(self._picture.limits), max(self._picture.limits)
            ceiling = least * (most / least) ** s.recover_highlights / CLIP
            light = np.minimum(light, np.uint16(min(ceiling, FULL)))
        if self._noise is not None:
            light = quieted(light, self._noise, pitch, s.luminance_noise, s.colour_noise)
        if s.defringe:
            light = defringed(light, s.defringe, pitch)
        if s.swap:
            light = light[..., ::-1]
        light = light[rows, columns]
        if s.fall_off or (s.lens and s.lens.fall_off):
            gain = self._gain(view, light.shape[:2])
            light = np.minimum(light * gain[..., None] + np.float32(0.5), FULL).astype(np.uint16)
        return np.ascontiguousarray(light)

    def _widened(self, view: View) -> tuple[View, slice, slice]:
        """A view with the margin that smoothing needs, and where the view lies in it."""
        s = self._settings
        everything = slice(None)
        width, height = min(view.width, self.width), min(view.height, self.height)
        out = min(view.out_width, width), min(view.out_height, height)
        pitch = width / out[0]
        margin = reach(pitch) if self._noise is not None else 0
        if s.defringe:
            margin = max(margin, int(np.ceil(30.0 / pitch)))
        if not margin or (width, height) == (self.width, self.height):
            return view, everything, everything
        # whole pixels of the view and of the capture alike
        left = min(margin, int(view.left / pitch))
        top = min(margin, int(view.top / pitch))
        right = min(margin, int((self.width - view.left - width) / pitch))
        bottom = min(margin, int((self.height - view.top - height) / pitch))
        x0, y0 = view.left - round(left * pitch), view.top - round(top * pitch)
        x1 = view.left + width + round(right * pitch)
        y1 = view.top + height + round(bottom * pitch)
        wide = replace(
            view, left=x0, top=y0, width=x1 - x0, height=y1 - y0,
            out_width=out[0] + left + right, out_height=out[1] + top + bottom,
        )  # fmt: skip
        return wide, slice(top, top + out[1]), slice(left, left + out[0])

    def _gain(self, view: View, shape: tuple[int, ...]) -> NDArray[np.float32]:
        """(H, W) by how much a view is brightened where the lens let less light through."""
        height, width = shape
        step = max(1, min(COARSE, min(shape) // COARSE))
        down, across = (np.arange(-(-side // step) + 1) * step for side in shape)
        y, x = np.meshgrid(
            view.top + (down + 0.5) / height * view.height,
            view.left + (across + 0.5) / width * view.width,
            indexing="ij",
        )
        places = self._geometry.picture_to_capture(
            PicturePlaces(np.stack([x.ravel(), y.ravel()], axis=-1))
        )
        size = np.array([self._geometry.width, self._geometry.height], np.float64)
        # places of a coarse grid may lie far outside the capture, where no light is taken from
        radius = np.minimum(
            np.hypot(*((places - size / 2.0).T)) / (0.5 * np.hypot(*size)), FARTHEST
        )
        s = self._settings
        stops = s.fall_off * radius**2
        if s.lens and s.lens.fall_off:
            stops = stops + sampled(s.lens.fall_off, radius)
        gain = np.exp2(stops).reshape(y.shape).astype(np.float32)
        into = np.array([[1.0 / step, 0.0, 0.0], [0.0, 1.0 / step, 0.0]])
        flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
        return np.asarray(cv2.warpAffine(gain, into, (width, height), flags=flags), np.float32)


class Cleaning(Station):
    """The capture's light cleaned as it is cut."""

    reads = (
        "capture.recover_highlights", "capture.luminance_noise", "capture.colour_noise",
        "capture.defringe", "capture.swap", "capture.fall_off", "capture.lens",
    )  # fmt: skip
    builds_on = (Shaping,)

    @property
    def is_plain(self) -> bool:
        """Whether nothing of it is asked for."""
        s = self.recipe.capture
        return (
            s.recover_highlights >= 1.0
            and not (s.luminance_noise or s.colour_noise or s.defringe or s.swap or s.fall_off)
            and not (s.lens and s.lens.fall_off)
        )

    def over(self, picture: LinearPicture, capture: LinearPicture) -> LinearPicture:
        """A picture cleaned; `capture` is what it is of."""
        geometry = self.of(Shaping).geometry(capture.width, capture.height)
        settings = self.recipe.capture
        return CleanPicture(picture, capture, geometry, settings)
