"""Starting prints and kept recipes as JSON, and how they are put on prints."""

import json
import re
from dataclasses import replace
from typing import Annotated, Any

from fastapi import APIRouter, Path, Query, Request, Response
from pydantic import BaseModel, Field

from ..core.recipe import Recipe
from ..core.recipe.kept import (
    KeptRecipe,
    read_kept,
    settings_of,
    usual,
    with_fields,
    write_kept,
)
from ..core.render import Darkroom
from ..core.render.proposing import proposed
from ..core.starting import StartingPrint
from ..errors import BadRecipe, NotFound
from ..shelf import starting_prints
from ..shelf.items import item_text, read_item
from ..store import applying, prints, recipes, rolls, shelf_items
from ..store.applying import Application, Applied
from ..store.library import Library
from ..store.prints import Print
from ..store.recipes import RecipeEntry
from .inputs import Input, UnderRecipe

MOST_AT_ONCE = 500  # frames
SETTING = r"^[a-z]+\.[a-z_]+$"
Ringed = Annotated[str, Path(pattern=r"^([a-z0-9-]{1,64}|[0-9]{1,18})$")]
Setting = Annotated[str, Field(pattern=SETTING)]


class Begun(BaseModel):
    """A print under another look."""

    recipe: Recipe
    says: str  # what was proposed with it, where anything was


class Naming(Input):
    """What a kept recipe is called, and what it is for."""

    name: str = Field(min_length=1, max_length=60)
    note: str = Field("", max_length=2000)
    group: str = Field("", max_length=40)


class Ringing(Input):
    """Whether something is ringed."""

    on: bool


class NewRecipe(Naming):
    """Settings of a print to be kept."""

    print_id: int
    fields: list[Setting] | None = Field(
        None,
        max_length=300,
        description="Which, as station.field; without, its look but for the exposure.",
    )


class FromPrint(Input):
    """The print that a kept recipe is brought up to date from."""

    print_id: int


class Applying(Input):
    """What is put on which frames: a kept recipe, or settings of a print."""

    frames: list[int] = Field(min_length=1, max_length=MOST_AT_ONCE)
    recipe_id: int | None = None
    print_id: int | None = None
    fields: list[Setting] | None = Field(None, max_length=300)
    application: int | None = Field(None, description="Of which these are further frames.")


class Source(BaseModel):
    """A print whose settings can be put on others."""

    print_id: int
    name: str
    frame: str  # roll, number and title of its frame
    holds: dict[str, list[str]]  # fields by station
    usual: list[str]  # of those, what is taken unless asked otherwise


def looks_router(library: Library, darkroom: Darkroom) -> APIRouter:
    """What a print can begin with, and what was kept of others."""
    router = APIRouter(prefix="/api")
    database = library.database

    @router.get("/starting-prints")
    def all_starting_prints() -> list[StartingPrint]:
        return list(starting_prints().values())

    @router.get("/ringed")
    def ringed() -> list[str]:
        """Starting prints by id, and recipes by number, that are ringed to be at hand."""
        return recipes.ringed(database.read)

    @router.put("/ringed/{name}", status_code=204)
    def ring(name: Ringed, wanted: Ringing) -> None:
        if name not in starting_prints():
            recipes.entry(database.read, int(name) if name.isdecimal() else 0)
        with database.write() as connection:
            recipes.ring(connection, name, wanted.on)

    @router.post("/frames/{frame_id}/starting-prints/{name}")
    def begin(frame_id: int, name: str, wanted: UnderRecipe) -> Begun:
        """The recipe of a frame under a starting print: its look beside what is proposed for the
        frame; what is of the frame stays. Nothing is changed."""
        found = starting_prints().get(name)
        if found is None:
            raise NotFound(
                f"There is no starting print {name!r}; there is {', '.join(starting_prints())}."
            )
        library.sheets.take(wanted.sheets)
        frame = rolls.frame(database.read, frame_id)
        sitting = library.metered(frame, found.on(wanted.recipe))
        # what the capture is, no look changes
        made = proposed(darkroom, replace(sitting, rendered=False), found.aims)
        return Begun(recipe=made.recipe, says=made.says)

    @router.get("/recipes")
    def all_recipes() -> list[RecipeEntry]:
        """Kept recipes by group and name, also those in the bin."""
        return recipes.recipes(database.read)

    @router.post("/recipes", status_code=201)
    def keep(new: NewRecipe) -> RecipeEntry:
        """Keep settings of a print as it stands."""
        of = settings_of(prints.get_print(database.read, new.print_id).recipe, new.name)
        some = of.among(usual(of) if new.fields is None else new.fields)
        kept = KeptRecipe.model_validate(
            {**some.model_dump(), "note": new.note, "group": new.group}
        )
        with database.write() as connection:
            return recipes.add_recipe(connection, kept)

    @router.put("/recipes/{recipe_id}")
    def rename(recipe_id: int, wanted: Naming) -> RecipeEntry:
        with database.write() as connection:
            kept = recipes.kept(connection, recipe_id)
            return recipes.change_recipe(
                connection, recipe_id, kept.model_copy(update=wanted.model_dump())
            )

    @router.post("/recipes/{recipe_id}/update")
    def update(recipe_id: int, wanted: FromPrint) -> RecipeEntry:
        """Bring what a kept recipe holds up to date from a print as it stands."""
        with database.write() as connection:
            kept = recipes.kept(connection, recipe_id)
            of = settings_of(prints.get_print(connection, wanted.print_id).recipe, kept.name)
            held = [f"{s}.{name}" for s, own in kept.fields.items() for name in own]
            some = of.among(held)
            to = kept.model_copy(update={"fields": some.fields, "mixture": some.mixture})
            return recipes.change_recipe(connection, recipe_id, to)

    @router.delete("/recipes/{recipe_id}", status_code=204)
    def put_in_bin(recipe_id: int) -> None:
        with database.write() as connection:
            recipes.bin_recipe(connection, recipe_id)

    @router.post("/recipes/{recipe_id}/restore", status_code=204)
    def restore(recipe_id: int) -> None:
        with database.write() as connection:
            recipes.restore_recipe(connection, recipe_id)

    @router.get("/recipes/{recipe_id}/file", response_class=Response)
    def recipe_file(recipe_id: int) -> Response:
        """A kept recipe as a file, with the own items of the shelf that it needs."""
        kept = recipes.kept(database.read, recipe_id)
        own = {item.id: item for item in shelf_items.own_items(database.read)}
        needed = [json.loads(item_text(own[name])) for name in _named(kept) if name in own]
        name = re.sub(r"[^\w. -]+", "-", kept.name, flags=re.ASCII).strip() or "recipe"
        return Response(
            write_kept(kept, needed),
            media_type="application/json",
            headers={"content-disposition": f'attachment; filename="{name}.json"'},
        )

    @router.post("/recipes/file", status_code=201)
    async def take_file(
        request: Request, name: Annotated[str, Query(max_length=200)] = "recipe"
    ) -> RecipeEntry:
        """Keep a recipe from a file of any version; items of the shelf that it brings and that are
        not there are put on it."""
        kept, items = read_kept(await request.body(), library.shelf.zone_part, name)
        brought = [read_item(json.dumps(item), f"{name}: shelf") for item in items]
        with database.write() as connection:
            there = library.shelf
            new = [
                item
                for item in brought
                if item.id
                not in {*there.stocks, *there.filters, *there.lights, *there.papers, *there.toners}
            ]
            there.with_own(new, there.edition).light_path(with_fields(Recipe(), kept.fields))
            for item in new:
                shelf_items.put_item(connection, item)
            return recipes.add_recipe(connection, kept)

    @router.post("/frames/{frame_id}/recipes/{recipe_id}")
    def under(frame_id: int, recipe_id: int, wanted: UnderRecipe) -> Begun:
        """The recipe of a frame under a kept one. Nothing is changed."""
        rolls.frame(database.read, frame_id)
        library.sheets.take(wanted.sheets)
        made = applying.with_kept(recipes.kept(database.read, recipe_id), wanted.recipe)
        library.light_path(made)
        return Begun(recipe=made, says="")

    @router.get("/last-print")
    def last_print() -> Source:
        """The print that was changed last."""
        return _source(prints.last_changed(database.read))

    @router.get("/prints/{print_id}/settings")
    def settings(print_id: int) -> Source:
        """What of a print can be put on others."""
        return _source(prints.get_print(database.read, print_id))

    def _source(of: Print) -> Source:
        held, frame = settings_of(of.recipe, of.name[:60]), rolls.frame(database.read, of.frame_id)
        return Source(
            print_id=of.id,
            name=of.name,
            frame=f"{frame.roll_name}, {frame.number:02} {frame.title}",
            holds={station: list(own) for station, own in held.fields.items()},
            usual=usual(held),
        )

    @router.post("/applications")
    def apply(wanted: Applying) -> Application:
        """Put settings on the chosen print of each frame, or on a new one."""
        if (wanted.recipe_id is None) == (wanted.print_id is None):
            raise BadRecipe("Either recipe_id or print_id says what is put on the frames.")
        if wanted.recipe_id is not None:
            of = recipes.kept(database.read, wanted.recipe_id)
            fields: list[str] | None = wanted.fields
        else:
            found = prints.get_print(database.read, wanted.print_id or 0)
            of = settings_of(found.recipe, found.name[:60])
            fields = usual(of) if wanted.fields is None else wanted.fields
        if fields is not None:
            of = of.among(fields)
        return applying.apply(library, wanted.frames, of, wanted.application)

    @router.post("/applications/{application}/undo")
    def take_back(application: int) -> list[Applied]:
        """Take back what was put on many prints, on each that was not changed since."""
        with database.write() as connection:
            return applying.take_back(connection, application)

    return router


def _named(kept: KeptRecipe) -> list[Any]:
    """Ids of the shelf that a kept recipe names."""
    stations: list[Any] = [kept.fields]
    if kept.mixture is not None:
        stations.append(kept.mixture.before.model_dump())
    names = ("film.stock", "light.source", "light.lens_filter", "light.second_filter",
             "paper.paper")  # fmt: skip
    found = []
    for each in stations:
        for station, _, name in (place.partition(".") for place in names):
            value = each.get(station, {}).get(name)
            if value is not None and value not in found:
                found.append(value)
        found += [bath["toner"] for bath in each.get("toner", {}).get("baths", ())
                  if bath.get("toner") and bath["toner"] not in found]  # fmt: skip
    return found
