"""Comparing frames: a region of a capture in colour, and its figures."""

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from ..core.capture.figures import figures
from ..core.picture import LinearPicture, View
from ..core.recipe import Recipe
from ..core.render import Darkroom
from ..files.thumbnails import thumbnail
from ..store import rolls
from ..store.library import Library

Part = Annotated[float, Query(ge=0, le=1)]


class FrameFigures(BaseModel):
    """Of a region of a capture; red, green and blue."""

    sharpness: float  # to compare between frames of one subject
    clipped: tuple[float, float, float]  # share at the limit
    headroom: tuple[float, float, float]  # stops from its brightest thousandth to the limit


def _region(picture: LinearPicture, parts: tuple[float, float, float, float]) -> View:
    left, top, right, bottom = parts
    x, y = round(left * picture.width), round(top * picture.height)
    width = max(16, round(right * picture.width) - x)
    height = max(16, round(bottom * picture.height) - y)
    x, y = min(x, picture.width - 16), min(y, picture.height - 16)
    width, height = min(width, picture.width - x), min(height, picture.height - y)
    return View(x, y, width, height, width, height)


def compare_router(library: Library, darkroom: Darkroom) -> APIRouter:
    """Resources of the comparison."""
    router = APIRouter(prefix="/api")

    @router.get("/frames/{frame_id}/region", response_class=Response)
    def region(
        frame_id: int,
        left: Part = 0.0,
        top: Part = 0.0,
        right: Part = 1.0,
        bottom: Part = 1.0,
        width: Annotated[int, Query(ge=16, le=4000)] = 600,
    ) -> Response:
        """A region of a capture in colour, as a JPEG of at most that width."""
        frame = rolls.frame(library.database.read, frame_id)
        sitting = library.sitting(frame, Recipe())
        view = _region(sitting.picture, (left, top, right, bottom))
        scale = min(1.0, width / view.width)
        size = (max(1, round(view.width * scale)), max(1, round(view.height * scale)))
        shown = View(view.left, view.top, view.width, view.height, *size)
        pixels = darkroom.colour(sitting, shown)
        keep = {"cache-control": "private, max-age=3600"}
        return Response(thumbnail(pixels), media_type="image/jpeg", headers=keep)

    @router.get("/frames/{frame_id}/figures")
    def frame_figures(
        frame_id: int,
        left: Part = 0.0,
        top: Part = 0.0,
        right: Part = 1.0,
        bottom: Part = 1.0,
    ) -> FrameFigures:
        """Sharpness, clipping and headroom of a region."""
        frame = rolls.frame(library.database.read, frame_id)
        picture = library.picture(frame.sha256)
        return FrameFigures(
            **vars(
                figures(picture.cut(_region(picture, (left, top, right, bottom))), picture.limits)
            )
        )

    return router
