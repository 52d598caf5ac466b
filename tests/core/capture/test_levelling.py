import unittest

import numpy as np

from silvrin.core.capture.geometry import Geometry
from silvrin.core.capture.levelling import levelled
from silvrin.core.recipe import CaptureSettings
from silvrin.errors import BadLines

SIZE = (3000, 2000)


def tilted(points: np.ndarray, pitch: float, roll: float, focal: float = 2600.0) -> np.ndarray:
    """Where a pinhole camera with its axis lifted by `pitch` and turned by `roll` (degrees) draws
    points of the subject (N, 3; x right, y up, z away). Textbook projection."""
    p, r = np.radians([pitch, roll])
    up = np.array([[1, 0, 0], [0, np.cos(p), -np.sin(p)], [0, np.sin(p), np.cos(p)]])
    seen = points @ up.T
    x, y = focal * seen[:, 0] / seen[:, 2], -focal * seen[:, 1] / seen[:, 2]
    turned = np.stack([x * np.cos(r) - y * np.sin(r), x * np.sin(r) + y * np.cos(r)], axis=-1)
    return turned + np.array(SIZE) / 2


# two upright edges of a house, and one between them that is not drawn along
EDGES = np.array([[[x, 1.0, 30.0], [x, 11.0, 30.0]] for x in (-6.0, 7.0, 1.5)])
LEVELS = np.array([[[-8.0, y, 30.0], [8.0, y, 30.0]] for y in (-5.0, 6.0, 1.0)])


class LevelledTest(unittest.TestCase):
    def drawn(self, edges: np.ndarray, settings: CaptureSettings, **camera: float) -> np.ndarray:
        on_capture = tilted(edges.reshape(-1, 3), **camera)
        return Geometry(*SIZE, settings).capture_to_picture(on_capture).reshape(-1, 2, 2)

    def off(self, lines: np.ndarray, upright: bool) -> np.ndarray:
        dx, dy = (lines[:, 1] - lines[:, 0]).T
        return np.degrees(np.arctan(dx / dy if upright else dy / dx))

    def test_a_camera_tilted_up_by_a_known_angle(self) -> None:
        # also where the station holds something already: turned film, a lens, a crop
        for settings in (
            CaptureSettings(),
            CaptureSettings(straighten=2.0, distortion=0.03, crop=(0.1, 0.05, 0.9, 1.0)),
            CaptureSettings(flip=True, keystone_vertical=-0.1),
        ):
            lines = self.drawn(EDGES, settings, pitch=9.0, roll=2.5)
            found = levelled(SIZE, settings, lines[:2])
            self.assertEqual(set(found), {"straighten", "keystone_vertical"})
            after = settings.model_copy(update=found)
            third = self.drawn(EDGES, after, pitch=9.0, roll=2.5)
            np.testing.assert_allclose(self.off(third, True), 0.0, atol=0.12)

    def test_level_lines_and_the_amount_by_the_projection(self) -> None:
        # a camera turned aside by 7 degrees: the vanishing line lies half / (focal / tan) away
        p = np.radians(7.0)
        aside = LEVELS @ np.array(
            [[np.cos(p), 0, -np.sin(p)], [0, 1, 0], [np.sin(p), 0, np.cos(p)]]
        )
        lines = self.drawn(aside, CaptureSettings(), pitch=0.0, roll=0.0)
        found = levelled(SIZE, CaptureSettings(), lines[:2])
        half = 0.5 * np.hypot(*SIZE)
        self.assertAlmostEqual(
            abs(found["keystone_horizontal"]), half * np.tan(p) / 2600, delta=3e-3
        )
        self.assertAlmostEqual(found["straighten"], 0.0, delta=0.05)

    def test_one_line_turns(self) -> None:
        for slope, wanted in ((3.0, 3.0), (93.0, 3.0), (-86.0, 4.0)):
            way = np.array([np.cos(np.radians(slope)), np.sin(np.radians(slope))])
            line = np.array([[[1500, 1000] - 500 * way, [1500, 1000] + 500 * way]])
            found = levelled(SIZE, CaptureSettings(), line)
            self.assertAlmostEqual(found["straighten"], wanted, delta=0.01)

    def test_lines_that_settle_nothing(self) -> None:
        upright, level = [[500, 200], [520, 1800]], [[300, 500], [2500, 520]]
        for lines, said in (
            ([upright, level], "one level"),
            ([[[5, 5], [6, 6]]], "too short"),
            ([[[600, 1900], [1400, 100]], [[2400, 1900], [1600, 100]]], "too near"),
        ):
            with self.assertRaisesRegex(BadLines, said):
                levelled(SIZE, CaptureSettings(), np.array(lines, float))


if __name__ == "__main__":
    unittest.main()
