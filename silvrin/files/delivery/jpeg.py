"""JPEG, with Exif, a small picture and XMP; a packet that one segment does not hold goes on in
others (ISO 16684-3, from memory)."""

import io
import struct
from hashlib import md5
from typing import IO

from PIL import Image

from .about import EXTENDED, exif_block, extension, packet
from .form import Form, Rows, whole

MOST = 65_400  # bytes of a segment
XMP = b"http://ns.adobe.com/xap/1.0/\0"
MOST_SIDE = 65_500  # pixels


def write_jpeg(file: IO[bytes], rows: Rows, form: Form) -> None:
    """By libjpeg-turbo; four channels are CMYK."""
    picture = Image.fromarray(whole(rows), {1: "L", 3: "RGB", 4: "CMYK"}[form.channels])
    coded = io.BytesIO()
    picture.save(
        coded, "JPEG", quality=form.output.quality, optimize=False,
        subsampling="4:4:4" if form.output.chroma == "full" else "4:2:0",
        icc_profile=form.profile, dpi=(round(form.ppi), round(form.ppi)),
        exif=b"Exif\0\0" + exif_block(form.about, form.small()),
    )  # fmt: skip
    content = coded.getbuffer()
    head = _after_heads(content)
    file.write(content[:head])
    for segment in _xmp(form):
        file.write(b"\xff\xe1" + struct.pack(">H", len(segment) + 2) + segment)
    file.write(content[head:])


def _after_heads(content: memoryview) -> int:
    """Where the segments of application data 0 and 1 end."""
    at = 2
    while bytes(content[at : at + 2]) in (b"\xff\xe0", b"\xff\xe1"):
        at += 2 + int(struct.unpack(">H", content[at + 2 : at + 4])[0])
    return at


def _xmp(form: Form) -> list[bytes]:
    plain = packet(form.about)
    if len(plain) <= MOST:
        return [XMP + plain]
    more = extension(form.about)
    name = md5(more, usedforsecurity=False).hexdigest().upper()
    segments = [XMP + packet(form.about, name)]
    for start in range(0, len(more), MOST):
        part = more[start : start + MOST]
        segments.append(EXTENDED + name.encode() + struct.pack(">II", len(more), start) + part)
    return segments
