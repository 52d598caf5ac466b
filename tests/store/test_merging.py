import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import numpy as np

from silvrin.core.capture.brackets import check_sizes
from silvrin.errors import BadCapture, Dropped, NotFound
from silvrin.files.metadata import Metadata
from silvrin.store import rolls
from silvrin.store.library import Library
from silvrin.store.merging import brackets_of, find_brackets, leave_bracket
from tests.store.brackets import bracket
from tests.store.test_library import picture_file

KILLED = """
import os, signal, sys
from pathlib import Path
from silvrin.store.library import Library

def progress(share):
    if share > 0.7:
        os.kill(os.getpid(), signal.SIGKILL)

Library(Path(sys.argv[1])).merger.merge([1, 2, 3], 2, 0.5, progress)
"""


class MergeTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.template = Path(folder.name) / "library"
        library = Library(cls.template)
        with library.database.write() as connection:
            roll = rolls.add_roll(connection, "Loft")
        for file in bracket(Path(folder.name)):
            library.take_in_file(file, roll)
        library.close()

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.home = Path(folder.name) / "library"
        shutil.copytree(self.template, self.home)
        self.library = Library(self.home)
        self.addCleanup(lambda: self.library.pictures.settle())  # it may be writing still

    def kept(self) -> tuple[int, int]:
        """Captures in the database and originals on the disk."""
        count = self.library.database.read.execute("SELECT count(*) FROM captures").fetchone()[0]
        files = [p for p in (self.home / "originals").rglob("*") if p.is_file()]
        return int(count), len(files)

    def test_a_merged_frame_is_kept_by_its_sources_and_made_again(self) -> None:
        frame = self.library.merger.merge([1, 2, 3], 2, 0.5)
        made = rolls.frame(self.library.database.read, frame)
        self.assertEqual((made.kind, made.title), ("merged", "Drying loft, merged"))
        light = self.library.picture(made.sha256).levels[0].copy()
        self.assertEqual(self.library.merger.merge([1, 2, 3], 2, 0.5), frame)  # known already
        shutil.rmtree(self.home / "cache")
        again = Library(self.home).picture(made.sha256).levels[0]
        np.testing.assert_array_equal(again, light)
        self.assertNotEqual(self.library.merger.merge([1, 2, 3], 2, 1.0), frame)  # another one

    def test_cancelled_or_refused_nothing_is_left(self) -> None:
        before = self.kept()
        with self.assertRaises(Dropped):
            self.library.merger.merge([1, 2, 3], 2, 0.5, wanted=lambda: False)
        with self.assertRaisesRegex(BadCapture, "not among the frames"):
            self.library.merger.merge([1, 2], 3, 0.5)
        plain = self.library.take_in_file(picture_file(self.home.parent), 1).frame
        with self.assertRaisesRegex(BadCapture, "shutter time, f-number and ISO"):
            self.library.merger.merge([1, plain], 1, 0.5)
        self.assertEqual(self.kept(), (before[0] + 1, before[1] + 1))  # the plain picture

    def test_killed_in_the_middle_nothing_half_stays_and_it_can_be_made(self) -> None:
        before = self.kept()
        run = subprocess.run([sys.executable, "-c", KILLED, str(self.home)], check=False)
        self.assertEqual(run.returncode, -9)
        self.library = Library(self.home)
        self.assertEqual(self.kept(), before)
        frame = self.library.merger.merge([1, 2, 3], 2, 0.5)
        self.assertEqual(rolls.frame(self.library.database.read, frame).number, 4)

    def test_brackets_are_told_by_what_files_say(self) -> None:
        def facts(shutter: float, second: int, **more: object) -> Metadata:
            taken = f"2026-06-01T10:00:{second:02d}"
            return Metadata(
                shutter=shutter, aperture=8.0, sensitivity=100, camera="A", taken=taken, **more
            )

        frames = [
            (1, 300, 200, facts(1 / 60, 0)),
            (2, 300, 200, facts(1 / 60, 1)),  # the same exposure again: no bracket
            (3, 300, 200, facts(1 / 15, 2)),
            (4, 300, 200, facts(1 / 4, 3)),
            (5, 300, 200, facts(1.0, 50)),  # much later
            (6, 200, 300, facts(1 / 4, 51)),  # another size
            (7, 200, 300, Metadata()),
        ]
        self.assertEqual(brackets_of(frames), [[2, 3, 4]])

        def row(*taken: tuple[float, int]) -> list[list[int]]:
            return brackets_of(
                [(i, 300, 200, facts(shutter, second)) for i, (shutter, second) in enumerate(taken)]
            )

        third = ((1 / 60, 0), (1 / 120, 1), (1 / 30, 2))
        self.assertEqual(row(*third), [[0, 1, 2]])
        # one right after the other: two
        again = tuple((shutter, second + 4) for shutter, second in third)
        self.assertEqual(row(*third, *again), [[0, 1, 2], [3, 4, 5]])
        # a stop more a while later is a second try; two stops at once are a bracket
        self.assertEqual(row((1 / 60, 0), (1 / 30, 12)), [])
        self.assertEqual(row((1 / 60, 0), (1 / 30, 1)), [])
        self.assertEqual(row((1 / 60, 0), (1 / 15, 2)), [[0, 1]])
        self.assertEqual(row((1 / 60, 0), (1 / 15, 15)), [])

    def test_what_is_left_is_not_offered_again(self) -> None:
        write, read = self.library.database.write, self.library.database.read
        self.assertEqual(find_brackets(read, 1), [[1, 2, 3]])
        with write() as connection:
            leave_bracket(connection, [1, 2, 3])
        self.assertEqual(find_brackets(read, 1), [])
        self.library.close()
        library = Library(self.home)
        self.assertEqual(find_brackets(library.database.read, 1), [])
        with library.database.write() as connection, self.assertRaises(NotFound):
            leave_bracket(connection, [999, 1])

    def test_different_sizes_are_said_before_they_are_merged(self) -> None:
        with self.assertRaisesRegex(BadCapture, "2 x 3 and 4 x 2"):
            check_sizes([(3, 2), (2, 4)])
        check_sizes([(3, 2), (3, 2)])


if __name__ == "__main__":
    unittest.main()
