import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin import shelf
from silvrin.core.enlarger.areas import covered
from silvrin.core.picture import LinearPicture, View
from silvrin.core.places import CapturePlaces, PicturePixel
from silvrin.core.recipe import (
    CaptureSettings,
    Card,
    Disc,
    EnlargerSettings,
    FilmSettings,
    PaperSettings,
    Pass,
    Recipe,
)
from silvrin.core.render import Darkroom, Sitting, strips

WHOLE = Disc(x=300, y=200, width=5000, height=5000)
GRAINLESS = FilmSettings(grain=0.0, halation=0.0)


def places(width: int, height: int) -> np.ndarray:
    x, y = np.meshgrid(np.arange(width) + 0.5, np.arange(height) + 0.5)
    return np.stack([x, y], axis=-1).astype(np.float32)


class AreaTest(unittest.TestCase):
    def test_an_ellipse_covers_its_area(self) -> None:
        # pi · a · b, whatever its turn; a soft edge takes as much inside as it gives outside, but
        # for the ring's growth: exact by integration of the edge over the radius
        for angle in (0, 30, -75):
            hard = Disc(x=300.5, y=200, width=180, height=90, angle=angle, soft=0.05)
            found = covered([hard], places(600, 400)).sum()
            self.assertAlmostEqual(found / (np.pi * 180 * 90), 1.0, delta=0.005)
        soft = Disc(x=300.5, y=200, width=100, height=100, soft=1.0)
        radius = np.linspace(0, 200, 20001)
        edge = 1 - np.clip((radius / 100 - 1) / 1.0 + 0.5, 0, 1) ** 2 * (
            3 - 2 * np.clip((radius / 100 - 1) / 1.0 + 0.5, 0, 1)
        )
        wanted = np.trapezoid(2 * np.pi * radius * edge, radius)
        found = covered([soft], places(600, 400)).sum()
        self.assertAlmostEqual(found / wanted, 1.0, delta=0.005)

    def test_an_ellipse_is_turned_from_its_first_axis_to_its_second(self) -> None:
        # at 30 degrees its long end points right and down, as y does
        disc = Disc(x=300, y=200, width=150, height=30, angle=30, soft=0.05)
        way = np.array([np.cos(np.radians(30)), np.sin(np.radians(30))])
        across = np.array([-way[1], way[0]])
        for offset, inside in (
            (140 * way, 1.0), (-140 * way, 1.0), (160 * way, 0.0), (27 * across, 1.0),
            (34 * across, 0.0), (140 * way * [1, -1], 0.0),
        ):  # fmt: skip
            place = (np.array([300, 200]) + offset).astype(np.float32)[None, None]
            self.assertEqual(float(covered([disc], place)[0, 0]), inside, offset)

    def test_a_card_runs_from_full_to_nothing_between_its_lines(self) -> None:
        card = Card(x=100, y=0, to_x=300, to_y=0)
        row = covered([card], places(400, 1))[0]
        self.assertEqual((row[:99].min(), row[301:].max()), (1.0, 0.0))
        self.assertAlmostEqual(row[199:201].mean(), 0.5, delta=1e-6)
        self.assertTrue((np.diff(row) <= 0).all())
        # as much is covered as by a hard edge in the middle of the run
        self.assertAlmostEqual(row.sum(), 200, delta=0.01)

    def test_shapes_add_take_away_and_keep(self) -> None:
        a = Card(x=100, y=0, to_x=101, to_y=0)
        b = Disc(x=100, y=100, width=60, height=60, soft=0.05)
        here = places(200, 200)
        own, other = covered([a], here), covered([b], here)
        np.testing.assert_allclose(covered([a, b], here), 1 - (1 - own) * (1 - other), atol=1e-6)
        take, keep = (b.model_copy(update={"how": how}) for how in ("take", "keep"))
        np.testing.assert_allclose(covered([a, take], here), own * (1 - other), atol=1e-6)
        np.testing.assert_allclose(covered([a, keep], here), own * other, atol=1e-6)
        np.testing.assert_allclose(covered([take], here), 1 - other, atol=1e-6)


class PrintingMapTest(unittest.TestCase):
    def even(self) -> LinearPicture:
        light = np.full((400, 600, 3), round(0.18 * 65535), np.uint16)
        return LinearPicture.with_pyramid(light, 1 / 65535)

    def test_seconds_beside_the_base_print_as_their_sum(self) -> None:
        # base 12 s, 4 s held back prints as 8 s, 2 s added as 14 s (common practice: the example);
        # stops = log2((t0 + s) / t0)
        for head in ("diffuse", "condenser"):
            for grade in (1.0, 3.5):
                for more in (-4.0, 2.0, -11.0, 60.0):
                    stops = float(np.log2((12 + more) / 12))
                    worked, alone = (
                        shelf.light_path(
                            Recipe(
                                film=GRAINLESS,
                                enlarger=EnlargerSettings(head=head, time=time, passes=passes),
                                paper=PaperSettings(grade=grade),
                            )
                        )
                        for time, passes in (
                            (12.0, (Pass(stops=stops, shapes=(WHOLE,)),)), (12.0 + more, ()),
                        )
                    )  # fmt: skip
                    place = PicturePixel(300, 200)
                    a, b = (
                        Darkroom().spot(Sitting("e", self.even(), path), place, 4).density
                        for path in (worked, alone)
                    )
                    self.assertAlmostEqual(a, b, delta=0.002)

    def test_passes_add_by_their_strength_and_one_that_is_off_does_nothing(self) -> None:
        two = (
            Pass(stops=0.5, strength=1.5, shapes=(WHOLE,)), Pass(stops=-0.25, shapes=(WHOLE,)),
            Pass(stops=3.0, on=False, shapes=(WHOLE,)),
            Pass(stops=2.0, opposite=True, shapes=(WHOLE,)),
        )  # fmt: skip
        for passes, wanted in ((two, 0.5), (two[2:], None)):
            recipe = Recipe(film=GRAINLESS, enlarger=EnlargerSettings(passes=passes))
            sitting = Sitting("p", self.even(), shelf.light_path(recipe))
            room = Darkroom()
            negative = room.negative(sitting, sitting.picture.whole(600))
            worked = room.worked(sitting, negative)
            if wanted is None:
                self.assertLess(np.abs(worked.pixels - negative.pixels).max(), 1e-6)
            else:
                less = (negative.pixels - worked.pixels) / np.log10(2.0)
                np.testing.assert_allclose(less, wanted, atol=1e-5)

    def test_of_a_group_the_strongest_counts_and_the_rest_may_pile_up(self) -> None:
        left, right = (Card(x=a, y=0, to_x=b, to_y=0) for a, b in ((400, 420), (200, 180)))
        for group, both in ((0, 1.5), (3, 0.8)):
            passes = tuple(
                Pass(stops=s, group=group, shapes=(card,))
                for s, card in ((0.8, left), (0.7, right))
            )
            recipe = Recipe(film=GRAINLESS, enlarger=EnlargerSettings(passes=passes))
            sitting = Sitting("g", self.even(), shelf.light_path(recipe))
            room = Darkroom()
            printing = room.printing(sitting)
            row = printing.stops[0, 200]
            self.assertAlmostEqual(float(row[50]), 0.8, places=5)
            self.assertAlmostEqual(float(row[300]), both, places=5)
            self.assertAlmostEqual(float(row[550]), 0.7, places=5)
            # where both are full, 200 to 400, and as far into the runs of 20 as the sum is more
            # than a stop: 1 - smooth step above 0.2 / 0.7, and above 0.3 / 0.8
            wanted = (200 + 20 * (0.645 + 0.585)) / 600 if group == 0 else 0.0
            self.assertAlmostEqual(room.readings(sitting).piled, wanted, delta=0.005)

    def test_strips_and_pieces_agree_and_a_preview_is_the_reduced_print(self) -> None:
        rng = np.random.default_rng(4)
        light = rng.integers(2000, 40000, (700, 1100, 1), dtype=np.uint16).repeat(3, axis=2)
        picture = LinearPicture.with_pyramid(light, 1 / 65535)
        passes = (
            Pass(stops=1.0, shapes=(Disc(x=400, y=300, width=150, height=90, angle=30),)),
            Pass(stops=-0.7, shapes=(Card(x=900, y=0, to_x=600, to_y=200),)),
        )
        recipe = Recipe(enlarger=EnlargerSettings(passes=passes))
        sitting = Sitting("s", picture, shelf.light_path(recipe))
        whole = np.concatenate(list(strips(sitting, bits=8)))
        for left, top in ((0, 0), (333, 251), (800, 400)):
            shown = Darkroom().view(sitting, View(left, top, 300, 300, 300, 300))
            np.testing.assert_array_equal(shown, whole[top : top + 300, left : left + 300])
        plain = np.concatenate(
            list(strips(Sitting("s", picture, shelf.light_path(Recipe())), bits=8))
        )
        self.assertLess(whole[280:320, 380:420].mean(), plain[280:320, 380:420].mean() - 15)
        self.assertGreater(whole[:60, 1040:].mean(), plain[:60, 1040:].mean() + 10)

    @settings(max_examples=25, deadline=None)
    @given(
        st.integers(0, 3), st.booleans(), st.floats(-20, 20), st.floats(-0.3, 0.3),
        st.floats(0.2, 0.8), st.floats(0.2, 0.8),
    )  # fmt: skip
    def test_passes_stay_on_their_subject(
        self, turns: int, flip: bool, straighten: float, keystone: float, x: float, y: float
    ) -> None:
        # a burned disc lies on the picture where its place of the capture went
        disc = Disc(x=600 * x, y=400 * y, width=40, height=40, soft=0.3)
        shape = CaptureSettings(
            quarter_turns=turns, flip=flip, straighten=straighten, keystone_vertical=keystone
        )
        recipe = Recipe(
            capture=shape,
            film=GRAINLESS,
            enlarger=EnlargerSettings(passes=(Pass(stops=2.0, shapes=(disc,)),)),
        )
        sitting = Sitting("g", self.even(), shelf.light_path(recipe))
        room, view = Darkroom(), sitting.picture.whole(2000)
        negative = room.negative(sitting, view)
        given_ = (negative.pixels - room.worked(sitting, negative).pixels) / np.log10(2.0)
        middle = sitting.geometry.capture_to_picture(CapturePlaces(np.array([[disc.x, disc.y]])))[0]
        here = np.floor(middle).astype(int)
        if ((here > 3) & (here < np.array([view.out_width, view.out_height]) - 3)).all():
            self.assertAlmostEqual(float(given_[here[1], here[0]]), 2.0, delta=0.02)


if __name__ == "__main__":
    unittest.main()
