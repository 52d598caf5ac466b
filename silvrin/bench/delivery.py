"""Full-size deliveries, each in a process of its own, so that peak memory is theirs alone."""

import os
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

import numpy as np
import simplejpeg
import tifffile
from numpy.typing import NDArray

from .. import shelf
from ..core import kernels
from ..core.mount.settings import EASEL
from ..core.recipe import Bath, MountSettings, Recipe, TonerSettings
from ..core.render import Sitting
from ..core.spectra.chromaticity import grid_spectra
from ..files import capture, raw
from ..files.delivery import Output, deliver
from .map import a_worked_map
from .row import Row

TURNS = 3


TONED_AND_MOUNTED = Recipe(
    toner=TonerSettings(baths=(Bath(kind="sepia"), Bath(kind="selenium"))),
    mount=MountSettings(
        border_left=EASEL, border_right=EASEL, border_top=EASEL, border_bottom=EASEL, key_line=0.4,
        key_gap=1.0, mat="weighted", mat_sides=40,
    ),
)  # fmt: skip


def full_size(megapixels: int, limit_gb: float) -> list[Row]:
    """Time after decoding as a ratio to LibRaw's decoding, and peak memory; of a common size also
    under a printing map, beside what it takes without."""
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "capture.dng"
        write_raw(source, megapixels)
        decoding, after, peak = _delivered(source)
        name = f"{megapixels}-megapixel raw to 16-bit TIFF"
        baseline = f"LibRaw's decoding: {decoding:.2f} s"
        common = megapixels == 24
        rows = [
            Row(f"{name}, after decoding", after / decoding, "ratio", 1.0 if common else None,
                baseline),
            Row(f"{name}, peak memory", peak, "GB", limit_gb),
        ]  # fmt: skip
        if common:  # by turns: one delivery alone says little of a ratio
            turns = [(_delivered(source), _delivered(source, "worked")) for _ in range(TURNS)]
            plain, worked = (
                statistics.median(run[1] for run in runs) for runs in zip(*turns, strict=True)
            )
            most = max(run[2] for _, run in turns)
            baseline = f"without: {plain:.2f} s"
            rows += [
                Row("the same under 24 passes", worked / plain, "ratio", 1.5, baseline),
                Row("the same, peak memory", most, "GB", 1.6),
            ]  # fmt: skip
            turns = [(_delivered(source), _delivered(source, "mounted")) for _ in range(TURNS)]
            plain, mounted = (
                statistics.median(run[1] for run in runs) for runs in zip(*turns, strict=True)
            )
            rows.append(
                Row("the same toned and mounted, in colour", mounted / plain, "ratio", 1.6,
                    f"grey: {plain:.2f} s")
            )  # fmt: skip
    return rows


def forms() -> list[Row]:
    """The same 24 megapixels as other forms of file, beside TIFF; and a picture for the web."""
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "capture.dng"
        write_raw(source, 24)
        developed = capture.read_capture(source).picture()
        sitting = Sitting("bench", developed, shelf.light_path(Recipe()))
        kernels.load()

        def made(**wanted: Any) -> float:
            output = Output.model_validate(wanted)
            start = time.perf_counter()
            deliver(sitting, Path(folder) / f"p{output.suffix}", output)
            return time.perf_counter() - start

        web = {"format": "jpeg", "quality": 90, "size": {"by": "long", "value": 2048}}
        kinds = {"TIFF": {}, "PDF": {"format": "pdf"}, "OpenEXR": {"format": "exr"}}
        turns = [{name: made(**wanted) for name, wanted in kinds.items()} for _ in range(TURNS)]
        seconds = {name: statistics.median(turn[name] for turn in turns) for name in kinds}
        small = statistics.median(made(**web) for _ in range(TURNS))
    baseline = f"16-bit TIFF: {seconds['TIFF']:.2f} s"
    return [
        *(
            Row(f"24 megapixels as {name}", seconds[name] / seconds["TIFF"], "ratio", 1.5, baseline)
            for name in ("PDF", "OpenEXR")
        ),
        Row("JPEG of 2048 pixels of a cached capture", small, "s", 0.4),
    ]  # fmt: skip


def _delivered(source: Path, *how: str) -> list[float]:
    """What `deliver_alone` prints."""
    search = os.pathsep.join(p for p in sys.path if p)
    run = subprocess.run(
        [sys.executable, "-c", f"import {__name__} as d; d.deliver_alone()", str(source), *how],
        capture_output=True,
        text=True,
        check=True,
        env={**os.environ, "PYTHONPATH": search},
    )
    return [float(value) for value in run.stdout.split()]


def write_raw(path: Path, megapixels: int, previews: tuple[bytes, ...] = ()) -> None:
    """A DNG of a made-up mosaic with gradients, edges and noise; `previews` are JPEGs beside it, as
    cameras put there."""
    width = int((megapixels * 1.5e6) ** 0.5) // 2 * 2
    height = int(megapixels * 1e6 / width) // 2 * 2
    rng = np.random.default_rng(5)
    y, x = np.mgrid[0:1000, 0:1500]
    tile = 3000 + 2500 * np.sin(x / 37) * np.cos(y / 53) + 1500 * ((x // 130 + y // 90) % 2)
    tile = np.clip(tile + rng.normal(0, 60, tile.shape), 0, 16383).astype(np.uint16)
    mosaic = np.tile(tile, (height // 1000 + 1, width // 1500 + 1))[:height, :width]
    matrix = [0.9, -0.3, -0.1, -0.4, 1.2, 0.2, 0.0, 0.1, 0.6]

    def rational(values: list[float]) -> tuple[int, ...]:
        return tuple(v for value in values for v in (int(value * 10000), 10000))

    camera = [
        (50706, "B", 4, bytes([1, 4, 0, 0]), False),
        (50708, "s", 0, "Bench", False),
        (50721, "2i", 9, rational(matrix), False),
        (50728, "2I", 3, rational([0.5, 1.0, 0.7]), False),
    ]
    sensor = [
        (33421, "H", 2, (2, 2), False),
        (33422, "B", 4, bytes([0, 1, 1, 2]), False),
        (50714, "H", 1, 0, False),
        (50717, "H", 1, 16383, False),
    ]
    plain: dict[str, Any] = {"metadata": None, "software": None}
    with tifffile.TiffWriter(path) as file:
        for number, preview in enumerate(previews):
            high, wide = simplejpeg.decode_jpeg_header(preview)[:2]
            file.write(
                iter([preview]), shape=(high, wide, 3), dtype=np.uint8, photometric="ycbcr",
                compression="jpeg", rowsperstrip=high, subfiletype=1,
                subifds=0 if number else len(previews), extratags=[] if number else camera, **plain,
            )  # fmt: skip
        tags = sensor if previews else [*sensor, *camera]
        file.write(np.ascontiguousarray(mosaic), photometric=32803, extratags=tags, **plain)


def deliver_alone() -> None:
    """Deliver the file named on the command line, under a printing map where "worked" follows;
    prints seconds of LibRaw's decoding, seconds of everything after it, and the peak memory in
    GB."""
    source = Path(sys.argv[1])
    prescribed = shelf.light_path(Recipe())
    grid_spectra()
    kernels.load()  # as at the start of the server: it is not the file's own time
    seconds: list[float] = []
    demosaic = raw.demosaic

    def timed(*given: Any) -> NDArray[np.uint16]:
        start = time.perf_counter()
        light = demosaic(*given)
        seconds.append(time.perf_counter() - start)
        return light

    raw.demosaic = timed  # type: ignore[assignment]
    start = time.perf_counter()
    developed = capture.read_capture(source)
    height, width = developed.light.shape[:2]
    if sys.argv[2:] == ["worked"]:
        making = time.perf_counter()  # the map is there when a print is delivered
        prescribed = shelf.light_path(Recipe(), a_worked_map(width, height)[0])
        start += time.perf_counter() - making
    if sys.argv[2:] == ["mounted"]:
        prescribed = shelf.light_path(TONED_AND_MOUNTED)
    sitting = Sitting("bench", developed.picture(pyramid=False), prescribed)
    deliver(sitting, source.with_suffix(".tif"), Output())
    after = time.perf_counter() - start - seconds[0]
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024 / 1e9
    sys.stdout.write(f"{seconds[0]} {after} {peak}\n")
