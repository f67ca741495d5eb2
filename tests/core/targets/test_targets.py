"""Targets, tolerances, and what a container holds by volume."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import PLATE
from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import AIMED, Nutrient
from yantai.core.portions import Cell, Container, Limit, solve
from yantai.core.targets.targets import KCAL_CONFLICT_KCAL, LIMITS, Target, Tolerance, bands

MACRO_TARGETS = st.tuples(st.floats(1, 100), st.floats(1, 150), st.floats(1, 80))


class Conflicts(unittest.TestCase):
    @given(MACRO_TARGETS)
    def test_the_macros_own_energy_is_never_at_odds(self, macros: tuple[float, float, float]) -> None:
        p, c, f = macros
        energy = 4 * p + 4 * c + 9 * f
        if energy <= LIMITS[Nutrient.KCAL]:
            self.assertIsNone(Target(kcal=energy, protein_g=p, carbohydrate_g=c, fat_g=f).kcal_conflict)

    @given(MACRO_TARGETS, st.floats(-0.09, 0.09))
    def test_a_rounded_label_is_not_at_odds(self, macros: tuple[float, float, float], off: float) -> None:
        p, c, f = macros
        energy = min((4 * p + 4 * c + 9 * f) * (1 + off), LIMITS[Nutrient.KCAL])
        self.assertIsNone(Target(kcal=energy, protein_g=p, carbohydrate_g=c, fat_g=f).kcal_conflict)

    def test_small_meals_have_the_15_kcal(self) -> None:
        # 5 P, 5 C, 2 F are 58 kcal: 10 % would be 5.8 kcal.
        meal = Target(kcal=58 + KCAL_CONFLICT_KCAL, protein_g=5, carbohydrate_g=5, fat_g=2)
        self.assertIsNone(meal.kcal_conflict)
        self.assertAlmostEqual(replace(meal, kcal=58 + 16).kcal_conflict or 0, 16)
        self.assertAlmostEqual(replace(meal, kcal=58 - 16).kcal_conflict or 0, -16)


class Aims(unittest.TestCase):
    def test_only_what_is_given_is_aimed_at(self) -> None:
        self.assertEqual(set(Target(kcal=500, fat_g=0).aims), {Nutrient.KCAL, Nutrient.FAT})

    def test_every_aim_has_its_tolerance_and_weight(self) -> None:
        cells = (Cell(per_100g=PLATE["turkey"], share=1),)
        target = Target(kcal=500, protein_g=40, carbohydrate_g=50, fat_g=15)
        aims = {aim.nutrient: aim for aim in Container(cells=cells, target=target, tolerance=Tolerance()).aims}
        self.assertEqual(set(aims), set(AIMED))
        self.assertEqual((aims[Nutrient.KCAL].low, aims[Nutrient.KCAL].high, aims[Nutrient.FAT].high), (470, 530, 18))
        self.assertGreater(aims[Nutrient.PROTEIN].priority, aims[Nutrient.FAT].priority)

    def test_a_tolerance_of_nothing_is_to_the_gram(self) -> None:
        cells = (Cell(per_100g=PLATE["turkey"], share=1),)
        exact = Container(cells=cells, target=Target(protein_g=27), tolerance=Tolerance(protein_g=0))
        found = solve(exact)  # 27 g of protein stand in exactly 100 g
        self.assertEqual((found.grams, found.met), ((100.0,), True))


class Volume(unittest.TestCase):
    def cells(self, density: float) -> tuple[Cell, ...]:
        return tuple(
            Cell(per_100g=PLATE[name], share=100, density_g_per_ml=density) for name in ("turkey", "bulgur", "sauce")
        )

    def container(self, density: float, capacity: float | None) -> Container:
        target = Target(protein_g=45, carbohydrate_g=55, fat_g=16)
        return Container(cells=self.cells(density), target=target, tolerance=Tolerance(), capacity_ml=capacity)

    def test_volume_is_grams_over_density(self) -> None:
        found = solve(self.container(0.5, None))
        self.assertAlmostEqual(found.volume_ml, sum(found.grams) / 0.5)

    def test_light_food_fills_a_container_sooner(self) -> None:
        heavy, light = solve(self.container(1.0, 400)), solve(self.container(0.5, 400))
        self.assertTrue(heavy.met)
        self.assertFalse(light.met)
        self.assertTrue(light.full)
        self.assertLessEqual(sum(light.grams), 200 + 1e-9)

    @given(st.floats(60, 900))
    def test_no_capacity_is_exceeded(self, capacity: float) -> None:
        found = solve(self.container(0.8, capacity))
        self.assertLessEqual(found.volume_ml, capacity + 1e-6)
        self.assertTrue(all(limit in (Limit.FREE, Limit.AT_LEAST) for limit in found.limits))


class Percent(unittest.TestCase):
    def test_a_band_in_percent_grows_with_its_target(self) -> None:
        """5 % of 40 g are 2 g, of 60 g 3 g; 10 % of 500 kcal are 50 kcal."""
        tolerance = Tolerance(percent=True, protein_g=5, kcal=10)
        small = {aim.nutrient: aim for aim in bands(Target(protein_g=40, kcal=500), tolerance)}
        self.assertEqual((small[Nutrient.PROTEIN].low, small[Nutrient.PROTEIN].high), (38, 42))
        self.assertEqual((small[Nutrient.KCAL].low, small[Nutrient.KCAL].high), (450, 550))
        large = {aim.nutrient: aim for aim in bands(Target(protein_g=60), tolerance)}
        self.assertEqual(
            (large[Nutrient.PROTEIN].low, large[Nutrient.PROTEIN].high, large[Nutrient.PROTEIN].scale), (57, 63, 3)
        )

    @given(MACRO_TARGETS, st.floats(0, 100))
    def test_it_is_the_band_of_the_same_amounts(self, macros: tuple[float, float, float], share: float) -> None:
        p, c, f = macros
        target = Target(protein_g=p, carbohydrate_g=c, fat_g=f)
        shares = Tolerance(percent=True, protein_g=share, carbohydrate_g=share, fat_g=share)
        amounts = Tolerance(protein_g=p * share / 100, carbohydrate_g=c * share / 100, fat_g=f * share / 100)
        self.assertEqual(bands(target, shares), bands(target, amounts))

    def test_more_than_all_of_it_is_refused(self) -> None:
        with self.assertRaisesRegex(CoreError, "0 to 100 %"):
            Tolerance(percent=True, fat_g=101)
