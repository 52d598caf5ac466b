import unittest

import numpy as np
import simplejpeg

from silvrin.bench.captures import camera_jpeg
from silvrin.bench.delivery import write_raw
from silvrin.core.picture import LinearPicture, View
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture
from silvrin.files.first_look import embedded_preview, first_look
from silvrin.files.raw import decode_raw
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

    def test_a_quick_look_shows_what_the_picture_shows(self) -> None:
        path = demo_capture("bottle kiln")
        picture, quick = read_capture(path).picture(), decode_raw(path, half=True)
        size = (picture.width, picture.height)
        half = LinearPicture.enlarged(quick.light, picture.scale, size)
        quarter = LinearPicture.enlarged(picture.levels[2], picture.scale, size)
        views = (picture.whole(500), View(600, 400, 800, 600, 200, 150))
        for rough, off in ((half, 0.02), (quarter, 0.01)):
            for view in views:
                one, other = (np.log2(p.cut(view) + 64.0) for p in (picture, rough))
                self.assertEqual(one.shape, other.shape)
                # the same light, place by place, but for what joining four cells leaves
                self.assertLess(abs((one - other).mean()), off)
                self.assertGreater(np.corrcoef(one.ravel(), other.ravel())[0, 1], 0.99)


if __name__ == "__main__":
    unittest.main()
