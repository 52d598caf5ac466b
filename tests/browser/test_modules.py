"""The front end's own logic, module by module, in Chromium."""

import json
import threading
import unittest

import numpy as np

from silvrin.core.capture.geometry import Geometry
from silvrin.core.capture.settings import LENS_RADII
from silvrin.core.enlarger.naming import letter_of
from silvrin.core.enlarger.naming import name_of as name_of_pass
from silvrin.core.enlarger.shapes import (
    Alike,
    Brush,
    Card,
    Disc,
    FallOff,
    Foliage,
    HueLimit,
    Moved,
    Oval,
    Pass,
    Polygon,
    Sample,
    Sides,
    Sky,
    Whole,
    ZoneLimit,
)
from silvrin.core.places import CapturePlaces, PicturePlaces
from silvrin.core.recipe import (
    CaptureSettings,
    FilmSettings,
    LensProfile,
    LightSettings,
    PaperSettings,
    Recipe,
)
from silvrin.core.recipe.drawings import name_of, read_sheet
from silvrin.web.live.answer import shape_of
from tests.browser.modules import WithModules


class ModulesTest(WithModules):
    def test_crops_keep_their_ratio_and_the_frame(self) -> None:
        rng = np.random.default_rng(6)
        frame = {"width": 6000, "height": 4000}
        handles = [[a, b] for a in ("left", "right", None) for b in ("top", "bottom", None)][:-1]
        for number in range(120):
            left, top = rng.uniform(0, 0.6, 2)
            right, bottom = left + rng.uniform(0.1, 1 - left), top + rng.uniform(0.1, 1 - top)
            crop = [left, top, min(right, 1.0), min(bottom, 1.0)]
            ratio = [None, 1.0, 1.5, 0.8, 16 / 9][number % 5]
            handle = handles[int(rng.integers(8))]
            by = rng.uniform(-0.9, 0.9, 2).tolist()
            start = self.run_js("return m.cropping.withRatio(...given);", crop, ratio, frame)
            left, top, right, bottom = self.run_js(
                "return m.cropping.moved(...given);",
                start, handle, by, bool(number % 2), ratio, frame,
            )  # fmt: skip
            self.assertTrue(0 <= left < right <= 1 + 1e-9 and 0 <= top < bottom <= 1 + 1e-9)
            if ratio:
                self.assertAlmostEqual((right - left) * 1.5 / (bottom - top), ratio, places=6)
            whole = self.run_js("return m.cropping.moved(...given);",
                                start, None, by, False, ratio, frame)  # fmt: skip
            np.testing.assert_allclose(np.diff(whole[::2]), np.diff(start[::2]))
        # ratios tried one after the other begin at what was drawn
        square = self.run_js("return m.cropping.withRatio([0, 0, 1, 1], 1, given[0]);", frame)
        np.testing.assert_allclose(square, [1 / 6, 0, 5 / 6, 1])
        keys = self.run_js(
            "return ['ArrowLeft', 'ArrowDown', 'x'].map((k) => m.cropping.byKey(k, k === 'x'));"
        )
        self.assertEqual(keys, [[-0.002, 0], [0, 0.002], None])

    def test_turned_or_mirrored_the_picture_stays_as_it_is_seen(self) -> None:
        rng = np.random.default_rng(4)
        for number in range(40):
            left, top = rng.uniform(0, 0.4, 2)
            capture = CaptureSettings(
                quarter_turns=number % 4,
                flip=bool(rng.integers(2)),
                straighten=float(rng.uniform(-30, 30)),
                keystone_vertical=float(rng.uniform(-0.4, 0.4)),
                keystone_horizontal=float(rng.uniform(-0.4, 0.4)),
                distortion=float(rng.uniform(-0.1, 0.1)),
                crop=(left, top, left + 0.5, top + 0.45) if number % 3 else None,
            )
            light = LightSettings(
                focus_x=float(rng.random()), focus_y=float(rng.random()),
                focus_angle=float(rng.uniform(-90, 90)),
            )  # fmt: skip
            recipe = {"capture": capture.model_dump(), "light": light.model_dump()}
            before = Geometry(6000, 4000, capture)
            width, height = before.window[2:]
            places = rng.random((30, 2)) * [width, height]
            on_capture = before.picture_to_capture(PicturePlaces(places))
            focus = np.array([light.focus_x, light.focus_y])
            for way in ("flipped", "right", "left"):
                made = self.run_js(
                    "return given[1] === 'flipped' ? m.turning.flipped(given[0])"
                    " : m.turning.turned(given[0], given[1]);",
                    recipe, way,
                )  # fmt: skip
                after = Geometry(6000, 4000, capture.model_copy(update=made["capture"]))
                x, y = (places / [width, height]).T
                to = {"flipped": (1 - x, y), "right": (1 - y, x), "left": (y, 1 - x)}[way]
                seen = np.stack(to, axis=-1) * after.window[2:]
                found = after.picture_to_capture(PicturePlaces(seen))
                np.testing.assert_allclose(found, on_capture, atol=4.0, err_msg=f"{way} {capture}")
                # what is sharp stays so
                x, y = focus
                to = {"flipped": (1 - x, y), "right": (1 - y, x), "left": (y, 1 - x)}[way]
                now = {**light.model_dump(), **made["light"]}
                np.testing.assert_allclose((now["focus_x"], now["focus_y"]), to, atol=1e-5)
                axis = np.radians([light.focus_angle, now["focus_angle"]])
                turns = {"flipped": -axis[0], "right": axis[0] + np.pi / 2,
                         "left": axis[0] + np.pi / 2}[way]  # fmt: skip
                self.assertAlmostEqual(abs(np.cos(axis[1] - turns)), 1.0, places=6)
                CaptureSettings.model_validate({**capture.model_dump(), **made["capture"]})
                # and back again
                back = {"flipped": "flipped", "right": "left", "left": "right"}[way]
                again = self.run_js(
                    "const r = { capture: { ...given[0].capture, ...given[1].capture },"
                    " light: { ...given[0].light, ...given[1].light } };"
                    "return given[2] === 'flipped' ? m.turning.flipped(r)"
                    " : m.turning.turned(r, given[2]);",
                    recipe, made, back,
                )  # fmt: skip
                for station, values in again.items():
                    for name, value in values.items():
                        if value is not None:
                            np.testing.assert_allclose(value, recipe[station][name], atol=2e-5)

    def test_tags_of_the_staff_say_where_spots_lie(self) -> None:
        words = lambda **spot: self.run_js(  # noqa: E731
            "return m.tags.wordsOf(given[0], [-1.3, 1.3]);",
            {"letter": "A", "placed": None, "clipped": False, **spot},
        )
        for spot, said in (
            ({"zone": 4.34}, "falls on IV⅓"),
            ({"zone": 10.2, "clipped": True}, "falls above X or higher"),
            ({"zone": 3.01, "placed": 3}, "placed on III"),
            ({"zone": -0.02, "placed": 0}, "placed on 0, on the toe"),
            ({"zone": 10.0, "placed": 10}, "placed on X, on the shoulder"),
            ({"zone": 4.0, "placed": 3}, "falls on IV, was placed on III"),
        ):
            self.assertEqual(words(**spot), said)

    def test_digits_and_arrows_name_zones(self) -> None:
        found = self.run_js(
            "return given[0].map(([key, zone, again]) => m.tags.zoneByKey(key, zone, again));",
            [["0", 5, False], ["0", 0, True], ["9", 5, False], ["ArrowRight", 3, False],
             ["ArrowLeft", 3.1, False], ["ArrowUp", 10, False], ["ArrowDown", 0, False],
             ["x", 3, False]],
        )  # fmt: skip
        self.assertEqual(found[:3], [0, 10, 9])
        np.testing.assert_allclose(found[3:7], [10 / 3, 8 / 3, 10, 0])
        self.assertIsNone(found[7])

    def test_tags_hang_beside_each_other_on_any_staff(self) -> None:
        rng = np.random.default_rng(8)
        for _ in range(60):
            tags = [
                {"letter": "ABCDEFGHI"[i], "zone": float(zone), "words": int(words)}
                for i, (zone, words) in enumerate(
                    zip(rng.uniform(-1, 11, 9), rng.integers(40, 190, 9), strict=True)
                )
            ]
            width = int(rng.integers(500, 1900))
            hung = self.run_js("return m.tags.hang(...given);", tags, "D", width)
            self.assertEqual([h["letter"] for h in hung], [t["letter"] for t in tags])
            spans = []
            for h in hung:
                self.assertTrue(0 <= h["at"] <= width)
                if h["room"]:
                    start = h["at"] + 15 if h["side"] == "right" else h["at"] - 15 - h["room"]
                    spans.append((h["letter"], start, start + h["room"]))
                    self.assertTrue(start >= -1e-6 and start + h["room"] <= width + 1e-6)
            for letter, start, end in spans:
                for h in hung:
                    if h["letter"] != letter:
                        middle = h["at"]
                        self.assertFalse(start < middle - 9 < end - 1e-6 and middle + 9 < end)
                for other, begin, last in spans:
                    self.assertTrue(other == letter or last <= start + 1e-6 or end <= begin + 1e-6)

    def test_the_timer_follows_the_clock_however_often_it_is_looked_at(self) -> None:
        steps = [{"text": "Through 00", "seconds": 4.0}, {"text": "Through 5", "seconds": 6.5}]
        at = lambda done, speed, ms: self.run_js(  # noqa: E731
            "const [done, speed, ms, steps] = given;"
            "return m.exposing.doneAt({ began: 1000, done, speed }, 1000 + ms, steps);",
            done, speed, ms, steps,
        )  # fmt: skip
        self.assertEqual(at(0, 1, 2500), {"done": 2.5, "out": False})
        self.assertEqual(at(0, 4, 900), {"done": 3.6, "out": False})
        self.assertEqual(at(0, 16, 60_000), {"done": 4.0, "out": True})  # the lamp goes out
        self.assertEqual(at(4.0, 1, 1000), {"done": 5.0, "out": False})
        self.assertEqual(at(4.0, 1, 9000), {"done": 10.5, "out": True})
        self.assertEqual(at(10.5, 1, 9000), {"done": 10.5, "out": True})
        self.assertEqual(self.run_js("return m.exposing.endsOf(given[0]);", steps), [4.0, 10.5])

    def test_places_are_turned_over_as_the_server_does(self) -> None:
        rng = np.random.default_rng(11)
        bend = 1.0 - 0.06 * np.array(LENS_RADII) ** 2 + 0.01 * np.array(LENS_RADII) ** 4
        for number in range(24):
            lens = LensProfile(name="invented", distortion=tuple(bend)) if number % 3 == 0 else None
            settings = CaptureSettings(
                quarter_turns=number % 4,
                flip=bool(rng.integers(2)),
                straighten=float(rng.uniform(-20, 20)),
                keystone_vertical=float(rng.uniform(-0.3, 0.3)),
                keystone_horizontal=float(rng.uniform(-0.2, 0.2)),
                distortion=float(rng.uniform(-0.05, 0.08)) if number % 2 else 0.0,
                lens=lens,
                crop=(0.1, 0.2, 0.8, 0.95) if number % 5 == 0 else None,
            )
            geometry = Geometry(6000, 4000, settings)
            _, _, width, height = geometry.window
            places = rng.uniform(0, 1, (20, 2)) * [width, height]
            on_capture = geometry.picture_to_capture(PicturePlaces(places))
            shape = shape_of(geometry).model_dump()
            found = self.run_js(
                """
                const [shape, on, from] = given;
                const { pictureToCapture, captureToPicture, picturePlace, capturePlace } = m.places;
                return [
                  on.map(([x, y]) => pictureToCapture(shape, picturePlace(x, y))),
                  from.map(([x, y]) => captureToPicture(shape, capturePlace(x, y))),
                ].map((all) => all.map((p) => [p.x, p.y]));
                """,
                shape, places.tolist(), np.asarray(on_capture).tolist(),
            )  # fmt: skip
            np.testing.assert_allclose(found[0], on_capture, atol=0.05, err_msg=str(settings))
            back = geometry.capture_to_picture(CapturePlaces(np.asarray(on_capture)))
            np.testing.assert_allclose(found[1], back, atol=0.05, err_msg=str(settings))
            np.testing.assert_allclose(found[1], places, atol=0.2)

    def test_drawings_are_a_list_whatever_sheets_they_lie_on(self) -> None:
        found = self.run_js(
            """
            const [steps] = given;
            const { sheets } = m;
            let names = [];
            const list = [];
            const texts = new Map();
            let most = 0;
            for (const [what, place, points] of steps) {
              const path = Array.from({ length: points }, (_, i) => [place + i, 2 * i]);
              const mend = { x: place, y: 7, radius: 5, path, fill: false,
                             from_x: null, from_y: null };
              const at = list.length ? place % list.length : 0;
              const before = names;
              if (what === "add" || !list.length) {
                names = sheets.withMore("mends", names, [mend]);
                list.push(mend);
              } else if (what === "insert") {
                names = sheets.withInserted("mends", names, at, mend);
                list.splice(at, 0, mend);
              } else if (what === "change") {
                names = sheets.withChange("mends", names, at, mend);
                list[at] = mend;
              } else {
                names = sheets.withChange("mends", names, at, null);
                list.splice(at, 1);
              }
              const fresh = sheets.unsentOf({
                capture: { mends: names, protected: [] }, enlarger: { passes: [] },
                mount: { inscriptions: [] },
              });
              // what one change makes anew: a sheet, two that are joined, or one that is parted
              const made = names.filter((name) => !before.includes(name)).length;
              const may = what === "insert" ? 2 : 1;
              if (made > may) throw new Error(`${made} sheets for one change`);
              most = Math.max(most, ...fresh.map((text) => text.length));
              sheets.kept(fresh);
              for (const text of fresh) texts.set(text, true);
            }
            const same = JSON.stringify(sheets.drawn("mends", names)) === JSON.stringify(list);
            return { same, many: list.length, sheets: names, most, texts: [...texts.keys()] };
            """,
            self.steps(),
        )
        self.assertTrue(found["same"])
        self.assertGreater(found["many"], 100)
        self.assertLess(found["most"], 8000 + 2000)
        self.assertLess(len(found["sheets"]), 40)
        names = {name_of(text) for text in found["texts"]}
        self.assertTrue(names.issuperset(found["sheets"]))
        for text in found["texts"][-20:]:
            self.assertTrue(read_sheet(text).mends)

    def test_passes_are_the_same_with_and_without_what_goes_without_saying(self) -> None:
        disc = Disc(x=3, y=4, width=5, height=6)
        sample = Sample(points=((1, 2), (3, 4)), reach=50)
        passes = [
            Pass(shapes=(disc,)),
            Pass(stops=-1.0, shapes=(Sky(), disc, Sides(), disc)),
            Pass(stops=0.0, noise=0.5, shapes=(Moved(held=disc, path=((0, 0, 0),)), FallOff())),
            Pass(
                name="all", stops=-0.5, grade=-1.0, fine=0.2, haze=-0.1, noise=1.0, strength=1.5,
                group=3, on=False, opposite=True, soften=0.2, held=1.0, zones=ZoneLimit(last=4),
                hues=HueLimit(hue=200), shapes=(
                    disc.model_copy(update={"how": "take", "soft": 0.1, "angle": -30.0}),
                    Card(x=1, y=2, to_x=3, to_y=4, how="keep"),
                    Brush(strokes=("a" * 32,), most=3.0), Polygon(points=((0, 0), (9, 0), (4, 9))),
                    Moved(held=disc, path=((0, 0, 0), (5, 5, 2.5))), Alike(samples=(sample,)),
                    Sky(), Foliage(how="take"), Whole(), Sides(left=0.2), Oval(size=90),
                    FallOff(x=0.3),
                ),
            ),
        ]  # fmt: skip
        lean = [json.loads(p.model_dump_json(exclude_defaults=True)) for p in passes]
        whole, written, names, letters = self.run_js(
            """
            const whole = given[0].map(m.wholes.wholePass);
            const letters = Array.from({ length: 800 }, (_, i) => m.passes.letterOf(i));
            return [whole, whole.map(m.wholes.leanPass),
                    whole.map((p) => p.name || m.passes.proposedName(p)), letters];
            """,
            lean,
        )
        # and they are called the same in the window and in the notes
        self.assertEqual(names, [name_of_pass(each) for each in passes])
        self.assertEqual(letters, [letter_of(number) for number in range(800)])
        for each, known, short in zip(passes, whole, written, strict=True):
            self.assertEqual(known, json.loads(each.model_dump_json()))
            self.assertEqual(Pass.model_validate(short), each)
        self.assertLessEqual(len(json.dumps(written[0])), len(json.dumps(lean[0])))

    @staticmethod
    def steps() -> list[list]:
        rng = np.random.default_rng(3)
        kinds = ["add"] * 3 + ["insert"] * 2 + ["change"] * 2 + ["remove"] * 3
        return [
            [str(rng.choice(kinds)), int(rng.integers(0, 5000)), int(rng.integers(0, 60))]
            for _ in range(700)
        ]

    def test_a_recipe_goes_to_the_window_and_back_unchanged(self) -> None:
        recipe = Recipe(
            capture=CaptureSettings(crop=(0.1, 0.1, 0.9, 0.9), warmth=30),
            film=FilmSettings(placement=-1),
            paper=PaperSettings(grade=3.5),
        )
        document = json.loads(recipe.model_dump_json())
        by_station, again = self.run_js(
            "const r = m.joined(given[0]); return [r, m.parted(r)];", document
        )
        self.assertEqual(by_station["capture"]["crop"], [0.1, 0.1, 0.9, 0.9])
        self.assertEqual(by_station["capture"]["warmth"], 30)
        self.assertEqual(Recipe.model_validate(again), recipe)

    def test_what_is_typed_is_read(self) -> None:
        cases: dict[str, dict[str, float | None]] = {
            "": {"1.5": 1.5, "64,5": 64.5, ",5": 0.5, "−2": -2, "+3": 3, "- 4": -4, "1⅓": 4 / 3,
                 "⅔": 2 / 3, "2/3": 2 / 3, "1 2/3": 5 / 3, "12/3": 4, "0": 0,
                 "": None, "much": None, "1h": None, "2 3": None, "1..2": None, "1,2,3": None,
                 "5 s": None, "1e5": None, "0x10": None, "--2": None, "∞": None},
            "s": {"1h": 3600, "1 h": 3600, "2 min": 120, "2 min 30 s": 150, "2:30": 150,
                  "0:07,5": 7.5, "8": 8, "8 sec": 8, "1½ min": 90, "64,5 s": 64.5,
                  "30 s 2 min": None, "2 min 30": None, "2:75": None, "5 mm": None},
            "stops": {"1/3 stop": 1 / 3, "−1⅔ stops": -5 / 3, "2 EV": 2, "3 s": None},
            "%": {"2": 2, "2 %": 2, "0,5%": 0.5, "2 ‰": None},
            "K": {"5600": 5600, "5600 K": 5600, "3200k": 3200},
            "mm": {"35 mm": 35, "3,5 cm": 35},
            "°": {"−0,5°": -0.5, "12 degrees": 12},
        }  # fmt: skip
        for unit, values in cases.items():
            read = self.run_js(
                "return given[1].map((t) => m.numbers.readNumber(t, given[0]));",
                unit, list(values),
            )  # fmt: skip
            for (typed, wanted), got in zip(values.items(), read, strict=True):
                if wanted is None:
                    self.assertIsNone(got, f"{typed!r} as {unit!r}")
                else:
                    self.assertAlmostEqual(got, wanted, places=9, msg=f"{typed!r} as {unit!r}")
        grades = {"2½": 2.5, "00": -1, "00½": -0.5, "0": 0, "5": 5, "3.25": 3.25, "x": None}
        stages = {"N": 0, "n": 0, "N−1⅓": -4 / 3, "N+1": 1, "+1": 1, "-¼": -0.25, "N1": None}
        for name, said in (("readGrade", grades), ("readDevelopment", stages)):
            read = self.run_js(
                "return given[1].map((t) => m.format[given[0]](t));", name, list(said)
            )
            for (typed, wanted), got in zip(said.items(), read, strict=True):
                self.assertEqual(
                    got if got is None else round(got, 6),
                    wanted if wanted is None else round(wanted, 6),
                    typed,
                )

    def test_what_is_shown_reads_back(self) -> None:
        # grades in quarters, development in sixths, stops in thirds
        off = self.run_js(
            """
            const { format: f, numbers: { readNumber } } = m;
            const range = (from, to, step) =>
              Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => from + i * step);
            const off = (values, show, read) =>
              values.map((v) => [v, show(v), Math.abs(read(show(v)) - v)])
                .filter((row) => !(row[2] < 0.01));
            return [
              ...off(range(-1, 5, 0.25), f.gradeName, f.readGrade),
              ...off(range(-2, 2, 1 / 6), f.development, f.readDevelopment),
              ...off(range(-5, 5, 1 / 3), f.signedStops, (t) => readNumber(t, "stops")),
            ];
            """
        )
        self.assertEqual(off, [])

    def test_a_sheet_is_shown_by_marks_and_marked(self) -> None:
        sheet = {"frames": [7, 3, 9, 4], "marks": [3, 0, 1, 0], "lost": 0, "lost_place": None}
        found = self.run_js(
            """
            const { order: o } = m, [sheet] = given;
            const dotted = o.withMark(sheet, new Set([3, 9]), "dot");
            return {
              all: o.shownOf(sheet, null, false),
              byMark: o.shownOf(sheet, null, true),             // ring, dot, none, cross
              ringed: o.shownOf(sheet, "ring", true),
              counts: ["none", "ring", "dot", "cross"].map((mark) => o.marked(sheet, mark)),
              common: [[3, 4], [3, 9], [7], []].map((some) => o.commonMark(sheet, some)),
              dotted: dotted.marks, before: sheet.marks,
            };
            """,
            sheet,
        )
        self.assertEqual(
            found,
            {
                "all": [7, 3, 9, 4], "byMark": [9, 3, 4, 7], "ringed": [9],
                "counts": [2, 1, 0, 1], "common": ["none", None, "cross", None],
                "dotted": [3, 2, 2, 0], "before": [3, 0, 1, 0],
            },
        )  # fmt: skip

    STORE = """
        const frame = { id: 1, width: 3000, height: 2000 };
        const told = [];
        const recipe = m.joined(given[0]);
        const print = { id: 7, frame_id: 1, name: "p", head: 1, label: "New print", undo: null,
                        redo: null, recipe };
        const store = m.benchStore(print, {
          frame, shelf: { papers: [] }, schema: { $defs: {} }, tell: (e) => told.push(e.message),
        });
        const now = () => store.getState();
    """

    def default(self) -> dict:
        document = json.loads(Recipe().model_dump_json())
        self.answers.kept = {
            "id": 7, "frame_id": 1, "name": "p", "head": 1, "label": "New print", "undo": None,
            "redo": None, "recipe": document,
        }  # fmt: skip
        return document

    def test_a_tool_is_in_hand_only_where_it_belongs(self) -> None:
        kinds = self.run_js(
            self.STORE
            + """
            const kinds = [now().tool.kind];
            const step = (does) => { does(now()); kinds.push(now().tool.kind); };
            step((b) => b.openStation("capture"));
            step((b) => b.openPart({ capture: "spots" }));       // mends are drawn there
            step((b) => b.take({ kind: "mend", as: "protect" }));
            step((b) => b.take({ kind: "meter" }));              // metering goes anywhere
            step((b) => b.openStation("film"));
            step((b) => b.leave());
            step((b) => b.openStation("capture"));
            step((b) => b.openPart({ capture: "frame" }));
            step((b) => b.take({ kind: "crop", ratio: null, guide: "thirds" }));
            step((b) => b.openStation("paper"));                 // a crop is not chosen there
            return kinds;
            """,
            self.default(),
        )
        self.assertEqual(
            kinds,
            ["look", "look", "mend", "mend", "meter", "meter", "look", "mend", "look", "crop",
             "look"],
        )  # fmt: skip

    def test_a_strip_lies_only_at_its_station(self) -> None:
        shown = self.run_js(
            self.STORE
            + """
            const strip = { over: "time", count: 7, by: "stops", step: 0.5,
                            patch: null, lie: null };
            const shown = [];
            now().openStation("enlarger");
            store.setState({ shown: { kind: "strip", strip } });
            now().openStation("enlarger");
            shown.push(now().shown.kind);
            now().openStation("paper");
            shown.push(now().shown.kind);
            return shown;
            """,
            self.default(),
        )
        self.assertEqual(shown, ["strip", "print"])

    def test_a_change_that_is_refused_is_said_and_given_up_and_the_next_one_kept(self) -> None:
        problem = {"title": "The recipe does not hold", "status": 422, "detail": "grade: too hard"}
        document = self.default()
        self.answers.refuse = [problem]
        found = self.run_js(
            self.STORE
            + """
            now().change("paper", { grade: 9 }, "Grade 9");
            await now().kept();
            const back = now().recipe.paper.grade;
            now().change("paper", { grade: 4 }, "Grade 4");
            await now().kept();
            return { told, back, grade: now().print.recipe.paper.grade, head: now().print.head };
            """,
            document,
        )
        self.assertEqual(found["told"], ["“Grade 9” was not kept. grade: too hard"])
        self.assertEqual((found["back"], found["grade"], found["head"]), (2, 4, 2))
        self.assertEqual(
            [body["label"] for _, _, body in self.answers.asked], ["Grade 9", "Grade 4"]
        )

    def test_changes_are_kept_in_order_when_the_server_answers_again(self) -> None:
        document = self.default()
        self.answers.silent = True
        threading.Timer(1.0, lambda: setattr(self.answers, "silent", False)).start()
        found = self.run_js(
            self.STORE
            + """
            now().change("paper", { grade: 3 }, "Grade 3");
            now().change("film", { grain: 2 }, "Grain × 2");
            await now().kept();
            const { head, recipe: kept } = now().print;
            return { head, grade: kept.paper.grade, grain: kept.film.grain, told };
            """,
            document,
        )
        self.assertEqual((found["head"], found["grade"], found["grain"]), (3, 3, 2))
        self.assertEqual(
            [body["label"] for _, _, body in self.answers.asked], ["Grade 3", "Grain × 2"]
        )
        self.assertEqual([body["base"] for _, _, body in self.answers.asked], [1, 2])
        self.assertIn("nothing you did is lost", found["told"][0])

    def test_many_movements_of_one_slider_are_one_change(self) -> None:
        document = self.default()
        self.run_js(
            self.STORE
            + """
            for (const grade of [2.5, 3, 3.5]) now().change("paper", { grade }, `Grade ${grade}`);
            now().change("paper", { grade: 4 });  // only shown
            await now().kept();
            """,
            document,
        )
        self.assertEqual([body["label"] for _, _, body in self.answers.asked], ["Grade 3.5"])


if __name__ == "__main__":
    unittest.main()
