"""Areas of the printing map, and what passes add up to."""

import numpy as np
from numba import njit

from .run import OPTIONS

ADD, TAKE, KEEP = 0, 1, 2


@njit(**OPTIONS)
def _joined(amount, own, how):
    """What becomes of an amount with another shape added, taken away, or kept of it."""
    one = np.float32(1.0)
    if how == ADD:
        return one - (one - amount) * (one - own)
    return amount * (one - own) if how == TAKE else amount * own


@njit(**OPTIONS)
def _run(part):
    """1 before 0, 0 past 1, smoothly between (as `colour.smooth_step`)."""
    x = min(max(part, np.float32(0.0)), np.float32(1.0))
    return np.float32(1.0) - x * x * (np.float32(3.0) - np.float32(2.0) * x)


@njit("void(i8,i8,f4[:,:,::1],f4[::1],i8,f4[:,::1])", **OPTIONS)
def join_disc(first, last, places, disc, how, out):
    """Joins an ellipse to the amounts at places (H, W, 2); `disc` is its middle, one over its radii
    along and across, cosine and sine of its turn, and one over its softness."""
    x0, y0, along, across, cosine, sine, soft = disc
    half, one = np.float32(0.5), np.float32(1.0)
    for y in range(first, last):
        for x in range(places.shape[1]):
            dx, dy = places[y, x, 0] - x0, places[y, x, 1] - y0
            u = (dx * cosine + dy * sine) * along
            v = (dy * cosine - dx * sine) * across
            away = np.sqrt(u * u + v * v)
            out[y, x] = _joined(out[y, x], _run((away - one) * soft + half), how)


@njit("void(i8,i8,f4[:,:,::1],f4[::1],i8,f4[:,::1])", **OPTIONS)
def join_card(first, last, places, card, how, out):
    """Joins a straight edge; `card` is where it is full, and its run over the square of that."""
    x0, y0, run_x, run_y = card
    for y in range(first, last):
        for x in range(places.shape[1]):
            part = (places[y, x, 0] - x0) * run_x + (places[y, x, 1] - y0) * run_y
            out[y, x] = _joined(out[y, x], _run(part), how)


@njit("void(i8,i8,f4[:,::1],f4,b1,b1,f4,f4[:,::1],u1[:,::1])", **OPTIONS)
def add_pass(first, last, amount, stops, opposite, strongest, touches, sums, touched):
    """Adds what a pass gives, or lets the stronger stand; counts where that is felt."""
    one = np.float32(1.0)
    for y in range(first, last):
        for x in range(amount.shape[1]):
            given = stops * (one - amount[y, x] if opposite else amount[y, x])
            if not strongest:
                sums[y, x] += given
            elif abs(given) > abs(sums[y, x]):
                sums[y, x] = given
            touched[y, x] += np.uint8(abs(given) > touches)
