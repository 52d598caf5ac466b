"""The forms in which a DNG may hold a picture (DNG 1.4, from memory): mosaics of 2 × 2 and 6 × 6,
linear and monochrome, with margins, uneven blacks, packed, compressed or in tiles. Development
only.
"""

import struct
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

import imagecodecs
import numpy as np
from numpy.typing import NDArray

RGGB = np.array([[0, 1], [1, 2]])
SIX = np.array(  # two greens about every red and blue, as a row of 6 × 6 needs it
    [[1, 2, 1, 1, 0, 1], [0, 1, 0, 2, 1, 2], [1, 2, 1, 1, 0, 1], [1, 0, 1, 1, 2, 1],
     [2, 1, 2, 0, 1, 0], [1, 0, 1, 1, 2, 1]]
)  # fmt: skip
CFA, LINEAR = 32803, 34892
_FORMATS = {1: "B", 2: "B", 3: "H", 4: "I", 5: "I", 10: "i"}
Value = bytes | Sequence[int]


@dataclass(frozen=True)
class Form:
    """How a file holds its picture; what is not said is plain."""

    kind: Literal["2x2", "6x6", "linear", "monochrome"] = "2x2"
    bits: Literal[12, 16] = 16
    lossless: bool = False  # lossless JPEG
    tile: int = 0  # its side; 0: one strip
    margins: tuple[int, int, int, int] = (0, 0, 0, 0)  # masked photosites: top, left, bottom, right
    crop: int = 0  # pixels of the active area that are not of the picture, on each side
    black: int = 256
    row_black: bool = False  # BlackLevelDeltaV and H
    whites: tuple[int, ...] = ()  # of each channel; linear only
    white_xy: tuple[float, float] | None = None  # instead of the neutral
    opcodes: bool = False  # a correction that is asked for
    model: str = "Writer"


def rational(values: NDArray[np.float64] | Sequence[float]) -> list[int]:
    """Numerators and denominators one after the other."""
    return [n for v in np.ravel(values) for n in (round(float(v) * 10_000), 10_000)]


def write(
    path: Path,
    rgb: NDArray[np.floating],
    neutral: NDArray[np.float64],
    matrices: Sequence[tuple[int, NDArray[np.float64], NDArray[np.float64] | None]],
    form: Form,
) -> None:
    """Write camera RGB (H, W, 3), a perfect white's green being at most 1, in a form.

    `neutral` is the camera's RGB of white; `matrices` are, for each light (Exif LightSource), the
    matrix from XYZ to the camera and the forward matrix from white-balanced colours to XYZ of D50.
    """
    planes = _planes(rgb.astype(np.float64), form)
    height, width = planes.shape[:2]
    top, left, bottom, right = form.margins
    white = 2**form.bits - 1
    whites = np.array(form.whites or (white,), np.float64)
    blacks = np.full((height, width), float(form.black))
    if form.row_black:
        blacks += _row_steps(height)[:, None] + _column_steps(width)[None]
    dark = blacks if planes.ndim == 2 else blacks[..., None]
    counts = np.rint(dark + np.clip(planes, 0, 1) * (whites - dark)).astype(np.uint16)
    if any(form.margins):
        masked = np.pad(dark, ((top, bottom), (left, right), *((0, 0),) * (dark.ndim - 2)), "edge")
        full = np.broadcast_to(
            np.rint(masked), (*masked.shape[:2], *counts.shape[2:])
        ).astype(np.uint16)  # fmt: skip
        full = full.copy()
        full[top : top + height, left : left + width] = counts
        counts = full
    samples = 1 if counts.ndim == 2 else counts.shape[2]
    entries: dict[int, tuple[int, Value]] = {
        254: (4, [0]),
        256: (4, [counts.shape[1]]),
        257: (4, [counts.shape[0]]),
        258: (3, [form.bits] * samples),
        259: (3, [7 if form.lossless else 1]),
        262: (3, [CFA if form.kind in ("2x2", "6x6") else LINEAR]),
        271: (2, b"Quarrywood\0"),
        272: (2, form.model.encode() + b"\0"),
        274: (3, [1]),
        277: (3, [samples]),
        284: (3, [1]),
        50706: (1, bytes([1, 4, 0, 0])),
        50707: (1, bytes([1, 1, 0, 0])),
        50708: (2, form.model.encode() + b"\0"),
        50713: (3, [1, 1]),
        50714: (3, [form.black] * samples),
        50717: (4, [int(w) for w in (form.whites or (white,) * samples)]),
        50829: (4, [top, left, top + height, left + width]),
    }
    if form.kind in ("2x2", "6x6"):
        pattern = RGGB if form.kind == "2x2" else SIX
        entries[33421] = (3, [len(pattern), len(pattern)])
        entries[33422] = (1, bytes(pattern.ravel().tolist()))
    if form.row_black:
        entries[50715] = (10, rational(_column_steps(width)))
        entries[50716] = (10, rational(_row_steps(height)))
    if form.crop:
        entries[50719] = (4, [form.crop, form.crop])
        entries[50720] = (4, [width - 2 * form.crop, height - 2 * form.crop])
    if form.kind != "monochrome":
        for number, (light, matrix, forward) in enumerate(matrices):
            entries[50778 + number] = (3, [light])
            entries[50721 + number] = (10, rational(matrix))
            if forward is not None:
                entries[50964 + number] = (10, rational(forward))
        if form.white_xy:
            entries[50729] = (5, rational(form.white_xy))
        else:
            entries[50728] = (5, rational(neutral / neutral.max()))
    if form.opcodes:
        entries[51022] = (1, _fall_off_opcode())
    path.write_bytes(_tiff(entries, _segments(counts, form, entries)))


def _planes(rgb: NDArray[np.float64], form: Form) -> NDArray[np.float64]:
    if form.kind == "linear":
        return rgb
    if form.kind == "monochrome":
        return rgb[..., 1]
    pattern = RGGB if form.kind == "2x2" else SIX
    y, x = np.indices(rgb.shape[:2])
    channel = pattern[y % len(pattern), x % len(pattern)]
    return np.take_along_axis(rgb, channel[..., None], axis=2)[..., 0]


def _row_steps(height: int) -> NDArray[np.float64]:
    return np.round(40.0 * np.sin(np.arange(height) / 9.0))


def _column_steps(width: int) -> NDArray[np.float64]:
    return np.round(30.0 * np.cos(np.arange(width) / 14.0))


def _segments(
    counts: NDArray[np.uint16], form: Form, entries: dict[int, tuple[int, Value]]
) -> list[bytes]:
    """Strips or tiles; what tells of them goes into the entries."""
    height, width = counts.shape[:2]
    if form.tile:
        side = form.tile
        down, across = -height % side, -width % side
        even = np.pad(counts, ((0, down), (0, across), *((0, 0),) * (counts.ndim - 2)), "edge")
        parts = [
            even[y : y + side, x : x + side]
            for y in range(0, len(even), side)
            for x in range(0, even.shape[1], side)
        ]
        entries[322], entries[323] = (4, [side]), (4, [side])
    else:
        parts = [counts]
        entries[278] = (4, [height])
    return [_packed(np.ascontiguousarray(part), form) for part in parts]


def _packed(part: NDArray[np.uint16], form: Form) -> bytes:
    if form.lossless:
        return bytes(imagecodecs.ljpeg_encode(part, bitspersample=form.bits))
    if form.bits == 12:  # the highest bit first, each row from a byte of its own
        rows = part.reshape(len(part), -1)
        bits = (rows[..., None] >> np.arange(11, -1, -1)) & 1
        return np.packbits(bits.reshape(len(part), -1).astype(np.uint8), axis=1).tobytes()
    return part.astype("<u2").tobytes()


def _fall_off_opcode() -> bytes:
    """A list of one opcode: FixVignetteRadial (3)."""
    body = struct.pack(">7d", 0.4, 0.1, 0.0, 0.0, 0.0, 0.5, 0.5)
    return struct.pack(">IIIII", 1, 3, 0x01030000, 1, len(body)) + body


def _tiff(entries: dict[int, tuple[int, Value]], segments: list[bytes]) -> bytes:
    """A little-endian TIFF of one picture."""
    tiled = 322 in entries
    offsets, counts = (324, 325) if tiled else (273, 279)
    entries[offsets] = (4, [0] * len(segments))
    entries[counts] = (4, [len(s) for s in segments])

    def value(code: int) -> bytes:
        kind, given = entries[code]
        if isinstance(given, bytes):
            return given
        return struct.pack(f"<{len(given)}{_FORMATS[kind]}", *given)

    after = 8 + 2 + 12 * len(entries) + 4
    at: dict[int, int] = {}
    for code in sorted(entries):
        if len(value(code)) > 4:
            at[code] = after
            after += len(value(code)) + len(value(code)) % 2
    places = []
    for segment in segments:
        places.append(after)
        after += len(segment) + len(segment) % 2
    entries[offsets] = (4, places)
    out = bytearray(struct.pack("<2sHIH", b"II", 42, 8, len(entries)))
    for code in sorted(entries):
        kind, given = entries[code]
        number = len(given) // (2 if kind in (5, 10) else 1)
        inside = struct.pack("<I", at[code]) if code in at else value(code).ljust(4, b"\0")
        out += struct.pack("<HHI", code, kind, number) + inside
    out += struct.pack("<I", 0)
    for code in sorted(at):
        out += value(code) + b"\0" * (len(value(code)) % 2)
    for segment in segments:
        out += segment + b"\0" * (len(segment) % 2)
    return bytes(out)
