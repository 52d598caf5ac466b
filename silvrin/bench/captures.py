"""Taking captures in and opening them: beside decoding them, in files of 24 megapixels."""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import cv2
import numpy as np
import rawpy
import simplejpeg

from .. import shelf
from ..core.capture.brackets import BracketFrame, merge
from ..core.picture import LinearPicture
from ..core.places import picture_places
from ..core.recipe import CaptureSettings, Recipe
from ..core.render import Darkroom, Sitting
from ..demo_job import demo_capture
from ..files.capture import read_capture
from ..files.raw import decode_raw, demosaic
from ..store import rolls
from ..store.library import Library
from .delivery import write_raw
from .row import Row, in_turn

MEGAPIXELS, SIZE = 24, (6000, 4000)
WINDOW = 976  # pixels of the picture on a screen of 1280 x 800


def camera_jpeg(width: int) -> bytes:
    """A JPEG of that width, three to two, as a camera writes it."""
    developed = read_capture(demo_capture("bottle kiln"))
    picture = LinearPicture([developed.light], developed.scale)
    colour = Darkroom().colour(
        Sitting("bench", picture, shelf.light_path(Recipe())), picture.whole(2400)
    )
    height = width * 2 // 3
    large = cv2.resize(colour, (width, height), interpolation=cv2.INTER_CUBIC)
    rng = np.random.default_rng(1)
    grain = rng.integers(-3, 4, (height, width, 1), dtype=np.int16)
    noisy = np.clip(large.astype(np.int16) + grain, 0, 255).astype(np.uint8)
    return bytes(simplejpeg.encode_jpeg(noisy, 92, "RGB", "422"))


@contextmanager
def _library() -> Iterator[tuple[Library, Path, int]]:
    with tempfile.TemporaryDirectory() as folder:
        library = Library(Path(folder) / "home")
        with library.database.write() as connection:
            roll = rolls.add_roll(connection, "Bench")
        yield library, Path(folder), roll
        library.pictures.settle()


def taking_in() -> list[Row]:
    """A JPEG taken in: copied, hashed, looked over, its thumbnail made."""
    data = camera_jpeg(SIZE[0])
    with _library() as (library, folder, roll):
        files = []
        for number in range(12):
            path = folder / f"{number}.jpg"
            path.write_bytes(data + bytes([number]))  # another file each time
            files.append(path)
        left = iter(files)
        ours, decoding = in_turn(
            lambda: library.take_in_file(next(left), roll),
            lambda: simplejpeg.decode_jpeg(data, "RGB"),
            rounds=7,
        )
    baseline = f"libjpeg-turbo's decoding: {decoding * 1e3:.0f} ms"
    return [Row(f"{MEGAPIXELS}-megapixel JPEG taken in", ours / decoding, "ratio", 1.5, baseline)]


def first_picture() -> list[Row]:
    """A raw opened for the first time: from its file to the first print of its own light."""
    with _library() as (library, folder, roll):
        path = folder / "a.dng"
        write_raw(path, MEGAPIXELS)
        frame = library.take_in_file(path, roll).frame
        sha256 = rolls.frame(library.database.read, frame).sha256
        prescribed = shelf.light_path(Recipe())

        def half() -> object:
            with rawpy.imread(str(path)) as raw:
                return demosaic(raw, True, (1.0, 1.0, 1.0))

        def ours() -> object:
            picture = library.rough(sha256)
            assert picture is not None
            view = picture.whole(WINDOW)
            return Darkroom().view(Sitting("bench", picture, prescribed), view)

        rough, decoding = in_turn(ours, half, rounds=11)
    baseline = f"LibRaw's decoding at half size: {decoding * 1e3:.0f} ms"
    name = f"{MEGAPIXELS}-megapixel raw, first print in the window"
    return [Row(name, rough / decoding, "ratio", 1.3, baseline)]


def merging() -> list[Row]:
    """A bracket of three aligned and merged, beside reading its files."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "a.dng"
        write_raw(path, MEGAPIXELS)
        light = decode_raw(path).light
        bracket = [
            BracketFrame(
                np.clip(light.astype(np.float32) * exposure, 0, 65535).astype(np.uint16),
                1 / 65535, exposure,
            )
            for exposure in (0.25, 1.0, 4.0)
        ]  # fmt: skip
        ours, reading = in_turn(
            lambda: merge(bracket, 1), lambda: [read_capture(path) for _ in bracket], rounds=1
        )
    baseline = f"reading the three raws: {reading:.1f} s"
    return [
        Row(
            f"three frames of {MEGAPIXELS} megapixels merged",
            ours / reading,
            "ratio",
            4.0,
            baseline,
        )
    ]


def geometry() -> list[Row]:
    """A whole picture straightened, freed of converging lines and distortion."""
    light = np.random.default_rng(2).integers(0, 60000, (SIZE[1], SIZE[0], 3), np.uint16)
    capture = LinearPicture([light], 1 / 65535)
    settings = CaptureSettings(straighten=1.5, keystone_vertical=0.1, distortion=0.02)
    sitting = Sitting("bench", capture, shelf.light_path(Recipe(capture=settings)))
    picture = sitting.picture
    whole = picture.whole(max(SIZE))
    y, x = np.mgrid[0 : whole.height, 0 : whole.width]
    places = sitting.geometry.picture_to_capture(
        picture_places(zip(x.ravel().tolist(), y.ravel().tolist(), strict=True))
    )
    maps = (places - 0.5).reshape(whole.height, whole.width, 2).astype(np.float32)
    across, down = np.ascontiguousarray(maps[..., 0]), np.ascontiguousarray(maps[..., 1])
    ours, once = in_turn(
        lambda: picture.cut(whole),
        lambda: cv2.remap(light, across, down, cv2.INTER_LANCZOS4),
        rounds=5,
    )
    baseline = f"one remap by OpenCV (Lanczos), its maps at hand: {once:.2f} s"
    return [Row(f"geometry of {MEGAPIXELS} megapixels", ours / once, "ratio", 1.5, baseline)]
