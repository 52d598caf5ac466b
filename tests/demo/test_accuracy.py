import unittest

import colour
import numpy as np

from demo import target
from demo.accuracy import scene_errors
from demo.captures import JUDGED
from silvrin import shelf
from silvrin.core.spectra.illuminants import light
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture
from tests.published.spectra import matching


class TargetTest(unittest.TestCase):
    def test_patches_read_back_from_the_dng_as_their_spectra(self) -> None:
        # 24 patch spectra (Ohta 1997) seen under the target's own light (CIE 15), adapted to D65
        # by Bradford (colour-science), against what LibRaw and the camera's matrix give
        developed = read_capture(demo_capture("target"))
        read = np.stack(
            [
                developed.light[y + h // 4 : y + 3 * h // 4, x + w // 4 : x + 3 * w // 4].mean(
                    (0, 1)
                )
                for x, y, w, h in target.places()
            ]
        )
        read *= developed.scale
        grid = np.arange(380, 781, 10)
        spectra = np.stack([np.interp(grid, target.BANDS, r) for r in target.reflectances()])
        weights = matching() * light(target.TEMPERATURE)[: len(grid)]
        white = weights.sum(axis=1) / weights[1].sum()
        space = colour.RGB_COLOURSPACES["ITU-R BT.2020"]
        d65 = colour.xy_to_XYZ(space.whitepoint)
        xyz = spectra[:24] @ weights.T / weights[1].sum()
        adapted = colour.chromatic_adaptation(xyz, white, d65, transform="Bradford")
        seen = read[:24] @ space.matrix_RGB_to_XYZ.T
        lab = [colour.XYZ_to_Lab(v, space.whitepoint) for v in (seen, adapted)]
        self.assertLess(colour.delta_E(*lab, method="CIE 2000").max(), 2.0)
        # the wedge's own densities
        wedge = 0.05 + 0.10 * np.arange(21)
        np.testing.assert_allclose(-np.log10(read[24:, 1]), wedge, atol=0.02)


class AccuracyTest(unittest.TestCase):
    def test_film_exposures_from_demo_captures_against_their_spectra(self) -> None:
        # the true response of the film to the spectra each scene was made of
        found = [e for take in JUDGED for e in scene_errors(take, each=3)]
        beyond = {s.name for s in shelf.stocks().values() if s.kind == "infrared"}
        infrared = np.abs(np.concatenate([e.stops for e in found if e.stock in beyond]))
        seen = np.abs(np.concatenate([e.stops for e in found if e.stock not in beyond]))
        self.assertGreater(seen.size, 1_500_000)
        self.assertLess(np.median(seen), 0.05)
        self.assertLess(np.percentile(seen, 95), 0.25)
        self.assertLess(np.median(infrared), 0.3)
        self.assertLess(np.percentile(infrared, 95), 0.8)


if __name__ == "__main__":
    unittest.main()
