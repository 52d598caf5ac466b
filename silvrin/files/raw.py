"""Camera raws and DNG become light, by LibRaw."""

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import rawpy
import tifffile
from numpy.typing import NDArray

from ..core.capture.highlights import working_light
from ..core.capture.white_balance import temperature_of
from ..core.picture import CLIPPED
from ..errors import BadCapture
from . import mosaic
from .dng import Dng, dng_of, working_matrix
from .kinds import damaged, memory_for
from .metadata import Metadata
from .profiles import RGB_TO_BT2020, SRGB_TO_XYZ

QUICK_SIDE = 2400  # long side that serves a quick look
FULL_SCALE = 65535.0
# Bytes a pixel: of any raw at least, of a mosaic in one piece, and of one for a quick look
LEAST_MEMORY, MOSAIC_MEMORY, HALF_MEMORY = 13.0, 16.0, 6.0
# How LibRaw develops: the camera's own channels, linear, none clipped
DEVELOPED: dict[str, Any] = {
    "highlight_mode": rawpy.HighlightMode.Ignore, "output_color": rawpy.ColorSpace.raw,
    "output_bps": 16, "gamma": (1, 1), "no_auto_bright": True, "adjust_maximum_thr": 0.0,
}  # fmt: skip
Limits = tuple[float, float, float]


def raw_scale(metadata: Metadata) -> float:
    """Linear value of full scale of a camera raw, as its maker asks for it."""
    return float(2.0 ** max(-3.0, min(3.0, metadata.baseline_exposure)))


@dataclass(frozen=True)
class Raw:
    """A developed mosaic: linear BT.2020 in the as-shot white balance, (H, W, 3) uint16; linear
    value = code * scale before what the maker asks to add. `limits` are the codes at which red,
    green and blue are clipped. Width and height are of the full size."""

    light: NDArray[np.uint16]
    scale: float
    limits: Limits
    width: int
    height: int
    temperature: float | None  # K, of the light by the camera's white balance
    not_applied: tuple[str, ...]  # corrections that the file asks for


def decode_raw(path: Path, half: bool = False) -> Raw:
    """Develop a camera raw; at `half` its size or less, for a quick look, by joining the four cells
    of its mosaic. Highlights are recovered from unclipped channels.

    Raises BadCapture for a damaged file or a picture of no usable size.
    """
    _check_complete(path)
    dng = dng_of(path)
    try:
        with rawpy.imread(str(path)) as raw:
            size = raw.sizes.width, raw.sizes.height
            flip = raw.sizes.flip
            balance, matrix = _as_shot(raw), _to_working(raw)
            if dng is not None:
                given = working_matrix(dng, balance)
                matrix = matrix if given is None else given
            temperature = _temperature(raw, balance, matrix)
            light = demosaic(raw, half, balance)
    except rawpy.LibRawError as error:
        raise BadCapture(damaged("camera raw", _reason(error))) from error
    if light.ndim == 2 or light.shape[2] == 1:  # of a sensor without colours
        light = np.repeat(light.reshape(*light.shape[:2], 1), 3, axis=2)
        balance, matrix, temperature = (1.0, 1.0, 1.0), np.eye(3), None
    if dng is not None and dng.crop is not None:
        light, size = _cropped(light, dng.crop, size, flip)
    elif flip in (5, 6):
        size = size[1], size[0]
    if half and max(light.shape[:2]) > QUICK_SIDE:
        smaller = light.shape[1] // 2, light.shape[0] // 2
        light = np.asarray(cv2.resize(light, smaller, interpolation=cv2.INTER_AREA), np.uint16)
    most = max(balance)
    # LibRaw's multipliers hold the whites of the channels, where these differ
    least = min(of * share for of, share in zip(balance, _shares(dng), strict=True))
    white = 1.0 if dng is None else dng.white
    limits = [FULL_SCALE / white * of / most for of in balance]
    light = working_light(light, matrix, tuple(limits))
    red, green, blue = (min(CLIPPED, 0.985 * limit) for limit in limits)
    scale = white * most / least / FULL_SCALE
    left = () if dng is None else dng.not_applied
    return Raw(light, scale, (red, green, blue), *size, temperature, left)


def _shares(dng: Dng | None) -> tuple[float, float, float]:
    return (1.0, 1.0, 1.0) if dng is None else dng.share


def _cropped(
    light: NDArray[np.uint16],
    crop: tuple[int, int, int, int],
    size: tuple[int, int],
    flip: int,
) -> tuple[NDArray[np.uint16], tuple[int, int]]:
    """What is of the picture, of what the sensor saw (width and height before it was turned upright
    by LibRaw's code), and its size."""
    left, top, width, height = crop
    across, down = size
    if width < 1 or height < 1 or left + width > across or top + height > down:
        return light, size if flip not in (5, 6) else (down, across)
    if flip == 3:
        left, top = across - left - width, down - top - height
    elif flip == 5:  # a quarter turn to the left
        left, top, width, height = top, across - left - width, height, width
    elif flip == 6:
        left, top, width, height = down - top - height, left, height, width
    share = light.shape[1] / (down if flip in (5, 6) else across)  # at half size, for a quick look
    x, y = round(left * share), round(top * share)
    part = light[y : y + round(height * share), x : x + round(width * share)]
    return np.ascontiguousarray(part), (width, height)


def measure_raw(path: Path, half: bool = False) -> float:
    """Bytes that reading a raw takes, whole or at half its size: its mosaic, what it is developed
    in, and the light. Raises BadCapture."""
    try:
        with rawpy.imread(str(path)) as raw:
            sizes = raw.sizes
    except rawpy.LibRawError as error:
        raise BadCapture(damaged("camera raw", _reason(error))) from error
    dng = dng_of(path)
    if dng is not None and dng.channels:  # LibRaw has four beside what it reads and what it gives
        each = max(LEAST_MEMORY, 8.0 + 4.0 * dng.channels)
    elif half:
        each = HALF_MEMORY
    else:
        large = sizes.width * sizes.height >= mosaic.LARGE
        each = LEAST_MEMORY if large else MOSAIC_MEMORY
    return memory_for(sizes.width, sizes.height, each)


def _reason(error: rawpy.LibRawError) -> object:
    reason = error.args[0] if error.args else error
    return reason.decode("ascii", "replace") if isinstance(reason, bytes) else reason


def demosaic(raw: Any, half: bool, balance: tuple[float, float, float]) -> NDArray[np.uint16]:
    """LibRaw's part: the camera's own channels, white-balanced, linear, none clipped by that."""
    how = {**DEVELOPED, "half_size": half, "user_wb": [*balance, balance[1]]}
    large = raw.sizes.width * raw.sizes.height >= mosaic.LARGE
    if large and not half and mosaic.is_plain(raw):
        return mosaic.develop(raw, **how)
    return np.ascontiguousarray(raw.postprocess(**how))


def _as_shot(raw: Any) -> tuple[float, float, float]:
    """White balance of the camera, as multipliers; daylight where it wrote none."""
    found = list(raw.camera_whitebalance or ())[:3]
    if len(found) < 3 or min(found) <= 0.0:
        found = list(raw.daylight_whitebalance)[:3]
    if min(found) <= 0.0:
        found = [1.0, 1.0, 1.0]
    red, green, blue = (float(v) for v in found)
    return red, green, blue


def _temperature(
    raw: Any, balance: tuple[float, float, float], matrix: NDArray[np.float64]
) -> float | None:
    """Of the light that the camera set neutral, by how it sees daylight of 6500 K."""
    daylight = np.array(list(raw.daylight_whitebalance)[:3], np.float64)
    if daylight.min() <= 0.0:
        return None
    return temperature_of(matrix @ (daylight / np.array(balance)))


def _to_working(raw: Any) -> NDArray[np.float64]:
    """(3, 3) from the camera's white-balanced channels to BT.2020, by its own matrix.

    As LibRaw does it: of the camera's response to XYZ, each channel is set to 1 for white, and the
    inverse leads back (D. Coffin's method).
    """
    given = np.array(raw.color_matrix, np.float64)[:, :3]
    if given[0, 0] > 0.125:  # it leads to linear sRGB
        return np.asarray(RGB_TO_BT2020 @ given)
    of_xyz = np.array(raw.rgb_xyz_matrix, np.float64)[:3]
    if not of_xyz.any():
        return np.eye(3)
    camera = of_xyz @ SRGB_TO_XYZ
    camera /= camera.sum(axis=1, keepdims=True)
    return np.asarray(RGB_TO_BT2020 @ np.linalg.inv(camera))


def _check_complete(path: Path) -> None:
    """LibRaw fills what is missing of an uncompressed mosaic with noise; say so instead."""
    size = path.stat().st_size
    try:
        with tifffile.TiffFile(path) as tiff:
            pages = [page for top in tiff.pages for page in (top, *(top.pages or ()))]
            ends = [
                offset + length
                for page in pages
                for offset, length in zip(page.dataoffsets, page.databytecounts, strict=False)
            ]
    except Exception:  # not a TIFF at all, or one that only LibRaw can read
        return
    if ends and max(ends) > size:
        raise BadCapture(damaged("camera raw", f"{size} of {max(ends)} bytes are there"))
