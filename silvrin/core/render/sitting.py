"""A sitting: a frame under a recipe, and all that belongs together while it is looked at."""

from collections.abc import Hashable
from dataclasses import dataclass, replace
from functools import cached_property

from ..capture.geometry import Geometry
from ..capture.seen import geometry_of, key_of_seen, seen
from ..enlarged import Enlarged
from ..light_path import LightPath
from ..mount.mounting import NO_CAPTION, Caption
from ..picture import LinearPicture


@dataclass(frozen=True, eq=False)
class Sitting:
    """A capture, its name in caches, and the light path it is taken down."""

    name: Hashable  # tells captures apart
    capture: LinearPicture
    path: LightPath
    caption: Caption = NO_CAPTION  # what its mount says of the frame
    rendered: bool = False  # from a finished file, on which a camera laid its curve
    larger: tuple[int, int] | None = None  # width and height, where it is printed larger than taken

    @cached_property
    def picture(self) -> LinearPicture:
        """The capture as the stations after Capture see it."""
        found = seen(self.capture, self.path)
        return found if self.larger is None else Enlarged(found, *self.larger)

    @cached_property
    def geometry(self) -> Geometry:
        """Between places of the capture and of the finished picture."""
        return geometry_of(self.capture, self.path)

    @cached_property
    def key(self) -> Hashable:
        """Names the picture in caches."""
        return self.name, key_of_seen(self.path), self.larger

    @property
    def pitch(self) -> float:
        """Pixels of the picture at full size a millimetre of the print."""
        return max(self.picture.width, self.picture.height) / self.path.recipe.mount.size

    @cached_property
    def mixed(self) -> "tuple[Sitting, float] | None":
        """The frame as the print before takes it, and how far the print went from there; None where
        it is no mixture."""
        found = self.path.mixed
        return found and (self.under(found[0]), found[1])

    def under(self, path: LightPath) -> "Sitting":
        """The same frame under another light path."""
        return replace(self, path=path)
