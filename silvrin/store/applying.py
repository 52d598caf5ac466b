"""Settings put on the prints of many frames at once, and taken back at once."""

import sqlite3
from typing import Literal

from pydantic import BaseModel, ValidationError

from ..core.recipe import Recipe
from ..core.recipe.kept import KeptRecipe
from ..core.recipe.wording import explain
from ..errors import BadRecipe, NotFound, SilvrinError
from . import dust_maps, prints, rolls
from .database import now
from .library import Library


class Applied(BaseModel):
    """What became of one frame."""

    frame_id: int
    frame: str = ""  # its number and title
    print_id: int | None = None
    how: Literal["changed", "made", "same", "taken back", "left", "refused"]
    words: str


class Application(BaseModel):
    """Settings that were put on prints, and what became of each."""

    id: int
    label: str
    report: list[Applied]


def apply(
    library: Library, frames: list[int], of: KeptRecipe, further_of: int | None = None
) -> Application:
    """Put settings on the chosen print of each frame, or on a new one; further ones of an
    application where that is given. What goes wrong with one is said, and the others go on.
    Raises BadRecipe when it names what is not on the shelf, NotFound."""
    library.light_path(with_kept(of, Recipe()))
    with library.database.write() as connection:
        number, label = _begun(connection, of.name, further_of)
        report = []
        for frame_id in frames:
            try:
                report.append(_apply(library, connection, frame_id, of, number, label))
            except SilvrinError as error:
                name = _name(connection, frame_id)
                report.append(
                    Applied(frame_id=frame_id, frame=name, how="refused", words=str(error))
                )
    return Application(id=number, label=label, report=report)


def _name(connection: sqlite3.Connection, frame_id: int) -> str:
    row = connection.execute("SELECT number, title FROM frames WHERE id = ?", (frame_id,))
    found = row.fetchone()
    return f"{found['number']:02} {found['title']}" if found else ""


def _begun(connection: sqlite3.Connection, name: str, further_of: int | None) -> tuple[int, str]:
    if further_of is not None:
        return further_of, _label(connection, further_of)
    label = f"Recipe: {name}"
    row = connection.execute(
        "INSERT INTO applications (label, made_at) VALUES (:label, :at) RETURNING id",
        {"label": label, "at": now()},
    ).fetchone()
    return int(row["id"]), label


def _label(connection: sqlite3.Connection, application: int) -> str:
    row = connection.execute(
        "SELECT label FROM applications WHERE id = ?", (application,)
    ).fetchone()
    if row is None:
        raise NotFound(f"There is no application {application} of a recipe.")
    return str(row["label"])


def with_kept(of: KeptRecipe, recipe: Recipe) -> Recipe:
    """A recipe under a kept one; raises BadRecipe when they do not go together."""
    try:
        return of.on(recipe)
    except ValidationError as error:
        raise BadRecipe(
            f"With what stays it does not go together: {'; '.join(explain(error))}."
        ) from error


def _apply(
    library: Library,
    connection: sqlite3.Connection,
    frame_id: int,
    of: KeptRecipe,
    application: int,
    label: str,
) -> Applied:
    frame = rolls.frame(connection, frame_id)
    if frame.binned:
        raise BadRecipe("It is in the bin; put it back first.")
    if frame.lost:
        raise BadRecipe(f"Its original is not at {frame.place}; find it first.")
    if frame.chosen is None:
        plain = dust_maps.mended_by_map(connection, library.sheets, frame, Recipe())
        recipe = with_kept(of, plain)
        made = prints.add_print(connection, frame_id, "First print", plain)
        connection.execute("UPDATE prints SET application = ? WHERE id = ?", (application, made.id))
        how: Literal["made", "changed"] = "made"
    else:
        made = prints.get_print(connection, frame.chosen)
        recipe, how = with_kept(of, made.recipe), "changed"
        if recipe == made.recipe:
            return Applied(frame_id=frame_id, print_id=made.id, how="same", words="was so already")
    changed = prints.change_print(connection, made.id, made.head, recipe, label)
    connection.execute(
        "UPDATE changes SET application = ? WHERE id = ?", (application, changed.head)
    )
    words = "a new print" if how == "made" else f"on {made.name}"
    return Applied(frame_id=frame_id, print_id=made.id, how=how, words=words)


def take_back(connection: sqlite3.Connection, application: int) -> list[Applied]:
    """Undo an application on every print that was not changed since; new prints go in the bin.
    Raises NotFound."""
    _label(connection, application)
    rows = connection.execute(
        """
        SELECT p.id, p.frame_id, p.name, p.head, p.application, c.id AS state, c.parent
        FROM changes c JOIN prints p ON p.id = c.print_id
        WHERE c.application = :id ORDER BY c.id
        """,
        {"id": application},
    ).fetchall()
    report = []
    for row in rows:
        found = Applied(
            frame_id=row["frame_id"],
            frame=_name(connection, row["frame_id"]),
            print_id=row["id"],
            how="left",
            words="",
        )
        if row["head"] != row["state"]:
            found.words = f"{row['name']} was changed since, and stays as it is"
        else:
            connection.execute(
                "UPDATE prints SET head = :parent WHERE id = :id",
                {"parent": row["parent"], "id": row["id"]},
            )
            if row["application"] == application:
                prints.bin_print(connection, row["id"])
            found.how, found.words = "taken back", f"{row['name']} is as it was"
        report.append(found)
    return report
