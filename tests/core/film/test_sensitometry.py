import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.film.curve import characteristic_curve
from silvrin.core.film.sensitometry import (
    contrast_index,
    fit_wedge,
    index_of,
    speed_point,
    stock_from,
)
from silvrin.core.film.speed import index_in, iso_speed, zone_index
from silvrin.errors import BadItem

WEDGE = -2.4 + 0.05 * np.arange(85)  # log10 exposure, from Zone V; finely, as ISO 6 interpolates


class IsoSpeedTest(unittest.TestCase):
    def test_every_stock_by_the_iso_6_procedure(self) -> None:
        # ISO 6:1993 (from memory): S = 0.80 / Hm in lx·s at 0.10 above base and fog, developed so
        # that density rises by 0.80 over the next 1.30. A meter set to an index gives middle grey
        # 10 / EI lx·s (ISO 2721, from memory); at the zone index that is Zone V, H = 1.
        for stock in shelf.stocks().values():
            zone_v = np.log10(10.0 / zone_index(stock))
            found = []
            for n in np.linspace(-1, 1.5, 51):  # development is tried until the rise is right
                density = characteristic_curve(stock.curve, n).density(WEDGE)
                point = speed_point(WEDGE + zone_v, density)
                found.append((abs(point.rise - 0.80), n, point))
            _, n, point = min(found, key=lambda f: f[0])
            self.assertAlmostEqual(point.rise, 0.80, delta=0.02, msg=stock.name)
            self.assertTrue(-0.1 < n < 1.3, (stock.name, n))  # ISO develops more than N
            self.assertLess(abs(np.log2(point.speed / stock.speed)), 1 / 6, stock.name)
            # zone workers rate a film about two thirds of a stop below its label (common practice)
            self.assertAlmostEqual(np.log2(stock.speed / zone_index(stock)), 2 / 3, delta=0.1)
            # and find Zone I at 0.10 with N there, a stop a zone below the metered grey
            normal = characteristic_curve(stock.curve)
            zone_i = float(normal.density(-4 * np.log10(2.0))) - stock.curve.base_fog
            self.assertAlmostEqual(zone_i, 0.10, delta=0.002)
            self.assertAlmostEqual(index_in(stock, normal), zone_index(stock), delta=0.01)
            self.assertAlmostEqual(iso_speed(stock.curve, 10.0**zone_v), stock.speed, delta=0.01)
            # the slope ISO 6 asks for over its 1.30
            self.assertAlmostEqual(point.rise / 1.30, 0.62, delta=0.02)

    def test_a_wedge_that_does_not_reach(self) -> None:
        with self.assertRaisesRegex(BadItem, "0.10 over base and fog"):
            speed_point(np.arange(8.0), np.full(8, 0.5))
        short = np.arange(0, 1.2, 0.15)
        with self.assertRaisesRegex(BadItem, "1.30 more"):
            speed_point(short, 0.1 + 0.6 * np.maximum(short - 0.3, 0))


class ContrastIndexTest(unittest.TestCase):
    def test_a_straight_line_from_fog_has_its_slope(self) -> None:
        # A line that leaves base and fog at a point: arcs about that very point (definition)
        for slope in (0.4, 0.58, 0.9):
            found = contrast_index(lambda h, s=slope: 0.1 + s * max(h, 0.0), 0.1, -1.0, 1.0)
            self.assertAlmostEqual(found, slope, delta=0.01)

    def test_it_rises_with_development(self) -> None:
        # N is near 0.56-0.60 for a diffuse head (zone-system handbooks, from memory)
        shape = shelf.stocks()["larch-100"].curve
        indices = [index_of(characteristic_curve(shape, n)) for n in (-1, 0, 1)]
        self.assertEqual(indices, sorted(indices))
        self.assertAlmostEqual(indices[1], 0.58, delta=0.03)


class WedgeFitTest(unittest.TestCase):
    def test_a_known_curve_is_recovered_under_noise(self) -> None:
        rng = np.random.default_rng(5)
        steps = -2.1 + 0.15 * np.arange(24)
        for name, n in (("larch-100", 0.0), ("willow-400", 0.8), ("yarrow-25", -0.7)):
            shape = shelf.stocks()[name].curve
            known = characteristic_curve(shape, n)
            measured = known.density(steps) + rng.normal(0, 0.01, len(steps))
            fit = fit_wedge(steps + 0.3, measured)
            self.assertLess(fit.rms, 0.013)
            fine = np.linspace(-1.8, 0.9, 200)
            off = fit.density(fine + 0.3) - known.density(fine)
            self.assertLess(np.sqrt(np.mean(off**2)), 0.008, name)
            # as a stock: the development it had, Zone V, and the family's curve
            stock = stock_from(fit)
            # 0.01 D at the speed point is a thirtieth in log H, a sixth of an N; the fit halves it
            self.assertAlmostEqual(stock.n, n, delta=0.2)
            self.assertAlmostEqual(stock.zone_v, 0.3, delta=0.05)
            again = characteristic_curve(stock.shape, stock.n)
            off = again.density(fine + 0.3 - stock.zone_v) - known.density(fine)
            self.assertLess(np.abs(off).max(), 0.05, name)

    def test_what_is_no_wedge(self) -> None:
        with self.assertRaisesRegex(BadItem, "at least 6"):
            fit_wedge(np.arange(3.0), np.array([0.1, 0.4, 0.9]))
        with self.assertRaisesRegex(BadItem, "hardly|only from"):
            fit_wedge(np.arange(9.0), np.full(9, 0.2))
        six = 0.15 * np.arange(6.0)
        with self.assertRaisesRegex(BadItem, "from 0.10 to 0.39"):
            fit_wedge(six, np.linspace(0.1, 0.39, 6))
        self.assertLess(fit_wedge(six, np.linspace(0.1, 0.41, 6)).rms, 0.02)
        thin = 0.1 + 0.3 * np.clip(np.arange(0, 3, 0.15) - 0.5, 0, 1.5)
        with self.assertRaisesRegex(BadItem, "1.30"):
            stock_from(fit_wedge(np.arange(0, 3, 0.15), thin))


if __name__ == "__main__":
    unittest.main()
