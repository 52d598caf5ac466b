"""Finished prints as files, for every place they go to."""

from .about import About, Carried, all_carried_by, carried_by, location_of
from .making import Made, contact_of, deliver, deliver_together, sized_for
from .output import Output, Size

__all__ = [
    "About", "Carried", "Made", "Output", "Size", "all_carried_by", "carried_by", "contact_of",
    "deliver", "deliver_together", "location_of", "sized_for",
]  # fmt: skip
