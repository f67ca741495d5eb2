"""The shipped measures, looked at as a whole: what cannot be true of any food."""

from __future__ import annotations

import csv
import unittest
from collections import defaultdict
from pathlib import Path

DATA = Path(__file__).parents[3] / "src" / "yantai" / "reference" / "data"
ML = {"cup": 236.588, "tbsp": 14.787, "tsp": 4.929}
APART = 1.15
"""Table rows round small spoons to a tenth of a gram or to a gram."""


class Measures(unittest.TestCase):
    rows: list[tuple[str, str, float]]
    groups: dict[str, str]

    @classmethod
    def setUpClass(cls) -> None:
        cls.rows = []
        for name in ("measures.csv", "kitchen_measures.csv"):
            with (DATA / name).open(encoding="utf-8") as file:
                cls.rows += [(row["food_id"], row["measure"], float(row["grams"])) for row in csv.DictReader(file)]
        with (DATA / "foods.csv").open(encoding="utf-8") as file:
            cls.groups = {row["food_id"]: row["group"] for row in csv.DictReader(file)}

    def test_each_is_of_a_food_and_weighs_something(self) -> None:
        for food, measure, grams in self.rows:
            with self.subTest(food=food, measure=measure):
                self.assertIn(food, self.groups)
                self.assertGreater(grams, 0)
                self.assertLess(grams, 6000)

    def test_a_cup_and_a_spoon_of_one_food_agree(self) -> None:
        densities: dict[str, dict[str, float]] = defaultdict(dict)
        for food, measure, grams in self.rows:
            if measure in ML:
                densities[food][measure] = grams / ML[measure]
        self.assertGreater(len(densities), 300)
        for food, found in densities.items():
            # A tenth of a gram more or less is much of a spoon of leaves.
            if min(found.values()) > 0.3:
                with self.subTest(food=food):
                    self.assertLessEqual(max(found.values()), APART * min(found.values()), found)

    def test_liquids_have_densities_that_liquids_have(self) -> None:
        words = {
            "oil": (0.9, 0.96), "milk": (0.95, 1.32), "broth": (0.98, 1.03), "stock": (0.97, 1.03),
            "vinegar": (0.99, 1.1), "juice": (1.0, 1.07), "honey": (1.38, 1.46), "syrup": (1.3, 1.5),
            "wine": (0.97, 1.01), "beer": (0.99, 1.02), "yogurt": (0.98, 1.1), "cream": (0.95, 1.05),
        }  # fmt: skip
        seen = set()
        for food, measure, grams in self.rows:
            liquid = next((word for word in words if word in food.split("-")), None)
            if liquid is None or measure not in ML:
                continue
            if liquid != "juice" and self.groups[food] in ("vegetables", "fruit"):
                continue
            if food.endswith("-dry") or food.split("-")[-1] in ("drained", "roasted") or "cheese" in food:
                continue
            seen.add(liquid)
            with self.subTest(food=food, measure=measure):
                low, high = words[liquid]
                self.assertTrue(low <= grams / ML[measure] <= high, grams / ML[measure])
        self.assertEqual(seen, set(words))


if __name__ == "__main__":
    unittest.main()
