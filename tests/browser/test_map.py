"""The printing map on the picture: drawn, changed and taken away by pointer and by keys."""

import json
import time
import unittest
from urllib.request import urlopen

import numpy as np
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from silvrin.core.recipe import Pass
from tests.browser.test_keys import WithKeys
from tests.servers import demo_server


class MapTest(WithKeys):
    def passes(self) -> list[dict]:
        """The passes of the print, as its sheets say."""
        found = []
        for name in self.recipe()["of_frame"]["enlarger"]["passes"]:
            with urlopen(f"{self.address}/api/sheets/{name}") as answer:
                found += json.load(answer)["passes"]
        return [Pass.model_validate(each).model_dump() for each in found]

    def strokes(self, number: int) -> list[dict]:
        """The strokes of a pass's brushes."""
        found = []
        for shape in self.passes()[number]["shapes"]:
            for name in shape.get("strokes", ()):
                with urlopen(f"{self.address}/api/sheets/{name}") as answer:
                    found += json.load(answer)["strokes"]
        return found

    def type_in(self, label: str, text: str) -> None:
        field = self.one(f"input[aria-label='{label}']")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text + Keys.ENTER)

    def test_a_sky_is_burned_and_a_doorway_dodged(self) -> None:
        with demo_server() as address:
            self.address = address
            self.open_print(address, "Dark sky")
            plain = self.pixels().astype(int)
            height = len(plain)
            with urlopen(f"{address}/api/frames?ids=1") as answer:
                frame = json.load(answer)[0]
            self.station("Enlarger")
            self.button("Printing map").click()

            # a card over the sky, by pointer: the upper part gets a stop more, the lower nothing
            self.one("[aria-label='Card']").click()
            canvas = self.one("canvas")
            from_, to = -height // 4, height // 8
            chain = ActionChains(self.page, duration=60)
            chain.move_to_element_with_offset(canvas, 0, from_).click_and_hold()
            chain.move_by_offset(0, (to - from_) // 2).move_by_offset(
                0, to - from_ - (to - from_) // 2
            )
            chain.release().perform()
            self.undone("A burn, card")
            (card,) = self.passes()
            shape = card["shapes"][0]
            self.assertEqual((shape["kind"], card["stops"], shape["how"]), ("card", 0.25, "add"))
            for field, y in (("y", from_), ("to_y", to)):
                wanted = frame["height"] / 2 + y * frame["height"] / height
                self.assertAlmostEqual(shape[field], wanted, delta=frame["height"] / height)
            self.type_in("Stops, stops", "1")
            self.undone("A burn, card: Stops +1.00")
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
            base = self.base()
            self.assertAlmostEqual(float(seconds.removeprefix("+")), base, delta=0.06)

            # a doorway, by keys alone: drawn, timed, moved, softened
            self.press("Dodge")
            self.one("[aria-label='Disc']").send_keys(Keys.ENTER)
            self.wait(lambda: self.focused() == "Picture")
            self.walk(100, 140)
            self.keys(Keys.ENTER)
            self.walk(40, 0)
            self.keys(Keys.ENTER)
            self.undone("B dodge, disc")
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
            self.undone("B dodge, disc: place")
            moved = self.passes()[1]["shapes"][0]
            self.assertAlmostEqual(moved["x"] - disc["x"], -20 * scale, delta=0.5)
            self.assertAlmostEqual(moved["y"], disc["y"], delta=0.01)

            # named, off, undone, kept over a reload, taken away
            self.type_in("Name of the pass", "doorway")
            self.undone("called doorway")
            self.one("input[aria-label='B doorway on']").click()
            self.undone("B doorway off")
            self.wait(lambda: not self.passes()[1]["on"])
            self.button("Undo").click()
            self.wait(lambda: self.passes()[1]["on"])
            kept = self.passes()
            shown = self.rests()
            self.page.refresh()
            self.wait(lambda: self.all("canvas") and self.pixels().shape == shown.shape)
            self.wait(lambda: (self.pixels() == shown).all())
            self.assertEqual(self.passes(), kept)
            self.station("Enlarger")
            self.button("Printing map · 2").click()
            tag = self.one("[aria-label^='B doorway, −']")
            self.page.execute_script("arguments[0].focus()", tag)
            self.keys(Keys.DELETE)
            self.wait(lambda: len(self.passes()) == 1)
            self.undone("B doorway taken away")
            time.sleep(0.2)
            self.assert_quiet()

    def drag(self, *places: tuple[float, float], shift: bool = False) -> None:
        """Presses on parts of the picture, one after the other, and lets go."""
        rect = self.one("main canvas").rect
        if shift:
            ActionChains(self.page).key_down(Keys.SHIFT).perform()
        chain = ActionChains(self.page, duration=30)
        pointer = chain.w3c_actions.pointer_action
        for k, (x, y) in enumerate(places):
            pointer.move_to_location(
                round(rect["x"] + x * rect["width"]), round(rect["y"] + y * rect["height"])
            )
            if k == 0:
                pointer.pointer_down()
        pointer.pointer_up()
        chain.perform()
        if shift:
            ActionChains(self.page).key_up(Keys.SHIFT).perform()

    def test_a_portrait_is_worked_by_strokes_shapes_and_by_hand(self) -> None:
        with demo_server() as address:
            self.address = address
            self.open_print(address, "Window light")
            self.station("Enlarger")
            self.page.find_element("xpath", "//button[starts-with(., 'Printing map')]").click()
            before = len(self.passes())
            base = self.base()
            plain = self.pixels().astype(int)
            high, wide = plain.shape[:2]

            # a face by strokes: D in hand, three strokes, the last taken back
            self.page.execute_script("document.activeElement.blur()")
            self.keys("d")
            self.wait(lambda: self.focused() == "Picture")
            for y in (0.45, 0.5):
                self.drag((0.4, y), (0.45, y), (0.5, y))
                self.wait(lambda: len(self.passes()) == before + 1)
            self.wait(lambda: len(self.strokes(before)) == 2)
            self.drag((0.4, 0.5), (0.42, 0.5), shift=True)
            self.wait(lambda: len(self.strokes(before)) == 3)
            made = self.passes()[before]
            self.assertAlmostEqual(made["stops"], -1 / 6)
            self.assertEqual(
                [s.get("take", False) for s in self.strokes(before)], [False, False, True]
            )
            lighter = self.changed(plain.astype(np.uint8)).astype(int)
            there = (
                slice(int(0.44 * high), int(0.46 * high)),
                slice(int(0.44 * wide), int(0.46 * wide)),
            )
            self.assertGreater(lighter[there].mean(), plain[there].mean() + 3)
            self.button("Undo").click()
            self.wait(lambda: len(self.strokes(before)) == 2)
            self.keys(Keys.ESCAPE)

            # a background by a card of which the sky is kept, in two passes
            self.button("Burn").click()
            for where in (0.2, 0.1):
                self.one("[aria-label='Card']").click()
                self.drag((0.5, where), (0.55, 2 * where), (0.6, 3 * where), shift=True)
                self.wait(
                    lambda: self.one("[aria-label='Card']").get_attribute("aria-pressed") == "false"
                )
                self.button("Keep").click()
                self.one("[aria-label='Sky']").click()
                self.keys(Keys.ESCAPE)
                self.undone("Sky kept of")
            self.wait(lambda: len(self.passes()) == before + 3)
            for card, sky in (each["shapes"] for each in self.passes()[before + 1 :]):
                self.assertEqual((card["kind"], sky["kind"], sky["how"]), ("card", "sky", "keep"))
                self.assertAlmostEqual(card["x"], card["to_x"], delta=0.2)  # Shift kept it level
            first = self.passes()[before + 1]
            self.drag_tag(before + 1, 60)  # down by half a stop
            self.wait(lambda: abs(self.passes()[before + 1]["stops"] - first["stops"] - 0.5) < 0.03)

            # held by hand for two seconds, still
            self.press("By hand")
            self.button("Dodge").click()
            rect = self.one("main canvas").rect
            chain = ActionChains(self.page, duration=0)
            pointer = chain.w3c_actions.pointer_action
            pointer.move_to_location(
                round(rect["x"] + 0.4 * rect["width"]), round(rect["y"] + 0.7 * rect["height"])
            )
            pointer.pointer_down().pause(2.0).pointer_up()
            chain.perform()
            self.undone("held by hand")
            held = self.passes()[before + 3]
            seconds = base * (1 - 2 ** held["stops"])
            self.assertAlmostEqual(seconds, 2.0, delta=0.5)
            (shape,) = held["shapes"]
            self.assertEqual(shape["kind"], "moved")
            self.assertAlmostEqual(shape["path"][-1][2], seconds, delta=0.1)
            self.assertTrue(all(x == y == 0 for x, y, _ in shape["path"]))

            # named, switched off, undone; the timer and the notes say so too; delivered
            self.type_in("Name of the pass", "cheek")
            self.undone("called cheek")
            letter = chr(ord("A") + before + 3)
            self.one(f"input[aria-label='{letter} cheek on']").click()
            self.wait(lambda: not self.passes()[before + 3]["on"])
            self.button("Undo").click()
            self.wait(lambda: self.passes()[before + 3]["on"])
            number = self.page.current_url.rsplit("/", 1)[1]
            with urlopen(f"{address}/api/prints/{number}/notes.svg?base=20") as answer:
                notes = answer.read().decode()
            self.assertIn("cheek", notes)
            self.assertIn("At 20 s", notes)
            self.button("Notes…").click()
            self.wait(
                lambda: self.page.execute_script(
                    "const i = document.querySelector('img[alt^=\"Printing notes\"]');"
                    "return i && i.complete && i.naturalWidth > 0"
                )
            )
            self.button("Close").click()
            self.button("Timer…").click()
            steps = [e.text for e in self.all("section[aria-label=Timer] li")]
            self.assertTrue(any("cheek" in step for step in steps), steps)
            self.button("16 ×").click()
            self.button("Expose").click()
            self.wait(
                lambda: any(
                    "Done: Base" in e.text for e in self.all("section[aria-label=Timer] li")
                )
            )
            self.button("Put it away").click()
            self.button("Deliver").click()
            self.may_deliver().click()
            self.wait(lambda: "finished" in self.one("[role=dialog]").text)
            self.assert_quiet()

    def base(self) -> float:
        said = next(h.text for h in self.all("h2") if "base" in h.text)
        return float(said.split("base ")[1].removesuffix(" s"))

    def drag_tag(self, number: int, by: int) -> None:
        letter = chr(ord("A") + number)
        tag = self.one(f"svg[aria-label='Printing map'] text[aria-label^='{letter} ']")
        chain = ActionChains(self.page, duration=30).click_and_hold(tag)
        chain.move_by_offset(0, by // 2).move_by_offset(0, by - by // 2).release().perform()


if __name__ == "__main__":
    unittest.main()
