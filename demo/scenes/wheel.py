"""The wheel, left as it stood: wet clay on the head, tools, sponge and slip, by a north window."""

import numpy as np

from .masonry import planks, timber
from .noise import at, fractal, ramp
from .pottery import pot
from .render import Job, Rendered, render
from .shapes import Shape, joined, placed, rotation, sheet, smooth_curve, thrown, tube
from .spectra import MATERIAL
from .stage import Stage
from .table import lamp

NORTH = lamp(6800.0, 1.0)


def _wet(stage: Stage, seed: int, rough: float = 0.28, streaks: float = 1.0) -> object:
    """Clay as it leaves the hands: slip lies shining in the grooves."""
    n, fine = fractal(768, 768, 2.2, seed), fractal(768, 768, 1.2, seed + 1)
    streak = streaks * fractal(768, 768, 1.8, seed + 2, 0.4, 9.0)
    texture = stage.mixed(
        ["wetclay", "clay", "slip"],
        [
            1.0 + 0.2 * n,
            0.35 * np.clip(n - 0.2, 0, 2),
            0.22 * np.clip(streak - 0.6, 0, 2),
        ],
        scale=np.clip(1 + 0.06 * fine + 0.05 * streak, 0.6, 1.3),
    )
    skin = np.clip(rough + 0.13 * n + 0.10 * streak, 0.08, 0.8)
    return stage.glossy(texture, stage.grey(skin), 0.6)


def _vessel(stage: Stage) -> None:
    profile = [
        (0, 0.0), (0.95, 0.0), (1.02, 0.05), (1.0, 0.25), (1.16, 0.7), (1.34, 1.15), (1.36, 1.5),
        (1.22, 1.85), (1.06, 2.05), (1.02, 2.16), (1.1, 2.27), (1.17, 2.31), (1.13, 2.35),
        (1.02, 2.28), (0.92, 2.12), (0.98, 1.95), (1.1, 1.7), (1.2, 1.35), (1.1, 0.9), (0.7, 0.3),
        (0, 0.2),
    ]  # fmt: skip

    def fingers(u: np.ndarray, z: np.ndarray) -> np.ndarray:
        spiral = np.sin(2 * np.pi * (z * 5.2 - u)) + 0.35 * np.sin(2 * np.pi * (z * 13 - u))
        return 0.016 * spiral + 0.004 * at(fractal(512, 512, 1.6, 3), u * 2, z / 3)

    shape, _ = thrown(profile, 5, 0.006, 0.002, 768, 700, fingers)
    stage.add("vessel", placed(shape, (0, 0, 0.30)), _wet(stage, 11, 0.22))


def _wheel(stage: Stage) -> None:
    profile = [
        (0, 0.1),
        (2.2, 0.1),
        (2.24, 0.14),
        (2.24, 0.22),
        (2.2, 0.26),
        (1.2, 0.262),
        (0, 0.262),
    ]
    outline = np.concatenate(
        [np.linspace(a, b, 60) for a, b in zip(profile[:-1], profile[1:], strict=True)]
    )
    u = np.linspace(0, 2 * np.pi, 513)
    n = fractal(512, 512, 2.0, 21)
    r, z = outline[:, :1], outline[:, 1:] + 0 * u
    z = z + 0.010 * np.clip(at(n, u / 6.283, r / 2.2), 0, 3) * (outline[:, 1:] > 0.25)
    head = sheet(r * np.cos(u), r * np.sin(u), z)
    rings = fractal(1024, 512, 1.2, 22, 0.2, 20)
    splash = ramp(
        0.3, 1.0, fractal(1024, 512, 1.9, 23, 1, 2) + np.linspace(0.7, 0.0, 1024)[:, None]
    )
    metal = stage.mixed(
        ["steel", "iron", "wetclay", "slip"],
        [0.9 - 0.8 * splash, 0.4 + 0.2 * rings, 1.2 * splash, 0.3 * splash],
        scale=1 + 0.06 * rings,
    )
    stage.add("wheelhead", head, stage.glossy(metal, 0.36, 0.8))
    # slurry thrown off the wheel
    rng = np.random.default_rng(24)
    drops: list[Shape] = []
    blob, _ = thrown(
        [(0, 0), (0.6, 0), (0.95, 0.1), (0.8, 0.32), (0.4, 0.45), (0, 0.5)], 7, 0.06, 0, 24, 18
    )
    for _ in range(260):
        turn, far = rng.uniform(0, 2 * np.pi), 2.4 + rng.gamma(1.6, 0.9)
        where = (far * np.cos(turn), far * np.sin(turn), 0.0)
        drops.append(placed(blob, where, rng.gamma(1.5, 0.02) + 0.012, rng.uniform(0, 6)))
    for _ in range(90):
        turn, far = rng.uniform(0, 2 * np.pi), rng.uniform(1.15, 2.15)
        where = (far * np.cos(turn), far * np.sin(turn), 0.262)
        drops.append(placed(blob, where, rng.gamma(1.5, 0.018) + 0.01, rng.uniform(0, 6)))
    stage.add("drops", joined(drops), _wet(stage, 31, 0.2))


def _tools(stage: Stage) -> None:
    wood, iron = timber(stage, 41), stage.glossy(stage.plain("steel"), 0.25, 0.9)
    # loop tool and needle, lying; wooden knife; wire with toggles
    t = np.linspace(0, 1, 40)
    handle = 0.075 * (1 + 0.35 * np.sin(t * np.pi)) * ramp(0, 0.05, t) * ramp(1, 0.95, t) + 0.004
    for i, (x, y, turn, kind) in enumerate(
        [(2.7, -2.35, 0.5, "loop"), (3.25, -2.05, 0.62, "needle"), (-2.9, -2.7, -0.35, "loop")]
    ):
        c, s = np.cos(turn), np.sin(turn)
        start = np.array([x, y, 0.09])
        path = start + (t * 1.25)[:, None] * [c, s, 0]
        stage.add(f"handle{i}", tube(path, handle, 20), wood)
        tip = start + np.array([c, s, 0]) * 1.25
        if kind == "loop":
            a = np.linspace(0, 2 * np.pi, 60)
            out, side = 0.26 - 0.26 * np.cos(a), 0.19 * np.sin(a)
            ring = tip + np.stack([out * c - side * s, out * s + side * c, 0.02 + 0 * a], 1)
            stage.add(f"loop{i}", tube(ring, 0.018, 8), iron)
        else:
            stage.add(
                f"needle{i}", tube(tip + t[:, None] * 0.8 * np.array([c, s, -0.05]), 0.012, 8), iron
            )
    line = [(-3.9, -1.5, 0.05), (-3.2, -1.9, 0.03), (-2.5, -1.6, 0.03), (-2.6, -0.9, 0.03),
            (-3.4, -0.8, 0.03), (-3.9, -1.0, 0.03), (-4.3, -0.55, 0.05)]  # fmt: skip
    wire = smooth_curve(line, 120)
    stage.add("wire", tube(wire, 0.011, 8), iron)
    for i, (end, turn) in enumerate(((wire[0], 1.1), (wire[-1], 0.3))):
        bar = (
            end
            + (t - 0.5)[:, None] * 0.6 * np.array([np.cos(turn), np.sin(turn), 0])
            + [0, 0, 0.04]
        )
        stage.add(
            f"toggle{i}", tube(bar, 0.07 * ramp(0, 0.06, t) * ramp(1, 0.94, t) + 0.004, 16), wood
        )
    # two ribs of pear wood, one leaning on the bucket
    u, v = np.meshgrid(np.linspace(0, 2 * np.pi, 120), np.linspace(0, 1, 24))
    half = np.minimum(1, 3 * np.minimum(v, 1 - v) + 0.0)
    kidney = 1 - 0.28 * np.exp(-(((u - 4.7) / 0.7) ** 2))
    x, y, z = half * kidney * np.cos(u) * 0.62, half * kidney * np.sin(u) * 0.34, (v - 0.5) * 0.09
    flat = sheet(x, y, z)
    stage.add("rib0", placed(flat, (1.9, -2.95, 0.07), 1.0, 0.4), wood)
    lean = rotation([0, 0, 1], 20) @ rotation([1, 0, 0], 62)
    stage.add("rib1", placed(flat, (3.0, 0.15, 0.36), 1.0, lean), wood)
    # the sponge
    ball, _ = thrown(
        [(0, 0), (0.3, 0.02), (0.46, 0.2), (0.44, 0.42), (0.25, 0.56), (0, 0.6)],
        9,
        0.05,
        0,
        400,
        300,
    )
    n = fractal(300, 401, 1.1, 43).reshape(-1)
    v, f, uv = ball
    away = v - [0, 0, 0.28]
    ball = (v + 0.018 * np.clip(n, -2.2, 0.4)[:, None] * away / 0.4, f, uv)
    pores = fractal(512, 512, 1.0, 44)
    body = stage.mixed(["sponge", "wetclay"], [1.6 + 0 * pores, 0.4 * np.clip(-pores, 0, 2)])
    stage.add("sponge", placed(ball, (-1.75, -2.75, 0.02), 1.05), stage.matte(body))
    # a lump of wedged clay with the cut of the wire
    lump, _ = thrown(
        [(0, 0), (0.7, 0), (0.95, 0.2), (1.0, 0.6), (0.85, 1.0), (0.5, 1.18), (0, 1.22)],
        14,
        0.06,
        0,
        300,
        260,
    )
    v, f, uv = lump
    cut = v @ np.array([0.55, -0.6, 0.58])
    v = v - np.maximum(cut - 0.72, 0)[:, None] * np.array([0.55, -0.6, 0.58])
    stage.add("lump", placed((v, f, uv), (-3.5, 1.55, 0), 1.15, 0.4), _wet(stage, 51, 0.42, 0.1))


def build(size: tuple[int, int]) -> Stage:
    """The scene."""
    stage = Stage()
    planks(stage, "bench", 26, 13, 7, 61, height=-0.03)
    _wheel(stage)
    _vessel(stage)
    _tools(stage)
    pot(stage, "bucket", "bucket", (3.55, 1.35, 0), ("terra", "brickpale", "terra"), 62, size=1.35,
        foot=0.0, rough=0.55)  # fmt: skip
    water = stage.glossy(stage.plain(MATERIAL["wetclay"], 0.6), 0.05, 0.6)
    disc = [(r * np.cos(a), r * np.sin(a)) for r in (1.0, 0) for a in np.linspace(0, 2 * np.pi, 97)]
    x, y = np.array(disc).T.reshape(2, 2, 97)
    stage.add("slip", sheet(x + 3.55, y + 1.35, 1.45 + 0 * x), water)
    # biscuit ware behind, and the limewashed wall
    for i, (kind, profile, x, y, size_) in enumerate(
        [("slip", "bowl", -1.9, 4.0, 0.95), ("terra", "jar", 0.5, 4.6, 0.85), ("slip", "cup", 2.2, 4.1, 1.1),
         ("terra", "jug", -4.6, 4.3, 0.8), ("slip", "moonjar", 5.6, 4.3, 0.8)]
    ):  # fmt: skip
        pot(stage, f"biscuit{i}", profile, (x, y, 0), (kind, "clay", kind), 70 + i, size=size_,
            foot=0.0, rough=0.8, turn=i)  # fmt: skip
    u, v = np.meshgrid(np.linspace(-13, 13, 900), np.linspace(-1, 11, 500))
    rough = fractal(512, 1024, 2.3, 64)[:500, :900]
    trowel = fractal(512, 1024, 3.4, 65)[:500, :900]
    wash = stage.mixed(
        ["plaster", "slip", "brick"],
        [1 + 0 * u, 0.25 * np.clip(rough, 0, 2), 0.5 * np.clip(rough - 2.2, 0, 1)],
        scale=1 + 0.03 * rough,
    )
    stage.add("wall", sheet(u, 5.6 - 0.05 * trowel - 0.004 * rough, v), stage.matte(wash))
    stage.panel("window", (-11, -0.5, 6.2), (0, 0, 1.0), (3.4, 3.2), NORTH * 3.4)
    stage.panel("door", (12, -7, 5), (0, 0, 1), (2.2, 3.2), NORTH * 0.35)
    stage.panel("ceiling", (0, -1, 12.5), (0, 0, 0), (8, 8), NORTH * 0.10)
    stage.camera((0.9, -10.9, 5.3), (0.05, -0.2, 0.72), 43, size, aperture=0.05, focus=10.9)
    return stage


def picture(job: Job) -> Rendered:
    """By the window."""
    return render(build(job.size), NORTH, job, bounces=8)
