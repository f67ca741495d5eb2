"""Choices spread over containers, against every way there is to choose."""

from __future__ import annotations

import itertools
import unittest
from collections import Counter
from dataclasses import replace
from random import Random

from tests.core.planning.test_dishes import pan
from tests.volume import volume
from yantai.core.errors import CoreError
from yantai.core.planning.choices import MOST_CHOICES, Choice, Option, possible_choices, spread_choices
from yantai.core.planning.dishes import ContainerClass, Dish, Part
from yantai.core.planning.fit import fits
from yantai.core.targets.targets import Target, Tolerance


def bowl(**groups: tuple[int, str]) -> Dish:
    """A dish of groups: how many are taken, and the keys of the parts, each a letter."""
    parts = {key: Part(component=pan(100), share=100, group=name) for name, (_, keys) in groups.items() for key in keys}
    return Dish(parts=parts, groups={name: takes for name, (takes, _) in groups.items()})


def cost(options: list[Option]) -> tuple[float, int, int]:
    """Misses, dislikes and unevenness of what some containers take: the rule that is stated, by itself."""
    uses = Counter(key for option in options for key in option.chosen)
    missed = round(sum(round(option.missed, 3) for option in options), 6)
    return missed, sum(option.disliked for option in options), sum(n * n for n in uses.values())


class Possible(unittest.TestCase):
    def test_one_grain_two_vegetables(self) -> None:
        """2 grains and 3 pairs of vegetables are 6 choices; without the second grain 3."""
        dish = bowl(grain=(1, "rq"), vegetables=(2, "abc"))
        self.assertEqual(len(possible_choices(dish)), 6)
        self.assertEqual(possible_choices(dish, frozenset("q")), [frozenset("rab"), frozenset("rac"), frozenset("rbc")])
        self.assertEqual(possible_choices(dish, frozenset("rq")), [])

    def test_more_than_anybody_compares(self) -> None:
        many = {f"g{n}": (1, "".join(chr(200 + 10 * n + k) for k in range(10))) for n in range(4)}
        with self.assertRaisesRegex(CoreError, f"10,000 ways; the most that are compared is {MOST_CHOICES:,}"):
            possible_choices(bowl(**many))


class Spread(unittest.TestCase):
    def test_against_every_assignment(self) -> None:
        rng = Random(71)
        missing = uneven = 0
        for number in range(volume(120, 400)):
            dish = bowl(grain=(1, "rq"), vegetables=(rng.choice([1, 2]), "abc"))
            choices = possible_choices(dish)
            some: list[list[Option]] = []
            easy = rng.choice([0.2, 0.8])
            for _ in range(rng.randint(1, 4)):
                allowed = [choice for choice in choices if rng.random() < 0.8] or choices[:1]
                some.append(
                    [
                        Option(
                            chosen=choice,
                            missed=0.0 if rng.random() < easy else rng.uniform(0.1, 4),
                            disliked=rng.choice([0, 0, 1]),
                        )
                        for choice in allowed
                    ]
                )
            found = spread_choices(some)
            own = [
                next(option for option in each if option.chosen == chosen)
                for each, chosen in zip(some, found, strict=True)
            ]
            best = min(cost(list(each)) for each in itertools.product(*some))
            with self.subTest(number=number):
                self.assertEqual(cost(own), best)
                self.assertEqual(spread_choices(some), found)
            missing += best[0] > 0
            uneven += best[2] > sum(len(option.chosen) for option in own)
        self.assertGreater(missing, 5)
        self.assertGreater(uneven, 20)

    def test_the_same_for_all_is_what_is_best_for_all(self) -> None:
        rng = Random(73)
        for number in range(80):
            choices = possible_choices(bowl(grain=(1, "rqb")))
            some = [
                [
                    Option(chosen=choice, missed=rng.choice([0.0, 0.0, 1.0, 2.5]), disliked=rng.choice([0, 1]))
                    for choice in choices
                ]
                for _ in range(3)
            ]
            (chosen,) = set(spread_choices(some, same=True))

            def together(choice: Choice, some: list[list[Option]] = some) -> tuple[float, int]:
                own = [next(option for option in each if option.chosen == choice) for each in some]
                return sum(option.missed for option in own), sum(option.disliked for option in own)

            with self.subTest(number=number):
                self.assertEqual(together(chosen), min(together(choice) for choice in choices))

    def test_what_cannot_be_chosen(self) -> None:
        one, other = Option(chosen=frozenset("r"), missed=0), Option(chosen=frozenset("q"), missed=0)
        self.assertEqual(spread_choices([]), [])
        with self.assertRaisesRegex(CoreError, "nothing can be chosen for container 2"):
            spread_choices([[one], []])
        with self.assertRaisesRegex(CoreError, "no choice is possible for all"):
            spread_choices([[one], [other]], same=True)

    def test_five_bowls_of_two_grains_by_hand(self) -> None:
        """All meet the target: three of one grain and two of the other, 9 + 4 = 13 instead of 25."""
        options = [[Option(chosen=frozenset(key), missed=0) for key in "rq"] for _ in range(5)]
        uses = Counter(next(iter(choice)) for choice in spread_choices(options))
        self.assertEqual(sorted(uses.values()), [2, 3])


class WhoCanEat(unittest.TestCase):
    def test_the_best_choice_counts_and_is_told(self) -> None:
        """10 g of protein in 100 g of one base and 30 g in the other: 45 g of protein with 200 g at most need the
        second."""
        parts = {
            "grain": Part(component=pan(100, 10, 10, 1), share=100, group="base"),
            "meat": Part(component=pan(100, 30, 0, 1), share=100, group="base"),
        }
        dish = Dish(parts=parts, groups={"base": 1})
        each = ContainerClass(
            target=Target(protein_g=45), tolerance=Tolerance(protein_g=1), count=1, capacity_g=200, capacity_ml=1000
        )
        (found,) = fits(dish, [each], step_g=1)
        self.assertTrue(found.met)
        self.assertEqual(found.chosen, frozenset({"meat"}))
        (liked,) = fits(dish, [each], step_g=1, disliked=[frozenset({"meat"})])
        self.assertEqual(liked.chosen, frozenset({"meat"}), "a target goes before what is not liked")
        with self.assertRaisesRegex(CoreError, "too few parts"):
            fits(dish, [replace(each, left_out=frozenset(parts))])


if __name__ == "__main__":
    unittest.main()
