import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.light.conversion import Conversion
from silvrin.core.recipe import CaptureSettings, FilmSettings, LightSettings, Recipe
from silvrin.core.render import code
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture


class OrderOfTonesTest(unittest.TestCase):
    """What handbooks say of film and filters (common practice, no source), seen in the demo."""

    def zone(self, title: str, place: tuple[float, float], **settings: str) -> float:
        developed = read_capture(demo_capture(title))
        height, width = developed.light.shape[:2]
        y, x = round(place[0] * height), round(place[1] * width)
        part = np.ascontiguousarray(developed.light[y : y + 24, x : x + 24])
        film = FilmSettings(stock=settings.pop("stock", "larch-100"))
        recipe = Recipe(light=LightSettings(**settings), film=film)
        exposure = shelf.light_path(recipe)[Conversion].expose(code(part, developed.scale))
        return float(np.log2(np.exp2(exposure).mean())) + 5

    def test_skies_darken_from_yellow_to_deep_red(self) -> None:
        for title in ("bottle kiln", "clay pond"):
            skies = [self.zone(title, (0.03, 0.5), lens_filter=f)
                     for f in ("none", "8", "15", "25", "29")]  # fmt: skip
            self.assertTrue(np.all(np.diff(skies) < -0.02), (title, skies))
            self.assertGreater(skies[0] - skies[-1], 1.2)
            self.assertGreater(self.zone(title, (0.03, 0.5), lens_filter="47"), skies[0])

    def test_a_red_subject_is_black_on_orthochromatic_film(self) -> None:
        light = np.rint(np.array([[[0.35, 0.035, 0.02]]]) * 60000).astype(np.uint16)
        zones = {}
        for stock in ("larch-100", "fern-50", "bramble-100", "sloe-10"):
            path = shelf.light_path(Recipe(film=FilmSettings(stock=stock)))
            zones[stock] = float(path[Conversion].expose(code(light, 1 / 60000))[0, 0]) + 5
        self.assertGreater(zones["larch-100"], 4)
        for stock in ("fern-50", "bramble-100", "sloe-10"):
            self.assertLess(zones[stock], 2.5, zones)  # textureless black begins near Zone II
            self.assertLess(zones[stock], zones["larch-100"] - 1.8)


class InfraredCaptureTest(unittest.TestCase):
    def exposure(self, rgb: list[float], **capture: object) -> float:
        light = np.rint(np.array(rgb) * 60000).astype(np.uint16)[None, None]
        recipe = Recipe(capture=CaptureSettings(infrared=True, **capture))
        return float(shelf.light_path(recipe)[Conversion].expose(code(light, 1 / 60000))[0, 0])

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


if __name__ == "__main__":
    unittest.main()
