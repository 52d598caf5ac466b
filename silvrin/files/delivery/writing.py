"""Which writer makes which form of file."""

from collections.abc import Callable
from typing import IO

from .exr import write_exr
from .form import Form, Rows
from .jpeg import write_jpeg
from .modern import write_avif, write_jxl
from .output import Format
from .pages import write_pdf
from .png import write_png
from .tiff import write_tiff

WRITERS: dict[Format, Callable[[IO[bytes], Rows, Form], None]] = {
    "tiff": write_tiff, "png": write_png, "jpeg": write_jpeg, "jxl": write_jxl,
    "avif": write_avif, "pdf": write_pdf, "exr": write_exr,
}  # fmt: skip
