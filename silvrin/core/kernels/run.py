"""Running kernels over the processors, and what they share."""

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise
from typing import Any

import numpy as np

OPTIONS: dict[str, Any] = {
    "nogil": True,
    "cache": True,
    "fastmath": {"nsz", "arcp", "contract", "afn", "reassoc"},
    "error_model": "numpy",
}

THREADS = max(1, min(os.cpu_count() or 1, 16))
_pool = ThreadPoolExecutor(THREADS, thread_name_prefix="kernel")
DARKEST = np.float32(2.0**-17)  # sum of linear r, g, b that counts as no light at all
BLACK_GREY = np.float32(1e-3)  # of a code of 16 bits
PATCH = 3  # pixels about the middle of a patch that fillings are put together from


def by_rows(kernel: Callable[..., None], height: int, *arguments: Any) -> None:
    """Run kernel(first, last, *arguments) over all rows, a band for each processor."""
    bands = min(THREADS, max(1, height // 16))
    own, *others = pairwise(height * i // bands for i in range(bands + 1))
    jobs = [_pool.submit(kernel, *band, *arguments) for band in others]
    kernel(*own, *arguments)
    for job in jobs:
        job.result()


def at_once(*works: Callable[[], Any]) -> list[Any]:
    """What works give that run side by side; they may not use `by_rows`."""
    jobs = [_pool.submit(work) for work in works[1:]]
    return [works[0](), *(job.result() for job in jobs)]
