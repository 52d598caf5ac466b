import unittest

import numpy as np

from silvrin import shelf
from silvrin.core.development.negative import Negative
from silvrin.core.picture import LinearPicture, View
from silvrin.core.plate import Grid
from silvrin.core.recipe import DevelopmentSettings, FilmSettings, Recipe
from silvrin.core.render import Darkroom, Sitting, strips

PITCH = 6.0  # µm a pixel of a 35 mm negative of 6000 pixels
NONE = FilmSettings(grain=0.0, halation=0.0)


def edge(stops: float, width: int = 6000, height: int = 40) -> LinearPicture:
    """A picture with an edge down its middle, from middle grey to so many stops above."""
    light = np.full((height, width, 3), 3000, np.uint16)
    light[:, width // 2 :] = round(3000 * 2.0**stops)
    return LinearPicture.with_pyramid(light, 0.18 / 3000)


def profile(stops: float, developer: str, film: FilmSettings = NONE) -> np.ndarray:
    """Density across the edge, over pixels."""
    recipe = Recipe(film=film, development=DevelopmentSettings(developer=developer))
    sitting = Sitting("edge", edge(stops), shelf.light_path(recipe))
    view = View(2000, 0, 2000, 40, 2000, 40)
    return Darkroom().negative(sitting, view).pixels[20]


def effects(density: np.ndarray) -> tuple[float, float]:
    """By how much the dense side rises above its even part, and the thin one falls below."""
    return float(density.max() - density[-1]), float(density[0] - density.min())


class EdgeEffectTest(unittest.TestCase):
    def test_a_high_acutance_developer_draws_edges(self) -> None:
        # 0.05 to 0.10 in density within 100 µm of a one-stop edge (handbooks, from memory)
        for stock in ("larch-100", "willow-400", "yarrow-25"):
            film = NONE.model_copy(update={"stock": stock})
            density = profile(1.0, "high acutance", film)
            for found in effects(density):
                self.assertTrue(0.05 <= found <= 0.10, (stock, found))
            even = np.abs(density - np.where(np.arange(2000) < 1000, density[0], density[-1]))
            drawn = np.flatnonzero(even > 0.01)
            self.assertLess(np.abs(drawn - 999.5).max() * PITCH, 100)
            self.assertLess(even[np.abs(np.arange(2000) - 999.5) * PITCH > 150].max(), 0.003)

    def test_it_runs_into_a_limit_and_others_draw_less_or_nothing(self) -> None:
        self.assertLess(max(effects(profile(4.0, "high acutance"))), 0.13)
        self.assertLess(max(effects(profile(1.0, "general"))), 0.001)
        compensating = max(effects(profile(1.0, "compensating")))
        self.assertTrue(0.01 < compensating < 0.05, compensating)

    def test_it_is_sized_on_the_film(self) -> None:
        # on a larger negative an edge of the same picture is drawn over a smaller part of it
        wide, narrow = (
            np.abs(np.gradient(profile(1.0, "high acutance", f))) > 1e-4
            for f in (NONE, NONE.model_copy(update={"film_format": "6 × 6 cm"}))
        )
        self.assertAlmostEqual(wide.sum() / narrow.sum(), 56 / 36, delta=0.2)

    def test_strips_and_pieces_are_drawn_as_the_whole_is(self) -> None:
        rng = np.random.default_rng(4)
        light = rng.integers(500, 9000, (700, 6000, 3), dtype=np.uint16)
        picture = LinearPicture.with_pyramid(light, 0.18 / 3000)
        recipe = Recipe(development=DevelopmentSettings(developer="high acutance"))
        sitting = Sitting("n", picture, shelf.light_path(recipe))
        self.assertGreater(
            sitting.path[Negative].reach(Grid.of(picture.whole(6000), picture), {}), 9
        )
        whole = np.concatenate(list(strips(sitting, bits=8)))
        for left, top in ((0, 0), (2345, 260), (5600, 400)):
            shown = Darkroom().view(sitting, View(left, top, 400, 300, 400, 300))
            np.testing.assert_array_equal(shown, whole[top : top + 300, left : left + 400])


if __name__ == "__main__":
    unittest.main()
