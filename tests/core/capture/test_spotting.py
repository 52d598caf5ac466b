import json
import unittest
from pathlib import Path

import cv2
import numpy as np

from silvrin.core.capture.spotting import mended, source_for
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import Mend
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture

KNOWN = json.loads((Path(__file__).parents[3] / "demo" / "truth" / "known.json").read_text())


def dusty(scene: np.ndarray, x: int, y: int, radius: float, depth: float) -> np.ndarray:
    """A scene (H, W, 3) with a soft speck of dust."""
    across = np.hypot(*np.meshgrid(np.arange(scene.shape[1]) - x, np.arange(scene.shape[0]) - y))
    speck = 1 - depth / (1 + np.exp((across - 0.75 * radius) / (0.08 * radius)))
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
        at_border = mended(capture, (Mend(x=3, y=3, radius=20),))
        np.testing.assert_array_equal(at_border.levels[0], codes)

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
