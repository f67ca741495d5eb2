from __future__ import annotations

import unittest

from tests.core.storage.table import content, shelf
from yantai.core.cooking.components import UNCOOKED, Role
from yantai.core.storage.calendar import Store
from yantai.core.storage.matching import Stuff, match
from yantai.core.storage.reheating import Warmed, reheating


def part(name: str, food: str, grams: float = 150, method: str = UNCOOKED, kit: str = "") -> Warmed:
    stuff = Stuff(contents=(content(food, 500),), role=Role.PROTEIN, method=method, packed_raw=bool(kit))
    rows = tuple(shelf()[found.category] for found in match(stuff))
    return Warmed(name=name, stuff=stuff, rows=rows, grams=grams, kit_text=kit)


CHICKEN = part("Chicken", "chicken-breast-skinless-raw", 150, "roasted")
RICE = part("Basmati rice", "rice-white-basmati-long-grain-values-dry", 240, "boiled")
SALAD = part("Leaves", "lettuce-romaine-raw", 40)


class Words(unittest.TestCase):
    def test_starch_gets_its_spoonful_of_water(self) -> None:
        """390 g at a minute for each 170 g: 3 minutes."""
        how, short = reheating([CHICKEN, RICE], Store.FRIDGE)
        self.assertEqual(
            how,
            "Lid ajar, about 3 minutes at full power with a tablespoon of water over the basmati rice, stir or turn, "
            "1 minute more: hot all through (74 °C), once only.",
        )
        self.assertEqual(short, "Reheat once, to 74 °C.")

    def test_from_the_freezer_it_is_thawed_first(self) -> None:
        self.assertTrue(reheating([CHICKEN], Store.FREEZER)[0].startswith("Thaw overnight in the fridge. Lid ajar"))

    def test_what_is_cold_is_taken_out_and_toppings_go_on_after(self) -> None:
        how, _ = reheating([CHICKEN, SALAD], Store.FRIDGE, ["Mint yoghurt", "Rye bread"])
        self.assertIn("Take out Leaves first. Lid ajar, about 2 minutes", how)
        self.assertTrue(how.endswith("Mint yoghurt and Rye bread on after."), how)

    def test_what_is_all_cold_is_eaten_cold(self) -> None:
        self.assertEqual(reheating([SALAD], Store.FRIDGE), ("Eat cold.", "Eat cold."))
        self.assertEqual(
            reheating([SALAD], Store.FREEZER, ["Dip"])[0], "Thaw overnight in the fridge. Eat cold. Dip with it."
        )

    def test_a_raw_kit_is_cooked_and_not_warmed(self) -> None:
        kit = part("Kit", "chicken-thigh-skinless-raw", kit="Slow cooker, 4 hours on high")
        how, short = reheating([kit], Store.FREEZER)
        self.assertEqual(how, "Raw: cook it on the day. Slow cooker, 4 hours on high.")
        self.assertIn("cook it through", short)
        self.assertNotIn("full power", how)
