from __future__ import annotations

import doctest
import itertools
import random
import unittest
from fractions import Fraction

from yantai.core.cooking import pan_sheet
from yantai.core.cooking.pan_sheet import MOST_ROWS, shares_of_pan, weights_to_list


class Shares(unittest.TestCase):
    def test_examples(self) -> None:
        self.assertEqual(doctest.testmod(pan_sheet).failed, 0)

    def test_by_hand(self) -> None:
        """Planned: 1,200 g for four containers of 200 g and one of 400 g. It weighs 1,260 g, a twentieth more: 210 and
        420 g."""
        self.assertEqual(shares_of_pan(1260, 1200, [200, 400]), (210, 420))

    def test_the_pan_suffices_and_nothing_is_left_but_crumbs(self) -> None:
        chance = random.Random(3)
        for _ in range(500):
            counts = [chance.randint(1, 6) for _ in range(chance.randint(1, 4))]
            planned = [chance.uniform(20, 400) for _ in counts]
            planned_pan = sum(count * grams for count, grams in zip(counts, planned, strict=True))
            pan = planned_pan * chance.uniform(0.6, 1.4)
            if pan < 1:
                continue
            found = shares_of_pan(pan, planned_pan, planned)
            given = sum(count * grams for count, grams in zip(counts, found, strict=True))
            self.assertLessEqual(given, pan + 1e-3)
            self.assertGreater(given, pan - sum(counts) - 1e-3)

    def test_raw_food_is_shared_as_planned(self) -> None:
        """The same by the raw food: each gets its planned share of what went in, to within a gram of the pan."""
        raw, planned_pan, planned = Fraction(1500), Fraction(1110), [Fraction(185), Fraction(277)]
        for pan in (900, 1000, 1110, 1300):
            for grams, was in zip(
                shares_of_pan(pan, float(planned_pan), [float(one) for one in planned]), planned, strict=True
            ):
                got, meant = raw * grams / pan, raw * was / planned_pan
                self.assertLessEqual(abs(got - meant), raw / pan)


class Rows(unittest.TestCase):
    def test_rows_are_round_and_hold_what_is_expected(self) -> None:
        chance = random.Random(4)
        for _ in range(300):
            low = chance.uniform(30, 9000)
            high = low * chance.uniform(1, 1.6)
            rows = weights_to_list(low, high)
            self.assertLessEqual(len(rows), MOST_ROWS)
            self.assertLessEqual(rows[0], low)
            self.assertGreaterEqual(rows[-1], high)
            self.assertEqual(len({b - a for a, b in itertools.pairwise(rows)}), 1)
            self.assertEqual([row % 5 for row in rows], [0] * len(rows))

    def test_a_weight_that_is_known_has_some_on_both_sides(self) -> None:
        rows = weights_to_list(500, 500)
        self.assertTrue(rows[0] <= 475 and rows[-1] >= 525, rows)
