import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.light.conversion import Conversion, Glass
from silvrin.core.light.lens_filter import MOST_FACTOR
from silvrin.core.recipe import FilmSettings, LightSettings, Recipe
from silvrin.core.render import code
from silvrin.core.spectra.illuminants import light, rgb_responses
from silvrin.core.spectra.recovery import recover
from silvrin.core.spectra.tables import FOLIAGE_CHROMATICITY, FOLIAGE_SHAPES, FOLIAGE_SPREAD
from tests.published.leaves import foliage, foliage_in_light
from tests.published.spectra import bt2020, patches

FILTERS = ("none", "8", "15", "25", "58", "47")
SEEN = ("fern-50", "larch-100", "rowan-200")  # films that see what a camera sees


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
    by_table = path[Conversion].expose(code(capture, 1 / 65535))[0]
    seen = light(temperature) * path.things.stock.sensitivity
    through = seen * path[Glass].transmittance
    direct = patches() @ through / through.sum() / 0.18
    return by_table - np.log2(direct)


class FilmExposureTest(unittest.TestCase):
    def test_exposures_of_published_patches(self) -> None:
        # 24 patch spectra (Ohta 1997) against direct integration. Limits: the project's own
        # measurement of smoothest-spectrum recovery, which this has to beat.
        rest = []
        for stock in SEEN:
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
                path = shelf.light_path(recipe)
                if path[Glass].filter_factor == MOST_FACTOR:
                    continue  # blind behind it
                exposure = path[Conversion].expose(code(grey, 1 / 65535))
                self.assertLess(np.abs(exposure).max(), 0.01, (stock, lens_filter))


class InfraredTest(unittest.TestCase):
    """Beyond what a camera sees: what is known of foliage and sky."""

    def exposures(self, spectra: np.ndarray, lens_filter: str) -> tuple[np.ndarray, np.ndarray]:
        """log2 H on infrared film as found from colour, and by the spectra themselves."""
        recipe = Recipe(
            light=LightSettings(temperature=6500, lens_filter=lens_filter),
            film=FilmSettings(stock="juniper-200"),
        )
        path = shelf.light_path(recipe)
        rgb = spectra @ rgb_responses().T
        capture = np.rint(np.clip(rgb, 0, 1) * 65535).astype(np.uint16)[None]
        through = light(6500) * path.things.stock.sensitivity * path[Glass].transmittance
        direct = spectra @ through / through.sum() / 0.18
        return path[Conversion].expose(code(capture, 1 / 65535))[0], np.log2(direct)

    def test_leaves_are_near_white_behind_89b(self) -> None:
        # leaves and canopies of PROSPECT and 4SAIL: those that reflect over 40 %
        spectra = foliage()
        bright = spectra[spectra[:, 45] > 0.4]
        found, true = self.exposures(bright, "89b")
        self.assertGreater(np.median(found), 0.75)  # stops above middle grey
        self.assertLess(np.median(np.abs(found - true)), 0.75)
        unfiltered = self.exposures(bright, "58")[0]
        self.assertGreater(np.median(found - unfiltered), 1.5)  # than green light shows them

    def test_open_sky_falls_by_rayleighs_law(self) -> None:
        # Rayleigh 1871: radiance as the wavelength to the power of -4, less with haze
        wavelength = np.arange(380, 901, 10) / 560.0
        sky = 0.2 * wavelength ** -np.array([[2.0], [3.0], [4.0]])
        for lens_filter in ("25", "89b", "87"):
            found, true = self.exposures(sky, lens_filter)
            np.testing.assert_allclose(found, true, atol=0.25)
            self.assertTrue((np.diff(found) < 0).all())

    def test_tables_of_foliage(self) -> None:
        # computed anew from the models
        rgb = foliage_in_light() @ rgb_responses().T
        colour = np.log(rgb[:, [0, 2]] / rgb[:, 1:2])
        mean = colour.mean(axis=0)
        np.testing.assert_allclose(FOLIAGE_CHROMATICITY, mean, rtol=1e-3)
        np.testing.assert_allclose(FOLIAGE_SPREAD, np.cov(colour.T), rtol=1e-3)
        known = np.column_stack([np.ones(len(colour)), colour - mean])
        shapes = np.linalg.lstsq(known, np.log(foliage_in_light() / rgb[:, 1:2]), rcond=None)[0]
        np.testing.assert_allclose(FOLIAGE_SHAPES, shapes, atol=2e-3)


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
