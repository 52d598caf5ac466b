"""What is metered on a frame, as JSON: spots, placements, points, and two places kept apart."""

import numpy as np
from fastapi import APIRouter
from pydantic import BaseModel, Field

from ..core.enlarger.projection import Projection
from ..core.light.laying import even_bands, laid_bands
from ..core.light.settings import MOST_BANDS
from ..core.places import (
    PicturePixel,
    capture_pixels,
    capture_places,
    picture_pixels,
    picture_places,
)
from ..core.recipe import HueBand
from ..core.render import METER_RADIUS, Darkroom, Sitting, placing_for
from ..core.render.separating import hues_apart, separation
from ..core.render.spot import light_about
from ..errors import NotFound, OutsidePicture
from ..store.library import Library
from .inputs import UnderRecipe


class SpotPlace(UnderRecipe):
    """Where to read, in pixels of the finished picture, and under which recipe."""

    x: int
    y: int
    radius: int = Field(
        METER_RADIUS, ge=0, le=500, description="Pixels about the place that are averaged."
    )


class WantedPlacing(SpotPlace):
    """Which zone a spot is to read."""

    zone: float = Field(ge=-1, le=11)


class FoundPlacing(BaseModel):
    """The placement that does it."""

    placement: float  # stops
    zone: float  # that the spot then reads; another one where the range of placements ends


class WantedSeparations(UnderRecipe):
    """Which two of the recipe's metered spots are to be kept apart, by their letters."""

    first: str = Field(pattern=r"^[A-Z]$")
    second: str = Field(pattern=r"^[A-Z]$")


class FoundSeparation(BaseModel):
    """What a film behind a filter makes of two places."""

    stock: str
    lens_filter: str
    zones: float  # that the second place lies above the first
    unsure: float  # by which that may be off, since colour alone tells no spectrum
    factor: float  # stops
    breaking: float  # share of the picture in which noise of colour is seen as noise of tone


class BlindPair(BaseModel):
    """A film that sees nothing behind a filter."""

    stock: str
    lens_filter: str


class Separations(BaseModel):
    """Two places under all films behind all filters, the farthest apart first."""

    pairs: list[FoundSeparation]
    band: int | None  # the hue band, from 0, that covers both, so that none parts them
    blind: list[BlindPair]
    parted: list[HueBand] | None  # bands of which each has its own, where they need such


class WantedBands(UnderRecipe):
    """Hue bands over the picture's own hues, or so many even ones."""

    even: int | None = Field(None, ge=2, le=MOST_BANDS)


class LaidBands(BaseModel):
    """Hue bands, as the recipe has them."""

    bands: list[HueBand]


class WantedPoints(UnderRecipe):
    """Which shares of the picture may reach paper black and paper white."""

    # common practice, no source: lost highlights hurt more than lost shadows
    black: float = Field(0.001, ge=0, le=0.5)
    white: float = Field(0.0001, ge=0, le=0.5)


class PrintPoints(BaseModel):
    """Points of the print, as the recipe has them."""

    white_at: float
    black_at: float
    # of base exposure that makes the share of black, where time and grade alone make more
    seconds: float | None = None


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
    lab: tuple[float, float, float] | None  # CIELAB of the print where it has a colour
    clipped: bool  # the capture is clipped there: the zone is "at least" this
    unsure: float  # stops that the zone may be off by, since colour alone tells no spectrum
    hue: float  # degrees
    coloured: float  # 0 for a grey to 1: how far hue bands act on it
    band: int | None  # the hue band, from 0, that covers its hue
    band_share: float  # of that band's stops, that it gets
    new_band: HueBand | None  # that would be made about its hue
    colour: tuple[float, float, float]  # shares of red, green and blue in its light


FULL = 0.999  # black point at which the paper is left as it is
JUST_LESS = 0.98


def _inside(sitting: Sitting, place: SpotPlace) -> PicturePixel:
    """The pixel of a place; raises OutsidePicture."""
    picture = sitting.picture
    if not (0 <= place.x < picture.width and 0 <= place.y < picture.height):
        raise OutsidePicture(
            f"({place.x}, {place.y}) is outside the picture; "
            f"it has {picture.width} x {picture.height} pixels, counted from 0."
        )
    return PicturePixel(place.x, place.y)


def metering_router(library: Library, darkroom: Darkroom) -> APIRouter:
    """What the meter says of a frame under a recipe."""
    router = APIRouter(prefix="/api")

    @router.post("/frames/{frame_id}/print-points")
    def print_points(frame_id: int, wanted: WantedPoints) -> PrintPoints:
        """White and black point under which shares of the picture become paper white and black."""
        _, sitting = library.sit(frame_id, wanted.recipe, wanted.sheets)
        white, black = darkroom.points(sitting, wanted.black, wanted.white)
        found = PrintPoints(white_at=round(white, 4), black_at=round(black, 4))
        if black >= FULL:
            plain = sitting.path.recipe.paper.model_copy(update={"black_at": 1.0})
            path = sitting.path.with_settings(paper=plain)
            shorter = darkroom.time_for_black(sitting.under(path), wanted.black)
            if shorter is not None and shorter < path[Projection].time * JUST_LESS:
                found.seconds = round(shorter, 2)
        return found

    @router.post("/frames/{frame_id}/spot")
    def read_spot(frame_id: int, place: SpotPlace) -> SpotReading:
        frame, sitting = library.sit(frame_id, place.recipe, place.sheets)
        capture, at_pixel = sitting.capture, _inside(sitting, place)
        found = darkroom.spot(sitting, at_pixel, place.radius)
        at = sitting.geometry.picture_to_capture(picture_places([(place.x, place.y)]))
        camera = frame.metadata.exposure_value
        ev = None if camera is None else camera + found.stops
        x, y = capture_pixels(at, capture.width, capture.height)[0]
        return SpotReading(**vars(found), ev=ev, capture_x=x, capture_y=y)

    @router.post("/frames/{frame_id}/placing")
    def place_spot(frame_id: int, wanted: WantedPlacing) -> FoundPlacing:
        """The placement of the exposure under which a spot reads a zone."""
        _, sitting = library.sit(frame_id, wanted.recipe, wanted.sheets)
        pixel = _inside(sitting, wanted)
        return FoundPlacing(
            **vars(placing_for(darkroom, sitting, pixel, wanted.radius, wanted.zone))
        )

    @router.post("/frames/{frame_id}/separations")
    def separations(frame_id: int, wanted: WantedSeparations) -> Separations:
        """By how many zones each film behind each filter keeps two metered spots apart."""
        _, sitting = library.sit(frame_id, wanted.recipe, wanted.sheets)
        recipe, shelf = sitting.path.recipe, library.shelf
        spots = {spot.letter: spot for spot in recipe.film.spots}
        lights = []
        for letter in (wanted.first, wanted.second):
            if letter not in spots:
                raise NotFound(f"There is no spot {letter}; meter it first.")
            spot = spots[letter]
            at = sitting.geometry.capture_to_picture(capture_places([(spot.x, spot.y)]))
            pixel = picture_pixels(at)[0]
            _inside(sitting, SpotPlace(recipe=recipe, x=pixel.x, y=pixel.y))
            about = light_about(sitting.picture, pixel, spot.radius)
            lights.append(np.rint(about.mean(axis=0)).astype(np.uint16))
        both = np.stack(lights)
        named = [(stock, glass) for stock in shelf.stocks for glass in shelf.filters]
        plain = {"second_filter": "none", "strength": 1.0}
        paths = (
            shelf.light_path(
                recipe.model_copy(
                    update={
                        "film": recipe.film.model_copy(update={"stock": stock}),
                        "light": recipe.light.model_copy(update={"lens_filter": glass, **plain}),
                    }
                ),
                sitting.path.things.drawings,
            )
            for stock, glass in named
        )
        found = separation(darkroom, sitting, both, paths)
        pairs = [
            FoundSeparation(
                stock=stock,
                lens_filter=glass,
                zones=round(each.zones, 3),
                unsure=round(each.unsure, 3),
                factor=round(each.factor, 2),
                breaking=round(each.breaking, 4),
            )
            for (stock, glass), each in zip(named, found, strict=True)
            if not each.blind
        ]
        pairs.sort(key=lambda pair: -abs(pair.zones))
        hues = hues_apart(recipe.light, both)
        parted = None if hues.parted is None else list(hues.parted)
        blind = [
            BlindPair(stock=stock, lens_filter=glass)
            for (stock, glass), each in zip(named, found, strict=True)
            if each.blind
        ]
        return Separations(pairs=pairs, blind=blind, band=hues.common, parted=parted)

    @router.post("/frames/{frame_id}/hue-bands")
    def lay_bands(frame_id: int, wanted: WantedBands) -> LaidBands:
        """Hue bands for a frame: laid where its hues are, or evenly."""
        _, sitting = library.sit(frame_id, wanted.recipe, wanted.sheets)
        if wanted.even is not None:
            return LaidBands(bands=list(even_bands(wanted.even)))
        hues = np.array(darkroom.readings(sitting).hues)
        return LaidBands(bands=list(laid_bands(hues)))

    return router
