"""What the Capture station asks beside the picture: places, lines, lenses and dust."""

from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from ..core.capture.dust import SensorFrame, find_specks
from ..core.capture.geometry import Geometry, Shaping
from ..core.capture.levelling import levelled
from ..core.capture.sensor import from_sensor, on_sensor, to_sensor
from ..core.picture import LinearPicture
from ..core.places import capture_places, picture_pixels
from ..core.recipe import LensProfile, Mend, Recipe
from ..errors import BadRecipe, SilvrinError
from ..files.lens_profiles import LensName, find_lenses, lens_profile, search_lenses
from ..store import dust_maps, rolls
from ..store.dust_maps import Carried
from ..store.library import Library
from ..store.rolls import Frame
from .inputs import Input, UnderRecipe

DUST_FRAMES = 5  # others of the roll that the dust finder looks at
DUST_SIDE = 2400
LEAST_LIKELY = 0.05

Spot = tuple[float, float]


class Lines(UnderRecipe):
    """One or two lines that should be level or upright, two ends each, in pixels of the finished
    picture."""

    lines: list[tuple[Spot, Spot]] = Field(min_length=1, max_length=2)


class Levelled(BaseModel):
    """Fields of the Capture station that the lines ask for; empty ones stay."""

    straighten: float | None = None
    keystone_vertical: float | None = None
    keystone_horizontal: float | None = None


class WantedLens(Input):
    """A lens by its name, and how it stood."""

    maker: str = Field(max_length=200)
    model: str = Field(max_length=200)
    crop: float = Field(gt=0, le=100)
    focal: float | None = Field(None, ge=1, le=5000, description="mm; empty is the file's.")
    aperture: float | None = Field(None, ge=0.5, le=128, description="Empty is the file's.")


class FoundSpeck(BaseModel):
    """A probable speck: on the capture, and on the finished picture."""

    x: int
    y: int
    radius: int  # of a mend that covers it
    likely: float
    elsewhere: int  # other frames that show it
    at_x: int
    at_y: int


class Dust(BaseModel):
    """What the dust finder says."""

    specks: list[FoundSpeck]
    frames: int  # other frames of the roll that were looked at


def capture_router(library: Library) -> APIRouter:
    """Resources of the Capture station."""
    router = APIRouter(prefix="/api")
    database = library.database

    def geometry(frame: Frame, recipe: Recipe) -> Geometry:
        return library.light_path(recipe)[Shaping].geometry(frame.width, frame.height)

    def mends_of(wanted: UnderRecipe) -> tuple[Mend, ...]:
        library.sheets.take(wanted.sheets)
        return library.sheets.drawings(database.read, wanted.recipe).mends

    @router.post("/frames/{frame_id}/level")
    def level(frame_id: int, wanted: Lines) -> Levelled:
        """By what lines become level or upright: one turns the picture, two make it parallel."""
        frame = rolls.frame(database.read, frame_id)
        size = frame.width, frame.height
        return Levelled(**levelled(size, wanted.recipe.capture, np.array(wanted.lines)))

    @router.get("/frames/{frame_id}/lenses")
    def lenses(frame_id: int) -> list[LensName]:
        """Profiles that the frame's camera and lens may have, likeliest first."""
        return find_lenses(rolls.frame(database.read, frame_id).metadata)

    @router.get("/lenses")
    def search(words: Annotated[str, Query(max_length=100)] = "") -> list[LensName]:
        """Profiles that have all the words in their names, at most 60."""
        return search_lenses(words)

    @router.post("/frames/{frame_id}/lens")
    def profile(frame_id: int, wanted: WantedLens) -> LensProfile:
        """What a lens did to the frame."""
        frame = rolls.frame(database.read, frame_id)
        name = LensName(maker=wanted.maker, model=wanted.model, crop=wanted.crop)
        size = frame.width, frame.height
        return lens_profile(name, frame.metadata, size, wanted.focal, wanted.aperture)

    @router.post("/frames/{frame_id}/dust")
    def dust(frame_id: int, wanted: UnderRecipe) -> Dust:
        """Probable specks of dust that are not mended yet, likeliest first."""
        frame = rolls.frame(database.read, frame_id)
        own = _sensor_frame(library.picture(frame.sha256), frame)
        others = []
        for other in _companions(rolls.frames_of(database.read, frame.roll_id), frame):
            try:
                picture = library.rough(other.sha256) or library.picture(other.sha256)
            except SilvrinError:
                continue  # its file is gone: one frame less tells
            others.append(_sensor_frame(picture, other))
        pitch = max(frame.width, frame.height) / max(own.light.shape[:2])
        size = own.light.shape[1], own.light.shape[0]
        mends, shape = mends_of(wanted), geometry(frame, wanted.recipe)
        mended = to_sensor(
            np.array([(m.x / pitch, m.y / pitch) for m in mends]).reshape(-1, 2),
            size,
            frame.metadata.orientation,
        )
        specks_there = find_specks(own, others, [(x, y) for x, y in mended])
        found = [s for s in specks_there if s.likely >= LEAST_LIKELY]
        specks = []
        for speck in found:
            place = np.array([[speck.x, speck.y]])
            x, y = from_sensor(place, size, frame.metadata.orientation)[0] * pitch
            if any(np.hypot(m.x - x, m.y - y) < m.radius for m in mends):
                continue
            place = capture_places([(int(x), int(y))])
            at_x, at_y = picture_pixels(shape.capture_to_picture(place))[0]
            specks.append(
                FoundSpeck(
                    x=int(x), y=int(y), radius=max(3, round(1.4 * speck.radius * pitch + 1)),
                    likely=round(speck.likely, 3), elsewhere=speck.elsewhere,
                    at_x=at_x, at_y=at_y,
                )
            )  # fmt: skip
        return Dust(specks=specks, frames=len(others))

    @router.post("/frames/{frame_id}/dust-map")
    def carry_dust_map(frame_id: int, wanted: UnderRecipe) -> Carried:
        """Carry the frame's mended specks to the other frames of its roll."""
        mends = mends_of(wanted)
        if not mends:
            raise BadRecipe("No speck is mended yet: mend some on this frame, then carry them.")
        with database.write() as connection:
            return dust_maps.carry(connection, library.sheets, frame_id, mends)

    return router


def _sensor_frame(picture: LinearPicture, frame: Frame) -> SensorFrame:
    side = max(picture.width, picture.height)
    light = picture.level_for(max(1.0, side / DUST_SIDE))
    return SensorFrame(on_sensor(light, frame.metadata.orientation), frame.metadata.aperture)


def _companions(frames: list[Frame], own: Frame) -> list[Frame]:
    """Other frames of the same camera and size, those nearest in the roll first."""
    size = {own.width, own.height}
    alike = [
        f
        for f in frames
        if f.id != own.id
        and f.kind != "merged"
        and {f.width, f.height} == size
        and f.metadata.camera == own.metadata.camera
    ]
    alike.sort(key=lambda f: (-(f.metadata.aperture or 0.0), abs(f.number - own.number)))
    return alike[:DUST_FRAMES]
