"""A packed batch shows what it showed when it was packed, whatever is edited later."""

from __future__ import annotations

import unittest

from sqlalchemy import text

from tests.kitchens import apply, planned, weigh
from tests.support import database, new_email, new_kitchen
from yantai.store.database import LOADING_REFERENCE
from yantai.work.batches import loading, plan_view, plans, stored
from yantai.work.batches.inputs import SetPacked
from yantai.work.batches.reading import export_batch, read_plan
from yantai.work.plan.comparing import compare_batches

EDITS = [
    "UPDATE food SET protein_g = protein_g / 2, fat_g = fat_g / 2, allergens = ARRAY['milk', 'nuts'], name = 'x'",
    "UPDATE yield_factor SET low = low * 0.5, expected = expected * 0.5, high = high * 0.5",
    "UPDATE client SET name = 'Somebody', allergens = ARRAY['milk', 'sesame'], exclusions = ARRAY['chicken', 'bulgur']",
    "UPDATE client SET tolerance_protein_g = 0.1, tolerance_fat_g = 0.1, dislikes = ARRAY['yogurt']",
    "UPDATE target SET protein_g = 99, capacity_ml = 100",
    "UPDATE recipe SET name = 'Another', version = version + 5",
    "UPDATE workspace SET energy_rule = 'eu', carbohydrate = 'available', free_foods = ARRAY['grain']",
]
"""Everything that a plan reads and a packed batch does not own."""


class Packed(unittest.TestCase):
    def setUp(self) -> None:
        self.who = new_kitchen(new_email())
        plan = planned(self.who)
        for index, component in enumerate(plan.components):
            plan = apply(self.who, plan, weigh(plan, index, component.cooked_g), confirmed=True)
        self.packed = apply(self.who, plan, SetPacked(packed=True))

    def test_no_edit_of_anything_else_moves_it(self) -> None:
        with database().trial(self.who.workspace_id) as session:
            session.execute(text("SELECT set_config(:name, 'on', true)"), {"name": LOADING_REFERENCE})
            for edit in EDITS:
                session.execute(text(edit))
            self.assertEqual(stored.current_view(session, self.packed.batch.id), self.packed)
            # The edits do count: the same batch computed from what stands there now is another.
            computed = plan_view.plan_view(plans.compute(loading.load(session, self.packed.batch.id)))
            self.assertNotEqual(computed.components, self.packed.components)
            self.assertNotEqual(computed.rows, self.packed.rows)

    def test_only_what_the_coach_pinned_is_shown_as_pinned(self) -> None:
        limits = [[cell.limit for cell in row.cells] for row in self.packed.rows]
        self.assertEqual(limits, [["free"] * 3, ["free"] * 3, ["free", "free", "left out"]])
        pinned = [cell.pinned_g for row in self.packed.rows for cell in row.cells]
        self.assertEqual(set(pinned), {None})

    def test_every_door_shows_it_as_it_was(self) -> None:
        self.assertEqual(read_plan(database(), self.who, self.packed.batch.id), self.packed)

    def test_what_it_gives_to_others_does_not_move_either(self) -> None:
        other = planned(self.who)

        def given() -> tuple[object, ...]:
            beside = compare_batches(database(), self.who, other.batch.id, self.packed.batch.id)
            return (
                export_batch(database(), self.who, self.packed.batch.id),
                [(one.name, one.then_g, one.then_yield) for one in beside.components],
                [(one.then_count, one.then) for one in beside.rows],
            )

        before = given()
        with database().workspace(self.who.workspace_id) as session:
            for edit in EDITS[2:]:
                session.execute(text(edit.replace("name = 'Somebody', ", "")))
        self.assertEqual(given(), before)

    def test_a_nutrient_that_was_not_counted_then_is_not_known(self) -> None:
        """The stored figures lose their sugars, as if they had been packed before sugars were counted."""
        drop = "UPDATE stored_plan SET view = regexp_replace(view, '\"sugars_g\":[0-9.e-]+,', '', 'g')"
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text(drop))
        then = read_plan(database(), self.who, self.packed.batch.id)
        for now, was in zip(then.rows, self.packed.rows, strict=True):
            self.assertEqual([cell.grams for cell in now.cells], [cell.grams for cell in was.cells])
            self.assertEqual(now.amounts.protein_g, was.amounts.protein_g)
            self.assertEqual(now.amounts.sugars_g, 0)
            self.assertEqual(now.amounts.at_least, sorted({*was.amounts.at_least, "sugars_g"}))
