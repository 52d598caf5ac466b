"""Signatures from files."""

from fastapi import APIRouter, Request

from ..core.recipe import Ink
from ..files.inks import ink_of
from .guard import UPLOAD_TYPE


def inks_router() -> APIRouter:
    """Reading a picture of a signature; nothing is kept."""
    router = APIRouter(prefix="/api")

    @router.post(
        "/inks",
        openapi_extra={
            "requestBody": {
                "required": True,
                "content": {UPLOAD_TYPE: {"schema": {"type": "string", "format": "binary"}}},
            }
        },
    )
    async def read_ink(name: str, request: Request) -> Ink:
        """The ink of a transparent PNG, which is the body."""
        return ink_of(await request.body(), name)

    return router
