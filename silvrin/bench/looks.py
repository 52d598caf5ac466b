"""How soon looks are seen: starting prints under the pointer, the history, a wipe; and a recipe put
on many frames."""

import statistics
import tempfile
import time
from pathlib import Path
from typing import Any

from ..core.recipe import PaperSettings, Recipe
from ..core.recipe.kept import settings_of, usual
from ..demo_job import demo_capture
from ..store import applying, prints, rolls
from ..store.library import Library
from .browser import MEASURES, chromium, demo_server, server
from .row import Row

STATES, FRAMES = 2000, 200
STRIP = """
const done = arguments[0], began = performance.now();
const look = () => {
  const made = [...document.querySelectorAll('[aria-label="Starting prints"] [role=option] img')];
  if (made.filter(i => i.complete && i.naturalWidth).length >= 24) done(performance.now() - began);
  else requestAnimationFrame(look);
};
look();
"""
HISTORY = """
const done = arguments[0], began = performance.now();
[...document.querySelectorAll('button')].find(b => b.textContent.startsWith('History')).click();
const look = () => {
  const states = document.querySelectorAll('[aria-label=History] li');
  if (states.length > 4) done(performance.now() - began);
  else requestAnimationFrame(look);
};
look();
"""
WIPE = """
const done = arguments[0], line = document.querySelector('[aria-label="Wipe line"]');
const at = line.getBoundingClientRect(), times = [];
const send = (kind, x) => line.dispatchEvent(new PointerEvent(kind, {
  bubbles: true, pointerId: 1, clientX: x, clientY: at.top + 8 }));
line.setPointerCapture = () => {};
line.hasPointerCapture = () => true;
send('pointerdown', at.left + 8);
let last = performance.now(), step = 0;
const walk = () => {
  const now = performance.now();
  times.push(now - last);
  last = now;
  send('pointermove', at.left + 8 + 3 * (step % 100 < 50 ? step % 50 : 50 - step % 50));
  if (++step < 200) requestAnimationFrame(walk);
  else done(times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)]);
};
requestAnimationFrame(walk);
"""


def looks() -> list[Row]:
    """All of them."""
    return [*_on_the_bench(), *_history(), *_applied()]


def _on_the_bench() -> list[Row]:
    from selenium.webdriver import ActionChains
    from selenium.webdriver.common.by import By

    with demo_server() as address, tempfile.TemporaryDirectory() as profile:
        page = chromium(Path(profile))
        try:
            page.implicitly_wait(20)
            page.set_script_timeout(60)
            page.get(f"{address}/print/2")
            page.find_element(By.CSS_SELECTOR, "canvas")
            time.sleep(3)
            ActionChains(page).send_keys("l").perform()
            strip = page.execute_async_script(STRIP)
            time.sleep(1)
            page.execute_script("performance.clearMeasures()")
            options = page.find_elements(
                By.CSS_SELECTOR, "[aria-label='Starting prints'] [role=option]"
            )
            page.execute_script("arguments[0].focus()", options[0])
            for _ in options[1:]:
                ActionChains(page).send_keys("\ue014").perform()  # arrow right
                time.sleep(0.4)
            times = page.execute_script(MEASURES)
            ActionChains(page).send_keys("\ue00c").perform()
            time.sleep(1)
            ActionChains(page).send_keys("w").perform()
            page.find_element(By.CSS_SELECTOR, "[aria-label='Wipe line']")
            time.sleep(2)
            wipe = page.execute_async_script(WIPE)
        finally:
            page.quit()
    return [
        Row("24 starting prints along the picture", strip, "ms", None),
        Row("starting print walked to, shown large, median", statistics.median(times), "ms", 120.0),
        Row("wipe, between pictures, 95th percentile", wipe, "ms", 20.0),
    ]


def _history() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder) / "home"
        library = Library(home)
        with library.database.write() as connection:
            roll = rolls.add_roll(connection, "Bench")
        frame = library.take_in_file(demo_capture("wheel"), roll).frame
        with library.database.write() as connection:
            now = prints.add_print(connection, frame, "Long", Recipe())
            for i in range(STATES - 1):
                grade = PaperSettings(grade=2 + (i % 5) / 4)
                now = prints.change_print(
                    connection, now.id, now.head, Recipe(paper=grade), f"Grade, step {i}"
                )
        library.close()
        with server("serve", home) as address:
            page = chromium(Path(folder) / "profile")
            try:
                times = [_opened(page, f"{address}/print/{now.id}") for _ in range(3)]
            finally:
                page.quit()
    return [Row(f"history of {STATES} states opens", statistics.median(times), "ms", 300.0)]


def _opened(page: Any, address: str) -> float:
    page.get(address)
    time.sleep(4)
    return float(page.execute_async_script(HISTORY))


def _applied() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        library = Library(Path(folder) / "home")
        with library.database.write() as connection:
            roll = rolls.add_roll(connection, "Bench")
        first = library.take_in_file(demo_capture("wheel"), roll).frame
        sha256 = rolls.frame(library.database.read, first).sha256
        ids = []
        with library.database.write() as connection:
            for i in range(FRAMES):
                other = rolls.add_roll(connection, f"Roll {i}")
                ids.append(rolls.add_frame(connection, other, sha256, "many"))
        look = settings_of(Recipe(paper=PaperSettings(grade=4)), "Bench")
        look = look.among(usual(look))
        began = time.perf_counter()
        applying.apply(library, ids, look)
        taken = time.perf_counter() - began
        library.close()
    return [Row(f"recipe put on {FRAMES} frames", taken, "s", 2.0)]
