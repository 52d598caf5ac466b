"""Makes the demo captures: `python -m demo.captures FOLDER`.

FOLDER holds still.npz and yard.npz, rendered band pictures: `cube` (H, W, B) relative radiance,
`bands` (nm), `white` (what a perfect white under the scene's main light reads). The captures go to
`demo/captures`, and a small cube of each scene to `demo/truth`, by which `demo.accuracy` judges.
"""

import sys
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from silvrin.core.spectra.grid import WAVELENGTHS
from silvrin.core.spectra.illuminants import light

from .camera import Shot, expose, write_dng
from .target import target_scene

HERE = Path(__file__).parent
CAPTURES, TRUTH = HERE / "captures", HERE / "truth"
ENLARGE = 2.0
TRUTH_SIZE = (300, 200)
STILL, YARD = 2.55, 2.1  # stops above a meter reading of a perfect white in full light


@dataclass(frozen=True)
class Scene:
    """Spectral radiance by band, and that of a perfect white in the main light."""

    cube: NDArray[np.floating]  # (H, W, B)
    white: NDArray[np.float64]  # (B,)
    bands: NDArray[np.float64]  # nm

    def cropped(self, x0: float, y0: float, x1: float, y1: float) -> "Scene":
        """A part of the picture, in parts of its sides."""
        height, width = self.cube.shape[:2]
        rows, columns = (
            slice(int(y0 * height), int(y1 * height)),
            slice(int(x0 * width), int(x1 * width)),
        )
        return Scene(self.cube[rows, columns], self.white, self.bands)

    def relit(self, temperature: float) -> "Scene":
        """In light of another temperature; the white stays, so that a camera balanced for it
        sees the change."""
        lamp = np.interp(self.bands, WAVELENGTHS, light(temperature) / light(5500.0))
        return Scene(self.cube * lamp.astype(np.float32), self.white, self.bands)


def to_grid(bands: NDArray[np.float64]) -> NDArray[np.float64]:
    """(53, B): linear interpolation from the bands to the wavelength grid, ends held."""
    return np.stack([np.interp(WAVELENGTHS, bands, row) for row in np.eye(len(bands))], axis=1)


def shoot(scene: Scene, stops: float, file: str, shot: Shot, enlarge: float = ENLARGE) -> None:
    """A scene through the camera into a DNG, so many stops above the white's meter reading."""
    rgb, neutral = expose(scene.cube, scene.white, to_grid(scene.bands))
    size = (round(rgb.shape[1] * enlarge), round(rgb.shape[0] * enlarge))
    if enlarge != 1.0:
        rgb = cv2.resize(rgb, size, interpolation=cv2.INTER_CUBIC)
    write_dng(CAPTURES / f"{file}.dng", rgb * 2.0**stops, neutral, shot)
    print(file, size, (CAPTURES / f"{file}.dng").stat().st_size >> 10, "KiB")


def keep_truth(name: str, scene: Scene, stops: float) -> None:
    """The scene at a small size, each pixel the mean radiance of its area."""
    bands = [
        cv2.resize(scene.cube[..., b].astype(np.float32), TRUTH_SIZE, interpolation=cv2.INTER_AREA)
        for b in range(len(scene.bands))
    ]
    cube = (np.stack(bands, axis=-1) / scene.white).astype(np.float16)
    np.savez_compressed(
        TRUTH / f"{name}.npz", cube=cube, white=scene.white, bands=scene.bands, stops=stops
    )


def main(folder: Path) -> None:
    """Write every demo capture and truth."""
    CAPTURES.mkdir(exist_ok=True)
    TRUTH.mkdir(exist_ok=True)

    def rendered(name: str) -> Scene:
        data = np.load(folder / f"{name}.npz")
        return Scene(data["cube"], data["white"].astype(np.float64), data["bands"])

    still, yard, target = rendered("still"), rendered("yard"), Scene(*target_scene())
    second = Fraction(1, 125)
    day = "2026:05:16"
    shoot(still, STILL, "01 glaze bench", Shot(f"{day} 10:42:10", second, 8.0, 100, 50.0, 11))
    shoot(
        still.cropped(0.40, 0.10, 1.0, 0.90),
        STILL,
        "02 jug and bowl",
        Shot(f"{day} 10:55:31", second, 5.6, 100, 85.0, 12),
    )
    shoot(
        still.relit(4000.0),
        STILL - 0.2,
        "03 bench at sundown",
        Shot(f"{day} 20:08:02", Fraction(1, 30), 5.6, 400, 50.0, 13),
    )
    day, second = "2026:05:17", Fraction(1, 250)
    shoot(yard, YARD, "04 bottle kiln", Shot(f"{day} 12:20:45", second, 8.0, 100, 28.0, 14))
    shoot(
        yard.cropped(0.45, 0.0, 0.90, 1.0),
        YARD,
        "05 kiln upright",
        Shot(f"{day} 12:26:12", second, 8.0, 100, 50.0, 15),
    )
    shot = Shot(f"{day} 15:02:40", Fraction(1, 60), 8.0, 100, 85.0, 16)
    shoot(target, 0.0, "06 target", shot, enlarge=1.0)
    keep_truth("01 glaze bench", still, STILL)
    keep_truth("04 bottle kiln", yard, YARD)
    keep_truth("06 target", target, 0.0)


if __name__ == "__main__":
    main(Path(sys.argv[1]))
