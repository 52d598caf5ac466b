"""What a DNG says of its picture beyond what LibRaw does with it (DNG 1.6, from memory): its crop,
the white of each channel, its colours under two lights, and the corrections that it asks for."""

import struct
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import tifffile
from numpy.typing import NDArray

from ..core.capture.white_balance import temperature_of
from .profiles import RGB_TO_BT2020, SRGB_TO_XYZ

Matrix = NDArray[np.float64]

# Exif LightSource: correlated colour temperature, K
LIGHTS = {
    1: 5500, 2: 4200, 3: 2850, 4: 5500, 9: 5500, 10: 6500, 11: 7500, 12: 6400, 13: 5050, 14: 4150,
    15: 3450, 17: 2856, 18: 4874, 19: 6774, 20: 5503, 21: 6504, 22: 7504, 23: 5003, 24: 3200,
}  # fmt: skip
D50 = np.array([0.9642, 1.0, 0.8249])
# Bradford: XYZ of D50 to D65 (in many sources; from memory)
D50_TO_D65 = np.array(
    [[0.9555766, -0.0230393, 0.0631636], [-0.0282895, 1.0099416, 0.0210077],
     [0.0122982, -0.0204830, 1.3299098]]
)  # fmt: skip
OPCODES = {
    1: "distortion", 2: "distortion", 3: "fall-off", 4: "dead pixels", 5: "dead pixels",
    6: "trimming", 7: "a curve of levels", 8: "a curve of levels", 9: "uneven sensitivity",
    10: "uneven rows", 11: "uneven columns", 12: "uneven rows", 13: "uneven columns",
    14: "distortion",
}  # fmt: skip
_PROFILE = (50937, 50938, 50939, 50940, 50981, 50982)  # tables of colour and the tone curve
_OPCODE_LISTS = (51008, 51009, 51022)


@dataclass(frozen=True)
class Dng:
    """Facts of a DNG's picture."""

    channels: int  # none of a mosaic
    crop: tuple[int, int, int, int] | None  # of the active area: left, top, width, height
    white: float  # by which full scale is too dark, of a linear one whose black LibRaw leaves in it
    share: tuple[float, float, float]  # white of each channel, parts of the highest
    lights: tuple[tuple[float, Matrix, Matrix | None], ...]  # K, XYZ to camera, forward
    not_applied: tuple[str, ...]  # corrections it asks for, in words


def dng_of(path: Path) -> Dng | None:
    """What a DNG says of its picture; None for any other file."""
    try:
        with tifffile.TiffFile(path) as tiff:
            first = tiff.pages[0]
            if 50706 not in first.tags:
                return None
            pages = [page for top in tiff.pages for page in (top, *(top.pages or ()))]
            page = next(
                (p for p in pages if p.photometric in (32803, 34892) and not p.is_reduced), first
            )
            tags = {tag.code: _value(tag) for source in (first, page) for tag in source.tags}
            return _facts(tags, page.photometric == 34892)
    except Exception:  # of whatever form it is, LibRaw may know it
        return None


def _facts(tags: dict[int, Any], linear: bool) -> Dng:
    samples = int(tags.get(277, 1))
    highest = float(2 ** int(np.ravel(tags.get(258, 16))[0]) - 1)
    whites = np.resize(np.array(_numbers(tags.get(50717)) or [highest]), 3)
    black = float(np.mean(_numbers(tags.get(50714)) or [0.0]))
    crop = None
    if 50719 in tags and 50720 in tags:
        left, top = (round(v) for v in _numbers(tags[50719]))
        width, height = (round(v) for v in _numbers(tags[50720]))
        crop = left, top, width, height
    lights = []
    for number in range(2):
        matrix, light = tags.get(50721 + number), LIGHTS.get(int(tags.get(50778 + number, 0)))
        if matrix is None or light is None:
            continue
        given = tags.get(50964 + number)
        forward = None if given is None else np.array(_numbers(given)).reshape(3, 3)
        lights.append((float(light), np.array(_numbers(matrix)).reshape(3, 3), forward))
    several = linear and samples >= 3
    top_white = float(whites.max())
    return Dng(
        channels=samples if linear else 0,
        crop=crop,
        white=top_white / (top_white - black) if linear and top_white > black else 1.0,
        share=tuple((whites / top_white).tolist()) if several else (1.0, 1.0, 1.0),
        lights=tuple(sorted(lights, key=lambda of: of[0])),
        not_applied=_not_applied(tags),
    )


def _value(tag: Any) -> Any:
    """A tag's value; rationals are divided."""
    if tag.dtype not in (5, 10):
        return tag.value
    flat = [float(v) for v in np.ravel(tag.value)]
    return [n / d if d else 0.0 for n, d in zip(flat[::2], flat[1::2], strict=True)]


def _numbers(value: Any) -> list[float]:
    return [] if value is None else [float(v) for v in np.ravel(value)]


def _not_applied(tags: dict[int, Any]) -> tuple[str, ...]:
    said: list[str] = []
    for code in _OPCODE_LISTS:
        if isinstance(tags.get(code), bytes):
            said += [OPCODES.get(number, f"correction {number}") for number in opcodes(tags[code])]
    if any(code in tags for code in _PROFILE):
        said.append("its maker's colour tables and tone curve")
    return tuple(dict.fromkeys(said))


def opcodes(data: bytes) -> list[int]:
    """Numbers of the operations in an opcode list; as many as hold."""
    found: list[int] = []
    at = 4
    while at + 16 <= len(data) and len(found) < struct.unpack_from(">I", data)[0]:
        number, _, _, length = struct.unpack_from(">IIII", data, at)
        found.append(number)
        at += 16 + length
    return found


def working_matrix(dng: Dng, balance: tuple[float, float, float]) -> Matrix | None:
    """(3, 3) from white-balanced camera colours to BT.2020, of a file with forward matrices or with
    two lights; None for others. `balance` are the multipliers that make white neutral.

    Between two lights matrices are mixed by the inverse of the temperature, which is sought from
    the neutral in turns (DNG, "Mapping Camera Color Space to CIE XYZ Space").
    """
    if len(dng.lights) < 2 and not any(forward is not None for *_, forward in dng.lights):
        return None
    neutral = 1.0 / np.array(balance)
    mired = 1e6 / 5000.0
    for _ in range(20):
        xyz = np.linalg.solve(_mixed(dng, mired, 1), neutral / neutral.max())
        colour = RGB_TO_BT2020 @ np.linalg.solve(SRGB_TO_XYZ, xyz)
        found = temperature_of(np.maximum(colour, 1e-6))
        if found is None:
            break
        mired = 1e6 / found
    if all(forward is not None for *_, forward in dng.lights):
        xyz_d50 = _mixed(dng, mired, 2)
        xyz_d50 *= (D50 / xyz_d50.sum(axis=1))[:, None]  # white is exactly that of D50
        return np.asarray(RGB_TO_BT2020 @ np.linalg.solve(SRGB_TO_XYZ, D50_TO_D65 @ xyz_d50))
    camera = _mixed(dng, mired, 1) @ SRGB_TO_XYZ
    camera /= camera.sum(axis=1, keepdims=True)
    return np.asarray(RGB_TO_BT2020 @ np.linalg.inv(camera))


def _mixed(dng: Dng, mired: float, kind: int) -> Matrix:
    first, last = dng.lights[0], dng.lights[-1]
    one, other = first[kind], last[kind]
    assert isinstance(one, np.ndarray) and isinstance(other, np.ndarray)
    apart = 1e6 / first[0] - 1e6 / last[0]
    share = np.clip((mired - 1e6 / last[0]) / apart, 0.0, 1.0) if apart > 0 else 1.0
    return np.asarray(share * one + (1.0 - share) * other)
