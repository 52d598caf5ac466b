"""What commands say, and how far they are."""

from typing import TYPE_CHECKING

from rich.console import Console
from rich.progress import BarColumn, Progress, TextColumn, TimeRemainingColumn

from ..errors import BadRecipe

if TYPE_CHECKING:
    from ..core.starting import StartingPrint

OUT = Console(highlight=False)
ERR = Console(stderr=True, highlight=False)


def progress() -> Progress:
    """A bar on standard error, gone when all is done."""
    return Progress(
        TextColumn("{task.description}"),
        BarColumn(),
        TextColumn("{task.percentage:>3.0f} %"),
        TimeRemainingColumn(),
        console=ERR,
        transient=True,
    )


def starting(name: str) -> "StartingPrint":
    """A starting print by its id; raises BadRecipe."""
    from ..shelf import starting_prints

    found = starting_prints().get(name)
    if found is None:
        raise BadRecipe(
            f"--start {name}: there is no such starting print; there is "
            f"{', '.join(starting_prints())}."
        )
    return found
