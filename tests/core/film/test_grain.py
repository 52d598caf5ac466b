import unittest

import cv2
import numpy as np

from silvrin import shelf
from silvrin.core.development.negative import Negative
from silvrin.core.film.grain import APERTURE, SIDE, grain_of, tile
from silvrin.core.picture import LinearPicture, View
from silvrin.core.plate import Grid, Plate
from silvrin.core.recipe import FilmSettings, Recipe
from silvrin.core.render import Darkroom, Sitting, strips
from tests.published.boolean_grain import spectrum


def negative(stock: str, density: float, pitch: float = 3.0, **film: object) -> np.ndarray:
    """An evenly exposed negative at that density above base, so many µm a pixel."""
    path = shelf.light_path(Recipe(film=FilmSettings(stock=stock, **film)))
    even = np.full((SIDE, SIDE), path.things.stock.curve.base_fog + density, np.float32)
    return (
        path[Negative]
        .with_grain(Plate(even, Grid(0, 0, 1.0, 1.0, 0, round(36_000 / pitch), 8)))
        .pixels
    )


def through(densities: np.ndarray, disc: np.ndarray) -> float:
    """Standard deviation of what a densitometer reads through an aperture of pixels (H, W)."""
    read = cv2.filter2D(densities, cv2.CV_32F, (disc / disc.sum()).astype(np.float32))
    return float(read[60:-60, 60:-60].std())


def granularity(densities: np.ndarray, aperture: float, pitch: float = 3.0) -> float:
    """1000 × the deviation through a circular aperture, µm, made as if through 48 µm by its area:
    whole pixels, so that the area is known."""
    side = int(aperture / pitch) | 1
    disc = np.hypot(*(np.mgrid[0:side, 0:side] - side // 2)) * pitch < aperture / 2
    area = disc.sum() * pitch**2
    return 1000 * through(densities, disc) * float(np.sqrt(area / (np.pi / 4 * APERTURE**2)))


class GranularityTest(unittest.TestCase):
    def test_rms_granularity_and_selwyns_law_for_every_stock(self) -> None:
        # ISO 10505 (from memory): 1000 × deviation at density 1.0 through 48 µm; Selwyn 1935:
        # deviation × root of the aperture's area is constant
        for stock in shelf.stocks().values():
            finely, widely = (negative(stock.id, 1.0, pitch) for pitch in (2.0, 6.0))
            read = [granularity(finely, a, 2.0) for a in (24.0, 48.0)]
            read += [granularity(widely, a, 6.0) for a in (100.0, 200.0)]
            found = np.array(read) / stock.granularity
            np.testing.assert_allclose(found, 1.0, atol=0.05, err_msg=stock.name)
            np.testing.assert_allclose(found / found[1], 1.0, atol=0.05, err_msg=stock.name)

    def test_it_grows_as_the_root_of_density(self) -> None:
        # Nutting 1913
        thin, dense = (granularity(negative("larch-100", d), APERTURE) for d in (0.25, 1.0))
        self.assertAlmostEqual(thin / dense, 0.5, delta=0.02)

    def test_a_larger_negative_has_finer_grain_in_the_print(self) -> None:
        small, large = (
            granularity(negative("larch-100", 1.0, film_format=f), APERTURE)
            for f in ("35 mm", "4 × 5 in")
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
        willow = {"stock": "willow-400", "density": 1.0}
        plain = granularity(negative(**willow), APERTURE)
        # soft edges: what is small goes, coarse stays
        soft = negative(**willow, grain_softness=1)
        self.assertLess(granularity(soft, 9.0), 0.85 * granularity(negative(**willow), 9.0))
        self.assertGreater(granularity(soft, 200.0), 0.97 * plain)
        # clumps: the same granularity, more of it in coarse structure
        clumped, even = (negative(**willow, grain_evenness=e) for e in (-1, 1))
        self.assertAlmostEqual(granularity(clumped, APERTURE) / plain, 1, delta=0.05)
        coarse = [granularity(n, APERTURE) / granularity(n, 9.0) for n in (clumped, even)]
        self.assertGreater(coarse[0], 1.02 * coarse[1])
        strong = granularity(negative(**willow, grain=2.0), APERTURE)
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
