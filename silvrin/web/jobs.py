"""Work that takes a while: one after the other, with progress and cancel."""

import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Generic, Literal, TypeVar

from pydantic import BaseModel

from ..errors import Dropped, NotFound, SilvrinError

State = Literal["waiting", "running", "done", "failed", "cancelled"]


class Job(BaseModel):
    """A piece of work as it stands."""

    id: int
    state: State
    progress: float  # 0 to 1
    error: str | None = None


J = TypeVar("J", bound=Job)
# Does the work, telling its progress and asking whether it is still wanted; gives what the job
# then says
Work = Callable[[Callable[[float], None], Callable[[], bool]], dict[str, object]]


class Jobs(Generic[J]):
    """The jobs of one kind in this run of the server."""

    def __init__(self, kind: type[J], name: str) -> None:
        self._kind, self._name = kind, name
        self._all: dict[int, J] = {}
        self._lock = threading.Lock()
        self._maker = ThreadPoolExecutor(1, thread_name_prefix=name)

    def put(self, work: Work, ended: Callable[[], None] = lambda: None, **facts: object) -> J:
        """A new job at the end of the queue; `ended` is called when it is over, one way or
        another."""
        with self._lock:
            number = len(self._all) + 1
            job = self._kind(id=number, state="waiting", progress=0.0, **facts)
            self._all[number] = job
        self._maker.submit(self._run, number, work, ended)
        return job

    def get(self, number: int) -> J:
        """A job; raises NotFound."""
        with self._lock:
            if number not in self._all:
                raise NotFound(f"There is no {self._name} {number}.")
            return self._all[number].model_copy()

    def unfinished(self) -> list[J]:
        """Jobs that wait, run or failed, in their order."""
        with self._lock:
            jobs = [job.model_copy() for job in self._all.values()]
        return [job for job in jobs if job.state in ("waiting", "running", "failed")]

    def cancel(self, number: int) -> J:
        """Stop a job that is not finished."""
        if self.get(number).state in ("waiting", "running"):
            self._set(number, state="cancelled")
        return self.get(number)

    def _set(self, number: int, **values: object) -> None:
        with self._lock:
            self._all[number] = self._all[number].model_copy(update=values)

    def _run(self, number: int, work: Work, ended: Callable[[], None]) -> None:
        def wanted() -> bool:
            return self.get(number).state != "cancelled"

        try:
            if not wanted():
                return
            self._set(number, state="running")
            found = work(lambda share: self._set(number, progress=share), wanted)
            self._set(number, state="done", progress=1.0, **found)
        except Dropped:
            pass
        except SilvrinError as error:
            self._set(number, state="failed", error=str(error))
        except Exception as error:  # whatever went wrong, the window must hear of it
            self._set(number, state="failed", error=f"The {self._name} failed ({error!r}).")
            raise
        finally:
            ended()
