"""What comes out of a pot as a recipe is written: dry food by any method, listed water, yields nobody knows."""

from __future__ import annotations

from typing import Any

from tests.api.case import ApiCase, food_id


class Pots(ApiCase):
    def pot(self, method: str, *lines: tuple[str, float], **rest: Any) -> dict[str, Any]:
        body = {
            "name": "Pot",
            "components": [
                {
                    "name": "Pot",
                    "method": method,
                    "lines": [{"food_id": food_id(food), "purchased_g": grams} for food, grams in lines],
                    **rest,
                }
            ],
        }
        return dict(self.send("POST", "/recipes/preview", body)["components"][0])

    def test_half_a_kilo_of_lentils_gives_1300_g_however_it_is_simmered(self) -> None:
        for method in ("boiled", "simmered", "pressure-cooked", "slow-cooked", "braised", "baked"):
            with self.subTest(method=method):
                found = self.pot(method, ("lentils-brown-or-green-dry", 500))
                self.assertAlmostEqual(found["figures"]["cooked_g"], 1300)
                self.assertEqual(found["findings"], [])

    def test_one_pot_of_rice_water_chicken_and_sauce(self) -> None:
        """4,621 g: see core/cooking/liquids.py; the chicken here is breast, which keeps 0.76 simmered."""
        lines = [
            ("rice-white-long-grain-dry", 800),
            ("water", 1900),
            ("chicken-breast-skinless-raw", 1400),
            ("barbecue-sauce", 521),
        ]
        found = self.pot("simmered", *lines)
        self.assertAlmostEqual(found["figures"]["cooked_g"], 4461.8)
        self.assertLess(found["figures"]["cooked_low_g"], 4470)
        self.assertGreater(found["figures"]["cooked_high_g"], 4470)
        self.assertAlmostEqual(sum(line["cooked_g"] for line in found["lines"]), 4461.8)

    def test_stock_is_water_with_something_in_it(self) -> None:
        plain = self.pot("simmered", ("rice-white-long-grain-dry", 500), ("water", 1000))["figures"]
        stock = self.pot("simmered", ("rice-white-long-grain-dry", 500), ("vegetable-broth-ready-to-serve", 1000))
        self.assertAlmostEqual(stock["figures"]["cooked_g"], plain["cooked_g"])
        self.assertAlmostEqual(stock["figures"]["basis_g"], 500)
        self.assertGreater(stock["figures"]["totals"]["sodium_mg"], plain["totals"]["sodium_mg"])

    def test_a_yield_that_the_coach_gives_for_the_water_is_taken_as_it_is(self) -> None:
        lines = [
            {"food_id": food_id("rice-white-long-grain-dry"), "purchased_g": 500},
            {"food_id": food_id("water"), "purchased_g": 1000, "yield_factor": 0.5},
        ]
        found = self.pot("simmered", lines=lines)
        self.assertAlmostEqual(found["figures"]["cooked_g"], 1400 + 500)

    def test_a_yield_that_nobody_knows_is_found_and_can_be_given(self) -> None:
        pastry = self.pot("boiled", ("phyllo-pastry-raw", 500))
        self.assertEqual([one["code"] for one in pastry["findings"]], ["yield-unknown"])
        self.assertIn("85 % is assumed, 50 to 100 % is possible", pastry["findings"][0]["words"])
        known = self.pot("boiled", ("phyllo-pastry-raw", 500), yield_expected=1.1)
        self.assertEqual([one for one in known["findings"] if one["code"] == "yield-unknown"], [])
