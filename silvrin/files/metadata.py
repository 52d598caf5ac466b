"""What a file says about how it was taken: its Exif (ExifRead), what LibRaw knows of a raw without
one, IPTC (Pillow) and XMP."""

import logging
from collections.abc import Iterator
from datetime import datetime
from math import isfinite, log2
from pathlib import Path
from typing import Any

import exifread
import rawpy
from defusedxml import ElementTree
from PIL import Image, ImageFile, IptcImagePlugin
from pydantic import BaseModel

LOG = logging.getLogger(__name__)
logging.getLogger("exifread").setLevel(logging.CRITICAL)

BASELINE_EXPOSURE = "Image Tag 0xC62A"  # DNG: stops the maker asks to add
XMP_PACKET = "Image ApplicationNotes"
MOST = 1e7  # of a shutter time, an f-number, a sensitivity, a focal length
MOST_STOPS = 20.0
LONGEST = 200  # characters of a value that are shown
RDF = "{http://www.w3.org/1999/02/22-rdf-syntax-ns#}"
# Names of data sets of the IPTC Information Interchange Model's application record
IPTC = {
    5: "Object name", 7: "Edit status", 10: "Urgency", 15: "Category", 20: "Supplemental category",
    25: "Keywords", 40: "Special instructions", 55: "Date created", 60: "Time created",
    80: "By-line", 85: "By-line title", 90: "City", 92: "Sub-location", 95: "Province or state",
    100: "Country code", 101: "Country", 103: "Original transmission reference", 105: "Headline",
    110: "Credit", 115: "Source", 116: "Copyright notice", 120: "Caption",
    122: "Writer or editor",
}  # fmt: skip


class Metadata(BaseModel):
    """Facts of a capture as the camera wrote them; None where it wrote nothing."""

    camera: str | None = None
    maker: str | None = None
    model: str | None = None
    lens: str | None = None
    taken: str | None = None  # local time of the camera, ISO 8601
    shutter: float | None = None  # s
    aperture: float | None = None  # f-number
    sensitivity: int | None = None  # ISO
    focal_length: float | None = None  # mm
    orientation: int = 1  # Exif code
    baseline_exposure: float = 0.0  # stops the maker asks to add (DNG)
    temperature: float | None = None  # K, of the light by the camera's white balance
    not_applied: list[str] = []  # corrections that the file asks for and Silvrin leaves

    @property
    def exposure_value(self) -> float | None:
        """EV at ISO 100 of a middle grey that was exposed so: log2 (N² / t) - log2 (ISO / 100)
        (ISO 2720, from memory)."""
        if not (self.shutter and self.aperture and self.sensitivity):
            return None
        return log2(self.aperture**2 / self.shutter) - log2(self.sensitivity / 100)


def read_metadata(path: Path) -> Metadata:
    """The metadata of a file; empty when it has none or they cannot be read."""
    tags = _exif(path)

    def text(*names: str) -> str | None:
        found = next((tags[name] for name in names if name in tags), None)
        return _text(found) or None if found is not None else None

    def number(*names: str) -> float | None:
        return next((v for name in names if (v := _number(tags.get(name))) is not None), None)

    def positive(*names: str) -> float | None:
        value = number(*names)
        return value if value is not None and 0.0 < value < MOST else None

    maker, model = text("Image Make"), text("Image Model")
    camera = model or maker
    if maker and model and not model.startswith(maker):
        camera = f"{maker} {model}"
    taken = text("EXIF DateTimeOriginal", "Image DateTimeOriginal", "Image DateTime")
    iso = positive("EXIF ISOSpeedRatings", "Image ISOSpeedRatings")
    orientation = int(number("Image Orientation") or 1)
    found = Metadata(
        camera=camera,
        maker=maker,
        model=model,
        lens=text("EXIF LensModel", "Image LensModel"),
        taken=_moment(taken),
        shutter=positive("EXIF ExposureTime", "Image ExposureTime"),
        aperture=positive("EXIF FNumber", "Image FNumber"),
        sensitivity=round(iso) or None if iso else None,
        focal_length=positive("EXIF FocalLength", "Image FocalLength"),
        orientation=orientation if 1 <= orientation <= 8 else 1,
        baseline_exposure=max(-MOST_STOPS, min(MOST_STOPS, number(BASELINE_EXPOSURE) or 0.0)),
    )
    return found if tags else _by_libraw(path)


def _moment(text: str | None) -> str | None:
    """Exif's date and time as ISO 8601; None for what is none."""
    if not text or len(text) < 19:
        return None
    found = f"{text[:10].replace(':', '-')}T{text[11:19]}"
    try:
        datetime.fromisoformat(found)
    except ValueError:
        return None
    return found


def _exif(path: Path, details: bool = False) -> dict[str, Any]:
    """The Exif entries of a file by their names; empty where there are none."""
    try:
        with path.open("rb") as file:
            return dict(exifread.process_file(file, details=details))
    except Exception as error:  # whatever is wrong with them, the picture may be sound
        LOG.info("%s: its Exif cannot be read (%r)", path.name, error)
        return {}


def _text(tag: Any) -> str:
    values = tag.values
    if isinstance(values, bytes):
        values = values.decode("utf-8", "replace")
    text = values if isinstance(values, str) else str(tag.printable)
    return _plain(text)


def _plain(text: str) -> str:
    """What can be shown and kept of a text; foreign bytes may come as lone surrogates."""
    whole = text.encode("utf-8", "replace").decode()
    return "".join(c for c in whole if c.isprintable()).strip()[:LONGEST]


def _number(tag: Any) -> float | None:
    values = getattr(tag, "values", None)
    if not isinstance(values, (list, tuple)) or not values:
        return None
    first = values[0]
    try:
        value = first.num / first.den if hasattr(first, "den") else float(first)
    except (TypeError, ValueError, ZeroDivisionError):
        return None
    return float(value) if isfinite(value) else None


def _by_libraw(path: Path) -> Metadata:
    """What LibRaw knows of a raw whose form has no Exif of its own."""
    try:
        with rawpy.imread(str(path)) as raw:
            other, lens = raw.other, raw.lens
    except (rawpy.LibRawError, OSError):
        return Metadata()

    def positive(value: float | None) -> float | None:
        return value if value and 0.0 < value < MOST else None

    iso = positive(other.iso_speed)
    return Metadata(
        lens=_plain(lens.model or "") or None,
        taken=other.timestamp.isoformat() if other.timestamp else None,
        shutter=positive(other.shutter_speed),
        aperture=positive(other.aperture),
        sensitivity=round(iso) or None if iso else None,
        focal_length=positive(other.focal_length),
    )


def every_tag(path: Path) -> list[tuple[str, str]]:
    """All that a file says of itself: name and value of its Exif, IPTC and XMP entries; empty where
    it says nothing. Values are shortened to 200 characters."""
    tags = _exif(path, details=True)
    packet = getattr(tags.pop(XMP_PACKET, None), "values", None)
    exif = [(name, _shown(tag)) for name, tag in tags.items()]
    iptc: list[tuple[str, str]] = []
    xmp = bytes(packet) if isinstance(packet, (list, bytes)) else b""
    try:
        with Image.open(path) as image:
            iptc = list(_iptc(image))
            xmp = xmp or image.info.get("xmp") or b""
    except Exception as error:  # a raw, most often: it is Exif that tells of it
        LOG.info("%s: no IPTC or XMP (%r)", path.name, error)
    return [(name, value) for name, value in (*exif, *iptc, *_xmp(xmp)) if value]


def _shown(tag: Any) -> str:
    if isinstance(tag, bytes):  # an embedded picture
        return f"{len(tag)} bytes"
    text = str(tag.printable) if hasattr(tag, "printable") else str(tag)
    return _plain(text.replace("\0", " "))


def _iptc(image: ImageFile.ImageFile) -> Iterator[tuple[str, str]]:
    for (record, number), value in (IptcImagePlugin.getiptcinfo(image) or {}).items():
        if record != 2:
            continue
        many = value if isinstance(value, list) else [value]
        text = ", ".join(v.decode("utf-8", "replace") for v in many if isinstance(v, bytes))
        yield f"IPTC {IPTC.get(number, number)}", text[:LONGEST]


def _xmp(packet: bytes) -> Iterator[tuple[str, str]]:
    """Entries of an XMP packet (ISO 16684-1); none of one that does not hold."""
    start, end = packet.find(b"<"), packet.rfind(b">")
    try:
        root = ElementTree.fromstring(packet[start : end + 1]) if end > 0 else None
    except Exception as error:  # of foreign making
        LOG.info("an XMP packet cannot be read (%r)", error)
        root = None
    for entry in () if root is None else root.iter(f"{RDF}Description"):
        for name, value in entry.attrib.items():
            if not name.startswith(RDF):
                yield f"XMP {_local(name)}", value[:LONGEST]
        for child in entry:
            text = ", ".join(t for t in (part.strip() for part in child.itertext()) if t)
            yield f"XMP {_local(child.tag)}", text[:LONGEST]


def _local(name: str) -> str:
    return name.rsplit("}", 1)[-1]
