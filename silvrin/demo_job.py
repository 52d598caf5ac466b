"""The demo job: the captures of a season at a hill pottery, marked, with a finished print."""

from collections.abc import Callable
from pathlib import Path

from .core.recipe import (
    DevelopmentSettings,
    EnlargerSettings,
    FilmSettings,
    LightSettings,
    PaperSettings,
    Recipe,
)
from .errors import SilvrinError
from .store import prints, rolls
from .store.library import Library

ROLL = "Second firing"
PRINTED = "04 bottle kiln"
FINISHED = Recipe(
    light=LightSettings(temperature=5500, lens_filter="25"),
    film=FilmSettings(stock="larch-100"),
    development=DevelopmentSettings(n=0.25),
    enlarger=EnlargerSettings(time=None),
    paper=PaperSettings(grade=2.0),
)


def captures_folder() -> Path:
    """Where the demo captures are: in the installed package, or beside it in a checkout."""
    package = Path(__file__).parent
    for folder in (package / "demo_captures", package.parent / "demo" / "captures"):
        if folder.is_dir():
            return folder
    raise SilvrinError("The demo captures are missing from this installation; install it again.")


def fill(library: Library, progress: Callable[[float], None] = lambda share: None) -> None:
    """Fill an empty library with the demo job; one that holds a roll is left as it is."""
    if rolls.all_rolls(library.database.read):
        return
    files = sorted(captures_folder().glob("*.dng"))
    with library.database.write() as connection:
        roll = rolls.add_roll(connection, ROLL)
    for done, file in enumerate(files):
        frame = library.take_in_file(file, roll)
        progress((done + 1) / len(files))
        if file.stem == PRINTED:
            with library.database.write() as connection:
                rolls.mark_frame(connection, frame, "ring")
                prints.add_print(connection, frame, "Dark sky", FINISHED)
