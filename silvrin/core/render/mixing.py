"""A print between two: smooth to the eye, since output numbers are about as far apart as they
look."""

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

Numbers = NDArray[Any]


def mixture(before: Numbers, after: Numbers, strength: float) -> Numbers:
    """Output numbers (H, W) or (H, W, 3), uint8 or uint16, between two prints: at 0 the first, at 1
    the second, above it beyond it, as far as paper black and white."""
    if before.ndim != after.ndim:
        before, after = (_in_three(n) for n in (before, after))
    return np.asarray(cv2.addWeighted(after, strength, before, 1.0 - strength, 0.0))


def _in_three(numbers: Numbers) -> Numbers:
    return numbers if numbers.ndim == 3 else np.repeat(numbers[..., None], 3, axis=2)
