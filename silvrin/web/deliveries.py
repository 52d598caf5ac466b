"""Deliveries in the making: the drying line."""

import json
import statistics
import time
from collections import Counter, deque
from contextlib import suppress
from pathlib import Path
from typing import Any, Literal
from uuid import uuid4

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..core.mount.mounting import Mounting
from ..core.recipe.files import write_recipe
from ..core.render import Darkroom
from ..errors import Conflict, NotFound, SilvrinError
from ..files.delivery import (
    About,
    Carried,
    Output,
    contact_of,
    deliver,
    location_of,
    sized_for,
)
from ..files.names import free_name, named, of_camera
from ..files.whole import clear_parts, disk_error
from ..store import contact_processes, orders, output_sets, prints, rolls
from ..store import deliveries as kept
from ..store.library import Library
from ..store.orders import Order
from ..store.rolls import Frame
from .inputs import Input
from .jobs import Job, Jobs, Progress, Wanted

OPEN = ("waiting", "running")
MOST = 20_000  # files of one order
TELLING = 0.1  # share of a file from which its own time tells more than that of those before
EARLIER = 12  # deliveries whose time tells how long the next take
SHOWN = 60  # finished ones on the line at a time


class DeliveryOrder(Input):
    """What to make of some prints."""

    prints: list[int] = Field([], max_length=5_000)
    frames: list[int] = Field(
        [], max_length=5_000,
        description="Of each the print that the sheet shows; those without one are left out.",
    )  # fmt: skip
    outputs: tuple[Output, ...] = Field(min_length=1, max_length=20)
    clashes: Literal["number", "replace"] | None = Field(
        None, description="What was answered where an output asks about files of its name."
    )

    @model_validator(mode="after")
    def _not_too_many(self) -> "DeliveryOrder":
        if not self.prints and not self.frames:
            raise ValueError("no print and no frame is named; name at least one")
        many = (len(self.prints) + len(self.frames)) * len(self.outputs)
        if many > MOST:
            raise ValueError(f"{many} files; one order takes up to {MOST}")
        return self


class Delivery(Job):
    """A delivery as it stands."""

    print_id: int
    title: str  # of frame and print
    output: Output
    file: str | None = None
    width: int | None = None
    height: int | None = None
    bytes: int | None = None
    limited: bool = False  # the capture had less than was asked for
    there: bool = True  # its file, where it was finished
    finished_at: str | None = None


class DryingLine(BaseModel):
    """How things stand on the line, in short."""

    version: int  # another when something changed
    waiting: int
    running: int
    failed: int
    finished: int  # of this run of the server
    progress: float  # 0 to 1, of what was ordered since the line was last empty
    current: float  # 0 to 1, of the one that runs
    seconds_left: float | None


class LineView(BaseModel):
    """The drying line."""

    line: DryingLine
    open: list[Delivery]  # that run, wait or failed
    finished: list[Delivery]  # newest first


class FileSize(BaseModel):
    """Of a file that an order would write."""

    width: int  # pixels
    height: int
    ppi: float
    coloured: bool  # the print has colour
    limited: bool  # the capture has less than is asked for


class Plan(BaseModel):
    """What an order would write."""

    files: int
    without: int  # frames that have no print
    example: list[str]  # the name of the first print's file, an output each
    sizes: list[FileSize | None]  # of it, where the print's capture is developed
    folders: list[str]
    clashes: list[str]  # files that are there already, where an output asks


class _Ordered(BaseModel):
    """An order as it is kept: of the state that the print had then."""

    model_config = ConfigDict(extra="forbid")
    print_id: int
    change: int
    title: str = ""
    batch: str = ""  # what was ordered together
    output: Output

    @model_validator(mode="before")
    @classmethod
    def _upgraded(cls, given: Any) -> Any:
        """Orders of a Silvrin that knew TIFF and JPEG alone."""
        if not isinstance(given, dict) or "output" in given:
            return given
        long_side = given.get("long_side")
        size: dict[str, Any] = {"by": "print"} if given.get("print_size") else {}
        if long_side and not size:
            size = {"by": "long", "value": long_side}
        space = given.get("space", "srgb")
        output = {
            "format": given.get("format", "tiff"), "size": size,
            "space": "own" if space == "srgb" else space, "mounted": given.get("mounted", True),
        }  # fmt: skip
        return {"print_id": given["print_id"], "change": given["change"], "output": output}


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
        bodies, batch = [], uuid4().hex
        for frame, print_id in self._ordered(order):
            of = prints.get_print(read, print_id)
            for output in order.outputs:
                if output.clash == "ask":
                    output = output.model_copy(update={"clash": answered or "number"})
                what = _Ordered(
                    print_id=print_id, change=of.head, title=_title(frame, of.name), batch=batch,
                    output=output,
                )  # fmt: skip
                bodies.append(what.model_dump_json())
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
                if first_done and output.clash != "ask":
                    continue
                name = _stem(frame, of.name, of.recipe.film.stock, output) + output.suffix
                if not first_done:
                    first.append(_beside(name, first))
                place = self._folder(output) / name
                if output.clash == "ask" and place.exists():
                    clashes.append(str(place))
        folders = [str(self._folder(output)) for output in order.outputs]
        sizes = [self._size(ordered[0][1], out) if ordered else None for out in order.outputs]
        return Plan(
            files=len(ordered) * len(order.outputs),
            without=len(order.prints) + len(order.frames) - len(ordered),
            example=first, sizes=sizes, folders=folders, clashes=clashes,
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

    def _size(self, print_id: int, output: Output) -> FileSize | None:
        """None where it would take a while to tell, or cannot be."""
        library = self._library
        of = prints.get_print(library.database.read, print_id)
        frame = rolls.frame(library.database.read, of.frame_id)
        if not library.pictures.ready(frame.sha256):
            return None
        try:
            at = sized_for(library.sitting(frame, of.recipe), output)
        except SilvrinError:
            return None
        whole = at.lay.whole.width, at.lay.whole.height
        if contact := contact_of(output, at.ppi):
            whole = contact.size(*whole)
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
        job = self.get(number)
        return self.order(
            DeliveryOrder(prints=[job.print_id], outputs=(job.output,), clashes="number")
        )[0]

    # The line

    def get(self, number: int) -> Delivery:
        """A delivery, also one of a former run of the server; raises NotFound."""
        try:
            return super().get(number)
        except NotFound:
            made = kept.finished(self._library.database.read, number)
            if made is None:
                raise
            return _delivered(made)

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
            finished=[_delivered(each) for each in made],
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
        what = _Ordered.model_validate_json(body)
        return {"print_id": what.print_id, "output": what.output, "title": what.title}

    def changed(self) -> None:
        self._version += 1

    def make(self, order: Order, progress: Progress, wanted: Wanted) -> dict[str, object]:
        library = self._library
        if made := kept.finished(library.database.read, order.id):
            return made.model_dump(include=set(kept.Finished.model_fields))
        self._begun = time.monotonic()
        what = _Ordered.model_validate_json(order.body)
        output = what.output
        of = prints.get_print(library.database.read, what.print_id)
        frame = rolls.frame(library.database.read, of.frame_id)
        recipe = prints.recipe_of(library.database.read, what.change)
        stem = _stem(frame, of.name, recipe.film.stock, output)
        target = self._target(order, stem, what)
        sitting = library.sitting(frame, recipe)
        sheets = library.sheets.written(library.database.read, recipe)
        about = self._about(frame, output, Carried(
            write_recipe(recipe, sheets), frame.sha256, frame.file_name
        ))  # fmt: skip
        profile = output_sets.profile(library.database.read, output.profile)
        process = None
        if output.holds == "contact" and output.contact.process is not None:
            process = contact_processes.process(library.database.read, output.contact.process)
        found = deliver(sitting, target, output, about, profile, process, progress, wanted)
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

    def _target(self, order: Order, stem: str, what: _Ordered) -> Path:
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


def _beside(name: str, others: list[str]) -> str:
    """A name, numbered where the order has it already."""
    stem, suffix = Path(name).stem, Path(name).suffix
    number = 2
    while name in others:
        name, number = f"{stem} {number}{suffix}", number + 1
    return name


def _title(frame: Frame, name: str) -> str:
    return f"{frame.roll_name}, frame {frame.number}, {frame.title}: {name}"


def _stem(frame: Frame, name: str, stock: str, output: Output) -> str:
    """The name of a file without its suffix."""
    return named(
        output.template,
        {
            "roll": frame.roll_name, "number": f"{frame.number:02d}", "title": frame.title,
            "print": name, "output": output.name, "capture": Path(frame.file_name).stem,
            "film": stock, **of_camera(frame.metadata),
        },
    )  # fmt: skip


def _delivered(made: kept.Delivered) -> Delivery:
    """A finished delivery of the line."""
    body = made.body or json.dumps({"print_id": made.print_id, "change": 0})
    what = _Ordered.model_validate_json(body)
    return Delivery(
        id=made.id, state="done", progress=1.0, title=what.title or Path(made.file).stem,
        output=what.output, there=Path(made.file).exists(), finished_at=made.finished_at,
        **made.model_dump(include=set(kept.Finished.model_fields)),
    )  # fmt: skip
