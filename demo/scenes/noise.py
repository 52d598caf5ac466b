"""Random fields, all from seeds."""

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import map_coordinates

Field = NDArray[np.float32]


def fractal(
    rows: int, columns: int, beta: float = 2.0, seed: int = 0, x: float = 1.0, y: float = 1.0
) -> Field:
    """(rows, columns) tiling Gaussian noise of unit variance, power falling as f^-beta; x and y
    above 1 make it finer across or down."""
    rng = np.random.default_rng(seed)
    fy = np.fft.fftfreq(rows)[:, None] * rows * y
    fx = np.fft.rfftfreq(columns)[None] * columns * x
    frequency = np.hypot(fx, fy)
    frequency[0, 0] = 1.0
    amplitude = frequency ** (-beta / 2.0)
    amplitude[0, 0] = 0.0
    noise = np.fft.irfft2(
        np.fft.rfft2(rng.standard_normal((rows, columns))) * amplitude, s=(rows, columns)
    )
    return ((noise - noise.mean()) / noise.std()).astype(np.float32)


def volume(side: int, beta: float, seed: int) -> Field:
    """(side, side, side) tiling noise of unit variance."""
    rng = np.random.default_rng(seed)
    f, half = np.fft.fftfreq(side) * side, np.fft.rfftfreq(side) * side
    k = np.sqrt(f[:, None, None] ** 2 + f[None, :, None] ** 2 + half[None, None] ** 2)
    k[0, 0, 0] = 1.0
    amplitude = k ** (-beta / 2.0)
    amplitude[0, 0, 0] = 0.0
    spectrum = np.fft.rfftn(rng.standard_normal((side,) * 3)) * amplitude
    v = np.fft.irfftn(spectrum, s=(side,) * 3, axes=(0, 1, 2))
    return ((v - v.mean()) / v.std()).astype(np.float32)


def ramp(low: float, high: float, x: NDArray) -> NDArray:
    """Smooth step from 0 at low to 1 at high."""
    t = np.clip((x - low) / (high - low), 0.0, 1.0)
    return t * t * (3.0 - 2.0 * t)


def at(field: NDArray, u: NDArray, v: NDArray) -> NDArray:
    """The field at u across and v down, both in periods of it."""
    u, v = np.broadcast_arrays(u, v)
    rows, columns = field.shape
    where = [np.mod(v, 1) * rows, np.mod(u, 1) * columns]
    return map_coordinates(field, where, order=1, mode="grid-wrap")


def hashed(a: NDArray, b: NDArray, salt: float) -> NDArray:
    """One fixed number in 0..1 for each pair of whole numbers."""
    return np.modf(np.abs(np.sin(a * 127.1 + b * 311.7 + salt * 74.7) * 43758.5453))[0]
