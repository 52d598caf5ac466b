"""Papers measured from wedges: of a known paper what was put in is found again, with noise as a
densitometer has it. Range and speed by ISO 6846:1992 (memory), read off the densities."""

import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.paper.curve import grade_range, paper_curve
from silvrin.core.paper.measuring import fit_paper, grade_of
from silvrin.errors import BadItem
from tests.published import handbook

STEPS = np.arange(31) * 0.1 - 1.6
DRAWS = 12


def printed(paper: str, grade: float, noise: float, at: float = 0.0, draw: int = 0) -> np.ndarray:
    known = shelf.papers()[paper]
    density = known.base_density + paper_curve(known, grade).density(STEPS - at)
    return density + np.random.default_rng(draw).normal(0, noise, len(STEPS))


class FitTest(unittest.TestCase):
    def test_a_known_papers_range_and_grade_are_found_again_through_noise(self) -> None:
        for paper in ("glossy-fibre-neutral", "matt-fibre-neutral", "semi-matt-fibre-warm"):
            known = shelf.papers()[paper]
            for grade in (1.0, 2.0, 3.5, 5.0):
                where, away = (paper, grade), []
                for draw in range(DRAWS):
                    fit = fit_paper(STEPS, printed(paper, grade, 0.01, 0.2, draw))
                    away.append(fit.log_range - grade_range(grade))
                    told = round(4 * fit.grade) / 4  # as it is told, in quarters
                    self.assertAlmostEqual(told, grade, delta=0.25, msg=where)
                    self.assertAlmostEqual(fit.speed_at, 0.2, delta=0.02, msg=where)
                    self.assertAlmostEqual(fit.base, known.base_density, delta=0.02, msg=where)
                    self.assertAlmostEqual(fit.curve.net, known.net_density, delta=0.04, msg=where)
                    self.assertLess(fit.rms, 0.015)
                # of one wedge the range is as sure as that (one deviation)
                self.assertLess(float(np.sqrt(np.mean(np.square(away)))), 0.03, where)

    def test_range_and_speed_are_those_that_the_densities_show(self) -> None:
        density = printed("glossy-fibre-neutral", 2.0, 0.0)
        fit = fit_paper(STEPS - 2.0, density)
        fine = np.linspace(STEPS[0], STEPS[-1], 20001) - 2.0
        net = fit.density(fine) - fit.base
        t, m, s = (fine[np.searchsorted(net, d)] for d in (0.04, 0.60, 0.9 * fit.curve.net))
        self.assertAlmostEqual(fit.log_range, s - t, delta=1e-3)
        self.assertAlmostEqual(fit.iso_speed, 1000 / 10**m, delta=0.01 * fit.iso_speed)
        self.assertEqual(fit.iso_range, round(10 * (s - t)) * 10)

    def test_grades_are_those_of_the_handbook(self) -> None:
        for grade, (low, high) in handbook.GRADE_RANGES.items():
            self.assertAlmostEqual(grade_of((low + high) / 2), grade, delta=1e-6)

    def test_an_odd_reading_moves_the_curve_little(self) -> None:
        density = printed("glossy-fibre-neutral", 2.0, 0.005)
        density[9] += 0.3
        fit = fit_paper(STEPS, density)
        self.assertAlmostEqual(fit.log_range, grade_range(2.0), delta=0.04)
        self.assertEqual(int(np.abs(fit.residuals).argmax()), 9)

    def test_wedges_that_show_no_curve_are_refused_in_words(self) -> None:
        with self.assertRaisesRegex(BadItem, "at least 7"):
            fit_paper(STEPS[:5], printed("glossy-fibre-neutral", 2.0, 0.0)[:5])
        with self.assertRaisesRegex(BadItem, "Print it longer"):
            fit_paper(STEPS, np.full(21, 0.1))


if __name__ == "__main__":
    unittest.main()
