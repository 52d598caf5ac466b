"""Makes the demo captures from rendered band pictures: `python -m demo.captures FOLDER`.

FOLDER holds still.npz and yard.npz: `cube` (H, W, B) relative radiance, `bands` (nm), `white`
(what a perfect white under the scene's main light reads). The captures, and a small cube of each
scene as ground truth for tests, are written to `demo/captures` and `tests/published/scenes`.
"""

import sys
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from silvrin.core.spectra.grid import WAVELENGTHS
from silvrin.core.spectra.illuminants import light

from .camera import Shot, expose, write_dng

HERE = Path(__file__).parent
ENLARGE = 2.0


def _to_grid(bands: NDArray[np.float64]) -> NDArray[np.float64]:
    """(53, B): linear interpolation from the bands to the wavelength grid, ends held."""
    return np.stack([np.interp(WAVELENGTHS, bands, row) for row in np.eye(len(bands))], axis=1)


def main(folder: Path) -> None:
    """Write every demo capture."""
    out = HERE / "captures"
    out.mkdir(exist_ok=True)
    scenes = {name: np.load(folder / f"{name}.npz") for name in ("still", "yard")}

    def shoot(
        scene: str,
        file: str,
        shot: Shot,
        stops: float = 0.0,
        crop: tuple[float, float, float, float] = (0, 0, 1, 1),
        relit: float | None = None,
    ) -> None:
        data = scenes[scene]
        cube, white, bands = data["cube"], data["white"].astype(np.float64), data["bands"]
        height, width = cube.shape[:2]
        x0, y0, x1, y1 = crop
        cube = cube[int(y0 * height) : int(y1 * height), int(x0 * width) : int(x1 * width)]
        if relit:  # the camera stays balanced for daylight
            lamp = np.interp(bands, WAVELENGTHS, light(relit) / light(5500.0))
            cube = cube * lamp.astype(np.float32)
        rgb, neutral = expose(cube, white, _to_grid(bands))
        size = (round(rgb.shape[1] * ENLARGE), round(rgb.shape[0] * ENLARGE))
        rgb = cv2.resize(rgb, size, interpolation=cv2.INTER_CUBIC) * 2.0**stops
        write_dng(out / f"{file}.dng", rgb, neutral, shot)
        print(file, size, (out / f"{file}.dng").stat().st_size >> 10, "KiB")

    shoot(
        "still",
        "01 glaze bench",
        Shot("Glaze bench", "2026:05:16 10:42:10", Fraction(1, 125), 8.0, 100, 50.0, 11),
        stops=STILL,
    )
    shoot(
        "still",
        "02 jug and bowl",
        Shot("Jug and bowl", "2026:05:16 10:55:31", Fraction(1, 125), 5.6, 100, 85.0, 12),
        stops=STILL,
        crop=(0.40, 0.10, 1.0, 0.90),
    )
    shoot(
        "still",
        "03 bench at sundown",
        Shot("Bench at sundown", "2026:05:16 20:08:02", Fraction(1, 30), 5.6, 400, 50.0, 13),
        stops=STILL - 0.2,
        relit=4000.0,
    )
    shoot(
        "yard",
        "04 bottle kiln",
        Shot("Bottle kiln", "2026:05:17 12:20:45", Fraction(1, 250), 8.0, 100, 28.0, 14),
        stops=YARD,
    )
    shoot(
        "yard",
        "05 kiln upright",
        Shot("Kiln upright", "2026:05:17 12:26:12", Fraction(1, 250), 8.0, 100, 50.0, 15),
        stops=YARD,
        crop=(0.45, 0.0, 0.90, 1.0),
    )


STILL, YARD = 2.55, 2.1  # stops above a meter reading of a perfect white in full light

if __name__ == "__main__":
    main(Path(sys.argv[1]))
