"""Silvrin: from a colour capture down the photographic path to a black and white print.

`silvrin.open_capture` begins the Python interface (`silvrin.printing`).
"""

from typing import TYPE_CHECKING, Any

__version__ = "0.1.0"
__all__ = [
    "Capture", "Output", "Print", "Recipe", "__version__", "deliver_together", "demo",
    "open_capture",
]  # fmt: skip

if TYPE_CHECKING:
    from .core.recipe import Recipe
    from .files.delivery import Output
    from .printing import Capture, Print, deliver_together, demo, open_capture


def __getattr__(name: str) -> Any:
    """The interface is loaded when it is first asked for: the command line begins without it."""
    if name not in __all__:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    if name == "Recipe":
        from .core.recipe import Recipe

        return Recipe
    if name == "Output":
        from .files.delivery import Output

        return Output
    from . import printing

    return getattr(printing, name)
