import unittest

import numpy as np
import simplejpeg

from silvrin.bench.captures import camera_jpeg
from silvrin.bench.delivery import write_raw
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture
from silvrin.files.first_look import embedded_preview, first_look
from tests.files.test_capture import Folder


def numbers(jpeg: bytes) -> np.ndarray:
    return np.asarray(simplejpeg.decode_jpeg(jpeg, "RGB"), float)


class FirstLookTest(Folder):
    def test_it_says_what_the_careful_reader_says(self) -> None:
        for name in ("bottle kiln", "kiln chimney", "black raku", "pale plate"):
            path = demo_capture(name)
            look, developed = first_look(path), read_capture(path)
            height, width = developed.light.shape[:2]
            self.assertEqual((look.width, look.height), (width, height), name)
            self.assertAlmostEqual(look.scale / developed.scale, 1.0, places=3)
            small = numbers(look.small)
            self.assertAlmostEqual(small.shape[1] / small.shape[0], width / height, delta=0.01)

    def test_of_a_raws_previews_the_smallest_that_serves(self) -> None:
        # a JPEG is read at eighths of its size
        path = self.folder / "a.dng"
        write_raw(path, 1, (camera_jpeg(720), camera_jpeg(1500)))
        for wanted, width in ((400, 450), (720, 720), (1000, 1125), (4000, 1500)):
            self.assertEqual(numbers(embedded_preview(path, 1, wanted)).shape[1], width)
        # turned as the file says
        self.assertEqual(numbers(embedded_preview(path, 6, 700)).shape[:2], (720, 480))
        path.write_bytes(path.read_bytes()[:40_000])
        self.assertIsNone(embedded_preview(path, 1, 400))


if __name__ == "__main__":
    unittest.main()
