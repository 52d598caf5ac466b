"""The printing map over a sitting's picture, at the size of the underlay."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..enlarger.areas import acting, covered, printed
from ..enlarger.settings import Pass
from ..picture import LinearPicture, View
from ..places import PicturePlaces
from ..underlay import SIZE
from .cache import StationCache
from .coding import F32
from .sitting import Sitting


@dataclass(frozen=True)
class Printing:
    """What all passes give: stops (1, H, W), None where there are none; and where they pile up."""

    stops: F32 | None = None
    piled: NDArray[np.bool_] | None = None

    @property
    def share_piled(self) -> float:
        """Part of the picture in which they do."""
        return 0.0 if self.piled is None else float(self.piled.mean())

    @property
    def nbytes(self) -> int:
        """What it holds, for the cache's sake."""
        return sum(int(v.nbytes) for v in (self.stops, self.piled) if v is not None)


NOTHING = Printing()


def printing_of(sitting: Sitting, cache: StationCache) -> Printing:
    """Of a sitting; areas are kept, so that other seconds cost no drawing."""
    passes = acting(sitting.path.recipe.enlarger.passes)
    if not passes:
        return NOTHING

    def places() -> F32:
        return cache.get((sitting.key, "places"), lambda: _places(sitting))

    def area(each: Pass) -> F32:
        key = sitting.key, "area", each.shapes
        return cache.get(key, lambda: covered(each.shapes, places()))

    def make() -> Printing:
        stops, piled = printed(passes, [area(each) for each in passes])
        return Printing(stops[None], piled)

    return cache.get((sitting.key, "printing", tuple(passes)), make)


def _places(sitting: Sitting) -> F32:
    """(H, W, 2) where the pixels of the whole picture lie on the capture."""
    view = sitting.picture.whole(SIZE)
    x = (np.arange(view.out_width) + 0.5) * view.width / view.out_width
    y = (np.arange(view.out_height) + 0.5) * view.height / view.out_height
    places = PicturePlaces(np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2))
    found = sitting.geometry.picture_to_capture(places)
    return np.ascontiguousarray(found.reshape(view.out_height, view.out_width, 2), np.float32)


def over(inside: NDArray[np.bool_], view: View, picture: LinearPicture) -> NDArray[np.bool_]:
    """What is marked on the whole picture (H, W), over a view of it."""
    rows = (view.top + (np.arange(view.out_height) + 0.5) * view.height / view.out_height) / (
        picture.height / inside.shape[0]
    )
    columns = (view.left + (np.arange(view.out_width) + 0.5) * view.width / view.out_width) / (
        picture.width / inside.shape[1]
    )
    return inside[np.ix_(rows.astype(int), columns.astype(int))]
