"""What passes are called, as the window does (`bench/map/passes.ts`)."""

from .shapes import Pass

KINDS = {
    "disc": "disc", "card": "card", "brush": "brush", "outline": "outline", "moved": "held by hand",
    "alike": "alike", "sky": "sky", "foliage": "foliage", "whole": "whole picture",
    "sides": "edges", "oval": "oval", "fall-off": "fall-off",
}  # fmt: skip


def letter_of(number: int) -> str:
    """A, B to Z, then AA, of passes numbered from 0."""
    before = letter_of(number // 26 - 1) if number >= 26 else ""
    return before + chr(ord("A") + number % 26)


def name_of(each: Pass) -> str:
    """The name it was given, or what it is: burn, sky."""
    if each.name:
        return each.name
    does = "dodge" if each.stops < 0 else "burn" if each.stops > 0 else "tones"
    kinds = dict.fromkeys(KINDS[shape.kind] for shape in each.shapes)
    return f"{does}, {' and '.join(list(kinds)[:2])}"
