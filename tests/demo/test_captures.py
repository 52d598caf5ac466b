"""The demo captures: whole, told the truth about, and physically sensible."""

import json
import unittest
from fractions import Fraction
from itertools import pairwise

import cv2
import exiv2
import numpy as np
import rawpy

from demo.captures import CAPTURES, TAKES, TRUTH
from silvrin.files.capture import read_capture
from silvrin.files.metadata import read_metadata

BY_FILE = {take.file: take for take in TAKES}
KNOWN = json.loads((TRUTH / "known.json").read_text(encoding="utf-8"))


def luminance(file: str) -> np.ndarray:
    """Green of a capture, clipped parts included, relative."""
    developed = read_capture(BY_FILE[file].path)
    return developed.light[..., 1].astype(np.float32) * developed.scale


class FilesTest(unittest.TestCase):
    def test_three_rolls_of_whole_files(self) -> None:
        files = sorted(p for p in CAPTURES.glob("*/*") if p.is_file())
        self.assertEqual(files, sorted(take.path for take in TAKES))
        self.assertEqual(len({file.parent for file in files}), 3)
        kinds = {file.suffix for file in files}
        self.assertEqual(kinds, {".dng", ".tif", ".jpg"})
        every = [*files, *TRUTH.iterdir()]
        self.assertLess(sum(file.stat().st_size for file in every), 150e6)

    def test_raw_files_by_libraw_and_exiv2(self) -> None:
        for take in TAKES:
            with self.subTest(take.file):
                facts = read_metadata(take.path)
                self.assertAlmostEqual(facts.shutter or 0, float(take.shot.shutter), places=6)
                self.assertEqual(
                    facts.taken, take.shot.taken.replace(":", "-", 2).replace(" ", "T")
                )
                if take.path.suffix != ".dng":
                    continue
                self.assertEqual(facts.lens, take.shot.lens)
                with rawpy.imread(str(take.path)) as raw:
                    self.assertEqual(raw.color_desc, b"RGBG")
                    self.assertEqual(raw.raw_image.dtype, np.uint16)
                    upright = raw.sizes.flip in (5, 6)
                    self.assertEqual(upright, take.upright)
                    thumbnail = raw.extract_thumb()
                    self.assertEqual(thumbnail.format, rawpy.ThumbFormat.JPEG)
                image = exiv2.ImageFactory.open(str(take.path))
                image.readMetadata()
                self.assertIn("Quarrywood", str(image.exifData()["Exif.Image.Model"].toString()))

    def test_bracket_is_two_stops_apart_and_moved_as_written(self) -> None:
        names = ["10 drying loft, dark.dng", "11 drying loft.dng", "12 drying loft, light.dng"]
        shutters = [BY_FILE[name].shot.shutter for name in names]
        self.assertEqual([b / a for a, b in pairwise(shutters)], [4, 4])
        dark, middle, light = (luminance(name) for name in names)
        clear = (middle > 0.004) & (middle < 0.4) & (dark > 0)
        self.assertAlmostEqual(float(np.median(middle[clear] / dark[clear])), 4, delta=0.1)
        # OpenCV's own alignment (Evangelidis & Psarakis 2008), on the still left half
        for frame, name in ((dark, names[0]), (light, names[2])):
            warp = np.eye(2, 3, dtype=np.float32)
            tone = [np.log2(np.clip(f, 0.002, 1.5))[:, :1200] for f in (middle, frame)]
            tone[1] -= np.median(tone[1] - tone[0])
            stop = (cv2.TERM_CRITERIA_COUNT | cv2.TERM_CRITERIA_EPS, 60, 1e-5)
            masked = np.full(tone[0].shape, 255, np.uint8)
            cv2.findTransformECC(
                tone[0].astype(np.float32), tone[1].astype(np.float32), warp,
                cv2.MOTION_EUCLIDEAN, stop, masked, 5,
            )  # fmt: skip
            known = KNOWN["moves"][name]
            turn = np.radians(known["turn"])
            centre = np.array([1199.5, 799.5])
            about = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
            shift = centre - about @ centre + [known["x"], known["y"]]
            for point in ([300.0, 400.0], [900.0, 1200.0]):
                wanted = about @ point + shift
                np.testing.assert_allclose(warp[:, :2] @ point + warp[:, 2], wanted, atol=0.3)
            # one world: also beside the jug that was moved the same planks lie on the floor
            known_warp = np.hstack([about, shift[:, None]])
            flags = cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP
            laid = cv2.warpAffine(frame, known_warp, (2400, 1600), flags=flags)
            floor = [cv2.GaussianBlur(f, (0, 0), 2.0)[1040:1560, 1280:1560] for f in (middle, laid)]
            apart = np.log2(floor[1] / floor[0])
            self.assertLess(apart.std(), 0.06)
            self.assertAlmostEqual(abs(float(np.median(apart))), 2.0, delta=0.05)

    def test_lateral_colour_is_as_written(self) -> None:
        (file,) = (name for name in KNOWN["lenses"] if name != "model")
        lens = KNOWN["lenses"][file]
        light = read_capture(BY_FILE[file].path).light.astype(np.float32)
        height, width = light.shape[:2]
        x0, y0, side = 60, height - 900, 512  # brick, far from the centre
        patch = np.log(light[y0 : y0 + side, x0 : x0 + side] + 60)
        window = cv2.createHanningWindow((side, side), cv2.CV_32F)
        (dx, dy), _ = cv2.phaseCorrelate(patch[..., 0].copy(), patch[..., 2].copy(), window)
        # blue's light comes from less far out than red's: its picture lies further out
        apart = lens["red"] - lens["blue"]
        wanted = apart * (np.array([x0, y0]) + side / 2 - np.array([width, height]) / 2)
        np.testing.assert_allclose([dx, dy], wanted, atol=0.35)

    def test_dust_darkens_the_sky_beside_the_chimney(self) -> None:
        file = "13 kiln in the last sun.dng"
        sky, speck = luminance(file), KNOWN["dust"]["specks"][0]
        x, y, r = round(speck["x"]), round(speck["y"]), round(speck["radius"] * 0.6)
        inside = sky[y - r : y + r + 1, x - r : x + r + 1].mean()
        beside = sky[y - r : y + r + 1, x + 24 : x + 44].mean()
        self.assertAlmostEqual(inside / beside, 1 - speck["depth"], delta=0.05)
        self.assertEqual(BY_FILE[file].shot.shutter, Fraction(1, 30))


class LightTest(unittest.TestCase):
    """Order of tones in the spectra and in the captures: common practice, no source."""

    def setUp(self) -> None:
        truth = np.load(TRUTH / "08 bottle kiln.npz")
        # against a perfect white lying level in that sun, 30 degrees high
        self.cube = truth["cube"].astype(np.float64) * np.pi / np.sin(np.radians(30))
        self.bands = truth["bands"]

    def place(self, x: float, y: float, nm: float, size: int = 6) -> np.ndarray:
        """Radiance near a wavelength about a place in parts of the sides."""
        height, width = self.cube.shape[:2]
        row, column = round(y * height), round(x * width)
        band = int(np.argmin(abs(self.bands - nm)))
        return self.cube[row - size : row + size, column - size : column + size, band]

    def test_leaves_shine_and_the_sky_is_dark_in_the_infrared(self) -> None:
        grass, sky, cloud = (0.12, 0.92), (0.88, 0.10), (0.16, 0.13)
        self.assertGreater(np.percentile(self.place(*grass, 830), 75), 0.4)
        self.assertLess(np.median(self.place(*grass, 650)), 0.1)
        self.assertLess(np.median(self.place(*sky, 830)), 0.3 * np.median(self.place(*cloud, 830)))
        self.assertLess(np.median(self.place(*sky, 440)), np.median(self.place(*cloud, 440)))

    def test_converted_camera_sees_red_and_the_same_order(self) -> None:
        developed = read_capture(BY_FILE["16 bottle kiln, infrared.dng"].path)
        rgb = developed.light.reshape(-1, 3).mean(axis=0)
        self.assertGreater(rgb[0], 1.5 * rgb[1])  # the cast at normal white balance
        small = cv2.resize(developed.light[..., 0].astype(np.float32), (300, 200), interpolation=3)
        true = self.cube[..., int(np.argmin(abs(self.bands - 760)))]
        self.assertGreater(
            np.corrcoef(np.log(small.ravel() + 20), np.log(true.ravel() + 1e-3))[0, 1], 0.9
        )

    def test_nothing_plain_is_blown(self) -> None:
        for take in TAKES:
            if take.scene.startswith("loft"):
                continue  # the doorway is meant to be
            light = read_capture(take.path).light
            self.assertLess((light.max(axis=2) >= 65000).mean(), 0.004, take.file)

    def test_luminance_order(self) -> None:
        cloud, sky = np.median(self.place(0.16, 0.13, 550)), np.median(self.place(0.88, 0.10, 550))
        grass, door = (
            np.median(self.place(0.12, 0.92, 550)),
            np.median(self.place(0.611, 0.72, 550, 3)),
        )
        self.assertTrue(cloud > sky > grass > door, (cloud, sky, grass, door))


if __name__ == "__main__":
    unittest.main()
