"""The live socket: a recipe and a view go in, pixels and readings come out.

The client sends LiveRequest as JSON text whenever something changes. One request is worked on at
a time, and of those that came meanwhile only the newest is kept. The answer is binary: the length
of a JSON header (4 bytes, little endian), the header (LiveFrame), then the pixels, 8 bit,
`channels` a pixel, rows without padding. An error comes as problem JSON in a text message. A camera
raw that is not developed yet is answered from a part of its size first, and again when it is.
"""

import asyncio
import logging
import struct
from collections.abc import Hashable
from typing import Literal

import numpy as np
from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ..core.capture.geometry import Geometry, geometry_of, place_of, places_of
from ..core.capture.seen import key_of_seen, seen
from ..core.enlarger.exposure import CALLIER
from ..core.enlarger.test_strip import TestStrip
from ..core.film.curve import SPEED_DENSITY
from ..core.film.sensitometry import exposure_at, index_of, straight_part
from ..core.film.zones import LOG10_STOP
from ..core.light.hue_bands import stops_by_hue
from ..core.light.lens_filter import MOST_FACTOR
from ..core.light_path import LightPath
from ..core.paper.finish import VALUES, finished, value_line
from ..core.picture import LinearPicture, View
from ..core.recipe import Recipe, explain
from ..core.render import (
    Darkroom,
    clipped_parts,
    held_zones,
    print_strip,
    proof,
    zone_plate,
    zone_tones,
)
from ..core.render.breaking import BREAKS
from ..core.render.readings import held
from ..core.spectra.grid import WAVELENGTHS
from ..errors import BadRecipe, SilvrinError
from ..shelf import Shelf
from ..store import rolls
from ..store.library import Library

MOST_VIEW = 8192
LOG = logging.getLogger(__name__)


class LiveView(BaseModel):
    """A region of the capture in its pixels, and the size it is wanted at."""

    model_config = ConfigDict(extra="forbid")
    left: int = Field(ge=0)
    top: int = Field(ge=0)
    width: int = Field(ge=1)
    height: int = Field(ge=1)
    out_width: int = Field(ge=1, le=MOST_VIEW)
    out_height: int = Field(ge=1, le=MOST_VIEW)


class HeldZones(BaseModel):
    """Zones that stand in the picture while the rest sinks back."""

    model_config = ConfigDict(extra="forbid")
    side: Literal["scene", "print"] = "scene"
    first: int = Field(ge=0, le=10)
    last: int = Field(ge=0, le=10)


class LiveRequest(BaseModel):
    """What the window wants to see."""

    model_config = ConfigDict(extra="forbid")
    seq: int
    show: Literal["print", "colour", "proof", "plate", "clipped"] = "print"
    plate: Literal["scene", "print"] = "scene"
    exposed: float | None = Field(
        None, ge=0, le=2000, description="Seconds the paper has had so far; empty is all of them."
    )
    strip: TestStrip | None = None
    held: HeldZones | None = None
    breaking: bool = Field(False, description="Only what breaks up stands.")
    recipe: Recipe
    view: LiveView


class SpotState(BaseModel):
    """A metered spot and what became of its light."""

    letter: str
    x: int
    y: int
    radius: int
    ev: float | None  # exposure value at ISO 100, where the file says how it was exposed
    placed: float | None
    zone: float  # of the scene
    negative: float  # density, base and fog included
    density: float  # of the print, above the paper base
    number: int  # output number, 0-255
    clipped: bool  # the capture is clipped there: the zone is "at least" this


class Reading(BaseModel):
    """What the meter says of the whole picture; shares are parts of 1."""

    scene_zones: list[float]
    negative_zones: list[float]
    print_values: list[float]
    zone_tones: list[int]  # output number each scene zone prints as
    histogram: list[int]  # of the print's output numbers, 256
    exposure_histogram: list[int]  # over log2 H, -8 to +8 stops about Zone V, 64
    paper_black: float
    paper_white: float
    capture_clipped: float
    breaking: float  # where noise of colour becomes noise of tone that is seen
    looks_infrared: bool  # nearly all of it has the cast of an infrared-converted camera
    channels: list[list[int]]  # red, green, blue over stops below their limit: 80 from 10 to 0
    headroom: list[float]  # stops from each channel's brightest thousandth to its limit
    hues: list[float]  # coloured share of the picture over hue, 72 of 5 degrees, largest 1
    spots: list[SpotState]


class Plot(BaseModel):
    """A curve: x and y in the units the axis names."""

    x: list[float]
    y: list[float]


class Facts(BaseModel):
    """What the stations say of themselves under a recipe."""

    filter_factor: float
    blind: bool  # behind that glass the film sees as good as nothing
    stock_speed: int
    placement: float  # stops, under which the spots were read
    standard_time: float  # s
    time: float  # s
    split: bool  # two exposures add up to the grade
    grade: float  # that prints, -1 (00) to 5: of a split grade the equivalent
    callier: float  # by which the head multiplies the negative's densities
    hue_stops: list[float]  # what the hue bands give each hue, 72 of 5 degrees
    light: Plot  # nm, relative power, largest 1
    through: Plot  # nm, light x filter, on the same scale
    sensitivity: Plot  # nm, relative, largest 1
    filter: Plot  # nm, transmittance of all glass
    negative: Plot  # log10 H, density
    speed_point: tuple[float, float]  # log10 H, density 0.10 above base and fog
    straight: tuple[float, float]  # log10 H between which the curve has nearly its full slope
    base_fog: float
    effective_speed: float  # ISO, of this development
    contrast_index: float | None
    grain: Plot  # density above base, 1000 × its deviation through 48 µm, in this developer
    halation: float  # share of the exposure that the base returns
    paper: Plot  # log10 E from the speed point, density above the base
    values: Plot  # print value before and after mid point, print curve and lifts by value
    negative_range: tuple[float, float]  # densities of Zones I and VIII


class StripFacts(BaseModel):
    """The test strip that is shown."""

    over: Literal["time", "grade"]
    values: list[float]  # s or grades, in order
    lie: Literal["upright", "level"]


class MendPlace(BaseModel):
    """A mend of the capture, in pixels of the finished picture."""

    x: int
    y: int
    radius: int
    path: list[tuple[int, int]]
    fill: bool


class LiveFrame(BaseModel):
    """Header of a picture."""

    seq: int
    show: Literal["print", "colour", "proof", "plate", "clipped"]
    width: int
    height: int
    channels: Literal[1, 3]
    view: LiveView
    picture_width: int  # of the finished picture, in pixels of the capture's pitch
    picture_height: int
    mends: list[MendPlace]
    protected: list[list[tuple[int, int]]]  # outlines, in pixels of the finished picture
    strip: StripFacts | None
    reading: Reading
    facts: Facts


def facts(path: LightPath) -> Facts:
    """Figures and curves of a light path."""
    power = path.light / path.light.max()
    log_h = np.linspace(-10, 10, 81) * LOG10_STOP
    log_e = np.linspace(-1.4, 1.8, 81)

    def plot(x: np.ndarray, y: np.ndarray) -> Plot:
        return Plot(x=np.round(x, 4).tolist(), y=np.round(y, 4).tolist())

    def finish(net: np.ndarray) -> np.ndarray:
        return finished(net, path.paper.net_density, path.recipe.paper)

    zones = path.negative_density(np.array([-4.0, 3.0]) * LOG10_STOP)
    base = path.negative.shape.base_fog
    point = exposure_at(path.negative, SPEED_DENSITY)
    index = index_of(path.negative)
    net = np.linspace(0.0, 2.0, 21)
    deviation = path.stock.granularity * path.developer.granularity * path.recipe.film.grain
    return Facts(
        filter_factor=path.filter_factor,
        blind=path.filter_factor >= MOST_FACTOR,
        stock_speed=path.stock.speed,
        placement=path.recipe.film.placement,
        standard_time=path.standard_time,
        time=path.time,
        split=path.split,
        grade=path.grade,
        callier=CALLIER[path.recipe.enlarger.head],
        hue_stops=[
            round(float(v), 3)
            for v in stops_by_hue(path.recipe.light.hue_bands, np.arange(0.0, 360.0, 5.0))
        ],
        light=plot(WAVELENGTHS, power),
        through=plot(WAVELENGTHS, power * path.transmittance),
        sensitivity=plot(WAVELENGTHS, path.stock.sensitivity),
        filter=plot(WAVELENGTHS, path.transmittance),
        negative=plot(log_h, path.negative_density(log_h)),
        speed_point=(round(point, 3), round(base + SPEED_DENSITY, 3)),
        straight=straight_part(path.negative),
        base_fog=round(base, 3),
        effective_speed=round(path.stock.speed * 10 ** (-4.0 * LOG10_STOP - point), 1),
        contrast_index=None if index is None else round(index, 3),
        grain=plot(net, deviation * np.sqrt(net)),
        halation=round(path.halation, 4),
        paper=plot(log_e, finish(path.paper_curve.density(log_e))),
        values=plot(VALUES[::25], value_line(path.recipe.paper)[::25]),
        negative_range=(round(float(zones[0]), 3), round(float(zones[1]), 3)),
    )


def _spots(
    darkroom: Darkroom,
    name: Hashable,
    geometry: Geometry,
    picture: LinearPicture,
    path: LightPath,
    camera_ev: float | None,
) -> list[SpotState]:
    """The recipe's spots; those that lie outside this picture are left out."""
    placed = [(s, place_of(geometry, s.x, s.y)) for s in path.recipe.film.spots]
    inside = [
        (s, x, y) for s, (x, y) in placed if 0 <= x < picture.width and 0 <= y < picture.height
    ]
    return [
        SpotState(
            **s.model_dump(exclude={"x", "y"}),
            x=x,
            y=y,
            ev=None if camera_ev is None else camera_ev + found.stops,
            zone=found.zone,
            negative=found.negative,
            density=found.density,
            number=found.number,
            clipped=found.clipped,
        )
        for s, x, y in inside
        for found in [darkroom.spot(name, picture, path, (x, y), s.radius)]
    ]


def inside(view: View, picture: LinearPicture) -> View:
    """A view kept within a picture, which may have become smaller since it was asked for."""
    left, top = min(view.left, picture.width - 1), min(view.top, picture.height - 1)
    width, height = min(view.width, picture.width - left), min(view.height, picture.height - top)
    across, down = view.out_width / view.width, view.out_height / view.height
    return View(
        left,
        top,
        width,
        height,
        min(max(1, round(width * across)), width),
        min(max(1, round(height * down)), height),
    )


def answer(
    darkroom: Darkroom,
    picture: LinearPicture,
    name: Hashable,
    request: LiveRequest,
    shelf: Shelf,
    camera_ev: float | None = None,
) -> bytes:
    """The message for a request."""
    path = shelf.light_path(request.recipe)
    settings = request.recipe.capture
    capture, picture = picture, seen(picture, settings)
    geometry = geometry_of(capture.width, capture.height, settings)
    name = (name, key_of_seen(settings))
    view = inside(View(**request.view.model_dump()), picture)
    strip = None
    if request.show == "colour":
        trim = request.recipe.capture.exposure
        pixels = darkroom.colour(name, picture, view, trim)
    elif request.strip:
        negative = darkroom.negative(name, picture, path, view)
        printed = print_strip(negative, path, request.strip)
        pixels = printed.numbers
        strip = StripFacts(over=request.strip.over, values=printed.values, lie=printed.lie)
    else:
        shown = path if request.exposed is None else path.after(request.exposed)
        pixels = darkroom.view(name, picture, shown, view)
        if request.show == "proof":
            pixels = proof(pixels, path)
        elif request.show == "clipped":
            pixels = clipped_parts(pixels)
        elif request.show == "plate":
            exposure = darkroom.exposure(name, picture, path, view)
            pixels = zone_plate(pixels, exposure, path, request.plate)
        elif zones := request.held:
            exposure = darkroom.exposure(name, picture, path, view)
            pixels = held_zones(pixels, exposure, zones.first, zones.last, zones.side)
        elif request.breaking:
            pixels = held(pixels, darkroom.breaking(name, picture, path, view) > BREAKS)
    reading = darkroom.readings(name, picture, path, view)
    header = LiveFrame(
        seq=request.seq,
        show=request.show,
        width=pixels.shape[1],
        height=pixels.shape[0],
        channels=1 if pixels.ndim == 2 else 3,
        view=LiveView(**vars(view)),
        picture_width=picture.width,
        picture_height=picture.height,
        mends=[
            MendPlace(x=x, y=y, radius=m.radius, path=path, fill=m.fill)
            for m in settings.mends
            for (x, y), *path in [places_of(geometry, [(m.x, m.y), *m.path])]
        ],
        protected=[places_of(geometry, outline.points) for outline in settings.protected],
        strip=strip,
        reading=Reading(
            **vars(reading),
            zone_tones=zone_tones(path),
            spots=_spots(darkroom, name, geometry, picture, path, camera_ev),
        ),
        facts=facts(path),
    )
    text = header.model_dump_json().encode()
    return struct.pack("<I", len(text)) + text + pixels.tobytes()


def live_router(library: Library, darkroom: Darkroom) -> APIRouter:
    """The socket of the Bench."""
    router = APIRouter()

    @router.websocket("/api/live/{frame_id}")
    async def live(socket: WebSocket, frame_id: int) -> None:
        await socket.accept()
        try:
            frame = await asyncio.to_thread(rolls.frame, library.database.read, frame_id)
            rough = await asyncio.to_thread(library.rough, frame.sha256)
            picture = rough
            if picture is None:
                picture = await asyncio.to_thread(library.picture, frame.sha256)
        except SilvrinError as error:
            await _say(socket, error, -1)
            await socket.close(1008)
            return

        newest: str | None = None
        last: str | None = None
        arrived = asyncio.Event()

        async def develop() -> None:
            """The picture itself, once it is there: what was shown last is shown anew."""
            nonlocal picture, newest
            try:
                picture = await asyncio.to_thread(library.picture, frame.sha256)
            except SilvrinError as error:
                await _say(socket, error, -1)
                return
            newest = newest or last
            arrived.set()

        async def work() -> None:
            nonlocal newest, last
            while True:
                await arrived.wait()
                arrived.clear()
                text, newest = newest, None
                if text is None:
                    continue
                last = text
                seq = -1
                try:
                    request = LiveRequest.model_validate_json(text)
                    seq = request.seq
                    message = await asyncio.to_thread(
                        answer,
                        darkroom,
                        picture,
                        (frame.sha256, "rough") if picture is rough else frame.sha256,
                        request,
                        library.shelf,
                        frame.metadata.exposure_value,
                    )
                    await socket.send_bytes(message)
                except ValidationError as error:
                    await _say(socket, BadRecipe("; ".join(explain(error)) + "."), seq)
                except SilvrinError as error:
                    await _say(socket, error, seq)
                except WebSocketDisconnect:
                    return
                except Exception:
                    LOG.exception("a wish at the live socket failed")
                    await _say(socket, SilvrinError("The picture could not be made."), seq)

        tasks = [asyncio.create_task(work())]
        if rough is not None:
            tasks.append(asyncio.create_task(develop()))
        try:
            while True:
                newest = await socket.receive_text()
                arrived.set()
        except WebSocketDisconnect:
            pass
        finally:
            for task in tasks:
                task.cancel()

    return router


async def _say(socket: WebSocket, error: SilvrinError, seq: int) -> None:
    await socket.send_json(
        {"title": error.title, "status": error.status, "detail": str(error), "seq": seq}
    )
