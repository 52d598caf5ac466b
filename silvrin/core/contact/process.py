"""A contact process measured: which ink of a negative prints which density, and the ink that is
needed for a density.

A target of even steps of ink is printed on film, exposed and processed, and read. What lies
between the steps is a curve that only falls: more ink, less density. It is fitted as a sum of steps
that are none of them upward (integrated B-splines with weights of one sign, by non-negative least
squares), held smooth by its second differences. Readings of further rounds, at other inks, join
those before: they are of the same curve, and noise goes down with their number.
"""

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
import scipy  # its parts are read when they are asked for
from numpy.typing import NDArray

from ...errors import SilvrinError

Floats = NDArray[np.float64]

STEPS = (21, 31)  # of the targets
LEAST_READINGS = 11
LEAST_RANGE = 0.3  # density that a process must span
KNOTS, DEGREE = 16, 3
SMOOTHNESS = np.geomspace(1e-9, 1e-3, 13)  # weights of second differences beside a reading's
POINTS = 1025  # of the curve that is kept


@dataclass(frozen=True)
class Reading:
    """A patch of a target: how much ink its negative has, 0 to 1, and the density it printed."""

    ink: float
    density: float


@dataclass(frozen=True)
class ContactProcess:
    """A process as it was measured."""

    readings: tuple[Reading, ...]
    rounds: int = 1
    name: str = field(default="Contact process")

    def __post_init__(self) -> None:
        if len(self.readings) < LEAST_READINGS:
            raise SilvrinError(
                f"{len(self.readings)} readings; a target of {STEPS[0]} or {STEPS[1]} steps gives "
                f"one each, and at least {LEAST_READINGS} are needed."
            )
        for reading in self.readings:
            if not 0.0 <= reading.ink <= 1.0 or not -0.2 <= reading.density <= 5.0:
                raise SilvrinError(
                    f"Ink {reading.ink:g} with density {reading.density:g}: ink is 0 to 1, density "
                    "-0.2 to 5."
                )
        if self.span < LEAST_RANGE:
            raise SilvrinError(
                f"From no ink to full ink the print's density changes by {self.span:.2f}; at least "
                f"{LEAST_RANGE} is needed. Were the readings given the other way round, or is the "
                "ink no hindrance to the light of the process?"
            )

    @cached_property
    def curve(self) -> Floats:
        """(POINTS,) density over even inks, 0 to 1; it never rises. How smooth it is held is found
        by generalised cross-validation (Craven and Wahba 1979)."""
        grid = np.linspace(0.0, 1.0, POINTS)
        fallen = _fallen(grid)
        ink = np.array([r.ink for r in self.readings])
        density = np.array([r.density for r in self.readings])
        top, count = density.max(), len(fallen)
        at = np.array([np.interp(ink, grid, each) for each in fallen]).T  # (N, K)
        # density = top + lift - drop - sum of falls, all weights positive
        rows = np.hstack([np.ones((len(ink), 1)), -np.ones((len(ink), 1)), -at])
        bend = np.hstack([np.zeros((count - 2, 2)), np.diff(np.eye(count), 2, axis=0)])

        def fitted(smooth: float) -> tuple[float, Floats]:
            held = bend * np.sqrt(smooth)
            weights, _ = scipy.optimize.nnls(
                np.vstack([rows, held]), np.r_[density - top, np.zeros(len(bend))]
            )
            inner = np.delete(rows, 1, axis=1)  # lift and drop are one, of either sign
            stiff = np.delete(held, 1, axis=1)
            normal = inner.T @ inner + stiff.T @ stiff + 1e-12 * np.eye(count + 1)
            free = float(np.trace(np.linalg.solve(normal, inner.T @ inner)))
            left = density - top - rows @ weights
            score = float(left @ left) / max(len(ink) - free, 0.5) ** 2
            return score, weights

        _, weights = min((fitted(smooth) for smooth in SMOOTHNESS), key=lambda found: found[0])
        return np.asarray(top + weights[0] - weights[1] - weights[2:] @ fallen)

    @property
    def span(self) -> float:
        """Density between the print of no ink and that of full ink, by the readings' ends."""
        ordered = sorted(self.readings, key=lambda r: r.ink)
        ends = max(1, len(ordered) // 12)
        first = float(np.mean([r.density for r in ordered[:ends]]))
        return first - float(np.mean([r.density for r in ordered[-ends:]]))

    @property
    def base(self) -> float:
        """Density where the negative has all its ink."""
        return float(self.curve[-1])

    @property
    def black(self) -> float:
        """Density where it has none."""
        return float(self.curve[0])

    @property
    def residuals(self) -> Floats:
        """Of each reading, beside the curve."""
        grid = np.linspace(0.0, 1.0, POINTS)
        return np.array([r.density - np.interp(r.ink, grid, self.curve) for r in self.readings])

    def ink_for(self, share: Floats) -> Floats:
        """Ink for shares of the process's range, 0 base to 1 black, even in density."""
        wanted = self.base + np.clip(share, 0.0, 1.0) * (self.black - self.base)
        grid = np.linspace(0.0, 1.0, POINTS)
        falling = self.curve + np.linspace(1e-9, 0.0, POINTS)  # where it is level: the least ink
        return np.asarray(np.interp(-wanted, -falling, grid))

    def refined(self, readings: tuple[Reading, ...]) -> "ContactProcess":
        """With the readings of a further round, whose target was linearised by this one."""
        return ContactProcess(self.readings + readings, self.rounds + 1, self.name)


def _fallen(grid: Floats) -> Floats:
    """(K, POINTS) how far each of the steps has fallen over inks: integrated B-splines."""
    knots = np.r_[[0.0] * DEGREE, np.linspace(0, 1, KNOTS - DEGREE + 1), [1.0] * DEGREE]
    falls = np.array(
        [
            scipy.interpolate.BSpline.basis_element(knots[i : i + DEGREE + 2], extrapolate=False)(
                grid
            )
            for i in range(len(knots) - DEGREE - 1)
        ]
    )
    falls = np.nan_to_num(falls)
    falls[-1, -1] = falls[-1, -2]  # the last one ends with the grid
    steps = 0.5 * (falls[:, 1:] + falls[:, :-1])
    return np.concatenate([np.zeros((len(falls), 1)), steps.cumsum(axis=1)], axis=1) / len(grid)


def target_inks(steps: int, process: ContactProcess | None = None) -> Floats:
    """Inks of a target's patches, from none to full: even, or such that a process prints even
    densities."""
    if steps not in STEPS:
        raise SilvrinError(f"A target of {steps} steps; there are {STEPS[0]} and {STEPS[1]}.")
    shares = np.linspace(0.0, 1.0, steps)
    return shares if process is None else process.ink_for(1.0 - shares)
