"""Where hue bands lie: on the hues that a picture holds, evenly, where it is pulled, or so that two
places get one each."""

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from .hue_bands import shares, weight
from .settings import MOST_BANDS, MOST_STOPS, HueBand

Floats = NDArray[np.float64]

SMOOTH = 5.0  # degrees by which the hues of a picture are taken together
VALLEY = 0.8  # of the lower of two heaps of hues, that lies between them at most
LEAST_SHARE = 0.02  # of all colour, that a band is laid for
THIN = 0.05  # of the most frequent hue, below which a heap ends
MARGIN = 4.0  # degrees beyond it
WIDE, HEAVY = 50.0, 0.35  # degrees, share of all colour: heaps beyond both get two bands
SOFTNESS = 0.6  # of bands that are laid: their middles are whole
PULLED, NARROW = 40.0, 12.0  # degrees: width of a band that is made where the picture is pulled
COVERS = 0.5  # of a hue that a band takes, to be the one that is moved
LEAST_APART = 6.0  # degrees of hue that bands can part


def even_bands(count: int) -> tuple[HueBand, ...]:
    """Bands of one width round the circle, from red. Together they are whole everywhere."""
    width = 360.0 / count
    return tuple(
        HueBand(centre=round(12.0 + width * i) % 360, width=min(round(width), 180))
        for i in range(count)
    )


def laid_bands(hues: Floats) -> tuple[HueBand, ...]:
    """Bands on the heaps of hues of a picture: its coloured share over the circle (N,) from 0. They
    meet where hues are rare; a heap of much colour over many hues gets two. At most twelve."""
    fine = np.interp(np.arange(360.0), *_round(hues))
    away = np.abs((np.arange(360.0) + 180.0) % 360.0 - 180.0)
    near = np.exp(-0.5 * (away / SMOOTH) ** 2)
    smooth = np.fft.irfft(np.fft.rfft(fine) * np.fft.rfft(near / near.sum()), 360)
    if smooth.max() <= 0.0:
        return ()
    heaps = _heaps(np.maximum(smooth, 0.0))
    found = []
    for low, high in heaps:
        share = _within(fine, low, high) / fine.sum()
        if share < LEAST_SHARE:
            continue
        if high - low > WIDE and share > HEAVY:
            half = _median(fine, low, high)
            found += [(0.5 * share, low, half), (0.5 * share, half, high)]
        else:
            found.append((share, low, high))
    most = sorted(found, reverse=True)[:MOST_BANDS]
    return tuple(
        _band(low, high)
        for _, low, high in sorted(most, key=lambda heap: 0.5 * (heap[1] + heap[2]) % 360.0)
    )


def band_for(bands: tuple[HueBand, ...], hue: float) -> int | None:
    """Which band covers a hue; None where none does."""
    if not bands:
        return None
    found = shares(bands, np.array(hue))
    most = int(np.argmax(found))
    return most if found[most] >= COVERS else None


def band_at(bands: tuple[HueBand, ...], hue: float) -> HueBand | None:
    """A new band about a hue that keeps out of the others as far as it can, with the stops that the
    hue has by now, as far as a band can have them; None where there is no room for one more."""
    if len(bands) >= MOST_BANDS:
        return None
    given, width = 0.0, PULLED
    for band in bands:
        away = abs((hue - band.centre + 180.0) % 360.0 - 180.0)
        width = min(width, max(2.0 * away - band.width, NARROW))
        given += float(weight(band, np.array(hue))) * band.stops
    stops = min(max(round(given * 24.0) / 24.0, -MOST_STOPS), MOST_STOPS)
    return HueBand(centre=round(hue) % 360, width=round(width), stops=stops)


def parted_bands(
    bands: tuple[HueBand, ...], hues: tuple[float, float]
) -> tuple[HueBand, ...] | None:
    """Bands of which each of two hues has its own, meeting half way between them: in place of one
    that covers both, or beside the others. None where the hues are too near, or there is no room.
    """
    turn = (hues[1] - hues[0] + 180.0) % 360.0 - 180.0
    if abs(turn) < LEAST_APART:
        return None
    covering = [band_for(bands, hue) for hue in hues]
    made = list(bands)
    width = round(min(abs(turn), PULLED))
    own = [
        HueBand(
            centre=round(hue) % 360,
            width=width,
            softness=SOFTNESS,
            stops=0.0 if at is None else bands[at].stops,
        )
        for hue, at in zip(hues, covering, strict=True)
    ]
    if covering[0] == covering[1]:
        if covering[0] is not None:
            del made[covering[0]]
        made += own
    else:
        made += [band for band, at in zip(own, covering, strict=True) if at is None]
    return tuple(made) if len(made) <= MOST_BANDS else None


def _round(hues: Floats) -> tuple[Floats, Floats]:
    """Middles in degrees of the steps of a circle and their values, from before 0 to beyond 360."""
    step = 360.0 / len(hues)
    middles = step * (np.arange(-1, len(hues) + 1) + 0.5)
    return np.asarray(middles, np.float64), np.concatenate([hues[-1:], hues, hues[:1]])


def _heaps(smooth: Floats) -> list[tuple[float, float]]:
    """From and to of each heap of hues, degrees; a heap may go on beyond 360."""
    # begins where there is the least, so that no heap lies across the seam
    start = int(np.argmin(smooth))
    turned = np.roll(smooth, -start)
    least = THIN * turned.max()
    edges, top, valley = [0], turned[0], 0
    for at in range(1, 360):
        here = turned[at]
        if here < turned[valley]:
            valley = at
        # a valley is one when it lies well below the heaps on both sides
        if turned[valley] < VALLEY * min(top, here) or turned[valley] <= least < here:
            if valley > edges[-1]:
                edges.append(valley)
            top, valley = here, at
        elif here > top:
            top, valley = here, at
    edges.append(360)
    found = []
    for low, high in pairwise(edges):
        there = np.flatnonzero(turned[low:high] > least)
        if len(there):
            first = max(low, low + there[0] - MARGIN)
            last = min(high, low + there[-1] + MARGIN)
            found.append((float(first + start), float(last + start)))
    return found


def _within(fine: Floats, low: float, high: float) -> float:
    return float(np.take(fine, np.arange(round(low), round(high)), mode="wrap").sum())


def _median(fine: Floats, low: float, high: float) -> float:
    sums = np.cumsum(np.take(fine, np.arange(round(low), round(high)), mode="wrap"))
    return low + float(np.searchsorted(sums, 0.5 * sums[-1]))


def _band(low: float, high: float) -> HueBand:
    width = min(max(round(high - low), round(NARROW)), 180)
    return HueBand(centre=round(0.5 * (low + high)) % 360, width=width, softness=SOFTNESS)
