"""Ground, grass, fields and hills around the pottery."""

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter
from scipy.spatial import cKDTree

from .kiln import PLACE
from .noise import at, fractal, hashed, ramp
from .plants import Species, foliage, tree
from .shapes import Shape, blades, joined, placed, sheet
from .spectra import MATERIAL
from .stage import Stage

_BROAD, _FINE = fractal(1024, 1024, 3.0, 2), fractal(1024, 1024, 2.2, 3)


def level(x: NDArray, y: NDArray) -> NDArray:
    """Height of the yard."""
    away = np.hypot(x - PLACE[0], y - PLACE[1])
    rise = 0.22 * at(_BROAD, x / 60 + 0.5, y / 60 + 0.5) * ramp(2, 16, away - 1)
    return rise + 0.006 * at(_FINE, x / 12, y / 12) - 0.1 * ramp(0, 1, 1 - away / 9)


def on_ground(x: float, y: float) -> NDArray:
    """The point of the yard at x, y."""
    return np.array([x, y, float(level(np.array([x]), np.array([y]))[0])])


def trodden(x: NDArray, y: NDArray) -> NDArray:
    """1 where the earth is bare: before the kiln and towards the camera."""
    middle = -0.6 + 1.32 * np.sin((y + 17) / 9.0)
    off = np.abs(x - middle) / (0.8 + 0.08 * np.clip(y + 14, 0, 30))
    n = at(_FINE, x / 14, y / 14)
    front = np.hypot((x - 2.2) / 5.6, (y - 1.2) / 3.3)
    bare = np.maximum(1 - ramp(0.6, 1.5, off + 0.33 * n), 1 - ramp(0.7, 1.15, front + 0.17 * n))
    return np.clip(bare * (y < 9), 0, 1)


def yard(stage: Stage) -> None:
    """The field, and the part near the camera with its pebbles and ruts."""
    side = 900
    x, y = np.meshgrid(np.linspace(-60, 60, side), np.linspace(-19, 80, side))
    tone, speck, bare = at(_FINE, x / 5, y / 5), fractal(side, side, 1.0, 9), trodden(x, y)
    z = level(x, y) - 0.06 * ((np.abs(x - 0.5) < 8.4) & (y < 5.6) & (y > -16.8))
    grass = MATERIAL["grass"] * 0.5
    texture = stage.mixed(
        [grass, MATERIAL["leafdark"] * 0.4, "straw", "soil", "clay"],
        [
            (1 - bare) * (0.8 + 0.2 * tone),
            (1 - bare) * np.clip(0.5 - 0.4 * tone, 0, 2),
            (1 - bare) * np.clip(0.25 + 0.3 * tone, 0, 1),
            bare + 0.08,
            bare * 0.55 * np.clip(1 + 0.5 * speck + 0.6 * tone, 0, 2),
        ],
        scale=1 + 0.12 * speck * bare + 0.06 * tone,
    )
    stage.add("ground", sheet(x, y, z), stage.matte(texture))
    columns, rows = 1500, 1900
    x, y = np.meshgrid(np.linspace(-8.5, 9.5, columns), np.linspace(-17, 5.8, rows))
    bare, rough = trodden(x, y), fractal(2048, 2048, 1.7, 41)[:rows, :columns]

    def grit(sigma: float, seed: int) -> NDArray:
        g = gaussian_filter(np.random.default_rng(seed).standard_normal((rows, columns)), sigma)
        return g / g.std()

    small, large = grit(1.3, 42), grit(3.0, 43)
    pebble = ramp(1.5, 2.3, small) + 1.3 * ramp(1.9, 2.6, large)
    rut = (x + 0.6 - 1.32 * np.sin((y + 17) / 9.0)) / 0.75
    rut = 0.02 * np.cos(np.clip(rut, -np.pi, np.pi) * 2) * bare * (y < 0)
    z = level(x, y) + 0.004 * rough + 0.012 * pebble * bare + 0.0015 * small + rut
    tone = at(_FINE, x / 5, y / 5)
    texture = stage.mixed(
        [MATERIAL["grass"] * 0.4, "straw", "soil", "clay", "mortar", "soot"],
        [
            (1 - bare) * np.clip(0.8 + 0.2 * tone, 0.1, 2),
            (1 - bare) * np.clip(0.25 + 0.3 * tone, 0, 1),
            bare + 0.25,
            bare * 0.6 * np.clip(1 + 0.5 * rough + 0.5 * tone, 0, 2),
            bare * 0.9 * pebble,
            0.35 * bare * np.clip(-rough - 0.6, 0, 2) * ramp(-6, 3, y),
        ],
        scale=np.clip(1 + 0.10 * rough + 0.06 * small, 0.5, 1.5),
    )
    stage.add("near", sheet(x, y, z), stage.matte(texture))


def grass(
    camera: tuple[float, ...], target: tuple[float, ...], count: int = 700_000, far: float = 46.0
) -> Shape:
    """Blades in the camera's view, denser and finer near it."""
    rng = np.random.default_rng(1)
    forward = np.array(target, float) - np.array(camera, float)
    d = 1.5 + rng.uniform(0, 1, count) ** 1.25 * far
    turn = rng.uniform(-0.56, 0.56, count) + np.arctan2(forward[0], forward[1])
    x, y = camera[0] + d * np.sin(turn), camera[1] + d * np.cos(turn)
    keep = rng.uniform(size=count) > trodden(x, y) * 1.25 - 0.04
    keep &= np.hypot(x - PLACE[0], y - PLACE[1]) > 3.35
    x, y, d = x[keep], y[keep], d[keep]
    count = len(x)
    tuft = at(_FINE, x / 6, y / 6)
    high = 0.055 + 0.04 * np.clip(tuft + 0.6, 0, 2)
    high = (high + 0.03 * rng.standard_normal(count).clip(-1, 2)) * (1 - 0.6 * trodden(x, y))
    high = np.clip(high, 0.02, 0.3)
    high = np.where(rng.uniform(size=count) < 0.02, high * 2.8, high)
    turn, lean = rng.uniform(0, 2 * np.pi, count), rng.uniform(0.15, 0.9, count)
    along = np.stack([np.cos(turn) * lean, np.sin(turn) * lean, np.ones(count)], 1)
    up = np.stack([-np.cos(turn), -np.sin(turn), lean], 1)
    wide = (0.004 + 0.0008 * d) * rng.uniform(0.6, 1.3, count)
    base = np.stack([x, y, level(x, y) - 0.01], 1)
    return blades(base, along, up, high, wide, rng.uniform(0.3, 1.5, count))


OAK = Species(520, 85, 0.13, trunk=0.3, crown_from=0.34, lobes=11)
ASH = Species(430, 75, 0.16, 0.42, trunk=0.22, crown_from=0.30, lobes=8, upright=1.4)
POPLAR = Species(360, 80, 0.15, 0.8, trunk=0.2, crown_from=0.12, lobes=7, upright=2.3)
BUSH = Species(110, 75, 0.085, trunk=0.04, crown_from=0.1)
FAR = Species(110, 60, 0.42, trunk=0.25, crown_from=0.2)


def trees(stage: Stage, wood: object) -> None:
    """Round the yard, behind the wall, and in rows between the fields."""
    skins = [foliage(stage, kind) for kind in ("leaf", "leafdark", "leafyoung")]
    crowns: list[list[Shape]] = [[], [], []]
    woods: list[Shape] = []

    def plant(x: float, y: float, high: float, wide: float, seed: int, kind: Species,
              skin: int) -> None:  # fmt: skip
        crown, trunk = tree(high, wide, seed, kind)
        crowns[skin].append(placed(crown, on_ground(x, y), 1.0, seed * 1.3))
        woods.append(placed(trunk, on_ground(x, y), 1.0, seed * 1.3))

    for x, y, high, wide, seed, kind, skin in [
        (-9.5, 10.5, 9.0, 3.9, 1, OAK, 0), (-14.5, 17, 12, 3.4, 2, ASH, 1),
        (12.5, 16, 10.5, 4.2, 3, OAK, 2), (-3.2, 26, 13.5, 1.9, 4, POPLAR, 1),
        (-1.0, 28, 12.0, 1.7, 14, POPLAR, 0), (19, 22, 12, 4.6, 5, ASH, 0),
        (7.5, 30, 9.5, 3.6, 6, ASH, 0),
    ]:  # fmt: skip
        plant(x, y, high, wide, seed, kind, skin)
    for i, (x, y, high, wide, skin) in enumerate(
        [(-5.6, 8.6, 1.9, 1.3, 2), (-2.0, 9.2, 1.5, 1.2, 0), (8.0, 9.3, 1.9, 1.3, 1),
         (10.3, 10.2, 1.6, 1.3, 0), (14.5, 11, 2.3, 1.6, 2), (-12.5, 8.8, 2.0, 1.5, 1)]
    ):  # fmt: skip
        plant(x, y, high, wide, 20 + i, BUSH, skin)
    rng = np.random.default_rng(9)
    for i in range(16):
        x, y = rng.uniform(-60, 70), rng.uniform(45, 78)
        plant(x, y, rng.uniform(6, 11), rng.uniform(2.2, 4), 60 + i, FAR, i % 3)
    for i in range(26):  # a hedge behind the wall
        x, y = -46 + i * 4.1 + rng.uniform(-1.2, 1.2), 38 + rng.uniform(-1.5, 1.5)
        plant(x, y, rng.uniform(2.2, 3.6), rng.uniform(1.8, 2.6), 120 + i, BUSH, i % 2)
    for i, (group, skin) in enumerate(zip(crowns, skins, strict=True)):
        stage.add(f"crowns{i}", joined(group), skin)
    stage.add("trunks", joined(woods), wood)


def hills(stage: Stage) -> None:
    """Fields, hedges and woods up to five kilometres away."""
    columns, rows = 1300, 1100
    y = np.broadcast_to(np.geomspace(70, 5200, rows)[:, None], (rows, columns))
    x = np.linspace(-1, 1, columns)[None] * (90 + y * 0.95)
    broad, fine = fractal(1024, 1024, 4.3, 101), fractal(1024, 1024, 2.6, 102)
    rolling = at(fractal(1024, 1024, 4.0, 104), x / 1800, y / 1800)
    high = ramp(150, 3800, y) * (190 + 170 * at(broad, x / 7000 + 0.13, y / 7000 + 0.31))
    high = high + ramp(90, 900, y) * (10 + 14 * rolling) - ramp(60, 160, y) * 4
    rng = np.random.default_rng(7)
    cells = rng.uniform(0, 1, (420, 2)) * [9000, 5400] - [4500, 0]
    bent = np.stack([x + 60 * at(fine, x / 900, y / 900), y], -1).reshape(-1, 2)
    far, which = cKDTree(cells).query(bent, k=2)
    field = which[:, 0].reshape(rows, columns)
    hedge = 1 - ramp(7, 15, (far[:, 1] - far[:, 0]).reshape(rows, columns))
    crop = hashed(field, field * 3.1, 1)
    wooded = at(fine, x / 2300 + 0.4, y / 2300 + 0.2) + 0.9 * ramp(1200, 3800, y) - 0.25
    forest = np.clip(ramp(0.05, 0.35, wooded) + hedge * 0.95, 0, 1)
    canopy = gaussian_filter(rng.standard_normal((rows, columns)), 0.8)
    canopy /= canopy.std()
    crowns = 0.5 * canopy * np.minimum(1 + y / 2500, 2.2)
    high = high + forest * (6 + crowns) * ramp(140, 900, y)
    tone = at(fine, x / 300, y / 300)
    texture = stage.mixed(
        [MATERIAL["grass"] * 0.5, MATERIAL["leafyoung"] * 0.45, "straw", "soil",
         MATERIAL["leafdark"] * 0.38, MATERIAL["leaf"] * 0.38],
        [
            np.clip(w, 0.002, None)
            for w in (
                (1 - forest) * (crop < 0.55),
                (1 - forest) * (crop >= 0.55) * (crop < 0.84),
                (1 - forest) * (crop >= 0.84) * (crop < 0.97),
                (1 - forest) * (crop >= 0.97) * 0.6,
                forest * np.clip(0.7 + 0.2 * canopy, 0.1, 2),
                forest * 0.45 * np.clip(1 - canopy * 0.6, 0, 2),
            )
        ],
        scale=np.clip(1 + 0.14 * tone + 0.14 * canopy * forest, 0.3, 1.5),
    )  # fmt: skip
    stage.add("hills", sheet(x, y, high), stage.matte(texture))
