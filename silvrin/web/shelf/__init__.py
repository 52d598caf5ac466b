"""The shelf as JSON: what lies on it, its figures, own items, and measurements."""

from .described import describe
from .resources import shelf_router

__all__ = ["describe", "shelf_router"]
