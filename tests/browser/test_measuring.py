"""A paper measured step by step with the densitometer that stands in for one."""

import json
import unittest

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser.test_looks import WithBench


class MeasuringTest(WithBench):
    def choice(self, text: str) -> None:
        find = f"//button[@role='radio'][.='{text}']"
        self.wait(lambda: self.page.find_elements(By.XPATH, find))[0].click()

    def asked(self) -> str:
        return self.one("[aria-label='What is asked for next']").text

    def readings(self) -> list[float]:
        rows = self.all("[aria-label='Readings so far'] li")
        return [float(row.text.split()[-1]) for row in rows]

    def read(self, count: int) -> None:
        for _ in range(count):
            before = len(self.readings())
            self.button("Read" + "space").click()
            self.wait(lambda before=before: len(self.readings()) == before + 1)

    def test_base_patches_a_repeat_one_taken_back_two_grades_and_onto_the_shelf(self) -> None:
        self.page.get(f"{self.address}/shelf")
        self.button("Measure your own…").click()
        self.choice("Paper")
        self.choice("a densitometer")
        self.wait(lambda: "bare paper" in self.asked())
        self.assertFalse(self.button("Readspace").is_enabled())
        Select(self.one("[role=dialog] label:nth-of-type(2) select")).select_by_value("paper-2")
        self.button("Zero").click()
        self.wait(lambda: self.asked() == "Patch 1 of 31.")
        self.read(6)
        self.assertFalse(self.all("[role=dialog] svg"))  # too few for a curve, and no fault
        self.assertFalse(self.all("[role=dialog] [role=alert]"))
        self.read(18)
        self.wait(lambda: self.all("[role=dialog] table"))
        last = self.readings()
        self.button("Repeat").click()
        self.wait(lambda: self.asked() == "Patch 25 of 31.")
        self.assertEqual(self.readings()[:-1], last[:-1])
        self.button("Take back").click()
        self.wait(lambda: self.asked() == "Patch 24 of 31.")
        # the space bar is the instrument's key
        self.page.find_element(By.XPATH, "//h2[.='Measure your own']").click()
        self.key(Keys.SPACE)
        self.wait(lambda: self.asked() == "Patch 25 of 31.")
        self.read(7)
        self.wait(lambda: "All patches are read" in self.asked())
        self.wait(lambda: "R100" in self.one("[role=dialog] table").text
                  or "R110" in self.one("[role=dialog] table").text)  # fmt: skip
        # another grade beside it
        Select(self.one("[role=dialog] label:nth-of-type(2) select")).select_by_value("paper-hard")
        self.wait(lambda: "bare paper" in self.asked())
        self.button("Zero").click()
        self.wait(lambda: self.asked() == "Patch 1 of 31.")
        self.read(31)
        self.wait(lambda: len(self.all("[role=dialog] tbody tr")) == 2)
        name = self.page.find_element(By.XPATH, "//label[span='Name']//input")
        name.send_keys("Measured by hand")
        self.button("Put on the shelf").click()
        self.wait(lambda: not self.all("[role=dialog]"))
        papers = [p for p in self.ask("/shelf")["papers"] if p["own"]]
        self.assertEqual([p["name"] for p in papers], ["Measured by hand"])
        grades = {g["grade"]: g["iso_range"] for g in papers[0]["on_grades"]}
        self.assertAlmostEqual(grades[4], 70, delta=10)
        self.assertIn("Measured by hand", self.one("[aria-label='Figures']").text)
        self.assertEqual(json.dumps(self.ask("/densitometers")[0]["id"]), '"simulated"')


if __name__ == "__main__":
    unittest.main()
