"""Print and finish: exposure of the paper becomes density, and density light."""

import numpy as np
from numpy.typing import NDArray

from ..enlarger.projection import Projection
from ..station import ToneStation
from .finish import finished
from .grading import Grading


class Print(ToneStation):
    """log10 exposure of the paper to density above its base, before choices in the print."""

    builds_on = (Projection, Grading)

    def at(self, values: NDArray[np.float64]) -> NDArray[np.float64]:
        """Net density of log10 E."""
        return self.of(Grading).curve.density(values)

    def on_grade(self, values: NDArray[np.float64], grade: float) -> NDArray[np.float64]:
        """Net density of log10 E on paper of another grade."""
        return self.of(Grading).on_grade(grade).density(values)


class Finish(ToneStation):
    """Density to the light the print sends back: paper white is 1, and the paper's black becomes 0
    (black point compensation, ISO 18619)."""

    reads = (
        "paper.paper", "paper.black_at", "paper.white_at", "paper.hold_highlights",
        "paper.hold_shadows", "paper.mid_point", "paper.curve", "paper.value_lift",
    )  # fmt: skip
    builds_on = (Print,)

    def density(self, net: NDArray[np.float64]) -> NDArray[np.float64]:
        """Net density of the finished print, of the paper's own."""
        return finished(net, self.things.paper.net_density, self.recipe.paper)

    def at(self, values: NDArray[np.float64]) -> NDArray[np.float64]:
        """Light 0 to 1 of net density."""
        black = 10.0**-self.things.paper.net_density
        light = (10.0 ** -self.density(values) - black) / (1.0 - black)
        return np.asarray(np.clip(light, 0.0, 1.0))
