"""Published spectra on the project's wavelength grid, from colour-science (BSD-3-Clause)."""

import warnings
from functools import lru_cache

import numpy as np

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour
    import colour.quality.cfi2017 as cie_224

from silvrin.core.spectra.grid import WAVELENGTHS

VISIBLE = np.arange(380, 781, 10.0)


def on_grid(distribution: "colour.SpectralDistribution", at: np.ndarray = WAVELENGTHS):
    """Values at the grid's wavelengths, the ends held."""
    return np.interp(at, distribution.wavelengths, distribution.values)


@lru_cache
def patches() -> np.ndarray:
    """(24, 53): the 24 patch spectra of the chart measured by N. Ohta (1997)."""
    chart = colour.SDS_COLOURCHECKERS["cc_ohta"]
    return np.stack([on_grid(patch) for patch in chart.values()])


@lru_cache
def matching() -> np.ndarray:
    """(3, 41): CIE 1931 2 degree observer, 380-780 nm."""
    table = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]
    return np.stack([np.interp(VISIBLE, table.wavelengths, v) for v in table.values.T])


@lru_cache
def natural_samples() -> np.ndarray:
    """(99, 41): the test colour samples of CIE 224:2017."""
    shape = colour.SpectralShape(380, 780, 5)
    return cie_224.load_TCS_CIE2017(shape).values.T[:, ::2]


def bt2020(spectra: np.ndarray) -> np.ndarray:
    """Linear BT.2020 of reflectances (N, 53) under D65, white reading 1, by colour-science's
    matrices and tables alone."""
    d65 = on_grid(colour.SDS_ILLUMINANTS["D65"], VISIBLE)
    weights = matching() * d65
    xyz = spectra[:, : len(VISIBLE)] @ weights.T / weights[1].sum()
    space = colour.models.RGB_COLOURSPACE_BT2020
    rgb = xyz @ np.linalg.inv(np.asarray(space.matrix_RGB_to_XYZ)).T
    white = (weights.sum(axis=1) / weights[1].sum()) @ np.linalg.inv(space.matrix_RGB_to_XYZ).T
    return rgb / white


@lru_cache
def real_things() -> np.ndarray:
    """(30, 53): the preferred memory colours: skin, food, leaves and other real things."""
    return np.stack([on_grid(thing) for thing in colour.SDS_COLOURCHECKERS["PMC"].values()])


@lru_cache
def test_colours() -> np.ndarray:
    """(44, 53): the test colours of CIE 13.3 and the saturated ones of the colour quality scale
    (Davis and Ohno 2010)."""
    from colour.quality.datasets import SDS_TCS, SDS_VS

    given = [SDS_TCS["CIE 1995"], *(SDS_VS[name] for name in ("NIST CQS 7.4", "NIST CQS 9.0"))]
    return np.stack([on_grid(each) for part in given for each in part.values()])
