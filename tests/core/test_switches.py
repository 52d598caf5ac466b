"""Stations and parts that are switched off: kept, and not in force."""

import json
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin.core.recipe import (
    Bath,
    CaptureSettings,
    DevelopmentSettings,
    EnlargerSettings,
    FilmSettings,
    HueBand,
    LightSettings,
    LocalContrast,
    MeteredSpot,
    Mixture,
    MountSettings,
    PaperSettings,
    Recipe,
    TonalStop,
    TonerSettings,
)
from silvrin.core.recipe.kept import with_fields
from silvrin.core.recipe.mixture import Before
from silvrin.core.recipe.switches import PARTS, SWITCHES
from silvrin.core.stations import SETTINGS
from tests.core.test_proposing import numbers, sat

# Something of every part
ALL = Recipe(
    capture=CaptureSettings(warmth=80, flip=True, defringe=0.5),
    light=LightSettings(
        lens_filter="25", haze=-0.4,
        hue_bands=tuple(HueBand(stops=1, centre=45 * i, width=40) for i in range(8)),
    ),
    film=FilmSettings(
        stock="fern-50", placement=0.5, grain=2, spots=(MeteredSpot(letter="A", x=1, y=1),)
    ),
    development=DevelopmentSettings(n=1, fine=LocalContrast(strength=1), zone_lift=(0.5,) * 11),
    enlarger=EnlargerSettings(time=20),
    paper=PaperSettings(grade=4, black_at=0.9, value_lift=(0.3,) * 11),
    toner=TonerSettings(
        baths=(Bath(kind="selenium", time=1),),  # which deepens what the stops then colour
        stops=(TonalStop(place=0, colour="#000000"), TonalStop(place=90, colour="#fff4e6")),
        shadow_wash=0.4, capture_colour=0.3,
    ),
    mount=MountSettings(sharpen=2, sharpen_radius=2, sharpen_edges=0),
)  # fmt: skip
# ALL has nothing drawn, and what lies about a picture does not change it
SETTLED = {"enlarger.map", "capture.spots", "mount.paper", "mount.mat", "mount.signature"}


def off(*names: str, of: Recipe = ALL) -> Recipe:
    return Recipe.model_validate_json(of.model_copy(update={"off": names}).model_dump_json())


class SwitchesTest(unittest.TestCase):
    def test_every_field_is_of_one_part(self) -> None:
        for station, parts in PARTS.items():
            named = [name for fields in parts.values() for name in fields]
            left = {"spots"} if station == "film" else set()
            self.assertEqual(sorted(named), sorted(set(SETTINGS[station].model_fields) - left))

    def test_what_is_off_prints_as_if_it_were_not_there(self) -> None:
        whole = numbers(sat("bottle kiln", ALL))
        for name in SWITCHES:
            if name in SETTLED:
                continue
            station, _, part = name.partition(".")
            fields = (
                PARTS[station][part] if part else [f for p in PARTS[station].values() for f in p]
            )
            home = {field: getattr(SETTINGS[station](), field) for field in fields}
            plain = ALL.model_copy(update={station: getattr(ALL, station).model_copy(update=home)})
            with self.subTest(name):
                found = numbers(sat("bottle kiln", off(name)))
                self.assertTrue((found == numbers(sat("bottle kiln", plain))).all())
                self.assertFalse(found.shape == whole.shape and (found == whole).all())
        # all off is the plain print
        found = numbers(sat("bottle kiln", off(*PARTS)))
        self.assertTrue((found == numbers(sat("bottle kiln", Recipe()))).all())

    def test_it_is_kept_in_its_order_and_metered_spots_stay(self) -> None:
        recipe = off("paper", "light.hues", "paper")
        self.assertEqual(recipe.off, ("light.hues", "paper"))
        self.assertEqual(json.loads(recipe.model_dump_json())["off"], ["light.hues", "paper"])
        self.assertNotIn("off", json.loads(ALL.model_dump_json()))
        self.assertEqual(off("film").in_force.film.spots, ALL.film.spots)
        self.assertEqual(off("film").film, ALL.film)
        self.assertIs(ALL.in_force, ALL)
        for wrong in ('["loft"]', '["light.grain"]', '"paper"', "[1]"):
            with self.assertRaises(ValueError):
                Recipe.model_validate_json(f'{{"off": {wrong}}}')

    def test_of_a_mixture_both_prints_are_without_it(self) -> None:
        before = Before(paper=PaperSettings(grade=0), light=LightSettings(lens_filter="47"))
        mixed = ALL.model_copy(update={"mixture": Mixture(name="any", strength=0.5, before=before)})
        forced = off("paper", of=mixed).in_force
        self.assertEqual((forced.paper, forced.before.paper), (PaperSettings(), PaperSettings()))
        self.assertEqual(forced.before.light.lens_filter, "47")

    @settings(max_examples=60)
    @given(st.sets(st.sampled_from(SWITCHES)), st.data())
    def test_what_is_set_is_in_force(self, names: set[str], data: Any) -> None:
        station = data.draw(st.sampled_from(sorted(PARTS)))
        fields = {f for p in PARTS[station].values() for f in p} - {"mends", "protected", "passes"}
        field = data.draw(st.sampled_from(sorted(fields)))
        written = json.loads(ALL.model_dump_json())
        value = next(
            written[part][station][field]
            for part in ("of_frame", "look") if field in written[part].get(station, {})
        )  # fmt: skip
        made = with_fields(off(*sorted(names)), {station: {field: value}})
        self.assertEqual(
            getattr(getattr(made.in_force, station), field), getattr(getattr(ALL, station), field)
        )
        # nothing else was switched on
        gone = names - set(made.off)
        self.assertTrue(all(name.partition(".")[0] == station for name in gone))


if __name__ == "__main__":
    unittest.main()
