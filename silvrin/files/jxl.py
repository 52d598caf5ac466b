"""What the header of a JPEG XL says (ISO/IEC 18181-1, from memory)."""

from pathlib import Path

from ..errors import BadCapture
from .kinds import damaged, memory_for

LIGHT = 6  # bytes a pixel of the light that a file becomes
WIDEST = 16  # bytes a pixel of four floating-point channels: the header does not say how many
_RATIOS = {1: (1, 1), 2: (12, 10), 3: (4, 3), 4: (3, 2), 5: (16, 9), 6: (5, 4), 7: (2, 1)}
_SIZES = (9, 13, 18, 30)


class _Bits:
    """Bits from the lowest of each byte on."""

    def __init__(self, data: bytes) -> None:
        self._number, self._left = int.from_bytes(data, "little"), 8 * len(data)

    def take(self, count: int) -> int:
        if count > self._left:
            raise BadCapture(damaged("JPEG XL", "its header ends too early"))
        value = self._number & ((1 << count) - 1)
        self._number >>= count
        self._left -= count
        return value


def measure_jxl(path: Path) -> float:
    """Bytes that reading a JPEG XL takes; raises BadCapture."""
    width, height = size_of(_codestream(path))
    return memory_for(width, height, WIDEST / 2 + LIGHT)


def size_of(codestream: bytes) -> tuple[int, int]:
    """Width and height that a codestream begins with."""
    bits = _Bits(codestream[2:32])

    def side(small: bool) -> int:
        if small:
            return 8 * (bits.take(5) + 1)
        return bits.take(_SIZES[bits.take(2)]) + 1

    small = bits.take(1) == 1
    height = side(small)
    ratio = bits.take(3)
    if ratio == 0:
        return side(small), height
    of, by = _RATIOS[ratio]
    return height * of // by, height


def _codestream(path: Path) -> bytes:
    """The beginning of the codestream, bare or in a box of its own."""
    with path.open("rb") as file:
        head = file.read(2)
        if head == b"\xff\x0a":
            return head + file.read(62)
        file.seek(0)
        while len(box := file.read(8)) == 8:
            length, name = int.from_bytes(box[:4], "big"), box[4:]
            inside = length - 8
            if length == 1:
                inside = int.from_bytes(file.read(8), "big") - 16
            if name in (b"jxlc", b"jxlp"):
                start = file.read(68)
                return start[4:] if name == b"jxlp" else start
            if inside < 0:
                break
            file.seek(inside, 1)
    raise BadCapture(damaged("JPEG XL", "it holds no picture"))
