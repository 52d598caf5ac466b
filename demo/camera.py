"""An invented camera: spectral light in, a mosaic of counts out, written as DNG.

Development only; the captures it made are committed in `demo/captures`.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from io import BytesIO
from pathlib import Path

import cv2
import exiv2
import imagecodecs
import numpy as np
import simplejpeg
import tifffile
from numpy.typing import NDArray

from silvrin.core.colour import encode_srgb
from silvrin.core.spectra.grid import WAVELENGTHS, extend
from silvrin.core.spectra.illuminants import DAYLIGHT_C2_RATIO, daylight
from silvrin.core.spectra.tables import COLOUR_MATCHING, NATURAL_MEAN, NATURAL_SHAPES

MAKER, MODEL, CONVERTED = "Quarrywood", "Quarrywood Field 3", "Quarrywood Field 2"
BLACK, WHITE = 512, 16383
FULL_WELL = 42_000.0  # electrons at WHITE, base sensitivity 100
READ_NOISE = 2.6  # electrons
UNEVEN = 0.004  # standard deviation of the photosites' gain
BLUR = 0.6  # pixels: lens and the glass before the sensor
HEADROOM = 1.0  # stops between a perfect white in full light and WHITE: BaselineExposure
PREVIEW = 1200  # long side of the picture in the file, pixels
CUT_ON = 720.0  # nm, of the glass in the converted camera

Light = NDArray[np.float32]


@dataclass(frozen=True)
class Shot:
    """What is written beside the picture."""

    taken: str  # "2026:05:16 10:42:00"
    shutter: Fraction
    aperture: float
    iso: int
    lens: str
    focal_length: float
    seed: int
    bias: float = 0.0  # stops from what the meter said


@dataclass(frozen=True)
class Lens:
    """What a lens does to the picture's geometry.

    A point at distance r from the centre, half the diagonal being 1, comes from an ideal
    r (1 + barrel r²); red and blue from that much again times their magnification.
    """

    barrel: float = 0.0
    red: float = 1.0
    blue: float = 1.0

    def origins(self, size: tuple[int, int], larger: tuple[int, int], channel: int) -> Light:
        """(H, W, 2) where in a larger ideal picture each pixel's light comes from, as x and y."""
        width, height = size
        x, y = np.meshgrid(np.arange(width) + 0.5 - width / 2, np.arange(height) + 0.5 - height / 2)
        r2 = (x**2 + y**2) / ((width / 2) ** 2 + (height / 2) ** 2)
        scale = (1.0 + self.barrel * r2) * (self.red, 1.0, self.blue)[channel]
        place = [x * scale + larger[0] / 2 - 0.5, y * scale + larger[1] / 2 - 0.5]
        return np.stack(place, axis=-1).astype(np.float32)


@dataclass(frozen=True)
class Speck:
    """Dust before the sensor, as its shadow at f/16: place in sensor pixels, radius, depth."""

    x: float
    y: float
    radius: float
    depth: float

    def shadow(self, shape: tuple[int, int], aperture: float) -> Light:
        """(H, W) what it leaves of the light: wider and weaker at a wider aperture."""
        wide = 16.0 / aperture
        y, x = np.mgrid[0 : shape[0], 0 : shape[1]].astype(np.float32)
        away = np.hypot(x - self.x, y - self.y)
        soft = self.radius * wide * 0.5
        core = np.clip((self.radius * wide + soft / 2 - away) / soft, 0.0, 1.0)
        return 1.0 - self.depth / wide**2 * core * core * (3.0 - 2.0 * core)


# XYZ to cone responses of Hunt, Pointer and Estevez: CIE 159, from memory
CONES = np.array([[0.38971, 0.68898, -0.07868], [-0.22981, 1.18340, 0.04641], [0.0, 0.0, 1.0]])


def sensitivities(converted: bool = False) -> NDArray[np.float64]:
    """(3, 53) of the sensor, relative to energy, behind glass that blocks ultraviolet and
    infrared or, converted, behind glass that passes only infrared.

    Shaped as a good sensor's are: cone responses pulled apart, what would be negative missing;
    in the infrared the three dyes open one after the other and silicon grows blind.
    """
    if converted:
        opened = np.array([[1e-9, 1.0], [748.0, 18.0], [772.0, 16.0]])  # nm of half, and width
        dyes = np.array([[1.0], [0.80], [0.62]]) / (
            1.0 + np.exp((opened[:, :1] - WAVELENGTHS) / opened[:, 1:])
        )
        silicon = np.interp(WAVELENGTHS, [700, 800, 850, 900], [0.8, 0.62, 0.46, 0.30])
        return dyes * silicon / (1.0 + np.exp((CUT_ON - WAVELENGTHS) / 5.0))
    cones = np.zeros((3, len(WAVELENGTHS)))
    cones[:, : COLOUR_MATCHING.shape[1]] = CONES @ COLOUR_MATCHING
    long, middle, short = cones / cones.max(axis=1, keepdims=True)
    red, green = np.clip(long - 0.75 * middle, 0, None), np.clip(middle - 0.2 * long, 0, None)
    passed = 1.0 / (1.0 + np.exp((WAVELENGTHS - 668.0) / 9.0))
    passed = passed / (1.0 + np.exp((402.0 - WAVELENGTHS) / 5.0))
    raw = [0.8 * red / red.max(), green / green.max(), 0.85 * short]
    return np.stack(raw) * passed


@lru_cache(maxsize=1)
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
    cube: NDArray[np.floating],
    white: NDArray[np.floating],
    to_grid: NDArray[np.float64],
    converted: bool = False,
) -> Light:
    """Camera RGB (H, W, 3) of band radiance (H, W, B), a perfect white's green being 1."""
    response = sensitivities(converted) @ to_grid  # (3, B)
    response /= response[1] @ white
    return cube.astype(np.float32) @ response.T.astype(np.float32)


def neutral_of(white: NDArray[np.floating], to_grid: NDArray[np.float64]) -> NDArray[np.float64]:
    """Camera RGB of a perfect white, green 1, as the ordinary camera sees it."""
    seen = sensitivities() @ to_grid @ white
    return seen / seen[1]


def _mosaic(rgb: Light, shot: Shot) -> NDArray[np.uint16]:
    """Counts (H, W) of red, green, green, blue photosites with their noise."""
    rng = np.random.default_rng(shot.seed)
    soft = cv2.GaussianBlur(rgb, (0, 0), BLUR)
    height, width = (side - side % 2 for side in rgb.shape[:2])
    mosaic = np.empty((height, width))
    for row, column, channel in ((0, 0, 0), (0, 1, 1), (1, 0, 1), (1, 1, 2)):
        mosaic[row::2, column::2] = soft[row:height:2, column:width:2, channel]
    well = FULL_WELL * 100.0 / shot.iso
    electrons = np.clip(mosaic, 0.0, None) * 2.0**-HEADROOM * well
    electrons *= 1.0 + UNEVEN * np.random.default_rng(3).standard_normal(mosaic.shape)
    electrons = rng.poisson(np.clip(electrons, 0.0, 2.0 * well)) + rng.normal(
        0.0, READ_NOISE, mosaic.shape
    )
    counts = np.rint(electrons / well * (WHITE - BLACK) + BLACK)
    return np.clip(counts, 0, WHITE).astype(np.uint16)


def _preview(rgb: Light, neutral: NDArray[np.float64]) -> bytes:
    """A small JPEG as the camera shows it."""
    scale = PREVIEW / max(rgb.shape[:2])
    small = cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    srgb = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])
    from_srgb = colour_matrix() @ srgb
    to_srgb = np.linalg.inv(from_srgb / from_srgb.sum(axis=1, keepdims=True))
    linear = np.clip((small / neutral) @ to_srgb.T, 0.0, 1.0)
    return bytes(simplejpeg.encode_jpeg(np.rint(encode_srgb(linear) * 255).astype(np.uint8), 82))


def _rational(
    values: NDArray[np.float64] | Sequence[float], scale: int = 10_000
) -> tuple[int, ...]:
    return tuple(int(v) for x in np.ravel(values) for v in (round(float(x) * scale), scale))


def write_dng(
    path: Path,
    rgb: Light,
    neutral: NDArray[np.float64],
    shot: Shot,
    upright: bool = False,
    model: str = MODEL,
) -> None:
    """Mosaic with sensor noise, lossless JPEG, as DNG 1.4, with a small JPEG before it. The
    picture is as the sensor sees it; upright: the camera was turned, and the file says so."""
    counts = _mosaic(rgb, shot)
    common = [
        (271, "s", 0, MAKER, False),
        (272, "s", 0, model, False),
        (50706, "B", 4, bytes([1, 4, 0, 0]), False),
        (50707, "B", 4, bytes([1, 1, 0, 0]), False),
        (50708, "s", 0, model, False),
        (50721, "2i", 9, _rational(colour_matrix()), False),
        (50728, "2I", 3, _rational(neutral), False),
        (50730, "2i", 1, _rational([HEADROOM], 100), False),
        (50778, "H", 1, 21, False),
        (274, "H", 1, 6 if upright else 1, False),
    ]
    sensor = [
        (33421, "H", 2, (2, 2), False),
        (33422, "B", 4, bytes([0, 1, 1, 2]), False),
        (50714, "H", 1, BLACK, False),
        (50717, "H", 1, WHITE, False),
    ]
    preview = _preview(rgb, neutral)
    height, width = simplejpeg.decode_jpeg_header(preview)[:2]
    packed = imagecodecs.ljpeg_encode(counts, bitspersample=14)
    whole = BytesIO()
    with tifffile.TiffWriter(whole) as file:
        file.write(
            iter([preview]),
            shape=(height, width, 3),
            dtype=np.uint8,
            photometric="ycbcr",
            compression="jpeg",
            rowsperstrip=height,
            subifds=1,
            subfiletype=1,
            metadata=None,
            datetime=shot.taken,
            extratags=common,
            software=None,
        )
        file.write(
            iter([packed]),
            shape=counts.shape,
            dtype=np.uint16,
            photometric=32803,
            compression=7,
            rowsperstrip=counts.shape[0],
            subfiletype=0,
            metadata=None,
            extratags=sensor,
            software=None,
        )
    path.write_bytes(whole.getvalue())
    write_exif(path, shot, model)


def write_exif(path: Path, shot: Shot, model: str = MODEL) -> None:
    """How a capture was taken, into its file."""
    image = exiv2.ImageFactory.open(str(path))
    image.readMetadata()
    exif = image.exifData()
    exif["Exif.Image.Make"], exif["Exif.Image.Model"] = MAKER, model
    for key, value in {
        "DateTimeOriginal": shot.taken,
        "ExposureTime": f"{shot.shutter.numerator}/{shot.shutter.denominator}",
        "FNumber": f"{round(shot.aperture * 10)}/10",
        "ISOSpeedRatings": str(shot.iso),
        "ExposureBiasValue": f"{round(shot.bias * 10)}/10",
        "FocalLength": f"{round(shot.focal_length * 10)}/10",
        "LensModel": shot.lens,
    }.items():
        exif[f"Exif.Photo.{key}"] = value
    image.setExifData(exif)
    image.writeMetadata()
