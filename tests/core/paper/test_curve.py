import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.development.negative import Developing
from silvrin.core.enlarger.projection import Projection
from silvrin.core.enlarger.timing import exposed_for, exposed_so_far
from silvrin.core.paper.curve import paper_curve
from silvrin.core.paper.grading import Grading
from silvrin.core.recipe import EnlargerSettings, FilmSettings, PaperSettings, Recipe
from tests.published import handbook


class PaperCurveTest(unittest.TestCase):
    def test_iso_6846_ranges_fall_in_the_grade_table(self) -> None:
        # ISO 6846 procedure: t at 0.04 net, s at 90 % of the net maximum; table ANSI PH2.2
        # (both from memory), measured on the curve itself
        x = np.linspace(-3, 3, 60001)
        for paper in shelf.papers().values():
            self.assertGreaterEqual(len(shelf.papers()), 8)
            for grade, (low, high) in handbook.GRADE_RANGES.items():
                if paper.kind == "fixed grades" and grade not in paper.grades:
                    continue
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


class HeadTest(unittest.TestCase):
    def test_a_condenser_hardens_by_about_a_grade(self) -> None:
        # textbook (from memory): one grade; the range of the negative that fills grade 2 under a
        # condenser is one that a diffuse head fills on grade 3
        density = np.linspace(0, 3, 6001)
        ranges = {}
        for head in ("diffuse", "condenser"):
            path = shelf.light_path(Recipe(enlarger=EnlargerSettings(head=head)))
            net = path.print_density(density)[::-1]
            t, s = (np.searchsorted(net, d) for d in (0.04, 0.9 * path.things.paper.net_density))
            ranges[head] = density[::-1][t] - density[::-1][s]
            self.assertAlmostEqual(
                float(path.print_density(path[Developing].negative.density(0.0))), 0.75
            )
        low, high = handbook.GRADE_RANGES[2]
        self.assertTrue(low <= ranges["diffuse"] <= high)
        low, high = handbook.GRADE_RANGES[3]
        self.assertTrue(low <= ranges["condenser"] <= high, ranges)


class SplitGradeTest(unittest.TestCase):
    def path(self, soft: float, hard: float):
        enlarger = EnlargerSettings(soft_time=soft, hard_time=hard)
        return shelf.light_path(Recipe(enlarger=enlarger, paper=PaperSettings(split=True)))

    def test_one_exposure_alone_is_its_grade_and_between_it_hardens(self) -> None:
        density = np.linspace(0.1, 2.0, 60)
        for soft, hard, grade in ((9.0, 0.0, -1.0), (0.0, 9.0, 5.0)):
            alone = Recipe(enlarger=EnlargerSettings(time=9), paper=PaperSettings(grade=grade))
            np.testing.assert_allclose(
                self.path(soft, hard).print_density(density),
                shelf.light_path(alone).print_density(density),
                atol=1e-9,
            )
        slopes = []
        for hard in np.linspace(0, 10, 21):
            path = self.path(10 - hard, hard)
            slopes.append(-np.gradient(path.print_density(density), density).min())
            self.assertAlmostEqual(path[Projection].time, 10.0)
        self.assertTrue(np.all(np.diff(slopes) > 0))

    def test_the_timer_adds_them_one_after_the_other(self) -> None:
        path = self.path(4.0, 6.0)
        self.assertEqual(exposed_so_far(path, 2.0)[Grading].grade, -1.0)
        grades = [exposed_so_far(path, s)[Grading].grade for s in (4, 5, 7, 10, 12)]
        self.assertEqual(grades, sorted(grades))
        self.assertAlmostEqual(exposed_so_far(path, 10.0)[Grading].grade, path[Grading].grade)
        darker = [float(exposed_so_far(path, s).print_density(0.8)) for s in (1, 3, 5, 8, 10)]
        self.assertEqual(darker, sorted(darker))

    def test_another_time_keeps_the_proportion(self) -> None:
        path = exposed_for(self.path(4.0, 6.0), 5.0)
        enlarger = path.recipe.enlarger
        np.testing.assert_allclose((enlarger.soft_time, enlarger.hard_time), (2.0, 3.0))
        self.assertAlmostEqual(path[Grading].grade, self.path(4.0, 6.0)[Grading].grade)

    def test_a_paper_of_fixed_grades_has_only_those(self) -> None:
        for wanted, got in ((-1, 2), (2.4, 2), (2.6, 3), (5, 4)):
            settings = PaperSettings(paper="glossy-fibre-graded", grade=wanted, split=True)
            self.assertEqual(shelf.light_path(Recipe(paper=settings))[Grading].grade, got)


class StandardTimeTest(unittest.TestCase):
    def test_zone_v_prints_at_eighteen_per_cent(self) -> None:
        # Zone-system handbooks: Zone V, 18 % reflectance, 0.75 D (from memory)
        for stock in shelf.stocks():
            for grade in (0, 1.5, 2, 4, 5):
                recipe = Recipe(film=FilmSettings(stock=stock), paper=PaperSettings(grade=grade))
                path = shelf.light_path(recipe)
                printed = path.print_density(path[Developing].negative.density(0.0))
                self.assertAlmostEqual(float(printed), 0.75, delta=1e-6)
                self.assertAlmostEqual(10 ** -float(printed), 0.18, delta=0.003)

    def test_time_acts_as_stops_at_the_paper(self) -> None:
        # Reciprocity: twice the time is log10 2 more exposure, as a density 0.301 less
        normal = shelf.light_path(Recipe())
        double = Recipe(enlarger=EnlargerSettings(time=2 * normal[Projection].standard_time))
        density = np.linspace(0.2, 1.8, 9)
        np.testing.assert_allclose(
            shelf.light_path(double).print_density(density + np.log10(2.0)),
            normal.print_density(density),
            atol=1e-9,
        )
        self.assertAlmostEqual(normal[Projection].standard_time, 12.0, delta=0.5)


if __name__ == "__main__":
    unittest.main()
