"""`python -m demo.scenes.masks`: which part of a picture is sky, foliage or the clay head, by what
the scenes are built of, at 1000 pixels a side; what areas of the printing map are judged by.

Each becomes demo/truth/masks/NAME.png, grey 0 to 255 by how much of a pixel is that.
"""

import importlib
from collections.abc import Callable
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
from .stage import Stage

FOLDER = Path(__file__).parent.parent / "truth" / "masks"
SIZE, SAMPLES = 1000, 12
LEAVES = ("grass", "crowns", "willows", "reeds", "pads", "leaves", "trees")
GREEN = ("ground", "near", "land")  # meadows: grass as a colour of the ground
# By mask: the capture, its scene, and whether a part of it, by name, belongs to it
WANTED: dict[str, tuple[str, str, Callable[[str], bool]]] = {
    "bottle kiln": ("08 bottle kiln.dng", "yard", lambda n: n.startswith(LEAVES)),
    "kiln chimney": ("09 kiln chimney.dng", "chimney", lambda n: n.startswith(LEAVES)),
    "clay pond": ("14 clay pond.dng", "pond", lambda n: n.startswith(LEAVES)),
    "terracotta head, eye": ("03 terracotta head, eye.dng", "head_eye", lambda n: n == "head"),
}


class _Seen(Exception):
    """A stage that stands ready; nothing else of it is wanted."""

    def __init__(self, stage: Stage) -> None:
        self.stage = stage


def _stop(stage: Stage, *_: object, **__: object) -> Rendered:
    raise _Seen(stage)


def parts_of(stage: Stage, belongs: Callable[[str], bool]) -> NDArray[np.float32]:
    """(H, W, 2) how much of a pixel is sky, and how much belongs to a kind of parts."""
    scene = stage.load()
    names = [shape.id() for shape in scene.shapes()]
    kind = np.array([belongs(name) for name in names])
    guide = mi.load_dict({"type": "aov", "aovs": "ii:shape_index,dd:depth"})
    total = 0.0
    for seed in range(SAMPLES):
        found = np.array(mi.render(scene, integrator=guide, spp=1, seed=seed))
        index, depth = found[..., -2], found[..., -1]
        there = depth > 0
        own = kind[np.clip(index.astype(int) - 1, 0, len(names) - 1)] & there  # from 1
        total = total + np.stack([~there, own], axis=-1).astype(np.float32)
    return np.asarray(total / SAMPLES, np.float32)


def main() -> None:
    """Render all masks."""
    FOLDER.mkdir(exist_ok=True)
    for module in (head, pond, yard):
        module.render = _stop
    for name, (file, scene, belongs) in WANTED.items():
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
                found = parts_of(seen.stage, belongs)
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
