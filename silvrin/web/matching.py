"""Prints matched to a finished picture, as JSON."""

import asyncio
from typing import Annotated

import cv2
import numpy as np
from fastapi import APIRouter, Path, Request, Response
from pydantic import BaseModel, Field

from ..core.colour import BT2020_TO_SRGB, encode_srgb
from ..core.matching.reference import MOST_SIDE, paper_for, reference_of
from ..core.recipe import Recipe
from ..core.render import Darkroom
from ..core.render.matching import matched
from ..errors import BadReference
from ..files.capture import read_capture
from ..files.thumbnails import thumbnail
from ..store.library import Library
from ..store.reception import Incoming
from .guard import UPLOAD_TYPE
from .inputs import UnderRecipe, received

SHOWN_SIDE = 1200
ReferenceId = Annotated[str, Path(pattern=r"^[0-9a-f]{64}$")]


class GivenReference(BaseModel):
    """A finished picture that prints can be matched to."""

    id: str
    grain_seen: bool  # it is large enough for its grain to be judged


class WantedMatch(UnderRecipe):
    """Which picture a print is matched to."""

    reference: str = Field(pattern=r"^[0-9a-f]{64}$")


class FoundMatch(BaseModel):
    """A recipe whose print is near a picture, and how near."""

    recipe: Recipe
    says: str
    apart: float  # mean difference of tones, of 255
    slope: float  # of mid tones, in parts of the picture's
    paper: str | None  # whose base has the picture's tint, where it is another one


def matching_router(library: Library, darkroom: Darkroom) -> APIRouter:
    """References, and prints matched to them."""
    router = APIRouter(prefix="/api")

    @router.post(
        "/references",
        status_code=201,
        openapi_extra={
            "requestBody": {
                "required": True,
                "content": {UPLOAD_TYPE: {"schema": {"type": "string", "format": "binary"}}},
            }
        },
    )
    async def give(name: str, request: Request) -> GivenReference:
        """Give a finished black and white picture: the body is the file. It is measured, and not
        taken in."""
        incoming = await received(library, request)
        return await asyncio.to_thread(_measured, library, incoming, name)

    @router.get("/references/{reference}.jpg", response_class=Response)
    def shown(reference: ReferenceId) -> Response:
        """How it looks."""
        return Response(library.references.shown(reference), media_type="image/jpeg")

    @router.post("/frames/{frame_id}/match")
    def match(frame_id: int, wanted: WantedMatch) -> FoundMatch:
        """The recipe under which a frame's tones, grain and paper tint are as near a picture's as
        they come; film and filter stay. Nothing is changed."""
        reference = library.references.get(wanted.reference)
        _, sitting = library.sit(frame_id, wanted.recipe, wanted.sheets)
        in_use = sitting.path.things.paper
        paper = paper_for(reference, in_use, list(library.shelf.papers.values()))
        recipe = wanted.recipe.model_copy(
            update={"paper": wanted.recipe.paper.model_copy(update={"paper": paper.id})}
        )
        found = matched(darkroom, sitting.under(library.light_path(recipe)), reference)
        return FoundMatch(
            recipe=found.recipe,
            says=found.says,
            apart=round(found.apart, 2),
            slope=round(found.slope, 3),
            paper=None if paper is in_use else paper.name,
        )

    return router


def _measured(library: Library, incoming: Incoming, name: str) -> GivenReference:
    """A received file as a reference; the file itself is not kept."""
    try:
        developed = read_capture(incoming.path, name)
        if developed.kind == "raw":
            raise BadReference(
                f"{name}: a camera raw is no finished picture; give a scan of a print or a file "
                "that was delivered (TIFF, PNG or JPEG)."
            )
        light = _reduced(developed.light, MOST_SIDE) * developed.scale
        try:
            reference = reference_of(light)
        except BadReference as error:
            raise BadReference(f"{name}: {error}") from error
        small = _reduced(light, SHOWN_SIDE) @ BT2020_TO_SRGB.T
        shown = np.rint(255.0 * encode_srgb(np.clip(small, 0.0, 1.0))).astype(np.uint8)
        library.references.keep(incoming.sha256, reference, thumbnail(shown))
        return GivenReference(id=incoming.sha256, grain_seen=reference.noise is not None)
    finally:
        incoming.path.unlink(missing_ok=True)


def _reduced(light: np.ndarray, long_side: int) -> np.ndarray:
    """(H, W, 3) float, with a long side of at most so many pixels."""
    height, width = light.shape[:2]
    ratio = min(1.0, long_side / max(height, width))
    size = max(1, round(width * ratio)), max(1, round(height * ratio))
    given = light if ratio == 1.0 else cv2.resize(light, size, interpolation=cv2.INTER_AREA)
    return np.asarray(given, np.float64)
