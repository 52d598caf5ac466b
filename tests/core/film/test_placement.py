import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.development.developer import DEVELOPERS
from silvrin.core.development.negative import Developing, Negative
from silvrin.core.film.curve import characteristic_curve
from silvrin.core.film.placement import development_for
from silvrin.core.film.zones import zone_log_exposure
from silvrin.core.picture import LinearPicture
from silvrin.core.places import PicturePixel
from silvrin.core.recipe import (
    CaptureSettings,
    DevelopmentSettings,
    FilmSettings,
    LightSettings,
    MeteredSpot,
    Recipe,
)
from silvrin.core.render import Darkroom, Sitting, placing_for
from silvrin.core.settings import range_of


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

    def test_placing_is_exact_whatever_lies_before_the_film(self) -> None:
        light = np.full((120, 180, 3), 900, np.uint16)
        light[:, 90:] = 30000
        light[40:80, 30:60] = 5000
        picture = LinearPicture.with_pyramid(light, 1 / 65535)
        before = (
            {},
            {"capture": CaptureSettings(open_shadows=2.0, rein_highlights=1.5)},
            {"light": LightSettings(soft_focus=0.9, soft_on="highlights")},
            {"film": FilmSettings(halation=2.0, exposure_index=800, placement=-3)},
            {"light": LightSettings(haze=-0.6), "capture": CaptureSettings(open_shadows=1.0)},
        )
        for more in before:
            for zone in (0.0, 3.0, 6 + 1 / 3, 9.0):
                recipe = Recipe(**more)
                sitting = Sitting("p", picture, shelf.light_path(recipe))
                place = PicturePixel(45, 60)
                found = placing_for(Darkroom(), sitting, place, 4, zone)
                film = recipe.film.model_copy(update={"placement": found.placement})
                placed = shelf.light_path(recipe.model_copy(update={"film": film}))
                read = Darkroom().spot(Sitting("p", picture, placed), place, 4).zone
                self.assertAlmostEqual(read, zone, delta=0.01, msg=f"{more} {zone}")
                self.assertAlmostEqual(found.zone, read, delta=1e-6)
        # beyond the range it says what is reached
        far = Recipe(film=FilmSettings(exposure_index=6400))
        sitting = Sitting("p", picture, shelf.light_path(far))
        dark = placing_for(Darkroom(), sitting, PicturePixel(5, 5), 4, 11.0)
        self.assertEqual(dark.placement, range_of(FilmSettings, "placement")[1])
        self.assertLess(dark.zone, 10.0)

    def test_the_measuring_circle_is_a_circle(self) -> None:
        y, x = np.mgrid[0:41, 0:41]
        lit = (x - 20) ** 2 + (y - 20) ** 2 <= 10.5**2
        light = np.where(lit, 9000, 60000)[..., None].repeat(3, axis=2).astype(np.uint16)
        sitting = Sitting("c", LinearPicture([light], 1 / 65535), shelf.light_path(Recipe()))
        inside = Darkroom().spot(sitting, PicturePixel(20, 20), 10)
        self.assertAlmostEqual(inside.stops, np.log2(9000 / 65535 / 0.18), delta=1e-3)
        # at an edge, the part of the circle that is there
        corner = Darkroom().spot(sitting, PicturePixel(0, 0), 10)
        self.assertAlmostEqual(corner.stops, np.log2(60000 / 65535 / 0.18), delta=1e-3)

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

    def test_a_proposal_holds_in_the_developer_that_is_used(self) -> None:
        for stock in shelf.stocks().values():
            for kind in DEVELOPERS:
                found = development_for(stock, 9.0, 8.0, DEVELOPERS[kind])
                settings = DevelopmentSettings(developer=kind, n=round(found.n, 4))
                film = FilmSettings(stock=stock.id)
                got, normal = (
                    shelf.light_path(Recipe(film=film, development=d))[Developing].density(
                        zone_log_exposure(zone)
                    )
                    for d, zone in (
                        (settings, 9.0), (DevelopmentSettings(developer=kind), found.lands_on),
                    )
                )  # fmt: skip
                self.assertAlmostEqual(float(got), float(normal), delta=0.003, msg=stock.id + kind)
                if found.reached:
                    self.assertAlmostEqual(found.lands_on, 8.0, delta=0.02)

    def test_zones_and_n_numbers_meet_at_one_exposure_index(self) -> None:
        # Zone VIII at N, IX at N-1, X at N-2, VII at N+1, VI at N+2: one density (handbooks of the
        # zone system, from memory)
        for stock in shelf.stocks().values():
            densities = []
            for n, zone in ((0, 8), (-1, 9), (-2, 10), (1, 7), (2, 6)):
                if not stock.least_n <= n <= stock.most_n:
                    continue
                recipe = Recipe(
                    film=FilmSettings(stock=stock.id), development=DevelopmentSettings(n=n)
                )
                developing = shelf.light_path(recipe)[Developing]
                densities.append(float(developing.density(zone_log_exposure(zone))))
            self.assertLess(np.ptp(densities), 0.03, stock.id)
            self.assertGreaterEqual(len(densities), 3)

    def test_development_ends_where_the_stock_does(self) -> None:
        for stock in shelf.stocks().values():
            for n, most in ((-2.0, stock.least_n), (2.0, stock.most_n)):
                recipe = Recipe(
                    film=FilmSettings(stock=stock.id), development=DevelopmentSettings(n=n)
                )
                self.assertEqual(shelf.light_path(recipe)[Developing].n, most)


if __name__ == "__main__":
    unittest.main()
