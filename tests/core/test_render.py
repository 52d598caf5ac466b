import unittest
from itertools import product
from unittest import mock

import cv2
import numpy as np

from silvrin import shelf
from silvrin.core import kernels, render
from silvrin.core.development.negative import Developing
from silvrin.core.enlarger.exposure import lamp
from silvrin.core.enlarger.projection import Projection
from silvrin.core.film.curve import characteristic_curve
from silvrin.core.film.speed import zone_index
from silvrin.core.light.conversion import Conversion, Glass
from silvrin.core.paper.curve import paper_curve
from silvrin.core.picture import LinearPicture, View
from silvrin.core.places import PicturePixel
from silvrin.core.recipe import (
    CaptureSettings,
    DevelopmentSettings,
    FilmSettings,
    LightSettings,
    PaperSettings,
    Recipe,
)
from silvrin.core.render import (
    Darkroom,
    Sitting,
    code,
    held_zones,
    strips,
)
from silvrin.core.spectra.chromaticity import SIZE
from silvrin.core.tables import through
from silvrin.demo_job import demo_capture
from silvrin.errors import Dropped
from silvrin.files.capture import read_capture
from tests.sittings import plate


def smooth(width: int, height: int) -> np.ndarray:
    """A colourful picture without edges or noise, linear uint16."""
    rng = np.random.default_rng(2)
    coarse = rng.random((6, 8, 3)) ** 2
    picture = cv2.resize(coarse, (width, height), interpolation=cv2.INTER_CUBIC)
    return (np.clip(picture, 0.001, 1) * 60000).astype(np.uint16)


RED = Recipe(light=LightSettings(lens_filter="25"), paper=PaperSettings(grade=3.5))


class KernelTest(unittest.TestCase):
    def test_pixels_match_the_formulas_in_numpy(self) -> None:
        light = smooth(61, 47)
        light[0, :3] = [[0, 0, 0], [65535, 0, 0], [0, 0, 65535]]
        path = shelf.light_path(RED)
        exposure = path[Conversion].expose(code(light, 1 / 65535))

        rgb = np.maximum(light / 65535.0, 1e-8)
        total = rgb.sum(axis=-1)
        u, v = (rgb[..., c] / total * (SIZE - 1) for c in (0, 1))
        i, j = np.minimum(u.astype(int), SIZE - 2), np.minimum(v.astype(int), SIZE - 2)
        fu, fv = u - i, v - j
        t = path[Conversion].table.astype(float)
        table = (t[j, i] * (1 - fu) + t[j, i + 1] * fu) * (1 - fv)
        table += (t[j + 1, i] * (1 - fu) + t[j + 1, i + 1] * fu) * fv
        wanted = table + np.log2(np.maximum(total, kernels.DARKEST)) + path[Conversion].placement
        np.testing.assert_allclose(exposure[1:], wanted[1:], atol=2e-4)

        density = path[Developing].negative.density(exposure * np.log10(2.0))
        np.testing.assert_allclose(through(exposure, path[Developing].curve), density, atol=2e-4)
        reflectance = 10 ** -path.print_density(density)
        black = 10**-path.things.paper.net_density
        y = np.clip((reflectance - black) / (1 - black), 0, 1)
        # encoding by IEC 61966-2-1, written out once more here
        shown = np.where(y <= 0.0031308, 12.92 * y, 1.055 * y ** (1 / 2.4) - 0.055)
        printed = path.print_out(plate(through(exposure, path[Developing].curve)), 16)
        self.assertLess(np.abs(printed - shown * 65535).max(), 60)  # a quarter 8-bit step
        eight = path.print_out(plate(through(exposure, path[Developing].curve)))
        self.assertLess(np.abs(eight - shown * 255).max(), 0.8)

    def test_exposure_trim_index_and_factor_are_stops(self) -> None:
        coded = code(smooth(40, 30), 1 / 65535)

        def shift(recipe: Recipe) -> np.ndarray:
            plain = shelf.light_path(Recipe())[Conversion].expose(coded)
            return shelf.light_path(recipe)[Conversion].expose(coded) - plain

        trim = Recipe(capture=CaptureSettings(exposure=1.25))
        np.testing.assert_allclose(shift(trim), 1.25, atol=1e-5)
        index = zone_index(shelf.stocks()["larch-100"])
        rated = Recipe(film=FilmSettings(exposure_index=index / 4))
        np.testing.assert_allclose(shift(rated), 2.0, atol=1e-5)
        on, off = (
            shelf.light_path(Recipe(light=LightSettings(lens_filter="25", compensate=c)))[
                Conversion
            ].expose(coded)
            for c in (True, False)
        )
        factor = shelf.light_path(RED)[Glass].filter_factor
        np.testing.assert_allclose(on - off, np.log2(factor), atol=1e-4)


class ViewTest(unittest.TestCase):
    def test_full_size_in_strips_is_the_same_as_in_one_piece(self) -> None:
        picture = LinearPicture([smooth(301, 513)], 1 / 65535)
        path = shelf.light_path(RED)
        whole = np.concatenate(list(strips(Sitting("s", picture, path))))
        with mock.patch("silvrin.core.render.strips.STRIP_PIXELS", 301 * 40):
            pieces = list(strips(Sitting("s", picture, path)))
        self.assertGreater(len(pieces), 10)
        np.testing.assert_array_equal(np.concatenate(pieces), whole)

    def test_hundred_per_cent_is_what_is_delivered_to_the_pixel(self) -> None:
        picture = LinearPicture.with_pyramid(smooth(1500, 1100), 1 / 65535)
        path = shelf.light_path(RED)
        delivered = np.concatenate(list(strips(Sitting("s", picture, path), bits=8)))
        seen = Darkroom().view(Sitting("p", picture, path), View(300, 200, 640, 480, 640, 480))
        np.testing.assert_array_equal(seen, delivered[200:680, 300:940])

    def assert_preview_is_the_reduced_print(self, picture: LinearPicture) -> float:
        """Holds the mean; gives the largest difference of a pixel."""
        worst = 0.0
        for recipe in (Recipe(), RED):
            # its grain is another draw of the same noise; see film/test_grain.py
            smooth_film = FilmSettings(grain=0)
            path = shelf.light_path(recipe.model_copy(update={"film": smooth_film}))
            full = (
                np.concatenate(list(strips(Sitting("s", picture, path)))).astype(np.float32) / 257
            )
            view = picture.whole(807)
            seen = Darkroom().view(Sitting("p", picture, path), view)
            wanted = cv2.resize(
                full, (view.out_width, view.out_height), interpolation=cv2.INTER_AREA
            )
            difference = np.abs(seen - wanted)
            self.assertLess(difference.mean(), 0.5)
            worst = max(worst, float(difference.max()))
        return worst

    def test_preview_of_a_smooth_picture(self) -> None:
        picture = LinearPicture.with_pyramid(smooth(2400, 1600), 1 / 65535)
        self.assertLessEqual(self.assert_preview_is_the_reduced_print(picture), 3)

    def test_preview_of_a_demo_capture(self) -> None:
        developed = read_capture(demo_capture("glaze shelf"))
        picture = LinearPicture.with_pyramid(developed.light, developed.scale)
        self.assert_preview_is_the_reduced_print(picture)

    def test_held_zones_stand_and_the_rest_sinks_back(self) -> None:
        picture = LinearPicture.with_pyramid(smooth(300, 200), 1 / 65535)
        path, room = shelf.light_path(Recipe()), Darkroom()
        view = picture.whole(300)
        seen = room.view(Sitting("p", picture, path), view)
        sitting = Sitting("p", picture, path)
        exposure, density = (f(sitting, view).pixels for f in (room.exposure, room.negative))
        reading = room.readings(sitting)
        # of the negative: the zone whose density in normal development is nearest in exposure
        curve = characteristic_curve(path.things.stock.curve)
        scale = np.linspace(-9, 12, 20001)
        told = np.interp(density, curve.density((scale - 5) * np.log10(2.0)), scale)
        for (first, last), (side, zone, shares) in product(
            ((0, 10), (4, 5), (7, 10), (0, 2)),
            (
                ("scene", np.floor(exposure + 5.5), reading.scene_zones),
                ("negative", np.floor(told + 0.5), reading.negative_zones),
            ),
        ):
            held = held_zones(seen, room.zones(sitting, view, seen, side), first, last)
            zone = np.clip(zone, 0, 10)
            inside = (zone >= first) & (zone <= last)
            self.assertAlmostEqual(inside.mean(), sum(shares[first : last + 1]), delta=2e-3)
            np.testing.assert_array_equal(held[inside], seen[inside])
            if not inside.all():
                self.assertLess(np.ptp(held[~inside]), 45)  # hardly any contrast left
        values = held_zones(seen, room.zones(sitting, view, seen, "print"), 5, 6)
        lightness = np.rint(render.lightness(seen) / 10)
        np.testing.assert_array_equal(values[lightness == 5], seen[lightness == 5])
        self.assertLess(values[lightness == 8].max(), 90)

    def test_views_at_the_edges_and_of_tiny_pictures(self) -> None:
        picture = LinearPicture.with_pyramid(smooth(17, 16), 1 / 65535)
        for view in (
            View(16, 15, 9, 9, 9, 9),
            View(0, 0, 17, 16, 5, 5),
            View(0, 0, 17, 16, 99, 99),
        ):
            light = picture.cut(view)
            self.assertGreater(min(light.shape[:2]), 0)
            self.assertLessEqual(max(light.shape[:2]), 17)

    def test_reducing_keeps_flat_light_and_the_frame_of_odd_sizes(self) -> None:
        picture = LinearPicture.with_pyramid(np.full((1301, 777, 3), 12345, np.uint16), 1.0)
        self.assertEqual({int(v) for level in picture.levels for v in np.unique(level)}, {12345})


class CacheTest(unittest.TestCase):
    def test_a_change_runs_again_only_from_its_station_on(self) -> None:
        picture = LinearPicture.with_pyramid(smooth(640, 480), 1 / 65535)
        darkroom, view = Darkroom(), picture.whole(320)

        def run(recipe: Recipe) -> list[str]:
            ran = []

            def noted(kernel, *arguments):
                ran.append(kernel.py_func.__name__)
                return by_rows(kernel, *arguments)

            by_rows = kernels.by_rows
            with mock.patch.object(kernels, "by_rows", noted):
                darkroom.view(Sitting("p", picture, shelf.light_path(recipe)), view)
            return [name for name in ran if name != "reduce_size"]

        underlay = ["code_colour", "expose"]
        exposing = ["code_colour", *underlay, "expose", "scatter"]
        printing = ["through_curve_u8"]
        self.assertEqual(
            sorted(run(Recipe())), sorted([*exposing, "through_curve", "add_grain", *printing])
        )
        self.assertEqual(run(Recipe(paper=PaperSettings(grade=4))), printing)
        changed = Recipe(development=DevelopmentSettings(n=1))
        self.assertEqual(run(changed), ["through_curve", "add_grain", *printing])
        again = run(RED)
        self.assertNotIn("code_colour", again)
        self.assertIn("expose", again)

    def test_memory_is_bounded_and_the_oldest_goes(self) -> None:
        cache = render.StationCache(limit=1000)
        made = []
        for key in range(5):
            cache.get(key, lambda key=key: made.append(key) or np.zeros(400, np.uint8))
        cache.get(4, lambda: self.fail("kept"))
        cache.get(0, lambda: made.append("again") or np.zeros(400, np.uint8))
        self.assertEqual(made, [0, 1, 2, 3, 4, "again"])

    def test_work_nobody_waits_for_is_dropped(self) -> None:
        picture = LinearPicture.with_pyramid(smooth(64, 64), 1 / 65535)
        path = shelf.light_path(Recipe())
        with self.assertRaises(Dropped):
            Darkroom().view(Sitting("p", picture, path), picture.whole(64), lambda: False)
        with self.assertRaises(Dropped):
            list(strips(Sitting("s", picture, path), wanted=lambda: False))


class ReadingTest(unittest.TestCase):
    def test_zones_of_a_stepped_wedge(self) -> None:
        # one stop a step about 18 %: each zone holds its step (definition of zones)
        steps = 0.18 * 2.0 ** np.arange(-5, 3)
        wedge = np.repeat(np.rint(steps * 65535 / 2), 40).astype(np.uint16)
        light = np.repeat(np.tile(wedge[None, :, None], (40, 1, 1)), 3, axis=2)
        picture = LinearPicture.with_pyramid(np.ascontiguousarray(light), 2 / 65535)
        reading = Darkroom().readings(Sitting("w", picture, shelf.light_path(Recipe())))
        np.testing.assert_allclose(reading.scene_zones, [1 / 8] * 8 + [0] * 3, atol=1e-9)
        for shares in (reading.scene_zones, reading.negative_zones, reading.print_values):
            self.assertAlmostEqual(sum(shares), 1.0, places=9)
        self.assertEqual(sum(reading.histogram), light.shape[0] * light.shape[1])

    def test_zones_of_the_negative_follow_development(self) -> None:
        # N+1 puts Zone VII where N puts VIII (definition of N numbers)
        light = np.full((60, 90, 3), round(0.18 * 4 * 16384), np.uint16)  # Zone VII
        picture = LinearPicture.with_pyramid(light, 1 / 16384)
        smooth = FilmSettings(grain=0)
        for n, zone in ((0, 7), (1, 8)):
            recipe = Recipe(film=smooth, development=DevelopmentSettings(n=n))
            reading = Darkroom().readings(Sitting("z", picture, shelf.light_path(recipe)))
            self.assertEqual(reading.negative_zones[zone], 1.0)
            self.assertEqual(reading.scene_zones[7], 1.0)

    def test_a_zone_plate_has_eleven_flat_tones(self) -> None:
        picture = LinearPicture.with_pyramid(smooth(300, 200), 1 / 65535)
        path, room = shelf.light_path(Recipe()), Darkroom()
        view = picture.whole(300)
        sitting = Sitting("p", picture, path)
        numbers = room.view(sitting, view)
        exposure = room.exposure(sitting, view).pixels
        plate = render.zone_plate(room.zones(sitting, view, numbers, "scene"), path, "scene")
        zone = np.clip(np.floor(exposure + 5.5), 0, 10).astype(int)
        # what each zone prints as, by the curves' own formulas: log E = log t + lamp - D at the
        # paper, reflectance between black and base, IEC 61966-2-1
        paper, exposures = path.things.paper, np.arange(-5, 6) * np.log10(2.0)
        light = np.log10(path[Projection].time) + lamp(paper)
        net = paper_curve(paper, 2.0).density(light - path[Developing].negative.density(exposures))
        y = (10**-net - 10**-paper.net_density) / (1 - 10**-paper.net_density)
        tones = np.where(y <= 0.0031308, 12.92 * y, 1.055 * y ** (1 / 2.4) - 0.055) * 255
        self.assertGreater(np.ptp(tones), 250)
        self.assertLess(np.abs(plate - tones[zone]).max(), 0.6)
        # developed to N, a zone of the negative prints as the scene's does
        zones = room.zones(sitting, view, numbers, "negative")
        negative = render.zone_plate(zones, path, "negative")
        self.assertLess(np.abs(negative - tones[zones]).max(), 0.6)
        self.assertGreater((zones == zone).mean(), 0.9)
        values = render.zone_plate(room.zones(sitting, view, numbers, "print"), path, "print")
        wanted = np.rint(render.lightness(numbers) / 10)
        np.testing.assert_array_equal(np.rint(render.lightness(values) / 10), wanted)
        self.assertLessEqual(len(np.unique(values)), 11)

    def test_a_spot_reads_the_chain_at_its_place(self) -> None:
        # Zone V: 18 % of the light, 0.75 above the base, L* 49.5 (CIE 15) by the black point
        # compensation a little less
        light = np.full((60, 80, 3), round(0.18 * 65535), np.uint16)
        light[:, 40:] = 65535
        picture, path = LinearPicture([light], 1 / 65535), shelf.light_path(Recipe())
        grey = Darkroom().spot(Sitting("p", picture, path), PicturePixel(10, 10), 4)
        self.assertAlmostEqual(grey.zone, 5.0, delta=0.01)
        self.assertAlmostEqual(grey.stops, 0.0, delta=0.01)  # of the light itself
        self.assertAlmostEqual(grey.density, 0.75, delta=0.005)
        self.assertAlmostEqual(
            grey.negative, float(path[Developing].negative.density(0.0)), delta=0.005
        )
        self.assertAlmostEqual(grey.value, 4.9, delta=0.1)
        self.assertFalse(grey.clipped)
        self.assertTrue(
            Darkroom().spot(Sitting("p", picture, path), PicturePixel(79, 59), 4).clipped
        )
        edge = Darkroom().spot(
            Sitting("p", picture, path), PicturePixel(39, 30), 4
        )  # half grey, half white
        self.assertTrue(5.0 < edge.zone < 5 + np.log2(1 / 0.18))
        with self.assertRaisesRegex(ValueError, "outside"):
            Darkroom().spot(Sitting("p", picture, path), PicturePixel(80, 0), 4)

    def test_what_is_clipped_stands_and_the_rest_sinks_to_greys(self) -> None:
        shown = render.clipped_parts(np.arange(256, dtype=np.uint8)[None])[0]
        self.assertEqual((shown[0], shown[255]), (0, 255))
        self.assertEqual((shown[1], shown[254]), (96, 184))  # 96 + 0.35 a number
        self.assertTrue((np.diff(shown[1:255].astype(int)) >= 0).all())

    def test_clipped_shares(self) -> None:
        light = np.full((100, 100, 3), 3000, np.uint16)
        light[:10], light[10:40] = 65535, 0
        picture = LinearPicture.with_pyramid(light, 8 / 65535)
        reading = Darkroom().readings(
            Sitting("c", picture, shelf.light_path(Recipe(paper=PaperSettings(grade=5))))
        )
        self.assertAlmostEqual(reading.capture_clipped, 0.10, places=6)
        self.assertAlmostEqual(reading.paper_white, 0.10, places=6)
        self.assertAlmostEqual(reading.paper_black, 0.30, places=6)


if __name__ == "__main__":
    unittest.main()
