"""Bands and the spectra of materials.

Leaves: PROSPECT (Jacquemoud & Baret 1990, Feret 2017) through `prosail`, ageing and pigment as
named. Water by its absorption, roughly Pope & Fry 1997 and Palmer & Williams 1974, from memory.
All others are plausible curves by hand.
"""

import numpy as np
import prosail
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator

Spectrum = NDArray[np.float64]

# nm: close where filters cut and where leaves rise
BANDS = np.array(
    [380, 410, 440, 465, 490, 510, 530, 550, 570, 590, 610, 630, 650, 675, 700, 720, 760, 830],
    dtype=float,
)
COUNT = len(BANDS)
# Three bands a pass, far apart, so that each pass is a picture its denoiser understands
PASSES = [np.arange(first, COUNT, COUNT // 3) for first in range(COUNT // 3)]


def through(*points: float) -> Spectrum:
    """A spectrum through (nm, value) pairs, its ends held."""
    nm, value = np.array(points[0::2], float), np.array(points[1::2], float)
    return PchipInterpolator(nm, value)(np.clip(BANDS, nm[0], nm[-1]))


def flat(value: float) -> Spectrum:
    """The same value in every band."""
    return np.full(COUNT, value)


def leaf(
    chlorophyll: float, carotenoids: float = 8.0, brown: float = 0.0, anthocyanin: float = 0.0
) -> Spectrum:
    """Reflectance plus transmittance of a leaf; pigments in µg/cm²."""
    nm, reflected, passed = prosail.run_prospect(
        1.5,
        chlorophyll,
        carotenoids,
        brown,
        0.012,
        0.008,
        prospect_version="D",
        ant=anthocyanin,
    )
    # PROSPECT starts at 400 nm
    return np.interp(BANDS, nm, reflected + passed)


def planck(kelvin: float) -> Spectrum:
    """Radiance of a black body, 1 at 560 nm."""
    micron = BANDS / 1000.0

    def power(x: Spectrum | float) -> Spectrum:
        return np.asarray(x) ** -5.0 / (np.exp(14387.77 / (np.asarray(x) * kelvin)) - 1.0)

    return power(micron) / power(0.56)


# fmt: off
MATERIAL: dict[str, Spectrum] = {
    "cobalt": through(380,.14, 400,.18, 420,.24, 440,.28, 460,.26, 480,.18, 500,.10, 520,.06, 540,.045, 560,.05, 580,.035, 600,.03, 640,.03, 660,.05, 680,.12, 700,.26, 720,.40, 750,.52, 800,.55, 870,.5),
    "copper": through(380,.05, 400,.07, 440,.11, 480,.22, 500,.29, 520,.33, 540,.30, 560,.23, 580,.16, 600,.11, 640,.075, 700,.06, 750,.055, 800,.06, 870,.07),
    "ironred": through(380,.022, 450,.028, 500,.035, 540,.05, 560,.075, 580,.14, 600,.22, 620,.28, 650,.32, 700,.37, 750,.42, 800,.38, 870,.35),
    "ochre": through(380,.05, 400,.07, 450,.10, 500,.17, 540,.29, 570,.42, 600,.50, 650,.55, 700,.60, 750,.62, 800,.57, 870,.50),
    "tin": through(380,.58, 400,.70, 430,.78, 480,.83, 550,.85, 650,.86, 750,.87, 870,.87),
    "celadon": through(380,.24, 420,.33, 460,.42, 500,.50, 530,.53, 560,.51, 600,.44, 640,.38, 680,.35, 720,.36, 780,.40, 850,.42),
    "raku": through(380,.022, 550,.024, 650,.026, 720,.030, 830,.045),
    "brick": through(380,.05, 400,.06, 450,.08, 500,.10, 540,.14, 580,.22, 600,.28, 650,.34, 700,.38, 750,.41, 870,.39),
    "brickpale": through(380,.12, 400,.14, 450,.18, 500,.23, 540,.29, 580,.37, 600,.42, 650,.47, 700,.50, 750,.52, 870,.50),
    "brickdark": through(380,.04, 450,.05, 500,.06, 540,.07, 580,.09, 600,.105, 650,.12, 700,.14, 750,.16, 870,.18),
    "clay": through(380,.14, 400,.16, 450,.22, 500,.29, 550,.37, 600,.45, 650,.50, 700,.54, 750,.57, 870,.56),
    "wetclay": through(380,.08, 450,.11, 500,.15, 550,.20, 600,.26, 650,.30, 700,.33, 750,.36, 870,.37),
    "slip": through(380,.22, 450,.31, 500,.38, 550,.45, 600,.52, 650,.56, 700,.59, 870,.60),
    "terra": through(380,.07, 400,.08, 450,.10, 500,.13, 540,.18, 580,.29, 600,.38, 650,.45, 700,.50, 750,.53, 870,.49),
    "mortar": through(380,.25, 450,.35, 500,.41, 550,.46, 600,.49, 700,.53, 870,.56),
    "plaster": through(380,.42, 450,.54, 500,.60, 550,.64, 600,.67, 700,.70, 870,.72),
    "linen": through(380,.56, 400,.66, 450,.74, 500,.77, 600,.80, 700,.82, 870,.83),
    "soot": through(380,.035, 550,.04, 700,.045, 870,.055),
    "iron": through(380,.07, 450,.075, 550,.09, 600,.12, 650,.14, 750,.17, 870,.19),
    "steel": through(380,.45, 550,.50, 700,.53, 870,.56),
    "woodgrey": through(380,.13, 450,.19, 500,.23, 550,.27, 600,.31, 650,.35, 700,.39, 750,.45, 870,.54),
    "woodbrown": through(380,.035, 450,.055, 500,.08, 550,.12, 600,.17, 650,.22, 700,.28, 750,.37, 870,.47),
    "bark": through(380,.045, 500,.08, 600,.12, 700,.18, 750,.26, 870,.36),
    "soil": through(380,.045, 500,.08, 600,.13, 700,.18, 750,.21, 870,.26),
    "straw": through(380,.07, 450,.14, 500,.20, 550,.29, 600,.36, 650,.41, 700,.47, 750,.53, 870,.60),
    "sponge": through(380,.12, 450,.20, 500,.32, 550,.45, 600,.54, 700,.62, 870,.66),
    "lemon": through(380,.06, 450,.07, 490,.13, 520,.38, 550,.62, 600,.70, 700,.74, 870,.76),
    "apple": through(380,.03, 500,.03, 550,.04, 580,.08, 600,.20, 620,.36, 650,.48, 680,.50, 700,.60, 750,.68, 870,.70),
    "white": flat(.80), "grey": flat(.18), "black": flat(.02),
}
# fmt: on
MATERIAL |= {
    "leaf": leaf(38.0),
    "leafyoung": leaf(20.0, 5.0),
    "leafdark": leaf(60.0, 10.0),
    "leafdry": leaf(6.0, 7.0, brown=0.6),
    "willow": leaf(30.0, 9.0),
    "grass": leaf(28.0, 7.0),
    "moss": leaf(60.0, 10.0) * 0.42,
}
# Clay in suspension, its light weakened by water: by absorption roughly as above
WATER = through(
    380, 0.9, 440, 0.6, 500, 0.35, 560, 0.3, 600, 0.5, 650, 0.6, 700, 0.9, 760, 2.8, 830, 3.2
)
MATERIAL["pondwater"] = 0.16 * MATERIAL["clay"] * np.exp(-0.6 * WATER) + 0.01
