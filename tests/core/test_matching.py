"""Prints matched to finished pictures: made with known settings they are found again."""

import unittest

import cv2
import numpy as np

from silvrin import shelf
from silvrin.core.colour import decode_srgb
from silvrin.core.matching.reference import noise_of, paper_for, reference_of
from silvrin.core.recipe import (
    DevelopmentSettings,
    EnlargerSettings,
    FilmSettings,
    LightSettings,
    PaperSettings,
    Recipe,
)
from silvrin.core.render.matching import matched
from silvrin.errors import BadReference
from tests.core.test_proposing import ROOM, sat

KNOWN = {
    "plain": Recipe(),
    "hard and light": Recipe(paper=PaperSettings(grade=4), enlarger=EnlargerSettings(time=9)),
    "expanded": Recipe(
        film=FilmSettings(placement=-1.5),
        development=DevelopmentSettings(n=1),
        paper=PaperSettings(grade=3, black_at=0.9),
    ),
    "contracted, grained": Recipe(
        film=FilmSettings(placement=2, grain=2.5),
        development=DevelopmentSettings(n=-1),
        enlarger=EnlargerSettings(time=20),
        paper=PaperSettings(grade=1, white_at=0.05),
    ),
    "by a curve": Recipe(paper=PaperSettings(curve=((2, 1), (5, 6), (8, 9)))),
}


def as_light(numbers: np.ndarray) -> np.ndarray:
    return np.repeat(decode_srgb(numbers.astype(float) / 255)[..., None], 3, axis=2)


def shown(title: str, recipe: Recipe, long_side: int = 768) -> np.ndarray:
    sitting = sat(title, recipe)
    return ROOM.view(sitting, sitting.picture.whole(long_side))


class MatchingTest(unittest.TestCase):
    def test_prints_of_known_settings_are_found_again_from_the_picture_alone(self) -> None:
        # limits of the project's design: 4 of 255 on average, mid tones' slope within 5 %
        for title in ("bottle kiln", "wheel"):
            for name, known in KNOWN.items():
                reference = reference_of(as_light(shown(title, known, 900)))
                found = matched(ROOM, sat(title, Recipe()), reference)
                one, other = (
                    shown(title, recipe).astype(float) for recipe in (known, found.recipe)
                )
                middle = (one > 64) & (one < 192)
                with self.subTest(title, known=name):
                    self.assertLess(np.abs(one - other).mean(), 2.0)
                    self.assertLess(found.apart, 1.5)
                    slope = np.polyfit(one[middle], other[middle], 1)[0]
                    self.assertAlmostEqual(slope, 1.0, delta=0.05)
                    self.assertAlmostEqual(found.slope, 1.0, delta=0.05)
                    grain = found.recipe.film.grain / known.film.grain
                    self.assertTrue(0.5 < grain < 1.3, grain)

    def test_film_filter_and_all_else_stay(self) -> None:
        recipe = Recipe(
            light=LightSettings(lens_filter="25", haze=-0.2),
            film=FilmSettings(stock="willow-400"),
            enlarger=EnlargerSettings(head="condenser"),
        )
        reference = reference_of(as_light(shown("bottle kiln", KNOWN["expanded"])))
        made = matched(ROOM, sat("wheel", recipe), reference).recipe
        self.assertEqual((made.light, made.capture), (recipe.light, recipe.capture))
        self.assertEqual((made.film.stock, made.enlarger.head), ("willow-400", "condenser"))
        Recipe.model_validate_json(made.model_dump_json())

    def test_another_scene_takes_its_tones_and_says_how_near(self) -> None:
        reference = reference_of(as_light(shown("bottle kiln", KNOWN["hard and light"])))
        found = matched(ROOM, sat("glaze shelf", Recipe()), reference)
        levels = (np.arange(256) + 0.5) / 256
        tones = np.quantile(shown("glaze shelf", found.recipe), levels)
        self.assertAlmostEqual(np.abs(tones - reference.tones).mean(), found.apart, delta=0.05)
        before = np.quantile(shown("glaze shelf", Recipe()), levels)
        self.assertLess(found.apart, 0.25 * np.abs(before - reference.tones).mean())

    def test_grain_is_told_of_a_field_of_known_noise(self) -> None:
        # Immerkær 1996: the filter's mean is the deviation of white noise, whatever lies under it
        ramp = np.linspace(80, 180, 800)[None].repeat(600, axis=0)
        field = ramp + np.random.default_rng(3).normal(0, 5.0, ramp.shape)
        self.assertAlmostEqual(noise_of(field), 5.0, delta=0.5)
        self.assertLess(noise_of(ramp), 0.01)

    def test_a_scan_with_its_border_is_told_by_what_lies_in_it_and_by_its_base(self) -> None:
        numbers = shown("bottle kiln", Recipe(), 700)
        bare = reference_of(as_light(numbers))
        base = np.array([1.0, 0.93, 0.80])
        light = as_light(numbers) * base
        wide = cv2.copyMakeBorder(light, 40, 40, 40, 40, cv2.BORDER_CONSTANT, value=tuple(base))
        scanned = reference_of(wide)
        np.testing.assert_allclose(scanned.tones, bare.tones, atol=1.5)
        self.assertIsNotNone(scanned.tint)
        papers = shelf.papers()
        neutral = papers["glossy-fibre-neutral"]
        self.assertIs(paper_for(bare, neutral, list(papers.values())), neutral)
        self.assertIn("warm", paper_for(scanned, neutral, list(papers.values())).name)

    def test_what_tells_nothing_is_refused_in_words(self) -> None:
        rng = np.random.default_rng(1)
        for light, word in (
            (np.full((10, 10, 3), 0.2), "10 x 10"),
            (rng.random((200, 300, 3)), "in colour"),
            (np.full((200, 300, 3), 0.2), "one tone"),
        ):
            with self.subTest(word), self.assertRaises(BadReference) as refused:
                reference_of(light)
            self.assertIn(word, str(refused.exception))
        # toned all over it is still black and white
        toned = as_light(shown("wheel", Recipe())) ** np.array([0.9, 1.0, 1.15])
        reference_of(toned)


if __name__ == "__main__":
    unittest.main()
