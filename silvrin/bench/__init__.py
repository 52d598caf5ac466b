"""Speed and memory, measured as ratios within one run.

Every limit is on a ratio to a baseline that does comparable work on the same machine a moment
before or after, so that a slow or busy machine does not change the verdict; except where a
person waits (milliseconds) or memory is counted (GB).
"""

import importlib.util
from collections.abc import Callable

from rich.table import Table

from . import batch, browser, captures, crowd, delivery, frames, looks
from .row import Row

__all__ = ["Row", "as_table", "measure"]


def measure(
    quick: bool,
    progress: Callable[[float], None] = lambda share: None,
    tell: Callable[[str], None] = lambda text: None,
) -> list[Row]:
    """All figures; `quick` leaves out large pictures and the browser."""
    parts: list[Callable[[], list[Row]]] = [frames.preview, frames.toned, frames.plain_chain]
    if not quick:
        # while this process is small: the system counts its peak as that of its children too
        parts += [lambda: delivery.full_size(24, 1.5), lambda: delivery.full_size(100, 3.0)]
        parts += [delivery.forms, batch.workers]
        parts += [captures.taking_in, captures.first_picture, captures.merging, captures.geometry]
        missing = browser.missing()
        if missing:
            tell(f"Left out: slider input to picture in the browser ({missing} is not installed).")
        else:
            parts += [browser.input_to_picture, browser.beside_a_batch, browser.opened]
            parts += [browser.large_sheets, looks.looks]
        if importlib.util.find_spec("distributed") is None:
            tell("Left out: scheduling over a cluster (silvrin[cluster] is not installed).")
        else:
            parts.append(batch.scheduling)
        parts += [crowd.cold_start, crowd.crowd]
    rows: list[Row] = []
    for number, part in enumerate(parts):
        rows += part()
        progress((number + 1) / len(parts))
    return rows


def as_table(rows: list[Row]) -> Table:
    """The figures as a table."""
    table = Table("figure", "value", "unit", "limit", "ratio to", "")
    for row in rows:
        verdict = "" if row.limit is None else "holds" if row.holds else "[red]over[/red]"
        limit = "" if row.limit is None else f"{row.limit:g}"
        table.add_row(row.name, f"{row.value:.3g}", row.unit, limit, row.baseline or "", verdict)
    return table
