"""The light path as a row of stations: what they declare is what they read, and a change of any
field is seen."""

import types
import unittest
from typing import Any, ClassVar, Literal, Union, get_args, get_origin

import cv2
import numpy as np
from pydantic.fields import FieldInfo

from silvrin import shelf
from silvrin.core.colour import decode_srgb, encode_srgb
from silvrin.core.development.negative import Developing, Negative
from silvrin.core.enlarger.shapes import HueLimit, ZoneLimit
from silvrin.core.enlarger.test_strip import TestStrip
from silvrin.core.film.exposure import Exposure
from silvrin.core.light.conversion import Conversion
from silvrin.core.light.laying import even_bands
from silvrin.core.light_path import TONES, LightPath, forget_stations
from silvrin.core.picture import LinearPicture, View
from silvrin.core.places import PicturePixel
from silvrin.core.plate import Plate
from silvrin.core.recipe import (
    Bath,
    CaptureSettings,
    Card,
    ColourBand,
    DevelopmentSettings,
    Disc,
    FilmSettings,
    LensProfile,
    LightSettings,
    LocalContrast,
    Mend,
    MeteredSpot,
    MountSettings,
    Outline,
    PaperSettings,
    Pass,
    Recipe,
    TonalStop,
    TonerSettings,
)
from silvrin.core.recipe.drawings import Sheets
from silvrin.core.render import (
    Darkroom,
    Sitting,
    clipped_parts,
    grey_of,
    held_zones,
    hex_tones,
    print_strip,
    proof,
    strips,
    zone_plate,
)
from silvrin.core.settings import Settings
from silvrin.core.station import Station, ToneStation, Undeclared
from silvrin.core.stations import SETTINGS
from tests.sittings import plate
from tests.worked import worked_path

SHEETS = Sheets()
MENDS = SHEETS.mends([Mend(x=60, y=50, radius=5)])
OTHER_MENDS = SHEETS.mends([Mend(x=60, y=50, radius=5), Mend(x=150, y=90, radius=9)])
PROTECTED = SHEETS.outlines([Outline(points=((55, 45), (70, 45), (70, 60)))])
LENS = LensProfile(name="invented", fall_off=tuple(0.001 * i * i for i in range(25)))
LOCAL = LocalContrast(strength=0.6, shadows=0.5)

# Under these every field of its station does something
BEGIN = Recipe(
    capture=CaptureSettings(mends=MENDS, luminance_noise=0.3, defringe=0.2),
    light=LightSettings(
        lens_filter="25", second_filter="11", haze=-0.3, soft_focus=0.3, focus_blur=0.8,
        focus_aspect=2,
        hue_bands=tuple(b.model_copy(update={"stops": 0.5}) for b in even_bands(8)),
    ),
    film=FilmSettings(stock="juniper-200", grain=1.5),
    development=DevelopmentSettings(
        fine=LOCAL, mid_scale=LOCAL, broad=LOCAL,
        zone_lift=(0, 0, 0.4, 0.4, 0.2, 0, 0, -0.3, 0, 0, 0),
        zone_contrast=(0, 0, 0.4, 0.4, 0.2, 0, 0, 0.3, 0, 0, 0),
    ),
    paper=PaperSettings(hold_highlights=0.3, hold_shadows=0.3),
)  # fmt: skip
INFRARED = BEGIN.model_copy(
    update={"capture": CaptureSettings(infrared=True, hot_spot=0.7, neutral=(0.5, 0.3, 0.2))}
)
SPLIT = BEGIN.model_copy(update={"paper": PaperSettings(split=True)})
ANY_HUE = BEGIN.model_copy(
    update={"light": BEGIN.light.model_copy(update={"lens_filter": "any-hue"})}
)
SHARPENED = BEGIN.model_copy(update={"mount": MountSettings(sharpen=1.0, sharpen_radius=1.0)})
TONED = BEGIN.model_copy(
    update={"toner": TonerSettings(baths=(Bath(kind="sepia"),), shadow_wash=0.5, light_wash=0.5)}
)
# Where a field needs other settings to do something
NEEDS = {
    **{f"capture.{n}": INFRARED for n in ("neutral", "red", "green", "blue", "hot_spot",
                                          "hot_spot_size")},
    **{f"enlarger.{n}": SPLIT for n in ("soft_time", "hard_time")},
    "light.filter_hue": ANY_HUE,
    **{f"toner.{n}": TONED for n in ("shadow_hue", "light_hue", "wash_meets", "warmth_out")},
    **{f"mount.{n}": SHARPENED for n in MountSettings.model_fields},
}  # fmt: skip
# Values that cannot be told from a field's type
OTHERS: dict[str, Any] = {
    "capture.neutral": (0.2, 0.3, 0.5), "capture.balance": (0.5, 0.3, 0.2),
    "capture.crop": (0.1, 0.2, 0.9, 0.9), "capture.lens": LENS, "capture.mends": OTHER_MENDS,
    "capture.protected": PROTECTED, "light.source": "led-4000", "light.lens_filter": "58",
    "light.second_filter": "15", "film.stock": "rowan-200", "film.exposure_index": 50.0,
    "film.spots": (MeteredSpot(letter="A", x=1, y=1),), "enlarger.time": 5.0,
    "enlarger.passes": SHEETS.passes(
        [Pass(stops=1.0, shapes=(Disc(x=100, y=80, width=60, height=60),))]
    ),
    "toner.paper_tone": 0.6, "paper.paper": None, "paper.curve": ((3.0, 4.0), (8.0, 8.5)),
    "capture.recover_highlights": 0.0,
    "toner.colour_bands": (ColourBand(centre=100, width=180),),
    "toner.baths": (Bath(kind="sepia", time=0.6),),
    "mount.inscriptions": (), "mount.board": "#ffffff", "mount.undermat_colour": "#ffffff",
    "toner.stops": (TonalStop(place=0, colour="#000000"), TonalStop(place=90, colour="#fff4e6")),
}  # fmt: skip
# What is only read, or shown, and changes no pixel
SILENT = {"film.spots"}
SILENT |= {f"mount.{name}" for name in MountSettings.model_fields if "sharpen" not in name}
SILENT.remove("mount.size")  # of which sharpening's radius is a part


def other(field: FieldInfo, value: Any) -> Any:
    """Another value of a field, from its type and range."""
    kind = field.annotation
    if get_origin(kind) in (Union, types.UnionType):
        kind = next(k for k in get_args(kind) if k is not type(None))
    if kind is bool:
        return not value
    if get_origin(kind) is Literal:
        return next(choice for choice in reversed(get_args(kind)) if choice != value)
    if isinstance(value, Settings):
        return value.model_copy(update={"strength": 1.5})
    if isinstance(value, tuple) and value and isinstance(value[0], Settings):
        return (value[0].model_copy(update={"stops": -2.0}), *value[1:])
    if isinstance(value, tuple):
        return (*value[:4], 0.7, *value[5:])
    low, high = (next(getattr(m, n) for m in field.metadata if hasattr(m, n)) for n in ("ge", "le"))
    step = 0.37 * (high - low)
    found = value + step if value + step <= high else value - step
    return round(found) if kind is int else found


class Piece(LinearPicture):
    """A small piece of a large negative, so that its grain is seen."""

    film_side = 6000


def scene(times: int = 1) -> LinearPicture:
    """Colours, edges, noise and a clipped lamp; so many times as large."""
    rng = np.random.default_rng(5)
    coarse = cv2.resize(rng.random((9, 12, 3)), (240, 160), interpolation=cv2.INTER_CUBIC) ** 2
    coarse[60:100, 100:160] = (0.02, 0.05, 0.01)
    coarse[10:30, 20:50] = (0.1, 0.2, 0.6)
    light = np.clip(coarse, 0.002, 1) * 30000 * rng.normal(1.0, 0.05, (160, 240, 3))
    light[120:140, 200:230] = (65535, 40000, 30000)
    light = np.kron(light, np.ones((times, times, 1)))
    picture = Piece.with_pyramid(np.clip(light, 1, 65535).astype(np.uint16), 1 / 40000)
    picture.limits = (65535.0, 42000.0, 31000.0)
    return picture


def path_of(recipe: Recipe, **more: Any) -> LightPath:
    path = shelf.light_path(recipe, SHEETS.of(recipe))
    return LightPath(path.recipe, path.things, path.shelf, **more)


class EveryFieldTest(unittest.TestCase):
    def test_a_change_of_any_field_is_what_a_fresh_computation_gives(self) -> None:
        picture, darkroom = scene(), Darkroom()
        papers = [p.id for p in shelf.papers().values() if p.id != BEGIN.paper.paper]
        lights = list(shelf.shipped().lights)
        others = {**OTHERS, "paper.paper": papers[-1], "light.source": lights[-1]}

        def view(recipe: Recipe, room: Darkroom) -> np.ndarray:
            sitting = Sitting("every field", picture, path_of(recipe))
            seen = room.view(sitting, sitting.picture.whole(200))
            reading = room.readings(sitting)
            return np.concatenate([seen.ravel(), reading.histogram, reading.exposure_histogram])

        changed = 0
        for station, settings in SETTINGS.items():
            for name, field in settings.model_fields.items():
                place = f"{station}.{name}"
                begin = NEEDS.get(place, BEGIN)
                before = view(begin, darkroom)
                value = getattr(getattr(begin, station), name)
                value = others[place] if place in others else other(field, value)
                part = getattr(begin, station).model_copy(update={name: value})
                part = type(part).model_validate(part.model_dump())  # it must hold
                recipe = begin.model_copy(update={station: part})
                after = view(recipe, darkroom)
                forget_stations()
                fresh = view(recipe, Darkroom())
                with self.subTest(place):
                    self.assertTrue(np.array_equal(after, fresh), f"{place} is shown from before")
                    differs = after.shape != before.shape or not np.array_equal(after, before)
                    self.assertEqual(differs, place not in SILENT, f"{place} changes the print")
                changed += 1
        self.assertGreater(changed, 85)

    def test_a_change_of_any_field_of_a_pass_is_what_a_fresh_computation_gives(self) -> None:
        picture, darkroom = scene(4), Darkroom()  # large enough for what acts on pixels
        disc = Disc(x=480, y=320, width=360, height=240)
        begin = Pass(
            stops=0.5, grade=4.0, fine=0.5, mid_scale=0.3, broad=0.3, shadows=0.5, highlights=-0.3,
            haze=0.2, soft_focus=0.3, sharpness=0.5, noise=0.4, soften=0.5,
            zones=ZoneLimit(first=2, last=8), hues=HueLimit(hue=200, width=180), shapes=(disc,),
        )  # fmt: skip
        card = Card(x=0, y=0, to_x=800, to_y=0)
        other_pass = Pass(stops=0.3, grade=4.0, shapes=(card,), group=2)
        others: dict[str, Any] = {
            "grade": 1.0, "zones": ZoneLimit(first=5, last=9), "hues": HueLimit(hue=20, width=90),
            "name": "sky", "group": 2, "shapes": (disc.model_copy(update={"x": 300.0}),),
        }  # fmt: skip

        def view(each: Pass, room: Darkroom) -> np.ndarray:
            path = worked_path(Recipe(film=FilmSettings(grain=0)), each, other_pass)
            sitting = Sitting("every field of a pass", picture, path)
            return room.view(sitting, sitting.picture.whole(960))

        before = view(begin, darkroom)
        for name, field in Pass.model_fields.items():
            value = others[name] if name in others else other(field, getattr(begin, name) or 0.0)
            changed = begin.model_copy(update={name: value})
            changed = Pass.model_validate(changed.model_dump())
            after = view(changed, darkroom)
            with self.subTest(name):
                self.assertTrue(np.array_equal(after, view(changed, Darkroom())))
                self.assertEqual(not np.array_equal(after, before), name != "name")


class DeclaredTest(unittest.TestCase):
    def test_what_is_not_declared_cannot_be_read(self) -> None:
        class Sly(Station):
            reads = ("film.stock",)

        sly = shelf.light_path(Recipe())[Sly]
        self.assertEqual(sly.recipe.film.stock, "larch-100")
        self.assertEqual(sly.things.stock.id, "larch-100")
        for wrong in (
            lambda: sly.recipe.film.grain,
            lambda: sly.recipe.paper.grade,
            lambda: sly.things.paper,
            lambda: sly.of(Conversion),
        ):
            with self.assertRaises(Undeclared):
                wrong()

    def test_of_a_value_only_what_is_declared_is_known(self) -> None:
        class Lifts(Station):
            reads = (("development.zone_lift", any),)

        def lifts(first: float) -> Lifts:
            lift = (first, *[0.0] * 10)
            return shelf.light_path(Recipe(development=DevelopmentSettings(zone_lift=lift)))[Lifts]

        self.assertIs(lifts(0.5), lifts(1.0))
        self.assertIsNot(lifts(0.5), lifts(0.0))
        self.assertIs(lifts(0.5).recipe.development.zone_lift, True)

    def test_recipes_that_agree_share_stations_and_what_they_worked_out(self) -> None:
        plain = shelf.light_path(Recipe())
        graded = shelf.light_path(Recipe(paper=PaperSettings(grade=4)))
        self.assertIs(plain[Negative], graded[Negative])
        self.assertIs(plain[Conversion].table, graded[Conversion].table)
        placed = shelf.light_path(Recipe(film=FilmSettings(placement=1)))
        self.assertIs(plain[Developing], placed[Developing])
        self.assertNotEqual(plain[Exposure].key, placed[Exposure].key)
        self.assertNotEqual(plain[Negative].key, placed[Negative].key)


class Wash(ToneStation):
    """A print washed with colour: red as the print, green and blue held back."""

    def at(self, values: np.ndarray) -> np.ndarray:
        return values[..., None] * np.array([1.0, 0.8, 0.5])


class Inverted(ToneStation):
    """Light to dark."""

    def at(self, values: np.ndarray) -> np.ndarray:
        return 1.0 - values


class Shaded(ToneStation):
    """A stop held back from the paper at the left, nothing at the right."""

    by_place = True
    shade: ClassVar[float] = np.log10(2.0)

    def at(self, values: np.ndarray) -> np.ndarray:
        return values

    def over(self, plate: Plate) -> Plate:
        across, _ = plate.grid.places(*plate.pixels.shape[:2])
        return plate.holding(plate.pixels - np.float32(self.shade) * (1.0 - across))


class PrintsTest(unittest.TestCase):
    def setUp(self) -> None:
        self.picture, self.darkroom = scene(), Darkroom()
        self.recipe = Recipe(film=FilmSettings(grain=0))
        self.plain = path_of(self.recipe)

    def sit(self, path: LightPath) -> Sitting:
        return Sitting("prints", self.picture, path)

    def test_a_station_more_is_a_row_of_its_own(self) -> None:
        inverted = path_of(self.recipe, tones=(*TONES, Inverted))
        density = plate(np.linspace(0.2, 2.0, 400, dtype=np.float32)[None])
        light = decode_srgb(self.plain.print_out(density, 16) / 65535)
        wanted = encode_srgb(1.0 - light) * 65535
        np.testing.assert_allclose(inverted.print_out(density, 16), wanted, atol=40)

    def test_prints_with_colour_go_everywhere(self) -> None:
        washed = path_of(self.recipe, tones=(*TONES, Wash))
        view = self.picture.whole(240)
        grey = self.darkroom.view(self.sit(self.plain), view)
        colour = self.darkroom.view(self.sit(washed), view)
        self.assertEqual(colour.shape, (*grey.shape, 3))
        np.testing.assert_array_equal(colour[..., 0], grey)
        linear = decode_srgb(grey / 255.0)
        for channel, share in enumerate((1.0, 0.8, 0.5)):
            wanted = encode_srgb(linear * share) * 255
            self.assertLess(np.abs(colour[..., channel] - wanted).max(), 1.5)
        # a colour is as light as its luminance: IEC 61966-2-1, CIE 15
        share = 0.2126 + 0.8 * 0.7152 + 0.5 * 0.0722
        wanted = encode_srgb(linear * share) * 255
        self.assertLess(np.abs(grey_of(colour) - wanted).max(), 1.5)
        readings = self.darkroom.readings(self.sit(washed))
        self.assertEqual(sum(readings.histogram), grey.size)
        mean = np.dot(readings.histogram, np.arange(256)) / grey.size
        self.assertAlmostEqual(mean, float(grey_of(colour).mean()), places=6)
        self.assertEqual(readings.paper_white, 0.0)
        exposure = self.darkroom.exposure(self.sit(washed), view).pixels
        zones = self.darkroom.zones(self.sit(washed), view, colour, "scene")
        held = held_zones(colour, zones, 4, 6)
        inside = (exposure >= -1.5) & (exposure < 1.5)
        np.testing.assert_array_equal(held[inside], colour[inside])
        np.testing.assert_array_equal(held[~inside][:, 0], held[~inside][:, 2])
        self.assertEqual(proof(colour, washed).shape, colour.shape)
        np.testing.assert_array_equal(
            proof(np.dstack([grey] * 3), self.plain), proof(grey, self.plain)
        )
        self.assertEqual(clipped_parts(colour).ndim, 2)
        tones = zone_plate(zones, washed, "scene")
        self.assertEqual(tones.shape, colour.shape)
        printed = ["#{:02x}{:02x}{:02x}".format(*each) for each in tones_of(washed)[0]]
        self.assertEqual(hex_tones(washed, "scene"), printed)
        negative = self.darkroom.negative(self.sit(washed), view)
        strip = print_strip(negative, washed, TestStrip(count=3, lie="upright"))
        self.assertEqual(strip.numbers.shape, colour.shape)
        np.testing.assert_array_equal(strip.numbers[:, 85:155], colour[:, 85:155])
        delivered = np.concatenate(list(strips(self.sit(washed), bits=8)))
        np.testing.assert_array_equal(delivered, colour)
        spot = self.darkroom.spot(self.sit(washed), PicturePixel(50, 120), 0)
        self.assertLess(
            spot.number, self.darkroom.spot(self.sit(self.plain), PicturePixel(50, 120), 0).number
        )

    def test_a_print_may_depend_on_place(self) -> None:
        shaded = path_of(self.recipe, tones=(TONES[0], Shaded, *TONES[1:]))
        view = self.picture.whole(240)
        whole = self.darkroom.view(self.sit(shaded), view).astype(int)
        grey = self.darkroom.view(self.sit(self.plain), view).astype(int)
        self.assertTrue((whole >= grey).all())
        np.testing.assert_allclose(whole[:, -2:], grey[:, -2:], atol=1)
        self.assertGreater((whole - grey)[:, :20].mean(), 20)
        # pieces know where they lie
        part = View(100, 40, 80, 60, 80, 60)
        np.testing.assert_array_equal(
            self.darkroom.view(self.sit(shaded), part), whole[40:100, 100:180]
        )
        delivered = np.concatenate(list(strips(self.sit(shaded), bits=8)))
        np.testing.assert_array_equal(delivered, whole)
        negative = self.darkroom.negative(self.sit(shaded), view)
        strip = print_strip(negative, shaded, TestStrip(count=3, lie="upright"))
        np.testing.assert_array_equal(strip.numbers[:, 85:155], whole[:, 85:155])
        # the meter reads the place, and points see the whole print
        left = self.darkroom.spot(self.sit(shaded), PicturePixel(2, 80), 0)
        before = self.darkroom.spot(self.sit(self.plain), PicturePixel(2, 80), 0)
        # the meter reads the light itself, the view what the film resolves
        self.assertAlmostEqual(left.number, whole[80, 2], delta=2)
        self.assertLess(left.density, before.density)
        white, _ = self.darkroom.points(self.sit(shaded), 0.01, 0.01)
        self.assertLess(white, self.darkroom.points(self.sit(self.plain), 0.01, 0.01)[0])
        # an even field prints by the base exposure alone
        self.assertEqual(hex_tones(shaded, "scene"), hex_tones(self.plain, "scene"))


def tones_of(path: LightPath) -> np.ndarray:
    exposures = np.arange(-5, 6) * np.log10(2.0)
    return path.print_even(path[Developing].density(exposures))[None]


if __name__ == "__main__":
    unittest.main()
