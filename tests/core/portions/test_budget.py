"""What a container may cost: a limit among those of nutrients, by hand, against a linear programme and a search."""

from __future__ import annotations

import unittest
from dataclasses import replace
from random import Random

import numpy as np
from scipy.optimize import linprog

from tests.core.examples import food, keeps
from tests.volume import volume
from yantai.core.cooking.components import Component, Line, LineRole
from yantai.core.errors import OutOfRange
from yantai.core.foods.nutrients import NOTHING, Nutrient
from yantai.core.portions import Cell, Container, solve
from yantai.core.portions.stop import stop_band
from yantai.core.targets.targets import Money, Target, Tolerance

DEAR = Cell(per_100g=food(20, 0, 0), share=1, price=1.0)
CHEAP = Cell(per_100g=food(10, 0, 0), share=1, price=0.2)
PROTEIN = Container(cells=(DEAR, CHEAP), target=Target(protein_g=40), tolerance=Tolerance(protein_g=3))


class ByHand(unittest.TestCase):
    def test_without_a_budget_the_recipes_mix_costs_what_it_costs(self) -> None:
        """133 g of each hold 40 g of protein and cost 1.33 + 0.27."""
        found = solve(PROTEIN)
        for grams in found.grams:
            self.assertAlmostEqual(grams, 133.3, delta=1)
        self.assertAlmostEqual(found.cost, 1.60, delta=0.01)
        self.assertNotIn(Money.COST, found.misses)

    def test_a_budget_moves_the_mix_within_the_band(self) -> None:
        """40 g of the dear one and 290 g of the cheap one hold 37 g of protein for 0.98."""
        found = solve(replace(PROTEIN, budget=1.0))
        self.assertTrue(found.met)
        self.assertLessEqual(found.cost, 1.001)
        self.assertAlmostEqual(found.cost, found.grams[0] * 0.01 + found.grams[1] * 0.002)
        self.assertGreaterEqual(found.amounts[Nutrient.PROTEIN], 37 - 1e-3)

    def test_one_that_is_kept_anyway_changes_nothing(self) -> None:
        self.assertEqual(solve(replace(PROTEIN, budget=2.0)).grams, solve(PROTEIN).grams)

    def test_out_of_reach_both_give_way_by_their_weights(self) -> None:
        """One food of 20 g protein at 1.00 for 1.50. The least of 2 ((37 - 0.2 x) / 3)² + ((0.01 x - 1.5) / 0.075)²
        is where 0.0533 x = 8.622: 161.7 g, 0.117 over the budget and 4.67 g of protein short of the band."""
        alone = replace(PROTEIN, cells=(DEAR,), budget=1.5)
        found = solve(alone)
        self.assertFalse(found.met)
        self.assertAlmostEqual(found.grams[0], 161.7, delta=0.8)
        self.assertAlmostEqual(found.misses[Money.COST], 0.117, delta=0.006)
        self.assertAlmostEqual(found.misses[Nutrient.PROTEIN], -4.67, delta=0.2)

    def test_what_nobody_priced_is_told_and_not_counted(self) -> None:
        spice = Cell(per_100g=NOTHING, share=0.01, pinned_g=2, has_unpriced=True)
        found = solve(replace(PROTEIN, cells=(DEAR, CHEAP, spice), budget=1.7))
        self.assertEqual((found.met, found.has_unpriced), (True, True))
        self.assertFalse(solve(replace(PROTEIN, budget=1.7)).has_unpriced)

    def test_filling_is_not_stopped_by_it(self) -> None:
        """At the budget a gram more costs a cent more, and the food is cooked by then: only the band of protein ends
        it, at 43 g."""
        found = solve(replace(PROTEIN, budget=1.0))
        held = found.amounts[Nutrient.PROTEIN]
        _, high = stop_band(replace(PROTEIN, budget=1.0), found, 1)
        self.assertAlmostEqual(high, found.grams[1] + (43 - held) / 0.1, delta=0.05)

    def test_no_budget_at_all(self) -> None:
        for budget in (0.0, -1.0, 1e6):
            with self.assertRaises(OutOfRange):
                replace(PROTEIN, budget=budget)


class Cooked(unittest.TestCase):
    def test_all_that_is_bought_is_paid_for(self) -> None:
        """500 g at 0.80, a tenth trimmed off, give 450 g, cooked 337.5 g: 4.00 over that are 1.185 for 100 g. What is
        poured off was paid for too; water costs nothing."""
        line = Line(
            name="Thigh", purchased_g=500, refuse_share=0.1, composition=food(20, 0, 0),
            yield_range=keeps(0.75), price=0.8,
        )  # fmt: skip
        water = replace(line, name="Water", price=None, role=LineRole.WATER, refuse_share=0.0, composition=NOTHING)
        alone = Component(name="Thigh", lines=(line,))
        self.assertAlmostEqual(alone.price, 4.0 / 3.375)
        marinade = replace(line, name="Marinade", retained_share=0.3, refuse_share=0.0, purchased_g=100, price=2.0)
        both = Component(name="Thigh", lines=(line, marinade))
        self.assertAlmostEqual(both.price * both.cooked_g / 100, 6.0)
        self.assertEqual(Component(name="Stew", lines=(line, water), set_yield=keeps(1)).has_unpriced, False)
        self.assertTrue(Component(name="Thigh", lines=(line, replace(marinade, price=None))).has_unpriced)


class AgainstOthers(unittest.TestCase):
    def random(self, rng: Random) -> Container:
        cells = tuple(
            Cell(
                per_100g=food(rng.uniform(0, 30), rng.uniform(0, 40), rng.uniform(0, 15)),
                share=rng.uniform(1, 5), maximum_g=400, price=round(rng.uniform(0.05, 2), 2),
            )
            for _ in range(rng.randint(2, 5))
        )  # fmt: skip
        target = Target(protein_g=rng.uniform(15, 60), carbohydrate_g=rng.uniform(15, 80), fat_g=rng.uniform(5, 25))
        return Container(cells=cells, target=target, tolerance=Tolerance(), budget=round(rng.uniform(0.5, 5), 2))

    def rows(self, container: Container) -> tuple[np.ndarray, np.ndarray]:
        """A x ≤ b: the bands and the budget, from the statement of the problem."""
        of = [
            np.array([cell.per_100g[nutrient] / 100 for cell in container.cells]) for nutrient in container.target.aims
        ]
        aims = list(container.target.aims.items())
        low = [-(aim - container.tolerance[nutrient]) for nutrient, aim in aims]
        high = [aim + container.tolerance[nutrient] for nutrient, aim in aims]
        price = np.array([cell.price / 100 for cell in container.cells])
        return np.array([*(-row for row in of), *of, price]), np.array([*low, *high, container.budget])

    def test_met_only_where_a_linear_programme_says_so(self) -> None:
        rng = Random(31)
        met = 0
        for number in range(volume(120, 1500)):
            container = self.random(rng)
            found = solve(container)
            matrix, limits = self.rows(container)
            bounds = [(0, 400)] * len(container.cells)
            wide = linprog(np.zeros(len(bounds)), A_ub=matrix, b_ub=limits + 2e-3, bounds=bounds).status == 0
            with self.subTest(number=number):
                cost = sum(cell.price * grams / 100 for cell, grams in zip(container.cells, found.grams, strict=True))
                self.assertAlmostEqual(found.cost, cost)
                assert container.budget is not None
                self.assertEqual(found.misses[Money.COST] > 0, cost > container.budget + 1e-3)
                self.assertTrue(wide or not found.met)
            met += found.met
        self.assertGreater(met, 5)

    def test_no_search_finds_a_smaller_miss(self) -> None:
        """The weighted miss by the statement of the problem, at thousands of points around and far from the answer."""
        rng = Random(32)
        draw = np.random.default_rng(32)
        for number in range(volume(25, 300)):
            container = self.random(rng)
            assert container.budget is not None
            found = solve(container)
            matrix, limits = self.rows(container)
            m = len(container.target.aims)
            scale = np.array([*(container.tolerance[n] for n in container.target.aims)] * 2 + [container.budget / 20])
            weight = np.array([*(container.tolerance.priority(n) for n in container.target.aims)] * 2 + [1.0])

            def miss(points: np.ndarray, matrix=matrix, limits=limits, scale=scale, weight=weight) -> np.ndarray:
                over = np.maximum(points @ matrix.T - limits, 0) / scale
                return np.asarray((weight * over**2).sum(axis=1))

            own = np.array(found.grams)
            near = np.clip(own + draw.normal(0, 8, (4000, len(own))), 0, 400)
            far = draw.uniform(0, 400, (4000, len(own)))
            least = miss(np.round(np.vstack([near, far]))).min()
            self.assertEqual(len(limits), 2 * m + 1)
            with self.subTest(number=number):
                self.assertLessEqual(miss(own[None, :])[0], least * 1.02 + 1e-2)
