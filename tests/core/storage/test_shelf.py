from __future__ import annotations

import csv
import doctest
import random
import re
import unittest
from pathlib import Path

from tests.core.storage.table import content, foods, rows_of, shelf
from yantai.core.cooking.components import UNCOOKED, Role
from yantai.core.errors import CoreError
from yantai.core.storage import matching
from yantai.core.storage import shelf as shelf_module
from yantai.core.storage.matching import SANDWICH, WRAP, Match, Stuff, filled_bread, match
from yantai.core.storage.shelf import Freezes, KeptPart, ShelfRow, ShelfRule, keeping

CASES = Path(__file__).parents[2] / "data" / "shelf_matches.csv"


def stuff(foods: dict[str, float], role: Role = Role.PROTEIN, method: str = UNCOOKED, raw: bool = False) -> Stuff:
    contents = tuple(content(food_id, grams) for food_id, grams in foods.items())
    return Stuff(contents=contents, role=role, method=method, packed_raw=raw)


def part_of(one: Stuff, key: str = "part") -> KeptPart:
    return KeptPart(key=key, name=key, rows=tuple(shelf()[found.category] for found in match(one)))


class Corpus(unittest.TestCase):
    """Components as kitchens cook them, and how long they keep; half of the cases were set aside until all was done."""

    def test_every_case(self) -> None:
        for case in csv.DictReader(CASES.read_text(encoding="utf-8").splitlines()):
            pairs = (entry.rsplit(" ", 1) for entry in case["foods"].split("; "))
            grams = {food_id: float(weight) for food_id, weight in pairs}
            one = stuff(grams, Role(case["role"]), case["method"], case["packed_raw"] == "yes")
            found = keeping([part_of(one)], ShelfRule.CAUTIOUS)
            with self.subTest(case["foods"], method=case["method"]):
                self.assertEqual(found.fridge_days, int(case["days"]) if case["days"] else None)
                self.assertEqual(found.usual_days, int(case["usual"]) if case["usual"] else None)
                self.assertEqual(found.freezes, Freezes(case["freezes"]))
                self.assertEqual(found.shortest[1].category if found.shortest else "", case["deciding"])


class Matching(unittest.TestCase):
    def test_examples(self) -> None:
        for module in (matching, shelf_module):
            self.assertEqual(doctest.testmod(module).failed, 0)

    def test_a_match_tells_the_foods_that_made_it(self) -> None:
        found = match(stuff({"chicken-breast-skinless-raw": 900, "broccoli-raw": 600}, method="stir-fried"))
        self.assertEqual(
            found,
            (
                Match(category="cooked poultry pieces or slices", foods=("Chicken breast, skinless",)),
                Match(category="roasted vegetables", foods=("Broccoli",)),
            ),
        )

    def test_a_little_rice_or_fish_in_a_stew_counts(self) -> None:
        stew = {"chicken-thigh-skinless-raw": 1000.0, "carrot-raw": 500.0, "chicken-broth-reduced-sodium": 1000.0}
        for food, days in (("rice-white-long-grain-dry", 1), ("shrimp-peeled-untreated-raw", 2), ("carrot-raw", 3)):
            one = stuff({**stew, food: 100.0}, Role.MIXED, "simmered")
            self.assertEqual(keeping([part_of(one)], ShelfRule.CAUTIOUS).fridge_days, days, food)

    def test_water_and_seasoning_do_not_decide(self) -> None:
        one = stuff({"rice-white-long-grain-dry": 300, "parsley-fresh-raw": 5, "olive-oil": 10}, Role.GRAIN, "boiled")
        self.assertEqual([found.category for found in match(one)], ["cooked rice"])

    def test_what_no_row_names_is_assumed(self) -> None:
        odd = matching.Content(name="House blend", group="other", state="as-sold", grams=100)
        (found,) = match(Stuff(contents=(odd,), role=Role.MIXED, method="simmered"))
        self.assertTrue(found.assumed)
        self.assertEqual(found.category, matching.ASSUMED)

    def test_what_is_stirred_with_water_does_not_keep_without_end(self) -> None:
        self.assertEqual(match(stuff({"tahini": 100}, Role.SAUCE)), ())
        (dressing,) = match(stuff({"tahini": 100, "lemon-juice-raw": 40}, Role.SAUCE))
        self.assertTrue(dressing.assumed)
        self.assertEqual(shelf()[dressing.category].cautious_days, 4)

    def test_filled_bread(self) -> None:
        wrap, bun = stuff({"tortilla-flour": 60}, Role.GRAIN), stuff({"burger-or-hot-dog-bun-white": 60}, Role.GRAIN)
        chicken, ham = stuff({"chicken-breast-skinless-raw": 100}, method="grilled"), stuff({"prosciutto": 50})
        salad = stuff({"lettuce-romaine-raw": 40}, Role.VEGETABLE)
        self.assertEqual(filled_bread([wrap, chicken, salad]), WRAP)
        self.assertEqual(filled_bread([bun, ham]), SANDWICH)
        self.assertEqual(filled_bread([wrap, ham]), SANDWICH)
        self.assertIsNone(filled_bread([wrap, salad]))
        self.assertIsNone(filled_bread([chicken, salad]))


def plainly(food_id: str, method: str) -> str | None:
    """The row of one food, read off its id by a list of words: written apart from the rules, for foods alone."""
    food = foods()[food_id]
    group, state = food["group"], food["state"]
    meat = group in ("poultry", "beef", "pork", "lamb-game")
    ground = re.search(r"^ground|sausage|bratwurst", food_id)
    if meat and state == "raw":
        if method == "none":
            return "raw poultry or ground meat" if ground or group == "poultry" else "raw steaks chops and roasts"
        if ground:
            return "cooked ground meat or meatballs"
        if method in ("braised", "slow-cooked"):
            return "stewed, braised or pulled meat"
        if group == "poultry":
            return "cooked poultry pieces or slices"
        return "cooked beef, pork or lamb roasts and steaks"
    if group == "fish-shellfish" and state == "raw":
        if method == "none":
            return "raw fish"
        shell = re.search(r"^(shrimp|scallops|mussels|squid|crab)", food_id)
        return "cooked shellfish" if shell else "cooked fish"
    if group == "grains-pasta" and state == "dry" and method in ("boiled", "simmered"):
        if re.search(r"^(rice-(?!noodles)|wild-rice)", food_id):
            return "cooked rice"
        if re.search(r"pasta|noodles", food_id):
            return "cooked pasta and noodles"
        if food_id.startswith("oat"):
            return "cooked porridge"
        if not re.search(r"germ|bran", food_id):
            return "cooked quinoa, bulgur, couscous, barley and other grains"
    if group == "legumes" and state == "dry" and method in ("boiled", "simmered"):
        return "cooked legumes"
    if group == "vegetables" and state == "raw" and not re.search(r"tomato|nori", food_id):
        if method in ("boiled", "steamed"):
            return "steamed or boiled vegetables"
        if method in ("roasted", "grilled"):
            return "roasted vegetables"
    return None


class AgainstAnother(unittest.TestCase):
    """1,000 random containers of one to five foods, each cooked apart: days and freezer by a second way."""

    def test_random_containers(self) -> None:
        chance = random.Random(15)
        methods = ("none", "boiled", "simmered", "steamed", "roasted", "grilled", "braised", "slow-cooked")
        known = [(food, method, row) for food in foods() for method in methods if (row := plainly(food, method))]
        table = {row["category"]: row for row in rows_of("shelf.csv")}
        seen = set()
        for _ in range(1000):
            taken = chance.sample(known, chance.randint(1, 5))
            parts = [
                part_of(stuff({food: 100.0 + 900 * chance.random()}, method=method), key=food)
                for food, method, _ in taken
            ]
            rows = [table[row] for _, _, row in taken]
            seen |= {row["category"] for row in rows}
            for rule, column in ((ShelfRule.CAUTIOUS, "cautious"), (ShelfRule.USUAL, "usual_max")):
                found = keeping(parts, rule)
                self.assertEqual(found.fridge_days, min(int(row[f"fridge_days_{column}"]) for row in rows), taken)
                self.assertEqual(found.freezer_days, 30 * min(int(row["freezer_months_quality"]) for row in rows))
                words = {row["freezes_well"] for row in rows}
                worst = "no" if "no" in words else "with care" if "with care" in words else "yes"
                self.assertEqual(found.freezes, worst, taken)
                self.assertEqual(
                    [part.key for part in found.apart],
                    [food for food, _, row in taken if table[row]["freezes_well"] == "no"],
                )
        self.assertGreaterEqual(len(seen), 14)

    def test_every_food_by_every_method_has_rows_of_the_table(self) -> None:
        for food_id in foods():
            for method in ("none", "boiled", "roasted", "pan-fried", "slow-cooked", "microwaved", "steeped"):
                for raw in (False, True):
                    for found in match(stuff({food_id: 300.0}, Role.MIXED, method, raw)):
                        self.assertIn(found.category, shelf(), food_id)

    def test_meat_fish_and_egg_never_keep_without_end(self) -> None:
        for food_id, food in foods().items():
            if food["group"] in ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs"):
                for method in ("none", "boiled", "roasted", "pan-fried", "slow-cooked", "microwaved"):
                    days = keeping([part_of(stuff({food_id: 300.0}, method=method))], ShelfRule.CAUTIOUS).fridge_days
                    self.assertIsNotNone(days, food_id)
                    self.assertLessEqual(days or 99, 3, food_id)


class Rows(unittest.TestCase):
    def test_a_row_that_contradicts_itself_is_refused(self) -> None:
        with self.assertRaises(CoreError):
            ShelfRow(category="x", cautious_days=4, usual_days=3, freezer_months=1, freezes=Freezes.YES)
        with self.assertRaises(CoreError):
            ShelfRow(category="x", cautious_days=1, usual_days=3, freezer_months=2, freezes=Freezes.NO)

    def test_nothing_that_limits_keeps_and_freezes(self) -> None:
        found = keeping([KeptPart(key="nuts", name="Nuts", rows=())], ShelfRule.CAUTIOUS)
        self.assertEqual((found.fridge_days, found.freezes, found.freezer_days), (None, Freezes.YES, None))
