from __future__ import annotations

import math
import unittest
from dataclasses import replace
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import BULGUR, CHICKEN, OIL, WATER, food, keeps
from yantai.core.cooking.components import Component, Line, LineRole
from yantai.core.cooking.yields import TAKEN_UP, UNCHANGED, YieldRange, YieldSource, balance_yield, yield_factor
from yantai.core.errors import CoreError, OutOfRange
from yantai.core.foods.edible import edible_g, purchased_g
from yantai.core.foods.energy import general_kcal
from yantai.core.foods.nutrients import NOTHING, NUTRIENTS, Amounts, Nutrient, composition, total

GRAMS = st.floats(0.5, 5000)
PER_100G = st.builds(
    food, st.floats(0, 33), st.floats(0, 33), st.floats(0, 33), fibre_g=st.one_of(st.none(), st.floats(0, 10))
)
LINES = st.builds(
    Line,
    name=st.just("x"),
    purchased_g=GRAMS,
    composition=PER_100G,
    yield_range=st.floats(0.3, 3).map(keeps),
    refuse_share=st.floats(0, 0.9),
    retained_share=st.floats(0.1, 1),
    role=st.sampled_from(LineRole),
)
COMPONENTS = st.builds(
    Component,
    name=st.just("pan"),
    lines=st.lists(LINES, min_size=1, max_size=6).map(tuple),
    measured_g=st.one_of(st.none(), GRAMS),
)


class WorkedExamples(unittest.TestCase):
    def test_example_a_chicken_thigh(self) -> None:
        self.assertAlmostEqual(CHICKEN.lines[0].edible_g, 2256)
        self.assertAlmostEqual(CHICKEN.yield_factor, 0.750, places=9)
        self.assertAlmostEqual(CHICKEN.totals[Nutrient.PROTEIN], 444.4, delta=0.05)
        self.assertAlmostEqual(CHICKEN.totals[Nutrient.FAT], 122.5, delta=0.05)
        self.assertAlmostEqual(CHICKEN.per_100g[Nutrient.PROTEIN], 26.27, delta=0.005)
        self.assertAlmostEqual(CHICKEN.per_100g[Nutrient.FAT], 7.24, delta=0.005)
        portion = CHICKEN.per_100g.in_grams(150)
        self.assertAlmostEqual(portion[Nutrient.PROTEIN], 39.4, delta=0.05)
        self.assertAlmostEqual(portion[Nutrient.FAT], 10.9, delta=0.05)

    def test_example_b_bulgur_on_its_dry_weight(self) -> None:
        self.assertAlmostEqual(BULGUR.yield_factor, 2.775, places=9)
        expected = {
            Nutrient.PROTEIN: 4.43,
            Nutrient.CARBOHYDRATE: 27.35,
            Nutrient.FIBRE: 4.50,
            Nutrient.FAT: 0.47,
        }
        for nutrient, value in expected.items():
            with self.subTest(nutrient=nutrient):
                self.assertAlmostEqual(BULGUR.per_100g[nutrient], value, delta=0.005)

    def test_example_a_in_fractions(self) -> None:
        """Independent of floats and of the code: the same sum in exact rational numbers."""
        edible = Fraction(2400) * Fraction(94, 100)
        protein = edible * Fraction(197, 1000)
        fat = edible * Fraction(41, 1000) + 30
        self.assertAlmostEqual(CHICKEN.totals[Nutrient.PROTEIN], float(protein), places=9)
        self.assertAlmostEqual(CHICKEN.totals[Nutrient.FAT], float(fat), places=9)
        self.assertAlmostEqual(CHICKEN.per_100g[Nutrient.KCAL], float((4 * protein + 9 * fat) / 1692 * 100), places=9)


class Energy(unittest.TestCase):
    def test_by_hand(self) -> None:
        self.assertEqual(general_kcal(protein_g=10, carbohydrate_g=20, fat_g=5, alcohol_g=2), 40 + 80 + 45 + 14)

    def test_missing_macro_makes_energy_a_lower_bound(self) -> None:
        amounts = composition(protein_g=10, carbohydrate_g=None, fat_g=1)
        self.assertEqual(amounts[Nutrient.KCAL], 49)
        self.assertIn(Nutrient.KCAL, amounts.at_least)
        self.assertNotIn(Nutrient.PROTEIN, amounts.at_least)

    def test_an_amount_is_a_number_of_zero_or_more(self) -> None:
        for bad in (-1.0, math.nan, math.inf):
            with self.subTest(value=bad), self.assertRaises(CoreError):
                food(bad, 0, 0)
        with self.assertRaises(CoreError):
            Amounts((1.0, 2.0))


class Missing(unittest.TestCase):
    def test_carried_as_at_least_through_sum_and_portion(self) -> None:
        known, unknown = food(1, 2, 3, fibre_g=4), food(1, 2, 3, fibre_g=None)
        mixed = total([known.in_grams(100), unknown.in_grams(50)])
        self.assertEqual(mixed.at_least, {Nutrient.FIBRE})
        self.assertEqual(mixed[Nutrient.FIBRE], 4)
        self.assertIn(Nutrient.FIBRE, mixed.per_100g_of(300).in_grams(80).at_least)

    def test_none_of_a_food_leaves_nothing_unknown(self) -> None:
        self.assertEqual(food(1, 2, 3, fibre_g=None).in_grams(0), NOTHING)


class Edible(unittest.TestCase):
    def test_by_hand(self) -> None:
        self.assertAlmostEqual(edible_g(1000, 0.28), 720)

    def test_all_refuse_is_refused(self) -> None:
        for share in (-0.1, 0.96, math.nan):
            with self.subTest(share=share), self.assertRaises(OutOfRange) as caught:
                edible_g(100, share)
            self.assertEqual(caught.exception.field, "refuse_share")

    @given(GRAMS, st.floats(0, 0.95))
    def test_back_and_forth(self, bought: float, refuse: float) -> None:
        self.assertAlmostEqual(purchased_g(edible_g(bought, refuse), refuse), bought, delta=1e-9 * bought)


class Yields(unittest.TestCase):
    def test_factor_and_loss(self) -> None:
        self.assertAlmostEqual(yield_factor(1692, 2256), 0.75)
        self.assertAlmostEqual(keeps(0.74).loss, 0.26)

    def test_balance_by_hand(self) -> None:
        """22.53 g protein raw over 31.02 g roasted: the 0.726 of the reference pair."""
        found = balance_yield(22.53, 31.02)
        self.assertAlmostEqual(found.expected, 0.726, delta=0.0005)
        self.assertAlmostEqual(found.low, 0.9 * found.expected)

    def test_a_range_holds_its_own_expectation(self) -> None:
        with self.assertRaises(CoreError):
            YieldRange(low=0.8, expected=0.7, high=0.9, source=YieldSource.GROUP)
        with self.assertRaises(OutOfRange):
            keeps(8.5)

    def test_water_is_taken_up_once(self) -> None:
        """The dry weight's yield already holds the water: 600 g at 2.7 are 1,620 g, and 5 g of salt."""
        dry, _, salt = BULGUR.lines
        pan = Component(
            name="Bulgur",
            lines=(
                dry,
                Line(
                    name="Water",
                    purchased_g=1150,
                    composition=WATER,
                    yield_range=TAKEN_UP,
                    role=LineRole.WATER,
                ),
                salt,
            ),
        )
        self.assertAlmostEqual(pan.expected_g, 1625)

    def test_a_dressing_refers_to_all_of_it(self) -> None:
        oil = Line(name="Oil", purchased_g=60, composition=OIL, yield_range=UNCHANGED, role=LineRole.FAT)
        juice = Line(name="Lemon", purchased_g=40, composition=food(0.4, 7, 0.2), yield_range=UNCHANGED)
        self.assertEqual(Component(name="Dressing", lines=(oil, juice), cooked=False).basis_g, 100)
        self.assertEqual(Component(name="Oil", lines=(oil,)).basis_g, 60)

    def test_the_yield_of_a_pan_with_one_food_is_that_foods(self) -> None:
        one = Line(name="Rice", purchased_g=100, composition=food(7, 78, 1), yield_range=keeps(2.8))
        none = replace(one, name="Peas", purchased_g=0, yield_range=keeps(0.9))
        other = replace(none, purchased_g=1)
        for lines, found in (((one,), one.yield_range), ((one, none), one.yield_range), ((one, other), None)):
            with self.subTest(lines=len(lines)):
                self.assertEqual(Component(name="Pan", lines=lines).expected_yield, found)

    def test_set_yield_replaces_the_lines(self) -> None:
        pan = Component(name="x", lines=CHICKEN.lines, set_yield=keeps(0.7))
        self.assertAlmostEqual(pan.expected_g, 0.7 * 2256)
        self.assertLess(pan.expected_low_g, pan.expected_g)
        self.assertGreater(pan.expected_high_g, pan.expected_g)


class Properties(unittest.TestCase):
    @given(COMPONENTS)
    def test_macros_stay_in_the_pan(self, pan: Component) -> None:
        """Whatever the pan weighs, all its 100 g together hold what went in."""
        spread = pan.per_100g.in_grams(pan.cooked_g)
        for nutrient in NUTRIENTS:
            went_in = sum(
                line.purchased_g * (1 - line.refuse_share) * line.retained_share * line.composition[nutrient] / 100
                for line in pan.lines
            )
            self.assertAlmostEqual(spread[nutrient], went_in, delta=1e-9 * (1 + went_in))

    @given(COMPONENTS, st.floats(0.05, 20))
    def test_scaling_raw_and_cooked_together_changes_nothing_per_100g(self, pan: Component, factor: float) -> None:
        scaled = pan.times(factor)
        self.assertAlmostEqual(scaled.cooked_g, pan.cooked_g * factor, delta=1e-9 * (1 + scaled.cooked_g))
        for nutrient in NUTRIENTS:
            self.assertAlmostEqual(
                scaled.per_100g[nutrient], pan.per_100g[nutrient], delta=1e-6 * (1 + pan.per_100g[nutrient])
            )

    @given(COMPONENTS)
    def test_expected_weight_lies_in_its_range(self, pan: Component) -> None:
        self.assertLessEqual(pan.expected_low_g, pan.expected_g + 1e-9)
        self.assertLessEqual(pan.expected_g, pan.expected_high_g + 1e-9)

    def test_an_empty_pan_is_refused_with_the_mend(self) -> None:
        with self.assertRaises(CoreError) as caught:
            Component(name="Pilaf", lines=())
        self.assertIn("at least one ingredient", str(caught.exception))

    def test_a_pan_that_gives_nothing_is_refused(self) -> None:
        water = Line(name="Water", purchased_g=500, composition=WATER, yield_range=TAKEN_UP)
        with self.assertRaises(CoreError) as caught:
            Component(name="Broth", lines=(water,))
        self.assertIn("yield above zero", str(caught.exception))
