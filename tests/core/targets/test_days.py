"""A day: extras off first, slots share the rest, and how it stands in the end."""

from __future__ import annotations

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.targets.days import Day, as_targeted, slots_of_day, standings
from yantai.core.targets.targets import Target, Tolerance

P, C, F, KCAL = Nutrient.PROTEIN, Nutrient.CARBOHYDRATE, Nutrient.FAT, Nutrient.KCAL


def amounts(protein: float, carbohydrate: float, fat: float, sodium_mg: float = 0) -> Amounts:
    kcal = 4 * protein + 4 * carbohydrate + 9 * fat
    known = {P: protein, C: carbohydrate, F: fat, KCAL: kcal, Nutrient.SODIUM: sodium_mg}
    return Amounts(tuple(known.get(nutrient, 0.0) for nutrient in NUTRIENTS))


SHAKE = amounts(30, 10, 2)


class ByHand(unittest.TestCase):
    def test_the_shake_comes_off_and_two_meals_share_the_rest(self) -> None:
        """150 - 30 = 120 g protein: 72 g for the lunch of 60 %, 48 g for the dinner of 40 %."""
        day = Day(figures={P: 150, C: 250, F: 62}, extras=SHAKE)
        self.assertEqual(day.left, {P: 120, C: 240, F: 60})
        self.assertEqual(day.share(0.6), {P: 72, C: 144, F: 36})
        self.assertEqual(day.share(0.4), {P: 48, C: 96, F: 24})

    def test_extras_beyond_the_day_leave_nothing_and_are_named(self) -> None:
        day = Day(figures={P: 25, C: 250, Nutrient.FIBRE: 30}, extras=SHAKE)
        self.assertEqual(day.left[P], 0)
        self.assertEqual(day.over, {P: 5})

    def test_a_day_of_containers_inside_their_tolerance_is_inside(self) -> None:
        """Two containers 3 g of protein over each: 6 g over on the day, the tolerance of both together."""
        day = Day(figures={P: 150, Nutrient.SODIUM: 2000}, extras=SHAKE)
        protein, sodium = standings(day, [amounts(63, 0, 0, 900), amounts(63, 0, 0, 1150)], Tolerance(protein_g=3))
        self.assertEqual((protein.amount, protein.tolerance, protein.miss), (156, 6, 0))
        self.assertEqual((sodium.amount, sodium.tolerance, sodium.miss), (2050, 0, 50))
        (over,) = standings(Day(figures={P: 150}, extras=SHAKE), [amounts(128, 0, 0)], Tolerance(protein_g=3))
        self.assertEqual(over.miss, 5)

    def test_a_tolerance_in_percent_is_of_what_the_extras_leave(self) -> None:
        """5 % of 120 g are 6 g, however many containers there are."""
        day = Day(figures={P: 150}, extras=SHAKE)
        for containers in ([amounts(127, 0, 0)], [amounts(60, 0, 0), amounts(67, 0, 0)]):
            (protein,) = standings(day, containers, Tolerance(percent=True, protein_g=5))
            self.assertEqual((protein.tolerance, protein.miss), (6, 1))

    def test_limits_miss_on_one_side_only(self) -> None:
        day = Day(figures={KCAL: 500, Nutrient.FIBRE: 30, Nutrient.SODIUM: 2000})
        _, fibre, sodium = standings(day, [amounts(0, 125, 0, 100)], Tolerance())
        self.assertEqual((fibre.miss, sodium.miss), (-30, 0))

    def test_of_a_sum_that_is_not_all_known_only_what_is_certain_is_told(self) -> None:
        """Below a figure, and below a most, the unknown part decides; a most that is passed and a least that is reached
        stay so, whatever it is."""
        day = Day(figures={P: 100, Nutrient.FIBRE: 30, Nutrient.SODIUM: 2000})
        for share, unsure in ((0.5, [True, True, True]), (1.0, [True, False, True]), (1.5, [False, False, False])):
            held = dict(zip((P, Nutrient.FIBRE, Nutrient.SODIUM), (100, 30, 2000), strict=True))
            known = Amounts(tuple(share * held.get(n, 0.0) for n in NUTRIENTS), frozenset(NUTRIENTS))
            exact = Amounts(known.known)
            with self.subTest(share=share):
                self.assertEqual([one.unsure for one in standings(day, [known], Tolerance())], unsure)
                self.assertFalse(any(one.unsure for one in standings(day, [exact], Tolerance())))

    def test_a_container_as_its_target_says(self) -> None:
        held = as_targeted({P: 45, C: 55, F: 16})
        self.assertEqual(held[KCAL], 45 * 4 + 55 * 4 + 16 * 9)
        self.assertNotIn(KCAL, held.at_least)
        self.assertIn(Nutrient.SODIUM, held.at_least)
        self.assertIn(C, as_targeted({P: 45}).at_least)

    def test_the_slots_of_a_day(self) -> None:
        """A training lunch stands in for the lunch of any day."""
        slots = [("lunch", "any"), ("Lunch", "training"), ("dinner", "any"), ("lunch", "rest")]
        self.assertEqual(slots_of_day(slots, "Training"), [1, 2])
        self.assertEqual(slots_of_day(slots, "rest"), [2, 3])
        self.assertEqual(slots_of_day(slots, "any"), [0, 2])

    def test_values_that_make_no_sense(self) -> None:
        cases = [({}, "protein_g"), ({Nutrient.FIBRE: 30}, "protein_g"), ({P: -1}, P), ({KCAL: 20_000}, KCAL)]
        for figures, field in cases:
            with self.subTest(figures=figures), self.assertRaises(CoreError) as caught:
                Day(figures=figures)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(CoreError):
            Day(figures={P: 100}).share(1.2)

    def test_half_a_portion_of_another_plan(self) -> None:
        half = Target(protein_g=45, carbohydrate_g=55, fat_g=16, sodium_mg=900).times(0.5)
        self.assertEqual(half, Target(protein_g=22.5, carbohydrate_g=27.5, fat_g=8, sodium_mg=450))
        for factor in (0, 0.05, 6):
            with self.subTest(factor=factor), self.assertRaises(CoreError):
                half.times(factor)


FIGURES = st.fixed_dictionaries({P: st.integers(1, 300), C: st.integers(0, 600), F: st.integers(0, 200)})
EXTRAS = st.tuples(st.integers(0, 80), st.integers(0, 120), st.integers(0, 60))
SHARES = st.lists(st.integers(1, 20), min_size=1, max_size=6)


class Properties(unittest.TestCase):
    @given(FIGURES, EXTRAS, SHARES)
    def test_shares_that_make_a_whole_add_up_to_the_day(
        self, figures: dict[Nutrient, int], extras: tuple[int, int, int], parts: list[int]
    ) -> None:
        """Against fractions: extras + all meals are the day, or the extras where they are more than it."""
        day = Day(figures=dict(figures), extras=amounts(*extras))
        for index, nutrient in enumerate((P, C, F)):
            exact = sum(max(Fraction(figures[nutrient]) - extras[index], Fraction(0)) * part for part in parts)
            meals = sum(day.share(part / sum(parts))[nutrient] for part in parts if part / sum(parts) >= 0.01)
            if all(part / sum(parts) >= 0.01 for part in parts):
                self.assertAlmostEqual(meals, float(exact / sum(parts)), places=9)
                self.assertAlmostEqual(meals + extras[index], max(figures[nutrient], extras[index]), places=9)

    @given(FIGURES, EXTRAS, st.floats(0.1, 3))
    def test_a_day_made_of_its_own_rest_misses_nothing(
        self, figures: dict[Nutrient, int], extras: tuple[int, int, int], tolerance: float
    ) -> None:
        day = Day(figures=dict(figures), extras=amounts(*extras))
        held = as_targeted(day.left)
        for one in standings(day, [held], Tolerance(protein_g=tolerance, carbohydrate_g=tolerance, fat_g=tolerance)):
            beyond = day.over.get(one.nutrient, 0.0)
            self.assertAlmostEqual(one.miss, max(beyond - tolerance, 0), places=9)
