"""Merging brackets: which frames look like one, and merges in the making."""

import threading
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, ConfigDict, Field

from ..core.capture.brackets import BracketFrame, Ghosts, check_sizes
from ..core.render import in_colour
from ..errors import NotFound
from ..files.thumbnails import thumbnail
from ..store import merging, rolls
from ..store.library import Library
from ..store.merging import MOST_FRAMES
from ..store.orders import Order
from .jobs import Job, Jobs, Progress, Wanted

OVERLAY = 900  # long side of the picture that shows what moved
MOVED = np.array([232, 100, 80], np.float32)


class Bracket(BaseModel):
    """Frames to be merged, and how."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)
    frames: list[int] = Field(min_length=2, max_length=MOST_FRAMES)
    reference: int = Field(description="The frame that things which moved are taken from.")
    ghosts: float = Field(0.5, ge=0, le=1, description="How strictly what moved is left out.")


class MergeOrder(Bracket):
    """What to merge."""

    into: int | None = Field(
        None, description="A merged frame that is made anew and keeps its prints; empty adds one."
    )


class Merge(Job):
    """A merge as it stands."""

    frames: list[int]
    frame: int | None = None  # that was made


class Merges(Jobs[Merge]):
    """Merges in the making."""

    def __init__(self, library: Library) -> None:
        super().__init__(library, Merge, "merge")

    def facts(self, body: str) -> dict[str, object]:
        return {"frames": MergeOrder.model_validate_json(body).frames}

    def make(self, order: Order, progress: Progress, wanted: Wanted) -> dict[str, object]:
        what = MergeOrder.model_validate_json(order.body)
        made = self._library.merger.merge(
            what.frames, what.reference, what.ghosts, progress, wanted, what.into
        )
        return {"frame": made}


class _Looked:
    """The bracket that is looked at just now, aligned once while its strictness changes."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._lock = threading.Lock()
        self._kept: tuple[object, Ghosts, float] | None = None

    def overlay(self, bracket: Bracket) -> bytes:
        """A JPEG of the reference with what is taken from it alone in colour."""
        library = self._library
        file = library.merger.file_of(bracket.frames, bracket.reference, bracket.ghosts)
        key = (tuple(source.sha256 for source in file.sources), file.reference)
        with self._lock:
            if self._kept is None or self._kept[0] != key:
                frames = []
                pictures = [library.picture(source.sha256) for source in file.sources]
                check_sizes([picture.levels[0].shape[:2] for picture in pictures])
                for source, picture in zip(file.sources, pictures, strict=True):
                    light = picture.cut(picture.whole(OVERLAY))
                    frames.append(
                        BracketFrame(light, picture.scale, source.exposure, picture.limits)
                    )
                self._kept = key, Ghosts(frames, file.reference), frames[file.reference].scale
            _, ghosts, scale = self._kept
            share = ghosts.where(bracket.ghosts)[..., None]
            shown = in_colour(ghosts.light, scale).astype(np.float32)
        grey = shown.mean(axis=2, keepdims=True) * 0.8 + 20
        mixed = grey + 0.65 * share * (MOVED - grey)
        return thumbnail(np.clip(mixed, 0, 255).astype(np.uint8))


def merges_router(library: Library, merges: Merges) -> APIRouter:
    """Brackets and merges."""
    router, looked = APIRouter(prefix="/api"), _Looked(library)

    @router.get("/rolls/{roll_id}/brackets")
    def list_brackets(roll_id: int) -> list[list[int]]:
        """Frames that look like brackets by what their files say, and are not merged yet."""
        return merging.find_brackets(library.database.read, roll_id)

    @router.delete("/rolls/{roll_id}/brackets", status_code=204)
    def leave_bracket(roll_id: int, frames: Annotated[list[int], Query(min_length=2)]) -> None:
        """These frames are no bracket; they are not offered again."""
        with library.database.write() as connection:
            rolls.check_roll(connection, roll_id)
            merging.leave_bracket(connection, frames)

    @router.post("/merges", status_code=202)
    def order_merge(order: MergeOrder) -> Merge:
        """Put a merge in the queue; it begins anew when the server is started again."""
        return merges.put(order.model_dump_json())

    @router.get("/merges")
    def list_merges() -> list[Merge]:
        """Those that wait, run or failed."""
        return merges.unfinished()

    @router.post("/merges/moved", response_class=Response)
    def show_moved(bracket: Bracket) -> Response:
        """The reference as a JPEG, with what would be taken from it alone in red."""
        return Response(looked.overlay(bracket), media_type="image/jpeg")

    @router.get("/merges/{merge_id}")
    def get_merge(merge_id: int) -> Merge:
        return merges.get(merge_id)

    @router.delete("/merges/{merge_id}")
    def cancel_merge(merge_id: int) -> Merge:
        return merges.cancel(merge_id)

    @router.get("/frames/{frame_id}/bracket")
    def made_from(frame_id: int) -> Bracket:
        """What a merged frame was made from; raises a problem when those frames are gone."""
        read = library.database.read
        file = library.merger.made_from(rolls.frame(read, frame_id).sha256)
        frames = []
        for source in file.sources:
            found = rolls.where_known(read, source.sha256)
            if not found:
                raise NotFound(
                    "A frame that this one was merged from is not on a sheet any more; put it back "
                    "from the bin, or take it in again."
                )
            frames.append(found[0].frame)
        return Bracket(frames=frames, reference=frames[file.reference], ghosts=file.ghosts)

    return router
