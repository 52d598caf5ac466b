"""Windows for journeys: one browser for all of them, that forgets between two what it was shown."""

import atexit
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import Any

from silvrin.bench.browser import chromium, sized

SIZE = 1280, 800  # of a page, px


@contextmanager
def window() -> Iterator[Any]:
    """A new window in a browser that remembers nothing; gives the driver."""
    page = _browser()
    page.get_log("browser")  # what others said is taken off
    try:
        yield page
    finally:
        origin = page.execute_script("return location.origin")
        old = page.current_window_handle
        page.switch_to.new_window("tab")
        new = page.current_window_handle
        page.switch_to.window(old)
        page.close()
        page.switch_to.window(new)
        page.execute_cdp_cmd("Page.bringToFront", {})
        if origin.startswith("http"):
            cleared = {"origin": origin, "storageTypes": "all"}
            page.execute_cdp_cmd("Storage.clearDataForOrigin", cleared)
        page.execute_cdp_cmd("Network.clearBrowserCache", {})
        if page.execute_script("return [innerWidth, innerHeight]") != list(SIZE):
            sized(page, *SIZE)


@cache
def _browser() -> Any:
    profile = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
    atexit.register(profile.cleanup)
    browser = chromium(Path(profile.name), *SIZE)
    atexit.register(browser.quit)
    return browser
