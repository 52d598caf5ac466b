"""The clay pond under its willows, a breath of wind on the water."""

import numpy as np

from .air import Air, Clouds, directions
from .land import hills
from .masonry import timber
from .noise import at, fractal, ramp
from .plants import Species, bark, foliage, tree, willow
from .pottery import pot
from .render import Job, Rendered
from .shapes import Shape, blades, joined, placed, sheet
from .spectra import MATERIAL
from .stage import Stage
from .yard import photographed

AIR = Air((0.62, -0.56, 0.55), haze=0.10)
CAMERA, TARGET, FIELD = (-1.5, -13.0, 1.9), (0.6, 8.0, 2.05), 52.0
_BROAD, _FINE = fractal(1024, 1024, 3.0, 12), fractal(1024, 1024, 2.2, 13)


def shore(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    """Metres inland from the water's edge; negative over water."""
    turn = np.arctan2(y - 3.0, x)
    edge = (
        1 + 0.10 * np.sin(2 * turn + 0.6) + 0.07 * np.sin(3 * turn - 1.1) + 0.04 * np.sin(7 * turn)
    )
    return (np.hypot(x / 15.5, (y - 3.0) / 11.5) - edge) * 12.0


def height(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    """Of the land above the water."""
    far = shore(x, y)
    bank = 0.55 * ramp(0.0, 4.0, far) + 0.10 * ramp(-0.3, 0.5, far) - 0.06
    return bank + 0.10 * np.minimum(far, 0) + ramp(0, 6, far) * 0.22 * at(_BROAD, x / 50, y / 50)


def _on_land(x: float, y: float) -> tuple[float, float, float]:
    return x, y, float(height(np.array([x]), np.array([y]))[0])


def _land(stage: Stage) -> None:
    columns, rows = 1500, 1500
    x, y = np.meshgrid(np.linspace(-48, 48, columns), np.linspace(-17, 76, rows))
    far, tone = shore(x, y), at(_FINE, x / 6, y / 6)
    grit = at(fractal(1024, 1024, 1.2, 14), x / 4, y / 4)
    bare = 1 - ramp(0.1, 1.1, far + 0.45 * tone)
    wet = 1 - ramp(0.0, 0.5, far + 0.1 * tone)
    z = height(x, y) + 0.012 * grit * bare
    texture = stage.mixed(
        [MATERIAL["grass"] * 0.5, "straw", "soil", "clay", "wetclay"],
        [
            (1 - bare) * np.clip(0.8 + 0.2 * tone, 0.1, 2),
            (1 - bare) * np.clip(0.2 + 0.3 * tone, 0, 1),
            bare * (1 - wet) * 0.6 + 0.05,
            bare * (1 - wet) * np.clip(0.8 + 0.4 * grit, 0, 2),
            bare * wet * 2,
        ],
        scale=np.clip(1 + 0.1 * grit + 0.06 * tone, 0.5, 1.5),
    )
    stage.add("land", sheet(x, y, z), stage.matte(texture))


def _water(stage: Stage) -> None:
    columns, rows = 2400, 2600
    x = np.linspace(-1, 1, columns)[None] * np.geomspace(6, 30, rows)[:, None]
    y = -13.5 + np.broadcast_to(np.geomspace(1.0, 36, rows)[:, None], (rows, columns))
    long, short = fractal(1024, 1024, 3.4, 15, 1, 1.7), fractal(1024, 1024, 2.7, 16, 1, 1.5)
    gust = ramp(-0.2, 1.3, at(_BROAD, x / 26 + 0.35, y / 15 + 0.2))  # where wind touches it
    z = 0.0035 * at(long, x / 9, y / 9) + (0.0007 + 0.0045 * gust) * at(short, x / 3.4, y / 3.4)
    stage.add("water", sheet(x, y, z), stage.water(stage.plain("pondwater")))


def _edge_plants(stage: Stage) -> None:
    rng = np.random.default_rng(31)
    count = 520_000
    # short grass of the banks
    x, y = rng.uniform(-40, 40, count), -16 + 62 * rng.uniform(0, 1, count) ** 1.3
    far, tone = shore(x, y), at(_FINE, x / 6, y / 6)
    keep = (far + 0.45 * tone > 0.35) & (rng.uniform(size=count) < 0.9)
    x, y, tone = x[keep], y[keep], tone[keep]
    d = np.hypot(x - CAMERA[0], y - CAMERA[1])
    keep = d > 1.6
    x, y, tone, d = x[keep], y[keep], tone[keep], d[keep]
    n = len(x)
    turn, lean = rng.uniform(0, 2 * np.pi, n), rng.uniform(0.15, 0.9, n)
    along = np.stack([np.cos(turn) * lean, np.sin(turn) * lean, np.ones(n)], 1)
    up = np.stack([-np.cos(turn), -np.sin(turn), lean], 1)
    high = np.clip(0.10 + 0.07 * tone + 0.05 * rng.standard_normal(n), 0.03, 0.5)
    grass = blades(
        np.stack([x, y, height(x, y) - 0.01], 1), along, up, high,
        (0.005 + 0.0010 * d) * rng.uniform(0.6, 1.3, n), rng.uniform(0.3, 1.5, n),
    )  # fmt: skip
    stage.add("grass", grass, foliage(stage, "grass"))
    # reeds and flags in clumps along the edge
    reeds: list[Shape] = []
    for cx, cy, size, n in [
        (-9.6, -6.2, 1.3, 420), (-5.2, -9.2, 0.8, 170), (9.8, -5.6, 1.4, 460), (13.6, 0.5, 1.6, 420),
        (-14.8, 2.5, 1.5, 420), (-8.5, 12.6, 1.6, 420), (5.5, 13.9, 1.5, 420), (4.3, -8.9, 0.6, 110),
    ]:  # fmt: skip
        q = rng.normal(0, size * 0.5, (n, 2)) + [cx, cy]
        here = np.abs(shore(q[:, 0], q[:, 1]) + 0.2) < 1.1
        q = q[here]
        n = len(q)
        turn, lean = rng.uniform(0, 2 * np.pi, n), rng.gamma(2.0, 0.07, n)
        along = np.stack([np.cos(turn) * lean, np.sin(turn) * lean, np.ones(n)], 1)
        up = np.stack([-np.cos(turn), -np.sin(turn), lean], 1)
        base = np.column_stack([q, np.maximum(height(q[:, 0], q[:, 1]), -0.15) - 0.05])
        high = size * rng.uniform(0.7, 1.25, n)
        reeds.append(blades(base, along, up, high, 0.028 * rng.uniform(0.6, 1.2, n),
                            rng.uniform(0.05, 0.55, n) ** 1.5, rows=7))  # fmt: skip
    stage.add("reeds", joined(reeds), foliage(stage, "leaf"))
    # lily pads
    angle = np.linspace(0.25, 2 * np.pi - 0.05, 26)
    pads: list[Shape] = []
    for cx, cy, n in [(-4.2, -3.2, 26), (4.6, -1.4, 30), (7.5, 2.5, 22)]:
        for _ in range(n):
            px, py = cx + rng.normal(0, 1.3), cy + rng.normal(0, 0.7)
            r = rng.uniform(0.09, 0.2)
            ring = np.stack(
                [r * np.cos(angle), r * np.sin(angle), 0.004 + 0.004 * np.cos(3 * angle)], 1
            )
            vertices = np.concatenate([[[0, 0, 0.002]], ring])
            fan = np.stack([np.zeros(25, int), np.arange(1, 26), np.arange(2, 27)], 1)
            uv = np.column_stack([rng.integers(8) / 8 + 0.03 + 0.05 * np.r_[0.5, np.ones(26)],
                                  np.linspace(0.2, 0.8, 27)])  # fmt: skip
            pads.append(placed((vertices, fan, uv), (px, py, 0.012), 1.0, rng.uniform(0, 6)))
    stage.add("pads", joined(pads), foliage(stage, "leafyoung"), smooth=False)


def _trees(stage: Stage) -> None:
    willows: list[Shape] = []
    woods: list[Shape] = []
    for x, y, high, wide, seed in [
        (-11.5, 11.5, 8.8, 4.4, 3), (-4.0, 16.3, 9.6, 4.6, 5), (10.8, 12.8, 8.2, 4.2, 8),
        (17.5, 5.5, 7.2, 3.4, 11),
    ]:  # fmt: skip
        crown, wood = willow(high, wide, seed, hang_to=0.35)
        foot = _on_land(x, y)
        willows.append(placed(crown, foot))
        woods.append(placed(wood, foot))
    stage.add("willows", joined(willows), foliage(stage, "willow"))
    far = Species(300, 80, 0.20, trunk=0.25, crown_from=0.2, lobes=9)
    crowns: list[Shape] = []
    rng = np.random.default_rng(41)
    for i in range(15):
        x, y = -44 + i * 6.3 + rng.uniform(-2, 2), rng.uniform(32, 52)
        crown, wood = tree(rng.uniform(5, 9.5), rng.uniform(2.4, 4), 200 + i, far)
        foot = _on_land(x, y)
        crowns.append(placed(crown, foot, 1.0, i * 1.7))
        woods.append(placed(wood, foot, 1.0, i * 1.7))
    stage.add("crowns", joined(crowns), foliage(stage, "leafdark"))
    stage.add("woods", joined(woods), bark(stage))


def _staging(stage: Stage) -> None:
    """Where clay is taken: planks on posts, a spade, buckets, clay in a heap."""
    wood = timber(stage, 51)
    for i in range(5):
        x = 1.9 + 0.27 * i
        stage.box(f"plank{i}", (x, -6.7, 0.30 + 0.008 * (i % 3)), (0.125, 2.5 - 0.09 * (i % 2), 0.03), wood,
                  1.2 * (i - 2) * 0.3)  # fmt: skip
    for i, (x, y) in enumerate([(x, y) for y in (-4.5, -6.3, -8.2) for x in (1.8, 3.1)]):
        stage.box(f"post{i}", (x, y, 0.1), (0.06, 0.06, 0.62 if i < 2 else 0.28), wood, 10 * i)
    ware = ("terra", "brickpale", "terra")
    for i, (x, y, size) in enumerate([(2.25, -5.1, 0.24), (2.75, -5.5, 0.22)]):
        pot(stage, f"pail{i}", "bucket", (x, y, 0.345), ware, 700 + i, size, rings=0.003, fine=False,
            foot=0.0, rough=0.7)  # fmt: skip


def build() -> tuple[Stage, Clouds]:
    """Everything but the camera."""
    stage = Stage()
    clouds = Clouds(AIR, cover=0.03, drift=(700.0, 3400.0))
    around = directions(256, 512)
    bounce = AIR.horizon() * 0.3 + MATERIAL["grass"] * AIR.sunlight * 0.12
    stage.sky(np.where(around[..., 2:] > 0, clouds(around), bounce))
    stage.sun(AIR.sun, AIR.sunlight, distance=9000.0)
    _land(stage)
    _water(stage)
    _edge_plants(stage)
    _trees(stage)
    _staging(stage)
    hills(stage)
    return stage, clouds


def picture(job: Job) -> Rendered:
    """In the forenoon."""
    stage, clouds = build()
    return photographed(stage, AIR, clouds, AIR.sunlight, CAMERA, TARGET, FIELD, job)
