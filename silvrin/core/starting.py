"""Starting prints: looks that a print can begin with, each beside what is proposed for a frame, so
that it suits any exposure."""

from typing import Any

from pydantic import Field, model_validator

from .proposing import Aims
from .recipe import Recipe
from .recipe.parts import PART_OF
from .settings import ItemId, Settings
from .stations import SETTINGS

# What a look leaves as it is: it is of the capture, of the light it was taken in, and of the use
LEFT: dict[str, tuple[str, ...]] = {
    "capture": tuple(SETTINGS["capture"].model_fields),
    "light": ("source", "temperature"),
    "mount": tuple(SETTINGS["mount"].model_fields),
}


class StartingPrint(Settings):
    """A look with what it aims at."""

    id: ItemId
    name: str = Field(min_length=1, max_length=40)
    group: str = Field(min_length=1, max_length=40)
    about: str = Field(min_length=1, max_length=200, description="What it is for.")
    look: dict[str, dict[str, Any]] = Field(
        {}, description="Fields by station; others are as they are to begin with."
    )
    aims: Aims = Aims()

    @model_validator(mode="after")
    def _holds(self) -> "StartingPrint":
        Recipe.model_validate({"look": self.look})  # none of them is of the frame
        return self

    def on(self, recipe: Recipe) -> Recipe:
        """A recipe with this look in place of its own."""
        look = Recipe.model_validate({"look": self.look})
        # what is off of the capture, of the printing map and of the mount stays off, as these stay
        stay = {"capture", "mount"} - set(self.look)
        off = [name for name in recipe.off if name.split(".")[0] in stay]
        if "enlarger" in recipe.off or "enlarger.map" in recipe.off:
            off.append("enlarger.map")
        made = with_look(recipe, look, self.look)
        return made.model_copy(update={"off": tuple(off)})


def with_look(recipe: Recipe, look: Recipe, given: dict[str, dict[str, Any]]) -> Recipe:
    """A recipe under the look of another one; what is of the frame stays, and so does what is in
    `LEFT` unless it is given by name."""
    stations = {}
    for station, parts in PART_OF.items():
        own = getattr(recipe, station)
        stays = {name for name in LEFT.get(station, ()) if name not in given.get(station, {})}
        taken = {
            name: getattr(getattr(look, station), name)
            for name, part in parts.items()
            if part == "look" and name not in stays
        }
        stations[station] = own.model_copy(update=taken)
    return recipe.model_copy(update={**stations, "mixture": None, "off": ()})
