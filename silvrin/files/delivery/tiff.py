"""TIFF: strip by strip, or in tiles with smaller pictures beside it."""

import io
import struct
from collections.abc import Iterator
from itertools import chain
from typing import IO, Any

import cv2
import imagecodecs
import numpy as np
import tifffile
from PIL import Image

from .about import SOFTWARE, About, baseline_tags, directory, exif_tags, gps_tags, packet
from .form import Form, Numbers, Rows, whole

XMP, EXIF, GPS = 700, 34665, 34853  # tags
STANDING = 1  # how much lower the tags are that stand for the last two, which tifffile leaves out
ASCII, BYTE, LONG = 2, 1, 4  # types of values
TILE = 256
ROWS, LEVEL = 128, 5  # packed together; of deflate
SMALLEST = 512  # long side of the smallest picture of a pyramid, and of one with a small one inside
CLASSIC = 2**32 - 2**25  # bytes that a file of 32-bit offsets holds
PHOTOMETRIC = {1: "minisblack", 3: "rgb", 4: "separated"}


def write_tiff(file: IO[bytes], rows: Rows, form: Form) -> None:
    """Memory does not grow with the picture, unless it is a pyramid."""
    first = next(rows)
    strips = chain((first,), rows)
    shape = (form.height, form.width, *first.shape[2:])
    large = int(np.prod(shape)) * first.itemsize > CLASSIC
    with tifffile.TiffWriter(file, bigtiff=large, byteorder="<") as out:
        common = {**_common(form), "extratags": _tags(form.about, large)}
        if form.output.pyramid:
            levels = _levels(whole(strips))
            out.write(levels[0], tile=(TILE, TILE), subifds=len(levels) - 1, **common)
            for level in levels[1:]:
                out.write(level, tile=(TILE, TILE), subfiletype=1, **_common(form))
        elif form.output.compression == "deflate":
            packed, like = _packed(strips), {"shape": shape, "dtype": first.dtype}
            out.write(packed, rowsperstrip=ROWS, **like, **common)
        else:
            out.write(strips, shape=shape, dtype=first.dtype, rowsperstrip=len(first), **common)
        if max(form.width, form.height) > SMALLEST and (small := form.small()):
            preview = np.asarray(Image.open(io.BytesIO(small)))
            out.write(
                preview, subfiletype=1, metadata=None, software=False,
                photometric=PHOTOMETRIC[1 if preview.ndim == 2 else 3],
            )  # fmt: skip
    if not large:
        _add_directories(file, form.about)


def _packed(strips: Rows) -> Iterator[bytes]:
    """Strips of as many rows as are packed together, each packed: tifffile does that for whole
    pictures only."""
    held: list[Numbers] = []
    for strip in strips:
        held.append(strip)
        whole_rows = sum(map(len, held)) // ROWS * ROWS
        if whole_rows:
            found = np.concatenate(held)
            held = [found[whole_rows:]]
            for row in range(0, whole_rows, ROWS):
                yield _deflated(found[row : row + ROWS])
    if rest := [strip for strip in held if len(strip)]:
        yield _deflated(np.concatenate(rest))


def _deflated(rows: Numbers) -> bytes:
    """Differences of neighbours (predictor 2), packed."""
    steps = imagecodecs.delta_encode(np.ascontiguousarray(rows), axis=1)
    return bytes(imagecodecs.deflate_encode(steps.tobytes(), level=LEVEL))


def _common(form: Form) -> dict[str, Any]:
    packed = form.output.compression == "deflate"
    return {
        "photometric": PHOTOMETRIC[form.channels],
        "compression": "deflate" if packed else None,
        "predictor": packed,
        "iccprofile": form.profile,
        "software": SOFTWARE,
        "metadata": None,
        "resolution": (form.ppi, form.ppi),
        "resolutionunit": "INCH",
    }


def _tags(about: About, large: bool) -> list[tuple[int, int, int, Any, bool]]:
    texts = [(tag, ASCII, 0, text.encode(), True) for tag, text in baseline_tags(about).items()]
    xmp = packet(about)
    later = [] if large else [tag for tag, found in _inner(about).items() if found]
    standing = [(tag - STANDING, LONG, 1, 0, True) for tag in later]
    return [*texts, (XMP, BYTE, len(xmp), xmp, True), *standing]


def _inner(about: About) -> dict[int, dict[int, Any]]:
    return {EXIF: exif_tags(about), GPS: gps_tags(about)}


def _add_directories(file: IO[bytes], about: About) -> None:
    """Put directories of tags, for which the first one left room, at the end of a file."""
    file.seek(0)
    with tifffile.TiffFile(file) as written:
        tags = written.pages.first.tags
        places = {t: tags[t - STANDING].offset for t in (EXIF, GPS) if t - STANDING in tags}
    for tag, place in places.items():
        end = file.seek(0, io.SEEK_END)
        end += file.write(b"\0" * (end % 2))
        file.write(directory(_inner(about)[tag]).tobytes(end))
        file.seek(place)
        file.write(struct.pack("<HHII", tag, LONG, 1, end))
    file.seek(0, io.SEEK_END)


def _levels(picture: Numbers) -> list[Numbers]:
    levels = [picture]
    while max(levels[-1].shape[:2]) > SMALLEST:
        height, width = levels[-1].shape[:2]
        size = (width + 1) // 2, (height + 1) // 2
        levels.append(cv2.resize(levels[-1], size, interpolation=cv2.INTER_AREA))
    return levels
