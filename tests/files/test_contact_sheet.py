"""Contact sheets to print: their pages are read back by pikepdf and Pillow."""

import io
import unittest
from functools import partial
from unittest import mock

import numpy as np
import pikepdf
from PIL import Image

from silvrin.files import contact_sheet
from silvrin.files.contact_sheet import (
    PAPERS,
    PPI,
    WAX,
    Entry,
    as_jpeg,
    as_pdf,
    pages,
    rows_on,
)


def entry(number: int, **more: object) -> Entry:
    return Entry(np.full((40, 60), 10 * number + 100, np.uint8), number, f"Frame {number}", **more)


class ContactSheetTest(unittest.TestCase):
    def test_pages_have_their_size_and_every_frame_its_place(self) -> None:
        ppi = 100  # of 300: nine times as quick
        self.enterContext(mock.patch.object(contact_sheet, "PPI", ppi))
        for paper, (width, height) in PAPERS.items():
            columns = 4
            a_page = columns * rows_on(paper, columns)
            frames = [partial(entry, n % 10) for n in range(a_page + 1)]
            made = list(pages("Kiln", frames, paper, columns))
            self.assertEqual(len(made), 2)
            for page in made:
                self.assertEqual(page.size, (round(width / 25.4 * ppi), round(height / 25.4 * ppi)))
            # the last frame of a page lies wholly on it
            grey = np.asarray(made[0].convert("L")).astype(int)
            last = 10 * ((a_page - 1) % 10) + 100
            rows, across = np.nonzero(grey == last)
            self.assertLess(rows.max(), grey.shape[0] - 12 / 25.4 * ppi)
            self.assertLess(across.max(), grey.shape[1] - 12 / 25.4 * ppi + 2)
            with pikepdf.open(io.BytesIO(as_pdf("Kiln", made, paper))) as pdf:
                self.assertEqual(len(pdf.pages), 2)
                box = [float(v) for v in pdf.pages[0].mediabox]
                self.assertAlmostEqual(box[2] / 72 * 25.4, width, delta=0.01)
                self.assertAlmostEqual(box[3] / 72 * 25.4, height, delta=0.01)

    def test_marks_are_drawn_in_wax(self) -> None:
        def waxed(mark: str) -> int:
            (page,) = pages("Kiln", [partial(entry, 1, mark=mark)], "10x8", 3)
            return int((np.asarray(page) == WAX).all(axis=2).sum())

        self.assertEqual(waxed("none"), 0)
        for mark in ("ring", "cross", "dot"):
            self.assertGreater(waxed(mark), 500, mark)

    def test_a_picture_says_its_size(self) -> None:
        (page,) = pages("Ofen und Glut, eine sehr lange Überschrift " * 5, [partial(entry, 1)])
        with Image.open(io.BytesIO(as_jpeg(page))) as seen:
            self.assertEqual((seen.size, seen.info["dpi"]), (page.size, (PPI, PPI)))


if __name__ == "__main__":
    unittest.main()
