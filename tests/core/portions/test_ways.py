"""Ways out against a search by hand, and the reach map against linear programming."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog

from tests.core.examples import OIL, PLATE, food
from tests.core.portions.test_portions import EXAMPLE_C, misses
from yantai.core.foods.nutrients import MACROS, Amounts, Nutrient
from yantai.core.portions import Hold, solve
from yantai.core.portions.problem import Cell, Container
from yantai.core.portions.reach import reach_map, shares_of
from yantai.core.portions.ways import can_meet, reachable_target, sides, ways_out
from yantai.core.portions.words import binding_words
from yantai.core.targets.targets import Target, Tolerance

TIGHT = replace(EXAMPLE_C, tolerance=Tolerance(protein_g=0.5, carbohydrate_g=0.5, fat_g=2))
"""Example C with a fat tolerance that the pinned sauce does not allow."""


def meets(container: Container, grams: tuple[float, ...]) -> bool:
    return max(misses(container, grams).values()) <= 1e-3


class WaysOut(unittest.TestCase):
    def test_the_least_sauce_that_meets_example_c(self) -> None:
        """Against every gram of sauce, turkey and bulgur there is."""
        least = min(
            sauce
            for sauce in range(41, 110)
            for turkey, bulgur in itertools.product(range(105, 130), range(145, 170))
            if meets(TIGHT, (turkey, bulgur, 120, sauce))
        )
        ways = {way.index: way for way in ways_out(TIGHT, solve(TIGHT))}
        sauce = ways[3]
        self.assertEqual((sauce.hold, sauce.was, sauce.now), (Hold.PINNED, 40, least))
        self.assertTrue(sauce.portions.met)

    def test_every_way_is_proven_and_the_least_moved_comes_first(self) -> None:
        ways = ways_out(TIGHT, solve(TIGHT))
        self.assertTrue(ways)
        self.assertEqual([way.moved for way in ways], sorted(way.moved for way in ways))
        for way in ways:
            self.assertTrue(meets(TIGHT, way.portions.grams))

    def test_a_bound_gives_way_no_further_than_needed(self) -> None:
        """45 g of protein from turkey alone, at most 100 g of it: 27 % protein, so 165 g less the tolerance of 3 g."""
        cells = (Cell(per_100g=PLATE["turkey"], share=1, maximum_g=100),)
        container = Container(cells=cells, target=Target(protein_g=45), tolerance=Tolerance(protein_g=3))
        (way,) = ways_out(container, solve(container))
        self.assertEqual((way.hold, way.was, way.now), (Hold.AT_MOST, 100, 156))  # 42 / 0.27 = 155.6

    def test_a_larger_container(self) -> None:
        """The same turkey, 0.8 g/ml: 156 g need 195 ml, so one of 200 ml."""
        cells = (Cell(per_100g=PLATE["turkey"], share=1),)
        container = Container(
            cells=cells, target=Target(protein_g=45), tolerance=Tolerance(protein_g=3), capacity_ml=120
        )
        (way,) = ways_out(container, solve(container))
        self.assertEqual((way.hold, way.was, way.now), (Hold.VOLUME, 120, 200))

    def test_an_exclusion_never_gives_way(self) -> None:
        cells = (*TIGHT.cells[:3], replace(TIGHT.cells[3], left_out=True))
        container = replace(TIGHT, cells=cells)
        now = solve(container)
        self.assertIn(Hold.LEFT_OUT, {binding.hold for binding in now.bindings})
        self.assertNotIn(3, {way.index for way in ways_out(container, now)})

    def test_some_oil_beside_it(self) -> None:
        """Fat is 13.4 g; 21 ± 2 wants 5.6 g more, so six grams of oil."""
        fatter = replace(TIGHT, target=replace(TIGHT.target, fat_g=21, kcal=None))
        best = next(sides(fatter, solve(fatter), [PLATE["beans"], OIL]))
        self.assertEqual((best.offer, best.grams), (1, 6))
        self.assertTrue(best.portions.met)

    def test_nobody_is_asked_to_weigh_a_gram_of_oil(self) -> None:
        """16 ± 2 wants a gram more and takes no more than 4.6: nothing of that is worth a line on the sheet."""
        self.assertEqual([one.grams for one in sides(TIGHT, solve(TIGHT), [OIL])], [])

    def test_what_cannot_be_met_off_the_steps_cannot_be_met_on_them(self) -> None:
        self.assertFalse(can_meet(TIGHT))
        cells = (replace(TIGHT.cells[0], per_100g=food(26, 0, 10)), *TIGHT.cells[1:])
        self.assertTrue(can_meet(replace(TIGHT, cells=cells)))

    def test_the_target_that_would_be_met(self) -> None:
        now = solve(TIGHT)
        eased = replace(TIGHT.target, **{n.value: v for n, v in reachable_target(TIGHT, now).items()})
        self.assertTrue(solve(replace(TIGHT, target=eased)).met)

    def test_limits_in_words(self) -> None:
        words = [binding_words(b, ["Turkey", "Bulgur", "Beans", "Sauce"]) for b in solve(TIGHT).bindings]
        self.assertEqual(words[0], "Sauce is pinned at 40 g and more would help")

    @settings(max_examples=60, deadline=None)
    @example(p=60.0, c=20.0, f=14.0, beans=134.625, most=30.0)  # no room: the solver went round in circles
    @given(st.floats(20, 60), st.floats(20, 80), st.floats(5, 30), st.floats(20, 150), st.floats(30, 200))
    def test_whatever_is_offered_meets_and_breaks_nothing_else(
        self, p: float, c: float, f: float, beans: float, most: float
    ) -> None:
        cells = (
            Cell(per_100g=PLATE["turkey"], share=120, maximum_g=most),
            Cell(per_100g=PLATE["bulgur"], share=160, minimum_g=60),
            Cell(per_100g=PLATE["beans"], share=120, pinned_g=beans),
            Cell(per_100g=PLATE["sauce"], share=40, maximum_g=40),
        )
        target = Target(protein_g=p, carbohydrate_g=c, fat_g=f)
        container = Container(cells=cells, target=target, tolerance=Tolerance(), capacity_ml=900)
        now = solve(container)
        assume(not now.met)
        for way in ways_out(container, now):
            self.assertTrue(meets(container, way.portions.grams))
            for index, (cell, grams) in enumerate(zip(cells, way.portions.grams, strict=True)):
                if index != way.index:
                    self.assertTrue(cell.bounds_g[0] - 1e-6 <= grams <= cell.bounds_g[1] + 1e-6)


def a_mix(per_100g: list[Amounts], target: Target) -> bool:
    """Whether some grams of these foods hold exactly the target's proportions, by linear programming."""
    aims = [target.protein_g or 0, target.carbohydrate_g or 0, target.fat_g or 0]
    rows = np.array([[one[n] for one in per_100g] for n in MACROS])
    return bool(linprog(np.zeros(len(per_100g)), A_eq=rows, b_eq=aims, bounds=(0, None)).status == 0)


class Reach(unittest.TestCase):
    def test_shares_by_hand(self) -> None:
        """45 / 55 / 16: 180 + 220 + 144 = 544 kcal."""
        shares = shares_of(45, 55, 16)
        assert shares is not None
        self.assertAlmostEqual(shares.protein, 180 / 544)
        self.assertAlmostEqual(shares.fat, 144 / 544)
        self.assertIsNone(shares_of(0, 0, 0))

    def test_corners_of_the_triangle(self) -> None:
        for macros, corner in (((1, 0, 0), (0.5, 3**0.5 / 2)), ((0, 1, 0), (0, 0)), ((0, 0, 1), (1, 0))):
            shares = shares_of(*macros)
            assert shares is not None
            for found, expected in zip(shares.at, corner, strict=True):
                self.assertAlmostEqual(found, expected)

    def test_foods_on_a_line_or_a_point(self) -> None:
        target = Target(protein_g=40, carbohydrate_g=40, fat_g=1)
        for foods, inside in (
            ([food(20, 0, 0), food(0, 20, 0)], False),
            ([food(20, 20, 0.5)], True),
            ([food(20, 0, 0), food(10, 10, 0), food(0, 20, 0)], False),
            ([food(0, 0, 0)], False),
        ):
            with self.subTest(foods=len(foods)):
                self.assertEqual(reach_map(foods, [target]).inside, (inside,))

    def test_a_target_without_all_macros_has_no_point(self) -> None:
        found = reach_map([food(20, 0, 0)], [Target(protein_g=40)])
        self.assertEqual((found.targets, found.inside), ((None,), (None,)))

    @settings(max_examples=150, deadline=None)
    @given(
        st.lists(st.builds(food, st.integers(0, 30), st.integers(0, 30), st.integers(0, 30)), min_size=3, max_size=6),
        st.integers(1, 60),
        st.integers(1, 80),
        st.integers(1, 40),
    )
    def test_inside_is_what_some_mix_gives(self, foods: list[Amounts], p: int, c: int, f: int) -> None:
        assume(all(one[Nutrient.KCAL] > 0 for one in foods))
        target = Target(protein_g=p, carbohydrate_g=c, fat_g=f)
        (inside,) = reach_map(foods, [target]).inside
        self.assertEqual(inside, a_mix(foods, target))
