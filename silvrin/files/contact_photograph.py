"""A contact process's target read from a photograph or a scan of its print."""

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from ..core.colour import BT2020_TO_XYZ
from ..core.contact.photographed import densities_of
from ..core.contact.target import Target
from ..errors import BadCapture, NotAnImage, SilvrinError
from .capture import read_capture
from .kinds import sniff

PAPER = 0.06  # density of a paper's white, where it is not known


def is_picture(path: Path) -> bool:
    """Whether a file is a picture, and no list of readings."""
    try:
        sniff(path)
    except (NotAnImage, BadCapture, OSError):
        return False
    return True


def read_photograph(
    path: Path, steps: int, base: float = PAPER, name: str | None = None
) -> NDArray[np.float64]:
    """(N,) densities of the patches in their order; `base` is that of the paper's white. A camera's
    raw and a scan tell light as it is; a camera's own JPEG has tones of its own. Raises BadCapture,
    SilvrinError."""
    developed = read_capture(path, name)
    weights = BT2020_TO_XYZ[1].astype(np.float32)
    light = developed.light.astype(np.float32) @ weights
    limit = float(np.dot(weights, np.minimum(developed.limits, 65535.0)))
    try:
        return densities_of(light, Target(steps), limit, base)
    except SilvrinError as error:
        raise SilvrinError(f"{name or path.name}: {error}") from error
