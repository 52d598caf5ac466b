"""Many images: two workers beside one, what one takes, and what a cluster's scheduling costs."""

import resource
import shutil
import tempfile
import time
from multiprocessing import get_context
from pathlib import Path
from queue import Queue
from typing import Any

import numpy as np
import tifffile

from ..batch import How, deliver_all, print_image, tasks_of, threads_each
from ..core.enlarger.shapes import Card, Disc, Pass
from ..core.recipe import DevelopmentSettings, LocalContrast, Recipe
from ..core.recipe.drawings import Sheets
from ..files.delivery import Output
from .delivery import write_raw
from .row import Row

CAPTURES = 40  # of 24 megapixels
FRAMES, SIDE = 1000, 900  # small ones, and their long side
OUTPUT = Output(format="tiff", template="{capture}")


def how_worked(folder: Path) -> How:
    """Grain, local contrast and six passes."""
    sheets = Sheets()
    shapes = [
        Disc(x=1000 * k, y=2000, width=900, height=600) if k % 2
        else Card(x=0, y=500 * k, to_x=0, to_y=500 * k + 900)
        for k in range(6)
    ]  # fmt: skip
    passes = [Pass(stops=0.4 if k % 2 else -0.3, shapes=(s,)) for k, s in enumerate(shapes)]
    recipe = Recipe(
        development=DevelopmentSettings(
            mid_scale=LocalContrast(strength=0.5), fine=LocalContrast(strength=0.3)
        )
    )
    named = recipe.enlarger.model_copy(update={"passes": sheets.passes(passes)})
    return How((OUTPUT,), folder, recipe.model_copy(update={"enlarger": named}), sheets)


def workers() -> list[Row]:
    """Two workers of a thread each beside one, on captures of 24 megapixels; beside it the same
    with nothing but arithmetic, which is what this machine's processors give at most."""
    with tempfile.TemporaryDirectory() as folder:
        first = Path(folder) / "0.dng"
        write_raw(first, 24)
        images = [first]
        for number in range(1, CAPTURES):
            images.append(Path(shutil.copyfile(first, first.with_stem(str(number)))))
            with images[-1].open("ab") as file:
                file.write(bytes(number))  # another file each time
        out = Path(folder) / "out"
        out.mkdir()
        how = how_worked(out)
        alone, most = _alone(images, how)
        shutil.rmtree(out)
        out.mkdir()
        began = time.monotonic()
        ended = list(deliver_all(images, how, 2))
        together = time.monotonic() - began
    assert all(each.state == "done" for each in ended), [each.error for each in ended]
    one = _counted(1)
    name = f"{CAPTURES} captures of 24 megapixels (grain, local contrast, 6 passes) by two workers"
    return [
        Row(name, together / alone, "ratio", 1 / 1.8, f"one worker: {alone:.1f} s"),
        Row("arithmetic alone by two processes", _counted(2) / (2 * one), "ratio", None,
            "twice as much by one"),
        Row("peak memory of a worker", most, "GB", 1.6),
    ]  # fmt: skip


def _alone(images: list[Path], how: How) -> tuple[float, float]:
    """Seconds and GB of one worker of one thread."""
    context = get_context("spawn")
    told = context.Queue()
    with threads_each(1):
        worker = context.Process(target=_work, args=(images, how, told))
        began = time.monotonic()
        worker.start()
    most = told.get()
    worker.join()
    return time.monotonic() - began, most


def _work(images: list[Path], how: How, told: "Queue[float]") -> None:
    for task in tasks_of(images, how):
        assert print_image(task, how).state == "done"
    told.put(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024 / 1e9)


def _counted(processes: int) -> float:
    """Seconds in which so many processes count, each as much."""
    context = get_context("spawn")
    began = context.Barrier(processes + 1)
    working = [context.Process(target=_count, args=(began,)) for _ in range(processes)]
    for each in working:
        each.start()
    began.wait()
    start = time.monotonic()
    for each in working:
        each.join()
    return time.monotonic() - start


def _count(began: Any) -> None:
    began.wait()
    total = 0
    for number in range(60_000_000):
        total += number


def scheduling() -> list[Row]:
    """What a cluster of one worker takes beside the printing itself, for many small frames."""
    from distributed import LocalCluster

    from ..cluster import deliver_over

    with tempfile.TemporaryDirectory() as folder:
        images = []
        pixels = np.random.default_rng(2).integers(0, 65535, (SIDE * 2 // 3, SIDE, 3), np.uint16)
        for number in range(FRAMES):
            images.append(Path(folder) / f"{number:04d}.tif")
            tifffile.imwrite(images[-1], np.roll(pixels, number, axis=1))
        out = Path(folder) / "out"
        out.mkdir()
        how = How((OUTPUT,), out)
        with LocalCluster(n_workers=1, threads_per_worker=1, dashboard_address=None) as cluster:
            list(deliver_over(cluster.scheduler_address, images[:5], how))  # its code is read
            began = time.monotonic()
            ended = list(deliver_over(cluster.scheduler_address, images, how))
            whole = time.monotonic() - began
    assert all(each.state == "done" for each in ended)
    printing = sum(each.seconds for each in ended)
    return [
        Row(f"scheduling of {FRAMES} small frames over a cluster", 100 * (whole / printing - 1),
            "%", 3.0, f"printing: {printing:.0f} s")
    ]  # fmt: skip
