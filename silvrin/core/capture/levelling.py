"""Lines drawn along what should be level or upright: by how much the picture is turned, and by how
much converging lines are brought apart."""

import numpy as np
from numpy.typing import NDArray

from ...errors import BadLines
from ..later import optimize
from ..places import PicturePlaces
from .geometry import Geometry
from .settings import CaptureSettings

Floats = NDArray[np.float64]
SHORTEST = 0.01  # of the long side
MOST_TURN, MOST_KEYSTONE = 45.0, 0.8  # what the station can do
LEFT = 0.05  # degrees that a line may be off at the end


def levelled(size: tuple[int, int], settings: CaptureSettings, lines: Floats) -> dict[str, float]:
    """The fields of the Capture station that make lines level or upright, whichever they are
    nearer to: one line turns the picture; two that are both upright, or both level, also become
    parallel.

    `lines` (1 or 2, 2, 2) are two ends each, in pixels of the finished picture under `settings` of
    a capture of a size (width, height). Raises BadLines for what cannot be done.
    """
    geometry = Geometry(*size, settings)
    away = lines[:, 1] - lines[:, 0]
    if (np.hypot(*away.T) < SHORTEST * max(size)).any():
        raise BadLines("A line was too short to tell a direction; draw it along the whole edge.")
    upright = np.abs(away[:, 1]) > np.abs(away[:, 0])
    if upright.any() and not upright.all():
        raise BadLines(
            "One line is upright and one level; draw two upright ones to make them parallel, two "
            "level ones, or a single line to turn the picture."
        )
    ends = geometry.picture_to_capture(PicturePlaces(lines.reshape(-1, 2)))
    fields = ["straighten"]
    if len(lines) > 1:
        fields.append("keystone_vertical" if upright[0] else "keystone_horizontal")
    start = [getattr(settings, field) for field in fields]
    most = np.array([MOST_TURN, MOST_KEYSTONE][: len(fields)])

    def off(values: Floats) -> Floats:
        """Degrees by which the lines are off under values of the fields."""
        tried = settings.model_copy(update={"crop": None, **dict(zip(fields, values, strict=True))})
        places = Geometry(*size, tried).capture_to_picture(ends).reshape(-1, 2, 2)
        dx, dy = (places[:, 1] - places[:, 0]).T
        across, along = (dx, dy) if upright[0] else (dy, dx)
        return np.asarray(np.degrees(np.arctan(across / np.where(along == 0, 1e-9, along))))

    found = optimize.least_squares(
        off, np.clip(start, -0.99 * most, 0.99 * most), bounds=(-most, most),
        x_scale=[10.0, 0.2][: len(fields)],
    )  # fmt: skip
    if np.abs(off(found.x)).max() > LEFT:
        raise BadLines(
            "These lines meet too near to be made parallel; the station turns up to "
            f"{MOST_TURN:g} degrees and spreads up to {MOST_KEYSTONE:g}. Check that both lie along "
            "edges that are parallel in the subject."
        )
    digits = {"straighten": 3, "keystone_vertical": 4, "keystone_horizontal": 4}
    return {
        field: round(float(value), digits[field])
        for field, value in zip(fields, found.x, strict=True)
    }
