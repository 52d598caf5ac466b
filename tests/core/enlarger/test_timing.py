import math
import unittest

from silvrin.core.enlarger.shapes import Moved
from silvrin.core.enlarger.timing import Step, exposed_so_far, sequence
from silvrin.core.light_path import LightPath
from silvrin.core.places import PicturePixel
from silvrin.core.recipe import Disc, Pass, Recipe
from silvrin.core.render import Darkroom, Sitting
from tests.core.enlarger.test_printing_map import WHOLE, density, even, exposed
from tests.worked import worked_path

BASE = 12.0


def beside(seconds: float, **more: object) -> Pass:
    """A pass that adds so many seconds to a base of 12."""
    return Pass(stops=math.log2((BASE + seconds) / BASE), shapes=(WHOLE,), **more)


def shown(path: LightPath) -> float:
    return Darkroom().spot(Sitting("e", even(), path), PicturePixel(300, 200), 4).density


class SequenceTest(unittest.TestCase):
    def steps(self, recipe: Recipe, *passes: Pass) -> list[tuple[str, float, float, int | None]]:
        found = sequence(worked_path(recipe, *passes))
        return [(s.what, round(s.begins, 6), round(s.ends, 6), s.number) for s in found]

    def test_what_is_held_back_lies_in_the_base_and_burns_come_after(self) -> None:
        found = self.steps(
            exposed(BASE, 2.0), beside(5), beside(-4), beside(3, on=False), beside(-6), beside(2)
        )
        self.assertEqual(
            found,
            [
                ("base", 0, 12, None), ("dodge", 0, 4, 1), ("dodge", 4, 10, 3), ("burn", 12, 17, 0),
                ("burn", 17, 19, 4),
            ],
        )  # fmt: skip
        # what does not fit after the others is held back with the first
        late = self.steps(exposed(BASE, 2.0), beside(-8), beside(-6))
        self.assertEqual([s[1:3] for s in late], [(0, 12), (0, 8), (0, 6)])
        half = self.steps(exposed(BASE, 2.0), beside(12, strength=0.5))
        self.assertAlmostEqual(half[1][2] - half[1][1], BASE * (2**0.5 - 1), places=5)

    def test_of_a_split_grade_both_exposures_are_the_base(self) -> None:
        found = self.steps(exposed(BASE, 2.0, soft=7.0), beside(-4))
        self.assertEqual(found[:2], [("soft", 0, 7, None), ("hard", 7, 12, None)])
        self.assertEqual(found[2], ("dodge", 0, 4, 0))
        only = sequence(worked_path(exposed(BASE, 2.0, soft=12.0)))
        self.assertEqual(only, (Step("soft", 0.0, 12.0),))

    def test_the_paper_is_as_it_is_at_every_second(self) -> None:
        recipe = exposed(BASE, 2.0)
        path = worked_path(recipe, beside(-4), beside(3))
        # held back for the first 4 s, then in the light, then burned
        for seconds, light in ((6.0, 2.0), (12.0, 8.0)):
            found = shown(exposed_so_far(path, seconds))
            self.assertAlmostEqual(found, density(exposed(light, 2.0)), delta=0.002)
        whole = shown(path)
        self.assertAlmostEqual(shown(exposed_so_far(path, 15.0)), whole, delta=1e-6)
        self.assertAlmostEqual(shown(exposed_so_far(path, 400.0)), whole, delta=1e-6)
        burned = worked_path(recipe, beside(3))
        self.assertAlmostEqual(
            shown(exposed_so_far(burned, 13.5)), density(exposed(13.5, 2.0)), delta=0.002
        )

    def test_what_was_held_by_hand_is_moved_again_as_it_was(self) -> None:
        held = Disc(x=200, y=200, width=60, height=60, soft=0.05)
        moved = Moved(held=held, path=((0, 0, 0), (200, 0, 1), (200, 0, 4)))
        path = worked_path(exposed(BASE, 2.0), beside(3).model_copy(update={"shapes": (moved,)}))
        (half,) = exposed_so_far(path, 13.5).things.drawings.passes
        (shape,) = half.shapes
        assert isinstance(shape, Moved)
        self.assertEqual(shape.path, ((0, 0, 0), (200, 0, 1), (200.0, 0.0, 2.0)))
        (early,) = exposed_so_far(path, 12.375).things.drawings.passes
        assert isinstance(early.shapes[0], Moved)
        self.assertEqual(early.shapes[0].path[-1], (100.0, 0.0, 0.5))
        (whole,) = exposed_so_far(path, 15.0).things.drawings.passes
        self.assertEqual(whole.shapes, (moved,))


if __name__ == "__main__":
    unittest.main()
