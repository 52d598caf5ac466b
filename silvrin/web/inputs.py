"""What windows send."""

from fastapi import Request
from pydantic import BaseModel, ConfigDict, Field

from ..core.recipe import Recipe
from ..core.recipe.drawings import MOST_TEXT
from ..store.library import Library
from ..store.reception import Incoming, Reception

MOST_SHEETS_SENT = 48  # with one request


class Input(BaseModel):
    """Something a window sends."""

    model_config = ConfigDict(extra="forbid")


class UnderRecipe(Input):
    """A recipe, and the sheets of drawings it names that the server has not kept yet."""

    recipe: Recipe
    sheets: list[str] = Field(
        [],
        max_length=MOST_SHEETS_SENT,
        description=f"Each the text of a sheet, at most {MOST_TEXT} bytes.",
    )


async def received(library: Library, request: Request) -> Incoming:
    """The file that is the body of a request, whole; raises DiskFull. Nothing is left where it
    breaks off."""
    reception = Reception(library.incoming)
    try:
        async for chunk in request.stream():
            reception.write(chunk)
        return reception.done()
    except BaseException:
        reception.discard()
        raise
