"""A finished print as a file: 16-bit TIFF or JPEG, with its profile, whole or not at all."""

import errno
import os
import re
import tempfile
import unicodedata
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from itertools import chain
from pathlib import Path
from typing import IO, Any, Literal

import numpy as np
import simplejpeg
import tifffile
from numpy.typing import NDArray
from PIL import Image

from .. import __version__
from ..core.render import Sitting, layout_for, mounted_strips, strips
from ..errors import DiskFull, SilvrinError
from .profiles import display_p3, print_grey, srgb, to_display_p3

Format = Literal["tiff", "jpeg"]
Space = Literal["srgb", "display-p3"]
SUFFIX: dict[Format, str] = {"tiff": ".tif", "jpeg": ".jpg"}
COLOURED: dict[Space, Callable[[], bytes]] = {"srgb": srgb, "display-p3": display_p3}
JPEG_QUALITY = 95
INCH = 25.4  # mm
MOST_NAME = 200  # bytes of a stem: file systems take 255, and a number and a suffix follow
_NOT_IN_NAMES = re.compile(r'[\\/:*?"<>|\x00-\x1f\x7f]+')
Progress = Callable[[float], None]


def deliver(
    sitting: Sitting,
    target: Path,
    form: Format,
    long_side: int | None = None,
    progress: Progress = lambda share: None,
    wanted: Callable[[], bool] = lambda: True,
    space: Space = "srgb",
) -> tuple[int, int]:
    """Write a print to `target`, mounted as its recipe says, and give its width and height in
    pixels. `long_side` is that of the file; a print without colour is grey in any space.

    The file appears under its name only when it is complete. Raises DiskFull, Dropped when no
    longer wanted, SilvrinError when the folder cannot be written.
    """
    lay, bits = layout_for(sitting, long_side), 16 if form == "tiff" else 8
    width, height = lay.whole.width, lay.whole.height
    if sitting.path.recipe.mount.changes_picture:
        rows = mounted_strips(sitting, long_side, bits, wanted)
    else:
        rows = strips(sitting, (width, height), bits, wanted)
    if space == "display-p3":
        rows = map(to_display_p3, rows)
    counted = _counting(_ahead(rows), height, progress)
    with whole_or_nothing(target) as file:
        if form == "tiff":
            _write_tiff(file, counted, width, height, lay.pitch * INCH, space)
        else:
            _write_jpeg(file, counted, lay.pitch * INCH, space)
    return width, height


@contextmanager
def whole_or_nothing(target: Path) -> Iterator[IO[bytes]]:
    """A file beside `target` that takes its name when all went well, and is removed otherwise."""
    try:
        handle, name = tempfile.mkstemp(prefix=".", suffix=".part", dir=target.parent)
        os.close(handle)
        part = Path(name)
    except OSError as error:
        raise disk_error(error, target) from error
    try:
        with part.open("w+b") as file:
            yield file
            file.flush()
            os.fsync(file.fileno())
        part.chmod(0o644)
        part.replace(target)
    except OSError as error:
        raise disk_error(error, target) from error
    finally:
        part.unlink(missing_ok=True)


def disk_error(error: OSError, target: Path) -> SilvrinError:
    """What an error of the file system means, in words."""
    # numpy gives no number when less was written than it asked for
    if error.errno in (errno.ENOSPC, errno.EDQUOT, errno.EFBIG, None):
        return DiskFull(
            f"{target}: the disk is full; nothing was written. Make room or choose another folder."
        )
    return SilvrinError(f"{target}: cannot be written ({error.strerror or error}).")


def fit_name(text: str) -> str:
    """A text as the stem of a file's name that every file system takes: what they do not allow is
    a dash, and at most 200 bytes of UTF-8 are left, cut between characters, not before an accent.
    """
    plain = unicodedata.normalize("NFC", text.encode("utf-8", "replace").decode())
    plain = _NOT_IN_NAMES.sub("-", plain).strip(" .")
    cut = ""
    while len(plain.encode()) > MOST_NAME or (cut and unicodedata.combining(cut)):
        plain, cut = plain[:-1], plain[-1]
    return plain.strip(" .") or "print"


def free_name(folder: Path, stem: str, form: Format) -> Path:
    """A name in a folder that no file has yet."""
    target = folder / f"{stem}{SUFFIX[form]}"
    number = 2
    while target.exists():
        target = folder / f"{stem} {number}{SUFFIX[form]}"
        number += 1
    return target


def _ahead(rows: Iterator[NDArray[Any]]) -> Iterator[NDArray[Any]]:
    """The same strips, each printed while the one before it is written."""
    with ThreadPoolExecutor(1, thread_name_prefix="strips") as printing:
        coming = printing.submit(next, rows, None)
        while (strip := coming.result()) is not None:
            coming = printing.submit(next, rows, None)
            yield strip


def _counting(
    rows: Iterator[NDArray[Any]], height: int, progress: Progress
) -> Iterator[NDArray[Any]]:
    done = 0
    for strip in rows:
        yield strip
        done += len(strip)
        progress(done / height)


def _write_tiff(
    file: IO[bytes],
    rows: Iterator[NDArray[Any]],
    width: int,
    height: int,
    ppi: float,
    space: Space,
) -> None:
    """Strip by strip: memory does not grow with the picture."""
    first = next(rows)
    tifffile.imwrite(
        file,
        chain((first,), rows),
        shape=(height, width, *first.shape[2:]),
        dtype=np.uint16,
        photometric="minisblack" if first.ndim == 2 else "rgb",
        rowsperstrip=len(first),
        iccprofile=print_grey() if first.ndim == 2 else COLOURED[space](),
        software=f"Silvrin {__version__}",
        metadata=None,
        resolution=(ppi, ppi),
        resolutionunit="INCH",
    )


def _write_jpeg(file: IO[bytes], rows: Iterator[NDArray[Any]], ppi: float, space: Space) -> None:
    picture = np.concatenate(list(rows))
    grey = picture.ndim == 2
    Image.fromarray(picture).save(
        file,
        "JPEG",
        quality=JPEG_QUALITY,
        icc_profile=print_grey() if grey else COLOURED[space](),
        optimize=False,
        dpi=(round(ppi), round(ppi)),
        subsampling="4:4:4",
    )


def thumbnail(numbers: NDArray[np.uint8]) -> bytes:
    """A small JPEG of grey (H, W) or colour (H, W, 3) for the contact sheet."""
    if numbers.ndim == 2:
        return bytes(simplejpeg.encode_jpeg(numbers[..., None], 90, "GRAY"))
    return bytes(simplejpeg.encode_jpeg(np.ascontiguousarray(numbers), 90, "RGB", "444"))


def half_as_large(jpeg: bytes) -> bytes:
    """A thumbnail at half its size."""
    height, width, colours, _ = simplejpeg.decode_jpeg_header(jpeg)
    numbers = simplejpeg.decode_jpeg(
        jpeg, "GRAY" if colours == "Gray" else "RGB", min_height=(height + 1) // 2,
        min_width=(width + 1) // 2, min_factor=1,
    )  # fmt: skip
    return thumbnail(np.asarray(numbers[..., 0] if colours == "Gray" else numbers))
