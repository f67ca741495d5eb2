from __future__ import annotations

import itertools
import math
import unittest
from collections.abc import Callable
from dataclasses import replace
from random import Random

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog

from tests.core.examples import PLATE, food
from yantai.core.errors import CoreError, OutOfRange
from yantai.core.foods.nutrients import AIMED, Nutrient
from yantai.core.portions import Cell, Container, Limit, solve
from yantai.core.portions.relaxed import least_excess, relaxed
from yantai.core.targets.targets import Target, Tolerance

EXAMPLE_C = Container(
    cells=(
        Cell(per_100g=PLATE["turkey"], share=120),
        Cell(per_100g=PLATE["bulgur"], share=160),
        Cell(per_100g=PLATE["beans"], share=120, pinned_g=120),
        Cell(per_100g=PLATE["sauce"], share=40, pinned_g=40),
    ),
    target=Target(protein_g=45, carbohydrate_g=55, fat_g=16),
    tolerance=Tolerance(protein_g=1, carbohydrate_g=1, fat_g=3),
)


def misses(container: Container, grams: tuple[float, ...]) -> dict[Nutrient, float]:
    """Misses beyond the tolerance, computed from the statement of the problem and not by the solver."""
    found = {}
    for nutrient, target in container.target.aims.items():
        held = sum(g * cell.per_100g[nutrient] for g, cell in zip(grams, container.cells, strict=True)) / 100
        found[nutrient] = max(abs(held - target) - container.tolerance[nutrient], 0.0)
    return found


def weighted_miss(container: Container, grams: tuple[float, ...]) -> float:
    tolerance = container.tolerance
    return sum(
        tolerance.priority(n) * (miss / max(tolerance[n], 10 if n is Nutrient.KCAL else 1)) ** 2
        for n, miss in misses(container, grams).items()
    )


def within_bounds(container: Container, grams: tuple[float, ...]) -> bool:
    return all(
        cell.bounds_g[0] - 1e-9 <= g <= cell.bounds_g[1] + 1e-9 for g, cell in zip(grams, container.cells, strict=True)
    )


class ExampleC(unittest.TestCase):
    def test_fat_inside_three_grams(self) -> None:
        """By hand: 122.8 g turkey and 162.8 g bulgur meet protein and carbohydrate, fat is 13.4 g."""
        found = solve(EXAMPLE_C)
        self.assertTrue(found.met)
        self.assertAlmostEqual(found.grams[0], 122.8, delta=3)
        self.assertAlmostEqual(found.grams[1], 162.8, delta=3)
        self.assertEqual(found.grams[2:], (120, 40))
        self.assertEqual(found.limits[2:], (Limit.PINNED, Limit.PINNED))

    def test_fat_outside_two_grams_and_by_how_much(self) -> None:
        tight = replace(EXAMPLE_C, tolerance=Tolerance(protein_g=0.5, carbohydrate_g=0.5, fat_g=2))
        found = solve(tight)
        self.assertFalse(found.met)
        self.assertLess(found.misses[Nutrient.FAT], 0)
        best = min(
            weighted_miss(tight, (turkey, bulgur, 120, 40))
            for turkey, bulgur in itertools.product(range(100, 150), range(140, 180))
        )
        self.assertAlmostEqual(weighted_miss(tight, found.grams), best, delta=0.01 * best)

    def test_a_freed_sauce_meets_all_three(self) -> None:
        """By hand: sauce 100 g with turkey 111 g and bulgur 152 g."""
        cells = (*EXAMPLE_C.cells[:3], Cell(per_100g=PLATE["sauce"], share=40))
        found = solve(
            replace(EXAMPLE_C, cells=cells, tolerance=Tolerance(protein_g=0.5, carbohydrate_g=0.5, fat_g=0.5))
        )
        self.assertTrue(found.met)
        for grams, expected in zip(found.grams, (111, 152, 120, 100), strict=True):
            self.assertAlmostEqual(grams, expected, delta=6)


class Limits(unittest.TestCase):
    def test_bounds_bind_and_say_so(self) -> None:
        cells = (
            Cell(per_100g=PLATE["turkey"], share=120, maximum_g=80),
            Cell(per_100g=PLATE["bulgur"], share=160, minimum_g=250),
        )
        found = solve(replace(EXAMPLE_C, cells=cells))
        self.assertEqual(found.grams, (80, 250))
        self.assertEqual(found.limits, (Limit.AT_MOST, Limit.AT_LEAST))

    def test_left_out_stays_out_even_when_pinned(self) -> None:
        cells = (*EXAMPLE_C.cells[:3], Cell(per_100g=PLATE["sauce"], share=40, pinned_g=40, left_out=True))
        found = solve(replace(EXAMPLE_C, cells=cells))
        self.assertEqual((found.grams[3], found.limits[3]), (0, Limit.LEFT_OUT))

    def test_steps_of_the_scale(self) -> None:
        cells = tuple(replace(cell, pinned_g=None, minimum_g=12, maximum_g=303) for cell in EXAMPLE_C.cells)
        found = solve(replace(EXAMPLE_C, cells=cells, step_g=5))
        self.assertTrue(all(grams % 5 == 0 and 15 <= grams <= 300 for grams in found.grams), found.grams)

    def test_a_small_container_is_not_overfilled(self) -> None:
        small = replace(EXAMPLE_C, capacity_ml=450)
        found = solve(small)
        self.assertLessEqual(found.volume_ml, 450)
        self.assertTrue(found.full)
        self.assertFalse(solve(EXAMPLE_C).full)

    def test_pins_that_alone_overfill_leave_the_minimum(self) -> None:
        found = solve(replace(EXAMPLE_C, capacity_ml=150))
        self.assertEqual(found.grams, (0, 0, 120, 40))

    def test_out_of_reach_the_recipes_mix_decides_what_the_target_leaves_open(self) -> None:
        """Two of the same food, 1 : 2 in the recipe, and a container for 300 g: 100 and 200 g, not 0 and 300."""
        for shares, grams in (((100, 200), (100, 200)), ((200, 100), (200, 100)), ((150, 150), (150, 150))):
            with self.subTest(shares=shares):
                cells = tuple(Cell(per_100g=PLATE["turkey"], share=share) for share in shares)
                found = solve(replace(EXAMPLE_C, cells=cells, target=Target(protein_g=250), capacity_g=300, step_g=1))
                self.assertFalse(found.met)
                self.assertEqual(tuple(round(one) for one in found.grams), grams)

    def test_the_price_of_a_band_is_the_slope_of_the_miss(self) -> None:
        """One gram more of a target out of reach against the multiplier, both priorities other than one."""
        tolerance = Tolerance(protein_g=2, carbohydrate_g=4, priority_protein_g=3, priority_carbohydrate_g=0.5)
        cells = (
            Cell(per_100g=PLATE["turkey"], share=1, maximum_g=100),
            Cell(per_100g=PLATE["bulgur"], share=1, maximum_g=100),
        )

        def missed(protein: float, carbohydrate: float) -> tuple[float, dict[Nutrient, float]]:
            target = Target(protein_g=protein, carbohydrate_g=carbohydrate)
            container = Container(cells=cells, target=target, tolerance=tolerance)
            found = least_excess(relaxed(container))
            prices = dict(zip((aim.nutrient for aim in container.aims), found.price, strict=True))
            return found.weighted, prices

        here, prices = missed(60, 60)
        for nutrient, more in ((Nutrient.PROTEIN, (60.001, 60)), (Nutrient.CARBOHYDRATE, (60, 60.001))):
            with self.subTest(nutrient=nutrient):
                slope = (missed(*more)[0] - here) / 0.001
                self.assertAlmostEqual(abs(prices[nutrient]), slope, delta=0.01 * slope)

    def test_everything_pinned_is_only_counted(self) -> None:
        cells = tuple(replace(cell, pinned_g=100) for cell in EXAMPLE_C.cells)
        found = solve(replace(EXAMPLE_C, cells=cells))
        self.assertAlmostEqual(found.amounts[Nutrient.PROTEIN], 27.0 + 4.4 + 1.9 + 6.0)

    def test_no_macros_in_any_component(self) -> None:
        found = solve(replace(EXAMPLE_C, cells=(Cell(per_100g=food(0, 0, 0), share=1),)))
        self.assertFalse(found.met)

    def test_bad_values_name_their_field(self) -> None:
        cases: list[tuple[str, Callable[[], object]]] = [
            ("minimum_g", lambda: Cell(per_100g=PLATE["beans"], share=1, minimum_g=50, maximum_g=20)),
            ("grams", lambda: Cell(per_100g=PLATE["beans"], share=1, pinned_g=9000)),
            ("kcal", lambda: Target(kcal=40_000)),
            ("protein_g", lambda: Target(protein_g=-1)),
            ("protein_g", lambda: Target(kcal=0)),
            ("tolerance_fat_g", lambda: Tolerance(fat_g=math.nan)),
            ("step_g", lambda: replace(EXAMPLE_C, step_g=0)),
            ("capacity_ml", lambda: replace(EXAMPLE_C, capacity_ml=-5)),
        ]
        for field, make in cases:
            with self.subTest(field=field), self.assertRaises(CoreError) as caught:
                make()
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(OutOfRange) as out:
            Target(kcal=40_000)
        self.assertIn("from 0 to 4,000 kcal", str(out.exception))


class KcalAgainstMacros(unittest.TestCase):
    def test_conflict_is_told(self) -> None:
        self.assertIsNone(Target(kcal=544, protein_g=45, carbohydrate_g=55, fat_g=16).kcal_conflict)
        self.assertAlmostEqual(Target(kcal=700, protein_g=45, carbohydrate_g=55, fat_g=16).kcal_conflict or 0, 156)
        self.assertIsNone(Target(kcal=700, protein_g=45).kcal_conflict)


COMPOSITIONS = st.builds(food, st.floats(0, 33), st.floats(0, 33), st.floats(0, 33))


@st.composite
def containers(draw: st.DrawFn, *, feasible: bool) -> Container:
    """Random containers; a feasible one is built round a point on its own steps."""
    step = draw(st.sampled_from([1.0, 5.0]))
    cells, point = [], []
    for _ in range(draw(st.integers(1, 5))):
        low = draw(st.integers(0, 40)) * step
        high = low + draw(st.integers(0, 60)) * step
        grams = low + draw(st.integers(0, round((high - low) / step))) * step
        pinned = grams if draw(st.integers(0, 4)) == 0 else None
        cells.append(
            Cell(
                per_100g=draw(COMPOSITIONS),
                share=draw(st.floats(1, 500)),
                minimum_g=low,
                maximum_g=high,
                pinned_g=pinned,
            )
        )
        point.append(grams)
    tolerance = Tolerance(
        kcal=draw(st.floats(0, 40)),
        protein_g=draw(st.floats(0, 4)),
        carbohydrate_g=draw(st.floats(0, 6)),
        fat_g=draw(st.floats(0, 4)),
    )
    if feasible:
        held = {n: sum(g * c.per_100g[n] for g, c in zip(point, cells, strict=True)) / 100 for n in AIMED}
        aims = {n: max(held[n] + draw(st.floats(-0.95, 0.95)) * tolerance[n], 0.0) for n in AIMED}
    else:
        aims = {Nutrient.KCAL: draw(st.floats(50, 1500)), Nutrient.PROTEIN: draw(st.floats(0, 100))}
        aims |= {Nutrient.CARBOHYDRATE: draw(st.floats(0, 150)), Nutrient.FAT: draw(st.floats(0, 60))}
    limit = {Nutrient.KCAL: 4000, Nutrient.PROTEIN: 300, Nutrient.CARBOHYDRATE: 600, Nutrient.FAT: 250}
    assume(any(aims.values()) and all(aims[n] <= limit[n] for n in AIMED))
    target = Target(**{n.value: value for n, value in aims.items()})
    return Container(cells=tuple(cells), target=target, tolerance=tolerance, step_g=step)


def least_linear_miss(container: Container) -> float:
    """Least `Σ w e / σ` over all grams in bounds, by linear programming: another method than the solver's."""
    n, aims = len(container.cells), container.aims
    nutrients = list(container.target.aims)
    tolerances = [container.tolerance[nutrient] for nutrient in nutrients]
    scale = [max(t, 10 if one is Nutrient.KCAL else 1) for t, one in zip(tolerances, nutrients, strict=True)]
    rows, limits = [], []
    for index, nutrient in enumerate(nutrients):
        per_gram = [cell.per_100g[nutrient] / 100 for cell in container.cells]
        slack = [-1.0 if other == index else 0.0 for other in range(len(aims))]
        rows += [[*per_gram, *slack], [*(-value for value in per_gram), *slack]]
        target = container.target.aims[nutrient]
        limits += [target + tolerances[index], tolerances[index] - target]
    cost = [0.0] * n + [aim.priority / s for aim, s in zip(aims, scale, strict=True)]
    bounds = [cell.bounds_g for cell in container.cells] + [(0, None)] * len(aims)
    least = linprog(cost, A_ub=np.array(rows), b_ub=limits, bounds=bounds).fun
    assert least is not None
    return float(least)


class Properties(unittest.TestCase):
    def test_what_the_search_counts_as_met_is_told_as_met(self) -> None:
        """0.05 g of protein from 5 g of the one; 5 g of the other beside it add just the 0.001 g that count as none."""
        cells = tuple(Cell(per_100g=food(protein, 0, 0), share=1, maximum_g=5) for protein in (1.0, 0.02))
        exactly = Tolerance(kcal=1, protein_g=0, carbohydrate_g=0, fat_g=0)
        target = Target(kcal=0.2, protein_g=0.05, carbohydrate_g=0, fat_g=0)
        self.assertTrue(solve(Container(cells=cells, target=target, tolerance=exactly, step_g=5)).met)

    def test_what_is_told_as_a_miss_is_searched_for(self) -> None:
        """7 g of the one give 0.691797 g of fat; 11 g of the other 0.692811 g, 0.0010137 too much, which is a miss."""
        cells = (
            Cell(per_100g=food(0, 0, 9.8828125), share=1, maximum_g=7),
            Cell(per_100g=food(0, 1, 6.298278246660925), share=1, maximum_g=11),
        )
        target = Target(kcal=10.726171875, protein_g=0, carbohydrate_g=0, fat_g=0.691796875)
        exactly = Tolerance(kcal=6, protein_g=0, carbohydrate_g=2, fat_g=0)
        found = solve(Container(cells=cells, target=target, tolerance=exactly, step_g=1))
        self.assertEqual((found.grams, found.met), ((7, 0), True))

    @settings(max_examples=300, deadline=None)
    @given(containers(feasible=True))
    def test_a_feasible_problem_is_met(self, container: Container) -> None:
        found = solve(container)
        self.assertTrue(within_bounds(container, found.grams))
        self.assertTrue(found.met)
        self.assertLess(max(misses(container, found.grams).values()), 1.1e-3)

    @settings(max_examples=150, deadline=None)
    @given(containers(feasible=False))
    def test_bounds_and_steps_hold_and_the_miss_is_no_larger_than_a_search_finds(self, container: Container) -> None:
        found = solve(container)
        self.assertTrue(within_bounds(container, found.grams))
        for cell, grams in zip(container.cells, found.grams, strict=True):
            if cell.pinned_g is None:
                self.assertAlmostEqual(grams / container.step_g, round(grams / container.step_g), places=6)
        if least_linear_miss(container) < 1e-7 and container.step_g == 1:
            return  # feasible off the steps: the other property speaks for it
        rng = np.random.default_rng(7)
        own = weighted_miss(container, found.grams)
        low, high = (np.array(end) for end in zip(*(cell.bounds_g for cell in container.cells), strict=True))
        for _ in range(300):
            steps = rng.integers(0, np.round((high - low) / container.step_g) + 1)
            tried = tuple(low + steps * container.step_g)
            self.assertLessEqual(own, weighted_miss(container, tried) * 1.01 + 1e-6)

    @settings(max_examples=60, deadline=None)
    @given(st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1))
    def test_a_gram_of_target_does_not_turn_the_plate_over(self, p: float, c: float, f: float) -> None:
        cells = tuple(replace(cell, pinned_g=None, minimum_g=20, maximum_g=300) for cell in EXAMPLE_C.cells)
        before = solve(replace(EXAMPLE_C, cells=cells))
        moved = Target(protein_g=45 + p, carbohydrate_g=55 + c, fat_g=16 + f)
        after = solve(replace(EXAMPLE_C, cells=cells, target=moved))
        for one, other in zip(before.grams, after.grams, strict=True):
            self.assertLessEqual(abs(one - other), 30)

    @settings(max_examples=60, deadline=None)
    @given(containers(feasible=False), st.randoms(use_true_random=False))
    def test_the_order_of_components_changes_nothing(self, container: Container, random: Random) -> None:
        order = list(range(len(container.cells)))
        random.shuffle(order)
        one = solve(container)
        other = solve(replace(container, cells=tuple(container.cells[index] for index in order)))
        self.assertAlmostEqual(
            weighted_miss(container, one.grams),
            weighted_miss(container, tuple(other.grams[order.index(k)] for k in range(len(order)))),
            delta=1e-3 + 0.01 * weighted_miss(container, one.grams),
        )
