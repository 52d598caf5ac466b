"""What is measured on a finished picture: how its tones are spread, its grain, and the tint of its
paper."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ...errors import BadReference
from ..colour import BT2020_TO_XYZ, decode_srgb, encode_srgb, lab_of
from ..paper.paper import Paper

Floats = NDArray[np.float64]

TONES = 256
LEVELS = (np.arange(TONES) + 0.5) / TONES  # shares of a picture that are darker
LEAST_SIDE, JUDGED_SIDE = 64, 700  # pixels of a reference; from which on its grain can be seen
MOST_SIDE = 2000  # to which it is reduced
FLAT = 1.5  # deviation of output numbers along a border
MOST_BORDER = 0.25  # of a side
COLOURED = 12.0  # of a* b*, by which colours of one lightness differ in a coloured picture
TINTED, NEARER = 3.0, 1.5  # of a* b*: a base that is told, and how much nearer another paper lies
WHITE_XYZ = BT2020_TO_XYZ.sum(axis=1)
# inverse of BT2020_TO_SRGB
SRGB_TO_BT2020 = np.array(
    [[0.6274, 0.3293, 0.0433], [0.0691, 0.9195, 0.0114], [0.0164, 0.0880, 0.8956]]
)


@dataclass(frozen=True)
class Reference:
    """What is measured on a finished picture."""

    tones: Floats  # (256,) output numbers 0-255 that LEVELS of it are darker than
    noise: float | None  # deviation of output numbers of neighbours; None where it is too small
    tint: tuple[float, float] | None  # a*, b* of its base; None where nothing in it is light
    long_side: int


def reference_of(light: NDArray[np.floating]) -> Reference:
    """Of linear BT.2020 (H, W, 3), 0 to 1, upright. Raises BadReference for a picture that is too
    small or has colours of its own."""
    height, width = light.shape[:2]
    if min(height, width) < LEAST_SIDE:
        raise BadReference(
            f"the picture is {width} x {height} pixels; its tones are told from {LEAST_SIDE} x "
            f"{LEAST_SIDE} on. Give a larger one."
        )
    luminance = np.clip(light @ BT2020_TO_XYZ[1], 0.0, 1.0)
    rows, columns = _inside(255.0 * encode_srgb(luminance))
    # an even border is bare paper, where it is the lightest there is: that is white
    border = np.ones((height, width), bool)
    border[rows, columns] = False
    base = float(np.median(luminance[border])) if border.any() else 0.0
    luminance, light = luminance[rows, columns], light[rows, columns]
    if base >= np.quantile(luminance, 0.99):
        luminance = np.minimum(luminance / base, 1.0)
    numbers = 255.0 * encode_srgb(luminance)
    if np.ptp(numbers) < 2.0:
        raise BadReference(
            "the picture is of one tone all over; give one that holds shadows and lights."
        )
    tint = _tint(light)
    long_side = max(numbers.shape)
    noise = noise_of(numbers) if long_side >= JUDGED_SIDE else None
    return Reference(np.quantile(numbers, LEVELS), noise, tint, long_side)


def _inside(numbers: Floats) -> tuple[slice, slice]:
    """Where a picture lies within an even border, as that of a scanned print."""

    def along(deviation: Floats) -> slice:
        most = int(MOST_BORDER * len(deviation))
        first = next((i for i in range(most) if deviation[i] > FLAT), 0)
        last = next((i for i in range(most) if deviation[-1 - i] > FLAT), 0)
        return slice(first, len(deviation) - last)

    return along(numbers.std(axis=1)), along(numbers.std(axis=0))


def _tint(light: NDArray[np.floating]) -> tuple[float, float] | None:
    """a*, b* of the lightest of a picture. Raises BadReference where colours of one lightness
    differ, as they do in no print that is toned all over."""
    small = light[:: max(1, len(light) // 400), :: max(1, light.shape[1] // 400)].reshape(-1, 3)
    lab = _lab(small)
    lightness = lab[:, 0]
    spread = []
    for low in range(10, 95, 5):
        here = lab[(lightness >= low) & (lightness < low + 5), 1:]
        if len(here) >= 30:
            spread.append((len(here), np.hypot(*(here - np.median(here, axis=0)).T)))
    if spread and np.quantile(np.concatenate([s for _, s in spread]), 0.9) > COLOURED:
        raise BadReference(
            "the picture is in colour; a match needs a black and white one, toned as it may be."
        )
    light_part = lab[lightness > max(70.0, float(np.quantile(lightness, 0.98)))]
    if len(light_part) < 10:
        return None
    a, b = np.median(light_part[:, 1:], axis=0)
    return float(a), float(b)


def _lab(rgb: NDArray[np.floating]) -> Floats:
    """CIELAB (N, 3) of linear BT.2020 (N, 3), to its white."""
    return lab_of(np.asarray(rgb, np.float64) @ BT2020_TO_XYZ.T / WHITE_XYZ)


def noise_of(numbers: NDArray[np.floating]) -> float:
    """Deviation of output numbers (H, W) that is grain: by Immerkær's filter (1996), which lines
    and planes do not move, over the quietest fifth of middle tones in squares of 16 pixels."""
    kernel = np.array([[1.0, -2.0, 1.0], [-2.0, 4.0, -2.0], [1.0, -2.0, 1.0]])
    given = np.asarray(numbers, np.float32)
    off = np.abs(cv2.filter2D(given, cv2.CV_32F, kernel)) * np.sqrt(np.pi / 2.0) / 6.0
    height, width = (side // 16 * 16 for side in given.shape)
    if not height or not width:
        return 0.0

    def squares(values: NDArray[np.floating]) -> Floats:
        parts = values[:height, :width].reshape(height // 16, 16, width // 16, 16)
        return np.asarray(parts.mean(axis=(1, 3), dtype=np.float64))

    means, deviations = squares(given), squares(off)
    middle = deviations[(means > 60.0) & (means < 200.0)]
    return float(np.quantile(middle, 0.2)) if middle.size >= 8 else 0.0


def paper_for(reference: Reference, paper: Paper, papers: list[Paper]) -> Paper:
    """The paper whose base has the reference's tint; the one in use where it is as near."""
    if reference.tint is None:
        return paper

    def apart(of: Paper) -> float:
        rgb = [int(of.tint[i : i + 2], 16) / 255.0 for i in (1, 3, 5)]
        lab = _lab(decode_srgb(np.array([rgb])) @ SRGB_TO_BT2020.T)[0]
        return float(np.hypot(*(lab[1:] - np.array(reference.tint))))

    if apart(paper) < TINTED:
        return paper
    same = [p for p in papers if p.kind == paper.kind]
    nearest = min(same, key=apart)
    return nearest if apart(nearest) < apart(paper) - NEARER else paper
