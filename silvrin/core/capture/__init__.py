"""Capture: white balance, geometry, and the picture as the stations after it see it."""
