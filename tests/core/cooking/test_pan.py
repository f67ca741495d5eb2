"""What a pan loses, gains and is made into: fat poured off, bones, pieces, rounds, sizes; and written steps."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import food, keeps
from yantai.core.cooking.components import Component, Line, rounds
from yantai.core.cooking.scaling import Scalable, factor_for, factor_for_packs, scaled
from yantai.core.cooking.steps import read_step, temperatures_c
from yantai.core.errors import CoreError, OutOfRange
from yantai.core.foods.free_foods import is_free
from yantai.core.foods.nutrients import Nutrient, composition

BEEF = Line(
    name="Ground beef, 80 % lean",
    purchased_g=1000,
    composition=composition(protein_g=17.2, carbohydrate_g=0, fat_g=20, saturated_g=7.6),
    yield_range=keeps(0.7, 0.05),
)


class PouredFat(unittest.TestCase):
    def test_by_hand(self) -> None:
        """200 g fat, 80 g poured off: 120 g stay; 4×172 + 9×120 = 1,768 kcal; saturated 76 × 120/200 = 45.6 g."""
        pan = Component(name="Beef", lines=(BEEF,), poured_fat_g=80)
        self.assertAlmostEqual(pan.totals[Nutrient.FAT], 120)
        self.assertAlmostEqual(pan.totals[Nutrient.KCAL], 1768)
        self.assertAlmostEqual(pan.totals[Nutrient.SATURATED], 45.6)
        self.assertAlmostEqual(pan.totals[Nutrient.PROTEIN], 172)

    def test_more_than_there_was_is_refused(self) -> None:
        with self.assertRaises(CoreError) as caught:
            Component(name="Beef", lines=(BEEF,), poured_fat_g=210)
        self.assertEqual(caught.exception.field, "poured_fat_g")
        self.assertIn("at most 200 g", str(caught.exception))
        self.assertEqual(Component(name="Beef", lines=(BEEF,), poured_fat_g=200).totals[Nutrient.FAT], 0)

    @given(st.floats(0, 1), st.floats(0.1, 10))
    def test_it_scales_with_the_pan(self, share: float, factor: float) -> None:
        pan = Component(name="Beef", lines=(BEEF,), poured_fat_g=200 * share)
        larger = pan.times(factor)
        for nutrient, value in pan.per_100g:
            self.assertAlmostEqual(larger.per_100g[nutrient], value, places=6)


class Bones(unittest.TestCase):
    def test_bones_that_come_off_after_cooking_stand_on_the_scale(self) -> None:
        """1,000 g with 30 % bone: 700 g edible, 300 g on the scale later; the yield is of the edible part."""
        leg = Line(
            name="Drumstick", purchased_g=1000, refuse_share=0.3, refuse_after=True, composition=food(19, 0, 8),
            yield_range=keeps(0.75, 0.05),
        )  # fmt: skip
        pan = Component(name="Legs", lines=(leg,))
        self.assertAlmostEqual(pan.left_on_g, 300)
        self.assertAlmostEqual(pan.in_pan_g, 1000)
        self.assertAlmostEqual(pan.expected_g, 525)
        trimmed = Component(name="Legs", lines=(replace(leg, refuse_after=False),))
        self.assertEqual(trimmed.left_on_g, 0)
        self.assertAlmostEqual(trimmed.in_pan_g, 700)
        self.assertEqual(pan.per_100g, trimmed.per_100g)


class NotCounted(unittest.TestCase):
    def test_what_the_rule_leaves_out_is_known(self) -> None:
        oil = Line(name="Spray", purchased_g=10, composition=food(0, 0, 100), yield_range=keeps(1, 0), counted=False)
        pan = Component(name="Beef", lines=(BEEF, oil))
        self.assertAlmostEqual(pan.uncounted[Nutrient.KCAL], 90)
        self.assertEqual(pan.totals, Component(name="Beef", lines=(BEEF,)).totals)
        self.assertAlmostEqual(pan.cooked_g, 710)  # its weight is there all the same

    def test_kinds_of_free_food(self) -> None:
        self.assertTrue(is_free("Paprika", "herbs-spices", ["seasoning"]))
        self.assertTrue(is_free("Vinegar, balsamic", "sauces-stocks", ["vinegar"]))
        self.assertFalse(is_free("Olive oil", "fats-oils", ["spray", "seasoning", "vinegar"]))
        self.assertFalse(is_free("Paprika", "herbs-spices", []))


class PiecesAndRounds(unittest.TestCase):
    def test_pieces_share_the_weighed_total(self) -> None:
        pan = Component(name="Patties", lines=(BEEF,), measured_g=720, pieces=12)
        self.assertEqual(pan.piece_g, 60)
        with self.assertRaises(OutOfRange):
            Component(name="Patties", lines=(BEEF,), pieces=0)

    def test_equal_rounds(self) -> None:
        self.assertEqual(rounds(2256, 900), (3, 752))
        self.assertEqual(rounds(900, 900), (1, 900))
        with self.assertRaises(OutOfRange):
            rounds(500, 0)

    @given(st.floats(1, 50_000), st.floats(10, 10_000))
    def test_no_round_is_larger_than_the_pan_and_one_fewer_would_be(self, grams: float, capacity: float) -> None:
        count, size = rounds(grams, capacity)
        self.assertLessEqual(size, capacity * (1 + 1e-6))
        self.assertAlmostEqual(count * size, grams, places=6)
        if count > 1:
            self.assertGreater(grams / (count - 1), capacity * (1 - 1e-6))


class Scaling(unittest.TestCase):
    def test_everything_follows_but_what_is_marked(self) -> None:
        lines = [Scalable(purchased_g=1000), Scalable(purchased_g=90), Scalable(purchased_g=0.2, scales=False)]
        self.assertEqual(scaled(lines, 1.5), [1500, 135, 0.2])

    def test_by_what_is_on_hand_and_by_packs(self) -> None:
        self.assertAlmostEqual(factor_for(1000, 1340), 1.34)
        self.assertEqual(factor_for_packs(1000, 400), (1.2, 3))  # three packs are 1,200 g
        self.assertEqual(factor_for_packs(800, 400), (1.0, 2))
        self.assertEqual(factor_for_packs(1000, 400, packs=2), (0.8, 2))

    def test_refusals(self) -> None:
        for call in (
            lambda: factor_for(0, 500),
            lambda: scaled([], 0),
            lambda: scaled([], 1000),
            lambda: factor_for_packs(1, 0),
        ):
            with self.assertRaises(CoreError):
                call()


class Steps(unittest.TestCase):
    def test_times_heat_and_equipment(self) -> None:
        cases = {
            "Bake on two trays at 210 °C, 18 minutes.": (None, 18, 210, "oven", None),
            "Fry for 10 minutes, stirring": (10, None, None, "hob", None),
            "Simmer 1 h 20 min": (None, 80, None, "hob", None),
            "Roast at 400 F for 25-30 minutes": (None, 27.5, 204.4, "oven", None),
            "Soak the beans overnight": (None, 480, None, "", 480),
            "Marinate for 2 hours in the fridge": (None, 120, None, "fridge", 120),
            "Marinate for 30 minutes in the fridge": (None, 30, None, "fridge", 30),
            "Marinate for 29 minutes in the fridge": (None, 29, None, "fridge", None),
            "Gas mark 4, 40 min": (40, None, 176.7, "", None),  # mark 4 is 350 °F
            "Season": (None, None, None, "", None),
        }
        for text, (hands, unattended, heat, equipment, lead) in cases.items():
            with self.subTest(text=text):
                step = read_step(text)
                self.assertEqual(
                    (step.hands_on_min, step.unattended_min, step.equipment, step.lead_min),
                    (hands, unattended, equipment, lead),
                )
                self.assertEqual(None if step.temperature_c is None else round(step.temperature_c, 1), heat)

    def test_degrees_that_disagree_are_told(self) -> None:
        self.assertIsNone(read_step("Bake at 180 °C (350 °F)").temperatures_apart)
        self.assertIsNotNone(read_step("Bake at 180 °C (400 °F)").temperatures_apart)
        # A third is another stage of the step, not the same oven said once more.
        self.assertIsNone(read_step("Bake at 180 °C (350 °F), then grill at 240 °C").temperatures_apart)
        # A twentieth of the larger is what ovens differ by: 190 °C and 200 °C are one heat, 189 and 200 are two.
        self.assertIsNone(read_step("Bake at 190 °C or 200 °C").temperatures_apart)
        self.assertEqual(read_step("Bake at 189 °C or 200 °C").temperatures_apart, (189, 200))
        self.assertIsNone(read_step("Bake at 180 °C, fan 160 °C").temperatures_apart)

    def test_what_the_food_reaches_is_no_oven_temperature(self) -> None:
        for text, oven in {
            "Bake on two trays at 210 °C, 18 minutes, to 74 °C inside.": 210,
            "Roast at 200 °C until the core reads 165 °F": 200,
            "Roast until the middle reaches 75 °C, at 180 °C": 180,
            "Cook to an internal temperature of 74 °C": None,
            "Fry till 74 °C in the thickest part": None,
            "Simmer, 75 °C in the middle": None,
            "Cool to 5 °C within 90 minutes": None,
            "Keep below 5 °C in the fridge": None,
            "Hold above 63 °C": None,
            "Heat the oven to 200 °C": 200,
            "Turn down to 160 °C for 20 minutes": 160,
            "Slow-roast at 90 °C for 4 hours": 90,
            "Bake on the middle shelf at 220 °C": 220,
            "Warm the plates. Dry at 80 °C for 3 hours": 80,
            "Bake until done. Dry at 80 °C": 80,
        }.items():
            with self.subTest(text):
                step = read_step(text)
                self.assertEqual(step.temperature_c, oven)
                self.assertIsNone(step.temperatures_apart)
        self.assertEqual([round(t) for t in temperatures_c("from 200C down to 350F")], [200, 177])
