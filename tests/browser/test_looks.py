"""A strong print within a minute: starting prints and their strength, several prints, history and
proofs, comparing, recipes; by pointer and by keys."""

import json
import re
import unittest
from urllib.request import Request, urlopen

import numpy as np
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.test_journey import Journey
from tests.servers import demo_server

STRIP = "[aria-label='Starting prints'] [role=option]"
PRINTS = "the menu of prints"
WIPE = "[aria-label='Wipe line']"


class WithBench(Journey):
    def setUp(self) -> None:
        super().setUp()
        self.address = self.enterContext(demo_server())

    def ask(self, path: str):
        with urlopen(f"{self.address}/api{path}") as answer:
            return json.load(answer)

    def file_of(self, print_id: int, output: dict) -> bytes:
        """A print delivered as an output."""
        order = json.dumps({"prints": [print_id], "outputs": [output]}).encode()
        headers = {"content-type": "application/json"}
        wanted = Request(f"{self.address}/api/deliveries", order, headers, method="POST")
        job = json.load(urlopen(wanted))[0]["id"]
        self.wait(lambda: self.ask(f"/deliveries/{job}")["state"] == "done", 60)
        return urlopen(f"{self.address}/api/deliveries/{job}/file").read()

    def key(self, *keys: str) -> None:
        ActionChains(self.page).send_keys(*keys).perform()

    def print_id(self) -> int:
        return int(self.page.current_url.rsplit("/", 1)[1])

    def kept(self) -> dict:
        return self.ask(f"/prints/{self.print_id()}")

    def menu(self, opens: str, *texts: str) -> None:
        if opens == PRINTS:
            self.one("button[title*='the prints of this frame']").click()
        else:
            self.button(opens).click()
        for text in texts:
            self.button(text).click()


class LooksTest(WithBench):
    def test_starting_prints_are_tried_taken_and_mixed(self) -> None:
        self.open_print(self.address, "Window light")
        before, was = self.rests(), self.kept()
        self.key("l")
        self.wait(lambda: len(self.all(f"{STRIP} img")) == 24, 60)
        large = self.rests()  # the room for it is another one
        # pointing at one shows it large, leaving restores; nothing is kept
        at = next(o for o in self.all(STRIP) if o.text.startswith("Pale"))
        ActionChains(self.page).move_to_element(at).perform()
        pale = self.changed(large)
        self.assertGreater(pale.mean(), large.mean() + 20)
        ActionChains(self.page).move_to_element(self.one("canvas")).perform()
        np.testing.assert_array_equal(self.rests(), large)
        self.assertEqual(self.kept(), was)
        # by keys: walking shows it too, Enter takes it
        self.page.execute_script("arguments[0].focus()", self.all(STRIP)[0])
        self.key(Keys.END)
        self.wait(lambda: self.page.switch_to.active_element == self.all(STRIP)[-1])
        place = [o.text.startswith("Pale") for o in self.all(STRIP)].index(True)
        self.key(Keys.HOME, *[Keys.ARROW_RIGHT] * place)
        np.testing.assert_array_equal(self.rests(), pale)
        self.key(Keys.ENTER)
        self.wait(lambda: self.kept()["recipe"].get("mixture", {}).get("name") == "Pale")
        taken = self.kept()
        self.assertEqual(taken["recipe"]["mixture"]["strength"], 1.0)
        self.assertTrue(taken["label"].startswith("Pale: shadow on"))
        self.key(Keys.ESCAPE)
        self.assertEqual(self.all(STRIP), [])
        full = self.rests()
        self.assertGreater(full.mean(), before.mean() + 20)
        # strength: at 0 % exactly the print before, at 100 % the starting print, both by keys
        thumb = self.one("[role=slider][aria-label=Strength]")
        thumb.send_keys(Keys.HOME)
        self.wait(lambda: self.kept()["recipe"]["mixture"]["strength"] == 0.0)
        np.testing.assert_array_equal(self.rests(), before)
        thumb.send_keys(Keys.DELETE)
        self.wait(lambda: self.kept()["recipe"]["mixture"]["strength"] == 1.0)
        np.testing.assert_array_equal(self.rests(), full)
        field = self.one("input[aria-label='Strength, %']")
        field.click()
        field.send_keys("50", Keys.ENTER)
        self.wait(lambda: self.kept()["recipe"]["mixture"]["strength"] == 0.5)
        half = self.rests().astype(float)
        np.testing.assert_allclose(half, (before.astype(float) + full) / 2, atol=0.5001)
        # what is set by hand holds for both
        self.station("Paper")
        self.one("[role=slider][aria-label=Grade]").send_keys(Keys.END)
        self.wait(lambda: self.kept()["recipe"]["look"]["paper"]["grade"] == 5.0)
        self.assertEqual(self.kept()["recipe"]["mixture"]["before"]["paper"]["grade"], 5.0)
        # undone to the print as it was, also after a reload
        for _ in range(5):
            head = self.kept()["head"]
            self.button("Undo").click()
            self.wait(lambda head=head: self.kept()["head"] != head)
        self.assertEqual(self.kept()["recipe"], was["recipe"])
        self.page.refresh()
        self.wait(lambda: self.all("canvas"))
        np.testing.assert_array_equal(self.rests(), before)

    def test_groups_and_words_find_starting_prints(self) -> None:
        self.open_print(self.address, "Window light")
        self.one("canvas")
        self.button("Starting printsL").click()
        self.wait(lambda: len(self.all(STRIP)) == 24)
        self.one("[aria-label='Find a starting print']").send_keys("sky")
        names = [o.text for o in self.wait(lambda: len(self.all(STRIP)) < 24 and self.all(STRIP))]
        self.assertIn("Black sky", names)
        self.assertNotIn("Pale", names)
        self.one("[aria-label='Find a starting print']").send_keys(" nowhere")
        self.wait(lambda: not self.all(STRIP))
        self.assertIn("No starting print", self.one("[role=listbox]").text)
        field = self.one("[aria-label='Find a starting print']")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(Keys.DELETE)
        select = self.one("[aria-label=Group]")
        select.send_keys("Old")
        self.wait(lambda: len(self.all(f"{STRIP} img")) == 2)
        # all of these in a ring-around: Esc leaves that alone, Enter takes one
        cells = "[aria-label=Ring-around] [role=option]"
        self.wait(lambda: self.button("All").is_enabled(), 60)
        self.button("All").click()
        self.wait(lambda: len(self.all(f"{cells} img")) == 2)
        self.key(Keys.ESCAPE)
        self.wait(lambda: not self.all(cells))
        self.assertEqual(len(self.all(STRIP)), 2)
        self.button("All").click()
        self.wait(lambda: len(self.all(cells)) == 2)
        self.key(Keys.ARROW_RIGHT, Keys.ENTER)
        self.wait(lambda: self.kept()["label"].startswith("Orthochromatic: "))
        self.assertEqual(self.kept()["recipe"]["mixture"]["name"], "Orthochromatic")
        # keys that are typed do nothing else, Esc from the strip leaves it
        self.all(STRIP)[0].send_keys(Keys.ESCAPE)
        self.wait(lambda: self.one("[aria-label='Light station']"))

    def test_a_station_and_its_parts_are_switched_off_and_on(self) -> None:
        self.open_print(self.address, "Dark sky")
        shown, was = self.rests(), self.kept()["recipe"]
        self.menu("Reset, off ▾", "Switch Light off")
        off = self.changed(shown)
        self.wait(lambda: self.kept()["recipe"].get("off") == ["light"])
        self.assertEqual(self.kept()["recipe"]["look"], was["look"])
        tabs = {t.text.split("\n")[0] for t in self.all("[role=tab]")}
        self.assertIn("Light off", tabs)
        self.page.refresh()
        np.testing.assert_array_equal(self.rests(), off)
        self.button("Switch on").click()
        np.testing.assert_array_equal(self.changed(off), shown)
        # a starting print's 0 % is the print as it was, without what was off of it
        self.menu("Reset, off ▾", "Switch Light off")
        np.testing.assert_array_equal(self.changed(shown), off)
        self.key("l")
        self.wait(lambda: len(self.all(f"{STRIP} img")) >= 2, 60)
        self.all(STRIP)[1].click()
        self.wait(lambda: self.kept()["recipe"].get("mixture"))
        self.key(Keys.ESCAPE)
        self.one("[role=slider][aria-label=Strength]").send_keys(Keys.HOME)
        self.wait(lambda: self.kept()["recipe"]["mixture"]["strength"] == 0.0)
        np.testing.assert_array_equal(self.rests(), off)
        for _ in range(3):
            head = self.kept()["head"]
            self.button("Undo").click()
            self.wait(lambda head=head: self.kept()["head"] != head)
        # the part whose controls are out; touching it switches it on again
        self.menu("Reset, off ▾", "Switch Light, filters off")
        self.wait(lambda: self.kept()["recipe"].get("off") == ["light.glass"])
        self.one("[role=slider][aria-label=Temperature]").send_keys(Keys.ARROW_RIGHT)
        self.wait(lambda: "off" not in self.kept()["recipe"])
        self.menu("Reset, off ▾", "Reset Light, filters")
        self.wait(lambda: self.kept()["recipe"]["look"]["light"]["lens_filter"] == "none")

    def test_two_spots_are_kept_apart(self) -> None:
        self.open_print(self.address, "Dark sky")
        self.rests()
        self.key("m")
        canvas = self.one("main canvas")
        for dx, dy in ((100, -60), (190, -200)):  # brick and sky
            ActionChains(self.page).move_to_element_with_offset(canvas, dx, dy).click().perform()
            self.rests()
        self.button("Keep A and B apart…").click()
        prints = self.wait(lambda: self.all("[aria-label=Ring-around] [role=option]"))
        labels = [each.get_attribute("aria-label") for each in prints]
        zones = [abs(float(re.search(r"([+−][\d.]+) ± \d", each)[1].replace("−", "-")))
                 for each in labels]  # fmt: skip
        self.assertEqual(zones, sorted(zones, reverse=True))
        # brick over sky behind infrared glass, sky over brick for a film that sees only blue
        self.assertTrue(labels[0].startswith("Juniper 200, No. 87C, −"))
        self.key(Keys.ARROW_RIGHT, Keys.ENTER)
        self.wait(lambda: self.kept()["label"] == "Ring-around: Sloe 10, no filter")
        look = self.kept()["recipe"]["look"]
        self.assertEqual((look["film"]["stock"], look["light"]["lens_filter"]), ("sloe-10", "none"))

    def test_prints_history_proofs_and_comparing(self) -> None:
        self.open_print(self.address, "Window light")
        first, shown = self.print_id(), self.rests()
        frame = self.kept()["frame_id"]
        # a proof of the state as it is, then a change
        self.key("y")
        self.button("Keep this state as a proof…").click()
        self.one("[aria-label='Name of the proof']").send_keys("Soft", Keys.ENTER)
        self.wait(lambda: self.ask(f"/prints/{first}/history")[-1]["proof"] == "Soft")
        self.key(Keys.ESCAPE)
        self.station("Paper")
        self.one("[role=slider][aria-label=Grade]").send_keys(Keys.END)
        self.wait(lambda: self.kept()["recipe"]["look"]["paper"]["grade"] == 5.0)
        hard = self.changed(shown)
        # held, the plain print is seen; let go, the print again
        self.page.execute_script("document.activeElement.blur()")
        ActionChains(self.page).key_down("k").perform()
        plain = self.changed(hard)
        ActionChains(self.page).key_up("k").perform()
        np.testing.assert_array_equal(self.changed(plain), hard)
        # the proof beside it behind a line, which keys move and turn
        self.menu("CompareW", "Soft · proof")
        self.key(Keys.ESCAPE)
        line = self.one(WIPE)
        other = self.one("canvas[aria-label='Compared: Soft']")
        self.wait(lambda: other.get_property("width") == hard.shape[1])
        line.send_keys(Keys.ARROW_RIGHT * 3, Keys.ARROW_DOWN * 2)
        self.assertEqual(line.get_attribute("aria-valuetext"), "53 % across, 50 % down, turned 10°")
        line.send_keys(Keys.SHIFT, Keys.ARROW_LEFT)
        self.assertIn("43 % across", line.get_attribute("aria-valuetext"))
        line.send_keys(Keys.HOME)
        box = self.one("canvas[aria-label^='Window light'], canvas[aria-label^='Terracotta']").rect
        ActionChains(self.page).drag_and_drop_by_offset(line, round(box["width"] / 4), 0).perform()
        self.assertEqual(line.get_attribute("aria-valuenow"), "75")
        # no request to the server moves it, and what it shows is the proof, pixel by pixel
        found = self.page.execute_script(
            "const c = arguments[0]; const d = c.getContext('2d')"
            ".getImageData(0, 0, c.width, c.height).data;"
            "return [c.width, c.height, d[0], d[4 * (c.width * 40 + 50)]]", other,
        )  # fmt: skip
        self.assertEqual(found, [shown.shape[1], shown.shape[0],
                                 int(shown[0, 0, 0]), int(shown[40, 50, 0])])  # fmt: skip
        self.assertIn("black", self.one("main").text)
        self.menu("Compare: wipeW", "Two by two")
        self.wait(lambda: len(self.all("section[aria-label^='Beside']")) == 3)
        self.key(Keys.ESCAPE)
        self.wait(lambda: not self.all("section[aria-label^='Beside']"))
        # back to the proof by the history; the state after it stays
        hard_head = self.kept()["head"]
        self.key("y")
        self.button("Proofs").click()
        self.wait(lambda: len(self.all("[aria-label=History] li")) == 1)
        self.one("[aria-label=History] li button").click()
        self.wait(lambda: self.kept()["recipe"]["look"]["paper"]["grade"] != 5.0)
        self.assertEqual(self.ask(f"/prints/{first}/history")[-1]["id"], hard_head)
        self.key(Keys.ESCAPE)
        np.testing.assert_array_equal(self.rests(), shown)
        # a copy is a print of its own; N goes round; the sheet shows the one that is chosen
        self.menu(PRINTS, "Copy of this one")
        self.wait(lambda: self.print_id() != first)
        second = self.print_id()
        self.wait(lambda: self.all("canvas"))
        self.assertEqual(self.kept()["recipe"], self.ask(f"/prints/{first}")["recipe"])
        self.wait(lambda: self.page.execute_script("return document.title") is not None)
        self.rests()
        self.key("n")
        self.wait(lambda: self.print_id() == first)
        self.assertEqual(self.ask(f"/frames/{frame}")["chosen"], second)
        self.rests()
        self.menu(PRINTS, "show on sheet")
        self.wait(lambda: self.ask(f"/frames/{frame}")["chosen"] == first)
        self.button("Put Print 2 in the bin").click()
        self.wait(lambda: len(self.ask(f"/frames/{frame}")["prints"]) == 1)
        self.button("Put Print 2 back").click()
        self.wait(lambda: len(self.ask(f"/frames/{frame}")["prints"]) == 2)

    def test_a_recipe_is_kept_and_put_on_a_roll_and_taken_back(self) -> None:
        self.open_print(self.address, "Dark sky")
        self.rests()
        source, source_id = self.kept()["recipe"]["look"], self.print_id()
        self.menu("Recipes…", "Keep this print’s…")
        name = self.wait(lambda: self.all("[role=dialog] input"))[0]
        name.send_keys("Sky")
        self.button("Keep it").click()
        self.wait(lambda: [r["name"] for r in self.ask("/recipes")] == ["Sky"])
        held = self.ask("/recipes")[0]["holds"]
        self.assertNotIn("time", held.get("enlarger", {}))
        # the same name again is refused in words, and nothing is lost
        self.menu("Recipes…", "Keep this print’s…")
        self.wait(lambda: self.all("[role=dialog] input"))[0].send_keys("sky")
        self.button("Keep it").click()
        self.wait(lambda: "already" in self.one("[role=dialog] [role=alert]").text)
        self.key(Keys.ESCAPE)

        roll = self.ask("/rolls")[1]["id"]
        frames = self.ask(f"/rolls/{roll}/frames")
        before = {f["id"]: [p["head"] for p in f["prints"]] for f in frames}
        self.page.get(f"{self.address}/roll/{roll}")
        card = self.wait(lambda: self.all("button[data-frame]"))[0]
        card.click()
        ActionChains(self.page).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
        self.button("Recipe…").click()
        select = self.one("[role=dialog] select")
        self.wait(lambda: "Sky" in select.text)
        select.send_keys("Sky")
        self.button(f"Put on {len(frames)} frames").click()
        self.wait(lambda: self.all("[role=dialog] [role=status]"))
        self.button("Take all back")
        now = self.ask(f"/rolls/{roll}/frames")
        for frame in now:
            self.assertTrue(frame["prints"])
            made = self.ask(f"/prints/{frame['chosen']}")
            if made["id"] != source_id:
                self.assertEqual(made["label"], "Recipe: Sky")
            self.assertEqual(made["recipe"]["look"]["light"], source["light"])
        self.button("Take all back").click()
        self.wait(lambda: "taken back" in self.one("[role=dialog] [role=status]").text)
        after = {
            f["id"]: [p["head"] for p in f["prints"]] for f in self.ask(f"/rolls/{roll}/frames")
        }
        self.assertEqual(after, before)


if __name__ == "__main__":
    unittest.main()
