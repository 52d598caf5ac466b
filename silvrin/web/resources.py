"""Frames as they are looked at, prints and deliveries as JSON."""

from collections.abc import Hashable
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
from fastapi import APIRouter, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel, ConfigDict, Field

from ..core.capture.geometry import geometry_of
from ..core.capture.seen import key_of_seen, seen
from ..core.picture import LinearPicture
from ..core.recipe import Recipe
from ..core.render import METER_RADIUS, Darkroom
from ..errors import NotFound, OutsidePicture
from ..files.deliver import thumbnail
from ..store import dust_maps, prints, rolls
from ..store.library import Library
from ..store.prints import Print
from ..store.rolls import Frame
from .deliveries import Deliveries, Delivery, DeliveryOrder


class Input(BaseModel):
    """Something a window sends."""

    model_config = ConfigDict(extra="forbid")


class NewPrint(Input):
    """A print to be made of a frame."""

    name: str = Field("Print", min_length=1, max_length=120)
    recipe: Recipe = Recipe()


class NewChange(Input):
    """A change of a print, on top of the change that the window shows."""

    base: int
    label: str = Field(min_length=1, max_length=120)
    recipe: Recipe


class Base(Input):
    """The change that the window shows."""

    base: int


class SpotPlace(Input):
    """Where to read, in pixels of the capture, and under which recipe."""

    x: int
    y: int
    radius: int = Field(
        METER_RADIUS, ge=0, le=500, description="Pixels about the place that are averaged."
    )
    recipe: Recipe


class SmallPrint(Input):
    """A small print to be made of a frame."""

    recipe: Recipe
    long_side: int = Field(400, ge=64, le=1200, description="Pixels.")


class WantedPoints(Input):
    """Which shares of the picture may reach paper black and paper white."""

    recipe: Recipe
    # common practice, no source: lost highlights hurt more than lost shadows
    black: float = Field(0.001, ge=0, le=0.5)
    white: float = Field(0.0001, ge=0, le=0.5)


class PrintPoints(BaseModel):
    """Points of the print, as the recipe has them."""

    white_at: float
    black_at: float


class SpotReading(BaseModel):
    """What light became at a place, station by station."""

    capture_x: int  # where it lies on the capture, pixels
    capture_y: int
    stops: float  # of the light itself, from middle grey
    ev: float | None  # exposure value at ISO 100, where the file says how it was exposed
    zone: float  # of the scene
    negative: float  # density
    density: float  # of the print, above the paper base
    value: float  # print value, L*/10
    number: int  # output number, 0-255
    clipped: bool  # the capture is clipped there: the zone is "at least" this
    bands: list[float]  # by how much each hue band moves it, parts of its stops
    colour: tuple[float, float, float]  # shares of red, green and blue in its light


def _seen(frame: Frame, capture: LinearPicture, recipe: Recipe) -> tuple[LinearPicture, Hashable]:
    """A capture under the Capture station of a recipe, and its name in the darkroom."""
    settings = recipe.capture
    return seen(capture, settings), (frame.sha256, key_of_seen(settings))


@cache
def _schema() -> dict[str, Any]:
    return Recipe.model_json_schema()


def resources_router(library: Library, darkroom: Darkroom, deliveries: Deliveries) -> APIRouter:
    """Frames, prints and their deliveries."""
    router = APIRouter(prefix="/api")
    database = library.database

    @router.get("/frames/{frame_id}")
    def get_frame(frame_id: int) -> Frame:
        return rolls.frame(database.read, frame_id)

    @router.post("/frames/{frame_id}/small-print", response_class=Response)
    def small_print(frame_id: int, wanted: SmallPrint) -> Response:
        """The frame as a small JPEG under a recipe, for the ring-around."""
        frame = rolls.frame(database.read, frame_id)
        picture, name = _seen(frame, library.picture(frame.sha256), wanted.recipe)
        path = library.shelf.light_path(wanted.recipe)
        pixels = darkroom.view(name, picture, path, picture.whole(wanted.long_side))
        return Response(thumbnail(pixels), media_type="image/jpeg")

    @router.post("/frames/{frame_id}/print-points")
    def print_points(frame_id: int, wanted: WantedPoints) -> PrintPoints:
        """White and black point under which shares of the picture become paper white and black."""
        frame = rolls.frame(database.read, frame_id)
        path = library.shelf.light_path(wanted.recipe)
        picture, name = _seen(frame, library.picture(frame.sha256), wanted.recipe)
        white, black = darkroom.points(name, picture, path, wanted.black, wanted.white)
        return PrintPoints(white_at=round(white, 4), black_at=round(black, 4))

    @router.post("/frames/{frame_id}/spot")
    def read_spot(frame_id: int, place: SpotPlace) -> SpotReading:
        frame = rolls.frame(database.read, frame_id)
        capture = library.picture(frame.sha256)
        picture, name = _seen(frame, capture, place.recipe)
        if not (0 <= place.x < picture.width and 0 <= place.y < picture.height):
            raise OutsidePicture(
                f"({place.x}, {place.y}) is outside the picture; "
                f"it has {picture.width} x {picture.height} pixels, counted from 0."
            )
        path = library.shelf.light_path(place.recipe)
        found = darkroom.spot(name, picture, path, (place.x, place.y), place.radius)
        geometry = geometry_of(capture.width, capture.height, place.recipe.capture)
        at = geometry.to_capture(np.array([[place.x + 0.5, place.y + 0.5]]))[0]
        camera = frame.metadata.exposure_value
        ev = None if camera is None else camera + found.stops
        x = min(max(int(at[0]), 0), capture.width - 1)
        y = min(max(int(at[1]), 0), capture.height - 1)
        return SpotReading(**vars(found), ev=ev, capture_x=x, capture_y=y)

    @router.post("/frames/{frame_id}/prints", status_code=201)
    def make_print(frame_id: int, new: NewPrint) -> Print:
        library.shelf.light_path(new.recipe)
        with database.write() as connection:
            frame = rolls.frame(connection, frame_id)
            recipe = dust_maps.mended_by_map(connection, frame, new.recipe)
            return prints.add_print(connection, frame_id, new.name, recipe)

    @router.get("/prints/{print_id}")
    def get_print(print_id: int) -> Print:
        return prints.get_print(database.read, print_id)

    @router.post("/prints/{print_id}/changes", status_code=201)
    def change_print(print_id: int, new: NewChange) -> Print:
        library.shelf.light_path(new.recipe)
        with database.write() as connection:
            return prints.change_print(connection, print_id, new.base, new.recipe, new.label)

    @router.post("/prints/{print_id}/undo")
    def undo(print_id: int, at: Base) -> Print:
        with database.write() as connection:
            return prints.undo(connection, print_id, at.base)

    @router.post("/prints/{print_id}/redo")
    def redo(print_id: int, at: Base) -> Print:
        with database.write() as connection:
            return prints.redo(connection, print_id, at.base)

    @router.get("/recipe-schema")
    def recipe_schema() -> dict[str, Any]:
        """JSON Schema of a recipe file."""
        return _schema()

    @router.post("/prints/{print_id}/deliveries", status_code=202)
    def order_delivery(print_id: int, order: DeliveryOrder) -> Delivery:
        return deliveries.order(print_id, order)

    @router.get("/deliveries/{delivery_id}")
    def get_delivery(delivery_id: int) -> Delivery:
        return deliveries.get(delivery_id)

    @router.delete("/deliveries/{delivery_id}")
    def cancel_delivery(delivery_id: int) -> Delivery:
        return deliveries.cancel(delivery_id)

    @router.get("/deliveries/{delivery_id}/file", response_class=FileResponse)
    def delivered_file(delivery_id: int) -> FileResponse:
        job = deliveries.get(delivery_id)
        if job.file is None or not Path(job.file).exists():
            raise NotFound("This delivery has no file; it is not finished, or it was moved.")
        return FileResponse(job.file, filename=Path(job.file).name)

    return router
