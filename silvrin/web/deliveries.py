"""Deliveries in the making."""

import re
from collections.abc import Callable

from pydantic import BaseModel, ConfigDict, Field

from ..files.deliver import Format, deliver, free_name
from ..store import prints, rolls
from ..store.deliveries import add_delivery
from ..store.library import Library
from .jobs import Job, Jobs


class DeliveryOrder(BaseModel):
    """What to make of a print."""

    model_config = ConfigDict(extra="forbid")
    format: Format = "tiff"
    long_side: int | None = Field(None, ge=64, le=65000, description="Pixels; empty is full size.")


class Delivery(Job):
    """A delivery as it stands."""

    print_id: int
    file: str | None = None
    width: int | None = None
    height: int | None = None
    bytes: int | None = None


class Deliveries(Jobs[Delivery]):
    """The deliveries of this run of the server, one after the other."""

    def __init__(self, library: Library) -> None:
        super().__init__(Delivery, "delivery")
        self._library = library

    def order(self, print_id: int, order: DeliveryOrder) -> Delivery:
        """Put a print in the queue."""
        what = prints.get_print(self._library.database.read, print_id)
        return self.put(
            lambda progress, wanted: self._make(what, order, progress, wanted), print_id=print_id
        )

    def _make(
        self,
        what: prints.Print,
        order: DeliveryOrder,
        progress: Callable[[float], None],
        wanted: Callable[[], bool],
    ) -> dict[str, object]:
        library = self._library
        frame = rolls.frame(library.database.read, what.frame_id)
        stem = f"{frame.roll_name} {frame.number:02d} {frame.title} - {what.name}"
        stem = re.sub(r'[\\/:*?"<>|\x00-\x1f]+', "-", stem)[:150]
        target = free_name(library.home / "delivered", stem, order.format)
        width, height = deliver(
            library.sitting(frame, what.recipe),
            target,
            order.format,
            order.long_side,
            progress,
            wanted,
        )
        with library.database.write() as connection:
            add_delivery(connection, what.id, what.head, target, order.format, (width, height))
        size = target.stat().st_size
        return {"file": str(target), "width": width, "height": height, "bytes": size}
