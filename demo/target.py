"""A target: 24 patches from published spectra and a grey wedge of 21 steps, under even light.

The patches are those measured by N. Ohta (1997), as colour-science carries them. The wedge runs in
steps of 0.10 in density from 0.05, neutral.
"""

import colour
import cv2
import numpy as np
from numpy.typing import NDArray

from silvrin.core.spectra.illuminants import light

WIDTH, HEIGHT = 1500, 1000
BANDS = np.arange(380.0, 781.0, 20.0)
TEMPERATURE = 6500.0  # under an overcast sky
CARD = 0.12  # reflectance of the board the patches lie on
PATCH, GAP = 176, 24
WEDGE = 10.0 ** -(0.05 + 0.10 * np.arange(21))


def places() -> list[tuple[int, int, int, int]]:
    """Left, top, width, height of the 24 patches, then of the 21 steps, in pixels."""
    across = 6 * PATCH + 5 * GAP
    left, top = (WIDTH - across) // 2, 70
    patches = [
        (left + column * (PATCH + GAP), top + row * (PATCH + GAP), PATCH, PATCH)
        for row in range(4)
        for column in range(6)
    ]
    step = across // 21
    return patches + [(left + i * step, top + 4 * (PATCH + GAP) - 10, step, 90) for i in range(21)]


def reflectances() -> NDArray[np.float64]:
    """(45, B): of the patches, then of the steps."""
    chart = colour.SDS_COLOURCHECKERS["cc_ohta"].values()
    patches = [np.interp(BANDS, patch.wavelengths, patch.values) for patch in chart]
    return np.stack([*patches, *(np.full(len(BANDS), grey) for grey in WEDGE)])


def target_scene() -> tuple[NDArray[np.float32], NDArray[np.float64], NDArray[np.float64]]:
    """Cube (H, W, B), white (B,) and bands, for `demo.captures.Scene`."""
    rng = np.random.default_rng(21)
    white = np.interp(BANDS, np.arange(380, 901, 10), light(TEMPERATURE))
    # fibres of the board, seen in its reflectance only
    fibre = cv2.GaussianBlur(rng.standard_normal((HEIGHT, WIDTH)), (0, 0), 1.2)
    scene = np.repeat((CARD * (1.0 + 0.12 * fibre))[..., None], len(BANDS), axis=2)
    for (x, y, w, h), spectrum in zip(places(), reflectances(), strict=True):
        scene[y - 3 : y + h + 5, x - 1 : x + w + 5] *= 0.55  # the shadow of the patch's edge
        scene[y : y + h, x : x + w] = spectrum
    scene = cv2.GaussianBlur(scene, (0, 0), 0.8)  # the lens
    return (scene * white).astype(np.float32), white, BANDS
