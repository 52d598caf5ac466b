import unittest
from itertools import product

import numpy as np

from silvrin import shelf
from silvrin.core.light.conversion import Glass
from silvrin.core.light.lens_filter import filter_factor
from silvrin.core.recipe import LightSettings, Recipe
from silvrin.core.spectra.grid import WAVELENGTHS
from silvrin.core.spectra.illuminants import light
from tests.published import handbook


class FilterTest(unittest.TestCase):
    def test_factors_of_panchromatic_film(self) -> None:
        # Handbook table (from memory): all within half a stop, the all-round film within a third
        films = [s for s in shelf.stocks().values() if s.kind == "panchromatic"]
        self.assertEqual(len(films), 10)
        for film, (name, factors) in product(films, handbook.FILTER_FACTORS.items()):
            within = 1 / 3 if film.id == "larch-100" else 1 / 2
            glass = shelf.filters()[name].transmittance
            for temperature, wanted in zip((5500, 3200), factors, strict=True):
                off = np.log2(filter_factor(light(temperature), glass, film.sensitivity) / wanted)
                self.assertLess(abs(off), within, (film.name, name, temperature))

    def test_thickness_acts_by_bouguer_and_filters_multiply(self) -> None:
        glass = shelf.filters()["15"]
        internal = np.minimum(glass.transmittance / 0.92, 1)  # two surfaces of index 1.5: Fresnel
        np.testing.assert_allclose(glass.at(1.0), 0.92 * internal)
        np.testing.assert_allclose(glass.at(2.0), 0.92 * internal**2)
        np.testing.assert_allclose(glass.at(0.0), 0.92)
        both = LightSettings(lens_filter="15", second_filter="47", second_strength=0.5)
        path = shelf.light_path(Recipe(light=both))
        product = glass.at(1.0) * shelf.filters()["47"].at(0.5)
        np.testing.assert_allclose(path[Glass].transmittance, product)
        alone = shelf.light_path(Recipe(light=LightSettings(lens_filter="15")))[Glass].filter_factor
        self.assertGreater(path[Glass].filter_factor, alone)
        self.assertEqual(shelf.light_path(Recipe())[Glass].filter_factor, 1.0)

    def test_cutting_wavelengths(self) -> None:
        # Half of the largest transmittance (from memory)
        for name, wanted in handbook.HALF_TRANSMITTANCE.items():
            glass = shelf.filters()[name].transmittance
            half = np.interp(0.5, glass / glass.max(), WAVELENGTHS)
            self.assertAlmostEqual(half, wanted, delta=3)

    def test_sensitivity_ends_where_its_kind_ends(self) -> None:
        # Wavelength where sensitivity has fallen to a hundredth, or a tenth for the sharper
        # limits that handbooks name (from memory)
        for stock in shelf.stocks().values():
            low, high = handbook.SENSITIVITY_LIMIT[stock.kind]
            fallen = 0.01 if stock.kind == "extended red" else 0.1
            end = WAVELENGTHS[stock.sensitivity > fallen * stock.sensitivity.max()].max()
            self.assertTrue(low <= end <= high, (stock.name, end))


if __name__ == "__main__":
    unittest.main()
