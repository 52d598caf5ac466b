import io
import json
import unittest

import numpy as np
from PIL import Image

from silvrin import shelf
from silvrin.core.colour import luminance_of
from silvrin.core.film.curve import characteristic_curve
from silvrin.core.film.speed import zone_index
from silvrin.core.light.lens_filter import hue_filter
from silvrin.core.paper.curve import grade_range, paper_curve
from silvrin.core.recipe import Bath, FilmSettings, Recipe, TonerSettings
from silvrin.core.toner.colours import lab_of
from silvrin.core.toner.toning import toned
from silvrin.shelf.items import item_text, read_item
from silvrin.store.library import Library
from tests.web.test_app import WithServer


class ShelfTest(WithServer):
    def item(self, kind: str, name: str) -> dict:
        return self.client.get(f"/api/shelf/{kind}/{name}/file").json()

    def put(self, file: dict):
        return self.client.post("/api/shelf/items", json=file)

    def test_everything_shipped_goes_to_a_file_and_back(self) -> None:
        own = shelf.shipped()
        for items in (own.stocks, own.filters, own.lights, own.paper_items, own.tonings):
            for item in items.values():
                self.assertEqual(read_item(item_text(item)), item)
        listed = self.client.get("/api/shelf").json()
        self.assertGreaterEqual(len(listed["stocks"]), 14)
        self.assertEqual(listed["filters"][-1]["id"], "any-hue")
        speeds = [s["speed"] for s in listed["stocks"] if s["kind"] == "panchromatic"]
        self.assertEqual((min(speeds), max(speeds)), (25, 3200))

    def test_factors_by_lights(self) -> None:
        factors = self.client.get("/api/shelf/stocks/larch-100/factors").json()["factors"]
        of = {(f["filter"], f["light"]): f for f in factors}
        # handbook table (from memory): No. 25 costs 8 in daylight and 5 in tungsten light
        self.assertAlmostEqual(of["25", "daylight"]["factor"], 8, delta=1)
        self.assertAlmostEqual(of["25", "tungsten"]["factor"], 4.5, delta=1)
        self.assertTrue(of["87c", "daylight"]["blind"])

    def test_copy_change_use_and_remove(self) -> None:
        frame = self.frame()
        file = self.item("stock", "larch-100")
        file["item"] |= {"name": "Larch, mine", "speed": 64}
        made = self.put(file).json()["item"]
        self.assertEqual(made["id"], "own-larch-mine")
        again = self.put(file).json()["item"]["id"]
        self.assertEqual(again, "own-larch-mine-2")

        recipe = Recipe(film=FilmSettings(stock=made["id"])).model_dump(mode="json")
        new = {"name": "p", "recipe": recipe}
        sent = self.client.post(f"/api/frames/{frame['id']}/prints", json=new)
        self.assertEqual(sent.status_code, 201, sent.text)
        before = self.client.post(
            f"/api/frames/{frame['id']}/small-print", json={"recipe": recipe, "long_side": 64}
        ).content
        url = f"/api/shelf/items/{made['id']}"
        file["item"]["sensitivity"] = self.item("stock", "sloe-10")["item"]["sensitivity"]
        self.assertEqual(self.client.put(url, json=file).status_code, 200)
        after = self.client.post(
            f"/api/frames/{frame['id']}/small-print", json={"recipe": recipe, "long_side": 64}
        ).content
        self.assertNotEqual(before, after)  # nothing kept of the old one

        refused = self.client.delete(url)
        self.assertEqual(refused.status_code, 400)
        self.assertIn("the print 'p' uses it", refused.json()["detail"])
        # what only an earlier state of a print needs goes when that is known
        kept = sent.json()
        plain = {"base": kept["head"], "label": "Plain film", "recipe": {}}
        self.client.post(f"/api/prints/{kept['id']}/changes", json=plain)
        warned = self.client.delete(url)
        self.assertEqual(
            (warned.status_code, warned.json()["title"]), (409, "An earlier state needs it")
        )
        self.assertIn("The print 'p' used it in an earlier state", warned.json()["detail"])
        self.assertEqual(self.client.delete(f"/api/shelf/items/{again}").status_code, 204)
        self.assertEqual(self.client.delete("/api/shelf/items/larch-100").status_code, 404)
        # it is there after a restart
        self.assertIn(made["id"], Library(self.library.home).shelf.stocks)
        known = self.client.delete(url, params={"though_used_before": True})
        self.assertEqual(known.status_code, 204)
        self.assertNotIn(made["id"], self.library.shelf.stocks)

    def test_what_does_not_hold_is_named(self) -> None:
        file = self.item("stock", "larch-100")
        for change, said in (
            ({"speed": 0}, "speed"),
            ({"granularity": -3}, "granularity"),
            ({"unknown": 1}, "unknown is not a field"),
            ({"curve": file["item"]["curve"] | {"shoulder_softness": 0.9}}, "would fall"),
            ({"sensitivity": {"from_nm": 380, "step_nm": 0, "log10": [0, 0]}}, "step_nm"),
        ):
            answer = self.put({**file, "item": {**file["item"], **change}})
            self.assertEqual(answer.status_code, 422, change)
            self.assertIn(said, answer.json()["detail"])
        glass = self.item("filter", "15")
        glass["item"]["spectrum"]["transmittance"][3] = 1.2
        self.assertIn("transmittance.3", self.put(glass).json()["detail"])
        self.assertEqual(
            self.put({"format": "other", "kind": "stock", "item": {}}).status_code, 422
        )
        self.assertEqual(self.client.get("/api/shelf").json()["stocks"][-1]["own"], False)

    def test_a_measured_wedge_becomes_a_stock(self) -> None:
        shape = shelf.stocks()["willow-400"].curve
        curve = characteristic_curve(shape, 0.5)
        zone_v = np.log10(10.0 / zone_index(shelf.stocks()["willow-400"]))
        at = np.round(zone_v - 2.4 + 0.15 * np.arange(25), 4)
        rows = [f"{h};{float(curve.density(h - zone_v)):.4f}" for h in at]
        text = "\n".join(["log_h;density", *rows]).replace(".", ",")
        given = {"kind": "wedge", "text": text, "name": "w.csv"}
        found = self.client.post("/api/shelf/measurements", json=given).json()
        wedge = found["wedge"]
        self.assertEqual(found["notes"], [])
        self.assertAlmostEqual(wedge["n"], 0.5, delta=0.05)
        self.assertLess(wedge["rms"], 0.01)
        self.assertLess(abs(np.log2(wedge["speed"] / 400)), 0.05)
        file = self.item("stock", "larch-100")
        file["item"] |= {"name": "Measured", "curve": wedge["shape"], "speed": 400}
        made = self.put(file).json()["item"]["id"]
        stock = self.library.shelf.stock(made)
        again = characteristic_curve(stock.curve, wedge["n"])
        span = np.linspace(-1.2, 1.0, 50)
        np.testing.assert_allclose(again.density(span), curve.density(span), atol=0.04)

    def test_a_paper_measured_on_three_grades_is_put_on_the_shelf_and_printed_on(self) -> None:
        known, noise = shelf.papers()["semi-matt-fibre-warm"], np.random.default_rng(3)
        rows = ["grade;step;density"]
        for grade in (0, 2, 4):
            wedge = paper_curve(known, grade).density(np.arange(31) * 0.1 - 1.7)
            density = known.base_density + wedge + noise.normal(0, 0.005, 31)
            rows += [f"{grade};{i + 1};{max(d, 0):.3f}" for i, d in enumerate(density)]
        given = {"kind": "paper", "text": "\n".join(rows), "name": "w.csv", "step": 0.1}
        found = self.client.post("/api/shelf/measurements", json=given).json()["paper"]
        self.assertEqual([g["grade"] for g in found["grades"]], [0, 2, 4])
        for one in found["grades"]:
            self.assertAlmostEqual(one["nearest"], one["grade"], delta=0.25)
            self.assertAlmostEqual(one["log_range"], grade_range(one["grade"]), delta=0.04)
        self.assertAlmostEqual(found["net_density"], known.net_density, delta=0.02)
        file = self.item("paper", "semi-matt-fibre-warm")
        ranges = [{"grade": g["grade"], "log_range": g["log_range"]} for g in found["grades"]]
        shape = {k: found[k] for k in ("base_density", "net_density", "toe", "shoulder")}
        file["item"] |= {"name": "My paper", "ranges": ranges} | shape
        made = self.put(file).json()["item"]["id"]
        listed = {p["id"]: p for p in self.client.get("/api/shelf").json()["papers"]}
        self.assertTrue(listed[made]["own"])
        told = {g["grade"]: g["iso_range"] for g in listed[made]["on_grades"]}
        for one in found["grades"]:
            self.assertEqual(told[one["grade"]], one["iso_range"])
        frame = self.frame()
        new = {"name": "p", "recipe": {"look": {"paper": {"paper": made}}}}
        sent = self.client.post(f"/api/frames/{frame['id']}/prints", json=new)
        self.assertEqual(sent.status_code, 201, sent.text)
        gone = self.client.delete(f"/api/shelf/items/{made}")
        self.assertEqual(gone.status_code, 400)
        self.assertIn("'p' uses it", gone.json()["detail"])
        # wedges that show no curve, and rows without a grade
        for text, words in (
            ("grade;step;density\n2;1;0.1\n2;2;0.2\n2;3;0.3\n2;4;0.3\n2;5;0.4\n2;6;0.4\n2;7;0.5",
             "Print it longer"),
            ("grade;step;density\n7;1;0.1", "grades run from 00 to 5"),
            ("grade;step;density\n;1;0.1", "grade is missing"),
        ):  # fmt: skip
            refused = self.client.post("/api/shelf/measurements", json=given | {"text": text})
            self.assertIn(words, refused.json()["detail"])

    def test_a_toner_measured_from_two_wedges_tones_a_print(self) -> None:
        light = luminance_of(np.linspace(0, 100, 21))
        black = 10.0**-2.1
        grey = np.repeat((light * (1 - black) + black)[:, None], 3, axis=1)
        copper = TonerSettings(baths=(Bath(kind="copper", time=1.0),))
        shown = toned(light, 2.1, copper) * (1 - black) + black
        rows = ["state;step;L;a;b"]
        for state, rgb in (("untoned", grey), ("toned", shown)):
            for i, (lightness, a, b) in enumerate(lab_of(rgb)):
                rows.append(f"{state};{i + 1};{lightness:.2f};{a:.2f};{b:.2f}")
        given = {"kind": "toner", "text": "\n".join(rows), "name": "t.csv"}
        found = self.client.post("/api/shelf/measurements", json=given).json()["toner"]
        item = {"id": "x", "name": "Red bath", "takes": "throughout", "rows": found["rows"]}
        file = {"format": "silvrin-shelf-1", "kind": "toner", "item": item}
        made = self.put(file).json()["item"]["id"]
        self.assertEqual(made, "own-red-bath")
        listed = self.client.get("/api/shelf").json()["toners"]
        self.assertEqual([t["name"] for t in listed], ["Red bath"])
        frame = self.frame()

        def small(bath: dict) -> bytes:
            recipe = {"look": {"toner": {"baths": [bath]}}}
            url = f"/api/frames/{frame['id']}/small-print"
            return self.client.post(url, json={"recipe": recipe, "long_side": 64}).content

        def colours(jpeg: bytes) -> np.ndarray:
            return np.asarray(Image.open(io.BytesIO(jpeg)).convert("RGB")).astype(int)

        mine = colours(small({"kind": "own", "toner": made, "time": 1}))
        theirs = colours(small({"kind": "copper", "time": 1}))
        self.assertLess(np.abs(mine - theirs).mean(), 4)
        self.assertGreater((mine[..., 0] - mine[..., 2]).mean(), 5)
        # a print that uses it keeps it on the shelf; one that names none is refused
        recipe = {"look": {"toner": {"baths": [{"kind": "own", "toner": made}]}}}
        url = f"/api/frames/{frame['id']}/prints"
        self.assertEqual(
            self.client.post(url, json={"name": "p", "recipe": recipe}).status_code, 201
        )
        self.assertEqual(self.client.delete(f"/api/shelf/items/{made}").status_code, 400)
        # so does one that is mixed with a print that used it
        other = {**item, "name": "Blue bath"}
        second = self.put(file | {"item": other}).json()["item"]["id"]
        before = {"toner": {"baths": [{"kind": "own", "toner": second}]}}
        mixed = {"mixture": {"name": "any", "strength": 0.5, "before": before}}
        sent = self.client.post(url, json={"name": "m", "recipe": mixed})
        self.assertEqual(sent.status_code, 201, sent.text)
        self.assertEqual(self.client.delete(f"/api/shelf/items/{second}").status_code, 400)
        recipe["look"]["toner"]["baths"][0]["toner"] = "gone"
        refused = self.client.post(url, json={"name": "q", "recipe": recipe})
        self.assertIn("'gone' is not on the shelf", refused.json()["detail"])
        for text, words in (
            ("step;L;a;b\n1;90;0;0", "Head one 'state'"),
            ("state;L;a;b\nwet;90;0;0", "neither untoned nor toned"),
            ("state;L;a;b\ntoned;120;0;0", "outside 0 to 100"),
            ("state;L;a;b\nuntoned;90;0;0\ntoned;90;0;0", "at least 5"),
        ):
            answer = self.client.post("/api/shelf/measurements", json=given | {"text": text})
            self.assertIn(words, answer.json()["detail"])

    def test_measured_spectra(self) -> None:
        glass = "nm;transmittance\n" + "\n".join(f"{nm};{nm / 10}" for nm in range(400, 701, 20))
        given = {"kind": "filter", "text": glass, "name": "glass.csv"}
        found = self.client.post("/api/shelf/measurements", json=given).json()
        self.assertIn("per cent", " ".join(found["notes"]))
        self.assertAlmostEqual(found["spectrum"]["transmittance"][1], 0.41, places=3)
        over = json.loads(json.dumps(given).replace("70.0", "130"))
        answer = self.client.post("/api/shelf/measurements", json=over)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("more than 1", answer.json()["detail"])
        lamp = {"kind": "light", "text": glass.replace("transmittance", "power"), "name": "l"}
        table = self.client.post("/api/shelf/measurements", json=lamp).json()["spectrum"]
        made = self.put(
            {
                "format": "silvrin-shelf-1",
                "kind": "light",
                "item": {"id": "x", "name": "Lamp", "kind": "measured", "spectrum": table},
            }
        )
        self.assertEqual(made.status_code, 201, made.text)

    def test_a_filter_of_any_hue_passes_its_hue(self) -> None:
        for hue, nm in ((8, 650), (55, 580), (145, 530), (270, 460)):
            glass = hue_filter(float(hue)).transmittance
            self.assertGreater(glass[(nm - 380) // 10], 0.85, hue)
            self.assertLess(glass[:33].min(), 0.2, hue)


if __name__ == "__main__":
    unittest.main()
