"""What lies on the shelf, as JSON."""

from pydantic import BaseModel

from ...core.recipe import TonerSettings


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
    speed: int  # ISO
    zone_index: float  # exposure index at which Zone I lies at 0.10 with N
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
    process: bool  # historic, whose own tone the print has
    own: bool
    base_lab: tuple[float, float, float]  # CIELAB of the base by its density and tint
    image: tuple[float, float]  # a*, b* of middle tones beside the base
    curve: Line  # log10 E from the speed point, net density, at grade 2 or the nearest
    on_grades: list["PaperOnGrade"]
    about: str
    source: str


class PaperOnGrade(BaseModel):
    """A paper on one of its grades."""

    grade: float
    iso_range: int  # ISO R
    curve: Line  # log10 E from the speed point, density


class ShelfToning(BaseModel):
    """A toning set on the shelf."""

    id: str
    name: str
    own: bool
    toner: TonerSettings
    scale: list[str]  # colours of a print's scale, black to base, on the standard paper
    a: Line  # CIELAB a* over print value
    b: Line
    about: str
    source: str


class ShelfToner(BaseModel):
    """An own toner on the shelf."""

    id: str
    name: str
    own: bool
    takes: str
    scale: list[str]  # of a print toned in it to the end, as of a toning set
    a: Line
    b: Line
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
    tonings: list[ShelfToning]
    toners: list[ShelfToner]
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
