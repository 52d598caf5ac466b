"""The printing map over the interface: carried to other frames, small changes, notes."""

import json

import cv2
import numpy as np

from silvrin.core.recipe import Brush, Card, Disc, EnlargerSettings, Pass, Polygon, Recipe, Stroke
from silvrin.core.recipe.drawings import Sheets
from tests.web.test_app import WithServer
from tests.web.test_drawings import MOST

SIZE = (900, 600)


def scene(seed: int = 3) -> np.ndarray:
    """A scene wider than a frame, (H, W)."""
    rng = np.random.default_rng(seed)
    coarse = cv2.resize(rng.random((24, 36)), (960, 660), interpolation=cv2.INTER_CUBIC)
    fine = cv2.GaussianBlur(rng.normal(0, 1, (660, 960)), (0, 0), 1.4)
    return np.clip(60 + 110 * coarse + 60 * fine, 1, 254)


class MapTest(WithServer):
    def sent(self, whole: np.ndarray, x: int, y: int) -> dict:
        """A frame of the scene, cut so far to the right and down."""
        cut = np.asarray(whole[y : y + SIZE[1], x : x + SIZE[0]], np.uint8)
        data = cv2.imencode(".png", np.repeat(cut[..., None], 3, axis=2))[1].tobytes()
        return self.send(data, f"cut {x} {y}.png").json()

    def put(self, frame: dict, passes: list[Pass], sheets: Sheets) -> dict:
        made = self.client.post(f"/api/frames/{frame['id']}/prints", json={}).json()
        return self.changed(made, passes, sheets)

    def changed(self, made: dict, passes: list[Pass], sheets: Sheets) -> dict:
        recipe = Recipe(enlarger=EnlargerSettings(passes=sheets.passes(passes)))
        self.library.sheets.take(sheets.texts.values())
        body = {"base": made["head"], "label": "Worked", "recipe": json.loads(
            recipe.model_dump_json()), "sheets": []}  # fmt: skip
        return self.client.post(f"/api/prints/{made['id']}/changes", json=body).json()

    def passes_of(self, print_id: int) -> list[Pass]:
        recipe = self.client.get(f"/api/prints/{print_id}").json()["recipe"]
        return [
            Pass.model_validate(each)
            for name in recipe["of_frame"]["enlarger"]["passes"]
            for each in self.client.get(f"/api/sheets/{name}").json()["passes"]
        ]

    def test_passes_are_carried_to_where_the_subject_lies(self) -> None:
        whole, sheets = scene(), Sheets()
        first, second = self.sent(whole, 20, 20), self.sent(whole, 31, 14)
        other = self.sent(scene(8), 20, 20)
        stroke = Stroke(points=((100, 100), (140, 120)), radius=20)
        brush = Brush(strokes=sheets.strokes([stroke]), dx=5.0)
        passes = [
            Pass(name="face", stops=-0.5, shapes=(Disc(x=300, y=200, width=60, height=30),)),
            Pass(shapes=(Card(x=0, y=50, to_x=0, to_y=200), brush)),
            Pass(shapes=(Polygon(points=((10, 10), (90, 12), (50, 80)), how="take"),)),
        ]
        made = self.put(first, passes, sheets)
        url = f"/api/prints/{made['id']}/carry-passes"
        wanted = {"frames": [second["id"], 999, other["id"], first["id"]], "aligned": True}
        found = self.client.post(url, json=wanted).json()
        self.assertEqual(
            [(f["frame_id"], f["how"]) for f in found],
            [
                (second["id"], "aligned"), (999, "refused"), (other["id"], "as they lie"),
                (first["id"], "refused"),
            ],
        )  # fmt: skip
        self.assertIn("no frame 999", found[1]["words"])
        self.assertIn("too little in common", found[2]["words"])
        # cut 11 px further right and 6 px less down: there all lies so much to the left and down
        moved = self.passes_of(found[0]["print_id"])
        self.assertEqual([p.name for p in moved], ["face", "", ""])
        disc, (card, painted), (outline,) = moved[0].shapes[0], moved[1].shapes, moved[2].shapes
        self.assertAlmostEqual(disc.x, 289, delta=0.5)
        self.assertAlmostEqual(disc.y, 206, delta=0.5)
        self.assertAlmostEqual(disc.width, 60, delta=0.1)
        self.assertAlmostEqual(card.to_y, 206, delta=0.5)
        self.assertAlmostEqual(outline.points[2][0], 39, delta=0.5)
        self.assertEqual(outline.how, "take")
        (sheet,) = painted.strokes
        (there,) = self.client.get(f"/api/sheets/{sheet}").json()["strokes"]
        np.testing.assert_allclose(there["points"], [(94, 106), (134, 126)], atol=0.5)
        still = self.passes_of(found[2]["print_id"])
        self.assertEqual(still[0].shapes, passes[0].shapes)
        # once more, as they lie: after those that are there, on the same print, one undo for all
        again = self.client.post(url, json={"frames": [second["id"]], "aligned": False}).json()
        self.assertEqual(again[0]["print_id"], found[0]["print_id"])
        both = self.passes_of(again[0]["print_id"])
        self.assertEqual(both[3].shapes, passes[0].shapes)
        head = self.client.get(f"/api/prints/{again[0]['print_id']}").json()["head"]
        self.client.post(f"/api/prints/{again[0]['print_id']}/undo", json={"base": head})
        self.assertEqual(self.passes_of(again[0]["print_id"]), moved)

    def test_more_than_a_print_can_have_is_refused_and_nothing_lost(self) -> None:
        whole = scene()
        first, second = self.sent(whole, 20, 20), self.sent(whole, 21, 20)
        many = [Pass(shapes=(Disc(x=k, y=1, width=9, height=9),)) for k in range(120)]
        one, two = self.put(first, many, Sheets()), self.put(second, many, Sheets())
        found = self.client.post(
            f"/api/prints/{one['id']}/carry-passes", json={"frames": [second["id"]]}
        ).json()
        self.assertEqual(found[0]["how"], "refused")
        self.assertIn("240 passes; at most 200", found[0]["words"])
        self.assertEqual(self.client.get(f"/api/prints/{two['id']}").json()["head"], two["head"])
        bare = self.client.post(f"/api/frames/{first['id']}/prints", json={}).json()
        answer = self.client.post(
            f"/api/prints/{bare['id']}/carry-passes", json={"frames": [second["id"]]}
        )
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Dodge or burn something first", answer.json()["detail"])

    def test_a_stroke_more_is_a_small_change_whatever_the_map_holds(self) -> None:
        sheets, rng = Sheets(), np.random.default_rng(1)

        def stroke() -> Stroke:
            way = np.round(rng.uniform(0, 600, 2) + np.cumsum(rng.normal(0, 9, (20, 2)), 0), 1)
            return Stroke(points=tuple(map(tuple, way.tolist())), radius=12.5)

        brushes = [[stroke() for _ in range(200)] for _ in range(6)]
        passes = [Pass(shapes=(Brush(strokes=sheets.strokes(b), most=4),)) for b in brushes]
        passes += [Pass(shapes=(Disc(x=k, y=9, width=9, height=9),)) for k in range(18)]
        made = self.put(self.sent(scene(), 0, 0), passes, sheets)
        self.assertEqual(len(self.passes_of(made["id"])), 24)
        known = set(sheets.texts)
        more = Sheets(dict(sheets.texts))
        brush = Brush(strokes=more.strokes([*brushes[0], stroke()]), most=4)
        recipe = Recipe(
            enlarger=EnlargerSettings(passes=more.passes([Pass(shapes=(brush,)), *passes[1:]]))
        )
        texts = [text for name, text in more.texts.items() if name not in known]
        body = json.dumps(
            {"base": made["head"], "label": "Stroke", "recipe": json.loads(
                recipe.model_dump_json()), "sheets": texts}
        )  # fmt: skip
        self.assertLess(len(body), MOST)
        answer = self.client.post(
            f"/api/prints/{made['id']}/changes", content=body,
            headers={"content-type": "application/json"},
        )  # fmt: skip
        self.assertEqual(answer.status_code, 201)
        undone = self.client.post(
            f"/api/prints/{made['id']}/undo", json={"base": answer.json()["head"]}
        )
        self.assertEqual(undone.json()["head"], made["head"])

    def test_notes_are_asked_for_by_their_kind(self) -> None:
        made = self.put(
            self.sent(scene(), 0, 0),
            [Pass(shapes=(Disc(x=9, y=9, width=99, height=99),))],
            Sheets(),
        )
        for kind, begins in (("pdf", b"%PDF"), ("svg", b"<?xml")):
            answer = self.client.get(f"/api/prints/{made['id']}/notes.{kind}?base=20")
            self.assertEqual(answer.status_code, 200)
            self.assertTrue(answer.content.startswith(begins))
        for url in (
            f"/api/prints/{made['id']}/notes.doc", f"/api/prints/{made['id']}/notes.svg?base=0",
            "/api/prints/999/notes.pdf",
        ):  # fmt: skip
            answer = self.client.get(url)
            self.assertIn(answer.status_code, (404, 422))
            self.assertEqual(answer.headers["content-type"], "application/problem+json")
