"""Pictures of signatures, made and read back by Pillow."""

import base64
import io
import unittest

import numpy as np
from PIL import Image, ImageDraw

from silvrin.errors import BadInk
from silvrin.files.inks import ink_of


def png(mode: str, size: tuple[int, int] = (600, 200), colour: object = None) -> bytes:
    ground = {"RGBA": (255, 255, 255, 0), "RGB": (255, 255, 255), "L": 255}[mode]
    image = Image.new(mode, size, ground)
    ink = {"RGBA": (10, 10, 60, 255), "RGB": (10, 10, 60), "L": 0}[mode]
    if colour is not False:
        ImageDraw.Draw(image).line((100, 50, 499, 149), fill=ink, width=9)
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def seen(picture: str) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(base64.b64decode(picture))))


class InkTest(unittest.TestCase):
    def test_what_is_not_transparent_or_else_what_is_dark_is_ink_without_its_margin(self) -> None:
        clear = ink_of(png("RGBA"), "sign.png")
        self.assertAlmostEqual(clear.width, 400 / 108, delta=0.1)
        cover = seen(clear.picture)
        self.assertEqual((cover.max(), cover[0, -1]), (255, 0))
        for mode in ("RGB", "L"):
            dark = seen(ink_of(png(mode), "sign.png").picture)
            self.assertEqual(dark.shape, cover.shape)
            self.assertLess(np.abs(dark.astype(int) - cover).mean(), 8)

    def test_a_large_one_is_made_small_enough_to_be_kept_in_a_recipe(self) -> None:
        noise = np.random.default_rng(1).integers(0, 256, (1500, 3000, 4)).astype(np.uint8)
        out = io.BytesIO()
        Image.fromarray(noise).save(out, "PNG", compress_level=1)
        with self.assertRaisesRegex(BadInk, "at most 8 MB"):
            ink_of(out.getvalue(), "noise.png")
        out = io.BytesIO()
        Image.fromarray(noise[:700, :1500]).save(out, "PNG")
        self.assertLessEqual(len(ink_of(out.getvalue(), "noise.png").picture), 100_000)

    def test_what_is_none_is_refused_in_words(self) -> None:
        jpeg = io.BytesIO()
        Image.new("RGB", (20, 20)).save(jpeg, "JPEG")
        wide = io.BytesIO()
        Image.new("L", (9000, 9000), 255).save(wide, "PNG")
        for data, words in (
            (png("RGBA", colour=False), "is empty"),
            (png("L", colour=False), "is empty"),
            (b"", "no PNG"),
            (png("RGBA")[:200], "no PNG"),
            (jpeg.getvalue(), "no PNG"),
            (wide.getvalue(), "at most 40 million"),
        ):
            with self.assertRaisesRegex(BadInk, words):
                ink_of(data, "sign.png")


if __name__ == "__main__":
    unittest.main()
