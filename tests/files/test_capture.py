import io
import os
import struct
import tempfile
import threading
import time
import unittest
import zlib
from fractions import Fraction
from pathlib import Path

import colour
import imagecodecs
import numpy as np
import tifffile
from PIL import Image, ImageOps

from demo.camera import Shot, expose, neutral_of, write_dng
from silvrin.core.spectra.illuminants import light
from silvrin.demo_job import demo_capture
from silvrin.errors import BadCapture
from silvrin.files.capture import read_capture
from silvrin.files.metadata import Metadata
from tests.published.spectra import bt2020, patches

P3_PRIMARIES = [0.680, 0.320, 1.0, 0.265, 0.690, 1.0, 0.150, 0.060, 1.0]  # SMPTE EG 432-1


def big(colours: np.ndarray, side: int = 16) -> np.ndarray:
    """Each colour as a square, in a row."""
    return np.repeat(np.repeat(colours[None], side, axis=0), side, axis=1)


def codes(bits: int) -> np.ndarray:
    rng = np.random.default_rng(4)
    values = rng.random((20, 3))
    values[:3] = [[0, 0, 0], [1, 1, 1], [0.5, 0.5, 0.5]]
    return np.rint(values * (2**bits - 1)).astype(np.uint8 if bits == 8 else np.uint16)


class Folder(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def read(self, path: Path, side: int = 16) -> np.ndarray:
        developed = read_capture(path)
        return developed.light[side // 2, side // 2 :: side] * developed.scale


class ColourTest(Folder):
    """Linear BT.2020 against colour-science's own transfer functions and matrices."""

    def assert_linear(self, got: np.ndarray, encoded: np.ndarray, space: str, most: float) -> None:
        source = colour.RGB_COLOURSPACES[space]
        wanted = colour.RGB_to_RGB(
            encoded, source, "ITU-R BT.2020", apply_cctf_decoding=True, apply_cctf_encoding=False
        )
        np.testing.assert_allclose(got, np.clip(wanted, 0, 1), atol=most)

    def test_eight_bit_png_without_profile_is_srgb(self) -> None:
        values = codes(8)
        Image.fromarray(big(values)).save(self.folder / "a.png")
        self.assert_linear(self.read(self.folder / "a.png"), values / 255, "sRGB", 1e-3)

    def test_sixteen_bit_png_and_tiff_keep_their_bits(self) -> None:
        values = codes(16)
        (self.folder / "a.png").write_bytes(imagecodecs.png_encode(big(values)))
        tifffile.imwrite(self.folder / "a.tif", big(values), photometric="rgb")
        for name in ("a.png", "a.tif"):
            self.assert_linear(self.read(self.folder / name), values / 65535, "sRGB", 6e-4)

    def test_embedded_profile_is_honoured(self) -> None:
        white = [0.3127, 0.3290, 1.0]
        curve = (np.linspace(0, 1, 4096) + 0.055) / 1.055
        linear = np.where(curve <= 0.0904, np.linspace(0, 1, 4096) / 12.92, curve**2.4)
        profile = imagecodecs.cms_profile(
            "rgb",
            whitepoint=white,
            primaries=P3_PRIMARIES,
            transferfunction=np.rint(linear * 65535).astype(np.uint16),
        )
        values = codes(8)
        jpeg = self.folder / "a.jpg"
        Image.fromarray(big(values)).save(jpeg, quality=100, subsampling=0, icc_profile=profile)
        decoded = np.asarray(Image.open(jpeg))[8, 8::16]
        self.assert_linear(self.read(jpeg), decoded / 255, "Display P3", 2e-3)
        tifffile.imwrite(self.folder / "a.tif", big(values), photometric="rgb", iccprofile=profile)
        self.assert_linear(self.read(self.folder / "a.tif"), values / 255, "Display P3", 2e-3)

    def test_grey_files(self) -> None:
        ramp = np.repeat(np.arange(0, 256, 5, dtype=np.uint8)[None], 20, axis=0)
        Image.fromarray(ramp).save(self.folder / "a.png")
        developed = read_capture(self.folder / "a.png")
        wanted = colour.models.eotf_sRGB(ramp[0] / 255.0)
        for channel in range(3):
            np.testing.assert_allclose(developed.light[5, :, channel] / 65535, wanted, atol=5e-4)

    def test_orientation_is_that_of_pillow(self) -> None:
        rng = np.random.default_rng(0)
        picture = Image.fromarray(rng.integers(0, 255, (24, 40, 3), dtype=np.uint8))
        for code in range(1, 9):
            exif = Image.Exif()
            exif[0x0112] = code
            buffer = io.BytesIO()
            picture.save(buffer, "PNG", exif=exif)
            (self.folder / "o.png").write_bytes(buffer.getvalue())
            upright = ImageOps.exif_transpose(Image.open(io.BytesIO(buffer.getvalue())))
            upright.save(self.folder / "u.png", exif=b"")
            turned = read_capture(self.folder / "o.png").light
            np.testing.assert_array_equal(
                turned, read_capture(self.folder / "u.png").light, str(code)
            )


class RawTest(Folder):
    def test_a_dng_reads_as_the_light_that_made_it(self) -> None:
        # published patch spectra through the demo camera, its noise and its 3 x 3 matrix
        spectra = patches()
        lit, white = np.diag(light(5500)), np.ones(53)
        rgb, neutral = expose(big(spectra, 32), white, lit), neutral_of(white, lit)
        shot = Shot("2026:01:02 03:04:05", Fraction(1, 60), 4, 50, "35 mm f/2", 35, 1)
        write_dng(self.folder / "a.dng", rgb, neutral, shot)
        developed = read_capture(self.folder / "a.dng")
        got = np.stack(
            [developed.light[8:24, 32 * i + 8 : 32 * i + 24].mean((0, 1)) for i in range(24)]
        )
        got *= developed.scale
        wanted = bt2020(spectra)
        # greys also depend on how flat the patches are
        np.testing.assert_allclose(got[18:22], wanted[18:22], rtol=0.03)
        space = colour.RGB_COLOURSPACES["ITU-R BT.2020"]
        lab = [
            colour.XYZ_to_Lab(v @ space.matrix_RGB_to_XYZ.T, space.whitepoint)
            for v in (got, wanted)
        ]
        self.assertLess(colour.delta_E(*lab, method="CIE 2000").max(), 2.0)
        facts = developed.metadata
        self.assertEqual((facts.sensitivity, facts.aperture, facts.focal_length), (50, 4.0, 35.0))
        self.assertEqual(facts.taken, "2026-01-02T03:04:05")
        self.assertAlmostEqual(facts.shutter, 1 / 60)
        # full sun is EV 15 at ISO 100: f/16 at 1/125 s (common practice, no source)
        sunny = Metadata(shutter=1 / 125, aperture=16.0, sensitivity=100)
        self.assertAlmostEqual(sunny.exposure_value, 15, delta=0.1)
        self.assertAlmostEqual(
            sunny.model_copy(update={"sensitivity": 400}).exposure_value, 13, delta=0.1
        )
        self.assertIsNone(Metadata(shutter=1 / 125, aperture=8.0).exposure_value)


class BadInputTest(Folder):
    def assert_refused(self, data: bytes, name: str, *parts: str) -> None:
        path = self.folder / name
        path.write_bytes(data)
        with self.assertRaises(BadCapture) as caught:
            read_capture(path)
        for part in (name, *parts):
            self.assertIn(part, str(caught.exception))

    def test_not_an_image(self) -> None:
        self.assert_refused(b"", "empty.dng", "0 bytes")
        self.assert_refused(b"Dear diary, today " * 50, "notes.jpg", "not an image")
        self.assert_refused(b"%PDF-1.7" + bytes(500), "page.tif", "not an image")

    def test_truncated(self) -> None:
        rng = np.random.default_rng(1)
        noise = Image.fromarray(rng.integers(0, 255, (90, 120, 3), dtype=np.uint8))
        for name in ("a.png", "a.jpg", "a.tif"):
            buffer = io.BytesIO()
            noise.save(buffer, {"png": "PNG", "jpg": "JPEG", "tif": "TIFF"}[name[2:]])
            data = buffer.getvalue()
            for share in (0.001, 0.3, 0.9):
                self.assert_refused(data[: max(5, int(len(data) * share))], name)
        dng = demo_capture("target").read_bytes()
        for share in (0.0005, 0.2, 0.99):
            self.assert_refused(dng[: int(len(dng) * share)], "cut.dng")

    def test_sizes(self) -> None:
        one = io.BytesIO()
        Image.new("RGB", (1, 1)).save(one, "PNG")
        self.assert_refused(one.getvalue(), "dot.png", "1 x 1", "16 x 16")
        header = struct.pack(">IIBBBBB", 200_000, 200_000, 8, 2, 0, 0, 0)

        def chunk(kind: bytes, body: bytes) -> bytes:
            return (
                struct.pack(">I", len(body))
                + kind
                + body
                + struct.pack(">I", zlib.crc32(kind + body))
            )

        bomb = (
            b"\x89PNG\r\n\x1a\n"
            + chunk(b"IHDR", header)
            + chunk(b"IDAT", b"")
            + chunk(b"IEND", b"")
        )
        self.assert_refused(bomb, "huge.png", "200000 x 200000", "151 million")

    def test_kinds_that_are_not_taken_say_so(self) -> None:
        tifffile.imwrite(self.folder / "f.tif", np.zeros((32, 32), np.int32))
        with self.assertRaisesRegex(BadCapture, "int32"):
            read_capture(self.folder / "f.tif")
        volume = np.zeros((8, 32, 32, 3), np.uint8)
        tifffile.imwrite(self.folder / "v.tif", volume, volumetric=True, photometric="rgb")
        with self.assertRaisesRegex(BadCapture, "TIFF"):
            read_capture(self.folder / "v.tif")
        Image.new("CMYK", (32, 32)).save(self.folder / "c.jpg")
        with self.assertRaisesRegex(BadCapture, "CMYK"):
            read_capture(self.folder / "c.jpg")

    def test_a_file_that_changes_while_it_is_read(self) -> None:
        source = self.folder / "a.dng"
        source.write_bytes(demo_capture("glaze shelf").read_bytes())
        stop = threading.Event()

        def keep_touching() -> None:
            while not stop.is_set():
                os.utime(source)
                time.sleep(0.005)

        writer = threading.Thread(target=keep_touching)
        writer.start()
        try:
            with self.assertRaisesRegex(BadCapture, "changed while it was read"):
                read_capture(source)
        finally:
            stop.set()
            writer.join()


if __name__ == "__main__":
    unittest.main()
