import json
import unittest
from pathlib import Path

import cv2
import numpy as np

from silvrin import shelf
from silvrin.core.capture.geometry import Geometry
from silvrin.core.capture.white_balance import gains
from silvrin.core.picture import LinearPicture, View
from silvrin.core.places import PicturePixel, capture_places, picture_pixels
from silvrin.core.recipe import CaptureSettings, FilmSettings, Recipe
from silvrin.core.render import Darkroom, Sitting, strips
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture
from tests.sittings import seen_under, sitting

KNOWN = json.loads((Path(__file__).parents[3] / "demo" / "truth" / "known.json").read_text())
EVERYTHING = CaptureSettings(
    quarter_turns=1, flip=True, straighten=7.5, keystone_vertical=0.2, keystone_horizontal=-0.1,
    distortion=0.05, lateral_red=0.001, crop=(0.1, 0.2, 0.8, 0.95),
)  # fmt: skip


def picture(width: int = 640, height: int = 420) -> LinearPicture:
    rng = np.random.default_rng(6)
    light = cv2.resize(rng.random((21, 32, 3)), (width, height), interpolation=cv2.INTER_CUBIC)
    return LinearPicture.with_pyramid(
        (np.clip(light, 0.02, 0.9) * 60000).astype(np.uint16), 1 / 65535
    )


class MapTest(unittest.TestCase):
    def test_there_and_back(self) -> None:
        for settings in (
            EVERYTHING,
            CaptureSettings(quarter_turns=3),
            CaptureSettings(straighten=-20, distortion=-0.1),
        ):
            geometry = Geometry(3000, 2000, settings)
            _, _, width, height = geometry.window
            rng = np.random.default_rng(1)
            places = rng.random((200, 2)) * [width, height]
            back = geometry.capture_to_picture(geometry.picture_to_capture(places))
            np.testing.assert_allclose(back, places, atol=1e-3)

    def test_distortion_is_the_cubic_lens_model(self) -> None:
        # OpenCV's pinhole model with k1 alone: x (1 + k1 r²); its radius 1 is the focal length
        geometry = Geometry(3000, 2000, CaptureSettings(distortion=0.06))
        half = 0.5 * np.hypot(3000, 2000)
        rng = np.random.default_rng(2)
        recorded = rng.random((50, 2)) * [3000, 2000]
        ideal = (recorded - [1500, 1000]) / half
        flat = np.c_[ideal, np.ones(50)].reshape(-1, 1, 3)
        camera = np.array([[half, 0, 1500], [0, half, 1000], [0, 0, 1.0]])
        wanted, _ = cv2.projectPoints(
            flat, np.zeros(3), np.zeros(3), camera, np.array([0.06, 0, 0, 0])
        )
        shift = (np.array(geometry.frame) - [3000, 2000]) / 2
        np.testing.assert_allclose(
            geometry.capture_to_picture(recorded), wanted[:, 0] + shift, atol=1e-6
        )

    def test_keystone_is_a_homography_that_makes_lines_parallel(self) -> None:
        settings = CaptureSettings(keystone_vertical=0.3, keystone_horizontal=0.1)
        geometry = Geometry(3000, 2000, settings)
        square = np.array([[800, 500], [2200, 500], [2200, 1500], [800, 1500]], np.float32)
        matrix = cv2.getPerspectiveTransform(
            square, geometry.capture_to_picture(square).astype(np.float32)
        )
        inside = np.random.default_rng(3).random((40, 2)) * [3000, 2000]
        wanted = cv2.perspectiveTransform(inside[:, None].astype(np.float32), matrix)[:, 0]
        np.testing.assert_allclose(geometry.capture_to_picture(inside), wanted, atol=0.5)
        upright = Geometry(3000, 2000, CaptureSettings(keystone_vertical=0.3))
        # lines that met above run parallel: their distance no longer changes with height
        half = 0.5 * np.hypot(3000, 2000)
        meet = np.array([1500.0, 1000.0 - half / 0.3])
        feet = np.array([[900.0, 1900.0], [2100.0, 1900.0]])
        found = upright.capture_to_picture(np.concatenate([feet, feet + 0.4 * (meet - feet)]))
        self.assertAlmostEqual(found[0, 0], found[2, 0], delta=1e-6)
        self.assertAlmostEqual(found[1, 0], found[3, 0], delta=1e-6)

    def test_the_frame_stays_full(self) -> None:
        white = LinearPicture([np.full((300, 450, 3), 50000, np.uint16)], 1 / 65535)
        for settings in (CaptureSettings(straighten=12), CaptureSettings(keystone_vertical=-0.4),
                         CaptureSettings(distortion=-0.08), EVERYTHING):  # fmt: skip
            geometry = Geometry(450, 300, settings)
            self.assertGreaterEqual(geometry.zoom, 1.0)
            _, _, width, height = geometry.window
            corners = np.array([[0, 0], [width, 0], [0, height], [width, height]], float)
            inside = geometry.picture_to_capture(corners)
            self.assertTrue((inside >= -0.01).all() and (inside <= [450.01, 300.01]).all())
            cut = seen_under(white, settings)
            light = cut.cut(View(0, 0, width, height, width, height))
            self.assertEqual(light.shape, (height, width, 3))
            self.assertGreater(light.min(), 49000)


class SeenTest(unittest.TestCase):
    def test_quarter_turns_and_flip_are_exact(self) -> None:
        capture = picture()
        for turns in range(4):
            for flip in (False, True):
                settings = CaptureSettings(quarter_turns=turns, flip=flip)
                cut = seen_under(capture, settings)
                view = View(0, 0, cut.width, cut.height, cut.width, cut.height)
                wanted = np.rot90(capture.levels[0], -turns)
                wanted = wanted[:, ::-1] if flip else wanted
                np.testing.assert_allclose(cut.cut(view).astype(int), wanted, atol=2)

    def test_what_is_seen_at_100_per_cent_is_delivered_and_strips_agree(self) -> None:
        capture = picture(1500, 1000)
        path = shelf.light_path(Recipe(capture=EVERYTHING))
        cut = seen_under(capture, EVERYTHING)
        delivered = np.concatenate(list(strips(Sitting("s", capture, path), bits=8)))
        self.assertEqual(delivered.shape, (cut.height, cut.width))
        seen_part = Darkroom().view(Sitting("g", capture, path), View(40, 60, 300, 200, 300, 200))
        np.testing.assert_array_equal(seen_part, delivered[60:260, 40:340])

    def test_resampled_once_it_is_sharper_than_in_steps(self) -> None:
        rng = np.random.default_rng(9)
        light = (rng.random((500, 700, 1)).repeat(3, 2) * 50000).astype(np.uint16)
        capture = LinearPicture([light], 1 / 65535)
        steps = [{"straighten": 6.0}, {"keystone_vertical": 0.15}, {"crop": (0.1, 0.1, 0.9, 0.9)}]
        once = seen_under(capture, CaptureSettings(**{k: v for s in steps for k, v in s.items()}))
        one = once.cut(View(0, 0, once.width, once.height, once.width, once.height))
        for step in steps:
            part = seen_under(capture, CaptureSettings(**step))
            whole = View(0, 0, part.width, part.height, part.width, part.height)
            capture = LinearPicture([part.cut(whole)], 1 / 65535)

        def sharpness(pixels: np.ndarray) -> float:
            return float(np.diff(pixels[100:200, 100:300, 1].astype(float)).std())

        self.assertGreater(sharpness(one), 1.05 * sharpness(capture.levels[0]))

    def test_grain_and_blur_keep_the_films_size_when_cropped(self) -> None:
        light = np.full((800, 1200, 3), 9000, np.uint16)
        capture = LinearPicture.with_pyramid(light, 1 / 65535)
        spread = []
        for crop in (None, (0.25, 0.25, 0.75, 0.75)):
            settings = CaptureSettings(crop=crop)
            recipe = Recipe(capture=settings, film=FilmSettings(stock="willow-400"))
            view = View(0, 0, 400, 300, 400, 300)
            spread.append(float(Darkroom().negative(sitting(capture, recipe), view).pixels.std()))
        self.assertAlmostEqual(spread[0] / spread[1], 1.0, delta=0.02)

    def test_spots_stay_on_their_subject(self) -> None:
        capture = picture(1200, 800)
        geometry = Geometry(1200, 800, EVERYTHING)
        room = Darkroom()
        plain, through = (
            shelf.light_path(Recipe(capture=s)) for s in (CaptureSettings(), EVERYTHING)
        )
        for x, y in ((600, 400), (700, 300), (500, 450)):
            at = picture_pixels(geometry.capture_to_picture(capture_places([(x, y)])))[0]
            before = room.spot(Sitting("plain", capture, plain), PicturePixel(x, y), 3).zone
            after = room.spot(Sitting("cut", capture, through), at, 3).zone
            self.assertAlmostEqual(before, after, delta=0.1)

    def test_lateral_colour_of_the_demo_lens(self) -> None:
        # known.json: the amounts the demo's lens was made with
        lens = KNOWN["lenses"]["09 kiln chimney.dng"]
        developed = read_capture(demo_capture("kiln chimney"))
        capture = LinearPicture([developed.light], developed.scale)

        def fringe(settings: CaptureSettings) -> float:
            """Pixels by which red and blue lie apart on bricks far from the centre."""
            cut, side = seen_under(capture, settings), 512
            view = View(60, cut.height - 900, side, side, side, side)
            patch = np.log(cut.cut(view).astype(np.float32) + 60)
            window = cv2.createHanningWindow((side, side), cv2.CV_32F)
            red, blue = (np.ascontiguousarray(patch[..., c]) for c in (0, 2))
            return float(np.hypot(*cv2.phaseCorrelate(red, blue, window)[0]))

        mended = CaptureSettings(lateral_red=1 / lens["red"] - 1, lateral_blue=1 / lens["blue"] - 1)
        before, after = fringe(CaptureSettings()), fringe(mended)
        self.assertGreater(before, 1.2)
        self.assertLess(after, 0.35)


class WhiteBalanceTest(unittest.TestCase):
    def test_a_picked_area_becomes_neutral_and_warmth_warms(self) -> None:
        share = (0.45, 0.35, 0.20)
        balanced = np.array(share) * gains(CaptureSettings(balance=share))
        self.assertAlmostEqual(np.ptp(balanced), 0.0, delta=1e-9)
        warm = gains(CaptureSettings(warmth=60))
        self.assertTrue(warm[0] > warm[1] > warm[2])
        cool = gains(CaptureSettings(warmth=-60))
        self.assertTrue(cool[0] < cool[1] < cool[2])
        self.assertLess(gains(CaptureSettings(tint=0.5))[1], 1.0)
        self.assertEqual(gains(CaptureSettings()), (1.0, 1.0, 1.0))

    def test_the_demo_target_is_made_neutral_again(self) -> None:
        developed = read_capture(demo_capture("target"))
        capture = LinearPicture.with_pyramid(developed.light, developed.scale)
        warm = seen_under(capture, CaptureSettings(warmth=80))
        light = warm.levels[0].reshape(-1, 3).mean(axis=0) * warm.gains
        again = CaptureSettings(balance=tuple(light / light.sum()))
        done = light * np.array(gains(again))
        self.assertAlmostEqual(np.ptp(done) / done.mean(), 0.0, delta=1e-6)


class FlattenTest(unittest.TestCase):
    def test_shadows_open_and_highlights_come_down_without_crossing_edges(self) -> None:
        zones = np.repeat([1.0, 5.0, 9.0], 400)
        light = np.rint(0.18 * 2.0 ** (zones - 5)[None] * np.ones((300, 1)) * 65535 / 4)
        capture = LinearPicture.with_pyramid(
            light.astype(np.uint16)[..., None].repeat(3, 2), 4 / 65535
        )
        film = FilmSettings(halation=0)
        view, room = capture.whole(2000), Darkroom()

        def line(**settings: float) -> np.ndarray:
            recipe = Recipe(capture=CaptureSettings(**settings), film=film)
            found = room.exposure(Sitting(capture, capture, shelf.light_path(recipe)), view).pixels
            return np.asarray(found[150])

        moved = line(open_shadows=1.5, rein_highlights=1.0) - line()
        self.assertAlmostEqual(moved[200], 1.5, delta=0.05)
        self.assertAlmostEqual(moved[600], 0.2, delta=0.25)
        self.assertLess(moved[1000], -0.7)
        self.assertAlmostEqual(moved[390], moved[200], delta=0.1)  # up to the edge


if __name__ == "__main__":
    unittest.main()
