"""Prints as tables of colours: CUBE 1.0, and the Academy/ASC Common LUT Format, version 3."""

from typing import Literal
from xml.etree import ElementTree as Xml

import numpy as np
from numpy.typing import NDArray

from .. import __version__
from ..core.colour import decode_srgb
from ..core.light_path import LightPath
from ..core.render.table import LEFT_OUT, lattice
from ..errors import SilvrinError
from .profiles import RGB_TO_BT2020

Kind = Literal["cube", "clf"]
Input = Literal["srgb", "bt2020"]

SMALLEST, LARGEST = 9, 129  # places along a side
STOPS_UP, STOPS_DOWN = 2.0, 9.0  # of linear light about 1, that a table of it holds
ROOM = 2.0**-STOPS_DOWN  # what is added before the logarithm, so that black is there
SAYS = (
    "A black and white print by Silvrin: what its film, development, paper and toner do to a "
    f"colour. Left out: {LEFT_OUT}; and the capture's white balance."
)
INPUTS: dict[Input, str] = {
    "srgb": "sRGB, encoded (IEC 61966-2-1)",
    "bt2020": "linear light, BT.2020 primaries, a lit middle grey at 0.18, up to 4",
}


def table(path: LightPath, name: str, kind: Kind, given: Input = "srgb", size: int = 33) -> str:
    """The text of a table of a print. Raises SilvrinError for sizes that no reader takes, and for a
    CUBE of linear light: its even steps would leave the shadows a handful of places."""
    if not SMALLEST <= size <= LARGEST:
        raise SilvrinError(
            f"A table of {size} places a side: {SMALLEST} to {LARGEST} are possible; 33 or 65 are "
            "usual."
        )
    if kind == "cube" and given != "srgb":
        raise SilvrinError(
            "A CUBE of linear light would have a handful of places for all shadows. Take CLF for "
            "linear light, or CUBE for sRGB."
        )
    steps = np.linspace(0.0, 1.0, size)
    places = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1)
    if given == "srgb":
        light = decode_srgb(places) @ RGB_TO_BT2020.T
    else:  # the inverse of the logarithm that the file begins with
        light = np.maximum(2.0 ** (places * (STOPS_UP + STOPS_DOWN) - STOPS_DOWN) - ROOM, 0.0)
    found = lattice(path, light)
    return _cube(found, name, given) if kind == "cube" else _clf(found, name, given)


def _cube(found: NDArray[np.float32], name: str, given: Input) -> str:
    """Red changes fastest."""
    size = len(found)
    plain = " ".join(name.split()).replace('"', "'")
    head = [
        f"# {SAYS}", f"# Input: {INPUTS[given]}. Output: sRGB, encoded.",
        f'TITLE "{plain}"', f"LUT_3D_SIZE {size}", "DOMAIN_MIN 0 0 0", "DOMAIN_MAX 1 1 1",
    ]  # fmt: skip
    rows = found.transpose(2, 1, 0, 3).reshape(-1, 3)
    return "\n".join(head) + "\n" + _rows(rows)


def _clf(found: NDArray[np.float32], name: str, given: Input) -> str:
    """Blue changes fastest. Linear light goes through a logarithm first."""
    root = Xml.Element(
        "ProcessList",
        {"xmlns": "urn:AMPAS:CLF:v3.0", "id": "silvrin", "name": name, "compCLFversion": "3"},
    )
    Xml.SubElement(root, "Description").text = f"{SAYS} Silvrin {__version__}."
    Xml.SubElement(root, "InputDescriptor").text = INPUTS[given]
    Xml.SubElement(root, "OutputDescriptor").text = "sRGB, encoded"
    depth = {"inBitDepth": "32f", "outBitDepth": "32f"}
    if given == "bt2020":
        ends = {"minInValue": "0", "maxInValue": str(2.0**STOPS_UP - ROOM)}
        ends |= {"minOutValue": "0", "maxOutValue": ends["maxInValue"]}
        limits = Xml.SubElement(root, "Range", depth)
        for key, value in ends.items():
            Xml.SubElement(limits, key).text = value
        span = STOPS_UP + STOPS_DOWN
        log = Xml.SubElement(root, "Log", {**depth, "style": "linToLog"})
        figures = {
            "base": "2", "logSideSlope": repr(1.0 / span), "logSideOffset": repr(STOPS_DOWN / span),
            "linSideSlope": "1", "linSideOffset": repr(ROOM),
        }  # fmt: skip
        Xml.SubElement(log, "LogParams", figures)
    cells = Xml.SubElement(root, "LUT3D", {**depth, "interpolation": "tetrahedral"})
    size = len(found)
    array = Xml.SubElement(cells, "Array", {"dim": f"{size} {size} {size} 3"})
    array.text = "\n" + _rows(found.reshape(-1, 3))
    Xml.indent(root)
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n' + Xml.tostring(root, encoding="unicode") + "\n"
    )


def _rows(rows: NDArray[np.float32]) -> str:
    return ("%.6f %.6f %.6f\n" * len(rows)) % tuple(rows.ravel().tolist())
