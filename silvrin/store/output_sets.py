"""Named sets of outputs, and the profiles of printers and screens that they print through."""

import hashlib
import sqlite3
from functools import cache
from importlib import resources

from pydantic import BaseModel, TypeAdapter

from ..errors import Conflict, NotFound
from ..files.delivery import Output
from ..files.delivery.colours import kind_of_profile
from .database import now

_OUTPUTS = TypeAdapter(tuple[Output, ...])


class OutputSet(BaseModel):
    """Outputs that are made of a print together."""

    id: str  # of an own one its number
    name: str
    outputs: tuple[Output, ...]
    own: bool = False


class OwnProfile(BaseModel):
    """A profile that was put on the shelf."""

    id: str
    name: str
    colours: str


@cache
def shipped_sets() -> tuple[OutputSet, ...]:
    """The sets that come with Silvrin."""
    text = resources.files("silvrin.shelf").joinpath("outputs.json").read_text("utf-8")
    return tuple(TypeAdapter(list[OutputSet]).validate_json(text))


def output_sets(connection: sqlite3.Connection) -> list[OutputSet]:
    """All sets: those that come with Silvrin, and own ones in the order in which they were made."""
    rows = connection.execute("SELECT id, name, outputs FROM output_sets ORDER BY id")
    own = [
        OutputSet(
            id=str(row["id"]), name=row["name"], own=True,
            outputs=_OUTPUTS.validate_json(row["outputs"]),
        )
        for row in rows
    ]  # fmt: skip
    return [*shipped_sets(), *own]


def keep_set(
    connection: sqlite3.Connection, name: str, outputs: tuple[Output, ...], set_id: int | None
) -> OutputSet:
    """A new own set, or one that is changed; raises NotFound, and Conflict for a name that is
    taken."""
    values = {
        "id": set_id, "name": name, "outputs": _OUTPUTS.dump_json(outputs).decode(), "at": now(),
    }  # fmt: skip
    if set_id is None:
        statement = """
            INSERT INTO output_sets (name, outputs, made_at) VALUES (:name, :outputs, :at)
            RETURNING id
        """
    else:
        statement = """
            UPDATE output_sets SET name = :name, outputs = :outputs WHERE id = :id RETURNING id
        """
    try:
        if any(name == each.name for each in shipped_sets()):
            raise sqlite3.IntegrityError
        made = connection.execute(statement, values).fetchone()
    except sqlite3.IntegrityError as error:
        raise Conflict(f"There is a set {name!r} already; take another name.") from error
    if made is None:
        raise NotFound(f"There is no own set {set_id}.")
    return OutputSet(id=str(made["id"]), name=name, outputs=outputs, own=True)


def remove_set(connection: sqlite3.Connection, set_id: int) -> None:
    """Raises NotFound."""
    if not connection.execute("DELETE FROM output_sets WHERE id = ?", (set_id,)).rowcount:
        raise NotFound(f"There is no own set {set_id}.")


def profiles(connection: sqlite3.Connection) -> list[OwnProfile]:
    """The profiles of the shelf, by name."""
    rows = connection.execute("SELECT id, name, colours FROM profiles ORDER BY name, id")
    return [OwnProfile.model_validate(dict(row)) for row in rows]


def add_profile(connection: sqlite3.Connection, name: str, content: bytes) -> OwnProfile:
    """Put an ICC profile on the shelf; raises SilvrinError for what is none of an output."""
    made = OwnProfile(
        id=hashlib.sha256(content).hexdigest(), name=name,
        colours=kind_of_profile(content, name).strip(),
    )  # fmt: skip
    connection.execute(
        """
        INSERT INTO profiles (id, name, colours, content, added_at)
        VALUES (:id, :name, :colours, :content, :at)
        ON CONFLICT (id) DO UPDATE SET name = excluded.name
        """,
        {**made.model_dump(), "content": content, "at": now()},
    )
    return made


def profile(connection: sqlite3.Connection, profile_id: str | None) -> bytes | None:
    """The content of a profile; None for one that is not on the shelf."""
    row = connection.execute("SELECT content FROM profiles WHERE id = ?", (profile_id,)).fetchone()
    return bytes(row["content"]) if row else None


def remove_profile(connection: sqlite3.Connection, profile_id: str) -> None:
    """Take a profile off the shelf; raises NotFound, and Conflict where a set prints through it."""
    users = [
        each.name for each in output_sets(connection)
        if any(output.profile == profile_id for output in each.outputs)
    ]  # fmt: skip
    if users:
        raise Conflict(
            f"The set {users[0]!r} prints through this profile; give it other colours first."
        )
    if not connection.execute("DELETE FROM profiles WHERE id = ?", (profile_id,)).rowcount:
        raise NotFound("There is no such profile on the shelf.")
