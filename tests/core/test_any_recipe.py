"""Every recipe that holds can be shown, at every size and in strips."""

import types
import unittest
import warnings
from typing import Any, Literal, Union, get_args, get_origin

import numpy as np
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError
from pydantic.fields import FieldInfo

from silvrin import shelf
from silvrin.core.picture import LinearPicture
from silvrin.core.places import PicturePixel
from silvrin.core.recipe import LensProfile, Mend, MeteredSpot, Outline, Recipe
from silvrin.core.recipe.drawings import Sheets
from silvrin.core.render import Darkroom, Sitting, strips
from silvrin.core.settings import Settings
from silvrin.core.stations import SETTINGS
from silvrin.errors import BadRecipe

ON_SHELF = shelf.shipped()
PLACES = st.integers(0, 300) | st.sampled_from((0, 65_000))
MENDS = st.builds(
    Mend, x=PLACES, y=PLACES, radius=st.integers(2, 400), fill=st.booleans(),
    path=st.lists(st.tuples(PLACES, PLACES), max_size=4).map(tuple),
    from_x=st.none() | PLACES, from_y=st.none() | PLACES,
)  # fmt: skip
OUTLINES = st.lists(st.tuples(PLACES, PLACES), min_size=3, max_size=6).map(
    lambda points: Outline(points=tuple(points))
)
SAMPLES = st.sampled_from(((), tuple(1.0 - 0.012 * i for i in range(25)), (5.0,) * 25, (0.2,) * 25))
SHEETS = Sheets()
SPECIAL: dict[str, st.SearchStrategy[Any]] = {
    "lens": st.none() | st.builds(
        LensProfile, name=st.just("any"), distortion=SAMPLES, red=SAMPLES, blue=SAMPLES,
        fall_off=st.sampled_from(((), (-8.0,) * 25, (8.0,) * 25)),
    ),
    "mends": st.lists(MENDS, max_size=3).map(SHEETS.mends),
    "protected": st.lists(OUTLINES, max_size=2).map(SHEETS.outlines),
    "spots": st.lists(
        st.tuples(PLACES, PLACES, st.none() | st.floats(0, 10)), max_size=2
    ).map(lambda of: tuple(
        MeteredSpot(letter="AB"[i], x=x, y=y, placed=placed) for i, (x, y, placed) in enumerate(of)
    )),
    "curve": st.lists(
        st.tuples(st.floats(0, 10), st.floats(0, 10)), max_size=4
    ).map(lambda points: tuple(sorted(points))),
    "zone_lift": st.lists(st.floats(-1, 1), min_size=11, max_size=11).map(tuple),
    "zone_contrast": st.lists(st.floats(-1, 1), min_size=11, max_size=11).map(tuple),
    "value_lift": st.lists(st.floats(-1, 1), min_size=11, max_size=11).map(tuple),
    "source": st.sampled_from(sorted(ON_SHELF.lights)),
    "lens_filter": st.sampled_from([*sorted(ON_SHELF.filters), "none", "any-hue"]),
    "second_filter": st.none() | st.sampled_from(sorted(ON_SHELF.filters)),
    "stock": st.sampled_from(sorted(ON_SHELF.stocks)),
    "paper": st.sampled_from(sorted(ON_SHELF.papers)),
}  # fmt: skip


def values_of(kind: Any, field: FieldInfo | None = None) -> st.SearchStrategy[Any]:
    """Values of a type, its ends among them."""
    limits = {type(m).__name__: m for m in (field.metadata if field else ())}
    if get_origin(kind) in (Union, types.UnionType):
        return st.one_of(*(values_of(k, field) for k in get_args(kind)))
    if kind is type(None):
        return st.none()
    if get_origin(kind) is Literal:
        return st.sampled_from(get_args(kind))
    if kind is bool:
        return st.booleans()
    if kind in (int, float):
        least = getattr(limits.get("Ge"), "ge", getattr(limits.get("Gt"), "gt", 0))
        most = getattr(limits.get("Le"), "le", getattr(limits.get("Lt"), "lt", 1))
        if kind is int:
            return st.integers(int(least), int(most))
        return st.sampled_from((float(least), float(most))) | st.floats(least, most)
    if isinstance(kind, type) and issubclass(kind, Settings):
        return settings_of(kind)
    if get_origin(kind) is tuple:
        parts = [part for part in get_args(kind) if part is not Ellipsis]
        if len(parts) == 1:
            return st.nothing()  # of any length: those have a strategy of their own
        return st.tuples(*(_annotated(part) for part in parts))
    return st.nothing()


def _annotated(kind: Any) -> st.SearchStrategy[Any]:
    if hasattr(kind, "__metadata__"):
        inner, *more = get_args(kind)
        return values_of(inner, FieldInfo.from_annotation(kind)) if more else values_of(inner)
    return values_of(kind)


def settings_of(model: type[Settings]) -> st.SearchStrategy[Any]:
    """Settings of which some are changed."""
    chosen = {}
    for name, field in model.model_fields.items():
        found = SPECIAL[name] if name in SPECIAL else values_of(field.annotation, field)
        if not found.is_empty:
            chosen[name] = found

    def made(values: dict[str, Any]) -> Any:
        try:
            return model(**values)
        except ValidationError:
            return None

    return st.fixed_dictionaries({}, optional=chosen).map(made).filter(lambda m: m is not None)


RECIPES = st.fixed_dictionaries(
    {}, optional={name: settings_of(model) for name, model in SETTINGS.items()}
)


def scene(width: int, height: int) -> LinearPicture:
    rng = np.random.default_rng(3)
    light = rng.random((height, width, 3)) ** 3 * 60_000
    light[: height // 3] = 65_535
    light[-height // 4 :] = 0
    return LinearPicture.with_pyramid(light.astype(np.uint16), 1 / 30_000)


SCENES = {size: scene(*size) for size in ((180, 120), (40, 200), (16, 16), (320, 17))}


class AnyRecipeTest(unittest.TestCase):
    @settings(max_examples=120, suppress_health_check=list(HealthCheck))
    @given(RECIPES, st.sampled_from(sorted(SCENES)), st.sampled_from((1, 2, 7, 16, 90, 400)))
    def test_it_is_shown_at_any_size(self, values, size: tuple[int, int], side: int) -> None:
        try:
            recipe = Recipe(**values)
            path = ON_SHELF.light_path(recipe, SHEETS.of(recipe))
        except (ValidationError, BadRecipe):
            assume(False)
        with warnings.catch_warnings():
            warnings.simplefilter("error", RuntimeWarning)  # numbers that are none, or too large
            sitting = Sitting(size, SCENES[size], path)
            view = sitting.picture.whole(side)
            shown = Darkroom().view(sitting, view)
            self.assertEqual(shown.shape[:2], (view.out_height, view.out_width))
            whole = np.concatenate(list(strips(sitting)))
            self.assertEqual(whole.shape[:2], (sitting.picture.height, sitting.picture.width))
            at = PicturePixel(sitting.picture.width - 1, sitting.picture.height - 1)
            self.assertTrue(np.isfinite(Darkroom().spot(sitting, at, 4).zone))


if __name__ == "__main__":
    unittest.main()
