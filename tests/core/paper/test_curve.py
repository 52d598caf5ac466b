import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.paper.curve import paper_curve
from silvrin.core.recipe import EnlargerSettings, FilmSettings, PaperSettings, Recipe
from tests.published import handbook


class PaperCurveTest(unittest.TestCase):
    def test_iso_6846_ranges_fall_in_the_grade_table(self) -> None:
        # ISO 6846 procedure: t at 0.04 net, s at 90 % of the net maximum; table ANSI PH2.2
        # (both from memory), measured on the curve itself
        x = np.linspace(-3, 3, 60001)
        for paper in shelf.papers().values():
            for grade, (low, high) in handbook.GRADE_RANGES.items():
                density = paper_curve(paper, grade).density(x)
                t = x[np.searchsorted(density, 0.04)]
                s = x[np.searchsorted(density, 0.90 * paper.net_density)]
                self.assertTrue(low <= s - t <= high, (paper.name, grade, s - t))
                speed = x[np.searchsorted(density, 0.60)]
                self.assertAlmostEqual(speed, 0.0, delta=2e-4)

    def test_density_stays_between_base_and_black(self) -> None:
        for paper in shelf.papers().values():
            density = paper_curve(paper, 3.3).density(np.linspace(-9, 9, 400))
            self.assertGreaterEqual(density.min(), 0)
            # toe and shoulder overlap by a hundred-thousandth of a density
            self.assertLessEqual(density.max(), paper.net_density + 1e-5)
            self.assertGreaterEqual(np.diff(density).min(), -1e-5)


class StandardTimeTest(unittest.TestCase):
    def test_zone_v_prints_at_eighteen_per_cent(self) -> None:
        # Zone-system handbooks: Zone V, 18 % reflectance, 0.75 D (from memory)
        for stock in shelf.stocks():
            for grade in (0, 1.5, 2, 4, 5):
                recipe = Recipe(film=FilmSettings(stock=stock), paper=PaperSettings(grade=grade))
                path = shelf.light_path(recipe)
                printed = path.print_density(path.negative.density(0.0))
                self.assertAlmostEqual(float(printed), 0.75, delta=1e-6)
                self.assertAlmostEqual(10 ** -float(printed), 0.18, delta=0.003)

    def test_time_acts_as_stops_at_the_paper(self) -> None:
        # Reciprocity: twice the time is log10 2 more exposure, as a density 0.301 less
        normal = shelf.light_path(Recipe())
        double = Recipe(enlarger=EnlargerSettings(time=2 * normal.standard_time))
        density = np.linspace(0.2, 1.8, 9)
        np.testing.assert_allclose(
            shelf.light_path(double).print_density(density + np.log10(2.0)),
            normal.print_density(density),
            atol=1e-9,
        )
        self.assertAlmostEqual(normal.standard_time, 12.0, delta=0.5)


if __name__ == "__main__":
    unittest.main()
