"""Between which grams filling may stop."""

from __future__ import annotations

import unittest
from dataclasses import replace
from random import Random

from tests.core.examples import food
from tests.core.portions.test_engine import SOLVED, a_problem
from yantai.core.portions import Cell, Container, solve
from yantai.core.portions.problem import portions
from yantai.core.portions.stop import MOST_OVER, stop_band
from yantai.core.targets.targets import Target, Tolerance

BEYOND = 60.0
"""Grams past the band at which even what is poor in everything has moved a figure by more than the noise."""


class StopBand(unittest.TestCase):
    def test_by_hand(self) -> None:
        """200 g with 20 g of protein in 100 g hold 40 g, the target with 3 g either way: 185 to 215 g. A container for
        160 ml at 0.8 g/ml more ends it at 208 g."""
        cell = Cell(per_100g=food(20, 0, 0), share=1, density_g_per_ml=0.8)
        box = Container(cells=(cell,), target=Target(protein_g=40), tolerance=Tolerance(protein_g=3))
        low, high = stop_band(box, portions(box, (200.0,)), 0)
        self.assertAlmostEqual(low, 185, delta=0.01)
        self.assertAlmostEqual(high, 215, delta=0.01)
        full = replace(box, capacity_ml=260.0)
        self.assertAlmostEqual(stop_band(full, portions(full, (200.0,)), 0)[1], 208)

    def test_the_least_and_the_most_end_it(self) -> None:
        """The same 200 g: a least of 195 g and a most of 205 g lie inside what the target allows. What was pinned
        beyond them stays inside."""
        cell = Cell(per_100g=food(20, 0, 0), share=1, minimum_g=195, maximum_g=205)
        box = Container(cells=(cell,), target=Target(protein_g=40), tolerance=Tolerance(protein_g=3))
        self.assertEqual(stop_band(box, portions(box, (200.0,)), 0), (195, 205))
        self.assertEqual(stop_band(box, portions(box, (210.0,)), 0), (195, 210))

    def test_what_must_not_go_in_has_no_room(self) -> None:
        cells = (
            Cell(per_100g=food(20, 0, 0), share=1),
            Cell(per_100g=food(0, 0, 0), share=1, left_out=True),
        )
        box = Container(cells=cells, target=Target(protein_g=40), tolerance=Tolerance(protein_g=3))
        self.assertEqual(stop_band(box, portions(box, (200.0, 0.0)), 1), (0, 0))

    def test_what_is_missed_gets_no_worse(self) -> None:
        """150 g hold 30 g: 7 g below the band, so not a gram less."""
        cell = Cell(per_100g=food(20, 0, 0), share=1)
        box = Container(cells=(cell,), target=Target(protein_g=40), tolerance=Tolerance(protein_g=3))
        low, high = stop_band(box, portions(box, (150.0,)), 0)
        self.assertAlmostEqual(low, 150, delta=0.01)
        self.assertAlmostEqual(high, 215, delta=0.01)

    def test_inside_nothing_leaves_its_band_and_outside_something_does(self) -> None:
        rng = Random(79)
        ended = 0
        for number in range(300):
            problem = a_problem(
                rng, classes=1, weighed=0, schools=[rng.choice(SOLVED) for _ in range(rng.randint(1, 4))]
            )
            for question in problem.solve().questions:
                answer = solve(question.container)
                for index, cell in enumerate(question.container.cells):
                    low, high = stop_band(question.container, answer, index)
                    self.assertLessEqual(low, answer.grams[index])
                    self.assertGreaterEqual(high, answer.grams[index])
                    for grams, may in ((low, True), (high, True), (low - BEYOND, False), (high + BEYOND, False)):
                        if grams < 0:
                            continue
                        filled = list(answer.grams)
                        filled[index] = grams
                        then = portions(question.container, tuple(filled))
                        # A miss on the other side is worse too, however small: the figure has left its band.
                        worse = [
                            n
                            for n, miss in then.misses.items()
                            if miss > max(answer.misses[n], 0) + 3e-3 or miss < min(answer.misses[n], 0) - 3e-3
                        ]
                        planned = answer.grams[index]
                        least, most = min(cell.minimum_g, planned), max(cell.maximum_g, planned)
                        beyond = cell.left_out or not least <= grams <= most
                        with self.subTest(number=number, index=index, grams=grams):
                            if may:
                                self.assertEqual(worse, [])
                                self.assertTrue(grams == planned or not beyond)
                            elif not then.is_overfull and high < MOST_OVER * max(answer.grams[index], 1):
                                self.assertTrue(worse or beyond)
                                ended += bool(worse)
        self.assertGreater(ended, 200)


if __name__ == "__main__":
    unittest.main()
