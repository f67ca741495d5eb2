"""What a coach aims at for every day."""

from __future__ import annotations

import itertools
import unittest

from yantai.core.errors import OutOfRange
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.targets.aims import DailyAims, Produce, aims_standing


def amounts(at_least: frozenset[Nutrient] = frozenset(), **known: float) -> Amounts:
    return Amounts(tuple(known.get(nutrient.value, 0.0) for nutrient in NUTRIENTS), at_least)


class Aims(unittest.TestCase):
    def test_by_hand(self) -> None:
        """380 of 400 g vegetables are missed; 31 of 30 g fibre are not; 2,500 mg sodium are over 2,300; of potassium
        nothing is aimed at."""
        aims = DailyAims(produce_g=400, fibre_g=30, sodium_mg=2300)
        held = amounts(fibre_g=31, sodium_mg=2500, potassium_mg=3100)
        found = aims_standing(aims, held, Produce(380))
        self.assertEqual(
            [(one.name, one.side, one.aim, one.amount, one.missed) for one in found],
            [
                ("vegetables and fruit", "at least", 400, 380, True),
                ("fibre", "at least", 30, 31, False),
                ("potassium", "at least", None, 3100, None),
                ("sodium", "at most", 2300, 2500, True),
            ],
        )

    def test_of_what_is_not_all_known_nothing_is_claimed_that_more_of_it_would_change(self) -> None:
        """Whatever the unknown part is: a claim that stands is still true with it."""
        aims = DailyAims(produce_g=400, fibre_g=30, potassium_mg=3500, sodium_mg=2300)
        for level, more in itertools.product((0.0, 0.9, 1.0, 1.1), (0.0, 0.05, 0.5, 5.0)):
            known = {"fibre_g": 30 * level, "potassium_mg": 3500 * level, "sodium_mg": 2300 * level}
            told = aims_standing(aims, amounts(frozenset(NUTRIENTS), **known), Produce(400 * level, at_least=True))
            truly = aims_standing(
                aims,
                amounts(**{name: value + more * getattr(aims, name) for name, value in known.items()}),
                Produce(400 * (level + more)),
            )
            for claim, truth in zip(told, truly, strict=True):
                with self.subTest(level=level, more=more, name=claim.name):
                    self.assertTrue(claim.at_least)
                    self.assertIn(claim.missed, (None, truth.missed))
                    self.assertIsNotNone(truth.missed)

    def test_produce_adds_up_and_stays_a_lower_bound(self) -> None:
        self.assertEqual(Produce(80) + Produce(20, at_least=True), Produce(100, at_least=True))
        self.assertEqual(sum([Produce(80)], Produce(20)), Produce(100))

    def test_an_aim_beyond_what_anybody_eats(self) -> None:
        with self.assertRaises(OutOfRange):
            DailyAims(fibre_g=500)


if __name__ == "__main__":
    unittest.main()
