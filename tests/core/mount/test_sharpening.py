"""Presentation sharpening against the formula of unsharp masking (textbook): a step that was spread
by a Gaussian is Phi, by SciPy."""

import unittest

import numpy as np
from scipy.stats import norm

from silvrin import shelf
from silvrin.core.mount.sharpening import margin_of, radius_of, sharpened, sharpened_strips
from silvrin.core.picture import LinearPicture, View
from silvrin.core.recipe import FilmSettings, MountSettings, Recipe
from silvrin.core.render import Darkroom, Sitting, mounted_strips, strips

STEP = np.where(np.arange(200) < 100, 80, 160).astype(np.uint8)[None].repeat(60, axis=0)


def mount(**more: object) -> MountSettings:
    plain = {"sharpen": 1.0, "sharpen_radius": 1.0, "sharpen_threshold": 0, "sharpen_edges": 0}
    return MountSettings(**plain | more)


class FormulaTest(unittest.TestCase):
    def wanted(self, amount: float, radius: float, threshold: float = 0.0) -> np.ndarray:
        away = np.arange(200) - 99.5
        spread = (80 + 80 * norm.cdf(away / radius)) / 255
        more = np.where(away < 0, 80, 160) / 255 - spread
        more -= np.clip(more, -threshold / 100, threshold / 100)
        return np.clip(np.where(away < 0, 80, 160) + 255 * amount * more, 0, 255)

    def test_a_step_answers_as_the_formula_says(self) -> None:
        for amount, radius, threshold in ((1.0, 4.0, 0.0), (0.5, 2.0, 0.0), (2.0, 6.0, 5.0)):
            found = sharpened(STEP, mount(sharpen=amount, sharpen_threshold=threshold), radius)
            away = np.abs(found[30] - self.wanted(amount, radius, threshold))
            self.assertLess(away.max(), 1.6, (amount, radius))  # of 255, rounded once

    def test_no_difference_below_the_threshold_and_nothing_that_is_no_edge(self) -> None:
        rng = np.random.default_rng(1)
        texture = (120 + rng.integers(-2, 3, (80, 80))).astype(np.uint8)
        least = sharpened(texture, mount(sharpen=3.0, sharpen_threshold=4), 2.0)
        np.testing.assert_array_equal(least, texture)
        flat = sharpened(texture, mount(sharpen=3.0, sharpen_edges=1), 2.0)
        np.testing.assert_array_equal(flat, texture)
        self.assertGreater(np.abs(sharpened(texture, mount(sharpen=3.0), 2.0) - 120.0).max(), 4)
        step = sharpened(STEP, mount(sharpen_edges=1), 4.0)
        np.testing.assert_allclose(step[30, 96:104], self.wanted(1.0, 4.0)[96:104], atol=2)

    def test_colour_keeps_its_differences_of_channels(self) -> None:
        rgb = np.stack([STEP, STEP - 20, STEP - 40], axis=-1)
        found = sharpened(rgb, mount(sharpen=0.5), 4.0).astype(int)
        np.testing.assert_allclose(found[..., 0] - found[..., 2], 40, atol=1)

    def test_radius_is_millimetres_of_the_print_or_of_a_screen(self) -> None:
        self.assertAlmostEqual(radius_of(mount(sharpen_radius=0.2), 10.0), 2.0)
        screen = mount(sharpen_radius=0.5, sharpen_for="screen")
        self.assertAlmostEqual(radius_of(screen, 3.0), 0.5 * 96 / 25.4)
        self.assertEqual(radius_of(mount(sharpen=0.0), 10.0), 0.0)


class PiecesTest(unittest.TestCase):
    def test_strips_of_any_height_are_as_the_whole(self) -> None:
        rng = np.random.default_rng(3)
        numbers = rng.integers(0, 256, (301, 90)).astype(np.uint8)
        whole = sharpened(numbers, mount(), 3.0)
        for height in (7, 40, 300, 400):
            pieces = (numbers[i : i + height] for i in range(0, 301, height))
            found = sharpened_strips(pieces, margin_of(3.0), lambda n: sharpened(n, mount(), 3.0))
            np.testing.assert_array_equal(np.concatenate(list(found)), whole)

    def test_a_view_is_the_files_pixels_and_the_border_is_not_sharpened(self) -> None:
        light = np.random.default_rng(2).integers(2000, 30000, (240, 320, 3)).astype(np.uint16)
        picture = LinearPicture.with_pyramid(light, 1 / 30000)
        recipe = Recipe(
            film=FilmSettings(grain=0),
            mount=mount(size=100, border_left=10, border_right=10, border_top=10, border_bottom=10),
        )
        sat = Sitting("s", picture, shelf.light_path(recipe))
        full = np.concatenate(list(strips(sat, bits=8)))
        part = Darkroom().view(sat, View(40, 50, 120, 100, 120, 100))
        np.testing.assert_array_equal(part, full[50:150, 40:160])
        framed = np.concatenate(list(mounted_strips(sat, None, 8)))
        self.assertTrue((framed[:32] == 255).all() and (framed[:, :32] == 255).all())


if __name__ == "__main__":
    unittest.main()
