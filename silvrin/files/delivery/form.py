"""What a writer of a form is told beside the numbers."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .about import About
from .output import Output

Numbers = NDArray[Any]
Rows = Iterator[Numbers]


@dataclass(frozen=True)
class Form:
    """A file that is to be written."""

    output: Output
    width: int
    height: int
    channels: int
    ppi: float
    profile: bytes
    about: About
    small: Callable[[], bytes | None]  # JPEG, when all strips went by


def whole(rows: Rows) -> Numbers:
    """All strips in one."""
    return np.concatenate(list(rows))
