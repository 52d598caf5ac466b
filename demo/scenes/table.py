"""Two still lifes on a table: pale ware on white linen, and black raku on slate."""

import numpy as np

from silvrin.core.spectra.grid import WAVELENGTHS
from silvrin.core.spectra.illuminants import light

from .noise import at, fractal
from .pottery import pot
from .render import Job, Rendered, render
from .shapes import placed, sheet, thrown
from .spectra import BANDS, MATERIAL, Spectrum
from .stage import Stage


def lamp(temperature: float, power: float) -> Spectrum:
    """Light of a temperature."""
    return (
        np.interp(BANDS, WAVELENGTHS, light(temperature))
        * power
        / np.interp(560.0, WAVELENGTHS, light(temperature))
    )


OVERCAST = lamp(6500.0, 1.0)


def cloth(stage: Stage, name: str, cells: int = 900, seed: int = 71, folds: float = 1.0) -> None:
    """Linen over the table and up behind it, with its folds and its weave."""
    u, v = np.meshgrid(np.linspace(-1, 1, cells), np.linspace(0, 1, cells))
    run = v * 17.0 - 6.0  # along the cloth: towards the back, then up
    bend, radius = 5.0, 2.2
    turn = np.clip((run - bend) / radius, 0, np.pi / 2)
    y = np.minimum(run, bend) + radius * np.sin(turn)
    z = radius * (1 - np.cos(turn)) + np.maximum(run - bend - radius * np.pi / 2, 0)
    x = u * 9.5
    wide, narrow = (
        fractal(512, 512, 4.6, seed, 2.2, 1.0),
        fractal(512, 512, 3.6, seed + 1, 2.0, 1.0),
    )
    skew = 0.16 * v
    big = at(wide, u * 0.23 + skew, v * 0.35)
    crease = at(narrow, u * 0.4 - 0.6 * skew, v * 0.5)
    # sharp ridges, soft valleys
    lift = 0.60 * np.logaddexp(0, 3 * big) / 3 + 0.26 * np.exp(-3.0 * np.sqrt(crease**2 + 0.02))
    near = np.exp(-((x / 3.4) ** 4) - ((run - 0.3) / 3.0) ** 4)  # the ware lies flat on it
    lift = folds * lift * (1 - 0.93 * near) - 0.02
    z, y = z + lift * np.cos(turn), y - lift * np.sin(turn)
    fine = fractal(1024, 1024, 0.6, seed + 3)
    weave = 1 + 0.03 * at(fine, u * 5, v * 5) + 0.02 * np.sin(u * 2600) * np.sin(v * 2600)
    texture = stage.mixed(["linen"], [np.ones_like(u)], scale=weave)
    stage.add(name, sheet(x, y, z), stage.matte(texture, both_sides=True))


def plate(job: Job) -> Rendered:
    """High key."""
    stage = Stage()
    cloth(stage, "cloth")
    pale = MATERIAL["tin"] * 0.7 + MATERIAL["celadon"] * 0.3
    pot(stage, "plate", "plate", (-0.35, -0.9, 0.02), ("tin", "celadon", "slip"), 1,
        size=1.45, foot=0.02, rough=0.16, specks=0.25)  # fmt: skip
    pot(stage, "moonjar", "moonjar", (2.2, 2.0, 0.0), (pale, "tin", "slip"), 2,
        size=1.18, turn=1.0, foot=0.06, rough=0.2, specks=0.1)  # fmt: skip
    pot(stage, "cup", "cup", (-2.9, 1.7, 0.0), ("celadon", "tin", "slip"), 3,
        size=1.35, turn=2.0, foot=0.12, rough=0.14)  # fmt: skip
    rng = np.random.default_rng(4)
    for i, (x, y, turn) in enumerate([(-0.75, -1.05, 0.4), (0.02, -0.55, 2.1)]):
        t = np.linspace(-np.pi / 2, np.pi / 2, 60)
        long = 0.50 * np.sin(t) * (1 + 0.10 * np.sin(t))
        egg, _ = thrown(list(zip(0.37 * np.cos(t), long, strict=True)), 30 + i, 0.004, 0, 128, 128)
        v = egg[0] + 0.0003 * rng.standard_normal(egg[0].shape)
        lying = np.stack([v[:, 2], v[:, 1], -v[:, 0]], 1)
        n = fractal(256, 256, 0.5, 50 + i)
        shell = stage.mixed(["linen", "slip"], [0.8 + 0 * n, 0.2 + 0.1 * n + 0.2 * i])
        skin = stage.glossy(shell, 0.5, 0.3)
        stage.add(f"egg{i}", placed((lying, egg[1], egg[2]), (x, y, 0.62), 1.0, turn), skin)
    stage.panel("window", (-9, 0.5, 6.5), (0, 0, 0.5), (3.2, 3.6), OVERCAST * 1.15)
    stage.panel("room", (9, -6, 7), (0, 0, 0), (5, 5), OVERCAST * 0.16)
    stage.panel("ceiling", (0, -2, 13), (0, 0, 0), (8, 8), OVERCAST * 0.16)
    stage.camera((0.3, -10.8, 5.6), (0.05, 0.15, 0.75), 40, job.size, aperture=0.085, focus=10.9)
    return render(stage, OVERCAST, job, bounces=8)


def raku(job: Job) -> Rendered:
    """Low key."""
    stage = Stage()
    cells = 800
    x, y = np.meshgrid(np.linspace(-9, 9, cells), np.linspace(-6, 6, cells))
    rough, layer = fractal(1024, 1024, 1.9, 81)[:cells, :cells], fractal(1024, 1024, 2.8, 82)
    layer = np.round(layer[:cells, :cells] * 2.2) * 0.022
    n = 0.0035 * rough + layer
    slate = stage.mixed(
        ["soot", "iron", "mortar"],
        [1.0 + 0 * x, 0.5 * np.clip(rough, 0, 2), 0.04 * np.clip(-rough - 0.8, 0, 2)],
        scale=1 + 0.12 * rough,
    )
    stage.add("slate", sheet(x, y, n - 0.05), stage.glossy(slate, 0.42, 0.5))
    smoked = MATERIAL["raku"] * 1.4
    pot(stage, "tea", "cup", (-1.35, -1.1, 0), ("raku", smoked, "soot"), 11, size=1.75,
        rings=0.014, foot=0.05, rough=0.22, specks=0.5)  # fmt: skip
    pot(stage, "bottle", "bottle", (1.5, 0.9, 0), ("raku", "ironred", "soot"), 12, size=1.0,
        turn=2.2, rings=0.007, foot=0.05, rough=0.13, specks=0.9)  # fmt: skip
    pot(stage, "jar", "jar", (3.9, -0.4, 0), ("raku", smoked, "brickdark"), 13, size=0.72,
        turn=0.8, rings=0.010, foot=0.10, rough=0.18, specks=0.2)  # fmt: skip
    pot(stage, "bowl", "bowl", (-3.9, 0.9, 0), ("raku", "iron", "soot"), 14, size=1.0,
        turn=4.0, rings=0.008, foot=0.14, rough=0.25, specks=0.4)  # fmt: skip
    y, z = np.meshgrid(np.linspace(0, 1, 300), np.linspace(-1, 10, 300))
    hung = 4.8 + 0.22 * np.sin(y * 34 + 1.3 * np.sin(y * 9) + 0.05 * z) + 0.05 * np.sin(y * 83 + z)
    dark = stage.mixed(["soot", "woodbrown"], [1.0 + 0 * y, 0.25 + 0 * y])
    stage.add("curtain", sheet(y * 24 - 12, hung, z), stage.matte(dark, both_sides=True))
    stage.panel("window", (-9.5, -1.6, 5.6), (0, 0, 1.2), (1.5, 2.8), OVERCAST * 6.0)
    stage.panel("edge", (8.5, 4.0, 4.0), (1, 0, 1.5), (0.4, 2.6), OVERCAST * 3.0)
    stage.panel("ceiling", (0, -3, 12), (0, 0, 0), (6, 6), OVERCAST * 0.02)
    stage.camera((0.2, -12.6, 3.3), (0.25, 0, 1.45), 38, job.size, aperture=0.07, focus=12.4)
    return render(stage, OVERCAST, job, bounces=8)
