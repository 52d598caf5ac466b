"""Taking captures in: files that a window sends, and folders of this computer."""

import asyncio
import os
from pathlib import Path
from typing import Literal

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, ConfigDict, Field

from ..errors import BadCapture, SilvrinError
from ..store import imports, rolls
from ..store.delivered import open_delivered
from ..store.folders import folder_of, text_of
from ..store.imports import FolderImport, ImportFile
from ..store.library import Library
from ..store.prints import Print
from ..store.reception import Incoming, plain_name
from ..store.rolls import Frame
from ..store.taking_in import TakingIn
from ..store.watch import find_again, look_after
from .guard import UPLOAD_TYPE
from .inputs import received

Input = ConfigDict(extra="forbid")


class ImportOrder(BaseModel):
    """A folder of this computer to be taken in."""

    model_config = Input
    folder: str = Field(min_length=1, max_length=4096)
    roll_id: int | None = Field(None, description="Empty makes a roll named after the folder.")
    keep: Literal["copy", "refer"] = Field(
        "copy", description="Copy into the library, or refer to the files where they lie."
    )
    subfolders: bool = True
    again: bool = Field(False, description="Also what other rolls have already.")


class FolderPlace(BaseModel):
    """A folder of this computer."""

    name: str
    path: str


class FolderView(BaseModel):
    """What is in a folder."""

    path: str
    parent: str | None
    folders: list[FolderPlace]
    files: int  # not in its subfolders


class Search(BaseModel):
    """Where lost originals may be."""

    model_config = Input
    folder: str = Field(min_length=1, max_length=4096)


class Found(BaseModel):
    """What came of looking for lost originals."""

    found: int
    lost: int


def _is_dir(entry: os.DirEntry[str]) -> bool:
    try:
        return entry.is_dir()
    except OSError:  # a link that leads in a circle
        return False


def imports_router(library: Library, taking_in: TakingIn) -> APIRouter:
    """Files and folders on their way to the sheet."""
    router = APIRouter(prefix="/api")

    def delivered(incoming: Incoming, name: str) -> Print | None:
        try:
            return open_delivered(library, incoming.path, plain_name(name))
        except SilvrinError:
            incoming.path.unlink(missing_ok=True)
            raise

    @router.post(
        "/rolls/{roll_id}/frames",
        status_code=201,
        responses={200: {"model": Frame, "description": "The roll had it already."}},
        openapi_extra={
            "requestBody": {
                "required": True,
                "content": {UPLOAD_TYPE: {"schema": {"type": "string", "format": "binary"}}},
            }
        },
    )
    async def take_in(
        roll_id: int, name: str, request: Request, response: Response, as_picture: bool = False
    ) -> Frame:
        """Take in a capture: the body is the file. It appears when it is complete and readable.

        A file that Silvrin delivered is not taken in, unless `as_picture` says so: it opens as its
        print, which the header Silvrin-Print of the answer names.
        """
        incoming = await received(library, request)
        if not as_picture and (found := await asyncio.to_thread(delivered, incoming, name)):
            incoming.path.unlink(missing_ok=True)
            response.status_code = 200
            response.headers["Silvrin-Print"] = str(found.id)
            return rolls.frame(library.database.read, found.frame_id)
        taken = await asyncio.to_thread(library.take_in, incoming, name, roll_id)
        if taken.known:
            response.status_code = 200
        return rolls.frame(library.database.read, taken.frame)

    @router.post("/imports", status_code=202)
    def order_import(order: ImportOrder) -> FolderImport:
        """Take a folder in, in the background; it goes on when the server is started again."""
        return taking_in.order(
            order.folder, order.roll_id, order.keep, order.subfolders, order.again
        )

    @router.get("/imports")
    def list_imports() -> list[FolderImport]:
        """Those that run or stopped, and those that ended and were not put away."""
        return taking_in.recent()

    @router.get("/imports/{import_id}")
    def get_import(import_id: int) -> FolderImport:
        return taking_in.get(import_id)

    @router.get("/imports/{import_id}/files")
    def import_files(import_id: int) -> list[ImportFile]:
        """The report: every file and what became of it."""
        taking_in.get(import_id)
        return imports.files_of(library.database.read, import_id)

    @router.delete("/imports/{import_id}")
    def cancel_import(import_id: int) -> FolderImport:
        return taking_in.cancel(import_id)

    @router.post("/imports/{import_id}/resume")
    def resume_import(import_id: int) -> FolderImport:
        return taking_in.resume(import_id)

    @router.get("/folders")
    def look_into(path: str | None = None) -> FolderView:
        """The folders in a folder of this computer; the user's own without a path."""
        folder = folder_of(path) if path else Path.home()
        try:
            entries = sorted(os.scandir(folder), key=lambda entry: entry.name.lower())
        except OSError as error:
            raise BadCapture(
                f"{text_of(folder)} cannot be looked into ({error.strerror})."
            ) from error
        seen = [entry for entry in entries if not entry.name.startswith(".")]
        return FolderView(
            path=text_of(folder),
            parent=text_of(folder.parent) if folder.parent != folder else None,
            folders=[
                FolderPlace(name=text_of(e.name), path=text_of(e.path)) for e in seen if _is_dir(e)
            ],
            files=sum(not _is_dir(entry) for entry in seen),
        )

    @router.post("/lost/find")
    def find_lost(search: Search) -> Found:
        """Look through a folder for originals that are not where they were, by their content."""
        found = find_again(library.database, folder_of(search.folder))
        return Found(found=found, lost=look_after(library.database))

    return router
