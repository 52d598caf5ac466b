"""What a file says of itself: an XMP packet (ISO 16684-1; names of Dublin Core and Exif, which IPTC
Core takes too), and Exif beside it where a form has room for that.

The recipe lies in the packet: its JSON, packed (deflate, base64), with the hash and the name of the
capture it is of, so that a delivered file opens as its print.
"""

import base64
import json
import logging
import mmap
import os
import zlib
from collections.abc import Iterator
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import Any
from xml.etree import ElementTree as Xml

import exifread
from defusedxml import ElementTree as Safe
from PIL import TiffTags
from PIL.TiffImagePlugin import IFDRational, ImageFileDirectory_v2

from ... import __version__
from ..metadata import Metadata

LOG = logging.getLogger(__name__)
SOFTWARE = f"Silvrin {__version__}"
OWN = "urn:silvrin:print:1"
NAMES = {
    "rdf": "http://www.w3.org/1999/02/22-rdf-syntax-ns#",
    "dc": "http://purl.org/dc/elements/1.1/",
    "xmp": "http://ns.adobe.com/xap/1.0/",
    "exif": "http://ns.adobe.com/exif/1.0/",
    "tiff": "http://ns.adobe.com/tiff/1.0/",
    "exifEX": "http://cipa.jp/exif/1.0/",
    "xmpNote": "http://ns.adobe.com/xmp/note/",
    "silvrin": OWN,
}
for _prefix, _uri in NAMES.items():
    Xml.register_namespace(_prefix, _uri)
Xml.register_namespace("x", "adobe:ns:meta/")
OPENING = '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>'.encode()
CLOSING = b'<?xpacket end="w"?>'
EXTENDED = b"http://ns.adobe.com/xmp/extension/\0"  # begins a segment of JPEG that goes on
PACKET, PDF = b"<?xpacket begin=", b"%PDF-"
MOST_PACKET = 96 << 20  # bytes that are looked through for its end
MOST_RECIPE = 64 << 20  # bytes of a recipe that is unpacked


@dataclass(frozen=True)
class Carried:
    """The recipe in a delivered file, and which capture it is of."""

    recipe: str  # text of a recipe file
    sha256: str
    capture: str  # name of its file


@dataclass(frozen=True)
class About:
    """What is said of a print."""

    title: str = ""
    creator: str = ""
    rights: str = ""
    keywords: tuple[str, ...] = ()
    camera: Metadata = field(default_factory=Metadata)
    location: tuple[float, float] | None = None  # degrees north and east
    carried: Carried | None = None


def location_of(path: Path) -> tuple[float, float] | None:
    """Where a file says it was taken, in degrees north and east."""
    try:
        with path.open("rb") as file:
            tags = exifread.process_file(file, details=False)
            found = exifread.utils.get_gps_coords(tags)
    except Exception:  # as with all that cameras write: whatever is wrong, the picture is sound
        return None
    return (float(found[0]), float(found[1])) if found else None


# XMP


def packet(about: About, extended: str | None = None) -> bytes:
    """An XMP packet; without the recipe where it lies in an extension of a name."""
    rdf = Xml.Element(_q("rdf", "RDF"))
    one = _Entries(rdf)
    one.put_all("dc", "title", "Alt", (about.title,) if about.title else ())
    one.put_all("dc", "creator", "Seq", (about.creator,) if about.creator else ())
    one.put_all("dc", "rights", "Alt", (about.rights,) if about.rights else ())
    one.put_all("dc", "subject", "Bag", about.keywords)
    one.put("xmp", "CreatorTool", SOFTWARE)
    camera = about.camera
    one.put("tiff", "Make", camera.maker)
    one.put("tiff", "Model", camera.model)
    one.put("exifEX", "LensModel", camera.lens)
    one.put("exif", "DateTimeOriginal", camera.taken)
    one.put("exif", "ExposureTime", camera.shutter and _ratio(camera.shutter))
    one.put("exif", "FNumber", camera.aperture and _ratio(camera.aperture))
    one.put("exif", "FocalLength", camera.focal_length and _ratio(camera.focal_length))
    speed = (str(camera.sensitivity),) if camera.sensitivity else ()
    one.put_all("exif", "ISOSpeedRatings", "Seq", speed)
    if about.location:
        one.put("exif", "GPSLatitude", _minutes(about.location[0], "NS"))
        one.put("exif", "GPSLongitude", _minutes(about.location[1], "EW"))
    if extended:
        one.put("xmpNote", "HasExtendedXMP", extended)
    elif about.carried:
        one.carry(about.carried)
    meta = Xml.Element("{adobe:ns:meta/}xmpmeta")
    meta.append(rdf)
    return b"\n".join([OPENING, Xml.tostring(meta, encoding="utf-8"), CLOSING])


def extension(about: About) -> bytes:
    """The recipe as what a packet that is too long for one segment goes on with."""
    rdf = Xml.Element(_q("rdf", "RDF"))
    if about.carried:
        _Entries(rdf).carry(about.carried)
    return bytes(Xml.tostring(rdf, encoding="utf-8"))


class _Entries:
    """The entries of a description."""

    def __init__(self, rdf: Xml.Element) -> None:
        self._one = Xml.SubElement(rdf, _q("rdf", "Description"), {_q("rdf", "about"): ""})

    def put(self, prefix: str, name: str, value: object) -> None:
        if value not in ("", None):
            Xml.SubElement(self._one, _q(prefix, name)).text = _allowed(str(value))

    def put_all(self, prefix: str, name: str, kind: str, values: tuple[str, ...]) -> None:
        if not values:
            return
        outer = Xml.SubElement(Xml.SubElement(self._one, _q(prefix, name)), _q("rdf", kind))
        for value in values:
            item = Xml.SubElement(outer, _q("rdf", "li"))
            item.text = _allowed(value)
            if kind == "Alt":
                item.set("{http://www.w3.org/XML/1998/namespace}lang", "x-default")

    def carry(self, carried: Carried) -> None:
        self.put("silvrin", "capture", carried.sha256)
        self.put("silvrin", "captureName", carried.capture)
        packed = zlib.compress(carried.recipe.encode(), 9)
        self.put("silvrin", "recipe", base64.b64encode(packed).decode())


def _allowed(text: str) -> str:
    """A text without what XML cannot hold."""
    return "".join(c for c in text if c in "\t\n\r" or (ord(c) >= 32 and c not in "\ufffe\uffff"))


def carried_by(path: Path) -> Carried | None:
    """The recipe in a file that was delivered, of several prints that of the first; None in any
    other file. Raises OSError."""
    return next(all_carried_by(path), None)


def all_carried_by(path: Path) -> Iterator[Carried]:
    """The recipes in a file that was delivered, in the order of its prints. Packets are made to be
    found by looking through a file of any form; raises OSError."""
    with path.open("rb") as file:
        if not os.fstat(file.fileno()).st_size:
            return
        with mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ) as content:
            start = content.find(PACKET)
            while start >= 0:
                end = content.find(CLOSING, start)
                end = end if 0 <= end < start + MOST_PACKET else start + MOST_PACKET
                found = content[start:end]
                if b"HasExtendedXMP" in found:
                    found = _joined(content)
                if (carried := _carried(found)) is not None:
                    yield carried
                several = content[: len(PDF)] == PDF  # no other form holds several prints
                start = content.find(PACKET, end) if several else -1


def _joined(content: "mmap.mmap") -> bytes:
    """The parts of an extension, each at its place."""
    parts: dict[int, bytes] = {}
    at = content.find(EXTENDED)
    while at >= 0:
        length = int.from_bytes(content[at - 2 : at], "big") - 2
        head = at + len(EXTENDED) + 32
        place = int.from_bytes(content[head + 4 : head + 8], "big")
        parts[place] = content[head + 8 : at + length]
        at = content.find(EXTENDED, at + length)
    return b"".join(parts[place] for place in sorted(parts))


def _carried(xmp: bytes) -> Carried | None:
    start, end = xmp.find(b"<"), xmp.rfind(b">")
    try:
        root = Safe.fromstring(xmp[start : end + 1])
        recipe, capture, name = (
            root.findtext(f".//{{{OWN}}}{name}") for name in ("recipe", "capture", "captureName")
        )
        if not recipe or not capture:
            return None
        unpacking = zlib.decompressobj()
        text = unpacking.decompress(base64.b64decode(recipe), MOST_RECIPE).decode()
    except Exception as error:  # a packet of foreign making
        LOG.info("an XMP packet cannot be read (%r)", error)
        return None
    return None if unpacking.unconsumed_tail else Carried(text, capture, name or "")


def sidecar(about: Carried) -> str:
    """The text of a recipe file that also says which capture it is of."""
    document = json.loads(about.recipe)
    document["capture"] = {"sha256": about.sha256, "name": about.capture}
    return json.dumps(document, indent=1, ensure_ascii=False)


def _q(prefix: str, name: str) -> str:
    return f"{{{NAMES[prefix]}}}{name}"


def _ratio(value: float) -> str:
    near = Fraction(value).limit_denominator(10_000)
    return f"{near.numerator}/{near.denominator}"


def _minutes(degrees: float, ends: str) -> str:
    """Degrees and minutes as XMP writes them."""
    whole, part = divmod(abs(degrees), 1.0)
    return f"{int(whole)},{part * 60:.6f}{ends[0] if degrees >= 0 else ends[1]}"


# Exif (version 3.0, from memory): numbers of its tags


def baseline_tags(about: About) -> dict[int, Any]:
    """Of the first directory: TIFF's own tags."""
    found = {
        0x010E: about.title, 0x010F: about.camera.maker, 0x0110: about.camera.model,
        0x013B: about.creator, 0x8298: about.rights,
    }  # fmt: skip
    return {tag: text for tag, text in found.items() if text}


def exif_tags(about: About) -> dict[int, Any]:
    """Of the Exif directory."""
    camera = about.camera
    found: dict[int, Any] = {
        0x829A: camera.shutter and _rational(camera.shutter),
        0x829D: camera.aperture and _rational(camera.aperture),
        0x8827: camera.sensitivity and min(camera.sensitivity, 65535),
        0x9003: camera.taken and camera.taken[:19].replace("-", ":").replace("T", " "),
        0x920A: camera.focal_length and _rational(camera.focal_length),
        0xA434: camera.lens,
    }
    return {tag: value for tag, value in found.items() if value}


def gps_tags(about: About) -> dict[int, Any]:
    """Of the directory of places."""
    if about.location is None:
        return {}
    found: dict[int, Any] = {0: b"\2\3\0\0"}
    for first, degrees, ends in ((1, about.location[0], "NS"), (3, about.location[1], "EW")):
        whole, part = divmod(abs(degrees), 1.0)
        minutes, rest = divmod(part * 60.0, 1.0)
        found[first] = ends[0] if degrees >= 0 else ends[1]
        found[first + 1] = tuple(_rational(v) for v in (whole, minutes, rest * 60.0))
    return found


def _rational(value: float) -> IFDRational:
    near = Fraction(value).limit_denominator(1_000_000)
    return IFDRational(near.numerator, near.denominator)


def directory(tags: dict[int, Any]) -> ImageFileDirectory_v2:
    """A TIFF directory of some tags."""
    made = ImageFileDirectory_v2()
    for tag, value in tags.items():
        if isinstance(value, str):  # UTF-8, as readers take it, where Pillow would write ASCII
            made.tagtype[tag] = TiffTags.ASCII
            value = value.encode()
        made[tag] = value
    return made


def exif_block(about: About, preview: bytes | None = None) -> bytes:
    """Exif as JPEG, PNG and others carry it, with a small JPEG of the picture."""
    first = directory(baseline_tags(about))
    first[0x0131] = SOFTWARE
    first[0x8769] = first[0x8825] = 0  # room for where the others lie
    second = directory({0x0103: 6, 0x0201: 0, 0x0202: len(preview)}) if preview else None
    header = b"II*\0\x08\0\0\0"
    places = {0x8769: 0, 0x8825: 0}
    inner = {0x8769: {0x9000: b"0300", **exif_tags(about)}, 0x8825: gps_tags(about)}
    if not inner[0x8825]:
        del first[0x8825], places[0x8825], inner[0x8825]
    for _ in range(2):  # the first round only tells how long each is
        out = bytearray(header + first.tobytes(8))
        for tag, tags in inner.items():
            out += b"\0" * (len(out) % 2)
            places[tag] = len(out)
            out += directory(tags).tobytes(len(out))
        out += b"\0" * (len(out) % 2)
        if second is not None:
            following = len(out)
            length = len(second.tobytes(following))
            second[0x0201] = following + length
            at = 8 + 2 + 12 * len(first)
            out[at : at + 4] = following.to_bytes(4, "little")
            out += second.tobytes(following) + (preview or b"")
        for tag, place in places.items():
            first[tag] = place
    return bytes(out)
