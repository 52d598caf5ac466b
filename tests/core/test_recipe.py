import json
import unittest

from pydantic import ValidationError

from silvrin import shelf
from silvrin.core.recipe import LightSettings, PaperSettings, Recipe, read_recipe
from silvrin.errors import BadRecipe


class RecipeTest(unittest.TestCase):
    def test_round_trip(self) -> None:
        recipe = Recipe(light=LightSettings(lens_filter="25"), paper=PaperSettings(grade=3.5))
        self.assertEqual(read_recipe(recipe.model_dump_json()), recipe)
        self.assertEqual(read_recipe("{}"), Recipe())

    def test_frozen(self) -> None:
        with self.assertRaises(ValidationError):
            Recipe().paper.grade = 3  # type: ignore[misc]

    def test_what_does_not_hold_is_named(self) -> None:
        wrong = {
            '{"paper": {"grade": 7}}': ["paper.grade", "less than or equal to 5", "7"],
            '{"paper": {"gloss": 1}}': ["paper.gloss", "not a field"],
            '{"toning": {}}': ["toning", "not a field"],
            '{"film": {"exposure_index": "fast"}}': ["film.exposure_index", "'fast'"],
            '{"light": {"temperature": NaN}}': ["light.temperature"],
            '{"light": {"lens_filter": "../x"}}': ["light.lens_filter"],
            '{"format": "other-1"}': ["format", "silvrin-recipe-1"],
            "[]": ["the file"],
            "grade 2": ["not JSON"],
        }
        for text, parts in wrong.items():
            with self.subTest(text), self.assertRaises(BadRecipe) as caught:
                read_recipe(text, "soft.json")
            for part in ["soft.json", *parts]:
                self.assertIn(part, str(caught.exception))

    def test_what_is_not_on_the_shelf_is_named(self) -> None:
        recipe = read_recipe('{"light": {"lens_filter": "99"}}')
        with self.assertRaisesRegex(BadRecipe, r"light.lens_filter: '99'.*15.*none"):
            shelf.light_path(recipe)

    def test_schema_gives_every_number_its_range_and_words(self) -> None:
        schema = Recipe.model_json_schema()
        json.dumps(schema)
        for name, part in schema["$defs"].items():
            for field, facts in part["properties"].items():
                self.assertIn("description", facts, (name, field))
                for kind in facts.get("anyOf", [facts]):
                    if kind.get("type") == "number":
                        self.assertLess(kind["minimum"], kind["maximum"])


if __name__ == "__main__":
    unittest.main()
