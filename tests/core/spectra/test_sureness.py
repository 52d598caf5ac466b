"""How sure a film's exposure is, on published spectra that recovery was not made of."""

import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.light.conversion import Conversion, Glass
from silvrin.core.light.lens_filter import MOST_FACTOR
from silvrin.core.light.sureness import Sureness
from silvrin.core.recipe import CaptureSettings, FilmSettings, LightSettings, Recipe
from silvrin.core.render import code
from silvrin.core.spectra.illuminants import light
from tests.published.spectra import bt2020, patches, real_things, test_colours

FILTERS = ("none", "8", "11", "15", "21", "25", "29", "47", "58")
SEEN = ("sloe-10", "fern-50", "larch-100", "willow-400", "rowan-200")  # as a camera sees
LEAST_SAID = 0.01  # stops: the 16 bits of the capture and the table's cells
GREY = 0.15  # of the largest channel: with less between channels there is nothing to be unsure of


def departures(spectra: np.ndarray) -> np.ndarray:
    """By how many of the deviations said (N,) the exposure that is found from coloured spectra's
    colours departs from direct integration, for every film behind every filter."""
    found = []
    rgb = np.clip(bt2020(spectra), 0, None)
    coloured = np.ptp(rgb, axis=1) > GREY * rgb.max(axis=1)
    coded = code(np.rint(rgb * 65535).astype(np.uint16)[None], 1 / 65535)
    for stock in SEEN:
        for lens_filter in FILTERS:
            recipe = Recipe(
                light=LightSettings(temperature=5500, lens_filter=lens_filter),
                film=FilmSettings(stock=stock),
            )
            path = shelf.light_path(recipe)
            if path[Glass].filter_factor >= MOST_FACTOR:
                continue  # blind behind it
            through = light(5500) * path.things.stock.sensitivity * path[Glass].transmittance
            true = np.log2(spectra @ through / through.sum() / 0.18)
            off = np.abs(path[Conversion].expose(coded)[0] - true)
            said = np.maximum(path[Sureness].of_colours(coded)[0], LEAST_SAID)
            found.append((off / said)[coloured])
    return np.concatenate(found)


class SurenessTest(unittest.TestCase):
    def test_truth_lies_within_one_deviation_two_times_in_three(self) -> None:
        # two thirds and 95 % are those of a normal distribution; what is said may be a little
        # too careful. Neither set was used for recovery.
        for spectra in (real_things(), test_colours()):
            off = departures(spectra)
            self.assertGreater((off < 1).mean(), 0.66)
            self.assertLess((off < 1).mean(), 0.82)
            self.assertGreater((off < 2).mean(), 0.92)

    def test_and_on_the_patches_too(self) -> None:
        # recovery's constants were chosen by these
        off = departures(patches())
        self.assertGreater((off < 1).mean(), 0.7)
        self.assertGreater((off < 2).mean(), 0.95)

    def test_greys_are_sure_and_deep_glass_and_infrared_are_not(self) -> None:
        def spread(rgb: tuple[int, int, int], lens_filter: str, stock: str = "larch-100") -> float:
            recipe = Recipe(
                light=LightSettings(lens_filter=lens_filter), film=FilmSettings(stock=stock)
            )
            coded = code(np.array([[rgb]], np.uint16), 1 / 65535)
            return float(shelf.light_path(recipe)[Sureness].of_colours(coded)[0, 0])

        grey, leaf = (12000, 12000, 12000), (6000, 12000, 3500)
        self.assertLess(spread(grey, "none"), 0.06)
        self.assertLess(spread(leaf, "none"), 0.1)
        self.assertGreater(spread(leaf, "29"), 2 * spread(leaf, "none"))
        # a leaf and a green paint are one colour, and three stops apart in the infrared
        self.assertGreater(spread(leaf, "89b", "juniper-200"), 0.8)

    def test_hue_shift_takes_it_along_and_infrared_captures_have_none(self) -> None:
        blue = np.array([[(3000, 6000, 14000)]], np.uint16)
        coded = code(blue, 1 / 65535)

        def of(**settings: object) -> float:
            path = shelf.light_path(Recipe(**settings))
            return float(path[Sureness].of_colours(coded)[0, 0])

        turned = of(light=LightSettings(lens_filter="25", hue_shift=180))
        # a few colours are told without the table
        for given in ({"lens_filter": "25"}, {"lens_filter": "29", "hue_shift": 70.0}):
            sureness = shelf.light_path(Recipe(light=LightSettings(**given)))[Sureness]
            few, table = sureness.of_few(coded[0]), sureness.of_colours(coded)[0]
            np.testing.assert_allclose(few, table, rtol=1e-5)
        self.assertNotAlmostEqual(turned, of(light=LightSettings(lens_filter="25")), delta=0.02)
        self.assertEqual(of(capture=CaptureSettings(infrared=True)), 0.0)


if __name__ == "__main__":
    unittest.main()
