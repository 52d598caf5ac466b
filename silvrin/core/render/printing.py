"""The printing map over a sitting's picture, at the size of the underlay."""

from collections.abc import Callable, Hashable

import numpy as np
from numpy.typing import NDArray

from ..capture.flatten import Flattening
from ..enlarger.areas import area, area_key
from ..enlarger.ground import Ground
from ..enlarger.shapes import Pass
from ..enlarger.working import NOTHING, Totals, Worked, acting, effects_of, held_line, worked
from ..paper.grading import Grading
from ..picture import LinearPicture, View
from ..places import CapturePlaces, PicturePlaces
from ..underlay import SIZE
from .cache import StationCache
from .coding import F32
from .sitting import Sitting

See = Callable[[], F32]

KNOTS = 4  # pixels of the underlay between two places that geometry is asked for


def printing_of(sitting: Sitting, cache: StationCache, see: See, meter: See) -> Worked:
    """Of a sitting; areas are kept, so that other seconds cost no drawing. `see` and `meter` give
    the coded light (H, W, 3) and the scene's zones (H, W) of the whole picture."""
    passes = acting(sitting.path.things.drawings.passes)
    if not passes:
        return NOTHING
    grading = sitting.path[Grading]

    def make() -> Worked:
        areas = [_area_of(each, sitting, cache, see, meter) for each in passes]
        ground = ground_of(sitting, cache, see, meter)
        totals = cache.get((sitting.key, "totals"), lambda: Totals(ground.shape))
        return worked(passes, areas, grading.grade, grading.any_grade, lambda: ground.guide, totals)

    key = sitting.key, "printing", tuple(passes), _by_zones(sitting, passes), grading.key
    return cache.get(key, make, among=(sitting.key, "printing"))


def _area_of(each: Pass, sitting: Sitting, cache: StationCache, see: See, meter: See) -> F32:
    """The area of a pass over the whole picture, (1, H, W) or (2, H, W)."""
    key = sitting.key, "area", area_key(each), _by_zones(sitting, [each])
    return cache.get(key, lambda: area(each, ground_of(sitting, cache, see, meter)))


def line_of(each: Pass, sitting: Sitting, cache: StationCache, see: See, meter: See) -> F32:
    """The area of a pass as it is laid over a view: (1, H, W), or where it follows the light the
    line that does (4, H, W)."""
    area = _area_of(each, sitting, cache, see, meter)
    if len(area) == 1:
        return area
    return held_line(area, ground_of(sitting, cache, see, meter).guide)


def ground_of(sitting: Sitting, cache: StationCache, see: See, meter: See) -> Ground:
    """The whole picture at the underlay's size; what is known of its light is kept."""
    places = cache.get((sitting.key, "places"), lambda: _places(sitting))
    side = sitting.geometry.window[2], sitting.geometry.window[3]
    step = np.array([places.shape[1] / side[0], places.shape[0] / side[1]])

    def to_ground(found: NDArray[np.float64]) -> NDArray[np.float64]:
        return np.asarray(sitting.geometry.capture_to_picture(CapturePlaces(found)) * step)

    def keep(name: str, make: See) -> F32:
        return cache.get((sitting.key, name), make)

    return Ground(places, to_ground, side, sitting.path.things.drawings.strokes, see, meter, keep)


def effects_key(sitting: Sitting, names: tuple[str, ...]) -> Hashable:
    """Names what passes change of some settings; None where they change none."""
    passes = [
        each for each in acting(sitting.path.things.drawings.passes)
        if any(name in effects_of(each) for name in names)
    ]  # fmt: skip
    return (tuple(passes), _by_zones(sitting, passes)) if passes else None


def _by_zones(sitting: Sitting, passes: list[Pass]) -> Hashable:
    """Names what the zones of the scene depend on, where a pass is limited to some."""
    return sitting.path[Flattening].key if any(each.zones for each in passes) else None


def _places(sitting: Sitting) -> F32:
    """(H, W, 2) where the pixels of the whole picture lie on the capture. The geometry bends little
    between knots: it is asked there, and places between them lie on straight lines."""
    view = sitting.picture.whole(SIZE)
    (x, across), (y, down) = _knots(view.out_width), _knots(view.out_height)
    x = (x + 0.5) * sitting.geometry.window[2] / view.out_width
    y = (y + 0.5) * sitting.geometry.window[3] / view.out_height
    knots = PicturePlaces(np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2))
    found = sitting.geometry.picture_to_capture(knots).reshape(len(y), len(x), 2)
    found = found.astype(np.float32)
    out = np.empty((view.out_height, view.out_width, 2), np.float32)
    for axis in range(2):
        out[..., axis] = down @ found[..., axis] @ across.T
    return out


def _knots(count: int) -> tuple[NDArray[np.float64], F32]:
    """Even knots (K,) along so many pixels, and the shares (count, K) they have in each pixel."""
    pixels = np.arange(count, dtype=np.float64)
    knots = np.linspace(0.0, count - 1.0, max(2, count // KNOTS))
    apart = np.abs(pixels[:, None] - knots) * (len(knots) - 1) / max(count - 1.0, 1.0)
    return knots, np.maximum(1.0 - apart, 0.0).astype(np.float32)


def over(inside: NDArray[np.bool_], view: View, picture: LinearPicture) -> NDArray[np.bool_]:
    """What is marked on the whole picture (H, W), over a view of it."""
    rows = (view.top + (np.arange(view.out_height) + 0.5) * view.height / view.out_height) / (
        picture.height / inside.shape[0]
    )
    columns = (view.left + (np.arange(view.out_width) + 0.5) * view.width / view.out_width) / (
        picture.width / inside.shape[1]
    )
    return inside[np.ix_(rows.astype(int), columns.astype(int))]
