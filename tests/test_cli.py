import contextlib
import io
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

from silvrin.cli import main
from silvrin.core.recipe import PaperSettings, Recipe
from silvrin.demo_job import demo_capture
from tests.files.test_capture import Folder
from tests.store.test_library import picture_file

ROOT = Path(__file__).parents[1]


def run(*words: object, **more: object) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "silvrin", *map(str, words)]
    return subprocess.run(command, capture_output=True, text=True, cwd=ROOT, check=False, **more)


def at_once(*words: object) -> subprocess.CompletedProcess[str]:
    """The same in this process: most of a command's time is its start."""
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        try:
            code = main([str(word) for word in words])
        except SystemExit as end:
            code = int(end.code or 0)
    return subprocess.CompletedProcess(words, code, out.getvalue(), err.getvalue())


class DeliverTest(Folder):
    def test_files_to_prints_by_a_recipe(self) -> None:
        recipe = self.folder / "hard.json"
        recipe.write_text(Recipe(paper=PaperSettings(grade=4)).model_dump_json())
        raw = demo_capture("target")
        out = self.folder / "prints"
        done = at_once(
            "deliver", raw, picture_file(self.folder), "-o", out, "--recipe", recipe, "--jobs", 1
        )
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual(sorted(p.name for p in out.iterdir()), ["17 target.tif", "a.tif"])
        self.assertEqual(tifffile.imread(out / "a.tif").shape, (60, 90))

    def test_each_image_is_printed_as_is_proposed_for_it(self) -> None:
        out, raw = self.folder / "prints", demo_capture("target")
        done = at_once("deliver", raw, "-o", out, "--long-side", 600)
        again = at_once("deliver", raw, "-o", out, "--long-side", 600, "--propose")
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
        bad = self.folder / "bad.png", self.folder / "no.dng"
        done = at_once("deliver", *bad, good, "-o", out, "--jobs", 1)
        self.assertEqual(done.returncode, 1)
        self.assertIn("bad.png: this is not an image", done.stderr)
        self.assertIn("no.dng: cannot be read (No such file", done.stderr)
        self.assertEqual([p.name for p in out.iterdir()], ["a.tif"])

    def test_folders_patterns_sets_and_processes(self) -> None:
        card = self.folder / "card"
        (card / "in").mkdir(parents=True)
        for number in range(3):
            picture_file(card, f"{number}.png", number)
        picture_file(card / "in", "d.png", 5)
        (card / "notes.txt").write_text("nothing to print")
        out = self.folder / "prints"
        outputs = self.folder / "outputs.json"
        outputs.write_text('[{"format": "png", "bits": 8, "template": "{capture} small"}]')
        words = ("-o", out, "--set", "web", "--outputs", outputs, "--jobs", 2, "--json")
        done = at_once("deliver", card, *words)
        self.assertEqual(done.returncode, 0, done.stderr)
        ended = [json.loads(line) for line in done.stdout.splitlines()]
        self.assertEqual(
            {Path(e["image"]).name for e in ended}, {"0.png", "1.png", "2.png", "d.png"}
        )
        self.assertEqual(
            sorted(p.name for p in out.iterdir()),
            sorted(f"{n}{end}" for n in "012d" for end in (".jpg", " small.png")),
        )
        # broken off and gone on with: what is there of the same capture stays
        (out / "1.jpg").unlink()
        before = {path: path.stat().st_mtime_ns for path in out.iterdir()}
        again = run("deliver", card / "*.png", card / "in", *words, "--resume")
        self.assertEqual(again.returncode, 0, again.stderr)
        made = [file for line in again.stdout.splitlines() for file in json.loads(line)["files"]]
        self.assertEqual([Path(file).name for file in made], ["1.jpg"])
        for path, time in before.items():
            self.assertEqual(path.stat().st_mtime_ns, time, path.name)
        # of one name in two folders: both are there, also side by side
        picture_file(card / "in", "0.png", 9)
        twice = self.folder / "twice"
        both = (card / "0.png", card / "in" / "0.png")
        run("deliver", *both, "-o", twice, "--outputs", outputs, "--jobs", 2)
        self.assertEqual(len({path.read_bytes() for path in twice.iterdir()}), 2)
        # one process and two write the same bytes
        alone = self.folder / "alone"
        at_once("deliver", card / "0.png", "-o", alone, "--outputs", outputs)
        name = "0 small.png"
        self.assertEqual((alone / name).read_bytes(), (out / name).read_bytes())

    def test_a_starting_print_and_its_table(self) -> None:
        out = self.folder / "prints"
        picture = picture_file(self.folder)
        wrong = at_once("deliver", picture, "-o", out, "--start", "nothing")
        self.assertEqual(wrong.returncode, 2)
        name = wrong.stderr.split("there is ")[-1].split(",")[0].strip()
        done = at_once("deliver", picture, "-o", out, "--start", name, "--format", "png")
        self.assertEqual(done.returncode, 0, done.stderr)
        for kind in ("cube", "clf"):
            table = out / f"look.{kind}"
            made = at_once("table", "-o", table, "--start", name, "--size", 17)
            self.assertEqual(made.returncode, 0, made.stderr)
            self.assertGreater(table.stat().st_size, 17**3 * 20)
        for end in (".pdf", ".jpg"):
            sheet = out / f"sheet{end}"
            made = at_once("contact-sheet", picture, "-o", sheet, "--start", name, "--columns", 3)
            self.assertEqual(made.returncode, 0, made.stderr)
            self.assertGreater(sheet.stat().st_size, 10_000)
        self.assertIn("contact-sheet", at_once("completion", "bash").stdout)
        # a negative for contact printing, by the readings of a target
        readings, negative = self.folder / "readings.csv", out / "negative.png"
        densities = [f"{1.5 - 0.07 * step:.2f}" for step in range(21)]
        readings.write_text("\n".join(["density", *densities]))
        target = out / "next.png"
        said = at_once("measure", readings, "--target", target)
        self.assertIn("0.10 to 1.50 D", said.stdout)
        self.assertTrue(target.exists())
        words = ("-o", negative, "--mm", 50, "--ppi", 100, "--readings", readings, "--bare")
        made = at_once("negative", picture, *words, "--ink", "#802000")
        self.assertIn("197 × 131 pixels", made.stdout, made.stderr)
        self.assertEqual(at_once("negative", picture, *words, "--ink", "red").returncode, 2)
        for words in (("-o", out / "a.txt"), ("-o", out / "a.cube", "--input", "bt2020")):
            self.assertIn(at_once("table", *words).returncode, (1, 2))
        self.assertFalse((out / "a.cube").exists())

    def test_wrong_usage_and_recipes(self) -> None:
        recipe = self.folder / "r.json"
        recipe.write_text('{"paper": {"grade": 11}}')
        good = picture_file(self.folder)
        done = at_once("deliver", good, "-o", self.folder / "o", "--recipe", recipe)
        self.assertEqual((done.returncode, (self.folder / "o").exists()), (2, False))
        self.assertIn("paper.grade", done.stderr)
        self.assertEqual(at_once("deliver", good).returncode, 2)
        self.assertEqual(at_once("develop").returncode, 2)
        for command in ("serve", "demo", "deliver", "contact-sheet", "table", "bench"):
            self.assertIn("usage: silvrin " + command, at_once(command, "--help").stdout)

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
