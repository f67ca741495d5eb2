from __future__ import annotations

import unittest
from dataclasses import replace
from random import Random

from tests.core.schedule.days import day, small
from tests.core.schedule.keeping import broken
from tests.core.schedule.lateness import in_the_middle
from tests.core.schedule.plainly import by_rule, shortest
from tests.volume import volume
from yantai.core.schedule.bounds import earliest_ready
from yantai.core.schedule.day import MOST_TASKS, Day, Hold, Link, Machine, Need, Person, Pot, Skill, Span, Task, Touch
from yantai.core.schedule.order import Order
from yantai.core.schedule.solve import NoOrder, best_order, moved_of

TAMSIN = Person(key="tamsin", name="Tamsin", there=(Span(start=0, end=600),))
HELPER = Person(key="helper", name="Helper", there=(Span(start=0, end=600),))
OVEN = Machine(key="oven", name="Oven", capacity=2, heat_min=15)
HOB = Machine(key="hob", name="Hob", capacity=2)
BOARD = Machine(key="board", name="Board")


def hands(key: str, minutes: int, of: str = "dish", *, board: bool = False, skill: Skill = Skill.KNIFE) -> Task:
    needs = (Need(options=(("board", 1),)),) if board else ()
    return Task(key=key, of=of, says=key, minutes=minutes, hands_on=True, needs=needs, skill=skill)


def in_oven(key: str, minutes: int, of: str = "dish", *, celsius: float = 200, shelves: int = 1) -> Task:
    return Task(
        key=key,
        of=of,
        says=key,
        minutes=minutes,
        skill=Skill.HEAT,
        touches=(Touch(minutes=2), Touch(minutes=1, low=1, from_end=True)),
        needs=(Need(options=(("oven", shelves),)),),
        temperature_c=celsius,
    )


def a_day(
    tasks: list[Task],
    links: list[Link] | None = None,
    *,
    people: tuple[Person, ...] = (TAMSIN,),
    delicate: dict[str, int] | None = None,
) -> Day:
    pots = sorted({task.of for task in tasks})
    return Day(
        tasks=tuple(tasks),
        links=tuple(links or ()),
        people=people,
        machines=(OVEN, HOB, BOARD),
        pots=tuple(Pot(key=pot, name=pot, delicate=(delicate or {}).get(pot, 0)) for pot in pots),
    )


def start(order: Order, key: str) -> int:
    return order.by_task[key].start


class ByHand(unittest.TestCase):
    def test_what_needs_nobody_goes_on_while_hands_are_at_something_else(self) -> None:
        """Chicken 5 min at the board, then 25 in the oven, hot after 15; rice 20 min of work.

        Into the oven at 15 at the earliest, out at 40. Of the 15 minutes before, 5 are the chicken's; the rice's 20
        do not fit into the 10 left, and begin after the tray is in, at 17: over at 37, before the tray is out at 39.
        """
        made = a_day(
            [hands("trim", 5, "chicken"), in_oven("roast", 25, "chicken"), hands("rice", 20, "rice")],
            [Link(before="trim", after="roast")],
        )
        order = best_order(made)
        self.assertEqual((order.ready, order.spare), (40, 0))
        self.assertEqual(start(order, "roast"), 15)
        self.assertEqual(start(order, "rice"), 17)

    def test_two_temperatures_one_after_the_other_with_the_oven_heated_between(self) -> None:
        """160 °C for 30 min and 200 °C for 20 in one oven of two shelves.

        160 first: hot at 15 (as cold to 160 takes the whole 15), out at 45, then 15 x 40 / 180 = 3.3, so 4 minutes:
        49 + 20 = 69. 200 first: 15 + 20 = 35, then 15 x 40 / 140 = 4.3, so 5: 40 + 30 = 70.
        """
        order = best_order(a_day([in_oven("low", 30, "a", celsius=160), in_oven("high", 20, "b", celsius=200)]))
        self.assertEqual(order.ready, 69)
        self.assertLess(start(order, "low"), start(order, "high"))

    def test_trays_share_an_oven_as_far_as_there_are_shelves(self) -> None:
        """Three trays of 20 min at one temperature on two shelves: two from 15 and 17, the third when one is out."""
        order = best_order(a_day([in_oven(f"tray {n}", 20, f"dish {n}") for n in range(3)]))
        self.assertEqual(order.ready, 15 + 20 + 20)

    def test_what_is_delicate_is_done_last(self) -> None:
        """Two things of 10 min by one person, in any order ready at 20: the delicate one waits 0 instead of 10."""
        order = best_order(a_day([hands("fish", 10, "fish"), hands("roots", 10, "roots")], delicate={"fish": 3}))
        self.assertEqual((order.ready, order.waiting), (20, 0))
        self.assertEqual(start(order, "fish"), 10)

    def test_hands_stay_with_a_component(self) -> None:
        """Two components of two tasks each: two switches are the fewest, one for each component begun."""
        tasks = [hands(f"{of} {n}", 5, of) for n in (1, 2) for of in ("a", "b")]
        self.assertEqual(best_order(a_day(tasks)).switches, 2)

    def test_work_is_shared_evenly(self) -> None:
        """Four tasks of 5 min beside an oven that is ready at 75 anyway: two for each of two people."""
        tasks = [in_oven("roast", 60, "roast"), *(hands(f"cut {n}", 5, f"cut {n}") for n in range(4))]
        order = best_order(a_day(tasks, people=(TAMSIN, HELPER)))
        minutes = {person.key: 0 for person in (TAMSIN, HELPER)}
        for one in order.placed:
            for hand in one.hands:
                minutes[hand.person] += hand.end - hand.start
        self.assertEqual(order.ready, 75)
        self.assertLessEqual(max(minutes.values()), 12)

    def test_a_soak_is_begun_the_evening_before(self) -> None:
        """Beans soak at least 480 min and are boiled at 9:00 (540); somebody is there from 19:00 to 21:00 before."""
        evening = Span(start=-300, end=-180)
        cook = replace(TAMSIN, there=(evening, Span(start=540, end=1200)))
        soak = Task(
            key="soak", of="beans", says="soak the beans", minutes=480, most_minutes=1440, touches=(Touch(minutes=3),),
            ahead=True,
        )  # fmt: skip
        boil = hands("boil", 30, "beans", skill=Skill.HEAT)
        made = replace(a_day([soak, boil], [Link(before="soak", after="boil")], people=(cook,)), start=540)
        order = best_order(made)
        self.assertEqual(order.ready, 570)
        self.assertTrue(evening.start <= start(order, "soak") <= evening.end - 3)

    def test_work_begins_as_late_as_it_can_where_there_is_a_time_to_be_ready(self) -> None:
        """20 and 10 minutes of one person, all ready by 300: begun at 270."""
        made = replace(a_day([hands("a", 20, "a"), hands("b", 10, "b")]), ready_by=300)
        order = best_order(made)
        self.assertEqual((min(one.start for one in order.placed), order.ready), (270, 300))

    def test_nobody_works_through_a_break(self) -> None:
        """Away from 10 to 30: of 8 and 15 minutes, the 15 do not fit before; 30 + 15 = 45."""
        cook = replace(TAMSIN, there=(Span(start=0, end=10), Span(start=30, end=200)))
        self.assertEqual(best_order(a_day([hands("a", 8, "a"), hands("b", 15, "b")], people=(cook,))).ready, 45)

    def test_who_does_no_raw_meat_is_not_given_any(self) -> None:
        helper = replace(HELPER, does=frozenset({Skill.KNIFE}))
        tasks = [hands(f"meat {n}", 10, f"meat {n}", skill=Skill.RAW) for n in range(3)]
        order = best_order(a_day(tasks, people=(TAMSIN, helper)))
        self.assertEqual({hand.person for one in order.placed for hand in one.hands}, {"tamsin"})
        self.assertEqual(order.ready, 30)

    def test_slower_hands_take_longer(self) -> None:
        self.assertEqual(best_order(a_day([hands("cut", 10)], people=(replace(TAMSIN, pace=1.25),))).ready, 13)

    def test_one_more_helper_is_ready_earlier(self) -> None:
        tasks = [hands(f"cut {n}", 10, f"dish {n}") for n in range(4)]
        alone = best_order(a_day(tasks))
        together = best_order(a_day(tasks, people=(TAMSIN, HELPER)))
        self.assertEqual((alone.ready, together.ready), (40, 20))


class Refused(unittest.TestCase):
    def refusal(self, made: Day) -> str:
        with self.assertRaises(NoOrder) as caught:
            best_order(made)
        return str(caught.exception)

    def test_steps_that_wait_for_each_other_are_named(self) -> None:
        made = a_day([hands("a", 5), hands("b", 5)], [Link(before="a", after="b"), Link(before="b", after="a")])
        self.assertIn("“a” → “b” → “a”", self.refusal(made))

    def test_a_step_longer_than_anybody_is_there(self) -> None:
        self.assertIn("nobody is there for so long", self.refusal(a_day([hands("stir", 700)])))

    def test_no_oven(self) -> None:
        made = replace(a_day([in_oven("roast", 20)]), machines=(HOB,))
        self.assertIn("nothing to do “roast” on", self.refusal(made))

    def test_more_shelves_than_the_oven_has(self) -> None:
        self.assertIn("nothing to do “roast” on", self.refusal(a_day([in_oven("roast", 20, shelves=3)])))

    def test_ready_before_it_can_be(self) -> None:
        made = replace(a_day([hands("a", 20)]), ready_by=10)
        self.assertIn("cannot be ready by then", self.refusal(made))

    def test_nobody_to_cook(self) -> None:
        self.assertIn("Nobody is there", self.refusal(a_day([hands("a", 5)], people=())))

    def test_nobody_for_this_work(self) -> None:
        helper = replace(HELPER, does=frozenset({Skill.OTHER}))
        self.assertIn("Nobody here does “a”", self.refusal(a_day([hands("a", 5)], people=(helper,))))

    def test_more_tasks_than_can_be_put_in_order(self) -> None:
        with self.assertRaisesRegex(ValueError, "more than can be put in order"):
            a_day([hands(str(n), 1) for n in range(MOST_TASKS + 1)])

    def test_a_hold_that_nothing_keeps_to(self) -> None:
        """Two things held at the same minute, and one person."""
        made = replace(a_day([hands("a", 5), hands("b", 5)]), holds={"a": Hold(start=10), "b": Hold(start=12)})
        self.assertIn("Let go of what is held", self.refusal(made))

    def test_nothing_to_do_is_ready_at_once(self) -> None:
        self.assertEqual(best_order(a_day([])).ready, 0)


class ByChance(unittest.TestCase):
    def test_every_rule_is_kept_and_no_plain_rule_is_faster(self) -> None:
        for seed in range(volume(5, 500)):
            made = day(seed, 60)
            with self.subTest(seed=seed, tasks=len(made.tasks)):
                self.assertEqual(broken(made, best_order(made, effort=0.02)), [])
                # The plain rule knows nothing of what must not wait.
                patient = replace(made, links=tuple(replace(link, most=None) for link in made.links))
                order = best_order(patient, effort=volume(50, 200) / 1000)
                self.assertEqual(broken(patient, order), [])
                self.assertLessEqual(order.ready, by_rule(patient))
                self.assertLessEqual(earliest_ready(patient), order.ready)

    def test_as_short_as_the_best_of_all_orders(self) -> None:
        for touched_later, most, cases in ((False, volume(5, 8), volume(12, 40)), (True, 4, volume(6, 60))):
            for seed in range(1000, 1000 + cases):
                made = small(seed, most, touched_later=touched_later)
                with self.subTest(seed=seed, touched_later=touched_later):
                    order = best_order(made)
                    self.assertEqual(broken(made, order), [])
                    self.assertEqual(order.ready, shortest(made, starts_vary=touched_later))
                    self.assertTrue(order.is_shortest)

    def test_the_same_day_gives_the_same_order(self) -> None:
        made = day(3, 30, least_tasks=30)
        self.assertEqual(best_order(made, effort=0.03), best_order(made, effort=0.03))

    def test_late_in_the_middle_nothing_done_moves_and_every_rule_is_kept(self) -> None:
        for seed in range(2000, 2000 + volume(4, 334)):
            chance, made = Random(seed), day(seed, 60)
            order = best_order(made, effort=0.01)
            for _ in range(3):
                middle = in_the_middle(made, order, chance)
                with self.subTest(seed=seed, now=middle.now):
                    after = best_order(middle, effort=0.05, follows=order)
                    self.assertEqual(broken(middle, after), [])
                    for key, hold in middle.holds.items():
                        self.assertEqual(after.by_task[key].start, hold.start)
                        if hold.done:
                            self.assertEqual(after.by_task[key].end, hold.end)


class Late(unittest.TestCase):
    def test_what_has_nothing_to_do_with_it_stays_where_it_is(self) -> None:
        """The tray takes 10 min longer, and all is ready 10 later; the cutting beside it does not move."""
        made = a_day(
            [in_oven("roast", 60, "roast"), hands("carve", 5, "roast"), hands("cut", 10, "salad")],
            [Link(before="roast", after="carve")],
        )
        order = best_order(made)
        roast = order.by_task["roast"]
        middle = replace(
            made, now=roast.start + 1, holds={"roast": Hold(start=roast.start, end=roast.end + 10, machines=("oven",))}
        )
        after = best_order(middle, follows=order)
        self.assertEqual(after.ready, order.ready + 10)
        if start(order, "cut") > roast.start:
            self.assertEqual(start(after, "cut"), start(order, "cut"))
        self.assertEqual(moved_of(middle, after.placed, order), after.moved)

    def test_what_happened_against_the_rules_is_no_contradiction(self) -> None:
        """Three trays went into an oven of two shelves, and one person was at two things: the rest goes on."""
        made = a_day([in_oven(f"tray {n}", 20, f"dish {n}") for n in range(3)] + [hands("cut", 30, "x")])
        holds = {f"tray {n}": Hold(start=15, machines=("oven",)) for n in range(3)}
        middle = replace(made, now=20, holds=holds | {"cut": Hold(start=10, person="tamsin")})
        order = best_order(middle, follows=best_order(made))
        self.assertEqual(broken(middle, order), [])
