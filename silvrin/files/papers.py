"""Sizes of paper, as it stands upright."""

from typing import Literal

INCH = 25.4  # mm
Paper = Literal["a5", "a4", "a3", "a2", "letter", "10x8", "14x11", "20x16"]
# mm: ISO 216; US letter (ANSI Y14.1, A); the trade's sizes of photographic paper in inches
PAPERS: dict[Paper, tuple[float, float]] = {
    "a5": (148.0, 210.0), "a4": (210.0, 297.0), "a3": (297.0, 420.0), "a2": (420.0, 594.0),
    "letter": (8.5 * INCH, 11 * INCH), "10x8": (8 * INCH, 10 * INCH),
    "14x11": (11 * INCH, 14 * INCH), "20x16": (16 * INCH, 20 * INCH),
}  # fmt: skip
