"""What was ordered outlives the server: an ordinary stop, Ctrl+C, and a kill."""

import shutil
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PIL import Image

from silvrin.core.recipe import Recipe
from silvrin.demo_job import demo_capture
from silvrin.store import imports, orders, prints, rolls
from silvrin.store.library import Library
from tests.files.test_capture import Folder
from tests.servers import Server

ROOT = Path(__file__).parents[1]
LOFT = ("drying loft, dark", "drying loft", "drying loft, light")


class StoppingTest(Folder):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.begun = Path(folder.name)
        home, card = cls.begun / "home", cls.begun / "card"
        card.mkdir()
        rng = np.random.default_rng(1)
        for number in range(40):
            pixels = rng.integers(0, 255, (900, 1400, 3), dtype=np.uint8)
            Image.fromarray(pixels).save(card / f"{number}.jpg", quality=95)
        library = Library(home)
        with library.database.write() as connection:
            roll = rolls.add_roll(connection, "Loft")
        frames = [library.take_in_file(demo_capture(name), roll).frame for name in LOFT]
        for frame in frames:  # at hand, so that what is ordered is under way when it is cut off
            library.picture(rolls.frame(library.database.read, frame).sha256)
        with library.database.write() as connection:
            cls.print = prints.add_print(connection, frames[1], "Print", Recipe()).id
        library.close()

    def setUp(self) -> None:
        super().setUp()
        shutil.copytree(self.begun, self.folder, dirs_exist_ok=True)
        self.home, self.card = self.folder / "home", self.folder / "card"

    def until(self, done: Callable[[], bool], seconds: float = 90.0) -> None:
        end = time.monotonic() + seconds
        while not done():
            self.assertLess(time.monotonic(), end, "took too long")
            time.sleep(0.02)

    def cut_off(self, number: signal.Signals) -> tuple[int, float, str]:
        """Order some of each kind, and end the server when each has begun."""
        server = Server(self.home)
        self.addCleanup(server.kill)
        server.ask("imports", {"folder": str(self.card)})
        bracket = {"frames": [1, 2, 3], "reference": 2}
        for ghosts in (0.2, 0.8):
            server.ask("merges", {**bracket, "ghosts": ghosts})
        for form in ("tiff", "jpeg", "tiff"):
            order = {"prints": [self.print], "outputs": [{"format": form}]}
            server.ask("deliveries", order)
        line = server.hanging_upload()
        self.addCleanup(line.close)
        self.until(lambda: server.ask("imports/1")["taken"] >= 3)
        return server.end(number)

    def check_left(self) -> None:
        """Nothing is lost, nothing failed, and there is something left to do."""
        library = Library(self.home)
        left = imports.get_import(library.database.read, 1)
        self.assertEqual((left.state, left.error, left.refused), ("running", None, 0))
        self.assertGreater(left.waiting, 0)
        of_loft = library.database.read.execute(
            "SELECT count(*) FROM frames WHERE roll_id = 1"
        ).fetchone()[0]
        merges = orders.of_kind(library.database.read, "merge")
        deliveries = orders.of_kind(library.database.read, "delivery")
        self.assertEqual([order.error for order in (*merges, *deliveries) if order.error], [])
        self.assertEqual(of_loft - 3 + len(merges), 2)
        done = [p for p in (self.home / "delivered").iterdir() if not p.name.startswith(".")]
        self.assertGreaterEqual(len(done) + len(deliveries), 3)
        self.assertGreater(len(merges) + len(deliveries), 1)
        library.close()

    def check_all_comes(self) -> None:
        """Started again, everything is done, once."""
        server = Server(self.home)
        self.addCleanup(server.kill)
        self.until(lambda: server.ask("imports/1")["state"] == "done")
        library = Library(self.home)
        read = library.database.read
        for kind in ("merge", "delivery"):
            self.until(lambda kind=kind: not orders.of_kind(read, kind))
        self.assertEqual(
            [frame.file_name for frame in rolls.frames_of(read, 2)],
            [f"{number}.jpg" for number in range(40)],
        )
        self.assertEqual([frame.kind for frame in rolls.frames_of(read, 1)][3:], ["merged"] * 2)
        made = sorted(path.name for path in (self.home / "delivered").iterdir())
        name = "Loft 02 Drying loft - Print"
        self.assertEqual(made, [f"{name} 2.tif", f"{name}.jpg", f"{name}.tif"])
        self.assertEqual(list((self.home / "incoming").iterdir()), [])
        # a window that waited for one hears of it, over the restart
        delivery = server.ask("deliveries/5")
        self.assertEqual((delivery["state"], delivery["width"]), ("done", 2400))
        library.close()
        self.assertEqual(server.end(signal.SIGTERM)[::2], (0, ""))

    def test_an_ordinary_stop(self) -> None:
        code, seconds, said = self.cut_off(signal.SIGTERM)
        self.assertEqual((code, said), (0, ""))
        self.assertLess(seconds, 7.0)
        self.check_left()
        self.check_all_comes()

    def test_the_keyboard(self) -> None:
        code, seconds, said = self.cut_off(signal.SIGINT)
        self.assertIn(code, (0, 130))
        self.assertNotIn("Traceback", said)
        self.assertLess(seconds, 7.0)
        self.check_left()

    def test_a_kill(self) -> None:
        self.assertEqual(self.cut_off(signal.SIGKILL)[0], -9)
        self.check_left()
        (self.home / "delivered" / ".left.part").write_bytes(b"half")
        half = self.home / "cache" / "v2" / ("0" * 64)
        half.mkdir(parents=True)
        (half / "0.npy").write_bytes(b"half")
        self.check_all_comes()
        self.assertFalse(half.exists())

    def test_one_program_at_a_time(self) -> None:
        server = Server(self.home)
        self.addCleanup(server.kill)
        command = [sys.executable, "-m", "silvrin", "serve", "--home", str(self.home)]
        second = subprocess.run(command, capture_output=True, text=True, cwd=ROOT, timeout=30)
        self.assertEqual((second.returncode, second.stdout), (1, ""))
        self.assertIn("this library is open in another Silvrin", second.stderr)
        # a crash leaves nothing locked
        server.kill()
        self.assertEqual(Server(self.home).end(signal.SIGTERM)[0], 0)
        shutil.rmtree(self.home)


if __name__ == "__main__":
    unittest.main()
