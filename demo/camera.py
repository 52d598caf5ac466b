"""An invented camera: spectral light in, a mosaic of counts out, written as DNG.

Development only; the captures it made are committed in `demo/captures`.
"""

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile
from numpy.typing import NDArray

from silvrin.core.spectra.grid import WAVELENGTHS, extend
from silvrin.core.spectra.illuminants import DAYLIGHT_C2_RATIO, daylight
from silvrin.core.spectra.tables import COLOUR_MATCHING, NATURAL_MEAN, NATURAL_SHAPES

MAKER, MODEL = "Quarrywood", "Quarrywood Field 3"
BLACK, WHITE = 512, 16383
FULL_WELL = 42_000.0  # electrons at WHITE, base sensitivity 100
READ_NOISE = 2.6  # electrons
HEADROOM = 1.0  # stops between a perfect white in full light and WHITE: BaselineExposure


@dataclass(frozen=True)
class Shot:
    """What is written beside the picture."""

    taken: str  # "2026:05:16 10:42:00"
    shutter: Fraction
    aperture: float
    iso: int
    focal_length: float
    seed: int


# XYZ to cone responses of Hunt, Pointer and Estevez: CIE 159, from memory
CONES = np.array([[0.38971, 0.68898, -0.07868], [-0.22981, 1.18340, 0.04641], [0.0, 0.0, 1.0]])


def sensitivities() -> NDArray[np.float64]:
    """(3, 53) of the sensor behind ultraviolet- and infrared-blocking glass, relative to energy.

    Shaped as a good sensor's are: cone responses pulled apart, what would be negative missing.
    """
    cones = np.zeros((3, len(WAVELENGTHS)))
    cones[:, : COLOUR_MATCHING.shape[1]] = CONES @ COLOUR_MATCHING
    long, middle, short = cones / cones.max(axis=1, keepdims=True)
    red, green = np.clip(long - 0.75 * middle, 0, None), np.clip(middle - 0.2 * long, 0, None)
    passed = 1.0 / (1.0 + np.exp((WAVELENGTHS - 668.0) / 9.0))
    passed = passed / (1.0 + np.exp((402.0 - WAVELENGTHS) / 5.0))
    raw = [0.8 * red / red.max(), green / green.max(), 0.85 * short]
    return np.stack(raw) * passed


def colour_matrix() -> NDArray[np.float64]:
    """(3, 3) XYZ under D65 to camera: least squares over natural reflectances."""
    d65 = daylight(6500.0 * DAYLIGHT_C2_RATIO)
    rng = np.random.default_rng(1)
    shapes = np.stack([extend(row) for row in NATURAL_SHAPES])
    spectra = np.exp(extend(NATURAL_MEAN) + rng.standard_normal((400, len(shapes))) @ shapes)
    spectra[:200] = 1.0 + 0.2 * (spectra[:200] / spectra[:200].mean(1, keepdims=True) - 1.0)
    matching = np.zeros((3, len(WAVELENGTHS)))
    matching[:, : COLOUR_MATCHING.shape[1]] = COLOUR_MATCHING
    xyz = spectra @ (matching * d65).T / (matching[1] @ d65)
    raw = spectra @ (sensitivities() * d65).T / (sensitivities()[1] @ d65)
    weight = 1.0 / xyz.sum(axis=1, keepdims=True)
    return np.linalg.lstsq(xyz * weight, raw * weight, rcond=None)[0].T


def expose(
    cube: NDArray[np.floating], white: NDArray[np.floating], to_grid: NDArray[np.float64]
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Camera RGB (H, W, 3) of band radiance (H, W, B), a perfect white's green being 1; and the
    neutral: camera RGB of that white."""
    response = sensitivities() @ to_grid  # (3, B)
    neutral = response @ white
    return cube.astype(np.float64) @ (response / neutral[1]).T, neutral / neutral[1]


def write_dng(
    path: Path, rgb: NDArray[np.float64], neutral: NDArray[np.float64], shot: Shot
) -> None:
    """Mosaic with sensor noise, lossless JPEG, as DNG 1.4."""
    rng = np.random.default_rng(shot.seed)
    height, width = (side - side % 2 for side in rgb.shape[:2])
    mosaic = np.empty((height, width))
    mosaic[0::2, 0::2] = rgb[0:height:2, 0:width:2, 0]
    mosaic[0::2, 1::2] = rgb[0:height:2, 1:width:2, 1]
    mosaic[1::2, 0::2] = rgb[1:height:2, 0:width:2, 1]
    mosaic[1::2, 1::2] = rgb[1:height:2, 1:width:2, 2]
    well = FULL_WELL * 100.0 / shot.iso
    electrons = np.clip(mosaic, 0.0, None) * 2.0**-HEADROOM * well
    electrons = rng.poisson(np.minimum(electrons, 2.0 * well)) + rng.normal(
        0.0, READ_NOISE, mosaic.shape
    )
    counts = np.clip(np.rint(electrons / well * (WHITE - BLACK) + BLACK), 0, WHITE).astype(
        np.uint16
    )

    def rational(values: NDArray[np.float64] | list[float], scale: int = 10_000) -> tuple[int, ...]:
        return tuple(int(v) for x in np.ravel(values) for v in (round(float(x) * scale), scale))

    extra = [
        (271, "s", 0, MAKER, False),
        (272, "s", 0, MODEL, False),
        (33421, "H", 2, (2, 2), False),
        (33422, "B", 4, bytes([0, 1, 1, 2]), False),
        (33434, "2I", 1, (shot.shutter.numerator, shot.shutter.denominator), False),
        (33437, "2I", 1, rational([shot.aperture], 10), False),
        (34855, "H", 1, shot.iso, False),
        (36867, "s", 0, shot.taken, False),
        (37386, "2I", 1, rational([shot.focal_length], 10), False),
        (50706, "B", 4, bytes([1, 4, 0, 0]), False),
        (50707, "B", 4, bytes([1, 1, 0, 0]), False),
        (50708, "s", 0, MODEL, False),
        (50714, "H", 1, BLACK, False),
        (50717, "H", 1, WHITE, False),
        (50721, "2i", 9, rational(colour_matrix()), False),
        (50728, "2I", 3, rational(neutral), False),
        (50730, "2i", 1, rational([HEADROOM], 100), False),
        (50778, "H", 1, 21, False),
    ]
    packed = imagecodecs.ljpeg_encode(counts, bitspersample=14)
    tifffile.imwrite(
        path,
        iter([packed]),
        shape=counts.shape,
        dtype=np.uint16,
        photometric=32803,
        compression=7,
        rowsperstrip=height,
        metadata=None,
        datetime=shot.taken,
        extratags=extra,
        software=None,
    )
