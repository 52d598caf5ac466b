import json
import re
import unittest
from pathlib import Path

import lensfunpy
import numpy as np

from silvrin.core.capture.geometry import Geometry
from silvrin.core.capture.settings import LENS_RADII
from silvrin.core.capture.white_balance import temperature_of
from silvrin.core.recipe import CaptureSettings
from silvrin.demo_job import demo_capture
from silvrin.errors import BadRecipe, NotFound
from silvrin.files.first_look import first_look
from silvrin.files.lens_profiles import (
    LensName,
    find_lenses,
    lens_profile,
    sampled,
    search_lenses,
)
from silvrin.files.metadata import Metadata, read_metadata

KNOWN = json.loads((Path(__file__).parents[2] / "demo" / "truth" / "known.json").read_text())
SIZE = (1500, 1000)


class LensfunTest(unittest.TestCase):
    """What Geometry makes of a profile, against lensfun's own output."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.data = lensfunpy.Database()

    def lens(self, calibration: str, model: object) -> lensfunpy.Lens:
        """One that has a calibration of a model, whichever it is."""
        return next(
            lens
            for lens in self.data.lenses
            if any(c.model == model for c in getattr(lens, calibration))
        )

    def test_distortion_and_lateral_colour(self) -> None:
        models = lensfunpy.DistortionModel, lensfunpy.TCAModel
        cases = [("calib_distortion", m) for m in models[0] if m.name not in ("NONE",)]
        cases += [("calib_tca", m) for m in models[1] if m.name not in ("NONE",)]
        tried = 0
        for calibration, model in cases:
            try:
                lens = self.lens(calibration, model)
            except StopIteration:
                continue
            tried += 1
            focal = lens.min_focal
            profile = sampled(lens, lens.crop_factor, focal, 8.0, SIZE)
            geometry = Geometry(*SIZE, CaptureSettings(lens=profile))
            own = lensfunpy.Modifier(lens, lens.crop_factor, *SIZE)
            flags = lensfunpy.ModifyFlags.DISTORTION | lensfunpy.ModifyFlags.TCA
            own.initialize(focal, 8.0, 10.0, 1.0, flags=flags)
            y, x = np.mgrid[20 : SIZE[1] - 20 : 40, 20 : SIZE[0] - 20 : 40]
            places = np.stack([x.ravel(), y.ravel()], axis=-1) + 0.5
            # asked one by one: along a row lensfun adds up the rounding of its steps
            wanted = np.array(
                [
                    own.apply_subpixel_geometry_distortion(*place, 1, 1)[0, 0]
                    for place in zip(x.ravel().tolist(), y.ravel().tolist(), strict=True)
                ]
            )
            half = 0.5 * np.hypot(*SIZE)
            found = geometry._to_capture((places - np.array(SIZE) / 2) / half) * half
            found = found + np.array(SIZE) / 2
            for channel in range(3):
                times = geometry.fringe(found, channel)
                got = (found - np.array(SIZE) / 2) * times + np.array(SIZE) / 2 - 0.5
                off = got - wanted[:, channel]
                self.assertLess(np.abs(off).max(), 0.02, (calibration, model, channel))
        self.assertGreaterEqual(tried, 4)

    def test_fall_off(self) -> None:
        lens = next(lens for lens in self.data.lenses if lens.calib_vignetting)
        focal, aperture = lens.min_focal, lens.calib_vignetting[0].aperture
        profile = sampled(lens, lens.crop_factor, focal, aperture, SIZE)
        own = lensfunpy.Modifier(lens, lens.crop_factor, *SIZE)
        own.initialize(focal, aperture, 10.0, 1.0, pixel_format=np.float32)
        light = np.ones((SIZE[1], SIZE[0], 3), np.float32)
        self.assertTrue(own.apply_color_modification(light))
        for x, y in ((750, 500), (1100, 600), (200, 900), (1490, 990)):
            radius = np.hypot(x + 0.5 - 750, y + 0.5 - 500) / (0.5 * np.hypot(*SIZE))
            stops = np.interp(radius, LENS_RADII, profile.fall_off)
            self.assertAlmostEqual(stops, float(np.log2(light[y, x, 1])), delta=0.02)

    def test_a_profile_goes_there_and_back(self) -> None:
        lens = self.lens("calib_distortion", lensfunpy.DistortionModel.PTLENS)
        profile = sampled(lens, lens.crop_factor, lens.min_focal, 8.0, SIZE)
        geometry = Geometry(*SIZE, CaptureSettings(lens=profile, straighten=3.0))
        places = np.random.default_rng(1).random((100, 2)) * geometry.frame
        back = geometry.capture_to_picture(geometry.picture_to_capture(places))
        np.testing.assert_allclose(back, places, atol=0.01)


class DemoLensTest(unittest.TestCase):
    def test_the_demo_lens_is_found_and_undoes_what_is_known_of_it(self) -> None:
        metadata = read_metadata(demo_capture("kiln chimney"))
        found = find_lenses(metadata)
        self.assertEqual(found[0].model, metadata.lens)
        size = (1600, 2400)
        profile = lens_profile(found[0], metadata, size)
        known = KNOWN["lenses"]["09 kiln chimney.dng"]
        radius = np.linspace(0.05, 0.98, 20)
        ideal = radius * (1 + known["barrel"] * radius**2)
        geometry = Geometry(*size, CaptureSettings(lens=profile))
        half = 0.5 * np.hypot(*size)
        places = np.stack([ideal, np.zeros(20)], axis=-1)
        got = np.hypot(*geometry._to_capture(places).T)
        self.assertLess(np.abs(got - radius).max() * half, 0.3)
        place = np.array([[800 + 0.5 * half, 1200.0]])
        self.assertAlmostEqual(float(geometry.fringe(place, 0)[0, 0]), 1 / known["red"], delta=2e-5)
        self.assertAlmostEqual(
            float(geometry.fringe(place, 2)[0, 0]), 1 / known["blue"], delta=2e-5
        )

    def test_a_name_finds_its_lens_and_no_other(self) -> None:
        """Of lensfun's own list, each lens on a camera that it fits."""
        data = lensfunpy.Database()
        rng = np.random.default_rng(12)
        by_mount: dict[str, list[lensfunpy.Camera]] = {}
        for camera in data.cameras:
            by_mount.setdefault(camera.mount, []).append(camera)
        tried = found_at_all = short = 0
        for number in rng.permutation(len(data.lenses)):
            lens = data.lenses[number]
            fits = [
                camera
                for mount in lens.mounts[:1]
                for camera in by_mount.get(mount, ())
                if camera.crop_factor >= lens.crop_factor - 0.01
            ]
            if not fits or not (lens.calib_distortion or lens.calib_tca or lens.calib_vignetting):
                continue
            camera = fits[int(rng.integers(len(fits)))]
            facts = Metadata(maker=camera.maker, model=camera.model, focal_length=lens.min_focal)
            found = find_lenses(facts.model_copy(update={"lens": lens.model}))
            if found:
                self.assertEqual(found[0].model, lens.model)
                found_at_all += 1
            # a short name: no lens is offered that has another focal length
            if said := re.search(r"\d[\d.,-]*\s*mm( f/?[\d.-]+)?", lens.model):
                short += 1
                for name in find_lenses(facts.model_copy(update={"lens": said[0]})):
                    shortest, longest = name.focal
                    self.assertTrue(shortest * 0.97 <= lens.min_focal <= longest * 1.03, name)
            tried += 1
            if tried == 140:
                break
        self.assertGreater(found_at_all, 130)
        self.assertGreater(short, 80)

    def test_numbers_that_do_not_agree_offer_nothing(self) -> None:
        facts = read_metadata(demo_capture("kiln chimney"))
        known = find_lenses(facts)
        self.assertTrue(known)
        for lens in ("another 19 mm f/9", "35", "85mm", "Prime"):
            other = facts.model_copy(update={"lens": lens, "focal_length": 19.0})
            self.assertEqual(find_lenses(other), [], lens)

    def test_by_hand_it_takes_a_focal_length_and_an_f_number(self) -> None:
        zoom = next(
            lens for lens in lensfunpy.Database().lenses
            if lens.max_focal > 2.5 * lens.min_focal and len(lens.calib_distortion) > 3
            and len(lens.calib_vignetting) > 8
        )  # fmt: skip
        name = LensName(maker=zoom.maker, model=zoom.model, crop=round(zoom.crop_factor, 2))
        taken = Metadata(focal_length=zoom.min_focal, aperture=16.0)
        own = lens_profile(name, taken, SIZE)
        longer = lens_profile(name, taken, SIZE, zoom.max_focal)
        wider = lens_profile(name, taken, SIZE, None, zoom.min_aperture)
        self.assertNotEqual(own.distortion, longer.distortion)
        self.assertEqual(own.distortion, wider.distortion)
        self.assertNotEqual(own.fall_off, wider.fall_off)
        with self.assertRaisesRegex(BadRecipe, "give a focal length that it has"):
            lens_profile(name, taken, SIZE, 3 * zoom.max_focal)

    def test_by_hand_and_not_at_all(self) -> None:
        self.assertEqual(find_lenses(Metadata()), [])
        self.assertEqual(find_lenses(Metadata(maker="Nobody", model="No 1", lens="50 mm")), [])
        own = search_lenses("quarrywood 24")
        self.assertEqual([name.model for name in own], ["24 mm f/2.8"])
        self.assertEqual(search_lenses("no such lens anywhere"), [])
        with self.assertRaises(NotFound):
            lens_profile(LensName(maker="No", model="body", crop=1.0), Metadata(), SIZE)


class TemperatureTest(unittest.TestCase):
    def test_correlated_temperature_against_an_independent_library(self) -> None:
        import colour

        from silvrin.core.colour import BT2020_TO_XYZ

        for name in ("A", "D50", "D55", "D75", "FL2", "FL11"):
            xy = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"][name]
            xyz = np.array([xy[0] / xy[1], 1.0, (1 - xy[0] - xy[1]) / xy[1]])
            found = temperature_of(np.linalg.inv(BT2020_TO_XYZ) @ xyz)
            # Ohno 2013; daylights lie a little off the black body's line
            wanted = colour.temperature.uv_to_CCT_Ohno2013(colour.xy_to_UCS_uv(xy))[0]
            self.assertAlmostEqual(found / wanted, 1.0, delta=0.02, msg=name)
        self.assertIsNone(temperature_of(np.array([0.1, 1.0, 0.1])))

    def test_the_demo_says_the_light_it_was_taken_in(self) -> None:
        # the scenes' own whites (demo/truth), kiln at noon and in the last sun
        for name, low, high in (("bottle kiln", 4400, 5200), ("kiln in the last sun", 3500, 4400)):
            found = first_look(demo_capture(name)).metadata.temperature
            self.assertTrue(low < found < high, (name, found))


if __name__ == "__main__":
    unittest.main()
