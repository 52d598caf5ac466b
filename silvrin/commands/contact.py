"""Negatives for contact printing."""

import argparse
from pathlib import Path

from pydantic import ValidationError
from rich.markup import escape

from ..core.contact.process import STEPS, ContactProcess, Reading, target_inks
from ..core.recipe.wording import explain
from ..errors import BadRecipe, SilvrinError
from ..files.contact_photograph import PAPER, is_picture, read_photograph
from ..files.contact_target import target_png
from ..files.delivery.output import Contact, Output, Size
from ..files.measurements import read_target
from ..files.whole import whole_or_nothing
from ..printing import open_capture
from .said import OUT, starting


def negative(options: argparse.Namespace) -> int:
    """Write the contact negative of an image."""
    forms = {".tif": "tiff", ".tiff": "tiff", ".png": "png", ".pdf": "pdf"}
    if options.out.suffix.lower() not in forms:
        raise BadRecipe(f"--out {options.out}: a contact negative is a .tif, .png or .pdf file.")
    try:
        output = Output.model_validate(
            {
                "format": forms[options.out.suffix.lower()],
                "holds": "contact",
                "contact": Contact(
                    ink=options.ink, mirrored=not options.not_mirrored, marked=not options.bare
                ),
                "size": Size(by="mm", value=options.mm, ppi=options.ppi, upscale=True),
            }
        )
    except ValidationError as error:
        raise BadRecipe(f"{'; '.join(explain(error))}.") from error
    process = _process(options.readings) if options.readings else None
    capture = open_capture(options.image)
    if options.start:
        made = capture.starting(starting(options.start).id)
    elif options.propose:
        made = capture.proposed()
    else:
        made = capture.under(options.recipe)
    file = made.deliver(options.out, output, process=process)
    OUT.print(escape(f"{options.out}: {file.width} × {file.height} pixels"), soft_wrap=True)
    return 0


def _process(readings: Path, steps: int = STEPS[-1], base: float = PAPER) -> ContactProcess:
    """A contact process from the readings of a plain target, or from a picture of one that has so
    many patches, on paper whose white has that density."""
    try:
        if is_picture(readings):
            densities = read_photograph(readings, steps, base)
        else:
            densities = read_target(readings.read_text("utf-8"), readings.name)
    except (OSError, UnicodeDecodeError) as error:
        raise BadRecipe(f"{readings}: cannot be read ({error}).") from error
    if len(densities) not in STEPS:
        raise SilvrinError(
            f"{readings}: {len(densities)} densities; a target has {STEPS[0]} or {STEPS[1]}."
        )
    inks = target_inks(len(densities))
    return ContactProcess(
        tuple(Reading(float(i), float(d)) for i, d in zip(inks, densities, strict=True)),
        name=readings.stem,
    )


def measure(options: argparse.Namespace) -> int:
    """Fit a process, and write its next target."""
    found = _process(options.readings, options.steps, options.base)
    off = float(abs(found.residuals).max())
    OUT.print(
        escape(
            f"{found.name}: {found.base:.2f} to {found.black:.2f} D, residuals at most {off:.3f} D"
        ),
        soft_wrap=True,
    )
    if options.target:
        with whole_or_nothing(options.target) as file:
            file.write(target_png(len(found.readings), process=found))
        OUT.print(escape(str(options.target)), soft_wrap=True)
    return 0
