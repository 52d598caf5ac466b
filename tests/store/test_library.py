import json
import sqlite3
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
from PIL import Image

from silvrin.core.film.speed import zone_index
from silvrin.core.recipe import PaperSettings, Recipe
from silvrin.core.recipe.files import read_recipe
from silvrin.core.recipe.parts import FORMAT
from silvrin.errors import BadCapture, Conflict, DiskFull, NotFound, SilvrinError
from silvrin.files.capture import read_capture
from silvrin.shelf import shipped
from silvrin.store import prints, rolls
from silvrin.store.library import Library, open_library
from silvrin.store.migrations import STEPS, migrate
from tests.files.test_capture import Folder

KEPT = Path(__file__).parent.parent / "kept"


def picture_file(folder: Path, name: str = "a.png", seed: int = 0) -> Path:
    rng = np.random.default_rng(seed)
    Image.fromarray(rng.integers(0, 255, (60, 90, 3), dtype=np.uint8)).save(folder / name)
    return folder / name


class WithLibrary(Folder):
    def setUp(self) -> None:
        super().setUp()
        self.home = self.folder / "home"
        self.library = Library(self.home)
        self.addCleanup(self.library.pictures.settle)
        with self.library.database.write() as connection:
            self.roll = rolls.add_roll(connection, "Test roll")

    def files_of(self, name: str) -> list[Path]:
        return [p for p in (self.home / name).rglob("*") if p.is_file()]


class LibraryTest(WithLibrary):
    def test_originals_are_copied_by_hash_and_never_changed(self) -> None:
        source = picture_file(self.folder, "03 jug.png")
        frame = rolls.frame(
            self.library.database.read, self.library.take_in_file(source, self.roll).frame
        )
        original = self.library.original(frame.sha256)
        self.assertEqual(original.read_bytes(), source.read_bytes())
        self.assertEqual(original.stat().st_mode & 0o222, 0)
        self.assertEqual((frame.title, frame.width, frame.height), ("Jug", 90, 60))
        again = self.library.take_in_file(picture_file(self.folder, "copy.png"), self.roll)
        self.assertEqual((again.frame, again.known), (frame.id, True))
        self.assertEqual(len(self.files_of("originals")), 1)
        self.assertEqual(self.files_of("incoming"), [])

    def test_developed_light_is_made_again_when_it_is_gone(self) -> None:
        frame = self.library.take_in_file(picture_file(self.folder), self.roll).frame
        sha256 = rolls.frame(self.library.database.read, frame).sha256
        light = self.library.picture(sha256).levels[0].copy()
        self.library.pictures.settle()
        for file in self.files_of("cache"):
            file.unlink()
        fresh = Library(self.home)
        np.testing.assert_array_equal(fresh.picture(sha256).levels[0], light)
        fresh.pictures.settle()
        kept = Library(self.home).pictures._read(sha256)
        assert kept is not None
        np.testing.assert_array_equal(kept.levels[0], light)

    def test_what_cannot_be_read_leaves_nothing(self) -> None:
        bad = self.folder / "bad.jpg"
        bad.write_bytes(b"not a picture at all")
        with self.assertRaises(BadCapture):
            self.library.take_in_file(bad, self.roll)
        with self.assertRaises(NotFound):
            self.library.take_in_file(picture_file(self.folder), 99)
        for name in ("../../etc/passwd", "a/b.png", "", "..", "x" * 300):
            with self.assertRaises(BadCapture):
                self.library.take_in(self.library.receive([b"data"]), name, self.roll)
        for name in ("originals", "incoming", "cache"):
            self.assertEqual(self.files_of(name), [])
        self.assertEqual(rolls.frames_of(self.library.database.read, self.roll), [])

    def test_a_full_disk_leaves_nothing(self) -> None:
        source = picture_file(self.folder)
        full = OSError(28, "No space left on device")
        for place in ("silvrin.store.reception.os.fsync", "silvrin.files.whole.os.fsync"):
            with mock.patch(place, side_effect=full), self.assertRaises(DiskFull):
                self.library.take_in_file(source, self.roll)
            for name in ("incoming", "originals", "cache"):
                self.assertEqual(self.files_of(name), [])
        frame = self.library.take_in_file(source, self.roll).frame

        # and what is there can still be looked at, though nothing can be kept of it
        sha256 = rolls.frame(self.library.database.read, frame).sha256
        for file in self.files_of("cache"):
            file.unlink()
        again = Library(self.home)
        with mock.patch("silvrin.files.whole.os.fsync", side_effect=full):
            self.assertEqual(again.picture(sha256).width, 90)
            again.pictures.settle()
        self.assertEqual(self.files_of("cache"), [])

    def test_a_second_level_that_does_not_fit_takes_the_first_with_it(self) -> None:
        rng = np.random.default_rng(0)
        source = self.folder / "large.png"  # two levels
        Image.fromarray(rng.integers(0, 255, (700, 900, 3), dtype=np.uint8)).save(source)
        written = iter([None, OSError(28, "No space left on device")])

        def fill_up(_: int) -> None:
            failure = next(written)
            if failure:
                raise failure

        picture = read_capture(source).picture()
        self.assertGreater(len(picture.levels), 1)
        with mock.patch("silvrin.files.whole.os.fsync", fill_up):
            self.library.pictures.keep("a" * 64, picture)
            self.library.pictures.settle()
        self.assertEqual(self.files_of("cache"), [])
        self.assertIs(self.library.picture("a" * 64), picture)

    def test_what_a_crash_left_is_cleared(self) -> None:
        (self.home / "incoming" / "half").write_bytes(b"...")
        self.library.clear_left()
        self.assertEqual(self.files_of("incoming"), [])

    def test_a_home_that_cannot_be(self) -> None:
        file = self.folder / "file"
        file.write_text("x")
        with self.assertRaisesRegex(SilvrinError, "--home needs a folder"):
            open_library(file)
        (self.folder / "odd").mkdir()
        (self.folder / "odd" / "library.sqlite").write_text("this is no database" * 100)
        with self.assertRaisesRegex(SilvrinError, "no library of Silvrin"):
            Library(self.folder / "odd")


class PrintTest(WithLibrary):
    def setUp(self) -> None:
        super().setUp()
        self.frame = self.library.take_in_file(picture_file(self.folder), self.roll).frame
        self.read = self.library.database.read
        self.write = self.library.database.write

    def grade(self, print_id: int, base: int, grade: float) -> prints.Print:
        with self.write() as connection:
            recipe = Recipe(paper=PaperSettings(grade=grade))
            return prints.change_print(connection, print_id, base, recipe, f"Grade {grade}")

    def test_every_change_is_kept_through_undo_redo_and_restart(self) -> None:
        with self.write() as connection:
            first = prints.add_print(connection, self.frame, "P", Recipe())
        second = self.grade(first.id, first.head, 3)
        third = self.grade(first.id, second.head, 4)
        with self.write() as connection:
            back = prints.undo(connection, first.id, third.head)
            self.assertEqual((back.recipe.paper.grade, back.redo), (3, "Grade 4"))
            back = prints.undo(connection, first.id, back.head)
            self.assertEqual((back.recipe.paper.grade, back.undo), (2, None))
            self.assertEqual(prints.undo(connection, first.id, back.head).head, back.head)
        other = self.grade(first.id, back.head, 5)  # a new branch; the old one stays
        database = Library(self.home).database
        with database.write() as connection:
            self.assertEqual(prints.get_print(connection, first.id), other)
            back = prints.undo(connection, first.id, other.head)
            self.assertEqual(prints.redo(connection, first.id, back.head).head, other.head)
            kept = connection.execute("SELECT label FROM changes ORDER BY id").fetchall()
        labels = [row["label"] for row in kept]
        self.assertEqual(labels, ["New print", "Grade 3", "Grade 4", "Grade 5"])

    def test_two_windows_do_not_overwrite_each_other(self) -> None:
        with self.write() as connection:
            first = prints.add_print(connection, self.frame, "P", Recipe())
        self.grade(first.id, first.head, 3)
        with self.assertRaisesRegex(Conflict, "changed elsewhere"):
            self.grade(first.id, first.head, 4)
        self.assertEqual(prints.get_print(self.read, first.id).recipe.paper.grade, 3)

    def test_a_write_that_fails_keeps_nothing(self) -> None:
        with self.assertRaises(ZeroDivisionError), self.write() as connection:
            rolls.add_roll(connection, "never")
            _ = 1 / 0
        self.assertEqual([r.name for r in rolls.all_rolls(self.read)], ["Test roll"])
        with self.assertRaises(sqlite3.OperationalError):
            self.read.execute("DELETE FROM rolls")


class MigrationTest(Folder):
    def setUp(self) -> None:
        super().setUp()
        self.home = self.folder / "home"
        self.home.mkdir()

    def test_each_step_once_with_its_ledger_row_or_not_at_all(self) -> None:
        connection = sqlite3.connect(":memory:", isolation_level=None)
        connection.row_factory = sqlite3.Row
        migrate(connection)
        migrate(connection)
        steps = [row[0] for row in connection.execute("SELECT step FROM ledger")]
        self.assertEqual(steps, [name for name, _ in STEPS])
        broken = (*STEPS, ("999 broken", "CREATE TABLE half (id INTEGER) STRICT; CREATE NONSENSE;"))
        with mock.patch("silvrin.store.migrations.STEPS", broken), self.assertRaises(sqlite3.Error):
            migrate(connection)
        tables = {row[0] for row in connection.execute("SELECT name FROM sqlite_master")}
        self.assertNotIn("half", tables)
        self.assertFalse(connection.in_transaction)

    def test_an_old_library_keeps_every_state_of_its_prints(self) -> None:
        connection = sqlite3.connect(self.home / "library.sqlite")
        connection.executescript((KEPT / "library-003.sql").read_text())
        connection.execute(  # the state before the last: metered at 50, a stop below its label
            "UPDATE changes SET recipe = replace(recipe, '\"exposure_index\":null', "
            "'\"exposure_index\":50') WHERE id = 2"
        )
        connection.commit()
        connection.close()
        library = Library(self.home)
        read = library.database.read
        now = prints.get_print(read, 1)
        kept, _ = read_recipe((KEPT / "recipe-1.json").read_text(), shipped().zone_part)
        self.assertEqual(now.recipe, kept)
        drawings = library.light_path(now.recipe).things.drawings
        self.assertEqual(
            [(m.x, m.y, m.radius) for m in drawings.mends],
            [(120, 80, 6), (300, 200, 9), (500, 300, 40), (90, 400, 5)],
        )
        self.assertEqual(drawings.protected[0].points, ((10, 10), (60, 12), (40, 70)))
        with library.database.write() as writing:
            before = prints.undo(writing, 1, now.head)
            self.assertEqual((before.recipe.paper.grade, before.undo), (4, "Grade 4"))
            index = zone_index(shipped().stock(before.recipe.film.stock))
            speed = shipped().stock(before.recipe.film.stock).speed
            rated = before.recipe.film.exposure_index
            self.assertAlmostEqual(index / rated, speed / 50, delta=1e-4)
            first = prints.undo(writing, 1, before.head)
            self.assertEqual((first.recipe, first.undo), (Recipe(), None))
        self.assertEqual(rolls.frame(read, 1).mark, "ring")
        self.assertEqual(list(read.execute("PRAGMA foreign_key_check")), [])
        # by now all are written in one way
        written = [json.loads(row["recipe"]) for row in read.execute("SELECT recipe FROM changes")]
        self.assertEqual({each["format"] for each in written}, {FORMAT})
        self.assertEqual({len(each["look"]["light"]["hue_bands"]) for each in written}, {0})

    def test_a_library_of_a_newer_silvrin_is_left_alone(self) -> None:
        database = Library(self.home).database
        with database.write() as connection:
            connection.execute("INSERT INTO ledger VALUES ('099 holograms', datetime('now'))")
        before = (self.home / "library.sqlite").read_bytes()
        with self.assertRaisesRegex(SilvrinError, "newer Silvrin.*099 holograms.*--home"):
            Library(self.home)
        self.assertEqual((self.home / "library.sqlite").read_bytes(), before)

    def test_taking_in_looks_nothing_up_by_walking_a_roll(self) -> None:
        # SQLite's own plan: a search by an index for each, whatever the roll holds
        read = Library(self.home).database.read
        for sql, index in (
            ("SELECT id FROM frames WHERE roll_id = 1 AND sha256 = 'a'", "frames_by_capture"),
            ("SELECT max(number) FROM frames WHERE roll_id = 1", "sqlite_autoindex_frames_1"),
            ("SELECT 1 FROM captures WHERE bytes = 1", "captures_by_bytes"),
        ):
            plan = [row["detail"] for row in read.execute(f"EXPLAIN QUERY PLAN {sql}")]
            self.assertEqual(len(plan), 1)
            self.assertRegex(plan[0], f"SEARCH .* {index}")

    def test_every_foreign_key_can_be_looked_up(self) -> None:
        read = Library(self.home).database.read
        tables = [
            r["name"] for r in read.execute("SELECT name FROM sqlite_master WHERE type='table'")
        ]
        for table in tables:
            first = set()
            for index in read.execute(f"PRAGMA index_list({table})").fetchall():
                columns = read.execute(f"PRAGMA index_info({index['name']})").fetchall()
                first.add(columns[0]["name"])
            for key in read.execute(f"PRAGMA foreign_key_list({table})").fetchall():
                self.assertIn(key["from"], first, f"{table}.{key['from']} has no index")


if __name__ == "__main__":
    unittest.main()
