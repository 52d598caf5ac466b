"""PNG (third edition, W3C): coded by libpng, with its other chunks put beside the picture."""

import struct
import zlib
from typing import IO

import imagecodecs

from .about import exif_block, packet
from .form import Form, Rows, whole

INCH = 0.0254  # m
LEVEL = 4  # of zlib: beyond it time grows faster than files shrink
HEAD = 33  # bytes of the signature and the first chunk
XMP_KEY = b"XML:com.adobe.xmp"


def write_png(file: IO[bytes], rows: Rows, form: Form) -> None:
    """Without loss, 8 or 16 bits."""
    coded = imagecodecs.png_encode(whole(rows), level=LEVEL)
    metre = round(form.ppi / INCH)
    file.write(coded[:HEAD])
    for kind, content in (
        (b"iCCP", b"Print\0\0" + zlib.compress(form.profile, 9)),
        (b"pHYs", struct.pack(">IIB", metre, metre, 1)),
        (b"eXIf", exif_block(form.about)),
        (b"iTXt", XMP_KEY + b"\0\0\0\0\0" + packet(form.about)),
    ):
        file.write(_chunk(kind, content))
    file.write(memoryview(coded)[HEAD:])


def _chunk(kind: bytes, content: bytes) -> bytes:
    whole_kind = kind + content
    return struct.pack(">I", len(content)) + whole_kind + struct.pack(">I", zlib.crc32(whole_kind))
