"""Taking captures in and the Capture station, as a practitioner does it."""

import json
import shutil
import unittest
from urllib.request import urlopen

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from silvrin.demo_job import demo_capture
from tests.browser.test_journey import Journey
from tests.servers import Server, demo_server


class TakingInTest(Journey):
    def setUp(self) -> None:
        super().setUp()
        server = Server(self.folder / "home", port=8721)
        self.addCleanup(server.kill)
        self.address = f"http://{server.address}"
        self.card = self.folder / "Loft in June"
        (self.card / "more").mkdir(parents=True)
        for name in ("drying loft, dark", "drying loft", "drying loft, light"):
            shutil.copy(demo_capture(name), self.card)
        shutil.copy(demo_capture("black raku"), self.card / "more")
        (self.card / "more" / "torn.jpg").write_bytes(b"\xff\xd8\xff but no picture")

    def text(self) -> str:
        return self.page.find_element(By.TAG_NAME, "main").text

    def test_a_folder_a_bracket_and_the_bin(self) -> None:
        self.page.get(self.address)
        self.button("take in a folder").click()
        folder = self.one("input[aria-label=Folder]")
        self.wait(lambda: folder.get_attribute("value"))  # the user's own
        folder.send_keys(Keys.CONTROL, "a")
        folder.send_keys(str(self.card), Keys.ENTER)
        self.wait(lambda: "3 files right in it" in self.one("[role=dialog]").text)
        self.button("Take in").click()
        self.wait(lambda: len(self.all("[data-frame]")) == 4)
        job = self.one("section[aria-label^='Taking in']")
        self.wait(lambda: "1 refused" in job.text)

        # the bracket is offered, looked at and merged
        self.wait(lambda: "look like a bracket" in self.text())
        self.button("Merge them…").click()
        self.wait(lambda: self.all("[role=dialog] [role=radiogroup] button"))
        self.button("Merge").click()
        self.wait(lambda: len(self.all("[data-frame]")) == 5, seconds=90)
        self.page.get(self.page.current_url)
        self.wait(lambda: len(self.all("[data-frame]")) == 5)
        merged = self.all("[data-frame]")[-1]
        self.assertIn("merged", merged.get_attribute("aria-label"))

        # into the bin by key, and back
        self.all("[data-frame]")[3].click()
        ActionChains(self.page).send_keys(Keys.DELETE).perform()
        self.wait(lambda: len(self.all("[data-frame]")) == 4)
        self.page.get(f"{self.address}/bin")
        self.one("[data-frame]").click()
        self.button("Put back").click()
        self.wait(lambda: not self.all("[data-frame]"))
        self.page.get(f"{self.address}/roll/1")
        self.wait(lambda: len(self.all("[data-frame]")) == 5)
        self.assert_quiet()


class StationTest(Journey):
    def drag(self, *points: tuple[int, int]) -> None:
        """Along places of the picture's pane, from its left and top."""
        pane = self.one("main[aria-label=Picture]").rect
        chain = ActionChains(self.page, duration=20)
        pointer = chain.w3c_actions.pointer_action
        for number, (x, y) in enumerate(points):
            pointer.move_to_location(int(pane["x"] + x), int(pane["y"] + y))
            if number == 0:
                pointer.pointer_down()
        pointer.pointer_up()
        chain.perform()

    def capture(self) -> dict:
        """The Capture station as the server keeps it, with its drawings."""
        number = self.page.current_url.rsplit("/", 1)[-1]
        with urlopen(f"{self.address}/api/prints/{number}") as answer:
            recipe = json.load(answer)["recipe"]
        capture = recipe["of_frame"]["capture"] | recipe["look"]["capture"]
        for field, kind in (("mends", "mends"), ("protected", "outlines")):
            sheets = []
            for name in capture[field]:
                with urlopen(f"{self.address}/api/sheets/{name}") as answer:
                    sheets += json.load(answer)[kind]
            capture[field] = sheets
        return capture

    def test_lens_lines_and_spotting(self) -> None:
        with demo_server() as self.address:
            self.open_print(self.address, "Against the light")
            self.one("canvas[role=img]")
            self.station("Capture")
            kelvin = self.one("input[aria-label='Temperature, K']")
            self.assertAlmostEqual(int(kelvin.get_attribute("value")), 4700, delta=300)
            before = self.pixels()
            self.button("Lens, noise").click()
            self.button("Use it").click()
            self.changed(before)
            self.wait(lambda: self.capture()["lens"])
            self.button("Frame").click()
            self.button("Draw two lines").click()
            self.drag((335, 480), (390, 170))
            self.wait(lambda: "second edge" in self.one("[role=status]").text)
            before = self.pixels()
            self.drag((650, 480), (560, 170))
            self.changed(before)
            self.assertGreater(self.capture()["keystone_vertical"], 0.2)

            self.open_print(self.address, "Dark sky")
            self.one("canvas[role=img]")
            self.station("Capture")
            self.button("Spotting").click()
            self.button("Find probable dust").click()
            self.wait(lambda: "probable specks" in self.one("[role=status]").text, seconds=60)
            shown = len(self.all("[aria-label='Probable dust: mend it']"))
            self.assertGreaterEqual(shown, 3)
            before = self.pixels()
            self.button(f"Mend all {shown}").click()
            self.changed(before)
            self.wait(lambda: len(self.capture()["mends"]) == shown)
            self.drag((660, 280), (675, 310), (690, 345), (705, 380))
            self.wait(lambda: len(self.capture()["mends"]) == shown + 1)
            self.assertGreaterEqual(len(self.capture()["mends"][-1]["path"]), 2)
            self.button("Protect").click()
            self.drag((530, 80), (615, 80), (605, 160), (540, 160), (530, 85))
            self.wait(lambda: self.capture()["protected"])
            self.wait(lambda: self.all("[aria-label='Protection 1']"))
            self.button("Undo").click()
            self.wait(lambda: not self.capture()["protected"])
            self.assert_quiet()


if __name__ == "__main__":
    unittest.main()
