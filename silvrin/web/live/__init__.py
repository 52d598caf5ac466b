"""The live socket: a recipe and a view go in, pixels and readings come out."""

from .messages import LiveFrame, LiveRequest
from .socket import live_router

__all__ = ["LiveFrame", "LiveRequest", "live_router"]
