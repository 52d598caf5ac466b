"""The stand-in densitometer, and a driver as the documentation says one is written. What is
measured with it is fitted as what comes from files is."""

import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.film.sensitometry import fit_wedge, stock_from
from silvrin.core.paper.curve import grade_range
from silvrin.core.paper.measuring import fit_paper
from silvrin.core.toner.colours import srgb_of
from silvrin.core.toner.measured import rows_of
from silvrin.errors import InstrumentError
from silvrin.instruments import Densitometer, Reading
from silvrin.instruments.simulated import DRIFT, NOISE, WEDGES, SimulatedDensitometer


def wedge(name: str):
    return next(each for each in WEDGES if each.id == name)


def measured(name: str, seed: int = 3) -> tuple[float, list[Reading]]:
    device = SimulatedDensitometer(seed)
    base = device.zero(name, 0).density
    return base, [device.read(name, patch) for patch in range(1, wedge(name).steps + 1)]


class StandInTest(unittest.TestCase):
    def test_film_and_paper_measured_with_it_are_what_they_are(self) -> None:
        base, readings = measured("film-plus")
        density = base + np.array([reading.density for reading in readings])
        at = wedge("film-plus").step * np.arange(len(density))
        self.assertAlmostEqual(stock_from(fit_wedge(at, density)).n, 1.0, delta=0.15)
        for name in ("paper-soft", "paper-2", "paper-hard"):
            base, readings = measured(name)
            density = base + np.array([reading.density for reading in readings])
            at = wedge(name).step * np.arange(len(density))
            fit = fit_paper(at, density)
            self.assertAlmostEqual(fit.log_range, grade_range(wedge(name).grade), delta=0.06)
            paper = shelf.papers()["semi-matt-fibre-warm"]
            self.assertAlmostEqual(fit.base, paper.base_density, delta=0.03)

    def test_a_toner_measured_with_it_has_red_brown_rows(self) -> None:
        device = SimulatedDensitometer(5)
        device.zero("toner", 0)
        lab = np.array([device.read("toner", patch).lab for patch in range(1, 23)])
        rows = rows_of(srgb_of(lab[:11]), srgb_of(lab[11:]))
        red, _, blue = np.array(rows.ratios)[len(rows.ratios) // 2]
        self.assertTrue(red < 0.9 and blue > 1.05)

    def test_it_has_noise_and_a_zero_that_drifts_until_it_is_set_anew(self) -> None:
        device = SimulatedDensitometer(7)
        device.zero("paper-2", 0)
        first = [device.read("paper-2", 31).density for _ in range(200)]
        self.assertAlmostEqual(float(np.std(np.diff(first))), NOISE * 2**0.5, delta=0.002)
        self.assertAlmostEqual(np.mean(first[-20:]) - np.mean(first[:20]), 180 * DRIFT, delta=0.006)
        device.zero("paper-2", 0)
        again = np.mean([device.read("paper-2", 31).density for _ in range(20)])
        self.assertAlmostEqual(again, np.mean(first[:20]), delta=0.02)

    def test_what_it_cannot_do_it_says(self) -> None:
        device = SimulatedDensitometer()
        with self.assertRaisesRegex(InstrumentError, "press Zero"):
            device.read("paper-2", 1)
        device.zero("paper-2", 0)
        with self.assertRaisesRegex(InstrumentError, "no patch 32"):
            device.read("paper-2", 32)
        with self.assertRaisesRegex(InstrumentError, "no wedge 'none'"):
            device.zero("none", 0)


class DriverTest(unittest.TestCase):
    def test_a_driver_is_one_class_of_two_methods(self) -> None:
        class OnSerialPort(Densitometer):
            id, name, about = "serial", "On the serial port", "Visual."
            answers = iter((0.07, 0.5, 1.25))

            def zero(self, wedge: str | None, patch: int) -> Reading:
                self._base = next(self.answers)
                return Reading(self._base)

            def read(self, wedge: str | None, patch: int) -> Reading:
                return Reading(next(self.answers) - self._base)

        device = OnSerialPort()
        self.assertEqual(device.wedges(), ())
        self.assertEqual(device.zero(None, 0).density, 0.07)
        self.assertAlmostEqual(device.read(None, 1).density, 0.43)
        with self.assertRaises(TypeError):
            Densitometer()


if __name__ == "__main__":
    unittest.main()
