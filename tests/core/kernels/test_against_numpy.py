"""Kernels beside the same written plainly in NumPy and SciPy."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.ndimage import map_coordinates

from silvrin.core import kernels


def mirrored(plane: np.ndarray, step: int) -> np.ndarray:
    """A plane with two steps more on all sides, mirrored as often as it takes (SciPy: mirror)."""
    return np.pad(plane, 2 * step, mode="reflect")


class WaveletTest(unittest.TestCase):
    @settings(max_examples=40)
    @given(st.integers(9, 40), st.integers(9, 40), st.sampled_from([1, 2, 4]), st.integers(0, 99))
    def test_the_spline_of_rows_and_columns(
        self, height: int, width: int, step: int, seed: int
    ) -> None:
        # B3 spline, à trous (Starck and Murtagh): taps 1 4 6 4 1 over 16, so many pixels apart
        plane = np.random.default_rng(seed).random((height, width)).astype(np.float32)
        for axis, kernel in ((1, kernels.spline_across), (0, kernels.spline_down)):
            out = np.empty_like(plane)
            kernel(0, height, plane, step, out)
            wide = mirrored(plane, step)
            inner = wide[2 * step : -2 * step] if axis else wide[:, 2 * step : -2 * step]
            length = plane.shape[axis]
            wanted = sum(
                tap / 16 * np.take(inner, range(k * step, k * step + length), axis=axis)
                for k, tap in enumerate((1, 4, 6, 4, 1))
            )
            np.testing.assert_allclose(out, wanted, atol=1e-6)

    def test_what_is_more_than_a_threshold_is_kept(self) -> None:
        # the non-negative garrote (Breiman 1995): d - t² / d beyond t, nothing within
        rng = np.random.default_rng(1)
        plane, smooth, before = (rng.normal(0, 1, (20, 30)).astype(np.float32) for _ in range(3))
        kept = before.copy()
        kernels.shrink(0, 20, plane, smooth, np.float32(0.8), kept)
        d = plane - smooth
        wanted = np.where(np.abs(d) > 0.8, d - 0.64 / d, 0.0)
        np.testing.assert_allclose(kept, before + wanted, atol=1e-5)


class GridTest(unittest.TestCase):
    def test_a_grid_over_place_and_level(self) -> None:
        rng = np.random.default_rng(2)
        grid = rng.random((7, 9, 12)).astype(np.float32)
        levels = rng.uniform(-2, 14, (40, 55)).astype(np.float32)
        found = kernels.by_place_and_level(grid, levels)
        y, x = np.mgrid[0:40, 0:55]
        places = [
            np.clip((y + 0.5) * 7 / 40 - 0.5, 0, 6),
            np.clip((x + 0.5) * 9 / 55 - 0.5, 0, 8),
            np.clip(levels, 0, 11),
        ]
        wanted = map_coordinates(grid, places, order=1, mode="nearest")
        np.testing.assert_allclose(found, wanted, atol=1e-5)

    def test_a_map_lightens_a_density_wherever_its_piece_lies(self) -> None:
        rng = np.random.default_rng(3)
        lines = rng.normal(0, 1, (8, 11, 17)).astype(np.float32)
        for low, high in ((2, 3), (6, 7)):
            lines[[low, high]] = np.sort(lines[[low, high]], axis=0)
        maps = np.ascontiguousarray(lines[:1])
        density = rng.random((30, 40)).astype(np.float32)
        coded = rng.random((30, 40, 3)).astype(np.float32)
        for x0, y0, dx, dy, above in ((-0.3, -0.4, 0.41, 0.36, 0), (3.2, 1.7, 0.2, 0.15, 9)):
            y, x = np.mgrid[0:30, 0:40]
            places = [np.clip(y0 + (above + y) * dy, 0, 10), np.clip(x0 + x * dx, 0, 16)]
            laid = [map_coordinates(m, places, order=1, mode="nearest") for m in lines]
            where = maps[:1], x0, y0, dx, dy, above, np.float32(0.3)
            out = np.empty((1, 30, 40), np.float32)
            kernels.lighten(0, 30, density, coded, *where, out)
            np.testing.assert_allclose(out[0], density - 0.3 * laid[0], atol=1e-5)
            # a line in the place's own light, held between two more; and a grade by another
            both = np.empty((2, 30, 40), np.float32)
            kernels.lighten(0, 30, density, coded, lines, *where[1:], both)
            stops = np.clip(laid[0] * coded[..., 2] + laid[1], laid[2], laid[3])
            grade = np.clip(laid[4] * coded[..., 2] + laid[5], laid[6], laid[7])
            np.testing.assert_allclose(both[0], density - 0.3 * stops, atol=1e-5)
            np.testing.assert_allclose(both[1], grade, atol=1e-5)

    def test_what_a_scale_adds_is_less_where_little_varies(self) -> None:
        # a Wiener filter's share: variance / (variance + threshold)
        rng = np.random.default_rng(6)
        zone, near_a, near_b, a, b, varies = (
            rng.uniform(0.01, 9, (12, 15)).astype(np.float32) for _ in range(6)
        )
        scale = np.linspace(-3.0, 13.0, 257)
        line = (0.2 + 0.1 * scale).astype(np.float32)
        maps = np.ones((2, 12, 15), np.float32)
        limit = np.float32(0.5)
        kernels.add_scale(0, 12, zone, near_a, near_b, a, b, varies, line, limit, maps)
        share = np.interp(zone, scale, line) * varies / (varies + 0.5)
        np.testing.assert_allclose(maps[0], 1 + share * (near_a - a), rtol=1e-4, atol=1e-4)
        np.testing.assert_allclose(maps[1], 1 + share * (near_b - b), rtol=1e-4, atol=1e-4)


class PatchTest(unittest.TestCase):
    def test_a_patch_finds_its_like_wherever_that_lies(self) -> None:
        # two ramps: how unlike two patches are falls evenly towards the like one
        from silvrin.core.kernels.patches import PATCH

        side, middle = 72, 36
        y, x = np.mgrid[0:side, 0:side].astype(np.float32)
        near = slice(middle - PATCH, middle + PATCH + 1)
        for like, begin in (((12, 12), (60, 60)), ((60, 60), (12, 12)), ((12, 60), (60, 12))):
            image = np.stack([y, x], axis=-1)
            image[near, near] += np.array(like, np.float32) - middle
            usable = np.ones((side, side), np.uint8)
            for edge in (slice(0, PATCH), slice(side - PATCH, side)):
                usable[edge] = usable[:, edge] = 0
            usable[middle - 2 * PATCH : middle + 2 * PATCH + 1, near] = 0
            field = np.zeros((side, side, 2), np.int32)
            field[middle, middle] = begin
            cost = np.full((side, side), -1.0, np.float32)
            kernels.match_patches(
                image, np.ones((side, side), np.float32), np.array([[middle, middle]], np.int32),
                usable, field, cost, 40, 32, np.uint32(7),
            )  # fmt: skip
            self.assertEqual(tuple(field[middle, middle]), like)
            self.assertEqual(float(cost[middle, middle]), 0.0)

    def test_a_hole_becomes_what_the_patches_over_it_say(self) -> None:
        from silvrin.core.kernels.patches import PATCH

        rng = np.random.default_rng(4)
        height, width = 26, 31
        image = rng.random((height, width, 3)).astype(np.float32)
        hole = np.zeros((height, width), np.uint8)
        hole[10:14, 12:17] = 1
        sure = rng.uniform(0.1, 1, (height, width)).astype(np.float32)
        # middles of patches near the hole take from places far from it
        field = np.zeros((height, width, 2), np.int32)
        cost = np.full((height, width), -1, np.float32)
        near = np.zeros((height, width), bool)
        near[10 - PATCH : 14 + PATCH, 12 - PATCH : 17 + PATCH] = True
        for y, x in np.argwhere(near):
            field[y, x] = rng.integers([PATCH, PATCH], [height - PATCH, width - PATCH])
            cost[y, x] = rng.uniform(0.01, 0.2)
        for strict in (0, 1):
            got = image.copy()
            kernels.vote_patches(0, height, got, sure, hole, field, cost, strict)
            for y, x in np.argwhere(hole):
                said, weight = np.zeros(3), 0.0
                for dy in range(-PATCH, PATCH + 1):
                    for dx in range(-PATCH, PATCH + 1):
                        t = y - dy, x - dx
                        if cost[t] < 0:
                            continue
                        v, u = field[t] + [dy, dx]
                        share = float(sure[t] / (cost[t] + 0.01) ** 2)
                        share = share**3 if strict else share
                        # what lies in the hole is replaced row by row: only outside is compared
                        said += share * image[v, u]
                        weight += share
                if not any(
                    hole[tuple(field[y - dy, x - dx] + [dy, dx])]
                    for dy in range(-PATCH, PATCH + 1)
                    for dx in range(-PATCH, PATCH + 1)
                    if cost[y - dy, x - dx] >= 0
                ):
                    np.testing.assert_allclose(got[y, x], said / weight, rtol=1e-3)
            outside = hole == 0
            np.testing.assert_array_equal(got[outside], image[outside])


if __name__ == "__main__":
    unittest.main()
