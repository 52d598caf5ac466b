"""Printing time. At the paper log E = log t + lamp - Q * D, with Q = 1 for a diffuse head."""

import numpy as np

from ..paper.curve import PaperCurve, paper_curve
from ..paper.paper import Paper

MIDDLE_GREY_DENSITY = 0.75  # Zone V prints as 18 % reflectance
NORMAL_ZONE_V_DENSITY = 0.89  # of a normal negative, base and fog included
STANDARD_SECONDS = 12.0  # the lamp is set so that such a negative takes this long on grade 2


def lamp(paper: Paper) -> float:
    """log10 of the enlarger's light at the paper."""
    wanted = paper_curve(paper, 2.0).log_exposure_at(MIDDLE_GREY_DENSITY)
    return wanted + NORMAL_ZONE_V_DENSITY - float(np.log10(STANDARD_SECONDS))


def standard_time(curve: PaperCurve, paper: Paper, zone_v_density: float) -> float:
    """Seconds that print a negative density as middle grey, 0.75 above the paper base."""
    wanted = curve.log_exposure_at(MIDDLE_GREY_DENSITY)
    return float(10.0 ** (wanted + zone_v_density - lamp(paper)))
