"""Every screen can be worked by keys and read by a screen reader: axe-core's rules, and keys."""

import json
import unittest
from pathlib import Path
from urllib.request import Request, urlopen

from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.test_journey import Journey
from tests.servers import demo_server

AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"
RUN = """
const done = arguments[arguments.length - 1];
axe.run(document, { resultTypes: ['violations'] })
  .then((found) => done(found.violations.map((v) => ({
  id: v.id, impact: v.impact, help: v.help,
  nodes: v.nodes.slice(0, 4).map((n) => n.target.join(' ') + ' | ' + n.html.slice(0, 160)),
}))));
"""
# Buttons of bars and headers of which an end is out of the window or lies below something else
COVERED = """
const bars = document.querySelectorAll('header, [aria-label="Chosen frames"]');
return [...bars].flatMap((bar) => [...bar.querySelectorAll('a, button, select')])
  .filter((each) => {
    const box = each.getBoundingClientRect();
    return [box.left + 2, box.right - 2].some((x) => {
      const there = document.elementFromPoint(x, box.top + box.height / 2);
      return !there || !(each.contains(there) || there.contains(each));
    });
  }).map((each) => each.textContent);
"""
# Moderate findings that stay, and why
LEFT: dict[str, str] = {}


class AccessTest(Journey):
    def check(self, name: str) -> None:
        """No serious or critical finding on what is shown, and no moderate one without a reason."""
        if not self.page.execute_script("return typeof axe !== 'undefined'"):
            self.page.execute_script(AXE.read_text())
        found = self.page.execute_async_script(RUN)
        said = [
            f"{v['impact']} {v['id']}: {v['help']}\n    " + "\n    ".join(v["nodes"])
            for v in found
            if v["impact"] in ("serious", "critical", "moderate") and v["id"] not in LEFT
        ]
        with self.subTest(name):
            self.assertEqual(said, [], f"{name}:\n" + "\n".join(said))

    def test_screens_and_states(self) -> None:
        with demo_server() as address:
            page = self.page
            page.set_script_timeout(60)
            page.get(f"{address}/roll/1")
            self.one("[data-frame] img")
            self.check("sheet")
            frame = self.one("[data-frame]")
            frame.click()
            ActionChains(page).send_keys("f").perform()
            self.one("[aria-label=Facts]")
            self.check("sheet with facts")
            page.get(f"{address}/bin")
            self.one("main")
            self.check("bin")
            page.get(f"{address}/compare/1,2")
            self.wait(lambda: len(self.all("img")) >= 2)
            self.check("compare")
            page.get(f"{address}/shelf")
            self.one("main")
            self.wait(lambda: len(self.all("svg")) > 3)
            self.check("shelf")
            page.get(f"{address}/contact")
            self.button("Read the stand-in").click()
            self.wait(lambda: len(self.all("main svg.plot")) == 2)
            self.check("contact processes")
            page.get(f"{address}/drying")
            self.wait(lambda: len(self.all("main li img")) == 4)  # what the demo job delivered
            self.check("drying line")
            self.button("Clear the line").click()
            self.button("Clear").click()
            self.wait(lambda: "Nothing hangs here yet" in self.one("main").text)
            self.check("empty drying line")
            self.open_print(address, "Dark sky")
            self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
            for station in (
                "Capture",
                "Light",
                "Film",
                "Development",
                "Enlarger",
                "Paper",
                "Toner",
                "Mount",
            ):
                self.station(station)
                self.check(station)
            self.button("Deliver").click()
            self.one("[role=dialog]")
            self.check("deliver")
            ActionChains(page).send_keys(Keys.ESCAPE).perform()
            self.wait(lambda: not self.all("[role=dialog]"))
            ActionChains(page).send_keys("l").perform()
            self.wait(lambda: len(self.all("[role=option]")) >= 24)
            self.check("starting prints")
            ActionChains(page).send_keys(Keys.ESCAPE, "yw").perform()
            self.one("[aria-label='Wipe line']")
            self.wait(lambda: self.all("[aria-label=History] li"))
            self.check("history and wipe")
            ActionChains(page).send_keys(Keys.ESCAPE).perform()
            for opens, holds in (
                (
                    "//button[@title[contains(., 'the prints of this frame')]]",
                    "[aria-label='Prints of this frame'] img",
                ),
                ("//button[starts-with(., 'Compare')]", "[data-radix-popper-content-wrapper]"),
                ("//button[.='Reset, off ▾']", "[data-radix-popper-content-wrapper]"),
                ("//button[.='Recipes…']", "[role=dialog]"),
            ):
                self.wait(lambda opens=opens: page.find_elements("xpath", opens))[0].click()
                self.one(holds)
                self.check(opens)
                ActionChains(page).send_keys(Keys.ESCAPE).perform()
                self.wait(lambda holds=holds: not self.all(holds))
            self.station("Paper")
            ActionChains(page).send_keys("r").perform()
            self.one("[aria-label=Ring-around] [role=option]")
            self.check("ring-around")
            # Enter takes the print that is chosen, whichever was clicked before
            prints = self.all("[aria-label=Ring-around] [role=option]")
            now = next(
                i for i, p in enumerate(prints) if p.get_attribute("aria-selected") == "true"
            )
            other = 1 if now != 1 else 2
            prints[other].click()
            ActionChains(page).send_keys(Keys.ARROW_RIGHT).perform()
            wanted = prints[other + 1].get_attribute("aria-label")
            self.wait(lambda: page.switch_to.active_element == prints[other + 1])
            ActionChains(page).send_keys(Keys.ENTER).perform()
            self.wait(
                lambda: (
                    f"Ring-around: {wanted}" in (self.button("Undo").get_attribute("title") or "")
                )
            )

    def test_long_names_are_cut_and_cover_no_button(self) -> None:
        long = "A season at the wood-fired hill pottery above the old quarry road, and its firings"
        with demo_server() as address:
            body = json.dumps({"name": long}).encode()
            kind = {"content-type": "application/json"}
            urlopen(Request(f"{address}/api/rolls/2", body, kind, method="PATCH")).close()
            for width, height in ((1024, 700), (1280, 800), (1920, 1200)):
                self.page.set_window_size(width, height + 143)
                self.page.get(f"{address}/roll/2")
                self.wait(lambda: self.all("[data-frame] img"))
                self.all("[data-frame]")[1].click()
                ActionChains(self.page).send_keys("f").perform()
                self.one("[aria-label=Facts]")
                self.assertEqual(self.page.execute_script(COVERED), [], (width, "sheet"))
                self.open_print(address, "Dark sky")
                self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
                self.wait(lambda: long in self.one("nav").get_attribute("textContent"))
                self.assertEqual(self.page.execute_script(COVERED), [], (width, "bench"))

    def test_keys_alone(self) -> None:
        with demo_server() as address:
            page = self.page
            page.get(f"{address}/roll/1")
            self.wait(lambda: len(self.all("[data-frame] img")) >= 4)
            # Enter opens the frame in focus, not the chosen one
            frames = self.all("[data-frame]")
            frames[0].click()
            wanted = frames[2].get_attribute("aria-label").split(", ", 1)[1]
            page.execute_script("arguments[0].focus()", frames[2])
            ActionChains(page).send_keys(Keys.ENTER).perform()
            self.wait(lambda: "/print/" in page.current_url)
            head = "return document.querySelector('header')?.innerText ?? ''"
            self.wait(lambda: wanted in page.execute_script(head))

            # stations are one stop of Tab, walked by arrows
            tabs = self.all("[role=tab]")
            self.assertEqual([t.get_attribute("tabindex") for t in tabs].count("0"), 1)
            chosen = next(t for t in tabs if t.get_attribute("aria-selected") == "true")
            chosen.send_keys(Keys.HOME)
            every = (
                "Capture",
                "Light",
                "Film",
                "Development",
                "Enlarger",
                "Paper",
                "Toner",
                "Mount",
            )
            for name in (*every, "Capture"):
                now = page.switch_to.active_element
                self.assertTrue(now.text.startswith(name), (now.text, name))
                self.assertEqual(now.get_attribute("aria-selected"), "true")
                now.send_keys(Keys.ARROW_RIGHT)
            self.station("Light")
            glass = "[aria-label='Lens filter'] [role=radio]"
            self.assertEqual([g.get_attribute("tabindex") for g in self.all(glass)].count("0"), 1)
            held = next(g for g in self.all(glass) if g.get_attribute("tabindex") == "0")
            held.send_keys(Keys.ARROW_RIGHT)
            now = page.switch_to.active_element
            self.wait(lambda: now.get_attribute("aria-checked") == "true")
            self.assertNotEqual(now.text, held.text)

            # the focus comes back when a dialog ends
            opener = self.button("Deliver")
            opener.send_keys(Keys.ENTER)
            self.one("[role=dialog]")
            ActionChains(page).send_keys(Keys.ESCAPE).perform()
            self.wait(lambda: not self.all("[role=dialog]"))
            self.wait(lambda: page.switch_to.active_element == opener)


if __name__ == "__main__":
    unittest.main()
