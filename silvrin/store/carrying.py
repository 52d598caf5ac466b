"""Passes of a print carried to prints of other frames."""

from typing import Literal

import numpy as np
from pydantic import BaseModel, ValidationError

from ..core.capture.brackets import BracketFrame, align, likeness
from ..core.enlarger.carrying import Carrier, as_they_lie
from ..core.enlarger.shapes import Pass
from ..core.recipe import Recipe
from ..core.recipe.drawings import Drawings, Sheets
from ..core.recipe.wording import explain
from ..errors import BadRecipe, SilvrinError
from . import prints, rolls
from .library import Library
from .rolls import Frame
from .sheets import keep_sheets

ALIKE = 0.25  # correlation of detail from which two frames show the same


class CarriedPasses(BaseModel):
    """What became of one frame."""

    frame_id: int
    print_id: int | None = None
    how: Literal["aligned", "as they lie", "refused"]
    words: str


def carry_passes(
    library: Library, print_id: int, frames: list[int], aligned: bool
) -> list[CarriedPasses]:
    """Copy the passes of a print, after those that are there, to the chosen print of each frame, or
    to a new one; aligned as a bracket is, where frames agree, else as they lie. What goes wrong
    with one is said, and the others go on."""
    of = prints.get_print(library.database.read, print_id)
    own = rolls.frame(library.database.read, of.frame_id)
    drawings = library.sheets.drawings(library.database.read, of.recipe)
    if not drawings.passes:
        raise BadRecipe("This print has no passes to be copied. Dodge or burn something first.")
    found = []
    for number in frames:
        try:
            found.append(_carry(library, own, drawings, number, aligned))
        except SilvrinError as error:
            found.append(CarriedPasses(frame_id=number, how="refused", words=str(error)))
    return found


def _carry(
    library: Library, own: Frame, drawings: Drawings, number: int, aligned: bool
) -> CarriedPasses:
    frame = rolls.frame(library.database.read, number)
    if frame.id == own.id:
        raise BadRecipe("This is the frame that the passes come from; choose others.")
    matrix = _aligned(library, own, frame) if aligned else None
    sheets = Sheets()
    there = (own.width, own.height), (frame.width, frame.height)
    by = as_they_lie(*there) if matrix is None else matrix
    carrier = Carrier(by, drawings.strokes, sheets.strokes)
    try:
        passes = [Pass.model_validate(carrier.carried(p).model_dump()) for p in drawings.passes]
    except ValidationError as error:
        raise BadRecipe(
            f"There its passes would lie too far outside the capture: {'; '.join(explain(error))}."
        ) from error
    names = sheets.passes(passes)
    library.sheets.take(sheets.texts.values())
    label = f"{len(passes)} passes of {own.title}"[:120]
    with library.database.write() as connection:
        keep_sheets(connection, sheets.texts.values())
        now = prints.get_print(connection, frame.chosen) if frame.chosen else None
        recipe = now.recipe if now else Recipe()
        enlarger = recipe.enlarger.model_copy(update={"passes": (*recipe.enlarger.passes, *names)})
        recipe = Recipe.model_validate(recipe.model_copy(update={"enlarger": enlarger}))
        library.sheets.drawings(connection, recipe)  # or there are too many
        if now is None:
            now = prints.add_print(connection, frame.id, "Print", Recipe())
        prints.change_print(connection, now.id, now.head, recipe, label)
    if matrix is None:
        words = "copied as they lie: too little in common" if aligned else "copied as they lie"
        return CarriedPasses(frame_id=number, print_id=now.id, how="as they lie", words=words)
    middle = np.array([own.width / 2, own.height / 2])
    far = float(np.hypot(*(matrix @ np.append(middle, 1.0) - middle)))
    words = f"copied, {far:.1f} px from where they lay"
    return CarriedPasses(frame_id=number, print_id=now.id, how="aligned", words=words)


def _aligned(library: Library, own: Frame, frame: Frame) -> np.ndarray | None:
    """(2, 3) where places of one frame lie on the other; None where they do not agree."""
    one, other = (library.picture(f.sha256) for f in (own, frame))
    if one.levels[0].shape != other.levels[0].shape:
        return None
    first, second = (BracketFrame(p.levels[0], p.scale, 1.0, p.limits) for p in (one, other))
    found = align(first, second)
    return found if likeness(first, second, found) > ALIKE else None
