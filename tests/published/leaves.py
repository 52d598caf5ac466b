"""Leaves and canopies by PROSPECT-D and 4SAIL (Jacquemoud & Baret 1990, Verhoef 2007, Feret 2017),
as the package `prosail` carries them, and as they look in light and shade."""

from functools import lru_cache
from itertools import product

import numpy as np
import prosail
from numpy.typing import NDArray

GRID = np.arange(380, 901, 10)


@lru_cache(maxsize=1)
def foliage() -> NDArray[np.float64]:
    """(N, 53) reflectance of leaves alone and of canopies of three densities, over chlorophyll of
    15-80 µg/cm² and two structures; the models start at 400 nm, the value there is held."""
    rows = []
    for chlorophyll, structure in product((15.0, 25.0, 35.0, 50.0, 65.0, 80.0), (1.3, 1.6, 2.0)):
        leaf = (structure, chlorophyll, chlorophyll / 5.0 + 2.0, 0.0, 0.012, 0.008)
        nm, reflected, passed = prosail.run_prospect(*leaf, prospect_version="D")
        rows += [reflected, reflected + passed]
        for density in (1.0, 2.5, 5.0):
            rows.append(
                prosail.run_prosail(
                    *leaf, density, 57.0, 0.01, 45.0, 20.0, 90.0,
                    prospect_version="D", rsoil=0.8, psoil=0.7,
                )
            )  # fmt: skip
    return np.stack([np.interp(GRID, nm, row) for row in rows])


@lru_cache(maxsize=1)
def foliage_in_light() -> NDArray[np.float64]:
    """(N, 53): foliage under sunlight and under bluer light, with what its skin mirrors of the sky,
    up to 2 % of sunlight (Fresnel, index 1.45), both by powers of the wavelength (Rayleigh)."""
    bare, wavelength = foliage(), GRID / 560.0
    rows = []
    for mirrored, power, light in product((0.0, 0.005, 0.02), (0.0, 2.0), (0.0, 1.5)):
        rows.append((bare + mirrored * wavelength**-power) * wavelength**-light)
    return np.concatenate(rows)
