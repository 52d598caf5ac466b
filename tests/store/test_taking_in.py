import json
import os
import shutil
import signal
import subprocess
import sys
import threading
import time
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
from PIL import Image

from silvrin.core.recipe import Recipe
from silvrin.errors import BadCapture, NotFound
from silvrin.store import imports, prints, rolls
from silvrin.store import library as library_module
from silvrin.store.captures import title_of
from silvrin.store.taking_in import TakingIn
from silvrin.store.watch import Watch, find_again, look_after
from tests.store.test_library import WithLibrary, picture_file

SERVER = """
import sys
from pathlib import Path
from unittest import mock
from silvrin.store.library import Library
from silvrin.store.captures import title_of
from silvrin.store.taking_in import TakingIn

library = Library(Path(sys.argv[1]))
library.clear_left()
taking_in = TakingIn(library)
if len(sys.argv) > 2:
    taking_in.order(sys.argv[2], None, "copy", True, False)
else:
    taking_in.go_on()
taking_in.wait()
"""


class WithFolder(WithLibrary):
    def setUp(self) -> None:
        super().setUp()
        self.card = self.folder / "card"
        (self.card / "second").mkdir(parents=True)
        self.taking_in = TakingIn(self.library)

    def take(self, keep: str = "copy", again: bool = False, subfolders: bool = True):
        made = self.taking_in.order(str(self.card), None, keep, subfolders, again)
        self.taking_in.wait()
        return self.taking_in.get(made.id)

    def frames(self, roll: int) -> list[rolls.Frame]:
        return rolls.frames_of(self.library.database.read, roll)


class FolderTest(WithFolder):
    def test_a_mixed_folder_comes_in_its_order_with_a_report(self) -> None:
        for number in (1, 2, 10):
            picture_file(self.card, f"pot {number}.png", number)
        shutil.copy(self.card / "pot 2.png", self.card / "copy of 2.png")
        picture_file(self.card / "second", "pot 1.png", 77)  # another picture of the same name
        good = picture_file(self.card, "whole.jpg", 5).read_bytes()
        (self.card / "torn.jpg").write_bytes(good[: len(good) // 2])
        (self.card / "empty.dng").write_bytes(b"")
        (self.card / "notes.txt").write_text("Kiln opened at four.")
        (self.card / ".hidden.png").write_bytes(b"x")
        what = self.take()
        self.assertEqual(
            (what.state, what.taken, what.known, what.refused, what.left), ("done", 5, 1, 2, 1)
        )
        names = [frame.file_name for frame in self.frames(what.roll_id)]
        self.assertEqual(
            names, ["copy of 2.png", "pot 1.png", "pot 10.png", "whole.jpg", "pot 1.png"]
        )
        report = {f.path: f for f in imports.files_of(self.library.database.read, what.id)}
        self.assertEqual(report["pot 2.png"].reason, "the same as frame 1 of card")
        self.assertIn("copy it from the card again", report["torn.jpg"].reason or "")
        self.assertIn("empty (0 bytes)", report["empty.dng"].reason or "")
        self.assertEqual(self.files_of("incoming"), [])

        # the card once more: what another roll has is not taken in again, unless that is said
        before = len(rolls.all_rolls(self.library.database.read))
        second = self.take()
        self.assertEqual((second.taken, second.known), (0, 6))
        self.assertEqual(len(rolls.all_rolls(self.library.database.read)), before)  # no empty roll
        # its report stays until it is put away
        listed = [item.id for item in self.taking_in.recent()]
        self.assertIn(second.id, listed)
        self.taking_in.cancel(second.id)
        listed.remove(second.id)
        self.assertEqual([item.id for item in self.taking_in.recent()], listed)
        self.assertEqual(self.taking_in.get(second.id).state, "done")
        third = self.take(again=True, subfolders=False)
        self.assertEqual((third.taken, third.known), (4, 1))
        self.assertEqual(len(self.files_of("originals")), 5)

    def test_what_cannot_be_a_folder_of_captures(self) -> None:
        file = picture_file(self.folder)
        for place, said in (
            (file, "is a file"),
            (self.folder / "no", "is not there"),
            (Path("card"), "whole path"),
            (self.home, "own library"),
            (self.card, "nothing to take in"),
        ):
            with self.assertRaisesRegex(BadCapture, said):
                self.taking_in.order(str(place), None, "copy", True, False)
        self.assertEqual(len(rolls.all_rolls(self.library.database.read)), 1)

    def test_a_disk_that_goes_away_stops_it_and_it_goes_on(self) -> None:
        for number in range(30):
            picture_file(self.card, f"{number}.png", number)
        gone = self.card.with_name("gone")
        made = self.taking_in.order(str(self.card), None, "copy", True, False)
        while self.taking_in.get(made.id).taken < 3:
            time.sleep(0.005)
        self.card.rename(gone)
        self.taking_in.wait()
        stopped = self.taking_in.get(made.id)
        self.assertEqual(stopped.state, "stopped")
        self.assertIn("is not there any more", stopped.error or "")
        self.assertGreater(stopped.waiting, 0)
        gone.rename(self.card)
        self.taking_in.resume(made.id)
        self.taking_in.wait()
        ended = self.taking_in.get(made.id)
        self.assertEqual((ended.state, ended.waiting, ended.taken), ("done", 0, 30))
        numbers = [frame.file_name for frame in self.frames(made.roll_id)]
        self.assertEqual(numbers, [f"{n}.png" for n in range(30)])

    def test_a_server_killed_in_the_middle_goes_on_when_started_again(self) -> None:
        rng = np.random.default_rng(1)
        for number in range(24):
            pixels = rng.integers(0, 255, (900, 1400, 3), dtype=np.uint8)
            Image.fromarray(pixels).save(self.card / f"{number}.jpg", quality=95)

        def server(*more: str) -> subprocess.Popen[bytes]:
            command = [sys.executable, "-c", SERVER, str(self.home), *more]
            return subprocess.Popen(command, env={**os.environ, "PYTHONPATH": str(Path.cwd())})

        first = server(str(self.card))
        roll = 2
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            read = self.library.database.read
            if read.execute("SELECT count(*) FROM frames").fetchone()[0] >= 4:
                break
            time.sleep(0.01)
        first.send_signal(signal.SIGKILL)
        first.wait()
        half = self.frames(roll)
        self.assertTrue(4 <= len(half) < 24, len(half))
        for frame in half:  # what is there is whole
            self.assertEqual(self.library.picture(frame.sha256).width, 1400)
        self.assertEqual(server().wait(), 0)
        self.assertEqual([f.file_name for f in self.frames(roll)], [f"{n}.jpg" for n in range(24)])
        self.assertEqual(len(self.files_of("originals")), 24)
        self.assertEqual(self.files_of("incoming"), [])

    def test_cancelled_it_keeps_what_is_in(self) -> None:
        for number in range(40):
            picture_file(self.card, f"{number}.png", number)
        made = self.taking_in.order(str(self.card), None, "copy", True, False)
        while self.taking_in.get(made.id).taken < 2:
            time.sleep(0.005)
        self.taking_in.cancel(made.id)
        self.taking_in.wait()
        ended = self.taking_in.get(made.id)
        self.assertEqual(ended.state, "cancelled")
        self.assertEqual(len(self.frames(made.roll_id)), ended.taken)
        self.assertLess(ended.taken, 40)


class OddFilesTest(WithFolder):
    def test_one_odd_file_is_its_own_refusal(self) -> None:
        for number in range(6):
            picture_file(self.card, f"{number}.png", number)
        os.mkfifo(self.card / "1 pipe.dng")
        (self.card / "2 zero.jpg").symlink_to("/dev/zero")
        (self.card / "3 circle.tif").symlink_to(self.card / "3 circle.tif")
        (self.card / "4 away.png").symlink_to(self.card / "nowhere.png")
        foreign = os.fsdecode(b"5 caf\xe9.png")
        shutil.copy(picture_file(self.folder, "z.png", 77), self.card / foreign)
        good = picture_file(self.folder, "y.png", 78).read_bytes()
        (self.card / "palette.png").write_bytes(good[:40] + b"\xff" * 30 + good[70:])
        for keep in ("copy", "refer"):
            what = self.take(keep, again=True)
            self.assertEqual((what.state, what.waiting), ("done", 0), what.error)
            self.assertEqual(what.taken, 7)
            files = imports.files_of(self.library.database.read, what.id)
            report = {f.path: (f.outcome, f.reason or "") for f in files}
            self.assertEqual(report["1 pipe.dng"][0], "left")
            self.assertIn("a pipe, a device or a folder", report["2 zero.jpg"][1])
            self.assertEqual(report["3 circle.tif"][0], "refused")
            self.assertEqual(report["4 away.png"][0], "refused")
            self.assertEqual(report["palette.png"][0], "refused")
            json.dumps(report).encode()
            for frame in self.frames(what.roll_id):
                frame.model_dump_json().encode()
                self.assertEqual(self.library.picture(frame.sha256).width, 90)

    def test_whatever_is_raised_about_one_file_the_others_come(self) -> None:
        for number in range(5):
            picture_file(self.card, f"{number}.png", number)
        look = library_module.first_look

        def odd(path: Path, name: str | None = None):
            if name == "2.png":
                raise ZeroDivisionError("in some library")
            return look(path, name)

        with (
            mock.patch.object(library_module, "first_look", odd),
            self.assertLogs("silvrin.store.taking_in", "ERROR"),
        ):
            what = self.take()
        self.assertEqual((what.state, what.taken, what.refused), ("done", 4, 1))

    def test_titles_keep_what_belongs_to_them(self) -> None:
        for name, title in (
            ("01 glaze shelf.dng", "Glaze shelf"),
            ("12_kiln.tif", "Kiln"),
            ("2024-05-12 yard.jpg", "2024-05-12 yard"),
            ("20240512_101500.jpg", "20240512_101500"),
            ("35 mm test.png", "35 mm test"),
            ("3rd firing.png", "3rd firing"),
            ("007.png", "007"),
            ("9.png", "9"),
        ):
            self.assertEqual(title_of(name), title)


class InPlaceTest(WithFolder):
    def test_a_lost_copy_that_is_brought_again_is_found(self) -> None:
        source = picture_file(self.card, "jug.png", 3)
        for keep in ("copy", "refer"):
            frame = self.library.take_in_file(source, self.roll).frame
            sha256 = rolls.frame(self.library.database.read, frame).sha256
            own = self.library.own_original(sha256, ".png")
            own.unlink()
            self.library.pictures.forget(sha256)
            with self.assertRaises(NotFound):
                self.library.picture(sha256)
            again = self.library.take_in_file(source, self.roll, keep)
            self.assertEqual((again.frame, again.known), (frame, True))
            self.assertEqual(self.library.picture(sha256).width, 90)

    def test_the_watch_outlives_errors(self) -> None:
        calls, seen = threading.Event(), threading.Event()

        def failing(_: object) -> int:
            if calls.is_set():
                seen.set()
            calls.set()
            raise OSError("the disk hangs")

        with (
            mock.patch("silvrin.store.watch.look_after", failing),
            self.assertLogs("silvrin.store.watch", "ERROR"),
        ):
            watch = Watch(self.library.database, every=0.01)
            watch.start()
            self.assertTrue(seen.wait(5.0))
            watch.stop()

    def test_an_original_in_place_is_missed_and_found_again(self) -> None:
        source = picture_file(self.card, "jug.png", 3)
        what = self.take(keep="refer")
        (frame,) = self.frames(what.roll_id)
        self.assertEqual((frame.place, frame.lost), (str(source), False))
        self.assertEqual(self.files_of("originals"), [])
        database = self.library.database
        self.assertEqual(look_after(database), 0)

        away = self.folder / "elsewhere"
        away.mkdir()
        moved = source.rename(away / "renamed.png")
        self.assertEqual(look_after(database), 1)
        self.assertTrue(self.frames(what.roll_id)[0].lost)
        self.assertIsNotNone(self.library.smalls.found(frame.sha256))  # it can still be seen
        with self.assertRaisesRegex(NotFound, "Connect its disk"):
            self.library.picture(frame.sha256)

        picture_file(self.card, "jug.png", 4)  # another picture at its place is not it
        self.assertEqual(look_after(database), 1)
        self.assertEqual(find_again(database, self.card), 0)
        self.assertEqual(find_again(database, self.folder), 1)
        (found,) = self.frames(what.roll_id)
        self.assertEqual((found.place, found.lost), (str(moved), False))
        self.assertEqual(self.library.picture(frame.sha256).width, 90)

        moved.rename(source)  # plugged in again, it is noticed by itself
        look_after(database)
        self.assertTrue(self.frames(what.roll_id)[0].lost)
        source.rename(moved)
        look_after(database)
        self.assertFalse(self.frames(what.roll_id)[0].lost)

    def test_a_copy_taken_in_later_stands_in_for_it(self) -> None:
        source = picture_file(self.card, "jug.png", 3)
        what = self.take(keep="refer")
        self.library.take_in_file(source, self.roll)
        source.unlink()
        self.assertEqual(look_after(self.library.database), 0)
        (frame,) = self.frames(what.roll_id)
        self.assertEqual(self.library.picture(frame.sha256).width, 90)


class BinTest(WithLibrary):
    def take(self, seed: int) -> int:
        return self.library.take_in_file(
            picture_file(self.folder, f"{seed}.png", seed), self.roll
        ).frame

    def test_frames_move_with_their_prints_and_come_back_from_the_bin(self) -> None:
        first, second = self.take(1), self.take(2)
        write, read = self.library.database.write, self.library.database.read
        with write() as connection:
            prints.add_print(connection, first, "P", Recipe())
            other = rolls.add_roll(connection, "Other")
            rolls.move_frames(connection, [first], other)
            rolls.bin_frames(connection, [second])
            rolls.bin_roll(connection, other)
        self.assertEqual([r.id for r in rolls.all_rolls(read)], [self.roll])
        self.assertEqual(rolls.frames_of(read, self.roll), [])
        self.assertEqual({f["id"] for f in json.loads(rolls.binned_json(read))}, {first, second})
        with write() as connection:
            rolls.restore_frames(connection, [first])
        (back,) = rolls.frames_of(read, other)
        self.assertEqual((back.id, back.number, len(back.prints)), (first, 1, 1))
        self.assertEqual([r.name for r in rolls.all_rolls(read)], ["Test roll", "Other"])

    def test_emptied_it_forgets_frames_and_keeps_originals_unless_told(self) -> None:
        read, write = self.library.database.read, self.library.database.write
        keep, aside, away = self.take(1), self.take(2), self.take(3)
        with write() as connection:
            prints.add_print(connection, aside, "P", Recipe())
            twin = rolls.add_roll(connection, "Twin")
            rolls.add_frame(connection, twin, rolls.frame(connection, keep).sha256, "Twin")
            rolls.bin_frames(connection, [keep, aside])
        original = self.library.original(rolls.frame(read, aside).sha256).read_bytes()
        self.library.empty_bin(with_originals=False)
        self.assertEqual([p.name for p in self.files_of("kept")], ["2.png"])
        self.assertEqual((self.home / "kept" / "2.png").read_bytes(), original)
        with self.assertRaises(NotFound):
            rolls.frame(read, aside)
        self.assertEqual(len(self.files_of("originals")), 2)  # the twin still shows one
        with write() as connection:
            rolls.bin_frames(connection, [away])
        self.library.empty_bin(with_originals=True)
        self.assertEqual(len(self.files_of("originals")), 1)
        self.assertEqual(len(self.files_of("kept")), 1)
        self.assertEqual(len(rolls.frames_of(read, twin)), 1)


class LargeTest(WithLibrary):
    def test_ten_thousand_frames_are_read_as_one(self) -> None:
        frame = self.library.take_in_file(picture_file(self.folder), self.roll).frame
        with self.library.database.write() as connection:
            connection.execute(
                """
                WITH RECURSIVE n (i) AS (SELECT 2 UNION ALL SELECT i + 1 FROM n WHERE i < 10000)
                INSERT INTO frames (roll_id, number, sha256, title)
                SELECT roll_id, i, sha256, title FROM n, frames WHERE id = ?
                """,
                (frame,),
            )
        found = rolls.frames_of(self.library.database.read, self.roll)
        self.assertEqual([f.number for f in found], list(range(1, 10001)))
        self.assertEqual(found[0], rolls.frame(self.library.database.read, frame))


if __name__ == "__main__":
    unittest.main()
