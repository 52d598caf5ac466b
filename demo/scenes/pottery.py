"""Pots: profiles, (radius, height) from the foot over the rim and down inside; and their glazes."""

import numpy as np

from .noise import fractal, ramp
from .shapes import Shape, placed, smooth_curve, thrown, tube
from .stage import Kind, Stage

# fmt: off
PROFILE = {
    "bottle": [(0,.03),(.5,.0),(.62,.04),(.70,.25),(.98,1.0),(1.08,1.6),(.98,2.15),(.66,2.6),(.36,2.95),(.27,3.4),(.29,3.75),(.42,4.0),(.45,4.06),(.41,4.09),(.35,4.03),(.22,3.75),(.20,3.4),(.26,3.0)],
    "jug": [(0,.04),(.6,0),(.74,.03),(.80,.2),(1.05,.8),(1.10,1.25),(.92,1.8),(.70,2.2),(.64,2.55),(.72,2.95),(.78,3.08),(.75,3.13),(.69,3.09),(.58,2.75),(.57,2.4),(.62,2.2),(.82,1.8),(.95,1.3),(.9,.8),(.6,.25),(0,.2)],
    "jar": [(0,.03),(.55,0),(.66,.03),(.78,.2),(1.18,.75),(1.22,1.1),(1.0,1.5),(.72,1.68),(.68,1.78),(.76,1.88),(.78,1.92),(.74,1.95),(.66,1.9),(.6,1.75),(.7,1.6),(.95,1.4),(1.1,1.1),(1.0,.75),(.5,.25),(0,.2)],
    "bowl": [(0,.12),(.36,.12),(.40,0),(.50,0),(.52,.1),(.62,.2),(1.05,.5),(1.30,.85),(1.38,1.0),(1.36,1.03),(1.31,1.0),(1.2,.82),(.95,.52),(.5,.27),(0,.22)],
    "cup": [(0,.05),(.33,.0),(.40,.03),(.46,.2),(.52,.6),(.54,.9),(.55,.98),(.52,1.0),(.49,.95),(.47,.6),(.4,.2),(0,.13)],
    "flowerpot": [(0,.04),(.7,0),(.76,.03),(.86,.5),(1.02,1.3),(1.05,1.42),(1.16,1.44),(1.2,1.6),(1.2,1.78),(1.16,1.82),(1.06,1.8),(1.0,1.6),(.9,1.3),(.9,1.28),(0,1.28)],
    "plate": [(0,.09),(.2,.09),(.4,.09),(.55,.09),(.60,.08),(.63,.02),(.65,.0),(.70,.0),(.73,.08),(1.15,.17),(1.55,.29),(1.86,.41),(1.88,.445),(1.84,.46),(1.55,.36),(1.20,.24),(1.05,.19),(.5,.155),(0,.15)],
    "moonjar": [(0,.05),(.45,0),(.55,.03),(.60,.15),(1.05,.6),(1.32,1.15),(1.28,1.65),(.95,2.1),(.58,2.32),(.50,2.44),(.54,2.55),(.50,2.58),(.44,2.52),(.42,2.4),(.5,2.25),(.85,2.0),(1.15,1.6),(1.2,1.15),(.9,.6),(0,.3)],
    "bucket": [(0,.04),(.62,0),(.66,.04),(.78,.7),(.86,1.32),(.89,1.36),(.87,1.40),(.83,1.36),(.74,.7),(.62,.1),(0,.08)],
}
# fmt: on


def glaze(
    stage: Stage,
    main: Kind,
    accent: Kind,
    body: Kind,
    curve: np.ndarray,
    seed: int,
    foot: float = 0.10,
    rough: float = 0.10,
    specks: float = 0.0,
    size: tuple[int, int] = (768, 1024),
) -> object:
    """A glaze that breaks to its accent at the rim and on the rings, pools above a bare foot."""
    rows, columns = size
    z = np.interp(np.linspace(0, 1, rows), np.linspace(0, 1, len(curve)), curve[:, 1])
    rise = (z / z.max())[:, None]
    n, fine = fractal(rows, columns, 2.4, seed, 1, 2.2), fractal(rows, columns, 1.6, seed + 1)
    drip = fractal(8, columns, 2.2, seed + 2)[0]
    top = int(np.argmax(curve[:, 1]) / len(curve) * rows)
    outside = (np.arange(rows) < top)[:, None]
    line = foot + 0.035 * drip[None]
    bare = (1 - ramp(-0.006, 0.006, rise - line)) * outside
    rim = np.exp(-(((np.arange(rows) - top) / (rows * 0.013)) ** 2))[:, None] * (1 + 0.5 * n)
    pool = np.exp(-(((rise - line - 0.03) / 0.03) ** 2)) * outside
    rings = 0.35 * np.sin(z[:, None] * 30) + 0.5 * n
    broken = 0.18 * rings + 0.9 * rim + 0.25 * np.clip(fine - 1.2, 0, 1) * specks
    broken = np.clip(broken, 0, 1) * (1 - bare)
    spots = ramp(1.9, 2.2, fractal(rows, columns, 0.6, seed + 3)) * specks * (1 - bare)
    texture = stage.mixed(
        [main, accent, body, "ironred"],
        [
            (1 - broken) * (1 - bare) * (1 - spots),
            broken * (1 - bare),
            bare * (1 + 0.2 * fine),
            spots,
        ],
        scale=np.clip(1 + 0.10 * n - 0.25 * pool + 0.05 * fine, 0.5, 1.3),
    )
    skin = np.clip(rough + 0.5 * bare + 0.04 * np.abs(fine), 0.05, 0.95)
    return stage.glossy(texture, stage.grey(skin))


def earthenware(stage: Stage, seed: int, rows: int = 512) -> object:
    """Unglazed red clay with lime bloom and soot."""
    n = fractal(rows, rows, 2.2, seed)
    texture = stage.mixed(
        ["terra", "brickpale", "tin", "brickdark"],
        [
            np.ones_like(n),
            0.5 * np.clip(n, 0, 2),
            0.35 * np.clip(n - 0.6, 0, 2),
            0.35 * np.clip(-n - 0.5, 0, 2),
        ],
        scale=1 + 0.08 * fractal(rows, rows, 1.2, seed + 1),
    )
    return stage.glossy(texture, 0.8, 0.2)


def pot(
    stage: Stage,
    name: str,
    profile: str,
    where: tuple[float, float, float],
    surface: tuple[Kind, Kind, Kind],
    seed: int,
    size: float = 1.0,
    turn: float = 0.0,
    rings: float = 0.004,
    fine: bool = True,
    **finish: float,
) -> None:
    """A glazed pot, its glaze as (main, accent, body)."""
    around, along = (384, 420) if fine else (128, 160)
    texels = (768, 1024) if fine else (256, 256)
    shape, curve = thrown(PROFILE[profile], seed, rings=rings, around=around, along=along)
    skin = glaze(stage, *surface, curve, seed * 10 + 1, size=texels, **finish)
    stage.add(name, placed(shape, where, size, turn), skin)


def jug(stage: Stage, where: tuple[float, float, float], size: float = 1.0, turn: float = 0.0,
        surface: tuple[Kind, Kind, Kind] = ("tin", "ochre", "terra")) -> None:  # fmt: skip
    """A jug with a pulled spout and handle."""
    shape, curve = thrown(PROFILE["jug"], 2)
    vertices = shape[0]
    angle, z = np.arctan2(vertices[:, 1], vertices[:, 0]), vertices[:, 2]
    spout = np.exp(-(((angle + 2.6) / 0.28) ** 2)) * ramp(2.5, 3.1, z)
    vertices[:, :2] += spout[:, None] * 0.30 * np.array([np.cos(-2.6), np.sin(-2.6)])
    vertices[:, 2] += 0.08 * spout
    skin = glaze(stage, *surface, curve, 21, foot=0.06, rough=0.12, specks=1.0)
    stage.add("jug", placed(shape, where, size, turn), skin)
    points = [(0.62, 2.85), (1.0, 3.0), (1.45, 2.75), (1.55, 2.2), (1.35, 1.7), (1.02, 1.35)]
    curve = smooth_curve(points, 60)
    path = np.stack([curve[:, 0] * np.cos(0.35), curve[:, 0] * np.sin(0.35), curve[:, 1]], 1)
    bar: Shape = tube(path, 0.105 + 0.2 * np.abs(np.linspace(0, 1, 60) - 0.5) ** 2, 24)
    stage.add("handle", placed(bar, where, size, turn), stage.glossy(stage.plain(surface[0]), 0.13))
