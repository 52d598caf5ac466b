"""What a print does to colours whatever lies about them, as a table: for others to use.

Left out is all that acts over distances or at places: grain, halation, soft focus, haze, local
contrast, the printing map, spotting, sharpening, the mount; and what belongs to a capture: its
white balance, its noise and its lens.
"""

import numpy as np
from numpy.typing import NDArray

from ..development.negative import Developing
from ..kernels.run import DARKEST
from ..light.conversion import Conversion
from ..light_path import LightPath
from ..plate import Grid, Plate
from ..spectra.chromaticity import SIZE
from ..tables import through
from ..toner.places import NOWHERE, ByPlace, ToningByPlace
from .mixing import mixture

F32 = NDArray[np.float32]
LEFT_OUT = (
    "grain, halation, soft focus, haze, local contrast, the printing map, spotting, sharpening and "
    "the mount"
)


def coded(light: NDArray[np.floating]) -> F32:
    """Linear light of BT.2020 (H, W, 3), of any size, as `Conversion.expose` wants it."""
    total = light.sum(axis=-1)
    dark = total < DARKEST
    safe = np.where(dark, 1.0, total)
    shares = np.where(dark[..., None], 1 / 3, light / safe[..., None])[..., :2]
    logs = np.log2(np.maximum(total, DARKEST))
    return np.ascontiguousarray(np.dstack([shares * (SIZE - 1), logs]), np.float32)


def printed(path: LightPath, light: NDArray[np.floating]) -> F32:
    """The print's encoded sRGB (H, W, 3), 0 to 1, of linear light of BT.2020 (H, W, 3), in which a
    lit middle grey is 0.18."""
    numbers = _numbers(path, light)
    if path.mixed is not None:
        before, strength = path.mixed
        numbers = mixture(_numbers(before, light), numbers, strength)
    three = numbers if numbers.ndim == 3 else np.repeat(numbers[..., None], 3, axis=2)
    return np.asarray(three / np.float32(65535.0), np.float32)


def _numbers(path: LightPath, light: NDArray[np.floating]) -> NDArray[np.uint16]:
    seen = coded(light)
    density = through(path[Conversion].expose(seen), path[Developing].curve)
    height, width = density.shape
    plate = Plate(density, Grid(0, 0, 1, 1, 0, width, height))
    toned = ByPlace(NOWHERE, seen) if path[ToningByPlace].lets_colour else None
    return np.asarray(path.print_out(plate, 16, toned), np.uint16)


def lattice(path: LightPath, inputs: NDArray[np.float64]) -> F32:
    """(N, N, N, 3) encoded sRGB of the print over linear light of BT.2020 (N, N, N, 3)."""
    size = len(inputs)
    found = printed(path, inputs.reshape(size * size, size, 3))
    return np.asarray(found.reshape(size, size, size, 3))
