"""Which components could be cooked in one pot."""

from __future__ import annotations

import unittest
from dataclasses import replace

from tests.core.examples import BULGUR, CHICKEN, food, keeps
from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.sharing import why_apart
from yantai.core.cooking.yields import UNCHANGED, YieldRange, YieldSource

RICE = Line(name="Rice", purchased_g=500, composition=food(7, 79, 1), yield_range=keeps(2.8))
SALT = Line(name="Salt", purchased_g=5, composition=food(0, 0, 0), yield_range=UNCHANGED)
POT = Component(name="Rice", lines=(RICE, SALT))


class Sharing(unittest.TestCase):
    def test_another_size_and_order_is_the_same_pot(self) -> None:
        for factor in (0.2, 1, 3):
            turned = replace(POT, lines=tuple(reversed(POT.times(factor).lines)))
            self.assertIsNone(why_apart(POT, turned))
        self.assertIsNone(why_apart(BULGUR, BULGUR.times(2)))

    def test_what_was_learned_of_its_yield_keeps_nothing_apart(self) -> None:
        learned = YieldRange(low=2.6, expected=2.7, high=2.9, source=YieldSource.MEASURED)
        self.assertIsNone(why_apart(POT, replace(POT, lines=(replace(RICE, yield_range=learned), SALT))))

    def test_a_line_in_two_halves_is_one(self) -> None:
        half = RICE.times(0.5)
        self.assertIsNone(why_apart(POT, replace(POT, lines=(half, SALT, half))))

    def test_what_is_not_the_same_is_told(self) -> None:
        own = YieldRange(low=2.4, expected=2.5, high=2.6, source=YieldSource.COACH)
        brown = replace(RICE, name="Brown rice")
        for other, told in (
            (replace(POT, lines=(RICE, SALT.times(4))), "Salt is 1.0 % of one and 3.8 % of the other"),
            (replace(POT, lines=(brown, SALT)), "only one of them has Rice"),
            (replace(POT, lines=(replace(RICE, refuse_share=0.1), SALT)), "only one of them has Rice like this"),
            (replace(POT, lines=(RICE,)), "only one of them has Salt"),
            (replace(POT, set_yield=own), "different yields of their own"),
            (replace(POT, cooked=False), "only one of them is cooked"),
            (replace(POT, pieces=4), "pieces of different sizes"),
            (replace(POT, poured_fat_g=0), None),
            (CHICKEN, "only one of them has"),
        ):
            with self.subTest(told=told):
                found = why_apart(POT, other)
                self.assertEqual(found is None, told is None)
                self.assertIn(told or "", found or "")
        fat = Component(name="Fat", lines=(replace(RICE, composition=food(0, 0, 90)),))
        self.assertEqual(why_apart(fat, replace(fat, poured_fat_g=40)), "fat is poured off one of them")


if __name__ == "__main__":
    unittest.main()
