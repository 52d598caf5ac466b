import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import CaptureSettings, Recipe
from silvrin.core.render import Darkroom, code, expose
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture


class InfraredCaptureTest(unittest.TestCase):
    def exposure(self, rgb: list[float], **capture: object) -> float:
        light = np.rint(np.array(rgb) * 60000).astype(np.uint16)[None, None]
        recipe = Recipe(capture=CaptureSettings(infrared=True, **capture))
        return float(expose(code(light, 1 / 60000), shelf.light_path(recipe))[0, 0])

    def test_channels_are_weighed_after_the_neutral(self) -> None:
        leaf = [0.45, 0.20, 0.10]
        neutral = tuple(v / sum(leaf) for v in leaf)
        # the neutral prints as a grey of its mean, whatever the weights
        grey = np.log2(np.mean(leaf) / 0.18)
        for weights in ({}, {"green": 0, "blue": 0}, {"red": 0.2, "green": 0.7}):
            self.assertAlmostEqual(
                self.exposure(leaf, neutral=neutral, **weights), grey, delta=0.01
            )
        # one channel alone: ratios are that channel's
        only = {"neutral": neutral, "green": 0, "blue": 0}
        half = [0.225, 0.30, 0.02]
        self.assertAlmostEqual(
            self.exposure(half, **only), self.exposure(leaf, **only) - 1, delta=0.02
        )

    def test_a_converted_camera_is_told_by_its_cast(self) -> None:
        for title, wanted in (("bottle kiln, infrared", True), ("bottle kiln", False)):
            developed = read_capture(demo_capture(title))
            picture = LinearPicture.with_pyramid(developed.light, developed.scale)
            reading = Darkroom().readings(title, picture, shelf.light_path(Recipe()))
            self.assertEqual(reading.looks_infrared, wanted)


if __name__ == "__main__":
    unittest.main()
