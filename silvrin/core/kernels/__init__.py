"""The loops over pixels, compiled once: signatures are given, so loading a kernel compiles it or
takes it from the cache, and nobody waits for it later.

Kernels are loaded when one is first asked for (`kernels.expose`): a program that looks at no pixel
starts without the compiler. `load` takes them all in.

Rows are looked at as arrays of their own, so that an index need not be checked for counting from
the end. Every kernel writes rows `first` to `last` of its output and holds no lock; `by_rows` deals
bands of rows out to the processors.
"""

from importlib import import_module
from typing import Any

from .run import DARKEST, PATCH, at_once, by_rows

__all__ = ["DARKEST", "PATCH", "at_once", "by_rows", "load"]

_IN = {
    "light": (
        "code_colour",
        "expose",
        "reduce_size",
        "show_colour",
        "tone_places",
        "to_working",
    ),
    "grid": (
        "smooth_chroma",
        "scatter",
        "flatten",
        "develop_local",
        "lighten",
        "lay",
        "through_grades",
    ),
    "areas": (
        "join_shapes",
        "disc",
        "card",
        "polygon",
        "brush",
        "add_pass",
        "let_stronger",
        "with_grades",
        "follow",
        "hold_lines",
        "alike",
    ),
    "smooth": (
        "part_smooth",
        "add_scale",
        "by_place_and_level",
        "sharpen",
    ),
    "curves": (
        "add_grain",
        "through_curve",
        "through_curve_u16",
        "through_curve_u8",
        "through_colours",
        "through_colours_u16",
        "through_colours_u8",
        "count",
    ),
    "wavelets": (
        "spline_across",
        "spline_down",
        "shrink",
    ),
    "patches": (
        "match_patches",
        "close_hole",
        "vote_patches",
    ),
}
_PART_OF = {name: part for part, names in _IN.items() for name in names}


def __getattr__(name: str) -> Any:
    if name not in _PART_OF:
        raise AttributeError(f"there is no kernel {name}")
    kernel = globals()[name] = getattr(import_module(f".{_PART_OF[name]}", __name__), name)
    return kernel


def load() -> None:
    """Load every kernel."""
    for part in _IN:
        import_module(f".{part}", __name__)
