import errno
import io
import unittest
from unittest import mock

import colour
import numpy as np
import tifffile
from PIL import Image, ImageCms

from silvrin import shelf
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import Bath, FilmSettings, MountSettings, Recipe, TonerSettings
from silvrin.core.render import Sitting, mounted_strips, strips
from silvrin.errors import DiskFull, Dropped, SilvrinError
from silvrin.files.delivery import Output, Size, deliver
from silvrin.files.names import free_name
from silvrin.files.profiles import to_linear
from silvrin.files.whole import clear_parts, whole_or_nothing
from tests.core.test_render import smooth
from tests.files.test_capture import Folder

TIFF, JPEG = Output(format="tiff"), Output(format="jpeg")
D65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]


class DeliverTest(Folder):
    def setUp(self) -> None:
        super().setUp()
        self.picture = LinearPicture([smooth(640, 431)], 1 / 65535)
        self.path = shelf.light_path(Recipe())

    def test_tiff_is_read_by_independent_libraries(self) -> None:
        target, shares = self.folder / "print.tif", []
        with mock.patch("silvrin.core.render.strips.STRIP_PIXELS", 640 * 100):
            made = deliver(
                Sitting("d", self.picture, self.path), target, TIFF, progress=shares.append
            )
        self.assertEqual((made.width, made.height), (640, 431))
        self.assertEqual(shares[-1], 1.0)
        self.assertEqual(shares, sorted(shares))
        wanted = np.concatenate(list(strips(Sitting("s", self.picture, self.path))))
        with Image.open(target) as seen:  # Pillow
            self.assertEqual(seen.mode, "I;16")
            np.testing.assert_array_equal(np.asarray(seen), wanted)
            profile = ImageCms.ImageCmsProfile(io.BytesIO(seen.info["icc_profile"]))  # LittleCMS
        self.assertEqual(profile.profile.xcolor_space.strip(), "GRAY")
        with tifffile.TiffFile(target) as file:
            self.assertEqual(file.pages[0].bitspersample, 16)

    def test_jpeg_shows_its_numbers_through_its_profile(self) -> None:
        target = self.folder / "print.jpg"
        path = shelf.light_path(Recipe(film=FilmSettings(grain=0)))  # JPEG takes its share of grain
        deliver(Sitting("d", self.picture, path), target, JPEG)
        wanted = np.concatenate(list(strips(Sitting("s", self.picture, path), bits=8)))
        with Image.open(target) as seen:
            self.assertLess(np.abs(np.asarray(seen).astype(int) - wanted).mean(), 1.0)
            grey = ImageCms.ImageCmsProfile(io.BytesIO(seen.info["icc_profile"]))
        # LittleCMS takes the grey numbers to sRGB: the same numbers, since the curve is sRGB's
        ramp = Image.fromarray(np.arange(256, dtype=np.uint8)[None])
        shown = ImageCms.profileToProfile(
            ramp, grey, ImageCms.createProfile("sRGB"), outputMode="RGB"
        )
        self.assertLessEqual(
            np.abs(np.asarray(shown)[0, :, 1].astype(int) - np.arange(256)).max(), 1
        )

    def test_a_toned_print_is_colour_and_shows_through_its_profile(self) -> None:
        toner = TonerSettings(baths=(Bath(kind="sepia", time=0.5), Bath(kind="selenium")))
        path = shelf.light_path(Recipe(toner=toner, film=FilmSettings(grain=0)))
        for form, bits in (("tiff", 16), ("jpeg", 8)):
            target = self.folder / f"toned.{form}"
            deliver(Sitting("d", self.picture, path), target, Output(format=form))
            wanted = np.concatenate(list(strips(Sitting("s", self.picture, path), bits=bits)))
            if form == "tiff":
                with tifffile.TiffFile(target) as file:
                    self.assertEqual(file.pages[0].photometric.name, "RGB")
                    np.testing.assert_array_equal(file.pages[0].asarray(), wanted)
                    profile = file.pages[0].tags["InterColorProfile"].value
            else:
                with Image.open(target) as seen:
                    self.assertLess(np.abs(np.asarray(seen).astype(int) - wanted).mean(), 1.5)
                    profile = seen.info["icc_profile"]
            # LittleCMS takes its numbers to its own sRGB: the same numbers
            own = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            row = (wanted[200:201] // (257 if bits == 16 else 1)).astype(np.uint8)
            shown = ImageCms.profileToProfile(
                Image.fromarray(row), own, ImageCms.createProfile("sRGB"), outputMode="RGB"
            )
            self.assertGreater(np.ptp(row, axis=2).max(), 20)
            self.assertLessEqual(np.abs(np.asarray(shown).astype(int) - row).max(), 1)

    def test_each_profile_gives_back_the_colours_of_the_print(self) -> None:
        toner = TonerSettings(baths=(Bath(kind="sepia", time=1.0, tone=1.0),), shadow_wash=1.0)
        toned = shelf.light_path(Recipe(toner=toner, film=FilmSettings(grain=0)))
        plain = shelf.light_path(Recipe(film=FilmSettings(grain=0)))
        spaces = {
            "own": "sRGB",
            "srgb": "sRGB",
            "display-p3": "Display P3",
            "romm": "ROMM RGB",
        }
        for path, space in (
            (toned, "own"), (toned, "display-p3"), (toned, "romm"), (plain, "own"),
            (plain, "srgb"), (plain, "romm"),
        ):  # fmt: skip
            target = self.folder / "p.tif"
            deliver(Sitting("d", self.picture, path), target, Output(space=space))
            printed = np.concatenate(list(strips(Sitting("s", self.picture, path))))[::29, ::31]
            three = printed if printed.ndim == 3 else np.repeat(printed[..., None], 3, axis=2)
            wanted = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(three / 65535), D65)
            with tifffile.TiffFile(target) as file:
                numbers = file.pages[0].asarray()[::29, ::31]
                profile = file.pages[0].tags["InterColorProfile"].value
            # by colour-science's own spaces
            if numbers.ndim == 3:
                of = colour.RGB_COLOURSPACES[spaces[space]]
                xyz = colour.RGB_to_XYZ(numbers / 65535, of, D65, apply_cctf_decoding=True)
                away = colour.delta_E(wanted, colour.XYZ_to_Lab(xyz, D65), method="CIE 2000")
                self.assertLess(away.max(), 0.3, space)
            # by LittleCMS through the profile: linear light of BT.2020, of 16 bits
            light = to_linear(numbers, profile) / 65535
            bt2020 = colour.RGB_COLOURSPACES["ITU-R BT.2020"]
            found = colour.XYZ_to_Lab(colour.RGB_to_XYZ(light, bt2020), D65)
            self.assertLess(colour.delta_E(wanted, found, method="CIE 2000").max(), 0.5, space)

    def test_a_mounted_print_says_its_size_in_inches_and_has_its_borders(self) -> None:
        mount = MountSettings(size=200, border_left=6.35, border_right=6.35, border_top=6.35,
                              border_bottom=6.35, mat="equal", mat_sides=40)  # fmt: skip
        sitting = Sitting("d", self.picture, shelf.light_path(Recipe(mount=mount)))
        for form, long_side in (("tiff", None), ("jpeg", 300)):
            target = self.folder / f"mounted.{form}"
            with mock.patch("silvrin.core.render.mounting.STRIP_PIXELS", 900 * 90):
                size_wanted = Size(by="long", value=long_side) if long_side else Size()
                made = deliver(sitting, target, Output(format=form, size=size_wanted))
            size, bits = (made.width, made.height), 16 if form == "tiff" else 8
            wanted = np.concatenate(list(mounted_strips(sitting, long_side, bits)))
            self.assertEqual(size, (wanted.shape[1], wanted.shape[0]))
            self.assertLessEqual(max(size), long_side or 10**6)
            with Image.open(target) as seen:
                self.assertEqual(seen.size, size)
                ppi = float(seen.info["dpi"][0])
            # its width on paper: picture, two borders, two bevels, two mats; JPEG has whole ppi
            paper = 200 + 2 * (6.35 + 1.5 + 40)
            self.assertAlmostEqual(
                ppi, size[0] / paper * 25.4, delta=0.5 if form == "jpeg" else 0.2
            )
            if form == "tiff":
                with tifffile.TiffFile(target) as file:
                    np.testing.assert_array_equal(file.pages[0].asarray(), wanted)
                    colours = file.pages[0].asarray() // 257
                self.assertEqual(tuple(colours[3, 3]), (0xF6, 0xF3, 0xEA))
            else:
                with Image.open(target) as seen:
                    self.assertLess(np.abs(np.asarray(seen).astype(int) - wanted).mean(), 1.5)

    def test_nothing_half_written_stays(self) -> None:
        target = self.folder / "print.tif"
        target.write_bytes(b"an older print")
        full = OSError(errno.ENOSPC, "No space left on device")
        with (
            mock.patch("silvrin.files.whole.os.fsync", side_effect=full),
            self.assertRaisesRegex(DiskFull, "disk is full; nothing was written"),
        ):
            deliver(Sitting("d", self.picture, self.path), target, TIFF)
        with self.assertRaises(Dropped):
            deliver(Sitting("d", self.picture, self.path), target, TIFF, wanted=lambda: False)
        with self.assertRaises(RuntimeError), whole_or_nothing(target):
            raise RuntimeError("in the middle")
        self.assertEqual([f.name for f in self.folder.iterdir()], ["print.tif"])
        self.assertEqual(target.read_bytes(), b"an older print")

    def test_what_a_crash_left_is_known_by_its_file(self) -> None:
        target = self.folder / "a [1] *.tif"
        with self.assertRaises(KeyboardInterrupt), whole_or_nothing(target) as file:
            file.flush()
            (part,) = self.folder.iterdir()
            left = part.with_name(part.name.replace(".part", "x.part"))
            left.write_bytes(b"half")
            raise KeyboardInterrupt
        other = self.folder / ".other.abc.part"
        other.write_bytes(b"of another")
        clear_parts(target)
        self.assertEqual(list(self.folder.iterdir()), [other])

    def test_a_folder_that_is_not_there(self) -> None:
        with self.assertRaisesRegex(SilvrinError, "cannot be written"):
            deliver(Sitting("d", self.picture, self.path), self.folder / "no" / "print.tif", TIFF)

    def test_names_never_overwrite(self) -> None:
        (self.folder / "a.tif").touch()
        (self.folder / "a 2.tif").touch()
        self.assertEqual(free_name(self.folder, "a", ".tif").name, "a 3.tif")


if __name__ == "__main__":
    unittest.main()
