"""The exposure of the film: all that happens between scene and emulsion, over a plate."""

from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from ..capture.flatten import Flattening
from ..light.conversion import Conversion
from ..light.scatter import Effects, Scatter, Scattering, spread
from ..plate import Plate
from ..station import Station
from .format import FORMATS
from .halation import sharpness

F32 = NDArray[np.float32]

LEAST_BLUR = 0.25  # pixels; less is not seen


@dataclass(frozen=True)
class Under:
    """What of the underlay a recipe asks for."""

    chroma: F32 | None = None
    scatter: Scatter | None = None
    flatten: F32 | None = None
    local: F32 | None = None
    effects: Effects = field(default_factory=dict)  # of passes of the printing map


class Exposure(Station):
    """Exposure of the film."""

    reads = ("film.stock", "film.film_format")
    builds_on = (Conversion, Flattening, Scattering)

    def blur(self, long_side: int) -> float:
        """Standard deviation of the film's own blur, in pixels of a capture of that long side."""
        pitch = 1000.0 * FORMATS[self.recipe.film.film_format] / long_side
        return sharpness(self.things.stock.resolving_power) / pitch

    def over(self, coded: Plate, under: Under, blur: float) -> Plate:
        """log2 H of the film (H, W) of a coded plate (H, W, 3); `blur` is the film's own in the
        plate's pixels."""
        conversion, pixels, grid = self.of(Conversion), coded.pixels, coded.grid
        if under.chroma is not None:
            pixels = conversion.smoothed(pixels, under.chroma, grid)
        exposure = conversion.expose(pixels)
        if blur > LEAST_BLUR:
            lit = cv2.GaussianBlur(np.exp2(exposure), (0, 0), blur, borderType=cv2.BORDER_REPLICATE)
            exposure = np.log2(np.asarray(lit, np.float32))
        if under.flatten is not None:
            self.of(Flattening).flatten(exposure, under.flatten, grid)
        if under.scatter is not None:
            spread(exposure, pixels, under.scatter, grid)
        return coded.holding(exposure)
