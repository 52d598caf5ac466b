"""A head of terracotta by the window, modelled as a field of distances and cut out of it."""

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter, map_coordinates
from skimage.measure import marching_cubes

from .masonry import planks
from .noise import fractal, volume
from .pottery import pot
from .render import Job, Rendered, render
from .shapes import Shape, rotation, sheet
from .stage import Stage
from .table import lamp

NORTH = lamp(6500.0, 1.0)
STEP = 0.0085


def _blend(a: NDArray, b: NDArray, k: float) -> NDArray:
    """Smooth union."""
    h = np.clip(0.5 + 0.5 * (b - a) / k, 0, 1)
    return b + (a - b) * h - k * h * (1 - h)


def _cut(a: NDArray, b: NDArray, k: float) -> NDArray:
    """Smooth difference: a without b."""
    return -_blend(-a, b, k)


def _ball(
    p: NDArray, centre: tuple[float, ...], radii: tuple[float, ...], turn: NDArray | None = None
) -> NDArray:
    q = p - np.array(centre, np.float32)[:, None, None, None]
    if turn is not None:
        q = np.einsum("ij,jxyz->ixyz", turn.T.astype(np.float32), q)
    r = np.array(radii, np.float32)[:, None, None, None]
    a = np.sqrt(((q / r) ** 2).sum(0))
    b = np.sqrt(((q / r**2) ** 2).sum(0))
    return a * (a - 1) / np.maximum(b, 1e-4)


def _rod(p: NDArray, a: tuple[float, ...], b: tuple[float, ...], ra: float, rb: float) -> NDArray:
    a_, b_ = np.array(a, np.float32), np.array(b, np.float32)
    ab = b_ - a_
    q = p - a_[:, None, None, None]
    t = np.clip(np.einsum("i,ixyz->xyz", ab, q) / (ab @ ab), 0, 1)
    return np.sqrt(((q - ab[:, None, None, None] * t) ** 2).sum(0)) - (ra + (rb - ra) * t)


def _field(p: NDArray) -> NDArray:
    """Distance to the head: x to its left, y backwards, z up; the eyes at z = 0; 1 is 10 cm."""
    both = np.stack([np.abs(p[0]), p[1], p[2]])
    d = _ball(p, (0, 0.30, 0.37), (0.77, 0.96, 0.79))  # skull
    d = _blend(d, _ball(p, (0, -0.18, -0.18), (0.60, 0.58, 0.86)), 0.22)  # face
    d = _blend(d, _rod(both, (0.52, 0.08, -0.42), (0.14, -0.50, -0.93), 0.15, 0.14), 0.22)  # jaw
    d = _blend(d, _ball(p, (0, -0.55, -0.94), (0.19, 0.16, 0.15)), 0.14)  # chin
    d = _blend(d, _ball(both, (0.42, -0.42, -0.20), (0.20, 0.17, 0.15)), 0.16)  # cheek bones
    d = _blend(d, _ball(p, (0, -0.52, -0.58), (0.29, 0.20, 0.20)), 0.16)  # round the mouth
    brow = _rod(both, (0.13, -0.645, 0.175), (0.46, -0.50, 0.19), 0.075, 0.06)
    d = _blend(d, brow, 0.12)
    d = _cut(d, _ball(both, (0.275, -0.70, 0.01), (0.185, 0.19, 0.125)), 0.11)  # sockets
    eye = _ball(both, (0.275, -0.515, 0.005), (0.135, 0.135, 0.13))
    d = _blend(d, eye, 0.02)
    q = both - np.array([0.275, -0.515, 0.0], np.float32)[:, None, None, None]
    shell = np.abs(np.sqrt((q**2).sum(0)) - 0.142) - 0.020  # lids, an almond open between
    almond = np.maximum(
        np.sqrt((q[0] * 0.92) ** 2 + (q[2] + 0.155) ** 2) - 0.215,
        np.sqrt((q[0] * 0.92) ** 2 + (q[2] - 0.165) ** 2) - 0.205,
    )
    lid = np.maximum(shell, -(almond))
    lid = np.maximum(lid, q[1] - 0.02)
    d = _blend(d, lid, 0.028)
    iris = np.sqrt((q[0] - 0.012) ** 2 + (q[2] - 0.008) ** 2)
    ring = np.maximum(np.abs(iris - 0.058) - 0.004, np.abs(np.sqrt((q**2).sum(0)) - 0.13) - 0.012)
    d = _cut(d, np.maximum(ring, q[1]), 0.006)
    pupil = np.sqrt(q[0] ** 2 + (q[1] + 0.138) ** 2 + (q[2] - 0.008) ** 2) - 0.024
    d = _cut(d, pupil, 0.008)
    # nose
    d = _blend(d, _rod(p, (0, -0.60, 0.12), (0, -0.845, -0.285), 0.070, 0.088), 0.075)
    d = _blend(d, _ball(p, (0, -0.86, -0.315), (0.105, 0.105, 0.09)), 0.05)
    d = _blend(d, _ball(both, (0.105, -0.755, -0.335), (0.075, 0.105, 0.068)), 0.045)
    d = _cut(d, _ball(both, (0.052, -0.83, -0.405), (0.034, 0.055, 0.035)), 0.03)
    d = _cut(d, _rod(p, (0, -0.79, -0.43), (0, -0.765, -0.52), 0.022, 0.03), 0.04)  # philtrum
    # mouth: the line bends, its corners sink in
    bend = p[2] + 0.02 * np.cos(p[0] * 13) - 0.10 * p[0] ** 2
    upper = _ball(both, (0.075, -0.695, -0.565), (0.135, 0.085, 0.052))
    lower = _ball(p, (0, -0.695, -0.665), (0.165, 0.088, 0.062))
    d = _blend(_blend(d, upper, 0.035), lower, 0.040)
    line = np.sqrt(((p[1] + 0.80) * 0.55) ** 2 + ((bend + 0.605) * 1.5) ** 2) - 0.030
    line = np.maximum(line, np.abs(p[0]) - 0.24)
    d = _cut(d, line, 0.028)
    d = _cut(d, _ball(both, (0.255, -0.665, -0.605), (0.035, 0.05, 0.03)), 0.05)
    d = _cut(d, _ball(p, (0, -0.775, -0.775), (0.15, 0.06, 0.045)), 0.06)
    # ears
    lean = rotation([0, 0, 1], -14) @ rotation([1, 0, 0], 12)
    ear = _ball(both, (0.755, 0.16, -0.07), (0.055, 0.175, 0.285), lean)
    ear = _cut(ear, _ball(both, (0.815, 0.135, -0.03), (0.055, 0.105, 0.17), lean), 0.03)
    ear = _blend(ear, _ball(both, (0.735, 0.10, -0.28), (0.05, 0.075, 0.085)), 0.05)
    d = _blend(d, ear, 0.05)
    # neck and shoulders, cut off as a bust is
    d = _blend(d, _rod(p, (0, 0.30, -0.55), (0, 0.44, -1.5), 0.42, 0.47), 0.16)
    d = _blend(d, _rod(both, (0.10, 0.42, -1.66), (1.02, 0.50, -1.98), 0.36, 0.32), 0.30)
    cord = _rod(both, (0.48, 0.22, -0.45), (0.10, 0.02, -1.42), 0.08, 0.07)
    d = _blend(d, cord, 0.12)
    # hair: a cap drawn back into a knot
    cap = _ball(p, (0, 0.34, 0.41), (0.84, 1.00, 0.83))
    front = -(p[2] - 0.50 + 0.85 * (p[1] + 0.62) - 0.12 * np.cos(p[0] * 4))
    low = -0.16 + 0.0 * p[2] - p[2] - 0.35 * (p[1] - 0.5)
    cap = np.maximum(np.maximum(cap, front), low)
    knot = _ball(p, (0, 1.26, 0.66), (0.33, 0.30, 0.31))
    hair = _blend(cap, knot, 0.10)
    turn = np.arctan2(p[0], p[2] - 0.1)
    strand = 0.016 * np.sin(turn * 34 + 5 * p[1] + 2.0 * np.sin(p[1] * 4 + turn * 3))
    strand += 0.010 * np.sin(turn * 71 - 3 * p[1])
    return np.minimum(d, _blend(hair + strand, d + 0.02, 0.02))


def modelled(step: float = STEP) -> Shape:
    """The mesh, with the marks of fingers and a toothed tool."""
    low, high = np.array([-1.45, -1.05, -2.12]), np.array([1.45, 1.65, 1.45])
    axes = [np.arange(a, b, step, dtype=np.float32) for a, b in zip(low, high, strict=True)]
    field = np.empty([len(a) for a in axes], np.float32)
    for start in range(0, len(axes[2]), 48):  # in slabs, for the memory
        p = np.stack(np.meshgrid(axes[0], axes[1], axes[2][start : start + 48], indexing="ij"))
        field[..., start : start + 48] = np.maximum(_field(p), -2.02 - p[2])
    vertices, faces, normals, _ = marching_cubes(field, 0.0, spacing=(step,) * 3)
    vertices = vertices + low
    rough, lumps = volume(128, 3.2, 5), volume(96, 4.2, 6)

    def sampled(noise: NDArray, period: float) -> NDArray:
        where = np.mod(vertices / period, 1) * noise.shape[0]
        return map_coordinates(noise, where.T, order=1, mode="grid-wrap")

    face = np.clip(-vertices[:, 1] * 2, 0, 1) * np.clip(vertices[:, 2] + 1.2, 0, 1)
    tooth = np.sin(vertices @ np.array([70, 30, 95]) + 3 * sampled(lumps, 1.1))
    scored = np.clip(sampled(lumps, 1.7) + 0.1, 0, 1) * (1 - 0.9 * np.clip(face, 0, 1))
    off = (
        0.003 * sampled(rough, 0.9)
        + 0.010 * (1 - 0.6 * face) * sampled(lumps, 0.8)
        + 0.0035 * tooth * scored
    )
    vertices = vertices + off[:, None] * normals
    turn = np.arctan2(vertices[:, 0], -vertices[:, 1])
    uv = np.stack([turn / (2 * np.pi) + 0.5, (vertices[:, 2] + 2.12) / 3.6], 1)
    return vertices, faces, uv


def build(job: Job) -> Stage:
    """The head on its block, the wall with tools hung up behind."""
    stage = Stage()
    n, fine = fractal(1024, 1024, 2.2, 31), fractal(1024, 1024, 1.0, 32)
    stain = gaussian_filter(fractal(1024, 1024, 3.0, 33), 3, mode="wrap")
    texture = stage.mixed(
        ["terra", "brickpale", "brickdark", "slip"],
        [
            1.0 + 0.1 * n,
            0.35 * np.clip(n, 0, 2),
            0.22 * np.clip(-n - 0.2, 0, 2),
            0.20 * np.clip(stain - 0.9, 0, 2),
        ],
        scale=1 + 0.05 * fine,
    )
    vertices, faces, uv = modelled(STEP if job.size[1] > 1200 else 2 * STEP)
    vertices = vertices @ rotation([0, 0, 1], -33).T
    stage.add("head", (vertices, faces, uv), stage.glossy(texture, 0.62, 0.35))
    planks(stage, "bench", 26, 13, 7, 62, height=-2.03)
    x, z = np.meshgrid(np.linspace(-12, 12, 700), np.linspace(-3, 9, 360))
    rough = fractal(512, 1024, 2.4, 64)[:360, :700]
    wash = stage.mixed(
        ["plaster", "slip", "soot"],
        [0.6 + 0 * x, 0.3 * np.clip(rough, 0, 2), 0.8 + 0 * x],
        scale=1 + 0.04 * rough,
    )
    stage.add("wall", sheet(x, 5.2 - 0.012 * rough, z), stage.matte(wash))
    for i, (kind, profile, x0, y0, size) in enumerate(
        [
            ("terra", "bottle", 2.1, 3.0, 0.75),
            ("slip", "bowl", 3.4, 3.6, 0.8),
            ("clay", "jar", -2.3, 3.6, 0.8),
        ]
    ):
        pot(stage, f"pot{i}", profile, (x0, y0, -2.05), (kind, "clay", kind), 90 + i, size=size,
            foot=0.0, rough=0.8, turn=i)  # fmt: skip
    stage.panel("window", (-6.5, -2.6, 2.6), (0, 0, -0.2), (1.9, 2.4), NORTH * 3.6)
    stage.panel("room", (8, -5, 2), (0, 0, 0), (3, 3), NORTH * 0.10)
    stage.panel("ceiling", (0, -1, 9), (0, 0, 0), (6, 6), NORTH * 0.06)
    return stage


def _portrait(job: Job, focus: float) -> Rendered:
    stage = build(job)
    stage.camera((0.1, -9.6, 0.35), (0.12, 0, -0.36), 21, job.size, aperture=0.17, focus=focus)
    return render(stage, NORTH, job, bounces=7)


def eye(job: Job) -> Rendered:
    """Focus on the near eye."""
    return _portrait(job, 8.98)


def ear(job: Job) -> Rendered:
    """Focus on the ear."""
    return _portrait(job, 9.75)


def wall(job: Job) -> Rendered:
    """Focus behind: on the bottle."""
    return _portrait(job, 12.7)
