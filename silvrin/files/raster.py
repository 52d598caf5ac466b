"""Pictures that are not camera raws: their numbers, and the light that these stand for."""

import struct
import warnings
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import imagecodecs
import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image

from ..errors import BadCapture
from .jxl import measure_jxl
from .kinds import damaged, memory_for
from .profiles import RGB_TO_BT2020, coded_colours, primaries_to_bt2020, to_linear

Image.MAX_IMAGE_PIXELS = None  # sizes are checked here, by the header, before anything is decoded
FULL_SCALE = 65535.0
STRIP = 4_000_000  # pixels that are converted at a time
MOST_OVER_WHITE = 16.0  # of floating-point light: four stops above white are kept
LIGHT = 6  # bytes a pixel of the light that a file becomes
Rows = NDArray[Any]


@dataclass(frozen=True)
class Coded:
    """What a file holds: (H, W) or (H, W, channels) numbers of uint8 or uint16 in the encoding of
    an ICC profile (sRGB without one), or linear floats with the matrix that leads to BT.2020."""

    numbers: Rows
    profile: bytes | None = None
    bits: int = 16  # of uint16 numbers
    matrix: NDArray[np.float64] | None = None
    is_upright: bool = False  # its decoder has turned it as the file asks

    def light(self) -> tuple[NDArray[np.uint16], float]:
        """(H, W, 3) uint16 of linear light in BT.2020, and the linear value of a code."""
        numbers = self.numbers
        height, width = numbers.shape[:2]
        out = np.empty((height, width, 3), np.uint16)
        scale = 1.0 / FULL_SCALE
        if self.matrix is not None:
            peak = float(np.nanmax(np.where(np.isfinite(numbers), numbers, 0.0), initial=0.0))
            scale = min(max(peak, 1.0), MOST_OVER_WHITE) / FULL_SCALE
        rows = max(1, STRIP // width)
        for top in range(0, height, rows):
            strip = numbers[top : top + rows]
            if self.matrix is None:
                out[top : top + rows] = to_linear(self._sixteen_bit(strip), self.profile)
            else:
                out[top : top + rows] = _from_floats(strip, self.matrix, scale)
        return out, scale

    def _sixteen_bit(self, strip: Rows) -> NDArray[np.uint16]:
        if strip.ndim == 3:
            strip = strip[..., 0] if strip.shape[2] < 3 else strip[..., :3]
        if strip.dtype == np.uint8:
            return np.asarray(strip.astype(np.uint16) * np.uint16(257))
        if self.bits < 16:
            top = 2**self.bits - 1
            strip = (np.minimum(strip, top).astype(np.uint32) * 65535 + top // 2) // top
        return np.asarray(strip, np.uint16)


def _from_floats(strip: Rows, matrix: NDArray[np.float64], scale: float) -> NDArray[np.uint16]:
    colours = strip if strip.ndim == 3 else strip[..., None]
    colours = np.repeat(colours[..., :1], 3, axis=2) if colours.shape[2] < 3 else colours[..., :3]
    light = np.nan_to_num(colours.astype(np.float32), nan=0.0, posinf=1e6, neginf=0.0)
    codes = light @ (matrix.T / scale).astype(np.float32)
    return np.clip(np.rint(codes), 0.0, FULL_SCALE).astype(np.uint16)


@contextmanager
def _tiff_page(path: Path) -> Iterator[Any]:
    """The page of a TIFF that is its picture."""
    try:
        with tifffile.TiffFile(path) as tiff:
            yield next((p for p in tiff.pages if not p.is_reduced), tiff.pages[0])
    except BadCapture:
        raise
    except Exception as error:  # tifffile and its codecs raise many kinds for damaged files
        raise BadCapture(damaged("TIFF", error)) from error


def _read_tiff(path: Path) -> Coded:
    with _tiff_page(path) as page:
        profile = page.tags[34675].value if 34675 in page.tags else None
        numbers = page.asarray()
        if page.planarconfig == 2 and numbers.ndim == 3:
            numbers = np.moveaxis(numbers, 0, -1)
        if page.photometric == 0:
            numbers = np.iinfo(numbers.dtype).max - numbers
        if page.photometric == 3:
            numbers = np.ascontiguousarray(np.asarray(page.colormap).T)[numbers]
        bits = page.bitspersample if page.photometric != 3 else 16
    if numbers.ndim not in (2, 3):
        raise BadCapture(
            f"a TIFF whose picture has {numbers.ndim} dimensions; one of rows and columns is taken."
        )
    if numbers.dtype.kind == "f":
        matrix = RGB_TO_BT2020 if profile is None else None
        if matrix is None:
            raise BadCapture(
                "a TIFF of floating-point numbers with a colour profile; leave the profile out "
                "(linear light of BT.709 is taken), or save it with 16 bits."
            )
        return Coded(numbers, matrix=matrix)
    return Coded(numbers, profile, bits)


def _measure_tiff(path: Path) -> float:
    with _tiff_page(path) as page:
        sample = page.dtype.itemsize * page.samplesperpixel if page.dtype else 0
        # what is packed into one segment is there twice while it is unpacked
        reading = sample * (2 if len(page.dataoffsets) <= 1 and page.compression != 1 else 1)
        need = memory_for(page.imagewidth, page.imagelength, max(reading, sample + LIGHT))
        kind = getattr(page.photometric, "name", page.photometric)
        floats = page.dtype in (np.float16, np.float32) and page.photometric in (1, 2)
        whole = page.dtype in (np.uint8, np.uint16) and page.photometric in (0, 1, 2, 6)
        colours = page.photometric == 3 and page.dtype == np.uint8 and page.colormap is not None
        if not (floats or whole or colours) or page.imagedepth > 1:
            raise BadCapture(
                f"a TIFF of {kind} with {page.dtype} samples; RGB or grey is taken, of 8 or 16 "
                "bits or of floating-point numbers."
            )
        return need


def _read_png(path: Path) -> Coded:
    profile, mode = header_of(path, "PNG")
    if mode in ("I", "I;16", "I;16B", "RGB", "RGBA", "L", "LA"):
        try:
            return Coded(np.asarray(imagecodecs.png_decode(path.read_bytes())), profile)
        except (imagecodecs.PngError, ValueError) as error:
            raise BadCapture(damaged("PNG", error)) from error
    return Coded(_with_pillow(path, "PNG"), profile)


def _read_jpeg(path: Path) -> Coded:
    profile, mode = header_of(path, "JPEG")
    if mode not in ("RGB", "L"):
        raise BadCapture(f"a JPEG in {mode}; RGB or grey is taken. Convert it to sRGB first.")
    return Coded(_with_pillow(path, "JPEG"), profile)


def _measure_heif(path: Path) -> float:
    import pi_heif  # only when it is needed: the start waits for nothing that is rare

    try:
        width, height = pi_heif.open_heif(path).size
        return memory_for(width, height, 6 + LIGHT)
    except BadCapture:
        raise
    except Exception as error:  # of libheif and of what it hands over
        raise BadCapture(damaged("HEIF", error)) from error


def _read_heif(path: Path) -> Coded:
    import pi_heif

    try:
        file = pi_heif.open_heif(path, convert_hdr_to_8bit=False)
        if file.mode not in ("RGB", "RGBA", "L", "LA", "RGB;16", "RGBA;16", "L;16", "I;16"):
            raise BadCapture(f"a HEIF of {file.mode}; RGB or grey is taken.")
        nclx = file.info.get("nclx_profile") or {}
        codes = nclx.get("color_primaries", 1), nclx.get("transfer_characteristics", 13)
        profile = file.info.get("icc_profile") or _signalled("HEIF", *codes)
        numbers, bits = np.asarray(file), int(file.info.get("bit_depth", 8))
        if numbers.dtype == np.uint16:  # it gives them in the highest bits
            numbers = numbers >> np.uint16(16 - bits)
        return Coded(numbers, profile, bits, is_upright=True)
    except BadCapture:
        raise
    except Exception as error:  # of libheif and of what it hands over
        raise BadCapture(damaged("HEIF", error)) from error


def _read_avif(path: Path) -> Coded:
    profile, _ = header_of(path, "AVIF")
    data = path.read_bytes()
    at = data.find(b"nclx") + 4
    if profile is None and at >= 4:
        profile = _signalled("AVIF", *struct.unpack_from(">HH", data, at))
    found = data.find(b"av1C")  # AV1 in ISOBMFF: high_bitdepth and twelve_bit of its third byte
    depth = data[found + 6] if found >= 0 else 0
    if not depth & 0x40:
        return Coded(_with_pillow(path, "AVIF"), profile)
    try:
        numbers = np.asarray(imagecodecs.avif_decode(data))
    except (imagecodecs.AvifError, ValueError) as error:
        raise BadCapture(damaged("AVIF", error)) from error
    return Coded(numbers, profile, bits=12 if depth & 0x20 else 10)


def _signalled(kind: str, primaries: int, transfer: int) -> bytes | None:
    """Profile of the colours that a file names by code (ISO 23091-2); None for sRGB's."""
    if transfer in (16, 18):
        curve = "PQ" if transfer == 16 else "HLG"
        raise BadCapture(
            f"a {kind} coded for bright screens ({curve} of BT.2100); save it in sRGB or Display "
            "P3, or as TIFF with 16 bits."
        )
    return coded_colours(primaries, transfer)


def _read_jxl(path: Path) -> Coded:
    try:
        numbers = np.asarray(imagecodecs.jpegxl_decode(path.read_bytes()))
    except (imagecodecs.JpegxlError, ValueError, RuntimeError) as error:
        raise BadCapture(damaged("JPEG XL", error)) from error
    if numbers.ndim not in (2, 3):
        raise BadCapture("a JPEG XL of several pictures; one is taken.")
    if numbers.dtype.kind == "f":
        return Coded(numbers, matrix=RGB_TO_BT2020, is_upright=True)
    return Coded(numbers, is_upright=True)


def _measure_exr(path: Path) -> float:
    import OpenEXR

    try:
        with OpenEXR.File(str(path), header_only=True) as file:
            first, last = file.header()["dataWindow"]
        return memory_for(int(last[0] - first[0]) + 1, int(last[1] - first[1]) + 1, 12 + LIGHT)
    except BadCapture:
        raise
    except Exception as error:  # it raises many kinds for damaged files
        raise BadCapture(damaged("OpenEXR", error)) from error


def _read_exr(path: Path) -> Coded:
    import OpenEXR

    try:
        with OpenEXR.File(str(path)) as file:
            header, channels = file.header(), file.channels()
            found = next((channels[n].pixels for n in ("RGB", "RGBA", "Y") if n in channels), None)
            if found is None:
                raise BadCapture(
                    f"an OpenEXR with the channels {', '.join(channels)}; R, G and B, or Y, are "
                    "taken."
                )
            corners = header.get("chromaticities")
            matrix = RGB_TO_BT2020 if corners is None else primaries_to_bt2020(corners)
            return Coded(np.asarray(found, np.float32), matrix=matrix)
    except BadCapture:
        raise
    except Exception as error:  # it raises many kinds for damaged files
        raise BadCapture(damaged("OpenEXR", error)) from error


def header_of(path: Path, kind: str) -> tuple[bytes | None, str]:
    """Profile and mode of what Pillow reads."""
    profile, mode, _ = _header(path, kind)
    return profile, mode


def _measure_by_pillow(kind: str) -> Callable[[Path], float]:
    def measure(path: Path) -> float:
        _, mode, size = _header(path, kind)
        deep = 8 if mode in ("RGBA", "I", "I;16", "I;16B") else 4
        return memory_for(*size, max(10, deep + LIGHT))

    return measure


def _header(path: Path, kind: str) -> tuple[bytes | None, str, tuple[int, int]]:
    try:
        with warnings.catch_warnings(), Image.open(path) as image:
            warnings.simplefilter("ignore")
            return image.info.get("icc_profile"), image.mode, image.size
    except Exception as error:  # its plug-ins raise many kinds for damaged files
        raise BadCapture(damaged(kind, error)) from error


def _with_pillow(path: Path, kind: str) -> NDArray[np.uint8]:
    try:
        with Image.open(path) as image:
            return np.asarray(image if image.mode in ("RGB", "L") else image.convert("RGB"))
    except Exception as error:  # it raises many kinds for damaged files
        raise BadCapture(damaged(kind, error)) from error


@dataclass(frozen=True)
class Reader:
    """How a kind of file is read; both raise BadCapture."""

    measure: Callable[[Path], float]  # bytes that reading it takes
    read: Callable[[Path], Coded]


READERS: dict[str, Reader] = {
    "tiff": Reader(_measure_tiff, _read_tiff),
    "png": Reader(_measure_by_pillow("PNG"), _read_png),
    "jpeg": Reader(_measure_by_pillow("JPEG"), _read_jpeg),
    "heif": Reader(_measure_heif, _read_heif),
    "avif": Reader(_measure_by_pillow("AVIF"), _read_avif),
    "jxl": Reader(measure_jxl, _read_jxl),
    "exr": Reader(_measure_exr, _read_exr),
}
