"""A print between two looks: the one it had, and a starting print's."""

from pydantic import ConfigDict, Field

from ..settings import Settings, amount
from ..stations import Stations
from .parts import PART_OF


class Before(Stations):
    """The look that a print had; of what is of the frame only its placement counts."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Mixture(Settings):
    """How far a print went from one look to another."""

    name: str = Field(
        min_length=1, max_length=120, description="Of the look that the recipe's settings are."
    )
    strength: float = amount(
        "Strength", "0 is the print before, 1 the starting print; above it goes beyond.",
        1.0, 0, 1.5, 0.01,
    )  # fmt: skip
    before: Before = Before()


OWN_PLACEMENT = ("film", "placement")  # is of the frame, and yet each look has its own


def in_before(station: str, field: str) -> bool:
    """Whether the print before has a field of its own, or shares it."""
    return PART_OF[station][field] == "look" or (station, field) == OWN_PLACEMENT
