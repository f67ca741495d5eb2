"""What was eaten of containers by what was left, and what is left again and again."""

from __future__ import annotations

import unittest
from random import Random

from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient, total
from yantai.core.storage.leftovers import HeldPart, PartLeft, eaten_amounts, habits, left_by_part


def amounts(kcal: float, protein: float = 0.0) -> Amounts:
    held = {Nutrient.KCAL: kcal, Nutrient.PROTEIN: protein}
    return Amounts(tuple(held.get(nutrient, 0.0) for nutrient in NUTRIENTS))


RICE = HeldPart(key="rice", grams=200, amounts=amounts(260, 5))
CHICKEN = HeldPart(key="chicken", grams=100, amounts=amounts(165, 31))
SAUCE = HeldPart(key="sauce", grams=50, amounts=amounts(100, 1), is_beside=True)


class Eaten(unittest.TestCase):
    def test_by_part(self) -> None:
        """By hand: 260 * 150/200 + 165 + 100 = 460 kcal."""
        left = left_by_part([RICE, CHICKEN, SAUCE], by_part={"rice": 50})
        self.assertEqual(left, {"rice": 50})
        eaten = eaten_amounts([RICE, CHICKEN, SAUCE], left)
        self.assertAlmostEqual(eaten[Nutrient.KCAL], 460)
        self.assertAlmostEqual(eaten[Nutrient.PROTEIN], 5 * 0.75 + 31 + 1)

    def test_of_the_whole_it_is_left_alike_and_what_lies_beside_is_eaten(self) -> None:
        """By hand: 75 g of 300 g in it are a quarter: (260 + 165) * 3/4 + 100 = 418.75 kcal."""
        left = left_by_part([RICE, CHICKEN, SAUCE], left_g=75)
        self.assertEqual(left, {"rice": 50, "chicken": 25})
        self.assertAlmostEqual(eaten_amounts([RICE, CHICKEN, SAUCE], left)[Nutrient.KCAL], 418.75)

    def test_nothing_and_everything(self) -> None:
        parts = [RICE, CHICKEN]
        self.assertEqual(left_by_part(parts), {})
        self.assertAlmostEqual(eaten_amounts(parts, {})[Nutrient.KCAL], 425)
        self.assertEqual(eaten_amounts(parts, left_by_part(parts, left_g=300))[Nutrient.KCAL], 0)
        # A scale may be off by a gram.
        self.assertEqual(left_by_part([RICE], by_part={"rice": 200.6}), {"rice": 200})

    def test_what_cannot_be(self) -> None:
        for how, field, words in (
            ({"left_g": 301.5}, "left_g", "more is left"),
            ({"by_part": {"rice": 202.0}}, "left_parts", "more of it is left"),
            ({"by_part": {"beans": 1.0}}, "left_parts", "not in the container"),
        ):
            with self.subTest(words=words), self.assertRaisesRegex(CoreError, words) as caught:
                left_by_part([RICE, CHICKEN], **how)
            self.assertEqual(caught.exception.field, field)

    def test_eaten_and_left_are_the_whole(self) -> None:
        """Whatever was left: what is eaten and what is not come to what was there, and neither is negative."""
        rng = Random(15)
        for number in range(300):
            parts = [
                HeldPart(
                    key=str(key),
                    grams=rng.choice([0.0, rng.uniform(1, 400)]),
                    amounts=amounts(rng.uniform(0, 500), rng.uniform(0, 40)),
                    is_beside=rng.random() < 0.2,
                )
                for key in range(rng.randint(1, 5))
            ]
            inside = sum(part.grams for part in parts if not part.is_beside)
            if rng.random() < 0.5:
                left = left_by_part(parts, left_g=rng.uniform(0, inside))
            else:
                left = left_by_part(parts, by_part={part.key: rng.uniform(0, part.grams) for part in parts})
            eaten = eaten_amounts(parts, left)
            there = total(part.amounts for part in parts)
            # Separately: gram by gram of each part, over those that weigh something.
            gone = sum(part.amounts[Nutrient.KCAL] * left.get(part.key, 0) / part.grams for part in parts if part.grams)
            with self.subTest(number=number):
                self.assertAlmostEqual(eaten[Nutrient.KCAL] + gone, there[Nutrient.KCAL])
                self.assertGreaterEqual(eaten[Nutrient.KCAL], -1e-9)


class Habits(unittest.TestCase):
    def told(self, name: str, *left: float, held: float = 80) -> list[PartLeft]:
        return [PartLeft(name=name, held_g=held, left_g=grams) for grams in left]

    def test_four_of_five(self) -> None:
        """Where some was left, 20, 30, 40 and 0 of 80 g were eaten: the middle is 25 g."""
        (found,) = habits(self.told("Courgette", 60, 50, 40, 0, 80) + self.told("Rice", 0, 0, 0, 0, 10))
        self.assertEqual((found.name, found.times, found.of, found.eaten_g), ("Courgette", 4, 5, 25))

    def test_what_is_no_habit(self) -> None:
        for told in (
            self.told("Rice", 80, 80),  # twice is no habit
            self.told("Rice", 19, 19, 19, 19),  # less than a quarter of it
            self.told("Rice", 80, 0, 0),  # once of three
            self.told("Rice", 0, 0, 0, held=0),  # there was none
        ):
            with self.subTest(told=len(told)):
                self.assertEqual(habits(told), [])
        self.assertEqual(len(habits(self.told("Rice", 20, 20, 0, 0))), 1)

    def test_the_surest_first(self) -> None:
        found = habits(self.told("B", 80, 80, 0) + self.told("A", 80, 80, 80) + self.told("C", 80, 80, 80, 80))
        self.assertEqual([one.name for one in found], ["C", "A", "B"])
