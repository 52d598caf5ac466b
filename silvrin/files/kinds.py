"""What a file is, by its first bytes, and whether its picture can be worked on."""

import logging
from pathlib import Path

import rawpy
import tifffile

from ..errors import BadCapture, NotAnImage

logging.getLogger("tifffile").setLevel(logging.CRITICAL)  # what it says, we say ourselves
LEAST_SIDE = 16
MOST_SIDE = 65_000
MOST_PIXELS = 151_000_000  # what the largest cameras give
MEMORY = 2.1e9  # bytes that files may take while they are read, one or two at once

KINDS = "camera raw, DNG, TIFF, PNG, JPEG, HEIF, AVIF, JPEG XL or OpenEXR"
_HEIF = {b"heic", b"heix", b"heim", b"heis", b"hevc", b"hevx", b"mif1", b"msf1"}
_AVIF = {b"avif", b"avis"}
_MOSAIC, _LINEAR_RAW = 32803, 34892  # PhotometricInterpretation: TIFF/EP (ISO 12234-2), DNG


def sniff(path: Path) -> str:
    """What a file is by its first bytes: raw, tiff, png, jpeg, heif, avif, jxl or exr; raises
    BadCapture for an empty or damaged one, NotAnImage for anything else."""
    check_file(path)
    with path.open("rb") as file:
        head = file.read(32)
    if not head:
        raise BadCapture("the file is empty (0 bytes); copy it from the card again.")
    if head.startswith(b"\xff\xd8\xff"):
        return "jpeg"
    if head.startswith(b"\x89PNG\r\n\x1a\n"):
        return "png"
    if head.startswith(b"\x76\x2f\x31\x01"):
        return "exr"
    if head.startswith((b"\xff\x0a", b"\0\0\0\x0cJXL \r\n\x87\n")):
        return "jxl"
    if head[4:8] == b"ftyp" and (brand := _brand(head)):
        return brand
    if head[:4] in (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"):
        return "raw" if head[8:10] == b"CR" or _is_raw_tiff(path) else "tiff"
    if _libraw_takes(path):
        return "raw"
    raise NotAnImage(f"this is not an image Silvrin can read; it takes {KINDS}.")


def is_rendered(path: Path, kind: str) -> bool:
    """Whether a file of a kind holds what a camera made of the light for a screen, its tone curve
    laid on: JPEG, HEIF and the like, PNG and TIFF of eight bits a channel."""
    try:
        if kind == "png":
            with path.open("rb") as file:
                return file.read(25)[24] <= 8  # bit depth, in IHDR (ISO 15948)
        if kind == "tiff":
            with tifffile.TiffFile(path) as tiff:
                return bool(tiff.pages[0].dtype == "uint8")
    except Exception as error:  # tifffile raises many kinds
        logging.getLogger(__name__).warning("%s: its depth cannot be told (%s)", path.name, error)
        return False
    return kind in ("jpeg", "heif", "avif", "jxl")


def check_file(path: Path) -> None:
    """Raises NotAnImage for what is no ordinary file, without waiting for it to say something."""
    if path.exists() and not path.is_file():
        raise NotAnImage("this is no file but a pipe, a device or a folder; it was left alone.")


def _brand(head: bytes) -> str | None:
    """HEIF or AVIF by the brands at its start (ISO 14496-12); None for others, as some raws."""
    brands = {head[8:12], *(head[at : at + 4] for at in range(16, 32, 4))}
    if brands & _AVIF:
        return "avif"
    return "heif" if brands & _HEIF else None


def _is_raw_tiff(path: Path) -> bool:
    """Camera raws are mostly TIFFs with a mosaic inside, in a page or below one."""
    try:
        with tifffile.TiffFile(path) as tiff:
            pages = [page for top in tiff.pages for page in (top, *(top.pages or ()))]
            if any(50706 in p.tags or p.photometric in (_MOSAIC, _LINEAR_RAW) for p in pages):
                return True
            below = [page for top in tiff.pages for page in (top.pages or ())]
            if all(page.is_reduced for page in below):
                return False
    except Exception as error:  # tifffile raises many kinds for damaged files
        raise BadCapture(damaged("TIFF", error)) from error
    return _libraw_takes(path)


def _libraw_takes(path: Path) -> bool:
    try:
        with rawpy.imread(str(path)):
            return True
    except rawpy.LibRawError:
        return False


def memory_for(width: int, height: int, bytes_a_pixel: float) -> float:
    """Bytes that reading a picture takes. Raises BadCapture for one too small or too large to work
    on: by its sides, or by that."""
    given = f"the picture is {width} x {height} pixels"
    if min(width, height) < LEAST_SIDE:
        raise BadCapture(f"{given}; at least {LEAST_SIDE} x {LEAST_SIDE} are needed.")
    if max(width, height) > MOST_SIDE or width * height > MOST_PIXELS:
        raise BadCapture(
            f"{given}; at most {MOST_PIXELS // 1_000_000} million pixels and {MOST_SIDE} on a side "
            "are taken. Reduce it first."
        )
    need = width * height * bytes_a_pixel
    if need > MEMORY:
        raise BadCapture(
            f"{given} and would take {need / 1e9:.1f} GB of memory to be read; at most "
            f"{MEMORY / 1e9:.1f} GB are used for one file. Save it with 16 bits a channel and "
            "without further channels, or reduce it."
        )
    return need


def damaged(kind: str, reason: object) -> str:
    """What is said of a file that cannot be decoded."""
    text = " ".join(str(reason).split())[:120].rstrip(".")
    return f"the {kind} file is damaged or incomplete ({text}); copy it from the card again."
