"""Many images to files: what the command line's `deliver` does, in one process or several."""

import glob
import os
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from multiprocessing import get_context
from pathlib import Path
from typing import Literal

from .errors import BadCapture, NotAnImage, SilvrinError
from .files.delivery import Output, carried_by
from .files.kinds import check_file, sniff
from .files.names import named
from .store.reception import hash_of

State = Literal["done", "failed"]


@dataclass(frozen=True)
class How:
    """How images are printed, and to what."""

    outputs: tuple[Output, ...]
    folder: Path
    recipe: Path | None = None
    start: str | None = None  # id of a starting print
    propose: bool = False
    resume: bool = False  # leave what is there already


@dataclass(frozen=True)
class Ended:
    """What became of an image."""

    image: Path
    state: State
    files: tuple[Path, ...] = ()
    left: tuple[Path, ...] = ()  # were there already
    says: str = ""  # why the print is proposed so
    error: str = ""


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


def tasks_of(images: Sequence[Path], how: How) -> list[Task]:
    """What is made of each image, under names that no two have, and that only files have which are
    to be replaced."""
    taken: set[Path] = set()
    tasks = []
    for image in images:
        targets, left = [], []
        for output in how.outputs:
            target = _free(how.folder / f"{_stem(image, output)}{output.suffix}", taken)
            taken.add(target)
            if how.resume and _is_of(target, image):
                left.append(target)
                continue
            if output.clash != "replace":
                taken.discard(target)
                target = _free(target, taken, on_disk=True)
                taken.add(target)
            targets.append((output, target))
        tasks.append(Task(image, tuple(targets), tuple(left)))
    return tasks


def _free(target: Path, taken: set[Path], on_disk: bool = False) -> Path:
    """The name, or the next with a number that is free."""
    found, number = target, 2
    while found in taken or (on_disk and found.exists()):
        found = target.with_name(f"{target.stem} {number}{target.suffix}")
        number += 1
    return found


def _is_of(target: Path, image: Path) -> bool:
    """Whether a file was delivered of an image."""
    try:
        found = carried_by(target) if target.exists() else None
        return found is not None and found.sha256 == hash_of(image)
    except (OSError, SilvrinError):
        return False


def print_image(task: Task, how: How) -> Ended:
    """Deliver one image; whatever goes wrong with it is in what is given back."""
    from .printing import open_capture

    if not task.targets:
        return Ended(task.image, "done", left=task.left)
    files: list[Path] = []
    try:
        capture = open_capture(task.image)
        if how.start is not None:
            made = capture.starting(how.start)
        elif how.propose:
            made = capture.proposed(how.recipe)
        else:
            made = capture.under(how.recipe)
        for output, target in task.targets:
            made.deliver(target, output)
            files.append(target)
    except SilvrinError as error:
        return Ended(task.image, "failed", tuple(files), task.left, error=str(error))
    return Ended(task.image, "done", tuple(files), task.left, made.says)


def _stem(image: Path, output: Output) -> str:
    return named(
        output.template,
        {"capture": image.stem, "title": image.stem, "output": output.name, "print": "print",
         "roll": image.parent.name, "number": ""},
    )  # fmt: skip


def deliver_all(images: Sequence[Path], how: How, jobs: int = 1) -> Iterator[Ended]:
    """Deliver images one after the other, or several at a time in as many processes; gives each as
    it ends."""
    tasks = tasks_of(images, how)
    if jobs <= 1:
        for task in tasks:
            yield print_image(task, how)
        return
    threads = str(max(1, (os.cpu_count() or 1) // jobs))
    with (
        _environment("SILVRIN_THREADS", threads),
        ProcessPoolExecutor(min(jobs, len(tasks)), get_context("spawn")) as pool,
    ):
        coming = [pool.submit(print_image, task, how) for task in tasks]
        try:
            for each in as_completed(coming):
                yield each.result()
        except BaseException:
            pool.shutdown(wait=False, cancel_futures=True)
            raise


class _environment:
    """A variable of the environment, for processes that are begun meanwhile."""

    def __init__(self, name: str, value: str) -> None:
        self._name, self._value, self._before = name, value, os.environ.get(name)

    def __enter__(self) -> None:
        os.environ[self._name] = self._value

    def __exit__(self, *_: object) -> None:
        if self._before is None:
            os.environ.pop(self._name, None)
        else:
            os.environ[self._name] = self._before
