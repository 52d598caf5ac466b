"""Output numbers of a print in the colours that its file is to have.

A print leaves the light path encoded as sRGB, grey where it has no colour. LittleCMS takes it from
there; what only changes channels (greys as three equal ones) and Display P3 need no profile.
"""

import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache, partial
from typing import Any

import imagecodecs
import numpy as np
from numpy.typing import NDArray
from PIL import ImageCms

from ...core.kernels.run import THREADS, at_once
from ...errors import SilvrinError
from ..profiles import display_p3, print_grey, romm, srgb, to_display_p3
from .output import Intent, Output

Numbers = NDArray[Any]
Rows = Iterator[Numbers]
INTENTS: dict[Intent, int] = {"perceptual": 0, "relative": 1, "saturation": 2, "absolute": 3}
BLACK_POINT = 0x2000  # flags of LittleCMS
EXACT = 0x0100  # each number through the whole of both profiles: tables in between lose blacks
CHANNELS = {"GRAY": 1, "RGB ": 3, "CMYK": 4}
MODES = {1: "gray", 3: "rgb", 4: "cmyk"}


@dataclass(frozen=True)
class Colours:
    """How numbers become those of the file, and the profile they then have."""

    profile: bytes
    channels: int
    work: Callable[[Numbers], Numbers]


def colours_of(output: Output, coloured: bool, own: bytes | None = None) -> Colours:
    """The colours of a file of a print with or without colour; `own` is the profile of the shelf
    that it names. Raises SilvrinError for a profile that cannot be printed through."""
    space = output.space if output.space != "own" else ("srgb" if coloured else "grey")
    if space == "grey":
        return Colours(print_grey(), 1, _in_grey if coloured else _same)
    if space == "srgb":
        return Colours(srgb(), 3, _in_three)
    if space == "display-p3":
        return Colours(display_p3(), 3, lambda numbers: to_display_p3(_in_three(numbers)))
    profile = romm() if space == "romm" else own
    if profile is None:
        raise SilvrinError(
            f"{output.name}: its profile {output.profile} is not on the shelf any more; choose "
            "another, or put it there again."
        )
    channels = CHANNELS[kind_of_profile(profile, output.name)]
    flags = EXACT | (BLACK_POINT if output.black_point else 0)

    def through(numbers: Numbers) -> Numbers:
        grey = numbers.ndim == 2

        def part(rows: Numbers) -> Numbers:
            found = imagecodecs.cms_transform(
                np.ascontiguousarray(rows), print_grey() if grey else srgb(), profile,
                colorspace="gray" if grey else "rgb", outcolorspace=MODES[channels],
                outdtype=rows.dtype, intent=INTENTS[output.intent], flags=flags,
            )  # fmt: skip
            return np.asarray(found, rows.dtype)

        try:
            return np.concatenate(
                at_once(*(partial(part, rows) for rows in np.array_split(numbers, THREADS)))
            )
        except (RuntimeError, ValueError) as error:
            raise SilvrinError(
                f"{output.name}: nothing can be printed through its profile ({error}); choose "
                "another."
            ) from error

    return Colours(profile, channels, through)


@lru_cache(maxsize=16)  # every frame of a soft proof asks
def kind_of_profile(profile: bytes, name: str) -> str:
    """The colours a profile is of: "GRAY", "RGB " or "CMYK". Raises SilvrinError for one that does
    not hold, is of other colours, or none of an output."""
    try:
        opened = ImageCms.ImageCmsProfile(io.BytesIO(profile)).profile
        space, device = opened.xcolor_space, opened.device_class
    except (OSError, ImageCms.PyCMSError, ValueError) as error:
        raise SilvrinError(f"{name}: this is no ICC profile that can be read.") from error
    if space not in CHANNELS or device not in ("prtr", "mntr", "spac"):
        raise SilvrinError(
            f"{name}: this profile is of {space.strip() or 'unknown'} colours and class "
            f"{device.strip() or 'unknown'}; a printer's or a screen's of grey, RGB or CMYK is "
            "wanted."
        )
    try:  # its header may be sound and the rest not
        imagecodecs.cms_transform(
            np.zeros((1, 1), np.uint16), print_grey(), profile, colorspace="gray",
            outcolorspace=MODES[CHANNELS[space]], outdtype="uint16",
        )  # fmt: skip
    except (RuntimeError, ValueError) as error:
        raise SilvrinError(f"{name}: this is no ICC profile that can be read.") from error
    return str(space)


def _same(numbers: Numbers) -> Numbers:
    return numbers


def _in_three(numbers: Numbers) -> Numbers:
    return numbers if numbers.ndim == 3 else np.repeat(numbers[..., None], 3, axis=2)


def _in_grey(numbers: Numbers) -> Numbers:
    if numbers.ndim == 2:
        return numbers
    found = imagecodecs.cms_transform(
        np.ascontiguousarray(numbers), srgb(), print_grey(), colorspace="rgb",
        outcolorspace="gray", outdtype=numbers.dtype, intent=INTENTS["relative"],
    )  # fmt: skip
    return np.asarray(found, numbers.dtype)
