"""Drawings travel and are kept once, whatever a print holds of them."""

import json
import sqlite3

from silvrin.core.capture.settings import Mend, Outline
from silvrin.core.recipe import CaptureSettings, Recipe
from silvrin.core.recipe.drawings import Sheets, name_of
from silvrin.web import guard
from tests.web.test_app import WithServer, WithSocket

MOST = 20_000  # bytes of a change, and of a live request
STROKES = [
    Mend(x=100 + i, y=200, radius=9, path=tuple((100 + i + 4 * k, 210 + 3 * k) for k in range(20)))
    for i in range(500)
]
MENDS = [Mend(x=10 + 5 * i, y=40 + i, radius=6) for i in range(400)]


class DrawingsTest(WithServer):
    def setUp(self) -> None:
        super().setUp()
        self.print = self.client.post(f"/api/frames/{self.frame()['id']}/prints", json={}).json()
        self.sheets = Sheets()
        self.recipe = Recipe(capture=CaptureSettings(mends=self.sheets.mends([*STROKES, *MENDS])))

    def change(self, recipe: Recipe, sheets: list[str]) -> tuple[int, dict]:
        """Bytes of the change that is sent, and the answer."""
        body = {
            "base": self.print["head"], "label": "Mended",
            "recipe": json.loads(recipe.model_dump_json()), "sheets": sheets,
        }  # fmt: skip
        text = json.dumps(body)
        answer = self.client.post(
            f"/api/prints/{self.print['id']}/changes", content=text,
            headers={"content-type": "application/json"},
        )  # fmt: skip
        if answer.status_code == 201:
            self.print = answer.json()
        return len(text), answer.json()

    def size(self) -> int:
        """Bytes that changes and sheets take in the library."""
        row = self.library.database.read.execute(
            """
            SELECT (SELECT sum(length(recipe)) FROM changes)
                   + coalesce((SELECT sum(length(document)) FROM sheets), 0) AS bytes
            """
        ).fetchone()
        return int(row["bytes"])

    def test_a_change_is_small_with_500_strokes_and_400_mends(self) -> None:
        texts = list(self.sheets.texts.values())
        for i in range(0, len(texts), 40):
            self.change(Recipe(), texts[i : i + 40])
        sent, _ = self.change(self.recipe, [])
        self.assertLess(sent, MOST)
        # one more mend: the sheet it is drawn on, and the recipe
        more = Sheets()
        drawn = self.sheets.of(self.recipe).mends
        names = more.mends([*drawn, Mend(x=5, y=5, radius=4)])
        fresh = [more.texts[name] for name in names if name not in self.recipe.capture.mends]
        before = self.size()
        changed = Recipe(capture=CaptureSettings(mends=names))
        sent, answer = self.change(changed, fresh)
        self.assertLess(sent, MOST)
        self.assertLess(self.size() - before, MOST)
        self.assertEqual(answer["recipe"]["of_frame"]["capture"]["mends"], list(names))
        # and another setting of that print
        before = self.size()
        sent, _ = self.change(
            changed.model_copy(update={"paper": changed.paper.model_copy(update={"grade": 4})}), []
        )
        self.assertLess(max(sent, self.size() - before), MOST)

    def test_sheets_are_kept_once_and_read_back(self) -> None:
        sheets = Sheets()
        recipe = Recipe(capture=CaptureSettings(mends=sheets.mends(MENDS[:5])))
        for _ in range(3):
            self.change(recipe, list(sheets.texts.values()))
        (name,) = recipe.capture.mends
        read = self.library.database.read
        self.assertEqual(read.execute("SELECT count(*) AS n FROM sheets").fetchone()["n"], 1)
        answer = self.client.get(f"/api/sheets/{name}")
        self.assertEqual(name_of(answer.text), name)
        self.assertIn("immutable", answer.headers["cache-control"])
        self.assertEqual(self.client.get(f"/api/sheets/{'0' * 32}").status_code, 404)

    def test_a_change_whose_sheet_is_missing_is_refused_and_nothing_kept(self) -> None:
        before = self.size()
        _, answer = self.change(self.recipe, [])
        self.assertEqual(answer["status"], 422)
        self.assertIn("Send the sheet", answer["detail"])
        _, answer = self.change(self.recipe, ['{"mends": [{"x": 1, "y": 1, "radius": 9999}]}'])
        self.assertIn("mends.0.radius", answer["detail"])
        self.assertEqual(self.size(), before)
        self.assertEqual(self.client.get(f"/api/prints/{self.print['id']}").json(), self.print)

    def test_what_no_state_needs_goes_with_the_bin(self) -> None:
        sheets = Sheets()
        mends, outlines = sheets.mends(MENDS[:2]), sheets.outlines([_outline()])
        self.change(
            Recipe(capture=CaptureSettings(mends=mends, protected=outlines)),
            list(sheets.texts.values()),
        )
        self.library.empty_bin(False)
        self.assertEqual(self.kept(), {*mends, *outlines})
        self.client.post("/api/frames/bin", json={"frames": [self.print["frame_id"]]})
        self.library.empty_bin(False)
        self.assertEqual(self.kept(), set())

    def kept(self) -> set[str]:
        rows: list[sqlite3.Row] = self.library.database.read.execute(
            "SELECT name FROM sheets"
        ).fetchall()
        return {row["name"] for row in rows}

    def test_no_recipe_that_holds_meets_the_bound_on_bodies(self) -> None:
        # the largest drawings the window makes, as many at once as a request takes
        long = tuple((65000, 65000) for _ in range(120))
        mends = [Mend(x=i, y=i, radius=400, path=long) for i in range(1000)]
        sheets = Sheets()
        recipe = Recipe(capture=CaptureSettings(mends=sheets.mends(mends)))
        self.assertEqual(len(sheets.of(recipe).mends), 1000)
        largest = sorted(map(len, sheets.texts.values()))[-48:]
        body = sum(largest) * 2 + len(recipe.model_dump_json())
        self.assertLess(body, guard.MOST_JSON)


class LiveDrawingsTest(WithSocket):
    def test_a_live_request_is_small_and_shows_what_is_only_drawn(self) -> None:
        sheets = Sheets()
        recipe = Recipe(capture=CaptureSettings(mends=sheets.mends([Mend(x=45, y=30, radius=6)])))
        wish = json.loads(self.wish(1))
        wish["recipe"] = json.loads(recipe.model_dump_json())
        with self.connect(self.frame_id) as socket:
            socket.send_text(self.wish(0))
            _, plain = self.parse(socket.receive_bytes())
            socket.send_text(json.dumps(wish))
            self.assertIn("Send the sheet", socket.receive_json()["detail"])
            socket.send_text(json.dumps({**wish, "sheets": list(sheets.texts.values())}))
            header, mended = self.parse(socket.receive_bytes())
            self.assertFalse((mended == plain).all())
            # curves that did not change do not come again
            self.assertIsNone(header["curves"]["glass"])
            socket.send_text(self.wish(3, grade=5))
            header, _ = self.parse(socket.receive_bytes())
            self.assertIsNone(header["curves"]["negative"])
            self.assertIsNotNone(header["curves"]["paper"])
        many = Sheets()
        large = Recipe(capture=CaptureSettings(mends=many.mends([*STROKES, *MENDS])))
        wish["recipe"] = json.loads(large.model_dump_json())
        self.assertLess(len(json.dumps(wish)), MOST)


def _outline() -> Outline:
    return Outline(points=((10, 10), (60, 12), (40, 70)))
