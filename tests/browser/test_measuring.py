"""A paper, and a target of contact printing, measured step by step with the densitometer that
stands in for one."""

import json
import re
import unittest

import numpy as np
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from silvrin.instruments.contact_frame import ContactFrame
from tests.browser.test_looks import WithBench


class MeasuringTest(WithBench):
    def choice(self, text: str) -> None:
        find = f"//button[@role='radio'][.='{text}']"
        self.wait(lambda: self.page.find_elements(By.XPATH, find))[0].click()

    def asked(self) -> str:
        return self.one("[aria-label='What is asked for next']").text

    def readings(self) -> list[float]:
        """All at once: one by one they take as long as the readings."""
        found = "[...document.querySelectorAll(`[aria-label='Readings so far'] li`)]"
        return self.page.execute_script(f"return {found}.map(l => Number(l.lastChild.textContent))")

    def read(self, count: int) -> None:
        for _ in range(count):
            before = len(self.readings())
            self.wait(lambda: self.button("Readspace").is_enabled())
            self.button("Readspace").click()
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

    def test_a_contact_target_patch_by_patch_and_a_second_round(self) -> None:
        self.page.get(f"{self.address}/shelf")
        self.choice("Contact")
        self.wait(lambda: self.page.current_url.endswith("/contact"))
        self.choice("21 steps")
        self.choice("Densitometer")
        self.wait(lambda: "bare paper" in self.asked())
        curve = "//section[@aria-label='Curve']"

        def one_round() -> str:
            self.button("Zero").click()
            self.wait(lambda: self.asked() == "Patch 1 of 21.")
            self.read(10)
            self.assertFalse(self.page.find_elements(By.XPATH, "//button[.='Put on the shelf']"))
            self.read(11)
            self.wait(lambda: "All patches are read" in self.asked())
            return self.page.find_element(By.XPATH, curve).text

        off = self.straight(one_round())
        self.one("[aria-label='Name of the process']").send_keys("Salt on rag")
        self.button("Put on the shelf").click()
        self.wait(lambda: self.all("nav button[aria-current=true]")[-1].text.startswith("Salt"))
        (kept,) = (p for p in self.ask("/contact/processes") if p["name"] == "Salt on rag")
        self.assertEqual(kept["rounds"], 1)
        base, black = ContactFrame().printed(np.array([1.0, 0.0]))  # behind full ink, behind none
        self.assertAlmostEqual(kept["base"], base, delta=0.03)
        self.assertAlmostEqual(kept["black"], black, delta=0.03)
        # its target is linearised now: it prints straight
        self.wait(lambda: "bare paper" in self.asked())
        now = self.straight(one_round())
        self.assertGreater(off, 0.3)
        self.assertLess(now, 0.05)
        self.button("Keep this round").click()
        self.wait(lambda: any(p["rounds"] == 2 and p["name"] == "Salt on rag"
                              for p in self.ask("/contact/processes")))  # fmt: skip
        self.choice("Papers")
        self.wait(lambda: self.page.current_url.endswith("kind=paper"))
        self.assertTrue(self.all("[aria-label='On the shelf'] li"))
        self.assert_quiet()

    def straight(self, said: str) -> float:
        found = re.search(r"at most (\d\.\d+) D off a straight line", said)
        assert found, said
        return float(found[1])


if __name__ == "__main__":
    unittest.main()
