"""What files say of themselves, held against another reader of it (exiv2)."""

import io
import unittest
from pathlib import Path

import exiv2
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, TiffImagePlugin

from silvrin.demo_job import captures_folder
from silvrin.files.metadata import Metadata, every_tag, read_metadata
from tests.files.test_capture import Folder

exiv2.LogMsg.setLevel(exiv2.LogMsg.Level.mute)

XMP = """<?xpacket begin="" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="x:meta"><rdf:RDF
 xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"
 xmlns:tiff="http://ns.example/t/" tiff:Mood="calm">
<dc:title><rdf:Alt><rdf:li>Kiln</rdf:li></rdf:Alt></dc:title>
<dc:subject><rdf:Bag><rdf:li>clay</rdf:li><rdf:li>fire</rdf:li></rdf:Bag></dc:subject>
</rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end="w"?>"""


def by_exiv2(path: Path) -> dict[str, object]:
    """The same facts, read by another library."""
    image = exiv2.ImageFactory.open(str(path))
    image.readMetadata()
    exif = {entry.key(): entry for entry in image.exifData()}

    def number(key: str) -> float | None:
        if key not in exif:
            return None
        top, bottom = exif[key].toRational()
        return top / bottom

    return {
        "model": exif["Exif.Image.Model"].toString(),
        "lens": exif["Exif.Photo.LensModel"].toString(),
        "shutter": number("Exif.Photo.ExposureTime"),
        "aperture": number("Exif.Photo.FNumber"),
        "sensitivity": number("Exif.Photo.ISOSpeedRatings"),
        "focal_length": number("Exif.Photo.FocalLength"),
        "orientation": number("Exif.Image.Orientation") or 1,
        "baseline_exposure": number("Exif.Image.BaselineExposure") or 0,
    }


class MetadataTest(Folder):
    def picture(self, name: str, **more: object) -> Path:
        path = self.folder / name
        Image.fromarray(np.zeros((8, 12, 3), np.uint8)).save(path, **more)
        return path

    def test_every_demo_capture_says_what_another_reader_finds(self) -> None:
        files = [p for p in captures_folder().glob("*/*") if p.is_file()]
        self.assertGreater(len(files), 15)
        for path in files:
            with self.subTest(path.name):
                found = read_metadata(path)
                for field, wanted in by_exiv2(path).items():
                    got = getattr(found, field)
                    if isinstance(wanted, str):
                        self.assertEqual(got, wanted, field)
                    else:
                        self.assertAlmostEqual(got, wanted, places=6, msg=field)
                image = exiv2.ImageFactory.open(str(path))
                image.readMetadata()
                # as many entries as the other reader has, but for those of preview pages
                wanted_names = {
                    entry.tagName() for entry in image.exifData()
                    if entry.groupName() in ("Image", "Photo")
                }  # fmt: skip
                names = {name.split(" ", 1)[1] for name, _ in every_tag(path)}
                common = {"Make", "Model", "ExposureTime", "FNumber", "LensModel"}
                self.assertLessEqual(common & wanted_names, names)

    def test_odd_values_are_no_obstacle(self) -> None:
        exif = Image.Exif()
        exif[0x010F] = "Köln".encode("latin-1")  # the maker, not UTF-8
        exif[0x0110] = ""  # no model
        ifd = exif.get_ifd(0x8769)
        ifd[0x829A] = TiffImagePlugin.IFDRational(0, 0)  # a shutter of 0/0
        ifd[0x829D] = TiffImagePlugin.IFDRational(56, 10)
        ifd[0x9003] = " "
        path = self.picture("odd.jpg", exif=exif)
        found = read_metadata(path)
        self.assertIn("K", found.maker or "")
        self.assertIsNone(found.model)
        self.assertIsNone(found.shutter)
        self.assertAlmostEqual(found.aperture or 0, 5.6)
        self.assertIsNone(found.taken)

    def test_iptc_and_xmp_are_told(self) -> None:
        path = self.picture("told.jpg", xmp=XMP.encode())
        image = exiv2.ImageFactory.open(str(path))
        image.readMetadata()
        iptc = image.iptcData()
        iptc["Iptc.Application2.Caption"] = "A kiln at dusk"
        iptc["Iptc.Application2.Keywords"] = "clay"
        image.setIptcData(iptc)
        image.writeMetadata()
        told = dict(every_tag(path))
        self.assertEqual(told["IPTC Caption"], "A kiln at dusk")
        self.assertEqual(told["IPTC Keywords"], "clay")
        self.assertEqual(told["XMP title"], "Kiln")
        self.assertEqual(told["XMP subject"], "clay, fire")
        self.assertEqual(told["XMP Mood"], "calm")

    def test_an_xml_bomb_is_not_set_off(self) -> None:
        bomb = '<!DOCTYPE b [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><b>&b;</b>'
        path = self.picture("bomb.jpg", xmp=bomb.encode())
        self.assertEqual([t for t in every_tag(path) if t[0].startswith("XMP")], [])

    def test_a_file_that_says_nothing(self) -> None:
        path = self.picture("plain.png")
        self.assertEqual(read_metadata(path), Metadata())
        self.assertEqual(every_tag(path), [])

    @settings(max_examples=150)
    @given(st.integers(0, 3000), st.binary(min_size=1, max_size=12))
    def test_damaged_entries_never_stop_anything(self, place: int, bytes_there: bytes) -> None:
        exif = Image.Exif()
        exif[0x0110] = "Field 3"
        exif.get_ifd(0x8769)[0x829D] = TiffImagePlugin.IFDRational(8, 1)
        file = io.BytesIO()
        Image.fromarray(np.zeros((8, 12, 3), np.uint8)).save(file, "JPEG", exif=exif)
        data = bytearray(file.getvalue())
        at = place % len(data)
        data[at : at + len(bytes_there)] = bytes_there
        path = self.folder / "damaged.jpg"
        path.write_bytes(data)
        self.assertIsInstance(read_metadata(path), Metadata)
        self.assertIsInstance(every_tag(path), list)


if __name__ == "__main__":
    unittest.main()
