"""Measurements as text: step wedges and spectra, as CSV or as CGATS.17 (ISO 28178).

What is read is told in notes where it was put in order or filled in; what cannot be read is
refused with its row and the reason.
"""

import csv
import io
import re
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from ..core.film.sensitometry import LEAST_POINTS
from ..errors import BadItem

Floats = NDArray[np.float64]
MOST_ROWS = 5000
MOST_LOG = 7.0  # log10 lx·s: no wedge has more
WEDGE_STEP = 0.15  # log exposure between steps of the common 21-step wedge

# How people head the columns
EXPOSURE = {"log_h", "logh", "log_e", "loge", "log_exposure", "log exposure", "log h", "log e"}
LINEAR = {"h", "e", "exposure", "lux_s", "lux seconds", "lx_s", "lxs", "lx s"}  # lx·s
WEDGE = {"wedge", "wedge_d", "wedge density", "tablet", "step_density", "step density"}
STEP = {"step", "nr", "no", "no.", "number", "sample_id", "patch"}
DENSITY = {"density", "d", "d_vis", "d_visual", "visual", "density_vis", "dvis"}
GRADE = {"grade", "filter grade", "filter"}
LAB = ({"l", "l*", "lab_l"}, {"a", "a*", "lab_a"}, {"b", "b*", "lab_b"})
STATE = {"state", "print", "wedge state"}
UNTONED, TONED = {"untoned", "before", "plain"}, {"toned", "after"}
WAVELENGTH = {"nm", "wavelength", "wavelength_nm", "wavelength nm", "lambda"}
VALUE = {
    "value", "transmittance", "t", "power", "sensitivity", "log_sensitivity", "log sensitivity",
    "spectral_value",
}  # fmt: skip


@dataclass(frozen=True)
class Wedge:
    """A step wedge as measured, exposure rising: log10 exposure and density, (N,) each."""

    log_exposure: Floats
    density: Floats
    absolute: bool  # exposures are in lx·s
    notes: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class Readings:
    """A spectrum as measured: nm rising, and values, (N,) each."""

    wavelengths: Floats
    values: Floats
    logs: bool  # values are log10
    notes: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class _Rows:
    """Named columns of numbers, with the row of the file each line came from."""

    names: list[str]
    lines: list[int]
    cells: list[list[str]]
    notes: list[str]


def read_wedge(text: str, name: str = "file", step: float = WEDGE_STEP) -> Wedge:
    """A step wedge. A column of density and one of log exposure, of the wedge's own density, or of
    step numbers, which lie `step` apart in log exposure (step 1 has least).

    Raises BadItem naming row and reason.
    """
    return _wedge(_rows(text, name), name, step)


def read_paper_wedges(
    text: str, name: str = "file", step: float = WEDGE_STEP
) -> list[tuple[float | None, Wedge]]:
    """Step wedges printed on a paper, as `read_wedge` reads them, with their grades where a column
    tells them: soft to hard. Raises BadItem."""
    rows = _rows(text, name)
    if not _has(rows, GRADE):
        return [(None, _wedge(rows, name, step))]
    at = next(i for i, column in enumerate(rows.names) if column in GRADE)
    grades = [_grade(row[at], name, line) for line, row in zip(rows.lines, rows.cells, strict=True)]
    found: list[tuple[float | None, Wedge]] = []
    for grade in sorted(set(grades)):
        mine = [i for i, each in enumerate(grades) if each == grade]
        part = _Rows(
            rows.names, [rows.lines[i] for i in mine], [rows.cells[i] for i in mine], rows.notes
        )
        found.append((grade, _wedge(part, name, step)))
    return found


def read_toner_wedges(text: str, name: str = "file") -> tuple[Floats, Floats]:
    """CIELAB (N, 3) of the steps of an untoned wedge and of the same steps toned: columns L, a and
    b (LAB_L … in CGATS.17) under a column `state` that says untoned or toned, each in the order of
    its steps. Raises BadItem."""
    rows = _rows(text, name)
    columns = zip(LAB, "Lab", strict=True)
    lab = np.stack([_column(rows, names, name, what) for names, what in columns], axis=1)
    if not _has(rows, STATE):
        raise BadItem(
            f"{name}: no column says which steps are toned; there is {', '.join(rows.names)}. Head "
            "one 'state', with 'untoned' and 'toned'."
        )
    at = next(i for i, column in enumerate(rows.names) if column in STATE)
    toned = []
    for line, row in zip(rows.lines, rows.cells, strict=True):
        said = row[at].strip().lower()
        if said not in UNTONED | TONED:
            raise BadItem(f"{name}, row {line}: state {row[at]!r} is neither untoned nor toned.")
        toned.append(said in TONED)
    for line, value in zip(rows.lines, lab[:, 0], strict=True):
        if not 0 <= value <= 100:
            raise BadItem(f"{name}, row {line}: L* {value:g} lies outside 0 to 100.")
    marked = np.array(toned)
    return lab[~marked], lab[marked]


def read_target(text: str, name: str = "file") -> Floats:
    """Densities (N,) of the patches of a target in their order: a column of density, and one of the
    steps' numbers where they are not in order; or bare numbers, one a line. Raises BadItem."""
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    lines = lines[1:] if lines and lines[0].lower() in DENSITY else lines
    if lines and all(re.fullmatch(r"-?\d+([.,]\d+)?", line) for line in lines):
        return np.array([float(line.replace(",", ".")) for line in lines])
    rows = _rows(text, name)
    density = _column(rows, DENSITY, name, "density")
    if not _has(rows, STEP):
        return density
    return density[np.argsort(_column(rows, STEP, name, "step"), kind="stable")]


def _grade(cell: str, name: str, line: int) -> float:
    text = cell.strip()
    value = -1.0 if text == "00" else _number(text, name, line, "grade")
    if not -1.0 <= value <= 5.0:
        raise BadItem(f"{name}, row {line}: grade {text!r} is none; grades run from 00 to 5.")
    return value


def _wedge(rows: _Rows, name: str, step: float) -> Wedge:
    notes = list(rows.notes)
    density = _column(rows, DENSITY, name, "density")
    kind, at = _exposures(rows, name, step)
    if kind == "step" and len(at) > 2 and np.corrcoef(at, density)[0, 1] < -0.5:
        at = -at
        notes.append(
            "Density falls as the numbers rise: the tablet is numbered from its clear end, where "
            "exposure is most."
        )
    for line, value in zip(rows.lines, density, strict=True):
        if value < 0:
            raise BadItem(
                f"{name}, row {line}: density {value:g} is negative; densities are 0 or more. "
                "Zero the densitometer on no film, not on base and fog."
            )
        if value > 6:
            raise BadItem(
                f"{name}, row {line}: density {value:g} is more than 6; is a decimal sign missing?"
            )
    order = np.argsort(at, kind="stable")
    if np.any(order != np.arange(len(at))):
        if np.all(order == np.arange(len(at))[::-1]):
            notes.append("The rows ran from most exposure to least and were turned.")
        else:
            first = int(np.flatnonzero(np.diff(at) < 0)[0]) + 1
            notes.append(f"From row {rows.lines[first]} on rows were not in order; they were put.")
    at, density = at[order], density[order]
    for i in np.flatnonzero(np.diff(at) < 1e-6):
        first, again = sorted(rows.lines[order[k]] for k in (i, i + 1))
        raise BadItem(
            f"{name}, row {again}: the same {kind} as in row {first}, with density "
            f"{density[i + 1]:g} beside {density[i]:g}; keep one of them, or their mean."
        )
    if len(at) < LEAST_POINTS:
        raise BadItem(
            f"{name}: {len(at)} steps; a curve needs at least {LEAST_POINTS}, and 11 or 21 are "
            "better."
        )
    gaps = np.diff(at)
    for i in np.flatnonzero(gaps > 1.6 * np.median(gaps)):
        notes.append(
            f"Between rows {rows.lines[order[i]]} and {rows.lines[order[i + 1]]} steps are missing;"
            " the curve is drawn through."
        )
    return Wedge(at, density, kind == "log exposure", notes)


def _exposures(rows: _Rows, name: str, step: float) -> tuple[str, Floats]:
    if _has(rows, EXPOSURE):
        at = _column(rows, EXPOSURE, name, "log exposure")
        if _looks_linear(at):
            raise BadItem(
                f"{name}: the log exposures run from {at.min():g} to {at.max():g} and each is a "
                "multiple of the one before: they look like exposures themselves. Head the column "
                "'h' if they are lx·s, or give their log10."
            )
        return "log exposure", at
    if _has(rows, LINEAR):
        at = _column(rows, LINEAR, name, "exposure")
        for line, value in zip(rows.lines, at, strict=True):
            if not value > 0:
                raise BadItem(
                    f"{name}, row {line}: an exposure of {value:g} lx·s has no logarithm; give one "
                    "that is more than 0."
                )
        return "log exposure", np.log10(at)
    if _has(rows, WEDGE):
        return "wedge density", -_column(rows, WEDGE, name, "wedge density")
    if _has(rows, STEP):
        return "step", step * _column(rows, STEP, name, "step")
    raise BadItem(
        f"{name}: no column says how each step was exposed; there is {', '.join(rows.names)}. "
        "Head one 'log_h' (log10 lx·s), 'h' (lx·s), 'wedge' (its density) or 'step' (its number)."
    )


def _looks_linear(at: Floats) -> bool:
    """Whether what is called log exposures are exposures: more than there can be, or in even ratios
    where logarithms have even steps."""
    if at.max() > MOST_LOG:
        return True
    rising = np.sort(at)
    if len(rising) < 4 or rising[0] <= 0 or rising[-1] < 20 * rising[0]:
        return False
    steps, ratios = np.diff(rising), np.diff(np.log(rising))
    uneven = float(np.std(steps)) / max(float(np.mean(steps)), 1e-9)
    return bool(np.std(ratios) < 0.2 * np.mean(ratios) and uneven > 0.5)


def read_spectrum(text: str, name: str = "file") -> Readings:
    """Spectral readings: a column of wavelengths in nm and one of values, or CGATS columns
    SPECTRAL_380 and so on, of which the first row is taken.

    Raises BadItem naming row and reason.
    """
    rows = _rows(text, name)
    notes = list(rows.notes)
    across = [
        (i, float(found.group(1)))
        for i, column in enumerate(rows.names)
        if (found := re.fullmatch(r"(?:spectral_?|nm_?|spectral_nm_?)(\d{3,4})(?:nm)?", column))
    ]
    logs = _has(rows, {"log_sensitivity", "log sensitivity"})
    if len(across) > 3:
        if len(rows.cells) > 1:
            notes.append(f"Row {rows.lines[0]} was taken; the {len(rows.cells) - 1} after it not.")
        wavelengths = np.array([nm for _, nm in across])
        values = np.array(
            [_number(rows.cells[0][i], name, rows.lines[0], rows.names[i]) for i, _ in across]
        )
        lines = [rows.lines[0]] * len(across)
    else:
        wavelengths = _column(rows, WAVELENGTH, name, "wavelength")
        values = _column(rows, VALUE, name, "value")
        lines = rows.lines
    order = np.argsort(wavelengths, kind="stable")
    if np.any(order != np.arange(len(order))):
        notes.append("The wavelengths were not in order; they were put.")
    wavelengths, values = wavelengths[order], values[order]
    for i in np.flatnonzero(np.diff(wavelengths) < 1e-6):
        raise BadItem(
            f"{name}, row {lines[order[i + 1]]}: {wavelengths[i]:g} nm once more; keep one of them."
        )
    for i in np.flatnonzero(np.diff(wavelengths) > 50):
        raise BadItem(
            f"{name}, row {lines[order[i + 1]]}: {wavelengths[i + 1]:g} nm follows "
            f"{wavelengths[i]:g} nm; readings may lie at most 50 nm apart."
        )
    if len(wavelengths) < 4 or wavelengths[-1] < 500 or wavelengths[0] > 700:
        raise BadItem(
            f"{name}: {len(wavelengths)} readings from {wavelengths[0]:g} to {wavelengths[-1]:g} "
            "nm; at least 4 are needed, and some between 500 and 700 nm."
        )
    if wavelengths[0] > 380 or wavelengths[-1] < 900:
        notes.append(
            f"Read from {wavelengths[0]:g} to {wavelengths[-1]:g} nm; Silvrin computes from 380 to "
            "900 nm. Beyond its ends a film sees nothing; glass and light keep their last value."
        )
    for i in np.flatnonzero(values < 0) if not logs else ():
        raise BadItem(
            f"{name}, row {lines[order[i]]}: {values[i]:g} at {wavelengths[i]:g} nm is negative; "
            "values are 0 or more, or head the column 'log_sensitivity'."
        )
    return Readings(wavelengths, values, logs, notes)


def _has(rows: _Rows, names: set[str]) -> bool:
    return any(column in names for column in rows.names)


def _column(rows: _Rows, names: set[str], file: str, what: str) -> Floats:
    for i, column in enumerate(rows.names):
        if column in names:
            cells = zip(rows.lines, rows.cells, strict=True)
            return np.array([_number(row[i], file, line, what) for line, row in cells])
    raise BadItem(
        f"{file}: there is no column of {what}; there is {', '.join(rows.names)}. "
        f"Head one {sorted(names, key=len)[-1]!r} or {sorted(names)[0]!r}."
    )


def _number(cell: str, file: str, line: int, what: str) -> float:
    text = cell.strip().replace("\N{MINUS SIGN}", "-")
    if not text:
        raise BadItem(f"{file}, row {line}: {what} is missing; fill it in or take the row out.")
    if re.fullmatch(r"[+-]?\d+,\d+(e[+-]?\d+)?", text, re.IGNORECASE):
        text = text.replace(",", ".")
    try:
        value = float(text)
    except ValueError:
        raise BadItem(
            f"{file}, row {line}: {what} {cell.strip()[:40]!r} is not a number; "
            "numbers are written 0.62 or 0,62."
        ) from None
    if not np.isfinite(value):
        raise BadItem(f"{file}, row {line}: {what} {cell.strip()!r} is not a finite number.")
    return value


def _rows(text: str, name: str) -> _Rows:
    clean = text.removeprefix("\N{BYTE ORDER MARK}").replace("\r\n", "\n").replace("\r", "\n")
    if not clean.strip():
        raise BadItem(f"{name}: the file is empty.")
    if "BEGIN_DATA_FORMAT" in clean:
        return _cgats(clean, name)
    return _csv(clean, name)


def _csv(text: str, name: str) -> _Rows:
    """Separated by semicolon, tab or comma; the first line heads the columns. Lines that begin
    with # are left out."""
    lines = [
        (number, line)
        for number, line in enumerate(text.split("\n"), 1)
        if line.strip() and not line.lstrip().startswith("#")
    ]
    if not lines:
        raise BadItem(f"{name}: there is no line with data.")
    head = lines[0][1]
    separator = next((s for s in (";", "\t", ",") if s in head), None)
    if separator is None:
        raise BadItem(
            f"{name}, row {lines[0][0]}: {head.strip()[:40]!r} has one column; a line that heads "
            "the columns is wanted, for instance: step;density"
        )
    names = [_plain(cell) for cell in head.split(separator)]
    if all(re.fullmatch(r"[+-]?[\d.]+", n) for n in names if n):
        raise BadItem(
            f"{name}, row {lines[0][0]}: the columns have no heads; write them into the first "
            "line, for instance: step;density"
        )
    if len(lines) > MOST_ROWS:
        raise BadItem(f"{name}: {len(lines)} rows; at most {MOST_ROWS} are read.")
    numbers, cells = [], []
    for number, line in lines[1:]:
        row = next(csv.reader(io.StringIO(line), delimiter=separator))
        if len(row) != len(names):
            whole = all(re.fullmatch(r"\s*[+-]?\d*\s*", cell) for cell in row)
            split = len(row) == 2 * len(names) or (whole and len(row) > len(names))
            why = " A comma as decimal sign wants semicolons between columns."
            why = why if separator == "," and split else ""
            raise BadItem(f"{name}, row {number}: {len(row)} cells under {len(names)} heads.{why}")
        numbers.append(number)
        cells.append(row)
    if not cells:
        raise BadItem(f"{name}: there are heads but no rows of data.")
    return _Rows(names, numbers, cells, [])


def _cgats(text: str, name: str) -> _Rows:
    """Tables of CGATS.17: keywords, then the format and the data between their marks."""
    names: list[str] = []
    numbers: list[int] = []
    cells: list[list[str]] = []
    promised: int | None = None
    inside = ""
    for number, line in enumerate(text.split("\n"), 1):
        words = re.findall(r'"[^"]*"|[^\s"]+', line.split("#")[0] if "#" in line else line)
        if not words:
            continue
        first = words[0].upper()
        if first in ("BEGIN_DATA_FORMAT", "BEGIN_DATA"):
            inside = first
        elif first in ("END_DATA_FORMAT", "END_DATA"):
            inside = ""
        elif inside == "BEGIN_DATA_FORMAT":
            names += [_plain(word) for word in words]
        elif inside == "BEGIN_DATA":
            if len(words) != len(names):
                raise BadItem(
                    f"{name}, row {number}: {len(words)} values where the format has {len(names)}."
                )
            numbers.append(number)
            cells.append([word.strip('"') for word in words])
        elif first == "NUMBER_OF_SETS" and len(words) > 1 and words[1].isdigit():
            promised = int(words[1])
    if inside:
        raise BadItem(f"{name}: {inside} is not ended; the file may be cut off.")
    if not cells:
        raise BadItem(f"{name}: there is no data between BEGIN_DATA and END_DATA.")
    notes = []
    if promised is not None and promised != len(cells):
        notes.append(f"NUMBER_OF_SETS says {promised}; {len(cells)} were found.")
    return _Rows(names, numbers, cells, notes)


def _plain(head: str) -> str:
    return head.strip().strip('"').strip().lower()
