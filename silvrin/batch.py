"""Many images to files: what the command line's `deliver` does, in one process or several."""

import glob
import logging
import os
import sys
import time
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Future, ProcessPoolExecutor, as_completed
from concurrent.futures.process import BrokenProcessPool
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from multiprocessing import get_context
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from . import shelf
from .core.recipe import Recipe
from .core.recipe.drawings import Sheets
from .core.recipe.files import read_recipe
from .errors import BadCapture, Dropped, NotAnImage, SilvrinError
from .files.delivery import Output, all_carried_by
from .files.kinds import check_file, sniff
from .files.metadata import Metadata, read_metadata
from .files.names import OF_CAMERA, named, names_of, of_camera
from .files.whole import clear_parts
from .store.reception import hash_of

if TYPE_CHECKING:
    from .printing import Print

LOG = logging.getLogger(__name__)
State = Literal["done", "failed"]
Wanted = Callable[[], bool]
MEMORY = Path("/proc/meminfo")
NEED = 1.6e9  # bytes that a process takes for a capture of 24 megapixels
STRIKES = 2  # times that an image may take its process down


@dataclass(frozen=True)
class How:
    """How images are printed, and to what."""

    outputs: tuple[Output, ...]
    folder: Path
    recipe: Recipe = field(default_factory=Recipe)
    sheets: Sheets = field(default_factory=Sheets)  # what is drawn of the recipe
    start: str | None = None  # id of a starting print
    propose: bool = False
    resume: bool = False  # leave what is there already

    @property
    def stock(self) -> str:
        """The film that all are on."""
        if self.start is None:
            return self.recipe.film.stock
        return shelf.starting_prints()[self.start].on(self.recipe).film.stock


@dataclass(frozen=True)
class Ended:
    """What became of an image."""

    image: Path
    state: State
    files: tuple[Path, ...] = ()
    left: tuple[Path, ...] = ()  # were there already
    says: str = ""  # why the print is proposed so
    error: str = ""
    seconds: float = 0.0  # that it took


def images_in(given: Sequence[str]) -> list[Path]:
    """The files that arguments name: files, folders with all that is an image in them, and
    patterns; each once, in order. A name that is nowhere stays, to be refused by name."""
    found: dict[Path, None] = {}
    for text in given:
        path = Path(text)
        if path.is_dir():
            inside = (Path(at) / name for at, _, names in os.walk(path) for name in names)
            found |= dict.fromkeys(sorted(each for each in inside if _is_image(each)))
        elif not path.exists() and glob.has_magic(text):
            matches = sorted(map(Path, glob.glob(text, recursive=True)))  # noqa: PTH207
            if not matches:
                raise SilvrinError(f"{text}: no file is like this.")
            found |= dict.fromkeys(each for each in matches if each.is_file())
        else:
            found[path] = None
    if not found:
        raise SilvrinError("There is no image in what was named.")
    return list(found)


def _is_image(path: Path) -> bool:
    if path.name.startswith("."):
        return False
    try:
        check_file(path)
        sniff(path)
    except (NotAnImage, BadCapture, OSError):
        return False
    return True


@dataclass(frozen=True)
class Task:
    """An image, and the files that are to be made of it."""

    image: Path
    targets: tuple[tuple[Output, Path], ...]
    left: tuple[Path, ...] = ()  # are there already
    together: tuple[Path, ...] = ()  # images that go into one file, if they do


def tasks_of(images: Sequence[Path], how: How) -> list[Task]:
    """What is made of each image, under names that no two have, and that only files have which are
    to be replaced."""
    taken: set[Path] = set()
    tasks = []
    for image in images:
        targets, left = [], []
        for output in how.outputs:
            if output.gathers:
                continue
            stem = _stem(image, output, how)
            target = _free(how.folder / f"{stem}{output.suffix}", taken)
            taken.add(target)
            if how.resume and _is_of(target, [image], how):
                left.append(target)
                continue
            if output.clash != "replace":
                taken.discard(target)
                target = _free(target, taken, on_disk=True)
                taken.add(target)
            targets.append((output, target))
        if targets or left:
            tasks.append(Task(image, tuple(targets), tuple(left)))
    for output in how.outputs:
        if output.gathers:
            stem = _stem(images[0], output, how)
            target = _free(how.folder / f"{stem}{output.suffix}", taken)
            if how.resume and _is_of(target, images, how):
                taken.add(target)
                tasks.append(Task(images[0], (), (target,), together=tuple(images)))
                continue
            target = _free(target, taken, on_disk=output.clash != "replace")
            taken.add(target)
            tasks.append(Task(images[0], ((output, target),), together=tuple(images)))
    return tasks


def _free(target: Path, taken: set[Path], on_disk: bool = False) -> Path:
    """The name, or the next with a number that is free."""
    found, number = target, 2
    while found in taken or (on_disk and found.exists()):
        found = target.with_name(f"{target.stem} {number}{target.suffix}")
        number += 1
    return found


def _is_of(target: Path, images: Sequence[Path], how: How) -> bool:
    """Whether a file was delivered of these images and no others, and under the recipe where that
    is given."""

    def under_it(recipe: str) -> bool:
        if how.propose or how.start is not None:
            return True
        return read_recipe(recipe, shelf.shipped().zone_part, str(target))[0] == how.recipe

    try:
        found = list(all_carried_by(target)) if target.exists() else []
        return len(found) == len(images) and all(
            each.sha256 == hash_of(image) and under_it(each.recipe)
            for each, image in zip(found, images, strict=True)
        )
    except (OSError, SilvrinError):
        return False


def print_image(task: Task, how: How, wanted: Wanted = lambda: True) -> Ended:
    """Deliver one image; whatever a user can put right is in what is given back. Raises Dropped
    when it is no longer wanted."""
    began = time.monotonic()
    ended = _print(task, how, wanted)
    return replace(ended, seconds=round(time.monotonic() - began, 3))


def _print(task: Task, how: How, wanted: Wanted) -> Ended:
    from .printing import deliver_together

    if not task.targets:
        return Ended(task.image, "done", left=task.left)
    files: list[Path] = []
    says = ""
    try:
        if task.together:
            ((output, target),) = task.targets
            coming = (_opened(image, how) for image in task.together)
            deliver_together(coming, target, output, wanted=wanted)
            files.append(target)
        else:
            made = _opened(task.image, how)
            says = made.says
            for output, target in task.targets:
                made.deliver(target, output, wanted=wanted)
                files.append(target)
    except Dropped:
        raise
    except SilvrinError as error:
        return Ended(task.image, "failed", tuple(files), task.left, error=str(error))
    return Ended(task.image, "done", tuple(files), task.left, says)


def _opened(image: Path, how: How) -> "Print":
    from .printing import open_capture

    capture = open_capture(image)
    if how.start is not None:
        return capture.starting(how.start)
    if how.propose:
        return capture.proposed(how.recipe, how.sheets)
    return capture.under(how.recipe, how.sheets)


def went_wrong(task: Task, error: BaseException) -> Ended:
    """What is said of an image under which something else broke."""
    LOG.error("%s", task.image, exc_info=error)
    says = f"{task.image.name}: could not be printed ({type(error).__name__}: {error})."
    return Ended(task.image, "failed", left=task.left, error=says)


def _stem(image: Path, output: Output, how: How) -> str:
    said = {}
    if names_of(output.template) & set(OF_CAMERA):
        try:
            said = of_camera(read_metadata(image))
        except (OSError, SilvrinError):  # it will be refused by name
            said = of_camera(Metadata())
    return named(
        output.template,
        {"capture": image.stem, "title": image.stem, "output": output.name, "print": "print",
         "roll": image.parent.name, "number": "", "film": how.stock, **said},
    )  # fmt: skip


def processes_for(images: int) -> int:
    """How many processes print so many images: as there are processors, and memory for them."""
    return max(1, min(os.cpu_count() or 1, images, int(_memory() / NEED)))


def _memory() -> float:
    """Bytes that there are for new programs, where the system tells (Linux); else no bound."""
    try:
        told = MEMORY.read_text()
    except OSError:
        return float(sys.maxsize)
    return 1024.0 * next(
        int(line.split()[1]) for line in told.splitlines() if line.startswith("MemAvailable:")
    )


def deliver_all(images: Sequence[Path], how: How, jobs: int = 1) -> Iterator[Ended]:
    """Deliver images one after the other, or several at a time in as many processes; gives each as
    it ends."""
    tasks = tasks_of(images, how)
    try:
        if jobs <= 1:
            for task in tasks:
                yield printed(task, how)
        else:
            yield from _by_processes(tasks, how, jobs)
    finally:  # what a process that was killed left
        clear_parts(*(target for task in tasks for _, target in task.targets))


def _by_processes(tasks: Sequence[Task], how: How, jobs: int) -> Iterator[Ended]:
    strikes = Counter[Path]()
    while tasks:
        ended = set()
        for task, end in _beside_each_other(tasks, how, jobs):
            ended.add(task.image)
            yield end
        # a process that dies takes the others with it; it was at one of the first that are left
        tasks = [task for task in tasks if task.image not in ended]
        strikes.update(task.image for task in tasks[:jobs])
        for task in tasks[:jobs]:
            if strikes[task.image] >= STRIKES:
                tasks.remove(task)
                error = (
                    f"{task.image.name}: the process that printed it was ended from outside, "
                    "twice. There may be too little memory for it; try fewer --jobs."
                )
                yield Ended(task.image, "failed", left=task.left, error=error)


def _beside_each_other(tasks: Sequence[Task], how: How, jobs: int) -> Iterator[tuple[Task, Ended]]:
    """Images as they end in several processes, until one of these dies."""
    with (
        threads_each(max(1, (os.cpu_count() or 1) // jobs)),
        ProcessPoolExecutor(min(jobs, len(tasks)), get_context("spawn")) as pool,
    ):
        coming: dict[Future[Ended], Task] = {}
        try:
            for task in tasks:
                coming[pool.submit(printed, task, how)] = task
            for each in as_completed(coming):
                yield coming[each], each.result()
        except BrokenProcessPool:
            return
        except BaseException:
            pool.shutdown(wait=False, cancel_futures=True)
            raise


def printed(task: Task, how: How) -> Ended:
    """An image's end, whatever went wrong with it."""
    try:
        return print_image(task, how)
    except Exception as error:
        return went_wrong(task, error)


@contextmanager
def threads_each(many: int) -> Iterator[None]:
    """Processes that are begun meanwhile take so many threads each, OpenMP's of LibRaw too."""
    names = ("SILVRIN_THREADS", "OMP_NUM_THREADS")
    before = {name: os.environ.get(name) for name in names}
    os.environ.update(dict.fromkeys(names, str(many)))
    try:
        yield
    finally:
        for name, value in before.items():
            os.environ.pop(name)
            if value is not None:
                os.environ[name] = value
