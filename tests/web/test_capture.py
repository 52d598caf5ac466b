import json
import unittest
from pathlib import Path

import numpy as np

from silvrin.core.capture.sensor import from_sensor
from silvrin.core.recipe import Recipe
from silvrin.core.recipe.drawings import name_of
from silvrin.demo_job import demo_capture
from silvrin.store import prints
from tests.web.test_app import WithServer

KNOWN = json.loads((Path(__file__).parents[2] / "demo" / "truth" / "known.json").read_text())
SPECKS = np.array([[s["x"], s["y"]] for s in KNOWN["dust"]["specks"]])


class CaptureTest(WithServer):
    def setUp(self) -> None:
        super().setUp()
        self.kiln, self.late, self.chimney = (
            self.library.take_in_file(demo_capture(name), self.roll).frame
            for name in ("bottle kiln", "kiln in the last sun", "kiln chimney")
        )

    def post(self, path: str, **body: object):
        return self.client.post(f"/api/frames/{path}", json={"recipe": {}, **body})

    def test_lines(self) -> None:
        one = [[[100, 1000], [2300, 1100]]]
        found = self.post(f"{self.kiln}/level", lines=one).json()
        self.assertAlmostEqual(found["straighten"], np.degrees(np.arctan2(100, 2200)), delta=0.01)
        self.assertIsNone(found["keystone_vertical"])
        wrong = self.post(f"{self.kiln}/level", lines=[*one, [[500, 100], [510, 1500]]])
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("draw two upright ones", wrong.json()["detail"])

    def test_a_lens_is_offered_searched_and_taken(self) -> None:
        offered = self.client.get(f"/api/frames/{self.chimney}/lenses").json()
        self.assertEqual(offered[0]["model"], "24 mm f/2.8")
        found = self.client.get("/api/lenses", params={"words": "quarrywood"}).json()
        self.assertEqual([lens["model"] for lens in found], ["24 mm f/2.8"])
        name = {key: offered[0][key] for key in ("maker", "model", "crop")}
        profile = self.client.post(f"/api/frames/{self.chimney}/lens", json=name).json()
        Recipe.model_validate({"of_frame": {"capture": {"lens": profile}}})
        unknown = self.client.post(
            f"/api/frames/{self.chimney}/lens", json={**name, "model": "0 mm"}
        )
        self.assertEqual(unknown.status_code, 404)

    def test_dust_is_found_and_carried_through_the_roll(self) -> None:
        found = self.post(f"{self.late}/dust").json()
        self.assertEqual(found["frames"], 2)
        probable = [s for s in found["specks"] if s["likely"] >= 0.3]
        self.assertGreaterEqual(len(probable), 3)
        for speck in probable:
            self.assertLess(np.hypot(*(SPECKS - [speck["x"], speck["y"]]).T).min(), 5)
        mends = [{key: s[key] for key in ("x", "y", "radius")} for s in probable]
        mends.append({"x": 900, "y": 900, "radius": 9, "path": [[950, 950]]})
        sheets = [json.dumps({"mends": mends})]
        recipe = {"of_frame": {"capture": {"mends": [name_of(sheets[0])]}}}
        unknown = self.post(f"{self.late}/dust", recipe=recipe)
        self.assertEqual(unknown.status_code, 422)
        self.assertIn("Send the sheet with the recipe", unknown.json()["detail"])
        again = self.post(f"{self.late}/dust", recipe=recipe, sheets=sheets).json()["specks"]
        self.assertEqual(len(again), len(found["specks"]) - len(probable))

        made = self.client.post(f"/api/frames/{self.kiln}/prints", json={}).json()
        carried = self.post(f"{self.late}/dust-map", recipe=recipe).json()
        self.assertEqual(
            carried,
            {"specks": len(probable), "frames": 2, "prints": 1, "other_size": 0},
        )
        now = prints.get_print(self.library.database.read, made["id"])
        self.assertEqual(now.label, "Mended by the roll's dust map")
        got = self.library.light_path(now.recipe).things.drawings.mends
        self.assertEqual([(m.x, m.y) for m in got], [(s["x"], s["y"]) for s in probable])
        # f/8 after f/16: specks are twice as large
        for mend, speck in zip(got, probable, strict=True):
            self.assertAlmostEqual(mend.radius, 2 * speck["radius"], delta=1)
        # once is enough; a new print begins with it; a turned frame has it where its sensor has
        self.assertEqual(self.post(f"{self.late}/dust-map", recipe=recipe).json()["prints"], 0)
        new = self.client.post(f"/api/frames/{self.chimney}/prints", json={}).json()
        place = np.array([[probable[0]["x"] + 0.5, probable[0]["y"] + 0.5]])
        x, y = np.floor(from_sensor(place, (2400, 1600), 6)[0]).astype(int)
        sheet = new["recipe"]["of_frame"]["capture"]["mends"][0]
        first = self.client.get(f"/api/sheets/{sheet}").json()["mends"][0]
        self.assertEqual((first["x"], first["y"]), (x, y))
        undone = self.client.post(f"/api/prints/{made['id']}/undo", json={"base": now.head}).json()
        self.assertEqual(undone["recipe"]["of_frame"]["capture"]["mends"], [])

        none = self.post(f"{self.late}/dust-map")
        self.assertEqual(none.status_code, 422)
        self.assertIn("mend some on this frame", none.json()["detail"])


if __name__ == "__main__":
    unittest.main()
