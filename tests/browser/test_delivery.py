"""From the Bench and the contact sheet to the drying line: sets, several files, a question about
names, what hangs there, and a delivered file that comes back."""

import re
import unittest
from pathlib import Path

import numpy as np
import pikepdf
from PIL import Image
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from silvrin.files.delivery.press import LOSS
from tests.browser.test_looks import WithBench
from tests.files.delivery.test_press import printer
from tests.servers import demo_server


class DeliveryTest(WithBench):
    def dialog(self):
        return self.one("[role=dialog]")

    def tick(self, name: str) -> None:
        find = f".//label[normalize-space()='{name}']"
        self.wait(lambda: self.dialog().find_elements(By.XPATH, find))[0].click()

    def inside(self, text: str):
        """A button of the dialog."""
        find = f".//button[normalize-space()='{text}']"
        return self.wait(lambda: self.dialog().find_elements(By.XPATH, find))[0]

    def typed(self, label: str, text: str) -> None:
        field = self.one(f"[role=dialog] input[aria-label='{label}']")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)

    def pick(self, label: str, value: str) -> None:
        Select(self.one(f"[role=dialog] select[aria-label='{label}']")).select_by_value(value)

    def line(self) -> dict:
        """The line, without what the demo job delivered."""
        line = self.ask("/deliveries")
        ours = [job for job in line["finished"] if job["id"] not in self.before]
        return {**line, "finished": ours}

    def begin(self, address: str) -> None:
        self.address = address
        self.before = {job["id"] for job in self.ask("/deliveries")["finished"]}

    def test_sets_several_files_and_the_line(self) -> None:
        with demo_server() as address:
            self.begin(address)
            self.open_print(self.address, "Window light")
            # one file, changed: what it will be is told before it is made
            self.button("Deliver").click()
            self.wait(lambda: "1600 × 2400 pixels" in self.dialog().text)
            self.pick("File format", "png")
            self.pick("Size", "long")
            self.typed("Long side", "900")
            self.wait(lambda: "600 × 900 pixels" in self.dialog().text)
            self.typed("Name of the file", "{title} {nothing}")
            self.wait(lambda: "none of its names" in self.dialog().text)
            self.assertFalse(self.inside("Deliver").is_enabled())
            self.typed("Name of the file", "{title} small")
            self.wait(lambda: "Terracotta head, eye small.png" in self.dialog().text)
            self.typed("Creator", "A. Potter")
            # a number that cannot be changes nothing, and says what can
            self.typed("Long side", "63")
            self.assertIn("64 to 65000", self.dialog().text)
            self.one("[role=dialog] input[aria-label='Creator']").click()
            field = self.one("[role=dialog] input[aria-label='Long side']")
            self.assertEqual(field.get_attribute("value"), "900")
            # a page that is too small for the print is said before anything is made
            self.pick("File format", "pdf")
            self.pick("Paper", "a5")
            self.pick("Size", "mm")
            self.wait(lambda: "200 × 300 mm; the page has room for 124 × 186" in self.dialog().text)
            self.pick("Paper", "print")
            self.pick("File format", "png")
            self.pick("Size", "long")
            self.typed("Long side", "900")
            # larger than the capture only where that is said
            self.typed("Long side", "2800")
            self.wait(lambda: "the capture has no more" in self.dialog().text)
            self.tick("Larger than the capture too")
            self.wait(lambda: "1867 × 2800 pixels" in self.dialog().text)
            self.typed("Long side", "900")
            # with a set beside it, and both kept as one of one's own
            self.tick("Web")
            self.button("Keep what is ticked…").click()
            self.typed("Name of the set", "Two" + Keys.ENTER)
            self.wait(lambda: any(s["name"] == "Two" for s in self.ask("/output-sets")["sets"]))
            self.wait(lambda: self.button("Deliver 2 files"))
            self.may_deliver().send_keys(Keys.ENTER)
            self.wait(lambda: "All 2 files are finished" in self.dialog().text, 60)
            done = self.line()["finished"]
            self.assertEqual([(d["width"], d["height"]) for d in done], [(1365, 2048), (600, 900)])
            with Image.open(done[1]["file"]) as made:
                self.assertEqual((made.size, made.getexif()[0x013B]), ((600, 900), "A. Potter"))
            links = [a.get_attribute("href") for a in self.all("[role=dialog] a[download]")]
            self.assertEqual(len(links), 2)
            # once more, and a question about its name is answered by keys
            self.button("Deliver another").click()
            self.pick("Where a file of that name is there", "ask")
            self.tick("Two")
            self.tick("This file")
            self.may_deliver().send_keys(Keys.ENTER)
            self.wait(lambda: "is there already" in self.dialog().text)
            self.button("Number them").send_keys(Keys.ENTER)
            self.wait(lambda: "The print is finished" in self.dialog().text, 60)
            self.assertTrue(self.line()["finished"][0]["file"].endswith("eye small 2.png"))
            self.key(Keys.ESCAPE)
            # the line in the head of the Bench, and as a screen
            self.button("Drying line").click()
            fold = self.one("[role=dialog][aria-label='Drying line']")
            self.wait(lambda: "eye small 2.png" in fold.text)
            self.page.find_element(By.LINK_TEXT, "Open the drying line").click()
            hung = self.wait(lambda: [li for li in self.all("section li") if li.text])
            self.assertEqual(len(hung), 3 + len(self.before))
            pictures = "return [...document.querySelectorAll('li img')].map(i => i.naturalWidth)"
            self.wait(lambda: self.page.execute_script(pictures)[:3] == [171] * 3)
            # a file that was moved is said to be; made again; put away, its file stays
            Path(done[0]["file"]).unlink()
            self.page.refresh()
            self.wait(lambda: "The file was moved or deleted." in self.one("main").text)
            again = "//li[contains(., 'moved or deleted')]//button[.='Make again']"
            self.page.execute_script(
                "arguments[0].click()", self.page.find_element(By.XPATH, again)
            )
            self.wait(lambda: len(self.line()["finished"]) == 4, 60)
            self.button("Clear the line").click()
            self.button("Clear").click()
            self.wait(lambda: "Nothing hangs here yet" in self.one("main").text)
            self.assertTrue(Path(done[1]["file"]).exists())
            # the profile that the window remembers is there for the next print
            self.open_print(self.address, "Against the light")
            self.button("Deliver").click()
            self.wait(lambda: "small.png" in self.dialog().text)
            self.assert_quiet()

    def test_a_soft_proof_through_a_profile_of_ones_own(self) -> None:
        profile = self.folder / "Press.icc"
        profile.write_bytes(printer(2.2, 0.05))
        with demo_server() as self.address:
            self.open_print(self.address, "Rugged")
            self.rests()
            self.station("Mount")
            plain = self.rests().astype(int)
            self.button("Deliver").click()
            self.one("[role=dialog] input[type=file]").send_keys(str(profile))
            self.button("Soft proof").send_keys(Keys.ENTER)
            bar = self.one("section[aria-label='As a press prints it']")
            self.wait(lambda: self.rests().shape != plain.shape)
            # a press of hardly any colour: the toned print comes back nearly grey
            shown = self.rests().astype(int)
            self.assertLess(np.ptp(shown, axis=2).mean(), 0.7 * np.ptp(plain, axis=2).mean())
            self.wait(lambda: re.search("[1-9][0-9]? % outside", bar.text))
            bar.find_element(By.XPATH, ".//label[contains(., 'What falls outside')]").click()
            self.wait(lambda: (self.pixels() == LOSS).all(axis=2).any())
            self.key(Keys.ESCAPE)
            self.wait(lambda: not self.all("section[aria-label='As a press prints it']"))
            np.testing.assert_array_equal(self.rests(), plain)
            self.assert_quiet()

    def test_many_frames_from_the_sheet_and_one_comes_back(self) -> None:
        with demo_server() as address:
            self.begin(address)
            self.page.get(self.address)
            self.wait(lambda: len(self.all("[data-frame] img")) >= 3)
            self.one("[data-frame]").click()
            keys = ActionChains(self.page).key_down(Keys.CONTROL).send_keys("a")
            keys.key_up(Keys.CONTROL).perform()
            self.wait(lambda: "frames chosen" in self.one("[aria-label='Chosen frames']").text)
            self.button("Deliver…").click()
            # all on the pages of one file, two beside each other; and each for the web
            self.pick("File format", "pdf")
            self.pick("Paper", "a4")
            self.one("[role=dialog] select[aria-label='Prints on a page']").send_keys("2 across, 1")
            self.tick("Lying")
            self.typed("Margin", "10")
            self.tick("All prints in one file")
            self.assertEqual(
                self.one("[role=dialog] input[aria-label='Name of the file']").get_attribute(
                    "value"
                ),
                "{roll} {output}",
            )
            self.tick("Web")
            told = ("File.pdf", ".jpg", "no print yet")  # names of both
            self.wait(lambda: all(text in self.dialog().text for text in told))
            find = "//div[@role='dialog']//button[starts-with(., 'Deliver ')]"
            deliver = self.wait(lambda: self.page.find_elements(By.XPATH, find))[0]
            many = int(deliver.text.split()[1])
            deliver.click()
            self.wait(lambda: f"All {many} files are finished" in self.dialog().text, 120)
            self.key(Keys.ESCAPE)
            files = [job["file"] for job in self.line()["finished"]]
            self.assertEqual(len(files), many)
            self.assertEqual(
                [Path(file).suffix for file in files], [".pdf"] + [".jpg"] * (many - 1)
            )
            with pikepdf.open(files.pop(0)) as book:
                self.assertEqual([len(page.images) for page in book.pages],
                                 [2] * ((many - 1) // 2) + [1] * ((many - 1) % 2))  # fmt: skip
                self.assertAlmostEqual(float(book.pages[0].MediaBox[2]), 841.89, delta=0.01)
            # dropped on the sheet, a file opens as its print
            self.one("input[type=file]").send_keys(files[0])
            self.wait(lambda: "/print/" in self.page.current_url, 60)
            self.assertEqual(self.print_id(), self.line()["finished"][1]["print_id"])
            # the sheet itself, to print
            self.page.back()
            self.button("Print the sheet…").click()
            link = self.one("[aria-label='Contact sheet to print'] a")
            self.assertIn("contact-sheet.pdf?paper=a4&columns=6", link.get_attribute("href"))
            self.assert_quiet()


if __name__ == "__main__":
    unittest.main()
