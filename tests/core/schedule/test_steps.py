from __future__ import annotations

import unittest
from dataclasses import replace

from yantai.core.cooking.components import METHODS
from yantai.core.schedule.cooked import WASH_MIN, Cooked, work_of
from yantai.core.schedule.day import Skill
from yantai.core.schedule.kitchen import Fare, Item, Kind, machines_of
from yantai.core.schedule.propose import Ingredient, propose
from yantai.core.schedule.steps import Growth, Step
from yantai.work.cook.reference import _rows, catalogue, usual_times

OVEN = Item(key="oven", kind=Kind.OVEN, name="Oven", places=2, most_c=250)
TRAY = Item(key="tray", kind=Kind.TRAY, name="Tray", count=2, loads_g=((Fare.MEAT, 1300), (Fare.VEGETABLES, 1000)))
HOB = Item(key="hob", kind=Kind.HOB, name="Hob", places=4)
PAN = Item(key="pan", kind=Kind.PAN, name="Pan", count=2, loads_g=((Fare.MEAT, 500), (Fare.VEGETABLES, 450)))
POT = Item(key="pot", kind=Kind.POT, name="Pot", loads_g=((Fare.MEAT, 3500), (Fare.GRAIN, 900)))
BOARD = Item(key="board", kind=Kind.BOARD, name="Board")
RAW_BOARD = Item(key="board-raw", kind=Kind.RAW_BOARD, name="Board for raw")
KITCHEN = (OVEN, TRAY, HOB, PAN, POT, BOARD, RAW_BOARD)

ROAST = Step(
    key="roast", says="Roast", hands_min=2, unattended_min=20, temperature_c=200, on=Kind.OVEN, skill=Skill.HEAT
)
FRY = Step(key="fry", says="Fry", hands_min=7, unattended_min=0, preheat_min=3, on=Kind.PAN, growth=Growth.LOAD)


def cooked(*steps: Step, raw_g: float = 1000, fare: Fare = Fare.VEGETABLES, **more: object) -> Cooked:
    return replace(
        Cooked(key="c", name="Courgettes", steps=steps, raw_g=raw_g, written_g=1000, fare=fare),
        **more,  # type: ignore[arg-type]
    )


class Amounts(unittest.TestCase):
    def test_hand_work_grows_with_the_amount(self) -> None:
        """7 min for the 1 kg it was written for are 41 for 5.8 kg (40.6)."""
        work = work_of([cooked(Step(key="cut", says="Cut", hands_min=7), raw_g=5800)], KITCHEN, share_oven=False)
        self.assertEqual([one.task.minutes for one in work.planned], [41])

    def test_an_oven_takes_the_same_for_more_and_more_trays(self) -> None:
        """2.5 kg on trays of 1 kg: three trays of 833 g, each 22 min and 15 % for a full oven: 2 + 20 x 1.15 = 25."""
        work = work_of([cooked(ROAST, raw_g=2500)], KITCHEN, share_oven=False)
        self.assertEqual([one.task.minutes for one in work.planned], [25, 25, 25])
        self.assertEqual([round(one.round.grams) for one in work.planned], [833, 833, 833])

    def test_rounds_of_a_pan(self) -> None:
        """5.8 kg in pans of 450 g: 13 rounds (12.9), each 3 min to heat the pan and 7 to fry."""
        work = work_of([cooked(FRY, raw_g=5800)], KITCHEN, share_oven=False)
        self.assertEqual(len(work.planned), 13)
        self.assertEqual({one.task.minutes for one in work.planned}, {10})
        self.assertAlmostEqual(sum(one.round.grams for one in work.planned), 5800)

    def test_rounds_take_whole_pieces(self) -> None:
        """40 pieces of 75 g on trays of 1.3 kg: 17 at once, so three trays, of 14, 13 and 13."""
        work = work_of([cooked(ROAST, raw_g=3000, fare=Fare.MEAT, pieces=40)], KITCHEN, share_oven=False)
        self.assertEqual([one.round.pieces for one in work.planned], [14, 13, 13])

    def test_a_little_longer_for_more(self) -> None:
        """20 min at twice the amount: 20 x 1.18 = 23.6, with 2 of hands 2.4: 26 min."""
        step = replace(ROAST, on=Kind.POT, growth=Growth.MILD, temperature_c=None)
        work = work_of([cooked(step, raw_g=2000, fare=Fare.MEAT)], KITCHEN, share_oven=False)
        self.assertEqual([one.task.minutes for one in work.planned], [26])

    def test_dishes_near_enough_share_an_oven(self) -> None:
        """200 and 210 °C at 205: 20 min become 20 x 140 / 145 = 19.3, so 2 + 19.3 -> 22; and 20 x 150 / 145 -> 23."""
        other = replace(ROAST, key="bake", temperature_c=210)
        components = [cooked(ROAST, key="a"), cooked(other, key="b")]
        work = work_of(components, KITCHEN, share_oven=True)
        self.assertEqual({one.task.temperature_c for one in work.planned}, {205})
        self.assertEqual([one.task.minutes for one in work.planned], [22, 23])
        self.assertIn("at 205 °C instead of 200 °C", work.planned[0].assumed[0])
        apart = work_of(components, KITCHEN, share_oven=False)
        self.assertEqual([one.task.temperature_c for one in apart.planned], [200, 210])


class Safe(unittest.TestCase):
    RAW = Step(key="cut", says="Dice chicken", hands_min=10, skill=Skill.RAW, needs_board=True)
    READY = Step(key="cut", says="Slice cucumber", hands_min=10, skill=Skill.KNIFE, needs_board=True)

    def boards(self, step: Step, items: tuple[Item, ...]) -> set[str]:
        planned = work_of([cooked(step)], items, share_oven=False).planned
        return {key for need in planned[0].task.needs for key, _ in need.options}

    def test_raw_and_ready_have_boards_of_their_own(self) -> None:
        self.assertEqual(self.boards(self.RAW, KITCHEN), {"board-raw"})
        self.assertEqual(self.boards(self.READY, KITCHEN), {"board"})

    def test_on_one_board_a_wash_comes_after_what_is_raw(self) -> None:
        work = work_of([cooked(self.RAW)], (BOARD,), share_oven=False)
        self.assertEqual(work.planned[0].task.minutes, 10 + WASH_MIN)
        self.assertIn("wash board, knife and hands", work.planned[0].assumed[0])

    def test_what_is_cooked_apart_for_somebody_comes_first(self) -> None:
        free = cooked(self.READY, key="free", free_of=frozenset({"sesame"}))
        other = cooked(self.READY, key="other", allergens=frozenset({"sesame"}))
        work = work_of([other, free], KITCHEN, share_oven=False)
        self.assertEqual([(link.before, link.after) for link in work.links], [("free/cut/1", "other/cut/1")])

    def test_two_that_must_each_be_free_of_the_other_are_no_dead_end(self) -> None:
        one = cooked(self.READY, key="one", free_of=frozenset({"milk"}), allergens=frozenset({"nuts"}))
        other = cooked(self.READY, key="other", free_of=frozenset({"nuts"}), allergens=frozenset({"milk"}))
        self.assertEqual(work_of([one, other], KITCHEN, share_oven=False).links, ())


class NotHere(unittest.TestCase):
    def why(self, component: Cooked, items: tuple[Item, ...]) -> str:
        work = work_of([component], items, share_oven=False)
        self.assertEqual(work.planned, ())
        return " ".join(work.impossible)

    def test_no_oven_says_what_else_there_is(self) -> None:
        self.assertIn("cook it on the hob", self.why(cooked(ROAST), (HOB, PAN)))

    def test_an_oven_that_does_not_get_so_hot(self) -> None:
        self.assertIn("does not get so hot", self.why(cooked(replace(ROAST, temperature_c=280)), KITCHEN))

    def test_a_piece_larger_than_the_pan(self) -> None:
        self.assertIn("weighs 1,500 g", self.why(cooked(FRY, raw_g=3000, fare=Fare.MEAT, pieces=2), KITCHEN))

    def test_a_hob_and_nothing_to_put_on_it(self) -> None:
        self.assertIn("wants a pan", self.why(cooked(FRY), (HOB,)))


class Proposed(unittest.TestCase):
    def test_courgettes_for_forty_one_are_no_five_minutes_of_work(self) -> None:
        """5.8 kg: washed (1 + 1.5 x 5.8 = 9.7 min) and cut (0.5 + 4.5 x 5.8 = 26.6): 36.3."""
        line = Ingredient(
            food="zucchini-with-skin-raw", name="Courgettes", says="courgettes, sliced", group="vegetables",
            state="raw", purchased_g=5800,
        )  # fmt: skip
        first, heat = propose("Courgettes", "sauteed", [line], usual_times())
        self.assertAlmostEqual(first.hands_min, 36.3)
        self.assertEqual((heat.on, heat.growth, heat.load_g), (Kind.HOB, Growth.LOAD, 450))
        self.assertTrue(first.proposed and heat.proposed)

    def test_kidney_beans_are_soaked_and_boiled_hard(self) -> None:
        line = Ingredient(
            food="kidney-beans-red-dry", name="Kidney beans", says="500 g kidney beans", group="legumes", state="dry",
            purchased_g=500,
        )  # fmt: skip
        steps = propose("Beans", "boiled", [line], usual_times())
        self.assertEqual([step.lead_min for step in steps if step.is_lead], [300])
        self.assertEqual(steps[-1].core_c, 100)

    def test_every_food_by_every_method_has_steps_that_a_kitchen_can_take(self) -> None:
        """Whatever is proposed has minutes, says where it is from, and becomes tasks in a kitchen with everything."""
        items = (*(item for item, _ in catalogue()), BOARD, RAW_BOARD)
        machines = {machine.key for machine in machines_of(items)}
        for row in _rows("foods.csv"):
            line = Ingredient(
                food=row["food_id"], name=row["name"], says=row["name"], group=row["group"], state=row["state"],
                purchased_g=2000,
            )  # fmt: skip
            for method in METHODS:
                steps = propose(row["name"], method, [line], usual_times())
                with self.subTest(food=row["food_id"], method=method):
                    for step in steps:
                        self.assertTrue(step.proposed)
                        self.assertGreater(step.hands_min + step.unattended_min + (step.lead_min or 0), 0)
                        self.assertLess(step.hands_min + step.unattended_min, 24 * 60)
                    self.assertEqual(any(step.on for step in steps if not step.is_lead), method != "none")
                    made = Cooked(key="c", name="c", steps=steps, raw_g=2000, written_g=2000)
                    work = work_of([made], items, share_oven=False)
                    self.assertEqual(work.impossible, ())
                    for one in work.planned:
                        for need in one.task.needs:
                            self.assertTrue({key for key, _ in need.options} <= machines)
                        for touch in one.task.touches:
                            self.assertLessEqual(touch.high + touch.minutes, one.task.minutes)
