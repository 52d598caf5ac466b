"""Two places kept apart: against direct integration of their spectra."""

import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.light.settings import LightSettings
from silvrin.core.light.sureness import Sureness
from silvrin.core.recipe import FilmSettings, HueBand, Recipe
from silvrin.core.render import code
from silvrin.core.render.separating import hues_apart, separation
from silvrin.core.spectra.recovery import recover
from tests.core.test_proposing import ROOM, sat

# Lights of a capture (BT.2020, linear)
CLAY, LEAF, SKY = (24000, 12500, 7000), (9000, 12500, 4500), (12000, 17500, 27000)
PATHS = [
    (stock, glass)
    for stock in ("sloe-10", "fern-50", "larch-100", "rowan-200")
    for glass in ("none", "15", "25", "58", "47")
]


def path_of(stock: str, glass: str):
    recipe = Recipe(light=LightSettings(lens_filter=glass), film=FilmSettings(stock=stock))
    return shelf.light_path(recipe)


class SeparatingTest(unittest.TestCase):
    def test_zones_are_those_of_the_two_spectra(self) -> None:
        # log2 of the ratio of integrals of R(l) L(l) T(l) S(l): ISO 7589, and any textbook
        for one, other in ((CLAY, SKY), (CLAY, LEAF), (LEAF, SKY)):
            lights = np.array([one, other], np.uint16)
            spectra = recover(lights.astype(np.float64) / 65535)
            paths = [path_of(*pair) for pair in PATHS]
            found = separation(ROOM, sat("bottle kiln", Recipe()), lights, paths)
            for pair, path, each in zip(PATHS, paths, found, strict=True):
                if each.blind:
                    continue
                things = path.things
                weights = things.light * things.lens_filter.transmittance * things.stock.sensitivity
                wanted = np.log2(np.divide(*(spectra[[1, 0]] @ weights)))
                with self.subTest(pair):
                    # the table that every pixel goes through has 65 steps a side
                    self.assertAlmostEqual(each.zones, wanted, delta=0.06)

    def test_what_a_filter_is_chosen_for(self) -> None:
        def zones(one, other, stock: str, glass: str) -> float:
            lights = np.array([one, other], np.uint16)
            sitting = sat("bottle kiln", Recipe())
            return separation(ROOM, sitting, lights, [path_of(stock, glass)])[0].zones

        # red glass darkens the sky beside clay, blue glass lightens it (filter handbooks)
        plain = zones(CLAY, SKY, "larch-100", "none")
        self.assertLess(zones(CLAY, SKY, "larch-100", "25"), plain - 1.0)
        self.assertGreater(zones(CLAY, SKY, "larch-100", "47"), plain + 1.0)
        self.assertAlmostEqual(
            zones(CLAY, SKY, "larch-100", "15"), -zones(SKY, CLAY, "larch-100", "15"), places=5
        )

    def test_how_far_a_figure_may_be_off_is_that_of_both_places(self) -> None:
        lights = np.array([LEAF, SKY], np.uint16)
        path = path_of("larch-100", "29")
        (found,) = separation(ROOM, sat("bottle kiln", Recipe()), lights, [path])
        coded = code(lights[None], 1 / 65535)
        one, other = path[Sureness].of_colours(coded)[0]
        self.assertAlmostEqual(found.unsure, float(np.hypot(one, other)), places=5)
        self.assertGreater(found.unsure, 0.1)

    def test_two_hues_of_one_band_get_one_each(self) -> None:
        other_leaf = (11500, 12500, 4000)
        lights = np.array([LEAF, other_leaf])
        wide = HueBand(centre=115, width=60, stops=0.5)
        found = hues_apart(LightSettings(hue_bands=(wide,)), lights)
        self.assertEqual(found.common, 0)
        assert found.parted is not None
        self.assertEqual([band.stops for band in found.parted], [0.5, 0.5])
        again = hues_apart(LightSettings(hue_bands=found.parted), lights)
        self.assertEqual((again.common, again.parted), (None, None))
        # without a band each gets its own; greys have no hue to part
        apart = hues_apart(LightSettings(), np.array([CLAY, SKY]))
        self.assertIsNone(apart.common)
        self.assertEqual(len(apart.parted or ()), 2)
        greys = hues_apart(LightSettings(), np.array([(9000, 9000, 9000)] * 2))
        self.assertEqual((greys.common, greys.parted), (None, None))


if __name__ == "__main__":
    unittest.main()
