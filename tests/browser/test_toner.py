"""Toning a print: baths in their order, tonal stops, the toned print delivered and read back."""

import io
import unittest

import numpy as np
from PIL import Image
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.test_looks import WithBench

TIME = "[role=slider][aria-label=Time]"


class TonerTest(WithBench):
    def toner(self) -> dict:
        return self.kept()["recipe"]["look"]["toner"]

    def colour(self) -> float:
        """Mean difference of red and blue of the picture, of 255."""
        pixels = self.rests().astype(int)
        return float((pixels[..., 0] - pixels[..., 2]).mean())

    def delivered(self) -> bytes:
        small = {"format": "jpeg", "size": {"by": "long", "value": 400}}
        return self.file_of(self.print_id(), small)

    def test_baths_their_order_stops_and_a_file(self) -> None:
        self.open_print(self.address, "Window light")
        self.assertEqual(self.colour(), 0)
        plain = self.rests()
        self.station("Toner")
        self.button("+ Sepia").click()
        self.wait(lambda: [b["kind"] for b in self.toner()["baths"]] == ["sepia"])
        self.assertGreater(self.colour(), 8)
        # to both ends by keys: none of it is the plain print
        self.one(TIME).send_keys(Keys.HOME)
        self.wait(lambda: self.toner()["baths"][0]["time"] == 0)
        np.testing.assert_array_equal(self.rests(), plain)
        self.one(TIME).send_keys(Keys.END)
        self.wait(lambda: self.toner()["baths"][0]["time"] == 1)
        whole = self.colour()
        field = self.one("input[aria-label='Time, %']")
        field.click()
        field.send_keys("25", Keys.ENTER)
        self.wait(lambda: self.toner()["baths"][0]["time"] == 0.25)
        self.assertLess(self.colour(), whole)
        # selenium after sepia, then before it: another print
        self.button("+ Selenium").click()
        self.wait(lambda: len(self.toner()["baths"]) == 2)
        self.assertIn("selenium finds the silver that is left", self.one("aside").text)
        after = self.rests()
        self.button("Earlier").click()
        self.wait(lambda: self.toner()["baths"][0]["kind"] == "selenium")
        self.assertIn("keeps these shadows", self.one("aside").text)
        before = self.changed(after)
        self.assertGreater(np.abs(before.astype(int) - after).mean(), 0.05)
        # under the pointer stands the colour of the print
        ActionChains(self.page).move_to_element(self.one("main canvas")).perform()
        self.wait(lambda: any(e.text == "L*a*b*" for e in
                              self.all("[aria-label='Under the pointer'] dt")))  # fmt: skip
        # switched off it is grey, and kept
        self.menu("Reset, off ▾", "Switch Toner off")
        self.wait(lambda: self.kept()["recipe"].get("off") == ["toner"])
        np.testing.assert_array_equal(self.rests(), plain)
        self.button("Switch on").click()
        self.wait(lambda: not self.kept()["recipe"].get("off"))
        # delivered as colour
        self.button("Deliver").click()
        self.wait(lambda: "in colour" in self.one("[role=dialog]").text)
        self.key(Keys.ESCAPE)
        with Image.open(io.BytesIO(self.delivered())) as file:
            self.assertEqual(file.mode, "RGB")
            shown = np.asarray(file).astype(int)
        self.assertGreater((shown[..., 0] - shown[..., 2]).mean(), 1)
        # tonal stops take the place of the baths; out of order they cannot be
        self.button("Tonal stops").click()
        self.button("Lay stops").click()
        self.wait(lambda: len(self.toner()["stops"]) == 2)
        self.button("Add a stop").click()
        self.wait(lambda: len(self.toner()["stops"]) == 3)
        self.one("[role=slider][aria-label='Stop 2']").send_keys(Keys.END)
        self.wait(lambda: self.toner()["stops"][1]["place"] == 84)
        self.button("Take stop 2 away").click()
        self.wait(lambda: len(self.toner()["stops"]) == 2)
        self.button("Without").click()
        self.wait(lambda: self.toner()["stops"] == [])
        while self.kept()["undo"]:
            head = self.kept()["head"]
            self.button("Undo").click()
            self.wait(lambda head=head: self.kept()["head"] != head)
        np.testing.assert_array_equal(self.rests(), plain)

    def test_sets_washes_and_colour_let_back(self) -> None:
        self.open_print(self.address, "Window light")
        plain = self.rests()
        self.station("Toner")
        self.button("Toning sets ▾").click()
        self.button("Red chalk").click()
        self.wait(lambda: [b["kind"] for b in self.toner()["baths"]] == ["sepia", "gold"])
        chalk = self.rests()
        # an own one: kept, on the shelf, taken back to, taken off
        self.one("[data-control='toner.baths'] button").click()
        self.one(TIME).send_keys(Keys.HOME)
        self.wait(lambda: self.toner()["baths"][0]["time"] == 0)
        own = self.changed(chalk)
        self.button("Toning sets ▾").click()
        field = self.one("input[aria-label='Name of the own set']")
        field.send_keys("Gold alone", Keys.ENTER)
        self.wait(lambda: [t["name"] for t in self.ask("/shelf")["tonings"] if t["own"]]
                  == ["Gold alone"])  # fmt: skip
        self.button("Red chalk").click()
        self.wait(lambda: self.toner()["baths"][0]["time"] == 0.9)
        np.testing.assert_array_equal(self.rests(), chalk)
        self.button("Toning sets ▾").click()
        self.button("Gold alone").click()
        self.wait(lambda: self.toner()["baths"][0]["time"] == 0)
        np.testing.assert_array_equal(self.rests(), own)
        self.button("Toning sets ▾").click()
        self.button("Take Gold alone off the shelf").click()
        self.wait(lambda: not any(t["own"] for t in self.ask("/shelf")["tonings"]))
        self.key(Keys.ESCAPE)
        self.menu("Reset, off ▾", "Reset Toner")
        self.wait(lambda: self.toner()["baths"] == [])
        np.testing.assert_array_equal(self.rests(), plain)
        # a wash to both ends by keys, and its hue
        self.button("Wash, colour").click()
        self.one("[role=slider][aria-label='Over shadows']").send_keys(Keys.END)
        self.wait(lambda: self.toner()["shadow_wash"] == 1)
        self.assertLess(self.colour(), -8)
        self.one("[role=slider][aria-label='Blue']").send_keys(Keys.HOME)
        self.wait(lambda: self.toner()["shadow_hue"] == 0)
        self.assertGreater(self.colour(), 3)
        self.one("[role=slider][aria-label='Over shadows']").send_keys(Keys.HOME)
        self.wait(lambda: self.toner()["shadow_wash"] == 0)
        np.testing.assert_array_equal(self.rests(), plain)
        # the capture's colour by hue: the clay is orange, nothing is green
        self.button("Let orange back").click()
        self.wait(lambda: [b["centre"] for b in self.toner()["colour_bands"]] == [45])
        self.assertGreater(self.colour(), 4)
        self.button("Take away").click()
        self.wait(lambda: self.toner()["colour_bands"] == [])
        np.testing.assert_array_equal(self.rests(), plain)
        # a colour is typed; what is none is refused in words and changes nothing
        self.button("Tonal stops").click()
        self.button("Lay stops").click()
        self.wait(lambda: len(self.toner()["stops"]) == 2)
        hexes = "input[aria-label='Colour of stop 2, hexadecimal']"
        for text, kept in (("#45", "#fff4e6"), ("451F01", "#451f01")):
            self.one(hexes).send_keys(Keys.CONTROL + "a")
            self.one(hexes).send_keys(text, Keys.ENTER)
            if kept == "#fff4e6":
                self.wait(lambda: "six hexadecimal digits" in self.one("aside").text)
            self.wait(lambda kept=kept: self.toner()["stops"][1]["colour"] == kept)
        # a stop is dragged on the wedge
        wedge = self.one("[aria-label*='scale with its stops']")
        step = wedge.size["width"] / 100
        handle = self.one("[data-stop='2']")
        ActionChains(self.page).drag_and_drop_by_offset(handle, round(-25 * step), 0).perform()
        self.wait(lambda: abs(self.toner()["stops"][1]["place"] - 60) <= 1)


if __name__ == "__main__":
    unittest.main()
