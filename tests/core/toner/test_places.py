"""The toner at one place and not at another; colours are read by colour-science."""

import unittest

import colour
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin.core.enlarger.shapes import Card, Whole
from silvrin.core.enlarger.test_strip import TestStrip
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import (
    Bath,
    ColourBand,
    FilmSettings,
    Pass,
    Recipe,
    TonerSettings,
)  # fmt: skip
from silvrin.core.render import Darkroom, Sitting, print_strip, strips
from silvrin.core.render.shown import grey_of
from silvrin.core.toner.places import NOWHERE, ByPlace, ToningByPlace
from tests.worked import worked_path

# Linear BT.2020: a red, a green, a blue, a grey
COLOURS = np.array([(0.3, 0.12, 0.08), (0.12, 0.25, 0.1), (0.1, 0.15, 0.3), (0.18, 0.18, 0.18)])
RED, GREEN, BLUE, GREY = range(4)
SEPIA = (Bath(kind="sepia", time=1.0),)
BT2020, SRGB = colour.RGB_COLOURSPACES["ITU-R BT.2020"], colour.RGB_COLOURSPACES["sRGB"]


def patches(size: int = 32) -> LinearPicture:
    """Fields of COLOURS side by side."""
    light = np.rint(COLOURS * 50000).astype(np.uint16)
    return LinearPicture.with_pyramid(np.tile(light.repeat(size, axis=0), (size, 1, 1)), 1 / 50000)


def sitting(toner: TonerSettings, *passes: Pass) -> Sitting:
    recipe = Recipe(film=FilmSettings(grain=0.0, halation=0.0), toner=toner)
    return Sitting("p", patches(), worked_path(recipe, *passes))


def fields(toner: TonerSettings, *passes: Pass) -> np.ndarray:
    """(4,) or (4, 3) output numbers of the middles of the fields."""
    sat = sitting(toner, *passes)
    return Darkroom().view(sat, sat.picture.whole(128))[16, 16::32]


def chromaticity(numbers: np.ndarray) -> np.ndarray:
    return colour.XYZ_to_xy(colour.sRGB_to_XYZ(numbers / 255.0))


class CaptureColourTest(unittest.TestCase):
    def test_it_has_the_chromaticity_of_the_capture_at_the_lightness_of_the_print(self) -> None:
        plain, let = fields(TonerSettings()), fields(TonerSettings(capture_colour=1.0))
        wanted = colour.XYZ_to_xy(colour.RGB_to_XYZ(COLOURS, BT2020))
        np.testing.assert_allclose(chromaticity(let), wanted, atol=0.006)  # of 8 bits
        np.testing.assert_allclose(grey_of(let[None])[0].astype(int), plain, atol=1)
        half = fields(TonerSettings(capture_colour=0.5))
        away = np.linalg.norm(chromaticity(half) - chromaticity(let), axis=1)
        white = np.linalg.norm(chromaticity(let) - (0.3127, 0.3290), axis=1)
        self.assertTrue((away[:3] > 0.2 * white[:3]).all() and (away[:3] < 0.8 * white[:3]).all())

    def test_by_hue_only_what_lies_in_the_band_comes_back(self) -> None:
        let = fields(TonerSettings(colour_bands=(ColourBand(centre=10, width=60),)))
        spread = np.ptp(let.astype(int), axis=1)
        self.assertGreater(spread[RED], 40)
        self.assertLessEqual(spread[[GREEN, BLUE, GREY]].max(), 2)
        silver = fields(
            TonerSettings(baths=SEPIA, colour_bands=(ColourBand(centre=10, width=60, back=0.0),))
        )
        np.testing.assert_array_equal(silver, fields(TonerSettings(baths=SEPIA)))

    def test_the_file_has_the_numbers_of_the_view(self) -> None:
        sat = sitting(TonerSettings(capture_colour=0.7, baths=SEPIA), kept_off())
        seen = Darkroom().view(sat, sat.picture.whole(128))
        np.testing.assert_array_equal(np.concatenate(list(strips(sat, bits=8))), seen)
        fine = np.concatenate(list(strips(sat, bits=16)))
        self.assertLess(np.abs(fine / 257.0 - seen).max(), 0.51)

    def test_the_middle_of_a_test_strip_has_the_numbers_of_the_view(self) -> None:
        for sat in (
            sitting(TonerSettings(baths=SEPIA), kept_off()),
            sitting(TonerSettings(capture_colour=0.7)),
        ):
            room, view = Darkroom(), sat.picture.whole(128)
            negative = room.negative(sat, view)
            asked = TestStrip(count=3, step=0.5, lie="upright")
            strip = print_strip(negative, sat.path, asked, room.toned(sat, negative, view))
            place = slice(*(128 * k // 3 for k in (1, 2)))
            np.testing.assert_array_equal(strip.numbers[:, place], room.view(sat, view)[:, place])


def kept_off(**more: float) -> Pass:
    """A pass over the left part of the picture."""
    return Pass(
        stops=0.0, untoned=1.0, **more,
        shapes=(Card(x=40, y=16, to_x=56, to_y=16),),
    )  # fmt: skip


class PassesTest(unittest.TestCase):
    def test_a_pass_keeps_the_toner_off_warms_and_lets_colour_back_there_alone(self) -> None:
        sepia = TonerSettings(baths=SEPIA)
        toned, plain = fields(sepia), fields(TonerSettings())
        off = fields(sepia, kept_off())
        np.testing.assert_allclose(off[RED], [plain[RED]] * 3, atol=1)
        np.testing.assert_array_equal(off[BLUE:], toned[BLUE:])
        whole = Pass(stops=0.0, shapes=(Whole(),))
        for warm, cooler in ((0.8, False), (-0.8, True)):
            found = fields(TonerSettings(), whole.model_copy(update={"warm": warm}))
            self.assertEqual(bool(found[GREY, 2] > found[GREY, 0] + 8), cooler)
            np.testing.assert_allclose(grey_of(found[None])[0].astype(int), plain, atol=1)
        red = fields(TonerSettings(), kept_off(colour=1.0))
        np.testing.assert_array_equal(
            red[RED], fields(TonerSettings(capture_colour=1.0))[RED], "through a pass"
        )
        self.assertEqual(np.ptp(red[BLUE]), 0)

    def test_the_negative_is_not_made_again_for_them(self) -> None:
        room, plain = Darkroom(), sitting(TonerSettings())
        view = plain.picture.whole(128)
        before = room.negative(plain, view).pixels
        other = Sitting("p", plain.capture, worked_path(plain.path.recipe, kept_off()))
        self.assertIs(room.negative(other, view).pixels, before)


class KernelTest(unittest.TestCase):
    @settings(max_examples=60)
    @given(
        bath=st.sampled_from(["sepia", "selenium", "gold", "copper", "iron-blue"]),
        off=st.floats(0, 1), warm=st.floats(-1, 1), colour_=st.floats(0, 1),
        rgb=st.tuples(*[st.floats(0.001, 1.0)] * 3), light=st.floats(0, 1),
    )  # fmt: skip
    def test_lightness_stays_whatever_is_done_at_a_place(
        self, bath: str, off: float, warm: float, colour_: float,
        rgb: tuple[float, float, float], light: float,
    ) -> None:  # fmt: skip
        toner = TonerSettings(baths=(Bath(kind=bath, time=0.7),), capture_colour=0.3)
        station = worked_path(Recipe(toner=toner))[ToningByPlace]
        shares = np.array(rgb) / sum(rgb)
        coded = np.array([64 * shares[0], 64 * shares[1], 0.0], np.float32)[None, None]
        maps = np.array([off, warm, colour_], np.float32)[:, None, None]
        pixels = np.array([[light]], np.float32)
        found = station.toned(pixels, ByPlace(maps, coded))[0, 0]
        self.assertTrue((found >= 0).all() and (found <= 1).all())
        even = station.toned(pixels, ByPlace(NOWHERE, np.zeros((1, 1, 3), np.float32)))[0, 0]
        toned, untoned = (colour.sRGB_to_XYZ(v)[1] for v in (even, np.full(3, light)))
        wanted = toned + off * (untoned - toned)
        self.assertAlmostEqual(float(colour.sRGB_to_XYZ(found)[1]), float(wanted), delta=2e-3)


if __name__ == "__main__":
    unittest.main()
