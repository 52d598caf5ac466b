"""Large mosaics are developed in strips; LibRaw's own development of the whole is the check."""

import tempfile
import unittest
from itertools import product
from pathlib import Path
from unittest import mock

import numpy as np
import rawpy

from demo import dng
from silvrin.demo_job import demo_capture
from silvrin.files import mosaic
from silvrin.files.raw import DEVELOPED, decode_raw, measure_raw

HOW = {**DEVELOPED, "user_wb": [1.9, 1.0, 1.5, 1.0]}
ORIENTATION = (274).to_bytes(2, "little") + (3).to_bytes(2, "little")
MATRIX = np.array([[0.8, -0.1, -0.1], [-0.4, 1.3, 0.1], [0.0, 0.2, 0.6]])


def developed(path: Path) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Of a file: by LibRaw as a whole, in strips, and in smaller strips."""
    with rawpy.imread(str(path)) as raw:
        assert mosaic.is_plain(raw), path
        few, many = (mosaic.develop(raw, pixels, **HOW) for pixels in (10**9, 60_000))
        return raw.postprocess(**HOW), few, many


class StripsTest(unittest.TestCase):
    def assert_the_same(self, path: Path) -> None:
        whole, few, many = developed(path)
        np.testing.assert_array_equal(few, many)
        # where both directions are as even, the last bit of LibRaw's matrix decides
        self.assertLess((few != whole).any(axis=2).mean(), 2e-4)
        self.assertEqual(few.shape, whole.shape)

    def test_strips_are_the_whole(self) -> None:
        self.assert_the_same(demo_capture("kiln chimney"))

    def test_however_the_camera_was_held_margins_uneven_blacks_and_odd_sizes(self) -> None:
        rng = np.random.default_rng(3)
        y, x = np.mgrid[0:231, 0:307]
        rgb = 0.4 + 0.3 * np.sin(x / 7)[..., None] * np.cos(y / 5)[..., None] * [1.0, 0.8, 0.6]
        rgb += 0.02 * rng.standard_normal(rgb.shape)
        forms = (
            dng.Form(margins=(6, 10, 4, 8)),
            dng.Form(margins=(3, 5, 2, 2)),
            dng.Form(row_black=True),
            dng.Form(bits=12, black=200),
        )
        turned = ((1, 0), (3, 3), (6, 6), (8, 5))  # as the file says it, and LibRaw
        with tempfile.TemporaryDirectory() as folder:
            for form, (orientation, flip) in product(forms, turned):
                path = Path(folder) / "form.dng"
                dng.write(path, rgb, np.array([0.5, 1.0, 0.7]), [(21, MATRIX, None)], form)
                data = bytearray(path.read_bytes())
                data[data.index(ORIENTATION) + 8] = orientation
                path.write_bytes(data)
                with rawpy.imread(str(path)) as raw:
                    self.assertEqual(raw.sizes.flip, flip)
                self.assert_the_same(path)

    def test_a_large_one_is_read_so_and_takes_less(self) -> None:
        path = demo_capture("bottle kiln")
        pixels = 2400 * 1600
        whole = decode_raw(path).light
        self.assertEqual(measure_raw(path), 16.0 * pixels)
        with mock.patch.object(mosaic, "LARGE", pixels):
            self.assertEqual(measure_raw(path), 13.0 * pixels)
            with mock.patch.object(mosaic, "develop", wraps=mosaic.develop) as strips:
                light = decode_raw(path).light
                self.assertEqual(strips.call_count, 1)
                decode_raw(path, half=True)
                self.assertEqual(strips.call_count, 1)
        self.assertLess((light != whole).any(axis=2).mean(), 2e-4)


if __name__ == "__main__":
    unittest.main()
