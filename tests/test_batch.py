"""Batches in several processes of this computer."""

import os
import signal
import unittest
from pathlib import Path
from unittest import mock

from silvrin import batch
from silvrin.batch import How, deliver_all, processes_for
from silvrin.core.recipe import PaperSettings, Recipe
from silvrin.files.delivery import Output
from silvrin.files.delivery.output import Page
from tests.files.test_capture import Folder
from tests.store.test_library import picture_file


def children() -> list[int]:
    """The processes that print for this one."""
    found = []
    for stat in Path("/proc").glob("[0-9]*/stat"):
        try:
            parent = int(stat.read_text().rsplit(")", 1)[1].split()[1])
            command = (stat.parent / "cmdline").read_bytes()
        except OSError:
            continue
        if parent == os.getpid() and b"spawn_main" in command:
            found.append(int(stat.parent.name))
    return found


class BatchTest(Folder):
    def test_a_process_that_is_killed_costs_no_image(self) -> None:
        images = [picture_file(self.folder, f"{n}.png", n) for n in range(4)]
        size = {"by": "long", "value": 1500, "upscale": True}
        outputs = (Output(format="png", template="{capture}", size=size),)
        alone, out = self.folder / "alone", self.folder / "out"
        alone.mkdir()
        out.mkdir()
        self.assertEqual([e.error for e in deliver_all(images, How(outputs, alone))], [""] * 4)
        ended = []
        for each in deliver_all(images, How(outputs, out), 2):
            ended.append(each)
            if len(ended) == 1:
                os.kill(children()[0], signal.SIGKILL)
        self.assertEqual(sorted(e.image for e in ended), images)
        self.assertEqual([e.error for e in ended], [""] * 4)
        self.assertEqual(len(list(out.iterdir())), 4)
        for path in out.iterdir():
            self.assertEqual(path.read_bytes(), (alone / path.name).read_bytes())

    def test_all_prints_in_one_file_are_gone_on_with_as_one(self) -> None:
        images = [picture_file(self.folder, f"{n}.png", n) for n in range(3)]
        book = Output(format="pdf", template="book", page=Page(together=True))
        out = self.folder / "out"
        out.mkdir()

        def again(images: list[Path], recipe: Recipe) -> tuple[int, int]:
            """Files that are made, and that were left."""
            (ended,) = deliver_all(images, How((book,), out, recipe, resume=True))
            self.assertEqual(ended.error, "")
            return len(ended.files), len(ended.left)

        self.assertEqual(again(images, Recipe()), (1, 0))
        self.assertEqual(again(images, Recipe()), (0, 1))
        # another recipe, fewer images, or others: another book
        self.assertEqual(again(images, Recipe(paper=PaperSettings(grade=4))), (1, 0))
        self.assertEqual(again(images[:2], Recipe()), (1, 0))
        self.assertEqual(again(images[::-1], Recipe()), (1, 0))

    def test_an_image_that_ends_its_process_twice_is_said(self) -> None:
        """Every process is ended as soon as it is there: the first ones to be printed are to blame,
        and the batch comes to its end."""
        images = [picture_file(self.folder, f"{n}.png", n) for n in range(3)]
        out = self.folder / "out"
        out.mkdir()

        def broken(tasks, how, jobs):
            return iter(())

        with mock.patch.object(batch, "_beside_each_other", broken):
            ended = list(deliver_all(images, How((Output(),), out), 2))
        self.assertEqual(sorted(e.image for e in ended), images)
        for each in ended:
            self.assertIn("ended from outside, twice. There may be too little memory", each.error)

    def test_as_many_processes_as_there_are_processors_and_memory(self) -> None:
        told = self.folder / "meminfo"
        with mock.patch.object(batch, "MEMORY", told), mock.patch("os.cpu_count", lambda: 8):
            self.assertEqual(processes_for(100), 8)  # no system that tells
            told.write_text("MemTotal: 9 kB\nMemAvailable:    5000000 kB\n")
            self.assertEqual(processes_for(100), 3)
            told.write_text("MemAvailable: 1000 kB\n")
            self.assertEqual(processes_for(100), 1)
            self.assertEqual(processes_for(0), 1)


if __name__ == "__main__":
    unittest.main()
