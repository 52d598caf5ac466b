"""Starting prints as JSON."""

from fastapi import APIRouter
from pydantic import BaseModel

from ..core.recipe import Recipe
from ..core.render import Darkroom
from ..core.render.proposing import proposed
from ..core.starting import StartingPrint
from ..errors import NotFound
from ..shelf import starting_prints
from ..store import rolls
from ..store.library import Library
from .inputs import UnderRecipe


class Begun(BaseModel):
    """A print under a starting print's look, as it is proposed for a frame."""

    recipe: Recipe
    says: str


def looks_router(library: Library, darkroom: Darkroom) -> APIRouter:
    """What a print can begin with."""
    router = APIRouter(prefix="/api")

    @router.get("/starting-prints")
    def all_starting_prints() -> list[StartingPrint]:
        return list(starting_prints().values())

    @router.post("/frames/{frame_id}/starting-prints/{name}")
    def begin(frame_id: int, name: str, wanted: UnderRecipe) -> Begun:
        """The recipe of a frame under a starting print: its look beside what is proposed for the
        frame; what is of the frame stays. Nothing is changed."""
        found = starting_prints().get(name)
        if found is None:
            raise NotFound(
                f"There is no starting print {name!r}; there is {', '.join(starting_prints())}."
            )
        library.sheets.take(wanted.sheets)
        frame = rolls.frame(library.database.read, frame_id)
        made = proposed(darkroom, library.metered(frame, found.on(wanted.recipe)), found.aims)
        return Begun(recipe=made.recipe, says=made.says)

    return router
