from __future__ import annotations

import json
import unittest
from dataclasses import replace

from yantai.formats import recipe_csv, recipe_jsonld
from yantai.formats.documents import BadFile, ComponentDocument, LineDocument, RecipeDocument, StepDocument

STEW = RecipeDocument(
    name="Smoky stew",
    note="Greens last.",
    lines=(
        LineDocument(
            text="2 x 400 g tins beans, drained", component="Beans", food="Beans", state="canned-drained", grams=490
        ),
        LineDocument(
            text="1 tbsp oil",
            component="Beans",
            food="Olive oil",
            state="as-sold",
            grams=13.5,
            refuse_share=0.0,
            retained_share=0.5,
            yield_factor=1.0,
        ),
        LineDocument(text="salt, to taste", component="Greens", food="Salt", state="dry", grams=0),
    ),
    components=(ComponentDocument(name="Beans", role="mixed", method="simmered"), ComponentDocument(name="Greens")),
    steps=(
        StepDocument(
            text="Simmer the beans at a whisper.", component="Beans", hands_on_min=5, unattended_min=35, equipment="hob"
        ),
        StepDocument(
            text="Roast at 200 °C.", component="", unattended_min=25, temperature_c=200, equipment="oven", lead_min=30
        ),
    ),
)


class JsonLd(unittest.TestCase):
    def test_a_round_trip_keeps_what_the_format_can_hold(self) -> None:
        back = recipe_jsonld.read(json.dumps(recipe_jsonld.write(STEW)))
        self.assertEqual((back.name, back.note), (STEW.name, STEW.note))
        self.assertEqual([line.text for line in back.lines], [line.text for line in STEW.lines])
        # Components of ingredients and lead times have no place in it.
        self.assertEqual(back.steps, tuple(replace(step, lead_min=None) for step in STEW.steps))

    def test_it_is_a_schema_org_recipe(self) -> None:
        written = recipe_jsonld.write(STEW)
        self.assertEqual((written["@context"], written["@type"]), ("https://schema.org", "Recipe"))
        self.assertEqual(written["totalTime"], "PT1H5M")
        self.assertEqual(written["recipeInstructions"][0]["@type"], "HowToSection")
        self.assertEqual(written["recipeInstructions"][0]["itemListElement"][0]["performTime"], "PT5M")

    def test_many_shapes_of_it_are_read(self) -> None:
        recipe = {
            "@type": ["Recipe", "Thing"],
            "name": "Soup",
            "recipeIngredient": ["1 kg leeks"],
            "recipeInstructions": "Chop.\nBoil 20 min.",
        }
        graph = json.dumps({"@graph": [{"@type": "WebPage"}, recipe]})
        page = f'<html><script type="application/ld+json">{graph}</script></html>'
        for text in (json.dumps(recipe), json.dumps([recipe]), page):
            with self.subTest(text=text[:40]):
                found = recipe_jsonld.read(text)
                self.assertEqual([line.text for line in found.lines], ["1 kg leeks"])
                self.assertEqual([step.unattended_min for step in found.steps], [None, 20])

    def test_markup_in_it_is_text_and_nothing_runs(self) -> None:
        recipe = {
            "@type": "Recipe",
            "name": "<b>Soup</b><script>alert(1)</script>",
            "recipeIngredient": ["200 g <i>leeks</i> &amp; onions", "<img src=x onerror=alert(1)>"],
            "recipeInstructions": [{"@type": "HowToStep", "text": "Boil<br>it <style>p{}</style>"}],
        }
        found = recipe_jsonld.read(json.dumps(recipe))
        self.assertEqual(found.name, "Soup")
        self.assertEqual([line.text for line in found.lines], ["200 g leeks & onions"])
        self.assertEqual([step.text for step in found.steps], ["Boil it"])

    def test_what_cannot_be_read_says_where(self) -> None:
        nested: object = {"@type": "WebPage"}
        for _ in range(60):
            nested = {"@graph": [nested]}
        cases = {
            '{"@type": "Recipe", ': "not valid JSON",
            '{"@type": "Article"}': "no schema.org Recipe",
            json.dumps(nested): "no schema.org Recipe",
            '{"@type": "Recipe", "recipeIngredient": 7}': "neither a list",
            json.dumps({"@type": "Recipe", "recipeIngredient": ["x"] * 501}): "501 ingredients",
            "{" + " " * 2_000_001: "2 MB",
        }
        for text, words in cases.items():
            with self.subTest(words=words), self.assertRaises(BadFile) as caught:
                recipe_jsonld.read(text)
            self.assertIn(words, str(caught.exception))

    def test_times_that_are_none_are_left_out(self) -> None:
        recipe = {
            "@type": "Recipe",
            "recipeInstructions": [{"text": "Wait", "totalTime": "PT-1H", "performTime": "soon"}],
        }
        (step,) = recipe_jsonld.read(json.dumps(recipe)).steps
        self.assertIsNone(step.hands_on_min)


class Csv(unittest.TestCase):
    def test_a_round_trip_loses_nothing(self) -> None:
        self.assertEqual(recipe_csv.read(recipe_csv.write(STEW)), STEW)

    def test_any_table_with_an_ingredient_column(self) -> None:
        found = recipe_csv.read("Ingredient;Shop\n500 g beef;market\n2 onions;\n")
        self.assertEqual([line.text for line in found.lines], ["500 g beef", "2 onions"])

    def test_what_cannot_be_read_says_where(self) -> None:
        cases = {
            "": "first line must hold the headings",
            "a,b\n1,2": "no column is called",
            "recipe,text,grams\nx,leek,lots": "line 2",
            "recipe,text\n": "no ingredient",
            "a\x00b,c": "CSV UTF-8",
        }
        for text, words in cases.items():
            with self.subTest(text=text), self.assertRaises(BadFile) as caught:
                recipe_csv.read(text)
            self.assertIn(words, f"{caught.exception} {caught.exception.location}")
