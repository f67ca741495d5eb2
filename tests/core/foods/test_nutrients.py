"""The algebra of nutrient amounts, by properties and by hand."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import food
from yantai.core.cooking.weighing import VesselWeight, net_weight_g
from yantai.core.foods import energy
from yantai.core.foods.allergens import ALLERGENS, conflicts
from yantai.core.foods.energy import general_kcal
from yantai.core.foods.nutrients import NOTHING, NUTRIENTS, Amounts, Nutrient, Stated, composition, total

STATED = st.one_of(st.none(), st.floats(0, 30))
COMPOSITIONS = st.builds(
    composition,
    protein_g=STATED,
    carbohydrate_g=STATED,
    fat_g=STATED,
    fibre_g=STATED,
    sugars_g=STATED,
    saturated_g=STATED,
    sodium_mg=st.one_of(st.none(), st.floats(0, 4000)),
    alcohol_g=STATED,
)


class Algebra(unittest.TestCase):
    def assert_same(self, one: Amounts, other: Amounts) -> None:
        for nutrient in NUTRIENTS:
            self.assertAlmostEqual(one[nutrient], other[nutrient], delta=1e-9 * (1 + one[nutrient]))

    @given(COMPOSITIONS, COMPOSITIONS, COMPOSITIONS)
    def test_sums_in_any_order_are_the_same(self, a: Amounts, b: Amounts, c: Amounts) -> None:
        self.assert_same(total([a, b, c]), total([c, a, b]))
        self.assertEqual(total([a, b, c]).at_least, total([total([b, a]), c]).at_least)

    @given(COMPOSITIONS, st.floats(0.1, 500), st.floats(0.1, 500))
    def test_two_portions_are_one_of_both(self, per_100g: Amounts, one: float, other: float) -> None:
        parts = total([per_100g.in_grams(one), per_100g.in_grams(other)])
        self.assert_same(parts, per_100g.in_grams(one + other))

    @given(COMPOSITIONS, st.floats(1, 5000))
    def test_spread_and_gathered_again(self, amounts: Amounts, grams: float) -> None:
        self.assert_same(amounts.per_100g_of(grams).in_grams(grams), amounts)

    @given(COMPOSITIONS)
    def test_what_is_known_is_never_lost_by_what_is_not(self, amounts: Amounts) -> None:
        unknown = composition(protein_g=None, carbohydrate_g=None, fat_g=None)
        mixed = total([amounts, unknown])
        self.assert_same(mixed, amounts)
        self.assertEqual(mixed.at_least, frozenset(NUTRIENTS))

    def test_nothing_is_the_empty_sum(self) -> None:
        self.assertEqual(total([]), NOTHING)
        self.assertEqual(NOTHING.at_least, frozenset())


class EnergyRule(unittest.TestCase):
    @given(st.floats(0, 30), st.floats(0, 30), st.floats(0, 30), st.floats(0, 10))
    def test_a_foods_energy_is_that_of_its_macros(self, p: float, c: float, f: float, alcohol: float) -> None:
        amounts = composition(protein_g=p, carbohydrate_g=c, fat_g=f, alcohol_g=alcohol)
        by_hand = 4 * p + 4 * c + 9 * f + 7 * alcohol
        self.assertAlmostEqual(amounts[Nutrient.KCAL], by_hand, delta=1e-9 * (1 + by_hand))
        self.assertNotIn(Nutrient.KCAL, amounts.at_least)

    @given(st.floats(0, 100), st.floats(0, 100), st.floats(0, 100), st.floats(0.1, 10))
    def test_it_is_linear(self, p: float, c: float, f: float, k: float) -> None:
        once = general_kcal(protein_g=p, carbohydrate_g=c, fat_g=f)
        scaled = general_kcal(protein_g=k * p, carbohydrate_g=k * c, fat_g=k * f)
        self.assertAlmostEqual(scaled, k * once, delta=1e-9 * (1 + scaled))

    def test_fat_weighs_more_than_twice_as_much_as_protein(self) -> None:
        self.assertEqual(food(0, 0, 100)[Nutrient.KCAL] / food(100, 0, 0)[Nutrient.KCAL], 2.25)


class Weighings(unittest.TestCase):
    @given(st.lists(st.tuples(st.floats(1, 5000), st.floats(0, 3000)), min_size=1, max_size=5))
    def test_net_is_what_the_food_weighs_whatever_it_stood_in(self, pans: list[tuple[float, float]]) -> None:
        vessels = [VesselWeight(gross_g=food_g + vessel_g, vessel_g=vessel_g) for food_g, vessel_g in pans]
        self.assertAlmostEqual(net_weight_g(vessels), sum(food_g for food_g, _ in pans), places=6)


class Words(unittest.TestCase):
    @given(st.sets(st.sampled_from(sorted(ALLERGENS))), st.sets(st.sampled_from(sorted(ALLERGENS))))
    def test_conflicts_are_what_both_hold(self, contained: set[str], avoided: set[str]) -> None:
        self.assertEqual(len(conflicts(contained, avoided)), len(contained & avoided))

    def test_the_fourteen_are_there(self) -> None:
        fourteen = [
            "celery",
            "crustaceans",
            "eggs",
            "fish",
            "gluten",
            "lupin",
            "milk",
            "molluscs",
            "mustard",
            "nuts",
            "peanuts",
            "sesame",
            "soybeans",
            "sulphites",
        ]
        self.assertEqual(set(fourteen) - set(ALLERGENS), set())


class Unknown(unittest.TestCase):
    """What a source does not state is a lower bound, and so is the energy that would follow from it."""

    WHOLE = Stated(
        protein_g=10, carbohydrate_g=20, fat_g=5, fibre_g=4, sugars_g=3, saturated_g=2, sodium_mg=100, potassium_mg=250,
        stated_kcal=160,
    )  # fmt: skip

    def test_each_missing_figure_by_itself(self) -> None:
        for name in (nutrient.value for nutrient in NUTRIENTS if nutrient is not Nutrient.KCAL):
            macro = name in ("protein_g", "carbohydrate_g", "fat_g")
            for rule in energy.EnergyRule:
                with self.subTest(name=name, rule=rule):
                    missing: dict[str, Any] = {name: None}
                    held = replace(self.WHOLE, **missing).amounts(energy.Rules(energy=rule))
                    unknown = {name} | ({"kcal"} if macro and rule is not energy.EnergyRule.LABEL else set())
                    self.assertEqual({nutrient.value for nutrient in held.at_least}, unknown)
                    self.assertEqual(held[Nutrient(name)], 0)

    def test_a_label_without_its_energy_counts_by_what_it_states(self) -> None:
        by_label = energy.Rules(energy=energy.EnergyRule.LABEL)
        silent = replace(self.WHOLE, stated_kcal=None)
        self.assertEqual(silent.amounts(by_label).at_least, frozenset())
        fatless = replace(silent, fat_g=None).amounts(by_label)
        self.assertEqual({nutrient.value for nutrient in fatless.at_least}, {"fat_g", "kcal"})

    def test_nothing_missing_by_hand(self) -> None:
        """10 × 4 + 20 × 4 + 5 × 9 = 165; net 16 g: 149; EU 149 + 4 × 2 = 157; the label's own 160."""
        rules = energy.EnergyRule
        for rule, kcal in ((rules.GENERAL, 165), (rules.NET, 149), (rules.EU, 157), (rules.LABEL, 160)):
            with self.subTest(rule=rule):
                held = self.WHOLE.amounts(energy.Rules(energy=rule))
                self.assertEqual((held[Nutrient.KCAL], held.at_least), (kcal, frozenset()))
        available = self.WHOLE.amounts(energy.Rules(carbohydrate=energy.Carbohydrate.AVAILABLE))
        self.assertEqual(available[Nutrient.CARBOHYDRATE], 16)
