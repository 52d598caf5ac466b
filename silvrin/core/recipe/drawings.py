"""Drawings apart from settings: mends, outlines, the passes of the printing map, the strokes of
their brushes and the inks of signatures are kept on sheets; a recipe names the sheets, and a pass
those of its strokes.

A sheet is JSON text that is never changed. Its name is the first half of the SHA-256 of that text,
so it is written, sent and kept once, whatever recipes name it; a change of one mend writes the one
sheet it is on. A sheet holds things of one kind.
"""

import hashlib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import TypeVar

from pydantic import Field, ValidationError, model_validator

from ...errors import BadRecipe
from ..capture.settings import MOST_MENDS, MOST_OUTLINES, Mend, Outline
from ..enlarger.shapes import MOST_STROKES, Brush, Pass, Stroke
from ..mount.settings import Ink
from ..settings import Settings
from . import Recipe
from .wording import explain

MOST_TEXT = 1 << 17  # bytes of a sheet
MOST_PASSES = 200  # of a print
T = TypeVar("T")
Thing = TypeVar("Thing", bound=Settings)

FULL_TEXT = 8000  # bytes from which a sheet that is drawn on takes no more


class Sheet(Settings):
    """What is drawn on one sheet: mends, outlines, passes, strokes or an ink."""

    mends: tuple[Mend, ...] = ()
    outlines: tuple[Outline, ...] = ()
    passes: tuple[Pass, ...] = ()
    strokes: tuple[Stroke, ...] = ()
    inks: tuple[Ink, ...] = Field((), max_length=1)

    @model_validator(mode="after")
    def _one_kind(self) -> "Sheet":
        held = (self.mends, self.outlines, self.passes, self.strokes, self.inks)
        if sum(map(bool, held)) != 1:
            raise ValueError(
                "a sheet holds mends, outlines, passes, strokes or an ink, one of these"
            )
        return self


@dataclass(frozen=True)
class Drawings:
    """What the sheets of a recipe hold, in order; strokes by the sheet they are on."""

    mends: tuple[Mend, ...] = ()
    protected: tuple[Outline, ...] = ()
    passes: tuple[Pass, ...] = ()
    strokes: Mapping[str, tuple[Stroke, ...]] = field(default_factory=dict)
    inks: Mapping[str, Ink] = field(default_factory=dict)  # by their sheets


PLAIN = Drawings()


@dataclass
class Sheets:
    """Sheets by their names."""

    texts: dict[str, str] = field(default_factory=dict)

    def put(self, sheet: Sheet) -> str:
        """A sheet's name; it is among the texts from now on."""
        text = sheet.model_dump_json(exclude_defaults=True)
        name = name_of(text)
        self.texts[name] = text
        return name

    def of(self, recipe: Recipe) -> Drawings:
        """What is on the sheets of a recipe; raises BadRecipe when one is missing."""
        known = {name: read_sheet(text) for name, text in self.texts.items()}
        return drawn(recipe, known)

    def mends(self, mends: Iterable[Mend]) -> tuple[str, ...]:
        """The names of sheets that hold these mends."""
        return tuple(self.put(Sheet(mends=part)) for part in _parts(mends))

    def outlines(self, outlines: Iterable[Outline]) -> tuple[str, ...]:
        """The names of sheets that hold these outlines."""
        return tuple(self.put(Sheet(outlines=part)) for part in _parts(outlines))

    def passes(self, passes: Iterable[Pass]) -> tuple[str, ...]:
        """The names of sheets that hold these passes."""
        return tuple(self.put(Sheet(passes=part)) for part in _parts(passes))

    def strokes(self, strokes: Iterable[Stroke]) -> tuple[str, ...]:
        """The names of sheets that hold these strokes."""
        return tuple(self.put(Sheet(strokes=part)) for part in _parts(strokes))


def name_of(text: str) -> str:
    """The name of a sheet: 32 hexadecimal digits."""
    return hashlib.sha256(text.encode()).hexdigest()[:32]


def read_sheet(text: str) -> Sheet:
    """A sheet from its text; raises BadRecipe."""
    if len(text.encode()) > MOST_TEXT:
        raise BadRecipe(
            f"A sheet of drawings has {len(text.encode())} bytes; at most {MOST_TEXT} are taken. "
            "Draw with fewer points, or on several sheets."
        )
    try:
        return Sheet.model_validate_json(text)
    except ValidationError as error:
        raise BadRecipe(f"A sheet of drawings: {'; '.join(explain(error))}.") from error


def sheets_named(recipe: Recipe) -> tuple[str, ...]:
    """The names of the sheets that a recipe names itself."""
    return (
        *recipe.capture.mends,
        *recipe.capture.protected,
        *recipe.enlarger.passes,
        *inks_named(recipe),
    )


def inks_named(recipe: Recipe) -> tuple[str, ...]:
    """The names of the sheets that its inscriptions are drawn on."""
    return tuple(each.ink for each in recipe.mount.inscriptions if each.ink)


def strokes_named(passes: Iterable[Pass]) -> tuple[str, ...]:
    """The names of the sheets that the brushes of passes name."""
    return tuple(
        name
        for each in passes
        for shape in each.shapes
        if isinstance(shape, Brush)
        for name in shape.strokes
    )


def drawn(recipe: Recipe, sheets: Mapping[str, Sheet]) -> Drawings:
    """What the sheets that a recipe names hold; raises BadRecipe for one that is missing, of
    another kind, or when there are too many things on them."""

    def sheet(name: str) -> Sheet:
        if name not in sheets:
            raise unknown(name)
        return sheets[name]

    mends, outlines, passes = (
        tuple(thing for name in names for thing in _of_kind(getattr(sheet(name), kind), name, kind))
        for kind, names in (
            ("mends", recipe.capture.mends),
            ("outlines", recipe.capture.protected),
            ("passes", recipe.enlarger.passes),
        )
    )
    strokes = {
        name: _of_kind(sheet(name).strokes, name, "strokes") for name in strokes_named(passes)
    }
    inks = {name: _of_kind(sheet(name).inks, name, "inks")[0] for name in inks_named(recipe)}
    counts = (
        (len(mends), MOST_MENDS, "mends"),
        (len(outlines), MOST_OUTLINES, "outlines"),
        (len(passes), MOST_PASSES, "passes"),
        (sum(map(len, strokes.values())), MOST_STROKES, "strokes"),
    )
    for found, most, what in counts:
        if found > most:
            raise BadRecipe(f"The recipe has {found} {what}; at most {most} are possible.")
    return Drawings(mends, outlines, passes, strokes, inks)


def unknown(name: str) -> BadRecipe:
    """Says that a sheet is not there."""
    return BadRecipe(
        f"The recipe names a sheet of drawings {name} that is not known here. "
        "Send the sheet with the recipe."
    )


def _of_kind(found: tuple[T, ...], name: str, kind: str) -> tuple[T, ...]:
    if not found:
        raise BadRecipe(
            f"The sheet of drawings {name} holds no {kind}, as the recipe says it does."
        )
    return found


def _parts(things: Iterable[Thing]) -> list[tuple[Thing, ...]]:
    """Things dealt out to sheets, in order, each about as full as a sheet gets."""
    parts: list[tuple[Thing, ...]] = []
    room = 0
    for thing in things:
        size = len(thing.model_dump_json(exclude_defaults=True)) + 1
        if size > room or not parts:
            parts.append(())
            room = FULL_TEXT
        parts[-1] = (*parts[-1], thing)
        room -= size
    return parts
