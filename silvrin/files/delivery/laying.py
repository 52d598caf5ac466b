"""Where prints lie on sheets of paper."""

from collections.abc import Sequence
from dataclasses import dataclass

from ...errors import SilvrinError
from .output import Page

NEARLY = 0.05  # mm by which a print may be larger than its room
Size = tuple[float, float]  # width and height, mm


@dataclass(frozen=True)
class Laid:
    """A print on a page."""

    number: int  # of the prints
    left: float  # mm from the page's left
    top: float  # mm from its top


def check_fits(size: Size, page: Page) -> None:
    """Raises SilvrinError where a print is larger than what a page has for it."""
    (wide, tall), (across, down) = size, page.cell
    if wide > across + NEARLY or tall > down + NEARLY:
        raise SilvrinError(
            f"The print is {wide:.0f} × {tall:.0f} mm; the page has room for {across:.0f} × "
            f"{down:.0f} mm. Choose a larger paper or a smaller print, or lay the paper the other "
            "way; prints, but not contact negatives, can also fill rows and columns."
        )


def laid_out(sizes: Sequence[Size], page: Page) -> list[list[Laid]]:
    """Prints on pages, in order: in the cells of columns and rows, or, without those, side by side
    as long as they have room, and what lies on a page in its middle."""
    if page.columns is not None and page.rows is not None:
        return _in_cells(sizes, page, page.columns, page.rows)
    return [_in_rows(rows, sizes, page) for rows in _flowing(sizes, page)]


def _in_cells(sizes: Sequence[Size], page: Page, columns: int, rows: int) -> list[list[Laid]]:
    wide, tall = page.cell
    pages: list[list[Laid]] = []
    for number, (width, height) in enumerate(sizes):
        place = number % (columns * rows)
        if place == 0:
            pages.append([])
        row, column = divmod(place, columns)
        left = page.margin + column * (wide + page.gap) + (wide - width) / 2
        top = page.margin + row * (tall + page.gap) + (tall - height) / 2
        pages[-1].append(Laid(number, left, top))
    return pages


def _flowing(sizes: Sequence[Size], page: Page) -> list[list[list[int]]]:
    """Pages of rows of prints."""
    across, down = (side + NEARLY for side in page.room)
    pages: list[list[list[int]]] = []
    for number, (width, _) in enumerate(sizes):
        if pages:
            rows = pages[-1]
            wide = sum(sizes[i][0] + page.gap for i in rows[-1]) + width
            grown = _tall([*rows[:-1], [*rows[-1], number]], sizes, page.gap)
            if wide <= across and grown <= down:
                rows[-1].append(number)
                continue
            if _tall([*rows, [number]], sizes, page.gap) <= down:
                rows.append([number])
                continue
        pages.append([[number]])
    return pages


def _tall(rows: Sequence[Sequence[int]], sizes: Sequence[Size], gap: float) -> float:
    return sum(max(sizes[i][1] for i in row) for row in rows) + gap * (len(rows) - 1)


def _in_rows(rows: list[list[int]], sizes: Sequence[Size], page: Page) -> list[Laid]:
    wide, tall = page.size
    top = (tall - _tall(rows, sizes, page.gap)) / 2
    laid = []
    for row in rows:
        height = max(sizes[i][1] for i in row)
        left = (wide - sum(sizes[i][0] for i in row) - page.gap * (len(row) - 1)) / 2
        for i in row:
            laid.append(Laid(i, left, top + (height - sizes[i][1]) / 2))
            left += sizes[i][0] + page.gap
        top += height + page.gap
    return laid
