"""What lies on the shelf, as open JSON: a stock, a lens filter or a light in a file of its own.

Units and ranges stand in the fields. A spectrum is a table over wavelength in even steps; it is
taken between its entries in a straight line, and beyond its ends a film sees nothing, while glass
and light keep their last value.
"""

from itertools import pairwise
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from ..core.film.curve import characteristic_curve
from ..core.film.stock import CurveShape, Stock
from ..core.light.lens_filter import LensFilter
from ..core.light.shelf_light import ShelfLight
from ..core.paper.paper import HARDEST, SOFTEST, Paper
from ..core.recipe import ItemId, TonerSettings
from ..core.recipe.wording import explain
from ..core.spectra.grid import WAVELENGTHS, Spectrum
from ..core.toner.measured import MeasuredToner, Takes
from ..errors import BadItem

FORMAT: Literal["silvrin-shelf-1"] = "silvrin-shelf-1"
Name = Annotated[str, Field(min_length=1, max_length=60)]
Text = Annotated[str, Field(max_length=2000)]
Kind = Literal["stock", "filter", "light", "paper", "toner", "toning"]


class Part(BaseModel):
    """A part of an item."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class Table(Part):
    """Where the entries of a spectrum lie."""

    from_nm: float = Field(ge=200, le=1200)
    step_nm: float = Field(ge=0.5, le=50)

    def on_grid(self, values: list[float], below: float | None, above: float | None) -> Spectrum:
        """Values at the wavelengths Silvrin computes with, (53,)."""
        at = self.from_nm + self.step_nm * np.arange(len(values))
        return np.asarray(np.interp(WAVELENGTHS, at, values, left=below, right=above))


class Sensitivity(Table):
    """Sensitivity of a film to energy: log10, 0 where it is highest."""

    log10: list[Annotated[float, Field(ge=-8, le=2)]] = Field(min_length=2, max_length=2000)

    def spectrum(self) -> Spectrum:
        """Relative sensitivity, largest 1."""
        logs = self.on_grid(self.log10, -99.0, -99.0)
        values = np.where(logs > -90.0, 10.0**logs, 0.0)
        return np.asarray(values / max(values.max(), 1e-12))


class Transmittance(Table):
    """What a filter lets through, parts of 1."""

    transmittance: list[Annotated[float, Field(ge=0, le=1)]] = Field(min_length=2, max_length=2000)


class Power(Table):
    """Spectral power of a light, in any unit."""

    power: list[Annotated[float, Field(ge=0, le=1e9)]] = Field(min_length=2, max_length=2000)

    @model_validator(mode="after")
    def _not_dark(self) -> "Power":
        if not any(self.power):
            raise ValueError("a light needs power at some wavelength")
        return self


class Curve(Part):
    """Shape of a characteristic curve; slope and toe follow from the zone system at N."""

    base_fog: float = Field(ge=0, le=1.5, description="Density of base and fog.")
    toe: float = Field(ge=0.03, le=0.6, description="Softness of the toe, log10 H.")
    shoulder: float = Field(
        ge=1.0, le=6, description="Where the shoulder bends, log10 H above Zone V."
    )
    shoulder_softness: float = Field(ge=0.05, le=1.0, description="log10 H.")

    @model_validator(mode="after")
    def _rises(self) -> "Curve":
        curve = characteristic_curve(CurveShape(**self.model_dump()))
        density = curve.density(np.linspace(-6.0, 5.0, 500))
        if np.diff(density).min() < -1e-6:
            raise ValueError(
                "with this toe and shoulder density would fall with exposure; "
                "make the shoulder's softness smaller or put the shoulder further up"
            )
        return self


class StockItem(Part):
    """A film."""

    id: ItemId
    name: Name
    kind: Name = Field(description="For instance panchromatic.")
    speed: int = Field(ge=1, le=25600, description="ISO speed.")
    sensitivity: Sensitivity
    curve: Curve
    granularity: float = Field(
        ge=1, le=100, description="rms, 1000 × deviation of density at 1.0 through 48 µm."
    )
    grain: float = Field(ge=0.2, le=12, description="µm, spread of the spot a grain makes.")
    grain_kind: Literal["cubic", "tabular"]
    halation: float = Field(ge=0, le=0.5, description="Share of red light the base returns.")
    resolving_power: int = Field(ge=10, le=1000, description="Lines per mm, high contrast.")
    least_n: float = Field(-2.0, ge=-2, le=0, description="Least development it stands.")
    most_n: float = Field(2.0, ge=0, le=2, description="Most development it stands.")
    about: Text = ""
    source: Text = ""

    def made(self) -> Stock:
        """The stock as the light path wants it."""
        plain = self.model_dump(exclude={"sensitivity", "curve"})
        curve = CurveShape(**self.curve.model_dump())
        return Stock(**plain, sensitivity=self.sensitivity.spectrum(), curve=curve)


class FilterItem(Part):
    """A lens filter."""

    id: ItemId
    name: Name
    colour: Name
    spectrum: Transmittance
    about: Text = ""
    source: Text = ""

    def made(self) -> LensFilter:
        """The filter as the light path wants it."""
        values = self.spectrum.on_grid(self.spectrum.transmittance, None, None)
        return LensFilter(**self.model_dump(exclude={"spectrum"}), transmittance=values)


class LightItem(Part):
    """A light."""

    id: ItemId
    name: Name
    kind: Name
    spectrum: Power
    about: Text = ""
    source: Text = ""

    def made(self) -> ShelfLight:
        """The light as the light path wants it."""
        values = self.spectrum.on_grid(self.spectrum.power, None, None)
        if not values.any():
            raise BadItem(f"{self.name}: the light has no power between 380 and 900 nm.")
        return ShelfLight(
            **self.model_dump(exclude={"spectrum"}), power=np.asarray(values / values.max())
        )


class GradeRange(Part):
    """A grade of a paper that was measured."""

    grade: float = Field(ge=SOFTEST, le=HARDEST)
    log_range: float = Field(ge=0.3, le=3, description="log10 exposure between t and s, ISO 6846.")


class PaperItem(Part):
    """A paper; densities are reflection densities."""

    id: ItemId
    name: Name
    surface: Name = "glossy"
    support: Literal["fibre", "resin-coated"] = "fibre"
    kind: Literal["variable contrast", "fixed grades"] = "variable contrast"
    base_density: float = Field(ge=0, le=0.6)
    net_density: float = Field(ge=0.5, le=3, description="Greatest density above the base.")
    toe: float = Field(ge=0.02, le=0.7, description="Of the shape, parts of its range.")
    shoulder: float = Field(ge=0.01, le=0.4, description="Of the shape, parts of its range.")
    speed: int = Field(ge=1, le=10000, description="ISO P.")
    tint: str = Field("#fbfaf6", pattern=r"^#[0-9a-f]{6}$", description="Of its base, in sRGB.")
    image: tuple[Annotated[float, Field(ge=-60, le=60)], Annotated[float, Field(ge=-60, le=60)]] = (
        Field((0.0, 0.0), description="a* and b* of its middle tones beside the base.")
    )
    process: bool = Field(False, description="A historic one, whose own tone is printed.")
    grades: list[Annotated[int, Field(ge=-1, le=5)]] = Field([], max_length=7)
    ranges: list[GradeRange] = Field([], max_length=14, description="Measured ones.")
    about: Text = ""
    source: Text = ""

    @model_validator(mode="after")
    def _has_its_grades(self) -> "PaperItem":
        if self.kind == "fixed grades" and not self.grades:
            raise ValueError("a paper of fixed grades names them; give at least one of -1 to 5")
        at = [each.grade for each in self.ranges]
        if at != sorted(set(at)):
            raise ValueError("measured grades are told in rising order, each once")
        return self

    def made(self) -> Paper:
        """The paper as the light path wants it."""
        plain = self.model_dump(exclude={"grades", "ranges", "image"})
        return Paper(
            **plain,
            grades=tuple(self.grades),
            image=self.image,
            ranges=tuple((each.grade, each.log_range) for each in self.ranges),
        )


class TonerRow(Part):
    """What a toner makes of silver of a density."""

    density: float = Field(ge=0, le=4, description="Of the silver, above the base.")
    times: float = Field(ge=0.2, le=2, description="Density of the toned image beside it.")
    red: float = Field(ge=0, le=4, description="In red light, beside its visual density.")
    green: float = Field(ge=0, le=4)
    blue: float = Field(ge=0, le=4)


class TonerItem(Part):
    """A toner that was measured, toned to the end."""

    id: ItemId
    name: Name
    takes: Takes = Field("throughout", description="Which densities go first.")
    rows: list[TonerRow] = Field(min_length=2, max_length=64)
    about: Text = ""
    source: Text = ""

    @model_validator(mode="after")
    def _rises(self) -> "TonerItem":
        at = [row.density for row in self.rows]
        if at != sorted(set(at)):
            raise ValueError("the rows of a toner are told by rising density, each once")
        dense = [row.density * row.times for row in self.rows]
        if any(after < before - 0.02 for before, after in pairwise(dense)):
            raise ValueError(
                "with these rows a denser place would be toned lighter than one before it; measure "
                "the steps that fall once more"
            )
        return self

    def made(self) -> MeasuredToner:
        """The toner as the light path wants it."""
        rows = self.rows
        return MeasuredToner(
            self.id,
            self.name,
            self.takes,
            tuple(row.density for row in rows),
            tuple(row.times for row in rows),
            tuple((row.red, row.green, row.blue) for row in rows),
        )


class ToningItem(Part):
    """A toning set: settings of the Toner under a name."""

    id: ItemId
    name: Name
    toner: TonerSettings
    about: Text = ""
    source: Text = ""

    def made(self) -> TonerSettings:
        """What it sets."""
        return self.toner


Item = StockItem | FilterItem | LightItem | PaperItem | TonerItem | ToningItem
KINDS: dict[Kind, type[Item]] = {
    "stock": StockItem,
    "filter": FilterItem,
    "light": LightItem,
    "paper": PaperItem,
    "toner": TonerItem,
    "toning": ToningItem,
}


class ItemFile(BaseModel):
    """An item in a file of its own."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"$id": FORMAT})
    format: Literal["silvrin-shelf-1"] = FORMAT
    kind: Kind
    item: dict[str, Any]

    def read(self) -> Item:
        """The item; raises BadItem naming each field that does not hold."""
        try:
            item = KINDS[self.kind].model_validate(self.item)
        except ValidationError as error:
            raise BadItem(f"{self.kind}: {'; '.join(explain(error))}.") from error
        item.made()
        return item


def kind_of(item: Item) -> Kind:
    """What an item is."""
    return next(kind for kind, model in KINDS.items() if isinstance(item, model))


def read_item(text: str | bytes, name: str = "file") -> Item:
    """An item from the JSON text of its file; raises BadItem naming what does not hold."""
    try:
        return ItemFile.model_validate_json(text).read()
    except ValidationError as error:
        raise BadItem(f"{name}: {'; '.join(explain(error))}.") from error


def item_text(item: Item) -> str:
    """The JSON text of an item's file; `read_item` reads it back."""
    file = ItemFile(kind=kind_of(item), item=item.model_dump())
    return file.model_dump_json(indent=2) + "\n"
