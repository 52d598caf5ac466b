"""Lens profiles from lensfun's data, read through lensfunpy, as what Geometry needs of them.

lensfun's own models are sampled along the diagonal of the picture at hand, so every kind of model
it has is carried over, and a recipe keeps the samples: the same print can be made when the data
have changed.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import lensfunpy
import numpy as np
from lensfunpy import ModifyFlags
from numpy.typing import NDArray
from pydantic import BaseModel

from ..core.capture.settings import LENS_RADII, LensProfile
from ..errors import BadRecipe, NotFound
from .metadata import Metadata

OWN = Path(__file__).parent.parent / "shelf" / "lenses.xml"
DISTANCE = 10.0  # m; files seldom say it, and it hardly counts beyond a few metres
MOST_FOUND = 60
SAME = 0.03  # parts by which focal lengths differ that are the same
_UNITS = frozenset({"mm", "f", "with"})
NEAR_MIDDLE = 0.01  # parts of half the diagonal


class LensName(BaseModel):
    """A lens as it is found and chosen."""

    maker: str
    model: str
    crop: float  # of the camera it was measured on
    focal: tuple[float, float] = (0.0, 0.0)  # mm, shortest and longest
    aperture: float | None = None  # widest


@lru_cache(maxsize=1)
def _data() -> lensfunpy.Database:
    return lensfunpy.Database(paths=[str(OWN)])


def _name(lens: lensfunpy.Lens) -> LensName:
    return LensName(
        maker=lens.maker,
        model=lens.model,
        crop=round(lens.crop_factor, 2),
        focal=(round(lens.min_focal, 1), round(lens.max_focal or lens.min_focal, 1)),
        aperture=lens.min_aperture or None,
    )


def find_lenses(metadata: Metadata) -> list[LensName]:
    """Lenses that a file's lens may be, likeliest first: they fit its camera, agree with all the
    numbers (where it has none, with the words) of the name that the file gives, and have the focal
    length it was taken at. Empty when there is none; then the choice is the user's."""
    if not metadata.lens or not metadata.maker:
        return []
    cameras = _data().find_cameras(metadata.maker, metadata.model, True)
    if not cameras:
        return []
    said = _said_by(metadata.lens)
    own = _said_by(metadata.maker).words
    found = [
        (_likeness(said, own, lens), lens)
        for lens in _data().find_lenses(cameras[0], None, None, True)
        if _has_data(lens) and _agrees(said, metadata.focal_length, lens)
    ]
    found.sort(key=lambda of: (-of[0], of[1].model, of[1].crop_factor))
    return [_name(lens) for _, lens in found][:MOST_FOUND]


@dataclass(frozen=True)
class _Said:
    """What a name of a lens says."""

    text: str
    words: frozenset[str]
    numbers: frozenset[float]  # focal lengths, f-numbers, marks
    focal: tuple[float, float] | None  # mm, where it is said as such


@lru_cache(maxsize=4096)
def _said_by(name: str) -> _Said:
    text = name.lower().replace(",", ".")
    numbers = frozenset(float(n) for n in re.findall(r"\d+(?:\.\d+)?", text))
    ends = re.search(r"(\d+(?:\.\d+)?)(?:\s*-\s*(\d+(?:\.\d+)?))?\s*mm", text)
    focal = (float(ends[1]), float(ends[2] or ends[1])) if ends else None
    words = frozenset(re.findall(r"[^\W\d_]+", text)) - _UNITS
    return _Said(" ".join(re.findall(r"[^\W_.]+|\.\d+", text)), words, numbers, focal)


def _agrees(said: _Said, focal: float | None, lens: lensfunpy.Lens) -> bool:
    shortest, longest = lens.min_focal, lens.max_focal or lens.min_focal
    if focal and not shortest * (1 - SAME) <= focal <= longest * (1 + SAME):
        return False
    if said.focal and not np.allclose(said.focal, (shortest, longest), rtol=SAME, atol=0.6):
        return False
    known = _said_by(lens.model)
    if said.numbers:
        ends = {round(v, 1) for v in (lens.min_focal, lens.max_focal, lens.min_aperture) if v}
        return all(
            any(abs(n - own) <= 0.03 * own for own in known.numbers | ends) for n in said.numbers
        )
    return bool(focal) and bool(said.words) and said.words <= known.words


def _likeness(said: _Said, own: frozenset[str], lens: lensfunpy.Lens) -> float:
    """How like a lens is to what a file says, its camera's own maker before others."""
    known, maker = _said_by(lens.model), _said_by(lens.maker).words
    if known.text == said.text:
        return 3.0
    # what makers leave out of a name: who made it
    theirs, given = known.words - maker, said.words - maker
    together = theirs | given | {str(n) for n in known.numbers | said.numbers}
    shared = (theirs & given) | {str(n) for n in known.numbers & said.numbers}
    alike = len(shared) / max(len(together), 1)
    by_maker = 0.3 if maker & said.words else 0.2 if maker & own else 0.0
    return alike + by_maker + (1.0 if theirs == given and known.numbers == said.numbers else 0.0)


def search_lenses(words: str) -> list[LensName]:
    """Lenses that have all the words in their name, in the order of the alphabet."""
    wanted = words.lower().split()
    found = {
        (lens.maker, lens.model, round(lens.crop_factor, 2)): lens
        for lens in _data().lenses
        if _has_data(lens) and all(w in f"{lens.maker} {lens.model}".lower() for w in wanted)
    }
    return [_name(found[key]) for key in sorted(found)][:MOST_FOUND]


def _has_data(lens: lensfunpy.Lens) -> bool:
    return bool(lens.calib_distortion or lens.calib_tca or lens.calib_vignetting)


def lens_profile(
    wanted: LensName,
    metadata: Metadata,
    size: tuple[int, int],
    focal: float | None = None,
    aperture: float | None = None,
) -> LensProfile:
    """What a lens did to a picture of that size (width, height) taken with it.

    Focal length, mm, and f-number are those given, else the file's, else the lens's shortest and
    widest. Raises NotFound for a lens that is not known, BadRecipe for a focal length that it does
    not have.
    """
    lens = next(
        (
            found
            for found in _data().lenses
            if (found.maker, found.model) == (wanted.maker, wanted.model)
            and abs(found.crop_factor - wanted.crop) < 0.02
        ),
        None,
    )
    if lens is None:
        raise NotFound(f"There is no profile of a lens {wanted.maker} {wanted.model}.")
    cameras = _data().find_cameras(metadata.maker, metadata.model, True) if metadata.maker else []
    crop = cameras[0].crop_factor if cameras else lens.crop_factor
    longest = lens.max_focal or lens.min_focal
    if focal and not lens.min_focal * (1 - SAME) <= focal <= longest * (1 + SAME):
        raise BadRecipe(
            f"{focal:g} mm: the {wanted.model} has {lens.min_focal:g} to {longest:g} mm; give a "
            "focal length that it has."
        )
    focal = focal or metadata.focal_length or lens.min_focal
    aperture = aperture or metadata.aperture or lens.min_aperture or 8.0
    return sampled(lens, crop, focal, aperture, size)


def sampled(
    lens: lensfunpy.Lens, crop: float, focal: float, aperture: float, size: tuple[int, int]
) -> LensProfile:
    """lensfun's models of a lens along the diagonal of a picture."""

    def modifier(flags: int, of: tuple[int, int]) -> lensfunpy.Modifier:
        made = lensfunpy.Modifier(lens, crop, *of)
        made.initialize(focal, aperture, DISTANCE, 1.0, pixel_format=np.float32, flags=flags)
        return made

    middle = (np.array(size) - 1) / 2.0
    half = 0.5 * float(np.hypot(*size))
    along = np.array(size) / np.hypot(*size)

    def ratios(ask: Callable[..., NDArray[np.float32] | None]) -> NDArray[np.float64] | None:
        """(N, channels) how much farther out than at LENS_RADII the light is taken from."""
        rows = []
        for radius in (NEAR_MIDDLE, 2 * NEAR_MIDDLE, *LENS_RADII[1:]):
            place = middle + radius * half * along
            found = ask(*place, 1, 1)
            if found is None:
                return None
            away = found.reshape(-1, 2).astype(np.float64) - middle
            rows.append(np.hypot(*away.T) / (radius * half))
        return np.array([2 * rows[0] - rows[1], *rows[2:]])  # at the middle itself by a line

    distortion = ratios(modifier(ModifyFlags.DISTORTION, size).apply_geometry_distortion)
    lateral = ratios(modifier(ModifyFlags.TCA, size).apply_subpixel_distortion)
    small = (600, max(16, round(600 * size[1] / size[0])))
    light = np.ones((small[1], small[0], 3), np.float32)
    fall_off: list[float] = []
    if modifier(ModifyFlags.VIGNETTING, small).apply_color_modification(light):
        reach = np.minimum(np.array(LENS_RADII), 1.0)
        rows = (1 + reach) / 2 * (small[1] - 1)
        columns = (1 + reach) / 2 * (small[0] - 1)
        picked = light[np.rint(rows).astype(int), np.rint(columns).astype(int), 1]
        fall_off = [round(float(v), 5) for v in np.log2(np.maximum(picked, 1e-3))]

    def listed(values: NDArray[np.float64] | None) -> tuple[float, ...]:
        return () if values is None else tuple(round(float(v), 7) for v in values)

    red = blue = None
    if lateral is not None:
        red, blue = lateral[:, 0] / lateral[:, 1], lateral[:, 2] / lateral[:, 1]
    return LensProfile(
        name=f"{lens.maker} {lens.model}"[:200],
        distortion=listed(None if distortion is None else distortion[:, 0]),
        red=listed(red),
        blue=listed(blue),
        fall_off=tuple(fall_off),
    )
