"""Libraries that take long to load are loaded when they are first used, so that the server answers
sooner."""

from importlib import import_module
from typing import Any


class Later:
    """A module that is imported when something of it is asked for."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, name: str) -> Any:
        return getattr(import_module(self._name), name)


interpolate = Later("scipy.interpolate")
optimize = Later("scipy.optimize")
