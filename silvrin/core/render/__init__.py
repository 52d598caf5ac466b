"""Pixels through the light path: live views, cached between stations; full size in strips."""

from .darkroom import Darkroom, StationCache, in_colour
from .readings import (
    METER_RADIUS,
    Readings,
    Spot,
    clipped_parts,
    held_zones,
    lightness,
    proof,
    zone_plate,
    zone_tones,
)
from .stations import code, develop, expose, film_exposure, print_out, with_grain
from .strips import PrintedStrip, print_strip, strips

__all__ = [
    "METER_RADIUS",
    "Darkroom",
    "PrintedStrip",
    "Readings",
    "Spot",
    "StationCache",
    "clipped_parts",
    "code",
    "develop",
    "expose",
    "film_exposure",
    "held_zones",
    "in_colour",
    "lightness",
    "print_out",
    "print_strip",
    "proof",
    "strips",
    "with_grain",
    "zone_plate",
    "zone_tones",
]
