"""The memory that reading captures may take at once."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from .kinds import MEMORY

AT_ONCE = 2


class Room:
    """Lets at most two files be read at a time, and only as large ones as there is memory for; who
    comes later waits."""

    def __init__(self, most: float = MEMORY, at_once: int = AT_ONCE) -> None:
        self._most, self._at_once = most, at_once
        self._changed = threading.Condition()
        self._taken: list[float] = []
        self._own = threading.local()

    @contextmanager
    def of(self, need: float) -> Iterator[None]:
        """Wait until there is room for so many bytes, and hold it. A thread that holds some already
        needs no more."""
        if getattr(self._own, "holds", False):
            yield
            return
        with self._changed:
            self._changed.wait_for(
                lambda: (
                    not self._taken
                    or (len(self._taken) < self._at_once and sum(self._taken) + need <= self._most)
                )
            )
            self._taken.append(need)
        self._own.holds = True
        try:
            yield
        finally:
            self._own.holds = False
            with self._changed:
                self._taken.remove(need)
                self._changed.notify_all()


READING = Room()
