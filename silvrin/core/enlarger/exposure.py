"""Printing time. At the paper log E = log t + lamp - Q * D, with D the negative's density.

Q is 1 for a diffuse head. A condenser sends directed light, of which silver scatters a part away:
Callier 1909; Q of 1.2 to 1.5 for conventional negatives, about one paper grade (textbook, memory).
"""

import numpy as np

from ..paper.curve import PaperCurve, paper_curve
from ..paper.paper import Paper
from .settings import Head

MIDDLE_GREY_DENSITY = 0.75  # Zone V prints as 18 % reflectance
NORMAL_ZONE_V_DENSITY = 0.89  # of a normal negative, base and fog included
STANDARD_SECONDS = 12.0  # the lamp is set so that such a negative takes this long on grade 2 ...
STANDARD_SPEED = 250.0  # ... of a paper of this speed
CALLIER: dict[Head, float] = {"diffuse": 1.0, "condenser": 1.22}


def lamp(paper: Paper, head: Head = "diffuse") -> float:
    """log10 of the enlarger's light at the paper, relative to the paper's speed point. The
    condenser's lamp is so much stronger that a normal negative's Zone V takes the same time."""
    wanted = paper_curve(paper, 2.0).log_exposure_at(MIDDLE_GREY_DENSITY)
    light = wanted + CALLIER[head] * NORMAL_ZONE_V_DENSITY - float(np.log10(STANDARD_SECONDS))
    return light + float(np.log10(paper.speed / STANDARD_SPEED))


def standard_time(curve: PaperCurve, lamp: float, zone_v: float) -> float:
    """Seconds that print Zone V, of that density to the head's light, as middle grey: 0.75 above
    the paper base."""
    wanted = curve.log_exposure_at(MIDDLE_GREY_DENSITY)
    return float(10.0 ** (wanted + zone_v - lamp))
