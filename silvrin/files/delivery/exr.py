"""OpenEXR: the linear light of a print, or the density of its negative, for going on working."""

from typing import IO, Any

import numpy as np
import OpenEXR

from ...core.colour import decode_srgb
from .about import SOFTWARE, packet
from .form import Form, Rows, whole

CHROMATICITIES = (0.64, 0.33, 0.30, 0.60, 0.15, 0.06, 0.3127, 0.3290)  # IEC 61966-2-1


def write_exr(file: IO[bytes], rows: Rows, form: Form) -> None:
    """The print as half floats, 1 for paper that gives back all light, one channel Y where it has
    no colour; the density as floats in a channel of that name."""
    numbers = whole(rows)
    if form.output.holds == "negative":
        channels = {"density": OpenEXR.Channel(numbers)}
    else:
        light = decode_srgb(np.linspace(0.0, 1.0, 65536)).astype(np.float16)[numbers]
        names = "Y" if light.ndim == 2 else "RGB"
        channels = {names: OpenEXR.Channel(light)}
    about, packed = form.about, form.output.compression == "deflate"
    said: dict[str, Any] = {
        "compression": OpenEXR.ZIP_COMPRESSION if packed else OpenEXR.NO_COMPRESSION,
        "type": OpenEXR.scanlineimage,
        "chromaticities": CHROMATICITIES,
        "xDensity": float(form.ppi),
        "software": SOFTWARE,
        "xmp": packet(about).decode(),
        "owner": about.rights,
        "comments": about.title,
    }
    with OpenEXR.File({k: v for k, v in said.items() if v != ""}, channels) as made:
        made.write(file.name)
