import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.development.negative import Negative
from silvrin.core.film.curve import characteristic_curve
from silvrin.core.film.placement import development_for
from silvrin.core.film.zones import zone_log_exposure
from silvrin.core.picture import LinearPicture
from silvrin.core.places import PicturePixel
from silvrin.core.recipe import FilmSettings, MeteredSpot, Recipe
from silvrin.core.render import Darkroom, Sitting


class PlacementTest(unittest.TestCase):
    def test_a_spot_placed_on_a_zone_reads_that_zone(self) -> None:
        light = np.full((30, 30, 3), 900, np.uint16)
        light[:, 15:] = 30000
        picture = LinearPicture([light], 1 / 65535)
        room = Darkroom()
        # an evenly lit neutral of 18 % lies on Zone V, a stop a zone (definition of zones)
        falls = 5 + np.log2(900 / 65535 / 0.18)
        plain = Sitting("p", picture, shelf.light_path(Recipe()))
        self.assertAlmostEqual(room.spot(plain, PicturePixel(5, 5), 4).zone, falls, delta=0.01)
        for zone in (1, 3, 5.5, 8):
            film = FilmSettings(
                placement=zone - falls,
                spots=(MeteredSpot(letter="A", x=5, y=5, placed=zone),),
            )
            path = shelf.light_path(Recipe(film=film))
            found = room.spot(Sitting("p", picture, path), PicturePixel(5, 5), 4).zone
            self.assertAlmostEqual(found, zone, delta=0.01)
            # the other falls as many stops above as the light is apart
            apart = np.log2(30000 / 900)
            other = room.spot(Sitting("p", picture, path), PicturePixel(25, 5), 4).zone
            self.assertAlmostEqual(other, zone + apart, delta=0.01)

    def test_spots_are_only_read(self) -> None:
        film = FilmSettings(spots=(MeteredSpot(letter="A", x=1, y=2),))
        with_spot, without = (shelf.light_path(Recipe(film=f)) for f in (film, FilmSettings()))
        self.assertIs(with_spot[Negative], without[Negative])

    def test_proposed_development_brings_the_spot_to_its_zone(self) -> None:
        # N numbers of the zone system: N-1 brings Zone IX to VIII, N+1 Zone VII to VIII
        for stock in shelf.stocks().values():
            self.assertAlmostEqual(development_for(stock, 9, 8).n, -1, delta=0.01)
            self.assertAlmostEqual(development_for(stock, 7, 8).n, 1, delta=0.01)
            for zone, target in ((9.5, 8), (8.4, 7.5), (6.5, 7)):
                found = development_for(stock, zone, target)
                if not found.reached:  # as far as this stock can go
                    self.assertAlmostEqual(found.n, stock.least_n)
                    self.assertGreater(stock.least_n, -1.5)
                    continue
                self.assertAlmostEqual(found.speed, 0.3 * found.n)
                developed = characteristic_curve(stock.curve, found.n)
                normal = characteristic_curve(stock.curve)
                got = developed.density(zone_log_exposure(zone))
                low, high = (normal.density(zone_log_exposure(target + d)) for d in (-0.1, 0.1))
                self.assertTrue(low <= got <= high)
            far = development_for(stock, 12, 8)
            self.assertEqual((round(far.n, 6), far.reached), (stock.least_n, False))
            self.assertTrue(8 < far.lands_on < 12)


if __name__ == "__main__":
    unittest.main()
