"""ICC profiles, made and applied by LittleCMS."""

from functools import lru_cache

import imagecodecs
import numpy as np
from numpy.typing import NDArray

from ..core.colour import decode_srgb
from ..errors import BadCapture

RELATIVE_COLORIMETRIC = 1


@lru_cache(maxsize=1)
def linear_bt2020() -> bytes:
    """Profile of a capture: BT.2020 primaries, D65, linear. Source: ITU-R BT.2020."""
    primaries = [0.708, 0.292, 1.0, 0.170, 0.797, 1.0, 0.131, 0.046, 1.0]
    white = [0.3127, 0.3290, 1.0]
    return bytes(imagecodecs.cms_profile("rgb", whitepoint=white, primaries=primaries, gamma=1.0))


@lru_cache(maxsize=1)
def srgb() -> bytes:
    """Profile assumed where a file carries none. Source: IEC 61966-2-1."""
    return bytes(imagecodecs.cms_profile("srgb"))


@lru_cache(maxsize=1)
def print_grey() -> bytes:
    """Profile of a neutral print: one channel with the sRGB tone curve."""
    v = np.linspace(0.0, 1.0, 4096)
    curve = np.rint(decode_srgb(v) * 65535).astype(np.uint16)
    white = [0.3457, 0.3585, 1.0]
    return bytes(imagecodecs.cms_profile("gray", whitepoint=white, transferfunction=curve))


def to_linear(codes: NDArray[np.uint16], profile: bytes | None) -> NDArray[np.uint16]:
    """16-bit RGB or grey in its profile's encoding to linear BT.2020, (H, W, 3) uint16."""
    grey = codes.ndim == 2
    if profile is None and grey:
        profile = print_grey()
    try:
        out = imagecodecs.cms_transform(
            np.ascontiguousarray(codes),
            profile or srgb(),
            linear_bt2020(),
            colorspace="gray" if grey else "rgb",
            outcolorspace="rgb",
            outdtype="uint16",
            intent=RELATIVE_COLORIMETRIC,
        )
    except (RuntimeError, ValueError) as error:
        raise BadCapture(
            f"its colour profile cannot be used for {'grey' if grey else 'RGB'} ({error}); "
            "convert the file to sRGB and take it in again."
        ) from error
    return np.asarray(out, dtype=np.uint16)
