"""What is printed or handed on beside prints: contact sheets, and tables of a print's colours."""

from functools import partial
from typing import Annotated, Literal
from urllib.parse import quote

import numpy as np
from fastapi import APIRouter, Query, Response
from PIL import Image

from ..errors import NotFound, SilvrinError
from ..files import tables
from ..files.contact_sheet import Entry, as_jpeg, as_pdf, pages, rows_on
from ..files.names import fit_name
from ..files.papers import Paper
from ..store import prints, rolls
from ..store.library import Library
from ..store.rolls import Frame, Mark
from .smalls import SmallPictures

MOST = 600  # frames of a contact sheet


def printed_router(library: Library, smalls: SmallPictures) -> APIRouter:
    """Contact sheets and tables."""
    router = APIRouter(prefix="/api")
    database = library.database

    def entry_of(frame: Frame) -> Entry:
        with Image.open(smalls.of_frame(frame)) as small:
            return Entry(np.asarray(small), frame.number, frame.title, frame.mark)

    @router.get("/rolls/{roll_id}/contact-sheet.{kind}", response_class=Response)
    def contact_sheet(
        roll_id: int,
        kind: Literal["pdf", "jpg"],
        paper: Paper = "a4",
        columns: Annotated[int, Query(ge=2, le=12)] = 6,
        page: Annotated[int, Query(ge=1, description="Of a picture.")] = 1,
        only: Annotated[Mark | None, Query(description="Frames with this mark alone.")] = None,
    ) -> Response:
        """The roll as a contact sheet to print, of each frame the print that the sheet shows: all
        pages as PDF, or one as a picture."""
        rolls.check_roll(database.read, roll_id)
        frames = [f for f in rolls.frames_of(database.read, roll_id) if only in (None, f.mark)]
        if not frames:
            raise NotFound("There is no such frame on this roll.")
        if len(frames) > MOST:
            raise SilvrinError(
                f"{len(frames)} frames; a contact sheet to print holds up to {MOST}. Take those "
                "with one mark, or put them on several rolls."
            )
        title = frames[0].roll_name
        if kind == "jpg":
            a_page = columns * rows_on(paper, columns)
            frames = frames[(page - 1) * a_page : page * a_page]
            if not frames:
                raise NotFound(f"The contact sheet has no page {page}.")
        made = pages(title, [partial(entry_of, frame) for frame in frames], paper, columns)
        name = fit_name(f"{title} contact sheet")
        if kind == "pdf":
            return _attached(as_pdf(name, made, paper), f"{name}.pdf", "application/pdf")
        return _attached(as_jpeg(next(made)), f"{name} {page}.jpg", "image/jpeg")

    @router.get("/prints/{print_id}/table.{kind}", response_class=Response)
    def table(
        print_id: int,
        kind: tables.Kind,
        given: Annotated[tables.Input, Query(alias="input")] = "srgb",
        size: Annotated[int, Query(ge=tables.SMALLEST, le=tables.LARGEST)] = 65,
    ) -> Response:
        """What a print does to colours, for other programs: CUBE or CLF."""
        of = prints.get_print(database.read, print_id)
        frame = rolls.frame(database.read, of.frame_id)
        name = f"{frame.title} - {of.name}"
        text = tables.table(library.light_path(of.recipe), name, kind, given, size)
        return _attached(text.encode(), f"{fit_name(name)}.{kind}", "text/plain; charset=utf-8")

    return router


def _attached(content: bytes, name: str, kind: str) -> Response:
    """A file to be kept, under a name of any script (RFC 6266)."""
    said = f"attachment; filename*=UTF-8''{quote(name)}"
    return Response(content, media_type=kind, headers={"content-disposition": said})
