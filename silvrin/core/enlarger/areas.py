"""Areas of the printing map: how far places of a picture belong to them.

Source of the terms: cards and discs on a wire are what printers dodge and burn with; their soft
edge is their movement (common practice).

What is drawn is a level at each place of the ground. What follows the light of the picture (held to
edges, limited to zones, alike, sky, foliage) is, at each place, also a line in the place's own
light, so that its edges are as sharp as the picture's at any size (`guided`).
"""

from collections.abc import Callable, Sequence
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from .. import kernels
from ..colour import smooth_step
from ..guided import box_mean
from ..light.hue_bands import coloured, hue_of
from . import known
from .ground import Ground
from .holding import matte
from .likeness import likeness
from .shapes import (
    Alike,
    Brush,
    Card,
    Disc,
    FallOff,
    Foliage,
    HueLimit,
    Moved,
    Oval,
    Pass,
    Polygon,
    Shape,
    Sides,
    Sky,
    Whole,
    ZoneLimit,
)

F32 = NDArray[np.float32]
Floats = NDArray[np.float64]

HOWS = ("add", "take", "keep")
TOGETHER = 4  # sheets of strokes after which what is drawn is kept
MOVES = 48  # places that a movement is taken in
LEAST_BLUR = 0.2  # pixels of the ground, less changes nothing that is seen
FOLLOWS = 2  # pixels of the ground within which an area follows the light: as in the kernels
FOLLOWS_EDGE = 0.1  # stops, less of a difference is none


def covered(shapes: Sequence[Shape], ground: Ground) -> F32:
    """(H, W) 0 to 1 of the places of a ground (a brush may reach beyond): the first shape, with
    what each further one adds, takes away, or keeps. Before the first one there is nothing, or, to
    take from or keep of, all."""
    out: F32 | None = None
    for shape in shapes:
        own = _DRAWN[type(shape)](shape, ground)
        if out is None:
            out = np.float32(1.0) - own if shape.how == "take" else own
        else:
            how = HOWS.index(shape.how)
            kernels.by_rows(kernels.join_shapes, len(out), own, how, out)
    return np.zeros(ground.shape, np.float32) if out is None else out


def _by_rows(kernel: Callable[..., None], ground: Ground, *arguments: Any) -> F32:
    out = np.empty(ground.shape, np.float32)
    kernels.by_rows(kernel, len(out), ground.places, *arguments, out)
    return out


def _disc(disc: Disc, ground: Ground) -> F32:
    turn = np.radians(disc.angle)
    figures = np.array(
        [
            disc.x, disc.y, 1.0 / disc.width, 1.0 / disc.height, np.cos(turn), np.sin(turn),
            1.0 / disc.soft,
        ],
        np.float32,
    )  # fmt: skip
    out = np.zeros(ground.shape, np.float32)
    box = _box_of(disc, ground)
    if box is not None:
        left, right, top, bottom = box
        box_there = np.array([left, right, top], np.int64)
        kernels.by_rows(kernels.disc, bottom - top, ground.places, figures, box_there, out)
    return out


def _box_of(disc: Disc, ground: Ground) -> tuple[int, int, int, int] | None:
    """Left, right, top and bottom of the pixels of the ground that an ellipse may reach: of the
    rectangle about it on the capture, drawn somewhat wider. None where it reaches none."""
    turn = np.radians(disc.angle)
    reach = 1.0 + disc.soft / 2.0
    steps = np.linspace(-1.0, 1.0, 9)
    edge = np.concatenate([[(s, e), (e, s)] for s in steps for e in (-1.0, 1.0)]) * reach
    along, across = edge[:, 0] * disc.width, edge[:, 1] * disc.height
    places = np.stack(
        [
            disc.x + along * np.cos(turn) - across * np.sin(turn),
            disc.y + along * np.sin(turn) + across * np.cos(turn),
        ],
        axis=-1,
    )
    found = ground.to_ground(places)
    least, most = found.min(axis=0), found.max(axis=0)
    wider = 2.0 + 0.02 * (most - least)  # a lens may bend its sides outwards between the places
    height, width = ground.shape
    left, top = np.maximum(np.floor(least - wider), 0).astype(int)
    right, bottom = np.minimum(np.ceil(most + wider), (width, height)).astype(int)
    return (left, right, top, bottom) if left < right and top < bottom else None


def _card(card: Card, ground: Ground) -> F32:
    run = np.array([card.to_x - card.x, card.to_y - card.y])
    figures = np.array([card.x, card.y, *(run / max(float(run @ run), 1e-9))], np.float32)
    return _by_rows(kernels.card, ground, figures)


def _polygon(outline: Polygon, ground: Ground) -> F32:
    corners = np.array(outline.points, np.float32)
    middle = corners.mean(axis=0, keepdims=True, dtype=np.float64)
    feather = max(outline.feather, float(_pitches(middle, ground)[0]))
    box = np.array([*(corners.min(axis=0) - feather), *(corners.max(axis=0) + feather)], np.float32)
    return _by_rows(kernels.polygon, ground, corners, np.float32(feather), box)


def _pitches(middles: Floats, ground: Ground) -> Floats:
    """(N,) pixels of the capture to one of the ground, about places (N, 2) of the capture."""
    step = 8.0 * ground.pitch
    corner = np.array([[0.0, 0.0], [step, 0.0], [0.0, step]])
    there = ground.to_ground((middles[:, None] + corner).reshape(-1, 2)).reshape(-1, 3, 2)
    (ax, ay), (bx, by) = (there[:, 1] - there[:, 0]).T, (there[:, 2] - there[:, 0]).T
    return np.asarray(step / np.maximum(np.sqrt(np.abs(ax * by - ay * bx)), 1e-3))


def _brush(brush: Brush, ground: Ground) -> F32:
    """What is on all sheets but the last is kept, and what is on every so many: a stroke more draws
    only what is on the last."""

    def drawn(names: tuple[str, ...]) -> F32:
        begins = (len(names) - 1) // TOGETHER * TOGETHER
        out = kept(names[:begins]).copy() if begins else np.zeros(ground.shape, np.float32)
        for name in names[begins:]:
            _with_strokes(out, brush, name, ground)
        return out

    def kept(names: tuple[str, ...]) -> F32:
        key = f"strokes {' '.join(names)} {brush.most} {brush.dx} {brush.dy}"
        return ground.keep(key, lambda: drawn(names))

    *before, last = brush.strokes
    out = kept(tuple(before)).copy() if before else np.zeros(ground.shape, np.float32)
    return _with_strokes(out, brush, last, ground)


def _with_strokes(out: F32, brush: Brush, name: str, ground: Ground) -> F32:
    """With the strokes of one sheet drawn on what is there."""
    strokes = ground.strokes[name]
    shift = np.array([brush.dx, brush.dy])

    def placed() -> F32:
        there = np.array([p for stroke in strokes for p in stroke.points], np.float64) + shift
        pressure = [p for s in strokes for p in (s.pressure or (1.0,) * len(s.points))]
        return np.column_stack([ground.to_ground(there) - 0.5, pressure]).astype(np.float32)

    points = ground.keep(f"sheet {name} {brush.dx} {brush.dy}", placed)
    middles = np.array([stroke.points[len(stroke.points) // 2] for stroke in strokes]) + shift
    figures = np.column_stack(
        [
            np.array([s.radius for s in strokes]) / _pitches(middles, ground),
            [s.soft for s in strokes],
            [-s.flow if s.take else s.flow for s in strokes],
        ]
    )
    begins = np.cumsum([0, *(len(stroke.points) for stroke in strokes)], dtype=np.int64)
    kernels.by_rows(
        kernels.brush, len(out), points, begins, figures.astype(np.float32),
        np.float32(brush.most), out,
    )  # fmt: skip
    return out


def _moved(moved: Moved, ground: Ground) -> F32:
    """The mean over even parts of the time; between its places it moved evenly."""
    x, y, moments = np.array(moved.path, np.float64).T
    if moments[-1] == moments[0]:
        x, y, moments = x[-1:], y[-1:], moments[-1:]
    parts = MOVES if len(moments) > 1 else 1
    middles = moments[0] + (np.arange(parts) + 0.5) / parts * (moments[-1] - moments[0])
    out = np.zeros(ground.shape, np.float32)
    for dx, dy in zip(np.interp(middles, moments, x), np.interp(middles, moments, y), strict=True):
        out += _DRAWN[type(moved.held)](_shifted(moved.held, dx, dy), ground)
    return out / np.float32(parts)


def _shifted(held: Disc | Card, dx: float, dy: float) -> Disc | Card:
    there = {"x": held.x + dx, "y": held.y + dy}
    if isinstance(held, Card):
        there |= {"to_x": held.to_x + dx, "to_y": held.to_y + dy}
    return held.model_copy(update=there)


def _parts(ground: Ground) -> tuple[Floats, Floats]:
    """Places in pixels of the finished picture, across (1, W) and down (H, 1)."""
    height, width = ground.shape
    return (
        (np.arange(width)[None] + 0.5) * ground.side[0] / width,
        (np.arange(height)[:, None] + 0.5) * ground.side[1] / height,
    )


def _sides(sides: Sides, ground: Ground) -> F32:
    x, y = _parts(ground)
    width, height = ground.side
    reach = sides.width / 100.0 * min(width, height)
    full = reach * (1.0 - sides.feather / 100.0)
    left_over = np.ones(ground.shape)
    for part, away in (
        (sides.left, x), (sides.right, width - x), (sides.top, y), (sides.bottom, height - y),
    ):  # fmt: skip
        left_over = left_over * (1.0 - part * (1.0 - smooth_step(away, full, reach)))
    return np.asarray(1.0 - left_over, np.float32)


def _oval(oval: Oval, ground: Ground) -> F32:
    x, y = _parts(ground)
    width, height = ground.side
    half = oval.size / 100.0 * np.hypot(width, height) / 2.0
    shape = np.array([width, height]) / np.hypot(width, height) * np.sqrt(2.0)
    along, across = half * (shape + oval.roundness * (1.0 - shape))
    away = np.hypot((x - oval.x * width) / along, (y - oval.y * height) / across)
    run = oval.feather / 200.0
    edges = smooth_step(away, 1.0 - run, 1.0 + run)
    return np.asarray(edges - oval.middle * (1.0 - edges), np.float32)


def _fall_off(fall: FallOff, ground: Ground) -> F32:
    x, y = _parts(ground)
    width, height = ground.side
    across, down = x - fall.x * width, y - fall.y * height
    far = np.hypot(
        max(abs(fall.x * width), abs(width - fall.x * width)),
        max(abs(fall.y * height), abs(height - fall.y * height)),
    )
    # cos^4 in stops is 2 log2(1 + tan^2): of the corner's
    tangent = np.tan(np.radians(fall.angle)) / far
    lost = np.log2(1.0 + (across**2 + down**2) * tangent**2)
    return np.asarray(lost / np.log2(1.0 + (far * tangent) ** 2), np.float32)


_DRAWN: dict[type, Callable[[Any, Ground], F32]] = {
    Disc: _disc,
    Card: _card,
    Brush: _brush,
    Polygon: _polygon,
    Moved: _moved,
    Alike: likeness,
    Sky: lambda _, ground: ground.keep("sky", lambda: known.sky(ground)),
    Foliage: lambda _, ground: ground.keep("foliage", lambda: known.foliage(ground)),
    Whole: lambda _, ground: np.ones(ground.shape, np.float32),
    Sides: _sides,
    Oval: _oval,
    FallOff: _fall_off,
}


def follows_light(each: Pass) -> bool:
    """Whether its area depends on the light of the picture."""
    kinds = (Alike, Sky, Foliage)
    known_by_light = any(isinstance(shape, kinds) for shape in each.shapes)
    return known_by_light or bool(each.held or each.zones or each.hues)


def area_key(each: Pass) -> tuple[object, ...]:
    """What of a pass its area depends on."""
    return each.shapes, each.soften, each.held, each.zones, each.hues


def area(each: Pass, ground: Ground) -> F32:
    """The area of a pass over a ground: (1, H, W) its level, or, where it follows the light, (2, H,
    W): level, and its slope by log2 of the light's sum."""
    level = covered(each.shapes, ground)
    blur = each.soften / 100.0 * ground.long
    if blur > LEAST_BLUR:
        soft = cv2.GaussianBlur(level, (0, 0), blur, borderType=cv2.BORDER_REPLICATE)
        level = np.asarray(soft, np.float32)
    if not follows_light(each):
        return level[None]
    if each.held:
        level = level * (1.0 - each.held * (1.0 - matte(level, ground)))
    if each.zones:
        level = level * of_zones(each.zones, ground.zones)
    if each.hues:
        level = level * of_hues(each.hues, ground.colours)
    return _line(np.ascontiguousarray(level, np.float32), ground)


def _line(level: F32, ground: Ground) -> F32:
    """(2, H, W) level and slope of the line that follows a level: a guided filter (`guided`) whose
    windows of the guide are those of all areas."""
    mean, part = ground.keep("windows", lambda: _windows(ground))
    out = np.empty((2, *level.shape), np.float32)
    kernels.by_rows(kernels.follow, len(level), ground.guide, level, mean, part, out)
    return out


def _windows(ground: Ground) -> F32:
    """(2, H, W) mean of the guide in windows, and one over its variance and an edge's."""
    mean = box_mean(ground.guide, FOLLOWS)
    variance = np.maximum(box_mean(ground.guide * ground.guide, FOLLOWS) - mean * mean, 0.0)
    return np.stack([mean, 1.0 / (variance + np.float32(FOLLOWS_EDGE**2))])


def of_zones(limit: ZoneLimit, zones: F32) -> F32:
    """0 to 1: how far zones lie in a range; half at its ends, the scale's own ends aside."""
    run = limit.soft / 2.0
    above = smooth_step(zones, limit.first - run, limit.first + run) if limit.first > 0 else 1.0
    below = smooth_step(zones, limit.last - run, limit.last + run) if limit.last < 10 else 0.0
    return np.asarray(np.broadcast_to(above * (1.0 - np.asarray(below)), zones.shape), np.float32)


def of_hues(limit: HueLimit, colours: F32) -> F32:
    """0 to 1: how far colours (H, W, 3) have a hue in a range; greys have none."""
    hue, saturation = hue_of(np.maximum(colours, 1e-6).astype(np.float64))
    away = np.abs((hue - limit.hue + 180.0) % 360.0 - 180.0)
    half = limit.width / 2.0
    inside = 1.0 - smooth_step(away, half * (1.0 - limit.soft), half)
    return np.asarray(inside * coloured(saturation), np.float32)
