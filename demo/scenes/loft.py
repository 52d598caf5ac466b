"""The drying loft under the roof, its far door open on the blinding yard."""

import cv2
import numpy as np

from .air import Air
from .masonry import planks, timber
from .noise import fractal
from .pottery import PROFILE, glaze, pot
from .render import Job, Rendered, render
from .shapes import Shape, joined, placed, thrown
from .stage import Stage
from .table import lamp

AIR = Air((-0.86, 0.16, 0.50), haze=0.11)
SHADE = lamp(7000.0, 1.0)
FAR, NEAR, HALF, KNEE, RIDGE = 8.6, -8.0, 2.6, 1.15, 3.7
DOOR = (-0.55, 0.75, 2.15)  # left, right, head
JUG = {"picture": (0.78, -2.35), "moved": (1.02, -2.62)}


def _walls(stage: Stage) -> None:
    n = fractal(512, 512, 2.2, 12)
    wash = stage.matte(
        stage.mixed(
            ["plaster", "slip", "brick", "soot"],
            [1 + 0 * n, 0.3 * np.clip(n, 0, 2), 0.5 * np.clip(n - 1.6, 0, 1), 0.05 + 0 * n],
            scale=1 + 0.05 * fractal(512, 512, 1.4, 13),
        )
    )
    left, right, head = DOOR
    middle = RIDGE / 2 + 0.2
    stage.box("end0", ((left - 4) / 2, FAR + 0.15, middle), ((4 + left) / 2, 0.15, middle), wash)
    stage.box("end1", ((right + 4) / 2, FAR + 0.15, middle), ((4 - right) / 2, 0.15, middle), wash)
    high = RIDGE + 0.4 - head
    stage.box(
        "end2",
        ((left + right) / 2, FAR + 0.15, head + high / 2),
        ((right - left) / 2, 0.15, high / 2),
        wash,
    )
    stage.box("back", (0, NEAR - 0.1, 2), (4, 0.1, 3), wash)
    # the knee walls; in the left one a window
    at, wide, low, top = 1.6, 0.75, 0.35, 1.02
    long = FAR - NEAR
    stage.box(
        "kneeR", (HALF + 0.1, (FAR + NEAR) / 2, KNEE / 2), (0.1, long / 2, KNEE / 2 + 0.1), wash
    )
    for i, (y0, y1, z0, z1) in enumerate(
        [(NEAR, at - wide, 0, KNEE), (at + wide, FAR, 0, KNEE), (at - wide, at + wide, 0, low),
         (at - wide, at + wide, top, KNEE)]
    ):  # fmt: skip
        stage.box(f"kneeL{i}", (-HALF - 0.1, (y0 + y1) / 2, (z0 + z1) / 2),
                  (0.1, (y1 - y0) / 2, (z1 - z0) / 2 + 0.01), wash)  # fmt: skip
    wood = timber(stage, 21)
    stage.box("mullion", (-HALF - 0.1, at, (low + top) / 2), (0.03, 0.03, (top - low) / 2), wood)
    for x in (left, right):
        stage.box(
            f"jamb{x}".replace(".", "_").replace("-", "m"),
            (x, FAR + 0.1, head / 2),
            (0.05, 0.16, head / 2),
            wood,
        )
    stage.box(
        "lintel",
        ((left + right) / 2, FAR + 0.1, head),
        ((right - left) / 2 + 0.1, 0.17, 0.07),
        wood,
    )
    stage.box("sill", ((left + right) / 2, FAR + 0.1, 0.03), ((right - left) / 2, 0.2, 0.04), wood)
    stage.box(
        "leaf", (right + 0.33, FAR - 0.58, head / 2), (0.03, 0.62, head / 2 - 0.04), wood, -28
    )


def _roof(stage: Stage) -> None:
    wood, dark = timber(stage, 22), timber(stage, 23)
    slope = np.degrees(np.arctan2(RIDGE - KNEE, HALF))
    long = np.hypot(RIDGE - KNEE, HALF) / 2
    for side in (-1, 1):
        for k in range(15):  # boards under the tiles, a few with light between them
            t = (k + 0.5) / 15
            x, z = side * HALF * (1 - t), KNEE + (RIDGE - KNEE) * t + 0.10
            stage.box(f"board{side + 1}{k}", (x, (FAR + NEAR) / 2, z),
                      (long / 15 * 1.01, (FAR - NEAR) / 2, 0.012), dark, 0, side * slope)  # fmt: skip
        for k, y in enumerate(np.arange(NEAR + 0.8, FAR, 1.25)):
            place = (side * HALF / 2, y, (KNEE + RIDGE) / 2)
            stage.box(f"rafter{side + 1}{k}", place, (long, 0.05, 0.075), wood, 0, side * slope)
    for k, y in enumerate(np.arange(NEAR + 0.8, FAR, 2.5)):
        stage.box(f"tie{k}", (0, y + 0.02, 2.62), (1.18, 0.045, 0.07), wood)
    stage.box("ridge", (0, (FAR + NEAR) / 2, RIDGE - 0.05), (0.05, (FAR - NEAR) / 2, 0.09), wood)
    for side in (-1, 1):
        stage.box(
            f"plate{side + 1}",
            (side * HALF, (FAR + NEAR) / 2, KNEE + 0.05),
            (0.1, (FAR - NEAR) / 2, 0.07),
            wood,
        )


def _racks(stage: Stage) -> None:
    wood = timber(stage, 24)
    rng = np.random.default_rng(25)
    kinds = ("bowl", "cup", "jar", "jug", "plate", "moonjar")
    made = {
        kind: [thrown(PROFILE[kind], 50 + 7 * i, 0.010, 0.006, 112, 130)[0] for i in range(2)]
        for kind in kinds
    }
    wares: list[list[Shape]] = [[], [], []]
    for side in (-1, 1):
        deep, middle = 0.29, side * (HALF - 0.36)
        levels = (0.32, 0.78) if side < 0 else (0.32, 0.80, 1.26)
        for y in np.arange(-5.0, FAR - 0.9, 1.5):
            for s in (-1, 1):
                name = f"upright{side + 1}{y * 10:.0f}{s + 1}".replace("-", "m")
                top = max(levels) + (0.34 if s != side else 0.22)
                stage.box(name, (middle + s * deep, y, top / 2), (0.03, 0.03, top / 2), wood)
        for i, z in enumerate(levels):
            for s in (-1, 0, 1):
                stage.box(f"shelf{side + 1}{i}{s + 1}", (middle + s * 0.19, (FAR - 5.9) / 2, z),
                          (0.09, (FAR + 4.2) / 2, 0.012), wood, 0.15 * s)  # fmt: skip
            y, kind = -4.7, 0
            while y < FAR - 1.2:
                # a run of the same ware, as it was made
                if rng.uniform() < 0.22:
                    kind = (kind + rng.integers(1, len(kinds))) % len(kinds)
                if side < 0 and 0.7 < y < 2.5 and i == 1:
                    y += 0.3
                    continue
                name = kinds[kind]
                size = {
                    "bowl": 0.115,
                    "cup": 0.13,
                    "jar": 0.115,
                    "jug": 0.105,
                    "plate": 0.11,
                    "moonjar": 0.12,
                }[name]
                size *= rng.uniform(0.93, 1.06)
                wide = {
                    "bowl": 1.4,
                    "cup": 0.58,
                    "jar": 1.25,
                    "jug": 1.15,
                    "plate": 1.9,
                    "moonjar": 1.35,
                }[name] * size
                rows = (-0.13, 0.13) if wide < 0.14 else (0.0,)
                dry = int(np.clip(rng.normal(0.6 + 0.12 * (y + 4), 0.5), 0, 2))
                for off in rows:
                    shape = made[name][rng.integers(2)]
                    place = (
                        middle + off + rng.normal(0, 0.012),
                        y + rng.normal(0, 0.012),
                        z + 0.012,
                    )
                    wares[dry].append(placed(shape, place, size, rng.uniform(0, 6)))
                y += 2 * wide + rng.uniform(0.015, 0.05) + (0.25 if rng.uniform() < 0.06 else 0)
    curve = np.array(PROFILE["jar"], float)
    for i, (group, kind) in enumerate(zip(wares, ("wetclay", "clay", "slip"), strict=True)):
        skin = glaze(
            stage,
            kind,
            "clay",
            kind,
            curve,
            80 + i,
            foot=0.0,
            rough=(0.5, 0.85, 0.9)[i],
            size=(256, 256),
        )
        stage.add(f"ware{i}", joined(group), skin)


def build(job: Job, jug: tuple[float, float]) -> Stage:
    """The loft with the jug standing there."""
    stage = Stage()
    scale = 0.12
    planks(
        stage,
        "floor",
        (FAR - NEAR) / scale,
        5.3 / scale,
        24,
        14,
        (2600, 1300),
        0.5,
        0.0,
        scale,
        True,
    )
    _walls(stage)
    _roof(stage)
    _racks(stage)
    wood = timber(stage, 26)
    x, y = 0.9, -2.5
    stage.box("stool", (x, y, 0.50), (0.34, 0.26, 0.022), wood, 14)
    for i, (dx, dy) in enumerate([(-0.26, -0.18), (0.26, -0.18), (-0.26, 0.18), (0.26, 0.18)]):
        stage.box(f"leg{i}", (x + dx, y + dy, 0.24), (0.024, 0.024, 0.25), wood, 14)
    pot(stage, "jug", "jug", (*jug, 0.522), ("slip", "clay", "clay"), 31, 0.135, turn=2.0, rings=0.008,
        foot=0.0, rough=0.8)  # fmt: skip
    # a board of bowls on the floor, a pail, a broom against the rack
    stage.box("board", (-0.75, -1.15, 0.06), (0.17, 0.75, 0.018), wood, 7)
    for i in range(4):
        t = -0.54 + 0.36 * i
        c, s = np.cos(np.radians(97)), np.sin(np.radians(97))
        pot(stage, f"bowl{i}", "bowl", (-0.75 + t * c, -1.15 + t * s, 0.078), ("clay", "wetclay", "clay"), 40 + i,
            0.105, turn=i, rings=0.008, fine=False, foot=0.0, rough=0.7)  # fmt: skip
    pot(stage, "pail", "bucket", (-1.35, 0.9, 0.0), ("terra", "brickpale", "terra"), 46, 0.21, fine=False,
        foot=0.0, rough=0.8)  # fmt: skip
    # what is seen through the door is the yard; more of its sky lies out of sight
    yard = np.load(job.folder / "yard.npz")["cube"]
    rows, columns = yard.shape[:2]
    part = yard[: int(0.94 * rows), int(0.045 * columns) : int(0.38 * columns)].astype(np.float32)
    tall = 2.5
    wide = tall * part.shape[1] / part.shape[0]
    stage.backdrop((0.15, FAR + 4.6, 1.42), (0.15, 0, 1.42), (wide, tall), part)
    stage.panel(
        "above",
        (0.1, FAR + 2.2, 4.6),
        (0.1, FAR - 3, 0.2),
        (2.0, 1.3),
        AIR.clear(np.array([0, 0, 1.0])) * 9.0,
    )
    stage.panel(
        "beside",
        (-HALF - 2.2, 1.6, 1.5),
        (0, 1.6, 0.7),
        (1.6, 1.0),
        AIR.clear(np.array([-0.9, 0, 0.4])) * 4.0,
    )
    # a gable window behind the camera
    stage.panel("behind", (-0.9, NEAR + 0.1, 2.3), (0.2, 2, 0.8), (0.75, 0.55), SHADE * 0.16)
    stage.sun(AIR.sun, AIR.sunlight)
    return stage


def _rendered(job: Job, jug: tuple[float, float]) -> Rendered:
    stage = build(job, jug)
    stage.camera((-0.25, -6.1, 1.5), (0.14, FAR, 1.12), 49, job.size, aperture=0.008, focus=6.5)
    return render(stage, SHADE * 0.3, job, bounces=9)


def picture(job: Job) -> Rendered:
    """The loft."""
    return _rendered(job, JUG["picture"])


def moved(job: Job) -> Rendered:
    """The same with the jug moved. But for where it was and is, it is the other picture: two
    renderings have other noise, of which the denoiser makes other planks."""
    new, was = _rendered(job, JUG["moved"]), np.load(job.folder / "loft.npz")
    ratio = np.maximum(new.depth, 0.01) / np.maximum(was["depth"], 0.01)
    other = (np.abs(np.log(ratio)) > 0.002).astype(np.uint8)
    other = cv2.morphologyEx(other, cv2.MORPH_OPEN, np.ones((7, 7), np.uint8))
    near = cv2.dilate(other, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (65, 65)))
    share = cv2.GaussianBlur(near.astype(np.float32), (0, 0), 8.0)[..., None]
    share[other > 0] = 1.0
    cube = was["cube"].astype(np.float32)
    cube += share * (new.cube - cube)
    return Rendered(cube, new.depth, np.ones_like(new.depth), new.white)
