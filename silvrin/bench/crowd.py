"""Many windows at once, each editing a print of its own, and how soon the server answers first."""

import asyncio
import json
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any
from urllib.request import urlopen

import websockets

from .browser import demo_server, server
from .row import Row

WINDOW = 976, 650  # pixels of the picture on a screen of 1280 x 800
FEW, MANY = 4, 20
SECONDS = {FEW: 15.0, MANY: 60.0}


def crowd() -> list[Row]:
    """Four windows, then twenty, each moving a slider of its own picture."""
    rows = []
    for windows in (FEW, MANY):
        with demo_server() as address:
            process = _listening(address)
            times, peak = _in_a_process(address, windows, SECONDS[windows], process)
        few = windows == FEW
        name = f"{windows} windows, each editing a print of its own"
        if few:
            value, limit = times[int(0.95 * len(times))], 300.0
            rows.append(Row(f"{name}, 95th percentile of answers", value, "ms", limit))
        else:
            value, limit = statistics.median(times), 1000.0
            rows.append(Row(f"{name} for {SECONDS[MANY]:.0f} s, median answer", value, "ms", limit))
            rows.append(Row(f"{name}, memory of the server", peak, "GB", 1.0))
    return rows


def cold_start() -> list[Row]:
    """From the start of the command to the first answer."""
    with tempfile.TemporaryDirectory() as home:
        times = []
        for _ in range(5):
            began = time.perf_counter()
            with server("serve", Path(home)) as address:
                urlopen(f"{address}/api/rolls").read()
                times.append(time.perf_counter() - began)
    return [Row("cold start to the first answer", statistics.median(times), "s", 2.0)]


def _listening(address: str) -> int:
    """The process that serves an address."""
    wanted = f"{int(address.rsplit(':', 1)[1]):04X}"
    inode = next(
        line.split()[9]
        for line in Path("/proc/net/tcp").read_text().splitlines()
        if line.split()[1].endswith(f":{wanted}") and line.split()[3] == "0A"
    )
    for link in Path("/proc").glob("[0-9]*/fd/*"):
        try:
            if f"[{inode}]" in str(link.readlink()):
                return int(link.parts[2])
        except OSError:
            continue
    raise LookupError(address)


def _in_a_process(
    address: str, windows: int, seconds: float, process: int
) -> tuple[list[float], float]:
    """Milliseconds of answers, sorted, and the server's peak memory in GB; the windows are in a
    process of their own, as browsers are."""
    command = f"from silvrin.bench.crowd import walk; walk({address!r}, {windows}, {seconds})"
    peak = 0
    with tempfile.TemporaryFile() as said:  # a pipe that nobody reads would fill
        child = subprocess.Popen([sys.executable, "-c", command], stdout=said)
        while child.poll() is None:
            peak = max(peak, _own(process))
            time.sleep(0.25)
        said.seek(0)
        return sorted(json.load(said)), peak / 1e6


def _own(process: int) -> int:
    """kB that a process has to itself; what is mapped from files can be had again."""
    text = (Path("/proc") / str(process) / "status").read_text()
    return sum(int(line.split()[1]) for line in text.splitlines() if line.startswith("RssAnon"))


def walk(address: str, windows: int, seconds: float) -> None:
    """Moves sliders in so many windows and prints the milliseconds of all answers as JSON."""
    frames = [
        frame
        for roll in json.load(urlopen(f"{address}/api/rolls"))
        for frame in json.load(urlopen(f"{address}/api/rolls/{roll['id']}/frames"))
    ]
    print(json.dumps(asyncio.run(_walk(address, frames, windows, seconds))))


async def _walk(
    address: str, frames: list[dict[str, Any]], windows: int, seconds: float
) -> list[float]:
    found = await asyncio.gather(
        *(_window(address, frames[i % len(frames)], i, seconds) for i in range(windows))
    )
    return [time for times in found for time in times]


async def _window(address: str, frame: dict[str, Any], number: int, seconds: float) -> list[float]:
    """One window: a slider of Light, then one of Development, then one of Paper."""
    scale = min(WINDOW[0] / frame["width"], WINDOW[1] / frame["height"])
    view = {
        "left": 0, "top": 0, "width": frame["width"], "height": frame["height"],
        "out_width": round(frame["width"] * scale), "out_height": round(frame["height"] * scale),
    }  # fmt: skip
    times: list[float] = []
    async with websockets.connect(
        f"{address.replace('http', 'ws')}/api/live/{frame['id']}", max_size=None, compression=None
    ) as socket:

        async def ask(look: dict[str, Any]) -> float:
            recipe = {"of_frame": {"film": {"placement": number / 20}}, "look": look}
            began = time.perf_counter()
            await socket.send(json.dumps({"seq": 1, "recipe": recipe, "view": view}))
            await socket.recv()
            return 1000 * (time.perf_counter() - began)

        await ask({})  # the picture itself is opened
        end = time.perf_counter() + seconds
        step = number
        while time.perf_counter() < end:
            part = step // 20 % 3
            place = step % 20 / 20
            look: dict[str, dict[str, float]] = {
                0: {"light": {"temperature": 3000 + 4000 * place}},
                1: {"development": {"n": place}},
                2: {"paper": {"grade": 4 * place}},
            }[part]
            times.append(await ask(look))
            step += 1
            await asyncio.sleep(0.02)  # the next movement of the hand
    return times
