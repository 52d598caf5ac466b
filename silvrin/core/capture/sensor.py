"""Places and light as they lay on the sensor, whichever way a camera was held."""

import numpy as np
from numpy.typing import NDArray

U16 = NDArray[np.uint16]
Floats = NDArray[np.float64]

_TURNS = {3: 2, 4: 2, 5: 1, 6: 3, 7: 3, 8: 1}  # quarters against the clock, by Exif orientation


def from_sensor(places: Floats, size: tuple[int, int], orientation: int) -> Floats:
    """Places (N, 2) of a sensor of a size (width, height) where they lie on the upright picture, by
    its Exif orientation; pixels from the left and top edges."""
    x, y = np.asarray(places, np.float64).T
    width, height = size
    if orientation in (2, 4, 5, 7):
        x = width - x
    for _ in range(_TURNS.get(orientation, 0)):
        x, y = y, width - x
        width, height = height, width
    return np.stack([x, y], axis=-1)


def to_sensor(places: Floats, size: tuple[int, int], orientation: int) -> Floats:
    """Places (N, 2) of the upright picture where they lie on a sensor of a size (width, height);
    inverse of `from_sensor`."""
    x, y = np.asarray(places, np.float64).T
    width, height = size
    turns = _TURNS.get(orientation, 0)
    if turns % 2:
        width, height = height, width
    for _ in range(turns):
        x, y = height - y, x
        width, height = height, width
    if orientation in (2, 4, 5, 7):
        x = size[0] - x
    return np.stack([x, y], axis=-1)


def on_sensor(light: U16, orientation: int) -> U16:
    """Upright light (H, W, 3) as it lay on the sensor."""
    light = np.rot90(light, -_TURNS.get(orientation, 0))
    return light[:, ::-1] if orientation in (2, 4, 5, 7) else light
