import unittest

import numpy as np

from silvrin.core.enlarger.areas import area, covered, follows_light, of_hues, of_zones
from silvrin.core.enlarger.ground import Ground, even_ground
from silvrin.core.enlarger.shapes import (
    Alike,
    FallOff,
    HueLimit,
    Moved,
    Oval,
    Sample,
    Sides,
    Whole,
    ZoneLimit,
)
from silvrin.core.guided import box_mean
from silvrin.core.light.hue_bands import hue_of
from silvrin.core.recipe import Brush, Card, Disc, Pass, Polygon, Stroke

places = even_ground


def brushed(*strokes: Stroke, most: float = 1.0, size: tuple[int, int] = (300, 200)) -> np.ndarray:
    ground = even_ground(*size)
    ground.strokes = {"s" * 32: strokes}
    return covered([Brush.model_construct(strokes=("s" * 32,), most=most)], ground)


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
            ground = even_ground(1, 1)
            there = np.array([300, 200]) + offset
            ground.places = there.astype(np.float32)[None, None]
            ground.to_ground = lambda places, there=there: places - there + 0.5
            self.assertEqual(float(covered([disc], ground)[0, 0]), inside, offset)

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

    def test_an_outline_covers_its_area(self) -> None:
        # shoelace formula; a soft edge gives outside what it takes inside, but at the corners
        corners = np.array([(60, 50), (240, 30), (200, 110), (260, 170), (90, 160)], float)
        (x, y), (u, v) = corners.T, np.roll(corners, -1, axis=0).T
        wanted = abs(float((x * v - u * y).sum())) / 2
        for feather in (0, 6):
            shape = Polygon(points=[tuple(c) for c in corners], feather=feather)
            self.assertAlmostEqual(
                covered([shape], places(300, 200)).sum() / wanted, 1.0, delta=0.005
            )
        # at a line half, half the feather in full, half the feather out nothing
        soft = Polygon(points=((50, 20), (250, 20), (250, 180), (50, 180)), feather=40)
        row = covered([soft], places(300, 200))[100]
        self.assertAlmostEqual(row[49:51].mean(), 0.5, delta=1e-5)
        self.assertEqual((float(row[29]), float(row[70])), (0.0, 1.0))
        self.assertAlmostEqual(float(row[39]), 1 - (0.7625**2) * (3 - 2 * 0.7625), delta=1e-4)

    def test_an_outline_that_crosses_itself_holds_all_it_goes_round_and_a_line_nothing(
        self,
    ) -> None:
        star = [
            (150 + 90 * np.sin(0.8 * np.pi * k), 100 - 90 * np.cos(0.8 * np.pi * k))
            for k in range(5)
        ]
        found = covered([Polygon(points=star, feather=0)], places(300, 200))
        self.assertEqual(float(found[100, 150]), 1.0)  # the middle, gone round twice
        self.assertEqual(float(found[20, 100]), 0.0)
        flat = Polygon(points=((20, 50), (150, 50), (280, 50)), feather=0)
        self.assertLess(covered([flat], places(300, 200)).max(), 0.6)

    def test_a_stroke_leaves_its_flow_once_and_more_where_it_passes_again(self) -> None:
        line = Stroke(points=((60, 100), (240, 100)), radius=20, soft=0.5, flow=0.3)
        found = brushed(line)
        np.testing.assert_allclose(found[100, 60:240], 0.3, atol=0.005)
        # across as a disc's edge: half at the radius
        self.assertAlmostEqual(float(found[119:121, 150].mean()), 0.15, delta=0.005)
        self.assertEqual(float(found[130, 150]), 0.0)
        # a single touch is as strong as a stroke
        touch = brushed(Stroke(points=((150, 100),), radius=20, flow=0.3))
        self.assertAlmostEqual(float(touch[100, 150]), 0.3, delta=0.005)
        # back over itself, or a second stroke: twice as much; taken away again: nothing left
        back = Stroke(points=((60, 100), (240, 100), (60, 100)), radius=20, soft=0.5, flow=0.3)
        np.testing.assert_allclose(brushed(back)[100, 90:210], 0.6, atol=0.02)
        np.testing.assert_allclose(brushed(line, line)[100, 60:240], 0.6, atol=0.01)
        away = line.model_copy(update={"take": True})
        self.assertLess(brushed(line, away).max(), 1e-6)
        # and never more than the brush may reach
        self.assertAlmostEqual(float(brushed(*[line] * 9, most=0.8).max()), 0.8, places=6)
        np.testing.assert_allclose(brushed(*[line] * 5, most=6)[100, 90:210], 1.5, atol=0.02)

    def test_a_stroke_is_as_strong_as_the_pen_is_pressed(self) -> None:
        points = ((60.5, 100.5), (240.5, 100.5))
        found = brushed(Stroke(points=points, radius=20, pressure=(0.0, 1.0)))
        np.testing.assert_allclose(found[100, 60:241:45], [0, 0.25, 0.5, 0.75, 1.0], atol=0.03)

    def test_strokes_lie_the_same_on_any_ground(self) -> None:
        stroke = Stroke(points=((100, 120), (400, 260), (500, 100)), radius=40)
        fine, coarse = even_ground(600, 400), even_ground(300, 200, by=2.0)
        for ground in (fine, coarse):
            ground.strokes = {"s" * 32: (stroke,)}
        brush = Brush(strokes=("a" * 32,)).model_copy(update={"strokes": ("s" * 32,)})
        small = covered([brush], fine).reshape(200, 2, 300, 2).mean(axis=(1, 3))
        self.assertLess(np.abs(small - covered([brush], coarse)).max(), 0.06)

    def test_what_is_held_in_the_light_covers_a_place_for_its_part_of_the_time(self) -> None:
        disc = Disc(x=200, y=150, width=60, height=60, soft=0.3)
        still = covered([disc], places(400, 300))
        for path in (((0, 0, 0),), ((0, 0, 0), (0, 0, 4)), ((0, 0, 0), (0, 0, 1), (0, 0, 4))):
            found = covered([Moved(held=disc, path=path)], places(400, 300))
            np.testing.assert_allclose(found, still, atol=1e-6)
        # evenly over twice its size, the middle is covered half of the time
        hard = Disc(x=200, y=150, width=60, height=60, soft=0.05)
        way = ((-120, 0, 0), (0, 0, 2.0), (120, 0, 4.0))
        found = covered([Moved(held=hard, path=way)], places(400, 300))
        self.assertAlmostEqual(float(found[150, 200]), 0.5, delta=0.02)
        self.assertAlmostEqual(float(found[150, 30]), 10.5 / 240, delta=0.02)
        self.assertEqual(float(found[150, 10]), 0.0)
        # however it is counted on the way, and whatever the speed is called
        uneven = ((-120, 0, 0), (-60, 0, 5), (30, 0, 12.5), (120, 0, 20))
        again = covered([Moved(held=hard, path=uneven)], places(400, 300))
        np.testing.assert_allclose(again, found, atol=1e-6)
        # a card that is moved down by its run is half as steep
        card = Card(x=0, y=100, to_x=0, to_y=101)
        moved = Moved(held=card, path=((0, -50, 0), (0, 50, 3)))
        column = covered([moved], places(10, 300))[:, 5]
        self.assertAlmostEqual(float(column[100]), 0.5, delta=0.02)
        self.assertAlmostEqual(float(column[75]), 0.75, delta=0.02)

    def test_sides_an_oval_and_a_lens_fall_off_follow_the_picture(self) -> None:
        ground = even_ground(600, 400)
        found = covered([Sides(left=1, right=0.5, top=0, bottom=0, width=25)], ground)
        # 25 % of the short side is 100 px, half of which is passed half way
        self.assertAlmostEqual(float(found[200, 49:51].mean()), 0.5, delta=0.01)
        self.assertAlmostEqual(float(found[200, 549:551].mean()), 0.25, delta=0.01)
        self.assertEqual(float(found[0, 300]), 0.0)
        # an oval of the picture's shape reaches its corners all at once; half at its edge
        oval = covered([Oval(size=100, roundness=0, feather=100)], ground)
        np.testing.assert_allclose(oval[[0, 0, -1, -1], [0, -1, 0, -1]], 0.5, atol=0.01)
        lifted = covered([Oval(size=50, middle=0.4)], ground)
        self.assertAlmostEqual(float(lifted[200, 300]), -0.4, delta=1e-5)
        # cos^4 in stops, of that at the corner: 35 degrees there, tan 35 = 0.7002
        fall = covered([FallOff(angle=35)], ground)
        self.assertAlmostEqual(float(fall[0, 0]), 1.0, delta=0.01)
        half = np.arctan(0.5 * np.tan(np.radians(35)))
        wanted = np.log2(np.cos(half)) / np.log2(np.cos(np.radians(35)))
        self.assertAlmostEqual(float(fall[100, 150]), wanted, delta=0.01)


class LimitTest(unittest.TestCase):
    def test_a_range_of_zones_has_soft_ends(self) -> None:
        zones = np.array([[0.0, 2.5, 3.0, 3.5, 5.0, 7.5, 8.0, 8.5, 10.0]], np.float32)
        found = of_zones(ZoneLimit(first=3, last=8, soft=1), zones)[0]
        np.testing.assert_allclose(found, [0, 0, 0.5, 1, 1, 1, 0.5, 0, 0], atol=1e-6)
        # the ends of the scale are open: what is lighter than Zone X is in too
        lights = of_zones(ZoneLimit(first=6), np.array([[12.0, 5.0]], np.float32))[0]
        np.testing.assert_allclose(lights, [1.0, 0.0])

    def test_a_range_of_hues_holds_no_grey(self) -> None:
        colours = np.array([[(0.6, 0.2, 0.2), (0.2, 0.6, 0.2), (1 / 3, 1 / 3, 1 / 3)]], np.float32)
        red = float(hue_of(colours.astype(float))[0][0, 0])
        found = of_hues(HueLimit(hue=red, width=60), colours)[0]
        self.assertGreater(float(found[0]), 0.9)
        np.testing.assert_allclose(found[1:], 0.0, atol=1e-3)


def two_fields(width: int = 300, height: int = 200) -> Ground:
    """Left dark red, right bright grey, as the camera saw it; the edge is at x = 150."""
    ground = even_ground(width, height)
    coded = np.empty((height, width, 3), np.float32)
    coded[:] = (64 / 3, 64 / 3, -1.0)
    coded[:, : width // 2] = (40.0, 12.0, -3.0)
    coded[..., 2] += np.random.default_rng(3).normal(0, 0.05, (height, width))
    ground.see = lambda: coded
    ground.meter = lambda: coded[..., 2] + 6.0
    return ground


class FollowingTest(unittest.TestCase):
    def test_what_is_alike_within_reach_belongs_to_the_area(self) -> None:
        sample = Sample(points=((60, 100),), reach=5000)
        found = area(Pass(shapes=(Alike(samples=(sample,)),)), two_fields())[0]
        self.assertGreater(found[20:180, 10:140].mean(), 0.95)
        self.assertLess(found[:, 160:].max(), 0.05)
        near = sample.model_copy(update={"reach": 50})
        found = area(Pass(shapes=(Alike(samples=(near,)),)), two_fields())[0]
        self.assertGreater(float(found[100, 60]), 0.95)
        self.assertLess(float(found[100, 140]), 0.05)
        # a stroke over both is like both, and so are two samples
        both = Sample(points=((60, 100), (240, 100)), reach=5000)
        two = (sample, Sample(points=((240, 100),), reach=5000))
        for samples in ((both,), two):
            found = area(Pass(shapes=(Alike(samples=samples),)), two_fields())[0]
            self.assertGreater(found[20:180, 10:290].mean(), 0.9)

    def test_held_to_edges_a_rough_disc_stops_where_the_thing_ends(self) -> None:
        rough = Disc(x=95, y=100, width=75, height=70, soft=0.3)  # 20 px over the edge
        loose = area(Pass(shapes=(rough,)), two_fields())
        held = area(Pass(shapes=(rough,), held=1.0), two_fields())
        self.assertGreater(float(loose[0, 100, 157]), 0.8)
        self.assertLess(held[0, :, 156:].max(), 0.02)
        middle = 0, slice(60, 140), slice(60, 144)
        self.assertGreater(held[middle].mean(), 0.98 * loose[middle].mean())
        # half held: half of what is outside stays
        half = area(Pass(shapes=(rough,), held=0.5), two_fields())
        self.assertAlmostEqual(
            float(half[0, 100, 158]), 0.5 * float(loose[0, 100, 158]), delta=0.03
        )

    def test_a_limit_to_zones_follows_the_light_as_a_guided_filter(self) -> None:
        # He, Sun, Tang 2010, equations 5, 6 and 8, in windows of five by five
        ground = two_fields()
        limit = ZoneLimit(first=4.0, last=10.0, soft=0.5)
        limited = Pass(shapes=(Whole(),), zones=limit)
        self.assertTrue(follows_light(limited))
        level, slope = area(limited, ground)
        guide, wanted = ground.guide, of_zones(limit, ground.zones)
        mean, near = box_mean(guide, 2), box_mean(wanted, 2)
        spread = box_mean(guide * guide, 2) - mean * mean
        a = (box_mean(guide * wanted, 2) - mean * near) / (spread + 0.1**2)
        b = box_mean(near - a * mean, 2)
        np.testing.assert_allclose(slope, box_mean(a, 2), atol=1e-4)
        np.testing.assert_allclose(level, slope * guide + b, atol=1e-4)
        self.assertGreater(level[:, 160:].mean(), 0.95)
        self.assertLess(level[:, :140].mean(), 0.05)


if __name__ == "__main__":
    unittest.main()
