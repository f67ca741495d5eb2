"""The solver against every point there is: small containers, all steps tried one by one."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace
from random import Random

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.core.examples import PLATE, food
from tests.core.portions.test_portions import misses, weighted_miss
from yantai.core.portions import Cell, Container, solve
from yantai.core.targets.targets import Target, Tolerance

STEP = 5.0
MACRO_G = st.floats(0, 30)


@st.composite
def small_containers(draw: st.DrawFn) -> Container:
    """Two or three components of at most 30 steps each, with targets anywhere near."""
    cells = tuple(
        Cell(
            per_100g=food(draw(MACRO_G), draw(MACRO_G), draw(MACRO_G)),
            share=draw(st.floats(10, 300)),
            minimum_g=STEP * draw(st.integers(0, 5)),
            maximum_g=STEP * draw(st.integers(6, 30)),
        )
        for _ in range(draw(st.integers(2, 3)))
    )
    target = Target(
        protein_g=draw(st.floats(1, 60)), carbohydrate_g=draw(st.floats(1, 60)), fat_g=draw(st.floats(1, 40))
    )
    tolerance = Tolerance(protein_g=draw(st.floats(0.5, 5)), carbohydrate_g=draw(st.floats(0.5, 8)))
    capacity = draw(st.one_of(st.none(), st.floats(200, 600)))
    return Container(cells=cells, target=target, tolerance=tolerance, step_g=STEP, capacity_ml=capacity)


def every_point(container: Container) -> list[tuple[float, ...]]:
    """All grams on the steps, inside the bounds and the capacity."""
    axes = [np.arange(cell.minimum_g, cell.maximum_g + 1e-9, STEP) for cell in container.cells]
    points = [tuple(float(g) for g in point) for point in itertools.product(*axes)]
    if container.capacity_ml is None:
        return points
    return [
        point
        for point in points
        if sum(g / cell.density_g_per_ml for g, cell in zip(point, container.cells, strict=True))
        <= container.capacity_ml
    ]


def is_met(container: Container, grams: tuple[float, ...]) -> bool:
    return max(misses(container, grams).values()) < 1e-6


class AgainstEveryPoint(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(small_containers())
    def test_met_whenever_some_point_meets(self, container: Container) -> None:
        points = every_point(container)
        assume(points)
        found = solve(container)
        if any(is_met(container, point) for point in points):
            self.assertTrue(found.met, found)

    @settings(max_examples=60, deadline=None)
    @given(small_containers())
    def test_the_answer_is_one_of_the_points(self, container: Container) -> None:
        points = every_point(container)
        assume(points)
        found = solve(container)
        nearest = min(max(abs(a - b) for a, b in zip(found.grams, point, strict=True)) for point in points)
        self.assertLess(nearest, 1e-6)

    @settings(max_examples=60, deadline=None)
    @given(small_containers())
    def test_a_miss_is_near_the_least_there_is(self, container: Container) -> None:
        """Within 5 % of the least weighted miss of any step, or a fifth of a tolerance: 5 g steps are coarse."""
        points = every_point(container)
        assume(points)
        found = solve(container)
        least = min(weighted_miss(container, point) for point in points)
        self.assertLessEqual(weighted_miss(container, found.grams), 1.05 * least + 0.04)


class Proportions(unittest.TestCase):
    """Where targets leave room, the plate keeps to the recipe."""

    def cells(self, **shares: float) -> tuple[Cell, ...]:
        return tuple(Cell(per_100g=PLATE[name], share=share) for name, share in shares.items())

    def test_only_energy_aimed_at_gives_the_recipe_as_written(self) -> None:
        cells = self.cells(turkey=150, bulgur=200, beans=120, sauce=30)
        container = Container(cells=cells, target=Target(kcal=600), tolerance=Tolerance(kcal=1))
        found = solve(container)
        # By hand: the recipe holds 1.8·150 + 1.317·200 + 0.383·120 + 0.98·30 = 608.8 kcal in 500 g.
        for cell, grams in zip(cells, found.grams, strict=True):
            self.assertAlmostEqual(grams, cell.share * 600 / 608.8, delta=1.5)
        self.assertTrue(found.met)

    def test_twice_the_energy_is_twice_the_plate(self) -> None:
        cells = self.cells(turkey=150, bulgur=200, sauce=30)
        one = solve(Container(cells=cells, target=Target(kcal=400), tolerance=Tolerance(kcal=1)))
        two = solve(Container(cells=cells, target=Target(kcal=800), tolerance=Tolerance(kcal=1)))
        for small, large in zip(one.grams, two.grams, strict=True):
            self.assertAlmostEqual(large, 2 * small, delta=6)

    def test_two_components_alike_are_kept_in_proportion(self) -> None:
        alike = food(20, 10, 5)
        cells = (Cell(per_100g=alike, share=200), Cell(per_100g=alike, share=100))
        found = solve(Container(cells=cells, target=Target(protein_g=60), tolerance=Tolerance(protein_g=0.5)))
        self.assertAlmostEqual(found.grams[0] / found.grams[1], 2, delta=0.05)

    def test_priorities_decide_who_misses(self) -> None:
        """One component, two aims that contradict: the more important one is missed less."""
        cells = (Cell(per_100g=food(20, 20, 0), share=100),)
        target = Target(protein_g=60, carbohydrate_g=20)
        protein_first = Tolerance(protein_g=1, carbohydrate_g=1, priority_protein_g=20)
        carbohydrate_first = replace(protein_first, priority_protein_g=1, priority_carbohydrate_g=20)
        protein = solve(Container(cells=cells, target=target, tolerance=protein_first))
        carbohydrate = solve(Container(cells=cells, target=target, tolerance=carbohydrate_first))
        self.assertGreater(protein.grams[0], 270)
        self.assertLess(carbohydrate.grams[0], 130)


def a_plate(rng: Random) -> Container:
    """Three to six components that differ as those of a kitchen do, with a target anywhere."""
    kinds = [
        (food(rng.uniform(20, 32), 0, rng.uniform(1, 12)), rng.uniform(80, 160)),
        (food(rng.uniform(2, 8), rng.uniform(18, 32), rng.uniform(0.2, 3)), rng.uniform(100, 200)),
        (food(rng.uniform(1, 4), rng.uniform(2, 10), rng.uniform(0, 2)), rng.uniform(60, 180)),
        (food(rng.uniform(2, 8), rng.uniform(2, 8), rng.uniform(5, 30)), rng.uniform(20, 60)),
        (food(rng.uniform(5, 9), rng.uniform(12, 20), rng.uniform(0.3, 3)), rng.uniform(40, 120)),
        (food(rng.uniform(1, 12), rng.uniform(0, 12), rng.uniform(0, 20)), rng.uniform(20, 80)),
    ]
    cells = tuple(
        Cell(per_100g=per_100g, share=share, minimum_g=rng.choice([0.0, 20.0]), maximum_g=400)
        for per_100g, share in kinds[: rng.randint(3, 6)]
    )
    target = Target(protein_g=rng.uniform(30, 60), carbohydrate_g=rng.uniform(30, 80), fat_g=rng.uniform(8, 25))
    return Container(cells=cells, target=target, tolerance=Tolerance())


def has_an_inside(container: Container) -> bool:
    """Its target can be met with two thirds of the tolerance: it does not stand on the edge of what can be."""
    tight = Tolerance(protein_g=2, carbohydrate_g=3.3, fat_g=2)
    return solve(replace(container, tolerance=tight)).met


class Steadiness(unittest.TestCase):
    def test_a_gram_of_target_moves_no_cell_far(self) -> None:
        """Bounds stated in docs/engine.md: 100 g at most, in the middle 6 g, in nine cases of ten 35 g.

        A gram of fat alone is 20 g of a sauce with 5 % fat, and the other components make up for what it brings.
        """
        rng = Random(5)
        moves: list[float] = []
        while len(moves) < 400:
            one = a_plate(rng)
            nutrient = rng.choice(["protein_g", "carbohydrate_g", "fat_g"])
            other = replace(one, target=replace(one.target, **{nutrient: getattr(one.target, nutrient) + 1}))
            if has_an_inside(one) and has_an_inside(other):
                pairs = zip(solve(one).grams, solve(other).grams, strict=True)
                moves.append(max(abs(was - now) for was, now in pairs))
        moves.sort()
        self.assertLessEqual(moves[200], 6)
        self.assertLessEqual(moves[360], 35)
        self.assertLessEqual(moves[-1], 100)

    def test_the_same_question_has_the_same_answer(self) -> None:
        cells = tuple(Cell(per_100g=per_100g, share=100) for per_100g in PLATE.values())
        container = Container(
            cells=cells, target=Target(protein_g=40, carbohydrate_g=50, fat_g=12), tolerance=Tolerance()
        )
        self.assertEqual(solve(container), solve(container))
