"""Where the pixels of a view, and of a piece of one, lie on the picture."""

import unittest

import numpy as np
from scipy.ndimage import map_coordinates

from silvrin.core.picture import LinearPicture, View
from silvrin.core.plate import Grid, Plate


class PlaceTest(unittest.TestCase):
    def setUp(self) -> None:
        picture = LinearPicture([np.zeros((80, 120, 3), np.uint16)], 1.0)
        self.grid = Grid.of(View(30, 20, 60, 45, 30, 15), picture)
        self.plate = Plate(np.zeros((15, 30), np.float32), self.grid)
        self.across = (30 + (np.arange(30) + 0.5) * 2) / 120  # middles of pixels
        self.down = (20 + (np.arange(15) + 0.5) * 3) / 80

    def test_middles_of_pixels_in_parts_of_the_picture(self) -> None:
        across, down = self.grid.places(15, 30)
        np.testing.assert_allclose(across, self.across, atol=1e-6)
        np.testing.assert_allclose(down, self.down, atol=1e-6)
        piece = self.plate.part(slice(4, 13), slice(7, 20))
        across, down = piece.grid.places(9, 13)
        np.testing.assert_allclose(across, self.across[7:20], atol=1e-6)
        np.testing.assert_allclose(down, self.down[4:13], atol=1e-6)

    def test_a_map_of_the_whole_lies_where_they_are(self) -> None:
        values = np.random.default_rng(2).random((8, 12)).astype(np.float32)
        y, x = np.meshgrid(self.down * 8 - 0.5, self.across * 12 - 0.5, indexing="ij")
        wanted = map_coordinates(values, [y, x], order=1, mode="nearest")
        np.testing.assert_allclose(self.plate.over(values), wanted, atol=1e-5)
        piece = self.plate.part(slice(4, 13), slice(7, 20))
        np.testing.assert_allclose(piece.over(values), wanted[4:13, 7:20], atol=1e-5)


if __name__ == "__main__":
    unittest.main()
