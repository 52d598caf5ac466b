"""Brightness that cannot clip: mid tones move as printing time moves them, both ends stay."""

import numpy as np
from numpy.typing import NDArray

STRENGTH = 2.0  # stops by which the slope at the dark end changes, at full brightness


def brightened(
    density: NDArray[np.floating], base: float, top: float, brightness: float
) -> NDArray[np.float64]:
    """Density of a negative with its mid tones moved; `base` and `top` map to themselves.

    A bias curve x (1 + k) / (1 + k x) over the range (Schlick 1994); beyond `top` it goes on with
    the slope it has there.
    """
    x = (np.asarray(density, np.float64) - base) / (top - base)
    k = 2.0 ** (STRENGTH * brightness) - 1.0
    within = np.clip(x, 0.0, 1.0)
    bent = within * (1.0 + k) / (1.0 + k * within)
    bent = bent + np.maximum(x - 1.0, 0.0) / (1.0 + k) + np.minimum(x, 0.0) * (1.0 + k)
    return np.asarray(base + bent * (top - base))
