"""Extras that close the gap of a day."""

from __future__ import annotations

import itertools
import unittest
from random import Random

from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient, total
from yantai.core.targets.aims import DailyAims, Produce
from yantai.core.targets.closing import EatenDay, Offer, fill_ups
from yantai.core.targets.days import Day
from yantai.core.targets.targets import Tolerance


def amounts(**known: float) -> Amounts:
    return Amounts(tuple(known.get(nutrient.value, 0.0) for nutrient in NUTRIENTS))


def a_day(container: Amounts, aims: DailyAims | None = None, produce: float = 0, **figures: float) -> EatenDay:
    return EatenDay(
        day=Day(figures={Nutrient(name): value for name, value in figures.items()}),
        containers=[container],
        produce=Produce(produce),
        tolerance=Tolerance(kcal=30, protein_g=3, carbohydrate_g=5, fat_g=3),
        aims=aims or DailyAims(),
    )


YOGHURT = Offer(key="yoghurt", serving=amounts(protein_g=15, carbohydrate_g=6), produce=Produce(), most=2)
APPLE = Offer(key="apple", serving=amounts(carbohydrate_g=17), produce=Produce(120), most=2)
BAR = Offer(key="bar", serving=amounts(protein_g=20, carbohydrate_g=25, fat_g=12), produce=Produce(), most=4)


class FillUps(unittest.TestCase):
    def test_by_hand(self) -> None:
        """30 g protein and 14 g carbohydrate are lacking: two yoghurts bring 30 and 12. A bar brings too much fat."""
        day = a_day(amounts(protein_g=110, carbohydrate_g=186, fat_g=60), protein_g=140, carbohydrate_g=200, fat_g=60)
        first, *_ = fill_ups(day, [APPLE, BAR, YOGHURT])
        self.assertEqual((dict(first.servings), first.closes), ({"yoghurt": 2}, True))
        self.assertEqual(first.day.held[Nutrient.PROTEIN], 140)
        self.assertNotIn("bar", {key for one in fill_ups(day, [APPLE, BAR, YOGHURT]) for key in one.servings})

    def test_fruit_for_what_the_coach_aims_at(self) -> None:
        """200 of 400 g: two apples bring 240, and 34 g carbohydrate that this day has room for."""
        figures = {"protein_g": 140.0, "carbohydrate_g": 234.0}
        day = a_day(amounts(protein_g=140, carbohydrate_g=200), DailyAims(produce_g=400), 200, **figures)
        (first, *_) = fill_ups(day, [APPLE, YOGHURT])
        self.assertEqual((dict(first.servings), first.closes), ({"apple": 2}, True))

    def test_a_day_that_lacks_nothing_gets_nothing(self) -> None:
        day = a_day(amounts(protein_g=140), protein_g=140)
        self.assertEqual(fill_ups(day, [APPLE, BAR, YOGHURT]), ())
        self.assertEqual(fill_ups(a_day(amounts(protein_g=100), protein_g=140), []), ())

    def test_a_gap_that_nobody_knows_of_is_not_filled(self) -> None:
        """40 g of 140 g protein are known, and a meal says nothing of it: there may be no gap at all."""
        unknown = Amounts(amounts(protein_g=40).known, frozenset({Nutrient.PROTEIN}))
        self.assertEqual(fill_ups(a_day(unknown, protein_g=140), [BAR, YOGHURT]), ())
        self.assertNotEqual(fill_ups(a_day(amounts(protein_g=40), protein_g=140), [BAR, YOGHURT]), ())

    def test_what_is_proposed_is_the_best_of_all_choices_and_makes_nothing_worse(self) -> None:
        """Against every choice of servings, with misses counted anew."""
        rng = Random(11)
        found = 0
        for number in range(120):
            figures = {"protein_g": rng.uniform(60, 160), "carbohydrate_g": rng.uniform(80, 250), "fat_g": 60.0}
            held = amounts(**{name: value * rng.uniform(0.5, 1.1) for name, value in figures.items()})
            day = a_day(held, None, 0, **figures)
            offers = [
                Offer(
                    key=str(index),
                    serving=amounts(**{name: rng.choice((0, rng.uniform(0, 25))) for name in figures}),
                    produce=Produce(),
                    most=rng.randint(1, 3),
                )
                for index in range(3)
            ]
            best = 0.0
            before = self.misses(figures, held)
            for counts in itertools.product(*(range(offer.most + 1) for offer in offers)):
                if sum(map(bool, counts)) > 2:
                    continue
                extras = [offer.serving.times(count) for offer, count in zip(offers, counts, strict=True)]
                misses = self.misses(figures, total([held, *extras]))
                if all(miss <= before[name] + 1e-9 for name, miss in misses.items()):
                    best = max(best, sum(before.values()) - sum(misses.values()))
            given = fill_ups(day, offers)
            with self.subTest(number=number):
                if best < 1e-5:
                    self.assertEqual(given, ())
                    continue
                found += 1
                after = self.misses(figures, given[0].day.held)
                self.assertAlmostEqual(sum(before.values()) - sum(after.values()), best, places=5)
                self.assertEqual(given[0].closes, sum(after.values()) < 1e-6)
                self.assertLessEqual(max(len(one.servings) for one in given), 2)
        self.assertGreater(found, 60)

    def misses(self, figures: dict[str, float], held: Amounts) -> dict[str, float]:
        bands = {"protein_g": 3, "carbohydrate_g": 5, "fat_g": 3}
        return {
            name: max(abs(held[Nutrient(name)] - value) - bands[name], 0) / value for name, value in figures.items()
        }


if __name__ == "__main__":
    unittest.main()
