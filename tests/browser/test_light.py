"""Hue bands of one's own, how sure an exposure is, what is proposed for one station, and finding a
control; by pointer and by keys."""

import re
import unittest
from urllib.request import urlopen

import numpy as np
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from silvrin.core.recipe.switches import PARTS
from silvrin.core.stations import SETTINGS
from tests.browser.test_looks import WithBench

FOUND = "#found [role=option]"
SHAPES = "[aria-label^='Shape ']"


class LightTest(WithBench):
    def bands(self) -> list[dict]:
        return self.kept()["recipe"]["look"]["light"]["hue_bands"]

    def pull(self, dx: int, dy: int, by: int) -> None:
        canvas = self.one("main canvas")
        chain = ActionChains(self.page).move_to_element_with_offset(canvas, dx, dy).pause(1)
        chain.click_and_hold().pause(0.2).move_by_offset(0, by).pause(0.3).release().perform()

    def test_bands_are_laid_made_where_one_pulls_shaped_split_and_taken_away(self) -> None:
        self.open_print(self.address, "Dark sky")
        plain = self.rests()
        self.button("Hue bands").click()
        self.assertEqual(self.bands(), [])
        # pulled at the sky there is a band about its hue, and the sky is darker there alone
        self.one("button[title^='Drag up or down']").click()
        self.pull(100, -200, 60)
        self.wait(lambda: len(self.bands()) == 1)
        (sky,) = self.bands()
        self.assertTrue(235 < sky["centre"] < 275)
        self.assertLess(sky["stops"], -0.5)
        self.key(Keys.ESCAPE)
        darker = self.rests().astype(int)
        height, width = darker.shape[:2]
        self.assertLess(darker[: height // 8].mean(), plain[: height // 8].mean() - 5)
        grass = (slice(3 * height // 4, None), slice(0, width // 3))
        self.assertLess(np.abs(darker[grass] - plain[grass]).mean(), 1.5)
        # the band that covers a place is the one that moves; elsewhere a second is made
        self.one("button[title^='Drag up or down']").click()
        self.pull(100, -200, -30)
        self.wait(lambda: self.bands()[0]["stops"] > sky["stops"])
        self.assertEqual(len(self.bands()), 1)
        self.pull(250, -40, -40)  # a tree
        self.wait(lambda: len(self.bands()) == 2)
        leaf = self.bands()[1]
        self.assertTrue(80 < leaf["centre"] < 150)
        self.assertGreater(leaf["stops"], 0.3)
        self.key(Keys.ESCAPE)
        # the new one is out to be shaped; by keys
        self.one("[role=slider][aria-label=Width]").send_keys(Keys.HOME)
        self.wait(lambda: self.bands()[1]["width"] == 6)
        self.one("[role=slider][aria-label=Width]").send_keys(Keys.END)
        self.wait(lambda: self.bands()[1]["width"] == 180)
        self.one("[role=slider][aria-label=Width]").send_keys(Keys.DELETE)
        self.wait(lambda: self.bands()[1]["width"] == 45)
        self.button("Split").click()
        self.wait(lambda: len(self.bands()) == 3)
        halves = self.bands()[1:]
        self.assertEqual([half["stops"] for half in halves], [leaf["stops"]] * 2)
        self.assertAlmostEqual(halves[1]["centre"] - halves[0]["centre"], 22.5, delta=0.6)
        self.wait(lambda: self.all(SHAPES)[2].get_attribute("aria-expanded") == "true")
        self.button("Take away").click()
        self.wait(lambda: len(self.bands()) == 2)
        # laid on the picture's hues: sky and leaves among them, none with stops
        self.menu("Lay bands ▾", "Where the picture has hues")
        self.wait(lambda: len(self.bands()) > 2)
        laid = self.bands()
        self.assertTrue(all(band["stops"] == 0 for band in laid))
        for hue in (leaf["centre"], sky["centre"]):
            self.assertTrue(
                any(abs(band["centre"] - hue) <= band["width"] / 2 for band in laid), (hue, laid)
            )
        np.testing.assert_array_equal(self.rests(), plain)
        self.menu("Lay bands ▾", "12 even ones")
        self.wait(lambda: len(self.bands()) == 12)
        self.assertIn("12 bands: no more fit", self.one("aside").text)
        # one more cannot be made by a double click on the ring
        ring = self.one("svg[aria-label^='Hues of the picture']")
        ActionChains(self.page).double_click(ring).perform()
        self.menu("Lay bands ▾", "Take all away")
        self.wait(lambda: self.bands() == [])
        ActionChains(self.page).move_to_element_with_offset(ring, 60, 0).double_click().perform()
        self.wait(lambda: len(self.bands()) == 1)
        self.assertAlmostEqual(self.bands()[0]["centre"], 0, delta=2)
        # undone to the first, and kept over a reload
        self.page.refresh()
        self.wait(lambda: self.all("canvas"))
        self.assertEqual(len(self.bands()), 1)
        while self.kept()["undo"]:
            head = self.kept()["head"]
            self.button("Undo").click()
            self.wait(lambda head=head: self.kept()["head"] != head)
        self.assertEqual(self.bands(), [])
        np.testing.assert_array_equal(self.rests(), plain)

    def test_an_unsure_exposure_is_said_and_shown_and_one_station_is_proposed(self) -> None:
        # a film that sees beyond what a camera does, behind deep red glass
        self.open_print(self.address, "Dark sky")
        self.rests()
        self.station("Film")
        next(e for e in self.all("[role=radio]") if e.text.startswith("Rowan 200")).click()
        self.wait(lambda: self.kept()["label"] == "Rowan 200")
        self.station("Light")
        print_ = self.rests()
        held = self.one("button[title*='colour alone does not tell']")
        self.assertIn("Unsure by ⅓ stop or more", self.one("aside").text)
        ActionChains(self.page).click_and_hold(held).perform()
        shown = self.changed(print_)
        ActionChains(self.page).release().perform()
        # what is sure sinks back
        self.assertGreater((shown != print_).mean(), 0.02)
        np.testing.assert_array_equal(self.rests(), print_)
        canvas = self.one("main canvas")
        ActionChains(self.page).move_to_element_with_offset(canvas, 200, 100).perform()
        said = self.wait(lambda: [e.text for e in self.all("[aria-label='Under the pointer'] dd")])
        self.assertTrue(any(" ± " in each for each in said), said)

        self.one_station_is_proposed_and_the_others_stay()

    def one_station_is_proposed_and_the_others_stay(self) -> None:
        self.open_print(self.address, "Low key")
        self.rests()
        before = self.kept()["recipe"]
        self.station("Paper")
        self.button("Propose").click()
        self.wait(lambda: self.kept()["label"].startswith("Proposed: shadow at value"))
        after = self.kept()["recipe"]
        self.assertEqual(after["of_frame"], before["of_frame"])
        paper = after["look"].pop("paper")
        self.assertNotEqual(before["look"].pop("paper"), paper)
        self.assertEqual(after["look"], before["look"])
        # of this JPEG its camera's curve is taken back, by an amount of the Capture station
        self.station("Capture")
        self.button("Propose").click()
        self.wait(lambda: self.kept()["recipe"]["of_frame"]["capture"]["camera_curve"] == 0.6)
        self.assertIn("curve taken back by 60%", self.kept()["label"])
        straight = self.rests()
        self.one("[role=slider][aria-label='Taken back']").send_keys(Keys.HOME)
        self.wait(lambda: self.kept()["recipe"]["of_frame"]["capture"]["camera_curve"] == 0)
        self.changed(straight)
        # matched to a delivered print of another frame, side by side
        other = self.ask("/rolls")[1]
        frame = self.ask(f"/rolls/{other['id']}/frames")[0]
        picture = self.folder / "print of another frame.jpg"
        picture.write_bytes(
            urlopen(f"{self.address}/api/frames/{frame['id']}/thumbnail?show=print").read()
        )
        self.button("Match…").click()
        self.one("input[aria-label='Reference picture']").send_keys(str(picture))
        said = self.wait(lambda: next(
            (e.text for e in self.all("figcaption") if "of 255" in e.text), None))  # fmt: skip
        self.assertLess(float(re.search(r"([\d.]+) of 255", said)[1]), 4)
        self.wait(lambda: len(self.all("[role=dialog] figure img")) == 2)
        label = self.kept()["label"]
        self.key(Keys.ESCAPE)
        self.wait(lambda: not self.all("[role=dialog]"))
        self.assertEqual(self.kept()["label"], label)
        self.button("Match…").click()
        self.one("input[aria-label='Reference picture']").send_keys(str(picture))
        self.wait(lambda: self.button("Take it").is_enabled())
        self.button("Take it").click()
        self.wait(lambda: self.kept()["label"] == "Matched to print of another frame.jpg")
        # a raw has none
        self.open_print(self.address, "Dark sky")
        self.rests()
        self.station("Capture")
        self.assertNotIn("Camera's curve", self.one("aside").text)

    def find(self, text: str) -> None:
        self.key("/")
        self.wait(lambda: self.page.switch_to.active_element.get_attribute("role") == "combobox")
        self.key(text)

    def lit(self) -> str:
        return self.page.execute_script(
            "return document.querySelector('[data-lit]')?.dataset.control ?? ''"
        )

    def test_every_control_is_found_by_its_name_and_lit(self) -> None:
        self.open_print(self.address, "Dark sky")
        self.rests()
        for station, parts in PARTS.items():
            for fields in parts.values():
                name = fields[0]
                title = SETTINGS[station].model_fields[name].title or ""
                self.find(title)
                wanted = [o for o in self.wait(lambda: self.all(FOUND)) if o.text.startswith(title)]
                at = next(o for o in wanted if f"{station.capitalize()} ›" in o.text)
                at.click()
                self.wait(lambda name=f"{station}.{name}": name in self.lit().split())
        # what is not shown under these settings leads to what brings it out
        self.find("roundness")
        self.key(Keys.ENTER)
        self.wait(lambda: self.lit() == "light.focus_blur")

        self.words_of_the_trade_find_controls_starting_prints_and_screens()

    def words_of_the_trade_find_controls_starting_prints_and_screens(self) -> None:
        self.find("contrast")
        found = [each.text for each in self.wait(lambda: self.all(FOUND))]
        for title in ("Grade", "Development", "Zone contrast", "Lens filter"):
            self.assertTrue(any(each.startswith(title) for each in found), title)
        # arrows walk, Enter goes: the slider has the focus and moves by arrow keys
        self.key(*[Keys.BACKSPACE] * len("contrast"), "grain softness", Keys.ENTER)
        self.wait(lambda: self.lit() == "film.grain_softness")
        self.key(Keys.END)
        self.wait(lambda: self.kept()["label"].startswith("Grain softness"))
        self.find("xyzzy")
        self.wait(lambda: "Nothing is called so" in self.one("[role=dialog]").text)
        self.key(Keys.ESCAPE)
        self.wait(lambda: not self.all("[role=dialog]"))
        before = self.rests()
        # a starting print is pointed at, to be taken
        self.find("black sky")
        self.key(Keys.ENTER)
        self.changed(before)
        self.wait(lambda: (self.page.switch_to.active_element.text or "").startswith("Black sky"))
        self.key(Keys.ENTER)
        self.wait(lambda: self.kept()["label"].startswith("Black sky"))
        self.key(Keys.ESCAPE)
        self.find("thumbnails")
        self.key(Keys.ENTER)
        self.wait(lambda: "/roll/" in self.page.current_url)


if __name__ == "__main__":
    unittest.main()
