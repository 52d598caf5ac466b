"""Contact negatives, linearised on a stand-in whose response is known."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin.core.contact.negative import DEEPEST, STEPS, ContactNegative
from silvrin.core.contact.process import ContactProcess, Reading, target_inks
from silvrin.errors import SilvrinError
from silvrin.instruments.contact_frame import ContactFrame

SHARES = np.linspace(0.0, 1.0, 41)


def off_straight(frame: ContactFrame, process: ContactProcess) -> float:
    """By how much a wedge that is linearised comes out off a straight line between its ends."""
    found = frame.printed(process.ink_for(SHARES))
    return float(np.abs(found - np.linspace(found[0], found[-1], len(SHARES))).max())


class LinearisingTest(unittest.TestCase):
    def test_it_comes_out_straight(self) -> None:
        """Within 0.02 D after one round and 0.01 after two; the target of an even wedge itself is
        off by a third of its range."""
        for steps, bound in ((31, (0.02, 0.01)), (21, (0.02, 0.012))):
            firsts, seconds = [], []
            for seed in range(12):
                frame = ContactFrame()
                first = ContactProcess(frame.read(target_inks(steps), seed))
                second = first.refined(frame.read(target_inks(steps, first), seed + 100))
                firsts.append(off_straight(frame, first))
                seconds.append(off_straight(frame, second))
            plain = frame.printed(1.0 - SHARES)
            straight = np.linspace(plain[0], plain[-1], len(SHARES))
            self.assertGreater(np.abs(plain - straight).max(), 0.25)
            self.assertLess(np.median(firsts), bound[0], steps)
            self.assertLess(np.median(seconds), bound[1], steps)
            self.assertLess(np.median(seconds), np.median(firsts))

    def test_without_noise_the_curve_is_the_process(self) -> None:
        for frame in (
            ContactFrame(noise=0), ContactFrame(noise=0, gain=0.05, contrast=1.3),
            ContactFrame(noise=0, black=1.1, speed=0.5),
        ):  # fmt: skip
            process = ContactProcess(frame.read(target_inks(31)))
            grid = np.linspace(0, 1, len(process.curve))
            self.assertLess(np.abs(process.curve - frame.printed(grid)).max(), 0.012)
            self.assertLess(np.abs(process.residuals).max(), 0.01)

    @settings(max_examples=40)
    @given(
        st.lists(st.floats(-0.1, 2.5), min_size=19, max_size=19),
        st.floats(0.4, 2.0),
    )
    def test_any_readings_give_a_curve_that_never_rises(
        self, between: list[float], span: float
    ) -> None:
        densities = [span + 0.1, *between, 0.1]
        readings = tuple(
            Reading(float(i), d) for i, d in zip(target_inks(21), densities, strict=True)
        )
        process = ContactProcess(readings)
        self.assertLessEqual(np.diff(process.curve).max(), 1e-9)
        ink = process.ink_for(SHARES)
        self.assertLessEqual(np.diff(ink).max(), 1e-9)
        self.assertTrue(((ink >= 0) & (ink <= 1)).all())

    def test_what_is_no_measurement_is_said(self) -> None:
        inks = target_inks(21)
        for readings, words in (
            ([Reading(0.5, 1.0)] * 5, "at least 11"),
            ([Reading(float(i), 0.5) for i in inks], "at least 0.3"),
            ([Reading(float(i), 0.1 + i) for i in inks], "the other way round"),
            ([Reading(float(i), 9.0 - i) for i in inks], "density -0.2 to 5"),
        ):
            with self.assertRaisesRegex(SilvrinError, words):
                ContactProcess(tuple(readings))
        with self.assertRaisesRegex(SilvrinError, "there are 21 and 31"):
            target_inks(20)


class NegativeTest(unittest.TestCase):
    def test_a_print_is_inverted_mirrored_and_toned(self) -> None:
        printed = np.tile(np.linspace(0, 65535, 300).astype(np.uint16), (40, 1))
        negative = ContactNegative(4.0, ink=(200, 60, 0), marked=False)
        found = np.concatenate(list(negative.strips(iter([printed[:25], printed[25:]]), 300, 40)))
        self.assertEqual(found.shape, (40, 300, 3))
        # where the print is white the negative has all its ink, and on the other side
        self.assertEqual(tuple(found[0, 0]), (200, 60, 0))
        self.assertEqual(tuple(found[0, -1]), (255, 255, 255))
        straight = ContactNegative(4.0, ink=(200, 60, 0), mirrored=False, marked=False)
        np.testing.assert_array_equal(
            np.concatenate(list(straight.strips(iter([printed]), 300, 40))), found[:, ::-1]
        )

    def test_through_the_process_a_print_has_its_own_densities(self) -> None:
        """Print, negative, process: densities come back in proportion, as far as paper black."""
        frame = ContactFrame(noise=0)
        process = ContactProcess(frame.read(target_inks(31)))
        negative = ContactNegative(4.0, process, marked=False, mirrored=False)
        light = 10.0 ** -np.linspace(0.0, DEEPEST, 50)
        encoded = np.where(light <= 0.0031308, 12.92 * light, 1.055 * light ** (1 / 2.4) - 0.055)
        printed = np.rint(encoded * 65535).astype(np.uint16)[None]
        ink = negative.table[printed[0]]
        found = frame.printed(ink.astype(float))
        wanted = process.base + np.linspace(0, 1, 50) * (process.black - process.base)
        self.assertLess(np.abs(found - wanted).max(), 0.015)

    def test_marks_and_wedge_lie_about_it(self) -> None:
        printed = np.full((200, 300), 30000, np.uint16)
        negative = ContactNegative(5.0)
        whole = negative.size(300, 200)
        found = np.concatenate(list(negative.strips(iter([printed]), 300, 200)))
        self.assertEqual(found.shape[:2], whole[::-1])
        side, below = negative.margins
        corners = (
            found[:side, :side], found[:side, -side:], found[-side:, :side], found[-side:, -side:]
        )  # fmt: skip
        for corner in corners:
            self.assertGreater((corner == 0).all(axis=2).sum(), 20)
        wedge = found[-below + negative.pixels(4) + 3, side + 4 : -side : 300 // STEPS, 0]
        self.assertEqual(len(np.unique(found[-below + negative.pixels(4) + 3, :, 0])), STEPS)
        self.assertTrue((np.diff(wedge.astype(int)) >= 0).all())  # mirrored: base first


if __name__ == "__main__":
    unittest.main()
