"""PDF: a print at its true size on a page, with trim and bleed boxes (ISO 32000-2, 14.11.2) and
crop marks."""

import io
import zlib
from typing import IO

from PIL import Image
from reportlab.lib.units import inch, mm
from reportlab.pdfbase import pdfdoc
from reportlab.pdfgen.canvas import Canvas

from .about import SOFTWARE, packet
from .form import Form, Numbers, Rows, whole

LOSSLESS = 100  # a quality
ROOM = 10.0 * mm  # about a picture with marks
MARK, AWAY = 5.0 * mm, 3.0 * mm  # length of a crop mark, and how far from the trim it begins
DEVICE = {1: "DeviceGray", 3: "DeviceRGB", 4: "DeviceCMYK"}


def write_pdf(file: IO[bytes], rows: Rows, form: Form) -> None:
    """One page. The picture is coded as JPEG, or without loss at a quality of 100 and in CMYK."""
    picture = whole(rows)
    wide, tall = (side / form.ppi * inch for side in (form.width, form.height))
    room = ROOM if form.output.marks else 0.0
    page = Canvas(file, pagesize=(wide + 2 * room, tall + 2 * room), pageCompression=1, invariant=1)
    page.setTitle(form.about.title or form.output.name)
    page.setAuthor(form.about.creator)
    page.setKeywords(list(form.about.keywords))
    page.setCreator(SOFTWARE)
    bleed = min(form.output.bleed * mm, wide / 3, tall / 3)
    trim = room + bleed, room + bleed, room + wide - bleed, room + tall - bleed
    page.setBleedBox((room, room, room + wide, room + tall))
    page.setTrimBox(trim)
    _draw(page, picture, form, (room, room, wide, tall))
    if form.output.marks:
        _marks(page, trim)
    _describe(page, packet(form.about))
    page.save()


def _draw(
    page: Canvas, picture: Numbers, form: Form, place: tuple[float, float, float, float]
) -> None:
    """Lay a picture on a page, in the colours of its profile."""
    document = page._doc
    profile = pdfdoc.PDFStream(
        pdfdoc.PDFDictionary(
            {"N": form.channels, "Alternate": pdfdoc.PDFName(DEVICE[form.channels])}
        ),
        zlib.compress(form.profile), filters=[],
    )  # fmt: skip
    profile.dictionary["Filter"] = pdfdoc.PDFName("FlateDecode")
    colours = pdfdoc.PDFArray([pdfdoc.PDFName("ICCBased"), document.Reference(profile)])
    coded, how = _coded(picture, form)
    image = pdfdoc.PDFStream(
        pdfdoc.PDFDictionary(
            {
                "Type": pdfdoc.PDFName("XObject"), "Subtype": pdfdoc.PDFName("Image"),
                "Width": form.width, "Height": form.height, "BitsPerComponent": 8,
                "ColorSpace": colours, "Filter": pdfdoc.PDFName(how),
            }
        ),
        coded, filters=[],
    )  # fmt: skip
    name = "print"
    document.addForm(name, image)
    page._setXObjects(image)
    x, y, wide, tall = place
    page.saveState()
    page.transform(wide, 0, 0, tall, x, y)
    page._code.append(f"/{document.getXObjectName(name)} Do")
    page.restoreState()
    page._formsinuse.append(name)


def _coded(picture: Numbers, form: Form) -> tuple[bytes, str]:
    if form.output.quality == LOSSLESS or form.channels == 4:
        return zlib.compress(picture.tobytes(), 4), "FlateDecode"
    coded = io.BytesIO()
    Image.fromarray(picture, {1: "L", 3: "RGB"}[form.channels]).save(
        coded, "JPEG", quality=form.output.quality,
        subsampling="4:4:4" if form.output.chroma == "full" else "4:2:0",
    )  # fmt: skip
    return coded.getvalue(), "DCTDecode"


def _marks(page: Canvas, trim: tuple[float, float, float, float]) -> None:
    """Hair lines towards the corners of the trim."""
    left, bottom, right, top = trim
    page.setLineWidth(0.25)
    for x in (left, right):
        for y, way in ((bottom, -1), (top, 1)):
            page.line(x, y + way * AWAY, x, y + way * (AWAY + MARK))
    for y in (bottom, top):
        for x, way in ((left, -1), (right, 1)):
            page.line(x + way * AWAY, y, x + way * (AWAY + MARK), y)


def _describe(page: Canvas, xmp: bytes) -> None:
    """Put a packet where it is found without unpacking."""
    said = pdfdoc.PDFStream(
        pdfdoc.PDFDictionary(
            {"Type": pdfdoc.PDFName("Metadata"), "Subtype": pdfdoc.PDFName("XML")}
        ),
        xmp, filters=[],
    )  # fmt: skip
    page._doc.Catalog.Metadata = said
