"""Toning: directions are common practice (handbooks of toning); colours by colour-science."""

import unittest

import colour
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin import shelf
from silvrin.core.colour import SRGB_LUMINANCE, decode_srgb, encode_srgb, luminance_of
from silvrin.core.plate import Plate
from silvrin.core.recipe import Bath, PaperSettings, Recipe, TonalStop, TonerSettings
from silvrin.core.toner.baths import greatest_density
from silvrin.core.toner.colours import lab_of, srgb_of
from silvrin.core.toner.toning import toned
from tests.sittings import plate

MOST = 2.1
VALUES = np.linspace(0.0, 10.0, 201)
LIGHT = luminance_of(10.0 * VALUES)
WARM_PAPER = (
    TonalStop(place=0, colour="#000000"),
    TonalStop(place=7, colour="#451f01"),
    TonalStop(place=85, colour="#fff4e6"),
)  # common practice
D65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
PART = st.floats(0, 1)
KINDS = ("sepia", "selenium", "gold", "copper", "iron-blue", "dye")
BATHS = st.builds(
    Bath,
    kind=st.sampled_from(KINDS),
    time=st.floats(0, 1),
    tone=st.floats(0, 1),
    hue=st.floats(0, 360),
)


def lab(*baths: Bath, **more: object) -> np.ndarray:
    return lab_of(toned(LIGHT, MOST, TonerSettings(baths=baths, **more)))


def chroma(found: np.ndarray) -> np.ndarray:
    return np.hypot(found[:, 1], found[:, 2])


def bath(kind: str, time: float, **more: float) -> Bath:
    return Bath(kind=kind, time=time, **more)


class ToningTest(unittest.TestCase):
    def test_sepia_takes_the_lights_first_and_selenium_the_shadows(self) -> None:
        light, dark = slice(150, 190), slice(15, 50)
        short = chroma(lab(bath("sepia", 0.1)))
        self.assertGreater(short[light].mean(), 2.5 * short[dark].mean())
        whole = chroma(lab(bath("sepia", 1.0)))
        self.assertGreater(whole[dark].mean(), 5 * short[dark].mean())
        selenium = chroma(lab(bath("selenium", 0.4)))
        self.assertGreater(selenium[dark].mean(), 3 * selenium[light].mean())

    def test_selenium_deepens_black_and_leaves_lights_sepia_the_reverse(self) -> None:
        plain = lab(bath("selenium", 0.0))[:, 0]
        selenium, sepia = lab(bath("selenium", 1.0))[:, 0], lab(bath("sepia", 1.0))[:, 0]
        self.assertLess(selenium[30], plain[30] - 1.5)
        self.assertGreater(selenium[1], 0.0)  # a longer scale: no shadow is lost
        self.assertAlmostEqual(selenium[190], plain[190], delta=0.3)
        self.assertGreater(sepia[30], plain[30] + 1)
        deepest = [
            greatest_density(MOST, TonerSettings(baths=(bath(kind, 1.0),)))
            for kind in ("selenium", "sepia")
        ]
        self.assertTrue(deepest[0] > MOST + 0.08 and deepest[1] < MOST - 0.08)

    def test_the_order_of_baths_matters_where_both_want_the_same_silver(self) -> None:
        sepia, selenium = bath("sepia", 0.3), bath("selenium", 0.8)
        one, other = lab(sepia, selenium), lab(selenium, sepia)
        self.assertGreater(colour.delta_E(one, other, method="CIE 2000").max(), 1.0)
        # gold turns sepia orange-red; sepia after gold finds little silver left
        red = lab(bath("sepia", 0.9), bath("gold", 0.9))[80]
        blue = lab(bath("gold", 0.9), bath("sepia", 0.9))[80]
        self.assertGreater(red[1], 15)
        self.assertLess(blue[2], 0)
        # two baths of one kind, or dyes, do not mind
        for first, second in (
            (bath("copper", 0.3), bath("copper", 0.5)),
            (bath("dye", 0.3, hue=20), bath("dye", 0.5, hue=200)),
        ):
            np.testing.assert_allclose(lab(first, second), lab(second, first), atol=1e-9)

    def test_colours_are_those_the_trade_knows(self) -> None:
        middle = 90
        self.assertGreater(lab(bath("sepia", 1, tone=0))[middle, 2], 10)
        self.assertGreater(
            lab(bath("sepia", 1, tone=1))[middle, 2], lab(bath("sepia", 1, tone=0))[middle, 2] + 3
        )
        self.assertLess(lab(bath("iron-blue", 0.8))[middle, 2], -15)
        self.assertLess(lab(bath("gold", 0.8))[middle, 2], -3)
        copper = lab(bath("copper", 0.8))[middle]
        self.assertTrue(copper[1] > 5 and copper[2] > 2)
        selenium = lab(bath("selenium", 1))[middle]
        self.assertTrue(selenium[1] > 1 and selenium[2] < 1)

    @settings(max_examples=80)
    @given(
        st.lists(BATHS, max_size=4),
        st.floats(-1, 1),
        st.fixed_dictionaries(
            {"shadow_wash": PART, "light_wash": PART, "warmth_out": PART}
            | {name: st.floats(0, 360) for name in ("shadow_hue", "light_hue")}
        ),
    )
    def test_lightness_never_falls_and_nothing_is_lighter_than_the_base(
        self, baths: list[Bath], warmth: float, washed: dict[str, float]
    ) -> None:
        shown = toned(LIGHT, MOST, TonerSettings(baths=tuple(baths), warmth=warmth, **washed))
        self.assertTrue(np.isfinite(shown).all())
        self.assertGreaterEqual(shown.min(), 0.0)
        luminance = shown @ SRGB_LUMINANCE
        self.assertTrue((luminance <= luminance[-1] + 1e-9).all())
        lightness = lab_of(shown)[:, 0]
        self.assertGreater(np.diff(lightness).min(), -0.05)

    def test_washes_colour_their_end_of_the_scale_and_leave_lightness(self) -> None:
        dark, light = slice(20, 60), slice(140, 180)
        both = lab(shadow_wash=1.0, shadow_hue=250.0, light_wash=1.0, light_hue=55.0)
        self.assertLess(both[dark, 2].mean(), -5)  # blue
        self.assertGreater(both[light, 2].mean(), 8)  # yellow
        np.testing.assert_allclose(both[:, 0], 10 * VALUES, atol=0.05)
        np.testing.assert_allclose(both[[0, -1], 1:], 0.0, atol=0.01)  # black and bare paper
        later = lab(light_wash=1.0, light_hue=55.0, wash_meets=80.0)
        self.assertLess(later[dark, 2].mean(), 1)
        self.assertLess(later[120, 2], 0.5 * both[120, 2] + 3)

    def test_warmth_is_taken_out_and_cold_tones_stay(self) -> None:
        sepia, gold = bath("sepia", 0.9), bath("gold", 0.9)
        np.testing.assert_allclose(lab(sepia, warmth_out=1.0)[5:-5, 1:], 0.0, atol=1.0)
        np.testing.assert_allclose(lab(gold, warmth_out=1.0), lab(gold), atol=0.2)

    def test_papers_show_their_own_colour_where_it_is_wanted_and_processes_by_themselves(
        self,
    ) -> None:
        wedge = plate(np.linspace(0, 4.4, 6000, dtype=np.float32)[None])
        for paper in shelf.papers().values():
            recipe = Recipe(paper=PaperSettings(paper=paper.id))
            plain = shelf.light_path(recipe).print_out(wedge, 16)
            self.assertEqual(plain.ndim == 3, paper.process, paper.id)
            toner = TonerSettings(paper_tone=1.0)
            shown = shelf.light_path(recipe.model_copy(update={"toner": toner})).print_out(
                wedge, 16
            )
            if paper.process:
                np.testing.assert_array_equal(shown, plain)
            seen = lab_of(decode_srgb(shown[0] / 65535))
            middle = seen[np.abs(seen[:, 0] - 50).argmin()]
            tint = np.array([int(paper.tint[i : i + 2], 16) for i in (1, 3, 5)]) / 255
            base = lab_of(decode_srgb(tint / tint.max())[None])[0]
            # in middle tones the image's colour, seen in the light that the base sends back
            xyz = colour.Lab_to_XYZ([50, *paper.image], D65)
            light = colour.XYZ_to_sRGB(xyz, apply_cctf_encoding=False) * decode_srgb(
                tint / tint.max()
            )
            wanted = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(light, apply_cctf_decoding=False), D65)
            np.testing.assert_allclose(middle[1:], wanted[1:], atol=2.5)
            light = decode_srgb(shown[0] / 65535) @ SRGB_LUMINANCE
            self.assertGreaterEqual(np.diff(light).min(), -1e-4)  # dark to light: never darker
            np.testing.assert_allclose(seen[-1], base, atol=0.5)

    def test_toning_sets_of_the_shelf_differ_and_keep_the_order_of_tones(self) -> None:
        sets = shelf.shipped().tonings
        self.assertGreaterEqual(len(sets), 8)
        found = [lab_of(toned(LIGHT, MOST, item.toner)) for item in sets.values()]
        for name, shown in zip(sets, found, strict=True):
            self.assertGreater(np.diff(shown[:, 0]).min(), -0.05, name)
            self.assertGreater(chroma(shown)[40:160].max(), 1.5, name)
        for i, one in enumerate(found):
            for other in found[:i]:
                self.assertGreater(colour.delta_E(one, other, method="CIE 2000").max(), 2.0)

    def test_what_is_not_toned_stays_one_grey(self) -> None:
        density = plate(np.linspace(0, 2.2, 400, dtype=np.float32)[None])
        plain = shelf.light_path(Recipe()).print_out(density, 16)
        self.assertEqual(plain.ndim, 2)
        still = Recipe(toner=TonerSettings(baths=(bath("sepia", 0.0),)))
        np.testing.assert_array_equal(shelf.light_path(still).print_out(density, 16), plain)

    def test_toned_prints_are_colour_on_every_way_to_the_paper(self) -> None:
        density = plate(np.linspace(0, 2.2, 400, dtype=np.float32)[None])
        toner = TonerSettings(baths=(bath("sepia", 0.6),))
        path = shelf.light_path(Recipe(toner=toner, paper=PaperSettings(grade=3)))
        even = path.print_out(density)
        self.assertEqual(even.shape, (1, 400, 3))
        graded = Plate(density.pixels, density.grid, np.full_like(density.pixels, 3.0))
        away = np.abs(path.print_out(graded).astype(int) - even).max()
        self.assertLessEqual(away, 1)
        fine = path.print_out(density, 16).astype(float) / 257
        self.assertLess(np.abs(fine - even).max(), 1.0)


class TonalStopsTest(unittest.TestCase):
    def test_stops_have_their_colours_and_join_in_cielab(self) -> None:
        stops = (*WARM_PAPER[:2], TonalStop(place=40, colour="#8a7050"), WARM_PAPER[2])
        at = np.array([stop.place for stop in stops])
        light = luminance_of(at)
        found = toned(light, MOST, TonerSettings(stops=stops))
        wanted = [[int(s.colour[i : i + 2], 16) for i in (1, 3, 5)] for s in stops]
        shown = np.rint(255 * encode_srgb(found))
        np.testing.assert_allclose(shown, wanted, atol=1)
        # along the wedge: by colour-science's CIELAB and the same monotonic curve through it
        white = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
        lab_stops = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(np.array(wanted) / 255), white)
        places = np.linspace(0, 100, 60)
        line = colour.PchipInterpolator(at, lab_stops)(np.clip(places, 0, 85))
        # as far as sRGB holds it
        held = np.clip(colour.XYZ_to_sRGB(colour.Lab_to_XYZ(line, white)), 0, 1)
        line = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(held), white)
        got = lab_of(toned(luminance_of(places), MOST, TonerSettings(stops=stops)))
        self.assertLess(colour.delta_E(line, got, method="CIE 2000").max(), 0.3)
        # nothing is lighter than the last of them
        base = decode_srgb(np.array(wanted[-1]) / 255)
        bright = toned(luminance_of(places), MOST, TonerSettings(stops=stops))
        self.assertTrue((bright <= base + 1e-6).all())

    def test_cielab_there_and_back_is_that_of_colour_science(self) -> None:
        rgb = np.random.default_rng(4).random((200, 3))
        white = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
        wanted = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(encode_srgb(rgb)), white)
        np.testing.assert_allclose(lab_of(rgb), wanted, atol=0.02)
        np.testing.assert_allclose(srgb_of(lab_of(rgb)), rgb, atol=1e-9)

    def test_stops_that_are_none_are_refused_in_words(self) -> None:
        for stops, word in (
            (WARM_PAPER[:1], "two or more"),
            ((WARM_PAPER[1], WARM_PAPER[0]), "at least 1 %"),
            ((WARM_PAPER[1], WARM_PAPER[1]), "at least 1 %"),
        ):
            with self.assertRaises(ValueError) as refused:
                TonerSettings(stops=stops)
            self.assertIn(word, str(refused.exception))
        with self.assertRaises(ValueError):
            TonalStop(place=3, colour="brown")


if __name__ == "__main__":
    unittest.main()
