"""Rendering of a stage into bands, and the lens that is put on afterwards."""

import time
from dataclasses import dataclass
from pathlib import Path

import mitsuba as mi
import mitsuba_oidn as oidn
import numpy as np
from numpy.typing import NDArray

from .spectra import COUNT, PASSES, Spectrum
from .stage import Stage


@dataclass(frozen=True)
class Job:
    """How a scene is wanted."""

    size: tuple[int, int]  # width, height
    samples: int  # a pixel
    quick: bool  # one pass only
    folder: Path  # where finished scenes lie


WAVEFRONT = 12_000_000  # rays at a time, by memory


@dataclass
class Rendered:
    """What came out of a stage."""

    cube: NDArray[np.float32]  # (H, W, bands) radiance
    depth: NDArray[np.float32]  # (H, W) distance
    cover: NDArray[np.float32]  # (H, W) 0 where nothing stands before the sky
    white: Spectrum  # what a perfect white reads in the main light


def denoised(image: NDArray, albedo: NDArray, normal: NDArray) -> NDArray:
    """Open Image Denoise with its guides."""
    return np.array(
        oidn.denoise(np.ascontiguousarray(image), albedo=albedo, normal=normal, hdr=True)
    )


def render(
    stage: Stage,
    white: Spectrum,
    job: Job,
    transparent: bool = False,
    bounces: int = 7,
) -> Rendered:
    """All passes, or when quick only one of them, in every band."""
    scene = stage.load()
    film = scene.sensors()[0].film().crop_size()
    width, height = int(film[0]), int(film[1])
    chunk = max(1, min(job.samples, WAVEFRONT // (width * height)))
    chunks = max(1, round(job.samples / chunk))
    integrator = mi.load_dict(
        {"type": "path", "max_depth": bounces, "rr_depth": 5, "hide_emitters": transparent}
    )
    guides = mi.load_dict({"type": "aov", "aovs": "alb:albedo,nn:sh_normal,dd:depth"})

    stage.show(PASSES[0])
    guide = sum(
        np.array(mi.render(scene, integrator=guides, spp=chunk, seed=900 + i))
        for i in range(max(1, 16 // chunk))
    ) / max(1, 16 // chunk)
    albedo = np.ascontiguousarray(np.clip(guide[..., -7:-4], 0.0, 1.0), dtype=np.float32)
    normal = np.ascontiguousarray(guide[..., -4:-1], dtype=np.float32)

    cube = np.zeros((height, width, COUNT), np.float32)
    cover = np.ones((height, width), np.float32)
    for n, bands in enumerate(PASSES[1:2] if job.quick else PASSES):
        began = time.monotonic()
        stage.show(bands)
        image = (
            sum(
                np.array(mi.render(scene, integrator=integrator, spp=chunk, seed=i))
                for i in range(chunks)
            )
            / chunks
        )
        if image.shape[2] == 4:
            cover = np.clip(image[..., 3], 0.0, 1.0)
        clean = denoised(image[..., :3], albedo, normal)
        if job.quick:
            cube[:] = np.repeat(clean, COUNT // 3, axis=2)
        else:
            cube[..., bands] = clean
        print(f"  pass {n + 1}: {time.monotonic() - began:.0f} s", flush=True)
    return Rendered(np.maximum(cube, 0.0), guide[..., -1], cover, white)
