"""Work that takes a while: one after the other, with progress and cancel, kept over a stop."""

import logging
import threading
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import Generic, Literal, TypeVar

from pydantic import BaseModel

from ..core.kernels.run import behind
from ..errors import Dropped, NotFound, SilvrinError
from ..store import orders
from ..store.library import Library
from ..store.orders import Kind, Order

LATEST = 20
LOG = logging.getLogger(__name__)
State = Literal["waiting", "running", "done", "failed", "cancelled"]
Progress = Callable[[float], None]
Wanted = Callable[[], bool]


class Job(BaseModel):
    """A piece of work as it stands."""

    id: int
    state: State
    progress: float  # 0 to 1
    error: str | None = None


J = TypeVar("J", bound=Job)


class Jobs(ABC, Generic[J]):
    """The jobs of one kind. An order is a row until its work ends, so that it begins anew when a
    stop or a crash cut it off; one that failed stays until it is put away."""

    def __init__(self, library: Library, kind: type[J], name: Kind) -> None:
        self._library, self._kind, self._name = library, kind, name
        self._jobs: dict[int, J] = {}
        self._lock = threading.Lock()
        self._stopping = threading.Event()
        self._maker = ThreadPoolExecutor(1, thread_name_prefix=name)

    @abstractmethod
    def facts(self, body: str) -> dict[str, object]:
        """What a job says of its order."""

    @abstractmethod
    def make(self, order: Order, progress: Progress, wanted: Wanted) -> dict[str, object]:
        """Do the work, telling its progress; gives what the job then says. Raises Dropped when it
        is no longer wanted. An order that was carried out already is not carried out again."""

    def go_on(self) -> None:
        """Take up what was not finished when the server ended."""
        for order in orders.of_kind(self._library.database.read, self._name):
            self._take_up(order)

    def stop(self) -> None:
        """Let go of what is under way and begin nothing more; their orders stay."""
        self._stopping.set()
        self._maker.shutdown(wait=False, cancel_futures=True)

    def settle(self) -> None:
        """After `stop`: until the step that is under way has ended."""
        self._maker.shutdown(wait=True)

    def put(self, body: str) -> J:
        """A new job at the end of the queue."""
        return self.put_all([body])[0]

    def put_all(self, bodies: Iterable[str]) -> list[J]:
        """New jobs at the end of the queue, all or none."""
        with self._library.database.write() as connection:
            added = [orders.add(connection, self._name, body) for body in bodies]
        return [self._take_up(order) for order in added]

    def get(self, number: int) -> J:
        """A job; raises NotFound."""
        with self._lock:
            if number not in self._jobs:
                raise NotFound(f"There is no {self._name} {number}.")
            return self._jobs[number].model_copy()

    def unfinished(self) -> list[J]:
        """Jobs that wait, run or failed, in their order."""
        return [job for job in self._known() if job.state in ("waiting", "running", "failed")]

    def latest(self) -> list[J]:
        """Those that are not finished, and the newest that are, as they stand."""
        jobs = self._known()
        return [
            job for i, job in enumerate(jobs)
            if job.state in ("waiting", "running", "failed") or i >= len(jobs) - LATEST
        ]  # fmt: skip

    def _known(self) -> list[J]:
        with self._lock:
            return [job.model_copy() for job in self._jobs.values()]

    def cancel(self, number: int) -> J:
        """Stop a job that is not finished, or put one away that failed."""
        if self.get(number).state in ("waiting", "running", "failed"):
            self._set(number, state="cancelled")
            self._forget(number)
        return self.get(number)

    def changed(self) -> None:
        """A job came or is in another state."""

    def _take_up(self, order: Order) -> J:
        state: State = "failed" if order.error else "waiting"
        facts = self.facts(order.body)
        job = self._kind(id=order.id, state=state, progress=0.0, error=order.error, **facts)
        with self._lock:
            self._jobs[order.id] = job
        self.changed()
        if state == "waiting" and not self._stopping.is_set():
            self._maker.submit(self._run, order)
        return job

    def _set(self, number: int, **values: object) -> None:
        with self._lock:
            self._jobs[number] = self._jobs[number].model_copy(update=values)
        if "state" in values:
            self.changed()

    def _forget(self, number: int) -> None:
        with self._library.database.write() as connection:
            orders.remove(connection, number)

    def _run(self, order: Order) -> None:
        number = order.id

        def wanted() -> bool:
            return not self._stopping.is_set() and self.get(number).state != "cancelled"

        try:
            if not wanted():
                return
            self._set(number, state="running")
            with behind():
                found = self.make(order, lambda share: self._set(number, progress=share), wanted)
            self._forget(number)
            self._set(number, state="done", progress=1.0, **found)
        except Dropped:
            return
        except Exception as error:  # whatever went wrong, the window must hear of it
            if self._stopping.is_set():  # pools and files are taken down about it
                return
            said = str(error)
            if not isinstance(error, SilvrinError):
                LOG.exception("%s %s failed", self._name, number)
                said = f"The {self._name} failed ({error!r})."
            self._set(number, state="failed", error=said)
            with self._library.database.write() as connection:
                orders.fail(connection, number, said)
