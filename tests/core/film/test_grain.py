import unittest

import cv2
import numpy as np

from silvrin import shelf
from silvrin.core.development.negative import Negative
from silvrin.core.film.grain import APERTURE, grain_of, tile
from silvrin.core.picture import LinearPicture, View
from silvrin.core.plate import Grid, Plate
from silvrin.core.recipe import FilmSettings, Recipe
from silvrin.core.render import Darkroom, Sitting, strips
from tests.published.boolean_grain import spectrum

WIDE = 12_000  # pixels over 36 mm: 3 µm each


def negative(stock: str, density: float, **film: object) -> np.ndarray:
    """An evenly exposed negative at that density above base, 3 µm a pixel."""
    path = shelf.light_path(Recipe(film=FilmSettings(stock=stock, **film)))
    even = np.full((1500, 1500), path.things.stock.curve.base_fog + density, np.float32)
    return path[Negative].with_grain(Plate(even, Grid(0, 0, 1.0, 1.0, 0, WIDE, 8))).pixels


def through(densities: np.ndarray, aperture: float) -> float:
    """Standard deviation of what a densitometer reads through a circular aperture, µm."""
    side = int(aperture / 3.0) + 3
    y, x = np.mgrid[0:side, 0:side] - (side - 1) / 2
    parts = (np.arange(8) - 3.5) / 8
    inside = [np.hypot(x + i, y + j) * 3.0 < aperture / 2 for i in parts for j in parts]
    disc = np.mean(inside, axis=0)
    read = cv2.filter2D(densities, cv2.CV_32F, (disc / disc.sum()).astype(np.float32))
    return float(read[60:-60, 60:-60].std())


class GranularityTest(unittest.TestCase):
    def test_rms_granularity_of_every_stock(self) -> None:
        # ISO 10505 (from memory): 1000 × deviation at density 1.0 through 48 µm
        for stock in shelf.stocks().values():
            found = 1000 * through(negative(stock.id, 1.0), APERTURE)
            self.assertAlmostEqual(found / stock.granularity, 1.0, delta=0.05, msg=stock.name)

    def test_selwyns_law_and_growth_with_density(self) -> None:
        # Selwyn 1935: deviation × root of area is constant; Nutting 1913: grows as root of density
        larch = negative("larch-100", 1.0)
        products = [through(larch, a) * a for a in (24.0, 48.0, 100.0, 200.0)]
        np.testing.assert_allclose(products, products[1], rtol=0.05)
        thin = through(negative("larch-100", 0.25), APERTURE)
        self.assertAlmostEqual(thin / through(larch, APERTURE), 0.5, delta=0.02)

    def test_a_larger_negative_has_finer_grain_in_the_print(self) -> None:
        small, large = (
            through(negative("larch-100", 1.0, film_format=f), 48.0) for f in ("35 mm", "4 × 5 in")
        )
        self.assertAlmostEqual(small / large, 121 / 36, delta=0.2)


class StochasticModelTest(unittest.TestCase):
    def test_power_spectrum_beside_the_published_boolean_model(self) -> None:
        # Newson, Delon, Galerne 2017 (from memory): discs, tabular grains nearly of one size and
        # with the second moment of our spots (radius twice the spread), cubic ones log-normal
        side = 2048
        for kind, radius, spread, within in (
            ("tabular", 2.0, 0.1, 0.06),
            ("cubic", 1.1, 0.4, 0.08),
        ):
            noise = tile(grain_of(3.6, kind), 1.0)
            power = np.abs(np.fft.fft2(noise)) ** 2 / noise.size
            frequency = np.hypot(*np.meshgrid(*(np.fft.fftfreq(side),) * 2))
            edges = np.linspace(0.0, 0.25, 26)
            place = np.digitize(frequency.ravel(), edges)
            ours = [power.ravel()[place == i].mean() for i in range(1, 26)]
            middles = 0.5 * (edges[1:] + edges[:-1])
            published = spectrum(radius * 3.6, spread, 0.5, middles)
            self.assertLess(np.abs(ours - published).max(), within, kind)

    def test_departing_by_hand(self) -> None:
        plain = through(negative("willow-400", 1.0), APERTURE)
        fine = through(negative("willow-400", 1.0), 9.0)
        soft = negative("willow-400", 1.0, grain_softness=1)
        self.assertLess(through(soft, 9.0), 0.75 * fine)
        self.assertGreater(through(soft, 200.0) * 200, 0.97 * plain * APERTURE)
        # clumps: the same granularity, more of it in coarse structure
        clumped, even = (negative("willow-400", 1.0, grain_evenness=e) for e in (-1, 1))
        self.assertAlmostEqual(through(clumped, APERTURE) / plain, 1, delta=0.05)
        coarse = [through(n, APERTURE) / through(n, 9.0) for n in (clumped, even)]
        self.assertGreater(coarse[0], 1.02 * coarse[1])
        strong = through(negative("willow-400", 1.0, grain=2.0), APERTURE)
        self.assertAlmostEqual(strong / plain, 2.0, delta=0.05)


class SizesTest(unittest.TestCase):
    def test_a_preview_has_the_grain_of_the_reduced_print(self) -> None:
        light = np.full((1600, 2400, 3), 9000, np.uint16)
        picture = LinearPicture.with_pyramid(light, 1 / 65535)
        path = shelf.light_path(Recipe(film=FilmSettings(stock="rowan-200")))
        full = np.concatenate(list(strips(Sitting("s", picture, path), bits=8))).astype(np.float32)
        for reduction in (2, 3, 5):
            size = (2400 // reduction, 1600 // reduction)
            shown = Darkroom().view(Sitting("x", picture, path), View(0, 0, 2400, 1600, *size))
            area = full[: size[1] * reduction, : size[0] * reduction]
            reduced = cv2.resize(area, size, interpolation=cv2.INTER_AREA)
            self.assertAlmostEqual(shown.std() / reduced.std(), 1.0, delta=0.05)


if __name__ == "__main__":
    unittest.main()
