"""The densities of a target that was photographed or scanned.

Its four marks lay it straight. Between the patches it is paper white all over: a surface of the
second order is fitted to that (log of light over place), so that light which falls unevenly, and a
lens that darkens its corners, are taken out. What a patch has less of is its density above white.
"""

import cv2
import numpy as np
from numpy.typing import NDArray

from ...errors import SilvrinError
from .target import PATCH, QUIET, Box, Target, find_marks

Floats = NDArray[np.float64]

SEEN_SIDE = 2400  # pixels of the long side at which marks are looked for
PITCH = 10.0  # pixels a mm, of the target laid straight
LEAST_PITCH = 3.0  # pixels a mm that a photograph must have
LEFT, TOP, WIDTH, HEIGHT = 0.2, 0.12, 0.6, 0.5  # of a patch, where it is read: its number is below
CLIPPED = 0.01  # of the white that may lie at the picture's limit
DARK = 1e-6


def densities_of(light: NDArray[np.float32], target: Target, limit: float, base: float) -> Floats:
    """(N,) densities of the patches in their order, of linear light (H, W) whose limit is `limit`;
    `base` is the density of the paper's white. Raises SilvrinError in words."""
    straight = _straight(light, target)
    width, height = target.size
    inside = np.ones(straight.shape, bool)
    for mark in target.marks:
        inside[_pixels(mark, -QUIET / 2)] = False
    for patch in target.patches:
        inside[_pixels(patch, -0.5)] = False
    edge = round(0.5 * PITCH)
    inside[:edge] = inside[-edge:] = False
    inside[:, :edge] = inside[:, -edge:] = False
    if (straight[inside] >= 0.999 * limit).mean() > CLIPPED:
        raise SilvrinError(
            "The white of the target is at the picture's limit, so that nothing can be measured "
            "against it. Expose about a stop less."
        )
    y, x = np.nonzero(inside)
    white = np.log10(np.maximum(straight[inside], DARK))
    terms = _terms(x / (width * PITCH), y / (height * PITCH))
    fitted, *_ = np.linalg.lstsq(terms, white, rcond=None)
    places = np.array([[left, top] for left, top, _ in target.patches])
    middle = places + PATCH * np.array([LEFT + WIDTH / 2, TOP + HEIGHT / 2])
    there = _terms(middle[:, 0] / width, middle[:, 1] / height) @ fitted
    read = [float(np.mean(straight[_read(*patch)])) for patch in target.patches]
    return np.asarray(there - np.log10(np.maximum(read, DARK)) + base)


def _straight(light: NDArray[np.float32], target: Target) -> NDArray[np.float32]:
    """The target at `PITCH`, seen from above."""
    scale = min(1.0, SEEN_SIDE / max(light.shape))
    small = cv2.resize(light, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    top = float(np.percentile(small, 99.5))
    seen = np.rint(255.0 * np.clip(small / max(top, DARK), 0.0, 1.0) ** 0.45).astype(np.uint8)
    marks = find_marks(seen)
    missing = [n for n in range(4) if n not in marks]
    if missing:
        names = ("upper left", "upper right", "lower right", "lower left")
        raise SilvrinError(
            f"{4 - len(missing)} of the target's four marks are found; missing is the one at the "
            f"{names[missing[0]]}. Photograph all of the target, sharp and straight on, without "
            "anything over its corners."
        )
    there = np.concatenate([_corners(box) for box in target.marks])
    here = np.concatenate([(marks[n] + 0.5) / scale - 0.5 for n in range(4)])
    side = float(np.linalg.norm(here[1] - here[0]) / np.linalg.norm(there[1] - there[0]))
    if side < LEAST_PITCH:
        raise SilvrinError(
            f"The target is small in this picture, {side:.1f} pixels a millimetre; at least "
            f"{LEAST_PITCH:g} are needed. Fill the picture with it."
        )
    way, _ = cv2.findHomography(there * PITCH - 0.5, here)
    width, height = (round(v * PITCH) for v in target.size)
    smooth = cv2.GaussianBlur(light, (0, 0), side / PITCH / 2) if side > PITCH else light
    return np.asarray(
        cv2.warpPerspective(
            smooth, way, (width, height), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_REPLICATE,
        ),
        np.float32,
    )  # fmt: skip


def _corners(box: Box) -> Floats:
    left, top, side = box
    return np.array(
        [[left, top], [left + side, top], [left + side, top + side], [left, top + side]]
    )


def _pixels(box: Box, less: float) -> tuple[slice, slice]:
    """A box, smaller at each side by some mm."""
    left, top, side = box
    first = [round((at + less) * PITCH) for at in (top, left)]
    last = [round((at + side - less) * PITCH) for at in (top, left)]
    return slice(max(first[0], 0), last[0]), slice(max(first[1], 0), last[1])


def _read(left: float, top: float, side: float) -> tuple[slice, slice]:
    x, y = left + LEFT * side, top + TOP * side
    across = slice(round(x * PITCH), round((x + WIDTH * side) * PITCH))
    return slice(round(y * PITCH), round((y + HEIGHT * side) * PITCH)), across


def _terms(x: Floats, y: Floats) -> Floats:
    """(N, 6) of a surface of the second order."""
    return np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)
