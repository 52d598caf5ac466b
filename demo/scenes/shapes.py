"""Meshes: vertices (V, 3), faces (F, 3), texture places (V, 2)."""

from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import Akima1DInterpolator

from .noise import at, fractal, ramp

Shape = tuple[NDArray, NDArray, NDArray]
Points = Sequence[tuple[float, float]] | NDArray


def normals(vertices: NDArray, faces: NDArray) -> NDArray[np.float32]:
    """(V, 3) unit normals, faces weighed by their area."""
    v = np.asarray(vertices, float)
    n = np.cross(v[faces[:, 1]] - v[faces[:, 0]], v[faces[:, 2]] - v[faces[:, 0]])
    total = np.zeros_like(v)
    for corner in range(3):
        for axis in range(3):
            total[:, axis] += np.bincount(faces[:, corner], n[:, axis], minlength=len(v))
    length = np.maximum(np.linalg.norm(total, axis=1, keepdims=True), 1e-12)
    return (total / length).astype(np.float32)


def unit(v: NDArray) -> NDArray:
    """Vectors of length one."""
    return v / np.maximum(np.linalg.norm(v, axis=-1, keepdims=True), 1e-9)


def lattice(columns: int, rows: int) -> NDArray:
    """Faces of a grid whose vertices run along rows."""
    i, j = np.arange(rows - 1)[:, None], np.arange(columns - 1)[None]
    a, b = i * columns + j, i * columns + j + 1
    c, d = b + columns, a + columns
    return np.concatenate([np.stack([a, b, c], -1), np.stack([a, c, d], -1)], 1).reshape(-1, 3)


def squares(columns: int, rows: int) -> NDArray:
    """(columns × rows, 2) texture places over a grid."""
    u, v = np.linspace(0, 1, columns), np.linspace(0, 1, rows)
    return np.stack(np.meshgrid(u, v), -1).reshape(-1, 2)


def sheet(x: NDArray, y: NDArray, z: NDArray) -> Shape:
    """A surface from grids of coordinates (rows, columns)."""
    rows, columns = z.shape
    vertices = np.stack(np.broadcast_arrays(x, y, z), -1).reshape(-1, 3)
    return vertices, lattice(columns, rows), squares(columns, rows)


def joined(shapes: Sequence[Shape]) -> Shape:
    """Several meshes as one."""
    offset, faces = 0, []
    for vertices, f, _ in shapes:
        faces.append(f + offset)
        offset += len(vertices)
    return (
        np.concatenate([s[0] for s in shapes]),
        np.concatenate(faces),
        np.concatenate([s[2] for s in shapes]),
    )


def placed(
    shape: Shape, where: Sequence[float], size: float = 1.0, turn: NDArray | float = 0.0
) -> Shape:
    """Scaled, turned (radians about the upright, or a rotation matrix) and moved."""
    if not isinstance(turn, np.ndarray):
        c, s = np.cos(turn), np.sin(turn)
        turn = np.array([[c, -s, 0], [s, c, 0], [0, 0, 1]])
    return shape[0] * size @ turn.T + np.asarray(where, float), shape[1], shape[2]


def rotation(axis: Sequence[float], degrees: float) -> NDArray:
    """(3, 3) about an axis."""
    k = unit(np.asarray(axis, float))
    cross = np.array([[0, -k[2], k[1]], [k[2], 0, -k[0]], [-k[1], k[0], 0]])
    a = np.radians(degrees)
    return np.eye(3) + np.sin(a) * cross + (1 - np.cos(a)) * cross @ cross


def smooth_curve(points: Points, count: int) -> NDArray:
    """(count, k) through the points, evenly by length."""
    p = np.array(points, float)
    length = np.r_[0, np.cumsum(np.linalg.norm(np.diff(p, axis=0), axis=1))]
    return Akima1DInterpolator(length, p)(np.linspace(0, length[-1], count))


def thrown(
    profile: Points,
    seed: int,
    wobble: float = 0.008,
    rings: float = 0.004,
    around: int = 384,
    along: int = 420,
    displaced: Callable[[NDArray, NDArray], NDArray] | None = None,
) -> tuple[Shape, NDArray]:
    """A pot off the wheel: its profile as (radius, height) from the foot, out, up, over the rim
    and down inside; with throwing rings and the hand's unevenness. Also the curve itself."""
    curve = smooth_curve(profile, along)
    r, z = curve[:, 0], curve[:, 1]
    u = np.linspace(0, 1, around + 1)
    angle = u * 2 * np.pi
    rng = np.random.default_rng(seed)
    height = z.max()
    lumps = at(fractal(256, 256, 4.2, seed), u[None], np.linspace(0, 0.35, along)[:, None])
    oval = np.cos(2 * (angle + rng.uniform(0, 6))) * rng.uniform(0.3, 1)
    oval += 0.5 * np.cos(3 * angle + rng.uniform(0, 6))
    radius = r[:, None] * (1 + wobble * oval)[None]
    radius += wobble * 0.5 * height * lumps * (r[:, None] / r.max())
    drift = 2 * at(fractal(256, 256, 4.2, seed), u[None], z[:, None] / height * 0.5)
    turns = np.sin(z[:, None] * rng.uniform(26, 34) + angle[None] + drift)
    radius += rings * turns * np.minimum(1, r[:, None] / 0.3)
    if displaced is not None:
        radius += displaced(u[None], z[:, None])
    lean = wobble * 0.8 * rng.standard_normal(2)
    rise = z[:, None] + 0.006 * height * lumps * ramp(0.5, 1, z / height)[:, None]
    vertices = np.stack(
        [
            radius * np.cos(angle) + z[:, None] * lean[0],
            radius * np.sin(angle) + z[:, None] * lean[1],
            rise,
        ],
        -1,
    ).reshape(-1, 3)
    return (vertices, lattice(around + 1, along), squares(around + 1, along)), curve


def tube(path: NDArray, radius: NDArray | float, sides: int = 20) -> Shape:
    """A round bar along a path (n, 3)."""
    path = np.asarray(path, float)
    tangent = unit(np.gradient(path, axis=0))
    off = np.array([0, 1, 0.0]) if abs(tangent[:, 1]).max() < 0.9 else np.array([1, 0, 0.0])
    a = unit(np.cross(tangent, off))
    b = np.cross(tangent, a)
    angle = np.linspace(0, 2 * np.pi, sides + 1)
    r = np.broadcast_to(np.reshape(radius, (-1, 1, 1)), (len(path), 1, 1))
    ring = np.cos(angle)[None, :, None] * a[:, None] + np.sin(angle)[None, :, None] * b[:, None]
    vertices = (path[:, None] + r * ring).reshape(-1, 3)
    return vertices, lattice(sides + 1, len(path)), squares(sides + 1, len(path))


def _bend(curl: NDArray, t: NDArray) -> tuple[NDArray, NDArray]:
    curl = np.where(np.abs(curl) < 1e-3, 1e-3, curl)[:, None]
    return np.sin(curl * t) / curl, -(1 - np.cos(curl * t)) / curl


def leaves(
    base: NDArray,
    along: NDArray,
    up: NDArray,
    length: NDArray,
    width: NDArray,
    curl: NDArray,
    rows: int = 6,
    fold: float = 0.25,
) -> Shape:
    """Curved leaves folded along the middle, each one of eight of an atlas: base, direction and
    up (k, 3); length, width and curl (k,)."""
    count = len(base)
    along = unit(along)
    across = unit(np.cross(along, up))
    up = np.cross(across, along)
    t = np.linspace(0, 1, rows + 1)
    outline = np.sin(np.pi * t**0.75) ** 0.8
    outline[0], outline[-1] = 0.03, 0.01
    forth, droop = _bend(curl, t)
    vertices, places = [], []
    for side in (-1, 0, 1):
        out = side * outline[None] * width[:, None] * 0.5
        rise = droop * length[:, None] + abs(side) * fold * outline[None] * width[:, None] * 0.5
        vertices.append(
            base[:, None]
            + (forth * length[:, None])[..., None] * along[:, None]
            + out[..., None] * across[:, None]
            + rise[..., None] * up[:, None]
        )
        column = (np.arange(count) * 7919 % 8)[:, None] / 8 + (0.5 + 0.48 * side) / 8
        places.append(np.stack(np.broadcast_arrays(column, t[None]), -1))
    faces = lattice(3, rows + 1)[None] + (np.arange(count) * (rows + 1) * 3)[:, None, None]
    return (
        np.stack(vertices, 2).reshape(-1, 3),
        faces.reshape(-1, 3),
        np.stack(places, 2).reshape(-1, 2),
    )


def blades(
    base: NDArray,
    along: NDArray,
    up: NDArray,
    length: NDArray,
    width: NDArray,
    curl: NDArray,
    rows: int = 4,
) -> Shape:
    """Blades of grass."""
    count = len(base)
    along = unit(along)
    across = unit(np.cross(along, up))
    t = np.linspace(0, 1, rows)
    forth, droop = _bend(curl, t)
    centre = (
        base[:, None]
        + (forth * length[:, None])[..., None] * along[:, None]
        + (droop * length[:, None])[..., None] * up[:, None]
    )
    out = (1 - t**1.6 * 0.93)[None, :, None] * width[:, None, None] * 0.5 * across[:, None]
    vertices = np.stack([centre - out, centre + out], 2).reshape(-1, 3)
    column = np.broadcast_to(
        ((np.arange(count) * 7919 % 8) / 8 + 0.06)[:, None, None], (count, rows, 2)
    )
    places = np.stack([column, np.broadcast_to(t[None, :, None] * 0.85, (count, rows, 2))], -1)
    faces = lattice(2, rows)[None] + (np.arange(count) * rows * 2)[:, None, None]
    return vertices, faces.reshape(-1, 3), places.reshape(-1, 2)
