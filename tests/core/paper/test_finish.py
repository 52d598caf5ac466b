import unittest

import numpy as np
from pydantic import ValidationError

from silvrin import shelf
from silvrin.core.enlarger.timing import exposed_for
from silvrin.core.paper.finish import finished, net_of, points_for, value_of
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import EnlargerSettings, PaperSettings, Recipe
from silvrin.core.render import Darkroom, Sitting, lightness, proof
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture
from tests.sittings import plate

MOST = 2.1
NET = np.linspace(0, MOST, 400)


def finish(**settings: object) -> np.ndarray:
    return finished(NET, MOST, PaperSettings(**settings))


class FinishTest(unittest.TestCase):
    def test_whatever_is_chosen_tones_keep_their_order_and_their_ends(self) -> None:
        for settings in (
            {},
            {"hold_highlights": 1.0, "hold_shadows": 1.0},
            {"black_at": 0.7, "white_at": 0.1},
            {"mid_point": -0.8},
            {"mid_point": 0.8},
            {"curve": ((2.0, 1.0), (5.0, 6.5), (8.0, 8.2))},
            {"value_lift": (0, 0.5, 1, -1, -1.5, 1.5, 0, 0, -1, 0.5, 0)},
        ):
            net = finish(**settings)
            self.assertGreaterEqual(np.diff(net).min(), -1e-9, settings)
            np.testing.assert_allclose(net[[0, -1]], [0, MOST], atol=1e-6)

    def test_values_are_lightness(self) -> None:
        # CIE 15: L* of the numbers a print is delivered in, IEC 61966-2-1
        np.testing.assert_allclose(net_of(value_of(NET, MOST), MOST), NET, atol=1e-6)
        path = shelf.light_path(Recipe())
        density = np.linspace(0.3, 1.6, 40)
        number = path.print_out(plate(density.astype(np.float32)[None]), 16)[0]
        value = value_of(path.print_density(density), path.things.paper.net_density)
        np.testing.assert_allclose(lightness(number / 257) / 10, value, atol=0.01)

    def test_points_put_the_ends(self) -> None:
        net = finish(black_at=0.8, white_at=0.1)
        self.assertTrue(np.all(net[NET <= 0.1 * MOST] == 0))
        self.assertTrue(np.all(net[NET >= 0.8 * MOST] == MOST))

    def test_holds_keep_tones_from_the_ends_and_leave_the_middle(self) -> None:
        held = finish(hold_highlights=1.0, hold_shadows=1.0)
        self.assertGreater(held[8], NET[8])  # a light tone is printed darker
        self.assertLess(held[-9], NET[-9])
        middle = (NET > 0.5) & (NET < 1.3)
        np.testing.assert_allclose(held[middle], NET[middle])

    def test_the_curve_runs_through_its_points_and_lifts_act_on_their_value(self) -> None:
        value = value_of(NET, MOST)
        points = ((2.0, 1.0), (5.0, 6.5), (8.0, 8.2))
        got = value_of(finish(curve=points), MOST)
        for x, y in points:
            self.assertAlmostEqual(np.interp(x, value[::-1], got[::-1]), y, delta=0.03)
        lift = [0.0] * 11
        lift[4] = 0.8
        got = value_of(finish(value_lift=tuple(lift)), MOST)
        self.assertAlmostEqual(np.interp(4.0, value[::-1], got[::-1]), 4.8, delta=0.03)
        for untouched in (2.0, 6.0, 8.0):
            found = np.interp(untouched, value[::-1], got[::-1])
            self.assertAlmostEqual(found, untouched, delta=0.03)

    def test_what_does_not_hold_is_said(self) -> None:
        for wrong, said in (
            ({"curve": ((3, 4), (3, 6))}, r"from \(3, 4\) to \(3, 6\)"),
            ({"curve": ((3, 6), (5, 4))}, "never downwards"),
            ({"black_at": 0.5, "white_at": 0.4}, "less than 0.2 apart"),
            ({"grade": 6}, "less than or equal to 5"),
        ):
            with self.assertRaisesRegex(ValidationError, said):
                PaperSettings(**wrong)


class PointsTest(unittest.TestCase):
    def test_shares_reach_the_ends(self) -> None:
        # shares of 2 %, 0.1 % and 0.01 %: common practice, no source
        developed = read_capture(demo_capture("wheel"))
        picture = LinearPicture.with_pyramid(developed.light, developed.scale)
        room, paper = Darkroom(), PaperSettings(grade=0)
        recipe = Recipe(paper=paper)
        path = shelf.light_path(recipe)
        for black, white in ((0.02, 0.01), (0.001, 0.0001)):
            white_at, black_at = room.points(Sitting("w", picture, path), black, white)
            chosen = paper.model_copy(update={"black_at": black_at, "white_at": white_at})
            after = shelf.light_path(recipe.model_copy(update={"paper": chosen}))
            reading = room.readings(Sitting("w", picture, after))
            self.assertAlmostEqual(reading.paper_black, black, delta=0.002)
            self.assertAlmostEqual(reading.paper_white, white, delta=0.002)

    def test_more_black_than_asked_is_made_less_by_time(self) -> None:
        developed = read_capture(demo_capture("wheel"))
        picture = LinearPicture.with_pyramid(developed.light, developed.scale)
        room = Darkroom()
        # where time and grade alone make more black, a shorter time makes as much as asked
        hard = shelf.light_path(
            Recipe(enlarger=EnlargerSettings(time=60.0), paper=PaperSettings(grade=4))
        )
        sitting = Sitting("w", picture, hard)
        readings = room.readings(sitting)
        self.assertGreater(readings.paper_black, 0.1)
        for asked in (0.02, 0.001):
            seconds = room.time_for_black(sitting, asked)
            self.assertLess(seconds, 60.0)
            shorter = sitting.under(exposed_for(hard, seconds))
            got = room.readings(shorter).paper_black
            self.assertAlmostEqual(got, asked, delta=0.002)

    def test_a_flat_picture_and_an_empty_share(self) -> None:
        white_at, black_at = points_for(np.array([0.0, 9.0, 0.0]), NET[[0, 200, 399]], MOST, 0, 0)
        self.assertGreaterEqual(black_at - white_at, 0.2)


class ProofTest(unittest.TestCase):
    def test_the_base_has_its_tint_and_black_its_depth(self) -> None:
        numbers = np.array([[0, 255]], np.uint8)
        for paper in shelf.papers().values():
            path = shelf.light_path(Recipe(paper=PaperSettings(paper=paper.id)))
            black, white = proof(numbers, path)[0]
            self.assertEqual("#" + "".join(f"{v:02x}" for v in white), paper.tint)
            # a matt paper's black is lighter than a glossy one's (IEC 61966-2-1 undone)
            black, white = (
                np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4).max()
                for v in (black / 255.0, white / 255.0)
            )
            self.assertAlmostEqual(black / white, 10**-paper.net_density, delta=0.0015)


if __name__ == "__main__":
    unittest.main()
