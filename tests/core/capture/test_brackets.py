import json
import unittest
from pathlib import Path

import cv2
import numpy as np

from silvrin.core.capture.brackets import BracketFrame, align, merge
from silvrin.demo_job import demo_capture
from silvrin.errors import BadCapture, Dropped
from silvrin.files.capture import read_capture

KNOWN = json.loads((Path(__file__).parents[3] / "demo" / "truth" / "known.json").read_text())
NAMES = ("drying loft, dark", "drying loft", "drying loft, light")
FILES = ("10 drying loft, dark.dng", "11 drying loft.dng", "12 drying loft, light.dng")


def bracket() -> list[BracketFrame]:
    frames = []
    for name in NAMES:
        developed = read_capture(demo_capture(name))
        exposure = 2.0**-developed.metadata.exposure_value
        frames.append(BracketFrame(developed.light, developed.scale, exposure, developed.limits))
    return frames


def made(radiance: np.ndarray, exposure: float, seed: int) -> BracketFrame:
    """A frame of known light with shot noise of a sensor of 20,000 electrons."""
    rng = np.random.default_rng(seed)
    electrons = rng.poisson(radiance * exposure * 20_000).clip(0, 20_000)
    return BracketFrame((electrons / 20_000 * 65535).astype(np.uint16), 1 / 65535, exposure)


class DemoBracketTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.frames = bracket()

    def test_alignment_within_a_third_of_a_pixel_of_what_is_known(self) -> None:
        height, width = self.frames[1].light.shape[:2]
        corners = np.array([[300, 300], [width - 300, 300], [300, height - 300],
                            [width - 300, height - 300]], float)  # fmt: skip
        middle = np.array([width, height]) / 2
        for index in (0, 2):
            found = align(self.frames[1], self.frames[index])
            got = corners @ found[:, :2].T + found[:, 2]
            move = KNOWN["moves"][FILES[index]]
            turn = np.radians(move["turn"])
            about = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
            wanted = (corners - middle) @ about.T + middle + [move["x"], move["y"]]
            self.assertLess(np.abs(got - wanted).max(), 0.3, (index, got - wanted))

    def test_the_merged_light_has_the_range_of_all(self) -> None:
        shares: list[float] = []
        merged = merge(self.frames, 1, 0.5, shares.append)
        self.assertEqual(shares, sorted(shares))
        self.assertAlmostEqual(shares[-1], 1.0)
        own = self.frames[1]
        # where the reference is neither clipped nor dark it reads the same
        clear = (own.light < 0.68 * np.array(own.limits)).all(axis=2)
        clear &= own.light.min(axis=2) > 1500
        ratio = merged.light[clear].astype(float) * merged.scale / (own.light[clear] * own.scale)
        self.assertAlmostEqual(float(np.median(np.log2(ratio))), 0.0, delta=0.03)
        # the doorway that was clipped has its light
        blown = (own.light >= np.array(own.limits)).all(axis=2)
        self.assertGreater(blown.mean(), 0.001)
        doorway = merged.light[blown].astype(float).mean() * merged.scale
        self.assertGreater(doorway, 1.3 * min(own.limits) * own.scale)


class SimulatedTest(unittest.TestCase):
    def scene(self) -> np.ndarray:
        rng = np.random.default_rng(7)
        coarse = 2.0 ** rng.uniform(-9, 1.5, (16, 24))
        light = cv2.resize(coarse, (720, 480), interpolation=cv2.INTER_CUBIC).clip(0.0015, 3)
        texture = 1 + 0.2 * cv2.GaussianBlur(rng.normal(0, 1, (480, 720)), (0, 0), 1.2)
        return (light * texture)[..., None] * [1.0, 0.9, 0.7]

    def test_merged_light_against_the_scenes_own(self) -> None:
        scene = self.scene()
        frames = [made(scene, e, i) for i, e in enumerate((0.25, 1.0, 4.0))]
        merged = merge(frames, 1)
        found = merged.light * merged.scale
        inside = (scene.max(axis=2) * 0.25 < 0.75) & (scene.min(axis=2) > 0.004)
        blur = [cv2.blur(v, (9, 9)) for v in (found, scene)]
        off = np.log2(blur[0][inside] / blur[1][inside])
        self.assertLess(np.percentile(np.abs(off), 95), 0.05)
        # less noise in the shadows than the reference alone
        dark = scene.max(axis=2) < 0.02
        noise = [np.std((v[dark] - scene[dark]) / scene[dark]) for v in
                 (found, frames[1].light / 65535)]  # fmt: skip
        self.assertLess(noise[0], 0.7 * noise[1])

    def test_what_moved_comes_from_the_reference(self) -> None:
        rng = np.random.default_rng(5)
        leaves = cv2.GaussianBlur(rng.normal(0, 1, (300, 450)), (0, 0), 1.5)
        scene = np.repeat(0.15 * 2.0 ** (0.8 * leaves)[..., None], 3, axis=2)
        frames = []
        for index, (exposure, x) in enumerate(((0.5, 100), (1.0, 200), (2.0, 300))):
            here = scene.copy()
            here[100:200, x : x + 50] = 0.03  # someone walks through
            frames.append(made(here, exposure, index))
        for ghosts, clean in ((0.0, False), (1.0, True)):
            merged = merge(frames, 1, ghosts)
            light = merged.light * merged.scale
            place = np.s_[140:160, 110:140, 1]
            left = np.log2(light[place].mean() / scene[place].mean())
            self.assertEqual(abs(left) < 0.05, clean, (ghosts, left))
            if clean:
                own = light[140:160, 210:240, 1].mean()
                self.assertAlmostEqual(np.log2(own / 0.03), 0, delta=0.6)
            self.assertEqual(merged.moved > 0.01, clean)

    def test_what_is_no_bracket(self) -> None:
        scene = self.scene()
        one, other = made(scene, 1.0, 1), made(scene, 1.05, 2)
        small = BracketFrame(made(scene, 4.0, 3).light[:200], 1 / 65535, 4.0)
        for frames, said in (
            ([one], "at least 2"),
            ([one, other], r"differ by 0.1 stops"),
            ([one, small], "720 x 200 and 720 x 480|different sizes"),
        ):
            with self.assertRaisesRegex(BadCapture, said):
                merge(frames, 0)
        with self.assertRaises(Dropped):
            merge([one, made(scene, 4.0, 3)], 0, wanted=lambda: False)


if __name__ == "__main__":
    unittest.main()
