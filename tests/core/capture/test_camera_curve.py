"""The curve of a camera, taken back."""

import unittest

import numpy as np

from silvrin.core.capture.camera_curve import rendered, taken_back
from silvrin.core.picture import LinearPicture, View
from silvrin.core.recipe import CaptureSettings
from tests.sittings import seen_under

SCENE = 0.18 * 2.0 ** np.linspace(-6, 3.5, 40)


def picture(shown: np.ndarray) -> LinearPicture:
    light = np.rint(np.repeat(shown[None, :, None], 3, axis=2) * 65535).astype(np.uint16)
    return LinearPicture([np.repeat(light, 4, axis=0)], 1 / 65535)


class CameraCurveTest(unittest.TestCase):
    def test_all_of_it_taken_back_is_the_scene(self) -> None:
        np.testing.assert_allclose(taken_back(rendered(SCENE), 1.0), SCENE, rtol=1e-9)
        shown = np.linspace(0.001, 1.0, 30)
        np.testing.assert_allclose(taken_back(shown, 0.0), shown, rtol=1e-12)
        half = np.log2(taken_back(shown, 0.5))
        np.testing.assert_allclose(2 * half, np.log2(shown * taken_back(shown, 1.0)), rtol=1e-9)

    def test_the_typical_curve_keeps_grey_is_steeper_there_and_has_a_shoulder(self) -> None:
        # common practice, no source: middle tones a quarter steeper, white nearly four stops above
        self.assertAlmostEqual(float(rendered(np.array(0.18))), 0.18, places=12)
        near = np.log2(rendered(0.18 * 2.0 ** np.array([-0.1, 0.1])))
        self.assertAlmostEqual(float(np.diff(near)[0] / 0.2), 1.25, delta=0.02)
        white = float(taken_back(np.array(1.0), 1.0))
        self.assertAlmostEqual(np.log2(white / 0.18), 3.8, delta=0.1)

    def test_as_it_is_cut_of_any_view_and_what_is_clipped_stays_clipped(self) -> None:
        shown = np.append(rendered(SCENE), 1.0)
        given = picture(shown)
        seen = seen_under(given, CaptureSettings(camera_curve=1.0))
        for left, width in ((0, 41), (7, 20)):
            light = seen.cut(View(left, 0, width, 4, width, 4))[0, :, 1] * seen.scale
            wanted = np.append(SCENE, light[-1] if width == 41 else [])[left : left + width]
            np.testing.assert_allclose(light, wanted, rtol=0.01, atol=1e-4)
        whole = seen.cut(View(0, 0, 41, 4, 41, 4))
        clipped = (whole >= np.array(seen.limits)).any(axis=2)[0]
        self.assertEqual(list(np.flatnonzero(clipped)), [40])
        np.testing.assert_array_equal(seen.patch(3, 0, 4), seen.cut(View(3, 0, 4, 4, 4, 4)))

    def test_without_it_the_picture_is_the_file_s(self) -> None:
        given = picture(np.linspace(0, 1, 41))
        self.assertIs(seen_under(given, CaptureSettings()), given)


if __name__ == "__main__":
    unittest.main()
