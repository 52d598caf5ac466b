"""What a ring-around offers, rendered by the core it will be rendered by."""

import json

import numpy as np

from silvrin import shelf
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import (
    Bath,
    CaptureSettings,
    ColourBand,
    DevelopmentSettings,
    EnlargerSettings,
    FilmSettings,
    HueBand,
    LightSettings,
    LocalContrast,
    PaperSettings,
    Recipe,
    TonerSettings,
)
from silvrin.core.recipe.files import file_schema
from silvrin.core.render import Darkroom, Sitting
from silvrin.core.stations import SETTINGS
from silvrin.demo_job import demo_capture
from silvrin.files.capture import read_capture
from silvrin.web.shelf.described import describe
from tests.browser.modules import WithModules

# Not one value, or drawn, or picked on the picture: these are no axes
NO_AXIS = {
    "capture.neutral", "capture.balance", "capture.lens", "capture.crop", "capture.mends",
    "capture.protected", "film.spots", "enlarger.passes", "paper.curve",
    "toner.stops",
}  # fmt: skip
RICH = Recipe(
    light=LightSettings(
        lens_filter="any-hue",
        second_filter="8",
        soft_focus=0.4,
        focus_blur=1.0,
        focus_aspect=2.0,
        hue_bands=(HueBand(centre=120, stops=0.5), HueBand(centre=255)),
    ),
    film=FilmSettings(stock="juniper-200"),
    development=DevelopmentSettings(
        fine=LocalContrast(strength=0.5),
        mid_scale=LocalContrast(strength=0.5),
        broad=LocalContrast(strength=0.5),
    ),
    enlarger=EnlargerSettings(soft_time=5.0, hard_time=7.0),
    paper=PaperSettings(split=True),
    toner=TonerSettings(
        baths=(Bath(kind="sepia"),),
        shadow_wash=0.5,
        light_wash=0.5,
        colour_bands=(ColourBand(centre=120, back=0.5),),
    ),
)
AXES = """
const recipe = m.joined(given[0]);
return m.axes(recipe, given[1], given[2], given[3], "jpeg").map((axis) => ({
  id: axis.id,
  choices: axis.choices.map((c) => ({
    text: c.text, now: c.now, recipe: m.parted(m.taken(recipe, [c])),
  })),
}));
"""


class RingTest(WithModules):
    def axes(self, recipe: Recipe, **facts: object) -> dict[str, list[dict]]:
        """Choices of a recipe, by the axis."""
        given = {"split": recipe.paper.split, "grade": 2.0, "n": recipe.development.n, "time": 12}
        found = self.run_js(
            AXES,
            json.loads(recipe.model_dump_json()),
            file_schema(),
            json.loads(describe(shelf.shipped()).model_dump_json()),
            given | facts,
        )
        return {axis["id"]: axis["choices"] for axis in found}

    def test_every_setting_of_every_station_is_offered_where_it_acts(self) -> None:
        infrared = Recipe(capture=CaptureSettings(infrared=True, hot_spot=0.5))
        offered = {
            ".".join(name.split(".")[:2])
            for recipe in (Recipe(), RICH, infrared)
            for name in self.axes(recipe)
        }
        every = {
            f"{station}.{name}"
            for station, model in SETTINGS.items()
            if station != "mount"  # what lies about the picture is not seen in small prints
            for name in model.model_fields
        }
        self.assertEqual(offered - {"light.any-hue"}, every - NO_AXIS)

    def test_no_axis_has_prints_that_are_all_alike_or_two_labels_for_one(self) -> None:
        whole = read_capture(demo_capture("Bottle kiln")).picture()
        light = whole.cut(whole.whole(180))
        picture = LinearPicture.with_pyramid(light, whole.scale)
        # whether these show depends on what the picture holds
        held = (
            "capture.recover_highlights", "development.zone_", "light.hue_bands",
            "film.grain_",  # at this size grains are far smaller than a pixel
        )  # fmt: skip
        for recipe in (Recipe(), RICH):
            for name, choices in self.axes(recipe).items():
                prints = []
                for choice in choices:
                    path = shelf.light_path(Recipe.model_validate(choice["recipe"]))
                    sitting = Sitting("r", picture, path)
                    view = sitting.picture.whole(180)
                    prints.append(Darkroom().view(sitting, view).tobytes())
                labels = [choice["text"] for choice in choices]
                self.assertEqual(len(set(labels)), len(labels), name)
                self.assertLessEqual(sum(choice["now"] for choice in choices), 1, name)
                if not name.startswith(held):
                    self.assertGreater(len(set(prints)), 1, name)
                if name.endswith(("hue_shift", "_hue", "focus_angle")):
                    self.assertEqual(len(set(prints)), len(prints), name)

    def test_grades_times_and_developments_are_those_there_are(self) -> None:
        graded = Recipe(paper=PaperSettings(paper="glossy-fibre-graded"))
        paper = shelf.papers()[graded.paper.paper]
        grades = self.axes(graded, grade=float(paper.grades[0]))["paper.grade"]
        self.assertEqual(
            [Recipe.model_validate(c["recipe"]).paper.grade for c in grades], list(paper.grades)
        )
        self.assertEqual([c["now"] for c in grades].index(True), 0)
        # no grade is chosen where two exposures make it; both of them are scaled
        split = self.axes(RICH)
        self.assertNotIn("paper.grade", split)
        times = [Recipe.model_validate(c["recipe"]).enlarger for c in split["enlarger.time"]]
        np.testing.assert_allclose(
            [[t.soft_time, t.hard_time] for t in times],
            [[5 * 2**s, 7 * 2**s] for s in (-1, -0.5, 0, 0.5, 1)],
            rtol=1e-3,
        )
        # N as far as the stock stands it
        for stock in ("gorse-3200", "sloe-10", "larch-100"):
            recipe = Recipe(film=FilmSettings(stock=stock))
            wanted = shelf.stocks()[stock]
            found = [
                Recipe.model_validate(c["recipe"]).development.n
                for c in self.axes(recipe)["development.n"]
            ]
            self.assertEqual((found[0], found[-1]), (wanted.least_n, wanted.most_n))
            self.assertEqual(found, sorted(found))

    def test_two_choices_of_one_setting_are_both_taken(self) -> None:
        both = self.run_js(
            """
            const recipe = m.joined(given[0]);
            const all = m.axes(recipe, given[1], given[2], null);
            const of = (id) => all.find((axis) => axis.id === id).choices.at(-1);
            const taken = m.taken(recipe, [of("paper.value_lift.2"), of("paper.value_lift.7")]);
            return taken.paper.value_lift;
            """,
            json.loads(Recipe().model_dump_json()),
            file_schema(),
            json.loads(describe(shelf.shipped()).model_dump_json()),
        )
        self.assertEqual(both, [0, 0, 1.5, 0, 0, 0, 0, 1.5, 0, 0, 0])
