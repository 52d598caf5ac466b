"""The printed target photographed aslant, in uneven light: its densities are found again."""

import io
import unittest

import cv2
import numpy as np
from PIL import Image

from silvrin.core.contact.photographed import densities_of
from silvrin.core.contact.process import ContactProcess, Reading, target_inks
from silvrin.core.contact.target import Target, find_marks
from silvrin.errors import SilvrinError
from silvrin.files.contact_target import target_png
from silvrin.instruments.contact_frame import ContactFrame


def printed(steps: int, frame: ContactFrame, process: ContactProcess | None = None) -> np.ndarray:
    """Reflectance of the print of a target, at the target's own pixels."""
    negative = np.asarray(Image.open(io.BytesIO(target_png(steps, process=process))).convert("L"))
    ink = 1.0 - negative[:, ::-1] / 255.0  # emulsion on emulsion
    return (10.0 ** -frame.printed(ink)).astype(np.float32)


def photograph(
    paper: np.ndarray, size: tuple[int, int] = (2400, 1800), aslant: float = 0.06,
    uneven: float = 0.25, noise: float = 0.01, seed: int = 1,
) -> np.ndarray:  # fmt: skip
    """Linear light of a photograph: seen aslant, on a grey table, falling off to the corners."""
    rng = np.random.default_rng(seed)
    width, height = size
    h, w = paper.shape
    scale = 0.8 * min(width / w, height / h)
    box = np.array([[-w, -h], [w, -h], [w, h], [-w, h]]) * scale / 2 + [width / 2, height / 2]
    box += rng.uniform(-aslant, aslant, (4, 2)) * [width, height] / 2
    corners = np.array([[0, 0], [w, 0], [w, h], [0, h]], np.float32) - 0.5
    way = cv2.getPerspectiveTransform(corners, box.astype(np.float32))
    small = cv2.GaussianBlur(paper, (0, 0), 0.6 / scale) if scale < 1 else paper
    seen = cv2.warpPerspective(small, way, size, flags=cv2.INTER_LINEAR, borderValue=0.3)
    y, x = np.mgrid[0:height, 0:width]
    light = 1 - uneven * ((x / width - 0.4) ** 2 + (y / height - 0.6) ** 2) * 2 + 0.1 * x / width
    return (0.6 * seen * light * (1 + rng.normal(0, noise, seen.shape))).astype(np.float32)


class PhotographedTest(unittest.TestCase):
    def test_densities_are_found_again(self) -> None:
        for steps, seed in ((31, 1), (31, 2), (21, 3)):
            frame = ContactFrame(black=1.8)
            light = photograph(printed(steps, frame), seed=seed)
            true = frame.printed(target_inks(steps))
            found = densities_of(light, Target(steps), 1.0, float(true[-1]))
            with self.subTest(steps=steps, seed=seed):
                np.testing.assert_allclose(found, true, atol=0.02)

    def test_a_linearised_target_too_and_the_process_comes_out_straight(self) -> None:
        frame, process = ContactFrame(), None
        for seed in (4, 5):
            inks = target_inks(31, process)
            light = photograph(printed(31, frame, process), seed=seed)
            found = densities_of(light, Target(31), 1.0, 0.09)
            readings = tuple(Reading(float(i), float(d)) for i, d in zip(inks, found, strict=True))
            process = process.refined(readings) if process else ContactProcess(readings)
        even = frame.printed(process.ink_for(np.linspace(0, 1, 41)))
        straight = np.linspace(even[0], even[-1], 41)
        self.assertLess(np.abs(even - straight).max(), 0.025)

    def test_what_cannot_be_read_is_said(self) -> None:
        paper = printed(21, ContactFrame())
        whole = photograph(paper)
        covered = whole.copy()
        covered[: whole.shape[0] // 3, : whole.shape[1] // 3] = 0.3
        for light, limit, says in (
            (covered, 1.0, "3 of the target's four marks are found; .*upper left"),
            (np.full((800, 1200), 0.4, np.float32), 1.0, "0 of the target's four marks"),
            (photograph(paper, (330, 250), aslant=0.0), 1.0, "pixels a millimetre; at least 3"),
            (np.minimum(whole, 0.4), 0.4, "at the picture's limit"),
        ):
            with self.assertRaisesRegex(SilvrinError, says):
                densities_of(light, Target(21), limit, 0.06)

    def test_marks_are_read_where_they_are_drawn(self) -> None:
        paper = printed(31, ContactFrame())
        marks = find_marks(np.rint(255 * paper / paper.max()).astype(np.uint8))
        for number, (left, top, side) in enumerate(Target(31).marks):
            middle = (np.array([left, top]) + side / 2) / 25.4 * 300
            np.testing.assert_allclose(marks[number].mean(axis=0), middle, atol=1.0)


if __name__ == "__main__":
    unittest.main()
