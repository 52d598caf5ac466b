"""Presentation sharpening: the last thing that is done to tones.

What a place differs by from its surroundings, a Gaussian of the radius, is given again, times the
amount: unsharp masking (textbook). Differences below a threshold stay, and so, as far as is asked
for, does what is no edge: places where the smoothed picture hardly rises within a radius.
"""

from collections.abc import Callable, Iterator
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..colour import SRGB_LUMINANCE, smooth_step
from .settings import MountSettings

F32 = NDArray[np.float32]
Numbers = NDArray[Any]

SCREEN = 96.0 / 25.4  # pixels a millimetre of a screen
REACH = 3.0  # radii that a Gaussian is taken to
LEAST_RADIUS = 0.2  # pixels, below which nothing is seen
NO_EDGE, EDGE = 0.006, 0.04  # rise within a radius, encoded, at which an edge begins and is one


def radius_of(mount: MountSettings, pitch: float) -> float:
    """Standard deviation of the surroundings in pixels, of a print of so many pixels a millimetre;
    0 where nothing is sharpened."""
    if not mount.sharpen:
        return 0.0
    radius = mount.sharpen_radius * (pitch if mount.sharpen_for == "paper" else SCREEN)
    return radius if radius >= LEAST_RADIUS else 0.0


def margin_of(radius: float) -> int:
    """Pixels beyond a piece that its sharpening looks at."""
    return int(np.ceil(REACH * radius)) + 2 if radius else 0


def _weights(radius: float) -> F32:
    """Of a Gaussian, from its middle on, as far as they matter; an even number beside the middle,
    which the kernel takes by twos."""
    reach = 2 * int(np.ceil(max(1.0, REACH * radius) / 2.0))
    found = np.exp(-0.5 * (np.arange(reach + 1) / radius) ** 2)
    return np.asarray(found / (found[0] + 2.0 * found[1:].sum()), np.float32)


def edges(grey: F32, radius: float) -> F32:
    """0 to 1 where a picture (H, W), encoded 0 to 1, has edges: places where it rises, smoothed by
    the radius, within that radius."""
    soft = cv2.sepFilter2D(
        grey, cv2.CV_32F, *2 * (np.r_[_weights(radius)[:0:-1], _weights(radius)],),
        borderType=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    wide = np.pad(np.asarray(soft, np.float32), 1, mode="edge")
    across = (wide[1:-1, 2:] - wide[1:-1, :-2]) * np.float32(0.5 * radius)
    down = (wide[2:, 1:-1] - wide[:-2, 1:-1]) * np.float32(0.5 * radius)
    return np.asarray(smooth_step(cv2.magnitude(across, down), NO_EDGE, EDGE), np.float32)


def grey_part(numbers: Numbers) -> F32:
    """Encoded greys (H, W), 0 to 1, of output numbers; of colours their encoded mean by luminance,
    near enough to find edges by."""
    levels = np.float32(np.iinfo(numbers.dtype).max)
    if numbers.ndim == 2:
        return np.asarray(numbers * (np.float32(1.0) / levels), np.float32)
    weights = (SRGB_LUMINANCE / levels).astype(np.float32)
    return np.asarray(cv2.transform(numbers.astype(np.float32), weights[None]), np.float32)


def sharpened(numbers: Numbers, mount: MountSettings, radius: float) -> Numbers:
    """Output numbers (H, W) or (H, W, 3) sharpened, uint8 or uint16."""
    if not radius:
        return numbers
    top = np.iinfo(numbers.dtype).max
    given = np.ascontiguousarray(numbers)
    out = np.empty_like(given)
    rows = len(out), -1
    kernels.by_rows(
        kernels.sharpen, len(out), given.reshape(rows), numbers.shape[1], _weights(radius),
        *np.array(
            [top, mount.sharpen * top, mount.sharpen_threshold / 100.0, mount.sharpen_edges,
             NO_EDGE, 1.0 / (EDGE - NO_EDGE), radius / 2.0], np.float32,
        ),
        out.reshape(rows),
    )  # fmt: skip
    return out


def sharpened_strips(
    strips: Iterator[Numbers], margin: int, work: Callable[[Numbers], Numbers]
) -> Iterator[Numbers]:
    """Strips from top to bottom, each worked on with so many rows above and below it."""
    if not margin:
        yield from strips
        return
    above: Numbers | None = None
    held: list[Numbers] = []
    rows = 0

    def worked(last: bool) -> Iterator[Numbers]:
        nonlocal above, held, rows
        whole = np.concatenate([*([] if above is None else [above]), *held])
        first = 0 if above is None else len(above)
        stop = len(whole) if last else len(whole) - margin
        if stop > first:
            yield work(whole)[first:stop]
        above = whole[max(0, stop - margin) : stop]
        held, rows = [whole[stop:]], len(whole) - stop

    for strip in strips:
        held.append(strip)
        rows += len(strip)
        if rows > margin:
            yield from worked(last=False)
    if held:
        yield from worked(last=True)
