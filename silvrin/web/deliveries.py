"""Deliveries in the making: the drying line."""

import statistics
import time
from collections import Counter, deque
from contextlib import suppress
from pathlib import Path
from typing import Any
from uuid import uuid4

from ..core.mount.mounting import Mounting
from ..core.recipe.files import write_recipe
from ..core.render import Darkroom, Sitting
from ..errors import Conflict, NotFound, SilvrinError
from ..files.delivery import (
    About,
    Carried,
    Output,
    contact_of,
    deliver,
    deliver_together,
    location_of,
    sized_for,
)
from ..files.delivery.laying import check_fits
from ..files.names import free_name
from ..files.papers import INCH
from ..files.whole import clear_parts, disk_error
from ..store import contact_processes, orders, output_sets, prints, rolls
from ..store import deliveries as kept
from ..store.library import Library
from ..store.orders import Order
from ..store.rolls import Frame
from .delivery_orders import (
    Delivery,
    DeliveryOrder,
    DryingLine,
    FileSize,
    LineView,
    Ordered,
    Plan,
    beside,
    delivered_as,
    ordered_of,
    stem_of,
    title_of,
)
from .jobs import Jobs, Progress, Wanted

OPEN = ("waiting", "running")
TELLING = 0.1  # share of a file from which its own time tells more than that of those before
EARLIER = 12  # deliveries whose time tells how long the next take
SHOWN = 60  # finished ones on the line at a time


class Deliveries(Jobs[Delivery]):
    """Prints on their way to files, one after the other."""

    def __init__(self, library: Library, darkroom: Darkroom) -> None:
        super().__init__(library, Delivery, "delivery")
        self._darkroom = darkroom
        self._took: deque[float] = deque(maxlen=EARLIER)  # s
        self._version = 0
        self._begun = 0.0
        self._batch: set[int] = set()  # what was ordered since the line was last empty

    def go_on(self) -> None:
        super().go_on()
        self._batch.update(job.id for job in self.unfinished())

    # Orders

    def order(self, order: DeliveryOrder) -> list[Delivery]:
        """Put prints in the queue as they are now, all or none. Raises NotFound, and Conflict where
        an output asks about names and that was not answered."""
        read = self._library.database.read
        if order.clashes is None and (there := self.plan(order).clashes):
            raise Conflict(
                f"{len(there)} of the files are there already, such as {Path(there[0]).name}. Say "
                "whether to number the new ones or to replace those."
            )
        answered = order.clashes
        outputs = [
            output.model_copy(update={"clash": answered or "number"})
            if output.clash == "ask" else output
            for output in order.outputs
        ]  # fmt: skip
        bodies, batch = [], uuid4().hex
        ordered = [
            (frame, prints.get_print(read, number)) for frame, number in self._ordered(order)
        ]

        def put(output: Output, first: int, more: tuple[tuple[int, int], ...] = ()) -> None:
            frame, of = ordered[first]
            title = title_of(frame, of.name) + (f", and {len(more)} more" if more else "")
            bodies.append(Ordered(
                print_id=of.id, change=of.head, title=title, batch=batch, output=output, more=more
            ).model_dump_json())  # fmt: skip

        for number in range(len(ordered)):
            for output in outputs:
                if not output.gathers:
                    put(output, number)
        for output in outputs:
            if output.gathers and ordered:
                put(output, 0, tuple((of.id, of.head) for _, of in ordered[1:]))
        if not bodies:
            raise NotFound("None of these frames has a print yet. Make one first.")
        if not self.unfinished():
            self._batch.clear()
        made = self.put_all(bodies)
        self._batch.update(job.id for job in made)
        return made

    def plan(self, order: DeliveryOrder) -> Plan:
        """What an order would write."""
        read = self._library.database.read
        first: list[str] = []
        clashes: list[str] = []
        ordered = self._ordered(order)
        for frame, print_id in ordered:
            of = prints.get_print(read, print_id)
            for output in order.outputs:
                first_done = len(first) >= len(order.outputs)
                if first_done and (output.clash != "ask" or output.gathers):
                    continue
                name = stem_of(frame, of.name, of.recipe.film.stock, output) + output.suffix
                if not first_done:
                    first.append(beside(name, first))
                place = self._folder(output) / name
                if output.clash == "ask" and place.exists():
                    clashes.append(str(place))
        folders = [str(self._folder(output)) for output in order.outputs]
        wrong: list[str] = []
        sizes = [
            self._size(ordered[0][1], out, wrong) if ordered else None for out in order.outputs
        ]
        gathering = sum(output.gathers for output in order.outputs)
        files = len(ordered) * (len(order.outputs) - gathering) + (gathering if ordered else 0)
        return Plan(
            files=files,
            without=len(order.prints) + len(order.frames) - len(ordered),
            example=first, sizes=sizes, folders=folders, clashes=clashes, wrong=wrong,
        )  # fmt: skip

    def _ordered(self, order: DeliveryOrder) -> list[tuple[Frame, int]]:
        """Frames and their prints that an order is of."""
        read = self._library.database.read
        named = [prints.get_print(read, print_id) for print_id in order.prints]
        found = [(rolls.frame(read, of.frame_id), of.id) for of in named]
        for frame_id in order.frames:
            frame = rolls.frame(read, frame_id)
            if frame.chosen is not None:
                found.append((frame, frame.chosen))
        return found

    def _size(self, print_id: int, output: Output, wrong: list[str]) -> FileSize | None:
        """None where it would take a while to tell, or cannot be; why not is put to what is
        wrong."""
        library = self._library
        of = prints.get_print(library.database.read, print_id)
        frame = rolls.frame(library.database.read, of.frame_id)
        if not library.pictures.ready(frame.sha256):
            return None
        try:
            at = sized_for(library.sitting(frame, of.recipe), output)
        except SilvrinError as error:
            wrong.append(str(error))
            return None
        whole = at.lay.whole.width, at.lay.whole.height
        if contact := contact_of(output, at.ppi):
            whole = contact.size(*whole)
        page = output.page
        if output.format == "pdf" and page.paper != "print" and page.columns is None:
            try:
                check_fits((whole[0] / at.ppi * INCH, whole[1] / at.ppi * INCH), page)
            except SilvrinError as error:
                wrong.append(str(error))
        mounted = at.sitting.path.recipe.mount.changes_picture
        coloured = mounted and at.sitting.path[Mounting].coloured
        return FileSize(
            width=whole[0], height=whole[1], ppi=at.ppi, limited=at.limited,
            coloured=coloured or self._darkroom.is_coloured(at.sitting),
        )  # fmt: skip

    def _folder(self, output: Output) -> Path:
        return Path(output.folder) if output.folder else self._library.delivered

    def again(self, number: int) -> Delivery:
        """The same once more, of the print as it is now."""
        self.get(number)
        what = self._ordered_as(number)
        numbers = [what.print_id, *(print_id for print_id, _ in what.more)]
        return self.order(DeliveryOrder(prints=numbers, outputs=(what.output,), clashes="number"))[
            0
        ]

    def _ordered_as(self, number: int) -> Ordered:
        """What an order was of, open or finished."""
        read = self._library.database.read
        if made := kept.finished(read, number):
            return ordered_of(made)
        return next(
            Ordered.model_validate_json(order.body)
            for order in orders.of_kind(read, "delivery") if order.id == number
        )  # fmt: skip

    # The line

    def get(self, number: int) -> Delivery:
        """A delivery, also one of a former run of the server; raises NotFound."""
        try:
            return super().get(number)
        except NotFound:
            made = kept.finished(self._library.database.read, number)
            if made is None:
                raise
            return delivered_as(made)

    def line(self) -> DryingLine:
        """How things stand."""
        with self._lock:
            many = Counter(job.state for job in self._jobs.values())
            running = [job.progress for job in self._jobs.values() if job.state == "running"]
            batch = [self._jobs[number] for number in self._batch]
            done = sum(job.progress if job.state in OPEN else 1.0 for job in batch)
        return DryingLine(
            version=self._version, waiting=many["waiting"], running=many["running"],
            failed=many["failed"], finished=many["done"],
            progress=done / len(batch) if batch else 0.0,
            current=running[0] if running else 0.0,
            seconds_left=self._left(many["waiting"], running[0]) if running else None,
        )  # fmt: skip

    def _left(self, waiting: int, share: float) -> float | None:
        """s, by how far the one that runs has come, or by those before it."""
        spent = time.monotonic() - self._begun
        if share >= TELLING:
            whole = spent / share
        elif self._took:
            whole = statistics.mean(self._took)
        else:
            return None
        return max(0.0, whole * (1.0 - share)) + waiting * whole

    def view(self, before: int | None = None) -> LineView:
        """The line; what is finished from an order on that came before one."""
        made = kept.latest(self._library.database.read, before, SHOWN)
        return LineView(
            line=self.line(),
            open=self.unfinished() if before is None else [],
            finished=[delivered_as(each) for each in made],
        )

    def small_of(self, number: int) -> Path:
        """Where the small picture of a finished delivery is kept."""
        return self._library.smalls.of(f"delivery-{number}")

    def retry(self, number: int) -> Delivery:
        """Try again what failed, of the state of the print it was ordered of."""
        if self.get(number).state != "failed":
            raise Conflict("Only a delivery that failed can be tried again.")
        with self._library.database.write() as connection:
            orders.again(connection, number)
        order = next(
            o for o in orders.of_kind(self._library.database.read, "delivery") if o.id == number
        )
        self._batch.add(number)
        return self._take_up(order)

    def put_away(self, numbers: list[int] | None) -> None:
        """Take finished deliveries off the line, all or some; their files stay."""
        with self._library.database.write() as connection:
            kept.put_away(connection, numbers)
        self._version += 1

    # The work

    def facts(self, body: str) -> dict[str, object]:
        what = Ordered.model_validate_json(body)
        return {
            "print_id": what.print_id, "output": what.output, "title": what.title,
            "prints": 1 + len(what.more),
        }  # fmt: skip

    def changed(self) -> None:
        self._version += 1

    def make(self, order: Order, progress: Progress, wanted: Wanted) -> dict[str, object]:
        library = self._library
        if made := kept.finished(library.database.read, order.id):
            return made.model_dump(include=set(kept.Finished.model_fields))
        self._begun = time.monotonic()
        what = Ordered.model_validate_json(order.body)
        output = what.output
        of = prints.get_print(library.database.read, what.print_id)
        frame = rolls.frame(library.database.read, of.frame_id)
        recipe = prints.recipe_of(library.database.read, what.change)
        stem = stem_of(frame, of.name, recipe.film.stock, output)
        target = self._target(order, stem, what)
        profile = output_sets.profile(library.database.read, output.profile)
        process = None
        if output.holds == "contact" and output.contact.process is not None:
            process = contact_processes.process(library.database.read, output.contact.process)
        with_it = profile, process, progress, wanted
        if output.gathers:
            wished = ((what.print_id, what.change), *what.more)
            coming = (self._to_print(*each, output) for each in wished)
            about = About(frame.roll_name, output.creator, output.rights, output.keywords)
            found = deliver_together(coming, len(wished), target, output, about, *with_it)
        else:
            sitting, about = self._to_print(what.print_id, what.change, output)
            found = deliver(sitting, target, output, about, *with_it)
        done = kept.Finished(
            print_id=of.id, file=str(target), width=found.width, height=found.height,
            bytes=target.stat().st_size, limited=found.limited,
        )  # fmt: skip
        if found.small:
            with suppress(SilvrinError):  # it is finished without
                library.smalls.keep(self.small_of(order.id), found.small)
        with library.database.write() as connection:
            kept.add_delivery(connection, order.id, what.change, output.format, order.body, done)
            orders.remove(connection, order.id)
        self._took.append(time.monotonic() - self._begun)
        return done.model_dump()

    def _to_print(self, print_id: int, change: int, output: Output) -> tuple[Sitting, About]:
        """A print at one of its states, and what a file says of it."""
        library = self._library
        of = prints.get_print(library.database.read, print_id)
        frame = rolls.frame(library.database.read, of.frame_id)
        recipe = prints.recipe_of(library.database.read, change)
        sheets = library.sheets.written(library.database.read, recipe)
        carried = Carried(write_recipe(recipe, sheets), frame.sha256, frame.file_name)
        return library.sitting(frame, recipe), self._about(frame, output, carried)

    def _target(self, order: Order, stem: str, what: Ordered) -> Path:
        """Where an order is written. That is kept before it is, so that what a crash cuts off is
        not there twice. What is replaced is never a file of the same order."""
        folder = self._folder(what.output) if order.target is None else Path(order.target).parent
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise disk_error(error, folder) from error
        if order.target is not None:
            clear_parts(Path(order.target))
            return Path(order.target)
        target, suffix = folder / f"{stem}{what.output.suffix}", what.output.suffix
        read = self._library.database.read
        if what.output.clash != "replace" or kept.is_of(read, str(target), what.batch):
            target = free_name(folder, stem, suffix)
        with self._library.database.write() as connection:
            orders.aim(connection, order.id, str(target))
        return target

    def _about(self, frame: Frame, output: Output, carried: Carried) -> About:
        said: dict[str, Any] = {"camera": frame.metadata} if output.camera else {}
        if output.location and not frame.lost and frame.kind != "merged":
            said["location"] = location_of(self._library.original(frame.sha256))
        return About(
            title=frame.title, creator=output.creator, rights=output.rights,
            keywords=output.keywords, carried=carried, **said,
        )  # fmt: skip
