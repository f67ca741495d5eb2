"""Every kind of change: told in words, taken back, and made again."""

from __future__ import annotations

import unittest
import uuid
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import get_args

from sqlalchemy import select

from tests.api.batches.test_sequences import figures, shown
from tests.kitchens import BULGUR, CHICKEN, line, planned
from tests.support import NOW, database, new_kitchen
from yantai.core.planning.portioning import Place, School
from yantai.store import tables
from yantai.work.batches.commands import Changed, change_batch, read_history, take_back
from yantai.work.batches.inputs import (
    AddDish,
    AddLine,
    AddPart,
    AddRow,
    AddSide,
    Change,
    Changes,
    CookApart,
    Delete,
    EaterInput,
    MergeRow,
    MoveRow,
    PutAway,
    PutRows,
    RemoveDish,
    RemoveLine,
    RemovePart,
    RemoveRow,
    RemoveSide,
    SetAside,
    SetBatch,
    SetBounds,
    SetChoice,
    SetComponent,
    SetContainers,
    SetDish,
    SetLine,
    SetPacked,
    SetPacks,
    SetPin,
    SetPlace,
    SetPot,
    SetPoured,
    SetRaw,
    SetSchool,
    SetSteps,
    SetTarget,
    SetWeighedParts,
    SharePot,
    SplitPot,
    SplitRow,
    SpreadChoices,
    TakeBack,
    TakeRow,
    UsePot,
    Vessel,
    Weigh,
    WeighPart,
    Withdraw,
)
from yantai.work.batches.reading import read_plan
from yantai.work.batches.views import PlanView
from yantai.work.common.who import SignedIn
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, StepInput

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


def weigh_part(plan: PlanView) -> WeighPart:
    return WeighPart(component_id=plan.components[0].id, vessel=Vessel(gross_g=900, vessel_g=300))


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
    WeighPart: Case(make=weigh_part, words="Chicken: a part weighed, 900 g less 300 g"),
    SetWeighedParts: Case(
        make=lambda plan: SetWeighedParts(component_id=plan.components[0].id, vessels=[]),
        words="Chicken: parts weighed: none",
        first=[weigh_part],
    ),
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


def second_dish(plan: PlanView) -> AddDish:
    """The same recipe once more, for Milo."""
    eater = EaterInput(target_id=target_of("Milo Brandt"), count=2)
    return AddDish(recipe_id=plan.dishes[0].recipe_id, name="Bowls to go", eaters=[eater])


def target_of(name: str) -> uuid.UUID:
    with database().workspace(HERE[0].workspace_id) as session:
        target, client = tables.Target, tables.Client
        query = select(target.id).join(client, client.id == target.client_id).where(client.name == name)
        return session.scalars(query.order_by(target.position)).first() or uuid.uuid4()


HERE: list[SignedIn] = []
"""The kitchen in which cases are made."""


def one_pot(plan: PlanView) -> SharePot:
    return SharePot(component_id=plan.components[4].id, with_component_id=plan.components[1].id)


def grouped(plan: PlanView) -> SetDish:
    return SetDish(dish_id=plan.dishes[0].id, name="Bowls", groups={"base": 1})


def in_group(index: int) -> Callable[[PlanView], Change]:
    return lambda plan: SetPlace(component_id=plan.components[index].id, place=Place.IN_CONTAINER, group="base")


def split(plan: PlanView) -> SplitRow:
    return SplitRow(row_id=plan.rows[0].id, count=2)


def apart(plan: PlanView) -> CookApart:
    return CookApart(component_id=plan.components[2].id, row_ids=[plan.rows[2].id])


CASES |= {
    SetPlace: Case(
        make=lambda plan: SetPlace(component_id=plan.components[2].id, place=Place.BESIDE, tub_ml=60),
        words="Sauce: goes beside instead of in the container, its tub holds 60 ml instead of not set",
    ),
    SetPot: Case(
        make=lambda plan: SetPot(component_id=plan.components[0].id, packed_raw=True, kit_text="4 h", whole_pans=False),
        words="Chicken: packed raw yes instead of no, cooked later by",
    ),
    SetAside: Case(
        make=lambda plan: SetAside(component_id=plan.components[2].id, aside=True), words="Sauce: out of the day's plan"
    ),
    SetSteps: Case(
        make=lambda plan: SetSteps(
            component_id=plan.components[0].id,
            steps=[StepInput(text="Roast it.", unattended_min=25, temperature_c=200, equipment="oven")],
        ),
        words="Chicken: 1 step",
    ),
    AddDish: Case(make=second_dish, words="Bowls to go added as a dish"),
    SetDish: Case(
        make=grouped,
        words="Chicken bowl: taken of each group 1 of base instead of none, name “Bowls” instead of",
    ),
    RemoveDish: Case(
        make=lambda plan: RemoveDish(dish_id=plan.dishes[1].id),
        words="Bowls to go: taken out of the batch",
        first=[second_dish],
    ),
    AddPart: Case(
        make=lambda plan: AddPart(dish_id=plan.dishes[1].id, component_id=plan.components[0].id),
        words="Bowls to go, Chicken: added",
        first=[second_dish],
    ),
    RemovePart: Case(
        make=lambda plan: RemovePart(dish_id=plan.dishes[0].id, component_id=plan.components[2].id),
        words="Chicken bowl, Sauce: taken out of the dish",
    ),
    AddRow: Case(
        make=lambda plan: AddRow(dish_id=plan.dishes[0].id, target_id=target_of("Milo Brandt"), count=1),
        words="Chicken bowl: 1 container added",
    ),
    RemoveRow: Case(
        make=lambda plan: RemoveRow(row_id=plan.rows[1].id), words="Ada Vance, dinner: taken out of the batch"
    ),
    SplitRow: Case(make=split, words="Ada Vance, lunch: 2 containers made a line of their own"),
    MergeRow: Case(
        make=lambda plan: MergeRow(row_id=plan.rows[1].id, into_row_id=plan.rows[0].id),
        words="Ada Vance, lunch: put together with Ada Vance, lunch",
        first=[split],
    ),
    SetChoice: Case(
        make=lambda plan: SetChoice(row_id=plan.rows[0].id, chosen=[plan.components[1].id]),
        words="Ada Vance, lunch: takes Bulgur",
        first=[grouped, in_group(0), in_group(1)],
    ),
    SpreadChoices: Case(
        make=lambda plan: SpreadChoices(dish_id=plan.dishes[0].id),
        words="Bowls: choices spread",
        first=[grouped, in_group(0), in_group(1)],
    ),
    SharePot: Case(make=one_pot, words="Bulgur: cooked in one pot with Bulgur", first=[second_dish]),
    SplitPot: Case(
        make=lambda plan: SplitPot(component_id=plan.components[1].id, dish_id=plan.dishes[1].id),
        words="Bowls to go, Bulgur: cooked in a pot of its own",
        first=[second_dish, one_pot],
    ),
    UsePot: Case(
        make=lambda plan: UsePot(
            component_id=plan.components[4].id, with_component_id=plan.components[1].id, dish_ids=[plan.dishes[1].id]
        ),
        words="Bulgur: cooked in one pot with Bulgur",
        first=[second_dish],
    ),
    CookApart: Case(make=apart, words="Sauce: cooked apart for Milo Brandt, lunch"),
    PutRows: Case(
        make=lambda plan: PutRows(row_ids=[plan.rows[2].id], dish_id=plan.dishes[1].id),
        words="Milo Brandt, lunch moved to",
        first=[apart],
    ),
    PutAway: Case(make=lambda plan: PutAway(away=True), words="put away"),
    Delete: Case(make=lambda plan: Delete(deleted=True), words="deleted"),
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
                HERE[:] = [self.who]
                self.plan = planned(self.who)
                for first in case.first:
                    self.plan = self.change(first(self.plan)).plan
                self.take_out_what_was_just_put_in()
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

    def take_out_what_was_just_put_in(self) -> None:
        """What was taken out before a change stays out, however often the change is taken back and made again."""
        if self.plan.batch.packed_at is not None:
            return
        before = shown(figures(self.plan))
        known = {row.id for row in self.plan.rows}
        last = self.plan.dishes[-1]
        added = self.change(AddRow(dish_id=last.id, target_id=target_of("Milo Brandt"), count=3)).plan
        (row,) = (row for row in added.rows if row.id not in known)
        self.plan = self.change(RemoveRow(row_id=row.id)).plan
        self.assertEqual(shown(figures(self.plan)), before)

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
