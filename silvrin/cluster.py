"""Many images to files over a cluster of computers: Dask's, whose workers have Silvrin too.

Needs the extra `silvrin[cluster]`. Every worker prints one image at a time, with all processors
that it has. Where a worker is lost, what it was at goes to another one.
"""

import asyncio
import logging
import os
import tempfile
import threading
import time
from collections import deque
from collections.abc import Iterator, Mapping, Sequence
from concurrent import futures
from contextlib import contextmanager, suppress
from dataclasses import dataclass, replace
from pathlib import Path
from uuid import uuid4

from . import __version__
from .batch import Ended, How, Task, Wanted, print_image, printed, tasks_of, went_wrong
from .errors import SilvrinError
from .files.whole import clear_parts, whole_or_nothing

try:
    import dask
    from distributed import Client, Event, Future, KilledWorker, as_completed, get_client
except ImportError as missing:
    raise SilvrinError(
        "A cluster needs Dask, which is not installed here. Install it with "
        "`pip install 'silvrin[cluster]'`, on every computer of the cluster."
    ) from missing

ANSWERS = 15.0  # s in which a scheduler and a first worker are to answer
AHEAD = 2  # images on their way to a worker while it prints one
LOOKS = 0.5  # s between looks whether images are still wanted, and at how many workers there are
TRIES = 2  # more, of an image under which something broke
LARGE = "1 TiB"  # of a message, from which Dask warns: captures are
GONE = (
    "The cluster's scheduler is gone. Files that are there are whole; start it again and give the "
    "command with --resume."
)
_one_at_a_time = threading.Lock()  # of a worker


@dataclass(frozen=True)
class _Sent:
    """What became of an image that was sent, with its files."""

    ended: Ended
    contents: Mapping[Path, bytes]


def deliver_over(
    address: str, images: Sequence[Path], how: How, sent: bool = False
) -> Iterator[Ended]:
    """Deliver images over the cluster whose scheduler has this address; gives each as it ends.
    Captures are read and files are written by the workers, in folders that they have under the same
    names; or, `sent`, captures are sent and files come back. Ended early, nothing half-written
    stays. Raises SilvrinError where the cluster does not answer or does not see these folders."""
    everything = tasks_of(images, how)
    tasks = [_everywhere(task) for task in everything if not task.together]
    with _client(address) as client:
        if not sent:
            _check_folders(client, tasks, how)
        stop = Event(f"silvrin-{uuid4().hex}", client)
        at_work: dict[Future, Task] = {}
        coming = as_completed(loop=client.loop)
        crew = _Crew(client)
        left = deque(tasks)
        try:
            while left or at_work:
                while left and len(at_work) < crew.room():
                    task, content = left.popleft(), None
                    if sent:
                        try:
                            content = task.image.read_bytes()
                        except OSError as error:
                            says = f"{task.image.name}: cannot be read ({error.strerror})."
                            yield Ended(task.image, "failed", left=task.left, error=says)
                            continue
                    future = client.submit(
                        _print, task, how, __version__, stop.name, content,
                        key=f"silvrin-{uuid4().hex}", retries=TRIES, pure=False,
                    )  # fmt: skip
                    at_work[future] = task
                    coming.add(future)
                if at_work:
                    future = next(coming)
                    yield _ended(at_work.pop(future), future)
        except BaseException:
            with suppress(Exception):  # there may be nobody to tell any more
                stop.set()
                client.cancel(list(at_work), force=True)
            raise
        finally:  # what lost workers left
            clear_parts(*(target for task in tasks for _, target in task.targets))
    for task in everything:
        if task.together:  # one file is one computer's work
            yield printed(task, how)


def _everywhere(task: Task) -> Task:
    """A task whose names hold wherever it is done."""
    targets = tuple((output, target.absolute()) for output, target in task.targets)
    return replace(task, image=task.image.absolute(), targets=targets)


class _Crew:
    """How many workers there are, as of late."""

    def __init__(self, client: Client) -> None:
        self._client, self._many, self._looked = client, 0, -LOOKS

    def room(self) -> int:
        """How many images may be on their way. Raises SilvrinError when nobody answers."""
        if time.monotonic() - self._looked >= LOOKS:
            try:
                self._many, self._looked = len(self._client.nthreads()), time.monotonic()
            except OSError as error:  # a time-out too
                raise SilvrinError(GONE) from error
        return max(1, self._many) * (1 + AHEAD)


def _ended(task: Task, future: Future) -> Ended:
    try:
        found = future.result()
        return found if isinstance(found, Ended) else _received(found)
    except KilledWorker:
        error = (
            f"{task.image.name}: every worker that printed it was lost. There may be too little "
            "memory for it; try workers that have more, or fewer on one computer."
        )
        return Ended(task.image, "failed", left=task.left, error=error)
    except (asyncio.CancelledError, futures.CancelledError) as error:
        raise SilvrinError(GONE) from error
    except Exception as error:
        return went_wrong(task, error)


def _received(sent: _Sent) -> Ended:
    """Files that came back are written, each whole; what lies beside a file before it."""
    ended, kept = sent.ended, []
    try:
        for path in sorted(sent.contents, key=lambda path: path in ended.files):
            with whole_or_nothing(path) as file:
                file.write(sent.contents[path])
            kept.append(path)
    except SilvrinError as error:
        there = tuple(path for path in ended.files if path in kept)
        return replace(ended, state="failed", files=there, error=str(error))
    return ended


@contextmanager
def _client(address: str) -> Iterator[Client]:
    """The cluster with at least a worker. Raises SilvrinError."""
    loud = logging.getLogger("distributed")
    before = loud.level
    loud.setLevel(logging.CRITICAL)  # what goes wrong is said in our words
    try:
        with dask.config.set({"distributed.admin.large-graph-warning-threshold": LARGE}):
            try:
                client = Client(address, timeout=ANSWERS, set_as_default=False)
            except (OSError, ValueError) as error:  # a time-out is an OSError
                raise SilvrinError(
                    f"--cluster {address}: no scheduler answers there. Start one with `dask "
                    "scheduler` and give the address that it says, such as tcp://10.0.0.5:8786."
                ) from error
            with client:
                try:
                    client.wait_for_workers(1, timeout=ANSWERS)
                except TimeoutError as error:
                    raise SilvrinError(
                        f"--cluster {address}: there is no worker. Start some with `dask worker "
                        f"{address}` on computers that have silvrin[cluster] {__version__}."
                    ) from error
                yield client
    finally:
        loud.setLevel(before)


def _check_folders(client: Client, tasks: Sequence[Task], how: How) -> None:
    """Raises SilvrinError where a worker does not see what it is to read and write."""
    named = {task.image.parent for task in tasks} | {how.folder.absolute()}
    folders = sorted(str(folder) for folder in named if folder.is_dir())
    try:
        found = client.run(_unseen, folders)
    except Exception as error:
        raise SilvrinError(
            f"The workers have no Silvrin {__version__}, or another Python: {error}. Install "
            "silvrin[cluster] on each."
        ) from error
    for worker, missing in found.items():
        if missing:
            raise SilvrinError(
                f"The worker at {worker} does not see {missing[0]}. Share the folder under the "
                "same name, or send the captures with --send."
            )


def _unseen(folders: Sequence[str]) -> list[str]:
    return [folder for folder in folders if not os.access(folder, os.R_OK | os.X_OK)]


# At the workers


def _print(task: Task, how: How, version: str, stop: str, content: bytes | None) -> Ended | _Sent:
    """Print an image: from its folder to its target, or from its content to contents."""
    if version != __version__:
        raise SilvrinError(f"the worker has Silvrin {__version__}, and not {version}")
    with _one_at_a_time:
        wanted = _asked_for(stop)
        if content is None:
            return print_image(task, how, wanted)
        with tempfile.TemporaryDirectory(prefix="silvrin-") as folder:
            return _print_sent(task, how, content, Path(folder), wanted)


def _print_sent(task: Task, how: How, content: bytes, folder: Path, wanted: Wanted) -> _Sent:
    image, out = folder / "in" / task.image.name, folder / "out"
    image.parent.mkdir()
    out.mkdir()
    image.write_bytes(content)
    targets = tuple((output, out / target.name) for output, target in task.targets)
    ended = print_image(replace(task, image=image, targets=targets), how, wanted)
    ended = replace(
        ended, image=task.image, error=ended.error.replace(str(image), str(task.image)),
        files=tuple(target for _, target in task.targets if (out / target.name).exists()),
    )  # fmt: skip
    home = how.folder.absolute()
    contents = {home / each.name: each.read_bytes() for each in out.iterdir()}
    return _Sent(ended, contents)


def _asked_for(stop: str) -> Wanted:
    """Tells whether an image is still wanted, by a flag of the cluster that is looked at now and
    then."""
    flag, looked = None, time.monotonic()

    def wanted() -> bool:
        nonlocal flag, looked
        if time.monotonic() - looked < LOOKS:
            return True
        flag = flag or Event(stop, get_client())
        looked = time.monotonic()
        return not flag.is_set()

    return wanted
