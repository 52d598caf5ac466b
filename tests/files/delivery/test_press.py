"""Soft proofs, beside those that LittleCMS itself makes through Pillow."""

import io
import unittest

import imagecodecs
import numpy as np
from PIL import Image, ImageCms

from silvrin.files.delivery.press import LOSS, Press
from silvrin.files.profiles import srgb

WHITE = [0.3457, 0.3585, 1.0]


def printer(gamma: float = 2.2, narrow: float = 0.5) -> bytes:
    """A profile whose primaries lie so far from white towards sRGB's, with one curve."""
    curve = np.rint(np.linspace(0, 1, 4096) ** gamma * 65535).astype(np.uint16)
    primaries = []
    for x, y in ((0.6484, 0.3309), (0.3212, 0.5979), (0.1559, 0.0660)):  # sRGB's, adapted to D50
        primaries += [WHITE[0] + narrow * (x - WHITE[0]), WHITE[1] + narrow * (y - WHITE[1]), 1.0]
    return bytes(
        imagecodecs.cms_profile(
            "rgb", whitepoint=WHITE, transferfunction=curve, primaries=primaries
        )
    )


def colours() -> np.ndarray:
    """Muted and strong colours, (40, 60, 3)."""
    rng = np.random.default_rng(4)
    grey = rng.integers(30, 226, (40, 60, 1))
    spread = np.linspace(0, 110, 60)[None, :, None]
    return np.clip(grey + rng.normal(0, 0.5, (40, 60, 3)) * spread, 0, 255).astype(np.uint8)


class PressTest(unittest.TestCase):
    def test_it_shows_what_littlecms_shows(self) -> None:
        given, profile = colours(), printer()
        own = ImageCms.ImageCmsProfile(io.BytesIO(srgb()))
        press = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        for intent, flag in (("relative", 1), ("perceptual", 0)):
            proofing = ImageCms.buildProofTransform(
                own, own, press, "RGB", "RGB", ImageCms.Intent.RELATIVE_COLORIMETRIC,
                ImageCms.Intent(flag),
                ImageCms.Flags.SOFTPROOFING | ImageCms.Flags.BLACKPOINTCOMPENSATION,
            )  # fmt: skip
            wanted = np.asarray(ImageCms.applyTransform(Image.fromarray(given), proofing))
            shown = Press(profile, intent).shown(given)
            away = np.abs(shown.astype(int) - wanted)
            self.assertLess(np.percentile(away, 99), 4, intent)
            self.assertLess(away.mean(), 1.0, intent)

    def test_what_falls_outside_is_what_littlecms_says(self) -> None:
        given, profile = colours(), printer()
        own = ImageCms.ImageCmsProfile(io.BytesIO(srgb()))
        proofing = ImageCms.buildProofTransform(
            own, own, ImageCms.ImageCmsProfile(io.BytesIO(profile)), "RGB", "RGB",
            flags=ImageCms.Flags.SOFTPROOFING | ImageCms.Flags.GAMUTCHECK,
        )  # fmt: skip
        alarm = np.asarray(ImageCms.applyTransform(Image.fromarray(given), proofing))
        values, counts = np.unique(alarm.reshape(-1, 3), axis=0, return_counts=True)
        outside = (alarm == values[counts.argmax()]).all(axis=2)
        self.assertGreater(outside.mean(), 0.2)
        press = Press(profile)
        self.assertAlmostEqual(press.share_outside(given), outside.mean(), delta=0.08)
        striped = (press.shown(given, outside=True) == LOSS).all(axis=2)
        self.assertAlmostEqual(striped.mean(), press.share_outside(given) / 2, delta=0.03)
        self.assertFalse((press.shown(given) == LOSS).all(axis=2).any())

    def test_greys_stay_and_nothing_of_them_is_lost(self) -> None:
        greys = np.arange(256, dtype=np.uint8)[None].repeat(3, axis=0)
        press = Press(printer(1.8))
        shown = press.shown(greys)
        self.assertLessEqual(np.abs(shown.astype(int) - greys[..., None])[:, 4:].max(), 2)
        self.assertEqual(press.share_outside(greys), 0.0)

    def test_its_paper_is_seen_where_that_is_asked(self) -> None:
        warm = bytes(
            imagecodecs.cms_profile(
                "rgb", whitepoint=[0.36, 0.37, 1.0], gamma=2.2,
                primaries=[0.64, 0.33, 1.0, 0.3, 0.6, 1.0, 0.15, 0.06, 1.0],
            )
        )  # fmt: skip
        white = np.full((2, 2), 255, np.uint8)
        self.assertLessEqual(np.ptp(Press(warm).shown(white)[0, 0].astype(int)), 2)
        paper = Press(warm, paper=True).shown(white)[0, 0].astype(int)
        self.assertTrue(paper[2] <= paper[0])


if __name__ == "__main__":
    unittest.main()
