"""Leaves, potted plants, trees and grass."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .noise import fractal, ramp
from .shapes import Shape, joined, lattice, leaves, tube, unit
from .stage import Kind, Stage


def foliage(stage: Stage, kind: Kind, scale: float = 1.0) -> object:
    """Eight leaves side by side, of different age and chlorophyll, veined."""
    v, u = np.mgrid[0:128, 0:64] / np.array([128, 64])[:, None, None]
    x = abs(u - 0.5) * 2
    side = np.exp(-((np.abs(((v * 9 - x * 2.2) % 1) - 0.5) / 0.09) ** 2)) * (x < 0.95)
    vein = np.exp(-((x / 0.05) ** 2)) + 0.6 * side
    rng = np.random.default_rng(3)
    shares: list[list[NDArray]] = [[], [], [], []]
    for i in range(8):
        n = fractal(128, 64, 2.2, 5 + i)
        young, dark = rng.uniform(0, 0.7) * (i % 3 == 0), rng.uniform(0, 0.9)
        dry = rng.uniform(0, 0.12) ** 1.5
        for share, w in zip(
            shares,
            (
                0.6 + 0 * v,
                0.3 * vein + young,
                dark + 0.3 * np.clip(n, 0, 2),
                dry + 0.08 * np.clip(-n - 0.9, 0, 2) + 0.15 * ramp(0.93, 1, v),
            ),
            strict=True,
        ):
            share.append(w)
    weights = [np.concatenate(s, 1) for s in shares]
    tone = None if scale == 1.0 else np.full(weights[0].shape, scale)
    return stage.thin(stage.mixed([kind, "leafyoung", "leafdark", "leafdry"], weights, tone))


def bark(stage: Stage) -> object:
    """Furrowed bark."""
    light, dark = fractal(256, 256, 1.8, 81, 1, 6), fractal(256, 256, 1.6, 82, 1, 6)
    texture = stage.mixed(
        ["bark", "woodgrey", "soot"],
        [np.ones_like(light), 0.5 * np.clip(light, 0, 2), 0.5 * np.clip(-dark, 0, 2)],
    )
    return stage.matte(texture)


def potted(
    base: NDArray, stems: int, tall: float, seed: int, spread: float = 0.9, wide: float = 0.42,
    long: float = 0.75,
) -> tuple[Shape, Shape]:  # fmt: skip
    """Arching stems with leaves; (leaves, stems)."""
    rng = np.random.default_rng(seed)
    at, along, up, length, width, bars = [], [], [], [], [], []
    t = np.linspace(0, 1, 24)
    for _ in range(stems):
        turn, lean = rng.uniform(0, 2 * np.pi), rng.uniform(0.1, spread)
        high = tall * rng.uniform(0.6, 1.1)
        out = lean * high * t**1.4
        path = np.stack(
            [np.cos(turn) * out, np.sin(turn) * out, high * t * (1 - 0.38 * lean * t**2)], 1
        )
        path = path + base + np.r_[rng.normal(0, 0.16, 2), 0]
        path += 0.02 * np.cumsum(rng.standard_normal((24, 3)), 0)
        bars.append(tube(path, 0.035 * (1 - 0.7 * t) + 0.006, 8))
        tangent = unit(np.gradient(path, axis=0))
        for q in np.linspace(0.22, 1, rng.integers(9, 15)):
            j, angle = int(q * 23), rng.uniform(0, 2 * np.pi) if q < 1 else 0
            aside = unit(np.cross(tangent[j], [np.cos(angle), np.sin(angle), 0.3]))
            at.append(path[j])
            along.append(aside * 0.9 + tangent[j] * 0.55 + [0, 0, -0.12])
            up.append(np.array([0, 0, 1.0]) + 0.35 * rng.standard_normal(3))
            length.append(long * rng.uniform(0.55, 1.15) * (1.15 - 0.5 * q))
            width.append(wide * rng.uniform(0.7, 1.1) * (1.15 - 0.5 * q))
    curl = rng.uniform(0.3, 1.4, len(at))
    shape = leaves(*(np.array(a) for a in (at, along, up, length, width)), curl)
    return shape, joined(bars)


@dataclass(frozen=True)
class Species:
    """How a tree grows; lengths in metres, heights in parts of its own."""

    attractors: int = 420
    leaves_each: int = 70
    leaf: float = 0.11
    narrow: float = 0.62  # leaf width by length
    trunk: float = 0.3
    crown_from: float = 0.32
    droop: float = 0.25
    lobes: int = 9
    upright: float = 1.0  # crown height against its spread


def tree(height: float, spread: float, seed: int, kind: Species) -> tuple[Shape, Shape]:
    """(leaves, wood) of a tree at the origin, its branches grown towards points of its crown."""
    rng = np.random.default_rng(seed)
    low = kind.crown_from
    centres = rng.normal(0, 0.42, (kind.lobes, 3)) * [spread, spread, height * 0.2 * kind.upright]
    centres += [0, 0, height * (low + (1 - low) * 0.5)]
    radii = rng.uniform(0.38, 0.62, kind.lobes) * spread
    points: list[NDArray] = []
    while len(points) < kind.attractors:
        i = rng.integers(kind.lobes)
        q = centres[i] + unit(rng.standard_normal(3)) * radii[i] * rng.uniform(0.45, 1.0) * [
            1, 1, 0.85 * kind.upright,
        ]  # fmt: skip
        if q[2] > height * low * 0.75:
            points.append(q)
    aim = np.array(points)
    up = np.linspace(0, 2, 14)
    stem = np.stack(
        [
            0.06 * height * np.sin(up + seed) * up / 2,
            0.05 * height * np.cos(up * 1.3 + seed) * up / 2,
            np.linspace(-0.2, height * 0.62, 14),
        ],
        1,
    )
    nodes, parent = list(stem), [-1, *range(13)]
    length = list(np.linspace(0, height * 0.62, 14))
    for i in np.argsort(np.linalg.norm(aim - stem[-1] * [1, 1, 0.7], axis=1)):
        grown = np.array(nodes)
        far = np.linalg.norm(grown - aim[i], axis=1)
        cost = far + 0.22 * np.array(length) + 1.5 * np.maximum(grown[:, 2] - aim[i][2], 0)
        cost[: int(14 * low * 1.3)] += 9
        j = previous = int(np.argmin(cost))
        steps = max(1, int(far[j] / 0.35))
        for q in range(1, steps + 1):
            arch = [0, 0, 0.06 * np.sin(np.pi * q / steps) * far[j]]
            shake = rng.normal(0, 0.035, 3) * (q < steps)
            nodes.append(grown[j] + (aim[i] - grown[j]) * q / steps + shake + arch)
            parent.append(previous)
            length.append(length[previous] + far[j] / steps)
            previous = len(nodes) - 1
    place, back = np.array(nodes), np.array(parent)
    weight, forks = np.zeros(len(place)), np.zeros(len(place), bool)
    forks[back[back >= 0]] = True
    weight[~forks] = 1
    for i in range(len(place) - 1, 0, -1):
        weight[back[i]] += weight[i]
    radius = kind.trunk * (weight / weight[0]) ** 0.46
    wood, angle = [], np.linspace(0, 2 * np.pi, 9)
    for i in range(1, len(place)):
        low_end, high_end = place[back[i]], place[i]
        long = np.linalg.norm(high_end - low_end)
        if long < 1e-5 or radius[i] < 0.006:
            continue
        tangent = (high_end - low_end) / long
        a = unit(np.cross(tangent, [0.3, 0.9, 0.1]))
        b = np.cross(tangent, a)
        ring = np.cos(angle)[:, None] * a + np.sin(angle)[:, None] * b
        flare = 1 + 0.6 * np.exp(-back[i] * 1.2)
        thick = min(radius[back[i]], radius[i] * 1.35) if i > 14 else radius[back[i]] * flare
        ends = [low_end - tangent * thick * 0.3 + ring * thick, high_end + ring * radius[i]]
        uv = np.stack(np.meshgrid(np.linspace(0, 1, 9), [low_end[2], high_end[2]]), -1)
        wood.append((np.concatenate(ends), lattice(9, 2), uv.reshape(-1, 2)))
    tips, count = np.flatnonzero(weight < 6), kind.attractors * kind.leaves_each
    jitter = rng.normal(0, 1, (count, 3)) * 0.08 * spread**0.5 * [1.6, 1.6, 1.0]
    at = place[tips[rng.integers(0, len(tips), count)]] + jitter
    out = unit(at - centres.mean(0))
    along = out * 0.6 + rng.standard_normal((count, 3)) * 0.7 + [0, 0, -kind.droop]
    normal = np.array([0, 0, 1.0]) + 0.5 * out + 0.5 * rng.standard_normal((count, 3))
    crown = leaves(
        at, along, normal, kind.leaf * rng.uniform(0.6, 1.3, count),
        kind.leaf * kind.narrow * rng.uniform(0.7, 1.2, count), rng.uniform(0.2, 1.2, count), rows=2,
    )  # fmt: skip
    return crown, joined(wood)


def willow(height: float, spread: float, seed: int, hang_to: float = 0.3) -> tuple[Shape, Shape]:
    """(leaves, wood) of a weeping willow: limbs that arch out, and curtains of twigs."""
    rng = np.random.default_rng(seed)
    t = np.linspace(0, 1, 22)
    wood: list[Shape] = []
    lean = rng.normal(0, 0.05, 2) * height
    top = height * 0.42
    trunk = np.stack([lean[0] * t**2, lean[1] * t**2, -0.3 + (top + 0.3) * t], 1)
    trunk[:, :2] += 0.05 * np.cumsum(rng.standard_normal((22, 2)), 0)
    girth = 0.042 * height
    wood.append(tube(trunk, girth * (1 - 0.35 * t) * (1 + 0.5 * np.exp(-t * 9)), 16))
    starts: list[NDArray] = []
    headings: list[NDArray] = []
    for i in range(15):
        turn = i * 2.4 + rng.uniform(-0.4, 0.4)
        out = spread * rng.uniform(0.45, 1.0) * (0.55 if i % 4 == 0 else 1.0)
        high = (height - top) * rng.uniform(0.65, 1.0) * (1.0 if i % 4 == 0 else 0.85)
        heading = np.array([np.cos(turn), np.sin(turn), 0.0])
        path = trunk[-1 - i % 4] + out * (t**1.1)[:, None] * heading
        path[:, 2] += high * np.sin(np.minimum(t * 1.9, np.pi * 0.62)) ** 0.9
        path += 0.035 * np.cumsum(rng.standard_normal((22, 3)), 0)
        wood.append(tube(path, girth * 0.42 * (1 - 0.85 * t) + 0.012, 9))
        for j in range(4, 22):
            for _ in range(6):
                side = rng.normal(0, 0.30 + 0.35 * j / 22, 3) * [1, 1, 0.3]
                starts.append(path[j] + side)
                headings.append(heading + 0.5 * rng.standard_normal(3) * [1, 1, 0])
    at, along, length = [], [], []
    for start, heading in zip(starts, headings, strict=True):
        drop = max(0.5, (start[2] - hang_to) * rng.uniform(0.35, 1.0))
        drop = min(drop, height * 0.62)
        leaves_on = max(8, int(drop / 0.075))
        q = np.sort(rng.uniform(0.02, 1, leaves_on))
        arch = 0.32 * (1 - np.exp(-3 * q)) * min(drop, 1.6)
        sway = 0.05 * np.sin(q * 5 + rng.uniform(0, 6))
        place = start + arch[:, None] * heading
        place[:, 0] += sway
        place[:, 2] -= drop * q**1.15
        at.append(place)
        aside = rng.standard_normal((leaves_on, 3)) * 0.55
        along.append(aside + [0, 0, -0.9])
        length.append(rng.uniform(0.10, 0.19, leaves_on) * (1 - 0.25 * q))
        if rng.uniform() < 0.5:
            line = np.linspace(0, 1, 7)
            twig = start + (0.32 * (1 - np.exp(-3 * line)) * min(drop, 1.6))[:, None] * heading
            twig[:, 2] -= drop * line**1.15
            wood.append(tube(twig, 0.006, 3))
    where, forth, long = np.concatenate(at), np.concatenate(along), np.concatenate(length)
    count = len(where)
    up = rng.standard_normal((count, 3)) + [0, 0, 0.6]
    crown = leaves(
        where, forth, up, long * 1.25, long * rng.uniform(0.20, 0.30, count), rng.uniform(0.1, 0.9, count),
        rows=2, fold=0.15,
    )  # fmt: skip
    return crown, joined(wood)
