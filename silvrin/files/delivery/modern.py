"""JPEG XL (by libjxl) and AVIF (by libavif through Pillow)."""

import struct
from typing import IO

import imagecodecs
from PIL import Image

from .about import exif_block, packet
from .form import Form, Rows, whole

LOSSLESS = 100  # a quality
EFFORT = 5  # of 9: beyond it time grows faster than files shrink
SPEED = 7  # of 10
MODES = {1: "L", 3: "RGB"}


def write_jxl(file: IO[bytes], rows: Rows, form: Form) -> None:
    """In sRGB's colours or greys, which the form says by itself; quality 100 is without loss."""
    lossless = form.output.quality == LOSSLESS
    coded = imagecodecs.jpegxl_encode(
        whole(rows), level=None if lossless else form.output.quality, lossless=lossless,
        effort=EFFORT, usecontainer=True, photometric="GRAY" if form.channels == 1 else "RGB",
    )  # fmt: skip
    file.write(coded)
    for kind, content in (
        (b"Exif", b"\0\0\0\0" + exif_block(form.about)),
        (b"xml ", packet(form.about)),
    ):
        file.write(struct.pack(">I", len(content) + 8) + kind + content)


def write_avif(file: IO[bytes], rows: Rows, form: Form) -> None:
    """Eight bits, with its profile."""
    Image.fromarray(whole(rows), MODES[form.channels]).save(
        file, "AVIF", quality=form.output.quality, speed=SPEED, icc_profile=form.profile,
        subsampling="4:4:4" if form.output.chroma == "full" else "4:2:0",
        exif=exif_block(form.about), xmp=packet(form.about),
    )  # fmt: skip
