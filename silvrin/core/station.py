"""What a station of the light path is.

A station lives in its room. It says which fields of the recipe it reads and which earlier stations
it builds on, and is given no others: reading one that it did not declare raises `Undeclared`. So
its key, made of what it declares, names its results wholly, and two recipes that agree in what a
station reads share the station itself with all that it worked out.
"""

from collections.abc import Callable, Hashable, Mapping
from typing import TYPE_CHECKING, Any, ClassVar, TypeVar, cast

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from .light_path import Things
    from .plate import Plate
    from .recipe import Recipe

# "film.stock"; or with a function of its value, of which alone the station then knows
Read = str | tuple[str, Callable[[Any], Hashable]]
S = TypeVar("S", bound="Station")


class Undeclared(AttributeError):
    """A station reads what it does not declare."""


class Narrow:
    """A view of something of which only some fields may be read."""

    def __init__(self, what: str, values: Mapping[str, Any]) -> None:
        self._what, self._values = what, values

    def __getattr__(self, name: str) -> Any:
        if name.startswith("__"):
            raise AttributeError(name)
        try:
            return self._values[name]
        except KeyError:
            raise Undeclared(f"{self._what}.{name} is read but not declared") from None


class Station:
    """A station under a recipe: a pure function of what it declares."""

    reads: ClassVar[tuple[Read, ...]] = ()
    builds_on: ClassVar[tuple[type["Station"], ...]] = ()

    def __init__(
        self,
        key: int,
        recipe: "Recipe",
        things: "Things",
        earlier: Mapping[type["Station"], "Station"],
    ) -> None:
        self.key = key
        self.recipe, self.things, self._earlier = recipe, things, earlier

    def of(self, station: type[S]) -> S:
        """An earlier station; raises Undeclared for one that is not declared."""
        if station not in self._earlier:
            raise Undeclared(f"{station.__name__} is not declared by {type(self).__name__}")
        return cast(S, self._earlier[station])


class ToneStation(Station):
    """A station whose effect on a value depends on that value: on light, density or exposure at a
    place, not on its surroundings. Such stations in a row become one table."""

    by_place: bool = False  # whether it acts differently at different places of the picture

    def at(self, values: NDArray[np.float64]) -> NDArray[np.float64]:
        """Values (…) to values (…), or to colours (…, 3)."""
        raise NotImplementedError

    def on_grade(self, values: NDArray[np.float64], grade: float) -> NDArray[np.float64]:
        """The same on paper of another grade; most stations know of none."""
        return self.at(values)

    def over(self, plate: "Plate") -> "Plate":
        """The same for a plate; what acts by place does it here."""
        return plate.holding(self.at(plate.pixels).astype(np.float32))


def values_read(recipe: "Recipe", reads: tuple[Read, ...]) -> dict[str, dict[str, Any]]:
    """What a station reads of a recipe: values by station and field."""
    found: dict[str, dict[str, Any]] = {}
    for read in reads:
        place, seen = read if isinstance(read, tuple) else (read, None)
        station, _, name = place.partition(".")
        settings = getattr(recipe, station)
        for field in (name,) if name else type(settings).model_fields:
            value = getattr(settings, field)
            found.setdefault(station, {})[field] = value if seen is None else seen(value)
    return found
