"""The contact sheet: rolls, their frames, and the bin."""

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, ConfigDict, Field

from ..errors import NotFound
from ..files.metadata import every_tag
from ..store import prints, rolls
from ..store.contact_sheet import ContactSheet, Order, contact_sheet_json
from ..store.library import Library
from ..store.rolls import Frame, Mark, Roll
from .smalls import SmallPictures

JSON = "application/json"
Input = ConfigDict(extra="forbid")


class RollName(BaseModel):
    """What a roll is called."""

    model_config = Input
    name: str = Field(min_length=1, max_length=120)


class FrameMark(BaseModel):
    """A mark in grease pencil."""

    model_config = Input
    mark: Mark


class Frames(BaseModel):
    """Frames that are chosen."""

    model_config = Input
    frames: list[int] = Field(min_length=1, max_length=100_000)


class MarkedFrames(Frames):
    """Frames that get a mark."""

    mark: Mark


class MovedFrames(Frames):
    """Frames that go to another roll."""

    roll_id: int


class Staying(BaseModel):
    """Frames that stay where they are, since the other roll has their captures."""

    staying: list[int]


class Tag(BaseModel):
    """What a file says of itself."""

    name: str
    value: str


def sheet_router(library: Library, smalls: SmallPictures) -> APIRouter:
    """Rolls, frames as the sheet shows them, and the bin."""
    router = APIRouter(prefix="/api")
    database = library.database

    @router.get("/rolls")
    def list_rolls() -> list[Roll]:
        return rolls.all_rolls(database.read)

    @router.post("/rolls", status_code=201)
    def make_roll(new: RollName) -> Roll:
        with database.write() as connection:
            roll_id = rolls.add_roll(connection, new.name)
            return next(r for r in rolls.all_rolls(connection) if r.id == roll_id)

    @router.patch("/rolls/{roll_id}")
    def rename_roll(roll_id: int, to: RollName) -> Roll:
        with database.write() as connection:
            rolls.rename_roll(connection, roll_id, to.name)
            return next(r for r in rolls.all_rolls(connection) if r.id == roll_id)

    @router.delete("/rolls/{roll_id}", status_code=204)
    def bin_roll(roll_id: int) -> None:
        """Put a roll with its frames in the bin."""
        with database.write() as connection:
            rolls.bin_roll(connection, roll_id)

    @router.get("/rolls/{roll_id}/frames", response_model=list[Frame])
    def list_frames(roll_id: int) -> Response:
        return Response(rolls.frames_json(database.read, roll_id), media_type=JSON)

    @router.get("/rolls/{roll_id}/sheet", response_model=ContactSheet)
    def contact_sheet(
        roll_id: int,
        search: Annotated[
            str, Query(max_length=200, description="Words that all must be in.")
        ] = "",
        order: Order = "number",
    ) -> Response:
        """Which frames a roll shows, in an order; they themselves are asked for by `/frames`."""
        found = contact_sheet_json(database.read, roll_id, search, order)
        return Response(found, media_type=JSON)

    @router.get("/frames", response_model=list[Frame])
    def some_frames(
        ids: Annotated[list[int], Query(min_length=1, max_length=200)],
    ) -> Response:
        """Frames by their ids; those that are not there are left out."""
        found = rolls.some_frames_json(database.read, ids)
        return Response(found, media_type=JSON)

    @router.patch("/frames/{frame_id}")
    def mark_frame(frame_id: int, change: FrameMark) -> Frame:
        with database.write() as connection:
            rolls.mark_frame(connection, frame_id, change.mark)
            return rolls.frame(connection, frame_id)

    @router.post("/frames/mark", status_code=204)
    def mark_frames(change: MarkedFrames) -> None:
        """Mark several frames, or none of them when one is not there."""
        with database.write() as connection:
            for frame_id in change.frames:
                rolls.mark_frame(connection, frame_id, change.mark)

    @router.post("/frames/move")
    def move_frames(change: MovedFrames) -> Staying:
        """Put frames with their prints at the end of another roll; tells which it has already."""
        with database.write() as connection:
            return Staying(staying=rolls.move_frames(connection, change.frames, change.roll_id))

    @router.post("/frames/bin", status_code=204)
    def bin_frames(chosen: Frames) -> None:
        """Take frames off the sheet; they can be put back."""
        with database.write() as connection:
            rolls.bin_frames(connection, chosen.frames)

    @router.post("/frames/restore", status_code=204)
    def restore_frames(chosen: Frames) -> None:
        """Put frames back on their rolls."""
        with database.write() as connection:
            rolls.restore_frames(connection, chosen.frames)

    @router.get("/bin", response_model=list[Frame])
    def list_binned() -> Response:
        return Response(rolls.binned_json(database.read), media_type=JSON)

    @router.delete("/bin", status_code=204)
    def empty_bin(originals: bool = False) -> None:
        """Forget what is in the bin with its prints. `originals` also deletes the library's own
        copies of captures that no other frame shows; they are put aside otherwise."""
        library.empty_bin(originals)

    @router.get("/frames/{frame_id}/tags")
    def frame_tags(frame_id: int) -> list[Tag]:
        """All that the file of a frame says of itself."""
        frame = rolls.frame(database.read, frame_id)
        if frame.kind == "merged":
            return []
        found = every_tag(library.original(frame.sha256))
        return [Tag(name=name, value=value) for name, value in found]

    @router.get("/frames/{frame_id}/preview", response_class=Response)
    def frame_preview(frame_id: int) -> Response:
        """What can be shown of a frame at once, while its capture is developed."""
        frame = rolls.frame(database.read, frame_id)
        found = library.preview(frame.sha256)
        if found is None:
            raise NotFound("There is no picture of this frame that is quicker than itself.")
        return Response(found, media_type="image/jpeg", headers=_keep(3600))

    @router.get("/frames/{frame_id}/thumbnail", response_class=Response)
    def frame_thumbnail(
        frame_id: int, show: Literal["colour", "print"] = "colour", half: bool = False
    ) -> Response:
        """A small JPEG, in colour or as the chosen print of the frame; half as large for screens of
        ordinary resolution."""
        frame = rolls.frame(database.read, frame_id)
        data = library.smalls.read(smalls.of_frame(frame, show == "print"), half)
        return Response(data, media_type="image/jpeg", headers=_keep(31536000))

    @router.get("/prints/{print_id}/states/{state}/thumbnail", response_class=Response)
    def state_thumbnail(print_id: int, state: int, half: bool = True) -> Response:
        """A small JPEG of a state of a print."""
        of = prints.get_print(database.read, print_id)
        prints.check_state(database.read, print_id, state)
        frame = rolls.frame(database.read, of.frame_id)
        data = library.smalls.read(smalls.of_state(frame, state), half)
        return Response(data, media_type="image/jpeg", headers=_keep(31536000))

    return router


def _keep(seconds: int) -> dict[str, str]:
    return {"cache-control": f"private, max-age={seconds}, immutable"}
