import unittest

import cv2
import numpy as np

from silvrin import shelf
from silvrin.core.film.grain import APERTURE
from silvrin.core.picture import LinearPicture, View
from silvrin.core.recipe import FilmSettings, Recipe
from silvrin.core.render import Darkroom, strips, with_grain
from silvrin.core.underlay import Grid

WIDE = 12_000  # pixels over 36 mm: 3 µm each


def negative(stock: str, density: float, **film: object) -> np.ndarray:
    """An evenly exposed negative at that density above base, 3 µm a pixel."""
    path = shelf.light_path(Recipe(film=FilmSettings(stock=stock, **film)))
    even = np.full((1500, 1500), path.stock.curve.base_fog + density, np.float32)
    return with_grain(even, path, Grid(0, 0, 1.0, 1.0, 0, WIDE, 8))


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


class SizesTest(unittest.TestCase):
    def test_a_preview_has_the_grain_of_the_reduced_print(self) -> None:
        light = np.full((1600, 2400, 3), 9000, np.uint16)
        picture = LinearPicture.with_pyramid(light, 1 / 65535)
        path = shelf.light_path(Recipe(film=FilmSettings(stock="rowan-200")))
        full = np.concatenate(list(strips(picture, path, bits=8))).astype(np.float32)
        for reduction in (2, 3, 5):
            size = (2400 // reduction, 1600 // reduction)
            shown = Darkroom().view("x", picture, path, View(0, 0, 2400, 1600, *size))
            area = full[: size[1] * reduction, : size[0] * reduction]
            reduced = cv2.resize(area, size, interpolation=cv2.INTER_AREA)
            self.assertAlmostEqual(shown.std() / reduced.std(), 1.0, delta=0.05)


if __name__ == "__main__":
    unittest.main()
