"""A batch over the workers of a cluster: Dask's own scheduler and workers, in processes here."""

import contextlib
import io
import json
import os
import signal
import time
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import mock

import numpy as np
import tifffile
from distributed import Client, LocalCluster

from silvrin import cluster
from silvrin.batch import Ended, How, deliver_all
from silvrin.cli import main
from silvrin.cluster import deliver_over
from silvrin.errors import SilvrinError
from silvrin.files.delivery import Output

OUTPUTS = (
    Output(name="a", format="tiff", sidecar=True, template="{capture} {film} {year}"),
    Output(name="b", format="jpeg", template="{capture}"),
)


class ClusterTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = TemporaryDirectory(ignore_cleanup_errors=True)
        cls.addClassCleanup(folder.cleanup)
        cls.home = Path(folder.name)
        cls.images = []
        (cls.home / "card").mkdir()
        rng = np.random.default_rng(1)
        for number in range(6):
            path = cls.home / "card" / f"{number}.tif"
            tifffile.imwrite(path, rng.integers(0, 65535, (600, 900, 3), np.uint16))
            cls.images.append(path)
        cls.alone = cls.home / "alone"
        cls.alone.mkdir()
        assert all(e.state == "done" for e in deliver_all(cls.images, How(OUTPUTS, cls.alone)))
        made = LocalCluster(
            n_workers=2, threads_per_worker=2, dashboard_address=None, silence_logs=50
        )
        cls.addClassCleanup(made.close)
        cls.address = made.scheduler_address

    def out(self, name: str) -> Path:
        folder = self.home / name
        folder.mkdir()
        return folder

    def assert_same(self, folder: Path) -> None:
        """The files of one process, to the byte, and nothing else."""
        names = sorted(path.name for path in self.alone.iterdir())
        self.assertEqual(sorted(path.name for path in folder.iterdir()), names)
        for name in names:
            self.assertEqual((folder / name).read_bytes(), (self.alone / name).read_bytes(), name)

    def assert_all(self, ended: list[Ended]) -> None:
        self.assertEqual([e.error for e in ended], [""] * len(self.images))
        self.assertEqual(sorted(e.image for e in ended), self.images)
        for each in ended:
            self.assertEqual(len(each.files), 2)
            self.assertTrue(all(file.exists() for file in each.files))

    def test_the_same_bytes_from_shared_folders_and_sent(self) -> None:
        for sent in (False, True):
            out = self.out(f"sent {sent}")
            self.assert_all(list(deliver_over(self.address, self.images, How(OUTPUTS, out), sent)))
            self.assert_same(out)

    def test_a_worker_that_is_killed_costs_no_frame(self) -> None:
        for sent in (False, True):
            out, ended = self.out(f"killed {sent}"), []
            with Client(self.address, set_as_default=False) as client:
                pids = list(client.run(os.getpid).values())
            for each in deliver_over(self.address, self.images, How(OUTPUTS, out), sent):
                ended.append(each)
                if len(ended) == 2:
                    os.kill(pids[0], signal.SIGKILL)
            self.assert_all(ended)
            self.assert_same(out)
            with Client(self.address, set_as_default=False) as client:
                client.wait_for_workers(2, timeout=60)  # the nanny has begun it anew
                self.assertNotIn(pids[0], client.run(os.getpid).values())

    def test_one_bad_image_does_not_stop_the_others(self) -> None:
        bad = self.home / "bad.tif"
        bad.write_bytes(b"nothing")
        given = [bad, self.home / "nowhere" / "no.tif", *self.images]
        for sent in (False, True):
            out = self.out(f"bad {sent}")
            ended = list(deliver_over(self.address, given, How(OUTPUTS, out), sent))
            wrong = {e.image.name: e.error for e in ended if e.state == "failed"}
            self.assertEqual(set(wrong), {"bad.tif", "no.tif"})
            self.assertIn("this is not an image", wrong["bad.tif"])
            self.assertIn("no.tif: cannot be read (No such", wrong["no.tif"])
            self.assert_same(out)

    def test_a_batch_that_is_given_up_leaves_whole_files_alone(self) -> None:
        out = self.out("given up")
        coming = deliver_over(self.address, self.images, How(OUTPUTS, out))
        next(coming)
        coming.close()
        with Client(self.address, set_as_default=False) as client:
            end = time.monotonic() + 10
            while any(client.processing().values()):
                self.assertLess(time.monotonic(), end)
                time.sleep(0.1)
        there = {path.name: path.read_bytes() for path in out.iterdir()}
        self.assertLess(len(there), 3 * len(self.images))
        for name, content in there.items():
            self.assertEqual(content, (self.alone / name).read_bytes(), name)

    def test_a_scheduler_that_is_lost_is_said(self) -> None:
        for looks in (60.0, 0.0):  # heard from an image on its way, or when workers are counted
            out = self.out(f"lost {looks}")
            with (
                mock.patch.multiple(cluster, ANSWERS=3.0, LOOKS=looks),
                LocalCluster(
                    n_workers=1, threads_per_worker=1, dashboard_address=None, silence_logs=50,
                    processes=False,
                ) as other,
            ):  # fmt: skip
                coming = deliver_over(other.scheduler_address, self.images, How(OUTPUTS, out))
                next(coming)
                other.close()
                with self.assertRaisesRegex(SilvrinError, "scheduler is gone.*--resume"):
                    list(coming)
            for path in out.iterdir():
                self.assertEqual(path.read_bytes(), (self.alone / path.name).read_bytes())

    def test_the_command_line(self) -> None:
        told, said = io.StringIO(), io.StringIO()
        outputs = self.home / "outputs.json"
        outputs.write_text(json.dumps([each.model_dump() for each in OUTPUTS]))
        words = ("deliver", str(self.home / "card"), "--outputs", str(outputs), "--json", "-o")
        with contextlib.redirect_stdout(told), contextlib.redirect_stderr(said):
            code = main([*words, str(self.home / "told"), "--cluster", self.address])
            self.assertEqual(code, 0, said.getvalue())
            self.assertEqual(main([*words, "x", "--cluster", self.address, "--jobs", "2"]), 2)
            self.assertEqual(main([*words, "x", "--send"]), 2)
        self.assert_same(self.home / "told")
        ended = [json.loads(line) for line in told.getvalue().splitlines()]
        self.assertEqual({e["image"] for e in ended}, set(map(str, self.images)))

    def test_what_does_not_answer_or_see_is_said(self) -> None:
        self.addCleanup(setattr, cluster, "ANSWERS", cluster.ANSWERS)
        cluster.ANSWERS = 1.0
        how = How(OUTPUTS, self.out("said"))

        def said(address: str, images: list[Path] = self.images) -> str:
            with self.assertRaises(SilvrinError) as raised:
                list(deliver_over(address, images, how))
            return str(raised.exception)

        self.assertIn("no scheduler answers there", said("tcp://127.0.0.1:1"))
        self.assertIn("no scheduler answers there", said("nonsense://x"))
        empty = LocalCluster(n_workers=0, dashboard_address=None, silence_logs=50)
        self.addCleanup(empty.close)
        self.assertIn("there is no worker", said(empty.scheduler_address))
        handle = os.open(self.home / "card", os.O_RDONLY)
        self.addCleanup(os.close, handle)
        here_alone = Path(f"/proc/self/fd/{handle}")  # the workers have no such folder
        self.assertRegex(said(self.address, [here_alone / "1.tif"]), r"does not see /proc.*--send")
