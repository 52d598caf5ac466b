"""A shelf by the window: cobalt, tin white, iron red, copper green and ochre beside a plant."""

import numpy as np

from .air import Air, directions
from .masonry import house_wall, planks
from .noise import fractal, ramp
from .plants import foliage, potted
from .pottery import PROFILE, earthenware, jug, pot
from .render import Job, Rendered, render
from .shapes import Shape, leaves, placed, rotation, thrown, unit
from .spectra import MATERIAL
from .stage import Stage

AIR = Air((-0.80, -0.42, 0.62), haze=0.12, bright=1.7)


def _fruit(kind: str, radius: float, tall: float, seed: int, tip: float) -> Shape:
    angle = np.linspace(-np.pi / 2, np.pi / 2, 40)
    nose = tip * radius * np.sign(angle) * np.maximum(np.abs(angle) / 1.57 - 0.82, 0) * 2
    profile = [
        (max(np.cos(a), 0) * radius, np.sin(a) * radius * tall + n)
        for a, n in zip(angle, nose, strict=True)
    ]
    shape, _ = thrown(profile, seed, wobble=0.02, rings=0, around=160, along=160)
    skin = fractal(160, 161, 1.2, seed).reshape(-1)
    return shape[0] * (1 + 0.0035 * skin[: len(shape[0]), None]), shape[1], shape[2]


def _fruits(stage: Stage) -> None:
    for i, (kind, where, radius, tall, turn, tilt) in enumerate(
        [
            ("lemon", (1.05, -2.25, 0.78), 0.40, 1.28, 40, 80),
            ("lemon", (1.7, -1.95, 0.80), 0.39, 1.25, -50, 75),
            ("apple", (1.2, -1.6, 0.86), 0.42, 0.9, 20, 25),
            ("apple", (3.55, -1.75, 0.36), 0.40, 0.9, 60, -28),
        ]
    ):
        n, v = fractal(256, 256, 2.2, 106 + i), np.linspace(0, 1, 256)[:, None]
        blush = 0.75 * np.clip(n, 0, 2) * (kind == "apple") * ramp(0.4, 0.8, v)
        texture = stage.mixed(
            ["lemon", "leafyoung", "ochre"] if kind == "lemon" else ["apple", "lemon", "leafyoung"],
            [np.ones_like(n), blush + 0.12 * ramp(0.9, 1, v), 0.05 * np.clip(-n, 0, 2)],
        )
        shape = _fruit(kind, radius, tall, 101 + i, 0.5 if kind == "lemon" else 0.0)
        turned = rotation([0, 0, 1], turn) @ rotation([1, 0, 0], tilt)
        stage.add(f"fruit{i}", placed(shape, where, 1.0, turned), stage.glossy(texture, 0.35))


def _shade(sun: np.ndarray) -> Shape:
    """A tree out of the picture, with a gap that lets the sun onto the pots."""
    rng, count = np.random.default_rng(3), 2600
    clumps = sun * 26 + [-1.5, 0, 1.5] + rng.normal(0, 1, (60, 3)) * [5.5, 5.5, 3.2]
    at = clumps[rng.integers(0, 60, count)] + rng.normal(0, 0.75, (count, 3))
    from_pots = at - [0.2, 0, 1.4]
    aside = from_pots - (from_pots @ sun)[:, None] * sun
    right = unit(np.cross(sun, [0, 0, 1]))
    a, b = aside @ right, aside @ np.cross(right, sun)
    gap = (a / 5.2) ** 2 + ((b - 0.1) / 2.6) ** 2 <= 1
    at = at[~gap | (rng.uniform(size=count) < 0.07)]
    count = len(at)
    return leaves(
        at, rng.standard_normal((count, 3)), rng.standard_normal((count, 3)),
        rng.uniform(0.7, 1.3, count), rng.uniform(0.4, 0.7, count), rng.uniform(0.2, 1, count), rows=4,
    )  # fmt: skip


def build(size: tuple[int, int]) -> Stage:
    """The scene."""
    stage = Stage()
    around = directions()
    under = (AIR.clear(np.array([0, 0, 1.0])) * 2.35 + AIR.sunlight * 0.17) * MATERIAL["soil"]
    stage.sky(np.where(around[..., 2:] > -0.02, AIR.clear(around), under))
    stage.sun(AIR.sun, AIR.sunlight)
    cobalt = MATERIAL["tin"] * 0.5 + MATERIAL["cobalt"] * 0.5
    pot(stage, "bottle", "bottle", (-1.75, 0.7, 0), ("cobalt", cobalt, "clay"), 1,
        turn=-1, foot=0.07, rough=0.09, specks=0.3)  # fmt: skip
    jug(stage, (0.55, 0.95, 0))
    pot(stage, "jar", "jar", (2.95, 0.55, 0), ("ironred", "brickdark", "clay"), 3,
        turn=-3, rings=0.008, foot=0.13, rough=0.16, specks=0.2)  # fmt: skip
    pot(stage, "bowl", "bowl", (1.3, -2.05, 0), ("copper", "ironred", "clay"), 4,
        turn=-4, rings=0.005, foot=0.16, rough=0.08, specks=0.2)  # fmt: skip
    pot(stage, "cup1", "cup", (-0.72, -1.25, 0), ("ochre", "ironred", "clay"), 5,
        turn=-5, rings=0.006, foot=0.14, rough=0.14, specks=0.6)  # fmt: skip
    pot(stage, "cup2", "cup", (-1.75, -1.75, 0), ("ochre", "tin", "brickdark"), 6,
        size=0.98, turn=-6, rings=0.006, foot=0.2, rough=0.14, specks=0.9)  # fmt: skip
    shape, _ = thrown(PROFILE["flowerpot"], 8, rings=0.006)
    stage.add("flowerpot", placed(shape, (-4.25, 0.75, 0)), earthenware(stage, 77))
    _fruits(stage)
    planks(stage, "planks", 22, 10.6, 6, 3)
    house_wall(stage, "wall", 24, 10, 5, y=4.1)
    crown, stems = potted(np.array([-4.25, 0.75, 1.3]), 16, 2.9, 5)
    stage.add("leaves", crown, foliage(stage, "leaf"))
    young = MATERIAL["leafyoung"]
    stage.add("stems", stems, stage.glossy(stage.plain(young, 0.5), 0.5))
    # a sprig lying on the planks
    crown, stems = potted(np.zeros(3), 3, 2.3, 15, 0.5, 0.34, 0.6)
    down = rotation([0, 0, 1], -80) @ rotation([1, 0, 0], -84)
    for name, part, skin in (
        ("sprig", crown, foliage(stage, "leafyoung")),
        ("twig", stems, stage.glossy(stage.plain("bark"), 0.7)),
    ):
        lying = placed(part, (-4.6, -2.1, 0.10), 1.0, down)
        flat = np.maximum(lying[0] * [1, 1, 0.55], [[-99, -99, 0.03]])
        stage.add(name, (flat, lying[1], lying[2]), skin)
    stage.add("shade", _shade(AIR.sun), foliage(stage, "leaf"))
    stage.ground(-9, 80, stage.matte(stage.plain("soil")))
    stage.camera((0.55, -12.6, 4.3), (-0.25, 0, 1.62), 42, size, aperture=0.06, focus=12.6)
    return stage


def picture(job: Job) -> Rendered:
    """The shelf in sun."""
    return render(build(job.size), AIR.sunlight, job)
