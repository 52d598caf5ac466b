"""A print toned, mounted, signed, delivered and read back."""

import io
import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.test_looks import WithBench


class MountTest(WithBench):
    def mount(self) -> dict:
        return self.kept()["recipe"]["look"]["mount"]

    def slider(self, label: str):
        return self.one(f"[role=slider][aria-label='{label}']")

    def choice(self, text: str) -> None:
        find = f"//button[@role='radio'][.='{text}']"
        self.wait(lambda: self.page.find_elements(By.XPATH, find))[0].click()

    def tall(self, selector: str) -> float:
        """Height of an element as it is seen, CSS pixels."""
        seen = "return document.querySelector(arguments[0]).getBoundingClientRect().height"
        return float(self.page.execute_script(seen, selector))

    def delivered(self, **output: object) -> Image.Image:
        return Image.open(io.BytesIO(self.file_of(self.print_id(), output)))

    def test_toned_mounted_signed_delivered_and_read_back(self) -> None:
        self.open_print(self.address, "Window light")
        plain = self.rests()
        self.station("Toner")
        self.button("Toning sets ▾").click()
        self.button("Walnut").click()
        self.station("Mount")
        bare = self.rests()  # nothing about it yet: the picture
        self.assertEqual(bare.shape, plain.shape)
        # border, key line, edge; every slider to both ends by keys
        self.button("Easel, ¼ inch").click()
        self.wait(lambda: self.mount()["border_left"] == self.mount()["border_bottom"] == 6.35)
        framed = self.rests()
        self.assertTrue((framed[2, 2] == 255).all())
        self.slider("All sides").send_keys(Keys.HOME)
        self.wait(lambda: self.mount()["border_top"] == 0)
        np.testing.assert_array_equal(self.rests(), bare)
        # no border is wider than the print, whose size is a round one at every press of a key
        for key, size in (
            (Keys.ARROW_RIGHT, 305), (Keys.PAGE_UP, 355), (Keys.HOME, 20), (Keys.ARROW_UP, 21),
            (Keys.END, 3000), (Keys.ARROW_LEFT, 2990), (Keys.DELETE, 300),
        ):  # fmt: skip
            self.slider("Long side").send_keys(key)
            self.wait(lambda size=size: self.mount()["size"] == size)
        self.slider("All sides").send_keys(Keys.END)
        self.wait(lambda: self.mount()["border_top"] == self.mount()["border_right"] == 300)
        self.slider("Long side").send_keys(Keys.HOME, Keys.ARROW_RIGHT)
        self.wait(lambda: self.mount()["size"] == 305)
        self.slider("Long side").send_keys(Keys.DELETE)
        self.wait(lambda: self.mount()["size"] == 300)
        self.button("Easel, ¼ inch").click()
        self.wait(lambda: self.mount()["border_left"] == 6.35)
        self.choice("filed carrier")
        self.wait(lambda: self.mount()["edge"] == "filed")
        filed = self.rests()
        self.button("Another edge").click()
        self.changed(filed)
        self.choice("clean")
        # a mat, weighted below
        self.button("Mat").click()
        self.choice("weighted")
        self.wait(lambda: self.mount()["mat"] == "weighted")
        self.slider("Sides, top").send_keys(Keys.HOME)
        self.wait(lambda: self.mount()["mat_sides"] == 0)
        field = self.one("input[aria-label='Sides, top, mm']")
        field.click()
        field.send_keys("60", Keys.ENTER)
        self.wait(lambda: self.mount()["mat_sides"] == 60)
        self.button("Board: stone").click()
        self.wait(lambda: self.mount()["board"] == "#dedad0")
        self.assertEqual(tuple(self.rests()[4, 4]), (0xDE, 0xDA, 0xD0))
        # 300 + 2 border + 2 bevel + mats: 437 mm high with 75 below; 335.7 wide
        self.assertIn("Outside 336 × 451 mm", self.one("aside").text)
        # signed: typed, drawn, from a file, numbered
        self.button("Signature").click()
        self.button("+ Typed").click()
        self.wait(lambda: len(self.mount()["inscriptions"]) == 1)
        text = self.one("input[aria-label='Text of the inscription']")
        text.send_keys(Keys.CONTROL + "a")
        text.send_keys("Marta Åkerlund", Keys.ENTER)
        self.wait(lambda: self.mount()["inscriptions"][0]["text"] == "Marta Åkerlund")
        unsigned = self.rests()
        self.choice("mat")
        self.wait(lambda: self.mount()["inscriptions"][0]["on"] == "mat")
        self.changed(unsigned)
        self.button("+ Drawn").click()
        pad = self.one("[aria-label='Draw the signature here']")
        ActionChains(self.page).move_to_element_with_offset(
            pad, -80, 0
        ).click_and_hold().move_by_offset(60, -20).move_by_offset(60, 30).release().perform()
        self.button("Use it").click()
        self.wait(lambda: len(self.mount()["inscriptions"]) == 2)
        self.assertEqual(self.mount()["inscriptions"][1]["what"], "ink")
        image = Image.new("RGBA", (300, 100), (0, 0, 0, 0))
        ImageDraw.Draw(image).line((10, 90, 290, 10), fill=(0, 0, 0, 255), width=8)
        with tempfile.TemporaryDirectory() as folder:
            good, bad = Path(folder) / "sign.png", Path(folder) / "bad.png"
            image.save(good)
            bad.write_bytes(b"no picture")
            picker = "input[aria-label='Picture of a signature']"
            self.all(picker)[0].send_keys(str(bad))
            self.wait(lambda: "no PNG that can be read" in self.page.page_source)
            self.all(picker)[0].send_keys(str(good))
            self.wait(lambda: len(self.mount()["inscriptions"]) == 3)
        self.button("+ Edition").click()
        self.wait(lambda: len(self.mount()["inscriptions"]) == 4)
        self.assertIn("no more fit", self.one("aside").text)
        for title, value in (("Number", "3"), ("of", "12")):
            find = f"//label[normalize-space()='{title}']/input"
            box = self.page.find_element(By.XPATH, find)
            box.send_keys(Keys.CONTROL + "a")
            box.send_keys(value)
        of_frame = lambda: self.kept()["recipe"]["of_frame"]["mount"]  # noqa: E731
        self.wait(lambda: (of_frame()["edition_number"], of_frame()["edition_of"]) == (3, 12))
        # sharpened, its edges shown while held
        self.button("Sharpness").click()
        self.slider("Amount").send_keys(Keys.END)
        self.wait(lambda: self.mount()["sharpen"] == 3)
        signed = self.rests()
        hold = self.page.find_element(By.XPATH, "//p[starts-with(., 'Edges')]/button")
        ActionChains(self.page).click_and_hold(hold).perform()
        edges = self.changed(signed)
        np.testing.assert_array_equal(edges[4, 4], signed[4, 4])  # about the picture nothing
        ActionChains(self.page).release().perform()
        np.testing.assert_array_equal(self.changed(edges), signed)
        # as a proof it hangs on a wall, near and from across the room, in other light
        self.key("v")
        wall = self.one("[aria-label='Wall and light']")
        self.assertIn("33.6 cm wide", self.one("[aria-label^='Rule']").get_attribute("aria-label"))
        proofed = self.rests()
        self.assertEqual(tuple(proofed[4, 4]), (0xDE, 0xDA, 0xD0))  # a board is as it is
        self.assertGreater(proofed.min(), signed.min())  # the paper's black, not the screen's
        ground = "return getComputedStyle(document.querySelector('main')).backgroundColor"
        light = self.page.execute_script(ground)
        wall.find_element(By.CSS_SELECTOR, "[role=slider]").send_keys(Keys.HOME)
        self.wait(lambda: self.page.execute_script(ground) != light)
        self.assertEqual(self.page.execute_script(ground), "rgb(48, 48, 48)")  # L* 20
        near = self.tall("main canvas")
        self.choice("the room")
        self.wait(lambda: self.tall("main canvas") < near / 2)
        pane = self.tall("main")
        self.assertAlmostEqual(self.tall("main canvas") / pane, 451 / 2400, delta=0.01)
        self.choice("P2 500 lx")
        self.choice("2700 K")
        self.key("v")
        np.testing.assert_array_equal(self.rests(), signed)
        # on other stations it is the picture, in its pixels
        self.station("Paper")
        self.assertEqual(self.rests().shape, plain.shape)
        # delivered as mounted, with what it measures, and the picture alone
        self.station("Mount")
        self.button("Deliver").click()
        dialog = self.one("[role=dialog]")
        self.wait(lambda: "in colour" in dialog.text)
        said = dialog.text
        self.assertIn("As mounted", said)
        self.key(Keys.ESCAPE)
        mounted, alone = self.delivered(), self.delivered(mounted=False)
        self.assertIn(f"{mounted.size[0]} × {mounted.size[1]} pixels", said)
        pitch = max(alone.size) / 300
        self.assertAlmostEqual(mounted.size[0], (200 + 2 * (6.35 + 1.5 + 60)) * pitch, delta=5)
        self.assertAlmostEqual(float(mounted.info["dpi"][0]), pitch * 25.4, delta=0.1)
        shown = np.asarray(mounted.convert("RGB"))
        self.assertEqual(tuple(shown[5, 5]), (0xDE, 0xDA, 0xD0))
        small = self.delivered(format="jpeg", size={"by": "long", "value": 500})
        self.assertIn(max(small.size), (498, 499, 500))  # as all widths are whole pixels
        # all of it is there after a reload, and can be undone
        self.page.refresh()
        self.wait(lambda: self.all("canvas"))
        self.station("Mount")
        np.testing.assert_array_equal(self.rests(), signed)
        self.menu("Reset, off ▾", "Switch Mount off")
        self.wait(lambda: self.kept()["recipe"].get("off") == ["mount"])
        self.assertEqual(self.rests().shape, plain.shape)
        self.button("Undo").click()
        self.wait(lambda: not self.kept()["recipe"].get("off"))
        np.testing.assert_array_equal(self.rests(), signed)


if __name__ == "__main__":
    unittest.main()
