import shutil
import struct
import tempfile
import unittest
from functools import cache
from pathlib import Path

import numpy as np
import tifffile

from silvrin import shelf
from silvrin.core.picture import LinearPicture
from silvrin.core.recipe import Recipe
from silvrin.core.render import Darkroom, Readings, Sitting
from silvrin.demo_job import captures_folder, demo_capture
from silvrin.files.capture import Developed, read_capture
from silvrin.files.first_look import first_look

AS_SHOT_NEUTRAL = 50728


def readings(developed: Developed) -> Readings:
    picture = LinearPicture.with_pyramid(developed.light, developed.scale)
    return Darkroom().readings(Sitting("r", picture, shelf.light_path(Recipe())))


@cache
def of_file(path: Path) -> Readings:
    """What is read of one of the demo's captures."""
    return readings(read_capture(path))


class ConvertedCameraTest(unittest.TestCase):
    def test_it_is_told_by_its_cast(self) -> None:
        for path in captures_folder().glob("*/*.*"):
            self.assertEqual(of_file(path).infrared_cast, "infrared" in path.name, path.name)

    def test_with_a_white_balance_of_its_own_it_is_told_by_what_no_lamp_gives(self) -> None:
        # set neutral on leaves, as is done (common practice): its light has no temperature
        source = demo_capture("bottle kiln, infrared")
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "custom.dng"
            shutil.copy(source, path)
            with tifffile.TiffFile(path) as tiff:
                tag = next(
                    page.tags[AS_SHOT_NEUTRAL]
                    for top in tiff.pages
                    for page in (top, *(top.pages or ()))
                    if AS_SHOT_NEUTRAL in page.tags
                )
                order = tiff.byteorder
                numbers = np.array(tag.value, float).reshape(-1, 2)
            ordinary = numbers[:, 0] / numbers[:, 1]
            # the channels are nearly equally open behind its glass
            flat = np.array([1.0, 0.85, 0.7]) * ordinary[1]
            data = bytearray(path.read_bytes())
            values = [v for share in flat for v in (round(float(share) * 10000), 10000)]
            struct.pack_into(f"{order}6I", data, tag.valueoffset, *values)
            path.write_bytes(data)
            custom, temperature = read_capture(path), first_look(path).metadata.temperature
        reading = readings(custom)
        self.assertIsNone(temperature)
        self.assertTrue(reading.one_colour)
        self.assertFalse(reading.infrared_cast)  # it is neutral now
        # of ordinary captures none is both
        for path in captures_folder().glob("*/*.*"):
            if path.suffix == ".dng" and "infrared" not in path.name:
                self.assertIsNotNone(first_look(path).metadata.temperature, path.name)
                self.assertFalse(of_file(path).one_colour, path.name)

    def test_a_red_colour_photograph_is_not(self) -> None:
        rng = np.random.default_rng(3)
        for red in ([0.6, 0.12, 0.10], [0.5, 0.08, 0.08], [0.7, 0.25, 0.15], [0.45, 0.05, 0.06]):
            shades = rng.uniform(0.05, 0.9, (200, 300, 1)) * np.array(red)
            shades *= 1 + 0.03 * rng.standard_normal((200, 300, 3))
            light = np.clip(shades * 60000, 1, 60000).astype(np.uint16)
            self.assertFalse(readings(Developed(light, 1 / 60000, "raw", None)).infrared_cast, red)

    def test_a_sensor_without_colours_has_none(self) -> None:
        grey = np.random.default_rng(3).integers(500, 50000, (200, 300, 1)).repeat(3, axis=2)
        reading = readings(Developed(grey.astype(np.uint16), 1 / 60000, "raw", None))
        self.assertFalse(reading.one_colour)


if __name__ == "__main__":
    unittest.main()
