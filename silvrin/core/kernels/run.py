"""Running kernels over the processors, and what they share."""

import os
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache
from itertools import pairwise
from typing import Any

import cv2
import numpy as np

OPTIONS: dict[str, Any] = {
    "nogil": True,
    "cache": True,
    "fastmath": {"nsz", "arcp", "contract", "afn", "reassoc"},
    "error_model": "numpy",
}

# as many as there are processors, or as many as one of several processes is to take
THREADS = max(1, min(int(os.environ.get("SILVRIN_THREADS") or os.cpu_count() or 1), 16))
if "SILVRIN_THREADS" in os.environ:
    cv2.setNumThreads(THREADS)
NICE = 15  # of threads that work behind others, where threads can have one of their own (Linux)
LINGER = 0.12  # s after work that somebody waits for, in which more of it is likely to come
MOST_WAIT = 3.0  # s that work behind others waits at a time
DARKEST = np.float32(2.0**-17)  # sum of linear r, g, b that counts as no light at all
BLACK_GREY = np.float32(1e-3)  # of a code of 16 bits
PATCH = 3  # pixels about the middle of a patch that fillings are put together from


def _be_nice() -> None:
    if hasattr(os, "setpriority") and os.uname().sysname == "Linux":
        own = threading.get_native_id()
        if os.getpriority(os.PRIO_PROCESS, own) < NICE:
            os.setpriority(os.PRIO_PROCESS, own, NICE)


_pool = ThreadPoolExecutor(THREADS, thread_name_prefix="kernel")
_pool_behind = ThreadPoolExecutor(THREADS, thread_name_prefix="behind", initializer=_be_nice)
_is_behind: ContextVar[bool] = ContextVar("is_behind", default=False)


class _Way:
    """Who goes first: work that somebody waits for, before work behind it."""

    def __init__(self) -> None:
        self._changed = threading.Condition()
        self._waited_for = 0
        self._until = 0.0  # when work behind may go on

    @contextmanager
    def first(self) -> Iterator[None]:
        with self._changed:
            self._waited_for += 1
        try:
            yield
        finally:
            with self._changed:
                self._waited_for -= 1
                self._until = time.monotonic() + LINGER
                self._changed.notify_all()

    def give(self) -> None:
        end = time.monotonic() + MOST_WAIT
        with self._changed:
            while (now := time.monotonic()) < end:
                if self._waited_for:
                    self._changed.wait(end - now)
                elif now < self._until:
                    self._changed.wait(self._until - now)
                else:
                    return


_way = _Way()
first = _way.first  # a context: work in it is waited for, and goes before what works behind


@cache
def _begin_opencv() -> None:
    """OpenCV's threads are as nice as the one that first wants them, for good: let it be this one,
    before it is nice."""
    cv2.resize(np.zeros((1000, 1000), np.float32), (600, 600), interpolation=cv2.INTER_CUBIC)


@contextmanager
def behind() -> Iterator[None]:
    """A context for a thread of its own: its work gives way to work that somebody waits for."""
    _begin_opencv()
    _be_nice()
    token = _is_behind.set(True)
    try:
        yield
    finally:
        _is_behind.reset(token)


def give_way() -> None:
    """Wait, in work behind others, until nobody waits for anything."""
    if _is_behind.get():
        _way.give()


def _threads() -> ThreadPoolExecutor:
    give_way()
    return _pool_behind if _is_behind.get() else _pool


def by_rows(kernel: Callable[..., None], height: int, *arguments: Any) -> None:
    """Run kernel(first, last, *arguments) over all rows, a band for each processor."""
    pool = _threads()
    bands = min(THREADS, max(1, height // 16))
    own, *others = pairwise(height * i // bands for i in range(bands + 1))
    jobs = [pool.submit(kernel, *band, *arguments) for band in others]
    kernel(*own, *arguments)
    for job in jobs:
        job.result()


def at_once(*works: Callable[[], Any]) -> list[Any]:
    """What works give that run side by side; they may not use `by_rows`."""
    pool = _threads()
    jobs = [pool.submit(work) for work in works[1:]]
    return [works[0](), *(job.result() for job in jobs)]
