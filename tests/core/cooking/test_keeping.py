"""How long what is cooked keeps in bulk, against the shipped table of shelf lives."""

from __future__ import annotations

import csv
import unittest
from importlib.resources import files

from yantai.core.cooking.keeping import bulk_days


def table() -> dict[str, int]:
    text = files("yantai.reference").joinpath("data/shelf.csv").read_text()
    return {row["category"]: int(row["fridge_days_cautious"]) for row in csv.DictReader(text.splitlines())}


class Keeping(unittest.TestCase):
    def test_the_food_that_keeps_least_decides(self) -> None:
        rice, fish, chicken = ("Rice, white", "grains-pasta"), ("Cod", "fish-shellfish"), ("Chicken", "poultry")
        self.assertEqual(bulk_days([chicken]), 3)
        self.assertEqual(bulk_days([chicken, fish]), 2)
        self.assertEqual(bulk_days([fish, rice, chicken]), 1)
        self.assertEqual(bulk_days([]), 3)

    def test_rice_wine_is_no_rice(self) -> None:
        self.assertEqual(bulk_days([("Rice wine (sake)", "sauces-stocks")]), 3)

    def test_it_is_never_longer_than_the_table_says(self) -> None:
        days = table()
        for category, group, name in (
            ("cooked rice", "grains-pasta", "Rice, brown, long-grain"),
            ("cooked fish", "fish-shellfish", "Salmon"),
            ("cooked shellfish", "fish-shellfish", "Shrimp"),
            ("cooked poultry pieces or slices", "poultry", "Chicken thigh"),
            ("cooked ground meat or meatballs", "beef", "Ground beef"),
            ("cooked quinoa, bulgur, couscous, barley and other grains", "grains-pasta", "Bulgur"),
            ("cooked pasta and noodles", "grains-pasta", "Pasta"),
            ("cooked legumes", "legumes", "Lentils"),
            ("cooked potatoes, boiled or roasted", "potatoes-roots", "Potato"),
            ("roasted vegetables", "vegetables", "Carrot"),
        ):
            with self.subTest(category=category):
                self.assertLessEqual(bulk_days([(name, group)]), days[category])
