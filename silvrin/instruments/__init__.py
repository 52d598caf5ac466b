"""Instruments that films, papers and toners are measured with."""

from .densitometer import Densitometer, Reading, Wedge
from .simulated import SimulatedDensitometer

__all__ = ["DENSITOMETERS", "Densitometer", "Reading", "Wedge"]

# Every densitometer that can be chosen; a driver for another one is entered here
DENSITOMETERS: dict[str, Densitometer] = {each.id: each for each in (SimulatedDensitometer(),)}
