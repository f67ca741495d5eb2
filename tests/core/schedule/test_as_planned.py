"""A day on which everything happens as planned stays as planned, whenever one looks."""

from __future__ import annotations

import unittest
from random import Random

from tests.core.schedule.days import day as random_day
from tests.core.schedule.keeping import broken
from tests.volume import volume
from yantai.core.schedule.day import Day, Machine
from yantai.core.schedule.heating import Warm, as_warm, heatings
from yantai.core.schedule.live import CookEvent, Fact, day_now, progress_of
from yantai.core.schedule.order import Order
from yantai.core.schedule.solve import best_order


def facts_until(day: Day, order: Order, minute: int) -> list[Fact]:
    """What somebody who does everything at its minute has noted by then."""
    facts = [Fact(key="begin", task="", event=CookEvent.DAY_BEGUN, minute=day.start)]
    for machine in day.machines:
        if machine.has_one_temperature:
            on = [one for one in order.placed if machine.key in one.machines]
            facts += [
                Fact(key=f"heat {machine.key} {each.start}", task=machine.key, event=CookEvent.HEATED,
                     minute=each.start, celsius=each.celsius)
                for each in heatings(machine, on, day)
            ]  # fmt: skip
    for one in order.placed:
        person = next((hand.person for hand in one.hands if hand.touch is None), None)
        facts.append(Fact(key=f"b {one.task}", task=one.task, event=CookEvent.BEGUN, minute=one.start, person=person))
        facts.append(Fact(key=f"d {one.task}", task=one.task, event=CookEvent.DONE, minute=one.end, person=person))
        facts += [
            Fact(key=f"t {one.task} {hand.touch}", task=one.task, event=CookEvent.TOUCHED, minute=hand.start,
                 touch=hand.touch)
            for hand in one.hands
            if hand.touch is not None
        ]  # fmt: skip
    return [fact for fact in facts if fact.minute <= minute]


class AsPlanned(unittest.TestCase):
    def test_whenever_one_looks_it_is_ready_when_it_was_to_be(self) -> None:
        for seed in range(volume(16, 300)):
            chance = Random(seed)
            made = random_day(seed, 10 + seed % 15)
            order = best_order(made, effort=0.05)
            begins = min(one.start for one in order.placed)
            heated = [fact for fact in facts_until(made, order, order.ready) if fact.event is CookEvent.HEATED]
            # The minute at which somebody has just turned an oven on, and one in the middle of anything.
            for minute in (*(fact.minute for fact in heated[1:4]), chance.randint(begins, order.ready)):
                with self.subTest(seed=seed, minute=minute):
                    progress = progress_of(facts_until(made, order, minute))
                    now = day_now(made, progress, order, minute)
                    after = best_order(now, effort=0.03, follows=order)
                    self.assertLessEqual(after.ready, order.ready)
                    self.assertEqual(broken(now, after), [])


class Ovens(unittest.TestCase):
    OVEN = Machine(key="o", name="Oven", capacity=2, heat_min=15)

    def test_from_200_to_180_degrees_is_a_matter_of_minutes(self) -> None:
        """15 minutes are 160 degrees from 20 to 180: 20 of them take 2."""
        warm = as_warm(
            self.OVEN, [Warm(minute=600, celsius=200, is_set=False), Warm(minute=640, celsius=180, is_set=True)]
        )
        self.assertEqual((warm.warm_c, warm.hot_by), (180, 642))

    def test_the_knob_that_was_turned_again_in_the_same_minute_counts(self) -> None:
        set_twice = [Warm(minute=600, celsius=210, is_set=True), Warm(minute=600, celsius=180, is_set=True)]
        self.assertEqual(as_warm(self.OVEN, set_twice).warm_c, 180)

    def test_a_cold_one_takes_all_its_minutes(self) -> None:
        warm = as_warm(self.OVEN, [Warm(minute=600, celsius=220, is_set=True)])
        self.assertEqual((warm.warm_c, warm.hot_by), (220, 615))

    def test_turned_on_twice_it_is_hot_as_soon(self) -> None:
        twice = [Warm(minute=600, celsius=220, is_set=True), Warm(minute=605, celsius=220, is_set=True)]
        self.assertEqual(as_warm(self.OVEN, twice).hot_by, 615)


if __name__ == "__main__":
    unittest.main()
