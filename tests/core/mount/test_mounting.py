"""What lies about a picture. Sizes are arithmetic; lettering is read back by Pillow's own drawing;
bottom-weighted by a quarter and an easel's quarter inch are common practice, no source."""

import unittest
from itertools import pairwise

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin import shelf
from silvrin.core.colour import lightness_of, luminance_of
from silvrin.core.mount.edges import filed
from silvrin.core.mount.layout import Layout, fitted, largest, layout
from silvrin.core.mount.lettering import drawn, letters
from silvrin.core.mount.mounting import Caption, Mounting
from silvrin.core.mount.settings import Ink
from silvrin.core.picture import LinearPicture, View
from silvrin.core.recipe import Bath, Inscription, MountSettings, Recipe, TonerSettings
from silvrin.core.recipe.drawings import Sheet, Sheets
from silvrin.core.render import (
    Darkroom,
    Sitting,
    mounted_size,
    mounted_strips,
    mounted_view,
    strips,
)  # fmt: skip

EASEL = 6.35
BORDER = {f"border_{side}": EASEL for side in ("left", "right", "top", "bottom")}
LINE = Ink(width=4.0, strokes=(((0.0, 0.5), (4.0, 0.5)),))


def picture(width: int = 300, height: int = 200) -> LinearPicture:
    light = np.random.default_rng(2).integers(2000, 30000, (height, width, 3)).astype(np.uint16)
    return LinearPicture.with_pyramid(light, 1 / 30000)


def sitting(toner: TonerSettings = TonerSettings(), **mount: object) -> Sitting:
    recipe = Recipe(toner=toner, mount=MountSettings(**mount))
    return Sitting("m", picture(), shelf.light_path(recipe), Caption(7, 4711))


def whole(sat: Sitting, long_side: int | None = None, bits: int = 8) -> np.ndarray:
    return np.concatenate(list(mounted_strips(sat, long_side, bits)))


class LayoutTest(unittest.TestCase):
    @settings(max_examples=300)
    @given(
        side=st.integers(40, 9000),
        tall=st.floats(0.3, 3.0),
        long_side=st.integers(80, 9000),
        mount=st.builds(
            MountSettings,
            size=st.floats(60, 900),
            border_left=st.floats(0, 50),
            border_bottom=st.floats(0, 50),
            mat=st.sampled_from(["none", "equal", "weighted"]),
            mat_sides=st.floats(0, 200),
            ground=st.floats(0, 50),
            undermat=st.floats(0, 20),
            bevel=st.floats(0, 4),
            edge=st.sampled_from(["clean", "rebate", "filed"]),
        ),
    )
    def test_every_width_is_its_millimetres_to_the_pixel_at_any_size(
        self, side: int, tall: float, long_side: int, mount: MountSettings
    ) -> None:
        width, height = side, max(1, round(side * tall))
        lay = fitted(mount, width, height, long_side)
        longest = max(lay.whole.width, lay.whole.height)
        self.assertLessEqual(longest, long_side)
        if lay.pitch < max(width, height) / mount.size and lay.picture.width > 20:
            self.assertGreaterEqual(longest, long_side - 14)  # all its widths may round at once
        matted = mount.mat != "none"
        below = mount.mat_sides * (1.25 if mount.mat == "weighted" else 1.0)
        for found, mm in (
            (lay.block.left - lay.paper.left, mount.border_left),
            (lay.paper.bottom - lay.block.bottom, mount.border_bottom),
            (lay.paper.right - lay.block.right, 0.0),
            (lay.picture.top - lay.block.top, mount.edge_width if mount.edge != "clean" else 0.0),
            (lay.opening.left - lay.mat.left, mount.mat_sides if matted else 0.0),
            (lay.mat.bottom - lay.opening.bottom, below if matted else 0.0),
            (lay.mat.left, mount.ground),
            (lay.window.left - lay.lip.left, mount.undermat if matted else 0.0),
        ):
            self.assertEqual(found, int(np.floor(mm * lay.pitch + 0.5)))
        # each lies in the next
        rects = [lay.picture, lay.block, lay.line, lay.paper, lay.window, lay.lip, lay.opening,
                 lay.mat, lay.whole]  # fmt: skip
        for inner, outer in pairwise(rects):
            self.assertTrue(inner.left >= outer.left and inner.bottom <= outer.bottom)
        self.assertEqual((lay.whole.left, lay.whole.top), (0, 0))

    def test_a_small_picture_in_a_huge_mat_is_made_smaller_not_the_file_endless(self) -> None:
        mount = MountSettings(size=20, mat="equal", mat_sides=600)
        lay = largest(mount, 6000, 4000)
        self.assertLessEqual(lay.whole.width * lay.whole.height, 400_000_000)
        self.assertLess(lay.picture.width, 6000)
        self.assertAlmostEqual(lay.picture.width / lay.pitch, 20, delta=0.1)

    def test_sizes_that_cannot_be_are_refused_in_words(self) -> None:
        for wrong in ({"size": 0}, {"size": 10_000}, {"edition_number": -1}, {"board": "ivory"}):
            with self.assertRaises(ValueError):
                MountSettings(**wrong)
        with self.assertRaisesRegex(ValueError, "wider than the print"):
            MountSettings(size=100, border_left=120)
        with self.assertRaisesRegex(ValueError, "names the sheet"):
            Inscription(what="ink")
        with self.assertRaisesRegex(ValueError, "one of both"):
            Ink(width=1.0)


class PaintedTest(unittest.TestCase):
    def test_border_line_mat_and_ground_have_their_tones_where_they_lie(self) -> None:
        sat = sitting(
            **BORDER, key_line=1.0, key_gap=2.0, mat="weighted", mat_sides=40, board="#f6f3ea",
            undermat=5, undermat_colour="#20201f", bevel=2.0, ground=10, ground_tone=60,
        )  # fmt: skip
        lay, shown = mounted_size(sat), whole(sat)
        self.assertEqual(shown.shape, (lay.whole.height, lay.whole.width, 3))
        middle = (lay.picture.top + lay.picture.bottom) // 2

        def at(x: int) -> tuple[int, ...]:
            return tuple(int(v) for v in shown[middle, x])

        grey = round(255 * (1.055 * luminance_of(np.array(60.0)) ** (1 / 2.4) - 0.055))
        self.assertEqual(at(2), (grey,) * 3)
        self.assertEqual(at(lay.mat.left + 3), (0xF6, 0xF3, 0xEA))
        self.assertEqual(at(lay.lip.left + 1), (0x20, 0x20, 0x1F))
        self.assertEqual(at(lay.paper.left), (255,) * 3)
        self.assertEqual(at(lay.line.left), (0,) * 3)
        self.assertEqual(at(lay.line.left - 1), (255,) * 3)
        self.assertEqual(at(lay.picture.left - 1), (255,) * 3)
        inner = lay.picture
        alone = np.concatenate(list(strips(sat, bits=8)))
        placed = shown[inner.top : inner.bottom, inner.left : inner.right]
        np.testing.assert_array_equal(placed, np.repeat(alone[..., None], 3, axis=2))
        # the bevel is lit from above left: its upper and left facets are darker
        across, down = (lay.opening.left + lay.opening.right) // 2, lay.opening.top
        upper, lower = shown[down, across, 0], shown[lay.opening.bottom - 1, across, 0]
        self.assertTrue(upper < at(lay.opening.left)[0] < lower)

    def test_without_colour_it_stays_one_channel_and_toned_its_base_is_the_prints(self) -> None:
        self.assertEqual(whole(sitting(**BORDER)).ndim, 2)
        self.assertEqual(whole(sitting(**BORDER, mat="equal", board="#808080")).ndim, 2)
        warm = TonerSettings(warmth=1.0)
        shown = whole(sitting(warm, **BORDER))
        self.assertEqual(tuple(shown[2, 2]), (0xFF, 0xF4, 0xE6))
        self.assertLessEqual(shown.reshape(-1, 3).max(), 255)

    def test_views_and_files_are_the_same_pixels(self) -> None:
        sat = sitting(
            TonerSettings(baths=(Bath(kind="sepia", time=0.5),)),
            **BORDER, edge="filed", mat="own", mat_top=20, mat_sides=15, mat_below=40,
            inscriptions=(Inscription(text="Aa", on="mat"),), sharpen=1.0,
        )  # fmt: skip
        full, lay, room = whole(sat), mounted_size(sat), Darkroom()
        view = View(7, 11, 200, 150, 200, 150)
        seen = mounted_view(sat, view, lambda part: room.view(sat, part))
        np.testing.assert_array_equal(seen, full[11:161, 7:207])
        size = lay.whole.width, lay.whole.height
        small = View(0, 0, *size, *(round(side * 200 / max(size)) for side in size))
        seen = mounted_view(sat, small, lambda part: room.view(sat, part))
        np.testing.assert_array_equal(seen, whole(sat, 200))
        self.assertLess(np.abs(whole(sat, bits=16) / 257.0 - full).max(), 1.01)

    def test_what_is_written_stands_where_it_is_said(self) -> None:
        for on, at in (
            ("border", "left"),
            ("border", "right"),
            ("mat", "middle"),
            ("picture", "left"),
        ):
            line = Inscription(text="Marta Åkerlund", on=on, at=at, height=5, tone=0)
            plain = {**BORDER, "border_bottom": 30, "mat": "equal", "mat_sides": 30}
            sat = sitting(**plain, inscriptions=(line,))
            lay = mounted_size(sat)
            changed = np.abs(whole(sat).astype(int) - whole(sitting(**plain))).max(axis=2) > 40
            rows, columns = np.flatnonzero(changed.any(axis=1)), np.flatnonzero(changed.any(axis=0))
            top, bottom = {
                "border": (lay.block.bottom, lay.paper.bottom),
                "mat": (lay.opening.bottom, lay.mat.bottom),
                "picture": (lay.picture.top, lay.picture.bottom),
            }[on]
            self.assertTrue(top <= rows[0] and rows[-1] < bottom, (on, rows[[0, -1]]))
            middle = 0.5 * (columns[0] + columns[-1]) / lay.whole.width
            self.assertTrue({"left": middle < 0.45, "middle": 0.45 < middle < 0.55,
                             "right": middle > 0.55}[at])  # fmt: skip
        moved = sitting(**plain, inscriptions=(line.model_copy(update={"dx": 20.0}),))
        after = np.abs(whole(moved).astype(int) - whole(sitting(**plain))).max(axis=2) > 40
        shift = np.flatnonzero(after.any(axis=0))[0] - columns[0]
        self.assertAlmostEqual(shift, 20 * lay.pitch, delta=1)

    def test_editions_and_drawn_signatures(self) -> None:
        sheets = Sheets()
        name = sheets.put(Sheet(inks=(LINE,)))
        mount = MountSettings(
            **{**BORDER, "border_bottom": 30}, edition_number=3, edition_of=12,
            inscriptions=(
                Inscription(what="ink", ink=name, height=6, pen=2, tone=0),
                Inscription(what="edition", at="left"),
            ),
        )  # fmt: skip
        recipe = Recipe(mount=mount)
        path = shelf.light_path(recipe, sheets.of(recipe))
        sat = Sitting("m", picture(), path)
        line, number = path[Mounting].placed(mounted_size(sat))
        # 24 mm long, 2 mm thick, in the middle of its height
        rows = np.flatnonzero((line.mask > 127).any(axis=1))
        self.assertAlmostEqual(len(rows), 2 * sat.pitch, delta=1)
        self.assertAlmostEqual((line.mask > 127).any(axis=0).sum(), 24 * sat.pitch, delta=3)
        files = shelf.fonts()["hand"]
        np.testing.assert_array_equal(number.mask, letters("3/12", files, number_size(sat)))

    def test_a_rebate_is_black_with_light_letters(self) -> None:
        recipe = Recipe(mount=MountSettings(edge="rebate", edge_width=12))
        sat = Sitting("m", picture(1200, 800), shelf.light_path(recipe))
        lay, shown = mounted_size(sat), whole(sat)
        band = shown[lay.block.top : lay.picture.top]
        self.assertGreater((band == 0).mean(), 0.7)
        self.assertGreater((band > 200).mean(), 0.005)


def number_size(sat: Sitting) -> float:
    return Inscription().height * sat.pitch / 0.66


class EdgeTest(unittest.TestCase):
    def lay(self, pitch: float) -> Layout:
        mount = MountSettings(size=300, edge="filed", edge_width=6)
        return layout(mount, round(300 * pitch), round(200 * pitch), pitch)

    def cover(self, pitch: float, seed: int) -> np.ndarray:
        lay = self.lay(pitch)
        return filed(lay, lay.whole, 6, seed)

    def test_it_is_the_same_at_any_size_and_another_for_each_frame(self) -> None:
        large, small = self.cover(4.0, 5), self.cover(1.0, 5)
        reduced = large.reshape(small.shape[0], 4, small.shape[1], 4).mean(axis=(1, 3))
        self.assertLess(np.abs(reduced - small).mean(), 0.02)
        self.assertGreater(np.abs(small - self.cover(1.0, 6)).mean(), 0.01)
        np.testing.assert_array_equal(small, self.cover(1.0, 5))

    def test_at_the_picture_it_is_closed_and_outside_it_wanders(self) -> None:
        lay, cover = self.lay(2.0), self.cover(2.0, 9)
        upper = cover[: lay.picture.top, lay.picture.left : lay.picture.right]
        self.assertTrue((upper[-4:] == 1.0).all())
        width = upper.sum(axis=0)
        self.assertTrue(width.min() > 0.4 * 12 and width.max() <= 12.01)
        self.assertGreater(np.ptp(width), 1.5)


class LetteringTest(unittest.TestCase):
    def test_letters_of_latin_scripts_are_there_and_others_left_out(self) -> None:
        for name, files in shelf.fonts().items():
            plain = letters("Łódź Åse é", files, 40)
            self.assertGreater((plain > 127).sum(), 300, name)
            np.testing.assert_array_equal(
                letters("ab", files, 40), letters("a月b", files, 40), name
            )
            wide = letters("Łódź", files, 40).shape[1]
            self.assertGreater(wide, letters("ódź", files, 40).shape[1], name)
        self.assertEqual(letters("月", files, 40).shape, (1, 1))

    def test_a_pen_draws_as_wide_as_it_is(self) -> None:
        mask = drawn(LINE, 100, 10)
        self.assertAlmostEqual((mask[:, 200] > 127).sum(), 10, delta=1)

    def test_tone_is_a_lightness(self) -> None:
        sat = sitting(**{**BORDER, "border_bottom": 40}, inscriptions=(
            Inscription(text="■■■", font="sans", height=12, tone=50),
            Inscription(text="IIII", font="sans", height=12, tone=50),
        ))  # fmt: skip
        lay, shown = mounted_size(sat), whole(sat)
        darkest = shown[lay.block.bottom :].min() / 255
        light = ((darkest + 0.055) / 1.055) ** 2.4
        self.assertAlmostEqual(float(lightness_of(np.array(light))), 50, delta=0.5)


if __name__ == "__main__":
    unittest.main()
