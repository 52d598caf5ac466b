"""The bottle kiln in its yard: at midday, in the last sun, and its chimney from below."""

import numpy as np

from .air import Air, Clouds, directions, view
from .kiln import kiln, woodpile
from .land import grass, hills, on_ground, trees, yard
from .masonry import timber, yard_wall
from .plants import bark, foliage
from .pottery import pot
from .render import Job, Rendered, render
from .shapes import joined, tube
from .spectra import MATERIAL, Spectrum, planck
from .stage import Stage

NOON = Air((-0.86, -0.30, 0.52), haze=0.11)
EVENING = Air((-0.90, -0.46, 0.13), haze=0.16, bright=1.3)
CAMERA, TARGET, FIELD = (-2.2, -17.0, 1.75), (0.6, 4.0, 3.55), 50.0

TERRA = ("terra", "brickpale", "terra")


def _bench(stage: Stage) -> None:
    wood = timber(stage)
    x, y = -3.3, -2.2
    stage.box("bench", (x, y, 0.62), (1.7, 0.20, 0.028), wood, 4)
    for i, dx in enumerate((-1.3, 1.25)):
        stage.box(f"leg{i}", (x + dx, y + dx * 0.07, 0.28), (0.06, 0.15, 0.33), wood, 4)
    for i, (kind, profile, dx, size) in enumerate(
        [("cobalt", "bottle", -1.5, 0.11), ("tin", "jug", -1.1, 0.12),
         ("copper", "bowl", -0.68, 0.13), ("ironred", "jar", -0.25, 0.125),
         ("ochre", "jug", 0.15, 0.10), ("tin", "bowl", 0.55, 0.12), ("cobalt", "jar", 0.92, 0.12),
         ("copper", "bottle", 1.25, 0.10), ("ochre", "jar", 1.55, 0.10)]
    ):  # fmt: skip
        pot(stage, f"ware{i}", profile, (x + dx, y + dx * 0.07, 0.648), (kind, "clay", "clay"),
            400 + i, size, rings=0.006, fine=False, foot=0.10, rough=0.14)  # fmt: skip
    for i, (surface, profile, gx, gy, size) in enumerate(
        [(TERRA, "jar", -4.6, -3.3, 0.26), (TERRA, "jug", -1.55, -0.6, 0.24),
         (TERRA, "bottle", 6.9, 2.4, 0.27), (("clay", "slip", "clay"), "jar", 6.2, 1.7, 0.24),
         (TERRA, "jar", 7.6, 1.9, 0.20), (("ironred", "clay", "clay"), "jug", 7.2, 1.3, 0.17),
         (("tin", "clay", "clay"), "jar", -5.1, -2.6, 0.17)]
    ):  # fmt: skip
        rough = 0.75 if surface[0] in ("terra", "clay") else 0.14
        place = tuple(on_ground(gx, gy) - [0, 0, 0.01])
        pot(stage, f"yardpot{i}", profile, place, surface, 500 + i, size, rings=0.006, fine=False,
            foot=0.0, rough=rough)  # fmt: skip


def _in_use(stage: Stage) -> None:
    """A ladder against the kiln, saggars and a barrow: signs of work."""
    wood = timber(stage, 95)
    top, foot = np.array([5.05, 3.55, 3.6]), np.array([6.0, 1.9, 0.0])
    aside = np.array([0.21, 0.12, 0.0])
    bars = [tube(np.linspace(foot + s * aside, top + s * aside, 8), 0.028, 8) for s in (-1, 1)]
    for t in np.linspace(0.06, 0.95, 11):
        rung = foot + (top - foot) * t
        bars.append(tube(np.linspace(rung - aside, rung + aside, 4), 0.018, 8))
    stage.add("ladder", joined(bars), wood)
    rng = np.random.default_rng(12)
    for i, (x, y, high) in enumerate([(0.15, 3.1, 3), (-0.45, 3.5, 4), (-0.6, 2.8, 2)]):
        for k in range(high):
            place = on_ground(x, y) + [*rng.normal(0, 0.012, 2), 0.245 * k]
            pot(stage, f"saggar{i}{k}", "bucket", tuple(place),
                ("brickpale", "brickdark", "brickpale"), 600 + 10 * i + k, 0.26 * 0.68,
                rings=0.003, fine=False, foot=0.0, rough=0.85)  # fmt: skip
    iron = stage.glossy(stage.plain("iron"), 0.5)
    x, y = 8.6, -0.6
    base = on_ground(x, y)
    stage.box("barrow", base + [0, 0, 0.46], (0.42, 0.30, 0.15), iron, 25, -6)
    handles = []
    turn = np.radians(25)
    forth, side = (
        np.array([np.cos(turn), np.sin(turn), 0]),
        np.array([-np.sin(turn), np.cos(turn), 0]),
    )
    for s in (-1, 1):
        start = base + forth * -1.05 + side * 0.3 * s + [0, 0, 0.55]
        end = base + forth * 0.75 + side * 0.08 * s + [0, 0, 0.19]
        handles.append(tube(np.linspace(start, end, 6), 0.024, 8))
        leg = base + forth * -0.25 + side * 0.27 * s
        handles.append(tube(np.linspace(leg + [0, 0, 0.4], leg, 4), 0.018, 8))
    stage.add("barrow_frame", joined(handles), wood)
    ring = np.linspace(0, 2 * np.pi, 48)[:, None]
    wheel = (
        base
        + forth * 0.72
        + [0, 0, 0.19]
        + 0.17 * (np.cos(ring) * forth + np.sin(ring) * [0, 0, 1])
    )
    stage.add("barrow_wheel", tube(wheel, 0.03, 10), stage.glossy(stage.plain("soot"), 0.7))


def build(air: Air, clouds: Clouds, sharp: bool = True) -> Stage:
    """Everything of the yard but the camera."""
    stage = Stage()
    around = directions(192, 384)
    bounce = air.horizon() * 0.3 + MATERIAL["grass"] * air.sunlight * 0.12
    stage.sky(np.where(around[..., 2:] > 0, clouds(around), bounce))
    stage.sun(air.sun, air.sunlight, distance=9000.0)
    yard(stage)
    stage.add("grass", grass(CAMERA, TARGET), foliage(stage, "grass"))
    kiln(stage, 2400 if sharp else 1500)
    woodpile(stage, -6.1, 4.6)
    yard_wall(stage, "wall_left", (-16, 7.2), (-0.2, 7.0), 1.15, 71)
    yard_wall(stage, "wall_right", (6.2, 7.0), (22, 9.0), 1.15, 72)
    _bench(stage)
    _in_use(stage)
    trees(stage, bark(stage))
    hills(stage)
    return stage


def photographed(
    stage: Stage, air: Air, clouds: Clouds, white: Spectrum, camera: tuple[float, ...],
    target: tuple[float, ...], field: float, job: Job,
    up: tuple[float, ...] = (0, 0, 1),
) -> Rendered:  # fmt: skip
    """A stage out of doors against its sky, with the air between."""
    stage.camera(camera, target, field, job.size, 0.006, 20.0, up, transparent=True)
    made = render(stage, white, job, transparent=True, bounces=6)
    sky = clouds(
        view(camera, target, field, job.size, up),
        40 if job.quick else 100,
        coarse=1 if job.quick else 2,
    )
    made.cube = air.veiled(made.cube, made.depth, made.cover, 1300.0)
    made.cube += (1 - made.cover)[..., None] * sky
    return made


def noon(job: Job) -> Rendered:
    """The yard at midday."""
    clouds = Clouds(NOON)
    stage = build(NOON, clouds, not job.quick)
    return photographed(stage, NOON, clouds, NOON.sunlight, CAMERA, TARGET, FIELD, job)


def evening(job: Job) -> Rendered:
    """The yard in the last sun, as warm as a lamp; the camera is set half way."""
    clouds = Clouds(EVENING, cover=-0.03, drift=(1800.0, 5200.0))
    stage = build(EVENING, clouds, not job.quick)
    white = planck(4000.0) * 0.3
    return photographed(stage, EVENING, clouds, white, CAMERA, TARGET, FIELD, job)


def chimney(job: Job) -> Rendered:
    """The kiln from close by, looking up, the camera not level."""
    clouds = Clouds(NOON, cover=0.02, drift=(3100.0, 2700.0))
    stage = build(NOON, clouds, not job.quick)
    return photographed(
        stage, NOON, clouds, NOON.sunlight, (0.2, -2.4, 1.5), (3.0, 6.0, 6.4), 48.0, job, up=(0.045, 0.0, 1.0),
    )  # fmt: skip
