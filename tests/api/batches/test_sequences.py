"""Long sequences of changes, chosen by chance from fixed seeds: what must hold after every one of them."""

from __future__ import annotations

import random
import unittest
import uuid
from dataclasses import asdict, replace
from datetime import UTC, datetime
from typing import Any

from tests.api.independent import independent_rows
from tests.kitchens import planned
from tests.support import NOW, database, new_kitchen
from tests.volume import volume
from yantai.work.batches.commands import Changed, change_batch
from yantai.work.batches.inputs import (
    AddLine,
    Change,
    Changes,
    RawAmount,
    SetBatch,
    SetBounds,
    SetContainers,
    SetPin,
    SetPoured,
    SetRaw,
    SetTarget,
    Vessel,
    Weigh,
    WeighPart,
    Withdraw,
)
from yantai.work.batches.reading import read_plan
from yantai.work.batches.views import PlanView
from yantai.work.common.errors import WorkError
from yantai.work.common.who import SignedIn
from yantai.work.pantry.reference import reference_id

SEEDS = range(volume(3, 30))
STEPS = 14


class Sequence:
    """One coach at one batch, who does this and that."""

    def __init__(self, seed: int) -> None:
        self.random = random.Random(seed)
        self.who: SignedIn = new_kitchen()
        self.plan: PlanView = planned(self.who)
        self.undo: list[list[Change]] = []

    def step(self) -> Change | None:
        """Do one thing; None when it was refused, which must leave everything as it was."""
        change = self.choose()
        before = self.plan
        try:
            self.apply([change], keep=True)
        except WorkError:
            assert read_plan(database(), self.who, before.batch.id) == before, change
            return None
        return change

    def apply(self, changes: list[Change], *, keep: bool) -> None:
        given = Changes(version=self.plan.batch.version, changes=changes, confirmed=True, command_id=uuid.uuid4())
        done: Changed = change_batch(database(), self.who, self.plan.batch.id, given, NOW)
        self.plan = done.plan
        if keep:
            self.undo.append(done.inverse)

    def choose(self) -> Change:
        chance = self.random
        row, component = chance.choice(self.plan.rows), chance.choice(self.plan.components)
        grams = chance.randrange(0, 400, 5)
        pin = SetPin(row_id=row.id, component_id=component.id, grams=chance.choice([None, float(grams)]))
        target = SetTarget(
            row_id=row.id,
            kcal=chance.choice([None, float(chance.randrange(300, 900, 10))]),
            protein_g=float(chance.randrange(20, 70)),
            carbohydrate_g=float(chance.randrange(20, 90)),
            fat_g=chance.choice([None, float(chance.randrange(5, 30))]),
        )
        capacity = chance.choice([None, float(chance.randrange(300, 1200, 50))])
        containers = SetContainers(row_id=row.id, count=chance.randrange(0, 8), capacity_ml=capacity)
        low = float(chance.randrange(0, 60, 5))
        bounds = SetBounds(component_id=component.id, minimum_g=low, maximum_g=low + chance.randrange(20, 400, 5))
        line = chance.choice(component.lines)
        amount = RawAmount(line_id=line.id, purchased_g=float(chance.randrange(0, 3000, 10)))
        raw = SetRaw(component_id=component.id, fixed=chance.random() < 0.7, lines=[amount])
        vessel = Vessel(gross_g=component.cooked_g * chance.uniform(0.6, 1.3) + 700, vessel_g=700)
        weigh = Weigh(component_id=component.id, vessels=[vessel])
        part = WeighPart(
            component_id=component.id, vessel=Vessel(gross_g=round(component.cooked_g / 3) + 1, vessel_g=0)
        )
        rest = weigh.model_copy(update={"with_parts": True})
        withdraw = Withdraw(component_id=component.id)
        step_g, buffer_share = chance.choice([1.0, 5.0, 10.0]), chance.choice([0.0, 0.03, 0.1])
        batch = SetBatch(name="Bowls", cook_on=self.plan.batch.cook_on, step_g=step_g, buffer_share=buffer_share)
        added = AddLine(
            component_id=component.id,
            food_id=reference_id(chance.choice(["olive-oil", "onion-raw", "salt-table-dry"])),
            purchased_g=float(chance.randrange(1, 60)),
        )
        poured = SetPoured(component_id=component.id, poured_fat_g=float(chance.randrange(0, 12)))
        choices: list[Change] = [
            pin, pin, target, containers, bounds, raw, weigh, weigh, part, rest, withdraw, batch, added, poured,
        ]  # fmt: skip
        return chance.choice(choices)


def figures(plan: PlanView) -> PlanView:
    """The plan without what only says when and how often it was changed."""
    weighed = [
        replace(c, weighing=None if c.weighing is None else replace(c.weighing, weighed_at=datetime.now(UTC).min))
        for c in plan.components
    ]
    batch = replace(plan.batch, version=0, changed_at=datetime.now(UTC).min)
    return replace(plan, batch=batch, components=weighed)


class Invariants(unittest.TestCase):
    def check(self, plan: PlanView) -> None:
        """Everything that holds for any plan."""
        for index, component in enumerate(plan.components):
            taken = sum(row.cells[index].grams * row.count for row in plan.rows)
            self.assertAlmostEqual(component.needed_g, taken, places=6)
            self.assertAlmostEqual(component.spare_g, component.cooked_g - taken, places=6)
            pinned = sum(
                row.cells[index].grams * row.count for row in plan.rows if row.cells[index].pinned_g is not None
            )
            if component.weighing is not None:
                self.assertEqual(component.cooked_g, component.weighing.cooked_g)
                self.assertLessEqual(taken, max(component.weighing.cooked_g, pinned) + 1e-6)
            for row in plan.rows:
                self.check_cell(row.cells[index], component, plan.dishes[0].parts[index])
        for row, expected in zip(plan.rows, independent_rows(as_json(plan)), strict=True):
            for macro, value in expected.items():
                self.assertAlmostEqual(getattr(row.amounts, macro), value, delta=0.1)
            for gauge in row.gauges:
                self.assertAlmostEqual(gauge.off, gauge.amount - gauge.target, places=6)
                inside = abs(gauge.off) <= gauge.tolerance + 1.1e-3
                self.assertEqual(gauge.miss == 0, inside, gauge)

    def check_cell(self, cell: Any, component: Any, part: Any) -> None:
        if cell.left_out:
            self.assertEqual(cell.grams, 0)
        elif cell.pinned_g is not None:
            self.assertEqual(cell.grams, cell.pinned_g)
        else:
            self.assertLessEqual(cell.grams, part.maximum_g + 1e-6)
            if component.weighing is None:  # a short pan may go below the least
                self.assertGreaterEqual(cell.grams, part.minimum_g - 1e-6)

    def test_they_hold_after_every_change(self) -> None:
        for seed in SEEDS:
            sequence = Sequence(seed)
            for number in range(STEPS):
                change = sequence.step()
                with self.subTest(seed=seed, step=number, change=change):
                    self.check(sequence.plan)

    def test_the_answer_to_a_change_is_what_is_read_afterwards(self) -> None:
        for seed in SEEDS:
            sequence = Sequence(100 + seed)
            for number in range(STEPS):
                change = sequence.step()
                with self.subTest(seed=seed, step=number, change=change):
                    read = read_plan(database(), sequence.who, sequence.plan.batch.id)
                    self.assertEqual(shown(read), shown(sequence.plan))

    def test_undoing_everything_leads_back_to_the_beginning(self) -> None:
        for seed in SEEDS:
            sequence = Sequence(200 + seed)
            beginning = figures(sequence.plan)
            for _ in range(STEPS):
                sequence.step()
            while sequence.undo:
                sequence.apply(sequence.undo.pop(), keep=False)
            with self.subTest(seed=seed):
                self.assertEqual(shown(figures(sequence.plan)), shown(beginning))


def as_json(plan: PlanView) -> dict[str, Any]:
    return asdict(plan)


def shown(plan: PlanView) -> list[Any]:
    """The grams and macros of a plan as a coach sees them: storage keeps milligrams."""
    cells = [[cell.grams for cell in row.cells] for row in plan.rows]
    macros = [[round(row.amounts.kcal), round(row.amounts.protein_g, 1)] for row in plan.rows]
    chain = [[round(c.cooked_g, 1), round(c.purchased_g, 1), c.raw_fixed] for c in plan.components]
    how = [[part.minimum_g, part.school] for dish in plan.dishes for part in dish.parts]
    return [cells, macros, chain, how, [row.target for row in plan.rows], [row.count for row in plan.rows]]
