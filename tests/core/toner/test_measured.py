"""Toners measured from two wedges: of a known one what was put in is found again, judged by
colour-science's colour difference."""

import unittest

import colour
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin.core.colour import SRGB_LUMINANCE, luminance_of
from silvrin.core.recipe import Bath, TonerSettings
from silvrin.core.toner.baths import greatest_density
from silvrin.core.toner.colours import lab_of, srgb_of
from silvrin.core.toner.measured import MeasuredToner, rows_of
from silvrin.core.toner.toning import toned
from silvrin.errors import BadItem

MOST = 2.1
BLACK = 10.0**-MOST
VALUES = np.linspace(0.0, 10.0, 101)
LIGHT = luminance_of(10.0 * VALUES)


def wedges(bath: Bath, noise: float = 0.0) -> tuple[np.ndarray, np.ndarray]:
    """CIELAB of 21 steps untoned and toned, as a densitometer has them: black is the paper's."""
    light = luminance_of(np.linspace(0, 100, 21))
    grey = np.repeat((light * (1 - BLACK) + BLACK)[:, None], 3, axis=1)
    shown = toned(light, MOST, TonerSettings(baths=(bath,))) * (1 - BLACK) + BLACK
    rng = np.random.default_rng(4)
    first, second = (lab_of(v) + rng.normal(0, noise, v.shape) for v in (grey, shown))
    return first, second


def measured(bath: Bath, takes: str, noise: float = 0.0) -> dict[str, MeasuredToner]:
    rows = rows_of(*(srgb_of(lab) for lab in wedges(bath, noise)))
    return {"own": MeasuredToner("own", "Own", takes, rows.density, rows.times, rows.ratios)}


def own(time: float, toners: dict[str, MeasuredToner], **more: object) -> np.ndarray:
    bath = Bath(kind="own", toner="own", time=time)
    return toned(LIGHT, MOST, TonerSettings(baths=(bath,), **more), toners=toners)


class MeasuredTest(unittest.TestCase):
    def test_toned_to_the_end_it_has_the_colours_that_were_measured(self) -> None:
        for kind in ("copper", "iron-blue", "gold"):
            bath = Bath(kind=kind, time=1.0)
            wanted = lab_of(toned(LIGHT, MOST, TonerSettings(baths=(bath,))))
            for noise, most in ((0.0, 1.0), (0.3, 2.5)):
                found = lab_of(own(1.0, measured(bath, "throughout", noise)))
                apart = colour.delta_E(wanted, found, method="CIE 2000")
                self.assertLess(apart[15:96].max(), most, (kind, noise))

    def test_what_it_does_to_black_is_kept(self) -> None:
        for kind, sign in (("selenium", 1), ("sepia", -1)):
            toners = measured(Bath(kind=kind, time=1.0), "throughout")
            bath = TonerSettings(baths=(Bath(kind="own", toner="own", time=1.0),))
            self.assertGreater(sign * (greatest_density(MOST, bath, toners) - MOST), -0.01)

    def test_lights_or_shadows_go_first_as_is_said(self) -> None:
        bath = Bath(kind="iron-blue", time=1.0)
        light, dark = slice(70, 95), slice(10, 30)

        def blue(takes: str) -> np.ndarray:
            return -lab_of(own(0.25, measured(bath, takes)))[:, 2]

        even = blue("throughout")
        self.assertGreater(blue("lights")[light].mean(), 1.2 * even[light].mean())
        self.assertLess(blue("shadows")[light].mean(), 0.5 * even[light].mean())
        self.assertGreater(blue("shadows")[dark].mean(), blue("lights")[dark].mean())

    @settings(max_examples=40)
    @given(time=st.floats(0, 1), kind=st.sampled_from(["copper", "iron-blue", "sepia", "gold"]),
           takes=st.sampled_from(["lights", "shadows", "throughout"]))  # fmt: skip
    def test_lightness_never_falls_and_nothing_is_lighter_than_the_base(
        self, time: float, kind: str, takes: str
    ) -> None:
        shown = own(time, measured(Bath(kind=kind, time=1.0), takes))
        luminance = shown @ SRGB_LUMINANCE
        self.assertGreater(np.diff(lab_of(shown)[:, 0]).min(), -0.05)
        self.assertTrue((luminance <= luminance[-1] + 1e-9).all())

    def test_wedges_that_tell_nothing_are_refused_in_words(self) -> None:
        lab, after = wedges(Bath(kind="copper", time=1.0))
        grey, shown = srgb_of(lab), srgb_of(after)
        for first, second, words in (
            (grey, shown[:-1], "same steps of both"),
            (grey[:4], shown[:4], "at least 5"),
            (grey[-6:], shown[-6:], "above its base"),
        ):
            with self.assertRaisesRegex(BadItem, words):
                rows_of(first, second)
        with self.assertRaisesRegex(ValueError, "names it"):
            Bath(kind="own")


if __name__ == "__main__":
    unittest.main()
