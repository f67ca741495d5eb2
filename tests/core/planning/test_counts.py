"""How many containers what there is fills: by hand, and against every number there is."""

from __future__ import annotations

import itertools
import unittest
from random import Random

from tests.core.examples import PLATE
from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.yields import UNCHANGED
from yantai.core.errors import CoreError
from yantai.core.planning.counts import how_many
from yantai.core.planning.dishes import ContainerClass, Part, one_dish
from yantai.core.planning.plan import plan
from yantai.core.portions import Sharing
from yantai.core.targets.targets import Target, Tolerance


def part(name: str, grams: float, *, known: bool = True) -> Part:
    line = Line(name=name, purchased_g=grams, composition=PLATE[name], yield_range=UNCHANGED)
    return Part(component=Component(name=name, lines=(line,)), share=grams, raw_fixed=known)


def wants(protein: float, count: int, rank: int = 0, **pins: float) -> ContainerClass:
    return ContainerClass(target=Target(protein_g=protein), tolerance=Tolerance(), count=count, rank=rank, pins=pins)


class ByHand(unittest.TestCase):
    def test_two_clients_of_one_pan(self) -> None:
        """1,000 g of turkey, pinned at 150 g and 100 g: three rounds take 750 g, then 150 g, then 100 g fit."""
        classes = (wants(40, 1, turkey=150.0), wants(27, 1, turkey=100.0))
        found = how_many(one_dish({"turkey": part("turkey", 1000)}), classes)
        self.assertEqual(found.counts, (4, 4))
        self.assertAlmostEqual(found.left_g["turkey"], 0)

    def test_the_scarcest_pan_decides(self) -> None:
        classes = (wants(40, 3, turkey=150.0, bulgur=200.0),)
        found = how_many(one_dish({"turkey": part("turkey", 5000), "bulgur": part("bulgur", 900)}), classes)
        self.assertEqual(found.counts, (4,))
        self.assertAlmostEqual(found.left_g["bulgur"], 100)

    def test_a_pan_that_follows_the_need_limits_nothing(self) -> None:
        parts = {"turkey": part("turkey", 450), "bulgur": part("bulgur", 10, known=False)}
        found = how_many(one_dish(parts), (wants(40, 1, turkey=150.0, bulgur=200.0),))
        self.assertEqual((found.counts, set(found.left_g)), ((3,), {"turkey"}))

    def test_the_first_in_rank_get_theirs_first(self) -> None:
        classes = (wants(40, 5, rank=1, turkey=150.0), wants(40, 4, rank=0, turkey=200.0))
        found = how_many(one_dish({"turkey": part("turkey", 1000)}), classes, sharing=Sharing.RANKED)
        self.assertEqual(found.counts, (1, 4))

    def test_nothing_known(self) -> None:
        with self.assertRaises(CoreError) as caught:
            how_many(one_dish({"turkey": part("turkey", 100, known=False)}), (wants(40, 1),))
        self.assertIn("weigh a component", str(caught.exception))


class AgainstEveryNumber(unittest.TestCase):
    def test_nobody_could_have_more_without_another_having_less(self) -> None:
        rng = Random(3)
        for _ in range(60):
            parts = {"turkey": part("turkey", rng.randint(200, 1500)), "bulgur": part("bulgur", rng.randint(200, 1500))}
            classes = tuple(
                wants(40, rng.randint(1, 3), turkey=float(rng.randint(60, 250)), bulgur=float(rng.randint(60, 250)))
                for _ in range(2)
            )
            found = how_many(one_dish(parts), classes)
            with self.subTest(classes=classes):
                possible = [
                    counts
                    for counts in itertools.product(range(30), repeat=2)
                    if all(
                        sum(n * c.pins[key] for n, c in zip(counts, classes, strict=True))
                        <= parts[key].component.cooked_g + 1e-6
                        for key in parts
                    )
                ]
                self.assertIn(found.counts, possible)
                fewest = max(min(n / c.count for n, c in zip(counts, classes, strict=True)) for counts in possible)
                own = min(n / c.count for n, c in zip(found.counts, classes, strict=True))
                # Whole containers: within one container of the largest smallest part there is.
                self.assertGreaterEqual(own, fewest - max(1 / c.count for c in classes) + 1e-9)
                for index in range(2):
                    more = tuple(n + (k == index) for k, n in enumerate(found.counts))
                    self.assertNotIn(more, possible)

    def test_the_plan_with_these_counts_is_not_short(self) -> None:
        parts = {"turkey": part("turkey", 1200), "bulgur": part("bulgur", 2000), "sauce": part("sauce", 400)}
        classes = tuple(
            ContainerClass(target=Target(protein_g=p, carbohydrate_g=c, fat_g=f), tolerance=Tolerance(), count=n)
            for p, c, f, n in ((45, 55, 16, 3), (30, 40, 11, 2))
        )
        found = how_many(one_dish(parts), classes)
        counted = [
            ContainerClass(target=c.target, tolerance=c.tolerance, count=n)
            for c, n in zip(classes, found.counts, strict=True)
        ]
        for key, need in plan(one_dish(parts), counted).needs.items():
            self.assertGreaterEqual(need.spare_g, -1e-6)
            self.assertAlmostEqual(need.spare_g, found.left_g[key], places=6)
