"""`python -m demo.scenes FOLDER [NAME …] [--size 2400] [--samples 8] [--quick]`: renders scenes.

Each becomes FOLDER/NAME.npz: `cube` (H, W, bands) float16 radiance, `bands` nm, `white` what a
perfect white reads in the scene's main light, `depth`. A quick one is a small picture of one pass.
"""

import argparse
import importlib
import time
from pathlib import Path

import numpy as np

from .spectra import BANDS

SCENES = {
    "shelf": "shelf",
    "yard": "yard",
}
UPRIGHT = {"head", "chimney"}


def main() -> None:
    """Render the scenes named, or all."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("folder", type=Path)
    read.add_argument("names", nargs="*", choices=[*SCENES, []])
    read.add_argument("--size", type=int, default=2400, help="long side, pixels")
    read.add_argument("--samples", type=int, default=8)
    read.add_argument("--quick", action="store_true")
    given = read.parse_args()
    given.folder.mkdir(parents=True, exist_ok=True)
    for name in given.names or SCENES:
        began = time.monotonic()
        print(name, flush=True)
        size = (given.size, given.size * 2 // 3)
        if name in UPRIGHT:
            size = size[::-1]
        scene = importlib.import_module(f"demo.scenes.{SCENES[name]}")
        made = scene.picture(size, given.samples, given.quick)
        path = given.folder / f"{name}.npz"
        half = path.with_suffix(".part.npz")
        np.savez(
            half,
            cube=made.cube.astype(np.float16),
            bands=BANDS,
            white=scene.WHITE,
            depth=made.depth.astype(np.float32),
        )
        half.rename(path)
        print(f"{name}: {time.monotonic() - began:.0f} s", flush=True)


if __name__ == "__main__":
    main()
