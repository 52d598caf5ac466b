"""Merging brackets: which frames look like one, and merges in the making."""

import threading
from concurrent.futures import ThreadPoolExecutor
from typing import Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from ..errors import Dropped, NotFound, SilvrinError
from ..store import rolls
from ..store.library import Library
from ..store.merging import MOST_FRAMES, brackets_of


class MergeOrder(BaseModel):
    """What to merge."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)
    frames: list[int] = Field(min_length=2, max_length=MOST_FRAMES)
    reference: int = Field(description="The frame that things which moved are taken from.")
    ghosts: float = Field(0.5, ge=0, le=1, description="How strictly what moved is left out.")


class Merge(BaseModel):
    """A merge as it stands."""

    id: int
    state: Literal["waiting", "running", "done", "failed", "cancelled"]
    progress: float  # 0 to 1
    frame: int | None = None  # that was made
    error: str | None = None


class Merges:
    """The merges of this run of the server, one after the other."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._all: dict[int, Merge] = {}
        self._lock = threading.Lock()
        self._maker = ThreadPoolExecutor(1, thread_name_prefix="merge")

    def order(self, order: MergeOrder) -> Merge:
        """Put a merge in the queue."""
        with self._lock:
            job = Merge(id=len(self._all) + 1, state="waiting", progress=0.0)
            self._all[job.id] = job
        self._maker.submit(self._make, job.id, order)
        return job

    def get(self, merge_id: int) -> Merge:
        """A merge; raises NotFound."""
        with self._lock:
            if merge_id not in self._all:
                raise NotFound(f"There is no merge {merge_id}.")
            return self._all[merge_id].model_copy()

    def cancel(self, merge_id: int) -> Merge:
        """Stop a merge that is not finished."""
        if self.get(merge_id).state in ("waiting", "running"):
            self._set(merge_id, state="cancelled")
        return self.get(merge_id)

    def _set(self, merge_id: int, **values: object) -> None:
        with self._lock:
            self._all[merge_id] = self._all[merge_id].model_copy(update=values)

    def _make(self, job: int, order: MergeOrder) -> None:
        def wanted() -> bool:
            return self.get(job).state != "cancelled"

        if not wanted():
            return
        self._set(job, state="running")
        try:
            frame = self._library.merge(
                order.frames,
                order.reference,
                order.ghosts,
                lambda share: self._set(job, progress=share),
                wanted,
            )
            self._set(job, state="done", progress=1.0, frame=frame)
        except Dropped:
            pass
        except SilvrinError as error:
            self._set(job, state="failed", error=str(error))
        except Exception as error:  # whatever went wrong, the window must hear of it
            self._set(job, state="failed", error=f"The frames could not be merged ({error!r}).")
            raise


def merges_router(library: Library) -> APIRouter:
    """Brackets and merges."""
    router, merges = APIRouter(prefix="/api"), Merges(library)

    @router.get("/rolls/{roll_id}/brackets")
    def find_brackets(roll_id: int) -> list[list[int]]:
        """Frames that look like brackets by what their files say, and are not merged yet."""
        frames = rolls.frames_of(library.database.read, roll_id)
        own = [f for f in frames if f.kind != "merged"]
        return brackets_of([(f.id, f.width, f.height, f.metadata) for f in own])

    @router.post("/merges", status_code=202)
    def order_merge(order: MergeOrder) -> Merge:
        return merges.order(order)

    @router.get("/merges/{merge_id}")
    def get_merge(merge_id: int) -> Merge:
        return merges.get(merge_id)

    @router.delete("/merges/{merge_id}")
    def cancel_merge(merge_id: int) -> Merge:
        return merges.cancel(merge_id)

    return router
