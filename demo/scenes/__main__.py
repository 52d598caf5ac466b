"""`python -m demo.scenes FOLDER [NAME …] [--size 2400] [--samples 6] [--quick]`: renders scenes.

Each becomes FOLDER/NAME.npz: `cube` (H, W, bands) float16 radiance, `bands` nm, `white` what a
perfect white reads in the scene's main light, `depth` m. A quick one is one pass in grey.
"""

import argparse
import importlib
import time
from pathlib import Path

import numpy as np

from .render import Job
from .spectra import BANDS

# By file: the module that builds it and the function there that renders it
SCENES = {
    "shelf": ("shelf", "picture"),
    "yard": ("yard", "noon"),
    "evening": ("yard", "evening"),
    "chimney": ("yard", "chimney"),
    "pond": ("pond", "picture"),
    "loft": ("loft", "picture"),
    "loft_moved": ("loft", "moved"),
    "wheel": ("wheel", "picture"),
    "head_eye": ("head", "eye"),
    "head_ear": ("head", "ear"),
    "head_wall": ("head", "wall"),
    "plate": ("table", "plate"),
    "raku": ("table", "raku"),
}
UPRIGHT = {"chimney", "head_eye", "head_ear", "head_wall"}
# Rendered a little larger, since the camera moves or the lens distorts
LARGER = {"chimney", "loft", "loft_moved"}


def main() -> None:
    """Render the scenes named, or all."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("folder", type=Path)
    read.add_argument("names", nargs="*", choices=[*SCENES, []])
    read.add_argument("--size", type=int, default=2400, help="long side, pixels")
    read.add_argument("--samples", type=int, default=6)
    read.add_argument("--quick", action="store_true")
    given = read.parse_args()
    given.folder.mkdir(parents=True, exist_ok=True)
    for name in given.names or SCENES:
        began = time.monotonic()
        print(name, flush=True)
        long = round(given.size * 1.05) if name in LARGER else given.size
        size = (long, round(long * 2 / 3))
        if name in UPRIGHT:
            size = size[::-1]
        module, function = SCENES[name]
        render = getattr(importlib.import_module(f"demo.scenes.{module}"), function)
        made = render(Job(size, given.samples, given.quick, given.folder))
        path = given.folder / f"{name}.npz"
        half = path.with_suffix(".part.npz")
        np.savez(
            half,
            cube=made.cube.astype(np.float16),
            bands=BANDS,
            white=made.white,
            depth=made.depth.astype(np.float32),
        )
        half.rename(path)
        print(f"{name}: {time.monotonic() - began:.0f} s", flush=True)


if __name__ == "__main__":
    main()
