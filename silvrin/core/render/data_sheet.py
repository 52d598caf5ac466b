"""All that made a print, in figures and words, for the sheet that is kept with it."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..development.negative import Developing
from ..enlarger.projection import LEAST_TIME, Projection
from ..enlarger.timing import seconds_of
from ..film.sensitometry import index_of
from ..film.speed import index_in
from ..film.zones import LOG10_STOP
from ..light.conversion import Glass
from ..light_path import LightPath
from ..mount.settings import MountSettings
from ..paper.grading import Grading
from ..paper.printing import Finish
from ..settings import Settings
from ..stations import SETTINGS
from ..wording import development_name, grade_name, with_part, zone_name
from .darkroom import Darkroom
from .mounting import mounted_size, mounted_strips
from .sitting import Sitting

SIDE = 1200  # pixels of the small print
LOG_H = np.linspace(-9.0, 8.0, 69) * LOG10_STOP
LOG_E = np.linspace(-1.2, 1.8, 61)
ZONES = np.arange(0.0, 10.5)
Floats = NDArray[np.float64]
Row = tuple[str, str]  # what, and how much of it
# Fields that are told in words of their own, or are of no meaning beside others that are
TOLD = {
    "capture": {"crop", "quarter_turns", "mends", "protected"},
    "light": {
        "source", "temperature", "lens_filter", "strength", "second_filter", "second_strength",
    },
    "film": {"stock", "film_format", "placement", "spots"},
    "development": {"n", "developer"},
    "enlarger": {"head", "time", "soft_time", "hard_time", "passes"},
    "paper": {"paper", "grade", "split"},
    "toner": {"baths", "stops"},
    "mount": {"size", "resolution", "border_left", "border_right", "border_top", "border_bottom"},
}  # fmt: skip


@dataclass(frozen=True)
class Section:
    """What is said of a station."""

    title: str
    rows: tuple[Row, ...]


@dataclass(frozen=True)
class DataSheet:
    """Figures and curves of a print."""

    numbers: NDArray[np.uint8]  # (H, W) or (H, W, 3): the print, small, as it is mounted
    sections: tuple[Section, ...]
    film: tuple[Floats, Floats]  # log10 H about Zone V, density
    zones: Floats  # (11,) density of the negative on Zones 0 to X
    paper: tuple[Floats, Floats]  # log10 E from the speed point, density
    print_values: tuple[float, ...]  # (11,) shares of the print


def data_of(darkroom: Darkroom, sitting: Sitting) -> DataSheet:
    """The sheet of a sitting."""
    path = sitting.path
    readings = darkroom.readings(sitting)
    numbers = np.concatenate(list(mounted_strips(sitting, SIDE, 8)))
    developing = path[Developing]
    tones = (
        ("Full black", f"{100 * readings.paper_black:.1f} %"),
        ("Bare paper", f"{100 * readings.paper_white:.1f} %"),
    )
    return DataSheet(
        numbers=numbers,
        sections=(*sections_of(sitting), Section("Tones of the print", tones)),
        film=(LOG_H, developing.density(LOG_H)),
        zones=developing.density((ZONES - 5.0) * LOG10_STOP),
        paper=(LOG_E, path[Finish].density(path[Grading].curve.density(LOG_E))),
        print_values=tuple(readings.print_values),
    )


def sections_of(sitting: Sitting) -> tuple[Section, ...]:
    """What every station did: its figures, and whatever is set otherwise than from the start."""
    path = sitting.path
    told = {
        "light": _light(path), "film": _film(path), "development": _development(path),
        "enlarger": _enlarger(path), "paper": _paper(path), "toner": _toner(path),
        "mount": _mount(sitting),
    }  # fmt: skip
    sections = (
        Section(name.capitalize(), (*told.get(name, ()), *changes_of(path, name)))
        for name in SETTINGS
    )
    return tuple(each for each in sections if each.rows)


def _light(path: LightPath) -> tuple[Row, ...]:
    light = path.recipe.light
    source = f"{light.temperature:.0f} K"
    if light.source != "by-temperature":
        source = light.source.replace("-", " ")
    rows = [("Light", source)]
    glasses = path.things.lens_filter, path.things.second_filter
    for glass, strength in zip(glasses, (light.strength, light.second_strength), strict=True):
        if glass.id != "none":
            name = glass.name if abs(strength - 1) < 0.005 else f"{glass.name}, × {strength:g}"
            rows.append(("Filter", name))
    if len(rows) > 1:
        rows.append(("Filter factor", f"{path[Glass].filter_factor:.1f}"))
    return tuple(rows)


def _film(path: LightPath) -> tuple[Row, ...]:
    stock, film = path.things.stock, path.recipe.film
    index = index_in(stock, path[Developing].negative)
    rows = [
        ("Film", f"{stock.name}, ISO {stock.speed}"),
        ("Format", film.film_format),
        ("Exposure index", f"{index:.0f}"),
        ("Placement", f"{_signed(film.placement)} stops"),
    ]
    placed = [spot for spot in film.spots if spot.placed is not None]
    rows += [("Placed", f"{spot.letter} on {zone_name(spot.placed or 0.0)}") for spot in placed]
    return tuple(rows)


def _development(path: LightPath) -> tuple[Row, ...]:
    developing = path[Developing]
    index = index_of(developing.negative)
    low, high = developing.density(np.array([-4.0, 3.0]) * LOG10_STOP)
    return (
        ("Developer", path.recipe.development.developer),
        ("Development", development_name(developing.n)),
        *((("Contrast index", f"{index:.2f}"),) if index is not None else ()),
        ("Base and fog", f"{developing.negative.shape.base_fog:.2f}"),
        ("Zones I to VIII", f"{low:.2f} to {high:.2f}"),
    )


def _enlarger(path: LightPath) -> tuple[Row, ...]:
    enlarger, base = path.recipe.enlarger, path[Projection].time
    rows: list[Row] = [("Head", enlarger.head)]
    if path[Grading].split:
        rows.append(("Through 00", f"{enlarger.soft_time:.1f} s"))
        rows.append(("Through 5", f"{enlarger.hard_time:.1f} s"))
    else:
        rows.append(("Base exposure", f"{base:.1f} s"))
    passes = [each for each in path.things.drawings.passes if each.on]
    seconds = [seconds_of(each, base) for each in passes]
    counts = (
        ("burned", sum(s >= LEAST_TIME for s in seconds)),
        ("dodged", sum(s <= -LEAST_TIME for s in seconds)),
        ("tones", sum(abs(s) < LEAST_TIME for s in seconds)),
    )
    if passes:
        rows.append(("Printing map", ", ".join(f"{n} {what}" for what, n in counts if n)))
    return tuple(rows)


def _paper(path: LightPath) -> tuple[Row, ...]:
    paper = path.things.paper
    most = paper.base_density + paper.net_density
    return (
        ("Paper", paper.name),
        ("Surface", f"{paper.surface}, {paper.support}"),
        ("Grade", grade_name(path[Grading].grade)),
        ("Base, black", f"{paper.base_density:.2f}, {most:.2f}"),
    )


def _toner(path: LightPath) -> tuple[Row, ...]:
    toner = path.recipe.toner
    if toner.stops:
        return tuple((f"At {stop.place:g} %", stop.colour) for stop in toner.stops)
    return tuple(
        (f"Bath {number}", f"{_bath(bath.kind, bath.toner)}, {100 * bath.time:.0f} %")
        for number, bath in enumerate(toner.baths, 1)
    )


def _bath(kind: str, toner: str | None) -> str:
    return (toner or kind).replace("-", " ")


def _mount(sitting: Sitting) -> tuple[Row, ...]:
    mount: MountSettings = sitting.path.recipe.mount
    lay = mounted_size(sitting)
    pitch = mount.size / max(lay.picture.width, lay.picture.height)
    rows = [("Picture", f"{lay.picture.width * pitch:.0f} × {lay.picture.height * pitch:.0f} mm")]
    if mount.changes_picture:
        rows.append(
            ("With its mount", f"{lay.whole.width * pitch:.0f} × {lay.whole.height * pitch:.0f} mm")
        )
    return (*rows, ("Resolution", f"{mount.resolution:g} ppi"))


def _signed(value: float) -> str:
    return f"{'−' if value < 0 else '+'}{abs(value):.2f}"


def changes_of(path: LightPath, station: str) -> Iterator[Row]:
    """What else is set otherwise than from the start."""
    settings = getattr(path.recipe, station)
    for name, field in SETTINGS[station].model_fields.items():
        value = getattr(settings, name)
        if name in TOLD[station] or value == field.get_default(call_default_factory=True):
            continue
        extra = field.json_schema_extra if isinstance(field.json_schema_extra, dict) else {}
        yield str(field.title or name), _said(value, str(extra.get("unit", "")))


def _said(value: Any, unit: str) -> str:
    """A setting in a few words."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        sign = "−" if value < 0 else ""
        said = with_part(abs(value)) if unit in ("stops", "N") else f"{abs(value):.4g}"
        return f"{sign}{said}{'' if unit == '°' else ' ' if unit else ''}{unit}"
    if isinstance(value, str):
        return value.replace("-", " ")
    if isinstance(value, Settings):
        fields = type(value).model_fields
        changed = [str(fields[k].title or k).lower() for k, v in value if v != fields[k].default]
        return ", ".join(changed)
    if isinstance(value, tuple):
        return f"{sum(bool(each) for each in value)} set"
    return "none" if value is None else "changed"
