import unittest

import numpy as np
from defusedxml import ElementTree

from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import (
    Card,
    Disc,
    EnlargerSettings,
    FilmSettings,
    PaperSettings,
    Pass,
    Recipe,
)
from silvrin.core.render import Darkroom, Sitting
from silvrin.core.render.notes import PrintingNotes, notes_of, where_of
from silvrin.files.printing_notes import page
from tests.worked import worked_path

PASSES = (
    Pass(name="face", stops=-0.585, shapes=(Disc(x=150, y=100, width=60, height=40, soft=0.4),)),
    Pass(stops=1.0, grade=0.0, shapes=(Card(x=0, y=100, to_x=0, to_y=200),)),
    Pass(name="not now", on=False, shapes=(Disc(x=9, y=9, width=9, height=9),)),
    Pass(name="textures", stops=0.0, fine=0.5, shapes=(Disc(x=500, y=300, width=50, height=50),)),
)


def notes(*passes: Pass, split: bool = False) -> PrintingNotes:
    light = np.full((400, 600, 3), 11796, np.uint16)
    enlarger = EnlargerSettings(time=12.0, soft_time=5.0, hard_time=7.0, head="condenser")
    recipe = Recipe(
        film=FilmSettings(grain=0), enlarger=enlarger, paper=PaperSettings(grade=2.5, split=split)
    )
    sitting = Sitting(
        "n", LinearPicture.with_pyramid(light, 1 / 65535), worked_path(recipe, *passes)
    )
    return notes_of(Darkroom(), sitting)


def said(svg: bytes) -> list[str]:
    return [e.text or "" for e in ElementTree.fromstring(svg).iter() if e.tag.endswith("text")]


class NotesTest(unittest.TestCase):
    def test_each_pass_is_told_in_a_printers_words(self) -> None:
        found = notes(*PASSES)
        self.assertEqual([p.letter for p in found.passes], ["A", "B", "D"])
        face, burn, textures = found.passes
        self.assertEqual((face.name, face.where, face.through), ("face", "top left", None))
        self.assertAlmostEqual(face.seconds, -4.0, delta=0.01)
        self.assertEqual((burn.name, burn.where, burn.through), ("burn, card", "top", 0.0))
        self.assertAlmostEqual(burn.seconds, 12.0, places=6)
        self.assertEqual(textures.also, ("fine contrast",))
        # the outline is where half of it is left: the ellipse itself
        (outline,) = face.outlines
        x, y = outline.T * np.array([[600], [400]])
        shoelace = 0.5 * abs(np.dot(x, np.roll(y, 1)) - np.dot(y, np.roll(x, 1)))
        self.assertAlmostEqual(shoelace / (np.pi * 60 * 40), 1.0, delta=0.03)
        np.testing.assert_allclose([x.mean(), y.mean()], [150, 100], atol=3)
        # seven exposures a third of a stop apart about the base time
        np.testing.assert_allclose(found.strip, 12 * 2 ** (np.arange(-3, 4) / 3))

    def test_a_page_says_it_all_once_more_for_another_base_time(self) -> None:
        text = said(page(notes(*PASSES), "Roll, frame 1", "svg", 20.0))
        for wanted in (
            "Roll, frame 1", "12.0 s, grade 2.5", "face", "−4.0 s", "−0.58", "top left", "own",
            "burn, card", "+12.0 s", "At 20 s", "−6.7 s", "+20.0 s", "textures (fine contrast)",
            "A −4.0 s", "D tones",
        ):  # fmt: skip
            self.assertIn(wanted, text)
        self.assertNotIn("not now", " ".join(text))
        self.assertTrue(any("condenser head" in line for line in text))
        split = said(page(notes(split=True), "t", "svg"))
        self.assertTrue(any(s.startswith("5.0 s through 00, then 7.0 s through 5") for s in split))
        self.assertIn("Nothing is dodged or burned.", split)

    def test_a_pdf_is_one_page_with_its_fonts(self) -> None:
        made = page(notes(*PASSES), "Ofen, Rückseite − 1", "pdf")
        self.assertTrue(made.startswith(b"%PDF-"))
        self.assertIn(b"/Count 1", made)
        self.assertIn(b"/FontFile2", made)
        self.assertTrue(made.rstrip().endswith(b"%%EOF"))

    def test_two_hundred_passes_stay_on_the_page(self) -> None:
        text = said(page(notes(*(PASSES[0],) * 200), "many", "svg"))
        more = next(line for line in text if line.startswith("and "))
        rows = sum(line == "face" for line in text)
        self.assertEqual(more, f"and {200 - rows} more, as the list in the window says")
        self.assertGreater(rows, 20)

    def test_where_an_area_lies(self) -> None:
        area = np.zeros((100, 150), np.float32)
        self.assertEqual(where_of(area), "outside the picture")
        area[80:, 120:] = 1
        self.assertEqual(where_of(area), "bottom right")
        area[:] = 0.7
        self.assertEqual(where_of(area), "all over")
        area[:] = 0
        area[:20] = area[-20:] = 0.5
        self.assertEqual(where_of(area), "round the edges")
        area[:] = 0
        area[40:60, 60:90] = 0.2
        self.assertEqual(where_of(area), "middle")


if __name__ == "__main__":
    unittest.main()
