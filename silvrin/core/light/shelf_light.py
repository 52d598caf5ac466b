"""A light as data."""

from dataclasses import dataclass

from ..spectra.grid import Spectrum


@dataclass(frozen=True, eq=False)
class ShelfLight:
    """A light; `power` (53,) is relative, largest 1."""

    id: str
    name: str
    kind: str
    power: Spectrum
    about: str
    source: str
