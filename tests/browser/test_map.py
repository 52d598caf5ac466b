"""The printing map on the picture: drawn, changed and taken away by pointer and by keys."""

import json
import time
import unittest
from urllib.request import urlopen

import numpy as np
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from silvrin.bench.browser import demo_server
from tests.browser.test_keys import WithKeys


class MapTest(WithKeys):
    def passes(self) -> list[dict]:
        return self.recipe()["of_frame"]["enlarger"]["passes"]

    def type_in(self, label: str, text: str) -> None:
        field = self.one(f"input[aria-label='{label}']")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text + Keys.ENTER)

    def test_a_sky_is_burned_and_a_doorway_dodged(self) -> None:
        with demo_server() as address:
            self.open_print(address, "Dark sky")
            plain = self.pixels().astype(int)
            height = len(plain)
            with urlopen(f"{address}/api/frames?ids=1") as answer:
                frame = json.load(answer)[0]
            self.station("Enlarger")
            self.button("Printing map").click()

            # a card over the sky, by pointer: the upper part gets a stop more, the lower nothing
            self.button("Card").click()
            canvas = self.one("canvas")
            from_, to = -height // 4, height // 8
            chain = ActionChains(self.page, duration=60)
            chain.move_to_element_with_offset(canvas, 0, from_).click_and_hold()
            chain.move_by_offset(0, (to - from_) // 2).move_by_offset(
                0, to - from_ - (to - from_) // 2
            )
            chain.release().perform()
            self.undone("A burned")
            (card,) = self.passes()
            shape = card["shapes"][0]
            self.assertEqual((shape["kind"], card["stops"], shape["how"]), ("card", 0.25, "add"))
            for field, y in (("y", from_), ("to_y", to)):
                wanted = frame["height"] / 2 + y * frame["height"] / height
                self.assertAlmostEqual(shape[field], wanted, delta=frame["height"] / height)
            self.type_in("Stops, stops", "1")
            self.undone("A burn +1.00 stops")
            burned = self.changed(plain.astype(np.uint8)).astype(int)
            self.assertLess(burned[: height // 8].mean(), plain[: height // 8].mean() - 15)
            np.testing.assert_array_equal(burned[height * 3 // 4 :], plain[height * 3 // 4 :])
            # the base exposure alone while U is held
            self.page.execute_script("document.activeElement.blur()")
            ActionChains(self.page).key_down("u").perform()
            self.wait(lambda: (self.pixels() == plain).all())
            ActionChains(self.page).key_up("u").perform()
            self.wait(lambda: (self.pixels() == burned).all())
            seconds = self.one("input[aria-label='Seconds, s']").get_attribute("value")
            # a stop more is as long again as the base exposure
            said = next(h.text for h in self.all("h2") if "base" in h.text)
            base = float(said.split("base ")[1].removesuffix(" s"))
            self.assertAlmostEqual(float(seconds.removeprefix("+")), base, delta=0.06)

            # a doorway, by keys alone: drawn, timed, moved, softened
            self.press("Dodge")
            self.press("Disc")
            self.wait(lambda: self.focused() == "Picture")
            self.walk(100, 140)
            self.keys(Keys.ENTER)
            self.walk(40, 0)
            self.keys(Keys.ENTER)
            self.undone("B dodged")
            disc = self.passes()[1]["shapes"][0]
            scale = frame["width"] / self.one("canvas").rect["width"]
            self.assertAlmostEqual(disc["width"], 40 * scale, delta=1)
            self.assertAlmostEqual(disc["x"], frame["width"] / 2 + 100 * scale, delta=1)
            self.type_in("Seconds, s", f"-{base / 2:.2f}")
            self.wait(lambda: abs(self.passes()[1]["stops"] + 1) < 0.02)
            grip = self.one("[aria-label='B, disc 1: place']")
            self.page.execute_script("arguments[0].focus()", grip)
            ActionChains(self.page).key_down(Keys.SHIFT).send_keys(Keys.ARROW_LEFT).key_up(
                Keys.SHIFT
            ).perform()
            self.undone("area changed")
            moved = self.passes()[1]["shapes"][0]
            self.assertAlmostEqual(moved["x"] - disc["x"], -20 * scale, delta=0.5)
            self.assertAlmostEqual(moved["y"], disc["y"], delta=0.01)

            # named, off, undone, kept over a reload, taken away
            self.type_in("Name of the pass", "doorway")
            self.undone("is called doorway")
            self.one("input[aria-label='doorway on']").click()
            self.undone("doorway off")
            self.wait(lambda: not self.passes()[1]["on"])
            self.button("Undo").click()
            self.wait(lambda: self.passes()[1]["on"])
            kept = self.passes()
            shown = self.pixels()
            self.page.refresh()
            self.wait(lambda: self.all("canvas") and self.pixels().shape == shown.shape)
            self.wait(lambda: (self.pixels() == shown).all())
            self.assertEqual(self.passes(), kept)
            self.station("Enlarger")
            self.button("Printing map · 2").click()
            tag = self.one("[aria-label^='doorway, −']")
            self.page.execute_script("arguments[0].focus()", tag)
            self.keys(Keys.DELETE)
            self.wait(lambda: len(self.passes()) == 1)
            self.undone("doorway taken away")
            time.sleep(0.2)
            self.assert_quiet()


if __name__ == "__main__":
    unittest.main()
