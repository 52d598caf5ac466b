"""Silvrin: from a colour capture down the photographic path to a black and white print."""

__version__ = "0.1.0"
