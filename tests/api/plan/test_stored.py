"""What is shown of a plan is what would be computed now, and nobody computes it in order to show it."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from unittest.mock import patch

from sqlalchemy import event, text

from tests.api.wishes import EveryWish
from tests.kitchens import CHICKEN, apply, planned, weigh
from tests.support import database
from yantai.core.speaking import EnergyUnit, MassUnit, Spoken, speaking
from yantai.store.database import LOADING_REFERENCE
from yantai.work.batches import loading, plan_view, plans, stored
from yantai.work.batches.inputs import SetPacked
from yantai.work.batches.lists import list_batches
from yantai.work.batches.reading import export_batch, read_plan
from yantai.work.batches.views import PlanView
from yantai.work.pantry.reference import reference_id
from yantai.work.plan.comparing import compare_batches
from yantai.work.plan.days import read_plan_days
from yantai.work.plan.reach import read_reach


class Stored(EveryWish):
    def setUp(self) -> None:
        super().setUp()
        self.other = planned(self.who)
        self.ids = [self.batch.batch.id, self.other.batch.id]

    def computed(self, batch_id: uuid.UUID) -> PlanView:
        """What the plan is by everything there is now."""
        with database().trial(self.who.workspace_id) as session:
            return plan_view.plan_view(plans.compute(loading.load(session, batch_id)))

    def shown(self, batch_id: uuid.UUID) -> PlanView:
        return read_plan(database(), self.who, batch_id)

    def assert_shown_as_computed(self) -> None:
        briefs = {brief.id: brief for brief in list_batches(database(), self.who)}
        for batch_id in self.ids:
            computed = self.computed(batch_id)
            self.assertEqual(self.shown(batch_id), computed)
            self.assertEqual(briefs[batch_id].to_settle, len(computed.to_settle))

    def test_every_write_leaves_plans_as_they_would_be_computed(self) -> None:
        for name, make in self.wishes().items():
            with self.subTest(route=name):
                self.assertLess(self.ask(make(), str(uuid.uuid4())).status_code, 300)
                self.assert_shown_as_computed()
                self.take_up()
        self.assert_shown_as_computed()

    def test_an_allergy_counts_at_once_in_every_open_batch(self) -> None:
        client = self.eater
        self.shown(self.ids[0])
        self.send("PUT", f"/clients/{client['id']}", {**_input(client), "allergens": ["milk"]})
        rows = [row for row in self.shown(self.ids[0]).rows if str(row.client_id) == client["id"]]
        self.assertTrue(rows and all(any(cell.left_out for cell in row.cells) for row in rows))
        self.assert_shown_as_computed()

    def test_what_one_batch_measures_another_expects(self) -> None:
        before = self.shown(self.ids[1]).components[0].yield_factor
        plan = self.shown(self.ids[0])
        apply(self.who, plan, weigh(plan, 0, plan.components[0].cooked_g * 0.9), confirmed=True)
        self.assertNotEqual(self.shown(self.ids[1]).components[0].yield_factor, before)
        self.assert_shown_as_computed()

    def test_new_reference_figures_count(self) -> None:
        with database().trial(self.who.workspace_id) as session:
            before = stored.current_view(session, self.ids[0])
            session.execute(text("SELECT set_config(:name, 'on', true)"), {"name": LOADING_REFERENCE})
            session.execute(text("UPDATE food SET protein_g = protein_g / 2 WHERE id = :id"),
                            {"id": reference_id(CHICKEN)})  # fmt: skip
            session.execute(text("INSERT INTO reference_load (digest) VALUES ('another')"))
            self.assertNotEqual(stored.current_view(session, self.ids[0]).rows, before.rows)

    def test_sentences_are_in_the_units_of_whoever_reads(self) -> None:
        ounces = Spoken(mass=MassUnit.OUNCE, energy=EnergyUnit.KILOJOULE)
        for batch_id in self.ids:
            grams = self.shown(batch_id)
            with speaking(ounces):
                self.assertEqual(self.shown(batch_id), self.computed(batch_id))
            self.assertEqual(self.shown(batch_id), grams)

    def test_nothing_is_solved_to_show_it(self) -> None:
        one, other = self.ids
        reads: list[Callable[[], object]] = [
            lambda: list_batches(database(), self.who),
            lambda: self.shown(one),
            lambda: read_plan_days(database(), self.who, one),
            lambda: read_reach(database(), self.who, one),
            lambda: compare_batches(database(), self.who, one, other),
            lambda: export_batch(database(), self.who, one),
        ]
        for read in reads:
            read()
        with patch("yantai.work.batches.plans.plan", side_effect=AssertionError("solved")):
            for read in reads:
                read()
            with self.assertRaisesRegex(AssertionError, "solved"):
                self.computed(one)

    def test_a_list_takes_as_many_queries_for_ten_batches_as_for_two(self) -> None:
        few = self.queries(lambda: list_batches(database(), self.who))
        for _ in range(8):
            planned(self.who)
        self.assertEqual(self.queries(lambda: list_batches(database(), self.who)), few)
        self.assertLessEqual(few, 4)

    def queries(self, read: Callable[[], object]) -> int:
        read()
        count = 0

        def note(*_: object) -> None:
            nonlocal count
            count += 1

        event.listen(database().engine, "before_cursor_execute", note)
        try:
            read()
        finally:
            event.remove(database().engine, "before_cursor_execute", note)
        return count

    def test_a_plan_of_an_older_engine_is_shown_as_it_was_and_planned_anew_when_asked(self) -> None:
        batch_id = self.ids[0]
        self.shown(batch_id)
        with database().workspace(self.who.workspace_id) as session:
            session.execute(
                text("UPDATE stored_plan SET engine = 0, view = replace(view, 'Chicken', 'Hen') WHERE batch_id = :id"),
                {"id": batch_id},
            )
        then = self.shown(batch_id)
        self.assertTrue(then.batch.engine_older)
        self.assertEqual(then.components[0].name, "Hen")
        self.send("POST", f"/batches/{batch_id}/anew", version=then.batch.version)
        now = self.shown(batch_id)
        self.assertFalse(now.batch.engine_older)
        self.assertEqual(now.components[0].name, "Chicken")

    def test_one_plan_is_kept_for_a_batch_and_a_packed_one_stands_on_it(self) -> None:
        plan = self.shown(self.ids[0])
        for index, component in enumerate(plan.components):
            plan = apply(self.who, plan, weigh(plan, index, component.cooked_g), confirmed=True)
        packed = apply(self.who, plan, SetPacked(packed=True))
        with database().workspace(self.who.workspace_id) as session:
            versions = session.execute(
                text("SELECT version FROM stored_plan WHERE batch_id = :id"), {"id": self.ids[0]}
            ).scalars()
            self.assertEqual(list(versions), [packed.batch.version])
        self.send("PUT", f"/clients/{self.eater['id']}", {**_input(self.eater), "allergens": ["milk"]})
        self.assertEqual(self.shown(self.ids[0]), packed)
        opened = apply(self.who, packed, SetPacked(packed=False))
        self.assertEqual(opened, self.computed(self.ids[0]))


def _input(client: dict[str, object]) -> dict[str, object]:
    """What is sent to change a client as it is read."""
    known = ("name", "note", "allergens", "dislikes", "exclusions", "tolerance", "version")
    targets = [
        {key: value for key, value in target.items() if key != "conflict"}
        for target in client["targets"]  # type: ignore[attr-defined]
    ]
    return {**{key: client[key] for key in known}, "targets": targets}
