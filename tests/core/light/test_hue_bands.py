import unittest

import colour
import numpy as np

from silvrin import shelf
from silvrin.core.light.conversion import Conversion
from silvrin.core.light.hue_bands import hue_of, shifted, weight
from silvrin.core.recipe import HUE_BANDS, LightSettings, Recipe
from silvrin.core.render import code

RNG = np.random.default_rng(5)
COLOURS = RNG.dirichlet((2.0, 2.0, 2.0), 200)
SPACE = colour.RGB_COLOURSPACES["ITU-R BT.2020"]


def stops(rgb: np.ndarray, **light: object) -> np.ndarray:
    """By how much the exposure of colours (N, 3) changes with these settings."""
    capture = np.rint(np.atleast_2d(rgb) * 40000).astype(np.uint16)[None]
    with_it, without = (
        shelf.light_path(Recipe(light=LightSettings(**settings)))[Conversion].expose(
            code(capture, 1 / 65535)
        )
        for settings in (light, {})
    )
    return (with_it - without)[0]


def bands(**changes: dict[str, float]) -> tuple:
    names = ("red", "orange", "yellow", "green", "bluegreen", "blue", "violet", "purple")
    return tuple(
        band.model_copy(update=changes.get(name, {}))
        for name, band in zip(names, HUE_BANDS, strict=True)
    )


class HueTest(unittest.TestCase):
    def test_hue_and_saturation_are_those_of_cie_luv(self) -> None:
        # CIE 1976 u', v', hue angle and s_uv (CIE 15) as colour-science computes them
        xyz = colour.RGB_to_XYZ(COLOURS, SPACE)
        luv = colour.XYZ_to_Luv(xyz, SPACE.whitepoint)
        hue, saturation = hue_of(COLOURS)
        wanted = np.degrees(np.arctan2(luv[:, 2], luv[:, 1])) % 360
        np.testing.assert_allclose((hue - wanted + 180) % 360 - 180, 0, atol=0.3)
        np.testing.assert_allclose(
            saturation, np.hypot(luv[:, 1], luv[:, 2]) / luv[:, 0], rtol=0.01
        )

    def test_a_shift_turns_the_hue_and_nothing_else(self) -> None:
        soft = 0.7 / 3 + 0.3 * COLOURS  # so that they stay colours
        turned = shifted(soft, 40.0)
        (before, s0), (after, s1) = hue_of(soft), hue_of(turned)
        np.testing.assert_allclose((after - before) % 360, 40, atol=0.01)
        np.testing.assert_allclose(s1, s0, rtol=1e-6)
        y = SPACE.matrix_RGB_to_XYZ[1]
        np.testing.assert_allclose(turned @ y, soft @ y, rtol=1e-3)
        # on film: a shifted colour prints as the turned colour itself does
        shown = stops(soft, hue_shift=40.0)
        own = expose_of(turned) - expose_of(soft)
        np.testing.assert_allclose(shown, own, atol=0.02)


def expose_of(rgb: np.ndarray) -> np.ndarray:
    capture = np.rint(rgb * 40000).astype(np.uint16)[None]
    return shelf.light_path(Recipe())[Conversion].expose(code(capture, 1 / 65535))[0]


class BandsTest(unittest.TestCase):
    def test_a_band_gives_its_stops_to_its_hue_and_none_to_others(self) -> None:
        green, yellow, grey = [0.12, 0.5, 0.1], [0.5, 0.46, 0.08], [0.3, 0.3, 0.3]
        narrow = bands(green={"stops": -2.0, "width": 40.0, "softness": 0.3, "centre": 138.0})
        found = stops(np.array([green, yellow, grey]), hue_bands=narrow)
        np.testing.assert_allclose(found, [-2.0, 0.0, 0.0], atol=0.03)

    def test_all_bands_together_cover_the_circle(self) -> None:
        hues = np.arange(0.0, 360.0, 1.0)
        total = sum(weight(band, hues) for band in HUE_BANDS)
        self.assertGreater(total.min(), 0.7)
        every = bands(**{name: {"stops": 1.0} for name in ("red", "orange", "yellow", "green",
                      "bluegreen", "blue", "violet", "purple")})  # fmt: skip
        saturated = COLOURS[hue_of(COLOURS)[1] > 0.8]
        found = stops(saturated, hue_bands=every)
        self.assertGreater(found.min(), 0.7)
        self.assertLess(found.max(), 1.02)


if __name__ == "__main__":
    unittest.main()
