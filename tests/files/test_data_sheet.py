"""The data sheet says what was set and measured."""

import unittest

import numpy as np
from defusedxml import ElementTree

from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import (
    Bath,
    DevelopmentSettings,
    Disc,
    EnlargerSettings,
    FilmSettings,
    LightSettings,
    PaperSettings,
    Pass,
    Recipe,
    TonerSettings,
)
from silvrin.core.render import Darkroom, Sitting
from silvrin.core.render.data_sheet import TOLD, DataSheet, changes_of, data_of
from silvrin.core.stations import SETTINGS
from silvrin.files.data_sheet import data_page
from silvrin.files.metadata import Metadata
from tests.core.test_light_path import BEGIN, NEEDS, OTHERS, other, path_of
from tests.worked import worked_path

CAMERA = Metadata(
    camera="Maker 1", lens="35 mm", shutter=1 / 250, aperture=5.6, sensitivity=200,
    taken="2026-05-06T07:08:09",
)  # fmt: skip


def picture() -> LinearPicture:
    ramp = np.geomspace(20, 60000, 400)[None, :, None] * np.ones((300, 1, 3))
    return LinearPicture.with_pyramid(ramp.astype(np.uint16), 1 / 65535)


def sheet(recipe: Recipe, *passes: Pass) -> DataSheet:
    return data_of(Darkroom(), Sitting("d", picture(), worked_path(recipe, *passes)))


def rows(found: DataSheet) -> dict[str, dict[str, str]]:
    return {each.title: dict(each.rows) for each in found.sections}


class DataSheetTest(unittest.TestCase):
    def test_figures_of_every_station(self) -> None:
        recipe = Recipe(
            light=LightSettings(lens_filter="8", temperature=4500, haze=-0.25),
            film=FilmSettings(placement=-1.0, grain=0),
            development=DevelopmentSettings(n=-1.0),
            enlarger=EnlargerSettings(time=12.0),
            paper=PaperSettings(grade=3.5),
            toner=TonerSettings(baths=(Bath(kind="sepia", time=0.25), Bath(kind="iron-blue"))),
        )
        disc = Disc(x=200, y=150, width=90, height=90)
        found = sheet(recipe, Pass(stops=1.0, shapes=(disc,)), Pass(stops=-0.5, shapes=(disc,)))
        said = rows(found)
        self.assertEqual(said["Light"]["Light"], "4500 K")
        self.assertEqual(said["Light"]["Haze"], "−0.25")
        self.assertEqual(said["Film"]["Placement"], "−1.00 stops")
        self.assertEqual(said["Film"]["Grain"], "0 ×")
        self.assertEqual(said["Development"]["Development"], "N−1")
        self.assertEqual(said["Enlarger"]["Base exposure"], "12.0 s")
        self.assertEqual(said["Enlarger"]["Printing map"], "1 burned, 1 dodged")
        self.assertEqual(said["Paper"]["Grade"], "3½")
        self.assertEqual(said["Toner"], {"Bath 1": "sepia, 25 %", "Bath 2": "iron blue, 50 %"})
        self.assertEqual(said["Mount"]["Picture"], "300 × 225 mm")
        # the curves are where their stations say: density rises, zones lie on the film's curve
        log_h, density = found.film
        np.testing.assert_allclose(
            found.zones, np.interp((np.arange(11) - 5) * np.log10(2), log_h, density), atol=0.01
        )
        low, high = (float(v) for v in said["Development"]["Zones I to VIII"].split(" to "))
        self.assertEqual((round(found.zones[1], 2), round(found.zones[8], 2)), (low, high))

    def test_whatever_is_set_is_said(self) -> None:
        for station, fields in SETTINGS.items():
            for name, field in fields.model_fields.items():
                place = f"{station}.{name}"
                if name in TOLD[station] or place in ("paper.paper", "light.source"):
                    continue
                begin = NEEDS.get(place, BEGIN)
                part = getattr(begin, station)
                value = OTHERS[place] if place in OTHERS else other(field, getattr(part, name))
                if value == field.get_default(call_default_factory=True):
                    continue
                recipe = begin.model_copy(update={station: part.model_copy(update={name: value})})
                with self.subTest(place):
                    said = dict(changes_of(path_of(recipe), station))
                    self.assertTrue(said.get(str(field.title)), said)

    def test_the_page_says_it_all(self) -> None:
        found = sheet(Recipe(film=FilmSettings(grain=0)))
        # the print's black and white are those of its own numbers
        tones = rows(found)["Tones of the print"]
        black, white = (float(tones[k].split()[0]) for k in ("Full black", "Bare paper"))
        self.assertAlmostEqual(black, 100 * (found.numbers == 0).mean(), delta=0.1)
        self.assertAlmostEqual(white, 100 * (found.numbers == 255).mean(), delta=0.1)
        self.assertGreater(black, 1.0)
        self.assertAlmostEqual(sum(found.print_values), 1.0, delta=1e-6)
        svg = data_page(found, "Roll, frame 1, Ramp: Plain", CAMERA, "ramp.dng", "svg")
        texts = [e.text or "" for e in ElementTree.fromstring(svg).iter() if e.tag.endswith("text")]
        for title, values in rows(found).items():
            self.assertIn(title, texts)
            for label in values:
                self.assertIn(label, texts)
        for text in ("Roll, frame 1, Ramp: Plain", "Maker 1", "1/250 s, f/5.6, ISO 200"):
            self.assertIn(text, texts)
        pdf = data_page(found, "Ramp", CAMERA, "ramp.dng", "pdf")
        self.assertTrue(pdf.startswith(b"%PDF"))
