import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin.errors import BadItem
from silvrin.files.measurements import read_spectrum, read_wedge
from silvrin.web.shelf.measuring import Measurement, measure

PLAIN = "step,density\n" + "\n".join(f"{i},{0.1 + 0.05 * i:.2f}" for i in range(1, 12))
# A CGATS.17 table as ISO 28178 lays it out (from memory): keywords, format, data
CGATS = """CGATS.17
ORIGINATOR "densitometer"
NUMBER_OF_FIELDS 3
BEGIN_DATA_FORMAT
SAMPLE_ID LOG_H D_VIS
END_DATA_FORMAT
NUMBER_OF_SETS 7
BEGIN_DATA
1 -2.40 0.11   # base
2 -2.10 0.13
3 -1.80 0.25
4 -1.50 0.42
"5" -1.20 0.60
6 -0.90 0.78
7 -0.60 0.95
END_DATA
"""


EXPOSURES = "lux_s,density\n" + "\n".join(
    f"{10 ** (0.15 * i - 2):.4f},{0.1 + 0.6 * max(0.0, 0.15 * i - 0.5):.3f}" for i in range(21)
).replace("0.0398", "0.0400")


class WedgeTest(unittest.TestCase):
    def test_steps_wedge_densities_and_log_exposure(self) -> None:
        steps = read_wedge(PLAIN, step=0.1)
        np.testing.assert_allclose(np.diff(steps.log_exposure), 0.1)
        self.assertFalse(steps.absolute)
        wedge = "wedge;density\n" + "\n".join(f"{3 - 0.3 * i:.1f};{0.2 * i}" for i in range(8))
        read = read_wedge(wedge.replace(".", ","))  # decimal commas
        np.testing.assert_allclose(read.log_exposure, -3 + 0.3 * np.arange(8))
        np.testing.assert_allclose(read.density, 0.2 * np.arange(8))
        table = read_wedge(CGATS)
        self.assertTrue(table.absolute)
        self.assertEqual(table.density[4], 0.60)

    def test_exposures_and_tablets_numbered_from_the_clear_end(self) -> None:
        read = read_wedge(EXPOSURES)
        self.assertTrue(read.absolute)
        np.testing.assert_allclose(np.diff(read.log_exposure), 0.15, atol=0.004)
        numbers = [0.1 + 0.05 * i for i in range(1, 12)]
        clear = "step,density\n" + "\n".join(f"{12 - i},{d:.2f}" for i, d in enumerate(numbers, 1))
        turned = read_wedge(clear)
        self.assertIn("numbered from its clear end", turned.notes[0])
        np.testing.assert_allclose(turned.density, read_wedge(PLAIN).density)
        np.testing.assert_allclose(np.diff(turned.log_exposure), 0.15)

    @settings(max_examples=120)
    @given(
        slope=st.floats(0.02, 9.0), base=st.floats(0.0, 3.0), toe=st.floats(-3.0, 3.0),
        steps=st.integers(2, 40), apart=st.floats(0.05, 0.6), turned=st.booleans(),
        kind=st.sampled_from(("log_h", "h", "step", "wedge", "density")),
    )  # fmt: skip
    def test_any_wedge_is_fitted_or_refused(
        self, slope, base, toe, steps, apart, turned, kind
    ) -> None:
        at = np.arange(steps) * apart - 2.0
        density = base + slope * 0.15 * np.logaddexp(0.0, (at - toe) / 0.15)
        given_at = {"h": 10.0**at, "step": np.arange(1, steps + 1), "wedge": -at}.get(kind, at)
        rows = list(zip(given_at[::-1] if turned else given_at, density, strict=True))
        text = "\n".join([f"{kind},density", *(f"{a:.4f},{d:.3f}" for a, d in rows)])
        try:
            made = measure(Measurement(kind="wedge", text=text))
        except BadItem as error:
            self.assertGreater(len(str(error)), 20)
            return
        self.assertTrue(np.isfinite(made.wedge.curve.y).all())
        self.assertEqual(len(made.wedge.residuals), steps)

    def test_what_is_put_in_order_is_said(self) -> None:
        lines = PLAIN.split("\n")
        turned = "\n".join([lines[0], *reversed(lines[1:])])
        np.testing.assert_array_equal(read_wedge(turned).density, read_wedge(PLAIN).density)
        self.assertIn("turned", read_wedge(turned).notes[0])
        mixed = "\n".join([*lines[:3], lines[5], lines[3], lines[4], *lines[6:]])
        self.assertIn("row 5", read_wedge(mixed).notes[0])
        gap = "\n".join([*lines[:5], *lines[7:]])
        self.assertIn("rows 5 and 6", read_wedge(gap).notes[0])
        fewer = CGATS.replace("NUMBER_OF_SETS 7", "NUMBER_OF_SETS 9")
        self.assertIn("9", read_wedge(fewer).notes[0])

    def test_every_refusal_names_row_and_reason(self) -> None:
        for wrong, said in (
            ("", "empty"),
            (PLAIN.replace("5,0.35", "5,"), "row 6: density is missing"),
            (PLAIN.replace("5,0.35", "5,x7"), "row 6: density 'x7' is not a number"),
            (PLAIN.replace("5,0.35", "5,0,35"), "row 6: 3 cells under 2 heads. A comma as decimal"),
            (PLAIN.replace("5,0.35", "5,0.35,x"), "row 6: 3 cells under 2 heads."),
            (EXPOSURES.replace("lux_s", "log_h"), "look like exposures themselves"),
            (EXPOSURES.replace("0.0400", "0"), "an exposure of 0 lx·s has no logarithm"),
            (PLAIN.replace("\n5,0.35", "\n5,0.35,1,2"), "decimal sign wants semicolons"),
            (PLAIN.replace("5,0.35", "4,0.35"), "row 6: the same step as in row 5"),
            (PLAIN.replace("5,0.35", "5,-0.35"), "row 6: density -0.35 is negative"),
            (PLAIN.replace("5,0.35", "5,35"), "row 6: density 35 is more than 6"),
            (PLAIN.replace("5,0.35", "5,nan"), "row 6: density 'nan' is not a finite"),
            ("\n".join(PLAIN.split("\n")[:4]), "3 steps; a curve needs at least 6"),
            (PLAIN.replace("step", "name"), "no column says how each step was exposed"),
            (PLAIN.replace("density", "grey"), "no column of density"),
            ("\n".join(PLAIN.split("\n")[1:]), "row 1: the columns have no heads"),
            ("density", "row 1: 'density' has one column"),
            (CGATS.replace("4 -1.50 0.42", "4 -1.50"), "row 12: 2 values where the format has 3"),
            (CGATS.replace("END_DATA\n", ""), "BEGIN_DATA is not ended"),
        ):
            with self.assertRaises(BadItem, msg=said) as caught:
                read_wedge(wrong, "wedge.csv")
            self.assertIn(said, str(caught.exception))


class SpectrumTest(unittest.TestCase):
    def test_other_ranges_and_steps(self) -> None:
        rows = "nm\tvalue\n" + "\n".join(f"{nm}\t{nm / 1000}" for nm in range(400, 731, 5))
        read = read_spectrum(rows)
        self.assertEqual((read.wavelengths[0], read.wavelengths[-1]), (400, 730))
        self.assertIn("400 to 730", read.notes[0])
        across = (
            "BEGIN_DATA_FORMAT\nSAMPLE_ID SPECTRAL_400 SPECTRAL_450 SPECTRAL_500 SPECTRAL_550\n"
            "END_DATA_FORMAT\nBEGIN_DATA\n1 0.1 0.2 0.3 0.4\n2 0 0 0 0\nEND_DATA\n"
        )
        read = read_spectrum(across)
        np.testing.assert_array_equal(read.values, [0.1, 0.2, 0.3, 0.4])
        self.assertIn("Row 5 was taken", read.notes[0])

    def test_every_refusal_names_row_and_reason(self) -> None:
        for wrong, said in (
            ("nm;value\n400;1\n480;1\n500;1\n510;1\n", "row 3: 480 nm follows 400 nm"),
            ("nm;value\n500;1\n510;1\n510;1\n520;2\n", "row 4: 510 nm once more"),
            ("nm;value\n800;1\n810;1\n820;1\n830;2\n", "from 800 to 830"),
            ("nm;value\n500;1\n510;-1\n520;1\n530;2\n", "row 3: -1 at 510 nm is negative"),
            ("nm;value\n500;1\n510;1\n", "2 readings"),
        ):
            with self.assertRaises(BadItem) as caught:
                read_spectrum(wrong, "glass.csv")
            self.assertIn(said, str(caught.exception))


if __name__ == "__main__":
    unittest.main()
