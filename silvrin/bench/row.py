"""A row of the bench, and how work is timed against work."""

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True)
class Row:
    """A figure: its value, the most it may be, and what it is a ratio to."""

    name: str
    value: float
    unit: str
    limit: float | None = None
    baseline: str | None = None

    @property
    def holds(self) -> bool:
        """Whether the limit is kept."""
        return self.limit is None or self.value <= self.limit


def in_turn(*works: Callable[[], object], rounds: int = 15) -> list[float]:
    """Median seconds of each piece of work, done in turn so that all meet the same machine."""
    times: list[list[float]] = [[] for _ in works]
    for done in range(-2, rounds):
        for work, kept in zip(works, times, strict=True):
            start = time.perf_counter()
            work()
            if done >= 0:
                kept.append(time.perf_counter() - start)
    return [statistics.median(kept) for kept in times]
