"""Whether a recipe can meet a target: by hand, against grids of every amount, and however it is divided."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import food
from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.yields import UNCHANGED
from yantai.core.foods.nutrients import Amounts, Nutrient
from yantai.core.planning.dishes import ContainerClass, Dish, Part
from yantai.core.planning.fit import MOST_CONTAINERS, Fit, fits, missed
from yantai.core.planning.portioning import Bounds, School
from yantai.core.targets.targets import Target, Tolerance


def part(name: str, held: Amounts, **more) -> Part:
    line = Line(name=name, purchased_g=1000, composition=held, yield_range=UNCHANGED)
    return Part(component=Component(name=name, lines=(line,), cooked=False), share=1000, **more)


MINCE = part("Mince", food(25, 0, 8), bounds=Bounds(maximum_g=300))
GRAIN = part("Grain", food(4, 25, 1), bounds=Bounds(maximum_g=300))
PLATE = {"mince": MINCE, "grain": GRAIN}


def eater(protein: float, carbohydrate: float, fat: float | None = None, **more) -> ContainerClass:
    target = Target(protein_g=protein, carbohydrate_g=carbohydrate, fat_g=fat)
    return ContainerClass(target=target, tolerance=Tolerance(), count=7, **more)


class ByHand(unittest.TestCase):
    def test_a_target_in_reach(self) -> None:
        """200 g grain hold 50 g carbohydrate and 8 g protein; 150 g mince the other 37.5 g."""
        (found,) = fits(Dish(parts=PLATE), [eater(45.5, 50)])
        self.assertTrue(found.met)
        self.assertEqual((found.missed, found.containers), (0, None))

    def test_a_target_out_of_reach_says_by_how_much(self) -> None:
        """300 g mince and 300 g grain hold 87 g protein; 120 - 3 - 87 leave 30 g, ten tolerances, squared and twice."""
        (found,) = fits(Dish(parts=PLATE), [eater(120, 75)])
        self.assertFalse(found.met)
        self.assertAlmostEqual(found.portions.misses[Nutrient.PROTEIN], -30)
        self.assertAlmostEqual(found.missed, 2 * 10**2)

    def test_what_must_be_left_out_is(self) -> None:
        (found,) = fits(Dish(parts=PLATE), [eater(45.5, 50, left_out=frozenset({"mince"}))])
        self.assertEqual(found.portions.grams[0], 0)
        self.assertFalse(found.met)

    def test_a_loaf_for_everyone_is_cut_into_the_number_that_fits(self) -> None:
        """1,000 g with 200 g carbohydrate: a fifth of it holds 40 g."""
        loaf = {"loaf": part("Loaf", food(5, 20, 1), school=School.EQUAL_SPLIT)}
        (found,) = fits(Dish(parts=loaf), [eater(10, 40)])
        self.assertTrue(found.met)
        self.assertEqual((found.containers, found.portions.grams), (5, (200.0,)))


def as_eater(target: tuple[float, float, float]) -> ContainerClass:
    return eater(*target)


EATERS = st.tuples(st.integers(5, 120), st.integers(5, 160), st.integers(2, 60)).map(as_eater)


def score(target: Target, protein: float, carbohydrate: float, fat: float) -> float:
    """The weighted miss of such a container, written out anew."""
    total = 0.0
    for aim, held, priority, band in (
        (target.protein_g, protein, 2, 3),
        (target.carbohydrate_g, carbohydrate, 1, 5),
        (target.fat_g, fat, 1, 3),
    ):
        total += priority * (max(abs(held - (aim or 0)) - band, 0) / band) ** 2
    return total


class AgainstEveryAmount(unittest.TestCase):
    @given(EATERS)
    def test_no_pair_of_amounts_is_nearer(self, each: ContainerClass) -> None:
        (found,) = fits(Dish(parts=PLATE), [each])
        best = min(
            score(each.target, mince * 0.25 + grain * 0.04, grain * 0.25, mince * 0.08 + grain * 0.01)
            for mince, grain in itertools.product(range(0, 301, 5), repeat=2)
        )
        self.assertEqual(found.met, best < 1e-6)
        self.assertLessEqual(found.missed, best * 1.01 + 1e-6)
        self.assertGreaterEqual(found.missed, best * 0.999 - 1e-6)

    @given(st.lists(EATERS, min_size=1, max_size=5))
    def test_each_is_answered_as_if_alone(self, classes: list[ContainerClass]) -> None:
        together = fits(Dish(parts=PLATE), classes)
        self.assertEqual([fits(Dish(parts=PLATE), [each])[0] for each in classes], list(together))

    @given(EATERS)
    def test_no_other_division_is_nearer(self, each: ContainerClass) -> None:
        loaf = {"loaf": part("Loaf", food(5, 20, 1), school=School.EQUAL_SPLIT)}
        (found,) = fits(Dish(parts=loaf), [each])

        portions = [1000 / count // 5 * 5 for count in range(1, MOST_CONTAINERS + 1)]
        best = min(score(each.target, grams * 0.05, grams * 0.2, grams * 0.01) for grams in portions)
        self.assertAlmostEqual(found.missed, best, delta=1e-2)


SCHOOLS = {
    School.BY_COMPONENT: {},
    School.PIECES: {"unit_g": 40.0},
    School.FIXED_MEASURE: {"unit_g": 55.0, "unit_part": 0.5},
    School.ONE_POT: {},
    School.BUILT_RAW: {},
    School.PLATE_SHARES: {"plate_share": 2.0},
    School.BY_EYE: {"eye_g": 70.0},
}


class EverySchool(unittest.TestCase):
    @given(st.sampled_from(sorted(SCHOOLS)), EATERS)
    def test_the_grams_keep_the_school_and_the_miss_is_theirs(self, school: School, each: ContainerClass) -> None:
        parts = {
            "mince": part("Mince", food(25, 0, 8), bounds=Bounds(maximum_g=300), school=school, **SCHOOLS[school]),
            "grain": part("Grain", food(4, 25, 1), bounds=Bounds(maximum_g=300)),
        }
        (found,) = fits(Dish(parts=parts), [each])
        mince, grain = found.portions.grams
        if school is School.PIECES:
            self.assertAlmostEqual(mince / 40, round(mince / 40), places=6)
        if school is School.FIXED_MEASURE:
            self.assertAlmostEqual(mince / 27.5, round(mince / 27.5), places=6)
        if school is School.BY_EYE:
            self.assertEqual(mince, 70)
        if school is School.PLATE_SHARES:
            self.assertEqual(mince, 300)  # alone on the usual plate of 450 g, but for its most
        self.assertTrue(0 <= grain <= 300)
        held = (mince * 0.25 + grain * 0.04, grain * 0.25, mince * 0.08 + grain * 0.01)
        self.assertAlmostEqual(found.missed, score(each.target, *held), delta=1e-2)

    @given(EATERS)
    def test_a_pot_less_never_comes_nearer(self, each: ContainerClass) -> None:
        whole = fits(Dish(parts=PLATE), [each])[0]
        for key in PLATE:
            less = fits(Dish(parts=PLATE), [replace(each, left_out=frozenset({key}))])[0]
            self.assertLessEqual(whole.missed, less.missed * 1.01 + 1e-6)


class TheMiss(unittest.TestCase):
    def test_it_is_weighed_by_the_clients_own_tolerance_and_priorities(self) -> None:
        """30 g of protein at a tolerance of 1 g and a priority of 4: 32 beyond, squared, four times."""
        strict = replace(eater(120, 75), tolerance=Tolerance(protein_g=1, priority_protein_g=4))
        found: Fit = fits(Dish(parts=PLATE), [strict])[0]
        self.assertAlmostEqual(found.missed, 4 * 32**2)
        self.assertAlmostEqual(missed(strict, found.portions), found.missed)
