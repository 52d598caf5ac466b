"""The Python interface: a capture is opened, taken under a recipe, and given as arrays or files.

>>> import silvrin
>>> capture = silvrin.open_capture(silvrin.demo("bottle kiln"))
>>> capture.width, capture.height
(2400, 1600)
>>> made = capture.proposed()
>>> made.says.startswith("shadow on III")
True
>>> made.numbers(long_side=600).shape, made.numbers(long_side=600).dtype
((400, 600), dtype('uint16'))
>>> harder = made.changed(paper={"grade": 4})
>>> harder.recipe.paper.grade
4.0
>>> round(float(harder.density(long_side=600).max()), 1) > 1.0  # of the negative
True

Names here stay as they are from one version to the next.
"""

import json
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import ValidationError

from . import shelf
from .core.contact.process import ContactProcess
from .core.recipe import Recipe
from .core.recipe.drawings import Sheets
from .core.recipe.files import read_recipe, write_recipe
from .core.recipe.wording import explain
from .core.render import Darkroom, Sitting, densities, layout_for, mounted_strips, strips
from .core.render.proposing import proposed
from .errors import BadRecipe, NotFound, SilvrinError
from .files.capture import read_capture
from .files.delivery import About, Carried, Made, Output, deliver, location_of
from .files.delivery import deliver_together as together
from .files.kinds import is_rendered
from .files.metadata import Metadata
from .store.reception import hash_of

__all__ = ["Capture", "Print", "deliver_together", "demo", "open_capture", "read_recipe_file"]


def open_capture(path: str | Path) -> "Capture":
    """A capture from a file: a camera raw, or any picture that can be taken in. Raises BadCapture.

    >>> open_capture("nothing.dng")
    Traceback (most recent call last):
        ...
    silvrin.errors.BadCapture: nothing.dng: cannot be read (No such file or directory).
    """
    path = Path(path)
    found = read_capture(path)
    rendered = is_rendered(path, found.kind)
    return Capture(path, found.metadata, Sitting(path, found.picture(), _PLAIN, rendered=rendered))


def demo(title: str) -> Path:
    """The file of a capture of the demo job, by its title."""
    from .demo_job import demo_capture

    return demo_capture(title)


def read_recipe_file(path: str | Path) -> tuple[Recipe, Sheets]:
    """A recipe with its drawings from a file of any version; raises BadRecipe."""
    path = Path(path)
    try:
        return read_recipe(path.read_bytes(), shelf.shipped().zone_part, str(path))
    except OSError as error:
        raise BadRecipe(f"{path}: cannot be read ({error.strerror}).") from error


@dataclass(frozen=True)
class Capture:
    """A colour capture: linear light, and what its camera wrote."""

    path: Path
    metadata: Metadata
    _sitting: Sitting = field(repr=False)

    @property
    def width(self) -> int:
        """Pixels."""
        return self._sitting.capture.width

    @property
    def height(self) -> int:
        """Pixels."""
        return self._sitting.capture.height

    @cached_property
    def sha256(self) -> str:
        """Of the file: by it prints know their capture."""
        return hash_of(self.path)

    def under(
        self,
        recipe: Recipe | Mapping[str, Any] | str | Path | None = None,
        sheets: Sheets | None = None,
    ) -> "Print":
        """The print of a recipe: an object (with what is drawn on its sheets), settings by station,
        or a file. Raises BadRecipe."""
        sheets = sheets or Sheets()
        if isinstance(recipe, str | Path):
            recipe, sheets = read_recipe_file(recipe)
        elif recipe is None:
            recipe = Recipe()
        elif not isinstance(recipe, Recipe):
            recipe, sheets = read_recipe(json.dumps(recipe), shelf.shipped().zone_part, "recipe")
        return Print(self, recipe, sheets)

    def proposed(
        self,
        recipe: Recipe | Mapping[str, Any] | str | Path | None = None,
        sheets: Sheets | None = None,
    ) -> "Print":
        """The print that is proposed for this capture, on a recipe: metered, placed, developed,
        timed and graded."""
        begun = self.under(recipe, sheets)
        found = proposed(Darkroom(), begun._seen)
        return replace(begun, recipe=found.recipe, says=found.says)

    def starting(self, name: str) -> "Print":
        """The print as a starting print has it, by its id. Raises NotFound."""
        start = shelf.starting_prints().get(name)
        if start is None:
            raise NotFound(
                f"There is no starting print {name!r}; there is "
                f"{', '.join(shelf.starting_prints())}."
            )
        begun = self.under(start.on(Recipe()))
        found = proposed(Darkroom(), begun._seen, start.aims)
        return replace(begun, recipe=found.recipe, says=found.says)


def deliver_together(
    prints: Iterable["Print"],
    target: str | Path,
    output: Output | None = None,
    many: int = 1,
    progress: Callable[[float], None] = lambda share: None,
    wanted: Callable[[], bool] = lambda: True,
    **settings: Any,
) -> Made:
    """Write prints to the pages of one PDF: `deliver_together(prints, "a.pdf", page={"paper": "a4",
    "columns": 2, "rows": 3})`. They are taken one after another, so that a generator need not hold
    all of them; `many` is how many there are, for `progress`. Raises SilvrinError."""
    output = output or _output({"format": "pdf", **settings})
    about = About(creator=output.creator, rights=output.rights, keywords=output.keywords)
    coming = ((each._seen, each.about(output)) for each in prints)
    return together(
        coming, many, Path(target), output, about, progress=progress, wanted=wanted
    )  # fmt: skip


def _output(settings: Mapping[str, Any]) -> Output:
    try:
        return Output.model_validate(settings)
    except ValidationError as error:
        raise SilvrinError(f"{'; '.join(explain(error))}.") from error


@dataclass(frozen=True)
class Print:
    """A capture under a recipe."""

    capture: Capture
    recipe: Recipe
    sheets: Sheets = field(default_factory=Sheets, repr=False)
    says: str = ""  # why it is proposed so

    @cached_property
    def _seen(self) -> Sitting:
        drawings = self.sheets.of(self.recipe.in_force)
        return self.capture._sitting.under(shelf.light_path(self.recipe, drawings))

    def changed(self, **stations: Mapping[str, Any]) -> "Print":
        """The print with other settings, by station: `changed(paper={"grade": 3})`. Raises
        BadRecipe."""
        document = json.loads(self.recipe_text())
        parts = {"of_frame": document.pop("of_frame"), "look": document.pop("look")}
        for station, settings in stations.items():
            for name, value in settings.items():
                part = "of_frame" if name in parts["of_frame"].get(station, {}) else "look"
                parts[part].setdefault(station, {})[name] = value
        text = json.dumps({**document, **parts})
        recipe, sheets = read_recipe(text, shelf.shipped().zone_part, "recipe")
        return replace(self, recipe=recipe, sheets=sheets)

    def recipe_text(self) -> str:
        """The recipe with its drawings as the text of a file."""
        return write_recipe(self.recipe, self.sheets)

    def numbers(self, long_side: int | None = None, bits: int = 16) -> NDArray[Any]:
        """Output numbers of the mounted print, (H, W) or with colour (H, W, 3), uint16 or uint8,
        encoded as sRGB; as many as a file of that long side has."""
        if self.recipe.in_force.mount.changes_picture:
            return np.concatenate(list(mounted_strips(self._seen, long_side, bits)))
        lay = layout_for(self._seen, long_side).whole
        return np.concatenate(list(strips(self._seen, (lay.width, lay.height), bits)))

    def density(self, long_side: int | None = None) -> NDArray[np.float32]:
        """Density of the negative above base and fog, (H, W), with its grain."""
        size = self._size(long_side)
        return np.concatenate(list(densities(self._seen, size)))

    def log_exposure(self, long_side: int = 2400) -> NDArray[np.float32]:
        """log10 H of the film, (H, W): 0 where a metered grey lies, on Zone V."""
        view = self._seen.picture.whole(long_side)
        return Darkroom().exposure(self._seen, view).pixels * np.float32(np.log10(2.0))

    def deliver(
        self,
        target: str | Path,
        output: Output | None = None,
        progress: Callable[[float], None] = lambda share: None,
        process: ContactProcess | None = None,
        wanted: Callable[[], bool] = lambda: True,
        **settings: Any,
    ) -> Made:
        """Write the print to a file, by an output or its settings: `deliver("a.jpg", format="jpeg",
        size={"by": "long", "value": 2048})`. `process` linearises a contact negative. Raises
        SilvrinError, and Dropped when it is no longer wanted."""
        output = output or _output(settings)
        about = self.about(output)
        return deliver(
            self._seen, Path(target), output, about, process=process, progress=progress,
            wanted=wanted,
        )  # fmt: skip

    def about(self, output: Output) -> About:
        """What a file of this print says of itself."""
        capture = self.capture
        return About(
            title=capture.path.stem, creator=output.creator, rights=output.rights,
            keywords=output.keywords, camera=capture.metadata if output.camera else Metadata(),
            location=location_of(capture.path) if output.location else None,
            carried=Carried(self.recipe_text(), capture.sha256, capture.path.name),
        )  # fmt: skip

    def _size(self, long_side: int | None) -> tuple[int, int] | None:
        if long_side is None:
            return None
        view = self._seen.picture.whole(long_side)
        return view.out_width, view.out_height


_PLAIN = shelf.light_path(Recipe())
