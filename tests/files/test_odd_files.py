"""Any bytes given to any reader are a capture or a refusal in words, never anything else."""

import io
import logging
import os
import tempfile
import unittest
from pathlib import Path

import imagecodecs
import numpy as np
import pillow_heif
import tifffile
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image

from demo import dng
from demo.camera import colour_matrix
from silvrin.errors import BadCapture, NotAnImage
from silvrin.files.capture import read_capture
from silvrin.files.first_look import embedded_preview, first_look
from silvrin.files.metadata import every_tag, read_metadata

NUMBERS = np.random.default_rng(2).integers(0, 255, (48, 64, 3), np.uint8)


def by_pillow(kind: str, mode: str = "RGB", **more: object) -> bytes:
    out = io.BytesIO()
    Image.fromarray(NUMBERS).convert(mode).save(out, kind, **more)
    return out.getvalue()


def by_tifffile(**more: object) -> bytes:
    out = io.BytesIO()
    tifffile.imwrite(out, NUMBERS, **{"photometric": "rgb", **more})
    return out.getvalue()


def exif(**values: object) -> bytes:
    found = Image.Exif()
    for name, value in values.items():
        found[{"make": 271, "model": 272, "moment": 306, "shutter": 33434}[name]] = value
    return found.tobytes()


def raw(form: dng.Form) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "a.dng"
        neutral, matrices = np.array([0.5, 1.0, 0.6]), [(21, colour_matrix(), None)]
        dng.write(path, NUMBERS / 300.0, neutral, matrices, form)
        return path.read_bytes()


def heif() -> bytes:
    out = io.BytesIO()
    pillow_heif.from_bytes("RGB", (64, 48), NUMBERS.tobytes()).save(out, quality=90)
    return out.getvalue()


WHOLE = {
    "jpeg": by_pillow("JPEG", exif=exif(make="Quarrywood", shutter=0.01)),
    "png": by_pillow("PNG"),
    "palette png": by_pillow("PNG", "P"),
    "tiff": by_tifffile(),
    "packed tiff": by_tifffile(compression="deflate", predictor=True),
    "raw": raw(dng.Form(lossless=True)),
    "monochrome raw": raw(dng.Form(kind="monochrome")),
    "heif": heif(),
    "avif": bytes(imagecodecs.avif_encode(NUMBERS)),
    "jxl": bytes(imagecodecs.jpegxl_encode(NUMBERS)),
}


class OddFilesTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        logging.disable()
        self.addCleanup(logging.disable, logging.NOTSET)

    def look(self, data: bytes) -> bool:
        """Whether it is a capture."""
        path = self.folder / "odd"
        path.write_bytes(data)
        read_metadata(path)
        every_tag(path)
        embedded_preview(path, 1, 400)
        try:
            look, developed = first_look(path), read_capture(path)
        except BadCapture as error:
            self.assertRegex(str(error), r"^odd: .{20,}\.$")
            return False
        self.assertEqual(developed.light.shape, (look.height, look.width, 3))
        self.assertEqual(developed.light.dtype, np.uint16)
        look.metadata.model_dump_json().encode()
        return True

    def test_whole_they_are_captures(self) -> None:
        for kind, data in WHOLE.items():
            with self.subTest(kind):
                self.assertTrue(self.look(data))

    @settings(max_examples=250, suppress_health_check=list(HealthCheck))
    @given(
        kind=st.sampled_from(sorted(WHOLE)),
        cut=st.floats(0.0, 1.0),
        places=st.lists(st.tuples(st.floats(0.0, 1.0), st.integers(0, 255)), max_size=6),
        early=st.booleans(),
    )
    def test_damaged_they_are_captures_or_refused(self, kind, cut, places, early) -> None:
        data = bytearray(WHOLE[kind])
        for at, value in places:
            reach = min(200, len(data)) if early else len(data)
            data[int(at * (reach - 1))] = value
        if cut < 0.5:
            data = data[: int(2 * cut * len(data))]
        self.look(bytes(data))

    @settings(max_examples=60, suppress_health_check=list(HealthCheck))
    @given(st.binary(max_size=300))
    def test_any_bytes_at_all(self, data: bytes) -> None:
        self.assertFalse(self.look(data))

    def test_what_cameras_and_programs_write_of_themselves(self) -> None:
        for values in (
            {"make": ""},
            {"make": b"Fr\xf6hlich", "model": "Fröhlich 2"},
            {"make": "\x00\x01", "moment": "0000:00:00 00:00:00"},
            {"shutter": -0.5},
            {"moment": "in May"},
        ):
            with self.subTest(values=values):
                self.assertTrue(self.look(by_pillow("JPEG", exif=exif(**values))))
                facts = read_metadata(self.folder / "odd")
                self.assertIsNone(facts.shutter)
                self.assertIsNone(facts.taken)

    def test_pipes_and_devices_are_left_alone(self) -> None:
        pipe = self.folder / "pipe.dng"
        os.mkfifo(pipe)
        link = self.folder / "link.dng"
        link.symlink_to("/dev/zero")
        for path in (pipe, link, self.folder):
            with self.assertRaisesRegex(NotAnImage, "a pipe, a device or a folder"):
                read_capture(path)
        circle = self.folder / "circle.dng"
        circle.symlink_to(circle)
        with self.assertRaises(BadCapture):
            read_capture(circle)


if __name__ == "__main__":
    unittest.main()
