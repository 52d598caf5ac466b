import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin.core.enlarger.shapes import NEGATIVE_EFFECTS, Whole, ZoneLimit
from silvrin.core.enlarger.working import NOTHING, Totals, worked
from silvrin.core.picture import LinearPicture, View
from silvrin.core.places import CapturePlaces, PicturePixel
from silvrin.core.recipe import (
    CaptureSettings,
    Card,
    DevelopmentSettings,
    Disc,
    EnlargerSettings,
    FilmSettings,
    LightSettings,
    LocalContrast,
    PaperSettings,
    Pass,
    Recipe,
)
from silvrin.core.render import Darkroom, Sitting, hatched, heat, strips
from silvrin.core.render.shown import HATCHED
from tests.worked import worked_path

WHOLE = Disc(x=300, y=200, width=5000, height=5000)
GRAINLESS = FilmSettings(grain=0.0, halation=0.0)


def even() -> LinearPicture:
    light = np.full((400, 600, 3), round(0.18 * 65535), np.uint16)
    return LinearPicture.with_pyramid(light, 1 / 65535)


def textured(height: int = 700, width: int = 1100) -> LinearPicture:
    rng = np.random.default_rng(4)
    light = rng.integers(2000, 40000, (height, width, 1), dtype=np.uint16).repeat(3, axis=2)
    light[: height // 2] = light[: height // 2] // 4
    return LinearPicture.with_pyramid(light, 1 / 65535)


def density(recipe: Recipe, *passes: Pass) -> float:
    """Of the print of an even field, in its middle."""
    sitting = Sitting("e", even(), worked_path(recipe, *passes))
    return Darkroom().spot(sitting, PicturePixel(300, 200), 4).density


def exposed(time: float, grade: float, head: str = "diffuse", soft: float | None = None) -> Recipe:
    enlarger = EnlargerSettings(head=head, time=time)
    paper = PaperSettings(grade=grade)
    if soft is not None:
        enlarger = EnlargerSettings(head=head, soft_time=soft, hard_time=time - soft)
        paper = PaperSettings(split=True)
    return Recipe(film=GRAINLESS, enlarger=enlarger, paper=paper)


class SensitometryTest(unittest.TestCase):
    def test_seconds_beside_the_base_print_as_their_sum(self) -> None:
        # base 12 s, 4 s held back prints as 8 s, 2 s added as 14 s (common practice: the example);
        # stops = log2((t0 + s) / t0)
        for head in ("diffuse", "condenser"):
            for grade in (1.0, 3.5):
                for more in (-4.0, 2.0, -11.0, 60.0):
                    one = Pass(stops=float(np.log2((12 + more) / 12)), shapes=(WHOLE,))
                    self.assertAlmostEqual(
                        density(exposed(12, grade, head), one),
                        density(exposed(12 + more, grade, head)),
                        delta=0.002,
                    )

    def test_an_exposure_through_another_grade_adds_as_a_split_grade_does(self) -> None:
        # split grade by its own station: through 00 (-1) and 5, the grade by their parts of the
        # sum. A base of 8 s on 00 with 4 s more through 5 is a split of 8 and 4 s
        for base, more, first, other in ((8.0, 4.0, -1, 5), (6.0, 9.0, 5, -1), (5.0, 1.0, 5, 5)):
            soft = (base if first == -1 else 0) + (more if other == -1 else 0)
            one = Pass(stops=float(np.log2((base + more) / base)), grade=other, shapes=(WHOLE,))
            self.assertAlmostEqual(
                density(exposed(base, first), one),
                density(exposed(base + more, 0, soft=soft)),
                delta=0.002,
            )
        # between grades the mean of them by their exposures: 10 s on 2, 5 s through 4 is 15 s on 2⅔
        one = Pass(stops=float(np.log2(1.5)), grade=4, shapes=(WHOLE,))
        self.assertAlmostEqual(
            density(exposed(10, 2), one), density(exposed(15, 8 / 3)), delta=0.002
        )
        # held back through another grade than the base: a dodge while the hard filter is in
        held = Pass(stops=float(np.log2(8 / 12)), grade=5, shapes=(WHOLE,))
        split = exposed(12, 0, soft=6)
        self.assertAlmostEqual(density(split, held), density(exposed(8, 0, soft=6)), delta=0.002)

    def test_a_paper_of_fixed_grades_knows_no_other(self) -> None:
        paper = PaperSettings(paper="glossy-fibre-graded", grade=2)
        fixed = Recipe(film=GRAINLESS, enlarger=EnlargerSettings(time=10), paper=paper)
        plain, other = (Pass(stops=0.5, grade=g, shapes=(WHOLE,)) for g in (None, 5))
        self.assertEqual(density(fixed, plain), density(fixed, other))

    def test_what_is_held_back_for_all_of_the_exposure_stays_paper_white(self) -> None:
        for grade in (None, 5.0):
            one = Pass(stops=-6, strength=1.5, grade=grade, shapes=(WHOLE,))
            self.assertLess(density(exposed(12, 2), one), 0.01)


class AddingTest(unittest.TestCase):
    def given(self, *passes: Pass) -> np.ndarray:
        """Stops over an even field."""
        sitting = Sitting("p", even(), worked_path(Recipe(film=GRAINLESS), *passes))
        room, view = Darkroom(), sitting.picture.whole(600)
        less = room.negative(sitting, view).pixels - room.worked(sitting, view).pixels
        return less / np.log10(2.0)

    def test_passes_add_by_their_strength_and_one_that_is_off_does_nothing(self) -> None:
        two = (
            Pass(stops=0.5, strength=1.5, shapes=(WHOLE,)), Pass(stops=-0.25, shapes=(WHOLE,)),
            Pass(stops=3.0, on=False, shapes=(WHOLE,)),
            Pass(stops=2.0, opposite=True, shapes=(WHOLE,)),
        )  # fmt: skip
        np.testing.assert_allclose(self.given(*two), 0.5, atol=1e-5)
        np.testing.assert_allclose(self.given(*two[2:]), 0.0, atol=1e-6)

    def test_of_a_group_the_strongest_counts_and_the_rest_may_pile_up(self) -> None:
        left, right = (Card(x=a, y=0, to_x=b, to_y=0) for a, b in ((400, 420), (200, 180)))
        for group, both in ((0, 1.5), (3, 0.8)):
            passes = [
                Pass(stops=s, group=group, shapes=(card,))
                for s, card in ((0.8, left), (0.7, right))
            ]
            row = self.given(*passes)[200]
            np.testing.assert_allclose(row[[50, 300, 550]], [0.8, both, 0.7], atol=1e-4)
            # where both are full, 200 to 400, and as far into the runs of 20 as the sum is more
            # than a stop: 1 - smooth step above 0.2 / 0.7, and above 0.3 / 0.8
            wanted = (200 + 20 * (0.645 + 0.585)) / 600 if group == 0 else 0.0
            sitting = Sitting("g", even(), worked_path(Recipe(film=GRAINLESS), *passes))
            self.assertAlmostEqual(Darkroom().readings(sitting).piled, wanted, delta=0.005)

    def test_a_map_that_was_changed_step_by_step_is_the_one_made_at_once(self) -> None:
        # bit for bit: switched off and on, made stronger, opposite, grouped, twice the same, let go
        chance = np.random.default_rng(5)
        areas = [chance.random((1 + k % 2, 40, 50), np.float32) - k % 2 for k in range(8)]
        light = chance.random((40, 50), np.float32)
        totals = Totals((40, 50))
        for _ in range(40):
            if chance.random() < 0.2:  # areas that were let go are drawn anew
                areas = [area.copy() for area in areas]
            chosen = chance.choice(8, chance.integers(1, 9))
            passes = [
                Pass(stops=round(float(chance.uniform(-2, 2)), 2) if k % 3 else 0.5,
                     opposite=bool(k % 5 == 0), group=int(k % 4 == 1), shapes=(Whole(),),
                     grade=4.0 if chance.random() < 0.2 else None)
                for k in chosen
            ]  # fmt: skip
            given = passes, [areas[k] for k in chosen], 2.0, True, lambda: light
            changed, made = worked(*given, totals), worked(*given)
            np.testing.assert_array_equal(changed.stops, made.stops)
            np.testing.assert_array_equal(changed.piled, made.piled)

    def test_lines_with_grades_follow_the_light_as_their_levels_do(self) -> None:
        # a line a · light + b with a of 0.5, moved by a hair of light, against the sum computed
        # anew at that light
        def areas(light: float) -> list[np.ndarray]:
            level = 0.2 + 0.5 * light
            return [np.stack([np.full((4, 4), v, np.float32) for v in (level, 0.5)])] * 2

        passes = [Pass(stops=1.0, shapes=(Whole(),)), Pass(stops=0.7, grade=5, shapes=(Whole(),))]
        at = [
            worked(passes, areas(v), 1.0, True, lambda v=v: np.full((4, 4), v, np.float32))
            for v in (0.3, 0.31)
        ]
        a, b = at[0].stops[[0, 4], 0, 0], at[0].stops[[1, 5], 0, 0]
        np.testing.assert_allclose(a * 0.3 + b, at[0].stops[[2, 6], 0, 0], atol=1e-5)
        np.testing.assert_allclose(a * 0.31 + b, at[1].stops[[2, 6], 0, 0], atol=2e-4)


class PictureTest(unittest.TestCase):
    PASSES = (
        Pass(stops=1.0, shapes=(Disc(x=400, y=300, width=150, height=90, angle=30),)),
        Pass(stops=-0.7, shapes=(Card(x=900, y=0, to_x=600, to_y=200),)),
        Pass(stops=0.5, grade=5, shapes=(Disc(x=700, y=500, width=200, height=200),), held=0.8),
        Pass(stops=0.4, zones=ZoneLimit(last=4), shapes=(Whole(),)),
        Pass(stops=0.0, fine=1.0, sharpness=1.0, noise=0.6, shapes=(Whole(),)),
        Pass(stops=0.0, haze=-0.6, soft_focus=0.4, broad=0.5, shadows=0.5, shapes=(WHOLE,)),
    )

    def test_strips_and_pieces_agree(self) -> None:
        recipe = Recipe(light=LightSettings(haze=0.2))
        sitting = Sitting("s", textured(), worked_path(recipe, *self.PASSES))
        whole = np.concatenate(list(strips(sitting, bits=8)))
        for left, top in ((0, 0), (333, 251), (800, 400)):
            shown = Darkroom().view(sitting, View(left, top, 300, 300, 300, 300))
            np.testing.assert_array_equal(shown, whole[top : top + 300, left : left + 300])

    def test_each_effect_changes_its_area_and_nothing_else(self) -> None:
        picture = textured()
        plain = Darkroom().view(
            Sitting("t", picture, worked_path(Recipe(film=GRAINLESS))), picture.whole(1100)
        )
        left = Card(x=500, y=0, to_x=520, to_y=0)
        for name in NEGATIVE_EFFECTS:  # those of the toner: tests/core/toner/test_places.py
            one = Pass(stops=0.0, shapes=(left,), **{name: 0.8})
            sitting = Sitting("t", picture, worked_path(Recipe(film=GRAINLESS), one))
            found = Darkroom().view(sitting, picture.whole(1100)).astype(int)
            changed = np.abs(found - plain)
            self.assertGreater(changed[:, :450].mean(), 0.2, name)
            # the maps of what acts over distances are coarse: a few of their pixels further
            beyond = 650 if name in ("broad", "soft_focus", "haze") else 560
            self.assertLess(changed[:, beyond:].mean(), 0.05, name)

    def test_local_contrast_of_a_pass_over_all_is_that_of_development(self) -> None:
        picture = textured()
        for name in ("fine", "mid_scale", "broad"):
            everywhere = Pass(stops=0.0, shapes=(Whole(),), **{name: 0.6})
            development = DevelopmentSettings(**{name: LocalContrast(strength=0.6)})
            shown = [
                Darkroom().view(Sitting("t", picture, path), picture.whole(1100)).astype(int)
                for path in (
                    worked_path(Recipe(film=GRAINLESS), everywhere),
                    worked_path(Recipe(film=GRAINLESS, development=development)),
                )
            ]
            self.assertLessEqual(np.abs(shown[0] - shown[1]).max(), 1, name)

    def test_haze_and_soft_focus_of_a_pass_over_all_are_those_of_the_light(self) -> None:
        picture = textured()
        for light, effect in (
            (LightSettings(haze=-0.5), {"haze": -0.5}), (LightSettings(haze=0.4), {"haze": 0.4}),
            (LightSettings(soft_focus=0.3), {"soft_focus": 0.3}),
        ):  # fmt: skip
            everywhere = Pass(stops=0.0, shapes=(Whole(),), **effect)
            shown = [
                Darkroom().view(Sitting("t", picture, path), picture.whole(1100)).astype(int)
                for path in (
                    worked_path(Recipe(film=GRAINLESS), everywhere),
                    worked_path(Recipe(film=GRAINLESS, light=light)),
                )
            ]
            # soft focus alone is spread on a coarser map where the whole picture has it
            self.assertLessEqual(np.abs(shown[0] - shown[1]).mean(), 0.5, effect)

    def test_sharpness_raises_fine_differences_and_noise_is_smoothed(self) -> None:
        picture = textured()

        def spread(**effect: float) -> float:
            one = Pass(stops=0.0, shapes=(Whole(),), **effect)
            sitting = Sitting("t", picture, worked_path(Recipe(film=GRAINLESS), one))
            density = Darkroom().negative(sitting, picture.whole(1100)).pixels
            return float(density[100:300, 100:500].std())

        plain = spread()
        self.assertGreater(spread(sharpness=1.0), 1.15 * plain)
        self.assertLess(spread(sharpness=-0.8), 0.75 * plain)
        self.assertLess(spread(noise=1.0), plain)

    @settings(max_examples=25)
    @given(
        st.integers(0, 3), st.booleans(), st.floats(-20, 20), st.floats(-0.3, 0.3),
        st.floats(0.2, 0.8), st.floats(0.2, 0.8),
    )  # fmt: skip
    def test_passes_stay_on_their_subject(
        self, turns: int, flip: bool, straighten: float, keystone: float, x: float, y: float
    ) -> None:
        # a burned disc lies on the picture where its place of the capture went: its weight's
        # middle to half a pixel
        disc = Disc(x=600 * x, y=400 * y, width=30, height=30, soft=1.0)
        shape = CaptureSettings(
            quarter_turns=turns, flip=flip, straighten=straighten, keystone_vertical=keystone
        )
        recipe = Recipe(capture=shape, film=GRAINLESS)
        path = worked_path(recipe, Pass(stops=2.0, shapes=(disc,)))
        sitting = Sitting("g", even(), path)
        room, view = Darkroom(), sitting.picture.whole(2000)
        less = room.negative(sitting, view).pixels - room.worked(sitting, view).pixels
        stops = less / np.log10(2.0)
        middle = sitting.geometry.capture_to_picture(CapturePlaces(np.array([[disc.x, disc.y]])))[0]
        here = np.floor(middle).astype(int)
        size = np.array([view.out_width, view.out_height])
        if ((here > 3) & (here < size - 3)).all():
            self.assertAlmostEqual(float(stops[here[1], here[0]]), 2.0, delta=0.02)
        if not keystone and ((here > 60) & (here < size - 60)).all():
            rows, columns = np.mgrid[: size[1], : size[0]] + 0.5
            weighed = np.array([(stops * columns).sum(), (stops * rows).sum()]) / stops.sum()
            self.assertLess(np.abs(weighed - middle).max(), 0.5)

    def test_areas_and_stops_are_shown_as_they_are(self) -> None:
        picture, room = even(), Darkroom()
        disc = Disc(x=300, y=200, width=80, height=80, soft=0.5)
        path = worked_path(
            Recipe(film=GRAINLESS),
            Pass(stops=-1.0, shapes=(disc,)),
            Pass(stops=0.5, shapes=(disc,), opposite=True),
        )
        sitting, view = Sitting("shown", picture, path), picture.whole(600)
        amount = room.area(sitting, path.things.drawings.passes[0], view)
        np.testing.assert_allclose(
            room.area(sitting, path.things.drawings.passes[1], view), 1.0 - amount, atol=1e-6
        )
        stops = room.stops(sitting, view)
        np.testing.assert_allclose(stops, -amount + 0.5 * (1.0 - amount), atol=1e-5)
        numbers = room.view(sitting, view)
        lines = hatched(numbers, amount, view)
        drawn = (lines != numbers[..., None]).any(axis=2)
        self.assertGreater(drawn[180:220, 280:320].mean(), 0.3)
        self.assertFalse(drawn[:80].any())
        greys = numbers[..., None].astype(float)
        self.assertTrue((lines >= np.minimum(greys, HATCHED) - 1).all())  # between grey and amber
        self.assertTrue((lines <= np.maximum(greys, HATCHED) + 1).all())
        # more of it is more amber; the lines of a piece are those of the whole
        half = hatched(numbers, 0.3 * amount, view)
        self.assertLess((half != numbers[..., None]).sum(), (lines != numbers[..., None]).sum())
        piece = View(250, 150, 100, 100, 100, 100)
        there = slice(150, 250), slice(250, 350)
        np.testing.assert_array_equal(hatched(numbers[there], amount[there], piece), lines[there])
        colours = heat(numbers, stops).astype(int)
        self.assertGreater(colours[200, 300, 2] - colours[200, 300, 0], 60)  # held back: blue
        self.assertGreater(colours[20, 20, 0] - colours[20, 20, 2], 60)  # burned: red
        self.assertTrue(np.ptp(heat(numbers, 0.0 * stops), axis=2).max() == 0)

    def test_nothing_of_a_map_is_nothing(self) -> None:
        for passes in (
            (),
            (Pass(stops=0.0, shapes=(WHOLE,)),),
            (Pass(strength=0, shapes=(WHOLE,)),),
        ):
            sitting = Sitting("n", even(), worked_path(Recipe(), *passes))
            self.assertIs(Darkroom().printing(sitting), NOTHING)
        # wholly outside the picture: nothing, and no error
        outside = Pass(stops=1.0, shapes=(Disc(x=-5000, y=9000, width=20, height=20),), held=1.0)
        sitting = Sitting("n", even(), worked_path(Recipe(), outside))
        self.assertLess(np.abs(Darkroom().stops(sitting, sitting.picture.whole(600))).max(), 1e-6)


if __name__ == "__main__":
    unittest.main()
