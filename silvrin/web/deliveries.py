"""Deliveries in the making."""

from pydantic import BaseModel, ConfigDict, Field

from ..core.render import print_side, with_mount_off
from ..errors import NotFound
from ..files.deliver import Format, Space, deliver, fit_name, free_name
from ..store import prints, rolls
from ..store.deliveries import Finished, add_delivery, finished
from ..store.library import Library
from ..store.orders import Order
from .jobs import Job, Jobs, Progress, Wanted


class DeliveryOrder(BaseModel):
    """What to make of a print."""

    model_config = ConfigDict(extra="forbid")
    format: Format = "tiff"
    long_side: int | None = Field(None, ge=64, le=65000, description="Pixels; empty is full size.")
    print_size: bool = Field(
        False, description="At the print's size and resolution, in place of a long side."
    )
    space: Space = Field("srgb", description="Of a print that has colour.")
    mounted: bool = Field(True, description="As the print is mounted, or the picture alone.")


class Delivery(Job):
    """A delivery as it stands."""

    print_id: int
    file: str | None = None
    width: int | None = None
    height: int | None = None
    bytes: int | None = None


class _Ordered(DeliveryOrder):
    """An order as it is kept: of the state that the print had then."""

    print_id: int
    change: int


class Deliveries(Jobs[Delivery]):
    """Prints on their way to files, one after the other."""

    def __init__(self, library: Library) -> None:
        super().__init__(library, Delivery, "delivery")

    def order(self, print_id: int, order: DeliveryOrder) -> Delivery:
        """Put a print in the queue as it is now."""
        head = prints.get_print(self._library.database.read, print_id).head
        what = _Ordered(print_id=print_id, change=head, **order.model_dump())
        return self.put(what.model_dump_json())

    def get(self, number: int) -> Delivery:
        """A delivery, also one of a former run of the server; raises NotFound."""
        try:
            return super().get(number)
        except NotFound:
            made = finished(self._library.database.read, number)
            if made is None:
                raise
            return Delivery(id=number, state="done", progress=1.0, **made.model_dump())

    def facts(self, body: str) -> dict[str, object]:
        return {"print_id": _Ordered.model_validate_json(body).print_id}

    def make(self, order: Order, progress: Progress, wanted: Wanted) -> dict[str, object]:
        library = self._library
        if made := finished(library.database.read, order.id):
            return made.model_dump()
        what = _Ordered.model_validate_json(order.body)
        of = prints.get_print(library.database.read, what.print_id)
        frame = rolls.frame(library.database.read, of.frame_id)
        stem = f"{frame.roll_name} {frame.number:02d} {frame.title} - {of.name}"
        target = free_name(library.delivered, fit_name(stem), what.format)
        recipe = prints.recipe_of(library.database.read, what.change)
        sitting = library.sitting(frame, recipe)
        if not what.mounted:
            sitting = with_mount_off(sitting)
        width, height = deliver(
            sitting, target, what.format,
            print_side(sitting) if what.print_size else what.long_side, progress, wanted,
            what.space,
        )  # fmt: skip
        made = Finished(
            print_id=of.id, file=str(target), width=width, height=height,
            bytes=target.stat().st_size,
        )  # fmt: skip
        with library.database.write() as connection:
            add_delivery(connection, order.id, what.change, what.format, made)
        return made.model_dump()
