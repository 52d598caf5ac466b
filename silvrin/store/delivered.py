"""Files that Silvrin delivered and that come back: they open as their print."""

import json
from pathlib import Path

from ..core.recipe.files import read_recipe
from ..errors import DeliveredPrint
from ..files.delivery import Carried, carried_by
from . import prints, rolls
from .library import Library
from .prints import Print

MOST_SIDECAR = 8 << 20  # bytes


def carried_of(file: Path, name: str) -> Carried | None:
    """The recipe in a delivered file, or in one that lay beside it; None in any other."""
    if not name.lower().endswith(".json"):
        return carried_by(file)
    if file.stat().st_size > MOST_SIDECAR:
        return None
    try:
        given = json.loads(file.read_bytes())
        capture = given.pop("capture")
        return Carried(json.dumps(given), str(capture["sha256"]), str(capture["name"]))
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        return None


def open_delivered(library: Library, file: Path, name: str) -> Print | None:
    """The print that a delivered file is of: one that is there, or a new one of its capture. None
    for any other file. Raises DeliveredPrint where the capture is not in the library, BadRecipe for
    a recipe that does not hold."""
    carried = carried_of(file, name)
    if carried is None:
        return None
    database = library.database
    frames = rolls.where_known(database.read, carried.sha256)
    if not frames:
        raise DeliveredPrint(
            f"{name}: this is a print that Silvrin delivered, of the capture "
            f"{carried.capture[:120]}. That capture is not in this library: take it in, then drop "
            "this file again. It can also be taken in as a picture of its own."
        )
    zone_part = library.shelf.zone_part
    recipe, sheets = read_recipe(carried.recipe, zone_part, name)
    library.sheets.take(sheets.texts.values())
    library.light_path(recipe)
    with database.write() as connection:
        for frame in frames:
            for each in prints.prints_of(connection, frame.frame):
                if not each.binned and prints.recipe_of(connection, each.head) == recipe:
                    return prints.get_print(connection, each.id)
        library.sheets.keep(connection, recipe)
        return prints.add_print(connection, frames[0].frame, Path(name).stem[:120], recipe)
