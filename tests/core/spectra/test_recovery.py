import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.recipe import FilmSettings, LightSettings, Recipe
from silvrin.core.render import code, expose
from silvrin.core.spectra.illuminants import light, rgb_responses
from silvrin.core.spectra.recovery import recover
from tests.published.spectra import bt2020, patches

FILTERS = ("none", "8", "15", "25", "58", "47")


def film_errors(stock: str, lens_filter: str, temperature: float = 5500) -> np.ndarray:
    """Stops by which the exposure of each published patch, computed through BT.2020 numbers, the
    16-bit capture and the table, departs from direct integration over its spectrum."""
    recipe = Recipe(
        light=LightSettings(temperature=temperature, lens_filter=lens_filter),
        film=FilmSettings(stock=stock),
    )
    path = shelf.light_path(recipe)
    rgb = np.clip(bt2020(patches()), 0, None)
    capture = np.rint(rgb * 65535).astype(np.uint16)[None]
    by_table = expose(code(capture, 1 / 65535), path)[0]
    seen = light(temperature) * path.stock.sensitivity
    through = seen * path.transmittance
    direct = patches() @ through / through.sum() / 0.18
    return by_table - np.log2(direct)


class FilmExposureTest(unittest.TestCase):
    def test_exposures_of_published_patches(self) -> None:
        # 24 patch spectra (Ohta 1997) against direct integration. Limits: the project's own
        # measurement of smoothest-spectrum recovery, which this has to beat.
        rest = []
        for stock in shelf.stocks():
            for lens_filter in FILTERS:
                errors = np.abs(film_errors(stock, lens_filter))
                if (stock, lens_filter) == ("rowan-200", "25"):
                    self.assertLess(np.percentile(errors, 95), 0.4)
                else:
                    rest.append(errors)
        self.assertLess(np.median(rest), 0.04)
        self.assertLess(np.percentile(rest, 95), 0.2)

    def test_in_tungsten_light_too(self) -> None:
        errors = np.abs([film_errors("larch-100", f, 3200) for f in FILTERS])
        self.assertLess(np.median(errors), 0.04)
        self.assertLess(np.percentile(errors, 95), 0.2)

    def test_neutrals_stay_neutral_behind_every_filter(self) -> None:
        grey = np.full((1, 4, 3), 11796, np.uint16)  # 18 %
        for stock in shelf.stocks():
            for lens_filter in FILTERS:
                recipe = Recipe(
                    light=LightSettings(lens_filter=lens_filter), film=FilmSettings(stock=stock)
                )
                exposure = expose(code(grey, 1 / 65535), shelf.light_path(recipe))
                self.assertLess(np.abs(exposure).max(), 0.01, (stock, lens_filter))


class RecoverTest(unittest.TestCase):
    def test_round_trip_of_colour(self) -> None:
        rng = np.random.default_rng(3)
        colours = rng.dirichlet((1.2, 1.2, 1.2), 300) * rng.uniform(0.05, 3, (300, 1))
        colours = colours[colours.min(axis=1) > 0.02 * colours.sum(axis=1)]
        spectra = recover(colours)
        self.assertGreater(spectra.min(), 0)
        np.testing.assert_allclose(spectra @ rgb_responses().T, colours, rtol=2e-3, atol=1e-4)

    def test_scale_is_kept_and_grey_is_flat(self) -> None:
        one = recover(np.array([[0.2, 0.3, 0.1]]))
        np.testing.assert_allclose(recover(np.array([[2.0, 3.0, 1.0]])), 10 * one, rtol=1e-9)
        grey = recover(np.array([[0.5, 0.5, 0.5]]))
        self.assertLess(np.ptp(grey), 0.02)

    def test_black_is_refused(self) -> None:
        with self.assertRaisesRegex(ValueError, "positive sum"):
            recover(np.zeros((1, 3)))


if __name__ == "__main__":
    unittest.main()
