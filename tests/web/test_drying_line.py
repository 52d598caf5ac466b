"""Orders, the drying line, output sets and profiles over HTTP."""

import io
import json
import random
import re
import sqlite3
import time
import unittest
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile
from fastapi.testclient import TestClient
from PIL import Image

from silvrin.core.colour import encode_srgb
from silvrin.core.recipe import CaptureSettings, Mend, Recipe
from silvrin.core.recipe.drawings import Sheets
from silvrin.instruments.contact_frame import ContactFrame
from silvrin.store import orders, prints, rolls
from silvrin.web.app import create_app
from tests.core.contact.test_photographed import photograph, printed
from tests.servers import Server
from tests.store.test_library import picture_file
from tests.test_cli import at_once
from tests.web.test_app import HOST, WithServer, from_srgb

KILLS = 30


class WithPrints(WithServer):
    def setUp(self) -> None:
        super().setUp()
        self.frames = [self.frame()["id"]]
        self.prints = [self.printed(self.frames[0])]

    def printed(self, frame: int, **look: object) -> int:
        body = {"name": "P", "recipe": {"look": look}}
        return self.client.post(f"/api/frames/{frame}/prints", json=body).json()["id"]

    def order(self, *outputs: dict, **more: object):
        wanted = {"prints": self.prints, "outputs": list(outputs), **more}
        return self.client.post("/api/deliveries", json=wanted)

    def finished(self, *outputs: dict, **more: object) -> list[dict]:
        answer = self.order(*outputs, **more)
        self.assertEqual(answer.status_code, 202, answer.text)
        return [self.ended(job["id"]) for job in answer.json()]

    def ended(self, number: int) -> dict:
        for _ in range(500):
            job = self.client.get(f"/api/deliveries/{number}").json()
            if job["state"] in ("done", "failed", "cancelled"):
                return job
            time.sleep(0.02)
        raise AssertionError(f"delivery {number} does not end")

    def line(self) -> dict:
        return self.client.get("/api/deliveries").json()


class OrderTest(WithPrints):
    def test_many_prints_as_several_outputs(self) -> None:
        other = self.printed(self.frame("b.png", 3)["id"])
        self.prints.append(other)
        jobs = self.finished(
            {"name": "A", "format": "tiff"}, {"name": "B", "format": "jpeg", "quality": 80},
            {"name": "C", "format": "png", "template": "{output} {year} {capture}"},
        )  # fmt: skip
        self.assertEqual([job["state"] for job in jobs], ["done"] * 6)
        names = [Path(job["file"]).name for job in jobs]
        self.assertEqual(names[2:6:3], ["C undated a.png", "C undated b.png"])
        self.assertEqual(len(set(names)), 6)
        line = self.line()
        self.assertEqual([job["id"] for job in line["finished"]], [j["id"] for j in jobs[::-1]])
        self.assertEqual((line["open"], line["line"]["finished"]), ([], 6))
        self.assertEqual(line["line"]["progress"], 1.0)
        small = self.client.get(f"/api/deliveries/{jobs[0]['id']}/small")
        with Image.open(io.BytesIO(small.content)) as seen:
            self.assertEqual(seen.size, (90, 60))
        shown = self.client.get(f"/api/deliveries/{jobs[1]['id']}/file?inline=true")
        self.assertTrue(shown.headers["content-disposition"].startswith("inline"))

    def test_frames_stand_for_the_print_that_the_sheet_shows(self) -> None:
        bare = self.frame("b.png", 3)["id"]
        wanted = {"frames": [self.frames[0], bare], "outputs": [{}]}
        plan = self.client.post("/api/deliveries/plan", json=wanted).json()
        self.assertEqual((plan["files"], plan["without"]), (1, 1))
        (job,) = self.client.post("/api/deliveries", json=wanted).json()
        self.assertEqual(self.ended(job["id"])["print_id"], self.prints[0])
        none = self.client.post("/api/deliveries", json={"frames": [bare], "outputs": [{}]})
        self.assertEqual(none.status_code, 404)
        self.assertIn("Make one first", none.json()["detail"])

    def test_what_was_ordered_is_what_the_print_was_then(self) -> None:
        at = f"/api/prints/{self.prints[0]}"
        head = self.client.get(at).json()["head"]
        (before,) = self.finished({})
        change = {"base": head, "label": "x", "recipe": {"look": {"paper": {"grade": 5}}}}
        self.client.post(f"{at}/changes", json=change)
        again = self.client.post(f"/api/deliveries/{before['id']}/again").json()
        again = self.ended(again["id"])
        self.assertTrue(again["file"].endswith(" 2.tif"))
        first, second = (tifffile.imread(job["file"]) for job in (before, again))
        self.assertGreater(np.abs(first.astype(int) - second).max(), 1000)

    def test_files_of_a_name_that_is_there(self) -> None:
        (old,) = self.finished({"format": "png"})
        plan = {"prints": self.prints, "outputs": [{"format": "png", "clash": "ask"}]}
        self.assertEqual(
            self.client.post("/api/deliveries/plan", json=plan).json()["clashes"], [old["file"]]
        )
        asked = self.order({"format": "png", "clash": "ask"})
        self.assertEqual(asked.status_code, 409)
        self.assertIn("number the new ones or to replace", asked.json()["detail"])
        Path(old["file"]).write_bytes(b"mine")
        (numbered,) = self.finished({"format": "png", "clash": "ask"}, clashes="number")
        self.assertTrue(numbered["file"].endswith(" 2.png"))
        self.assertEqual(Path(old["file"]).read_bytes(), b"mine")
        # two of one order never take each other's place
        twice = self.finished(
            {"format": "png", "clash": "replace"}, {"format": "png", "clash": "replace", "bits": 8}
        )
        self.assertEqual(twice[0]["file"], old["file"])
        self.assertTrue(twice[1]["file"].endswith(" 3.png"))
        self.assertNotEqual(Path(old["file"]).read_bytes(), b"mine")

    def test_what_cannot_be_is_said(self) -> None:
        for output, words in (
            ({"template": "../{title}"}, "names a file, not a folder"),
            ({"template": "{author}"}, "none of its names"),
            ({"template": "x" * 301}, "300"),
            ({"template": "{title"}, "a brace is open"),
            ({"folder": "prints"}, "no folder of this computer"),
            ({"format": "jpeg", "bits": 16}, "jpeg has 8 bits"),
            ({"format": "jxl", "space": "romm"}, "grey or sRGB"),
            ({"size": {"by": "long", "value": 10}}, "64 to 65000 pixels"),
            ({"size": {"by": "mm"}}, "5 to 10000 mm"),
            ({"size": {"by": "full", "value": 3}}, "has no value"),
            ({"space": "profile"}, "a profile of the shelf"),
            ({"holds": "negative"}, "written as exr"),
            ({"format": "gif"}, "format"),
        ):
            with self.subTest(words):
                refused = self.order(output)
                self.assertEqual(refused.status_code, 422)
                self.assertIn(words, refused.json()["detail"])
        self.assertEqual(self.order().status_code, 422)
        self.assertEqual(self.line()["open"], [])
        huge = {"size": {"by": "mm", "value": 10_000, "ppi": 4800, "upscale": True}}
        (failed,) = self.finished(huge)
        self.assertIn("up to 60000 pixels", failed["error"])

    def test_a_failure_is_kept_tried_again_or_put_away(self) -> None:
        blocked = self.folder / "file"
        blocked.write_bytes(b"in the way")
        (failed,) = self.finished({"folder": str(blocked / "in"), "format": "png"})
        self.assertEqual(failed["state"], "failed")
        self.assertIn("cannot be written", failed["error"])
        self.assertEqual(self.line()["line"]["failed"], 1)
        self.assertEqual(self.client.post(f"/api/deliveries/{failed['id']}/again").status_code, 202)
        blocked.unlink()
        self.client.post(f"/api/deliveries/{failed['id']}/retry")
        done = self.ended(failed["id"])
        self.assertEqual(done["state"], "done")
        self.assertEqual(Path(done["file"]).parent, blocked / "in")
        self.assertEqual(self.client.post(f"/api/deliveries/{done['id']}/retry").status_code, 409)
        # taken off the line, its file stays
        self.client.delete(f"/api/deliveries/{done['id']}")
        self.assertTrue(Path(done["file"]).exists())
        self.assertNotIn(done["id"], [job["id"] for job in self.line()["finished"]])

    def test_cancelling_all_leaves_what_is_finished(self) -> None:
        self.prints *= 30
        jobs = self.order({"format": "png"}).json()
        self.ended(jobs[0]["id"])
        self.client.delete("/api/deliveries/waiting")
        states = [self.ended(job["id"])["state"] for job in jobs]
        self.assertEqual(states[0], "done")
        self.assertIn("cancelled", states)
        files = [p for p in (self.home / "delivered").iterdir() if not p.name.startswith(".")]
        self.assertEqual(len(files), states.count("done"))
        self.client.delete("/api/deliveries/finished")
        self.assertEqual(self.line()["finished"], [])

    def test_a_file_that_was_moved_is_said_to_be(self) -> None:
        (job,) = self.finished({"format": "png"})
        Path(job["file"]).unlink()
        self.assertFalse(self.line()["finished"][0]["there"])
        self.assertEqual(self.client.get(f"/api/deliveries/{job['id']}/file").status_code, 404)
        shown = self.client.post(f"/api/deliveries/{job['id']}/reveal")
        self.assertEqual(shown.status_code, 404)


class EarlierOrdersTest(WithServer):
    def test_orders_of_an_earlier_silvrin_go_on(self) -> None:
        """As that one wrote them: TIFF or JPEG, a long side or the print's size."""
        frame = self.frame()["id"]
        with self.library.database.write() as connection:
            made = prints.add_print(connection, frame, "P", Recipe())
            plain = {"print_id": made.id, "change": made.head, "format": "jpeg", "long_side": None,
                     "print_size": False, "space": "srgb", "mounted": True}  # fmt: skip
            for more in ({}, {"long_side": 70}, {"format": "tiff", "space": "display-p3"}):
                orders.add(connection, "delivery", json.dumps({**plain, **more}))
        with TestClient(create_app(self.library), base_url=f"http://{HOST}") as client:
            for _ in range(300):
                line = client.get("/api/deliveries").json()
                if not line["open"]:
                    break
                time.sleep(0.02)
        found = line["finished"][::-1]
        self.assertEqual([Path(job["file"]).suffix for job in found], [".jpg", ".jpg", ".tif"])
        self.assertEqual([job["width"] for job in found], [90, 70, 90])
        self.assertEqual(found[2]["output"]["space"], "display-p3")


class SetsTest(WithPrints):
    def test_sets_are_kept_changed_and_removed(self) -> None:
        found = self.client.get("/api/output-sets").json()
        self.assertEqual([s["name"] for s in found["sets"]], ["Web", "Print shop", "Archive"])
        self.assertEqual(found["plain"]["format"], "tiff")
        (web,) = self.finished(found["sets"][0]["outputs"][0])
        self.assertEqual(web["state"], "done")
        both = {"name": "Mine", "outputs": [{"format": "avif"}, {"format": "pdf", "marks": True}]}
        made = self.client.post("/api/output-sets", json=both).json()
        for taken in ("Mine", "Web"):
            again = self.client.post("/api/output-sets", json={**both, "name": taken})
            self.assertEqual(again.status_code, 409)
        changed = {"name": "Ours", "outputs": [{"format": "png"}]}
        self.client.put(f"/api/output-sets/{made['id']}", json=changed)
        kept = self.client.get("/api/output-sets").json()["sets"][3]
        self.assertEqual((kept["name"], kept["outputs"][0]["format"]), ("Ours", "png"))
        self.assertEqual(self.client.put("/api/output-sets/99", json=changed).status_code, 404)
        self.assertEqual(self.client.delete(f"/api/output-sets/{made['id']}").status_code, 204)
        self.assertEqual(self.client.delete(f"/api/output-sets/{made['id']}").status_code, 404)

    def test_the_shops_own_profile(self) -> None:
        """Of a printer with a curve of 2.6: the file's numbers are those of that curve."""
        curve = np.rint(np.linspace(0, 1, 4096) ** 2.6 * 65535).astype(np.uint16)
        profile = bytes(
            imagecodecs.cms_profile(
                "rgb", whitepoint=[0.3457, 0.3585, 1.0], transferfunction=curve,
                primaries=[0.6, 0.33, 1.0, 0.25, 0.6, 1.0, 0.16, 0.1, 1.0],
            )
        )  # fmt: skip

        def put(name: str, content: bytes):
            headers = {"content-type": "application/octet-stream"}
            at = f"/api/profiles?name={name}"
            return self.client.post(at, content=content, headers=headers)

        shop = put("Shop.icc", profile)
        self.assertEqual((shop.status_code, shop.json()["colours"]), (201, "RGB"))
        for wrong in (b"", b"no profile", profile[:300]):
            refused = put("x.icc", wrong)
            self.assertEqual(refused.status_code, 400)
            self.assertIn("no ICC profile", refused.json()["detail"])
        at = shop.json()["id"]
        output = {"format": "tiff", "bits": 8, "space": "profile", "profile": at}
        (job,) = self.finished(output)
        numbers = tifffile.imread(job["file"])
        with tifffile.TiffFile(job["file"]) as file:
            self.assertEqual(file.pages[0].iccprofile, profile)
        (plain,) = self.finished({"format": "tiff", "bits": 8})
        grey = tifffile.imread(plain["file"])
        wanted = 255.0 * from_srgb(grey / 255.0) ** (1 / 2.6)  # neutral, whatever the primaries
        self.assertLessEqual(np.abs(numbers - wanted[..., None])[grey > 1].max(), 1)
        self.assertGreater(np.abs(numbers.astype(int) - grey[..., None]).max(), 10)
        # a set that prints through it holds it on the shelf; without it, that is said
        kept = {"name": "Shop", "outputs": [output]}
        number = self.client.post("/api/output-sets", json=kept).json()["id"]
        self.assertEqual(self.client.delete(f"/api/profiles/{at}").status_code, 409)
        self.client.delete(f"/api/output-sets/{number}")
        self.assertEqual(self.client.delete(f"/api/profiles/{at}").status_code, 204)
        (failed,) = self.finished(output)
        self.assertIn("not on the shelf any more", failed["error"])


class ComesBackTest(WithPrints):
    def drop(self, path: Path, name: str | None = None, **more: object):
        headers = {"content-type": "application/octet-stream"}
        params = {"name": name or path.name, **more}
        at = f"/api/rolls/{self.roll}/frames"
        return self.client.post(at, params=params, content=path.read_bytes(), headers=headers)

    def test_a_delivered_file_opens_as_its_print_and_is_made_again_to_the_bit(self) -> None:
        sheet = Sheets()
        mend = Mend(x=10, y=12, radius=4)
        recipe = Recipe(capture=CaptureSettings(mends=sheet.mends([mend])))
        body = {"name": "Mended", "recipe": json.loads(recipe.model_dump_json()),
                "sheets": list(sheet.texts.values())}  # fmt: skip
        made = self.client.post(f"/api/frames/{self.frames[0]}/prints", json=body).json()
        self.prints = [made["id"]]
        outputs = [{"format": form} for form in ("tiff", "jpeg", "png", "pdf", "exr", "jxl")]
        files = [Path(job["file"]) for job in self.finished(*outputs, {"sidecar": True})]
        beside = files[-1].with_suffix(".silvrin.json")
        for path in (*files, beside):
            with self.subTest(path.name):
                found = self.drop(path)
                self.assertEqual(found.status_code, 200, found.text)
                self.assertEqual(found.headers["silvrin-print"], str(made["id"]))
        # the print goes on; the file still is what it was
        change = {"base": made["head"], "label": "x", "recipe": {"look": {"paper": {"grade": 5}}}}
        self.client.post(f"/api/prints/{made['id']}/changes", json=change)
        new = int(self.drop(files[0]).headers["silvrin-print"])
        self.assertNotEqual(new, made["id"])
        kept = self.client.get(f"/api/prints/{new}").json()
        self.assertEqual(kept["recipe"], made["recipe"])
        self.prints = [new]
        self.assertEqual(int(self.drop(files[1]).headers["silvrin-print"]), new)
        for old, job in zip(files, self.finished(*outputs), strict=False):
            self.assertEqual(old.read_bytes(), Path(job["file"]).read_bytes(), old.name)
        self.assertEqual(self.files_of("incoming"), [])

    def test_a_pdf_of_several_prints_opens_as_all_of_them(self) -> None:
        frames = [*self.frames, self.frame("b.png", 3)["id"]]
        self.prints.append(self.printed(frames[1], paper={"grade": 4}))
        book = {"format": "pdf", "page": {"together": True}}
        (job,) = self.finished(book)
        file = Path(job["file"])
        self.assertEqual(int(self.drop(file).headers["silvrin-print"]), self.prints[0])
        kept = [self.client.get(f"/api/prints/{each}").json() for each in self.prints]
        for each in kept:  # the prints go on; the file still is what it was
            recipe = {"look": {"paper": {"grade": 5}}}
            change = {"base": each["head"], "label": "x", "recipe": recipe}
            changed = self.client.post(f"/api/prints/{each['id']}/changes", json=change)
            self.assertEqual(changed.status_code, 201, changed.text)
        first = int(self.drop(file).headers["silvrin-print"])
        both = [self.client.get(f"/api/frames/{frame}/prints").json() for frame in frames]
        self.assertEqual([len(prints) for prints in both], [2, 2])
        self.prints = [prints[-1]["id"] for prints in both]
        self.assertEqual(self.prints[0], first)
        for new, old in zip(self.prints, kept, strict=True):
            self.assertEqual(self.client.get(f"/api/prints/{new}").json()["recipe"], old["recipe"])
        (again,) = self.finished(book)
        self.assertEqual(Path(again["file"]).read_bytes(), file.read_bytes())
        self.client.post("/api/frames/bin", json={"frames": frames[1:]})
        refused = self.drop(file)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("2 prints that Silvrin delivered", refused.json()["detail"])
        self.assertIn("captures b.png are not in this library", refused.json()["detail"])

    def test_without_its_capture_it_says_which_one_it_wants(self) -> None:
        (job,) = self.finished({"format": "jpeg"})
        with self.library.database.write() as connection:
            connection.execute("UPDATE frames SET binned_at = 'now'")
        refused = self.drop(Path(job["file"]), "x.jpg")
        self.assertEqual((refused.status_code, refused.json()["title"]), (422, "A delivered print"))
        self.assertIn("of the capture a.png", refused.json()["detail"])
        taken = self.drop(Path(job["file"]), "x.jpg", as_picture=True)
        self.assertEqual((taken.status_code, taken.json()["title"]), (201, "X"))
        self.assertEqual(self.files_of("incoming"), [])

    def test_a_recipe_that_does_not_hold_is_refused(self) -> None:
        (job,) = self.finished({"sidecar": True})
        beside = Path(job["file"]).with_suffix(".silvrin.json")
        given = json.loads(beside.read_text())
        given["look"]["paper"] = {"grade": 99}
        beside.write_text(json.dumps(given))
        refused = self.drop(beside)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("grade", refused.json()["detail"])


class PrintedTest(WithPrints):
    def test_a_contact_sheet_and_a_table(self) -> None:
        at = f"/api/rolls/{self.roll}/contact-sheet"
        sheet = self.client.get(f"{at}.pdf?paper=a3&columns=4")
        self.assertEqual((sheet.status_code, sheet.content[:5]), (200, b"%PDF-"))
        picture = self.client.get(f"{at}.jpg")
        with Image.open(io.BytesIO(picture.content)) as seen:
            self.assertEqual(seen.size, (2480, 3508))
        for wrong, status in (
            (".jpg?page=2", 404),
            (".pdf?only=ring", 404),
            (".pdf?columns=1", 422),
        ):
            self.assertEqual(self.client.get(at + wrong).status_code, status)
        table = f"/api/prints/{self.prints[0]}/table"
        cube = self.client.get(f"{table}.cube?size=9").text
        self.assertIn("LUT_3D_SIZE 9\n", cube)
        self.assertEqual(len(cube.splitlines()), 6 + 9**3)
        linear = self.client.get(f"{table}.cube?input=bt2020")
        self.assertIn("Take CLF", linear.json()["detail"])


class ContactTest(WithPrints):
    def test_a_process_is_measured_refined_kept_and_prints_a_negative(self) -> None:
        at = "/api/contact"
        first = self.client.post(f"{at}/fit", json={"stand_in": True}).json()
        self.assertEqual((len(first["ink"]), first["rounds"]), (31, 1))
        self.assertGreater(first["straight"], 0.25)
        named = {"stand_in": True, "name": "Iron salts"}
        kept = self.client.post(f"{at}/processes", json=named).json()
        self.assertEqual(self.client.post(f"{at}/processes", json=named).status_code, 409)
        again = {**named, "process": kept["id"]}
        second = self.client.post(f"{at}/processes", json=again).json()
        self.assertEqual((second["id"], second["rounds"]), (kept["id"], 2))
        shown = self.client.get(f"{at}/processes/{kept['id']}").json()
        self.assertLess(shown["straight"], 0.05)  # with the noise of its readings
        self.assertLess(np.abs(shown["residuals"]).max(), 0.03)
        # readings of one's own, and what is none
        densities = np.linspace(1.5, 0.1, 21)
        lines = "\n".join(f"{d:.2f}".replace(".", ",") for d in densities)
        own = self.client.post(f"{at}/fit", json={"steps": 21, "text": lines}).json()
        self.assertAlmostEqual(own["black"], 1.5, delta=0.02)
        numbered = "step;density\n" + "\n".join(
            f"{n + 1};{densities[n]:.3f}" for n in np.random.default_rng(1).permutation(21)
        )
        same = self.client.post(f"{at}/fit", json={"steps": 21, "text": numbered}).json()
        np.testing.assert_allclose(same["curve"], own["curve"], atol=0.01)
        for wrong, words in (
            ({"steps": 31, "text": lines}, "the target has 31 patches"),
            ({"steps": 21, "text": "a;b\n1;2"}, "no column of density"),
            ({"steps": 21, "text": "\n".join(["0.5"] * 21)}, "at least 0.3"),
        ):
            refused = self.client.post(f"{at}/fit", json=wrong)
            self.assertIn(refused.status_code, (400, 422))
            self.assertIn(words, refused.json()["detail"])
        with Image.open(io.BytesIO(self.client.get(f"{at}/target.png?steps=21").content)) as seen:
            self.assertEqual(round(seen.info["dpi"][0]), 300)
            plain = np.asarray(seen.convert("L")).astype(int)
        linear = self.client.get(f"{at}/target.png?steps=21&process={kept['id']}").content
        with Image.open(io.BytesIO(linear)) as seen:
            self.assertGreater(np.abs(np.asarray(seen.convert("L")).astype(int) - plain).max(), 40)
        # the negative: larger by its marks, in its ink, mirrored, without loss
        contact = {"process": kept["id"], "ink": "#b03000"}
        size = {"by": "mm", "value": 60, "ppi": 100}
        outputs = [
            {"format": form, "holds": "contact", "contact": contact, "size": size}
            for form in ("png", "tiff", "pdf")
        ]
        jobs = self.finished(*outputs)
        self.assertEqual([job["state"] for job in jobs], ["done"] * 3, [j["error"] for j in jobs])
        with Image.open(jobs[0]["file"]) as seen:
            found = np.asarray(seen)
            self.assertEqual(found.shape[2], 3)
        np.testing.assert_array_equal(tifffile.imread(jobs[1]["file"]), found)
        self.assertTrue(((found[..., 0] >= 0xB0) & (found[..., 2] <= 255)).all())
        refused = self.order({"format": "jpeg", "holds": "contact"})
        self.assertIn("written as tiff, png, pdf", refused.json()["detail"])
        self.client.delete(f"{at}/processes/{kept['id']}")
        (failed,) = self.finished(outputs[0])
        self.assertIn("on the shelf any more", failed["error"])


class PhotographTest(WithServer):
    def test_a_target_is_read_from_a_photograph(self) -> None:
        frame = ContactFrame()
        light = photograph(printed(21, frame))
        file = self.folder / "target.tif"
        coded = np.rint(65535 * encode_srgb(np.clip(light, 0, 1))).astype(np.uint16)
        tifffile.imwrite(file, np.repeat(coded[..., None], 3, axis=2), photometric="rgb")

        def sent(content: bytes, steps: int = 21):
            address = f"/api/contact/photograph?name=target.tif&steps={steps}&base=0.09"
            kind = {"content-type": "application/octet-stream"}
            return self.client.post(address, content=content, headers=kind)

        true = frame.printed(np.linspace(0, 1, 21))
        answer = sent(file.read_bytes())
        self.assertEqual(answer.status_code, 200, answer.text)
        found = np.array(answer.json())
        np.testing.assert_allclose(found - found[-1], true - true[-1], atol=0.02)
        self.assertAlmostEqual(found[-1], 0.09, delta=0.02)
        for content, says in (
            (picture_file(self.folder, "k.png", 4).read_bytes(), "target.tif: 0 of the target"),
            (b"nothing", "target.tif: this is not an image"),
        ):
            refused = sent(content)
            self.assertGreaterEqual(refused.status_code, 400)
            self.assertIn(says, refused.json()["detail"])
        self.assertIn("there are 21 and 31", sent(file.read_bytes(), 25).json()["detail"])
        self.assertEqual(list((self.home / "incoming").iterdir()), [])
        # the command line reads it too
        done = at_once("measure", file, "--steps", 21, "--base", 0.09)
        self.assertEqual(done.returncode, 0, done.stderr)
        low, high = re.search(r"target: (\d\.\d+) to (\d\.\d+) D", done.stdout).groups()
        self.assertAlmostEqual(float(low), 0.09, delta=0.03)
        self.assertAlmostEqual(float(high) - float(low), true[0] - true[-1], delta=0.03)


class KillTest(WithServer):
    def test_kills_at_any_moment_of_a_batch(self) -> None:
        """Afterwards it goes on, every file is whole and none is there twice."""
        library = self.library
        picture = picture_file(self.folder, "k.png", 4)
        with library.database.write() as connection:
            roll = rolls.add_roll(connection, "Kiln")
        frame = library.take_in_file(picture, roll).frame
        with library.database.write() as connection:
            made = [prints.add_print(connection, frame, f"P{n}", Recipe()).id for n in range(60)]
        library.close()
        server = Server(self.home)
        size = {"by": "long", "value": 900, "upscale": True}
        server.ask("deliveries", {"prints": made, "outputs": [{"format": "png", "size": size}]})
        pick = random.Random(3)
        for _ in range(KILLS):
            time.sleep(pick.uniform(0.0, 0.25))
            server.kill()
            server = Server(self.home)
        self.addCleanup(server.kill)
        end = time.monotonic() + 120
        while server.ask("deliveries")["open"]:
            self.assertLess(time.monotonic(), end, "it does not go on")
            time.sleep(0.2)
        files = sorted((self.home / "delivered").iterdir())
        self.assertEqual(
            [path.name for path in files], sorted(f"Kiln 01 K - P{n}.png" for n in range(60))
        )
        pictures = set()
        for path in files:
            with Image.open(path) as seen:
                self.assertEqual(seen.size, (900, 600))
                pictures.add(seen.tobytes())
        self.assertEqual(len(pictures), 1)
        with sqlite3.connect(self.home / "library.sqlite") as database:
            rows = database.execute("SELECT count(*), count(DISTINCT file) FROM deliveries")
            self.assertEqual(rows.fetchone(), (60, 60))


if __name__ == "__main__":
    unittest.main()
