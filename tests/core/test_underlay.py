import math
import unittest
from unittest import mock

import cv2
import numpy as np

from silvrin import shelf
from silvrin.core.development.negative import Developing
from silvrin.core.enlarger.projection import Projection
from silvrin.core.film.halation import halation_reach
from silvrin.core.picture import LinearPicture, View
from silvrin.core.recipe import (
    CaptureSettings,
    DevelopmentSettings,
    FilmSettings,
    LightSettings,
    LocalContrast,
    Recipe,
)
from silvrin.core.render import Darkroom, Sitting, strips
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture

ROOM = Darkroom()
SCALE = LocalContrast(strength=1.0)
EVERYTHING = Recipe(
    light=LightSettings(
        haze=-0.5, soft_focus=0.3, focus_blur=0.8, chroma_smoothing=0.7, lens_filter="25"
    ),
    film=FilmSettings(stock="juniper-200", film_format="half frame"),
    development=DevelopmentSettings(
        developer="high acutance",
        fine=SCALE,
        mid_scale=SCALE,
        broad=SCALE,
        zone_lift=(0, 0, 1, 0.5, 0, 0, 0, -0.5, -1, 0, 0),
        zone_contrast=(0, 0, 0, 0.5, 0.5, 0, 0, 0, 0, 0, 0),
        brightness=0.2,
    ),
)


def grey(values: np.ndarray) -> LinearPicture:
    """A neutral picture (H, W) of parts of full light."""
    light = np.rint(np.repeat(values[..., None], 3, axis=2) * 65535).astype(np.uint16)
    return LinearPicture.with_pyramid(light, 1 / 65535)


def exposure(picture: LinearPicture, recipe: Recipe) -> np.ndarray:
    view = picture.whole(10_000)
    return ROOM.exposure(Sitting(picture, picture, shelf.light_path(recipe)), view).pixels


def density(picture: LinearPicture, recipe: Recipe) -> np.ndarray:
    smooth = recipe.film.model_copy(update={"grain": 0.0})
    path = shelf.light_path(recipe.model_copy(update={"film": smooth}))
    return ROOM.negative(Sitting(picture, picture, path), picture.whole(10_000)).pixels


class SizesTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        developed = read_capture(demo_capture("wheel"))
        cls.picture = LinearPicture.with_pyramid(developed.light, developed.scale)

    def test_strips_and_views_at_100_per_cent_are_one_picture(self) -> None:
        path = shelf.light_path(EVERYTHING)
        whole = np.concatenate(list(strips(Sitting("s", self.picture, path), bits=8)))
        with mock.patch("silvrin.core.render.strips.STRIP_PIXELS", self.picture.width * 100):
            pieces = list(strips(Sitting("s", self.picture, path), bits=8))
        self.assertGreater(len(pieces), 10)
        np.testing.assert_array_equal(np.concatenate(pieces), whole)
        seen = Darkroom().view(Sitting("w", self.picture, path), View(301, 207, 640, 480, 640, 480))
        np.testing.assert_array_equal(seen, whole[207:687, 301:941])

    def test_a_preview_is_the_reduced_print(self) -> None:
        smooth = EVERYTHING.film.model_copy(update={"grain": 0.0})
        path = shelf.light_path(EVERYTHING.model_copy(update={"film": smooth}))
        full = (
            np.concatenate(list(strips(Sitting("s", self.picture, path)))).astype(np.float32) / 257
        )
        view = self.picture.whole(807)
        seen = Darkroom().view(Sitting("w", self.picture, path), view)
        size = (view.out_width, view.out_height)
        reduced = cv2.resize(full, size, interpolation=cv2.INTER_AREA)
        self.assertLess(np.abs(seen - reduced).mean(), 2.0)


class LightTest(unittest.TestCase):
    def test_haze_is_taken_off_as_it_was_laid(self) -> None:
        # Koschmieder 1924: light J t + A (1 - t), with t falling to the right
        rng = np.random.default_rng(3)
        clear = np.kron(rng.choice([0.02, 0.1, 0.3], (150, 225)), np.ones((4, 4)))
        through = np.linspace(1.0, 0.35, clear.shape[1])[None].copy()
        through[:, -40:] = 0.0  # nothing but air, as over a horizon
        hazy = grey(clear * through + 0.8 * (1 - through))
        before, after = (
            exposure(hazy, Recipe(light=LightSettings(haze=h), film=FilmSettings(halation=0)))
            for h in (0.0, -1.0)
        )
        wanted = np.log2(clear / 0.18)
        far = np.s_[:, -300:-60]
        veiled, left = (np.abs(e - wanted)[far].mean() for e in (before, after))
        self.assertGreater(veiled, 2.0)  # stops by which the veil lifts the far part
        self.assertLess(left, 0.4 * veiled)
        more = exposure(hazy, Recipe(light=LightSettings(haze=0.8)))
        self.assertLess(more[far].std(), 0.7 * before[far].std())
        self.assertGreater(more[far].mean(), before[far].mean())

    def test_soft_focus_spreads_and_keeps_light(self) -> None:
        dot = np.full((400, 600), 0.02)
        dot[190:210, 290:310] = 0.9
        picture = grey(dot)
        bare = 2.0 ** exposure(picture, Recipe(film=FilmSettings(halation=0)))
        for size in (1.0, 3.0):
            soft = LightSettings(soft_focus=0.5, soft_size=size)
            lit = 2.0 ** exposure(picture, Recipe(light=soft, film=FilmSettings(halation=0)))
            self.assertAlmostEqual(lit.sum() / bare.sum(), 1.0, delta=0.02)
            # what a Gaussian of that part of the long side leaves within the square, and what it
            # brings to a place one deviation outside
            half = 10 / (size / 100 * 600)
            kept = math.erf(half / np.sqrt(2)) ** 2
            dark, bright = bare[10, 10], bare[200, 300]
            wanted = 0.5 * bright + 0.5 * (dark + (bright - dark) * kept)
            self.assertAlmostEqual(lit[200, 300] / wanted, 1.0, delta=0.04)
            at = round(300 + 10 + size / 100 * 600)
            self.assertGreater(lit[200, at], 1.1 * bare[200, at])
        glow = LightSettings(soft_focus=0.5, soft_size=2.0, soft_on="highlights")
        dim = grey(dot * 0.2)
        np.testing.assert_allclose(
            exposure(dim, Recipe(light=glow)), exposure(dim, Recipe()), atol=0.01
        )

    def test_selective_focus_is_sharp_inside_and_blurred_outside(self) -> None:
        lines = np.where(np.arange(1200) // 6 % 2 == 0, 0.05, 0.6)[None] * np.ones((800, 1))
        settings = LightSettings(
            focus_blur=1.0, focus_x=0.25, focus_y=0.5, focus_size=0.1, focus_transition=0.1
        )
        seen = exposure(grey(lines), Recipe(light=settings, film=FilmSettings(halation=0)))
        plain = exposure(grey(lines), Recipe(film=FilmSettings(halation=0)))
        inside, outside = np.s_[380:420, 250:350], np.s_[380:420, 900:1100]
        np.testing.assert_allclose(seen[inside], plain[inside], atol=0.01)
        self.assertLess(np.ptp(seen[outside]), 0.1 * np.ptp(plain[outside]))
        band = settings.model_copy(update={"focus_shape": "band", "focus_angle": 90.0})
        across = exposure(grey(lines), Recipe(light=band))
        self.assertGreater(np.ptp(across[20:60, 250:350]), 0.9 * np.ptp(plain[inside]))

    def test_a_hot_spot_is_taken_away(self) -> None:
        y, x = np.mgrid[0:400, 0:600] + 0.5
        away = ((x - 300) ** 2 + (y - 200) ** 2) / (0.35 * 0.5 * np.hypot(400, 600)) ** 2
        picture = grey(0.2 * 2.0 ** (0.8 * np.exp(-away)))
        capture = CaptureSettings(infrared=True, hot_spot=0.8)
        film = FilmSettings(halation=0)
        self.assertGreater(np.ptp(exposure(picture, Recipe(film=film))), 0.7)
        self.assertLess(np.ptp(exposure(picture, Recipe(capture=capture, film=film))), 0.02)
        # it stays about the lens's axis when the picture is cropped and turned
        cropped = capture.model_copy(update={"crop": (0.4, 0.1, 1.0, 0.7), "quarter_turns": 1})
        left = exposure(picture, Recipe(capture=cropped, film=film))
        self.assertLess(np.ptp(left), 0.03)

    def test_chroma_smoothing_calms_what_breaks_up_and_keeps_edges(self) -> None:
        rng = np.random.default_rng(8)
        colour = np.where(np.arange(900)[None, :, None] < 450, [0.3, 0.25, 0.1], [0.1, 0.2, 0.45])
        light = colour * np.ones((600, 1, 1)) * rng.normal(1, 0.06, (600, 900, 3))
        light = np.clip(light * 60000, 0, 65535).astype(np.uint16)
        picture, film = LinearPicture.with_pyramid(light, 1 / 65535), FilmSettings(halation=0)
        share, noise, edge = [], [], []
        for amount in (0.0, 1.0):
            settings = LightSettings(lens_filter="29", chroma_smoothing=amount)
            path = shelf.light_path(Recipe(light=settings, film=film))
            share.append(ROOM.readings(Sitting(("noise", amount), picture, path)).breaking)
            seen = exposure(picture, path.recipe)
            noise.append(seen[100:500, 600:800].std())
            edge.append(seen[:, 440].mean() - seen[:, 460].mean())
        self.assertGreater(share[0], 0.15)
        self.assertLess(share[1], 0.1 * share[0])
        self.assertLess(noise[1], 0.8 * noise[0])  # that of the light itself stays
        self.assertGreater(edge[1], 0.95 * edge[0])


class FilmTest(unittest.TestCase):
    def test_halation_is_a_glow_of_the_bases_reach_and_red_has_more(self) -> None:
        dot = np.full((800, 1200), 0.01)
        dot[396:404, 596:604] = 0.95
        picture = grey(dot)
        reach = round(halation_reach() / (36_000 / 1200))  # pixels, 35 mm
        self.assertGreater(reach, 5)

        def ring(stock: str, **light: object) -> float:
            recipe = Recipe(film=FilmSettings(stock=stock), light=LightSettings(**light))
            lit = 2.0 ** exposure(picture, recipe)
            bare = recipe.film.model_copy(update={"halation": 0.0})
            plain = 2.0 ** exposure(picture, recipe.model_copy(update={"film": bare}))
            return float((lit / plain)[400, 604 + reach])

        backed, unbacked = ring("spruce-100"), ring("juniper-200")
        self.assertGreater(unbacked, 1.2)
        self.assertLess(backed - 1, 0.3 * (unbacked - 1))
        self.assertGreater(ring("larch-100", lens_filter="25"), ring("larch-100", lens_filter="47"))

    def test_resolving_power_leaves_a_tenth_of_the_contrast(self) -> None:
        # common practice, no source: resolution ends where contrast is about a tenth
        stock = shelf.stocks()["gorse-3200"]
        side = 24_000  # pixels over 36 mm: 1.5 µm
        period = 1000 / stock.resolving_power / 1.5
        x = np.arange(1200)
        wave = 0.3 * (1 + 0.9 * np.sin(2 * np.pi * x / period))[None] * np.ones((64, 1))
        wide = np.zeros((64, side), np.uint16)
        wide[:, :1200] = np.rint(wave * 65535)
        picture = LinearPicture([np.repeat(wide[..., None], 3, axis=2)], 1 / 65535)
        film = FilmSettings(stock=stock.id, halation=0)
        path = shelf.light_path(Recipe(film=film))
        seen = ROOM.exposure(
            Sitting("lines", picture, path), View(300, 16, 600, 32, 600, 32)
        ).pixels
        lit = 2.0 ** seen[16]
        contrast = (lit.max() - lit.min()) / (lit.max() + lit.min()) / 0.9
        self.assertAlmostEqual(contrast, 0.10, delta=0.02)

    def test_foliage_and_sky_are_adjusted_beyond_red_only(self) -> None:
        colours = np.array([[0.10, 0.16, 0.05], [0.23, 0.30, 0.72], [0.3, 0.3, 0.3]])
        light = np.repeat(np.rint(colours * 50000)[:, None], 40, axis=1).repeat(30, axis=0)
        picture = LinearPicture([light.astype(np.uint16)], 1 / 65535)

        def moved(stock: str, **film: float) -> np.ndarray:
            glass = LightSettings(lens_filter="89b" if stock == "juniper-200" else "none")
            plain = FilmSettings(stock=stock, halation=0)
            asked = plain.model_copy(update=film)
            change = exposure(picture, Recipe(light=glass, film=asked))
            return (change - exposure(picture, Recipe(light=glass, film=plain)))[15::30, 20]

        leaf, sky, stone = moved("juniper-200", foliage=1.0)
        self.assertGreater(leaf, 0.6)
        self.assertLess(abs(sky), 0.2)  # its blue is not told from blue-green leaves for sure
        self.assertLess(abs(stone), 0.05)
        self.assertLess(moved("juniper-200", sky=-1.0)[1], -0.5)
        self.assertLess(np.abs(moved("larch-100", foliage=1.0, sky=1.0)).max(), 0.02)


class LocalContrastTest(unittest.TestCase):
    def test_each_scale_raises_its_own_structure(self) -> None:
        x, found = np.arange(1500), {}
        for name, period in (("fine", 12), ("mid_scale", 60), ("broad", 500)):
            wave = 0.2 * 2.0 ** (0.15 * np.sin(2 * np.pi * x / period))
            picture = grey(wave[None] * np.ones((400, 1)))
            plain = np.ptp(density(picture, Recipe())[200, 400:1100])
            for scale in ("fine", "mid_scale", "broad"):
                recipe = Recipe(development=DevelopmentSettings(**{scale: SCALE}))
                found[scale, name] = np.ptp(density(picture, recipe)[200, 400:1100]) / plain
        for scale in ("fine", "mid_scale", "broad"):
            self.assertGreater(found[scale, scale], 1.45, found)
        self.assertLess(found["fine", "broad"], 1.1)
        self.assertLess(found["mid_scale", "broad"], 1.35)

    def test_no_halos_at_an_edge(self) -> None:
        # beside a plain blur of the same reach, which is what halos come from
        step = np.where(np.arange(1500) < 750, 0.04, 0.6)[None] * np.ones((400, 1))
        picture = grey(step)
        plain = density(picture, Recipe())[200]
        for scale, sigma in (("mid_scale", 21), ("broad", 90)):
            recipe = Recipe(development=DevelopmentSettings(**{scale: SCALE}))
            raised = density(picture, recipe)[200] - plain
            blur = cv2.GaussianBlur(plain[None], (0, 0), sigma)[0]
            self.assertLess(np.abs(raised).max(), 0.35 * np.abs(plain - blur).max(), scale)

    def test_broad_contrast_draws_no_rings_beside_strong_edges(self) -> None:
        # in numbers of the print, on each side of four stops
        y, x = np.mgrid[0:700, 0:1050]
        for name, light in (
            ("upright", x > 525), ("slanting", x + 2 * y > 1225),
            ("bar", np.abs(x - 525) < 40), ("disc", np.hypot(x - 525, y - 350) < 100),
        ):  # fmt: skip
            picture = grey(np.where(light, 0.72, 0.045))
            recipe = Recipe(
                film=FilmSettings(grain=0.0, halation=0.0),
                development=DevelopmentSettings(broad=SCALE),
            )
            sitting = Sitting(picture, picture, shelf.light_path(recipe))
            print_ = ROOM.view(sitting, picture.whole(1050)).astype(int)
            for side in (light, ~light):
                # beyond the two pixels of the underlay in which the edge itself lies
                inner = cv2.erode(side.astype(np.uint8), np.ones((9, 9))) > 0
                ring = np.abs(print_[inner] - np.median(print_[inner])).max()
                self.assertLess(ring, 2, name)

    def test_noise_is_not_what_it_brings_out(self) -> None:
        rng = np.random.default_rng(4)
        texture = 0.4 * np.kron(rng.choice([-1, 1], (100, 150)), np.ones((8, 8)))
        noise = cv2.GaussianBlur(rng.normal(0, 0.06, (800, 1200)), (0, 0), 2)
        stops = np.where(np.arange(1200)[None] < 600, texture, 0) + noise
        picture = grey(0.18 * 2.0**stops)

        def raised(threshold: float) -> tuple[float, float]:
            asked = DevelopmentSettings(fine=SCALE, threshold=threshold)
            gains = density(picture, Recipe(development=asked)) / density(picture, Recipe())
            return float(gains[100:700, 100:500].std()), float(gains[100:700, 700:1100].std())

        (left, bare), (kept, calmed) = raised(0.0), raised(0.1)
        self.assertGreater(kept, 0.85 * left)
        self.assertLess(calmed, 0.25 * bare)

    def test_tones_and_holds(self) -> None:
        x = np.arange(1500)
        zones = np.where(x < 500, 2.0, np.where(x < 1000, 5.0, 8.5))
        wave = 0.18 * 2.0 ** (zones - 5 + 0.15 * np.sin(2 * np.pi * x / 60))
        picture = grey(wave[None] * np.ones((300, 1)) / 4)
        trim = CaptureSettings(exposure=2.0)

        def gain(**settings: object) -> list[float]:
            asked = DevelopmentSettings(hold_shadows=0, hold_highlights=0).model_copy(
                update=settings
            )
            line, plain = (
                density(picture, Recipe(capture=trim, development=d))[150]
                for d in (asked, DevelopmentSettings())
            )
            parts = (slice(150, 350), slice(650, 850), slice(1150, 1350))
            return [float(np.ptp(line[p]) / np.ptp(plain[p])) for p in parts]

        shadows = LocalContrast(strength=1, middle=0, highlights=0)
        low, middle, high = gain(mid_scale=shadows)
        self.assertTrue(low > 1.4 and middle < 1.05 and high < 1.05, (low, middle, high))
        held = gain(mid_scale=SCALE, hold_shadows=1, hold_highlights=1)
        free = gain(mid_scale=SCALE)
        self.assertLess(held[0], free[0] - 0.15)
        self.assertLess(held[2], free[2] - 0.15)
        self.assertAlmostEqual(held[1], free[1], delta=0.02)
        of_zone = gain(zone_contrast=(0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0))
        self.assertTrue(of_zone[1] > 1.4 and of_zone[0] < 1.05, of_zone)

    def test_zone_lift_moves_its_zone_and_no_other_and_keeps_edges(self) -> None:
        zones = np.repeat([2.0, 5.0, 8.0], 500)
        picture = grey(0.18 * 2.0 ** (zones - 5)[None] * np.ones((300, 1)) / 4)
        trim = CaptureSettings(exposure=2.0)
        lift = (0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0)
        plain, lifted = (
            density(picture, Recipe(capture=trim, development=d))[150]
            for d in (DevelopmentSettings(), DevelopmentSettings(zone_lift=lift))
        )
        moved = lifted - plain
        path = shelf.light_path(Recipe(capture=trim))
        stop = path[Developing].negative.density(np.log10(2.0)) - path[Developing].negative.density(
            0.0
        )
        self.assertAlmostEqual(moved[750], float(stop), delta=0.02)
        self.assertLess(np.abs(moved[[100, 250, 1250, 1400]]).max(), 0.01)
        # the step of density stays within a few pixels of where it was
        self.assertAlmostEqual(moved[520], moved[750], delta=0.03)
        self.assertLess(abs(moved[480]), 0.03)

    def test_brightness_keeps_both_ends(self) -> None:
        log_h = np.array([-6.0, 0.0, 5 * np.log10(2.0)])
        plain = shelf.light_path(Recipe())[Developing].density(log_h)
        for brightness in (-1.0, -0.3, 0.4, 1.0):
            asked = DevelopmentSettings(brightness=brightness)
            path = shelf.light_path(Recipe(development=asked))
            moved = path[Developing].density(log_h) - plain
            self.assertAlmostEqual(moved[0], 0, delta=0.005)
            self.assertAlmostEqual(moved[2], 0, delta=1e-9)
            self.assertEqual(np.sign(moved[1]), np.sign(brightness))
            line = path[Developing].density(np.linspace(-3, 3, 400))
            self.assertGreaterEqual(np.diff(line).min(), -1e-9)
            # the time that prints Zone V as middle grey is that of the negative without it
            self.assertEqual(
                path[Projection].standard_time, shelf.light_path(Recipe())[Projection].standard_time
            )

    def test_edge_effects_stand_beside_edges(self) -> None:
        step = np.where(np.arange(1000) < 500, 0.05, 0.4)[None] * np.ones((200, 1))
        picture = grey(step)
        acute, plain = (
            density(picture, Recipe(development=DevelopmentSettings(developer=kind)))[100]
            for kind in ("high acutance", "general")
        )
        gained = acute - plain
        self.assertGreater(gained[501], gained[700] + 0.015)  # denser beside the thinner part
        self.assertLess(gained[498], gained[300] - 0.015)
        # 60 µm are 1.7 pixels: at four deviations nothing is left
        self.assertAlmostEqual(gained[507], gained[700], delta=0.002)
        self.assertAlmostEqual(gained[492], gained[300], delta=0.002)


if __name__ == "__main__":
    unittest.main()
