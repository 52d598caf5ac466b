import shutil
import subprocess
import sys
import time
import unittest

import simplejpeg
from fastapi.testclient import TestClient

from silvrin.store import orders, rolls
from silvrin.store.library import Library
from silvrin.web.app import create_app
from tests.store.brackets import bracket
from tests.store.test_library import picture_file
from tests.web.test_app import HOST, WithServer

# a server that is killed while it merges
KILLED = """
import os, signal, sys, time
from pathlib import Path
from silvrin.store.library import Library
from silvrin.web.merges import MergeOrder, Merges

library = Library(Path(sys.argv[1]))
made = library.merger.made
def cut_off(file, progress, wanted):
    def halfway(share):
        if share > 0.7:
            os.kill(os.getpid(), signal.SIGKILL)
    return made(file, halfway, wanted)
library.merger.made = cut_off
Merges(library).put(MergeOrder(frames=[1, 2, 3], reference=2).model_dump_json())
time.sleep(120)
"""


class FolderTest(WithServer):
    def until(self, done, seconds: float = 60.0) -> None:
        end = time.monotonic() + seconds
        while not done():
            self.assertLess(time.monotonic(), end, "took too long")
            time.sleep(0.05)

    def test_a_folder_is_looked_at_taken_in_and_reported(self) -> None:
        card = self.folder / "card"
        (card / "inner").mkdir(parents=True)
        for number, name in enumerate(("a.png", "b.png", "inner/a.png")):
            picture_file(card, name, seed=number)
        (card / "c.png").write_bytes(b"\x89PNG\r\n\x1a\n but broken")
        (card / "notes.txt").write_text("tide tables")
        view = self.client.get("/api/folders", params={"path": str(card)}).json()
        self.assertEqual([f["name"] for f in view["folders"]], ["inner"])
        order = {"folder": str(card), "keep": "refer"}
        job = self.client.post("/api/imports", json=order).json()

        def state() -> dict:
            return next(i for i in self.client.get("/api/imports").json() if i["id"] == job["id"])

        self.until(lambda: state()["state"] not in ("waiting", "running"))
        files = self.client.get(f"/api/imports/{job['id']}/files").json()
        self.assertEqual(
            {f["path"]: f["outcome"] for f in files},
            {
                "a.png": "taken",
                "b.png": "taken",
                "inner/a.png": "taken",
                "c.png": "refused",
                "notes.txt": "left",
            },
        )
        frames = self.client.get(f"/api/rolls/{state()['roll_id']}/frames").json()
        self.assertEqual(len(frames), 3)
        missing = self.client.post("/api/imports", json={"folder": str(card / "nowhere")})
        self.assertEqual(missing.status_code, 422)

        ids = [frame["id"] for frame in frames]
        small, half = (
            simplejpeg.decode_jpeg_header(
                self.client.get(f"/api/frames/{ids[0]}/thumbnail{more}").content
            )[:2]
            for more in ("", "?half=true")
        )
        self.assertEqual((small, half), ((60, 90), (30, 45)))
        to = {"frames": ids[:2], "roll_id": self.roll}
        self.assertEqual(self.client.post("/api/frames/move", json=to).json(), {"staying": []})
        twin = self.library.take_in_file(card / "a.png", self.roll).frame
        back = {"frames": [twin], "roll_id": state()["roll_id"]}
        self.assertEqual(twin, ids[0])  # the roll has it
        self.assertEqual(self.client.post("/api/frames/move", json=back).json(), {"staying": []})
        there = self.library.take_in_file(card / "a.png", self.roll).frame
        to_it = {"frames": [twin], "roll_id": self.roll}
        self.assertEqual(
            self.client.post("/api/frames/move", json=to_it).json(), {"staying": [twin]}
        )
        self.client.post("/api/frames/bin", json={"frames": [there]})
        self.client.delete("/api/bin?originals=false")
        self.client.post("/api/frames/move", json=to_it)
        marks = {"frames": ids, "mark": "ring"}
        self.client.post("/api/frames/mark", json=marks)
        self.client.post("/api/frames/bin", json={"frames": ids[:1]})
        here = self.client.get(f"/api/rolls/{self.roll}/frames").json()
        self.assertEqual([(f["id"], f["mark"]) for f in here], [(ids[1], "ring")])
        self.assertEqual([f["id"] for f in self.client.get("/api/bin").json()], ids[:1])
        self.client.post("/api/frames/restore", json={"frames": ids[:1]})
        self.assertEqual(len(self.client.get(f"/api/rolls/{self.roll}/frames").json()), 2)
        self.client.delete(f"/api/rolls/{self.roll}")
        self.assertEqual(self.client.delete("/api/bin?originals=true").status_code, 204)
        self.assertTrue((card / "a.png").exists())  # outside the library, never deleted

    def test_a_merge_that_a_crash_cut_off_begins_anew(self) -> None:
        for file in bracket(self.folder):
            self.library.take_in_file(file, self.roll)
        found = self.client.get(f"/api/rolls/{self.roll}/brackets").json()
        self.assertEqual(found, [[1, 2, 3]])
        self.library.pictures.settle()
        run = subprocess.run([sys.executable, "-c", KILLED, str(self.home)], check=False)
        self.assertEqual(run.returncode, -9)
        self.assertEqual(len(orders.of_kind(self.library.database.read, "merge")), 1)
        self.assertEqual(len(rolls.frames_of(self.library.database.read, self.roll)), 3)

        library = Library(self.home)
        with TestClient(create_app(library), base_url=f"http://{HOST}") as client:
            self.until(lambda: len(rolls.frames_of(library.database.read, self.roll)) == 4)
            self.until(lambda: not orders.of_kind(library.database.read, "merge"))
            made = rolls.frames_of(library.database.read, self.roll)[-1]
            said = client.get(f"/api/frames/{made.id}/bracket").json()
            self.assertEqual(said, {"frames": [1, 2, 3], "reference": 2, "ghosts": 0.5})
            shown = client.post("/api/merges/moved", json=said)
            self.assertEqual(shown.content[:2], b"\xff\xd8")
            again = {**said, "ghosts": 1.0, "into": made.id}
            job = client.post("/api/merges", json=again).json()
            self.until(lambda: client.get(f"/api/merges/{job['id']}").json()["state"] == "done")
            anew = rolls.frame(library.database.read, made.id)
            self.assertNotEqual(anew.sha256, made.sha256)
            # one that is cancelled while it waits is not taken up again
            jobs = [client.post("/api/merges", json={**said, "ghosts": g}).json()["id"]
                    for g in (0.2, 0.3)]  # fmt: skip
            for number in reversed(jobs):
                client.delete(f"/api/merges/{number}")
            self.until(lambda: not orders.of_kind(library.database.read, "merge"))
            wrong = {"frames": [1, 2], "reference": 3}
            job = client.post("/api/merges", json=wrong).json()
            self.until(lambda: client.get(f"/api/merges/{job['id']}").json()["state"] == "failed")
        library.pictures.settle()
        shutil.rmtree(self.home / "cache")


if __name__ == "__main__":
    unittest.main()
