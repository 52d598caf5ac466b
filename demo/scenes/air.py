"""Sun, sky, clouds and haze by wavelength.

Plane-parallel single scattering (Rayleigh and Henyey-Greenstein haze) with an isotropic guess of
the rest; air mass by Kasten 1965; ozone, oxygen and water vapour roughly. Clouds are marched
through volumes of noise; what they scatter is kept as four fields and coloured afterwards, so that
every band has the same edges.
"""

from dataclasses import dataclass

import cv2
import mitsuba_oidn as oidn
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import map_coordinates

from .noise import Field, ramp, volume
from .shapes import unit
from .spectra import BANDS, COUNT, Spectrum, planck

MICRON = BANDS / 1000.0
RAYLEIGH = 0.00877 * MICRON**-4.05
HAZE_EXPONENT = 1.3
ABOVE_AIR = planck(5778.0)
OZONE = np.interp(
    BANDS, [400, 480, 520, 560, 600, 640, 700, 760, 900],
    [0, 0.005, 0.015, 0.033, 0.042, 0.028, 0.008, 0.002, 0],
)  # fmt: skip
OXYGEN = np.interp(BANDS, [740, 750, 770, 780], [0, 0.12, 0.12, 0])
VAPOUR = np.interp(
    BANDS, [700, 715, 720, 735, 800, 820, 830, 845], [0, 0.05, 0.09, 0.03, 0, 0.1, 0.08, 0]
)


class Air:
    """The air of a day: towards the sun, and how hazy at 550 nm."""

    def __init__(self, sun: tuple[float, float, float], haze: float, bright: float = 2.0) -> None:
        self.sun = unit(np.array(sun, float))
        self.bright = bright  # of the sky, against the single-scattering model
        self.haze = haze * (MICRON / 0.55) ** -HAZE_EXPONENT
        height = max(self.sun[2], 0.05)
        degrees = np.degrees(np.arccos(height))
        self.mass = 1.0 / (height + 0.15 * (93.885 - degrees) ** -1.253)
        self.absorbed = np.exp(-(OZONE + VAPOUR + OXYGEN) * self.mass)
        self.sunlight: Spectrum = (
            ABOVE_AIR * np.exp(-(RAYLEIGH + self.haze) * self.mass) * self.absorbed
        )

    def clear(self, towards: NDArray) -> NDArray:
        """Radiance (…, bands) of the cloudless sky in directions (…, 3)."""
        rise = np.clip(towards[..., 2], 0.012, 1)[..., None]
        c = (towards @ self.sun)[..., None]
        g, total = 0.76, RAYLEIGH + self.haze
        forward = 0.94 * (1 - g * g) / (1 + g * g - 2 * g * c) ** 1.5 + 0.06
        phase = (RAYLEIGH * 0.75 * (1 + c * c) + self.haze * forward) / total
        x = total / (rise + 0.05 * np.exp(-rise * 12))
        x0 = total * self.mass
        more = np.where(np.abs(x - x0) < 1e-9, 1e-9, x - x0)
        light = ABOVE_AIR * self.absorbed
        once = light * phase / (4 * np.pi) * x * np.exp(-x0) * -np.expm1(-more) / more
        often = light * max(self.sun[2], 0.05) / np.pi * (1 - np.exp(-x))
        often = often * (0.495 * RAYLEIGH + 0.25 * self.haze)
        return (once + often) * self.bright

    def horizon(self, towards: tuple[float, float, float] = (0, 1, 0.06)) -> Spectrum:
        """The sky just above the land."""
        return self.clear(unit(np.array([towards], float)))[0]

    def veiled(self, radiance: NDArray, distance: NDArray, cover: NDArray, reach: float) -> NDArray:
        """What is left of radiance (H, W, bands) behind that much air; reach: metres in which
        haze of the day dims by e."""
        beta = RAYLEIGH / 8000 + self.haze / reach
        veil = self.horizon() * 0.75
        out = np.empty_like(radiance)
        far = np.minimum(distance / np.maximum(cover, 0.05), 9000.0)
        for b in range(COUNT):
            left = np.exp(-beta[b] * far)
            out[..., b] = radiance[..., b] * left + cover * veil[b] * (1 - left)
        return out


def directions(rows: int = 256, columns: int = 512) -> NDArray:
    """(rows, columns, 3) that the texels of a sky look to, z up."""
    v, u = np.mgrid[0:rows, 0:columns]
    down, turn = (v + 0.5) / rows * np.pi, (u + 0.5) / columns * 2 * np.pi
    x, y, z = np.sin(turn) * np.sin(down), np.cos(down), -np.cos(turn) * np.sin(down)
    return np.stack([x, -z, y], -1)


def view(
    at: tuple[float, ...], target: tuple[float, ...], field: float, size: tuple[int, int],
    up: tuple[float, ...] = (0, 0, 1),
) -> NDArray:  # fmt: skip
    """(H, W, 3) directions that a camera's pixels look to."""
    width, height = size
    forward = unit(np.array(target, float) - np.array(at, float))
    right = unit(np.cross(forward, up))
    above = np.cross(right, forward)
    reach = np.tan(np.radians(field / 2))
    x, y = np.meshgrid(
        (np.arange(width) + 0.5) / width * 2 - 1, 1 - (np.arange(height) + 0.5) / height * 2
    )
    rays = forward + x[..., None] * reach * right + y[..., None] * reach * height / width * above
    return unit(rays)


@dataclass
class Clouds:
    """Fair-weather cumulus of a day; cover: more is more; drift moves them."""

    air: Air
    cover: float = 0.0
    drift: tuple[float, float] = (5200.0, 900.0)
    base: float = 900.0
    top: float = 2100.0
    seed: int = 11

    def __post_init__(self) -> None:
        self._big, self._small = volume(128, 4.0, self.seed), volume(128, 3.3, self.seed + 1)

    @staticmethod
    def _look(field: Field, place: NDArray, size: float) -> NDArray:
        where = np.mod(place / size * field.shape[0], field.shape[0])
        return map_coordinates(field, where.T, order=1, mode="grid-wrap")

    def _density(self, place: NDArray, detail: bool = True) -> NDArray:
        height = (place[:, 2] - self.base) / (self.top - self.base)
        body = ramp(0, 0.08, height) * (1 - 0.55 * height)
        shape = self._look(self._big, place * [1, 1, 1.3] + [*self.drift, 0], 9000.0)
        d = shape * 0.62 + body * 0.75 - 0.98 - 0.35 * height + self.cover
        if detail:
            d += 0.20 * self._look(self._small, place, 2400.0)
            d += 0.10 * self._look(self._small, place + 777, 700.0)
        return np.clip(d * 2.2, 0, 1) * (height > 0) * (height < 1)

    def _march(self, rays: NDArray, steps: int) -> NDArray:
        """(n, 4): sunlit, skylit, distance-weighted opacity, what passes."""
        count = len(rays)
        out = np.zeros((count, 4))
        out[:, 3] = 1.0
        index = np.flatnonzero(rays[:, 2] > 0.02)
        rise = rays[index, 2]
        first = self.base / rise
        last = np.minimum(self.top / rise, first + 9000)
        jitter = np.random.default_rng(0).uniform(0.1, 0.9, len(index))
        c = rays[index] @ self.air.sun
        phase = 0.7 * (1 - 0.36) / (1.36 - 1.2 * c) ** 1.5 / (4 * np.pi)
        phase += 0.3 * (1 - 0.04) / (1.04 + 0.4 * c) ** 1.5 / (4 * np.pi)
        sigma, near = 0.013, first < 45000
        for k in range(steps):
            distance = first + (k + jitter) / steps * (last - first)
            active = np.flatnonzero((out[index, 3] > 0.01) & near)
            place = rays[index[active]] * distance[active, None]
            density = self._density(place)
            hit = np.flatnonzero(density > 1e-3)
            if not len(hit):
                continue
            a, place = active[hit], place[hit]
            depth = np.zeros(len(hit))
            for offset, length in ((60, 120), (200, 200), (450, 350), (900, 500)):
                towards = place + self.air.sun * offset
                depth += self._density(towards, offset < 300) * length * sigma
            opaque = 1 - np.exp(-density[hit] * sigma * ((last - first) / steps)[a])
            i = index[a]
            sunlit = np.exp(-depth) * phase[a] + 0.05 * np.exp(-depth * 0.35)
            sunlit = (sunlit + 0.0225 * np.exp(-depth * 0.1)) * 2.2
            height = (place[:, 2] - self.base) / (self.top - self.base)
            weight = out[i, 3] * opaque
            out[i, 0] += weight * sunlit
            out[i, 1] += weight * (0.45 + 0.75 * height)
            out[i, 2] += weight * distance[a]
            out[i, 3] *= 1 - opaque
        return out

    def __call__(self, rays: NDArray, steps: int = 24, coarse: int = 1) -> NDArray:
        """Radiance (H, W, bands) of the sky; marched at a part of the size."""
        height, width = rays.shape[:2]
        few = rays[::coarse, ::coarse]
        fields = self._march(few.reshape(-1, 3), steps).reshape(*few.shape[:2], 4)
        fields[..., 3] = 1 - fields[..., 3]  # opacity: everything is 0 where the sky is clear
        if steps > 40:
            first = np.ascontiguousarray(fields[..., [0, 1, 3]], dtype=np.float32)
            fields[..., [0, 1, 3]] = np.array(oidn.denoise(first, hdr=True))
        if coarse > 1:
            grid = np.mgrid[0:height, 0:width].astype(np.float32)[::-1] / coarse
            fields = np.stack(
                [cv2.remap(f.astype(np.float32), grid[0], grid[1], cv2.INTER_LINEAR,
                           borderMode=cv2.BORDER_REPLICATE) for f in np.moveaxis(fields, 2, 0)], -1,
            )  # fmt: skip
        sunlit, skylit, far, opaque = np.moveaxis(np.maximum(fields, 0.0), 2, 0)
        opaque = np.minimum(opaque, 1.0)
        passed = 1 - opaque
        far = far / np.maximum(opaque, 1e-3)
        zenith = self.air.clear(np.array([[0, 0, 1.0]]))[0]
        zenith = (zenith + 0.5 * self.air.horizon((0, 1, 0.2))) * 0.55
        beta = (RAYLEIGH / 8000 + self.air.haze / 4500) * 0.55
        out = np.empty((height, width, COUNT), np.float32)
        clear = self.air.clear(rays)
        for b in range(COUNT):
            left = np.exp(-far * beta[b])
            cloud = sunlit * self.air.sunlight[b] + skylit * zenith[b]
            out[..., b] = cloud * left + clear[..., b] * (opaque * (1 - left) + passed)
        return out
