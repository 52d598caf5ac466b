"""Deliveries in the making: one after the other, with progress and cancel."""

import re
import threading
from concurrent.futures import ThreadPoolExecutor
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from ..core.capture.seen import seen
from ..errors import Dropped, NotFound, SilvrinError
from ..files.deliver import Format, deliver, free_name
from ..store import prints, rolls
from ..store.deliveries import add_delivery
from ..store.library import Library

State = Literal["waiting", "running", "done", "failed", "cancelled"]


class DeliveryOrder(BaseModel):
    """What to make of a print."""

    model_config = ConfigDict(extra="forbid")
    format: Format = "tiff"
    long_side: int | None = Field(None, ge=64, le=65000, description="Pixels; empty is full size.")


class Delivery(BaseModel):
    """A delivery as it stands."""

    id: int
    print_id: int
    state: State
    progress: float  # 0 to 1
    file: str | None = None
    width: int | None = None
    height: int | None = None
    bytes: int | None = None
    error: str | None = None


class Deliveries:
    """The deliveries of this run of the server."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._all: dict[int, Delivery] = {}
        self._lock = threading.Lock()
        self._maker = ThreadPoolExecutor(1, thread_name_prefix="delivery")

    def order(self, print_id: int, order: DeliveryOrder) -> Delivery:
        """Put a print in the queue."""
        what = prints.get_print(self._library.database.read, print_id)
        with self._lock:
            job = Delivery(id=len(self._all) + 1, print_id=print_id, state="waiting", progress=0.0)
            self._all[job.id] = job
        self._maker.submit(self._make, job.id, what, order)
        return job

    def get(self, delivery_id: int) -> Delivery:
        """A delivery; raises NotFound."""
        with self._lock:
            if delivery_id not in self._all:
                raise NotFound(f"There is no delivery {delivery_id}.")
            return self._all[delivery_id].model_copy()

    def cancel(self, delivery_id: int) -> Delivery:
        """Stop a delivery that is not finished."""
        if self.get(delivery_id).state in ("waiting", "running"):
            self._set(delivery_id, state="cancelled")
        return self.get(delivery_id)

    def _set(self, delivery_id: int, **values: object) -> None:
        with self._lock:
            self._all[delivery_id] = self._all[delivery_id].model_copy(update=values)

    def _make(self, job: int, what: prints.Print, order: DeliveryOrder) -> None:
        def wanted() -> bool:
            return self.get(job).state != "cancelled"

        if not wanted():
            return
        self._set(job, state="running")
        try:
            library = self._library
            frame = rolls.frame(library.database.read, what.frame_id)
            stem = f"{frame.roll_name} {frame.number:02d} {frame.title} - {what.name}"
            stem = re.sub(r'[\\/:*?"<>|\x00-\x1f]+', "-", stem)[:150]
            target = free_name(library.home / "delivered", stem, order.format)
            size = deliver(
                seen(library.picture(frame.sha256), what.recipe.capture),
                library.shelf.light_path(what.recipe),
                target,
                order.format,
                order.long_side,
                lambda share: self._set(job, progress=share),
                wanted,
            )
            with library.database.write() as connection:
                add_delivery(connection, what.id, what.head, target, order.format, size)
            self._set(
                job,
                state="done",
                progress=1.0,
                file=str(target),
                width=size[0],
                height=size[1],
                bytes=target.stat().st_size,
            )
        except Dropped:
            pass
        except SilvrinError as error:
            self._set(job, state="failed", error=str(error))
        except Exception as error:  # whatever went wrong, the window must hear of it
            self._set(job, state="failed", error=f"The print could not be made ({error!r}).")
            raise
