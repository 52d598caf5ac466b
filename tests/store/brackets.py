"""A small bracket: the demo's loft as its truth has it, at a sixteenth of its pixels."""

from pathlib import Path

import cv2
import numpy as np

from demo.camera import expose, neutral_of, write_dng
from demo.captures import TAKES, TRUTH, to_grid

SIZE = 600, 400


def bracket(folder: Path) -> list[Path]:
    """Three frames two stops apart, the darkest first, as DNG files."""
    truth = np.load(TRUTH / "11 drying loft.npz")
    grid, white = to_grid(truth["bands"]), truth["white"].astype(np.float64)
    light = expose(truth["cube"].astype(np.float32) * white.astype(np.float32), white, grid)
    light = np.maximum(cv2.resize(light, SIZE, interpolation=cv2.INTER_CUBIC), 0.0)
    files = []
    for take in (take for take in TAKES if take.scene.startswith("loft")):
        files.append(folder / take.file)
        brightness = np.float32(2.0**take.stops)
        write_dng(files[-1], light * brightness, neutral_of(white, grid), take.shot)
    return files
