"""A capture looked over before it is developed: whether it can be read, what it is, and a small
picture of it. Everything of the file is decoded once, so that a damaged one is found now."""

from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import rawpy
import simplejpeg
import tifffile
from numpy.typing import NDArray

from ..core.picture import LinearPicture
from ..core.render import in_colour
from ..errors import BadCapture
from .capture import reading, upright
from .kinds import sniff
from .metadata import Metadata, read_metadata
from .raster import READERS, Coded, header_of
from .raw import decode_raw, measure_raw, raw_scale
from .room import READING
from .thumbnails import thumbnail

SMALL = 560  # long side of the small picture, pixels


@dataclass(frozen=True)
class FirstLook:
    """What is known of a capture before it is developed."""

    kind: str
    width: int  # upright, pixels
    height: int
    scale: float
    metadata: Metadata
    small: bytes  # JPEG in sRGB, upright


def first_look(path: Path, name: str | None = None) -> FirstLook:
    """Look a file over. Raises BadCapture naming the file and the reason."""
    with reading(path, name or path.name):
        kind = sniff(path)
        if kind == "raw":
            with READING.of(measure_raw(path, half=True)):
                return _look_at_raw(path)
        metadata = read_metadata(path)
        with READING.of(READERS[kind].measure(path)):
            numbers, size = None, (0, 0)
            if kind == "jpeg":
                numbers, size = _jpeg_reduced(path)
            if numbers is None:
                numbers = READERS[kind].read(path)
                size = numbers.numbers.shape[1], numbers.numbers.shape[0]
            turned = 1 if numbers.is_upright else metadata.orientation
            small = replace(numbers, numbers=_reduced(numbers.numbers))
        light, scale = small.light()
        if turned >= 5:
            size = size[1], size[0]
        return FirstLook(kind, *size, scale, metadata, _small(upright(light, turned), scale))


def _jpeg_reduced(path: Path) -> tuple[Coded | None, tuple[int, int]]:
    """A JPEG of which all is read, but only as large as the small picture wants it; None where the
    careful reader must have the last word."""
    profile, mode = header_of(path, "JPEG")
    if mode not in ("RGB", "L"):
        return None, (0, 0)
    try:
        data = path.read_bytes()
        height, width = simplejpeg.decode_jpeg_header(data)[:2]
        share = min(1.0, 2 * SMALL / max(height, width))
        numbers = simplejpeg.decode_jpeg(
            data, "RGB" if mode == "RGB" else "GRAY", min_height=int(height * share),
            min_width=int(width * share), min_factor=1,
        )  # fmt: skip
    except ValueError:  # stricter than most
        return None, (0, 0)
    return Coded(numbers[..., 0] if mode == "L" else numbers, profile), (width, height)


def _look_at_raw(path: Path) -> FirstLook:
    metadata = read_metadata(path)
    raw = decode_raw(path, half=True)
    scale = raw_scale(metadata) * raw.scale
    small = _small(raw.light, scale)
    found: dict[str, object] = {"not_applied": list(raw.not_applied)}
    if raw.temperature is not None:
        found["temperature"] = round(raw.temperature)
    metadata = metadata.model_copy(update=found)
    return FirstLook("raw", raw.width, raw.height, scale, metadata, small)


def _reduced(numbers: NDArray[Any]) -> NDArray[Any]:
    ratio = SMALL / max(numbers.shape[:2])
    if ratio >= 1.0:
        return numbers
    size = (max(1, round(numbers.shape[1] * ratio)), max(1, round(numbers.shape[0] * ratio)))
    return np.asarray(cv2.resize(numbers, size, interpolation=cv2.INTER_AREA), numbers.dtype)


def _small(light: NDArray[np.uint16], scale: float) -> bytes:
    picture = LinearPicture([np.ascontiguousarray(light)], scale)
    return thumbnail(in_colour(picture.cut(picture.whole(SMALL)), scale))


def embedded_preview(path: Path, orientation: int, long_side: int) -> bytes | None:
    """The picture that a camera put into its raw file, or a JPEG itself read at a part of its size,
    as a JPEG of about that long side; None where there is none."""
    try:
        data = path.read_bytes() if sniff(path) == "jpeg" else _jpeg_in(path, long_side)
        if data is None:
            with rawpy.imread(str(path)) as raw:
                found = raw.extract_thumb()
            if found.format == rawpy.ThumbFormat.BITMAP:
                return thumbnail(upright(_reduced(np.asarray(found.data)), orientation))
            data = bytes(found.data)
        height, width, _, _ = simplejpeg.decode_jpeg_header(data)
        least = min(long_side / max(height, width), 1.0)
        numbers = simplejpeg.decode_jpeg(
            data, "RGB", min_height=int(height * least), min_width=int(width * least), min_factor=1
        )
        return thumbnail(upright(np.asarray(numbers), orientation))
    except (BadCapture, OSError, ValueError, rawpy.LibRawError):
        return None


def _jpeg_in(path: Path, long_side: int) -> bytes | None:
    """Of the JPEGs that a raw of TIFF's form holds, the smallest that is as large as wanted; None
    where there is none. Cameras put in several; LibRaw gives the largest."""
    found: list[tuple[int, int, int]] = []
    try:
        with tifffile.TiffFile(path) as tiff:
            for page in [p for top in tiff.pages for p in (top, *(top.pages or ()))]:
                offsets, sizes = page.dataoffsets, page.databytecounts
                if page.photometric == 6 and page.compression == 7 and len(offsets) == 1:
                    found.append((max(page.imagewidth, page.imagelength), offsets[0], sizes[0]))
    except Exception:  # of whatever form it is, LibRaw may know it
        return None
    for side, offset, size in sorted(found):
        if side >= long_side:
            with path.open("rb") as file:
                file.seek(offset)
                return file.read(size)
    return None
