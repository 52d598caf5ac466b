"""From a slider moved by hand to new pixels on the screen, in Chromium at 1280 x 800."""

import atexit
import importlib.util
import json
import os
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from functools import cache
from pathlib import Path
from typing import Any
from urllib.request import Request, urlopen

from ..core.recipe import Recipe
from ..demo_job import demo_capture
from ..store import captures, prints, rolls
from ..store.library import Library
from .captures import camera_jpeg
from .delivery import write_raw
from .row import Row

STEPS = 120
MEASURES = "return performance.getEntriesByName('input to picture').map(e => e.duration)"


def missing() -> str | None:
    """What is not installed that the measurement needs."""
    if importlib.util.find_spec("selenium") is None:
        return "Selenium"
    if not shutil.which("chromium"):
        return "Chromium"
    return None if shutil.which("chromedriver") else "ChromeDriver"


@contextmanager
def server(command: str, home: Path, kept: bool = True) -> Iterator[str]:
    """A server on a library; gives its address. Of one that is not kept nothing need be brought to
    an end."""
    process = subprocess.Popen(
        [sys.executable, "-m", "silvrin", command, "--home", str(home), "--port", "8620"],
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        text=True,
    )
    try:
        assert process.stdout is not None
        line = next(text for text in process.stdout if "http://" in text)
        yield "http://" + line.split("http://")[1].split()[0]
    finally:
        if kept:
            process.terminate()
        else:
            process.kill()
        process.wait(timeout=20)
        process.stdout and process.stdout.close()


@cache
def _demo_home() -> Path:
    """A library with the demo job, its captures developed, to be copied: it is made once a run."""
    home = Path(tempfile.mkdtemp(prefix="silvrin-demo-"))
    atexit.register(shutil.rmtree, home, ignore_errors=True)
    with server("demo", home) as address:
        for roll in json.load(urlopen(f"{address}/api/rolls")):
            for frame in json.load(urlopen(f"{address}/api/rolls/{roll['id']}/frames")):
                print_ = Request(
                    f"{address}/api/frames/{frame['id']}/small-print",
                    b'{"recipe": {}, "long_side": 64}',
                    {"content-type": "application/json"},
                )
                urlopen(print_).read()
        while json.load(urlopen(f"{address}/api/deliveries"))["open"]:
            time.sleep(0.1)
    return home


def _copied(source: str, target: str) -> str:
    """A file as it is; what nobody writes into is one for all."""
    if Path(source).suffix in (".sqlite", ".lock"):
        return shutil.copy2(source, target)
    os.link(source, target)
    return target


@contextmanager
def demo_copy() -> Iterator[Path]:
    """A library of its own with the demo job."""
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
        home = Path(folder) / "home"
        shutil.copytree(_demo_home(), home, copy_function=_copied)
        yield home


@contextmanager
def demo_server() -> Iterator[str]:
    """A server with the demo job in a folder of its own; gives its address."""
    with demo_copy() as home, server("demo", home, kept=False) as address:
        yield address


def chromium(profile: Path, width: int = 1280, height: int = 800) -> Any:
    """A headless Chromium whose page has this size."""
    from selenium import webdriver

    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or ""
    for argument in (
        "--headless=new",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--disable-dev-shm-usage",
        "--force-color-profile=srgb",
        "--hide-scrollbars",
        f"--user-data-dir={profile}",
    ):
        options.add_argument(argument)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    service = webdriver.ChromeService(shutil.which("chromedriver"))
    browser = webdriver.Chrome(options=options, service=service)
    sized(browser, width, height)
    return browser


def sized(browser: Any, width: int, height: int) -> None:
    """Give a browser's window a page of this size."""
    browser.set_window_size(width, height)
    inner = browser.execute_script("return [innerWidth, innerHeight]")
    browser.set_window_size(2 * width - inner[0], 2 * height - inner[1])


OPENED = """
const done = arguments[0];
const look = () => {
  const shown = document.querySelector('img[src*=preview]');
  if (shown?.complete && shown.naturalWidth) done(performance.now());
  else requestAnimationFrame(look);
};
look();
"""


def opened() -> list[Row]:
    """From the wish for a print of a raw that was never opened to the picture in its file on the
    screen."""
    with tempfile.TemporaryDirectory() as folder:
        home, path = Path(folder) / "home", Path(folder) / "a.dng"
        library = Library(home)
        with library.database.write() as connection:
            roll = rolls.add_roll(connection, "Bench")
        write_raw(path, 24, (camera_jpeg(1620), camera_jpeg(6000)))
        made = []
        for number in range(4):
            with path.open("ab") as file:
                file.write(b"x")  # another file each time
            frame = library.take_in_file(path, roll).frame
            with library.database.write() as connection:
                made.append(prints.add_print(connection, frame, f"{number}", Recipe()).id)
        with server("serve", home) as address:
            page = chromium(Path(folder) / "profile")
            try:
                times = []
                for number in made:
                    page.get(f"{address}/bin")
                    time.sleep(10)  # until the one before is developed and written
                    page.get(f"{address}/print/{number}")
                    times.append(page.execute_async_script(OPENED))
            finally:
                page.quit()
    # the first is also the server's and the browser's own first
    name = "24-megapixel raw never opened, its preview on the screen"
    return [Row(name, statistics.median(times[1:]), "ms", 300.0)]


LINKS = 50_000  # to one file; a file system takes some 65,000
SHEET = """
const done = arguments[0];
const look = () => {
  const shown = [...document.querySelectorAll('[data-frame] img')];
  if (shown.length >= 12 && shown.every(i => i.complete && i.naturalWidth)) done(performance.now());
  else requestAnimationFrame(look);
};
look();
"""
SCROLL = """
const done = arguments[0];
let sheet = document.querySelector('[data-frame]');
while (getComputedStyle(sheet).overflowY !== 'auto') sheet = sheet.parentElement;
const times = [];
let last = performance.now(), step = 0;
const walk = () => {
  const now = performance.now();
  times.push(now - last);
  last = now;
  sheet.scrollTop += 150;
  if (++step < 300) requestAnimationFrame(walk);
  else done(times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)]);
};
requestAnimationFrame(walk);
"""


SEARCH = """
const [word, count, done] = arguments, began = performance.now();
const box = document.querySelector('input[type=search]');
Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(box, word);
box.dispatchEvent(new Event('input', { bubbles: true }));
const look = () => {
  const list = document.querySelector(`ul[aria-label="${count} frames"]`);
  if (list?.querySelector('[data-frame] img')) done(performance.now() - began);
  else requestAnimationFrame(look);
};
look();
"""


def large_sheets() -> list[Row]:
    """Rolls of very many frames: from the wish for one to its first thumbnails on the screen, the
    time between pictures while it scrolls, from a search to what it found, and the memory of the
    page after that."""
    return [
        *_large_sheet(10_000, first=1000.0),
        *_large_sheet(100_000, first=1200.0, search=150.0),
    ]


def _large_sheet(frames: int, first: float, search: float | None = None) -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        home, profile = Path(folder) / "home", Path(folder) / "profile"
        fill(home, frames)
        with server("serve", home) as address:
            page = chromium(profile)
            try:
                page.set_script_timeout(60)
                page.get(f"{address}/roll/1")
                page.execute_async_script(SHEET)
                scroll = page.execute_async_script(SCROLL)
                memory = _memory(page)
                times = []
                for _ in range(5):
                    page.refresh()
                    times.append(page.execute_async_script(SHEET))
                # each finds one
                words = [str(frames - back) for back in (1, 2, 3)]
                found = [page.execute_async_script(SEARCH, word, 1) for word in words]
            finally:
                page.quit()
    name = f"sheet of {frames} frames"
    rows = [
        Row(f"{name}, first thumbnails", statistics.median(times), "ms", first),
        Row(f"{name}, between pictures while it scrolls, 95th percentile", scroll, "ms", 50.0),
        Row(f"{name}, memory of its page", memory, "MB", 300.0),
    ]
    if search:
        rows.append(Row(f"{name}, search", statistics.median(found), "ms", search))
        rows.append(Row(f"{name}, the first search of a page just opened", found[0], "ms", None))
    return rows


def fill(home: Path, frames: int) -> None:
    """A library with a roll of so many frames, taken a minute apart; their captures are known by
    rows and thumbnails."""
    library = Library(home)
    with library.database.write() as connection:
        roll = rolls.add_roll(connection, "Many")
    first = library.take_in_file(demo_capture("bottle kiln"), roll).frame
    frame = rolls.frame(library.database.read, first)
    smalls = list(library.smalls.of(frame.sha256).parent.glob(f"{frame.sha256}*"))
    known = captures.capture(library.database.read, frame.sha256)
    with library.database.write() as connection:
        for number in range(2, frames + 1):
            sha256 = f"{number:064x}"
            taken = datetime(2024, 6, 1) + timedelta(minutes=number)
            metadata = frame.metadata.model_copy(update={"taken": taken.isoformat()})
            new = {"sha256": sha256, "metadata": metadata.model_dump_json()}
            captures.add_capture(connection, known.model_copy(update=new))
            rolls.add_frame(connection, roll, sha256, f"Frame {number}")
            place = library.smalls.of(sha256)
            place.parent.mkdir(parents=True, exist_ok=True)
            for i, small in enumerate(smalls):
                copy = place.with_stem(sha256 + small.stem[64:])  # and "-half"
                if number % LINKS == 0:
                    smalls[i] = Path(shutil.copyfile(small, copy))
                else:
                    copy.hardlink_to(small)


def _memory(page: Any) -> float:
    """MB that the largest renderer of a browser has to itself."""
    started = int(page.service.process.pid)
    most = 0.0
    for status in Path("/proc").glob("[0-9]*/smaps_rollup"):
        try:
            command = (status.parent / "cmdline").read_bytes()
            if b"--type=renderer" not in command or not _descends(int(status.parent.name), started):
                continue
            lines = status.read_text().splitlines()
        except OSError:  # it ended meanwhile, or is not ours
            continue
        own = sum(int(line.split()[1]) for line in lines if line.startswith("Private_"))
        most = max(most, own * 1024 / 1e6)
    return most


def _descends(process: int, from_process: int) -> bool:
    while process > 1:
        if process == from_process:
            return True
        stat = (Path("/proc") / str(process) / "stat").read_text()
        process = int(stat.rsplit(")", 1)[1].split()[1])
    return False


RING = """
const done = arguments[0], began = performance.now();
document.querySelector('[title^="Small prints of this picture"]').click();
const look = () => {
  const prints = [...document.querySelectorAll('[aria-label=Prints] img')];
  const ready = prints.filter(i => i.complete && i.naturalWidth).length;
  if (ready >= 10) done(performance.now() - began);
  else requestAnimationFrame(look);
};
look();
"""


def input_to_picture() -> list[Row]:
    """Median and 95th percentile over a slider walked through its range; and from the wish for a
    ring-around (filters; those alike are shown once) to ten prints on the screen."""
    with demo_server() as address, tempfile.TemporaryDirectory() as profile:
        page = chromium(Path(profile))
        try:
            times = _slid(page, address)
            ring = page.execute_async_script(RING)
            strokes = _strokes(page)
        finally:
            page.quit()
    return [
        Row("slider input to picture, median", statistics.median(times), "ms", 80.0),
        Row("slider input to picture, 95th percentile", times[int(len(times) * 0.95)], "ms", 150.0),
        Row("ten prints of a ring-around", ring, "ms", 1500.0),
        Row("brush to picture, median", statistics.median(strokes), "ms", 50.0),
        Row("brush to picture, 95th percentile", strokes[int(len(strokes) * 0.95)], "ms", 100.0),
    ]


def beside_a_batch() -> list[Row]:
    """The same slider while large files are being delivered."""
    with demo_server() as address, tempfile.TemporaryDirectory() as profile:
        page = chromium(Path(profile))
        try:
            size = {"by": "long", "value": 6000, "upscale": True}
            outputs = [
                {"format": form, "size": size, "template": f"{{title}} {n}"}
                for n in range(4) for form in ("tiff", "jpeg")
            ]  # fmt: skip
            order = json.dumps({"prints": [1, 2, 3], "outputs": outputs}).encode()
            headers = {"content-type": "application/json"}
            urlopen(Request(f"{address}/api/deliveries", order, headers)).read()
            times = _slid(page, address)
            left = len(json.load(urlopen(f"{address}/api/deliveries"))["open"])
        finally:
            page.quit()
    assert left, "the batch ended before the slider did"
    name = "slider input to picture while a batch of 24 megapixels runs"
    return [
        Row(f"{name}, median", statistics.median(times), "ms"),
        Row(f"{name}, 95th percentile", times[int(len(times) * 0.95)], "ms", 120.0),
    ]


def _slid(page: Any, address: str) -> list[float]:
    """ms from input to picture, sorted, while a slider is walked through its range."""
    from selenium.webdriver import ActionChains
    from selenium.webdriver.common.by import By

    page.implicitly_wait(20)
    page.get(f"{address}/print/1")
    page.find_element(By.CSS_SELECTOR, "canvas")
    slider = page.find_element(By.CSS_SELECTOR, "[role=slider][aria-label=Temperature]")
    time.sleep(2)
    page.execute_script("performance.clearMeasures()")
    drag = ActionChains(page, duration=25).click_and_hold(slider)
    for step in range(STEPS):
        drag.move_by_offset(2 if step % 30 < 15 else -2, 0)
    drag.release().perform()
    time.sleep(1)
    return sorted(page.execute_script(MEASURES))


def _strokes(page: Any) -> list[float]:
    """ms from pointer to pixels, sorted, while eight strokes of a brush are drawn."""
    from selenium.webdriver import ActionChains
    from selenium.webdriver.common.by import By

    page.refresh()
    canvas = page.find_element(By.CSS_SELECTOR, "main canvas")
    time.sleep(3)
    ActionChains(page).send_keys("b").perform()
    time.sleep(1)
    page.execute_script("performance.clearMeasures()")
    for stroke in range(8):
        drag = ActionChains(page, duration=25)
        drag.move_to_element_with_offset(canvas, -150, 30 * stroke - 120).click_and_hold()
        for step in range(40):
            drag.move_by_offset(7, 4 if step % 8 < 4 else -4)
        drag.release().perform()
    time.sleep(1)
    return sorted(page.execute_script(MEASURES))
