"""What stations gave, kept while it is likely to be wanted again."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, Protocol, TypeVar


class Sized(Protocol):
    """Something of which the size in memory is known."""

    @property
    def nbytes(self) -> int: ...


T = TypeVar("T", bound=Sized)


class StationCache:
    """Results of stations, newest kept, bounded in bytes; safe to share between threads.

    A view of eight million pixels and its results take about 170 MB.
    """

    def __init__(self, limit: int = 320 << 20) -> None:
        self._limit = limit
        self._bytes = 0
        self._kept: OrderedDict[Hashable, Any] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The result under a key, made when it is not there."""
        with self._lock:
            found: T | None = self._kept.get(key)
            if found is not None:
                self._kept.move_to_end(key)
                return found
        made = make()
        with self._lock:
            if key not in self._kept:
                self._kept[key] = made
                self._bytes += made.nbytes
            while self._bytes > self._limit and len(self._kept) > 1:
                self._bytes -= self._kept.popitem(last=False)[1].nbytes
        return made
