"""Kinds of files beside raw, TIFF, PNG and JPEG, written by other libraries and read back."""

import unittest
from pathlib import Path

import colour
import imagecodecs
import numpy as np
import OpenEXR
import pillow_heif
import tifffile

from silvrin.errors import BadCapture
from silvrin.files.capture import read_capture
from silvrin.files.first_look import first_look
from silvrin.files.jxl import size_of
from silvrin.files.kinds import sniff
from tests.files.test_capture import Folder, big

COLOURS = np.random.default_rng(4).random((20, 3))
COLOURS[:3] = [[0, 0, 0], [1, 1, 1], [0.5, 0.5, 0.5]]
LINEAR = colour.cctf_decoding(COLOURS, function="sRGB")
LARGER = (0.708, 0.292, 0.170, 0.797, 0.131, 0.046, 0.3127, 0.3290)  # ITU-R BT.2020


def coded(bits: int) -> np.ndarray:
    kind = np.uint8 if bits == 8 else np.uint16
    return big(np.rint(COLOURS * (2**bits - 1)).astype(kind))


def floats(kind: type = np.float32) -> np.ndarray:
    return big(LINEAR.astype(kind))


class FormatsTest(Folder):
    def assert_read(self, path: Path, kind: str, most: float, space: str = "sRGB") -> None:
        self.assertEqual(sniff(path), kind)
        developed = read_capture(path)
        wanted = colour.RGB_to_RGB(LINEAR, space, "ITU-R BT.2020")
        got = developed.light[8, 8::16] * developed.scale
        np.testing.assert_allclose(got, np.clip(wanted, 0, None), atol=most)
        look = first_look(path)
        self.assertEqual((look.kind, look.width, look.height), (kind, 320, 16))

    def test_heif(self) -> None:
        for mode, bits, most in (("RGB", 8, 0.01), ("RGB;16", 16, 0.005)):
            image = pillow_heif.from_bytes(mode, (320, 16), coded(bits).tobytes())
            image.save(self.folder / "a.heic", quality=-1, chroma=444)
            self.assert_read(self.folder / "a.heic", "heif", most)

    def test_avif(self) -> None:
        for bits, most in ((8, 4e-3), (10, 1e-3), (12, 5e-4)):
            data = imagecodecs.avif_encode(
                coded(bits), level=100, bitspersample=bits, pixelformat="444"
            )
            (self.folder / "a.avif").write_bytes(data)
            self.assert_read(self.folder / "a.avif", "avif", most)

    def test_jpeg_xl(self) -> None:
        for numbers, most in ((coded(8), 4e-3), (coded(16), 4e-4), (floats(), 1e-4)):
            for boxed in (False, True):
                data = imagecodecs.jpegxl_encode(numbers, lossless=True, usecontainer=boxed)
                (self.folder / "a.jxl").write_bytes(data)
                self.assert_read(self.folder / "a.jxl", "jxl", most)

    def test_sizes_stand_in_the_header_of_a_jpeg_xl(self) -> None:
        for size in ((16, 24), (640, 480), (64, 256), (4000, 3000), (1921, 1079), (800, 100)):
            data = imagecodecs.jpegxl_encode(np.zeros(size[::-1], np.uint8), usecontainer=False)
            self.assertEqual(size_of(data), size)

    def test_floating_point_tiff(self) -> None:
        for kind, more in ((np.float32, {}), (np.float16, {"compression": "deflate"})):
            tifffile.imwrite(self.folder / "f.tif", floats(kind), photometric="rgb", **more)
            self.assert_read(self.folder / "f.tif", "tiff", 3e-4)
        # two stops over white are kept, what is no number is black
        over = floats() * 4.0
        over[0, 0] = np.nan
        tifffile.imwrite(self.folder / "f.tif", over, photometric="rgb")
        developed = read_capture(self.folder / "f.tif")
        np.testing.assert_allclose(developed.light[8, 24] * developed.scale, 4.0, rtol=1e-3)
        self.assertEqual(developed.light[0, 0].tolist(), [0, 0, 0])

    def test_openexr(self) -> None:
        scanlines = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
        OpenEXR.File(scanlines, {"RGB": floats()}).write(str(self.folder / "a.exr"))
        self.assert_read(self.folder / "a.exr", "exr", 1e-4)
        alpha = np.ones((16, 320, 1), np.float16)
        four = np.concatenate([floats(np.float16), alpha], axis=2)
        header = {**scanlines, "chromaticities": LARGER}
        OpenEXR.File(header, {"RGBA": four}).write(str(self.folder / "a.exr"))
        self.assert_read(self.folder / "a.exr", "exr", 3e-4, "ITU-R BT.2020")
        OpenEXR.File(scanlines, {"Z": floats()[..., 0].copy()}).write(str(self.folder / "z.exr"))
        with self.assertRaisesRegex(BadCapture, "channels Z; R, G and B, or Y"):
            read_capture(self.folder / "z.exr")

    def test_a_tiff_with_smaller_pictures_below_is_a_tiff(self) -> None:
        with tifffile.TiffWriter(self.folder / "p.tif") as file:
            file.write(coded(16), photometric="rgb", subifds=1, metadata=None)
            file.write(coded(16)[::2, ::2], photometric="rgb", subfiletype=1, metadata=None)
        self.assert_read(self.folder / "p.tif", "tiff", 6e-4)

    def test_a_palette_and_packed_samples(self) -> None:
        table = np.zeros((3, 256), np.uint16)
        table[:, :20] = np.rint(COLOURS * 65535).T
        numbers = np.repeat(np.repeat(np.arange(20, dtype=np.uint8)[None], 16, 0), 16, 1)
        tifffile.imwrite(self.folder / "p.tif", numbers, photometric="palette", colormap=table)
        self.assert_read(self.folder / "p.tif", "tiff", 6e-4)

    def test_what_it_would_take_is_said_before(self) -> None:
        header = np.zeros((64, 64, 3), np.float32)
        path = self.folder / "large.tif"
        tifffile.imwrite(path, header, photometric="rgb", rowsperstrip=64, metadata=None)
        with tifffile.TiffFile(path) as tiff:
            tags = {code: tiff.pages[0].tags[code].valueoffset for code in (256, 257)}
        data = bytearray(path.read_bytes())
        for at in tags.values():
            data[at : at + 4] = (12_200).to_bytes(4, "little")
        path.write_bytes(data)
        with self.assertRaisesRegex(BadCapture, "12200 x 12200 pixels and would take 2.7 GB"):
            read_capture(path)


if __name__ == "__main__":
    unittest.main()
