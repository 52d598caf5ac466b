"""The Python interface: its examples, and that its arrays are what the window and files have."""

import doctest
import subprocess
import sys
import unittest

import numpy as np
import tifffile

import silvrin
from silvrin import printing
from silvrin.errors import BadRecipe, NotFound, SilvrinError
from tests.files.test_capture import Folder
from tests.store.test_library import picture_file


def load_tests(
    loader: unittest.TestLoader, tests: unittest.TestSuite, pattern: str | None
) -> unittest.TestSuite:
    """With the examples in its documentation."""
    tests.addTests(doctest.DocTestSuite(printing))
    return tests


class PrintingTest(Folder):
    def setUp(self) -> None:
        super().setUp()
        self.capture = silvrin.open_capture(picture_file(self.folder))

    def test_arrays_and_files_are_the_same(self) -> None:
        made = self.capture.under({"look": {"paper": {"grade": 3}}})
        target = self.folder / "p.tif"
        made.deliver(target)
        np.testing.assert_array_equal(tifffile.imread(target), made.numbers())
        self.assertEqual(made.numbers(45, bits=8).shape, (30, 45))
        # the file tells of its recipe, by which it is made again
        recipe = self.folder / "r.json"
        recipe.write_text(made.recipe_text())
        again = self.capture.under(recipe)
        self.assertEqual(again.recipe, made.recipe)
        np.testing.assert_array_equal(again.numbers(), made.numbers())
        self.assertEqual(made.log_exposure().shape, (60, 90))
        self.assertEqual(made.density(45).shape, (30, 45))

    def test_a_stop_more_of_exposure_is_a_zone(self) -> None:
        plain = self.capture.under()
        more = plain.changed(film={"placement": 1.0})
        away = more.log_exposure() - plain.log_exposure()
        np.testing.assert_allclose(away, np.log10(2.0), atol=1e-5)

    def test_what_is_wrong_is_said(self) -> None:
        with self.assertRaisesRegex(BadRecipe, "grade"):
            self.capture.under({"look": {"paper": {"grade": 77}}})
        with self.assertRaisesRegex(NotFound, "no starting print"):
            self.capture.starting("nothing")
        with self.assertRaisesRegex(SilvrinError, "64 to 65000 pixels"):
            self.capture.under().deliver(self.folder / "a.tif", size={"by": "long", "value": 3})
        self.assertFalse((self.folder / "a.tif").exists())
        with self.assertRaises(AttributeError):
            silvrin.nothing  # noqa: B018

    def test_the_package_is_imported_without_what_it_does_not_need_yet(self) -> None:
        code = "import silvrin, sys; print('numpy' in sys.modules)"
        said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
        self.assertEqual(said.stdout.strip(), "False")


if __name__ == "__main__":
    unittest.main()
