"""Prints as tables of colours."""

import argparse

from rich.markup import escape

from .. import shelf
from ..core.recipe import Recipe
from ..core.recipe.drawings import PLAIN
from ..errors import BadRecipe
from ..files import tables
from ..files.whole import whole_or_nothing
from ..printing import read_recipe_file
from .said import OUT, starting


def table(options: argparse.Namespace) -> int:
    """Write what a print does to colours."""
    kind = options.out.suffix.lower().removeprefix(".")
    if kind not in ("cube", "clf"):
        raise BadRecipe(f"--out {options.out}: a table is a .cube or a .clf file.")
    recipe, drawings, name = Recipe(), PLAIN, options.out.stem
    if options.recipe:
        recipe, sheets = read_recipe_file(options.recipe)
        drawings = sheets.of(recipe.in_force)
    elif options.start:
        recipe = starting(options.start).on(recipe)
    text = tables.table(shelf.light_path(recipe, drawings), name, kind, options.input, options.size)
    with whole_or_nothing(options.out) as file:
        file.write(text.encode())
    OUT.print(escape(str(options.out)), soft_wrap=True)
    return 0
