"""What is done on the picture, by keys alone and to exact values."""

import json
import time
import unittest
from urllib.request import urlopen

import numpy as np
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.test_journey import Journey
from tests.servers import demo_server

ARROWS = {
    (1, 0): Keys.ARROW_RIGHT, (-1, 0): Keys.ARROW_LEFT,
    (0, 1): Keys.ARROW_DOWN, (0, -1): Keys.ARROW_UP,
}  # fmt: skip
STEP = 2  # CSS px an arrow key moves the pen; with Shift ten times as far


class WithKeys(Journey):
    """What is done by keys, and what is kept of it."""

    def open_print(self, address: str, name: str) -> None:
        super().open_print(address, name)
        self.address = address
        self.wait(lambda: self.all("canvas") and self.pixels().shape[1] > 300)
        time.sleep(0.5)

    def recipe(self) -> dict:
        number = self.page.current_url.rsplit("/", 1)[1]
        with urlopen(f"{self.address}/api/prints/{number}") as answer:
            return json.load(answer)["recipe"]

    def keys(self, *keys: str) -> None:
        ActionChains(self.page).send_keys(*keys).perform()

    def press(self, text: str) -> None:
        self.button(text).send_keys(Keys.ENTER)

    def walk(self, x: int, y: int) -> None:
        """Moves the pen by so many CSS px, a multiple of 20 each way."""
        chain = ActionChains(self.page).key_down(Keys.SHIFT)
        for way, far in (((np.sign(x), 0), abs(x)), ((0, np.sign(y)), abs(y))):
            chain.send_keys(ARROWS[way] * (far // (10 * STEP)) if far else "")
        chain.key_up(Keys.SHIFT).perform()

    def place(self, x: float, y: float, frame: tuple[int, int]) -> tuple[float, float]:
        """Where a place beside the middle, in CSS px, lies on a picture of that size."""
        shown = self.one("canvas").rect
        scale = frame[0] / shown["width"]
        return frame[0] / 2 + x * scale, frame[1] / 2 + y * scale

    def focused(self) -> str:
        return self.page.switch_to.active_element.accessible_name

    def undone(self, says: str) -> None:
        self.wait(lambda: says in (self.button("Undo").get_attribute("title") or ""))


class KeysTest(WithKeys):
    def test_metering_neutral_lines_and_mends(self) -> None:
        with demo_server() as address:
            self.open_print(address, "Dark sky")
            with urlopen(f"{address}/api/frames?ids=1") as answer:
                frame = json.load(answer)[0]
            size = frame["width"], frame["height"]

            # the meter: two spots, at exact places; the second by single steps
            self.keys("m")
            self.wait(lambda: self.focused() == "Picture")
            places = [self.place(-200, 160, size)]
            self.walk(-200, 160)
            self.keys(Keys.ENTER)
            self.undone("Spot A metered")
            time.sleep(0.5)  # the row of tags has come: the picture is smaller
            (x, y), (more_x, more_y) = places[0], self.place(66, -240, size)
            places.append((x + more_x - size[0] / 2, y + more_y - size[1] / 2))
            self.walk(60, -240)
            self.keys(Keys.ARROW_RIGHT * 3, Keys.ENTER)
            self.undone("Spot B metered")
            spots = self.recipe()["of_frame"]["film"]["spots"]
            for spot, wanted in zip(spots, places, strict=True):
                np.testing.assert_allclose((spot["x"], spot["y"]), wanted, atol=1.5)
            self.keys("2")  # the chosen spot
            self.undone("II")
            self.keys(Keys.ESCAPE)

            # a neutral, over an area; the focus goes back to where the tool was taken
            self.station("Capture")
            self.press("Pick a neutral")
            self.wait(lambda: self.focused() == "Picture")
            self.walk(40, 100)
            self.keys(Keys.ENTER)
            self.walk(20, 0)
            self.keys(Keys.ENTER)
            self.undone("Neutral picked")
            self.assertIsNotNone(self.recipe()["of_frame"]["capture"]["balance"])
            self.wait(lambda: self.focused() == "Pick another neutral")

            # given up: nothing is changed
            before = self.recipe()
            self.press("Pick another neutral")
            self.keys(Keys.ENTER, Keys.ARROW_RIGHT, Keys.ESCAPE)
            self.assertEqual(self.focused(), "Picture")
            self.keys(Keys.ESCAPE)
            self.wait(lambda: self.focused() == "Pick another neutral")
            self.assertEqual(self.recipe(), before)

            # a line a tenth as high as it is long stands level
            self.press("Frame")
            self.press("Draw one line")
            self.walk(-100, 0)
            self.keys(Keys.ENTER)
            self.walk(200, 20)
            self.keys(Keys.ENTER)
            self.undone("Straightened")
            turned = self.recipe()["of_frame"]["capture"]["straighten"]
            self.assertAlmostEqual(turned, np.degrees(np.arctan(0.1)), delta=0.06)
            self.press("Undo")

            # a mend, another source for it, and it is taken away
            self.press("Spotting")
            self.page.execute_script("document.querySelector('main').focus()")
            self.walk(-100, -60)
            self.keys(Keys.ENTER, Keys.ENTER)
            self.undone("Spot mended")
            mend = self.wait(lambda: self.one("[aria-label='Mend 1']"))
            self.page.execute_script("arguments[0].focus()", mend)
            self.keys(Keys.ARROW_DOWN * 5, Keys.ENTER)
            self.undone("Another source")
            self.page.execute_script("arguments[0].focus()", self.one("[aria-label='Mend 1']"))
            self.keys(Keys.DELETE)
            self.wait(lambda: not self.recipe()["of_frame"]["capture"]["mends"])
            self.assert_quiet()

    def test_looking_about_patches_and_zones(self) -> None:
        with demo_server() as address:
            self.open_print(address, "Dark sky")
            fitted = self.pixels()
            # zoomed and moved about, and back
            self.page.execute_script("document.querySelector('main').focus()")
            self.keys(Keys.ENTER)
            full = self.changed(fitted)
            self.keys(Keys.ARROW_RIGHT)
            moved = self.changed(full)
            by = round(40 * self.page.execute_script("return devicePixelRatio"))
            np.testing.assert_array_equal(moved[:, :-by], full[:, by:])
            self.keys("-")
            self.wait(lambda: self.pixels().shape == fitted.shape)
            self.wait(lambda: (self.pixels() == fitted).all())

            # zones of the negative stand while they are held; Shift takes in the next ones
            self.button("Negative").send_keys(Keys.ENTER)
            zone = self.all("[aria-label=Zones] [role=option]")[5]
            zone.send_keys(Keys.ENTER)
            one = self.changed(fitted)
            same = (one == fitted).all(axis=2).mean()
            share = float(zone.accessible_name.split(": ")[1].removesuffix(" %")) / 100
            self.assertAlmostEqual(same, share, delta=0.06)
            ActionChains(self.page).key_down(Keys.SHIFT).send_keys(Keys.ARROW_RIGHT).key_up(
                Keys.SHIFT
            ).perform()
            two = self.changed(one)
            self.assertGreater((two == fitted).all(axis=2).mean(), same + 0.05)
            chosen = self.all("[aria-label=Zones] [aria-selected=true]")
            self.assertEqual(len(chosen), 2)
            self.keys(Keys.ESCAPE)
            self.wait(lambda: (self.pixels() == fitted).all())

            # a patch for the test strip, and free seconds between strips
            self.station("Enlarger")
            self.press("Lay a test strip")
            laid = self.changed(fitted)
            self.press("in s")
            laid = self.changed(laid)
            self.press("One patch")
            self.wait(lambda: (self.pixels() == fitted).all())
            self.walk(-120, -80)
            self.keys(Keys.ENTER)
            patches = self.changed(fitted)
            strips = self.all("[aria-label='Test strip'] button")
            self.assertEqual([s.text for s in strips], [f"{2 * k:.1f} s" for k in range(1, 8)])
            # three in a row, each darker than the one before; two places are bare paper
            height, width = patches.shape[0] // 3, patches.shape[1] // 3
            cells = [
                patches[r * height : (r + 1) * height, c * width : (c + 1) * width].mean()
                for r in range(3)
                for c in range(3)
            ]
            self.assertEqual(cells[:7], sorted(cells[:7], reverse=True))
            self.assertEqual(cells[7:], [255.0, 255.0])
            typed = self.one("input[aria-label='Seconds, s']")
            typed.send_keys(Keys.CONTROL, "a")
            typed.send_keys("3,5" + Keys.ENTER)
            self.wait(lambda: self.all("[aria-label='Test strip'] button")[6].text == "24.5 s")
            self.all("[aria-label='Test strip'] button")[2].send_keys(Keys.ENTER)
            self.undone("10.5 s from the test strip")
            self.assertEqual(self.recipe()["look"]["enlarger"]["time"], 10.5)
            self.assert_quiet()


if __name__ == "__main__":
    unittest.main()
