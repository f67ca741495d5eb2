"""Every nutrient of every reference food, from the file to the page."""

from __future__ import annotations

import csv
from typing import Any

from tests.api.case import ApiCase, food_id
from yantai.core.foods.nutrients import NUTRIENTS, Nutrient
from yantai.launcher.places import ROOT

FILE = ROOT / "src" / "yantai" / "reference" / "data" / "foods.csv"
BY_RULE = {Nutrient.KCAL, Nutrient.CARBOHYDRATE}
"""These follow the workspace's rules; the others are shown as their source states them."""


class Nutrients(ApiCase):
    def test_each_is_shown_as_the_file_states_it(self) -> None:
        stated = {food_id(row["food_id"]): row for row in csv.DictReader(FILE.read_text(encoding="utf-8").splitlines())}
        shown: dict[str, dict[str, Any]] = {}
        while len(shown) < len(stated) + 1:  # water comes with the application
            page = self.get("/foods", limit="1000", offset=str(len(shown)))["foods"]
            self.assertTrue(page)
            shown |= {food["id"]: food["per_100g"] for food in page}
        for nutrient in sorted(set(NUTRIENTS) - BY_RULE):
            for key, row in stated.items():
                figure = row[nutrient.value]
                with self.subTest(food=row["food_id"], nutrient=nutrient):
                    self.assertAlmostEqual(shown[key][nutrient.value], float(figure or 0), places=3)
                    self.assertEqual(nutrient.value in shown[key]["at_least"], figure == "")

    def test_potassium_of_a_component_by_hand(self) -> None:
        """200 g banana with 358 mg in 100 g and 300 g of an own skyr with 160 mg: 716 + 480 = 1,196 mg."""
        label = {"protein_g": 11, "carbohydrate_g": 4, "fat_g": 0.2, "potassium_mg": 160}
        yoghurt = self.send("POST", "/foods", {"name": "Skyr", "group": "own", "state": "as-sold", "label": label},
                            status=201)  # fmt: skip
        lines = [
            {"food_id": food_id("banana-raw"), "purchased_g": 200},
            {"food_id": yoghurt["food"]["id"], "purchased_g": 300},
        ]
        recipe = {"name": "Bowl", "components": [{"name": "Bowl", "lines": lines}]}
        shown = self.send("POST", "/recipes/preview", recipe)
        totals = shown["components"][0]["figures"]["totals"]
        self.assertAlmostEqual(totals["potassium_mg"], 1196, places=2)


if __name__ == "__main__":
    import unittest

    unittest.main()
