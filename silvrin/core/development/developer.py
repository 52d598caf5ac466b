"""Kinds of developers, and what each changes in the known directions.

A fine-grain developer dissolves silver at the grains' edges: finer, softer, and it costs speed. A
high-acutance one exhausts beside dense parts and so draws edges, and its grain is sharper. A
speed-increasing one brings up the last exposed grains, and with them fog and grain. A compensating
one exhausts in the highlights, which bend over early. Directions: textbooks; figures are common
practice, no source.
"""

from dataclasses import dataclass, replace

from ..film.stock import CurveShape
from .settings import DeveloperKind


@dataclass(frozen=True)
class Developer:
    """What a developer changes beside the general one, under which a stock's figures hold."""

    kind: DeveloperKind
    speed: float  # stops of effective speed
    fog: float  # density
    granularity: float  # × the stock's
    grain: float  # × the stock's size
    edge: float  # part of a small difference from the density about it that is added to it
    shoulder: float  # log10 H by which the shoulder bends earlier, at most
    about: str


EDGE_REACH = 60.0  # µm over which developer diffuses in the emulsion
EDGE_MOST = 0.12  # density that an edge gains at most
EARLIEST_SHOULDER = 1.15  # log10 H above middle grey: just beyond Zone VIII

DEVELOPERS: dict[DeveloperKind, Developer] = {
    each.kind: each
    for each in (
        Developer("general", 0.0, 0.0, 1.0, 1.0, 0.0, 0.0, "The stock as its figures say."),
        Developer(
            "fine-grain", -0.5, 0.0, 0.78, 1.12, 0.0, 0.0,
            "Finer, softer grain; half a stop slower.",
        ),
        Developer(
            "high acutance", 0.0, 0.01, 1.18, 0.92, 0.75, 0.1,
            "Draws edges; grain is sharper and plainer.",
        ),
        Developer(
            "speed-increasing", 0.67, 0.05, 1.22, 1.1, 0.12, 0.0,
            "Two thirds of a stop faster; more grain and fog.",
        ),
        Developer(
            "compensating", 0.1, 0.0, 1.04, 1.0, 0.3, 0.9,
            "Highlights bend over beyond Zone VIII, mid tones stand steeper.",
        ),
    )
}  # fmt: skip


def developed_shape(shape: CurveShape, developer: Developer) -> CurveShape:
    """The shape of a stock's characteristic curve in a developer."""
    if developer.fog == 0.0 and developer.shoulder == 0.0:
        return shape
    shoulder = max(shape.shoulder - developer.shoulder, EARLIEST_SHOULDER)
    # an early shoulder must be sharp, or it reaches into the toe
    softness = min(shape.shoulder_softness, 0.2 * shoulder)
    return replace(
        shape,
        base_fog=shape.base_fog + developer.fog,
        shoulder=shoulder,
        shoulder_softness=softness,
    )
