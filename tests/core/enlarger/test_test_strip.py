import unittest
from itertools import pairwise

import numpy as np

from silvrin import shelf
from silvrin.core.enlarger.test_strip import TestStrip, lie_for, patches
from silvrin.core.enlarger.timing import exposed_for, on_grade
from silvrin.core.recipe import PaperSettings, Recipe
from silvrin.core.render import print_strip
from tests.sittings import plate


class StripTest(unittest.TestCase):
    def test_times(self) -> None:
        # common practice, no source: 7 × 2 s; 8, 11.3, 16, 22.6, 32 s are half stops
        self.assertEqual(TestStrip(by="seconds", step=2).values(99), [2, 4, 6, 8, 10, 12, 14])
        halves = TestStrip(count=5, step=0.5).values(16.0)
        np.testing.assert_allclose(halves, [8, 11.3, 16, 22.6, 32], atol=0.05)

    def test_each_strip_is_the_print_at_its_time(self) -> None:
        path = shelf.light_path(Recipe())
        negative = np.random.default_rng(4).uniform(0.2, 1.4, (90, 130)).astype(np.float32)
        for lie, axis in (("upright", 1), ("level", 0)):
            strip = print_strip(plate(negative), path, TestStrip(count=4, step=1, lie=lie))
            parts = np.array_split(np.arange(negative.shape[axis]), 4)
            self.assertEqual((strip.columns, strip.rows), (4, 1) if axis else (1, 4))
            means = []
            for time in strip.values:
                whole = exposed_for(path, time).print_out(plate(negative))
                self.assertTrue((strip.numbers == whole).mean() >= 0.24)
                means.append(whole.mean())
            self.assertTrue((np.diff(means) < 0).all())  # more time is darker
            first = np.take(strip.numbers, parts[0][:-1], axis=axis)
            alone = np.take(
                exposed_for(path, strip.values[0]).print_out(plate(negative)),
                parts[0][:-1],
                axis=axis,
            )
            np.testing.assert_array_equal(first, alone)

    def test_one_patch_is_printed_at_every_time(self) -> None:
        path = shelf.light_path(Recipe())
        negative = np.random.default_rng(4).uniform(0.2, 1.4, (96, 144)).astype(np.float32)
        for middle in ((0.5, 0.5), (0.0, 0.0), (1.0, 1.0), (0.3, 0.8)):  # kept inside at borders
            asked = TestStrip(count=7, step=0.5, patch=middle)
            strip = print_strip(plate(negative), path, asked)
            self.assertEqual((strip.columns, strip.rows), (3, 3))
            left = round(min(max(middle[0] * 144 - 24, 0), 96))
            top = round(min(max(middle[1] * 96 - 16, 0), 64))
            patch = np.ascontiguousarray(negative[top : top + 32, left : left + 48])
            for k, time in enumerate(strip.values):
                y, x = 32 * (k // 3), 48 * (k % 3)
                np.testing.assert_array_equal(
                    strip.numbers[y : y + 32, x : x + 48],
                    exposed_for(path, time).print_out(plate(patch)),
                )
            self.assertTrue((strip.numbers[64:, 48:] == 255).all())  # bare paper

    def test_patches_lie_so_that_each_is_shaped_as_the_picture(self) -> None:
        for count in range(2, 16):
            columns, rows = patches(count)
            self.assertGreaterEqual(columns * rows, count)
            self.assertLessEqual(columns * rows - count, 3)
            self.assertTrue(0.5 <= columns / rows <= 2, (count, columns, rows))

    def test_a_graded_paper_has_the_grades_it_has(self) -> None:
        negative = np.random.default_rng(4).uniform(0.2, 1.4, (60, 90)).astype(np.float32)
        for paper in shelf.papers().values():
            path = shelf.light_path(Recipe(paper=PaperSettings(paper=paper.id)))
            strip = print_strip(plate(negative), path, TestStrip(over="grade", lie="upright"))
            if paper.kind == "fixed grades":
                self.assertEqual(strip.values, list(paper.grades))
            else:
                self.assertEqual(strip.values, [-1, 0, 1, 2, 3, 4, 5])
            width = 90 // len(strip.values)
            parts = [strip.numbers[:, k * width : (k + 1) * width] for k in range(strip.columns)]
            for a, b in pairwise(parts):
                self.assertGreater(b.std(), a.std())  # no two alike

    def test_over_grades_each_strip_is_harder(self) -> None:
        path = shelf.light_path(Recipe())
        wedge = np.repeat(np.linspace(0.3, 1.3, 90, dtype=np.float32)[:, None], 120, axis=1)
        strip = print_strip(plate(wedge), path, TestStrip(over="grade", count=7, lie="upright"))
        self.assertEqual(strip.values, [-1, 0, 1, 2, 3, 4, 5])
        middle = [part[35:55].astype(int) for part in np.array_split(strip.numbers, 7, axis=1)]
        contrast = [part.max() - part.min() for part in middle]
        self.assertEqual(contrast, sorted(contrast))
        np.testing.assert_array_equal(
            strip.numbers[:, 52:66], on_grade(path, 2.0).print_out(plate(wedge))[:, 52:66]
        )

    def test_it_lies_so_that_strips_cross_lights_and_darks(self) -> None:
        sky_over_land = np.repeat(np.linspace(1.4, 0.3, 60)[:, None], 80, axis=1)
        self.assertEqual(lie_for(sky_over_land), "upright")
        self.assertEqual(lie_for(sky_over_land.T), "level")


if __name__ == "__main__":
    unittest.main()
