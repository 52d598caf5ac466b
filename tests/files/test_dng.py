"""The breadth of the DNG standard, by files that the demo's writer makes of the target."""

import tempfile
import unittest
from pathlib import Path

import colour
import numpy as np

from demo import dng
from demo.camera import colour_matrix, expose, neutral_of, sensitivities
from demo.captures import to_grid
from demo.target import places, target_scene
from silvrin.core.spectra.grid import WAVELENGTHS, extend
from silvrin.core.spectra.illuminants import light
from silvrin.core.spectra.tables import COLOUR_MATCHING, NATURAL_MEAN, NATURAL_SHAPES
from silvrin.errors import BadCapture
from silvrin.files.capture import Developed, read_capture
from silvrin.files.first_look import first_look

D50 = np.array([0.9642, 1.0, 0.8249])
D65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]


def matrices_under(power: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """XYZ to the demo's camera, and its white-balanced colours to XYZ of D50, under a light: least
    squares over natural reflectances, as makers of profiles do it."""
    rng = np.random.default_rng(1)
    shapes = np.stack([extend(row) for row in NATURAL_SHAPES])
    spectra = np.exp(extend(NATURAL_MEAN) + rng.standard_normal((400, len(shapes))) @ shapes)
    matching = np.zeros((3, len(WAVELENGTHS)))
    matching[:, : COLOUR_MATCHING.shape[1]] = COLOUR_MATCHING
    xyz = spectra @ (matching * power).T / (matching[1] @ power)
    raw = spectra @ (sensitivities() * power).T / (sensitivities()[1] @ power)
    weight = 1.0 / xyz.sum(axis=1, keepdims=True)
    white = matching @ power / (matching[1] @ power)
    to_d50 = colour.adaptation.matrix_chromatic_adaptation_VonKries(white, D50, "Bradford")
    balanced = raw / (sensitivities() @ power / (sensitivities()[1] @ power))
    forward = np.linalg.lstsq(balanced * weight, xyz @ to_d50.T * weight, rcond=None)[0].T
    matrix = np.linalg.lstsq(xyz * weight, raw * weight, rcond=None)[0].T
    return matrix, forward * (D50 / forward.sum(axis=1))[:, None]


class FormsTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        cube, white, bands = target_scene()
        grid = to_grid(bands)
        cls.neutral = neutral_of(white, grid)
        cls.rgb = np.clip(0.5 * expose(cube, white, grid), 0.0, 1.0)
        # what the file's own matrix makes of the patches, by plain linear algebra (DNG, "Mapping
        # Camera Color Space to CIE XYZ Space"; rows scaled so that neutral is white)
        own = colour_matrix() @ colour.RGB_COLOURSPACES["sRGB"].matrix_RGB_to_XYZ
        own /= own.sum(axis=1, keepdims=True)
        patches = cls.means(cls.rgb, 0) / cls.neutral
        cls.wanted = colour.RGB_to_RGB(
            patches @ np.linalg.inv(own).T, "sRGB", "ITU-R BT.2020", apply_cctf_decoding=False
        )

    @staticmethod
    def means(picture: np.ndarray, crop: int) -> np.ndarray:
        """(24, 3) of the patches."""
        inner = [(x - crop + 30, y - crop + 30, w - 60, h - 60) for x, y, w, h in places()[:24]]
        return np.array([picture[y : y + h, x : x + w].mean(axis=(0, 1)) for x, y, w, h in inner])

    def written(self, form: dng.Form, *matrices) -> Developed:
        path = self.folder / "form.dng"
        dng.write(path, self.rgb, self.neutral, matrices or [(21, colour_matrix(), None)], form)
        developed = read_capture(path)
        self.path = path
        self.assertEqual(
            developed.light.shape[:2], (1000 - 2 * form.crop, 1500 - 2 * form.crop), form
        )
        look = first_look(path)
        self.assertEqual((look.height, look.width), developed.light.shape[:2])
        return developed

    def furthest(self, developed: Developed, form: dng.Form) -> float:
        """Largest ΔE00 (ISO/CIE 11664-6, by colour-science) between patches read and written."""
        read = self.means(developed.light * developed.scale, form.crop)

        def lab(rgb: np.ndarray) -> np.ndarray:
            xyz = colour.RGB_to_XYZ(rgb, "ITU-R BT.2020", apply_cctf_decoding=False)
            return colour.XYZ_to_Lab(xyz, D65)

        return float(colour.delta_E(lab(read), lab(self.wanted), method="CIE 2000").max())

    def test_every_form_is_read_back_in_its_colours(self) -> None:
        for form in (
            dng.Form(),
            dng.Form(kind="6x6"),
            dng.Form(kind="linear"),
            dng.Form(kind="linear", bits=12),
            dng.Form(kind="linear", whites=(65535, 60000, 52000)),
            dng.Form(margins=(8, 16, 4, 24), crop=10),
            dng.Form(row_black=True, black=900),
            dng.Form(lossless=True),
            dng.Form(bits=12),
            dng.Form(tile=256),
            dng.Form(tile=256, lossless=True, margins=(2, 2, 0, 0)),
            dng.Form(white_xy=(0.3127, 0.3290)),
        ):
            with self.subTest(form=form):
                self.assertLess(self.furthest(self.written(form), form), 2.0)

    def test_two_lights_with_forward_matrices(self) -> None:
        tungsten = colour.sd_blackbody(2856, colour.SpectralShape(380, 900, 10)).values
        lamp, day = matrices_under(tungsten), matrices_under(light(6500.0))
        developed = self.written(dng.Form(), (17, *lamp), (21, *day))
        self.assertLess(self.furthest(developed, dng.Form()), 2.0)
        # under the lamp it is the lamp's matrix that counts
        cube, _, bands = target_scene()
        grid, power = to_grid(bands), np.interp(bands, WAVELENGTHS, tungsten)
        cube = cube / np.interp(bands, np.arange(380, 901, 10), light(6500.0)) * power
        rgb, neutral = expose(cube, power, grid), neutral_of(power, grid)
        path = self.folder / "lamp.dng"
        dng.write(path, 0.5 * rgb, neutral, [(17, *lamp), (21, *day)], dng.Form())
        read = self.means(read_capture(path).light.astype(float), 0)
        xyz = self.means(0.5 * rgb, 0) / neutral @ lamp[1].T
        to_d65 = colour.adaptation.matrix_chromatic_adaptation_VonKries(
            D50, colour.xy_to_XYZ(D65), "Bradford"
        )
        wanted = colour.XYZ_to_RGB(xyz @ to_d65.T, "ITU-R BT.2020", apply_cctf_encoding=False)
        read *= wanted[18, 1] / read[18, 1]
        np.testing.assert_allclose(read, wanted, atol=0.012)

    def test_a_monochrome_sensor_simply_works(self) -> None:
        for form in (
            dng.Form(kind="monochrome"),
            dng.Form(kind="monochrome", tile=256, lossless=True, crop=12, margins=(4, 4, 4, 4)),
        ):
            with self.subTest(form=form):
                developed = self.written(form)
                light = self.means(developed.light * developed.scale, form.crop)
                self.assertEqual(np.ptp(light, axis=1).max(), 0.0)  # grey
                np.testing.assert_allclose(light[:, 1], self.means(self.rgb, 0)[:, 1], rtol=0.01)
                np.testing.assert_allclose(developed.limits, 0.985 * (65535 - 256), rtol=1e-9)

    def test_what_is_left_of_its_corrections_is_said(self) -> None:
        self.written(dng.Form(opcodes=True))
        self.assertEqual(first_look(self.path).metadata.not_applied, ["fall-off"])
        self.written(dng.Form())
        self.assertEqual(first_look(self.path).metadata.not_applied, [])

    def test_cut_anywhere_it_is_refused(self) -> None:
        self.written(dng.Form(kind="monochrome", lossless=True))
        data = self.path.read_bytes()
        for share in (0.00005, 0.3, 0.98):
            cut = self.folder / "cut.dng"
            cut.write_bytes(data[: int(len(data) * share)])
            with self.assertRaises(BadCapture):
                read_capture(cut)


if __name__ == "__main__":
    unittest.main()
