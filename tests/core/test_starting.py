"""Starting prints beside the proposal, and prints between two looks."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin import shelf
from silvrin.core.places import PicturePixel
from silvrin.core.recipe import (
    CaptureSettings,
    FilmSettings,
    LightSettings,
    Mixture,
    MountSettings,
    PaperSettings,
    Recipe,
    TonerSettings,
)
from silvrin.core.recipe.mixture import Before
from silvrin.core.render import hex_tones, strips
from silvrin.core.render.mixing import mixture
from silvrin.core.render.proposing import proposed
from silvrin.demo_job import BEGUN
from tests.core.test_proposing import ROOM, numbers, sat

STARTS = shelf.starting_prints()
ONE = Recipe(light=LightSettings(lens_filter="29"), paper=PaperSettings(grade=3))
OTHER = Recipe(film=FilmSettings(stock="fern-50", placement=0.5), paper=PaperSettings(grade=1))


def between(before: Recipe, after: Recipe, strength: float) -> Recipe:
    """The second recipe, mixed with the first one."""
    stations = {name: getattr(before, name) for name in Before.model_fields}
    mixed = Mixture(name="any", strength=strength, before=Before(**stations))
    return after.model_copy(update={"mixture": mixed})


def made(start: str, title: str, recipe: Recipe) -> Recipe:
    of = STARTS[start]
    return proposed(ROOM, sat(title, of.on(recipe)), of.aims).recipe


def middle(recipe: Recipe, title: str = "bottle kiln") -> float:
    return float(np.median(numbers(sat(title, recipe))))


class StartingTest(unittest.TestCase):
    def test_there_are_twenty_four_that_all_differ(self) -> None:
        self.assertEqual(len(STARTS), 24)
        self.assertEqual(len({of.name for of in STARTS.values()}), 24)
        prints = {}
        for name in STARTS:
            found = numbers(sat("bottle kiln", made(name, "bottle kiln", Recipe())))
            prints[name] = found if found.ndim == 3 else np.repeat(found[..., None], 3, axis=2)
        toned = [name for name, found in prints.items() if np.ptp(found, axis=2).max() > 3]
        self.assertEqual(toned, ["large-plate", "warm", "cold", "blue-plate", "ortho"])
        for one in prints:
            apart = [np.abs(prints[one] - prints[other]).mean() for other in prints if other != one]
            self.assertGreater(min(apart), 1.5, one)
            # and each is a print: some black or deep shadow, some light, every part of the scale
            shares = np.histogram(prints[one], 8, (0, 256))[0] / prints[one].size
            self.assertGreater((shares > 0.002).sum(), 6, one)

    def test_each_does_what_it_is_for(self) -> None:
        quiet = made("full-scale", "bottle kiln", Recipe())
        self.assertGreater(middle(made("pale", "bottle kiln", Recipe())), middle(quiet) + 40)
        self.assertLess(middle(made("dark", "bottle kiln", Recipe())), middle(quiet) - 40)

        def spread(start: str) -> float:
            found = numbers(sat("bottle kiln", made(start, "bottle kiln", Recipe())))
            return float(np.subtract(*np.quantile(found, [0.9, 0.1])))

        self.assertGreater(spread("crisp"), spread("full-scale") + 10)
        self.assertLess(spread("tamed"), spread("full-scale") - 10)
        # the open sky, to the right above the kiln; sunlit leaves of the tree at the right
        sky, leaves = (slice(10, 60), slice(560, 700)), (slice(180, 240), slice(600, 720))

        def tone(start: str, at: tuple[slice, slice]) -> float:
            found = numbers(sat("bottle kiln", made(start, "bottle kiln", Recipe())))
            return float(np.median(found[at]))

        skies = [tone(start, sky) for start in ("blue-plate", "full-scale", "dark-sky", "black-sky",
                                                "white-leaves")]  # fmt: skip
        self.assertEqual(skies, sorted(skies, reverse=True))
        self.assertGreater(tone("white-leaves", leaves), tone("full-scale", leaves) + 50)
        self.assertGreater(tone("lit-leaves", leaves), tone("full-scale", leaves) + 15)

    def test_the_demo_s_prints_are_what_is_proposed(self) -> None:
        for title, begun in BEGUN.items():
            found = made(begun.start, title.lower(), Recipe())
            # some are toned and mounted besides
            bare = {"toner": TonerSettings(), "mount": MountSettings()}
            kept, found = (r.model_copy(update=bare) for r in (begun.recipe(), found))
            # a smaller picture is metered here, with less noise
            quiet = {"chroma_smoothing": 0.0}
            lights = [r.light.model_copy(update=quiet) for r in (kept, found)]
            self.assertEqual(*lights, title)
            apart = np.abs(numbers(sat(title.lower(), kept)) - numbers(sat(title.lower(), found)))
            self.assertLess(apart.mean(), 8.0, title)

    def test_they_suit_any_exposure(self) -> None:
        # as far as placement reaches: behind deep red glass it is at its end already
        for start, stops in (("black-sky", 1.0), ("pale", -1.0), ("pushed", -1.0)):
            base = numbers(sat("kiln chimney", made(start, "kiln chimney", Recipe())))
            under = Recipe(capture=CaptureSettings(exposure=stops))
            other = numbers(sat("kiln chimney", made(start, "kiln chimney", under)))
            self.assertLess(np.abs(base - other).mean(), 3.0, start)

    def test_what_is_off_of_the_capture_and_the_map_stays_off(self) -> None:
        recipe = Recipe(off=("capture.frame", "light", "enlarger", "paper.points"))
        self.assertEqual(STARTS["pale"].on(recipe).off, ("capture.frame", "enlarger.map"))
        # one that sets something of the capture is in force there
        self.assertEqual(STARTS["tamed"].on(recipe).off, ("enlarger.map",))

    def test_what_is_of_the_frame_and_of_the_capture_stays(self) -> None:
        recipe = Recipe(
            capture=CaptureSettings(crop=(0.1, 0.1, 0.9, 0.8), straighten=2, warmth=30),
            light=LightSettings(source="overcast", haze=-0.5, focus_x=0.2),
            film=FilmSettings(grain=3),
            paper=PaperSettings(curve=((2, 3), (5, 6))),
        )
        for name, of in STARTS.items():
            begun = of.on(between(Recipe(), recipe, 0.5))
            wanted = {"crop": (0.1, 0.1, 0.9, 0.8), "straighten": 2, "warmth": 30}
            self.assertEqual(wanted, {key: getattr(begun.capture, key) for key in wanted}, name)
            self.assertEqual((begun.light.source, begun.light.focus_x), ("overcast", 0.2))
            self.assertEqual(begun.light.haze, of.look.get("light", {}).get("haze", 0), name)
            self.assertEqual(begun.film.grain, of.look["film"].get("grain", 1), name)
            self.assertEqual((begun.paper.curve, begun.mixture), ((), None))


class MixtureTest(unittest.TestCase):
    def test_its_ends_are_exactly_the_prints(self) -> None:
        for strength, recipe in ((0.0, ONE), (1.0, OTHER)):
            mixed = between(ONE, OTHER, strength)
            np.testing.assert_array_equal(
                numbers(sat("bottle kiln", mixed)), numbers(sat("bottle kiln", recipe))
            )
            self.assertEqual(
                ROOM.readings(sat("bottle kiln", mixed)).histogram,
                ROOM.readings(sat("bottle kiln", recipe)).histogram,
            )
            self.assertEqual(
                hex_tones(sat("bottle kiln", mixed).path, "scene"),
                hex_tones(sat("bottle kiln", recipe).path, "scene"),
            )

    def test_between_and_beyond(self) -> None:
        one, other = (numbers(sat("bottle kiln", recipe)) for recipe in (ONE, OTHER))
        for strength in (0.3, 0.5, 1.5):
            mixed = sat("bottle kiln", between(ONE, OTHER, strength))
            wanted = np.clip(one + strength * (other - one), 0, 255)
            np.testing.assert_allclose(numbers(mixed), wanted, atol=0.5001)
            place = PicturePixel(400, 300)
            spots = [ROOM.spot(sat("bottle kiln", r), place, 3).number for r in (ONE, OTHER)]
            spot = ROOM.spot(mixed, place, 3)
            self.assertAlmostEqual(
                spot.number, spots[0] + strength * (spots[1] - spots[0]), delta=0.51
            )
            # density, by way of what the print sends back: D = -log10 of it (ISO 5-4)
            black = 10.0**-mixed.path.things.paper.net_density
            light = ((spot.number / 255 + 0.055) / 1.055) ** 2.4
            self.assertAlmostEqual(spot.density, -np.log10(light * (1 - black) + black), places=3)

    def test_what_is_delivered_is_what_is_shown(self) -> None:
        mixed = sat("bottle kiln", between(ONE, OTHER, 0.7))
        whole = ROOM.view(mixed, mixed.picture.whole(max(mixed.picture.width, 0)))
        delivered = np.concatenate(list(strips(mixed, bits=8)))
        np.testing.assert_array_equal(whole, delivered)

    def test_it_shares_what_is_of_the_frame(self) -> None:
        frame = CaptureSettings(crop=(0.2, 0.2, 0.8, 0.9), flip=True, exposure=0.5)
        before = between(ONE, OTHER.model_copy(update={"capture": frame}), 0.4).before
        self.assertEqual((before.capture, before.light, before.paper),
                         (frame, ONE.light, ONE.paper))  # fmt: skip
        self.assertEqual((before.film.placement, before.mixture), (0.0, None))
        self.assertIs(ONE.before, ONE)

    def test_it_is_written_and_read(self) -> None:
        mixed = between(ONE, OTHER, 0.25)
        self.assertEqual(Recipe.model_validate_json(mixed.model_dump_json()), mixed)
        for wrong in ('{"mixture": {"name": "a", "strength": 1.6}}',
                      '{"mixture": {"name": "a", "before": {"paper": {"grade": 9}}}}',
                      '{"mixture": {"name": "a", "before": {"toning": {}}}}',
                      '{"mixture": {"strength": 1}}'):  # fmt: skip
            with self.assertRaises(ValueError, msg=wrong):
                Recipe.model_validate_json(wrong)

    @settings(max_examples=50)
    @given(st.integers(0, 65535), st.integers(0, 65535), st.floats(0, 1.5))
    def test_numbers_of_both_depths(self, one: int, other: int, strength: float) -> None:
        for kind, most in ((np.uint8, 255), (np.uint16, 65535)):
            first, second = (np.full((2, 3), int(n * most / 65535), kind) for n in (one, other))
            wanted = np.clip(first + strength * (second.astype(float) - first), 0, most)
            np.testing.assert_allclose(mixture(first, second, strength), wanted, atol=0.51)
            # a toned print with one that is not
            toned = mixture(np.stack([first] * 3, axis=-1), second, strength)
            np.testing.assert_array_equal(toned[..., 1], mixture(first, second, strength))


if __name__ == "__main__":
    unittest.main()
