"""Files that Silvrin delivered and that come back: they open as their print."""

import json
from pathlib import Path
from sqlite3 import Connection

from ..core.recipe import Recipe
from ..core.recipe.files import read_recipe
from ..errors import DeliveredPrint
from ..files.delivery import Carried, all_carried_by
from . import prints, rolls
from .library import Library
from .prints import Print

MOST_SIDECAR = 8 << 20  # bytes
NAMED = 5  # captures that a refusal names


def carried_of(file: Path, name: str) -> list[Carried]:
    """The recipes in a delivered file, or in one that lay beside it; none in any other."""
    if not name.lower().endswith(".json"):
        return list(all_carried_by(file))
    if file.stat().st_size > MOST_SIDECAR:
        return []
    try:
        given = json.loads(file.read_bytes())
        capture = given.pop("capture")
        return [Carried(json.dumps(given), str(capture["sha256"]), str(capture["name"]))]
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        return []


def open_delivered(library: Library, file: Path, name: str) -> Print | None:
    """The print that a delivered file is of: one that is there, or a new one of its capture; of
    several prints the first, the others come to be there too. None for any other file. Raises
    DeliveredPrint where a capture is not in the library, BadRecipe for a recipe that does not
    hold; then nothing was made."""
    carried = carried_of(file, name)
    wanted = [c for c in carried if not rolls.where_known(library.database.read, c.sha256)]
    if len(carried) > 1 and wanted:
        names = ", ".join(dict.fromkeys(each.capture[:120] for each in wanted[:NAMED]))
        more = f" and {len(wanted) - NAMED} more" if len(wanted) > NAMED else ""
        raise DeliveredPrint(
            f"{name}: these are {len(carried)} prints that Silvrin delivered. Of their captures "
            f"{names}{more} are not in this library: take them in, then drop this file again."
        )
    if wanted:
        raise DeliveredPrint(
            f"{name}: this is a print that Silvrin delivered, of the capture "
            f"{wanted[0].capture[:120]}. That capture is not in this library: take it in, then "
            "drop this file again. It can also be taken in as a picture of its own."
        )
    recipes = [_recipe(library, each, name) for each in carried]
    with library.database.write() as connection:
        opened = [
            _opened(library, connection, each.sha256, recipe, name)
            for each, recipe in zip(carried, recipes, strict=True)
        ]
    return opened[0] if opened else None


def _recipe(library: Library, carried: Carried, name: str) -> Recipe:
    """A recipe with its drawings, which can be printed. Raises BadRecipe."""
    recipe, sheets = read_recipe(carried.recipe, library.shelf.zone_part, name)
    library.sheets.take(sheets.texts.values())
    library.light_path(recipe)
    return recipe


def _opened(
    library: Library, connection: Connection, sha256: str, recipe: Recipe, name: str
) -> Print:
    frames = rolls.where_known(connection, sha256)
    for frame in frames:
        for each in prints.prints_of(connection, frame.frame):
            if not each.binned and prints.recipe_of(connection, each.head) == recipe:
                return prints.get_print(connection, each.id)
    library.sheets.keep(connection, recipe)
    return prints.add_print(connection, frames[0].frame, Path(name).stem[:120], recipe)
