import json
import unittest
from pathlib import Path

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from silvrin import shelf
from silvrin.core.light.conversion import Conversion
from silvrin.core.recipe import (
    Brush,
    CaptureSettings,
    Disc,
    EnlargerSettings,
    FilmSettings,
    LightSettings,
    Mend,
    MeteredSpot,
    Outline,
    PaperSettings,
    Pass,
    Polygon,
    Recipe,
    Stroke,
)
from silvrin.core.recipe.drawings import MOST_TEXT, Sheets, name_of, read_sheet
from silvrin.core.recipe.files import file_schema, read_recipe, write_recipe
from silvrin.core.recipe.parts import PART_OF
from silvrin.errors import BadRecipe

KEPT = Path(__file__).parent.parent / "kept"
MENDS = (
    Mend(x=120, y=80, radius=6),
    Mend(x=300, y=200, radius=9, path=((320, 210), (350, 240))),
    Mend(x=500, y=300, radius=40, fill=True),
    Mend(x=90, y=400, radius=5, from_x=120, from_y=400),
)
OUTLINES = (Outline(points=((10, 10), (60, 12), (40, 70))),)


def read(text: str | bytes, name: str = "recipe") -> tuple[Recipe, Sheets]:
    """A recipe by the shelf that comes with Silvrin."""
    return read_recipe(text, shelf.shipped().zone_part, name)


class PartsTest(unittest.TestCase):
    def test_what_is_of_the_frame_and_what_is_a_look_lie_apart(self) -> None:
        recipe = Recipe(
            capture=CaptureSettings(crop=(0.1, 0.1, 0.9, 0.9), warmth=30),
            film=FilmSettings(stock="fern-50", placement=-1),
        )
        document = json.loads(recipe.model_dump_json())
        self.assertEqual(list(document), ["format", "of_frame", "look"])
        self.assertEqual(document["format"], "silvrin-recipe-6")
        self.assertEqual(document["of_frame"]["capture"]["crop"], [0.1, 0.1, 0.9, 0.9])
        self.assertEqual(document["of_frame"]["film"]["placement"], -1)
        self.assertEqual(document["look"]["capture"]["warmth"], 30)
        self.assertEqual(document["look"]["film"]["stock"], "fern-50")
        self.assertNotIn("crop", document["look"]["capture"])
        self.assertEqual(read(recipe.model_dump_json())[0], recipe)
        self.assertEqual(read("{}")[0], Recipe())

    def test_the_design_s_list_is_of_the_frame(self) -> None:
        # the product's design: crop, mends, metered spots, placement, picked neutral
        for place in ("capture.crop", "capture.mends", "film.spots", "film.placement",
                      "capture.balance", "capture.neutral"):  # fmt: skip
            station, name = place.split(".")
            self.assertEqual(PART_OF[station][name], "of_frame", place)
        for place in ("light.lens_filter", "film.stock", "development.n", "paper.grade"):
            station, name = place.split(".")
            self.assertEqual(PART_OF[station][name], "look", place)

    def test_frozen(self) -> None:
        with self.assertRaises(ValidationError):
            Recipe().paper.grade = 3  # type: ignore[misc]

    def test_one_of_version_4_is_read_as_it_is(self) -> None:
        recipe = Recipe(paper=PaperSettings(grade=4), film=FilmSettings(placement=-1))
        text = recipe.model_dump_json().replace("silvrin-recipe-6", "silvrin-recipe-4")
        self.assertIn("silvrin-recipe-4", text)
        self.assertEqual(read(text)[0], recipe)

    def test_what_does_not_hold_is_named_where_it_stands(self) -> None:
        wrong = {
            '{"look": {"paper": {"grade": 7}}}': [
                "look.paper.grade", "less than or equal to 5", "7",
            ],
            '{"look": {"paper": {"gloss": 1}}}': ["look.paper.gloss", "not a field"],
            '{"look": {"toning": {}}}': ["look.toning", "capture, light"],
            '{"look": {"capture": {"crop": null}}}': [
                "look.capture.crop belongs to of_frame.capture",
            ],
            '{"of_frame": {"paper": {"grade": 2}}}': ["belongs to look.paper"],
            '{"style": {}}': ["style", "of_frame and look"],
            '{"look": [1]}': ["look", "by station"],
            '{"look": {"film": {"exposure_index": "fast"}}}': [
                "look.film.exposure_index", "'fast'",
            ],
            '{"look": {"light": {"temperature": NaN}}}': ["look.light.temperature"],
            '{"look": {"light": {"lens_filter": "../x"}}}': ["look.light.lens_filter"],
            '{"format": "other-1"}': ["format", "silvrin-recipe-6"],
            '{"format": "silvrin-recipe-7"}': ["version 7", "newer Silvrin"],
            '{"sheets": [1]}': ["sheets"],
            '{"sheets": {"a": {"mends": [{"x": 1, "y": 1, "radius": 9999}]}}}': ["400"],
            '{"of_frame": {"capture": {"mends": ["a"]}}}': ["of_frame.capture.mends.0"],
            "[]": ["an object"],
            "grade 2": ["not JSON"],
        }  # fmt: skip
        for text, parts in wrong.items():
            with self.subTest(text), self.assertRaises(BadRecipe) as caught:
                read(text, "soft.json")
            for part in ["soft.json", *parts]:
                self.assertIn(part, str(caught.exception))

    def test_what_is_not_on_the_shelf_is_named(self) -> None:
        recipe, _ = read('{"look": {"light": {"lens_filter": "99"}}}')
        with self.assertRaisesRegex(BadRecipe, "light.lens_filter: '99' is not on the shelf"):
            shelf.light_path(recipe)

    @settings(max_examples=60)
    @given(
        st.floats(-5, 5), st.floats(-1, 5), st.integers(0, 3), st.booleans(),
        st.sampled_from(["25", "none", "any-hue"]),
        st.lists(st.tuples(st.integers(0, 9000), st.integers(0, 9000)), max_size=3),
    )  # fmt: skip
    def test_any_recipe_survives_being_written_down(
        self, trim: float, grade: float, turns: int, flip: bool, glass: str, spots: list
    ) -> None:
        recipe = Recipe(
            capture=CaptureSettings(exposure=trim, quarter_turns=turns, flip=flip),
            light=LightSettings(lens_filter=glass),
            film=FilmSettings(
                spots=tuple(
                    MeteredSpot(letter="ABC"[i], x=x, y=y) for i, (x, y) in enumerate(spots)
                )
            ),
            paper=PaperSettings(grade=grade),
        )
        self.assertEqual(Recipe.model_validate_json(recipe.model_dump_json()), recipe)


disc = {"kind": "disc", "x": 10.0, "y": 20.0, "width": 30.0, "height": 5.0}
card = {"kind": "card", "x": 10.0, "y": 20.0, "to_x": 30.0, "to_y": 5.0, "how": "keep"}
five = {"points": [(0, 0), (5, 1), (6, 6), (3, 9), (-2, 4)]}


class VersionTest(unittest.TestCase):
    def test_a_recipe_of_version_1_is_brought_up_to_date(self) -> None:
        text = (KEPT / "recipe-1.json").read_text()
        recipe, sheets = read(text)
        drawings = sheets.of(recipe)
        self.assertEqual(drawings.mends, MENDS)
        self.assertEqual(drawings.protected, OUTLINES)
        former = json.loads(text)
        for station, fields in former.items():
            if station == "format":
                continue
            kept = json.loads(getattr(recipe, station).model_dump_json())
            for name, value in fields.items():
                # its eight hue bands did nothing
                if name not in ("mends", "protected", "hue_bands"):
                    self.assertEqual(kept[name], value, f"{station}.{name}")
        self.assertEqual(recipe.light.hue_bands, ())
        # without a format it is known by its stations
        del former["format"]
        self.assertEqual(read(json.dumps(former))[0], recipe)

    def test_hue_bands_of_version_5_stay_as_they_were_where_they_did_something(self) -> None:
        bands = [{"stops": 0, "centre": 45 * i, "width": 45, "softness": 1} for i in range(8)]
        moved = [{**band, "stops": 0.5 * (i == 3)} for i, band in enumerate(bands)]
        for former, wanted in ((bands, []), (moved, moved)):
            look = {"light": {"hue_bands": former}}
            mixture = {"name": "Other", "before": {"light": {"hue_bands": former}}}
            text = json.dumps({"format": "silvrin-recipe-5", "look": look, "mixture": mixture})
            recipe, _ = read(text)
            for light in (recipe.light, recipe.mixture.before.light):
                self.assertEqual([band.model_dump() for band in light.hue_bands], wanted)

    def test_an_exposure_index_of_version_2_gives_the_exposure_it_gave(self) -> None:
        for stock, index in (("willow-400", 800), ("larch-100", 25), ("not-there", 50)):
            film = {"stock": stock, "exposure_index": index}
            former = {"format": "silvrin-recipe-2", "look": {"film": film}}
            recipe, _ = read(json.dumps(former))
            if stock == "not-there":
                self.assertEqual(recipe.film.stock, stock)
                continue
            placed = shelf.light_path(recipe)[Conversion].placement
            # in version 2 a grey metered at the label lay on Zone V
            speed = shelf.stocks()[stock].speed
            wanted = np.log2(speed / index) - np.log2(0.18)
            self.assertAlmostEqual(placed, wanted, delta=1e-3)
        for odd in ({"exposure_index": True}, {"exposure_index": "fast"}, 5):
            with self.assertRaises(BadRecipe):
                read(json.dumps({"format": "silvrin-recipe-2", "look": {"film": odd}}))

    def test_passes_of_version_3_are_put_on_sheets(self) -> None:
        passes = [
            {"name": "face", "stops": -0.5, "shapes": [disc]},
            {"stops": 1, "group": 3, "shapes": [disc | {"how": "take"}, card], "opposite": True},
        ]  # fmt: skip
        former = {"format": "silvrin-recipe-3", "of_frame": {"enlarger": {"passes": passes}}}
        recipe, sheets = read(json.dumps(former))
        found = sheets.of(recipe).passes
        self.assertEqual(found, tuple(Pass.model_validate(each) for each in passes))
        self.assertEqual([len(each.shapes) for each in found], [1, 2])
        wrong = {"kind": "blob"}
        passes[1]["shapes"] = [wrong]
        with self.assertRaisesRegex(BadRecipe, "passes.1.shapes.0"):
            read(json.dumps(former))


class DrawingsTest(unittest.TestCase):
    def test_strokes_travel_with_the_passes_whose_brushes_name_them(self) -> None:
        sheets = Sheets()
        strokes = (Stroke(points=((3, 4), (9, 9)), radius=5, pressure=(0.5, 1.0)),)
        brush = Brush(strokes=sheets.strokes(strokes), most=3)
        passes = sheets.passes(
            [Pass(shapes=(brush,)), Pass(shapes=(Polygon.model_validate(five),))]
        )
        recipe = Recipe(enlarger=EnlargerSettings(passes=passes))
        text = write_recipe(recipe, sheets)
        again, found = read(text.replace(brush.strokes[0], "my strokes"))
        self.assertEqual(again, recipe)
        self.assertEqual(found.of(again).strokes, {brush.strokes[0]: strokes})
        del sheets.texts[brush.strokes[0]]
        with self.assertRaisesRegex(BadRecipe, "not known here"):
            sheets.of(recipe)
        many = sheets.passes([Pass(shapes=(Disc(x=1, y=1, width=2, height=2),))] * 201)
        with self.assertRaisesRegex(BadRecipe, "201 passes; at most 200"):
            sheets.of(Recipe(enlarger=EnlargerSettings(passes=many)))

    def test_a_file_carries_its_sheets_whatever_it_calls_them(self) -> None:
        sheets = Sheets()
        recipe = Recipe(
            capture=CaptureSettings(mends=sheets.mends(MENDS), protected=sheets.outlines(OUTLINES))
        )
        text = write_recipe(recipe, sheets)
        again, found = read(text)
        self.assertEqual(again, recipe)
        self.assertEqual(found.of(again).mends, MENDS)
        renamed = text.replace(recipe.capture.mends[0], "my spots")
        self.assertEqual(read(renamed)[0], recipe)

    def test_the_schema_of_a_file_tells_all_that_is_in_it(self) -> None:
        schema = file_schema()
        written = schema["$defs"]["WrittenRecipe"]["properties"]
        self.assertEqual(set(written), {"format", "of_frame", "look", "mixture", "off", "sheets"})
        self.assertEqual(schema["$defs"]["Mend"]["properties"]["radius"]["maximum"], 400)
        straighten = schema["$defs"]["CaptureOfFrame"]["properties"]["straighten"]
        self.assertEqual((straighten["minimum"], straighten["unit"]), (-45, "°"))

    def test_a_sheet_is_named_by_its_content_and_full_ones_are_left_alone(self) -> None:
        sheets = Sheets()
        names = sheets.mends(Mend(x=i, y=i, radius=5) for i in range(1000))
        self.assertEqual(len(names), len(sheets.texts))
        for name, text in sheets.texts.items():
            self.assertEqual(name, name_of(text))
            self.assertLess(len(text), 8500)
        more = Sheets()
        again = more.mends([Mend(x=i, y=i, radius=5) for i in range(1000)] + [MENDS[0]])
        self.assertEqual(again[: len(names) - 1], names[:-1])

    def test_what_a_recipe_names_must_be_there_and_of_its_kind(self) -> None:
        sheets = Sheets()
        mends, outlines = sheets.mends(MENDS), sheets.outlines(OUTLINES)
        for wrong, words in (
            (CaptureSettings(mends=("0" * 32,)), "not known here"),
            (CaptureSettings(mends=outlines), "no mends"),
            (CaptureSettings(protected=mends), "no outlines"),
        ):
            with self.assertRaisesRegex(BadRecipe, words):
                sheets.of(Recipe(capture=wrong))
        many = sheets.mends([Mend(x=1, y=1, radius=2)] * 1001)
        with self.assertRaisesRegex(BadRecipe, "1001 mends; at most 1000"):
            sheets.of(Recipe(capture=CaptureSettings(mends=many)))

    def test_sheets_that_do_not_hold(self) -> None:
        for text, words in (
            ("{}", "one of these"),
            ('{"mends": [], "outlines": []}', "one of these"),
            ('{"passes": [{"shapes": []}]}', "passes.0.shapes"),
            ('{"passes": [{"shapes": [{"kind": "blob"}]}]}', "passes.0.shapes.0.*blob.*'disc'"),
            ('{"strokes": [{"points": [], "radius": 9}]}', "strokes.0.points"),
            (json.dumps({"strokes": [{"points": [[1, 2]] * 501, "radius": 9}]}), "500"),
            ('{"strokes": [{"points": [[1, 2]], "radius": 9, "pressure": [1, 1]}]}', "pressures"),
            ('{"mends": [{"x": -1, "y": 0, "radius": 5}]}', "mends.0.x"),
            ("[" * 9, "not JSON"),
            ('{"mends": [' + " " * MOST_TEXT + "]}", f"at most {MOST_TEXT}"),
        ):
            with self.assertRaisesRegex(BadRecipe, words):
                read_sheet(text)


class TimeTest(unittest.TestCase):
    def test_base_time_ends_where_its_range_ends(self) -> None:
        for seconds in (0.2, 1000.0):
            self.assertEqual(EnlargerSettings(time=seconds).time, seconds)
        for seconds in (0.19, 1000.1):
            with self.assertRaises(ValidationError):
                EnlargerSettings(time=seconds)


if __name__ == "__main__":
    unittest.main()
