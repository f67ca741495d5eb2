"""Every kind of change: told in words, taken back, and made again."""

from __future__ import annotations

import unittest
import uuid
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import get_args

from tests.api.batches.test_sequences import figures, shown
from tests.kitchens import BULGUR, CHICKEN, line, planned
from tests.support import NOW, database, new_kitchen
from yantai.core.planning.portioning import School
from yantai.work.batches.commands import Changed, change_batch, read_history, take_back
from yantai.work.batches.inputs import (
    AddLine,
    AddSide,
    Change,
    Changes,
    MoveRow,
    RemoveLine,
    RemoveSide,
    SetBatch,
    SetBounds,
    SetComponent,
    SetContainers,
    SetLine,
    SetPacked,
    SetPacks,
    SetPin,
    SetPoured,
    SetRaw,
    SetSchool,
    SetTarget,
    TakeBack,
    TakeRow,
    Vessel,
    Weigh,
    Withdraw,
)
from yantai.work.batches.reading import read_plan
from yantai.work.batches.views import PlanView
from yantai.work.common.who import SignedIn
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput

OIL = reference_id("olive-oil")


@dataclass(frozen=True, kw_only=True)
class Case:
    """A change of a plan, and the words for it; `first` are changes that have to be there."""

    make: Callable[[PlanView], Change]
    words: str
    first: Sequence[Callable[[PlanView], Change]] = field(default_factory=tuple)


def weigh(plan: PlanView, index: int = 0) -> Weigh:
    component = plan.components[index]
    return Weigh(component_id=component.id, vessels=[Vessel(gross_g=round(component.cooked_g) + 800, vessel_g=800)])


def add_oil(plan: PlanView) -> AddLine:
    return AddLine(component_id=plan.components[0].id, food_id=OIL, purchased_g=20)


def oil_beside(plan: PlanView) -> AddSide:
    return AddSide(row_id=plan.rows[0].id, food_id=OIL, grams=11)


CASES: dict[type, Case] = {
    SetPin: Case(
        make=lambda plan: SetPin(row_id=plan.rows[0].id, component_id=plan.components[0].id, grams=120),
        words="Ada Vance, lunch, Chicken: pinned at 120 g",
    ),
    SetTarget: Case(
        make=lambda plan: SetTarget(row_id=plan.rows[0].id, protein_g=40, carbohydrate_g=55),
        words="Ada Vance, lunch: protein 40 g instead of 45 g, fat none instead of 18 g",
    ),
    SetContainers: Case(
        make=lambda plan: SetContainers(row_id=plan.rows[0].id, count=1, capacity_ml=1200),
        words="Ada Vance, lunch: containers 1 instead of 5, holds 1,200 ml instead of 900 ml",
    ),
    SetBounds: Case(
        make=lambda plan: SetBounds(component_id=plan.components[1].id, minimum_g=50, maximum_g=None),
        words="Bulgur: at least 50 g instead of 0 g, at most not set instead of 400 g",
    ),
    SetSchool: Case(
        make=lambda plan: SetSchool(component_id=plan.components[2].id, school=School.BY_EYE, eye_g=35),
        words="Sauce: portioned by eye instead of by component, about 35 g instead of 0 g",
    ),
    SetRaw: Case(
        make=lambda plan: SetRaw(component_id=plan.components[0].id, fixed=True), words="Chicken: raw amounts fixed"
    ),
    SetPacks: Case(
        make=lambda plan: SetPacks(
            component_id=plan.components[1].id, line_id=plan.components[1].lines[0].id, pack_g=1000, packs=1
        ),
        words="Bulgur: 1 pack of 1,000 g of Bulgur wheat",
    ),
    Weigh: Case(make=weigh, words="Chicken: weighed NET: GROSS less 800 g"),
    Withdraw: Case(
        make=lambda plan: Withdraw(component_id=plan.components[0].id),
        words="Chicken: weight taken back",
        first=[weigh],
    ),
    SetLine: Case(
        make=lambda plan: SetLine(
            component_id=plan.components[1].id,
            line_id=plan.components[1].lines[0].id,
            food_id=reference_id(BULGUR),
            purchased_g=700,
        ),
        words="Bulgur: 700 g of Bulgur wheat instead of 600 g",
    ),
    SetComponent: Case(
        make=lambda plan: SetComponent(
            component_id=plan.components[0].id,
            component=ComponentInput(
                name="Plain chicken", role="protein", method="grilled", lines=[line(CHICKEN, 900)]
            ),
            line_ids=[uuid.uuid4()],
            recipe_component_id=None,
        ),
        words="Chicken: Plain chicken in its place",
    ),
    AddSide: Case(make=oil_beside, words="Ada Vance, lunch: 11 g of Olive oil beside the components"),
    RemoveSide: Case(
        make=lambda plan: RemoveSide(row_id=plan.rows[0].id, component_id=plan.components[3].id),
        words="Ada Vance, lunch, Olive oil: taken off beside the components",
        first=[oil_beside],
    ),
    AddLine: Case(make=add_oil, words="Chicken: 20 g of Olive oil added at the stove"),
    RemoveLine: Case(
        make=lambda plan: RemoveLine(component_id=plan.components[0].id, line_id=plan.components[0].lines[-1].id),
        words="Chicken: Olive oil taken out again",
        first=[add_oil],
    ),
    SetPoured: Case(
        make=lambda plan: SetPoured(component_id=plan.components[0].id, poured_fat_g=15),
        words="Chicken: fat poured off 15 g instead of 0 g",
    ),
    SetBatch: Case(
        make=lambda plan: SetBatch(name="Late bowls", cook_on=date(2026, 11, 30), step_g=10, buffer_share=0.05),
        words="step of the scale 10 g instead of 5 g",
    ),
    SetPacked: Case(
        make=lambda plan: SetPacked(packed=True),
        words="marked as packed",
        first=[lambda plan: weigh(plan, 0), lambda plan: weigh(plan, 1), lambda plan: weigh(plan, 2)],
    ),
}


class EveryChange(unittest.TestCase):
    def setUp(self) -> None:
        self.who: SignedIn = new_kitchen()
        self.plan = planned(self.who)

    def change(self, change: Change) -> Changed:
        plan = read_plan(database(), self.who, self.plan.batch.id)
        payload = Changes(version=plan.batch.version, changes=[change], confirmed=True, command_id=uuid.uuid4())
        return change_batch(database(), self.who, plan.batch.id, payload, NOW)

    def take_back(self, of: uuid.UUID) -> Changed:
        wish = TakeBack(command_id=uuid.uuid4(), of=of)
        return take_back(database(), self.who, self.plan.batch.id, wish, NOW)

    def test_none_is_left_out(self) -> None:
        kinds = set(get_args(get_args(Change)[0]))
        # Both are tested with two batches below.
        self.assertEqual(kinds - set(CASES), {MoveRow, TakeRow})

    def test_it_is_told_taken_back_and_made_again(self) -> None:
        for kind, case in CASES.items():
            with self.subTest(kind=kind.__name__):
                self.who = new_kitchen()
                self.plan = planned(self.who)
                for first in case.first:
                    self.plan = self.change(first(self.plan)).plan
                change = case.make(self.plan)
                made = self.change(change)
                told = read_history(database(), self.who, self.plan.batch.id, 1).commands[0].words
                expected = case.words
                if isinstance(change, Weigh):
                    gross = change.vessels[0].gross_g
                    expected = expected.replace("GROSS", f"{gross:,.0f} g").replace("NET", f"{gross - 800:,.0f} g")
                self.assertIn(expected, told[0])
                self.assertNotRegex(told[0], r"None|[{}]|\[object|  ")
                for _ in range(2):
                    step = read_history(database(), self.who, self.plan.batch.id, 0).steps.undo
                    assert step is not None
                    self.assertEqual(step.words, told)
                    back = self.take_back(step.id)
                    self.assertEqual(shown(figures(back.plan)), shown(figures(self.plan)))
                    self.assertEqual(len(back.plan.components), len(self.plan.components))
                    assert back.steps.redo is not None
                    self.assertEqual(back.steps.redo.words, told)
                    again = self.take_back(back.steps.redo.id)
                    self.assertEqual(shown(figures(again.plan)), shown(figures(made.plan)))

    def test_containers_moved_to_another_batch_come_back(self) -> None:
        other = planned(self.who)
        row = self.plan.rows[0]
        moved = self.change(MoveRow(row_id=row.id, to_batch_id=other.batch.id))
        self.assertEqual(moved.steps.undo and moved.steps.undo.words, ["Ada Vance, lunch: cooked with Bowls"])
        assert moved.steps.undo is not None
        there = read_history(database(), self.who, other.batch.id, 1)
        self.assertEqual(there.commands[0].words, ["Ada Vance, lunch came from “Bowls”"])
        back = self.take_back(moved.steps.undo.id)
        self.assertEqual(shown(figures(back.plan)), shown(figures(self.plan)))
        told = read_history(database(), self.who, self.plan.batch.id, 1).commands[0]
        self.assertEqual(told.words, ["Ada Vance, lunch: back from Bowls"])

    def test_what_came_from_another_batch_does_not_end_undo_here(self) -> None:
        other = planned(self.who)
        pin = SetPin(row_id=self.plan.rows[1].id, component_id=self.plan.components[0].id, grams=90)
        pinned = self.change(pin)
        payload = Changes(
            version=other.batch.version,
            changes=[MoveRow(row_id=other.rows[0].id, to_batch_id=self.plan.batch.id)],
            command_id=uuid.uuid4(),
        )
        change_batch(database(), self.who, other.batch.id, payload, NOW)
        steps = read_history(database(), self.who, self.plan.batch.id, 0).steps
        self.assertEqual(steps.undo, pinned.steps.undo)
        assert steps.undo is not None
        back = self.take_back(steps.undo.id)
        self.assertIsNone(back.plan.rows[1].cells[0].pinned_g)
        self.assertEqual(len(back.plan.rows), 4)


if __name__ == "__main__":
    unittest.main()
