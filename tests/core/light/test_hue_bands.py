import unittest

import colour
import numpy as np
from hypothesis import example, given
from hypothesis import strategies as st

from silvrin import shelf
from silvrin.core.light.conversion import Conversion
from silvrin.core.light.hue_bands import hue_of, moved, stops_by_hue, weight
from silvrin.core.light.laying import (
    band_at,
    band_for,
    even_bands,
    laid_bands,
    parted_bands,
)
from silvrin.core.light.settings import MOST_BANDS
from silvrin.core.recipe import CaptureSettings, HueBand, LightSettings, Recipe
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
        turned = moved(soft, 40.0)
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
        narrow = (HueBand(stops=-2, width=40, softness=0.3, centre=138),)
        found = stops(np.array([green, yellow, grey]), hue_bands=narrow)
        np.testing.assert_allclose(found, [-2.0, 0.0, 0.0], atol=0.03)

    def test_even_bands_cover_the_circle(self) -> None:
        hues = np.arange(0.0, 360.0, 1.0)
        for count in range(2, MOST_BANDS + 1):
            bands = even_bands(count)
            self.assertEqual(bands[0].centre, 12)  # from red, up the circle
            self.assertEqual([b.centre for b in bands], sorted(b.centre for b in bands))
            total = sum(weight(band, hues) for band in bands)
            np.testing.assert_allclose(total, 1.0, atol=0.06)
            every = tuple(band.model_copy(update={"stops": 1.0}) for band in bands)
            saturated = COLOURS[hue_of(COLOURS)[1] > 0.8]
            found = stops(saturated, hue_bands=every)
            self.assertGreater(found.min(), 0.9)
            self.assertLess(found.max(), 1.02)


class LayingTest(unittest.TestCase):
    @given(
        heaps=st.lists(
            st.tuples(st.integers(0, 11), st.integers(2, 12), st.floats(0.3, 1.0)),
            min_size=1, max_size=5, unique_by=lambda heap: heap[0],
        ),
        turned=st.integers(0, 71),
    )  # fmt: skip
    def test_every_heap_of_hues_lies_in_a_band_and_empty_hues_in_none(
        self, heaps: list[tuple[int, int, float]], turned: int
    ) -> None:
        hues = np.zeros(72)
        for place, width, height in heaps:  # apart by 30 degrees, up to 12 wide
            hues[(place * 6 + turned) % 72] = height
            hues[(place * 6 + 1 + turned) % 72] = height * width / 12
        bands = laid_bands(hues)
        self.assertLessEqual(len(bands), MOST_BANDS)
        middles = 5.0 * (np.arange(72) + 0.5)
        weights = np.array([weight(band, middles) for band in bands])
        for place, _, _ in heaps:
            at = (place * 6 + turned) % 72
            self.assertGreater(weights[:, at].max(), 0.5)
        far = np.min(
            [np.abs((middles - m + 180) % 360 - 180) for m in middles[hues > 0]], axis=0
        ) > 30  # fmt: skip
        self.assertLess(weights[:, far].sum(initial=0.0), 1e-9)
        # where the circle begins does not matter
        again = laid_bands(np.roll(hues, 9))
        self.assertEqual(len(again), len(bands))
        for band in bands:
            away = [abs((band.centre + 45 - other.centre + 180) % 360 - 180) for other in again]
            self.assertLess(min(away), 1.01)

    def test_a_picture_without_colour_gets_none_and_a_wide_heap_gets_two(self) -> None:
        self.assertEqual(laid_bands(np.zeros(72)), ())
        wide = np.zeros(72)
        wide[4:18] = 1.0  # 20 to 90 degrees
        first, second = laid_bands(wide)
        self.assertAlmostEqual(first.centre + first.width / 2, 55, delta=2)
        self.assertAlmostEqual(second.centre - second.width / 2, 55, delta=2)

    @example(centres=[0] * 5, hue=0.0, width=6)
    @given(
        centres=st.lists(st.integers(0, 359), max_size=MOST_BANDS),
        hue=st.floats(0, 359.9),
        width=st.integers(6, 90),
    )
    def test_where_it_is_pulled_a_band_is_made_that_begins_with_what_the_hue_has(
        self, centres: list[int], hue: float, width: int
    ) -> None:
        bands = tuple(HueBand(centre=c, width=width, stops=1) for c in centres)
        covers, made = band_for(bands, hue), band_at(bands, hue)
        if covers is not None:
            self.assertGreaterEqual(float(weight(bands[covers], np.array(hue))), 0.5)
        if len(bands) == MOST_BANDS:
            self.assertIsNone(made)
            return
        assert made is not None
        self.assertLess(abs((made.centre - hue + 180) % 360 - 180), 0.51)
        if covers is None and len(bands) < 2:
            before = float(stops_by_hue(bands, np.array(hue)))
            self.assertAlmostEqual(made.stops, before, delta=0.03)
        if centres and set(centres) == {round(hue)}:
            self.assertEqual(made.stops, min(len(centres), 4))  # what all together give, bounded

    @given(first=st.floats(0, 359), apart=st.floats(-179, 179), common=st.booleans())
    def test_parted_each_of_two_hues_has_a_band_of_its_own(
        self, first: float, apart: float, common: bool
    ) -> None:
        second = (first + apart) % 360
        middle = round(first + apart / 2) % 360
        bands = (HueBand(centre=middle, width=180, stops=0.5),) if common else ()
        found = parted_bands(bands, (first, second))
        if abs(apart) < 6:
            self.assertIsNone(found)
            return
        assert found is not None
        one, other = band_for(found, first), band_for(found, second)
        self.assertIsNotNone(one)
        self.assertIsNotNone(other)
        self.assertNotEqual(one, other)


class SeparationTest(unittest.TestCase):
    def test_spread_doubles_the_distance_from_grey_along_its_axis_only(self) -> None:
        # CIE 1976 u', v' as colour-science computes it; the axes are along the locus of daylight
        # and across it
        soft = 0.8 / 3 + 0.2 * COLOURS
        white = _uv_of(np.ones((1, 3)))
        daylight = colour.temperature.CCT_to_xy_CIE_D(np.array([5500, 6500]))
        d55, d65 = colour.xy_to_Luv_uv(daylight)
        along = (d55 - d65) / np.linalg.norm(d55 - d65)
        across = np.array([-along[1], along[0]])
        before = _uv_of(soft) - white
        for settings, factors in (((0, 1.0, 0.0), (1, 2)), ((0, 0.0, 1.0), (2, 1))):
            after = _uv_of(moved(soft, *settings)) - white
            np.testing.assert_allclose(after @ along, factors[0] * before @ along, atol=4e-4)
            np.testing.assert_allclose(after @ across, factors[1] * before @ across, atol=4e-4)
        y = SPACE.matrix_RGB_to_XYZ[1]
        np.testing.assert_allclose(moved(soft, 0, 1.0, 0.5) @ y, soft @ y, rtol=1e-3)

    def test_on_film_a_spread_colour_prints_as_the_spread_colour_itself_does(self) -> None:
        soft = 0.7 / 3 + 0.3 * COLOURS
        shown = stops(soft, green_magenta=0.6, blue_yellow=-0.4)
        own = expose_of(moved(soft, 0.0, 0.6, -0.4)) - expose_of(soft)
        np.testing.assert_allclose(shown, own, atol=0.02)

    def test_without_any_chroma_all_colours_print_by_their_luminance(self) -> None:
        colours = 0.6 / 3 + 0.4 * COLOURS
        grey = np.repeat((colours @ SPACE.matrix_RGB_to_XYZ[1])[:, None], 3, axis=1)
        found = expose_of(colours) + stops(colours, green_magenta=-1, blue_yellow=-1)
        np.testing.assert_allclose(found, expose_of(grey), atol=0.02)

    def test_hues_of_an_infrared_capture_come_apart(self) -> None:
        near = np.array([[0.40, 0.30, 0.30], [0.38, 0.31, 0.31]])
        capture = CaptureSettings(
            infrared=True, neutral=(0.39, 0.305, 0.305), red=1, green=0, blue=0
        )

        def apart(**light: float) -> float:
            path = shelf.light_path(Recipe(capture=capture, light=LightSettings(**light)))
            coded = code(np.rint(near * 40000).astype(np.uint16)[None], 1 / 65535)
            one, other = path[Conversion].expose(coded)[0]
            return float(one - other)

        self.assertGreater(apart(green_magenta=2, blue_yellow=2), 1.8 * apart())


def _uv_of(rgb: np.ndarray) -> np.ndarray:
    return np.asarray(colour.Luv_to_uv(colour.XYZ_to_Luv(colour.RGB_to_XYZ(rgb, SPACE))))


if __name__ == "__main__":
    unittest.main()
