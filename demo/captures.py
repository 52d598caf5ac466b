"""Makes the demo captures: `python -m demo.captures FOLDER [NAME …]`.

FOLDER holds the scenes that `demo.scenes` rendered. The captures go to `demo/captures`, a folder a
roll; a small cube of each scene to `demo/truth`, by which `demo.accuracy` judges; and what is known
of geometry and dust to `demo/truth/known.json`.
"""

import argparse
import json
from dataclasses import asdict, dataclass, replace
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import cv2
import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image, ImageCms

from silvrin.core.colour import encode_srgb
from silvrin.core.spectra.grid import WAVELENGTHS
from silvrin.files.capture import read_capture

from .camera import (
    CONVERTED,
    MODEL,
    Lens,
    Light,
    Shot,
    Speck,
    expose,
    neutral_of,
    write_dng,
    write_exif,
)
from .target import target_scene

HERE = Path(__file__).parent
CAPTURES, TRUTH = HERE / "captures", HERE / "truth"
SIZE, TRUTH_SIZE = (2400, 1600), (300, 200)
SPRING, MIDSUMMER, AUTUMN = "1 Workshop in April", "2 Yard in June", "3 Clay pond in September"
NORMAL, WIDE, LONG = "35 mm f/2", "24 mm f/2.8", "85 mm f/1.8"
SRGB = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
BT2020_TO_SRGB = np.array(
    [[1.6605, -0.5876, -0.0728], [-0.1246, 1.1329, -0.0083], [-0.0182, -0.1006, 1.1187]]
)

# On the sensor that day in June, in every frame of it. One speck lies beside the chimney's edge in "evening", the rest anywhere
DUST = (
    Speck(1597.0, 322.0, 7.0, 0.30), Speck(402.0, 148.0, 9.0, 0.22), Speck(911.0, 214.0, 5.5, 0.34),
    Speck(2105.0, 96.0, 11.0, 0.18), Speck(1988.0, 351.0, 6.0, 0.28), Speck(1204.0, 61.0, 7.5, 0.24),
    Speck(655.0, 402.0, 8.0, 0.20), Speck(2268.0, 611.0, 6.5, 0.30), Speck(140.0, 905.0, 9.5, 0.22),
    Speck(1733.0, 1280.0, 8.0, 0.25), Speck(820.0, 1402.0, 10.0, 0.20), Speck(1120.0, 980.0, 6.0, 0.28),
)  # fmt: skip
CHIMNEY_LENS = Lens(barrel=0.042, red=1.0011, blue=0.9990)


@dataclass(frozen=True)
class Move:
    """How the camera was held: shifted in pixels of the picture, turned in degrees."""

    x: float = 0.0
    y: float = 0.0
    turn: float = 0.0


@dataclass(frozen=True)
class Take:
    """One capture: its file, what was before the lens, how it was taken."""

    roll: str
    file: str  # its ending says what kind
    scene: str
    stops: float  # above a meter reading of a perfect white in the scene's main light
    shot: Shot
    upright: bool = False
    converted: bool = False
    lens: Lens | None = None
    move: Move | None = None
    dust: bool = False
    long_side: int = SIZE[0]

    @property
    def path(self) -> Path:
        """Where the capture lies."""
        return CAPTURES / self.roll / self.file

    @property
    def name(self) -> str:
        """Of its truth and its row in reports."""
        return Path(self.file).stem


def _shot(taken: str, shutter: str, aperture: float, iso: int, lens: str, seed: int) -> Shot:
    return Shot(taken, Fraction(shutter), aperture, iso, lens, float(lens.split()[0]), seed)


HEAD = _shot("2026:04:11 15:20:00", "1/250", 1.8, 100, LONG, 20)
LOFT = _shot("2026:06:20 16:05:10", "1/16", 8.0, 100, WIDE, 30)
TAKES = (
    Take(SPRING, "01 glaze shelf.dng", "shelf", 2.2, _shot("2026:04:11 10:42:10", "1/125", 8, 100, NORMAL, 11)),
    Take(SPRING, "02 wheel.dng", "wheel", 1.6, _shot("2026:04:11 11:15:31", "1/30", 5.6, 200, NORMAL, 12)),
    Take(SPRING, "03 terracotta head, eye.dng", "head_eye", 1.7, HEAD, upright=True),
    Take(SPRING, "04 terracotta head, ear.dng", "head_ear", 1.7, replace(HEAD, taken="2026:04:11 15:20:14", seed=21), upright=True),
    Take(SPRING, "05 terracotta head, wall.dng", "head_wall", 1.7, replace(HEAD, taken="2026:04:11 15:20:31", seed=22), upright=True),
    Take(SPRING, "06 pale plate.tif", "plate", 2.15, _shot("2026:04:11 16:48:02", "1/60", 8, 100, NORMAL, 13), long_side=1800),
    Take(SPRING, "07 black raku.jpg", "raku", 2.0, _shot("2026:04:11 17:30:45", "1/30", 5.6, 400, NORMAL, 14)),
    Take(MIDSUMMER, "08 bottle kiln.dng", "yard", 2.1, _shot("2026:06:20 12:20:45", "1/250", 8, 100, WIDE, 15), dust=True),
    Take(MIDSUMMER, "09 kiln chimney.dng", "chimney", 2.0, _shot("2026:06:20 12:31:12", "1/250", 8, 100, WIDE, 16), upright=True, lens=CHIMNEY_LENS, dust=True),
    Take(MIDSUMMER, "10 drying loft, dark.dng", "loft", 2.5, replace(LOFT, shutter=Fraction(1, 64), bias=-2.0), move=Move(3.4, -2.1, 0.05), dust=True),
    Take(MIDSUMMER, "11 drying loft.dng", "loft", 4.5, replace(LOFT, taken="2026:06:20 16:05:11", seed=31), move=Move(), dust=True),
    Take(MIDSUMMER, "12 drying loft, light.dng", "loft_moved", 6.5, replace(LOFT, taken="2026:06:20 16:05:13", seed=32, shutter=Fraction(1, 4), bias=2.0), move=Move(-2.7, 4.3, -0.08), dust=True),
    Take(MIDSUMMER, "13 kiln in the last sun.dng", "evening", 2.4, _shot("2026:06:20 20:58:02", "1/30", 16, 200, WIDE, 17), dust=True),
    Take(AUTUMN, "14 clay pond.dng", "pond", 1.9, _shot("2026:09:12 10:30:00", "1/250", 8, 100, NORMAL, 18)),
    Take(AUTUMN, "15 clay pond, infrared.dng", "pond", 0.6, _shot("2026:09:12 10:41:20", "1/125", 8, 200, NORMAL, 19), converted=True),
    Take(AUTUMN, "16 bottle kiln, infrared.dng", "yard", 0.6, _shot("2026:09:12 12:02:33", "1/125", 8, 200, WIDE, 23), converted=True),
    Take(AUTUMN, "17 target.dng", "target", 0.0, _shot("2026:09:12 15:02:40", "1/60", 8, 100, LONG, 24)),
)  # fmt: skip
# One of each scene in light that is seen: by them the finding of film exposure is judged
JUDGED = tuple(
    take
    for take in TAKES
    if not take.converted and not take.file.startswith(("04", "05", "10", "12"))
)


@dataclass(frozen=True)
class Scene:
    """Spectral radiance by band, and that of a perfect white in the main light."""

    cube: NDArray[np.floating]  # (H, W, B)
    white: NDArray[np.float64]  # (B,)
    bands: NDArray[np.float64]  # nm


def to_grid(bands: NDArray[np.float64]) -> NDArray[np.float64]:
    """(53, B): linear interpolation from the bands to the wavelength grid, ends held."""
    return np.stack([np.interp(WAVELENGTHS, bands, row) for row in np.eye(len(bands))], axis=1)


def framed(take: Take, planes: Light, channel: int | None = None) -> Light:
    """What of a scene (H, W, C) falls on the sensor: as held, as the lens draws it. All planes are
    drawn as `channel` is, or red, green and blue each by itself."""
    height, width = planes.shape[:2]
    size = SIZE[::-1] if take.upright else SIZE
    if take.lens is not None:
        channels = range(3) if channel is None else [channel] * planes.shape[2]
        drawn = [
            cv2.remap(
                np.ascontiguousarray(planes[..., plane]),
                take.lens.origins(size, (width, height), c),
                None,
                cv2.INTER_LANCZOS4,
                borderMode=cv2.BORDER_REPLICATE,
            )
            for plane, c in enumerate(channels)
        ]
        return np.stack(drawn, axis=-1)
    if take.move is not None:
        to = cv2.getRotationMatrix2D(((width - 1) / 2, (height - 1) / 2), -take.move.turn, 1.0)
        to[:, 2] += (size[0] - width) / 2 + take.move.x, (size[1] - height) / 2 + take.move.y
        drawn = [
            cv2.warpAffine(
                np.ascontiguousarray(planes[..., plane]), to, size, flags=cv2.INTER_LANCZOS4
            )
            for plane in range(planes.shape[2])
        ]
        return np.stack(drawn, axis=-1)
    return planes


def shoot(take: Take, scene: Scene) -> None:
    """A scene through the camera into a file."""
    grid = to_grid(scene.bands)
    neutral = neutral_of(scene.white, grid)
    rgb = framed(
        take, expose(scene.cube, scene.white, grid, take.converted) * np.float32(2.0**take.stops)
    )
    if take.upright:
        rgb = np.rot90(rgb)
    if take.dust:
        for speck in DUST:
            rgb *= speck.shadow(rgb.shape[:2], take.shot.aperture)[..., None]
    rgb = np.ascontiguousarray(np.maximum(rgb, 0.0))
    take.path.parent.mkdir(parents=True, exist_ok=True)
    model = CONVERTED if take.converted else MODEL
    if take.path.suffix == ".dng":
        write_dng(take.path, rgb, neutral, take.shot, take.upright, model)
    else:
        with TemporaryDirectory() as folder:
            raw = Path(folder) / "raw.dng"
            write_dng(raw, rgb, neutral, take.shot)
            _finished(take, raw)
    print(take.file, take.path.stat().st_size >> 10, "KiB", flush=True)


def _finished(take: Take, raw: Path) -> None:
    """A 16-bit TIFF or a JPEG in sRGB, as a camera or a friend hands it on."""
    developed = read_capture(raw)
    linear = developed.light.astype(np.float32) * developed.scale
    if take.long_side < SIZE[0]:
        scale = take.long_side / SIZE[0]
        linear = cv2.resize(linear, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    shown = encode_srgb(np.clip(linear @ BT2020_TO_SRGB.T, 0.0, 1.0))
    if take.path.suffix == ".jpg":
        eight = np.rint(shown * 255).astype(np.uint8)
        Image.fromarray(eight).save(take.path, "JPEG", quality=93, icc_profile=SRGB)
    else:
        _write_tiff(take.path, np.rint(shown * 65535).astype(np.uint16))
    write_exif(take.path, take.shot)


def _write_tiff(path: Path, numbers: NDArray[np.uint16]) -> None:
    tifffile.imwrite(
        path,
        numbers,
        photometric="rgb",
        compression="adobe_deflate",
        compressionargs={"level": 9},
        predictor=True,
        iccprofile=SRGB,
        software=None,
        metadata=None,
    )


def keep_truth(take: Take, scene: Scene) -> None:
    """The scene as framed at a small size, each pixel the mean radiance of its area."""
    size = TRUTH_SIZE[::-1] if take.upright else TRUTH_SIZE
    bands = [
        cv2.resize(
            framed(take, scene.cube[..., b : b + 1].astype(np.float32), 1), size,
            interpolation=cv2.INTER_AREA,
        )
        for b in range(len(scene.bands))
    ]  # fmt: skip
    cube = (np.stack(bands, axis=-1) / scene.white).astype(np.float16)
    np.savez_compressed(
        TRUTH / f"{take.name}.npz",
        cube=cube,
        white=scene.white,
        bands=scene.bands,
        stops=take.stops,
    )


def write_known() -> None:
    """What was done to the captures, for those who undo it."""
    moved = {take.file: asdict(take.move) for take in TAKES if take.move is not None}
    bent = {take.file: asdict(take.lens) for take in TAKES if take.lens is not None}
    known = {
        "moves": {"unit": "x, y in pixels right and down, turn in degrees clockwise, of the picture", **moved},
        "lenses": {"model": "ideal r = r (1 + barrel r²), r = 1 at half the diagonal; red, blue: magnification of where their light comes from", **bent},
        "dust": {
            "unit": "sensor pixels at f/16; radius grows with 16 / f-number, depth falls with its square",
            "files": [take.file for take in TAKES if take.dust],
            "specks": [asdict(speck) for speck in DUST],
        },
    }  # fmt: skip
    (TRUTH / "known.json").write_text(
        json.dumps(known, indent=1, ensure_ascii=False) + "\n", encoding="utf-8"
    )


def main() -> None:
    """Write every demo capture and truth, or those of the scenes named."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("folder", type=Path)
    read.add_argument("scenes", nargs="*")
    given = read.parse_args()
    TRUTH.mkdir(exist_ok=True)
    for take in TAKES:
        if given.scenes and take.scene not in given.scenes:
            continue
        if take.scene == "target":
            scene = Scene(*target_scene())
        else:
            data = np.load(given.folder / f"{take.scene}.npz")
            scene = Scene(data["cube"], data["white"].astype(np.float64), data["bands"])
        shoot(take, scene)
        if take in JUDGED:
            keep_truth(take, scene)
    write_known()


if __name__ == "__main__":
    main()
