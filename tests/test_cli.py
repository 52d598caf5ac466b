import json
import os
import resource
import shutil
import signal
import socket
import subprocess
import sys
import unittest
import urllib.request
from pathlib import Path

import tifffile

from silvrin.core.recipe import PaperSettings, Recipe
from silvrin.demo_job import demo_capture
from tests.files.test_capture import Folder
from tests.store.test_library import picture_file

ROOT = Path(__file__).parents[1]


def run(*words: object, **more: object) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "silvrin", *map(str, words)]
    return subprocess.run(command, capture_output=True, text=True, cwd=ROOT, check=False, **more)


class DeliverTest(Folder):
    def test_files_to_prints_by_a_recipe(self) -> None:
        recipe = self.folder / "hard.json"
        recipe.write_text(Recipe(paper=PaperSettings(grade=4)).model_dump_json())
        raw = demo_capture("target")
        out = self.folder / "prints"
        done = run("deliver", raw, picture_file(self.folder), "-o", out, "--recipe", recipe)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual(sorted(p.name for p in out.iterdir()), ["17 target.tif", "a.tif"])
        self.assertEqual(tifffile.imread(out / "a.tif").shape, (60, 90))

    def test_each_image_is_printed_as_is_proposed_for_it(self) -> None:
        out, raw = self.folder / "prints", demo_capture("target")
        done = run("deliver", raw, "-o", out, "--long-side", 600)
        again = run("deliver", raw, "-o", out, "--long-side", 600, "--propose")
        self.assertEqual((done.returncode, again.returncode), (0, 0), again.stderr)
        self.assertRegex(
            again.stderr, r"17 target.dng: shadow on III, highlights fall on VII\S*: N"
        )
        plain, proposed = (
            tifffile.imread(out / name) for name in ("17 target.tif", "17 target 2.tif")
        )
        self.assertEqual(plain.shape, proposed.shape)
        self.assertGreater((proposed < 300).mean(), (plain < 300).mean())

    def test_one_bad_file_does_not_stop_the_others(self) -> None:
        (self.folder / "bad.png").write_bytes(b"nothing")
        out = self.folder / "prints"
        good = picture_file(self.folder)
        done = run("deliver", self.folder / "bad.png", self.folder / "no.dng", good, "-o", out)
        self.assertEqual(done.returncode, 1)
        self.assertIn("bad.png: this is not an image", done.stderr)
        self.assertIn("no.dng: cannot be read (No such file", done.stderr)
        self.assertEqual([p.name for p in out.iterdir()], ["a.tif"])

    def test_wrong_usage_and_recipes(self) -> None:
        recipe = self.folder / "r.json"
        recipe.write_text('{"paper": {"grade": 11}}')
        good = picture_file(self.folder)
        done = run("deliver", good, "-o", self.folder / "o", "--recipe", recipe)
        self.assertEqual((done.returncode, (self.folder / "o").exists()), (2, False))
        self.assertIn("paper.grade", done.stderr)
        self.assertEqual(run("deliver", good).returncode, 2)
        self.assertEqual(run("develop").returncode, 2)
        for command in ("serve", "demo", "deliver", "bench"):
            self.assertIn("usage: silvrin " + command, run(command, "--help").stdout)

    def test_a_disk_that_fills_up_leaves_no_file(self) -> None:
        # the kernel itself refuses to let the file grow
        def bound() -> None:
            signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
            resource.setrlimit(resource.RLIMIT_FSIZE, (100_000, 100_000))

        out = self.folder / "prints"
        raw = demo_capture("target")
        done = run("deliver", raw, "-o", out, preexec_fn=bound)
        self.assertEqual(done.returncode, 1)
        self.assertIn("the disk is full; nothing was written", done.stderr)
        self.assertEqual(list(out.iterdir()), [])


class ServeTest(Folder):
    def test_next_free_port_and_what_was_done_survives_a_kill(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            home = self.folder / "home"
            for round_number in (1, 2):
                server = subprocess.Popen(
                    [sys.executable, "-m", "silvrin", "serve", "--home", home, "--port", str(port)],
                    stdout=subprocess.PIPE,
                    stderr=subprocess.PIPE,
                    text=True,
                    cwd=ROOT,
                    env={**os.environ, "COLUMNS": "200"},
                )
                try:
                    address = server.stdout.readline().split()[4]
                    self.assertTrue(address.startswith("http://127.0.0.1:"))
                    self.assertNotEqual(address, f"http://127.0.0.1:{port}")
                    request = urllib.request.Request(
                        f"{address}/api/rolls",
                        json.dumps({"name": f"Roll {round_number}"}).encode(),
                        {"content-type": "application/json"},
                    )
                    with urllib.request.urlopen(request) as answer:
                        self.assertEqual(json.load(answer)["id"], round_number)
                finally:
                    server.kill()
                    _, errors = server.communicate()
                self.assertIn(f"Port {port} is taken by another program; using", errors)

    def test_set_up_says_what_is_missing(self) -> None:
        fake = self.folder / "bin"
        fake.mkdir()
        for name in ("sh", "dirname", "cat", "cksum", "find", "sort", "env"):
            (fake / name).symlink_to(shutil.which(name))
        copy = self.folder / "copy"
        (copy / "scripts").mkdir(parents=True)
        shutil.copy(ROOT / "scripts" / "set-up", copy / "scripts")

        def set_up() -> str:
            done = subprocess.run(
                [copy / "scripts" / "set-up"],
                env={"PATH": str(fake)},
                capture_output=True,
                text=True,
                check=False,
            )
            self.assertEqual(done.returncode, 1)
            return done.stderr

        self.assertIn("Python is missing", set_up())
        (fake / "python3").write_text('#!/bin/sh\n[ "$1" = -c ] && exit 1\necho Python 3.9.2\n')
        (fake / "python3").chmod(0o755)
        self.assertIn("Python is too old (Python 3.9.2)", set_up())
        (fake / "python3").unlink()
        (fake / "python3").symlink_to(sys.executable)
        self.assertIn("Node is missing", set_up())
        (fake / "node").write_text('#!/bin/sh\n[ "$1" = -e ] && exit 1\necho v18.1.0\n')
        (fake / "node").chmod(0o755)
        self.assertIn("Node is too old (v18.1.0)", set_up())


if __name__ == "__main__":
    unittest.main()
