import unittest
from itertools import product

import numpy as np

from silvrin import shelf
from silvrin.core.development.developer import DEVELOPERS, developed_shape
from silvrin.core.film.curve import characteristic_curve
from silvrin.core.film.sensitometry import exposure_at
from silvrin.core.film.zones import zone_log_exposure
from tests.published import handbook


class CharacteristicCurveTest(unittest.TestCase):
    def test_normal_development_obeys_the_zone_system(self) -> None:
        # Zone-system handbooks (from memory)
        for stock in shelf.stocks().values():
            curve = characteristic_curve(stock.curve)
            net = curve.density([zone_log_exposure(1), zone_log_exposure(8)])
            net -= stock.curve.base_fog
            self.assertAlmostEqual(net[0], handbook.ZONE_I, delta=0.002)
            self.assertTrue(handbook.ZONE_VIII[0] <= net[1] <= handbook.ZONE_VIII[1], net)

    def test_development_moves_the_zone_that_reaches_the_normal_range(self) -> None:
        # N-1 maps eight stops on the range of seven, N+1 six (definition of N numbers)
        for stock, kind in product(shelf.stocks().values(), DEVELOPERS.values()):
            shape = developed_shape(stock.curve, kind)
            for n in (-2, -1, 0, 0.5, 1, 2):  # nine to five stops
                curve = characteristic_curve(shape, n, kind.speed)
                ends = [1 - 0.3 * n - kind.speed, 8 - n]
                net = np.diff(curve.density([zone_log_exposure(z) for z in ends]))
                self.assertAlmostEqual(float(net[0]), 1.20, delta=0.03, msg=(stock.name, kind.kind))
        shape = shelf.stocks()["larch-100"].curve
        speeds = [characteristic_curve(shape, n).density(zone_log_exposure(1)) for n in (-1, 0, 1)]
        self.assertEqual(sorted(speeds), speeds)  # more development, more speed

    def test_developers_change_things_in_the_known_directions(self) -> None:
        # Textbooks; directions only
        stock = shelf.stocks()["alder-125"]

        def curve(kind: str, n: float = 0.0):
            developer = DEVELOPERS[kind]
            shape = developed_shape(stock.curve, developer)
            self.assertAlmostEqual(shape.base_fog - stock.curve.base_fog, developer.fog, places=9)
            return characteristic_curve(shape, n, developer.speed)

        speed = {k: 10 ** -exposure_at(curve(k), 0.10) for k in DEVELOPERS}
        self.assertAlmostEqual(np.log2(speed["fine-grain"] / speed["general"]), -0.5, delta=0.02)
        gained = np.log2(speed["speed-increasing"] / speed["general"])
        self.assertAlmostEqual(gained, 0.67, delta=0.02)
        bright = [curve(k).density(zone_log_exposure(11)) for k in ("compensating", "general")]
        self.assertLess(bright[0], bright[1] - 0.15)
        for n in (-2, 0, 2):
            for kind in DEVELOPERS:
                steps = np.diff(curve(kind, n).density(np.linspace(-6, 5, 500)))
                self.assertGreaterEqual(steps.min(), -1e-7, kind)
        acute, fine = DEVELOPERS["high acutance"], DEVELOPERS["fine-grain"]
        self.assertTrue(fine.granularity < 1 < acute.granularity)
        self.assertTrue(fine.edge == 0 < acute.edge)

    def test_monotonic_from_fog_to_shoulder(self) -> None:
        for stock in shelf.stocks().values():
            for n in (-2, 0, 2):
                density = characteristic_curve(stock.curve, n).density(np.linspace(-6, 5, 500))
                self.assertGreaterEqual(np.diff(density).min(), -1e-9)  # rounding
                self.assertAlmostEqual(density[0], stock.curve.base_fog, delta=1e-3)


if __name__ == "__main__":
    unittest.main()
