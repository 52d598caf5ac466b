"""A printing paper as data."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Paper:
    """A paper; densities are reflection densities, toe and shoulder parts of the range."""

    id: str
    name: str
    surface: str
    base_density: float
    net_density: float  # maximum density above the base
    toe: float
    shoulder: float
    about: str
    source: str
