"""The shelf described: each thing with its figures and curves."""

from functools import lru_cache
from typing import Any

import numpy as np

from ...core.colour import SRGB_LUMINANCE, decode_srgb, luminance_of
from ...core.development.developer import DEVELOPERS
from ...core.film.curve import characteristic_curve
from ...core.film.sensitometry import index_of
from ...core.film.speed import zone_index
from ...core.film.stock import Stock
from ...core.film.zones import LOG10_STOP
from ...core.light.lens_filter import MOST_FACTOR, filter_factor, hue_filter
from ...core.paper.curve import paper_curve, range_on
from ...core.paper.paper import HARDEST, SOFTEST, Paper
from ...core.recipe import Bath, PaperSettings, TonerSettings
from ...core.spectra.illuminants import light
from ...core.toner.baths import Toners
from ...core.toner.colours import hex_of, lab_of
from ...core.toner.toning import toned
from ...shelf import Shelf as Shelves
from ...shelf import shipped
from ...shelf.items import TonerItem, ToningItem
from .models import (
    Factor,
    Factors,
    Line,
    PaperOnGrade,
    Shelf,
    ShelfDeveloper,
    ShelfFilter,
    ShelfLight,
    ShelfPaper,
    ShelfStock,
    ShelfToner,
    ShelfToning,
)

DENSITIES = [round(0.1 * k, 1) for k in range(1, 26)]


def rounded(values: np.ndarray, digits: int = 5) -> list[float]:
    """Numbers as JSON has them."""
    return [round(float(v), digits) for v in values]


@lru_cache(maxsize=128)
def _grain_line(granularity: float) -> Line:
    """Granularity over density above base: it grows as its root."""
    deviations = granularity * np.sqrt(np.array(DENSITIES))
    return Line(x=DENSITIES, y=rounded(deviations, 2))


@lru_cache(maxsize=256)
def _described(stock: Stock, own: bool) -> ShelfStock:
    curve = characteristic_curve(stock.curve)
    log_h = np.linspace(-10, 10, 81) * LOG10_STOP
    index = index_of(curve)
    return ShelfStock(
        **{k: v for k, v in vars(stock).items() if k not in ("sensitivity", "curve")},
        own=own,
        zone_index=round(zone_index(stock), 2),
        sensitivity=rounded(stock.sensitivity),
        contrast_index=None if index is None else round(index, 3),
        curve=Line(x=rounded(log_h, 4), y=rounded(curve.density(log_h), 4)),
        grain_by_density=_grain_line(stock.granularity),
    )


@lru_cache(maxsize=128)
def _paper(paper: Paper, own: bool) -> ShelfPaper:
    log_e = np.linspace(-1.4, 1.4, 57)
    density = paper_curve(paper, paper.grade(2.0)).density(log_e)
    known = {k: v for k, v in vars(paper).items() if k in ShelfPaper.model_fields}
    known["grades"] = list(paper.grades)
    tint = decode_srgb(np.array([int(paper.tint[i : i + 2], 16) / 255.0 for i in (1, 3, 5)]))
    base = tint * 10.0**-paper.base_density / float(tint @ SRGB_LUMINANCE)
    lightness, a, b = lab_of(base[None])[0]
    grades = paper.grades or tuple(range(round(SOFTEST), round(HARDEST) + 1))
    return ShelfPaper(
        **known,
        own=own,
        base_lab=(round(lightness, 1), round(a, 1), round(b, 1)),
        curve=Line(x=rounded(log_e, 3), y=rounded(density, 4)),
        on_grades=[_on_grade(paper, float(grade)) for grade in grades],
    )


def _on_grade(paper: Paper, grade: float) -> PaperOnGrade:
    log_e = np.linspace(-1.6, 1.6, 65)
    density = paper.base_density + paper_curve(paper, grade).density(log_e)
    return PaperOnGrade(
        grade=grade,
        iso_range=round(10 * range_on(paper, grade)) * 10,
        curve=Line(x=rounded(log_e, 3), y=rounded(density, 4)),
    )


def _scale(settings: TonerSettings, toners: Toners) -> dict[str, Any]:
    """Colours along the scale of a print on the standard paper, and a* and b* over it."""
    most = shipped().papers[PaperSettings().paper].net_density
    values = np.linspace(0.0, 10.0, 41)
    shown = toned(luminance_of(10.0 * values), most, settings, toners=toners)
    lab, at = lab_of(shown), rounded(values, 3)
    a, b = (Line(x=at, y=rounded(lab[:, i], 2)) for i in (1, 2))
    return {"scale": hex_of(shown[::2]), "a": a, "b": b}


def _toning(item: ToningItem, own: bool, toners: Toners) -> ShelfToning:
    # one whose own toner is gone shows what is left of it
    baths = tuple(b for b in item.toner.baths if b.toner is None or b.toner in toners)
    seen = item.toner.model_copy(update={"baths": baths})
    return ShelfToning(**dict(item), own=own, **_scale(seen, toners))


def _toner(item: TonerItem) -> ShelfToner:
    alone = TonerSettings(baths=(Bath(kind="own", toner=item.id, time=1.0),))
    known = {k: v for k, v in dict(item).items() if k in ShelfToner.model_fields}
    return ShelfToner(**known, own=True, **_scale(alone, {item.id: item.made()}))


def describe(shelf: Shelves) -> Shelf:
    """All that lies on a shelf."""
    own, toners = shipped(), {name: item.made() for name, item in shelf.toners.items()}
    filters = [(item.made(), item.id not in own.filters) for item in shelf.filters.values()]
    filters.append((hue_filter(30.0), False))
    return Shelf(
        stocks=[_described(shelf.stock(name), name not in own.stocks) for name in shelf.stocks],
        filters=[
            ShelfFilter(**{**vars(f), "transmittance": rounded(f.transmittance)}, own=mine)
            for f, mine in filters
        ],
        lights=[
            ShelfLight(
                **{**vars(made), "power": rounded(made.power)}, own=item.id not in own.lights
            )
            for item in shelf.lights.values()
            for made in [item.made()]
        ],
        papers=[_paper(p, p.id not in own.papers) for p in shelf.papers.values()],
        tonings=[_toning(t, t.id not in own.tonings, toners) for t in shelf.tonings.values()],
        toners=[_toner(item) for item in shelf.toners.values()],
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
