import unittest

import colour
import numpy as np

from silvrin.core.spectra import tables
from silvrin.core.spectra.grid import WAVELENGTHS, extend
from silvrin.core.spectra.illuminants import DAYLIGHT_C2_RATIO, daylight, light, planck
from tests.published.spectra import VISIBLE, matching, natural_samples, on_grid


class TablesTest(unittest.TestCase):
    def test_observer_and_daylight_components_are_those_of_cie_15(self) -> None:
        # CIE 15 as carried by colour-science
        np.testing.assert_allclose(tables.COLOUR_MATCHING, matching(), atol=2e-6)
        components = colour.colorimetry.SDS_BASIS_FUNCTIONS_CIE_ILLUMINANT_D_SERIES
        for row, name in zip(tables.DAYLIGHT_COMPONENTS, ("S0", "S1", "S2"), strict=True):
            at = WAVELENGTHS[: len(row)]
            np.testing.assert_allclose(row, on_grid(components[name], at), atol=1e-3)

    def test_natural_shapes_are_the_statistics_of_cie_224(self) -> None:
        # computed anew from the 99 samples of CIE 224:2017 as carried by colour-science
        from silvrin.core.spectra.illuminants import rgb_responses

        logs = np.log(np.clip(natural_samples(), 0.008, None))
        weight = rgb_responses().sum(axis=0)[: len(VISIBLE)]
        logs -= (logs @ weight / weight.sum())[:, None]
        np.testing.assert_allclose(tables.NATURAL_MEAN, logs.mean(axis=0), atol=0.01)
        covariance = logs.T @ logs / len(logs)
        kept = tables.NATURAL_SHAPES.T @ tables.NATURAL_SHAPES
        self.assertLess(np.trace(covariance - kept), 0.006 * np.trace(covariance))
        self.assertLess(np.abs(covariance - kept).max(), 0.03)


class LightTest(unittest.TestCase):
    def test_daylight_and_planck_agree_with_the_published_ones(self) -> None:
        d65 = on_grid(colour.SDS_ILLUMINANTS["D65"], VISIBLE)
        ours = daylight(6500 * DAYLIGHT_C2_RATIO)[: len(VISIBLE)]
        np.testing.assert_allclose(ours, d65 / 100, rtol=4e-3)
        lamp = on_grid(colour.SDS_ILLUMINANTS["A"], VISIBLE)  # CIE 15: 2856 K
        np.testing.assert_allclose(planck(2856)[: len(VISIBLE)], lamp / 100, rtol=2e-3)

    def test_the_family_has_no_jump_and_the_temperature_it_is_named_by(self) -> None:
        for temperature in (2500, 4000, 4500, 5000, 7000, 11000):
            power = light(temperature)
            self.assertLess(np.abs(light(temperature + 1) / power - 1).max(), 5e-3)
            xyz = matching() @ power[: len(VISIBLE)]
            uv = colour.UCS_to_uv(colour.XYZ_to_UCS(xyz))
            found = colour.temperature.uv_to_CCT_Ohno2013(uv)[0]
            self.assertAlmostEqual(found / temperature, 1.0, delta=0.01)

    def test_extend_holds_the_last_value(self) -> None:
        self.assertEqual(extend([1.0, 3.0])[-1], 3.0)
        self.assertEqual(len(extend([1.0, 3.0])), len(WAVELENGTHS))


if __name__ == "__main__":
    unittest.main()
