"""The bottle kiln, its woodpile and hoops."""

import numpy as np

from .noise import at, fractal, hashed, ramp
from .shapes import joined, lattice, sheet, smooth_curve, tube
from .stage import Stage

PLACE = (3.2, 6.0)
# (radius, height) of its outside
OUTLINE = [
    (3.15, -0.3), (3.18, 0), (3.2, 0.6), (3.22, 1.3), (3.2, 2.1), (3.0, 3.2), (2.55, 4.4),
    (1.95, 5.6), (1.45, 6.7), (1.18, 7.6), (1.08, 8.3), (1.1, 8.75), (1.2, 8.95), (1.22, 9.1),
    (1.1, 9.16), (0.9, 9.1), (0.85, 8.6), (0.95, 8.0),
]  # fmt: skip
# direction (radians), half width and springing height of the openings
OPENINGS = ((-1.75, 0.62, 1.45), (-2.75, 0.36, 0.55), (-0.75, 0.36, 0.55))
BRICK, COURSE = 0.235, 0.078


def _body(stage: Stage, around: int, along: int) -> None:
    curve = smooth_curve(OUTLINE, along)
    u = np.linspace(0, 1, around + 1)
    angle = u * 2 * np.pi
    r, z = curve[:, 0:1], curve[:, 1:2]
    steps = np.hypot(*np.diff(curve, axis=0).T)
    length = np.r_[0, np.cumsum(steps)][:, None]
    up = length + 0.012 * at(fractal(512, 512, 2.6, 31), u[None] * 3, length / 9)
    row = np.floor(up / COURSE)
    fz = up - row * COURSE
    number = np.maximum(np.round(2 * np.pi * r / BRICK), 8)[:, 0]
    where = np.clip((row * COURSE / length.max() * along).astype(int), 0, along - 1)
    number = np.take(number, where)
    turn = u[None] * number + (row % 2) * 0.5 + 0.06 * np.sin(row * 5.1)
    column = np.floor(turn)
    fx = (turn - column) * BRICK
    column = np.mod(column, number)
    n = at(fractal(1024, 1024, 1.9, 32), u[None] * 3, length / 6.5)
    fine = at(fractal(1024, 1024, 1.3, 33), u[None] * 9, length / 2.1)
    broad = at(fractal(512, 512, 3, 34), u[None], length / 20)
    edge = np.minimum(np.minimum(fx, BRICK - fx), np.minimum(fz, COURSE - fz)) - 0.004
    face = ramp(-0.002, 0.007, edge + 0.002 * n)
    relief = face * (0.014 + 0.010 * (hashed(row, column, 2) - 0.5)) + 0.003 * n * face
    relief += 0.03 * broad + 0.002 * fine
    smoke, hole, arch = (np.zeros_like(face) for _ in range(3))
    for direction, wide, high in OPENINGS:
        s = (np.mod(angle[None] - direction + np.pi, 2 * np.pi) - np.pi) * r
        inside = np.where(z < high, np.abs(s) - wide, np.hypot(s, z - high) - wide)
        here = (1 - ramp(-0.03, 0.03, inside)) * (z < 5)
        hole = np.maximum(hole, here)
        ring = (1 - ramp(0.20, 0.23, inside)) * (1 - here) * (z < 5) * (z > -0.1)
        arch = np.maximum(arch, ring)
        above = np.exp(-np.maximum(z - high - wide * 0.6, 0) / 1.1) * (z > high) * (1 + 0.3 * n)
        smoke = np.maximum(smoke, np.exp(-((s / (wide * 1.1)) ** 2)) * above)
    relief = relief - 0.85 * hole + 0.03 * arch * (1 - hole)
    streaks = at(fractal(512, 512, 2.2, 36, 9, 1), u[None] * 4, length / 9)
    soot = 0.9 * smoke + 0.75 * ramp(7.2, 9.1, z + 0.3 * n + 0.2 * broad)
    soot = np.clip(soot + 0.20 * np.clip(streaks, 0, 2) * ramp(2, 7, z), 0, 1.2)
    lime = at(fractal(512, 512, 2.2, 38), u[None] * 3, length / 7)
    damp = ramp(1.2, 0.0, z + 0.3 * n + 0.3 * broad) * 0.35
    pick = hashed(row, column, 4)
    weights = [
        face * (pick < 0.6) * (1 + 0.2 * n),
        face * (pick >= 0.6) * (pick < 0.82),
        face * (pick >= 0.82) + damp,
        (1 - face) * 0.55 + 0.12 * np.clip(n, 0, 1),
        soot * 2.6 + (1 - face) * 0.3,
        0.175 * np.clip(lime - 0.7, 0, 2),
        damp * 0.35 * np.clip(1 + n, 0, 2),
    ]
    weights = [np.clip(w, 0.003, None) * (1 - 0.97 * hole) for w in weights]
    weights[4] += hole * 3
    texture = stage.mixed(
        ["brick", "brickpale", "brickdark", "mortar", "soot", "tin", "moss"],
        weights,
        scale=np.clip(
            1 + 0.1 * n + 0.08 * fine + 0.28 * (hashed(row, column, 5) - 0.5) + 0.1 * broad,
            0.4,
            1.5,
        ),
    )
    radius = r + relief
    x, y = PLACE[0] + radius * np.cos(angle), PLACE[1] + radius * np.sin(angle)
    stage.add("kiln", sheet(x, y, z + 0 * radius - 0.05), stage.matte(texture))


def kiln(stage: Stage, cells: int = 1500) -> None:
    """The kiln with its iron hoops."""
    _body(stage, cells, cells)
    curve = smooth_curve(OUTLINE, 1500)
    angle = np.linspace(0, 2 * np.pi, 200)
    bars = []
    for high in (2.35, 3.55, 4.7, 5.8):
        radius = curve[np.argmin(abs(curve[:1300, 1] - high)), 0] + 0.03
        for lift in (-0.035, 0, 0.035):
            ring = [PLACE[0] + radius * np.cos(angle), PLACE[1] + radius * np.sin(angle)]
            bars.append(tube(np.stack([*ring, high + lift + 0 * angle], 1), 0.028, 8))
    stage.add("hoops", joined(bars), stage.glossy(stage.plain("iron"), 0.55))


def woodpile(stage: Stage, left: float, y: float, across: int = 30, rows: int = 11) -> None:
    """Split logs stacked end on."""
    from .plants import bark

    yy, xx = np.mgrid[-1:1:128j, -1:1:128j]
    far, n = np.hypot(xx + 0.1, yy - 0.05), fractal(128, 128, 2, 83)
    cut = stage.mixed(
        ["straw", "woodbrown", "woodgrey"],
        [
            1 + 0 * far,
            0.5 + 0.5 * np.sin(far * 60 + n * 1.5),
            0.4 * np.clip(n, 0, 2) + 0.5 * ramp(0.85, 1, far),
        ],
    )
    rng, sides, ends = np.random.default_rng(84), [], []
    angle = np.linspace(0, 2 * np.pi, 25)
    for row in range(rows):
        short = max(row - 8, 0)
        for c in range(across - short * 4):
            x = left + c * 0.175 + (row % 2) * 0.087 + rng.normal(0, 0.012) + short * 0.35
            z, deep = 0.10 + row * 0.145 + rng.normal(0, 0.01), y + rng.normal(0, 0.045)
            size = 0.082 * rng.uniform(0.8, 1.12)
            split, start = rng.uniform() < 0.55, rng.uniform(0, 6.3)
            radius = size * (1 + 0.05 * np.cos(3 * angle + start))
            if split:
                radius = np.minimum(radius, size * 0.45 / np.maximum(np.cos(angle - start), 0.3))
            ring = np.stack([radius * np.cos(angle), radius * np.sin(angle)], 1)
            pair = [
                np.stack([x + ring[:, 0], np.full(25, deep + s * 0.3), z + ring[:, 1]], 1)
                for s in (-1, 1)
            ]
            uv = np.meshgrid(np.linspace(0, 1, 25) + rng.uniform(), [0, 0.5])
            sides.append((np.concatenate(pair), lattice(25, 2), np.stack(uv, -1).reshape(-1, 2)))
            fan = np.stack([np.zeros(24, int), np.arange(1, 25), np.arange(2, 26)], 1)
            face = np.concatenate([[[x, deep - 0.3, z]], pair[0]])
            ends.append((face, fan, np.concatenate([[[0.5, 0.5]], 0.5 + ring / size * 0.42])))
    stage.add("logs", joined(sides), bark(stage))
    stage.add("cuts", joined(ends), stage.matte(cut, both_sides=True), smooth=False)
