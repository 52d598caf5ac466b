"""From a slider moved by hand to new pixels on the screen, in Chromium at 1280 x 800."""

import importlib.util
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

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
def demo_server() -> Iterator[str]:
    """A server with the demo job in a folder of its own; gives its address."""
    with tempfile.TemporaryDirectory() as home:
        server = subprocess.Popen(
            [sys.executable, "-m", "silvrin", "demo", "--home", home, "--port", "8620"],
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            text=True,
        )
        try:
            assert server.stdout is not None
            line = next(text for text in server.stdout if "http://" in text)
            yield "http://" + line.split("http://")[1].split()[0]
        finally:
            server.terminate()
            server.wait(timeout=20)
            server.stdout and server.stdout.close()


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
    browser.set_window_size(width, height)
    inner = browser.execute_script("return [innerWidth, innerHeight]")
    browser.set_window_size(2 * width - inner[0], 2 * height - inner[1])
    return browser


RING = """
const done = arguments[0], began = performance.now();
document.querySelector('[title^="Small prints of this picture"]').click();
const look = () => {
  const prints = [...document.querySelectorAll('[aria-label=Prints] img')];
  const ready = prints.filter(i => i.complete && i.naturalWidth).length;
  if (ready >= 12) done(performance.now() - began);
  else requestAnimationFrame(look);
};
look();
"""


def input_to_picture() -> list[Row]:
    """Median and 95th percentile over a slider walked through its range; and from the wish for a
    ring-around (filters, 14 small prints) to twelve prints on the screen."""
    from selenium.webdriver import ActionChains
    from selenium.webdriver.common.by import By

    with demo_server() as address, tempfile.TemporaryDirectory() as profile:
        page = chromium(Path(profile))
        try:
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
            times = sorted(page.execute_script(MEASURES))
            ring = page.execute_async_script(RING)
        finally:
            page.quit()
    return [
        Row("slider input to picture, median", statistics.median(times), "ms", 80.0),
        Row("slider input to picture, 95th percentile", times[int(len(times) * 0.95)], "ms", 150.0),
        Row("twelve prints of a ring-around", ring, "ms", 1500.0),
    ]
