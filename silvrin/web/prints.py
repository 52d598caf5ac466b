"""The prints of a frame among each other, and the states each had, as JSON."""

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ..core.recipe import Recipe
from ..store import prints
from ..store.library import Library
from ..store.prints import Print, PrintEntry, State
from .inputs import Input


class PrintName(Input):
    """What a print is called."""

    name: str = Field(min_length=1, max_length=120)


class PrintOrder(Input):
    """All prints of a frame in the order wanted."""

    prints: list[int] = Field(min_length=1, max_length=10_000)


class GoTo(Input):
    """To which state, from the one that the window shows."""

    base: int
    state: int


class Proof(Input):
    """The name a state is kept under; none for no longer."""

    name: str | None = Field(min_length=1, max_length=120)


class StateRecipe(BaseModel):
    """What a print was in a state."""

    recipe: Recipe


def prints_router(library: Library) -> APIRouter:
    """Several prints of a frame; history and proofs."""
    router = APIRouter(prefix="/api")
    database = library.database

    @router.get("/frames/{frame_id}/prints")
    def prints_of(frame_id: int) -> list[PrintEntry]:
        """The prints of a frame in their order, also those in the bin."""
        return prints.prints_of(database.read, frame_id)

    @router.put("/frames/{frame_id}/prints", status_code=204)
    def order(frame_id: int, wanted: PrintOrder) -> None:
        """Put the prints of a frame in another order."""
        with database.write() as connection:
            prints.order_prints(connection, frame_id, wanted.prints)

    @router.post("/prints/{print_id}/copy", status_code=201)
    def copy(print_id: int, new: PrintName) -> Print:
        """A further print of the frame, that begins as this one is."""
        with database.write() as connection:
            return prints.copy_print(connection, print_id, new.name)

    @router.patch("/prints/{print_id}", status_code=204)
    def rename(print_id: int, wanted: PrintName) -> None:
        with database.write() as connection:
            prints.rename_print(connection, print_id, wanted.name)

    @router.post("/prints/{print_id}/choose", status_code=204)
    def choose(print_id: int) -> None:
        """Let the contact sheet show this print of its frame."""
        with database.write() as connection:
            prints.choose_print(connection, print_id)

    @router.delete("/prints/{print_id}", status_code=204)
    def put_in_bin(print_id: int) -> None:
        """Put a print in the bin; it can be put back till that is emptied."""
        with database.write() as connection:
            prints.bin_print(connection, print_id)

    @router.post("/prints/{print_id}/restore", status_code=204)
    def restore(print_id: int) -> None:
        with database.write() as connection:
            prints.restore_print(connection, print_id)

    @router.get("/prints/{print_id}/history")
    def history(print_id: int) -> list[State]:
        """Every state that a print had, oldest first."""
        return prints.history(database.read, print_id)

    @router.get("/prints/{print_id}/states/{state}")
    def state_of(print_id: int, state: int) -> StateRecipe:
        prints.check_state(database.read, print_id, state)
        return StateRecipe(recipe=prints.recipe_of(database.read, state))

    @router.post("/prints/{print_id}/go")
    def go(print_id: int, to: GoTo) -> Print:
        """To any state the print had; the others stay."""
        with database.write() as connection:
            return prints.go_to(connection, print_id, to.base, to.state)

    @router.put("/prints/{print_id}/states/{state}/proof", status_code=204)
    def proof(print_id: int, state: int, wanted: Proof) -> None:
        """Give a state a name, so that it is a proof."""
        with database.write() as connection:
            prints.keep_proof(connection, print_id, state, wanted.name)

    return router
