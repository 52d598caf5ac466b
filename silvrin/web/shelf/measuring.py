"""Measurements: a step wedge or a spectrum, read and fitted; nothing is kept."""

from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from ...core.colour import luminance_of
from ...core.film.sensitometry import (
    ISO_RISE,
    contrast_index,
    fit_wedge,
    speed_point,
    stock_from,
)
from ...core.film.speed import iso_speed
from ...core.paper.measuring import PaperFit, fit_paper
from ...core.spectra.grid import STEP, WAVELENGTHS
from ...core.toner.colours import srgb_of
from ...core.toner.measured import rows_of
from ...errors import BadItem
from ...files.measurements import (
    WEDGE_STEP,
    read_paper_wedges,
    read_spectrum,
    read_toner_wedges,
    read_wedge,
)
from ...shelf.items import Curve, TonerRow
from .described import rounded
from .models import Line

NEUTRAL = 4.0  # a* or b* by which an untoned wedge may differ from its base
MOST_TEXT = 2_000_000  # characters of a measurement


class Measurement(BaseModel):
    """A measurement to be read: the text of a CSV or CGATS.17 file."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)
    kind: Literal["wedge", "paper", "toner", "filter", "light", "sensitivity"]
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
    speed: float | None  # ISO
    iso: bool  # developed as ISO 6 asks; else speed is that of its curves at ISO 6's contrast
    rise: float | None  # of density over 1.30 beyond the speed point
    contrast_index: float | None
    n: float | None  # the development the wedge had
    shape: Curve | None  # of the stock's curves
    zone_v: float | None  # log10 exposure of Zone V


class FittedGrade(BaseModel):
    """What a wedge printed on one grade gives."""

    grade: float | None  # as it was told
    points: Line  # log10 exposure, density, as measured
    curve: Line
    residuals: list[float]
    rms: float
    iso_range: int  # ISO R
    log_range: float
    iso_speed: float | None  # ISO P, where exposures are in lx s
    nearest: float  # the grade that has this range


class FittedPaper(BaseModel):
    """A paper as its wedges show it."""

    grades: list[FittedGrade]
    base_density: float
    net_density: float
    toe: float
    shoulder: float
    speed: int | None


class FittedToner(BaseModel):
    """A toner as two wedges show it."""

    rows: list[TonerRow]
    untoned: Line  # density above the base, b* …
    toned_a: Line  # ... and a* and b* of the toned wedge over the untoned one's density
    toned_b: Line
    black: tuple[float, float]  # greatest density above the base, untoned and toned


class Measured(BaseModel):
    """What was read from a measurement."""

    notes: list[str]
    wedge: Fitted | None = None
    paper: FittedPaper | None = None
    toner: FittedToner | None = None
    spectrum: dict[str, Any] | None = None  # a table as shelf files have it


def measure(given: Measurement) -> Measured:
    """Read a measurement; raises BadItem naming row and reason."""
    if given.kind == "paper":
        return _paper(given)
    if given.kind == "toner":
        return _toner(given)
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
        table = {"from_nm": float(grid[0]), "step_nm": float(STEP), field: rounded(values)}
        return Measured(notes=notes, spectrum=table)

    wedge = read_wedge(given.text, given.name, given.step)
    fit = fit_wedge(wedge.log_exposure, wedge.density)
    notes = list(wedge.notes)
    span = np.linspace(wedge.log_exposure[0] - 0.3, wedge.log_exposure[-1] + 0.3, 121)
    result = Fitted(
        points=Line(x=rounded(wedge.log_exposure, 4), y=rounded(wedge.density, 4)),
        curve=Line(x=rounded(span, 4), y=rounded(fit.density(span), 4)),
        residuals=rounded(fit.residuals, 4),
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
        if wedge.absolute and result.iso:
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
        if wedge.absolute:
            result.speed = round(iso_speed(stock.shape, 10.0**stock.zone_v), 1)
    except BadItem as error:
        notes.append(str(error))
    except ValueError:
        notes.append("The fitted curve is no stock's: density would fall with exposure.")
    return Measured(notes=notes, wedge=result)


def _paper(given: Measurement) -> Measured:
    """A paper from its wedges; its shape is that of the grade next to 2."""
    wedges = read_paper_wedges(given.text, given.name, given.step)
    notes: list[str] = []
    grades: list[FittedGrade] = []
    fits: list[PaperFit] = []
    for grade, wedge in wedges:
        said = "" if grade is None else f"grade {grade:g}: "
        try:
            fit = fit_paper(wedge.log_exposure, wedge.density)
        except BadItem as error:
            raise BadItem(f"{given.name}, {said}{error}") from error
        notes += [f"{said}{note}" for note in wedge.notes if f"{said}{note}" not in notes]
        span = np.linspace(wedge.log_exposure[0] - 0.2, wedge.log_exposure[-1] + 0.2, 121)
        worst = int(np.abs(fit.residuals).argmax())
        if abs(fit.residuals[worst]) > 5 * max(fit.rms, 0.01):
            notes.append(
                f"{said}step {worst + 1} is {fit.residuals[worst]:+.2f} off the curve; measure it "
                "once more."
            )
        fits.append(fit)
        grades.append(
            FittedGrade(
                grade=grade,
                points=Line(x=rounded(wedge.log_exposure, 4), y=rounded(wedge.density, 4)),
                curve=Line(x=rounded(span, 4), y=rounded(fit.density(span), 4)),
                residuals=rounded(fit.residuals, 4),
                rms=round(fit.rms, 4),
                iso_range=fit.iso_range,
                log_range=round(fit.log_range, 3),
                iso_speed=round(fit.iso_speed, 1) if wedge.absolute else None,
                nearest=round(4.0 * fit.grade) / 4.0,
            )
        )
    at = min(range(len(fits)), key=lambda i: abs(fits[i].grade - 2.0))
    middle, speed = fits[at], grades[at].iso_speed
    return Measured(
        notes=notes,
        paper=FittedPaper(
            grades=grades,
            base_density=round(float(np.mean([fit.base for fit in fits])), 3),
            net_density=round(float(np.mean([fit.curve.net for fit in fits])), 3),
            toe=round(middle.curve.toe, 3),
            shoulder=round(middle.curve.shoulder, 3),
            speed=None if speed is None else max(1, round(speed)),
        ),
    )


def _toner(given: Measurement) -> Measured:
    """A toner from an untoned and a toned wedge."""
    untoned, toned = read_toner_wedges(given.text, given.name)
    try:
        rows = rows_of(srgb_of(untoned), srgb_of(toned))
    except BadItem as error:
        raise BadItem(f"{given.name}: {error}") from error
    order = np.argsort(-untoned[:, 0], kind="stable")
    light = luminance_of(untoned[order, 0])
    density = rounded(-np.log10(np.maximum(light / light[0], 1e-4)), 3)
    a, b, plain = (
        Line(x=density, y=rounded(values, 2))
        for values in (toned[order, 1], toned[order, 2], untoned[order, 2])
    )
    notes = []
    if np.abs(untoned[:, 1:] - untoned[order[0], 1:]).max() > NEUTRAL:
        notes.append(
            "The untoned wedge is not neutral beside its base; what its own image is coloured goes "
            "to the toner."
        )
    black = rows.density[-1]
    return Measured(
        notes=notes,
        toner=FittedToner(
            rows=[
                TonerRow(density=d, times=t, red=r, green=g, blue=b_)
                for d, t, (r, g, b_) in zip(rows.density, rows.times, rows.ratios, strict=True)
            ],
            untoned=plain,
            toned_a=a,
            toned_b=b,
            black=(black, round(black * rows.times[-1], 3)),
        ),
    )
