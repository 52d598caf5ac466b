"""The application factory."""

import contextlib
import logging
import re
import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

import numpy as np
from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, PlainTextResponse
from fastapi.staticfiles import StaticFiles
from pydantic.json_schema import models_json_schema
from starlette.exceptions import HTTPException

from .. import __version__
from ..core import kernels
from ..core.development.negative import Developing
from ..core.recipe import Recipe
from ..core.recipe.switches import PARTS
from ..core.recipe.wording import sentences
from ..core.render import Darkroom
from ..core.spectra.chromaticity import grid_spectra
from ..core.stations import SETTINGS
from ..errors import NotFound, SilvrinError, TooHigh
from ..store import prints
from ..store.library import Library
from ..store.taking_in import TakingIn
from ..store.watch import Watch
from .capture import capture_router
from .compare import compare_router
from .contact import contact_router
from .deliveries import Deliveries
from .drying_line import drying_line_router
from .guard import Guard, problem
from .imports import imports_router
from .inks import inks_router
from .instruments import instruments_router
from .live import LiveFrame, LiveRequest, live_router
from .looks import looks_router
from .matching import matching_router
from .merges import Merges, merges_router
from .metering import metering_router
from .news import News, news_router
from .printed import printed_router
from .prints import prints_router
from .resources import resources_router
from .sheet import sheet_router
from .shelf import describe, shelf_router
from .smalls import SmallPictures

LOG = logging.getLogger(__name__)
STATIC = Path(__file__).parent / "static"
WARM_AFTER = 0.3  # s


def create_app(library: Library) -> FastAPI:
    """The web application over a library."""
    darkroom = Darkroom()
    taking_in, watch = TakingIn(library), Watch(library.database)
    merges, deliveries = Merges(library), Deliveries(library, darkroom)

    stopping = threading.Event()

    def stop() -> None:
        stopping.set()
        for work in (taking_in, merges, deliveries, watch):
            work.stop()

    def settle() -> None:
        """After `stop`: until what is under way has ended."""
        for work in (taking_in, merges, deliveries):
            work.settle()
        library.pictures.settle()

    @asynccontextmanager
    async def alive(_: FastAPI) -> AsyncIterator[None]:
        for work in (taking_in, merges, deliveries):
            work.go_on()
        watch.start()
        warm = threading.Timer(WARM_AFTER, _warm, (library,))  # not beside the first answers
        warm.daemon = True
        warm.start()
        yield
        warm.cancel()
        stop()

    app = FastAPI(
        title="Silvrin", version=__version__, docs_url=None, redoc_url=None, lifespan=alive
    )
    app.state.stop, app.state.settle = stop, settle
    smalls = SmallPictures(library, darkroom)
    app.include_router(sheet_router(library, smalls))
    app.include_router(printed_router(library, smalls))
    app.include_router(imports_router(library, taking_in))
    app.include_router(resources_router(library, darkroom))
    app.include_router(contact_router(library))
    app.include_router(drying_line_router(library, deliveries))
    app.include_router(metering_router(library, darkroom))
    app.include_router(matching_router(library, darkroom))
    app.include_router(inks_router())
    app.include_router(instruments_router(library))
    app.include_router(prints_router(library))
    app.include_router(looks_router(library, darkroom))
    app.include_router(shelf_router(library))
    app.include_router(merges_router(library, merges))
    app.include_router(compare_router(library, darkroom))
    app.include_router(capture_router(library))
    app.include_router(live_router(library, darkroom))
    app.include_router(news_router(library, taking_in, merges, deliveries, stopping))
    app.add_middleware(Guard, stopping=stopping)
    _add_error_handlers(app)
    _describe_socket(app)

    if (STATIC / "index.html").exists():
        app.mount("/assets", StaticFiles(directory=STATIC / "assets"), name="assets")

        @app.get("/{path:path}", include_in_schema=False)
        def page(path: str) -> Response:
            if path.startswith("api/"):
                return problem(NotFound(f"There is nothing at /{path}."))
            headers = {"cache-control": "no-cache", **_ahead(library, path)}
            return FileResponse(STATIC / "index.html", headers=headers)
    else:

        @app.get("/", include_in_schema=False)
        def no_page() -> Response:
            return PlainTextResponse("The interface is not built; run: make frontend", 503)

    return app


def _ahead(library: Library, path: str) -> dict[str, str]:
    """What a page will want first, sent for while its script is read."""
    if roll := re.fullmatch(r"roll/([0-9]{1,18})", path):
        sheet = f"/api/rolls/{roll[1]}/sheet"
        return {"link": f"<{sheet}>; rel=preload; as=fetch; crossorigin=anonymous"}
    if made := re.fullmatch(r"print/([0-9]{1,18})", path):
        with contextlib.suppress(NotFound):
            frame = prints.get_print(library.database.read, int(made[1])).frame_id
            return {"link": f"</api/frames/{frame}/preview>; rel=preload; as=image"}
    return {}


def _warm(library: Library) -> None:
    """What the first window would wait for."""
    kernels.load()
    grid_spectra()
    path = library.shelf.light_path(Recipe())
    path.print_even(path[Developing].density(np.zeros(1)))
    describe(library.shelf)


def _add_error_handlers(app: FastAPI) -> None:
    @app.exception_handler(SilvrinError)
    async def known(_: Request, error: SilvrinError) -> Response:
        return problem(error)

    @app.exception_handler(RequestValidationError)
    async def invalid(_: Request, error: RequestValidationError) -> Response:
        items = [dict(item) | {"loc": _named(item["loc"])} for item in error.errors()]
        wrong = SilvrinError("; ".join(sentences(items)) + ".")
        wrong.status, wrong.title = 422, "The request does not hold"
        return problem(wrong)

    @app.exception_handler(OverflowError)
    async def too_high(_: Request, error: OverflowError) -> Response:
        LOG.info("a number too large: %s", error)
        return problem(TooHigh("A number in the request is larger than any that is kept here."))

    @app.exception_handler(HTTPException)
    async def http(_: Request, error: HTTPException) -> Response:
        wrong = SilvrinError(str(error.detail))
        wrong.status, wrong.title = error.status_code, str(error.detail)
        return problem(wrong)


def _named(place: tuple[int | str, ...]) -> tuple[int | str, ...]:
    """The place of what does not hold, without the part of the request that it lies in."""
    inside = len(place) > 1 and place[0] in ("body", "query", "path") and isinstance(place[1], str)
    return place[1:] if inside else place


def _describe_socket(app: FastAPI) -> None:
    """OpenAPI has no sockets; their messages are added to its schemas, so that types are made."""
    plain = app.openapi

    def described() -> dict[str, Any]:
        document = plain()
        schemas = document.setdefault("components", {}).setdefault("schemas", {})
        if "LiveFrame" not in schemas:
            _, extra = models_json_schema(
                [
                    (LiveRequest, "validation"),
                    (LiveFrame, "serialization"),
                    (News, "serialization"),
                ],
                ref_template="#/components/schemas/{model}",
            )
            schemas.update({k: v for k, v in extra["$defs"].items() if k not in schemas})
            about = "The stations of a recipe, in the order of the light path."
            names = {"type": "string", "enum": list(SETTINGS), "description": about}
            schemas["StationNames"] = names
            about = "The fields of the parts of each station, each of which can be switched off."
            parts = {
                station: {k: list(v) for k, v in own.items()} for station, own in PARTS.items()
            }
            schemas["StationParts"] = {"type": "object", "default": parts, "description": about}
        return document

    app.openapi = described  # type: ignore[method-assign]
