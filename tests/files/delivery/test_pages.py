"""Prints on pages: where they lie, as pikepdf reads it."""

import unittest
from itertools import pairwise

import numpy as np
import pikepdf
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from silvrin import shelf
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import Bath, FilmSettings, Recipe, TonerSettings
from silvrin.core.render import Sitting, strips
from silvrin.errors import SilvrinError
from silvrin.files.delivery import (
    About,
    Carried,
    Output,
    Size,
    all_carried_by,
    deliver_together,
)
from silvrin.files.delivery.laying import check_fits, laid_out
from silvrin.files.delivery.output import Page
from silvrin.files.papers import PAPERS
from tests.core.test_render import smooth
from tests.files.test_capture import Folder

MM = 72 / 25.4
NO_GRAIN = FilmSettings(grain=0, halation=0)
GREY = Recipe(film=NO_GRAIN)
TONED = Recipe(film=NO_GRAIN, toner=TonerSettings(baths=(Bath(kind="sepia", time=1.0),)))
sides = st.floats(15, 90)


@st.composite
def papers(draw) -> Page:
    grid = draw(st.booleans())
    return Page(
        paper=draw(st.sampled_from(list(PAPERS))), lying=draw(st.booleans()),
        margin=draw(st.floats(0, 20)), gap=draw(st.floats(0, 10)),
        columns=draw(st.integers(1, 3)) if grid else None,
        rows=draw(st.integers(1, 3)) if grid else None,
    )  # fmt: skip


class LayingTest(unittest.TestCase):
    @settings(deadline=None, max_examples=200)
    @given(st.lists(st.tuples(sides, sides), min_size=1, max_size=30), papers())
    def test_every_print_lies_once_in_order_inside_and_on_no_other(self, sizes, page) -> None:
        sizes = [
            tuple(min(side, room) for side, room in zip(s, page.cell, strict=True)) for s in sizes
        ]
        for size in sizes:
            check_fits(size, page)
        pages = laid_out(sizes, page)
        self.assertEqual([each.number for laid in pages for each in laid], list(range(len(sizes))))
        for laid in pages:
            boxes = [
                (p.left, p.top, p.left + sizes[p.number][0], p.top + sizes[p.number][1])
                for p in laid
            ]
            for i, (left, top, right, bottom) in enumerate(boxes):
                self.assertGreaterEqual(min(left, top), page.margin - 0.1)
                self.assertLessEqual(right, page.size[0] - page.margin + 0.1)
                self.assertLessEqual(bottom, page.size[1] - page.margin + 0.1)
                for other in boxes[:i]:
                    apart = max(
                        left - other[2], other[0] - right, top - other[3], other[1] - bottom
                    )
                    self.assertGreaterEqual(apart, page.gap - 0.1)
        if page.columns is None:  # a page is begun only where there is no room any more
            for before, after in pairwise(pages):
                moved = [sizes[each.number] for each in (*before, after[0])]
                self.assertGreater(len(laid_out(moved, page)), 1)
        else:
            self.assertEqual(len(pages), -(-len(sizes) // (page.columns * page.rows)))

    def test_what_has_no_room_or_does_not_hold_is_said(self) -> None:
        with self.assertRaisesRegex(SilvrinError, "300 × 200 mm; the page has room for 186 × 273"):
            check_fits((300, 200), Page(paper="a4"))
        for wrong, says in (
            ({"paper": "a4", "columns": 2}, "columns and rows go together"),
            ({"columns": 2, "rows": 2}, "as large as a print has none"),
            ({"paper": "a5", "columns": 10, "rows": 1}, "leave .* mm a print; it needs 20"),
            ({"paper": "a4", "margin": 100}, "it needs 20"),
        ):
            with self.assertRaisesRegex(ValidationError, says):
                Page(**wrong)
        with self.assertRaisesRegex(ValidationError, "has its own size"):
            Output(format="pdf", holds="contact", page=Page(paper="a4", columns=1, rows=1))


def matrices(page: pikepdf.Page) -> list[list[float]]:
    """Where pictures are drawn: width, height, left and lower end in mm."""
    found, now = [], []
    for words, operator in pikepdf.parse_content_stream(page):
        if str(operator) == "cm":
            now = [float(v) for v in words]
        if str(operator) == "Do":
            found.append([now[0] / MM, now[3] / MM, now[4] / MM, now[5] / MM])
    return found


CARRIED = [Carried(f'{{"print": {k}}}', f"{k}" * 64, f"{k} ä.dng") for k in range(5)]


class BookTest(Folder):
    def setUp(self) -> None:
        super().setUp()
        wide, tall = smooth(480, 320), smooth(320, 480)
        recipes = (GREY, TONED, GREY, GREY, GREY)
        shapes = (wide, wide, tall, wide, wide)
        self.sittings = [
            Sitting(str(k), LinearPicture([light], 1 / 65535), shelf.light_path(recipe))
            for k, (light, recipe) in enumerate(zip(shapes, recipes, strict=True))
        ]

    def made(self, output: Output, shares: list[float] | None = None):
        target = self.folder / "prints.pdf"
        deliver_together(
            ((s, About(carried=CARRIED[k])) for k, s in enumerate(self.sittings)),
            len(self.sittings), target, output,
            About("All of them"), progress=(shares if shares is not None else []).append,
        )  # fmt: skip
        return pikepdf.open(target)

    def test_at_their_size_as_many_as_have_room(self) -> None:
        shares: list[float] = []
        output = Output(
            format="pdf", size=Size(by="mm", value=90, ppi=100), marks=True, quality=100,
            page=Page(paper="a4", margin=10, gap=5),
        )  # fmt: skip
        with self.made(output, shares) as pdf:
            self.assertEqual(len(pdf.pages), 1)
            # two beside each other; the upright one begins a row that has room for one more
            wanted = [
                (90, 60, 12.5, 198.5), (90, 60, 107.5, 198.5),
                (60, 90, 27.5, 103.5), (90, 60, 92.5, 118.5), (90, 60, 60.0, 38.5),
            ]  # fmt: skip
            np.testing.assert_allclose(matrices(pdf.pages[0]), wanted, atol=0.01)
            marks = pdf.pages[0].Contents.read_bytes().decode("latin-1").count(" l S")
            self.assertEqual(marks, 8 * 5)
            self.assertEqual(str(pdf.docinfo["/Title"]), "All of them")
            images = [pdf.pages[0].images[f"/{_drawn(pdf)[k]}"] for k in range(5)]
            profiles = [image.ColorSpace[1].objgen for image in images]
            self.assertEqual([profiles.index(each) for each in profiles], [0, 1, 0, 0, 0])
            for image, sitting in zip(images, self.sittings, strict=True):
                found = np.asarray(pikepdf.PdfImage(image).as_pil_image())
                size = found.shape[1], found.shape[0]
                np.testing.assert_array_equal(found, np.concatenate(list(strips(sitting, size, 8))))
        self.assertEqual(shares[-1], 1.0)
        self.assertEqual(shares, sorted(shares))

    def test_in_columns_and_rows_they_are_as_large_as_fits(self) -> None:
        page = Page(paper="10x8", lying=True, margin=12.7, gap=6.6, columns=2, rows=1)
        output = Output(format="pdf", size=Size(by="long", value=4000, ppi=72), page=page)
        with self.made(output) as pdf:
            self.assertEqual([len(matrices(each)) for each in pdf.pages], [2, 2, 1])
            # a cell is (254 - 25.4 - 6.6) / 2 = 111 mm wide and 177.8 mm high
            first, _ = matrices(pdf.pages[0])
            np.testing.assert_allclose(first, (111, 74, 12.7, (203.2 - 74) / 2), atol=0.2)
            upright, _ = matrices(pdf.pages[1])
            np.testing.assert_allclose(upright[:2], (111, 166.5), atol=0.2)

    def test_each_on_a_page_as_large_as_it_is(self) -> None:
        output = Output(format="pdf", size=Size(by="mm", value=90, ppi=100), marks=True, bleed=3)
        with self.made(output) as pdf:
            sizes = [[float(v) / MM for v in page.trimbox] for page in pdf.pages]
            said = [next(iter(page.images.values())).Metadata.read_bytes() for page in pdf.pages]
        # each picture says what it is of (ISO 32000-2, 14.3.2)
        for packet, carried in zip(said, CARRIED, strict=True):
            self.assertIn(carried.capture.encode(), packet)
        target = self.folder / "prints.pdf"
        self.assertEqual(list(all_carried_by(target)), CARRIED)
        self.made(output.model_copy(update={"recipe": False})).close()
        self.assertEqual(list(all_carried_by(target)), [])
        for number, (left, lower, right, upper) in enumerate(sizes):
            wanted = (54, 84) if number == 2 else (84, 54)
            np.testing.assert_allclose((right - left, upper - lower), wanted, atol=0.01)

    def test_a_print_that_has_no_room_leaves_no_file(self) -> None:
        output = Output(format="pdf", size=Size(by="mm", value=250), page=Page(paper="a4"))
        with self.assertRaisesRegex(SilvrinError, "250 × 167 mm; the page has room for"):
            self.made(output)
        self.assertEqual(list(self.folder.iterdir()), [])


def _drawn(pdf: pikepdf.Pdf) -> list[str]:
    """Names of the pictures of the first page, in the order they are drawn."""
    stream = pikepdf.parse_content_stream(pdf.pages[0])
    return [str(words[0])[1:] for words, operator in stream if str(operator) == "Do"]
