"""Images to files."""

import argparse
import json
import sys

from pydantic import TypeAdapter, ValidationError
from rich.markup import escape

from ..batch import How, deliver_all, images_in, processes_for
from ..core.recipe import Recipe
from ..core.recipe.drawings import Sheets
from ..core.recipe.wording import explain
from ..errors import BadRecipe
from ..files.delivery import Output, Size
from ..files.whole import disk_error
from ..printing import read_recipe_file
from ..store.output_sets import shipped_sets
from .said import ERR, progress, starting

TEMPLATE = "{roll} {number} {title} - {print}"  # of a library; by itself an image has a name alone


def deliver(options: argparse.Namespace) -> int:
    """Print image files and write them to a folder."""
    recipe, sheets = read_recipe_file(options.recipe) if options.recipe else (Recipe(), Sheets())
    if options.start:
        starting(options.start)
    if options.jobs is not None and not 1 <= options.jobs <= 64:
        raise BadRecipe(f"--jobs {options.jobs}: 1 to 64 are possible.")
    if options.jobs and options.cluster:
        raise BadRecipe("--jobs is of this computer, --cluster of others: give one of them.")
    if options.send and not options.cluster:
        raise BadRecipe("--send sends captures to a --cluster: give its address.")
    outputs, images = _outputs(options), images_in(options.images)
    try:
        options.out.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise disk_error(error, options.out) from error
    how = How(
        outputs, options.out, recipe, sheets, options.start, options.propose, options.resume
    )  # fmt: skip
    if options.cluster:
        from ..cluster import deliver_over

        coming = deliver_over(options.cluster, images, how, options.send)
    else:
        coming = deliver_all(images, how, options.jobs or processes_for(len(images)))
    failed = 0
    with progress() as bar:
        task = bar.add_task(f"{len(images)} images", total=len(images))
        for ended in coming:
            failed += ended.state == "failed"
            bar.advance(task)
            if options.json:
                sys.stdout.write(json.dumps(vars(ended), default=_as_text) + "\n")
                sys.stdout.flush()
                continue
            if ended.says:
                bar.console.print(escape(f"{ended.image.name}: {ended.says}"), soft_wrap=True)
            for file in ended.files:
                bar.console.print(escape(str(file)), soft_wrap=True)
            for file in ended.left:
                bar.console.print(escape(f"{file}: is there already"), soft_wrap=True)
            if ended.error:
                ERR.print(f"[red]{escape(ended.error)}[/red]", soft_wrap=True)
    return 1 if failed else 0


def _as_text(value: object) -> object:
    return str(value)


def _outputs(options: argparse.Namespace) -> tuple[Output, ...]:
    """What each image is written as; raises BadRecipe."""
    found: list[Output] = []
    sets = {each.id: each for each in shipped_sets()}
    for name in options.sets:
        if name not in sets:
            raise BadRecipe(f"--set {name}: there is no such set; there is {', '.join(sets)}.")
        found += sets[name].outputs
    try:
        if options.outputs:
            given = options.outputs.read_bytes()
            found += TypeAdapter(tuple[Output, ...]).validate_json(given)
        if options.format or options.long_side or not found:
            size = Size(by="long", value=options.long_side) if options.long_side else Size()
            found.append(Output(format=options.format or "tiff", size=size))
    except ValidationError as error:
        where = options.outputs or f"--long-side {options.long_side}"
        raise BadRecipe(f"{where}: {'; '.join(explain(error))}.") from error
    except OSError as error:
        raise BadRecipe(f"{options.outputs}: cannot be read ({error.strerror}).") from error
    return tuple(
        out.model_copy(update={"template": "{capture}"}) if out.template == TEMPLATE else out
        for out in found
    )
