"""The answer to a wish at the live socket."""

import struct
from functools import partial

import numpy as np

from ...core.capture.geometry import Geometry
from ...core.development.negative import Developing
from ...core.enlarger.projection import Projection
from ...core.enlarger.timing import exposed_so_far, sequence
from ...core.film.sensitometry import index_of
from ...core.film.speed import index_in, zone_index
from ...core.film.zones import LOG10_STOP
from ...core.light.conversion import Glass
from ...core.light.scatter import Scattering
from ...core.light_path import LightPath
from ...core.mount.layout import Rect
from ...core.mount.mounting import Mounting
from ...core.paper.grading import Grading
from ...core.picture import View
from ...core.places import capture_places, picture_pixels
from ...core.render import (
    Darkroom,
    Sitting,
    clipped_parts,
    hatched,
    heat,
    held,
    held_zones,
    hex_tones,
    layout_for,
    mounted_size,
    mounted_view,
    paper_seen,
    print_side,
    print_strip,
    projected,
    proof,
    zone_plate,
)
from ...core.render.breaking import BREAKS, UNSURE
from ...core.render.mounting import INCH
from ...core.render.printing import over
from ...files.delivery.press import Press
from .curves import CurvesSent
from .messages import (
    Facts,
    LiveFrame,
    LiveReading,
    LiveRequest,
    LiveView,
    Mounted,
    Reading,
    Shape,
    SpotState,
    Step,
    StripFacts,
)


def facts(path: LightPath) -> Facts:
    """Figures of a light path."""
    glass, developing, projection = path[Glass], path[Developing], path[Projection]
    index = index_of(developing.negative)
    zones = developing.density(np.array([-4.0, 3.0]) * LOG10_STOP)
    stock = path.things.stock
    return Facts(
        filter_factor=glass.filter_factor,
        blind=glass.blind,
        zone_index=round(zone_index(stock), 2),
        standard_time=projection.standard_time,
        time=projection.time,
        split=path[Grading].split,
        any_grade=path[Grading].any_grade,
        grade=path[Grading].grade,
        callier=projection.callier,
        index_here=round(index_in(stock, developing.negative), 2),
        contrast_index=None if index is None else round(index, 3),
        n=developing.n,
        halation=round(path[Scattering].halation, 4),
        negative_range=(round(float(zones[0]), 3), round(float(zones[1]), 3)),
        sequence=[Step(**vars(step)) for step in sequence(path)],
    )


def shape_of(geometry: Geometry) -> Shape:
    """What a window needs of a geometry."""
    s = geometry.settings
    recorded, ideal = geometry.radial_tables()
    return Shape(
        width=geometry.width,
        height=geometry.height,
        quarter_turns=s.quarter_turns,
        flip=s.flip,
        straighten=s.straighten,
        keystone_vertical=s.keystone_vertical,
        keystone_horizontal=s.keystone_horizontal,
        frame=geometry.frame,
        window=geometry.window,
        radius=geometry.RADIAL_REACH,
        recorded=np.round(recorded, 7).tolist(),
        ideal=np.round(ideal, 7).tolist(),
    )


def _spots(darkroom: Darkroom, sitting: Sitting, camera_ev: float | None) -> list[SpotState]:
    """The recipe's spots; those that lie outside this picture are left out."""
    spots, picture = sitting.path.recipe.film.spots, sitting.picture
    if not spots:
        return []
    places = sitting.geometry.capture_to_picture(capture_places((s.x, s.y) for s in spots))
    states = []
    for spot, place in zip(spots, picture_pixels(places), strict=True):
        if not (0 <= place.x < picture.width and 0 <= place.y < picture.height):
            continue
        found = darkroom.spot(sitting, place, spot.radius)
        states.append(
            SpotState(
                letter=spot.letter,
                x=place.x,
                y=place.y,
                radius=spot.radius,
                ev=None if camera_ev is None else camera_ev + found.stops,
                placed=spot.placed,
                zone=found.zone,
                unsure=found.unsure,
                negative=found.negative,
                density=found.density,
                number=found.number,
                clipped=found.clipped,
            )
        )
    return states


def inside(view: View, whole_width: int, whole_height: int) -> View:
    """A view kept within a picture of that size, which may have become smaller since it was asked
    for."""
    left, top = min(view.left, whole_width - 1), min(view.top, whole_height - 1)
    width, height = min(view.width, whole_width - left), min(view.height, whole_height - top)
    across, down = view.out_width / view.width, view.out_height / view.height
    return View(
        left,
        top,
        width,
        height,
        min(max(1, round(width * across)), width),
        min(max(1, round(height * down)), height),
    )


def _shown(
    darkroom: Darkroom, sitting: Sitting, view: View, request: LiveRequest
) -> tuple[np.ndarray, StripFacts | None]:
    """Pixels of a view, and the strip that is laid over them."""
    path = sitting.path
    if request.show == "colour":
        return darkroom.colour(sitting, view), None
    if request.show == "proof":
        as_seen = partial(_proofed, darkroom, sitting)
        return mounted_view(sitting, view, as_seen, paper_seen(path)), None
    if request.show in ("mounted", "press"):
        return mounted_view(sitting, view, partial(_in_mount, darkroom, sitting, request)), None
    if request.show == "projected":
        return projected(darkroom.negative(sitting, view), path), None
    if request.strip:
        negative = darkroom.negative(sitting, view)
        by_place = darkroom.toned(sitting, negative, view)
        printed = print_strip(negative, path, request.strip, by_place)
        laid = StripFacts(
            over=request.strip.over,
            values=printed.values,
            columns=printed.columns,
            rows=printed.rows,
        )
        return printed.numbers, laid
    shown = path if request.exposed is None else exposed_so_far(path, request.exposed)
    pixels = darkroom.view(sitting.under(shown), view)
    if request.show == "clipped":
        pixels = clipped_parts(pixels)
    elif request.show == "plate":
        zones = darkroom.zones(sitting, view, pixels, request.plate)
        pixels = zone_plate(zones, path, request.plate)
    elif wanted := request.held:
        zones = darkroom.zones(sitting, view, pixels, wanted.side)
        pixels = held_zones(pixels, zones, wanted.first, wanted.last)
    elif request.only == "piled" and (piled := darkroom.printing(sitting).piled) is not None:
        pixels = held(pixels, over(piled, view, picture=sitting.picture))
    elif request.hatched is not None:
        pixels = hatched(pixels, _area(darkroom, sitting, view, request.hatched), view)
    elif request.heat:
        pixels = heat(pixels, darkroom.stops(sitting, view))
    elif request.only == "unsure":
        pixels = held(pixels, darkroom.unsure(sitting, view) > UNSURE)
    elif request.only == "breaking":
        pixels = held(pixels, darkroom.breaking(sitting, view) > BREAKS)
    return pixels, None


def _proofed(darkroom: Darkroom, sitting: Sitting, view: View) -> np.ndarray:
    return proof(darkroom.view(sitting, view), sitting.path)


def _in_mount(darkroom: Darkroom, sitting: Sitting, request: LiveRequest, view: View) -> np.ndarray:
    if request.only == "edges":
        return np.asarray(darkroom.edges(sitting, view) * 255 + 0.5, np.uint8)
    return darkroom.view(sitting, view)


def mounted(darkroom: Darkroom, sitting: Sitting) -> Mounted:
    """What a mounted print is."""
    lay, mount = mounted_size(sitting), sitting.path.recipe.mount

    def mm(rect: Rect) -> tuple[float, float]:
        return round(rect.width / lay.pitch, 1), round(rect.height / lay.pitch, 1)

    at_size = layout_for(sitting, print_side(sitting))
    coloured = darkroom.is_coloured(sitting)
    return Mounted(
        picture=mm(lay.picture),
        paper=mm(lay.paper),
        whole=mm(lay.whole),
        full=(lay.whole.width, lay.whole.height),
        at_size=(at_size.whole.width, at_size.whole.height),
        alone_at_size=(at_size.picture.width, at_size.picture.height),
        changes=mount.changes_picture,
        coloured=coloured or (mount.changes_picture and sitting.path[Mounting].coloured),
        alone_coloured=coloured,
        enough=lay.pitch * INCH >= mount.resolution - 0.5,
    )


def _area(darkroom: Darkroom, sitting: Sitting, view: View, of: int | str) -> np.ndarray:
    """How far places of a view (H, W) belong to the area of a pass, or of any that is on."""
    passes = sitting.path.things.drawings.passes
    wanted = [p for p in passes if p.on] if isinstance(of, str) else passes[of : of + 1]
    out = np.zeros((view.out_height, view.out_width), np.float32)
    for each in wanted:
        out = np.maximum(out, np.abs(darkroom.area(sitting, each, view)))
    return out


def _reading(
    darkroom: Darkroom, sitting: Sitting, camera_ev: float | None, odd_white: bool
) -> Reading:
    found = darkroom.readings(sitting)
    return Reading(
        **{k: v for k, v in vars(found).items() if k in Reading.model_fields},
        looks_infrared=found.infrared_cast or (found.one_colour and odd_white),
        zone_tones=hex_tones(sitting.path, "scene"),
        negative_tones=hex_tones(sitting.path, "negative"),
        print_tones=hex_tones(sitting.path, "print"),
        spots=_spots(darkroom, sitting, camera_ev),
        placement=sitting.path.recipe.film.placement,
    )


def answer(
    darkroom: Darkroom,
    sitting: Sitting,
    request: LiveRequest,
    sent: CurvesSent,
    camera_ev: float | None = None,
    odd_white: bool = False,
    press: Press | None = None,
) -> bytes | str:
    """The message for a request, text where a reading alone is wanted; of the frame, its exposure
    value, and whether its camera's white balance was set on what no lamp lights; `press` is what
    the request wants to see it by."""
    if request.wants == "reading":
        reading = _reading(darkroom, sitting, camera_ev, odd_white)
        return LiveReading(seq=request.seq, reading=reading).model_dump_json()
    path, picture = sitting.path, sitting.picture
    size = picture.width, picture.height
    if request.show in ("mounted", "proof", "press"):
        whole = mounted_size(sitting).whole
        size = whole.width, whole.height
    view = inside(View(**request.view.model_dump()), *size)
    pixels, strip = _shown(darkroom, sitting, view, request)
    outside = None
    if request.show == "press" and press is not None and request.press is not None:
        outside = press.share_outside(pixels)
        pixels = press.shown(pixels, request.press.outside)
    header = LiveFrame(
        seq=request.seq,
        show=request.show,
        width=pixels.shape[1],
        height=pixels.shape[0],
        channels=1 if pixels.ndim == 2 else 3,
        view=LiveView(**vars(view)),
        picture_width=picture.width,
        picture_height=picture.height,
        mounted=mounted(darkroom, sitting),
        shape=shape_of(sitting.geometry),
        strip=strip,
        outside=outside,
        reading=_reading(darkroom, sitting, camera_ev, odd_white)
        if request.wants == "all"
        else None,
        facts=facts(path),
        curves=sent.of(path),
    )
    text = header.model_dump_json().encode()
    return struct.pack("<I", len(text)) + text + pixels.tobytes()
