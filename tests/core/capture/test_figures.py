import unittest

import numpy as np

from silvrin.core.capture.figures import figures
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture

LIMITS = (65535.0, 65535.0, 65535.0)


class FiguresTest(unittest.TestCase):
    def test_the_frame_focused_on_the_eye_is_sharpest_there(self) -> None:
        # the demo's head, three times, focused on eye, ear and wall
        eye = []
        for name in ("eye", "ear", "wall"):
            developed = read_capture(demo_capture(f"terracotta head, {name}"))
            light = developed.light
            height, width = light.shape[:2]
            rows = slice(int(0.36 * height), int(0.46 * height))
            columns = slice(int(0.25 * width), int(0.5 * width))
            eye.append(figures(light[rows, columns], developed.limits).sharpness)
        self.assertEqual(eye, sorted(eye, reverse=True))
        self.assertGreater(eye[0], 1.2 * eye[2])

    def test_exposure_does_not_count_for_sharpness(self) -> None:
        rng = np.random.default_rng(2)
        scene = rng.uniform(0.2, 1.0, (400, 500, 3))
        one, other = (
            figures((scene * s).astype(np.uint16), LIMITS).sharpness for s in (50000, 12500)
        )
        self.assertAlmostEqual(one / other, 1.0, delta=0.02)

    def test_clipping_and_headroom_by_channel(self) -> None:
        light = np.full((200, 300, 3), [16384, 32768, 4096], np.uint16)
        light[:20, :, 1] = 65535
        found = figures(light, LIMITS)
        np.testing.assert_allclose(found.clipped, [0, 0.1, 0], atol=0.01)
        np.testing.assert_allclose(found.headroom, [2, 0, 4], atol=0.01)


if __name__ == "__main__":
    unittest.main()
