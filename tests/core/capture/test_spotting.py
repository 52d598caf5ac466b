import json
import unittest
from pathlib import Path

import cv2
import numpy as np

from silvrin.core.capture.spotting import mended, source_for
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import Mend, Outline
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture

KNOWN = json.loads((Path(__file__).parents[3] / "demo" / "truth" / "known.json").read_text())


def dusty(scene: np.ndarray, x: int, y: int, radius: float, depth: float) -> np.ndarray:
    """A scene (H, W, 3) with a soft speck of dust."""
    across = np.hypot(*np.meshgrid(np.arange(scene.shape[1]) - x, np.arange(scene.shape[0]) - y))
    edge = np.clip((across - 0.75 * radius) / (0.08 * radius), -50, 50)
    speck = 1 - depth / (1 + np.exp(edge))
    return scene * speck[..., None]


class MendTest(unittest.TestCase):
    def scene(self) -> np.ndarray:
        rng = np.random.default_rng(3)
        shade = np.linspace(0.2, 0.6, 600)[None] * np.linspace(0.8, 1.2, 400)[:, None]
        texture = 1 + 0.1 * cv2.GaussianBlur(rng.normal(0, 1, (400, 600)), (0, 0), 1.5)
        return (shade * texture)[..., None] * np.array([1.0, 0.8, 0.6])

    def test_dust_against_the_same_scene_without_it(self) -> None:
        scene = self.scene()
        codes = np.rint(dusty(scene, 300, 200, 12, 0.4) * 60000).astype(np.uint16)
        capture = LinearPicture.with_pyramid(codes, 1 / 60000)
        made = mended(capture, (Mend(x=300, y=200, radius=14),))
        hole = np.s_[188:213, 288:313]
        before, after = (np.log2(p.levels[0][hole] / 60000 / scene[hole]) for p in (capture, made))
        self.assertLess(before.mean(), -0.25)
        self.assertAlmostEqual(float(after.mean()), 0.0, delta=0.03)
        # it has texture like its surroundings, not a smear
        light, around = made.levels[0][hole][..., 1], made.levels[0][188:213, 340:365, 1]
        spread = [cv2.Laplacian(np.log2(v.astype(np.float32)), cv2.CV_32F).std()
                  for v in (light, around)]  # fmt: skip
        self.assertAlmostEqual(spread[0] / spread[1], 1.0, delta=0.3)
        # nothing else is changed, the capture not at all
        outside = np.ones(codes.shape[:2], bool)
        outside[170:231, 270:331] = False
        np.testing.assert_array_equal(made.levels[0][outside], codes[outside])
        np.testing.assert_array_equal(capture.levels[0], codes)
        for level, plain in zip(made.levels[1:], capture.levels[1:], strict=True):
            self.assertTrue((level != plain).any())
        self.assertIs(mended(capture, (Mend(x=300, y=200, radius=14),)), made)

    def test_a_chosen_source_and_the_border(self) -> None:
        scene = self.scene()
        scene[:, 300:] *= 0.25  # an edge beside the speck
        codes = np.rint(dusty(scene, 285, 200, 8, 0.4) * 60000).astype(np.uint16)
        capture = LinearPicture.with_pyramid(codes, 1 / 60000)
        found = source_for(codes, Mend(x=285, y=200, radius=9))
        self.assertLessEqual(found[0], 285)  # not from beyond the edge
        chosen = mended(capture, (Mend(x=285, y=200, radius=9, from_x=285, from_y=260),))
        off = np.log2(chosen.levels[0][195:206, 280:291] / 60000 / scene[195:206, 280:291])
        self.assertAlmostEqual(float(off.mean()), 0.0, delta=0.04)

    def test_a_speck_at_the_border(self) -> None:
        scene = self.scene()
        codes = np.rint(dusty(scene, 4, 200, 10, 0.4) * 60000).astype(np.uint16)
        capture = LinearPicture.with_pyramid(codes, 1 / 60000)
        made = mended(capture, (Mend(x=4, y=200, radius=12), Mend(x=900, y=900, radius=12)))
        off = np.log2(made.levels[0][193:208, :12] / 60000 / scene[193:208, :12])
        self.assertAlmostEqual(float(off.mean()), 0.0, delta=0.05)

    def test_a_stroke_along_a_hair(self) -> None:
        scene = self.scene()
        path = [(120, 80), (200, 130), (260, 230), (300, 330)]
        line = np.zeros((400, 600), np.uint8)
        cv2.polylines(line, [np.array(path)], False, (255,), 5)
        share = cv2.GaussianBlur(line, (0, 0), 1.0)[..., None] / 255.0
        codes = np.rint(scene * (1 - 0.5 * share) * 60000).astype(np.uint16)
        capture = LinearPicture.with_pyramid(codes, 1 / 60000)
        stroke = Mend(x=120, y=80, path=tuple(path[1:]), radius=7)
        made = mended(capture, (stroke,))
        hair = share[..., 0] > 0.5
        off = np.log2(made.levels[0][hair] / 60000 / scene[hair])
        self.assertAlmostEqual(float(off.mean()), 0.0, delta=0.03)
        self.assertLess(float(off.std()), 0.3)
        far = cv2.dilate(line, np.ones((25, 25), np.uint8)) == 0
        np.testing.assert_array_equal(made.levels[0][far], codes[far])

    def test_an_outline_holds_a_mend_from_the_chimney(self) -> None:
        scene = self.scene()
        scene[195:, 298:340] *= 0.25  # a chimney, whose corner is beside the speck's middle
        codes = np.rint(dusty(scene, 293, 200, 9, 0.4) * 60000).astype(np.uint16)
        capture = LinearPicture.with_pyramid(codes, 1 / 60000)
        chimney = Outline(points=((298, 195), (339, 195), (339, 399), (298, 399)))
        mend = Mend(x=293, y=200, radius=12)
        held = mended(capture, (mend,), (chimney,)).levels[0]
        np.testing.assert_array_equal(held[195:, 298:340], codes[195:, 298:340])
        inside = np.s_[192:209, 285:298]

        def off(light: np.ndarray) -> np.ndarray:
            return np.log2(light[inside] / 60000 / scene[inside])

        self.assertAlmostEqual(float(off(held).mean()), 0.0, delta=0.04)
        rms = [float(np.sqrt((off(v) ** 2).mean()))
               for v in (held, mended(capture, (mend,)).levels[0])]  # fmt: skip
        self.assertLess(rms[0], 0.7 * rms[1])

    def test_a_larger_thing_is_filled_from_around(self) -> None:
        # grass below, sky above, a post before both
        rng = np.random.default_rng(4)
        scene = np.empty((300, 400, 3))
        scene[:150] = [0.3, 0.4, 0.6]
        scene[150:] = [0.12, 0.16, 0.06]
        blades = cv2.GaussianBlur(rng.normal(0, 1, (300, 400)), (0, 0), 1.2)
        scene[150:] *= 2.0 ** (1.5 * blades[150:, :, None])
        scene *= 1 + 0.01 * rng.normal(0, 1, (300, 400, 1))
        posted = scene.copy()
        posted[100:220, 190:212] = [0.7, 0.65, 0.6]
        codes = np.rint(posted * 60000).astype(np.uint16)
        capture = LinearPicture.with_pyramid(codes, 1 / 60000)
        post = Mend(x=201, y=110, path=((201, 210),), radius=20, fill=True)
        light = mended(capture, (post,)).levels[0] / 60000
        for part in (np.s_[105:142, 192:210], np.s_[158:215, 192:210]):
            off = np.log2(light[part].mean(axis=(0, 1)) / scene[part].mean(axis=(0, 1)))
            np.testing.assert_allclose(off, 0.0, atol=0.12)
            fine = [cv2.Laplacian(np.log2(v[part][..., 1]), cv2.CV_64F).std()
                    for v in (light, scene)]  # fmt: skip
            self.assertAlmostEqual(fine[0] / fine[1], 1.0, delta=0.35)
        # the horizon runs on, to a few pixels
        column = np.log2(light[140:160, 195:207, 2]).mean(axis=1)
        self.assertLess(abs(int(np.argmin(np.diff(column))) + 140 - 149), 4)

    def test_mends_one_by_one_are_mends_at_once(self) -> None:
        codes = np.rint(self.scene() * 60000).astype(np.uint16)
        capture, again = (LinearPicture.with_pyramid(codes, 1 / 60000) for _ in range(2))
        mends = tuple(Mend(x=100 * i, y=90 * i, radius=10) for i in range(1, 4))
        for many in range(1, 4):
            made = mended(capture, mends[:many])
        np.testing.assert_array_equal(made.levels[0], mended(again, mends).levels[0])

    def test_the_demo_specks_go_from_the_sky(self) -> None:
        # known.json: where the demo's dust lies and how deep it is
        developed = read_capture(demo_capture("kiln in the last sun"))
        capture = LinearPicture([developed.light], developed.scale)
        speck = KNOWN["dust"]["specks"][0]
        x, y, radius = round(speck["x"]), round(speck["y"]), round(1.4 * speck["radius"])
        made = mended(capture, (Mend(x=x, y=y, radius=radius),))

        def dip(picture: LinearPicture) -> float:
            light = picture.levels[0].sum(axis=2).astype(float)
            inside = light[y - 3 : y + 4, x - 3 : x + 4].mean()
            return float(1 - inside / np.median(light[y - 30 : y + 31, x - 30 : x + 31]))

        self.assertGreater(dip(capture), 0.6 * speck["depth"])
        self.assertLess(abs(dip(made)), 0.1 * speck["depth"])


if __name__ == "__main__":
    unittest.main()
