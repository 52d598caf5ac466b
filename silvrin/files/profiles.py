"""ICC profiles, made and applied by LittleCMS."""

import struct
from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import cv2
import imagecodecs
import numpy as np
from numpy.typing import NDArray

from ..core.colour import decode_srgb, encode_srgb
from ..errors import BadCapture

RELATIVE_COLORIMETRIC = 1

SRGB_TO_XYZ = np.array(  # IEC 61966-2-1
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750],
     [0.0193339, 0.1191920, 0.9503041]]
)  # fmt: skip
_PRIMARIES = {  # x and y of red, green and blue
    1: ((0.640, 0.330), (0.300, 0.600), (0.150, 0.060)),  # BT.709
    9: ((0.708, 0.292), (0.170, 0.797), (0.131, 0.046)),  # BT.2020
    12: ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060)),  # SMPTE EG 432-1, with D65
}
# Linear sRGB to Display P3, both D65: from the primaries
SRGB_TO_P3 = np.array(
    [[0.8224621, 0.1775380, 0.0], [0.0331941, 0.9668058, 0.0], [0.0170827, 0.0723974, 0.9105199]],
    np.float32,
)
ENCODING = encode_srgb(np.linspace(0.0, 1.0, 8193) ** 2).astype(np.float32)  # over roots of light
RGB_TO_BT2020 = np.array(  # of BT.709, whose primaries are sRGB's: ITU-R BT.2087
    [[0.627452, 0.329249, 0.043299], [0.069109, 0.919531, 0.011360], [0.016398, 0.088030, 0.895572]]
)  # fmt: skip


def _made(profile: bytes) -> bytes:
    """A profile without the moment at which it was made: the same print is the same file, to the
    bit. Bytes 24 to 35 of its header are a date (ICC.1:2022, from memory)."""
    return bytes(profile[:24]) + struct.pack(">6H", 2026, 1, 1, 0, 0, 0) + bytes(profile[36:])


@lru_cache(maxsize=1)
def linear_bt2020() -> bytes:
    """Profile of a capture: BT.2020 primaries, D65, linear. Source: ITU-R BT.2020."""
    primaries = [0.708, 0.292, 1.0, 0.170, 0.797, 1.0, 0.131, 0.046, 1.0]
    white = [0.3127, 0.3290, 1.0]
    return _made(imagecodecs.cms_profile("rgb", whitepoint=white, primaries=primaries, gamma=1.0))


@lru_cache(maxsize=1)
def srgb() -> bytes:
    """Profile assumed where a file carries none. Source: IEC 61966-2-1."""
    return _made(imagecodecs.cms_profile("srgb"))


def to_display_p3(numbers: NDArray[Any]) -> NDArray[Any]:
    """Output numbers of sRGB (H, W, 3), uint8 or uint16, as those of Display P3; greys stay."""
    if numbers.ndim == 2:
        return numbers
    top = np.iinfo(numbers.dtype).max
    light = decode_srgb(np.linspace(0.0, 1.0, top + 1)).astype(np.float32)[numbers]
    found = np.clip(cv2.transform(light, SRGB_TO_P3), 0.0, 1.0)
    steps = np.sqrt(found) * np.float32(len(ENCODING) - 1)  # the root's steps are even to the eye
    low = np.minimum(steps.astype(np.int32), len(ENCODING) - 2)
    shown = ENCODING[low] + (steps - low) * (ENCODING[low + 1] - ENCODING[low])
    return np.asarray(shown * np.float32(top) + np.float32(0.5), numbers.dtype)


@lru_cache(maxsize=1)
def print_grey() -> bytes:
    """Profile of a neutral print: one channel with the sRGB tone curve."""
    v = np.linspace(0.0, 1.0, 4096)
    curve = np.rint(decode_srgb(v) * 65535).astype(np.uint16)
    white = [0.3457, 0.3585, 1.0]
    return _made(imagecodecs.cms_profile("gray", whitepoint=white, transferfunction=curve))


@lru_cache(maxsize=16)
def coded_colours(primaries: int, transfer: int) -> bytes | None:
    """Profile of colours named by the codes of ISO 23091-2 (from memory); None for sRGB's and for
    codes that are not known here."""
    if primaries not in _PRIMARIES or (primaries, transfer) == (1, 13):
        return None
    v = np.linspace(0.0, 1.0, 4096)
    if transfer == 8:
        linear = v
    elif transfer in (1, 6, 14, 15):  # BT.709, BT.601, BT.2020
        linear = np.where(v < 0.081, v / 4.5, ((v + 0.099) / 1.099) ** (1 / 0.45))
    else:
        linear = decode_srgb(v)
    corners = [c for x, y in _PRIMARIES[primaries] for c in (x, y, 1.0)]
    curve = np.rint(linear * 65535).astype(np.uint16)
    return _made(
        imagecodecs.cms_profile(
            "rgb", whitepoint=[0.3127, 0.3290, 1.0], primaries=corners, transferfunction=curve
        )
    )


def display_p3() -> bytes:
    """Profile of screens with wider colours: primaries of SMPTE EG 432-1, D65, sRGB's curve."""
    profile = coded_colours(12, 13)
    assert profile is not None
    return profile


@lru_cache(maxsize=1)
def romm() -> bytes:
    """Profile of wide colours for going on working: ROMM RGB, D50 (ISO 22028-2, from memory)."""
    v = np.linspace(0.0, 1.0, 4096)
    linear = np.where(v < 16.0 / 512.0, v / 16.0, v**1.8)
    primaries = [0.7347, 0.2653, 1.0, 0.1596, 0.8404, 1.0, 0.0366, 0.0001, 1.0]
    curve = np.rint(linear * 65535).astype(np.uint16)
    white = [0.3457, 0.3585, 1.0]
    return _made(
        imagecodecs.cms_profile(
            "rgb", whitepoint=white, primaries=primaries, transferfunction=curve
        )
    )


def primaries_to_bt2020(corners: Sequence[float]) -> NDArray[np.float64]:
    """(3, 3) from linear RGB of given chromaticities (x, y of red, green, blue, white) to BT.2020;
    whites are mapped on each other (ISO 22028-1: by scaling XYZ)."""

    def to_xyz(xy: NDArray[np.float64]) -> NDArray[np.float64]:
        columns = np.stack([xy[:, 0] / xy[:, 1], np.ones(4), (1 - xy.sum(1)) / xy[:, 1]])
        return np.asarray(columns[:, :3] * np.linalg.solve(columns[:, :3], columns[:, 3]))

    given = to_xyz(np.array(corners, np.float64).reshape(4, 2))
    own = to_xyz(np.array([[0.708, 0.292], [0.170, 0.797], [0.131, 0.046], [0.3127, 0.3290]]))
    scaled = (own.sum(axis=1) / given.sum(axis=1))[:, None] * given
    return np.asarray(np.linalg.solve(own, scaled))


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
