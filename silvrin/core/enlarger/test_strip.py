"""The test strip: one print under several times, a step wider each, or over the grades of paper.

Seven steps of 2 s give 2 to 14 s; steps in stops lie evenly about a time (8, 11.3, 16 s are half
stops). It is laid so that each strip crosses lights and darks; or one patch that matters is printed
at every time. Common practice, no source.
"""

from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field

from ..paper.paper import HARDEST, SOFTEST
from ..settings import range_of
from .settings import EnlargerSettings

EMPTY_COSTS = 0.1  # an empty place beside patches of another shape, in its logarithm

Part = Annotated[float, Field(ge=0, le=1)]


class TestStrip(BaseModel):
    """How a test strip is laid."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)
    over: Literal["time", "grade"] = "time"
    count: int = Field(7, ge=2, le=15, title="Strips")
    by: Literal["stops", "seconds"] = "stops"
    step: float = Field(
        0.5, ge=0.1, le=60, title="Step", description="Between neighbours, in stops or seconds."
    )
    patch: tuple[Part, Part] | None = Field(
        None,
        description="Middle of the one patch that is printed at every time, in parts of the "
        "picture from the left and the top; empty is the ordinary strip across the picture.",
    )
    lie: Literal["upright", "level"] | None = Field(
        None, description="How the strips lie; empty is as the picture asks."
    )

    def values(self, middle: float, grades: tuple[int, ...] = ()) -> list[float]:
        """Seconds of each strip, shortest first: multiples of the step, or stops about middle.
        Over grades: those that a graded paper has, else from the softest to the hardest."""
        if self.over == "grade" and grades:
            return [float(g) for g in grades]
        if self.over == "grade":
            return [float(g) for g in np.linspace(SOFTEST, HARDEST, self.count)]
        if self.by == "seconds":
            found = [self.step * (k + 1) for k in range(self.count)]
        else:
            found = [
                middle * 2.0 ** (self.step * (k - (self.count - 1) / 2)) for k in range(self.count)
            ]
        return [float(np.clip(t, *range_of(EnlargerSettings, "time"))) for t in found]


def lie_for(density: NDArray[np.floating]) -> Literal["upright", "level"]:
    """How strips lie so that each crosses lights and darks: along the way in which the rows or
    columns of a negative (H, W) differ most."""
    rows, columns = density.mean(axis=1).std(), density.mean(axis=0).std()
    return "upright" if rows >= columns else "level"


def patches(count: int) -> tuple[int, int]:
    """Columns and rows in which so many patches lie, each about as wide beside its height as the
    picture is, with few places left empty."""
    laid = [(-(-count // rows), rows) for rows in range(1, count + 1)]
    return min(
        laid, key=lambda cr: abs(np.log(cr[0] / cr[1])) + EMPTY_COSTS * (cr[0] * cr[1] - count)
    )


def edges(length: int, count: int) -> list[int]:
    """Where strips begin and the last one ends, over so many pixels."""
    return [length * k // count for k in range(count + 1)]
