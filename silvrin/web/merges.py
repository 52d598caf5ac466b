"""Merging brackets: which frames look like one, and merges in the making."""

from collections.abc import Callable

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from ..store import rolls
from ..store.library import Library
from ..store.merging import MOST_FRAMES, brackets_of
from .jobs import Job, Jobs


class MergeOrder(BaseModel):
    """What to merge."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)
    frames: list[int] = Field(min_length=2, max_length=MOST_FRAMES)
    reference: int = Field(description="The frame that things which moved are taken from.")
    ghosts: float = Field(0.5, ge=0, le=1, description="How strictly what moved is left out.")


class Merge(Job):
    """A merge as it stands."""

    frame: int | None = None  # that was made


def merges_router(library: Library) -> APIRouter:
    """Brackets and merges."""
    router, merges = APIRouter(prefix="/api"), Jobs(Merge, "merge")

    @router.get("/rolls/{roll_id}/brackets")
    def find_brackets(roll_id: int) -> list[list[int]]:
        """Frames that look like brackets by what their files say, and are not merged yet."""
        frames = rolls.frames_of(library.database.read, roll_id)
        own = [f for f in frames if f.kind != "merged"]
        return brackets_of([(f.id, f.width, f.height, f.metadata) for f in own])

    @router.post("/merges", status_code=202)
    def order_merge(order: MergeOrder) -> Merge:
        """Put a merge in the queue."""

        def work(
            progress: Callable[[float], None], wanted: Callable[[], bool]
        ) -> dict[str, object]:
            return {
                "frame": library.merge(
                    order.frames, order.reference, order.ghosts, progress, wanted
                )
            }

        return merges.put(work)

    @router.get("/merges/{merge_id}")
    def get_merge(merge_id: int) -> Merge:
        return merges.get(merge_id)

    @router.delete("/merges/{merge_id}")
    def cancel_merge(merge_id: int) -> Merge:
        return merges.cancel(merge_id)

    return router
