from __future__ import annotations

import itertools
import random
import unittest
from collections.abc import Iterator, Sequence
from dataclasses import replace

from yantai.core.errors import CoreError
from yantai.core.storage.assign import eating_calendar
from yantai.core.storage.breaks import SAFETY, Rule, breaks, fridge_litres
from yantai.core.storage.calendar import Calendar, Eaten, Store, ToEat, Weeks
from yantai.core.storage.eating import changed_days
from yantai.core.storage.shelf import Freezes

YES, CARE, NO = Freezes.YES, Freezes.WITH_CARE, Freezes.NO


def containers(key: str, count: int, days: int | None = 3, **more: object) -> ToEat:
    given: dict[str, object] = {
        "dish": key,
        "slot": "Lunch",
        "day_type": "any",
        "usual_days": None if days is None else days + 1,
        "freezes": YES,
        "freezer_days": 90,
        "litres": 1.0,
        **more,
    }
    return ToEat(key=key, count=count, fridge_days=days, **given)  # type: ignore[arg-type]


def shown(calendar: Calendar) -> list[str]:
    return [f"{one.day} {one.key}{one.number} {one.store}" for one in calendar.eaten]


class Examples(unittest.TestCase):
    """Weeks worked out by hand."""

    def test_what_keeps_three_days_is_frozen_for_the_rest_of_the_week(self) -> None:
        found = eating_calendar([containers("stew", 5)], Weeks())
        self.assertEqual(
            shown(found), ["1 stew1 fridge", "2 stew2 fridge", "3 stew3 fridge", "4 stew4 freezer", "5 stew5 freezer"]
        )
        self.assertEqual([one.thaw_on for one in found.eaten], [None, None, None, 3, 4])

    def test_leaves_are_eaten_before_cabbage(self) -> None:
        leaves = containers("leaves", 2, 2, usual_days=4, freezes=NO, freezer_days=0)
        cabbage = containers("cabbage", 2, 4, usual_days=5, freezes=NO, freezer_days=0)
        found = eating_calendar([cabbage, leaves], Weeks())
        self.assertEqual(
            shown(found), ["1 leaves1 fridge", "2 leaves2 fridge", "3 cabbage1 fridge", "4 cabbage2 fridge"]
        )

    def test_not_the_same_twice_running_where_it_can_be_avoided(self) -> None:
        found = eating_calendar([containers("a", 2), containers("b", 1)], Weeks())
        self.assertEqual(shown(found), ["1 a1 fridge", "2 b1 fridge", "3 a2 fridge"])

    def test_what_does_not_freeze_and_does_not_keep_is_cooked_twice(self) -> None:
        salad = containers("salad", 4, 2, freezes=NO, freezer_days=0)
        found = eating_calendar([salad], Weeks())
        self.assertEqual(found.without_day, {"salad": 2})
        (lacking,) = breaks([salad], Weeks(), found)
        self.assertEqual((lacking.rule, lacking.key, lacking.by), (Rule.HAS_DAY, "salad", 2))

    def test_training_and_rest_days(self) -> None:
        weeks = Weeks(day_types=("rest", "training", "rest", "rest", "training"))
        training = containers("t", 2, day_type="training")
        rest = containers("r", 2, day_type="rest")
        found = eating_calendar([training, rest], weeks)
        self.assertEqual(shown(found), ["1 t1 fridge", "2 r1 fridge", "3 r2 fridge", "4 t2 freezer"])

    def test_a_day_that_nobody_gave_a_type_has_one_for_all_its_meals(self) -> None:
        lunch = [containers(f"l{kind}", 2, day_type=kind) for kind in ("training", "rest")]
        dinner = [containers(f"d{kind}", 2, day_type=kind, slot="Dinner") for kind in ("training", "rest")]
        found = eating_calendar([*lunch, *dinner], Weeks())
        self.assertEqual(len(found.eaten), 8)
        for day in range(1, 5):
            kinds = {one.key[1:] for one in found.eaten if one.day == day}
            self.assertEqual(kinds, {found.day_types[day]})

    def test_a_small_fridge_sends_more_into_the_freezer(self) -> None:
        stew = containers("stew", 3, litres=1.5)
        found = eating_calendar([stew], Weeks(fridge_l=3.0))
        self.assertEqual(shown(found), ["1 stew1 fridge", "2 stew2 fridge", "3 stew3 freezer"])
        self.assertEqual(fridge_litres({"stew": stew}, found.eaten), [0, 3.0, 1.5, 1.5])

    def test_a_fridge_too_small_for_what_does_not_freeze_leaves_it_without_a_day(self) -> None:
        salad = containers("salad", 2, freezes=NO, freezer_days=0, litres=2)
        self.assertEqual(eating_calendar([salad], Weeks(fridge_l=1.0)).without_day, {"salad": 2})

    def test_what_is_set_by_hand_stays(self) -> None:
        by_hand = Eaten(key="stew", number=2, day=5, store=Store.FRIDGE, by_hand=True)
        stew = containers("stew", 3)
        found = eating_calendar([stew], Weeks(), [by_hand])
        self.assertIn(by_hand, found.eaten)
        self.assertEqual(shown(found), ["1 stew1 fridge", "2 stew3 fridge", "5 stew2 fridge"])
        (beyond,) = breaks([stew], Weeks(), found)
        self.assertEqual((beyond.rule, beyond.number, beyond.limit, beyond.by), (Rule.USUAL_DAYS, 2, 4, 1))

    def test_nothing_to_eat(self) -> None:
        self.assertEqual(eating_calendar([], Weeks()), Calendar(eaten=()))
        self.assertEqual(eating_calendar([containers("a", 0)], Weeks()).eaten, ())


class EveryBreak(unittest.TestCase):
    """Each rule is told when it is broken, and only then."""

    def rules(self, one: ToEat, *eaten: tuple[int, Store], **weeks: object) -> list[Rule]:
        placed = tuple(
            Eaten(key=one.key, number=number, day=day, store=store) for number, (day, store) in enumerate(eaten, 1)
        )
        return [found.rule for found in breaks([one], Weeks(**weeks), Calendar(eaten=placed))]  # type: ignore[arg-type]

    def test_each(self) -> None:
        fridge, freezer = Store.FRIDGE, Store.FREEZER
        one, salad = containers("a", 1), containers("a", 1, freezes=NO, freezer_days=0)
        self.assertEqual(self.rules(one, (3, fridge)), [])
        self.assertEqual(self.rules(one, (4, fridge)), [Rule.CAUTIOUS_DAYS])
        self.assertEqual(self.rules(one, (5, fridge)), [Rule.USUAL_DAYS])
        self.assertEqual(self.rules(one, (0, fridge)), [Rule.AFTER_COOKING])
        self.assertEqual(self.rules(one, (2, freezer)), [])
        self.assertEqual(self.rules(one, (1, freezer)), [Rule.TIME_TO_THAW])
        self.assertEqual(self.rules(salad, (2, freezer)), [Rule.FREEZES])
        self.assertEqual(self.rules(replace(one, freezer_days=30), (31, freezer)), [Rule.FREEZER_DAYS])
        self.assertEqual(self.rules(replace(one, tub_days=2), (3, fridge)), [Rule.TUB_DAYS])
        self.assertEqual(self.rules(replace(one, count=2), (3, fridge), (3, fridge)), [Rule.ONE_A_MEAL])
        self.assertEqual(self.rules(replace(one, count=2), (3, fridge)), [Rule.HAS_DAY])
        kinds = ("rest", "rest")
        self.assertEqual(self.rules(replace(one, day_type="training"), (1, fridge), day_types=kinds), [Rule.DAY_TYPE])
        self.assertEqual(self.rules(replace(one, litres=2), (2, fridge), fridge_l=1.5), [Rule.FRIDGE_ROOM] * 2)

    def test_two_types_on_one_free_day(self) -> None:
        kinds = [containers(kind, 1, day_type=kind, slot=kind) for kind in ("training", "rest")]
        placed = tuple(Eaten(key=one.key, number=1, day=1, store=Store.FRIDGE) for one in kinds)
        self.assertEqual([found.rule for found in breaks(kinds, Weeks(), Calendar(eaten=placed))], [Rule.DAY_TYPE])

    def test_what_cannot_be_fixed_is_refused(self) -> None:
        stew = containers("stew", 2)
        for key, number in (("soup", 1), ("stew", 3), ("stew", 0)):
            with self.assertRaises(CoreError):
                eating_calendar([stew], Weeks(), [Eaten(key=key, number=number, day=1, store=Store.FRIDGE)])
        twice = [Eaten(key="stew", number=1, day=day, store=Store.FRIDGE) for day in (1, 2)]
        with self.assertRaises(CoreError):
            eating_calendar([stew], Weeks(), twice)
        with self.assertRaises(CoreError):
            eating_calendar([stew, stew], Weeks())


def random_week(chance: random.Random, *, most: int) -> tuple[list[ToEat], Weeks]:
    classes = []
    for index in range(chance.randint(1, 3)):
        days = chance.choice((1, 2, 3, 4, None))
        freezes = chance.choice((YES, CARE, NO))
        classes.append(
            containers(
                f"c{index}",
                chance.randint(0, most),
                days,
                dish=chance.choice(("x", "y")),
                slot=chance.choice(("Lunch", "Dinner")),
                day_type=chance.choice(("any", "any", "training", "rest")),
                usual_days=None if days is None else days + chance.randint(0, 2),
                freezes=freezes,
                freezer_days=0 if freezes is NO else chance.choice((3, 30)),
                litres=chance.choice((0.5, 1.0)),
                tub_days=chance.choice((None, None, 2)),
            )
        )
    kinds = tuple(chance.choice((None, None, "training", "rest")) for _ in range(chance.randint(0, 5)))
    return classes, Weeks(first=chance.choice((0, 1)), day_types=kinds, fridge_l=chance.choice((None, None, 1.0, 2.0)))


def every_calendar(classes: Sequence[ToEat], weeks: Weeks, last: int) -> Iterator[Calendar]:
    """All calendars there are, whatever they break: each class on any set of days, each day out of any store."""
    choices = []
    for one in classes:
        spots = [(day, store) for day in range(weeks.first, last + 1) for store in Store]
        choices.append([picked for size in range(one.count + 1) for picked in itertools.combinations(spots, size)])
    for picked in itertools.product(*choices):
        eaten = tuple(
            Eaten(key=one.key, number=number, day=day, store=store)
            for one, spots in zip(classes, picked, strict=True)
            for number, (day, store) in enumerate(spots, 1)
        )
        yield Calendar(eaten=eaten)


def cost(classes: Sequence[ToEat], weeks: Weeks, calendar: Calendar) -> tuple[int, ...] | None:
    """How good a calendar is, the first figure first; None where it breaks what none may. Written apart from the
    program that finds them."""
    by_key = {one.key: one for one in classes}
    for found in breaks(classes, weeks, calendar):
        if found.rule not in (Rule.HAS_DAY, Rule.TUB_DAYS):
            return None
    eaten = calendar.eaten
    meals = {(by_key[one.key].slot, one.day): by_key[one.key].dish for one in eaten}
    running = sum(meals.get((slot, day + 1)) == dish for (slot, day), dish in meals.items())
    for day in {one.day for one in eaten}:
        dishes = [by_key[one.key].dish for one in eaten if one.day == day]
        running += len(dishes) - len(set(dishes))
    return (
        sum(one.count for one in classes) - len(eaten),
        sum(one.day for one in eaten),
        sum({YES: 1, CARE: 2, NO: 9}[by_key[one.key].freezes] for one in eaten if one.store is Store.FREEZER),
        sum((by_key[one.key].tub_days or 99) < one.day for one in eaten),
        running,
        -sum(one.day * by_key[one.key].keeps for one in eaten),
        sum(one.day for one in eaten if one.store is Store.FRIDGE),
    )


class Best(unittest.TestCase):
    def test_none_of_all_calendars_is_better(self) -> None:
        chance = random.Random(7)
        tried = 0
        while tried < 60:
            classes, weeks = random_week(chance, most=2)
            if not 1 <= sum(one.count for one in classes) <= 4:
                continue
            tried += 1
            costs = (cost(classes, weeks, one) for one in every_calendar(classes, weeks, weeks.first + 5))
            best = min((one for one in costs if one is not None), default=None)
            found = eating_calendar(classes, weeks)
            with self.subTest(classes=classes, weeks=weeks, found=shown(found)):
                self.assertEqual(cost(classes, weeks, found), best)

    def test_no_container_ever_beyond_its_shelf_life_or_thawed_twice(self) -> None:
        chance = random.Random(8)
        for _ in range(120):
            classes, weeks = random_week(chance, most=7)
            found = eating_calendar(classes, weeks)
            broken = {one.rule for one in breaks(classes, weeks, found)}
            self.assertLessEqual(broken, {Rule.HAS_DAY, Rule.TUB_DAYS}, (classes, weeks))
            self.assertEqual(broken & SAFETY - {Rule.TUB_DAYS}, set())
            seen = [(one.key, one.number) for one in found.eaten]
            self.assertEqual(len(seen), len(set(seen)))
            for one in found.eaten:
                kept = next(made for made in classes if made.key == one.key)
                if one.store is Store.FRIDGE and kept.fridge_days is not None:
                    self.assertLessEqual(one.day, kept.fridge_days)
                if one.store is Store.FREEZER:
                    # Frozen on day 0, put into the fridge once, on the evening before.
                    self.assertGreaterEqual(one.thaw_on or 0, 1)
                    self.assertIsNot(kept.freezes, NO)
            missing = {one.key: one.count - sum(e.key == one.key for e in found.eaten) for one in classes}
            self.assertEqual({key: count for key, count in missing.items() if count}, dict(found.without_day))

    def test_the_same_week_gets_the_same_calendar(self) -> None:
        classes, weeks = random_week(random.Random(3), most=7)
        self.assertEqual(eating_calendar(classes, weeks), eating_calendar(classes, weeks))


class Swaps(unittest.TestCase):
    """Two containers on each other's days: only where both are good to eat there."""

    def eaten(self, key: str, day: int, store: Store = Store.FRIDGE) -> Eaten:
        return Eaten(key=key, number=1, day=day, store=store)

    def swapped(
        self, one: Eaten, other: Eaten, classes: Sequence[ToEat], *, today: int = 1
    ) -> list[tuple[str, int]] | None:
        calendar = Calendar(eaten=(one, other))
        found = changed_days(one, other, classes, Weeks(), calendar, today=today)
        return None if found is None else [(eaten.key, eaten.day) for eaten in found]

    def test_both_keep(self) -> None:
        classes = [containers("a", 1), containers("b", 1)]
        self.assertEqual(self.swapped(self.eaten("a", 1), self.eaten("b", 3), classes), [("a", 3), ("b", 1)])

    def test_one_would_not_keep(self) -> None:
        classes = [containers("a", 1, 2), containers("b", 1)]
        self.assertIsNone(self.swapped(self.eaten("a", 1), self.eaten("b", 3), classes))

    def test_frozen_food_is_not_thawed_within_the_day(self) -> None:
        classes = [containers("a", 1, None), containers("b", 1)]
        one, other = self.eaten("a", 2), self.eaten("b", 5, Store.FREEZER)
        self.assertIsNone(self.swapped(one, other, classes, today=2))
        self.assertEqual(self.swapped(one, other, classes, today=1), [("a", 5), ("b", 2)])

    def test_another_meal_and_a_day_that_is_over(self) -> None:
        classes = [containers("a", 1), containers("b", 1, slot="Dinner")]
        self.assertIsNone(self.swapped(self.eaten("a", 1), self.eaten("b", 2), classes))
        same = [containers("a", 1), containers("b", 1)]
        self.assertIsNone(self.swapped(self.eaten("a", 1), self.eaten("b", 3), same, today=2))
        self.assertIsNone(self.swapped(self.eaten("a", 1), self.eaten("b", 1), same))
        self.assertIsNotNone(self.swapped(self.eaten("a", 2), self.eaten("b", 3), same, today=2))

    def test_never_beyond_shelf_life(self) -> None:
        chance = random.Random(9)
        tried = 0
        for _ in range(200):
            classes, weeks = random_week(chance, most=3)
            calendar = eating_calendar(classes, weeks)
            for one, other in itertools.combinations(calendar.eaten, 2):
                found = changed_days(one, other, classes, weeks, calendar, today=1)
                if found is None:
                    continue
                tried += 1
                for eaten in found:
                    kept = next(made for made in classes if made.key == eaten.key)
                    last = kept.fridge_days if eaten.store is Store.FRIDGE else kept.freezer_days
                    self.assertTrue(last is None or eaten.day <= last)
        self.assertGreater(tried, 50)
