"""PDF: prints at their true size on pages, with trim and bleed boxes (ISO 32000-2, 14.11.2) and
crop marks."""

import io
import zlib
from collections.abc import Sequence
from typing import IO, Any

from PIL import Image
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfdoc
from reportlab.pdfgen.canvas import Canvas

from ..papers import INCH
from .about import SOFTWARE, About, packet
from .form import Form, Numbers, Rows, whole
from .laying import Size, check_fits, laid_out
from .output import Output, Page

LOSSLESS = 100  # a quality
ROOM = 10.0 * mm  # about a picture with marks
MARK, AWAY = 5.0 * mm, 3.0 * mm  # length of a crop mark, and how far from the trim it begins
DEVICE = {1: "DeviceGray", 3: "DeviceRGB", 4: "DeviceCMYK"}


class Book:
    """Prints on pages. A picture is coded as JPEG, or without loss at a quality of 100 and in
    CMYK."""

    def __init__(self, file: IO[bytes], output: Output, about: About) -> None:
        self._output, self._about = output, about
        self._canvas = Canvas(file, pageCompression=1, invariant=1)
        self._profiles: dict[bytes, Any] = {}
        self._sizes: list[Size] = []  # mm

    def add(self, rows: Rows, form: Form) -> None:
        """Take in a print. Raises SilvrinError where no page has room for it."""
        size = form.width / form.ppi * INCH, form.height / form.ppi * INCH
        page = self._output.page
        if page.columns is not None:  # whole pixels may be a little too large for it
            share = min(1.0, page.cell[0] / size[0], page.cell[1] / size[1])
            size = size[0] * share, size[1] * share
        if page.paper != "print":
            check_fits(size, page)
        name = _name(len(self._sizes))
        self._canvas._doc.addForm(name, self._image(whole(rows), form))
        self._sizes.append(size)

    def end(self) -> None:
        """Lay out the pages and write it all."""
        page, about = self._canvas, self._about
        page.setTitle(about.title or self._output.name)
        page.setAuthor(about.creator)
        page.setKeywords(list(about.keywords))
        page.setCreator(SOFTWARE)
        if self._output.page.paper == "print":
            for number in range(len(self._sizes)):
                self._alone(number)
        else:
            self._on_paper(self._output.page)
        page._doc.Catalog.Metadata = _metadata(about)
        page.save()

    def _alone(self, number: int) -> None:
        """A page as large as its print, with room for marks about it."""
        page = self._canvas
        width, height = (side * mm for side in self._sizes[number])
        room = ROOM if self._output.marks else 0.0
        page.setPageSize((width + 2 * room, height + 2 * room))
        page.setBleedBox((room, room, room + width, room + height))
        page.setTrimBox(self._trim(number, room, room))
        self._draw([(number, room, room)])

    def _on_paper(self, paper: Page) -> None:
        """Sheets with several prints."""
        tall = paper.size[1]
        for laid in laid_out(self._sizes, paper):
            self._canvas.setPageSize(tuple(side * mm for side in paper.size))
            self._draw([
                (each.number, each.left * mm, (tall - each.top - self._sizes[each.number][1]) * mm)
                for each in laid
            ])  # fmt: skip

    def _draw(self, places: Sequence[tuple[int, float, float]]) -> None:
        """Prints, each with its left and its lower end, over the marks of all; then the next page
        begins."""
        page = self._canvas
        if self._output.marks:
            for place in places:
                _marks(page, self._trim(*place))
        for number, x, y in places:
            wide, tall = (side * mm for side in self._sizes[number])
            page.saveState()
            page.transform(wide, 0, 0, tall, x, y)
            page.doForm(_name(number))
            page.restoreState()
        page.showPage()

    def _trim(self, number: int, x: float, y: float) -> tuple[float, float, float, float]:
        wide, tall = (side * mm for side in self._sizes[number])
        bleed = min(self._output.bleed * mm, wide / 3, tall / 3)
        return x + bleed, y + bleed, x + wide - bleed, y + tall - bleed

    def _image(self, picture: Numbers, form: Form) -> Any:
        """A picture in the colours of its profile."""
        colours = pdfdoc.PDFArray([pdfdoc.PDFName("ICCBased"), self._profile(form)])
        coded, how = _coded(picture, form)
        said = {
            "Type": pdfdoc.PDFName("XObject"), "Subtype": pdfdoc.PDFName("Image"),
            "Width": form.width, "Height": form.height, "BitsPerComponent": 8,
            "ColorSpace": colours, "Filter": pdfdoc.PDFName(how),
        }  # fmt: skip
        if form.about.carried and form.about is not self._about:
            said["Metadata"] = self._canvas._doc.Reference(_metadata(form.about))
        return pdfdoc.PDFStream(pdfdoc.PDFDictionary(said), coded, filters=[])

    def _profile(self, form: Form) -> Any:
        """A profile is in the file once."""
        if form.profile not in self._profiles:
            profile = pdfdoc.PDFStream(
                pdfdoc.PDFDictionary(
                    {"N": form.channels, "Alternate": pdfdoc.PDFName(DEVICE[form.channels])}
                ),
                zlib.compress(form.profile), filters=[],
            )  # fmt: skip
            profile.dictionary["Filter"] = pdfdoc.PDFName("FlateDecode")
            self._profiles[form.profile] = self._canvas._doc.Reference(profile)
        return self._profiles[form.profile]


def write_pdf(file: IO[bytes], rows: Rows, form: Form) -> None:
    """One print."""
    book = Book(file, form.output, form.about)
    book.add(rows, form)
    book.end()


def _name(number: int) -> str:
    return f"print{number + 1}"


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


def _metadata(about: About) -> Any:
    """A packet as it is, so that it is found without unpacking: of the file, or of a picture in it
    (ISO 32000-2, 14.3.2)."""
    return pdfdoc.PDFStream(
        pdfdoc.PDFDictionary(
            {"Type": pdfdoc.PDFName("Metadata"), "Subtype": pdfdoc.PDFName("XML")}
        ),
        packet(about), filters=[],
    )  # fmt: skip
