"""The shelf as JSON: what lies on it, its figures, own items, and measurements."""

from functools import lru_cache
from typing import Any, Literal

import numpy as np
from fastapi import APIRouter, Response
from pydantic import BaseModel, ConfigDict, Field

from ..core.development.developer import DEVELOPERS
from ..core.film.curve import characteristic_curve
from ..core.film.placement import development_for
from ..core.film.sensitometry import (
    ISO_RISE,
    contrast_index,
    fit_wedge,
    index_of,
    speed_point,
    stock_from,
)
from ..core.film.stock import Stock
from ..core.film.zones import LOG10_STOP
from ..core.light.lens_filter import ANY_HUE, MOST_FACTOR, filter_factor, hue_filter
from ..core.paper.curve import paper_curve
from ..core.paper.paper import Paper
from ..core.spectra.grid import STEP, WAVELENGTHS
from ..core.spectra.illuminants import light
from ..errors import BadItem, NotFound
from ..files.measurements import WEDGE_STEP, read_spectrum, read_wedge
from ..shelf import BY_TEMPERATURE, shipped
from ..shelf import Shelf as Shelves
from ..shelf.items import KINDS, Curve, ItemFile, Kind, item_text, kind_of
from ..store import shelf_items
from ..store.library import Library

MOST_TEXT = 2_000_000  # characters of a measurement
DENSITIES = [round(0.1 * k, 1) for k in range(1, 26)]


class Line(BaseModel):
    """A curve: x and y in the units its place names."""

    x: list[float]
    y: list[float]


class ShelfStock(BaseModel):
    """A film on the shelf."""

    id: str
    name: str
    kind: str
    own: bool
    speed: int
    sensitivity: list[float]  # 380-900 nm, 10 nm
    granularity: float  # rms, 1000 × deviation of density at 1.0 through 48 µm
    grain: float  # µm
    grain_kind: str
    halation: float  # share of red light that the base returns
    resolving_power: int  # lines per mm
    least_n: float  # developments it stands
    most_n: float
    contrast_index: float | None  # developed to N
    curve: Line  # log10 H from Zone V, density, developed to N
    grain_by_density: Line  # density above base, 1000 × its deviation through 48 µm
    about: str
    source: str


class ShelfFilter(BaseModel):
    """A lens filter on the shelf."""

    id: str
    name: str
    colour: str
    own: bool
    transmittance: list[float]  # 380-900 nm, 10 nm
    about: str
    source: str


class ShelfLight(BaseModel):
    """A light on the shelf."""

    id: str
    name: str
    kind: str
    own: bool
    power: list[float]  # 380-900 nm, 10 nm, largest 1
    about: str
    source: str


class ShelfPaper(BaseModel):
    """A paper on the shelf."""

    id: str
    name: str
    surface: str
    support: str
    kind: str
    grades: list[int]  # of fixed grades
    base_density: float
    net_density: float
    speed: int  # ISO P
    tint: str
    curve: Line  # log10 E from the speed point, net density, at grade 2 or the nearest
    about: str
    source: str


class ShelfDeveloper(BaseModel):
    """A kind of developer."""

    kind: str
    speed: float  # stops
    granularity: float  # × the stock's
    about: str


class Shelf(BaseModel):
    """What there is to choose from."""

    stocks: list[ShelfStock]
    filters: list[ShelfFilter]
    lights: list[ShelfLight]
    papers: list[ShelfPaper]
    developers: list[ShelfDeveloper]


class Factor(BaseModel):
    """What a filter costs."""

    filter: str
    light: str
    factor: float
    blind: bool  # the film sees as good as nothing behind it


class Factors(BaseModel):
    """Filter factors of a stock by lights."""

    stock: str
    factors: list[Factor]


class DevelopmentProposal(BaseModel):
    """The development that brings a spot to a zone."""

    n: float
    lands_on: float  # zone
    reached: bool  # N is limited to what the stock stands
    speed: float  # stops of speed it brings or costs


class Measurement(BaseModel):
    """A measurement to be read: the text of a CSV or CGATS.17 file."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)
    kind: Literal["wedge", "filter", "light", "sensitivity"]
    text: str = Field(max_length=MOST_TEXT)
    name: str = Field("file", max_length=200)
    step: float = Field(
        WEDGE_STEP, gt=0.01, le=1, description="log10 exposure between numbered steps."
    )


class Fitted(BaseModel):
    """What a step wedge gives."""

    points: Line  # log10 exposure, density, as measured
    curve: Line  # of the fit
    residuals: list[float]  # density, measured less fitted, by point
    rms: float  # of the residuals, density
    absolute: bool  # exposures are in lx·s, so that speed is absolute
    speed: float | None  # 0.80 lx·s over the exposure of the speed point
    iso: bool  # developed as ISO 6 asks, so that the speed is an ISO speed
    rise: float | None  # of density over 1.30 beyond the speed point
    contrast_index: float | None
    n: float | None  # the development the wedge had
    shape: Curve | None  # of the stock's curves
    zone_v: float | None  # log10 exposure of Zone V


class Measured(BaseModel):
    """What was read from a measurement."""

    notes: list[str]
    wedge: Fitted | None = None
    spectrum: dict[str, Any] | None = None  # a table as shelf files have it


def _round(values: np.ndarray, digits: int = 5) -> list[float]:
    return [round(float(v), digits) for v in values]


@lru_cache(maxsize=128)
def _grain_line(granularity: float) -> Line:
    """Granularity over density above base: it grows as its root."""
    deviations = granularity * np.sqrt(np.array(DENSITIES))
    return Line(x=DENSITIES, y=_round(deviations, 2))


@lru_cache(maxsize=256)
def _described(stock: Stock, own: bool) -> ShelfStock:
    curve = characteristic_curve(stock.curve)
    log_h = np.linspace(-10, 10, 81) * LOG10_STOP
    index = index_of(curve)
    return ShelfStock(
        **{k: v for k, v in vars(stock).items() if k not in ("sensitivity", "curve")},
        own=own,
        sensitivity=_round(stock.sensitivity),
        contrast_index=None if index is None else round(index, 3),
        curve=Line(x=_round(log_h, 4), y=_round(curve.density(log_h), 4)),
        grain_by_density=_grain_line(stock.granularity),
    )


def _paper(paper: Paper) -> ShelfPaper:
    log_e = np.linspace(-1.4, 1.4, 57)
    density = paper_curve(paper, paper.grade(2.0)).density(log_e)
    known = {k: v for k, v in vars(paper).items() if k in ShelfPaper.model_fields}
    known["grades"] = list(paper.grades)
    return ShelfPaper(**known, curve=Line(x=_round(log_e, 3), y=_round(density, 4)))


def describe(shelf: Shelves) -> Shelf:
    """All that lies on a shelf."""
    own = shipped()
    filters = [(item.made(), item.id not in own.filters) for item in shelf.filters.values()]
    filters.append((hue_filter(30.0), False))
    return Shelf(
        stocks=[_described(shelf.stock(name), name not in own.stocks) for name in shelf.stocks],
        filters=[
            ShelfFilter(**{**vars(f), "transmittance": _round(f.transmittance)}, own=mine)
            for f, mine in filters
        ],
        lights=[
            ShelfLight(**{**vars(made), "power": _round(made.power)}, own=item.id not in own.lights)
            for item in shelf.lights.values()
            for made in [item.made()]
        ],
        papers=[_paper(p) for p in shelf.papers.values()],
        developers=[
            ShelfDeveloper(kind=d.kind, speed=d.speed, granularity=d.granularity, about=d.about)
            for d in DEVELOPERS.values()
        ],
    )


def factors_of(shelf: Shelves, stock: Stock) -> Factors:
    """Filter factors of a stock in daylight and in every light of the shelf."""
    lights = {"daylight": light(5500.0)}
    lights |= {name: item.made().power for name, item in shelf.lights.items()}
    found = []
    for name in shelf.filters:
        glass = shelf.lens_filter("filter", name, 0.0)
        for lit, power in lights.items():
            factor = filter_factor(power, glass.transmittance, stock.sensitivity)
            found.append(
                Factor(filter=name, light=lit, factor=round(factor, 3), blind=factor >= MOST_FACTOR)
            )
    return Factors(stock=stock.id, factors=found)


def measure(given: Measurement) -> Measured:
    """Read a measurement; raises BadItem naming row and reason."""
    if given.kind != "wedge":
        readings = read_spectrum(given.text, given.name)
        notes = list(readings.notes)
        inside = (readings.wavelengths[0] <= WAVELENGTHS) & (
            readings.wavelengths[-1] >= WAVELENGTHS
        )
        grid = WAVELENGTHS[inside]
        values = np.interp(grid, readings.wavelengths, readings.values)
        if given.kind == "sensitivity":
            logs = values if readings.logs else np.log10(np.maximum(values, 1e-8))
            field, values = "log10", np.clip(logs - logs.max(), -8.0, 0.0)
        elif given.kind == "filter":
            field = "transmittance"
            if values.max() > 1.5:
                values = values / 100.0
                notes.append("Values above 1 were read as per cent.")
            if values.max() > 1.0:
                raise BadItem(
                    f"{given.name}: a transmittance of {values.max():.2f} is more than 1 (or more "
                    "than 100 %); measure once more without the filter as the reference."
                )
        else:
            field, values = "power", values / max(values.max(), 1e-30)
        table = {"from_nm": float(grid[0]), "step_nm": float(STEP), field: _round(values)}
        return Measured(notes=notes, spectrum=table)

    wedge = read_wedge(given.text, given.name, given.step)
    fit = fit_wedge(wedge.log_exposure, wedge.density)
    notes = list(wedge.notes)
    span = np.linspace(wedge.log_exposure[0] - 0.3, wedge.log_exposure[-1] + 0.3, 121)
    result = Fitted(
        points=Line(x=_round(wedge.log_exposure, 4), y=_round(wedge.density, 4)),
        curve=Line(x=_round(span, 4), y=_round(fit.density(span), 4)),
        residuals=_round(fit.residuals, 4),
        rms=round(fit.rms, 4),
        absolute=wedge.absolute,
        speed=None,
        iso=False,
        rise=None,
        contrast_index=None,
        n=None,
        shape=None,
        zone_v=None,
    )
    fine = np.linspace(wedge.log_exposure[0], wedge.log_exposure[-1], 2001)
    try:
        point = speed_point(fine, fit.density(fine))
        result.rise = round(point.rise, 3)
        result.iso = abs(point.rise - ISO_RISE) <= 0.05
        if wedge.absolute:
            result.speed = round(point.speed, 1)
    except BadItem as error:
        notes.append(str(error))
    index = contrast_index(
        lambda h: float(fit.density(h)), fit.base_fog, fit.toe_at - 1.5, fit.toe_at + 1.0
    )
    result.contrast_index = None if index is None else round(index, 3)
    try:
        stock = stock_from(fit)
        result.n, result.zone_v = round(stock.n, 2), round(stock.zone_v, 4)
        result.shape = Curve(**vars(stock.shape))
    except BadItem as error:
        notes.append(str(error))
    except ValueError:
        notes.append("The fitted curve is no stock's: density would fall with exposure.")
    return Measured(notes=notes, wedge=result)


def shelf_router(library: Library) -> APIRouter:
    """Resources of the shelf."""
    router = APIRouter(prefix="/api")
    database = library.database

    def known(stock_id: str) -> Stock:
        if stock_id not in library.shelf.stocks:
            raise NotFound(f"There is no stock {stock_id!r} on the shelf.")
        return library.shelf.stock(stock_id)

    @router.get("/shelf")
    def get_shelf() -> Shelf:
        return describe(library.shelf)

    @router.get("/shelf/stocks/{stock_id}/factors")
    def get_factors(stock_id: str) -> Factors:
        return factors_of(library.shelf, known(stock_id))

    @router.get("/shelf/stocks/{stock_id}/development")
    def propose_development(stock_id: str, zone: float, target: float) -> DevelopmentProposal:
        stock = known(stock_id)
        return DevelopmentProposal(**vars(development_for(stock, zone, target)))

    @router.get("/shelf/{kind}/{item_id}/file")
    def get_file(kind: Kind, item_id: str) -> Response:
        """An item as a file of open JSON."""
        shelf = library.shelf
        found: dict[Kind, Any] = {
            "stock": shelf.stocks,
            "filter": shelf.filters,
            "light": shelf.lights,
        }
        item = found[kind].get(item_id)
        if item is None:
            raise NotFound(f"There is no {kind} {item_id!r} on the shelf.")
        name = f"{item_id}.{kind}.json"
        return Response(
            item_text(item),
            media_type="application/json",
            headers={"content-disposition": f'attachment; filename="{name}"'},
        )

    @router.get("/shelf-schema")
    def shelf_schema() -> dict[str, Any]:
        """JSON Schemas of the shelf's files, by kind."""
        return {kind: model.model_json_schema() for kind, model in KINDS.items()}

    @router.post("/shelf/items", status_code=201)
    def add_item(file: ItemFile) -> ItemFile:
        """Put an own item on the shelf; it gets an id of its own."""
        shelf = shipped()
        taken = {*shelf.stocks, *shelf.filters, *shelf.lights, ANY_HUE, BY_TEMPERATURE}
        item = file.read()
        with database.write() as connection:
            kept = shelf_items.add_item(connection, item, taken)
        return ItemFile(kind=kind_of(kept), item=kept.model_dump())

    @router.put("/shelf/items/{item_id}")
    def change_item(item_id: str, file: ItemFile) -> ItemFile:
        """Change an own item."""
        item = file.read().model_copy(update={"id": item_id})
        with database.write() as connection:
            shelf_items.change_item(connection, item)
        return ItemFile(kind=kind_of(item), item=item.model_dump())

    @router.delete("/shelf/items/{item_id}", status_code=204)
    def remove_item(item_id: str, though_used_before: bool = False) -> None:
        """Take an own item off the shelf. Where an earlier state of a print needs it, that is only
        done when it is said to be known."""
        with database.write() as connection:
            shelf_items.remove_item(connection, item_id, though_used_before)

    @router.post("/shelf/measurements")
    def read_measurement(given: Measurement) -> Measured:
        """Read a step wedge or a spectrum; nothing is kept."""
        return measure(given)

    return router
