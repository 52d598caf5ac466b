"""`python -m demo.scenes.masks`: which part of a picture is sky, foliage or the clay head, by what
the scenes are built of, at 1000 pixels a side; what areas of the printing map are judged by.

Each becomes demo/truth/masks/NAME.png, grey 0 to 255 by how much of a pixel is that.
"""

import importlib
from pathlib import Path
from tempfile import TemporaryDirectory

import cv2
import mitsuba as mi
import numpy as np
from numpy.typing import NDArray

from ..captures import TAKES, framed
from . import head, pond, yard
from .__main__ import LARGER, SCENES, UPRIGHT
from .render import Job, Rendered
from .spectra import BANDS
from .stage import Stage

FOLDER = Path(__file__).parent.parent / "truth" / "masks"
SIZE, SAMPLES = 1000, 12
# Leaves and meadows are what reflects so much more at 800 nm than at 670 nm, of the sum of both
GREEN = 0.45
RED, INFRARED = 670.0, 800.0
# By mask: the capture, its scene
WANTED = {
    "bottle kiln": ("08 bottle kiln.dng", "yard"),
    "kiln chimney": ("09 kiln chimney.dng", "chimney"),
    "clay pond": ("14 clay pond.dng", "pond"),
    "terracotta head, eye": ("03 terracotta head, eye.dng", "head_eye"),
}


class _Seen(Exception):
    """A stage that stands ready; nothing else of it is wanted."""

    def __init__(self, stage: Stage) -> None:
        self.stage = stage


def _stop(stage: Stage, *_: object, **__: object) -> Rendered:
    raise _Seen(stage)


def parts_of(stage: Stage, head: bool) -> NDArray[np.float32]:
    """(H, W, 2) how much of a pixel is sky, and how much is leaves, or the head."""
    scene = stage.load()
    bands = np.abs(BANDS[:, None] - [RED, INFRARED, INFRARED]).argmin(axis=0)
    stage.show(bands)
    names = [shape.id() for shape in scene.shapes()]
    guide = mi.load_dict({"type": "aov", "aovs": "ii:shape_index,dd:depth,aa:albedo"})
    total = np.zeros(1, np.float32)
    for seed in range(SAMPLES):
        found = np.array(mi.render(scene, integrator=guide, spp=1, seed=seed))
        index, depth, red, infrared = (found[..., c] for c in range(4))
        there = depth > 0
        if head:
            own = there & (index.astype(int) - 1 == names.index("head"))  # from 1
        else:
            own = there & (infrared - red > GREEN * (infrared + red))
        total = total + np.stack([~there, own], axis=-1).astype(np.float32)
    return np.asarray(total / SAMPLES, np.float32)


def main() -> None:
    """Render all masks."""
    FOLDER.mkdir(exist_ok=True)
    for module in (head, pond, yard):
        module.render = _stop
    for name, (file, scene) in WANTED.items():
        take = next(take for take in TAKES if take.file == file)
        # what the lens draws otherwise is framed at the size of the capture
        long = round(take.long_side * 1.05) if scene in LARGER else SIZE
        size = (long, round(long * 2 / 3))
        size = size[::-1] if scene in UPRIGHT else size
        module, function = SCENES[scene]
        with TemporaryDirectory() as folder:
            try:
                job = Job(size, SAMPLES, False, Path(folder))
                getattr(importlib.import_module(f"demo.scenes.{module}"), function)(job)
            except _Seen as seen:
                found = parts_of(seen.stage, "head" in name)
        found = framed(take, found, channel=1)
        small = SIZE / max(found.shape)
        found = cv2.resize(found, None, fx=small, fy=small, interpolation=cv2.INTER_AREA)
        for n, what in enumerate(("sky", "foliage" if "head" not in name else "head")):
            if found[..., n].any():
                mask = np.asarray(np.clip(found[..., n], 0, 1) * 255 + 0.5, np.uint8)
                cv2.imwrite(str(FOLDER / f"{name}, {what}.png"), mask)
        print(name, found.shape, found.mean(axis=(0, 1)))


if __name__ == "__main__":
    main()
