import json
import math
import struct
import subprocess
import time
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
import simplejpeg
from fastapi.testclient import TestClient
from starlette.websockets import WebSocketDisconnect

from silvrin import shelf
from silvrin.core.enlarger.projection import Projection
from silvrin.core.picture import View
from silvrin.core.recipe import PaperSettings, Recipe
from silvrin.core.render import Darkroom, Sitting
from silvrin.demo_job import demo_capture
from silvrin.errors import DiskFull
from silvrin.store import rolls
from silvrin.web import guard
from silvrin.web.app import create_app
from silvrin.web.document import document
from tests.store.test_library import WithLibrary, picture_file

HOST = "127.0.0.1:8420"
BINARY = {"content-type": "application/octet-stream"}
DOCS = Path(__file__).parents[2] / "docs"


def from_srgb(code):
    """Linear light of sRGB code values 0 to 1."""
    return np.where(code <= 0.04045, code / 12.92, ((code + 0.055) / 1.055) ** 2.4)


class WithServer(WithLibrary):
    def setUp(self) -> None:
        super().setUp()
        self.client = TestClient(create_app(self.library), base_url=f"http://{HOST}")
        self.addCleanup(self.client.close)

    def send(self, data: bytes, name: str = "a.png"):
        url = f"/api/rolls/{self.roll}/frames"
        return self.client.post(url, params={"name": name}, content=data, headers=BINARY)

    def frame(self, name: str = "a.png", seed: int = 0) -> dict:
        return self.send(picture_file(self.folder, name, seed).read_bytes(), name).json()


class GuardTest(WithServer):
    def test_foreign_hosts_and_origins_are_refused(self) -> None:
        for headers in (
            {"host": "silvrin.example"},
            {"host": "127.0.0.1.example:8420"},
            {"origin": "http://silvrin.example"},
            {"origin": "null"},
            {"origin": "http://127.0.0.1:9999"},
        ):
            answer = self.client.get("/api/rolls", headers=headers)
            self.assertEqual(answer.status_code, 403, headers)
            self.assertEqual(answer.headers["content-type"], "application/problem+json")
            with self.assertRaises(WebSocketDisconnect):
                self.client.websocket_connect(
                    "/api/live/1", headers={"host": HOST, **headers}
                ).__enter__()
        own = {"origin": "http://127.0.0.1:8420"}
        self.assertEqual(self.client.get("/api/rolls", headers=own).status_code, 200)
        for host in ("localhost:8420", "[::1]:8420"):
            self.assertEqual(self.client.get("/api/rolls", headers={"host": host}).status_code, 200)

    def test_bodies_are_bounded_stated_or_not(self) -> None:
        many = b"[" + b" " * (9 << 20) + b"]"
        json_type = {"content-type": "application/json"}
        stated = self.client.post("/api/rolls", content=many, headers=json_type)
        self.assertEqual(stated.status_code, 413)
        pieces = (many[i : i + 65536] for i in range(0, len(many), 65536))
        unstated = self.client.post("/api/rolls", content=pieces, headers=json_type)
        self.assertEqual(unstated.status_code, 413)
        with mock.patch.object(guard, "MOST_UPLOAD", 1000):
            answer = self.client.post(
                f"/api/rolls/{self.roll}/frames?name=a.png",
                content=(b"x" * 600 for _ in range(4)),
                headers=BINARY,
            )
        self.assertEqual(answer.status_code, 413)
        self.assertEqual(self.files_of("incoming"), [])


class ResourceTest(WithServer):
    def test_from_file_to_delivered_print(self) -> None:
        frame = self.frame()
        colour = self.client.get(f"/api/frames/{frame['id']}/thumbnail")
        self.assertEqual(colour.headers["content-type"], "image/jpeg")
        made = self.client.post(f"/api/frames/{frame['id']}/prints", json={"name": "P"}).json()
        change = {
            "base": made["head"],
            "label": "Grade 4",
            "recipe": {"look": {"paper": {"grade": 4}}},
        }
        changed = self.client.post(f"/api/prints/{made['id']}/changes", json=change).json()
        self.assertEqual(changed["recipe"]["look"]["paper"]["grade"], 4)
        stale = self.client.post(f"/api/prints/{made['id']}/changes", json=change)
        self.assertEqual(stale.status_code, 409)
        undone = self.client.post(f"/api/prints/{made['id']}/undo", json={"base": changed["head"]})
        self.assertEqual(undone.json()["redo"], "Grade 4")

        order = {"prints": [made["id"]], "outputs": [{"format": "tiff"}]}
        job = self.client.post("/api/deliveries", json=order).json()[0]
        for _ in range(200):
            job = self.client.get(f"/api/deliveries/{job['id']}").json()
            if job["state"] in ("done", "failed"):
                break
            time.sleep(0.02)
        self.assertEqual((job["state"], job["width"], job["height"]), ("done", 90, 60))
        file = self.client.get(f"/api/deliveries/{job['id']}/file")
        self.assertEqual(len(file.content), job["bytes"])
        self.assertEqual(Path(job["file"]).parent, self.home / "delivered")
        kept = self.library.database.read.execute("SELECT file FROM deliveries").fetchone()
        self.assertEqual(kept["file"], job["file"])

    def spot(self, x: int, y: int, recipe: dict | None = None):
        frame = self.frame()["id"]
        asked = {"x": x, "y": y, "recipe": recipe or {}}
        return self.client.post(f"/api/frames/{frame}/spot", json=asked)

    def test_a_spot_is_read(self) -> None:
        reading = self.spot(20, 20).json()
        # IEC 61966-2-1 of the file's own pixels, and CIE 1976 L* of the number on the print
        rgb = np.random.default_rng(0).integers(0, 255, (60, 90, 3), dtype=np.uint8)
        y, x = np.mgrid[-4:5, -4:5]
        circle = x**2 + y**2 <= 4.5**2
        linear = from_srgb(rgb[16:25, 16:25][circle] / 255.0).mean(axis=0)
        luminance = float(linear @ (0.2126, 0.7152, 0.0722))
        self.assertAlmostEqual(reading["stops"], math.log2(luminance / 0.18), delta=0.01)
        printed = float(from_srgb(np.array(reading["number"] / 255.0)))
        self.assertAlmostEqual(reading["value"], (116 * printed ** (1 / 3) - 16) / 10, delta=0.01)
        exposed = self.spot(20, 20, {"of_frame": {"film": {"placement": -1.5}}}).json()
        self.assertAlmostEqual(exposed["zone"], reading["zone"] - 1.5, delta=0.01)
        self.assertLess(exposed["number"], reading["number"])

    def test_a_development_is_proposed(self) -> None:
        url = "/api/shelf/stocks/larch-100/development?zone=9.5&target=8"
        self.assertAlmostEqual(self.client.get(url).json()["n"], -1.5, delta=0.02)
        self.assertEqual(self.client.get(url.replace("larch", "oak")).status_code, 404)

    def test_a_print_is_proposed_and_its_plain_state_is_under_it(self) -> None:
        frame = self.frame()["id"]
        said = self.client.post(f"/api/frames/{frame}/proposal", json={"recipe": {}}).json()
        made = self.client.post(f"/api/frames/{frame}/prints", json={"propose": True}).json()
        self.assertEqual(made["label"], f"Proposed: {said['says']}")
        look, own = made["recipe"]["look"], made["recipe"]["of_frame"]
        self.assertEqual(
            [own["film"]["placement"], look["development"]["n"], look["enlarger"]["time"],
             look["paper"]["grade"], look["paper"]["black_at"]],
            [said["settings"][station][name] for station, name in (
                ("film", "placement"), ("development", "n"), ("enlarger", "time"),
                ("paper", "grade"), ("paper", "black_at"))],
        )  # fmt: skip
        # an 8-bit PNG holds a camera's curve
        self.assertEqual(own["capture"]["camera_curve"], 0.6)
        one = {"recipe": made["recipe"], "only": "film"}
        for station in ("film", "paper"):
            only = self.client.post(f"/api/frames/{frame}/proposal", json={**one, "only": station})
            self.assertEqual(list(only.json()["settings"]), [station])
        wrong = self.client.post(f"/api/frames/{frame}/proposal", json={**one, "only": "lens"})
        self.assertEqual(wrong.status_code, 422)
        plain = self.client.post(f"/api/prints/{made['id']}/undo", json={"base": made["head"]})
        self.assertIsNone(plain.json()["undo"])
        self.assertEqual(plain.json()["recipe"]["look"]["paper"]["grade"], 2)
        gone = self.client.post("/api/frames/999/prints", json={"propose": True})
        self.assertEqual(gone.status_code, 404)
        bad = {"recipe": {"look": {"film": {"stock": "nothing"}}}}
        refused = self.client.post(f"/api/frames/{frame}/proposal", json=bad)
        self.assertEqual((refused.status_code, "nothing" in refused.text), (422, True))

    def test_frames_are_asked_for_by_what_is_in_sight(self) -> None:
        frame = self.frame()
        sheet = self.client.get(f"/api/rolls/{self.roll}/sheet?search=A.PNG&order=time").json()
        self.assertEqual((sheet["frames"], sheet["marks"]), ([frame["id"]], [0]))
        self.assertEqual(self.client.get("/api/frames", params={"ids": [77, 1]}).json(), [frame])
        many = self.client.get("/api/frames", params={"ids": list(range(201))})
        self.assertEqual(many.status_code, 422)
        self.assertIn("200", many.json()["detail"])
        self.assertEqual(self.client.get("/api/rolls/99/sheet").status_code, 404)

    def test_half_a_small_picture_is_shown_on_a_full_disk_too(self) -> None:
        frame = self.frame()
        url = f"/api/frames/{frame['id']}/thumbnail?half=true"
        kept = self.client.get(url).content
        (half,) = (p for p in self.files_of("cache") if p.stem.endswith("-half"))
        self.assertEqual(half.read_bytes(), kept)
        half.unlink()
        full = DiskFull("The disk is full.")
        with mock.patch("silvrin.store.smalls.whole_or_nothing", side_effect=full):
            self.assertEqual(self.client.get(url).content, kept)
        self.assertFalse(half.exists())
        self.assertEqual(self.client.get(url).content, half.read_bytes())

    def test_marks(self) -> None:
        frame = self.frame()
        url = f"/api/frames/{frame['id']}"
        self.assertEqual(self.client.patch(url, json={"mark": "ring"}).json()["mark"], "ring")
        self.assertEqual(self.client.get("/api/rolls").json()[0]["ringed"], 1)
        self.assertEqual(self.client.patch(url, json={"mark": "heart"}).status_code, 422)

    def test_bad_input_is_explained_and_the_server_goes_on(self) -> None:
        cases = [
            (self.send(b""), 422, "0 bytes"),
            (self.send(b"Dear diary", "diary.jpg"), 422, "diary.jpg"),
            (self.send(b"x", "../../evil.png"), 422, "'../../evil.png' is not a file name"),
            (self.client.get("/api/frames/77"), 404, "frame 77"),
            (self.client.get("/api/frames/x"), 422, "frame_id"),
            (self.client.get("/api/nothing"), 404, ""),
            (self.spot(500, 2), 422, "(500, 2) is outside the picture; it has 90 x 60"),
            (self.client.post("/api/rolls", json={"name": ""}), 422, "name"),
            (self.client.post("/api/rolls", json={"name": "a", "b": 1}), 422, "b is not a field"),
            (self.client.post("/api/rolls", content=b"{"), 422, "body"),
        ]
        frame = self.frame()["id"]
        for recipe, part in (
            ({"look": {"paper": {"grade": 9}}}, "recipe.look.paper.grade"),
            ({"stop bath": {}}, "stop bath is not a part of a recipe"),
            ({"look": {"film": {"stock": "gone-400"}}}, "'gone-400' is not on the shelf"),
        ):
            answer = self.client.post(f"/api/frames/{frame}/prints", json={"recipe": recipe})
            cases.append((answer, 422, part))
        for answer, status, part in cases:
            self.assertEqual(answer.status_code, status, answer.text)
            self.assertEqual(answer.headers["content-type"], "application/problem+json")
            self.assertIn(part, answer.json()["detail"])
            self.assertNotRegex(answer.json()["detail"], r"\b(body|path|query)\.")
        self.assertEqual(self.files_of("incoming"), [])
        self.assertEqual(self.client.get(f"/api/frames/{frame}").json()["prints"], [])

    def test_the_api_document_and_its_types_are_up_to_date(self) -> None:
        self.assertEqual((DOCS / "openapi.json").read_text(), document(), "run: make types")
        frontend = DOCS.parent / "frontend"
        made = subprocess.run(
            ["npx", "--no-install", "openapi-typescript", "../docs/openapi.json"],
            cwd=frontend, capture_output=True, text=True, check=True,
        )  # fmt: skip
        types = (frontend / "src" / "api" / "schema.generated.ts").read_text()
        self.assertEqual(made.stdout.strip(), types.strip(), "run: make types")
        subprocess.run(["node", "scripts/recipe-parts.mjs", "--check"], cwd=frontend, check=True)


class WithSocket(WithServer):
    def setUp(self) -> None:
        super().setUp()
        self.frame_id = self.frame()["id"]
        sha256 = rolls.frame(self.library.database.read, self.frame_id).sha256
        self.picture = self.library.picture(sha256)

    def connect(self, frame: int):
        return self.client.websocket_connect(f"/api/live/{frame}", headers={"host": HOST})

    def wish(self, seq: int, grade: float = 2, **more: object) -> str:
        view = {"left": 10, "top": 5, "width": 40, "height": 30, "out_width": 40, "out_height": 30}
        recipe = {"look": {"paper": {"grade": grade}}}
        return json.dumps({"seq": seq, "recipe": recipe, "view": view, **more})

    @staticmethod
    def parse(message: bytes) -> tuple[dict, np.ndarray]:
        (length,) = struct.unpack("<I", message[:4])
        header = json.loads(message[4 : 4 + length])
        shape = (header["height"], header["width"], header["channels"])
        return header, np.frombuffer(message[4 + length :], np.uint8).reshape(shape)


class LiveTest(WithSocket):
    def test_pixels_are_those_of_the_light_path(self) -> None:
        with self.connect(self.frame_id) as socket:
            socket.send_text(self.wish(7, grade=3))
            header, pixels = self.parse(socket.receive_bytes())
            socket.send_text(self.wish(8, show="colour"))
            colour, _ = self.parse(socket.receive_bytes())
        path = shelf.light_path(Recipe(paper=PaperSettings(grade=3)))
        wanted = Darkroom().view(Sitting("w", self.picture, path), View(10, 5, 40, 30, 40, 30))
        np.testing.assert_array_equal(pixels[..., 0], wanted)
        self.assertEqual((header["seq"], colour["seq"], colour["channels"]), (7, 8, 3))
        reading = header["reading"]
        self.assertEqual(sum(reading["histogram"]), 90 * 60)  # of the whole picture
        for shares in (reading["scene_zones"], reading["print_values"]):
            self.assertAlmostEqual(sum(shares), 1, places=6)
        self.assertAlmostEqual(header["facts"]["time"], path[Projection].time)

    def test_a_picture_and_its_reading_come_apart_where_that_is_wanted(self) -> None:
        with self.connect(self.frame_id) as socket:
            socket.send_text(self.wish(1, grade=4))
            both, wanted = self.parse(socket.receive_bytes())
            socket.send_text(self.wish(2, grade=4, wants="picture"))
            alone, pixels = self.parse(socket.receive_bytes())
            socket.send_text(self.wish(2, grade=4, wants="reading"))
            read = json.loads(socket.receive_text())
            socket.send_text(self.wish(3, wants="nothing"))
            self.assertIn("'all', 'picture' or 'reading'", socket.receive_text())
        np.testing.assert_array_equal(pixels, wanted)
        self.assertIsNone(alone["reading"])
        self.assertEqual(read, {"seq": 2, "reading": both["reading"]})

    def test_a_raw_is_shown_roughly_and_then_itself_without_being_asked_again(self) -> None:
        frame = self.library.take_in_file(demo_capture("bottle kiln"), self.roll).frame
        sha256 = rolls.frame(self.library.database.read, frame).sha256
        self.assertFalse(self.library.pictures.ready(sha256))  # looked over, not developed
        view = {"left": 0, "top": 0, "width": 2400, "height": 1600,
                "out_width": 480, "out_height": 320}  # fmt: skip
        with self.connect(frame) as socket:
            socket.send_text(json.dumps({"seq": 5, "recipe": {}, "view": view}))
            (first, rough), (second, pixels) = (
                self.parse(socket.receive_bytes()) for _ in range(2)
            )
        self.assertEqual((first["seq"], second["seq"]), (5, 5))
        self.assertEqual((second["picture_width"], second["picture_height"]), (2400, 1600))
        self.assertEqual(rough.shape, pixels.shape)
        self.assertGreater(np.corrcoef(rough.ravel(), pixels.ravel())[0, 1], 0.97)
        picture = self.library.picture(sha256)
        wanted = Darkroom().view(
            Sitting("w", picture, shelf.light_path(Recipe())), picture.whole(480)
        )
        np.testing.assert_array_equal(pixels[..., 0], wanted)
        preview = self.client.get(f"/api/frames/{frame}/preview").content
        self.assertGreater(simplejpeg.decode_jpeg_header(preview)[1], 900)

    def test_newest_wish_wins_and_stale_ones_are_dropped(self) -> None:
        from silvrin.web.live import socket as live

        slow = live.answer

        def slowly(*arguments):
            time.sleep(0.2)
            return slow(*arguments)

        with (
            mock.patch.object(live, "answer", slowly),
            self.connect(self.frame_id) as socket,
        ):
            for seq in range(1, 21):
                socket.send_text(self.wish(seq))
                time.sleep(0.005)
            seen = [self.parse(socket.receive_bytes())[0]["seq"]]
            while seen[-1] != 20:
                seen.append(self.parse(socket.receive_bytes())[0]["seq"])
        self.assertLessEqual(len(seen), 3)

    def test_a_bad_wish_is_explained_and_the_next_one_served(self) -> None:
        with self.connect(self.frame_id) as socket:
            for wish, part in (
                (self.wish(1, grade=8), "recipe.look.paper.grade"),
                ("{", "JSON"),
                (self.wish(3).replace('"width": 40', '"width": 0'), "view.width"),
            ):
                socket.send_text(wish)
                self.assertIn(part, socket.receive_json()["detail"])
            socket.send_text(self.wish(4))
            self.assertEqual(self.parse(socket.receive_bytes())[0]["seq"], 4)
        with self.connect(999) as socket:
            self.assertIn("frame 999", socket.receive_json()["detail"])


if __name__ == "__main__":
    unittest.main()
