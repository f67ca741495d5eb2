"""Words that keep food out: what each means was written down by hand before it was computed."""

import csv
import unittest
from fnmatch import fnmatchcase
from pathlib import Path
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.foods.exclusions import SENSES, Contents, Named, Reason, keeps_out, meaning, reasons

ROOT = Path(__file__).parents[3]
FOODS = list(csv.DictReader((ROOT / "src/yantai/reference/data/foods.csv").read_text(encoding="utf-8").splitlines()))
WORDS = list(csv.DictReader((ROOT / "tests/data/kept_out_words.csv").read_text(encoding="utf-8").splitlines()))


def _split(text: str) -> frozenset[str]:
    return frozenset(part for part in text.split(";") if part)


NAMED = [
    Named(
        names=(f"{row['name']} {row['aliases'].replace(';', ' ')} {row['state']} {row['method']}",),
        allergens=_split(row["allergens"]),
        group=row["group"],
        tags=_split(row["diet_tags"]),
    )
    for row in FOODS
]


def _expected(pattern: str) -> set[str]:
    """Names of reference foods: patterns with * behind |, a comma written ;, whole groups with @, less those with !."""
    found: set[str] = set()
    for part in pattern.split("|"):
        wanted = part.lstrip("!").replace(";", ",")
        hit = {
            row["name"]
            for row in FOODS
            if (row["group"] == wanted[1:] if wanted.startswith("@") else fnmatchcase(row["name"], wanted))
        }
        assert hit, f"“{wanted}” is no food"
        found = found - hit if part.startswith("!") else found | hit
    return found


class EverydayWords(unittest.TestCase):
    def test_each_word_keeps_out_just_the_foods_that_were_written_down(self):
        self.assertGreaterEqual(len(WORDS), 60)
        for row in WORDS:
            with self.subTest(word=row["word"]):
                kept = {FOODS[index]["name"] for index in meaning(row["word"], NAMED).kept}
                self.assertEqual(kept, _expected(row["keeps_out"]))

    def test_free_and_removed_deny_the_word_before_them_only(self):
        for name, kept in (
            ("Free range eggs", True), ("Eggs, free range", True), ("Egg free mayonnaise", False),
            ("Noodles, egg removed", False), ("Removed from shell: eggs", True), ("No egg noodles", False),
            ("Noodles without egg", False), ("Egg noodles, no salt", True), ("Egg, free-range, medium", True),
            ("Noodles, free from egg", False), ("Eggs free of antibiotics", True), ("Egg-free noodles", False),
        ):  # fmt: skip
            with self.subTest(name=name):
                self.assertEqual(bool(meaning("eggs", [Named(names=(name,))]).kept), kept)

    def test_singular_and_plural_are_one_word_for_every_food(self):
        pairs = [
            ("egg", "eggs"), ("nut", "nuts"), ("almond", "almonds"), ("tomato", "tomatoes"), ("potato", "potatoes"),
            ("anchovy", "anchovies"), ("cherry", "cherries"), ("berry", "berries"), ("radish", "radishes"),
            ("peach", "peaches"), ("bay leaf", "bay leaves"), ("mushroom", "mushrooms"), ("oat", "oats"),
            ("chickpea", "chickpeas"), ("Prawn", "prawns"), ("black bean", "Black Beans"), ("chilli", "chillies"),
            ("cheese", "cheeses"), ("sausage", "sausages"), ("pea", "peas"),
        ]  # fmt: skip
        for one, many in pairs:
            with self.subTest(word=one):
                kept = meaning(one, NAMED).kept
                self.assertTrue(kept)
                self.assertEqual(kept, meaning(many, NAMED).kept)

    def test_british_and_american_words_are_one(self):
        for one, other in [("courgette", "zucchini"), ("aubergine", "eggplant"), ("prawn", "shrimp"),
                           ("yoghurt", "yogurt"), ("soya", "soy"), ("coriander", "cilantro"), ("rocket", "arugula"),
                           ("garbanzo", "chickpea"), ("chili", "chilli"), ("maize", "corn")]:  # fmt: skip
            with self.subTest(word=one):
                kept = meaning(one, NAMED).kept
                self.assertTrue(kept)
                self.assertEqual(kept, meaning(other, NAMED).kept)

    def test_the_name_of_each_reference_food_keeps_that_food_out(self):
        for row, named in zip(FOODS, NAMED, strict=True):
            head = row["name"].partition(",")[0].partition("(")[0].strip()
            with self.subTest(name=head):
                # "Pepper" alone asks about the black one, which is in nearly everything.
                self.assertEqual(keeps_out(head, named), row["food_id"] != "pepper-black-ground-dry")

    @given(st.text(max_size=40))
    def test_any_text_is_looked_up_without_a_fault(self, word):
        for named in NAMED[::97]:
            self.assertIn(keeps_out(word, named), (True, False))

    def test_no_word_has_two_senses(self):
        words = [word for sense in SENSES for word in sense.words]
        self.assertEqual(len(words), len(set(words)))


class WhatIsNotMeant(unittest.TestCase):
    def test_a_name_that_denies_the_word(self):
        for name in ("Stock, no salt", "Salt free seasoning", "Stew without salt"):
            with self.subTest(name=name):
                self.assertFalse(keeps_out("salt", Named(names=(name,))))
        self.assertTrue(keeps_out("salt", Named(names=("Sea salt, fine",))))

    def test_what_stands_in_for_an_animal_is_none(self):
        for name in ("Vegan cheese", "Plant-based chicken pieces", "Veggie chicken burger"):
            with self.subTest(name=name):
                self.assertFalse(any(keeps_out(word, Named(names=(name,))) for word in ("cheese", "chicken")))

    def test_what_may_be_meant_as_well_is_asked(self):
        asked = {
            word: {other for other, _ in meaning(word, NAMED).wider} for word in ("nuts", "butter", "olives", "egg")
        }
        self.assertLessEqual({"peanut", "coconut"}, asked["nuts"])
        self.assertLessEqual({"peanut butter", "butter bean"}, asked["butter"])
        self.assertEqual(asked["olives"], {"olive oil"})
        self.assertEqual(asked["egg"], set())

    def test_what_is_asked_about_is_not_kept_out_yet_and_would_be(self):
        for word in ("nuts", "butter", "milk", "wheat", "peppers", "beans"):
            told = meaning(word, NAMED)
            self.assertTrue(told.wider, word)
            for other, indices in told.wider:
                with self.subTest(word=word, other=other):
                    self.assertFalse(set(indices) & set(told.kept))
                    self.assertLessEqual(set(indices), set(meaning(other, NAMED).kept))

    def test_a_word_that_nothing_is_called_by_says_so_and_what_it_may_be_a_slip_of(self):
        told = meaning("brocoli", NAMED)
        self.assertEqual((told.kept, told.wider, told.spelling), ((), (), "broccoli"))
        self.assertIsNone(meaning("zzzz", NAMED).spelling)
        self.assertEqual(meaning(" ", NAMED).kept, ())


def _dish(**parts: tuple[Any, ...]) -> dict[str, Contents]:
    """Components by key: a name, and foods as (name, allergens)."""
    return {
        key: Contents(
            name=name,
            foods=tuple((food, Named(names=(food,), allergens=frozenset(allergens))) for food, allergens in foods),
        )
        for key, (name, *foods) in parts.items()
    }


class KeptFromAClient(unittest.TestCase):
    def test_a_food_an_allergen_and_the_name_of_the_component(self):
        parts = _dish(
            a=("Eggs", ("Grandmother's mix", [])),
            b=("Sauce", ("Mayonnaise", ["eggs", "mustard"])),
            c=("Rice", ("Rice", [])),
        )
        found = reasons("Breakfast", parts, avoided=["mustard"], words=["eggs"])
        self.assertEqual(found["a"], (Reason(word="eggs", of="Eggs"),))
        self.assertEqual(found["b"], (Reason(word="mustard", of="Mayonnaise"), Reason(word="eggs", of="Mayonnaise")))
        self.assertEqual(found["c"], ())

    def test_a_dish_called_so_is_kept_out_whole_when_no_component_says_what_it_is(self):
        parts = _dish(crust=("Crust", ("Shortcrust", ["gluten"])), filling=("Filling", ("Bought filling", [])))
        found = reasons("Pecan pie", parts, avoided=[], words=["nuts"])
        self.assertEqual({key: [one.of for one in why] for key, why in found.items()},
                         {"crust": ["Pecan pie"], "filling": ["Pecan pie"]})  # fmt: skip

    def test_a_dish_called_so_loses_only_the_component_that_is_it(self):
        parts = _dish(meat=("Pulled pork", ("Pork shoulder", [])), rice=("Rice", ("Rice", [])))
        found = reasons("Pork and rice", parts, avoided=[], words=["pork"])
        self.assertEqual([bool(found[key]) for key in ("meat", "rice")], [True, False])

    def test_nothing_to_avoid_keeps_nothing_out(self):
        self.assertEqual(
            reasons("Stew", _dish(a=("Pot", ("Beef", ["celery"]))), avoided=[], words=["", "  "]), {"a": ()}
        )


if __name__ == "__main__":
    unittest.main()
