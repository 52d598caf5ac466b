"""Pixels through the light path: live views, cached between stations; full size in strips."""

from .cache import StationCache
from .coding import code
from .darkroom import Darkroom, in_colour
from .mounting import (
    layout_for,
    mounted_size,
    mounted_strips,
    mounted_view,
    print_side,
    with_mount_off,
)
from .placing import Placing, placing_for
from .readings import Readings
from .shown import (
    clipped_parts,
    grey_of,
    hatched,
    heat,
    held,
    held_zones,
    hex_tones,
    lightness,
    paper_seen,
    projected,
    proof,
    zone_plate,
)
from .sitting import Sitting
from .spot import METER_RADIUS, Spot
from .strips import PrintedStrip, densities, print_strip, strips

__all__ = [
    "METER_RADIUS",
    "Darkroom",
    "Placing",
    "PrintedStrip",
    "Readings",
    "Sitting",
    "Spot",
    "StationCache",
    "clipped_parts",
    "code",
    "densities",
    "grey_of",
    "hatched",
    "heat",
    "held",
    "held_zones",
    "hex_tones",
    "in_colour",
    "layout_for",
    "lightness",
    "mounted_size",
    "mounted_strips",
    "mounted_view",
    "paper_seen",
    "placing_for",
    "print_side",
    "print_strip",
    "projected",
    "proof",
    "strips",
    "with_mount_off",
    "zone_plate",
]
