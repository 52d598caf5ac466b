"""Frames as they are looked at, and prints, as JSON."""

from functools import cache
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from ..core.light.conversion import Glass
from ..core.proposing import Proposed, with_proposed
from ..core.recipe import Recipe
from ..core.recipe.drawings import Sheet
from ..core.recipe.files import file_schema
from ..core.render import Darkroom
from ..core.render.data_sheet import data_of
from ..core.render.notes import notes_of
from ..core.render.proposing import proposed
from ..files.data_sheet import data_page
from ..files.drawn_page import KINDS, Kind
from ..files.printing_notes import page
from ..files.thumbnails import thumbnail
from ..store import dust_maps, prints, rolls, sheets
from ..store.carrying import CarriedPasses, carry_passes
from ..store.library import Library
from ..store.prints import Print
from ..store.rolls import Frame
from .inputs import Input, UnderRecipe


class NewPrint(UnderRecipe):
    """A print to be made of a frame."""

    name: str = Field("Print", min_length=1, max_length=120)
    recipe: Recipe = Recipe()
    propose: bool = Field(
        False, description="Changed at once to what is proposed for the frame; undo makes it plain."
    )


class NewChange(UnderRecipe):
    """A change of a print, on top of the change that the window shows."""

    base: int
    label: str = Field(min_length=1, max_length=120)


class Base(Input):
    """The change that the window shows."""

    base: int


class SmallPrint(UnderRecipe):
    """A small print to be made of a frame."""

    long_side: int = Field(400, ge=64, le=1200, description="Pixels.")


class Carrying(Input):
    """To which frames the passes of a print are copied."""

    frames: list[int] = Field(min_length=1, max_length=500)
    aligned: bool = Field(
        True, description="Where the subject lies there, for frames of one viewpoint."
    )


class WantedProposal(UnderRecipe):
    """What a print is proposed for."""

    only: Literal["capture", "light", "film", "development", "enlarger", "paper"] | None = Field(
        None, description="The one station that is proposed; the others stay as they are."
    )


class ProposedPrint(BaseModel):
    """The settings of a print that is proposed for a frame, and why."""

    settings: dict[str, dict[str, Any]]  # fields of the recipe, by station
    says: str


@cache
def _schema() -> dict[str, Any]:
    return file_schema()


def resources_router(library: Library, darkroom: Darkroom) -> APIRouter:
    """Frames and prints."""
    router = APIRouter(prefix="/api")
    database = library.database

    @router.get("/frames/{frame_id}")
    def get_frame(frame_id: int) -> Frame:
        return rolls.frame(database.read, frame_id)

    @router.post("/frames/{frame_id}/small-print", response_class=Response)
    def small_print(frame_id: int, wanted: SmallPrint) -> Response:
        """The frame as a small JPEG under a recipe, for the ring-around; a film that sees nothing
        behind its glass is told by the header Silvrin-Blind."""
        _, sitting = library.sit(frame_id, wanted.recipe, wanted.sheets)
        pixels = darkroom.view(sitting, sitting.picture.whole(wanted.long_side))
        headers = {"Silvrin-Blind": "1"} if sitting.path[Glass].blind else {}
        return Response(thumbnail(pixels), media_type="image/jpeg", headers=headers)

    @router.post("/prints/{print_id}/carry-passes")
    def carry(print_id: int, wanted: Carrying) -> list[CarriedPasses]:
        """Copy the passes of a print to other frames."""
        return carry_passes(library, print_id, wanted.frames, wanted.aligned)

    @router.get("/prints/{print_id}/notes.{kind}", response_class=Response)
    def printing_notes(
        print_id: int,
        kind: Kind,
        base: Annotated[float | None, Query(ge=0.2, le=1000)] = None,
        at: int | None = None,
    ) -> Response:
        """A page to take along to an enlarger; with what all takes on another base time (s). `at`
        only tells addresses of different states apart."""
        of = prints.get_print(database.read, print_id)
        frame = rolls.frame(database.read, of.frame_id)
        notes = notes_of(darkroom, library.sitting(frame, of.recipe))
        title = f"{frame.roll_name}, frame {frame.number}, {frame.title}: {of.name}"
        return Response(page(notes, title, kind, base), media_type=KINDS[kind])

    @router.get("/prints/{print_id}/data-sheet.{kind}", response_class=Response)
    def data_sheet(print_id: int, kind: Kind, at: int | None = None) -> Response:
        """A page of all that made the print: figures, curves, settings. `at` only tells addresses
        of different states apart."""
        of = prints.get_print(database.read, print_id)
        frame = rolls.frame(database.read, of.frame_id)
        sheet = data_of(darkroom, library.sitting(frame, of.recipe))
        title = f"{frame.roll_name}, frame {frame.number}, {frame.title}: {of.name}"
        made = data_page(sheet, title, frame.metadata, frame.file_name, kind)
        return Response(made, media_type=KINDS[kind])

    @router.post("/frames/{frame_id}/prints", status_code=201)
    def make_print(frame_id: int, new: NewPrint) -> Print:
        library.sheets.take(new.sheets)
        library.light_path(new.recipe)
        found = propose_for(frame_id, new.recipe) if new.propose else None
        with database.write() as connection:
            frame = rolls.frame(connection, frame_id)
            library.sheets.keep(connection, new.recipe)
            recipe = dust_maps.mended_by_map(connection, library.sheets, frame, new.recipe)
            made = prints.add_print(connection, frame_id, new.name, recipe)
            if found is None:
                return made
            changed = with_proposed(recipe, found)
            label = f"Proposed: {found.says}"
            return prints.change_print(connection, made.id, made.head, changed, label)

    def propose_for(frame_id: int, recipe: Recipe, only: str | None = None) -> Proposed:
        frame = rolls.frame(database.read, frame_id)
        return proposed(darkroom, library.metered(frame, recipe), only=only)

    @router.post("/frames/{frame_id}/proposal")
    def propose_print(frame_id: int, wanted: WantedProposal) -> ProposedPrint:
        """The print that is proposed for a frame under a recipe: where its exposure is placed, its
        development, its time and its grade; or one station of it. Nothing is changed."""
        library.sheets.take(wanted.sheets)
        found = propose_for(frame_id, wanted.recipe, wanted.only)
        return ProposedPrint(settings=found.settings, says=found.says)

    @router.get("/prints/{print_id}")
    def get_print(print_id: int) -> Print:
        return prints.get_print(database.read, print_id)

    @router.post("/prints/{print_id}/changes", status_code=201)
    def change_print(print_id: int, new: NewChange) -> Print:
        library.sheets.take(new.sheets)
        library.light_path(new.recipe)
        with database.write() as connection:
            library.sheets.keep(connection, new.recipe)
            return prints.change_print(connection, print_id, new.base, new.recipe, new.label)

    @router.post("/prints/{print_id}/undo")
    def undo(print_id: int, at: Base) -> Print:
        with database.write() as connection:
            return prints.undo(connection, print_id, at.base)

    @router.post("/prints/{print_id}/redo")
    def redo(print_id: int, at: Base) -> Print:
        with database.write() as connection:
            return prints.redo(connection, print_id, at.base)

    @router.get("/sheets/{name}", response_model=Sheet)
    def get_sheet(name: str) -> Response:
        """What is drawn on a sheet that a recipe names."""
        text = sheets.sheet_text(database.read, name)
        keep = {"cache-control": "private, max-age=31536000, immutable"}
        return Response(text, media_type="application/json", headers=keep)

    @router.get("/recipe-schema")
    def recipe_schema() -> dict[str, Any]:
        """JSON Schema of a recipe file."""
        return _schema()

    return router
