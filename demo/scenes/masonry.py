"""Bricks, planks and walls as displaced geometry with their own colours."""

from collections.abc import Sequence

import numpy as np

from .noise import at, fractal, hashed, ramp
from .shapes import Shape, joined, lattice, sheet, squares
from .stage import Stage


def planks(
    stage: Stage, name: str, width: float, depth: float, boards: int, seed: int,
    cells: tuple[int, int] = (1800, 1100), before: float = 0.63, height: float = -0.02,
    scale: float = 1.0, lengthwise: bool = False,
) -> None:  # fmt: skip
    """Weathered boards with gaps, grain and knots, lying level; before: part of the depth that
    lies towards -y. Lengthwise they run along y."""
    x = np.linspace(-width / 2, width / 2, cells[0])
    y = np.linspace(-depth * before, depth * (1 - before), cells[1])
    x, y = np.meshgrid(x, y)
    board = depth / boards
    k = np.floor((y - y[0, 0]) / board * 0.9999).astype(int)
    across = (y - y[0, 0]) / board - k
    shift = np.random.default_rng(seed).uniform(0, 1, boards + 1)[k]
    grain = fractal(1024, 2048, 2.3, seed, 14, 1.0)
    fibre = fractal(1024, 2048, 1.7, seed + 1, 30, 1.0)
    u, v = x / 22 * 0.8 + shift, y / 10.6 + shift * 0.7
    n, n2 = at(grain, u, v), at(fibre, u * 2, v * 2)
    broad = at(fractal(512, 512, 3, seed + 2), u, v)
    rings = 0.5 + 0.5 * np.sin((y * 5 + 1.3 * broad + 0.25 * n) * 2 * np.pi + 4 * shift)
    edge = np.minimum(across, 1 - across) * board
    gap = 1 - ramp(0, 0.035, edge - 0.012 * np.abs(at(fibre, u * 3, v)))
    crack = ramp(2.0, 2.5, n2) * 0.6
    z = -0.22 * gap + 0.012 * n + 0.005 * n2 - 0.010 * rings + 0.03 * (shift - 0.5)
    z += 0.01 * broad - 0.02 * crack
    texture = stage.mixed(
        ["woodgrey", "woodbrown", "soot", "straw"],
        [
            np.clip(w, 0.01, None)
            for w in (
                0.75 + 0.35 * n + 0.2 * broad,
                0.35 + 0.25 * rings - 0.2 * n,
                0.10 + 0.5 * crack + 0.9 * gap,
                0.12 * np.clip(broad, 0, 2),
            )
        ],
        scale=np.clip(1 + 0.07 * n2 + 0.10 * n + 0.2 * (shift - 0.5), 0.4, 1.5) * (1 - 0.75 * gap),
    )
    x, y, z = x * scale, y * scale, z * scale + height
    boards_ = sheet(-y, x, z) if lengthwise else sheet(x, y, z)
    stage.add(name, boards_, stage.glossy(texture, 0.7, 0.25))


def house_wall(
    stage: Stage, name: str, width: float, height: float, seed: int, y: float,
    cells: tuple[int, int] = (2200, 1150), brick: tuple[float, float] = (2.2, 0.68),
    mortar: float = 0.10,
) -> None:  # fmt: skip
    """A wall of large rough bricks facing -y."""
    long, tall = brick
    across, up = np.meshgrid(
        np.linspace(-width / 2, width / 2, cells[0]), np.linspace(-1.5, height, cells[1])
    )
    warp = fractal(512, 512, 2.6, seed)
    x = across + 0.05 * at(warp, across / width, up / width)
    z = up + 0.05 * at(warp, across / width + 0.3, up / width + 0.4)
    row = np.floor(z / tall).astype(int)
    shift = (row % 2) * 0.5 + 0.04 * np.sin(row * 7.3)
    column = np.floor(x / long + shift).astype(int)
    fx, fz = (x / long + shift - column) * long, z - row * tall
    rough = fractal(1024, 1024, 1.9, seed + 1)
    n, n3 = at(rough, across / 9, up / 9), at(rough, across / 2.7 + 0.2, up / 2.7)
    edge = np.minimum(np.minimum(fx, long - fx), np.minimum(fz, tall - fz)) - mortar / 2
    edge = edge + 0.018 * n + 0.012 * n3
    face = ramp(-0.012, 0.0, edge) * ramp(-0.012, 0.035, edge)
    out = face * (0.10 + 0.06 * (hashed(row, column, 2) - 0.5) + 0.014 * n) + 0.010 * n3
    out += face * 0.03 * (hashed(row, column, 3) - 0.5) * (fx / long - 0.5) * 2
    out += (1 - face) * (0.02 + 0.02 * n)
    pick = hashed(row, column, 4)
    bloom = at(fractal(512, 512, 2.6, seed + 9), across / width, up / width)
    bloom = np.clip(bloom - 0.35, 0, 2) * (1 + 0.3 * n)
    texture = stage.mixed(
        ["brick", "brickpale", "brickdark", "mortar", "tin", "soot"],
        [
            np.clip(w, 0.004, None)
            for w in (
                face * (0.9 + 0.2 * n) * (pick < 0.62),
                face * (pick >= 0.62) * (pick < 0.82),
                face * (pick >= 0.82) + face * 0.12 * np.clip(n - 1, 0, 2),
                1 - face,
                0.40 * bloom,
                0.05 + 0.22 * np.clip(n3 - 0.9, 0, 2),
            )
        ],
        scale=np.clip(1 + 0.1 * (n + n3) + 0.25 * (hashed(row, column, 5) - 0.5), 0.4, 1.5),
    )
    stage.add(name, sheet(across, y - out, up), stage.glossy(texture, 0.9, 0.15))


def yard_wall(
    stage: Stage, name: str, start: tuple[float, float], end: tuple[float, float], height: float,
    seed: int, thick: float = 0.32,
) -> None:  # fmt: skip
    """A low wall of small bricks with a stone coping, seen from -y."""
    x0, y0 = start
    length = float(np.hypot(end[0] - x0, end[1] - y0))
    forth = (np.array(end) - np.array(start)) / length
    out = np.array([forth[1], -forth[0]])
    long, tall = 0.235, 0.078
    along, up = np.meshgrid(
        np.linspace(0, length, int(length * 90)), np.linspace(-0.3, height, int(height * 110))
    )
    warp = fractal(256, 256, 2.6, seed)
    x = along + 0.012 * at(warp, along / 4, up / 4)
    z = up + 0.014 * at(warp, along / 6 + 0.3, up / 6)
    row = np.floor(z / tall)
    q = x / long + (row % 2) * 0.5
    column = np.floor(q)
    fx, fz = (q - column) * long, z - row * tall
    edge = np.minimum(np.minimum(fx, long - fx), np.minimum(fz, tall - fz)) - 0.006
    n = at(fractal(1024, 1024, 1.8, seed + 1), along / 3, up / 3)
    face = ramp(-0.002, 0.008, edge + 0.002 * n)
    relief = face * (0.014 + 0.012 * (hashed(row, column, 2) - 0.5)) + 0.003 * n
    relief += 0.03 * at(warp, along / 9, up / 9)
    pick = hashed(row, column, 4)
    lime = np.clip(at(warp, along / 5 + 0.1, up / 2) - 0.3, 0, 2)
    moss = 0.30 * np.clip(at(warp, along / 3, up / 3 + 0.5) - 0.5, 0, 2)
    moss += 0.25 * ramp(0.75, 1, up / height) * (n > 0.2)
    texture = stage.mixed(
        ["brick", "brickpale", "brickdark", "mortar", "tin", "moss"],
        [
            np.clip(w, 0.003, None)
            for w in (
                face * (pick < 0.6) * (1 + 0.2 * n),
                face * (pick >= 0.6) * (pick < 0.85),
                face * (pick >= 0.85) + 0.5 * ramp(0.3, 0, up),
                1 - face,
                0.35 * lime,
                moss,
            )
        ],
        scale=np.clip(1 + 0.12 * n + 0.25 * (hashed(row, column, 5) - 0.5), 0.4, 1.5),
    )
    wall = sheet(
        x0 + along * forth[0] + relief * out[0], y0 + along * forth[1] + relief * out[1], up
    )
    stage.add(name, wall, stage.matte(texture))
    stage.add(
        f"{name}_coping", _coping(start, forth, out, length, height, thick, seed), stone(stage)
    )


def _coping(
    start: Sequence[float], forth: np.ndarray, out: np.ndarray, length: float, height: float,
    thick: float, seed: int,
) -> Shape:  # fmt: skip
    rng, stones, s = np.random.default_rng(seed), [], 0.0
    angle = np.linspace(0, 2 * np.pi, 49)
    flat = np.stack(
        [
            np.sign(np.cos(angle)) * np.abs(np.cos(angle)) ** 0.25 * (thick / 2 + 0.05),
            np.sign(np.sin(angle)) * np.abs(np.sin(angle)) ** 0.25 * 0.055,
        ],
        1,
    )
    swell = np.r_[0.0, 0.8, 0.95, np.ones(10), 0.95, 0.8, 0.0]
    while s < length:
        long = rng.uniform(0.5, 0.8)
        ends = [long - 0.022, long - 0.014, long - 0.01]
        x = s + np.r_[0, 0.004, 0.012, np.linspace(0.03, long - 0.04, 10), ends]
        rough = 0.004 * rng.standard_normal((len(x), 49))
        aside = flat[None, :, 0] * swell[:, None] - thick / 2
        top = height + 0.055 + rng.normal(0, 0.006) + flat[None, :, 1] * swell[:, None] + rough
        vertices = np.stack(
            [
                start[0] + x[:, None] * forth[0] + aside * out[0],
                start[1] + x[:, None] * forth[1] + aside * out[1],
                top,
            ],
            -1,
        ).reshape(-1, 3)
        stones.append((vertices, lattice(49, len(x)), squares(49, len(x))))
        s += long
    return joined(stones)


def stone(stage: Stage) -> object:
    """Grey stone with lichen."""
    n = fractal(256, 256, 1.8, 61)
    texture = stage.mixed(
        ["mortar", "woodgrey", "tin", "moss"],
        [
            0.8 + 0 * n,
            0.5 * np.clip(n, 0, 2),
            0.25 * np.clip(-n - 0.3, 0, 2),
            0.3 * np.clip(n - 0.9, 0, 2),
        ],
        scale=0.8 + 0.1 * n,
    )
    return stage.matte(texture, both_sides=True)


def timber(stage: Stage, seed: int = 91) -> object:
    """Sawn wood gone grey."""
    texture = stage.mixed(
        ["woodgrey", "woodbrown"],
        [
            1 + 0.3 * fractal(256, 256, 2, seed, 12, 1),
            0.3 + 0.2 * fractal(256, 256, 2, seed + 1, 12, 1),
        ],
    )
    return stage.matte(texture)
