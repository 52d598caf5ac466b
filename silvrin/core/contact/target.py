"""The target of a contact process: where its patches and the marks that a photograph is laid
straight by lie, in millimetres of the print."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ...errors import SilvrinError
from .process import STEPS

Floats = NDArray[np.float64]

PATCH, GAP, COLUMNS = 12.0, 2.0, 7  # mm, mm, patches beside each other
MARGIN, MARK = 14.0, 10.0  # mm: about the patches, and a side of the marks in its corners
QUIET = (MARGIN - MARK) / 2  # mm of paper white about a mark
CELLS = 6  # of a side of a mark
# Four marks of OpenCV's dictionary of 4 × 4 cells, 0 to 3 from the upper left clockwise
_MARKS = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
Box = tuple[float, float, float]  # left, top, side


@dataclass(frozen=True)
class Target:
    """A target of so many patches."""

    steps: int

    def __post_init__(self) -> None:
        if self.steps not in STEPS:
            raise SilvrinError(
                f"A target of {self.steps} patches; there are {' and '.join(map(str, STEPS))}."
            )

    @property
    def size(self) -> tuple[float, float]:
        """Width and height, mm."""
        rows = -(-self.steps // COLUMNS)
        across, down = (n * (PATCH + GAP) - GAP + 2 * MARGIN for n in (COLUMNS, rows))
        return across, down

    @property
    def patches(self) -> list[Box]:
        """In their order."""
        places = (divmod(k, COLUMNS) for k in range(self.steps))
        return [
            (MARGIN + column * (PATCH + GAP), MARGIN + row * (PATCH + GAP), PATCH)
            for row, column in places
        ]

    @property
    def marks(self) -> list[Box]:
        """In their order."""
        width, height = self.size
        right, below = width - QUIET - MARK, height - QUIET - MARK
        return [
            (QUIET, QUIET, MARK), (right, QUIET, MARK), (right, below, MARK), (QUIET, below, MARK)
        ]  # fmt: skip


def mark(number: int) -> NDArray[np.bool_]:
    """(6, 6) where a mark is white."""
    return np.asarray(cv2.aruco.generateImageMarker(_MARKS, number, CELLS)) > 0


def find_marks(picture: NDArray[np.uint8]) -> dict[int, Floats]:
    """Corners (4, 2) of the marks in a picture (H, W), from the upper left clockwise."""
    wanted = cv2.aruco.DetectorParameters()
    wanted.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_SUBPIX
    corners, numbers, _ = cv2.aruco.ArucoDetector(_MARKS, wanted).detectMarkers(picture)
    if numbers is None:
        return {}
    found = zip(np.asarray(numbers).ravel(), corners, strict=True)
    return {int(n): np.asarray(at, np.float64).reshape(4, 2) for n, at in found}
