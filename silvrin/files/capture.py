"""A file becomes linear light: camera raw and DNG, TIFF, PNG and JPEG."""

import warnings
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import cv2
import imagecodecs
import numpy as np
import rawpy
import tifffile
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from ..core.capture.highlights import working_light
from ..core.capture.white_balance import temperature_of
from ..core.picture import CLIPPED, LinearPicture
from ..errors import BadCapture, NotAnImage
from .metadata import Metadata, read_metadata
from .profiles import to_linear

LEAST_SIDE = 16
MOST_SIDE = 65_000
MOST_PIXELS = 300_000_000

Image.MAX_IMAGE_PIXELS = None  # sizes are checked here, by the header, before anything is decoded
FULL_SCALE = 65535.0
QUICK_SIDE = 2400  # long side that serves a quick look

SRGB_TO_XYZ = np.array(  # IEC 61966-2-1
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750],
     [0.0193339, 0.1191920, 0.9503041]]
)  # fmt: skip
SRGB_TO_BT2020 = np.array(  # ITU-R BT.2087
    [[0.627452, 0.329249, 0.043299], [0.069109, 0.919531, 0.011360], [0.016398, 0.088030, 0.895572]]
)
Limits = tuple[float, float, float]
KINDS = "camera raw, DNG, TIFF (8 or 16 bit), PNG or JPEG"


@dataclass(frozen=True)
class Developed:
    """A capture's linear light, (H, W, 3) uint16 in BT.2020; linear value = code * scale. `limits`
    are the codes from which red, green and blue are clipped."""

    light: NDArray[np.uint16]
    scale: float
    kind: str
    metadata: Metadata
    limits: Limits = (CLIPPED, CLIPPED, CLIPPED)

    def picture(self, pyramid: bool = True) -> LinearPicture:
        """To look at with its pyramid, or to be printed at full size alone."""
        if pyramid:
            picture = LinearPicture.with_pyramid(self.light, self.scale)
        else:
            picture = LinearPicture([self.light], self.scale)
        picture.limits = self.limits
        return picture


def read_capture(path: Path, name: str | None = None) -> Developed:
    """Linear light of an image file, upright. Raises BadCapture naming the file and the reason."""
    with reading(path, name or path.name):
        kind = sniff(path)
        metadata = read_metadata(path)
        if kind == "raw":
            raw = decode_raw(path)
            scale = raw_scale(metadata) * raw.scale
            return Developed(raw.light, scale, kind, metadata, raw.limits)
        light = upright(_READERS[kind](path), metadata.orientation)
        return Developed(np.ascontiguousarray(light), 1.0 / FULL_SCALE, kind, metadata)


@contextmanager
def reading(path: Path, name: str) -> Iterator[None]:
    """What goes wrong while a file is read becomes BadCapture naming it, also when it changes."""
    try:
        before = path.stat()
        yield
        after = path.stat()
        if (before.st_size, before.st_mtime_ns) != (after.st_size, after.st_mtime_ns):
            raise BadCapture("it changed while it was read; wait until it is complete.")
    except OSError as error:
        raise BadCapture(f"{name}: cannot be read ({error.strerror or error}).") from error
    except BadCapture as error:
        if str(error).startswith(f"{name}: "):
            raise
        raise type(error)(f"{name}: {error}") from error
    except MemoryError as error:
        raise BadCapture(f"{name}: there is not enough memory to open it.") from error


def raw_scale(metadata: Metadata) -> float:
    """Linear value of full scale of a camera raw, as its maker asks for it."""
    return float(2.0 ** max(-3.0, min(3.0, metadata.baseline_exposure)))


def sniff(path: Path) -> str:
    """What a file is by its first bytes: raw, tiff, png or jpeg; raises BadCapture for none."""
    with path.open("rb") as file:
        head = file.read(16)
    if not head:
        raise BadCapture("the file is empty (0 bytes); copy it from the card again.")
    if head.startswith(b"\xff\xd8\xff"):
        return "jpeg"
    if head.startswith(b"\x89PNG\r\n\x1a\n"):
        return "png"
    if head[:4] in (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"):
        return "raw" if _is_raw_tiff(path) else "tiff"
    try:
        with rawpy.imread(str(path)):
            return "raw"
    except rawpy.LibRawError as error:
        raise NotAnImage(f"this is not an image Silvrin can read; it takes {KINDS}.") from error


def _is_raw_tiff(path: Path) -> bool:
    """Camera raws are mostly TIFFs with a mosaic inside, in a page or below one."""
    try:
        with tifffile.TiffFile(path) as tiff:
            first = tiff.pages[0]
            return 50706 in first.tags or 330 in first.tags or first.photometric == 32803
    except Exception as error:
        raise BadCapture(_damaged("TIFF", error)) from error


def check_size(width: int, height: int) -> None:
    """Raises BadCapture for a picture too small or too large to work on."""
    given = f"the picture is {width} x {height} pixels"
    if min(width, height) < LEAST_SIDE:
        raise BadCapture(f"{given}; at least {LEAST_SIDE} x {LEAST_SIDE} are needed.")
    if max(width, height) > MOST_SIDE or width * height > MOST_PIXELS:
        raise BadCapture(
            f"{given}; at most {MOST_PIXELS // 1_000_000} million pixels and "
            f"{MOST_SIDE} on a side are taken. Reduce it first."
        )


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


def decode_raw(path: Path, half: bool = False) -> Raw:
    """Develop a camera raw; at `half` its size or less, for a quick look, by joining the four cells
    of its mosaic. Highlights are recovered from unclipped channels.

    Raises BadCapture for a damaged file or a picture of no usable size.
    """
    _check_complete(path)
    try:
        with rawpy.imread(str(path)) as raw:
            check_size(raw.sizes.width, raw.sizes.height)
            size = raw.sizes.width, raw.sizes.height
            if raw.sizes.flip in (5, 6):
                size = size[1], size[0]
            balance = _as_shot(raw)
            matrix = _to_working(raw)
            temperature = _temperature(raw, balance, matrix)
            light = demosaic(raw, half, balance)
    except rawpy.LibRawError as error:
        reason = error.args[0] if error.args else error
        reason = reason.decode("ascii", "replace") if isinstance(reason, bytes) else reason
        raise BadCapture(_damaged("camera raw", reason)) from error
    if not half:
        size = light.shape[1], light.shape[0]
    elif max(light.shape[:2]) > QUICK_SIDE:
        smaller = light.shape[1] // 2, light.shape[0] // 2
        light = np.asarray(cv2.resize(light, smaller, interpolation=cv2.INTER_AREA), np.uint16)
    least, most = min(balance), max(balance)
    limits = [FULL_SCALE * of / most for of in balance]
    light = working_light(light, matrix, tuple(limits))
    red, green, blue = (min(CLIPPED, 0.985 * limit) for limit in limits)
    return Raw(light, most / least / FULL_SCALE, (red, green, blue), *size, temperature)


def demosaic(raw: Any, half: bool, balance: tuple[float, float, float]) -> NDArray[np.uint16]:
    """LibRaw's part: the camera's own channels, white-balanced, linear, none clipped by that."""
    return np.ascontiguousarray(
        raw.postprocess(
            half_size=half,
            user_wb=[*balance, balance[1]],
            highlight_mode=rawpy.HighlightMode.Ignore,
            output_color=rawpy.ColorSpace.raw,
            output_bps=16,
            gamma=(1, 1),
            no_auto_bright=True,
            adjust_maximum_thr=0.0,
        )
    )


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
        return np.asarray(SRGB_TO_BT2020 @ given)
    of_xyz = np.array(raw.rgb_xyz_matrix, np.float64)[:3]
    if not of_xyz.any():
        return np.eye(3)
    camera = of_xyz @ SRGB_TO_XYZ
    camera /= camera.sum(axis=1, keepdims=True)
    return np.asarray(SRGB_TO_BT2020 @ np.linalg.inv(camera))


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
        raise BadCapture(_damaged("camera raw", f"{size} of {max(ends)} bytes are there"))


def _read_tiff(path: Path) -> NDArray[np.uint16]:
    try:
        with tifffile.TiffFile(path) as tiff:
            page = tiff.pages[0]
            check_size(page.imagewidth, page.imagelength)
            if page.photometric not in (0, 1, 2, 6) or page.dtype not in (np.uint8, np.uint16):
                kind = getattr(page.photometric, "name", page.photometric)
                raise BadCapture(
                    f"a TIFF of {kind} with {page.dtype} samples; 8 or 16 bit RGB or grey is taken."
                )
            profile = page.tags[34675].value if 34675 in page.tags else None
            codes = page.asarray()
            if page.planarconfig == 2 and codes.ndim == 3:
                codes = np.moveaxis(codes, 0, -1)
            if page.photometric == 0:
                codes = np.iinfo(codes.dtype).max - codes
    except BadCapture:
        raise
    except Exception as error:  # tifffile and its codecs raise many kinds for damaged files
        raise BadCapture(_damaged("TIFF", error)) from error
    return to_linear(as_sixteen_bit(codes), profile)


def _read_png(path: Path) -> NDArray[np.uint16]:
    profile, mode = header_of(path)
    if mode in ("I", "I;16", "I;16B", "RGB", "RGBA", "L", "LA"):
        try:
            codes = np.asarray(imagecodecs.png_decode(path.read_bytes()))
        except (imagecodecs.PngError, ValueError) as error:
            raise BadCapture(_damaged("PNG", error)) from error
    else:
        codes = _with_pillow(path, "PNG")
    return to_linear(as_sixteen_bit(codes), profile)


def _read_jpeg(path: Path) -> NDArray[np.uint16]:
    profile, mode = header_of(path)
    if mode not in ("RGB", "L"):
        raise BadCapture(f"a JPEG in {mode}; RGB or grey is taken. Convert it to sRGB first.")
    return to_linear(as_sixteen_bit(_with_pillow(path, "JPEG")), profile)


_READERS: dict[str, Callable[[Path], NDArray[np.uint16]]] = {
    "tiff": _read_tiff,
    "png": _read_png,
    "jpeg": _read_jpeg,
}


def header_of(path: Path) -> tuple[bytes | None, str]:
    """Profile and mode; the size is checked."""
    try:
        with warnings.catch_warnings(), Image.open(path) as image:
            warnings.simplefilter("ignore")
            check_size(*image.size)
            return image.info.get("icc_profile"), image.mode
    except (OSError, SyntaxError, ValueError, UnidentifiedImageError) as error:
        raise BadCapture(_damaged("picture", error)) from error


def _with_pillow(path: Path, kind: str) -> NDArray[np.uint8]:
    try:
        with Image.open(path) as image:
            return np.asarray(image if image.mode in ("RGB", "L") else image.convert("RGB"))
    except (OSError, SyntaxError, ValueError) as error:
        raise BadCapture(_damaged(kind, error)) from error


def as_sixteen_bit(codes: NDArray[Any]) -> NDArray[np.uint16]:
    """Grey (H, W) or RGB (H, W, 3) in 16 bit; further channels (alpha) are left out."""
    if codes.ndim == 3:
        codes = codes[..., 0] if codes.shape[2] < 3 else codes[..., :3]
    if codes.dtype == np.uint8:
        return codes.astype(np.uint16) * np.uint16(257)
    return codes.astype(np.uint16, copy=False)


def upright(light: NDArray[Any], orientation: int) -> NDArray[Any]:
    """Turned as its Exif orientation asks."""
    if orientation in (2, 4, 5, 7):
        light = light[:, ::-1]
    turns = {3: 2, 4: 2, 5: 1, 6: 3, 7: 3, 8: 1}.get(orientation, 0)
    return np.rot90(light, turns)


def _damaged(kind: str, reason: object) -> str:
    text = " ".join(str(reason).split())[:120].rstrip(".")
    return f"the {kind} file is damaged or incomplete ({text}); copy it from the card again."
