"""Every form is read back by a library that did not write it: Pillow, OpenCV, libvips, pikepdf,
libheif, exiv2. Nothing at hand but libjxl reads JPEG XL."""

import io
import os
import struct
import unittest
import zlib
from pathlib import Path
from unittest import mock

import cv2
import exiv2
import imagecodecs
import numpy as np
import pikepdf
import pyvips
import tifffile
from PIL import Image

from silvrin import shelf
from silvrin.core.colour import decode_srgb
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import Bath, FilmSettings, Recipe, TonerSettings
from silvrin.core.render import Sitting, densities, strips
from silvrin.files.delivery import About, Carried, Output, Size, carried_by, deliver
from silvrin.files.metadata import Metadata
from silvrin.files.profiles import print_grey, srgb
from tests.core.test_render import smooth
from tests.files.test_capture import Folder

pyvips.cache_set_max(0)  # files of one name come and go
PICTURE = LinearPicture([smooth(480, 322)], 1 / 65535)
NO_GRAIN = FilmSettings(grain=0, halation=0)
GREY = Recipe(film=NO_GRAIN)
TONED = Recipe(film=NO_GRAIN, toner=TonerSettings(baths=(Bath(kind="sepia", time=1.0),)))
ABOUT = About(
    title="Möwe <über> dem Ofen", creator="A. Töpfer", rights="© 2026 A. Töpfer",
    keywords=("kiln", "ash & smoke"),
    camera=Metadata(
        maker="Maker", model="Model 1", lens="35 mm", taken="2026-05-06T07:08:09", shutter=1 / 250,
        aperture=5.6, sensitivity=400, focal_length=35.0,
    ),
    location=(47.5, -8.25),
    carried=Carried('{"format": "silvrin-recipe-6", "look": {}}', "ab" * 32, "kiln.dng"),
)  # fmt: skip
FORMS = ("tiff", "png", "jpeg", "jxl", "avif", "pdf", "exr")


def sitting(recipe: Recipe) -> Sitting:
    return Sitting("f", PICTURE, shelf.light_path(recipe))


def printed(recipe: Recipe, bits: int) -> np.ndarray:
    return np.concatenate(list(strips(sitting(recipe), bits=bits)))


def channels_of(path: Path) -> dict[str, np.ndarray]:
    """The channels of an OpenEXR file of scan lines, plain or under ZIP, by the file's published
    layout (from memory): no other library that is at hand reads one."""
    content = path.read_bytes()
    at, said = 8, {}
    while content[at]:
        end = content.index(0, at)
        name, at = content[at:end].decode(), content.index(0, end + 1) + 1
        size = struct.unpack_from("<i", content, at)[0]
        said[name], at = content[at + 4 : at + 4 + size], at + 4 + size
    left, top, right, bottom = struct.unpack("<4i", said["dataWindow"])
    width, height = right - left + 1, bottom - top + 1
    channels, place = {}, 0
    while said["channels"][place]:
        end = said["channels"].index(0, place)
        kind = struct.unpack_from("<i", said["channels"], end + 1)[0]
        name = said["channels"][place:end].decode()
        channels[name] = np.empty((height, width), {1: "<f2", 2: "<f4"}[kind])
        place = end + 17
    many = {0: 1, 3: 16}[said["compression"][0]]  # rows together: without any, and under ZIP
    for (offset,) in struct.iter_unpack("<Q", content[at + 1 : at + 1 + 8 * -(-height // many)]):
        row, size = struct.unpack_from("<ii", content, offset)
        rows = min(many, top + height - row)
        packed, length = content[offset + 8 : offset + 8 + size], rows * width
        length *= sum(each.itemsize for each in channels.values())
        if size < length:  # else it lies there as it is
            steps = np.frombuffer(zlib.decompress(packed), np.uint8).astype(np.int64)
            steps[1:] -= 128
            halves = np.cumsum(steps).astype(np.uint8)
            mixed = np.empty(length, np.uint8)
            mixed[::2], mixed[1::2] = halves[: -(-length // 2)], halves[-(-length // 2) :]
            packed = mixed.tobytes()
        start = 0
        for line in range(row - top, row - top + rows):
            for each in channels.values():
                each[line] = np.frombuffer(packed, each.dtype, width, start)
                start += width * each.itemsize
    return channels


class FormsTest(Folder):
    def setUp(self) -> None:
        super().setUp()
        several = mock.patch("silvrin.core.render.strips.STRIP_PIXELS", 480 * 150)
        several.start()
        self.addCleanup(several.stop)

    def made(self, recipe: Recipe, about: About = ABOUT, /, **wanted: object) -> Path:
        output = Output.model_validate(wanted)
        target = self.folder / f"print{output.suffix}"
        deliver(sitting(recipe), target, output, about)
        return target

    def read(self, path: Path) -> tuple[np.ndarray, bytes]:
        """Numbers, red first, and profile, by libvips."""
        image = pyvips.Image.new_from_file(str(path))
        profile = image.get("icc-profile-data") if "icc-profile-data" in image.get_fields() else b""
        return image.numpy(), bytes(profile)

    def test_without_loss_the_numbers_are_those_of_the_print(self) -> None:
        for form, extra in (
            ("tiff", {}), ("tiff", {"compression": "deflate"}), ("tiff", {"bits": 8}), ("png", {}),
            ("png", {"bits": 8}),
        ):  # fmt: skip
            for recipe, profile in ((GREY, print_grey()), (TONED, srgb())):
                bits = extra.get("bits", 16)
                numbers, found = self.read(self.made(recipe, format=form, **extra))
                with self.subTest(form, **extra):
                    np.testing.assert_array_equal(numbers, printed(recipe, bits))
                    self.assertEqual(found, profile)
        for bits in (8, 16):
            target = self.made(TONED, format="jxl", quality=100, bits=bits)
            found = imagecodecs.jpegxl_decode(target.read_bytes())
            np.testing.assert_array_equal(found, printed(TONED, bits))

    def test_with_loss_they_are_near(self) -> None:
        for recipe in (GREY, TONED):
            wanted = printed(recipe, 8).astype(int)
            jpeg = cv2.imread(str(self.made(recipe, format="jpeg")), cv2.IMREAD_UNCHANGED)
            avif, _ = self.read(self.made(recipe, format="avif", quality=98))
            jxl = imagecodecs.jpegxl_decode(
                self.made(recipe, format="jxl", bits=8, quality=98).read_bytes()
            )
            for name, found in (
                ("jpeg", jpeg if jpeg.ndim == 2 else jpeg[..., ::-1]),
                ("avif", avif if recipe is TONED else avif[..., 1]),
                ("jxl", jxl),
            ):
                self.assertLess(np.abs(found - wanted).mean(), 1.2, name)
        size = [self.made(TONED, format="jpeg", quality=q).stat().st_size for q in (60, 95)]
        self.assertLess(size[0], 0.6 * size[1])
        with Image.open(self.made(TONED, format="jpeg", chroma="half")) as seen:
            self.assertEqual([(c[1], c[2]) for c in seen.layer], [(2, 2), (1, 1), (1, 1)])

    def test_openexr_holds_linear_light_and_density(self) -> None:
        for recipe in (GREY, TONED):
            how = "deflate" if recipe is TONED else "none"
            found = channels_of(self.made(recipe, format="exr", compression=how))
            wanted = decode_srgb(printed(recipe, 16) / 65535.0)
            self.assertEqual("".join(found), "BGR" if recipe is TONED else "Y")
            found = np.dstack([found[c] for c in "RGB"]) if recipe is TONED else found["Y"]
            np.testing.assert_allclose(found, wanted, rtol=6e-4, atol=1e-6)  # of half floats
        target = self.made(GREY, format="exr", holds="negative")
        held = channels_of(target)["density"]
        np.testing.assert_array_equal(held, np.concatenate(list(densities(sitting(GREY)))))

    def test_a_pyramid_has_each_level_half_as_large(self) -> None:
        picture = LinearPicture([smooth(1400, 900)], 1 / 65535)
        target = self.folder / "p.tif"
        deliver(Sitting("p", picture, shelf.light_path(GREY)), target,
                Output(pyramid=True, compression="deflate"))  # fmt: skip
        whole = pyvips.Image.new_from_file(str(target))
        self.assertEqual((whole.width, whole.height), (1400, 900))
        sizes = [
            (level.width, level.height)
            for level in (
                pyvips.Image.new_from_file(str(target), subifd=i) for i in range(2)
            )
        ]  # fmt: skip
        self.assertEqual(sizes, [(700, 450), (350, 225)])
        small = pyvips.Image.new_from_file(str(target), subifd=1).numpy() / 65535
        np.testing.assert_allclose(
            small, cv2.resize(whole.numpy() / 65535, (350, 225), interpolation=cv2.INTER_AREA),
            atol=0.01,
        )  # fmt: skip

    def test_pdf_has_its_true_size_boxes_and_marks(self) -> None:
        size = {"by": "mm", "value": 120, "ppi": 100}
        for recipe, quality in ((GREY, 95), (TONED, 100)):
            target = self.made(
                recipe, format="pdf", size=size, bleed=3, marks=True, quality=quality
            )
            with pikepdf.open(target) as pdf:
                page = pdf.pages[0]
                mm = 72 / 25.4
                trim, bleed = ([float(v) for v in box] for box in (page.trimbox, page.bleedbox))
                self.assertAlmostEqual((bleed[2] - bleed[0]) / mm, 120, delta=0.01)
                self.assertAlmostEqual((trim[2] - trim[0]) / mm, 114, delta=0.01)
                self.assertAlmostEqual(trim[0] - bleed[0], 3 * mm, delta=0.01)
                picture = pikepdf.PdfImage(next(iter(page.images.values())))
                self.assertEqual((picture.width, picture.height), (472, 317))
                profile = picture.icc.profile if recipe is TONED else None
                self.assertTrue(picture.colorspace in ("/ICCBased", "/DeviceGray", "/DeviceRGB"))
                found = np.asarray(picture.as_pil_image())
                small = strips(sitting(recipe), (472, 317), 8)
                away = np.abs(found.astype(int) - np.concatenate(list(small)))
                self.assertLessEqual(away.max() if quality == 100 else away.mean(), 1)
                if profile is not None:
                    self.assertEqual(profile.xcolor_space, "RGB ")
                drawn = page.Contents.read_bytes().decode("latin-1")
                self.assertEqual(drawn.count(" l S"), 8)
                self.assertEqual(str(pdf.docinfo["/Title"]), ABOUT.title)

    def test_what_a_file_says_is_read_by_exiv2(self) -> None:
        for form in ("tiff", "png", "jpeg", "jxl", "avif"):
            opened = exiv2.ImageFactory.open(str(self.made(TONED, format=form)))
            opened.readMetadata()
            xmp = {each.key(): str(each.value()) for each in opened.xmpData()}
            exif = {each.key(): str(each.value()) for each in opened.exifData()}
            with self.subTest(form):
                self.assertEqual(xmp["Xmp.dc.title"], f'lang="x-default" {ABOUT.title}')
                self.assertEqual(xmp["Xmp.dc.creator"], ABOUT.creator)
                self.assertEqual(xmp["Xmp.dc.subject"], "kiln, ash & smoke")
                self.assertEqual(xmp["Xmp.exif.GPSLongitude"], "8,15.000000W")
                self.assertEqual(exif["Exif.Image.Artist"], ABOUT.creator)
                self.assertEqual(exif["Exif.Photo.DateTimeOriginal"], "2026:05:06 07:08:09")
                self.assertEqual(exif["Exif.Photo.ExposureTime"], "1/250")
                self.assertEqual(exif["Exif.GPSInfo.GPSLatitude"], "47/1 30/1 0/1")
                self.assertNotIn(None, xmp.values())
        none = exiv2.ImageFactory.open(str(self.made(TONED, About(), format="jpeg")))
        none.readMetadata()
        keys = {each.key() for each in none.exifData()}
        self.assertFalse({k for k in keys if "GPS" in k or "Artist" in k or "DateTime" in k}, keys)

    def test_a_small_picture_is_inside(self) -> None:
        for form in ("jpeg", "tiff"):
            size = {"by": "long", "value": 960, "upscale": True}
            target = self.made(TONED, format=form, size=size)
            if form == "jpeg":
                opened = exiv2.ImageFactory.open(str(target))
                opened.readMetadata()
                small = bytes(exiv2.ExifThumb(opened.exifData()).copy())
                found = np.asarray(Image.open(io.BytesIO(small)))
            else:
                with tifffile.TiffFile(target) as file:
                    self.assertTrue(file.pages[1].is_reduced)
                    found = file.pages[1].asarray()
            self.assertEqual(found.shape, (172, 256, 3))
            wanted = cv2.resize(printed(TONED, 8), (256, 172), interpolation=cv2.INTER_AREA)
            self.assertLess(np.abs(found.astype(int) - wanted).mean(), 3)

    def test_the_recipe_goes_along_in_every_form(self) -> None:
        long = Carried(f'{{"n": "{os.urandom(90_000).hex()}"}}', "cd" * 32, "ofen.dng")
        for form in FORMS:
            for carried in (ABOUT.carried, long):
                with self.subTest(form):
                    target = self.made(GREY, About(carried=carried), format=form)
                    self.assertEqual(carried_by(target), carried)
                    self.assertIsNone(carried_by(self.made(GREY, format=form, recipe=False)))
        with Image.open(self.made(GREY, About(carried=long), format="jpeg")) as seen:
            seen.load()  # the other segments are in no reader's way
        beside = self.folder / "print.silvrin.json"
        self.assertFalse(beside.exists())
        self.made(GREY, format="jpeg", sidecar=True, recipe=False)
        self.assertIn('"sha256": "abab', beside.read_text())
        for broken in (b"", b"<?xpacket begin=", b"<?xpacket begin=''?><a", os.urandom(5000)):
            (self.folder / "odd").write_bytes(broken)
            self.assertIsNone(carried_by(self.folder / "odd"))


class SizesTest(Folder):
    def delivered(self, recipe: Recipe = GREY, **size: object) -> tuple[int, int, float, bool]:
        output = Output(format="png", bits=8, size=Size.model_validate(size))
        made = deliver(sitting(recipe), self.folder / "s.png", output)
        with Image.open(self.folder / "s.png") as seen:
            self.assertEqual(seen.size, (made.width, made.height))
            self.assertAlmostEqual(seen.info["dpi"][0], made.ppi, delta=0.02)
        return made.width, made.height, round(made.ppi, 2), made.limited

    def test_each_way_of_asking(self) -> None:
        full = self.delivered()
        self.assertEqual(full[:2], (480, 322))
        self.assertFalse(full[3])
        self.assertEqual(self.delivered(by="long", value=240)[:2], (240, 161))
        self.assertEqual(self.delivered(by="short", value=161)[:2], (240, 161))
        self.assertEqual(self.delivered(by="box", value=300, height=100)[:2], (149, 100))
        self.assertEqual(self.delivered(by="megapixels", value=0.04)[:2], (244, 164))
        # 50.8 mm at 100 ppi are 200 pixels; 36 mm of film twice as large at 127 ppi are 360
        self.assertEqual(self.delivered(by="mm", value=50.8, ppi=100), (200, 134, 100.0, False))
        self.assertEqual(
            self.delivered(by="enlargement", value=2, ppi=127), (360, 242, 127.0, False)
        )

    def test_nothing_is_enlarged_unless_that_is_asked(self) -> None:
        wide, high, ppi, limited = self.delivered(by="mm", value=254, ppi=100)
        self.assertEqual((wide, high, limited), (480, 322, True))
        self.assertAlmostEqual(ppi, 48.0)  # 254 mm wide all the same
        self.assertEqual(
            self.delivered(by="mm", value=254, ppi=100, upscale=True), (1000, 671, 100.0, False)
        )

    def test_an_enlarged_print_is_the_print_with_the_film_of_a_larger_one(self) -> None:
        recipe = GREY.model_copy(update={"film": FilmSettings(grain=1.0)})
        for path in (GREY, recipe):
            plain = np.concatenate(list(strips(sitting(path), bits=8)))
            self.made = deliver(
                sitting(path), self.folder / "l.png",
                Output(format="png", bits=8, size=Size(by="long", value=1440, upscale=True)),
            )  # fmt: skip
            large = cv2.imread(str(self.folder / "l.png"), cv2.IMREAD_UNCHANGED)
            back = cv2.resize(large, (480, 322), interpolation=cv2.INTER_AREA)
            away = np.abs(back.astype(int) - plain)[8:-8, 8:-8]
            if path is GREY:
                self.assertLess(away.mean(), 0.6)
            else:  # grain of its own at each pixel, not that of a pixel three times as wide
                apart = np.diff(large[::7].astype(int), axis=1)
                self.assertGreater(np.abs(apart).mean(), np.abs(np.diff(back.astype(int))).mean())


if __name__ == "__main__":
    unittest.main()
