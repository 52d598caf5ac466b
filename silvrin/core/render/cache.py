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

LATEST = 3  # that are kept among large results: two that are compared, and a strip's


class StationCache:
    """Results of stations, newest kept, bounded in bytes; safe to share between threads.

    A view of eight million pixels and its results take about 170 MB.
    """

    def __init__(self, limit: int = 320 << 20) -> None:
        self._limit = limit
        self._bytes = 0
        self._kept: OrderedDict[Hashable, Any] = OrderedDict()
        self._latest: dict[Hashable, list[Hashable]] = {}
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], T], among: Hashable = None) -> T:
        """The result under a key, made when it is not there. `among` names results of which only
        the latest few are kept: large ones that every movement of a hand makes anew."""
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
                if among is not None:
                    self._only_latest(among, key)
            while self._bytes > self._limit and len(self._kept) > 1:
                self._bytes -= self._kept.popitem(last=False)[1].nbytes
        return made

    def _only_latest(self, among: Hashable, key: Hashable) -> None:
        latest = self._latest.setdefault(among, [])
        latest.append(key)
        while len(latest) > LATEST:
            gone = self._kept.pop(latest.pop(0), None)
            self._bytes -= 0 if gone is None else gone.nbytes
