"""Where a monotonic function crosses zero."""

from collections.abc import Callable

from .later import optimize


def root(function: Callable[[float], float], left: float, right: float) -> float:
    """The argument between `left` and `right` at which a monotonic function is 0 (Brent 1973), or
    the end that is nearer where it does not cross it."""
    at_left, at_right = function(left), function(right)
    if at_left * at_right > 0.0 or at_left == at_right:
        return left if abs(at_left) <= abs(at_right) else right
    return float(optimize.brentq(function, left, right))
