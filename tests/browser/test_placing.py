"""Metering, placing and timing by pointer and by keys, to exact values."""

import re
import time
import unittest

import numpy as np
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.test_journey import Journey
from tests.servers import demo_server

TAGS = "[aria-label='Zone staff'] button[aria-label^='Spot']"
ROMAN = ("0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X")


def zone_in(text: str) -> float:
    """The zone that a text names, in thirds."""
    found = re.search(r"\b(?:on|to) (0|[IVX]+)([⅓⅔]?)", text)
    assert found, text
    return ROMAN.index(found[1]) + {"": 0, "⅓": 1 / 3, "⅔": 2 / 3}[found[2]]


class PlacingTest(Journey):
    def says(self) -> list[str]:
        return [tag.get_attribute("aria-label") for tag in self.all(TAGS)]

    def tag(self, letter: str):
        return self.one(f"{TAGS}[aria-label^='Spot {letter}']")

    def drag(self, letter: str, zones: float) -> None:
        wide = self.one("[aria-label=Zones]").rect["width"] / 11
        grip = self.tag(letter).find_element(By.TAG_NAME, "span")
        chain = ActionChains(self.page, duration=60).click_and_hold(grip)
        for part in (0.3, 0.7):
            chain = chain.move_by_offset(round(wide * zones * part), 0)
        chain.release().perform()

    def expect(self, letter: str, text: str) -> None:
        self.wait(lambda: f"Spot {letter}, {text}" in self.says())

    def test_tags_are_put_where_they_are_dropped(self) -> None:
        with demo_server() as address:
            self.open_print(address, "Dark sky")
            self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
            self.button("MeterM").click()
            for dx, dy in ((-250, 190), (-280, -180)):  # grass in the shade, a cloud
                at = ActionChains(self.page).move_to_element_with_offset(self.one("canvas"), dx, dy)
                at.click().perform()
                time.sleep(0.4)
            self.wait(lambda: len(self.says()) == 2)
            self.one("[aria-label='Spot A on the picture']").click()

            # by digits: 3 at once, 0, another 0 for X, however slowly; and 00 is as good
            for keys, lands in (
                ("3", "III"), ("0", "0, on the toe"), ("0", "X"), ("3", "III"), ("00", "X"),
                ("0", "0, on the toe"), ("3", "III"),
            ):  # fmt: skip
                ActionChains(self.page).send_keys(keys).perform()
                self.wait(lambda to=lands: self.says()[0].startswith(f"Spot A, placed on {to}"))

            # dragged: the exposure goes with it
            for zones, lands in ((2, "V"), (-1 / 3, "IV⅔"), (-4.7, "0"), (3, "III")):
                self.drag("A", zones)
                self.wait(lambda to=lands: self.says()[0].startswith(f"Spot A, placed on {to}"))

            # another one: a development is proposed for where it was dropped
            falls = zone_in(self.says()[1])
            self.drag("B", -1)
            said = self.one("[aria-label='Zone staff'] [role=status]").text
            self.assertRegex(said, r"^A on III puts B on ")
            self.assertEqual(zone_in(said.split("puts B")[1]), falls)
            aims = zone_in(said.split("brings it")[1])
            self.assertAlmostEqual(aims, falls - 1, delta=0.34)
            self.assertIn(
                f"Spot B, falls on {said.split('puts B on ')[1].split(':')[0]}", self.says()
            )
            # placed by exposure after all
            self.button(
                next(b.text for b in self.all("[role=status] button") if b.text.startswith("Place"))
            ).click()
            self.wait(lambda: self.says()[1].startswith("Spot B, placed on"))
            self.assertAlmostEqual(zone_in(self.says()[1]), aims, delta=1e-6)
            self.assertTrue(self.says()[0].startswith("Spot A, falls"))

            # by keys alone: thirds, and Enter chooses
            before = zone_in(self.says()[1])
            tag = self.tag("B")
            tag.send_keys(Keys.ENTER)
            tag.send_keys(Keys.ARROW_RIGHT)
            self.wait(lambda: abs(zone_in(self.says()[1]) - before - 1 / 3) < 1e-6)
            for _ in range(4):
                self.tag("B").send_keys(Keys.ARROW_LEFT)
            self.wait(lambda: abs(zone_in(self.says()[1]) - before + 1) < 1e-6)
            self.assertIn("placed", self.says()[1])

            # what moves it from there is said
            self.station("Film")
            slider = self.one("[role=slider][aria-label='Placement']")
            for _ in range(3):
                slider.send_keys(Keys.ARROW_UP)
            self.wait(lambda: ", was placed on" in self.says()[1])
            self.button("Undo").click()
            self.wait(lambda: ", was placed on" not in self.says()[1])
            self.assert_quiet()

    def test_no_words_lie_on_another_tag(self) -> None:
        with demo_server() as address:
            self.open_print(address, "Dark sky")
            self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
            self.button("MeterM").click()
            canvas = self.one("canvas")
            rng = np.random.default_rng(5)
            for _ in range(9):
                dx, dy = int(rng.integers(-300, 300)), int(rng.integers(-200, 200))
                place = ActionChains(self.page).move_to_element_with_offset(canvas, dx, dy)
                place.click().perform()
                time.sleep(0.25)
            self.wait(lambda: len(self.says()) == 9)
            for size in ((1024, 700), (1280, 800)):
                self.page.set_window_size(*size)
                time.sleep(0.6)
                boxes = [
                    (tag.rect, [s.rect for s in tag.find_elements(By.TAG_NAME, "span")])
                    for tag in self.all(TAGS)
                ]
                for i, (_, own) in enumerate(boxes):
                    for j, (_, others) in enumerate(boxes):
                        for words in own[1:]:
                            letter = others[0]
                            apart = (
                                words["x"] + words["width"] <= letter["x"] + 1
                                or letter["x"] + letter["width"] <= words["x"] + 1
                            )
                            self.assertTrue(apart or i == j, (size, i, j, words, letter))

    def test_the_timer_keeps_time_and_its_lamp_shows_the_negative(self) -> None:
        with demo_server() as address:
            self.open_print(address, "Dark sky")
            self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
            finished = self.pixels().astype(float)
            self.station("Enlarger")
            self.button("Timer…").click()
            paper = self.changed(finished)
            self.assertGreater(paper.min(), 250)  # bare
            self.button("Focus").click()
            negative = self.changed(paper).astype(float)
            # dark where the print is light: it is the negative that is on the board
            self.assertLess(
                np.corrcoef(negative[::4, ::4, 0].ravel(), finished[::4, ::4, 0].ravel())[0, 1],
                -0.6,
            )
            self.button("Focus").click()
            self.button("Expose").click()
            began = time.monotonic()
            left = float(self.one("[role=timer]").text.split("\n")[0].removesuffix("s"))
            time.sleep(4.0)
            now = float(self.one("[role=timer]").text.split("\n")[0].removesuffix("s"))
            self.assertAlmostEqual(left - now, time.monotonic() - began, delta=0.35)
            self.button("Stop").click()
            self.assertLess(self.changed(negative).min(), 250)


if __name__ == "__main__":
    unittest.main()
