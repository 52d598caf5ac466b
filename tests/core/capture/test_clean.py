import unittest

import cv2
import numpy as np

from silvrin import shelf
from silvrin.core.capture.highlights import working_light
from silvrin.core.capture.noise import (
    NoiseProfile,
    _curve,
    defringed,
    noise_profile,
    quieted,
)
from silvrin.core.picture import LinearPicture, View
from silvrin.core.recipe import CaptureSettings, Mend, Recipe
from silvrin.core.recipe.drawings import Sheets
from silvrin.core.render import Darkroom, Sitting, strips
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture
from tests.sittings import seen_under

HEIGHT, WIDTH = 480, 640
FULL_WELL, READ = 8000.0, 4.0  # electrons: a small sensor at a high index


def scene() -> np.ndarray:
    """Light (H, W, 3), 0 to 1: a run of tone, a sharp edge, fine lines, coloured fields."""
    light = np.empty((HEIGHT, WIDTH, 3))
    light[:] = np.linspace(0.02, 0.5, WIDTH)[None, :, None]
    light[:, WIDTH // 2 :] *= 0.25
    light[200:280, ::8] *= 0.5
    light[320:, :] *= [1.0, 0.7, 0.4]
    return light


def exposed(light: np.ndarray, seed: int = 3) -> LinearPicture:
    rng = np.random.default_rng(seed)
    electrons = rng.poisson(light * FULL_WELL) + rng.normal(0, READ, light.shape)
    codes = np.clip(electrons / FULL_WELL * 60000 + 200, 0, 65535)
    return LinearPicture.with_pyramid(np.rint(codes).astype(np.uint16), 1 / 60000)


def clean(light: np.ndarray) -> np.ndarray:
    return light * 60000 + 200


class NoiseTest(unittest.TestCase):
    def setUp(self) -> None:
        self.light = scene()
        self.capture = exposed(self.light)

    def test_codes_become_numbers_of_even_noise(self) -> None:
        # Anscombe 1948: 2 sqrt(n + 3/8) of counts; with a gain and read noise, Murtagh, Starck and
        # Bijaoui 1995 (both from memory); where there is no shot noise, a plain scale
        curve = _curve(
            NoiseProfile((0.0, 900.0, 400.0), (1.0, 2.5, 0.0), np.zeros((3, 1), np.float32))
        )
        codes = np.arange(65536.0)
        np.testing.assert_allclose(curve[0], 2 * np.sqrt(codes + 0.375), rtol=1e-5)
        wanted = 2 / 2.5 * np.sqrt(2.5 * codes + 0.375 * 2.5**2 + 900)
        np.testing.assert_allclose(curve[1], wanted, rtol=1e-5)
        np.testing.assert_allclose(curve[2], codes / 20, rtol=1e-5)
        steps = np.diff(curve[1].astype(float))[1000:] * np.sqrt(2.5 * codes[1000:-1] + 900)
        self.assertAlmostEqual(float(np.median(steps)), 1.0, delta=0.01)

    def test_the_noise_measured_is_that_of_the_sensor(self) -> None:
        # shot noise of a full well, and read noise: photon statistics
        profile = noise_profile(self.capture)
        slope = 60000 / FULL_WELL
        floor = (READ * slope) ** 2 - slope * 200
        for code in (2000.0, 15000.0):
            wanted = np.sqrt(slope * code + floor)
            for f, s in zip(profile.floor, profile.slope, strict=True):
                self.assertAlmostEqual(np.sqrt(s * code + f) / wanted, 1.0, delta=0.15)

    def test_noise_goes_and_edges_and_lines_stay(self) -> None:
        profile = noise_profile(self.capture)
        noisy = self.capture.levels[0]
        quiet = quieted(noisy, profile, 1.0, 1.0, 1.0).astype(float)
        wanted = clean(self.light)
        flat = np.s_[20:180, 40:280]
        before = np.std((noisy - wanted)[flat])
        self.assertLess(np.std((quiet - wanted)[flat]), 0.35 * before)
        # tone is kept
        self.assertLess(abs((quiet - wanted)[flat].mean() / wanted[flat].mean()), 0.005)
        # an edge of two stops is as steep as it was
        edge = quiet[20:180, WIDTH // 2 - 3 : WIDTH // 2 + 3, 1].mean(axis=0)
        sharp = wanted[20:180, WIDTH // 2 - 3 : WIDTH // 2 + 3, 1].mean(axis=0)
        self.assertGreater(edge[2] - edge[3], 0.93 * (sharp[2] - sharp[3]))
        # lines of a stop, a pixel wide
        lines = np.s_[210:270, 80:240, 1]
        contrast = np.std(quiet[lines]) / np.std(wanted[lines])
        self.assertGreater(contrast, 0.85)

    def test_colour_noise_alone_leaves_light_as_it_is(self) -> None:
        noisy = self.capture.levels[0]
        quiet = quieted(noisy, noise_profile(self.capture), 1.0, 0.0, 1.0).astype(float)
        flat = np.s_[20:180, 40:280]

        def colour(light: np.ndarray) -> float:
            return float(np.std((light[..., 0] / light[..., 1])[flat]))

        self.assertLess(colour(quiet), 0.3 * colour(noisy.astype(float)))
        grey = [np.sqrt(v).mean(axis=2)[flat] for v in (quiet, noisy.astype(float))]
        self.assertGreater(np.corrcoef(grey[0].ravel(), grey[1].ravel())[0, 1], 0.99)

    def test_views_agree_with_the_whole_and_with_their_own_reduction(self) -> None:
        settings = CaptureSettings(luminance_noise=0.8, colour_noise=0.8, defringe=0.5)
        picture = seen_under(self.capture, settings)
        whole = picture.cut(picture.whole(WIDTH))
        part = View(200, 150, 160, 120, 160, 120)
        np.testing.assert_array_equal(picture.cut(part), whole[150:270, 200:360])
        small = picture.cut(picture.whole(WIDTH // 2)).astype(float)
        reduced = cv2.resize(whole.astype(np.float32), (WIDTH // 2, HEIGHT // 2),
                             interpolation=cv2.INTER_AREA)  # fmt: skip
        off = np.log2(small / reduced)[10:90, 20:140]
        self.assertLess(np.abs(off).mean(), 0.02)

    def test_strips_of_a_delivery_are_those_of_the_window(self) -> None:
        light = np.tile(self.capture.levels[0], (4, 2, 1))  # of more than one strip
        capture = LinearPicture.with_pyramid(np.ascontiguousarray(light), 1 / 60000)
        sheets = Sheets()
        settings = CaptureSettings(
            luminance_noise=0.6, colour_noise=0.6, defringe=0.5, fall_off=1.0, straighten=1.0,
            mends=sheets.mends([Mend(x=300, y=700, radius=12, path=((420, 760),))]),
        )  # fmt: skip
        recipe = Recipe(capture=settings)
        path = shelf.light_path(recipe, sheets.of(recipe))
        pieces = list(strips(Sitting("s", capture, path), bits=8))
        self.assertGreater(len(pieces), 1)
        whole = np.concatenate(pieces)
        view = View(150, 560, 500, 380, 500, 380)
        shown = Darkroom().view(Sitting("c", capture, path), view)
        off = np.abs(shown.astype(int) - whole[560:940, 150:650])
        self.assertLessEqual(int(off.max()), 1)

    def test_demo_head_loses_its_noise_and_keeps_its_clay(self) -> None:
        developed = read_capture(demo_capture("terracotta head, eye"))
        picture = developed.picture()
        quiet = seen_under(picture, CaptureSettings(luminance_noise=0.7, colour_noise=0.7))
        eye = View(560, 1000, 300, 200, 300, 200)
        one, other = (np.log2(p.cut(eye)[..., 1] + 64.0) for p in (picture, quiet))
        self.assertGreater(np.corrcoef(one.ravel(), other.ravel())[0, 1], 0.98)


class FringeTest(unittest.TestCase):
    def test_a_purple_rim_goes_and_a_purple_thing_stays(self) -> None:
        light = np.full((200, 300, 3), 3000.0)
        light[:, 150:] = 50000
        plain = light.copy()
        light[:, 146:150] = [14000, 4000, 18000]  # the rim
        light[60:140, 40:100] = plain[60:140, 40:100] = [9000, 4000, 11000]  # the thing
        found = defringed(light.astype(np.uint16), 1.0, 1.0).astype(float)

        def purple(v: np.ndarray) -> float:
            return float(np.log2(np.minimum(v[..., 0], v[..., 2]) / v[..., 1]).mean())

        rim, thing = np.s_[:50, 146:150], np.s_[80:120, 60:80]
        self.assertLess(purple(found[rim]), 0.35 * purple(light[rim]))
        self.assertAlmostEqual(purple(found[thing]), purple(light[thing]), delta=0.05)


class HighlightTest(unittest.TestCase):
    LIMITS = (50000.0, 30000.0, 60000.0)

    def test_what_one_channel_lost_the_others_tell(self) -> None:
        # fields of four colours that run from half to 1.6 times what green can hold
        colours = np.array([[1, 1, 1], [1.1, 1.0, 0.7], [0.85, 1.0, 1.1], [1.3, 1.0, 0.6]])
        run = 30000 * np.linspace(0.5, 1.6, 400)
        true = np.repeat(colours[:, None] * run[None, :, None], 400, axis=0)
        clipped = np.minimum(true, self.LIMITS)
        found = working_light(np.rint(clipped).astype(np.uint16), np.eye(3), self.LIMITS)
        lost = (true[..., 1] > 30000) & (true[..., 0] < 46000) & (true[..., 2] < 56000)
        lost &= (np.arange(len(true)) % 400 // 100 % 3 > 0)[:, None]  # not where two fields meet
        self.assertGreater(lost.mean(), 0.15)
        error = np.abs(np.log2(found[..., 1][lost] / true[..., 1][lost]))
        plain = np.abs(np.log2(clipped[..., 1][lost] / true[..., 1][lost]))
        self.assertLess(np.percentile(error, 95), 0.08)
        self.assertGreater(np.percentile(plain, 95), 0.4)
        # what was not clipped is untouched, and nothing recovered is below its limit
        kept = (true < 0.93 * np.array(self.LIMITS)).all(axis=2)
        np.testing.assert_allclose(found[kept], true[kept], atol=1)
        self.assertGreaterEqual(found[..., 1][lost].min(), 29900)

    def test_all_clipped_is_neutral_and_the_setting_brings_the_ceiling_down(self) -> None:
        light = np.full((64, 64, 3), 65535, np.uint16)
        found = working_light(light, np.eye(3), self.LIMITS)
        self.assertLess(np.ptp(found[32, 32]), 700)
        picture = LinearPicture([light], 1 / 65535)
        picture.limits = (49250.0, 29550.0, 59100.0)
        low = seen_under(picture, CaptureSettings(recover_highlights=0.0)).cut(picture.whole(64))
        self.assertAlmostEqual(int(low.max()), 30000, delta=2)


class ChannelTest(unittest.TestCase):
    def test_swap_and_fall_off(self) -> None:
        rng = np.random.default_rng(1)
        light = rng.integers(1000, 20000, (120, 180, 3), dtype=np.uint16)
        picture = LinearPicture.with_pyramid(light, 1 / 65535)
        whole = picture.whole(180)
        swapped = seen_under(picture, CaptureSettings(swap=True)).cut(whole)
        np.testing.assert_array_equal(swapped, light[..., ::-1])
        bright = seen_under(picture, CaptureSettings(fall_off=1.0)).cut(whole) / light
        self.assertAlmostEqual(float(bright[60, 90].mean()), 1.0, delta=0.01)
        self.assertAlmostEqual(float(bright[0, 0].mean()), 2.0, delta=0.04)  # a stop at the corner
        # it stays about the lens's axis when the picture is cropped
        cropped = seen_under(picture, CaptureSettings(fall_off=1.0, crop=(0.5, 0.5, 1.0, 1.0)))
        part = cropped.cut(cropped.whole(180)) / light[60:, 90:]
        self.assertAlmostEqual(float(part[-1, -1].mean()), 2.0, delta=0.04)
        self.assertAlmostEqual(float(part[0, 0].mean()), 1.0, delta=0.01)


if __name__ == "__main__":
    unittest.main()
