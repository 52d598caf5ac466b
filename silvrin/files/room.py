"""The memory that reading captures may take at once."""

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from .kinds import MEMORY

AT_ONCE = 2


class Room:
    """Lets at most two files be read at a time, and only as large ones as there is memory for
    beside what is held; who comes later waits."""

    def __init__(self, most: float = MEMORY, at_once: int = AT_ONCE) -> None:
        self._most, self._at_once = most, at_once
        self._changed = threading.Condition()
        self._taken: list[float] = []
        self._held = 0.0
        self._own = threading.local()

    @contextmanager
    def of(self, need: float) -> Iterator[None]:
        """Wait until there is room for so many bytes, and hold it. A thread that holds some already
        needs no more."""
        if getattr(self._own, "holds", False):
            yield
            return
        with self._changed:
            self._changed.wait_for(lambda: self._has_room(need))
            self._taken.append(need)
        self._own.holds = True
        try:
            yield
        finally:
            self._own.holds = False
            with self._changed:
                self._taken.remove(need)
                self._changed.notify_all()

    def _has_room(self, need: float) -> bool:
        if not self._taken and not self._held:
            return True  # alone, whatever it takes
        return (
            len(self._taken) < self._at_once and sum(self._taken) + self._held + need <= self._most
        )

    def hold(self, size: float) -> Callable[[], None]:
        """Count what was read and cannot be given back yet; gives what ends that. To be called
        while there is room for it."""
        with self._changed:
            self._held += size

        def release() -> None:
            with self._changed:
                self._held = max(0.0, self._held - size)
                self._changed.notify_all()

        return release


READING = Room()
