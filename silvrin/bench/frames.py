"""Preview frames against the encoding of the frame, and against the plain way to compute one."""

from collections.abc import Callable
from dataclasses import replace

import cv2
import numpy as np
import simplejpeg
from numpy.typing import NDArray

from .. import shelf
from ..core.development.negative import Developing
from ..core.light.conversion import Conversion
from ..core.light.laying import even_bands
from ..core.mount.sharpening import sharpened
from ..core.picture import LinearPicture, View
from ..core.plate import Grid, Plate
from ..core.recipe import (
    DevelopmentSettings,
    LightSettings,
    LocalContrast,
    MountSettings,
    PaperSettings,
    Recipe,
)
from ..core.recipe.drawings import Drawings
from ..core.render import Darkroom, Sitting, StationCache, code
from ..core.tables import through
from ..demo_job import demo_capture
from ..files.capture import read_capture
from .map import a_worked_map
from .row import Row, in_turn

WIDTH, HEIGHT = 1600, 1067
FRAME = f"{WIDTH} x {HEIGHT}"


def _picture() -> LinearPicture:
    """A demo capture at the size of the frame."""
    developed = read_capture(demo_capture("bottle kiln"))
    light = cv2.resize(developed.light, (WIDTH, HEIGHT), interpolation=cv2.INTER_AREA)
    picture = LinearPicture.with_pyramid(np.asarray(light, np.uint16), developed.scale)
    picture.limits = developed.limits
    return picture


def preview() -> list[Row]:
    """A whole new frame, and one after a change at the Paper station."""
    picture = _picture()
    view = View(0, 0, WIDTH, HEIGHT, WIDTH, HEIGHT)
    darkroom = Darkroom(StationCache(limit=256 << 20))
    temperature, grade = iter(range(3000, 12000)), iter(np.linspace(0, 5, 1000))

    scale = LocalContrast(strength=0.5)
    local = DevelopmentSettings(fine=scale, mid_scale=scale, broad=scale)

    def whole(development: DevelopmentSettings = DevelopmentSettings()) -> object:
        light = LightSettings(temperature=next(temperature), lens_filter="15")
        recipe = Recipe(light=light, development=development)
        return darkroom.view(Sitting("bench", picture, shelf.light_path(recipe)), view)

    def paper() -> object:
        recipe = Recipe(paper=PaperSettings(grade=float(next(grade))))
        return darkroom.view(Sitting("bench", picture, shelf.light_path(recipe)), view)

    drawings, anew = a_worked_map(WIDTH, HEIGHT)
    seconds = iter(np.linspace(0.1, 1.0, 1000))

    # each with a room of its own: none puts out what another has kept
    kept, drawing = (Darkroom(StationCache(limit=512 << 20)) for _ in range(2))

    def under(room: Darkroom, drawn: Drawings, temperature: float) -> object:
        light = LightSettings(temperature=temperature, lens_filter="15")
        path = shelf.light_path(Recipe(light=light), drawn)
        return room.view(Sitting("bench", picture, path), view)

    def worked() -> object:
        return under(kept, drawings, next(temperature))

    def drawn_anew() -> object:
        return under(drawing, anew(), next(temperature))

    def one_pass() -> object:
        first = drawings.passes[0].model_copy(update={"stops": float(next(seconds))})
        return under(kept, replace(drawings, passes=(first, *drawings.passes[1:])), 5000)

    bands = tuple(b.model_copy(update={"stops": 0.5}) for b in even_bands(8))
    shifts = iter(np.linspace(1.0, 180.0, 1000))

    def table() -> object:
        settings = LightSettings(
            temperature=next(temperature), hue_bands=bands, hue_shift=float(next(shifts))
        )
        return shelf.light_path(Recipe(light=settings))[Conversion].table

    colour = darkroom.colour(Sitting("bench", picture, shelf.light_path(Recipe())), view)
    whole_s, local_s, paper_s, worked_s, drawn_s, pass_s, table_s, encode_s = in_turn(
        whole,
        lambda: whole(local),
        paper,
        worked,
        drawn_anew,
        one_pass,
        table,
        lambda: simplejpeg.encode_jpeg(colour, 85, "RGB", "444"),
    )
    baseline = f"libjpeg-turbo of that frame, quality 85, 4:4:4: {encode_s * 1e3:.1f} ms"
    return [
        Row(f"new frame {FRAME}, capture cached", whole_s / encode_s, "ratio", 3.0, baseline),
        Row(
            "the same with three scales of local contrast",
            local_s / encode_s,
            "ratio",
            2.8,
            baseline,
        ),
        Row(f"frame {FRAME}, Paper changed", paper_s / encode_s, "ratio", 1.0, baseline),
        Row("new frame under 24 passes, areas drawn", worked_s / encode_s, "ratio", 3.5, baseline),
        Row("the same, all areas drawn anew", drawn_s / encode_s, "ratio", 15.0, baseline),
        Row("the same, seconds of one pass changed", pass_s / encode_s, "ratio", 1.2, baseline),
        Row("chromaticity table with hue bands and shift", table_s * 1e3, "ms", 5.0),
        Row(f"new frame {FRAME}, capture cached", whole_s * 1e3, "ms"),
        Row(f"frame {FRAME}, Paper changed", paper_s * 1e3, "ms"),
    ]


def toned() -> list[Row]:
    """A frame after a change of the Toner, and one that is sharpened, beside its encoding."""
    picture = _picture()
    view = View(0, 0, WIDTH, HEIGHT, WIDTH, HEIGHT)
    room = Darkroom(StationCache(limit=256 << 20))
    share = iter(np.linspace(0.05, 0.95, 4000))

    def frame(**settings: object) -> object:
        recipe = Recipe.model_validate({"look": settings})
        return room.view(Sitting("bench", picture, shelf.light_path(recipe)), view)

    def bath() -> object:
        baths = [{"kind": "sepia", "time": float(next(share))}, {"kind": "selenium"}]
        return frame(toner={"baths": baths})

    def stop() -> object:
        stops = [{"place": 0, "colour": "#000000"},
                 {"place": round(1 + 50 * float(next(share)), 2), "colour": "#451f01"},
                 {"place": 85, "colour": "#fff4e6"}]  # fmt: skip
        return frame(toner={"stops": stops})

    def wash() -> object:
        return frame(toner={"light_wash": float(next(share)), "shadow_wash": 0.3})

    def by_place() -> object:
        return frame(toner={"baths": [{"kind": "sepia"}], "capture_colour": float(next(share))})

    def untoned() -> object:
        return frame(paper={"grade": round(5 * float(next(share)), 3)})

    sharp = MountSettings(sharpen=1.0, size=100)
    grey = room.view(Sitting("bench", picture, shelf.light_path(Recipe())), view)
    rgb = np.repeat(grey[..., None], 3, axis=2)
    bath_s, stop_s, wash_s, place_s, untoned_s, sharp_s, sharp_rgb_s, encode_s = in_turn(
        bath, stop, wash, by_place, untoned,
        lambda: sharpened(grey, sharp, 2.0),
        lambda: sharpened(rgb, sharp, 2.0),
        lambda: simplejpeg.encode_jpeg(rgb, 85, "RGB", "444"),
    )  # fmt: skip
    baseline = f"libjpeg-turbo of that frame, quality 85, 4:4:4: {encode_s * 1e3:.1f} ms"
    return [
        Row(f"frame {FRAME}, a bath changed", bath_s / encode_s, "ratio", 1.3, baseline),
        Row("the same, a tonal stop changed", stop_s / encode_s, "ratio", 1.3, baseline),
        Row("the same, a wash changed", wash_s / encode_s, "ratio", 1.3, baseline),
        Row("the same, capture's colour changed", place_s / encode_s, "ratio", 6.0, baseline),
        Row("the same untoned, grade changed", untoned_s / encode_s, "ratio", 1.0, baseline),
        Row("presentation sharpening of it, grey", sharp_s / encode_s, "ratio", 0.5, baseline),
        Row("the same in colour", sharp_rgb_s / encode_s, "ratio", 0.5, baseline),
    ]


def plain_chain() -> list[Row]:
    """The light path with a blur and noise on the negative, beside a plain chain of the same form
    (fixed channel mix, curve, Gaussian blur, noise, second curve, 8 bit) in two libraries."""
    picture = _picture()
    light, path, sigma = picture.levels[0], shelf.light_path(Recipe()), 2.0
    noise = np.random.default_rng(1).normal(0, 0.02, (HEIGHT, WIDTH)).astype(np.float32)
    mix = np.array([0.25, 0.6, 0.15]) * picture.scale

    steps = np.linspace(0.0, 4.0, 4096)
    film = path[Developing].negative.density(np.log10(np.maximum(steps, 1e-5) / 0.18))
    paper = path.print_even(steps)
    grid = Grid.of(picture.whole(WIDTH), picture)

    def ours() -> NDArray[np.uint8]:
        exposure = path[Conversion].expose(code(light, picture.scale))
        negative = through(exposure, path[Developing].curve)
        negative = np.asarray(cv2.GaussianBlur(negative, (0, 0), sigma), np.float32)
        cv2.add(negative, noise, negative)
        return np.asarray(path.print_out(Plate(negative, grid)), np.uint8)

    def plain_numpy() -> NDArray[np.uint8]:
        negative = np.interp(light @ mix, steps, film)
        half = int(np.ceil(3 * sigma))
        weights = np.exp(-0.5 * (np.arange(-half, half + 1) / sigma) ** 2)
        weights /= weights.sum()
        padded = np.pad(negative, half, mode="edge")
        rows = sum(w * padded[i : i + HEIGHT] for i, w in enumerate(weights))
        soft = sum(w * rows[:, i : i + WIDTH] for i, w in enumerate(weights))
        return np.asarray(np.rint(np.interp(soft + noise, steps, paper)), np.uint8)

    works: list[tuple[str, Callable[[], object]]] = [("plain NumPy", plain_numpy)]
    try:
        import pyvips
    except ImportError:
        pass
    else:
        source = pyvips.Image.new_from_memory(light.tobytes(), WIDTH, HEIGHT, 3, "ushort")
        grain = pyvips.Image.new_from_memory(noise.tobytes(), WIDTH, HEIGHT, 1, "float")
        film_table = pyvips.Image.new_from_array([film.tolist()])
        paper_table = pyvips.Image.new_from_array([paper.tolist()])
        to_step = 4095 / 4.0

        def with_vips() -> bytes:
            grey = source.recomb([[float(v) * to_step for v in mix]])
            negative = grey.cast("ushort").maplut(film_table)
            grained = negative.gaussblur(sigma, precision="approximate") + grain
            out = (grained * to_step).cast("ushort").maplut(paper_table)
            return bytes(out.rint().cast("uchar").write_to_memory())

        works.append(("pyvips", with_vips))
    mine, *others = in_turn(ours, *(work for _, work in works), rounds=7)
    return [
        Row(
            "light path, blur and noise, beside a plain chain",
            mine / seconds,
            "ratio",
            1.0,
            f"the plain chain in {name}: {seconds * 1e3:.0f} ms",
        )
        for (name, _), seconds in zip(works, others, strict=True)
    ]
