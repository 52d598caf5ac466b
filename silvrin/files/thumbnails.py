"""Small JPEGs of prints."""

import numpy as np
import simplejpeg
from numpy.typing import NDArray


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
