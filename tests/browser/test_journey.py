import base64
import json
import math
import tempfile
import time
import unittest
from pathlib import Path
from urllib.request import urlopen

import numpy as np
import tifffile
from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from silvrin.demo_job import demo_capture
from tests.browser.windows import window
from tests.servers import Server, demo_server

CANVAS = """
const c = document.querySelector('canvas');
const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;
let text = '';
for (let i = 0; i < d.length; i += 32768) text += String.fromCharCode(...d.subarray(i, i + 32768));
return [c.width, c.height, btoa(text)];
"""


class Journey(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.page = self.enterContext(window())

    def wait(self, condition, seconds: float = 30):
        not_yet = (StaleElementReferenceException, IndexError)
        waiting = WebDriverWait(self.page, seconds, 0.05, ignored_exceptions=not_yet)
        return waiting.until(lambda _: condition())

    def all(self, selector: str) -> list:
        return self.page.find_elements(By.CSS_SELECTOR, selector)

    def one(self, selector: str):
        return self.wait(lambda: next(iter(self.all(selector)), None))

    def button(self, text: str):
        find = f"//button[normalize-space()='{text}' or @aria-label='{text}']"
        return self.wait(lambda: next(iter(self.page.find_elements(By.XPATH, find)), None))

    def station(self, name: str) -> None:
        tab = next(t for t in self.all("[role=tab]") if t.text.startswith(name))
        tab.click()

    def pixels(self) -> np.ndarray:
        width, height, data = self.page.execute_script(CANVAS)
        raw = np.frombuffer(base64.b64decode(data), np.uint8)
        return raw.reshape(height, width, 4)[..., :3]

    def changed(self, before: np.ndarray) -> np.ndarray:
        def other():
            now = self.pixels()
            if now.shape == before.shape and (now == before).all():
                return None
            time.sleep(0.3)  # and it has come to rest
            later = self.pixels()
            return [now] if now.shape == later.shape and (now == later).all() else None

        return self.wait(other)[0]

    def rests(self) -> np.ndarray:
        """The picture when it does not change any more."""
        self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
        for _ in range(2):  # what was pressed has been asked for, and has come
            self.page.execute_async_script("setTimeout(arguments[0], 120)")
            self.wait(lambda: self.all("main canvas[aria-busy=false]"))
        return self.pixels()

    def may_deliver(self):
        """The button of the Deliver dialog, once what it will write is planned."""
        find = "//*[@role='dialog']//button[starts-with(., 'Deliver')][not(@disabled)]"
        return self.wait(lambda: next(iter(self.page.find_elements(By.XPATH, find)), None))

    def open_print(self, address: str, name: str) -> None:
        """The print of the demo job that has this name."""

        def ask(path: str) -> list:
            with urlopen(f"{address}/api/rolls{path}") as answer:
                return json.load(answer)

        frames = [frame for roll in ask("") for frame in ask(f"/{roll['id']}/frames")]
        (found,) = (p["id"] for f in frames for p in f["prints"] if p["name"] == name)
        self.page.get(f"{address}/print/{found}")

    def assert_quiet(self, allowed: str = "422") -> None:
        """No errors in the console, but for the refusal of a file that is no capture."""
        log = self.page.get_log("browser")
        said = [e for e in log if e["level"] == "SEVERE" and allowed not in e["message"]]
        self.assertEqual(said, [])


class FirstPrintTest(Journey):
    def setUp(self) -> None:
        super().setUp()
        self.home = self.folder / "home"
        server = Server(self.home, port=8720)
        self.addCleanup(server.kill)
        self.address = f"http://{server.address}"

    def test_from_an_empty_library_to_a_delivered_print(self) -> None:
        page = self.page
        page.get(self.address)
        self.wait(lambda: "Drop captures anywhere" in page.find_element(By.TAG_NAME, "main").text)

        # take in one capture, and one file that is none
        bad = self.folder / "notes.jpg"
        bad.write_text("no picture")
        capture = demo_capture("glaze shelf")
        self.one("input[type=file]").send_keys(f"{capture}\n{bad}")
        listed = "[aria-label='Being taken in']"
        self.wait(lambda: "1 of 2 taken in, 1 refused" in self.one(listed).text)
        by_name = {li.text.split("\n")[0]: li.text for li in self.all(f"{listed} li")}
        self.assertIn("on the sheet", by_name["01 glaze shelf.dng"])
        self.assertIn("refused", by_name["notes.jpg"])
        self.assertIn("not an image", by_name["notes.jpg"])

        # mark it by key, and open it
        frame = self.one("[data-frame]")
        frame.click()
        frame.send_keys("o")
        self.wait(lambda: "1 ringed" in page.find_element(By.TAG_NAME, "main").text)
        self.button("Make print").click()
        self.one("canvas[role=img]")
        self.wait(lambda: self.pixels().shape[1] > 300)

        # it is the proposed one, and says why; undo makes it plain, and so does the line under it
        def line() -> str:
            return self.one("[aria-label='Proposed print']").text.split("\n")[0]

        self.wait(lambda: line().startswith("Proposed"))
        self.assertRegex(
            line(), r"^Proposed: shadow on III, highlights fall on \S+: N\S*, grade \S+, [\d.]+ s$"
        )
        time.sleep(1)
        proposed = self.pixels()
        self.button("Undo").click()
        first = self.changed(proposed)
        self.wait(lambda: line() == "Propose a print")
        self.assertFalse(self.button("Undo").is_enabled())
        self.button("Propose a print").click()
        self.wait(lambda: line().startswith("Proposed: shadow on III"))
        # the first was proposed of half the raw's size, while it was developed
        self.wait(lambda: np.abs(self.pixels().astype(int) - proposed).mean() < 2.0)
        self.button("Plain").click()
        self.wait(lambda: (self.pixels() == first).all())
        self.assertTrue((first[..., 0] == first[..., 2]).all())
        self.assertGreater(first.std(), 20)

        # filter, grade, undo, redo
        zones = [zone.accessible_name for zone in self.all("[aria-label=Zones] [role=option]")]
        self.assertEqual(len(zones), 11)
        self.assertRegex(zones[8], r"^Zone VIII ?: (< )?[\d.]+ %$")
        next(b for b in self.all("[role=radio]") if b.text == "No. 25").click()
        red = self.changed(first)
        self.assertIn("× 8", self.one("[aria-label='Light station']").text)
        self.station("Paper")
        grade = self.one("[role=slider][aria-label=Grade]")
        grade.send_keys(Keys.ARROW_RIGHT * 4)  # as one: keys that follow soon are one change
        hard = self.changed(red)
        self.wait(lambda: self.button("Undo").is_enabled())
        self.wait(lambda: "Grade 3" in (self.button("Undo").get_attribute("title") or ""))
        self.button("Undo").click()
        self.wait(lambda: (self.pixels() == red).all())
        ActionChains(page).key_down(Keys.CONTROL).key_down(Keys.SHIFT).send_keys("z").key_up(
            Keys.SHIFT
        ).key_up(Keys.CONTROL).perform()
        self.wait(lambda: (self.pixels() == hard).all())

        # a typed value, and one that cannot be
        typed = self.one("input[aria-label=Grade]")
        typed.send_keys(Keys.CONTROL, "a")
        typed.send_keys("99", Keys.ENTER)
        self.wait(lambda: self.one("input[aria-label=Grade]").get_attribute("value") == "5")
        hardest = self.changed(hard)
        self.wait(lambda: "Grade 5" in (self.button("Undo").get_attribute("title") or ""))

        # all of it is there after a restart of the window
        page.refresh()
        self.wait(lambda: self.all("canvas") and self.pixels().shape == hardest.shape)
        self.wait(lambda: (self.pixels() == hardest).all())

        # the enlarger stands at the standard time, which it says
        self.station("Enlarger")
        standard = self.one("[aria-label='Enlarger station'] p b").text
        self.assertGreater(float(standard.removesuffix(" s")), 1)
        time_of_base = "input[aria-label='Base exposure, s']"
        self.assertEqual(self.one(time_of_base).get_attribute("value") + " s", standard)

        # points that do not go together: refused and said, and what is kept stands and goes on
        self.station("Paper")
        self.button("Points, curve").click()

        def point(name: str):
            return self.one(f"[role=slider][aria-label='{name} point']")

        def undoes() -> str:
            return self.button("Undo").get_attribute("title") or ""

        point("Black").send_keys(Keys.HOME)
        self.wait(lambda: "Black" in undoes())
        point("White").send_keys(Keys.END)
        said = "white point 0.4 and black point 0.5 are less than 0.2 apart"
        self.wait(lambda: any(said in note.text for note in self.all("[role=alert]")))
        self.wait(lambda: float(point("White").get_attribute("aria-valuenow")) == 0)
        self.assertEqual(float(point("Black").get_attribute("aria-valuenow")), 0.5)
        point("Mid").send_keys(Keys.END)
        self.wait(lambda: "Mid" in undoes())
        for name in ("Mid", "Black"):
            self.wait(lambda name=name: name in undoes())
            self.button("Undo").click()
            self.wait(lambda name=name: name not in undoes())
        self.assertEqual(float(point("Black").get_attribute("aria-valuenow")), 1)
        self.wait(lambda: (self.pixels() == hardest).all())

        # hold C for the colour capture
        ActionChains(page).key_down("c").perform()
        colour = self.changed(hardest)
        self.assertGreater(np.abs(colour[..., 0].astype(int) - colour[..., 2]).mean(), 10)
        ActionChains(page).key_up("c").perform()
        self.wait(lambda: (self.pixels() == hardest).all())

        # the chain under the pointer, on the white jug
        jug = self.one("canvas")
        ActionChains(page).move_to_element_with_offset(jug, 70, -30).perform()
        chain = self.one("[aria-label='Under the pointer']").text.split("\n")
        self.assertEqual(chain[::2], ["EV", "Scene zone", "Negative", "Print", "Value", "Number"])
        self.assertGreater(int(chain[11]), 200)

        # 100 %, dragged
        page.find_element(By.XPATH, "//button[contains(., '100 %')]").click()
        full = self.changed(hardest)
        ActionChains(page).drag_and_drop_by_offset(self.one("canvas"), -150, -90).perform()
        moved = self.changed(full)
        self.assertTrue((moved[:-90, :-150] == full[90:, 150:]).all())

        # deliver, and find at 100 % what was delivered
        self.button("Deliver").click()
        self.one("[role=dialog]")
        self.may_deliver().click()
        self.wait(lambda: "The print is finished" in self.one("[role=dialog]").text)
        (file,) = (self.home / "delivered").iterdir()
        self.assertIn(file.name, self.one("[role=dialog]").text)
        delivered = tifffile.imread(file).astype(float) / 257
        self.assertEqual(delivered.shape, (1600, 2400))
        seen, (height, width) = moved[..., 0].astype(float), moved.shape[:2]
        fits = [
            (y, x)
            for y in range(1600 - height + 1)
            for x in np.flatnonzero(np.abs(delivered[y, : 2401 - width] - seen[0, 0]) < 1)
            if np.abs(delivered[y, x : x + width : 40] - seen[0, ::40]).max() < 1
            and np.abs(delivered[y : y + height, x : x + width] - seen).max() < 1
        ]
        self.assertEqual(len(fits), 1)
        self.assert_quiet()


class DemoTest(Journey):
    def test_first_screen_holds_captures_and_a_finished_print(self) -> None:
        with demo_server() as address:
            self.page.get(address)
            self.wait(lambda: len(self.all("[data-frame] img")) >= 2)
            sources = [img.get_attribute("src") for img in self.all("[data-frame] img")]
            self.assertEqual(sum("show=print" in s for s in sources), 5)
            self.wait(
                lambda: self.page.execute_script(
                    "return [...document.images].every(i => i.complete && i.naturalWidth > 100)"
                )
            )
            # nothing is fetched from anywhere else
            names = self.page.execute_script(
                "return performance.getEntriesByType('resource').map(e => e.name)"
            )
            self.assertEqual([n for n in names if not n.startswith((address, "data:"))], [])
            # every control can be reached by keyboard and has a name
            names = set()
            for _ in range(20):
                self.page.switch_to.active_element.send_keys(Keys.TAB)
                names.add(self.page.switch_to.active_element.accessible_name)
            self.assertIn("Frame 1, Glaze shelf", names)
            self.assertNotIn(
                "", names - {self.page.find_element(By.TAG_NAME, "body").accessible_name}
            )
            self.assert_quiet()

    def test_metering_placing_and_choosing_a_development(self) -> None:
        with demo_server() as address:
            self.open_print(address, "Dark sky")
            self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
            before = self.pixels()
            self.button("MeterM").click()
            for dx, dy in ((-250, 190), (-280, -180)):  # grass in the shade, a cloud
                at = ActionChains(self.page).move_to_element_with_offset(self.one("canvas"), dx, dy)
                at.click().perform()
                time.sleep(0.4)
            tags = "[aria-label='Zone staff'] button[aria-label^='Spot']"

            def says() -> list[str]:
                return [tag.get_attribute("aria-label") for tag in self.all(tags)]

            self.wait(lambda: len(says()) == 2)

            # place A on III by a digit: the picture follows, B falls somewhere higher
            self.one("[aria-label='Spot A on the picture']").click()
            ActionChains(self.page).send_keys("3").perform()
            self.wait(lambda: says()[0] == "Spot A, placed on III")
            placed = self.changed(before)
            self.assertIn("Spot B, falls", says()[1])

            # drag B one zone down: a development is proposed and taken
            tag = self.all(tags)[1]
            zone = self.all("[aria-label=Zones] [role=option]")[0].rect["width"]
            drag = ActionChains(self.page).click_and_hold(tag).move_by_offset(-int(zone), 0)
            drag.release().perform()
            proposed = self.one("[aria-label='Zone staff'] [role=status]")
            self.assertRegex(proposed.text, r"^A on III puts B .*: N−.* brings it to ")
            proposed.find_element(By.XPATH, ".//button[starts-with(., 'Develop')]").click()
            developed = self.changed(placed)
            self.assertLess(developed.std(), placed.std())  # less contrast
            self.wait(lambda: "for B" in (self.button("Undo").get_attribute("title") or ""))

            # pull the hue of the grass up on the picture: a band is made there, and it follows
            ActionChains(self.page).send_keys(Keys.ESCAPE).send_keys("h").perform()
            self.wait(lambda: "No bands yet" in self.one("aside").text)
            grass = ActionChains(self.page).move_to_element_with_offset(
                self.one("canvas"), -250, 200
            )
            grass.pause(0.5).click_and_hold().move_by_offset(0, -60).release().perform()
            pulled = self.changed(developed)
            (band,) = self.wait(lambda: self.all("input[aria-label$=', stops']"))
            self.assertRegex(band.get_attribute("aria-label"), "^(Yellow|Green)")
            self.assertGreater(float(band.get_attribute("value")), 0.3)
            self.assertGreater(pulled[-60:].mean(), developed[-60:].mean())
            self.wait(lambda: "pulled" in (self.button("Undo").get_attribute("title") or ""))

            # zones that are pressed stand, the rest sinks back until they are let go
            zones = self.all("[aria-label=Zones] [role=option]")
            ActionChains(self.page).move_to_element(zones[6]).click_and_hold().perform()
            held = self.changed(pulled)
            self.assertLess(held.std(), pulled.std())
            ActionChains(self.page).release().perform()
            self.wait(lambda: (self.pixels() == pulled).all())

            # a test strip: darker from strip to strip; one is taken
            self.station("Enlarger")
            self.button("Lay a test strip").click()
            laid = self.changed(pulled)
            strips = self.all("[aria-label='Test strip'] button")
            self.assertEqual(len(strips), 7)
            means = [part.mean() for part in np.array_split(laid, 7, axis=1)]
            self.assertGreater(means[0], means[-1] + 60)
            strips[4].click()
            taken = self.changed(laid)
            self.assertLess(taken.mean(), pulled.mean())
            self.wait(lambda: "test strip" in (self.button("Undo").get_attribute("title") or ""))

            # the picture in eleven flat tones, and back
            ActionChains(self.page).send_keys("z").perform()
            plate = self.changed(taken)
            self.assertLessEqual(len(np.unique(plate)), 11)
            ActionChains(self.page).send_keys("z").perform()
            self.wait(lambda: (self.pixels() == taken).all())

            # a split grade prints the same; then a harder one; and the file
            self.station("Paper")
            self.button("Split grade").click()
            self.wait(lambda: "split" in (self.button("Undo").get_attribute("title") or "").lower())
            time.sleep(0.6)
            self.assertLess(np.abs(self.pixels().astype(int) - taken).max(), 4)
            self.station("Enlarger")
            # a strip that is taken shortens both exposures
            soft = "input[aria-label='Through 00, s']"
            whole = float(self.one(soft).get_attribute("value"))
            self.button("Lay a test strip").click()
            self.wait(lambda: len(self.all("[aria-label='Test strip'] button")) == 7)
            self.all("[aria-label='Test strip'] button")[1].click()
            self.wait(lambda: float(self.one(soft).get_attribute("value")) < 0.6 * whole)
            self.button("Undo").click()
            self.wait(lambda: float(self.one(soft).get_attribute("value")) == whole)
            through = self.one("input[aria-label='Through 5, s']")
            through.send_keys(Keys.CONTROL, "a")
            through.send_keys("14" + Keys.ENTER)
            harder = self.changed(taken)
            self.assertGreater((harder < 8).mean(), (taken < 8).mean())
            self.button("Deliver").click()
            self.may_deliver().click()
            self.wait(lambda: "The print is finished" in self.one("[role=dialog]").text, 60)
            self.assert_quiet()

    def test_a_film_of_ones_own_local_contrast_and_a_ring_around(self) -> None:
        with demo_server() as address:
            # a step wedge with decimal commas becomes a stock on the shelf
            self.page.get(f"{address}/shelf")
            self.button("Measure your own…").click()
            at = [-3.4 + 0.15 * k for k in range(1, 22)]
            rise = [0.6 * (0.17 * math.log1p(math.exp((h + 2.2) / 0.17))) for h in at]
            rows = [f"{k};{0.12 + d:.3f}" for k, d in enumerate(rise, 1)]
            wrong = "\n".join(["step;density", *rows[:5], "6;-0,1"])
            readings = self.one("textarea[aria-label='Readings']")
            self.page.execute_script("arguments[0].focus()", readings)
            readings.send_keys(wrong)
            self.button("Read it").click()
            self.wait(lambda: "row 7: density -0.1 is negative" in self.one("[role=dialog]").text)
            readings.send_keys(Keys.CONTROL, "a")
            readings.send_keys("\n".join(["step;density", *rows]).replace(".", ","))
            self.button("Read it").click()
            self.wait(lambda: "rms 0.00" in self.one("[role=dialog]").text)
            dialog = self.one("[role=dialog]")
            inputs = dialog.find_elements(By.CSS_SELECTOR, "input:not([type=file])")
            inputs[-2].send_keys("Own wedge")
            inputs[-1].send_keys("200")
            self.button("Put on the shelf").click()
            self.wait(lambda: self.one("[aria-label=Figures]").text.startswith("Own wedge"))
            self.assertIn("ISO 200", self.one("[aria-label=Figures]").text)

            # it can be chosen for a print; what the picture is, is kept
            self.open_print(address, "Dark sky")
            self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
            before = self.pixels()
            self.station("Film")
            own = next(r for r in self.all("[role=radio]") if r.text.startswith("Own wedge"))
            own.click()
            film = self.changed(before)

            # middle local contrast raises differences; a zone is lifted by its handle
            self.station("Development")
            self.button("Local contrast").click()
            middle = self.one("input[aria-label='Middle']")
            middle.send_keys(Keys.CONTROL, "a")
            middle.send_keys("1" + Keys.ENTER)
            raised = self.changed(film)
            self.assertGreater(raised.std(), film.std())
            self.button("Zones").click()
            lane = "[aria-label='Lift by zone'] [role=slider]"
            handle = self.wait(lambda: self.all(lane))[4]
            self.assertEqual(handle.get_attribute("aria-valuetext"), "0.00 stops")
            time.sleep(1)  # the picture takes its new place
            raised = self.pixels()
            handle.send_keys(Keys.SHIFT, Keys.ARROW_UP)
            lifted = self.changed(raised)
            self.assertGreater(lifted.mean(), raised.mean())
            self.assertEqual(self.all(lane)[4].get_attribute("aria-valuetext"), "+0.83 stops")
            self.wait(lambda: "Zone IV" in (self.button("Undo").get_attribute("title") or ""))

            # ring-around: N across (with the present one), placement down; a neighbour is taken
            self.page.execute_script("document.activeElement.blur()")
            ActionChains(self.page).send_keys("r").perform()
            self.wait(lambda: "Enter takes one" in self.one("[aria-label=Ring-around]").text)
            prints = self.all("[aria-label=Prints] [role=option]")
            self.assertEqual(len(prints), 30)
            shown = "return [...document.querySelectorAll('[aria-label=Prints] img')]"
            drawn = f"{shown}.every(i => i.complete && i.naturalWidth > 40)"
            self.wait(lambda: self.page.execute_script(drawn))
            first = self.one("[aria-label=Prints] [aria-selected=true]").accessible_name
            ActionChains(self.page).send_keys(Keys.ARROW_RIGHT).perform()
            chosen = self.one("[aria-label=Prints] [aria-selected=true]").accessible_name
            self.assertNotEqual(first, chosen)
            ActionChains(self.page).send_keys(Keys.ENTER).perform()
            self.wait(lambda: not self.all("[aria-label=Ring-around]"))
            self.changed(lifted)
            title = self.wait(lambda: self.button("Undo").get_attribute("title"))
            self.assertEqual(title, f"Take back: Ring-around: {chosen}")
            self.assert_quiet()


if __name__ == "__main__":
    unittest.main()
